"""A program whose expressions can be given other values: each one's value goes through a hook.

Every expression whose value the program reads stands as ``≠v(7, expression)``; the hook hears what
it gave at each visit, and may hand on something else instead. Which expression a number means is
its place in ``places``. Between statements the hook stands by itself, for what nothing prints.
"""

from __future__ import annotations

import ast

from .choices import with_ticks
from .gaps import filled, gaps, prints
from .splices import Text

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any

HOOK = "≠v"
MOST = 600  # expressions of a program
MOST_GAPS = 300  # between its statements
_WHOLE = (ast.Slice, ast.Starred, ast.JoinedStr, ast.FormattedValue, ast.Lambda,
          ast.GeneratorExp)  # fmt: skip
_PATTERN = getattr(ast, "pattern", ())


class Place:
    """One expression: its file, offsets in characters from 0, line, and whether it decides.

    Or a gap, where ``gap`` says on which side of the statement that stands there.
    """

    def __init__(
        self, file: str, start: int, stop: int, line: int, decides: bool, text: str, gap: str = ""
    ) -> None:
        self.file, self.start, self.stop, self.line = file, start, stop, line
        self.decides, self.text, self.gap = decides, text, gap
        self.prints = False  # of a gap: whether other lines are printed in its function


class Places:
    """The expressions of a program, numbered; one and the same has one number in every reading."""

    def __init__(self) -> None:
        self.all: list[Place] = []
        self._numbers: dict[tuple[str, int, int, str], int] = {}
        self._left = {False: MOST, True: MOST_GAPS}

    def number_of(self, place: Place) -> int | None:
        """The number of an expression or a gap; None where there are too many."""
        key = place.file, place.start, place.stop, place.gap
        if key not in self._numbers:
            if not self._left[bool(place.gap)]:
                return None
            self._left[bool(place.gap)] -= 1
            self._numbers[key] = len(self.all)
            self.all.append(place)
        return self._numbers[key]


class Sites:
    """One file with its expressions hooked; ``places`` goes on over the files of a program."""

    def __init__(
        self,
        text: str,
        path: str,
        name: str,
        select: Callable[[Any], Any] | None,
        places: Places,
    ) -> None:
        self.name, self.places = name, places
        tree: Any = ast.parse(text, path)
        if select is not None:
            tree = select(tree)
        self.text = Text(text, path, tree)
        self.prints = prints(tree)  # of the function that is gone into
        self._go_into(tree)
        self.code = compile(with_ticks(tree), path, "exec", dont_inherit=True)

    def _go_into(self, node: Any) -> None:
        """Hook the expressions inside of a node, the inner ones first to be numbered."""
        for field in node._fields:
            held = getattr(node, field, None)
            if field in ("decorator_list", "annotation", "returns", "bases", "type_params"):
                continue
            if type(held) is list:
                for place, inner in enumerate(held):
                    if isinstance(inner, ast.AST):
                        held[place] = self._hooked(node, field, inner)
                if held and isinstance(held[0], ast.stmt):
                    held[:] = filled(held, list(self._in_gaps(node, field, held)))
            elif isinstance(held, ast.AST):
                setattr(node, field, self._hooked(node, field, held))

    def _hooked(self, owner: Any, field: str, node: Any) -> Any:
        if isinstance(node, _PATTERN):
            return node
        place = self._place(owner, field, node)
        around = self.prints
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            self.prints = prints(node)
        self._go_into(node)
        self.prints = around
        number = self.places.number_of(place) if place is not None else None
        return node if number is None else _call(number, node, node)

    def _in_gaps(self, owner: Any, field: str, body: list[Any]) -> Iterator[tuple[int, Any]]:
        """What stands in the gaps of a block, each with its place there."""
        for at, beside, side in gaps(owner, field, body):
            start, stop = self._offset(beside, False), self._offset(beside, True)
            place = Place(self.name, start, stop, beside.lineno, False, "", side)
            place.prints = self.prints
            number = self.places.number_of(place)
            if number is not None:
                nothing = ast.copy_location(ast.Constant(None), beside)
                yield at, ast.copy_location(ast.Expr(_call(number, nothing, beside)), beside)

    def _place(self, owner: Any, field: str, node: Any) -> Place | None:
        """What is told of an expression; None, where its value is none that could be given."""
        if not isinstance(node, ast.expr) or isinstance(node, _WHOLE) or _is_fixed(owner, field):
            return None
        if not isinstance(getattr(node, "ctx", _LOAD), ast.Load) or _is_text(owner, node):
            return None
        if isinstance(node, ast.Tuple) and any(isinstance(e, ast.Slice) for e in node.elts):
            return None
        start, stop = self._offset(node, False), self._offset(node, True)
        if isinstance(owner, ast.FormattedValue) and not self._stands_at(node, start, stop):
            return None  # before 3.12 the places inside of such texts are not always right
        text = self.text.text[start:stop]
        return Place(self.name, start, stop, node.lineno, _decides(owner, field, node), text)

    def _offset(self, node: Any, end: bool) -> int:
        line = node.end_lineno if end else node.lineno
        column = node.end_col_offset if end else node.col_offset
        text = self.text.lines[line - 1]
        if not text.isascii():
            column = len(text.encode("utf-8", "surrogatepass")[:column].decode("utf-8", "replace"))
        return int(self.text.starts[line - 1] + column)

    def _stands_at(self, node: Any, start: int, stop: int) -> bool:
        try:
            read = ast.parse(self.text.text[start:stop], mode="eval").body
        except (SyntaxError, ValueError):
            return False
        return ast.dump(read) == ast.dump(node)


_LOAD = ast.Load()


def _call(number: int, given: Any, near: Any) -> Any:
    """The hook, told a place's number and what stands there."""
    name = ast.copy_location(ast.Name(HOOK, ast.Load()), near)
    constant = ast.copy_location(ast.Constant(number), near)
    return ast.copy_location(ast.Call(name, [constant, given], []), near)


def _is_fixed(owner: Any, field: str) -> bool:
    """Whether what stands there is a name to be called or looked into rather than a value."""
    if field == "func" or (field == "value" and isinstance(owner, (ast.Attribute, ast.Starred))):
        return True
    if isinstance(owner, (ast.withitem, ast.ExceptHandler, ast.keyword)) and field != "value":
        return True
    return field in ("format_spec", "values") and isinstance(
        owner, (ast.JoinedStr, ast.FormattedValue)
    )


def _is_text(owner: Any, node: Any) -> bool:
    """Whether it is a mere text that stands as a statement."""
    return isinstance(owner, ast.Expr) and isinstance(node, ast.Constant)


def _decides(owner: Any, field: str, node: Any) -> bool:
    """Whether it is asked for its truth alone."""
    if field == "test" or (field == "ifs" and isinstance(owner, ast.comprehension)):
        return True
    if isinstance(owner, (ast.BoolOp, ast.UnaryOp)) and field in ("values", "operand"):
        return isinstance(owner, ast.BoolOp) or isinstance(owner.op, ast.Not)
    return isinstance(node, ast.Compare)
