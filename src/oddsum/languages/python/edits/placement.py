"""A statement that stands inside a loop or a branch and belongs outside, or the other way round."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    Block,
    blocks,
    first_line,
    indent_of,
    indented,
    is_text,
    last_line,
    line_text,
    lines_of,
    replaced,
    top_of_chain,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST = 3  # statements that move together
_OWNERS = (ast.If, ast.For, ast.While, ast.With, ast.Try)
_WORDS = {
    "out": "{0} is set in under {1}. How often should it run: each time, or once?",
    "in": "{0} runs once, beside {1} and not in it. How often should it run?",
}


class Placement(EditRule):
    """Statements one level too far in, or not far enough."""

    name = "placement"
    invents = "a line"
    title = "a line that is set in too far, or not far enough"
    explanation = (
        "What is set in under a loop runs in every round; what is set in under an `if` runs only "
        "where it holds. Count in the margin how often the line runs."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each run of statements at an edge of a block, moved over that edge."""
        for block in blocks(scene):
            if isinstance(block.owner, _OWNERS):
                yield from self._outwards(scene, block, block.owner)
            for number, node in enumerate(block.body):
                if isinstance(node, _OWNERS):
                    yield from self._inwards(scene, block, number, node)

    def _outwards(self, scene: Scene, block: Block, owner: ast.stmt) -> Iterator[TrialEdit]:
        top = top_of_chain(scene, owner)
        for count in range(1, min(_MOST, len(block.body)) + 1):
            if count == len(block.body):
                break
            yield from self._moved(scene, block.body[-count:], last_line(top) + 1, top, "out", 0.7)
            if not isinstance(owner, ast.If):
                yield from self._moved(scene, block.body[:count], first_line(top), top, "out", 0.6)
        for node in block.body[1:-1]:
            yield from self._moved(scene, [node], last_line(top) + 1, top, "out", 0.35)
        outer = scene.parents.get(id(top))
        if isinstance(outer, _OWNERS):  # two levels out
            far = top_of_chain(scene, outer)
            if len(block.body) > 1:
                yield from self._moved(scene, block.body[-1:], last_line(far) + 1, far, "out", 0.4)
        if len(block.body) == 1 and block.field == "orelse" and isinstance(owner, ast.If):
            yield from self._else_out(scene, block, owner, top)

    def _else_out(
        self, scene: Scene, block: Block, owner: ast.If, top: ast.stmt
    ) -> Iterator[TrialEdit]:
        """``else: return False`` inside a loop: it belongs after the loop."""
        loop = scene.loop_of(owner)
        if loop is None or not isinstance(block.body[0], ast.Return):
            return
        node = block.body[0]
        before = last_line(owner.body[-1]) + 1
        moved = indented(lines_of(scene, node), indent_of(scene, node), indent_of(scene, loop))
        text = replaced(
            scene, (before, last_line(node), []), (last_line(loop) + 1, last_line(loop), moved)
        )
        yield from self._made(scene, text, node, loop, "out", 0.7, 8)

    def _inwards(
        self, scene: Scene, block: Block, number: int, owner: ast.stmt
    ) -> Iterator[TrialEdit]:
        for count in range(1, _MOST + 1):
            after = block.body[number + 1 : number + 1 + count]
            if len(after) == count and not isinstance(after[0], (ast.FunctionDef, ast.ClassDef)):
                for inner, likely in _last_blocks(owner):
                    yield from self._moved(
                        scene, after, last_line(inner[-1]) + 1, owner, "in", likely, inner[-1]
                    )
            ahead = block.body[max(0, number - count) : number]
            body = getattr(owner, "body", [])
            if len(ahead) == count and body and not any(map(is_text, ahead)):
                yield from self._moved(scene, ahead, first_line(body[0]), owner, "in", 0.5, body[0])

    def _moved(
        self,
        scene: Scene,
        nodes: list[ast.stmt],
        to: int,
        owner: ast.stmt,
        way: str,
        likely: float,
        like: ast.stmt | None = None,
    ) -> Iterator[TrialEdit]:
        """These statements taken out, and put in ahead of line ``to``, set in like another one."""
        first, last = nodes[0], nodes[-1]
        lines = lines_of(scene, first, last)
        moved = indented(lines, indent_of(scene, first), indent_of(scene, like or owner))
        text = replaced(scene, (first_line(first), last_line(last), []), (to, to - 1, moved))
        size = 4 * len(lines)
        less = 0.08 * (len(nodes) - 1)
        yield from self._made(scene, text, first, owner, way, likely - less, size)

    def _made(
        self,
        scene: Scene,
        text: str,
        node: ast.stmt,
        owner: ast.stmt,
        way: str,
        likely: float,
        size: int,
    ) -> Iterator[TrialEdit]:
        mine, header = quoted(line_text(scene, node.lineno)), quoted(line_text(scene, owner.lineno))
        where = "behind" if way == "out" else "into"
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            what=_WORDS[way].format(mine, header),
            how=f"Move {mine} {where} the part under {header}: change how far it is set in.",
            likely=likely,
            size=size,
            runs_at=min(first_line(owner), first_line(node)),
        )


def _last_blocks(owner: ast.stmt) -> Iterator[tuple[list[ast.stmt], float]]:
    """The blocks at the end of a statement, outermost first: what follows could belong there."""
    last: list[ast.stmt] = getattr(owner, "orelse", []) or getattr(owner, "body", [])
    likely = 0.7
    if isinstance(owner, (ast.For, ast.While)):
        last = owner.body if not owner.orelse else owner.orelse
    while last:
        if not (
            len(last) == 1 and isinstance(last[0], ast.If) and last is getattr(owner, "orelse", [])
        ):
            yield last, likely
        likely -= 0.2
        deeper = last[-1]
        if not isinstance(deeper, _OWNERS):
            return
        owner = deeper
        last = getattr(deeper, "orelse", []) or getattr(deeper, "body", [])
