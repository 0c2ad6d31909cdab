"""Lines to look at where no small edit settles everything: what the other evidence says."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import islice

from oddsum.languages import language_of
from oddsum.languages.language import function_at
from oddsum.model.lead import Evidence, Lead, Weighed
from oddsum.pinpoint.account import line_account, of
from oddsum.pinpoint.coverage import Place
from oddsum.pinpoint.evidence import Gathered
from oddsum.pinpoint.proof import Proof, running_at
from oddsum.pinpoint.values import Right, in_words, told
from oddsum.pinpoint.weights import ALONE, UNMENDED

MOST = 3  # leads without a mend


def suspects(
    gathered: Gathered,
    taken: frozenset[Place],
    settled: frozenset[int],
    *,
    behind_a_fit: bool = False,
) -> tuple[Lead, ...]:
    """The most suspicious lines that no lead names yet, as leads without a mend.

    Their order is by the Ochiai coefficient of their coverage (see ``coverage``), weighed with
    whether wrong values go back to them, and with notes, loops and claims. Where a mend settles
    some cases, it is that of the cases which it leaves: these may have a fault of their own.
    Of lines that weigh the same the one comes first in which there is more to be wrong.
    ``behind_a_fit``: they stand behind mends that settle everything and were made to fit.
    """
    left = gathered.leaving(settled)
    if not left.odd:
        left, settled = gathered, frozenset()
    weighed = sorted(
        ((_weight(left, place), place) for place in _statements(left) if place not in taken),
        key=lambda pair: (-round(pair[0], 9), -gathered.ways.get(pair[1], 0), pair[1]),
    )
    worth = (pair for pair in weighed if pair[0] > 0)
    chosen = islice(_each_line_once(worth, gathered), MOST)
    return tuple(_lead(gathered, place, w, settled, behind_a_fit) for w, place in chosen)


def _each_line_once(
    weighed: Iterable[tuple[float, Place]], gathered: Gathered
) -> Iterator[tuple[float, Place]]:
    """Of the places at which the same line could be printed the first: the others say no more."""
    said = set[str]()
    for weight, place in weighed:
        right = gathered.rights.get(place)
        printed = right.printed if right is not None else None
        if printed is None or printed not in said:
            yield weight, place
        if printed is not None:
            said.add(printed)


def weights(gathered: Gathered) -> tuple[Weighed, ...]:
    """How much speaks against each statement that ran in some odd case."""
    return tuple(
        Weighed(file, line, round(_weight(gathered, (file, line)), 3))
        for file, line in _statements(gathered)
    )


def _statements(gathered: Gathered) -> Iterator[Place]:
    """The statements that ran in some odd case; definitions are left out."""
    ran = gathered.coverage.anywhere(gathered.odd)
    for name, source in gathered.sources.items():
        for line in language_of(name).reading.statements(source):
            if (name, line) in ran:
                yield name, line


def _weight(gathered: Gathered, place: Place) -> float:
    file, line = place
    weight = ALONE.shared("coverage", gathered.suspicion(file, line))
    share = gathered.in_lineage(file, line)
    if share is not None:
        weight *= ALONE.shared("lineage", share)
    if gathered.notes_at(file, line):
        weight *= ALONE.factors["note"]
    if place in gathered.loops:
        weight *= ALONE.factors["loop"]
    if any(place in places for _, places in gathered.claims):
        weight *= ALONE.factors["claim"]
    right = gathered.rights.get(place)
    if right is not None:
        weight *= 1 + ALONE.factors["values"] * right.weight(len(gathered.odd))
    return min(1.0, weight / (1 + ALONE.factors["values"] if gathered.rights else 1))


def _lead(
    gathered: Gathered, place: Place, weight: float, settled: frozenset[int], behind_a_fit: bool
) -> Lead:
    file, line = place
    source = gathered.sources[file]
    function = function_at(language_of(source.name), source, line)
    right = gathered.rights.get(place)
    proof = running_at(source, line, gathered.stories)
    inside = f", in {function}" if function else ""
    return Lead(
        rank=0,  # given to it among the others
        lines=(line,),
        file=file,
        function=function,
        kind="look here",
        where=gathered.named(f"Look at line {line}{inside}.", file, line),
        what=_what(gathered, place, proof),
        how=_how(right, gathered, behind_a_fit),
        evidence=tuple(_evidence(gathered, place, settled)),
        mend=None,
        score=round(UNMENDED * weight, 3),
        case=proof.case,
        step=proof.step,
        values=told(right) if right is not None else (),
    )


def _how(right: Right | None, gathered: Gathered, behind_a_fit: bool) -> str:
    nothing = "No small change that was tried settles every case"
    if behind_a_fit:
        begins = "What stands ahead was made to fit the cases, and may not be what is meant."
    elif right is not None:
        what = "a line printed" if right.spot.gap else "another value"
        share = of(len(right.by_case), len(gathered.odd))
        begins = f"{nothing}; {what} here would settle {share}."
    elif gathered.valued:
        begins = f"{nothing}, and no other value here that was tried makes a case agree."
    else:
        begins = f"{nothing}."
    return f"{begins} {_next(right)}"


def _next(right: Right | None) -> str:
    """What to do about a line."""
    if right is None:
        return (
            "Follow the line in Trace, and compare each of its values with what you expect there."
        )
    if right.spot.gap:
        return "Ask which inputs need that line, and how the program could tell them from others."
    return (
        "Work out by hand what the line should give there, and how the program could come to that."
    )


def _what(gathered: Gathered, place: Place, proof: Proof) -> str:
    notes = " ".join(n.text for n in gathered.notes_at(*place))
    loop = gathered.loops.get(place)
    looped = f"In case {loop[0]}: {loop[1]}" if loop is not None else ""
    right = gathered.rights.get(place)
    said = gathered.named(in_words(right), right.spot.file, right.spot.line) if right else ""
    parts = [said, notes, looped, proof.text]
    text = " ".join(p for p in parts if p)
    return text or "What is wrong here was not found out; the evidence only points here."


def _evidence(gathered: Gathered, place: Place, settled: frozenset[int]) -> Iterator[Evidence]:
    if settled:
        yield from _left_odd(gathered, place, settled)
    right = gathered.rights.get(place)
    if right is not None:
        share = of(len(right.by_case), len(gathered.odd))
        what = "a line printed here" if right.spot.gap else "another value here"
        yield Evidence("trial", "for", f"{what} would settle {share}")
    yield from line_account(gathered, *place)
    yield Evidence("trial", "against", "no small change here settles every odd case")


def _left_odd(gathered: Gathered, place: Place, settled: frozenset[int]) -> Iterator[Evidence]:
    """In which cases a line runs that the mends ahead leave odd, and in which of the others."""
    coverage = gathered.coverage
    left = coverage.known(n for n in gathered.odd if n not in settled)
    gone = coverage.known(settled)
    here, there = (len(coverage.cases_at(place, some)) for some in (left, gone))
    if here:
        of_left = "the only case" if len(left) == 1 else f"{here} of {len(left)} cases"
        text = f"runs in {of_left} that the changes above leave odd"
        if gone:
            text += f", and in {there} of {len(gone)} that they settle"
        yield Evidence("coverage", "for", text)
