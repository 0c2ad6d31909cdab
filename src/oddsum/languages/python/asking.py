"""Questions in the program's own language: conditions of holds, claims, searches, watches.

A question is asked of recorded values, so it cannot change the program; what could run the
program's own code, or never end, is refused where it is typed, with the reason.
"""

from __future__ import annotations

import ast
import operator
from collections.abc import Callable, Mapping
from types import CodeType
from typing import Any, ClassVar

from oddsum.languages.python.parsing import expression_of, module_of
from oddsum.languages.questions import QuestionError, Unanswered

BUILT_INS: dict[str, Callable[..., Any]] = {
    f.__name__: f
    for f in (abs, all, any, bool, float, int, len, list, max, min, round, set, sorted, str, sum,
              tuple)
}  # fmt: skip
_NODES = (
    ast.Expression, ast.Constant, ast.Name, ast.Load, ast.BinOp, ast.UnaryOp, ast.BoolOp,
    ast.Compare, ast.IfExp, ast.Subscript, ast.Slice, ast.Attribute, ast.Call, ast.Tuple, ast.List,
    ast.Dict, ast.Set, ast.operator, ast.unaryop, ast.boolop, ast.cmpop,
)  # fmt: skip
_WHY = {
    ast.NamedExpr: "it would give a name a value",
    ast.Await: "it would let other tasks run",
    ast.Yield: "it would leave the function",
    ast.YieldFrom: "it would leave the function",
    ast.Lambda: "it makes a function",
    ast.JoinedStr: "a text with values in it is not needed here",
    ast.Starred: "a star has no meaning here",
}
_LARGEST = 1_000_000  # items or digits that a question may make


class Question:
    """An expression over the variables of a moment."""

    _names: ClassVar[dict[str, Any]]

    def __init__(self, text: str) -> None:
        self.text = text.strip()
        tree = _parsed(self.text)
        _refuse(tree)
        called = {id(n.func) for n in ast.walk(tree) if isinstance(n, ast.Call)}
        self.names = tuple(
            dict.fromkeys(
                n.id for n in ast.walk(tree) if isinstance(n, ast.Name) and id(n) not in called
            )
        )
        safe = ast.fix_missing_locations(_Careful().visit(tree))
        self._code: CodeType = compile(safe, "<question>", "eval")

    def ask(self, values: Mapping[str, Any]) -> Any:
        """The answer for these values of its names; raises Unanswered where there is none."""
        missing = [n for n in self.names if n not in values]
        if missing:
            raise Unanswered(f"{missing[0]} has no value here.")
        try:
            return eval(self._code, {"__builtins__": _NAMES}, dict(values))
        except Unanswered:
            raise
        except Exception as error:
            raise Unanswered(f"{type(error).__name__}: {error}") from None


def _parsed(text: str) -> ast.Expression:
    if not text:
        raise QuestionError("Nothing is asked.", hint="Write a condition, such as total > 20.")
    try:
        return ast.Expression(expression_of(text))
    except (SyntaxError, ValueError, RecursionError) as error:
        column = getattr(error, "offset", None)
        try:
            module_of(text)
        except (SyntaxError, ValueError, RecursionError):
            pass
        else:
            raise QuestionError(
                "This is a statement: it would change the program.",
                hint="Two equal signs compare: total == 24." if "=" in text else "",
                column=1,
            ) from None
        told = getattr(error, "msg", None) or str(error)
        raise QuestionError(f"This cannot be read as Python: {told}.", column=column) from None


def _refuse(tree: ast.Expression) -> None:
    for node in ast.walk(tree):
        column = getattr(node, "col_offset", 0) + 1
        if isinstance(node, ast.Call):
            _refuse_call(node, column)
        elif isinstance(node, ast.Attribute) and node.attr.startswith("__"):
            raise QuestionError(f"{node.attr} is a part of Python itself.", column=column)
        elif not isinstance(node, _NODES):
            why = _WHY.get(type(node), "only names, numbers, texts, operators, indexes, attributes "
                           "and a few built-in functions can be asked")  # fmt: skip
            raise QuestionError(f"This cannot be asked: {why}.", column=column)


def _refuse_call(node: ast.Call, column: int) -> None:
    name = node.func.id if isinstance(node.func, ast.Name) else ast.unparse(node.func)
    if name not in BUILT_INS or not isinstance(node.func, ast.Name):
        raise QuestionError(
            f"Calling {name}() could change the program.",
            hint="These can be called: " + ", ".join(sorted(BUILT_INS)) + ".",
            column=column,
        )
    if any(isinstance(a, ast.Starred) for a in node.args):
        raise QuestionError("A star has no meaning here.", column=column)


class _Careful(ast.NodeTransformer):
    """Puts guarded functions in place of the operators that could go on for ever."""

    _GUARDED: ClassVar[dict[type[ast.operator], str]] = {
        ast.Pow: "≠pow", ast.Mult: "≠mul", ast.LShift: "≠lshift",
    }  # fmt: skip

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        name = self._GUARDED.get(type(node.op))
        if name is None:
            return node
        return ast.Call(ast.Name(name, ast.Load()), [node.left, node.right], [])


def _power(left: Any, right: Any) -> Any:
    whole = isinstance(left, int) and isinstance(right, int) and right > 0
    if whole and left.bit_length() * right > _LARGEST:
        raise Unanswered("The number would be too large.")
    return left**right


def _times(left: Any, right: Any) -> Any:
    for items, count in ((left, right), (right, left)):
        many = isinstance(items, (str, list, tuple)) and isinstance(count, int)
        if many and len(items) * count > _LARGEST:
            raise Unanswered("It would be too long.")
    return operator.mul(left, right)


def _shifted(left: Any, right: Any) -> Any:
    if isinstance(right, int) and right > _LARGEST:
        raise Unanswered("The number would be too large.")
    return left << right


def _length(value: Any) -> int:
    return int(getattr(value, "full_length", None) or len(value))


_NAMES: dict[str, Any] = {**BUILT_INS, "len": _length, "≠pow": _power, "≠mul": _times,
                          "≠lshift": _shifted, "True": True, "False": False}  # fmt: skip
