"""Statements in the wrong order, and branches asked in the wrong order."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    blocks,
    first_line,
    is_text,
    last_line,
    line_text,
    lines_of,
    replaced,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_FURTHEST = 4  # places that one statement moves
_LEFT = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.Import, ast.ImportFrom)


class Order(EditRule):
    """A statement that comes too early or too late."""

    name = "order"
    invents = "a line"
    title = "lines in another order than meant"
    explanation = (
        "A line works with what the lines before it have made. Ask of each value in a line: is it "
        "already the new one, or still the old one?"
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each statement moved past some of its neighbours; each two branches exchanged."""
        for block in blocks(scene):
            body = [s for s in block.body if not is_text(s) and not isinstance(s, _LEFT)]
            for number, node in enumerate(body):
                for by in range(1, _FURTHEST + 1):
                    if number + by < len(body):
                        yield from self._moved(scene, node, body[number + 1 : number + by + 1], by)
                    if by > 1 and number - by >= 0:
                        yield from self._moved(scene, node, body[number - by : number], -by)
        for node in scene.statements(ast.If):
            assert isinstance(node, ast.If)
            yield from self._branches(scene, node)

    def _moved(
        self, scene: Scene, node: ast.stmt, past: list[ast.stmt], by: int
    ) -> Iterator[TrialEdit]:
        first, last = (node, past[-1]) if by > 0 else (past[0], node)
        between = lines_of(scene, past[0], past[-1])
        mine = lines_of(scene, node)
        lines = between + mine if by > 0 else mine + between
        gap = last_line(last) - first_line(first) + 1 - len(lines)
        if gap:  # blank lines or comments between them stay ahead of both
            start, stop = (
                (last_line(node), first_line(past[0]))
                if by > 0
                else (last_line(past[-1]), first_line(node))
            )
            lines = [*scene.source.lines[start : stop - 1], *lines]
        text = replaced(scene, (first_line(first), last_line(last), lines))
        text_of_mine = quoted(line_text(scene, node.lineno))
        other = quoted(line_text(scene, past[-1 if by > 0 else 0].lineno))
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            what=_asks(text_of_mine, other, by),
            how=_move(text_of_mine, other, by),
            likely=0.5 if abs(by) == 1 else 0.35,
            size=4 * abs(by) + 2,
            runs_at=first_line(first),
        )

    def _branches(self, scene: Scene, node: ast.If) -> Iterator[TrialEdit]:
        """``if a ... elif b ...`` with the two exchanged."""
        other = node.orelse[0] if len(node.orelse) == 1 else None
        if not isinstance(other, ast.If) or other.lineno == node.lineno:
            return
        header, second = line_text(scene, node.lineno), line_text(scene, other.lineno)
        if not second.lstrip().startswith("elif") or node.body[0].lineno == node.lineno:
            return
        a, c = text_of(scene, node.test), text_of(scene, other.test)
        if node.test.lineno != node.lineno or other.test.lineno != other.lineno:
            return
        top = header.replace(a, c, 1)
        below = second.replace(c, a, 1)
        lines = [
            top,
            *lines_of(scene, *_ends(other.body)),
            below,
            *lines_of(scene, *_ends(node.body)),
        ]
        text = replaced(scene, (node.lineno, last_line(other.body[-1]), lines))
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            likely=0.65,
            size=12,
            what=f"{quoted(header)} is asked first; what holds there never comes to "
            f"{quoted(second)}. "
            "Which question has to be asked first?",
            how="Exchange the two branches.",
        )


def _ends(body: list[ast.stmt]) -> tuple[ast.stmt, ast.stmt]:
    return body[0], body[-1]


def _asks(mine: str, other: str, by: int) -> str:
    """Of two neighbours nobody can say which is the one that stands wrong: both are named."""
    if by == 1:
        return f"{mine} runs ahead of {other}. Is that the right order?"
    return f"{mine} works with what the lines before it have made. Does it come at the right time?"


def _move(mine: str, other: str, by: int) -> str:
    if by == 1:
        return f"Exchange the two: {other} first, then {mine}."
    return (
        f"Move it {'later' if by > 0 else 'earlier'}: {'behind' if by > 0 else 'ahead of'} {other}."
    )
