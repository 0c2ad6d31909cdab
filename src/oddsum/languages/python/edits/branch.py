"""``if`` for ``elif`` and the other way round: which branches exclude each other."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    blocks,
    first_line,
    indent_of,
    indented,
    last_line,
    line_text,
    lines_of,
    replaced,
    top_of_chain,
    unit,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Branch(EditRule):
    """Chains of conditions that hang together, and should not, or the other way round."""

    name = "branch"
    title = "conditions that exclude each other, or do not"
    explanation = (
        "`elif` is asked only where everything above it was False; a second `if` is asked in any "
        "case, and what it does comes on top."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each ``elif`` as ``if``, each ``if`` after another as ``elif``, each ``else`` dropped."""
        for node in scene.statements(ast.If):
            assert isinstance(node, ast.If)
            if line_text(scene, node.lineno).lstrip().startswith("elif"):
                yield from self._of(scene, node, "elif", "if", 0.5)
            if not node.orelse:
                yield from self._otherwise(scene, node)
        for block in blocks(scene):
            for before, node in zip(block.body, block.body[1:], strict=False):
                if isinstance(before, ast.If) and isinstance(node, ast.If):
                    yield from self._of(scene, node, "if", "elif", 0.7)
                if isinstance(before, ast.If) and not before.orelse:
                    yield from self._under_else(scene, before, node)

    def _of(
        self, scene: Scene, node: ast.If, old: str, new: str, likely: float
    ) -> Iterator[TrialEdit]:
        line = line_text(scene, node.lineno)
        changed = line.replace(old, new, 1)
        asked = "only where the ones above are False" if old == "elif" else "in any case"
        yield from whole_edit(
            scene,
            self.name,
            replaced(scene, (node.lineno, node.lineno, [changed])),
            node.lineno,
            what=f"{quoted(line)} is asked {asked}. Is that meant?",
            how=f"Write `{new}` instead of `{old}`.",
            likely=likely,
            size=2,
            runs_at=top_of_chain(scene, node).lineno,
        )

    def _otherwise(self, scene: Scene, node: ast.If) -> Iterator[TrialEdit]:
        """What a branch builds up, with the item itself where its condition does not hold."""
        loop = scene.loop_of(node)
        if not isinstance(loop, ast.For) or not isinstance(loop.target, ast.Name):
            return
        indent = indent_of(scene, node)
        for text in dict.fromkeys(_built(scene, node, loop.target.id)):
            lines = [f"{indent}else:", f"{indent}{unit(scene)}{text}"]
            yield from whole_edit(
                scene,
                self.name,
                replaced(scene, (last_line(node) + 1, last_line(node), lines)),
                node.lineno,
                what=f"Where {quoted(text_of(scene, node.test))} does not hold, nothing is done. "
                "Should something be done then?",
                how=f"Put in, as an `else:`, {quoted(text)}.",
                likely=0.4,
                size=len(text) + 5,
                runs_at=node.lineno,
            )

    def _under_else(self, scene: Scene, before: ast.If, node: ast.stmt) -> Iterator[TrialEdit]:
        """What follows an ``if`` comes in any case: an ``else`` could be missing."""
        indent = indent_of(scene, before)
        inner = indent_of(scene, before.body[0]) if before.body[0].lineno > before.lineno else ""
        if not inner.startswith(indent) or isinstance(node, ast.If):
            return
        step = inner[len(indent) :]
        lines = [f"{indent}else:", *indented(lines_of(scene, node), "", step)]
        text = replaced(scene, (first_line(node), last_line(node), lines))
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            what=f"{quoted(line_text(scene, node.lineno))} runs whether the condition above holds "
            "or not. Is that meant?",
            how="Put it under an `else:`.",
            likely=0.35,
            size=len(lines) * 4,
        )


def _built(scene: Scene, node: ast.If, item: str) -> Iterator[str]:
    for inner in node.body:
        if isinstance(inner, ast.AugAssign):
            yield f"{text_of(scene, inner.target)} += {item}"
        call = inner.value if isinstance(inner, ast.Expr) else None
        if isinstance(call, ast.Call) and getattr(call.func, "attr", "") == "append":
            yield f"{text_of(scene, call.func)}({item})"
