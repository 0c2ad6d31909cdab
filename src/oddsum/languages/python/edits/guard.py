"""A branch that is missing: for some input another result is due, and nothing asks for it."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.fitted import GUARD
from oddsum.languages.python.edits.blocks import first_line, indent_of, replaced, unit
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Guard(EditRule):
    """``if age < 6: return 0`` ahead of a ``return``, found from the values that would be right."""

    name = "guard"
    invents = "a value"
    title, explanation = GUARD.title, GUARD.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """None: a branch is found from values, not read off the source."""
        return iter(())

    def ahead(
        self, scene: Scene, start: int, stop: int, condition: str, result: str, likely: float
    ) -> TrialEdit | None:
        """A branch ahead of the ``return`` whose value stands there; None where none does."""
        node = next(
            (
                s
                for s in scene.statements(ast.Return)
                if isinstance(s, ast.Return)
                and s.value is not None
                and scene.place(s.value) == (start, stop)
            ),
            None,
        )
        if node is None or first_line(node) == 1:
            return None
        indent = indent_of(scene, node)
        if scene.source.lines[node.lineno - 1][: node.col_offset].strip():
            return None  # it shares its line with a header
        lines = [f"{indent}if {condition}:", f"{indent}{unit(scene)}return {result}"]
        text = replaced(scene, (node.lineno, node.lineno - 1, lines))
        edits = whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            likely=likely,
            size=len(condition) + len(result),
            runs_at=node.lineno,
            what=GUARD.asks,
            how=f"Put in, ahead of line {node.lineno}: "
            f"{quoted(f'if {condition}: return {result}')}.",
        )
        return next(edits, None)
