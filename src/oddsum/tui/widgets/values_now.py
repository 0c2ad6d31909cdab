"""What every name holds at a step, as entries of a ledger."""

from __future__ import annotations

from oddsum.model.column import short_name
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.inside import Inner, brief, fields_of
from oddsum.trace.words import answer_of, short
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.writing import Cell, Piece, clean
from oddsum.workspace.tracing import Traced

_SHORTEST = 12  # cells that a value is given at least


def values_now(traced: Traced, width: int, most: int) -> list[list[Piece]]:
    """A line a name: its own call's names first. ``most`` 0 shows all, each value whole."""
    story = traced.story
    values, changed = story.values_at(traced.step), _changed(story, traced.step)
    order = sorted(values, key=lambda n: ("." not in n, n not in changed))
    seen = _as_written(order)
    longest = min(24, max((len(n) for n in seen.values()), default=4))
    lines: list[list[Piece]] = []
    for name in order[: most or None]:
        value = values[name]
        mine = changed.get(name)
        ink = "blue" if mine is not None else "ink"
        about = value.type + (f", {value.size} long" if value.size is not None else "")
        others = [
            n for n in order if n != name and value.number and values[n].number == value.number
        ]
        if others:  # two names for one list: a change through one is a change of both
            about += f", the same {value.type} as {', '.join(seen[n] for n in others)}"
        start = [Piece(seen[name].ljust(longest)[:longest] + "  ", ink, mine is not None)]
        room = max(_SHORTEST, width - longest - 4 - len(about))
        if most:
            text = clean(_fitted(traced, name, value.text, mine, room))
            lines.append([*start, Piece(text, ink, mine is not None), Piece(f"  {about}", "quiet")])
        else:
            lines.append([*start, Piece(about, "quiet")])
            lines += wrapped(clean(value.text).replace("`", "'"), width, ink, indent=longest + 2)
            if not value.whole:
                lines.append([Piece(" " * (longest + 2)), Piece("not followed inside any deeper",
                                                                "quiet", italic=True)])  # fmt: skip
    if most and len(order) > most:
        lines.append(
            [Piece(own(f"… {len(order) - most} more; Enter shows all"), "quiet", italic=True)]
        )
    return lines or [[Piece("No name holds a value yet.", "quiet", italic=True)]]


def _as_written(names: list[str]) -> dict[str, str]:
    """Each name as the program writes it; with its function, where another reads the same."""
    short_names = [short_name(n) for n in names]
    return {
        n: s if short_names.count(s) == 1 else n for n, s in zip(names, short_names, strict=True)
    }


def _changed(story: Story, number: int) -> dict[str, list[Inner]]:
    """What changed in each variable, also where a change is told under another of its names."""
    inner = story.table.inner(number)
    return {c.name: [i for i in inner if i.variable == c.name] for c in story.step(number).changes}


def _fitted(traced: Traced, name: str, text: str, changed: list[Inner] | None, room: int) -> str:
    """A value in so many cells; of one that has no room, what changed, or what changes."""
    if len(text) <= room:
        return text
    if changed and all(c.place or c.column != c.variable for c in changed):
        parts = [f"{c.column[len(c.variable) :].lstrip('.')}{_space(c)}{c.said}" for c in changed]
        return short(own(", ".join(parts)), room)
    story, mine = traced.story, short_name(name)
    node = story.node_of(name, traced.step)
    of = [c for c in story.table.by_title.values() if c.attribute]
    changing = [c.attribute for c in of if short_name(c.variable) == mine]
    return short(brief(text, fields_of(node), room, changing), room)


def _space(change: Inner) -> str:
    return " " if change.column != change.variable and not change.place else ""


def step_values(traced: Traced, step: Step) -> Cell:
    """What a step wrote, for the column beside the code: under the names that are seen there."""
    if step.changes:
        words = ", ".join(_as_seen(traced.story, step))
        return (Piece(clean(own(words)), "blue", True),)
    if step.condition is not None:
        return (Piece(answer_of(step), "straw", True),)
    if "return" in step.events and step.value is not None:
        return (Piece(f"gives {short(clean(step.value.text), 40)}", "blue", True),)
    if step.round is not None and not step.round:
        return (Piece("no more rounds", "quiet"),)
    if step.output:
        return (Piece("prints", "quiet"),)
    return ()


def _as_seen(story: Story, step: Step) -> list[str]:
    """Each change in a few words: a name as this function has it, where it has one."""
    mine = {c.before.number or c.name: c.name for c in step.changes
            if c.before is not None and c.frame in (step.frame, 0)}  # fmt: skip
    of = {c.name: c.before.number for c in step.changes if c.before is not None}
    told = []
    for c in story.table.inner(step.number):
        variable = mine.get(of.get(c.variable, 0) or c.variable, c.variable)
        name = c.name
        if variable != c.variable:
            name = variable.rpartition(".")[2] + c.column[len(c.variable) :]
        long = c.fields or len(c.whole) > 30
        words = brief(c.whole, c.fields, 30) if long and not c.place and not c.before else c.said
        told.append(c.in_words(short(words, 44), name))
    return told
