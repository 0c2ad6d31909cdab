"""What is said of a change: what it touches, what it did, and that one thing at a time is best."""

from __future__ import annotations

from collections.abc import Sequence

from oddsum.mend.effect import Effect
from oddsum.model.lead import Edit


def numbered(numbers: Sequence[int]) -> str:
    """``case 2``, ``cases 2 and 5``, ``cases 2, 5 and 7``."""
    if len(numbers) == 1:
        return f"case {numbers[0]}"
    return f"cases {', '.join(map(str, numbers[:-1]))} and {numbers[-1]}"


def effect_words(effect: Effect) -> str:
    """What a change did to the cases, in a sentence or two."""
    if effect.from_nothing:
        agree = f"{effect.agreeing} of {effect.cases} cases agree"
        return f"Now the program can start: {agree if effect.cases else 'no case has run'}."
    told = []
    if effect.settled or effect.broke:
        parts = [f"settles {numbered(effect.settled)}"] if effect.settled else []
        parts.append(f"breaks {numbered(effect.broke)}" if effect.broke else "breaks none")
        every = ": every case agrees" if effect.agreeing == effect.cases else ""
        told.append(f"It {' and '.join(parts)}{every}.")
    if effect.otherwise:
        verb = "gives" if len(effect.otherwise) == 1 else "give"
        which = numbered(effect.otherwise).capitalize()
        told.append(f"{which} {verb} something else, still not as expected.")
    return " ".join(told) or "It changes nothing that any case shows."


def edit_words(edit: Edit) -> str:
    """One place that was changed, all of it, in a line: ``line 8: total = 0 → total = 1``."""
    before, after = _whole(edit.before), _whole(edit.after)
    if not edit.before:
        where = f"ahead of line {edit.line}"
        return f"{where}: + {after}" if after else f"{where}: a blank line"
    where = f"line {edit.line}" if edit.end == edit.line else f"lines {edit.line} to {edit.end}"
    if not edit.after:
        return f"{where}: without {before}" if before else f"{where}: without a blank line"
    return f"{where}: " + "; ".join(f"{old} → {new}" for old, new in _differing(edit))


def edits_words(edits: Sequence[Edit]) -> str:
    """All places of a change in a line."""
    return "; ".join(edit_words(e) for e in edits) or "nothing"


def places_words(edits: Sequence[Edit]) -> str:
    """A kind word where a try changes more than one place; blank for one."""
    if len(edits) < 2:
        return ""
    lines = ", ".join(str(e.line) for e in edits[:-1]) + f" and {edits[-1].line}"
    return (
        f"This try changes {len(edits)} places (lines {lines}). Whatever comes of it, it will be "
        "hard to say which of them did it. One thing at a time tells more."
    )


def _differing(edit: Edit) -> list[tuple[str, str]]:
    """The lines that differ, each beside what it became; all of both where they do not pair."""
    if len(edit.before) != len(edit.after):
        return [(_whole(edit.before) or "a blank line", _whole(edit.after) or "a blank line")]
    pairs = [(a.strip(), b.strip()) for a, b in zip(edit.before, edit.after, strict=True)]
    unlike = [(a or "a blank line", b or "a blank line") for a, b in pairs if a != b]
    same = next((a for a, _ in pairs if a), "")
    return unlike or [(same or "a blank line", "the same, further in or out")]


def _whole(lines: Sequence[str]) -> str:
    """Lines on one line, blank ones left out."""
    return " ⏎ ".join(line.strip() for line in lines if line.strip())
