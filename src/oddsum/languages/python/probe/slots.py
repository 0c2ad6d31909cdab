"""Expressions and lines that can be read by themselves: most edits change no more than that.

A statement is read anew with all that is in it, a loop with its body. Where an edit lies inside of
an argument, an item, a condition or a value, whatever is an expression by itself can stand there
and is read as it would be alone: no operator around it binds it otherwise. Only that is read then.
So it is with lines that an edit puts beside a statement, as far in as that stands.
"""

from __future__ import annotations

import ast

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

_HEADS = {  # of statements, the expressions that stand by themselves
    ast.Assign: ("value",), ast.AugAssign: ("value",), ast.AnnAssign: ("value",),
    ast.Return: ("value",), ast.Expr: ("value",), ast.If: ("test",), ast.While: ("test",),
    ast.For: ("iter",), ast.Assert: ("test", "msg"),
}  # fmt: skip
# What is read otherwise than it stands, or needs brackets or a place of its own.
_ALONE = (ast.Tuple, ast.GeneratorExp, ast.NamedExpr, ast.Yield, ast.YieldFrom, ast.Await,
          ast.Starred, ast.Lambda)  # fmt: skip
_CLOSED = (ast.Lambda, ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp, ast.JoinedStr)


class Slot:
    """An expression ``owner.field`` (item ``place`` of it) on one line, and where it stands:
    offsets in characters from 0."""

    def __init__(self, owner: Any, field: str, place: Any, node: Any, start: int) -> None:
        self.owner, self.field, self.place, self.node = owner, field, place, node
        self.start, self.stop = start, start + node.end_col_offset - node.col_offset

    def holds(self, start: int, stop: int) -> bool:
        """Whether these characters are of it."""
        return self.start <= start and stop <= self.stop


def slots_of(statement: Any, lines: list[str], starts: list[int]) -> list[Slot]:
    """The slots of a statement itself, not of those in it; inner ones ahead of outer ones."""
    found: list[Slot] = []
    for field in _HEADS.get(type(statement), ()):
        value = getattr(statement, field)
        if value is not None and not is_docstring(statement):
            found += _below(statement, field, None, value, lines, starts)
    return found


def _below(
    owner: Any, field: str, place: Any, node: Any, lines: list[str], starts: list[int]
) -> Iterator[Slot]:
    for inner_owner, inner_field, inner_place, inner in _inside(node):
        yield from _below(inner_owner, inner_field, inner_place, inner, lines, starts)
    line = lines[node.lineno - 1]
    if node.lineno == node.end_lineno and line.isascii() and not isinstance(node, _ALONE):
        yield Slot(owner, field, place, node, starts[node.lineno - 1] + node.col_offset)


def _inside(node: Any) -> Iterator[tuple[Any, str, Any, Any]]:
    """The expressions by themselves inside of an expression."""
    todo = [node]
    while todo:
        node = todo.pop()
        if isinstance(node, _CLOSED):
            continue
        if isinstance(node, ast.Call):
            todo.append(node.func)
            yield from ((node, "args", n, a) for n, a in enumerate(node.args)
                        if not isinstance(a, (ast.Starred, ast.GeneratorExp)))  # fmt: skip
            yield from ((k, "value", None, k.value) for k in node.keywords if k.arg)
        elif isinstance(node, (ast.List, ast.Tuple, ast.Set)):
            yield from ((node, "elts", n, e) for n, e in enumerate(node.elts)
                        if not isinstance(e, ast.Starred))  # fmt: skip
        elif isinstance(node, ast.Dict):
            for field in ("keys", "values"):
                yield from ((node, field, n, e) for n, e in enumerate(getattr(node, field))
                            if node.keys[n] is not None)  # fmt: skip
        elif isinstance(node, ast.Subscript):
            todo.append(node.value)
            if not isinstance(node.slice, (ast.Slice, ast.Tuple, ast.Starred)):
                yield node, "slice", None, node.slice
        else:
            todo += [n for n in ast.iter_child_nodes(node) if isinstance(n, ast.expr)]


def is_docstring(statement: Any) -> bool:
    """Whether it is a text by itself, as one that describes a function is."""
    value = statement.value if isinstance(statement, ast.Expr) else None
    return isinstance(value, ast.Constant) and isinstance(value.value, str)


def read_slot(slot: Slot, text: str, start: int, stop: int, new: str) -> Any:
    """What stands in a slot once ``new`` stands in the place of some of its characters; None where
    that cannot be read by itself.
    """
    made = text[slot.start : start] + new + text[stop : slot.stop]
    if not made or "\n" in made or "#" in made or "\\" in made or not made.isascii():
        return None
    if made[0].isspace() or made[-1].isspace():
        return None
    if _run_on(text[slot.start - 1 : slot.start], made[0]) or _run_on(
        made[-1], text[slot.stop : slot.stop + 1]
    ):
        return None
    try:
        read: Any = ast.parse(made, mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        return None
    line = slot.node.lineno
    node: Any
    for node in ast.walk(read):
        if isinstance(node, _ALONE):
            return None
        if hasattr(node, "lineno"):
            node.lineno = node.end_lineno = line
    return read


def _run_on(before: str, after: str) -> bool:
    """Whether two characters beside each other would be of one word, or a word and its text."""
    word = before.isalnum() or before in "_."
    return (
        bool(before and after)
        and (
            (word and (after.isalnum() or after in "_.'\"")) or (before in "'\"" and after in "'\"")
        )
    ) or (before + after) in _SIGNS


class PutIn:
    """Whole lines that are put ahead of a line, or behind it, and how far in they stand."""

    def __init__(self, text: str, line: int, ahead: bool) -> None:
        self.text, self.line, self.ahead = text, line, ahead
        self.column = len(text) - len(text.lstrip(" "))


def read_lines(put: PutIn) -> list[Any]:
    """The statements that lines put in are; none where they cannot be read by themselves."""
    lines, indent = put.text.split("\n"), " " * put.column
    if any(sign in put.text for sign in ('"""', "'''", "\\", "\f", "\r")):
        return []
    if not all(line.startswith(indent) for line in lines):
        return []
    try:
        read: Any = ast.parse("\n".join(line[put.column :] for line in lines))
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        return []
    by = put.line - 1 if put.ahead else put.line
    node: Any
    for node in ast.walk(read):
        if hasattr(node, "lineno"):
            node.lineno, node.end_lineno = node.lineno + by, node.end_lineno + by
    return list(read.body)


_SIGNS = {a + b for a in "<>=!*/-+:&|@%^~" for b in "<>=!*/-+:&|@%^~"}
