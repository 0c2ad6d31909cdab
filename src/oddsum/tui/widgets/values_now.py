"""What every name holds at a step, as entries of a ledger."""

from __future__ import annotations

from oddsum.model.trace import Step
from oddsum.trace.words import change_words, short
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.writing import Cell, Piece, clean
from oddsum.workspace.tracing import Traced


def values_now(traced: Traced, width: int, most: int) -> list[list[Piece]]:
    """A line a name: its own call's names first. ``most`` 0 shows all, each value whole."""
    step = traced.story.step(traced.step)
    values = traced.story.values_at(traced.step)
    changed = {c.name for c in step.changes}
    order = sorted(values, key=lambda n: ("." not in n, n not in changed))
    longest = min(24, max((len(n) for n in order), default=4))
    lines: list[list[Piece]] = []
    for name in order[: most or None]:
        value = values[name]
        ink = "blue" if name in changed else "ink"
        about = value.type + (f", {value.size} long" if value.size is not None else "")
        others = [
            n for n in order if n != name and value.number and values[n].number == value.number
        ]
        if others:  # two names for one list: a change through one is a change of both
            about += f", the same {value.type} as {', '.join(others)}"
        start = [Piece(name.ljust(longest)[:longest] + "  ", ink, name in changed)]
        room = width - longest - 2
        if most:
            text = short(clean(value.text), max(12, room - len(about) - 2))
            lines.append([*start, Piece(text, ink, name in changed), Piece(f"  {about}", "quiet")])
        else:
            lines.append([*start, Piece(about, "quiet")])
            lines += wrapped(clean(value.text).replace("`", "'"), width, ink, indent=longest + 2)
            if not value.whole:
                lines.append([Piece(" " * (longest + 2)), Piece("not followed inside any deeper",
                                                                "quiet", italic=True)])  # fmt: skip
    if most and len(order) > most:
        lines.append([Piece(f"… {len(order) - most} more; Enter shows all", "quiet", italic=True)])
    return lines or [[Piece("No name holds a value yet.", "quiet", italic=True)]]


def step_values(step: Step) -> Cell:
    """What a step wrote, for the column beside the code."""
    if step.changes:
        words = ", ".join(change_words(c) for c in step.changes)
        return (Piece(clean(words), "blue", True),)
    if step.condition is not None:
        return (Piece(str(step.condition), "straw", True),)
    if "return" in step.events and step.value is not None:
        return (Piece(f"gives {short(clean(step.value.text), 14)}", "blue", True),)
    if step.round is not None and not step.round:
        return (Piece("no more rounds", "quiet"),)
    if step.output:
        return (Piece("prints", "quiet"),)
    return ()
