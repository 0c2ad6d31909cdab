"""The account of a lead: what speaks for it, and what against.

Each line of evidence is found by a function of its own, in the order they are shown.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING

from oddsum.model.lead import Evidence, TrialEdit
from oddsum.trace.words import counted

if TYPE_CHECKING:
    from oddsum.pinpoint.evidence import Gathered
    from oddsum.pinpoint.proposal import Confirmed


def account(one: Confirmed, edit: TrialEdit, equals: int, gathered: Gathered) -> Iterator[Evidence]:
    """All that speaks for and against a lead with a mend; ``equals`` other mends fit as well."""
    yield from _trial(one, gathered)
    yield from line_account(gathered, edit.file, edit.line)
    if equals:
        text = f"{counted(equals, 'other change')} here would fit as well"
        yield Evidence("trial", "against", text)


def line_account(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    """What speaks for and against a line, trials aside."""
    for find in _FINDERS:
        yield from find(gathered, file, line)


def _trial(one: Confirmed, gathered: Gathered) -> Iterator[Evidence]:
    odd = gathered.odd
    both = " together with one elsewhere" if len(one.proposal.edits) > 1 else ""
    yield Evidence("trial", "for", f"a change here{both} settles {of(len(one.settles), len(odd))}")
    if one.breaks:
        yield Evidence("trial", "against", f"and breaks {counted(len(one.breaks), 'case')}")
    else:
        yield Evidence("trial", "for", "and breaks none")
    if len(odd) == 1 and one.settles:
        yield Evidence("trial", "against", "a single odd case speaks for it: others could fit too")
    if one.leaning_on is not None:
        yield _held_out(one.leaning_on)
    left = len(odd) - len(one.settles)
    if left:
        verb = "stays" if left == 1 else "stay"
        yield Evidence("trial", "against", f"{counted(left, 'case')} {verb} odd")


def _held_out(leaning_on: tuple[int, ...]) -> Evidence:
    if not leaning_on:
        return Evidence("trial", "for", "and comes first, whichever odd case is left out")
    text = f"without {_cases(list(leaning_on))} a change elsewhere would have come first"
    return Evidence("trial", "against", text)


def _coverage(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    """What it says of a line in which cases it ran."""
    coverage, odd = gathered.coverage, gathered.odd
    place = gathered.place(file, line)
    in_odd = coverage.cases_at(place, coverage.known(odd))
    known = coverage.known(gathered.agreeing)
    in_agreeing = coverage.cases_at(place, known)
    if in_odd:
        recorded = coverage.known(odd)
        looked = " that were recorded" if len(recorded) < len(odd) else ""
        yield Evidence("coverage", "for", f"runs in {of(len(in_odd), len(recorded))}{looked}")
    if known and len(in_agreeing) < len(known):
        rest = len(known) - len(in_agreeing)
        text = f"does not run in {counted(rest, 'case')} that {_agree(rest)}"
        yield Evidence("coverage", "for", text)
    count = len(in_agreeing)
    if count:
        text = f"runs in {counted(count, 'case')} that {_agree(count)}, too"
        yield Evidence("coverage", "against", text)


def _notes(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    for note in gathered.notes_at(file, line):
        yield Evidence("note", "for", note.text)


def _lineage(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    """Whether wrong values go back to a line."""
    if not gathered.lineage:
        return
    place = gathered.place(file, line)
    with_it = [n for n, places in gathered.lineage.items() if place in places]
    without = [n for n in gathered.lineage if n not in with_it]
    if with_it and not without:
        some = "the wrong value goes" if len(with_it) == 1 else "every wrong value looked at goes"
        yield Evidence("lineage", "for", f"{some} back through this line")
    elif with_it:
        text = f"the wrong value of {_cases(with_it)} goes back through this line"
        yield Evidence("lineage", "for", text)
    if not with_it:
        text = f"no wrong value goes back through this line ({_cases(without)})"
        yield Evidence("lineage", "against", text)


def _loops(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    told = gathered.loops.get(gathered.place(file, line))
    if told is not None:
        yield Evidence("loop", "for", f"in case {told[0]}: {told[1]}")


def _claims(gathered: Gathered, file: str, line: int) -> Iterator[Evidence]:
    for words, places in gathered.claims:
        if gathered.place(file, line) in places:
            yield Evidence(
                "claim", "for", f"your claim {words} is broken, and goes back to this line"
            )


_FINDERS: tuple[Callable[[Gathered, str, int], Iterator[Evidence]], ...] = (
    _notes,
    _lineage,
    _loops,
    _claims,
    _coverage,
)


def of(count: int, total: int) -> str:
    """``the only odd case``, ``both odd cases``, ``3 of 5 odd cases``."""
    if count < total:
        return f"{count} of {total} odd cases"
    return {1: "the only odd case", 2: "both odd cases"}.get(total, f"all {total} odd cases")


def _cases(numbers: list[int]) -> str:
    if len(numbers) == 1:
        return f"case {numbers[0]}"
    return f"cases {', '.join(map(str, numbers[:-1]))} and {numbers[-1]}"


def _agree(count: int) -> str:
    return "agrees" if count == 1 else "agree"
