"""Where a value comes from, and what it went on to matter for."""

from __future__ import annotations

from oddsum.trace.lineage import Lineage, in_tree
from oddsum.tui import lists
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def lineage(asker: Asker, traced: Traced) -> None:
    """Where the value in hand comes from; without one, where the step does."""
    asked, name = Lineage(traced.story, asker.workspace.files.reads_of), asker.variable_in_hand()
    walking = asker.workspace.walking
    if name:
        column = walking.column_of(traced, name)
        if column.attribute:
            tree = in_tree(asked.of_attribute(column, traced.step))
        else:
            tree = in_tree(asked.of_variable(name, traced.step))
        title = f"WHERE {column.name} COMES FROM"
    else:
        tree = in_tree(asked.of_step(traced.step))
        title = f"WHERE STEP {traced.step:,} COMES FROM"
    steps = [one.step for _, one in tree]
    hint = (
        "Nearest first; further in is further back. It ends at what was typed in, or written there."
    )
    asker.walk_through(
        title,
        lists.with_files(traced.story, lists.LINEAGE),
        lists.lineage_rows(traced.story, tree),
        steps,
        hint,
    )


def influence(asker: Asker, traced: Traced) -> None:
    """What the value in hand went on to matter for."""
    title = asker.variable_in_hand()
    if not title:
        asker.say("Choose a variable with Tab first: then this shows what it mattered for.")
        return
    column = asker.workspace.walking.column_of(traced, title)
    name = column.variable
    frame = traced.story.frame_of(name, traced.step)
    made = traced.story.last_change(name, frame, traced.step)
    asked = Lineage(traced.story, asker.workspace.files.reads_of)
    found = asked.influenced(name, made) if made else []
    steps = [traced.story.step(n) for n in found]
    title = f"WHAT {column.name} WENT ON TO MATTER FOR"
    asker.walk_through(
        title,
        lists.with_files(traced.story, lists.STEPS),
        lists.step_rows(traced.story, steps),
        found,
    )
