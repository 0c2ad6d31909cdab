"""What each loop of a program goes over, and what it uses of it: read off the syntax."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.outline import Loop, Use
from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source

_AROUND = ("enumerate", "reversed", "sorted", "list", "tuple", "iter")  # one item in, one out

_SEQUENCES = (ast.Name, ast.Attribute, ast.Subscript, ast.List, ast.Tuple, ast.Constant)


def loops(source: Source) -> tuple[Loop, ...]:
    """Every loop of a program, in the order of its lines."""
    found = [
        _loop(source, node)
        for node in ast.walk(tree_of(source) or ast.Module([], []))
        if isinstance(node, (ast.For, ast.While))
    ]
    return tuple(sorted(found, key=lambda loop: loop.line))


def _loop(source: Source, node: ast.For | ast.While) -> Loop:
    over, bounds = (None, ()) if isinstance(node, ast.While) else _goes_over(node.iter)
    return Loop(
        file=source.name,
        line=node.lineno,
        end=node.end_lineno or node.lineno,
        kind="while" if isinstance(node, ast.While) else "for",
        header=source.lines[node.lineno - 1].strip(),
        targets=() if isinstance(node, ast.While) else tuple(_stored(node.target)),
        over=over,
        bounds=bounds,
        in_header=tuple(
            dict.fromkeys(_read(node.test if isinstance(node, ast.While) else node.iter))
        ),
        uses=tuple(_uses(node)),
        names=frozenset(n.id for n in ast.walk(node) if isinstance(n, ast.Name)),
    )


def _goes_over(node: ast.expr) -> tuple[str | None, tuple[str, ...]]:
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and not node.keywords:
        if node.func.id == "range":
            return None, tuple(ast.unparse(a) for a in node.args)
        if node.func.id in _AROUND and node.args:
            return _goes_over(node.args[0])
    if isinstance(
        node, (ast.Name, ast.Attribute, ast.Subscript, ast.List, ast.Tuple, ast.Constant)
    ):
        return ast.unparse(node), ()
    return None, ()


def _uses(loop: ast.For | ast.While) -> Iterator[Use]:
    """Indexes that can be another in each round: by a name that the loop sets."""
    moving = set(_stored(loop))
    for statement, node in _expressions(loop):
        if isinstance(node, ast.Subscript) and not isinstance(node.slice, ast.Slice):
            plain = isinstance(node.value, (ast.Name, ast.Attribute))
            if plain and moving.intersection(_read(node.slice)):
                yield Use(statement.lineno, ast.unparse(node.value), ast.unparse(node.slice))


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
