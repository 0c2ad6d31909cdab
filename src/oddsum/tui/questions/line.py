"""One line taken apart: in which order it was worked out."""

from __future__ import annotations

from oddsum.languages import language_of
from oddsum.trace.parts import Apart
from oddsum.tui import lists
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def apart(asker: Asker, traced: Traced) -> None:
    """The parts of the line in hand with their values; the case runs once more for it."""
    step = traced.story.step(traced.step)
    visit = len([n for n in traced.story.visits_of(step.statement) if n <= traced.step])
    if step.statement.kind in ("call", "await") or not visit:
        asker.say("This step works nothing out itself. Take one step on, with ↓.")
        return

    def show(found: Apart) -> None:
        name = language_of(step.statement.file).name
        hint = f"{name} reads it as  {found.grouped}" if found.grouped else (
            "From top to bottom in time.")  # fmt: skip
        title = f"LINE {step.line} TAKEN APART"
        asker.walk_through(title, lists.PARTS, lists.part_rows(found), [], hint)

    asker.workspace.lookups.take_apart(step.statement.file, step.line, visit, show)
