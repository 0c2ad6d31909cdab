"""A line that nothing prints: for some input, or for all, it is due at a place of its own."""

from __future__ import annotations

import json
from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.fitted import UNPRINTED
from oddsum.languages.javascript.edits.missing import indent_of
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import end_of, is_statement, line_of
from oddsum.languages.language import Gap
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Unprinted(EditRule):
    """``if (shown === 0) console.log("no more today");``, found from the lines that are missing."""

    name = "unprinted"
    invents = "a value"
    title, explanation = UNPRINTED.title, UNPRINTED.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """None: which line is missing is found from what is expected, not read off the source."""
        return iter(())

    def printed(
        self, scene: Scene, start: int, gap: Gap, condition: str, text: str, likely: float
    ) -> TrialEdit | None:
        """The lines of a text printed in a gap; where a condition holds, unless it is blank."""
        node = next((n for n in scene.nodes if _begins(scene, n, start)), None)
        if node is None:
            return None
        indent, first, last = indent_of(node), scene.tree.start(node), scene.tree.stop(node)
        if scene.source.text[first - len(indent) : first].strip():
            return None  # it shares its line with a header
        line = line_of(node) - 1 if gap == "before" else end_of(node)
        rows = text.removesuffix("\n").split("\n")
        calls = [f"console.log({json.dumps(row, ensure_ascii=False)});" for row in rows]
        told = " ".join(calls)
        if condition:
            told = (
                f"if ({condition}) {{ {told} }}" if len(calls) > 1 else f"if ({condition}) {told}"
            )
        where = f"after line {line}" if line else "ahead of line 1"
        return make_edit(
            scene,
            self.name,
            (first, first) if gap == "before" else (last, last),
            f"{told}\n{indent}" if gap == "before" else f"\n{indent}{told}",
            likely=likely,
            line=max(1, line),
            runs_at=line_of(node),
            what=UNPRINTED.asks,
            how=f"Put in, {where}: {quoted(told)}.",
        )


def _begins(scene: Scene, node: Node, start: int) -> bool:
    return (
        scene.tree.start(node) == start
        and is_statement(node)
        and node.parent is not None
        and node.parent.type in ("program", "statement_block")
    )
