"""A line that nothing prints: for some input, or for all, it is due at a place of its own."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.fitted import UNPRINTED
from oddsum.languages.language import Gap
from oddsum.languages.python.edits.blocks import (
    Block,
    blocks,
    first_line,
    indent_of,
    last_line,
    replaced,
    unit,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Unprinted(EditRule):
    """``if shown == 0: print("no more today")``, found from the lines that are missing."""

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
        found = next(_standing(scene, start), None)
        if found is None or (gap == "behind" and found[1] is not found[0].body[-1]):
            return None
        node = found[1]
        line = first_line(node) if gap == "before" else last_line(node) + 1
        indent = indent_of(scene, node)
        calls = [f"print({_written(scene, row)})" for row in text.removesuffix("\n").split("\n")]
        inner = indent + unit(scene) if condition else indent
        header = [f"{indent}if {condition}:"] if condition else []
        above = "the first line" if line == 1 else f"line {line - 1}"
        how = f"if {condition}: {'; '.join(calls)}" if condition else "; ".join(calls)
        edits = whole_edit(
            scene,
            self.name,
            replaced(scene, (line, line - 1, [*header, *(inner + call for call in calls)])),
            max(1, line - 1),
            likely=likely,
            size=len(condition) + len(text),
            runs_at=first_line(node),
            what=UNPRINTED.asks,
            how=f"Put in, {'ahead of' if line == 1 else 'after'} {above}: {quoted(how)}.",
        )
        return next(edits, None)


def _standing(scene: Scene, start: int) -> Iterator[tuple[Block, ast.stmt]]:
    """The statement that begins at an offset, with its block."""
    for block in blocks(scene):
        for node in block.body:
            if scene.place(node)[0] == start:
                yield block, node


def _written(scene: Scene, row: str) -> str:
    """A text in the quotes that the program has more of."""
    text = scene.source.text
    plain = row.isprintable() and not {'"', "\\"} & set(row)
    return f'"{row}"' if plain and text.count('"') >= text.count("'") else repr(row)
