"""The limits a program's conditions set: ``age < 16``, ``n % 2 == 0``, ``len(cars) > 3``."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from msgspec.structs import replace

from oddsum.languages.outline import Fork, Limit, Number
from oddsum.languages.python.outline import function_at
from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source

_SIGNS = {
    ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!=",
}  # fmt: skip
_TURNED = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "==": "==", "!=": "!="}


def limits(source: Source) -> tuple[Limit, ...]:
    """Every limit of a program, in the order of its lines, each once."""
    tree = tree_of(source)
    if tree is None:
        return ()
    constants = _constants(tree)
    found: list[Limit] = []
    for statement in ast.walk(tree):
        if isinstance(statement, ast.stmt):
            others = _others(statement)
            for node in _own_nodes(statement):
                if isinstance(node, ast.Compare):
                    for limit in _of_comparison(source, statement, node, constants):
                        found.append(replace(limit, others=others.get(id(node), ())))
    return tuple(dict.fromkeys(sorted(found, key=lambda x: (x.line, x.place))))


def _own_nodes(statement: ast.stmt) -> Iterator[ast.AST]:
    """What stands in a statement itself, without the statements inside it."""
    todo: list[ast.AST] = [
        child for child in ast.iter_child_nodes(statement) if not isinstance(child, ast.stmt)
    ]
    while todo:
        node = todo.pop()
        yield node
        todo += [c for c in ast.iter_child_nodes(node) if not isinstance(c, (ast.stmt, ast.Lambda))]


def _others(statement: ast.stmt) -> dict[int, tuple[str, ...]]:
    """By the id of each comparison in an ``and`` or ``or``: what has to hold for it to decide."""
    found: dict[int, tuple[str, ...]] = {}
    for chain in _own_nodes(statement):  # the outermost first
        if isinstance(chain, ast.BoolOp):
            for key, held in _in_chain(chain, ()):
                found.setdefault(key, held)
    return found


def _in_chain(node: ast.expr, held: tuple[str, ...]) -> Iterator[tuple[int, tuple[str, ...]]]:
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield from _in_chain(node.operand, held)
    elif isinstance(node, ast.BoolOp):
        for one in node.values:
            rest = [v for v in node.values if v is not one]
            if isinstance(node.op, ast.Or):
                rest = [ast.UnaryOp(ast.Not(), v) for v in rest]
            yield from _in_chain(one, (*held, *map(ast.unparse, rest)))
    elif isinstance(node, ast.Compare):
        yield id(node), held


def _constants(tree: ast.Module) -> dict[str, Number]:
    """Names of the module that are given a number once and nothing else."""
    given: dict[str, list[ast.expr | None]] = {}
    for node in ast.walk(tree):
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            given.setdefault(node.id, []).append(None)
    found = {}
    for statement in tree.body:
        if isinstance(statement, ast.Assign) and len(statement.targets) == 1:
            target, value = statement.targets[0], _number(statement.value, {})
            name = getattr(target, "id", "")
            if value is not None and len(given.get(name, ())) == 1:
                found[name] = value
    return found


def _number(node: ast.expr, constants: dict[str, Number]) -> Number | None:
    if isinstance(node, ast.Constant) and type(node.value) in (int, float):
        return node.value  # type: ignore[return-value]
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        inner = _number(node.operand, constants)
        return None if inner is None else -inner
    if isinstance(node, ast.Name):
        return constants.get(node.id)
    return None


def _of_comparison(
    source: Source, statement: ast.stmt, node: ast.Compare, constants: dict[str, Number]
) -> Iterator[Limit]:
    left = node.left
    for operator, right in zip(node.ops, node.comparators, strict=True):
        sign = _SIGNS.get(type(operator))
        if isinstance(operator, (ast.In, ast.NotIn)):
            yield from _of_range(source, statement, left, right, constants)
        elif sign is not None:
            for subject, other, turned in ((left, right, sign), (right, left, _TURNED[sign])):
                value = _number(other, constants)
                if value is not None and _is_subject(subject, constants):
                    yield _limit(source, statement, subject, turned, value)
        left = right


def _of_range(
    source: Source,
    statement: ast.stmt,
    subject: ast.expr,
    right: ast.expr,
    constants: dict[str, Number],
) -> Iterator[Limit]:
    """``n in range(1, 10)`` is two limits: at least 1, below 10."""
    if not (isinstance(right, ast.Call) and getattr(right.func, "id", "") == "range"):
        return
    ends = [_number(a, constants) for a in right.args[:2]]
    if not ends or None in ends or not _is_subject(subject, constants):
        return
    first, last = (0, ends[0]) if len(ends) == 1 else (ends[0], ends[1])
    yield _limit(source, statement, subject, ">=", first or 0)
    yield _limit(source, statement, subject, "<", last or 0)


def _limit(
    source: Source, statement: ast.stmt, subject: ast.expr, sign: str, value: Number
) -> Limit:
    function = function_at(source, statement.lineno)
    length = isinstance(subject, ast.Call) and getattr(subject.func, "id", "") == "len"
    return Limit(
        source.name, statement.lineno, subject.lineno, function, ast.unparse(subject), sign, value,
        length_of=ast.unparse(subject.args[0]) if isinstance(subject, ast.Call) and length else "",
    )  # fmt: skip


def _is_subject(node: ast.expr, constants: dict[str, Number]) -> bool:
    """Whether it is something whose value a recording can tell: names, len, remainder, sums."""
    if isinstance(node, ast.Name):
        return node.id not in constants
    if isinstance(node, ast.Call):
        named = getattr(node.func, "id", "")
        return (
            named in ("len", "abs") and len(node.args) == 1 and isinstance(node.args[0], ast.Name)
        )
    if isinstance(node, ast.BinOp) and isinstance(node.op, (ast.Mod, ast.FloorDiv)):
        return isinstance(node.left, ast.Name) and _number(node.right, constants) is not None
    return False


def forks(source: Source) -> tuple[Fork, ...]:
    """Every ``if``, ``elif``, ``while`` and ``for`` statement, in the order of their lines."""
    found: list[Fork] = []

    def visit(node: ast.AST, around: int | None) -> None:
        for child in ast.iter_child_nodes(node):
            inner = around
            if isinstance(child, (ast.If, ast.While, ast.For, ast.AsyncFor)):
                kind = {ast.If: "if", ast.While: "while"}.get(type(child), "for")
                header = source.lines[child.lineno - 1].strip()
                found.append(
                    Fork(source.name, child.lineno, kind, header, around, _is_fixed(child))
                )
                inner = child.lineno
            elif isinstance(child, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
                inner = None
            visit(child, inner)

    visit(tree_of(source) or ast.Module([], []), None)
    return tuple(sorted(found, key=lambda f: f.line))


def _is_fixed(node: ast.AST) -> bool:
    """Whether a loop makes as many rounds in every case: over fixed numbers, or for ever."""
    if isinstance(node, ast.While):
        return isinstance(node.test, ast.Constant) and node.test.value is True
    return isinstance(node, (ast.For, ast.AsyncFor)) and all(
        isinstance(n, (ast.Call, ast.Constant, ast.Load))
        or (isinstance(n, ast.Name) and n.id == "range")
        for n in ast.walk(node.iter)
    )
