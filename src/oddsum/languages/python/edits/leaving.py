"""``break``, ``continue`` and ``return`` taken for each other, or out of place."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    blocks,
    indent_of,
    indented,
    last_line,
    line_text,
    lines_of,
    replaced,
    unit,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span, whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_SAID = {
    "break": "`break` leaves the loop for good: no further round is made",
    "continue": "`continue` leaves this round only: the next one follows",
}


class Leaving(EditRule):
    """Another way out of a loop or a function."""

    name = "leaving"
    title = "a loop or a function that is left too early or too late"
    explanation = (
        "`return` ends the whole function, `break` the loop, `continue` the round. A `return` in "
        "the first round means that there is no second."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each way out exchanged for another."""
        for node in scene.statements(ast.Break, ast.Continue):
            old, new = (
                ("break", "continue") if isinstance(node, ast.Break) else ("continue", "break")
            )
            for to, likely in ((new, 0.7), ("pass", 0.4)):
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, node),
                    to,
                    likely=likely,
                    what=f"{_SAID[old]}. Is that meant on this line?",
                )
        for node in scene.statements(ast.Return):
            assert isinstance(node, ast.Return)
            if scene.loop_of(node) is not None:
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, node),
                    "continue",
                    likely=0.25,
                    what=f"{quoted(line_text(scene, node.lineno))} ends the function, and with it "
                    "the loop. Is that meant in this round?",
                )
        yield from self._returns_in_branch(scene)

    def _returns_in_branch(self, scene: Scene) -> Iterator[TrialEdit]:
        """The last ``return`` of a function, set in under the statement before it, and the other
        way round, is placement; here a ``return`` of the same value moved behind the loop."""
        for block in blocks(scene):
            last = block.body[-1]
            loop = scene.loop_of(last)
            if not isinstance(last, ast.Return) or loop is None or block.is_loop:
                continue
            moved = [indent_of(scene, loop) + line_text(scene, last.lineno).strip()]
            keep = [indent_of(scene, last) + "pass"] if len(block.body) == 1 else []
            text = replaced(
                scene,
                (last.lineno, last_line(last), keep),
                (last_line(loop) + 1, last_line(loop), moved),
            )
            yield from whole_edit(
                scene,
                self.name,
                text,
                last.lineno,
                likely=0.45,
                size=10,
                what=f"{quoted(moved[0])} is reached in the middle of the loop. Is "
                f"everything looked "
                "at by then?",
                how=f"Move {quoted(moved[0])} behind the loop.",
            )


class InnerLoop(EditRule):
    """Something done once that has to be done until it no longer holds, or for every item."""

    name = "inner loop"
    title = "something done once that has to be done again and again"
    explanation = (
        "An `if` acts once, a `while` as long as its condition holds. To compare each with each, "
        "there has to be a loop inside the loop."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``if`` as ``while``, and one fixed item as a loop over all."""
        for node in scene.statements(ast.If, ast.While):
            assert isinstance(node, (ast.If, ast.While))
            if not node.orelse:
                yield from self._again(scene, node)
        for block in blocks(scene):
            for number, node in enumerate(block.body):
                if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
                    yield from self._over_all(scene, node, block.body[number + 1 :])

    def _again(self, scene: Scene, node: ast.If | ast.While) -> Iterator[TrialEdit]:
        old, new = ("if", "while") if isinstance(node, ast.If) else ("while", "if")
        line = line_text(scene, node.lineno)
        if not line.lstrip().startswith(old):
            return
        changed = line.replace(old, new, 1)
        words = "acts once" if old == "if" else "goes on as long as it holds"
        yield from whole_edit(
            scene,
            self.name,
            replaced(scene, (node.lineno, node.lineno, [changed])),
            node.lineno,
            what=f"{quoted(line)} {words}. Is once enough, or once too often?",
            how=f"Write `{new}` instead of `{old}`.",
            likely=0.45 if old == "if" else 0.25,
            size=4,
        )

    def _over_all(
        self, scene: Scene, node: ast.Assign, rest: list[ast.stmt]
    ) -> Iterator[TrialEdit]:
        target = node.targets[0]
        assert isinstance(target, ast.Name)
        if not rest or any(
            isinstance(n, ast.Name) and n.id == target.id and isinstance(n.ctx, ast.Store)
            for s in rest
            for n in ast.walk(s)
        ):
            return
        indent, step = indent_of(scene, node), unit(scene)
        body = indented(lines_of(scene, rest[0], rest[-1]), "", step)
        for header, likely in self._headers(scene, node, target.id):
            lines = [f"{indent}for {target.id} in {header}:", *body]
            text = replaced(scene, (node.lineno, last_line(rest[-1]), lines))
            mine = quoted(line_text(scene, node.lineno))
            yield from whole_edit(
                scene,
                self.name,
                text,
                node.lineno,
                likely=likely,
                size=16,
                what=f"{mine} picks one. Is it only that one, or each of them, that has to be gone "
                "through?",
                how=f"Go over all of them: {quoted(f'for {target.id} in {header}:')}.",
            )

    @staticmethod
    def _headers(scene: Scene, node: ast.Assign, name: str) -> Iterator[tuple[str, float]]:
        loop = scene.loop_of(node)
        index = (
            loop.target.id
            if isinstance(loop, ast.For) and isinstance(loop.target, ast.Name)
            else ""
        )
        for xs in [*scene.names_of("list", node), *scene.names_of("str", node)][:4]:
            if index:
                yield f"range({index} + 1, len({xs}))", 0.4
            yield f"range(len({xs}))", 0.35
            yield xs, 0.3
        for n in scene.names_of("number", node)[:4]:
            if n != name:
                yield f"range({n})", 0.35
        value = node.value.body if isinstance(node.value, ast.IfExp) else node.value
        if isinstance(value, ast.Subscript):
            start, stop = scene.place(value.value)
            yield scene.source.text[start:stop], 0.5
