"""What each loop of a program goes over, and what it uses of it: read off the syntax."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.outline import Loop, Order, Use
from oddsum.languages.python.asking import BUILT_INS
from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source

# What gives one item for each of another: how the order of these is then.
_AROUND: dict[str, Order] = {
    "enumerate": "forward", "list": "forward", "tuple": "forward", "iter": "forward",
    "reversed": "backward", "sorted": "other",
}  # fmt: skip
_SEQUENCES = (ast.Name, ast.Attribute, ast.Subscript, ast.List, ast.Tuple, ast.Constant)


def loops(source: Source) -> tuple[Loop, ...]:
    """Every loop of a program, in the order of its lines."""
    tree = tree_of(source) or ast.Module([], [])
    inside = _used_in_functions(tree)
    found = [
        _loop(source, node, frozenset().union(*(names for at, names in inside if node not in at)))
        for node in ast.walk(tree)
        if isinstance(node, (ast.For, ast.While))
    ]
    return tuple(sorted(found, key=lambda loop: loop.line))


def _used_in_functions(tree: ast.AST) -> list[tuple[frozenset[ast.AST], frozenset[str]]]:
    """For each function: the loops in it, and the names it reads that are not its own."""
    functions = (ast.FunctionDef, ast.AsyncFunctionDef, ast.Lambda)
    found: list[tuple[frozenset[ast.AST], frozenset[str]]] = []
    for function in (n for n in ast.walk(tree) if isinstance(n, functions)):
        own = {n.arg for n in ast.walk(function) if isinstance(n, ast.arg)} | {*_stored(function)}
        inside = frozenset(n for n in ast.walk(function) if isinstance(n, (ast.For, ast.While)))
        found.append((inside, frozenset(_read(function)) - own))
    return found


def _loop(source: Source, node: ast.For | ast.While, elsewhere: frozenset[str]) -> Loop:
    over, order, bounds = (
        (None, "forward", ()) if isinstance(node, ast.While) else _goes_over(node.iter)
    )
    return Loop(
        file=source.name,
        line=node.lineno,
        end=node.end_lineno or node.lineno,
        kind="while" if isinstance(node, ast.While) else "for",
        header=source.lines[node.lineno - 1].strip(),
        targets=() if isinstance(node, ast.While) else tuple(_stored(node.target)),
        over=over,
        order=order,
        bounds=bounds,
        in_header=tuple(
            dict.fromkeys(_read(node.test if isinstance(node, ast.While) else node.iter))
        ),
        plain=not _calls(node.test if isinstance(node, ast.While) else node.iter),
        uses=tuple(_uses(node, elsewhere)),
        names=frozenset(n.id for n in ast.walk(node) if isinstance(n, ast.Name)),
    )


def _calls(node: ast.expr) -> bool:
    """Whether anything but a plain built-in function is called in a header."""
    return any(
        not (isinstance(n.func, ast.Name) and n.func.id in BUILT_INS)
        for n in ast.walk(node)
        if isinstance(n, ast.Call)
    )


def _goes_over(node: ast.expr) -> tuple[str | None, Order, tuple[str, ...]]:
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
        if node.func.id == "range":
            return None, "forward", tuple(ast.unparse(a) for a in node.args)
        if node.func.id in _AROUND and node.args:
            over, inner, bounds = _goes_over(node.args[0])
            return over, _then(inner, _AROUND[node.func.id]), bounds
    return (ast.unparse(node) if isinstance(node, _SEQUENCES) else None), "forward", ()


def _then(inner: Order, outer: Order) -> Order:
    if "other" in (inner, outer):
        return "other"
    return "forward" if inner == outer else "backward"


def _uses(loop: ast.For | ast.While, elsewhere: frozenset[str]) -> Iterator[Use]:
    """What is used by index in the rounds, where all that uses it is in sight.

    Left out is a sequence that is mentioned in another way, in a function that the loop may call
    (``elsewhere``), or whose index is of something that only exists within one expression.
    """
    found: list[tuple[Use, ast.expr, bool]] = []
    mentions: dict[str, int] = {}
    moving, inner = set(_stored(loop)), _within_expressions(loop)
    nodes = list(_expressions(loop))
    measured = {id(part) for _, n in nodes for part in _measured(n)}
    for statement, node in nodes:
        if isinstance(node, (ast.Name, ast.Attribute)) and id(node) not in measured:
            text = ast.unparse(node)
            mentions[text] = mentions.get(text, 0) + 1
        if isinstance(node, ast.Subscript) and isinstance(node.value, (ast.Name, ast.Attribute)):
            index = set(_read(node.slice))
            if not isinstance(node.slice, ast.Slice) and not index & inner:
                use = Use(statement.lineno, ast.unparse(node.value), ast.unparse(node.slice))
                found.append((use, node.value, bool(moving & index)))
    moves = {use.sequence for use, _, moved in found if moved}
    for use, value, _ in found:
        whole = mentions[use.sequence] == sum(u.sequence == use.sequence for u, _, _ in found)
        alone = not {_root(value)} & (elsewhere | moving)
        if use.sequence in moves and whole and alone:
            yield use


def _measured(node: ast.AST) -> Iterator[ast.AST]:
    """What only the length is asked of: of ``len(grid[r])`` that is a row, and ``grid`` is used."""
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "len":
        for sequence in node.args:
            if isinstance(sequence, (ast.Name, ast.Attribute)):
                yield from ast.walk(sequence)


def _root(node: ast.expr) -> str:
    while isinstance(node, ast.Attribute):
        node = node.value
    return node.id if isinstance(node, ast.Name) else ""


def _within_expressions(loop: ast.AST) -> set[str]:
    """Names that a comprehension or a lambda in a loop has for itself."""
    found: set[str] = set()
    for node in ast.walk(loop):
        if isinstance(node, ast.comprehension):
            found.update(_stored(node.target))
        elif isinstance(node, ast.arg):
            found.add(node.arg)
        elif isinstance(node, ast.NamedExpr):
            found.update(_stored(node.target))
    return found


def _expressions(loop: ast.For | ast.While) -> Iterator[tuple[ast.stmt, ast.AST]]:
    """The nodes of a loop's test and body, each with the statement it is worked out in."""
    if isinstance(loop, ast.While):
        yield from ((loop, node) for node in ast.walk(loop.test))
    todo: list[ast.stmt] = list(loop.body)
    while todo:
        statement = todo.pop(0)
        for child in ast.iter_child_nodes(statement):
            if isinstance(child, ast.stmt):
                todo.append(child)
            elif isinstance(child, (ast.ExceptHandler, ast.match_case)):
                todo.extend(child.body)
            else:
                yield from ((statement, node) for node in ast.walk(child))


def _stored(node: ast.AST) -> Iterator[str]:
    return (
        n.id for n in ast.walk(node) if isinstance(n, ast.Name) and not isinstance(n.ctx, ast.Load)
    )


def _read(node: ast.AST) -> Iterator[str]:
    """The names read, in the order they are written."""
    names = [n for n in ast.walk(node) if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Load)]
    return (n.id for n in sorted(names, key=lambda n: (n.lineno, n.col_offset)))
