"""All that leads are judged by: what ran, what a reader asks, what wrong values are made of."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

import msgspec

from oddsum.languages import language_of
from oddsum.model.case import Case
from oddsum.model.claim import Claim
from oddsum.model.lead import Note, TrialEdit
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint.coverage import Coverage, Place, place_of
from oddsum.pinpoint.values import Right
from oddsum.pinpoint.wrong import behind_claim, made_of, wrong_steps
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.claims import claims_for, first_broken
from oddsum.trace.loops import Told, passes, told

_MOST_PASSES = 12  # of one loop in one case, that are looked at
_LONGEST_STORY = 20_000  # steps: of longer ones lineage and loops are not worked out


class Gathered(msgspec.Struct, frozen=True, kw_only=True):
    """What speaks for and against a line, besides trials.

    ``lineage``: for each odd case whose wrong value was found, the places it goes back to.
    ``loops``: what a loop never reached, by the place of its header: (case, sentence).
    ``claims``: (the claim's words, the places behind it) of each broken claim.
    """

    sources: dict[str, Source]
    results: tuple[CaseResult, ...]
    coverage: Coverage
    notes: tuple[Note, ...] = ()
    lineage: dict[int, frozenset[Place]] = {}
    loops: dict[Place, tuple[int, str]] = {}
    claims: tuple[tuple[str, frozenset[Place]], ...] = ()
    stories: dict[int, tuple[Case, Story]] = {}
    rights: dict[Place, Right] = {}  # the best of the values that would have been right, by place
    valued: bool = False  # whether such values were looked for
    ways: dict[Place, int] = {}  # how many small edits there are of a place

    @property
    def odd(self) -> tuple[int, ...]:
        """The numbers of the odd cases."""
        return tuple(r.number for r in self.results if r.outcome.odd)

    @property
    def agreeing(self) -> tuple[int, ...]:
        """The numbers of the cases that agree."""
        return tuple(r.number for r in self.results if r.outcome is Outcome.AGREES)

    def place(self, file: str, line: int) -> Place:
        """The place of a line: the first line of its statement."""
        return place_of(self.sources[file], line)

    def with_rights(self, rights: Iterable[Right]) -> Gathered:
        """The same with values that would have been right, the best first."""
        best: dict[Place, Right] = {}
        for right in rights:
            best.setdefault(self.place(right.spot.file, right.spot.line), right)
        return msgspec.structs.replace(self, rights=best, valued=True)

    def with_ways(self, edits: Iterable[TrialEdit]) -> Gathered:
        """The same with how many of these edits there are of each place."""
        ways = Counter[Place]()
        for (file, line), count in Counter((e.file, e.line) for e in edits).items():
            ways[self.place(file, line)] += count
        return msgspec.structs.replace(self, ways=ways)

    def leaving(self, settled: frozenset[int]) -> Gathered:
        """The same for the odd cases that are left where a mend settles these."""
        results = (
            msgspec.structs.replace(r, outcome=Outcome.AGREES) if r.number in settled else r
            for r in self.results
        )
        lineage = {n: places for n, places in self.lineage.items() if n not in settled}
        rights = ((place, right.leaving(settled)) for place, right in self.rights.items())
        left = {place: right for place, right in rights if right.by_case}
        return msgspec.structs.replace(self, results=tuple(results), lineage=lineage, rights=left)

    def named(self, where: str, file: str, line: int) -> str:
        """A sentence about a line, with its file named where there are several."""
        if len(self.sources) < 2:
            return where
        return where.replace(f"line {line}", f"line {line} of {file}", 1)

    def suspicion(self, file: str, line: int) -> float:
        """How suspicious the coverage makes a line, from 0 to 1."""
        return self.coverage.suspicion(self.place(file, line), self.odd, self.agreeing)

    def in_lineage(self, file: str, line: int) -> float | None:
        """In what share of the wrong values a line has a part; None where that is not known."""
        if not self.lineage:
            return None
        place = self.place(file, line)
        return sum(place in places for places in self.lineage.values()) / len(self.lineage)

    def notes_at(self, file: str, line: int) -> tuple[Note, ...]:
        """The notes on a line."""
        return tuple(n for n in self.notes if (n.file, n.line) == (file, line))


def gather(
    sources: Mapping[str, Source],
    results: tuple[CaseResult, ...],
    coverage: Coverage,
    notes: tuple[Note, ...],
    stories: Mapping[int, tuple[Case, Story]],
    claims: tuple[Claim, ...],
) -> Gathered:
    """Gather all evidence but trials from the recordings of some odd cases."""
    by_number = {r.number: r for r in results}
    lineage: dict[int, frozenset[Place]] = {}
    loops: dict[Place, tuple[int, str]] = {}
    broken: list[tuple[str, frozenset[Place]]] = []
    for number, (case, story) in stories.items():
        if len(story) > _LONGEST_STORY or not len(story):
            continue
        steps = wrong_steps(story, case, by_number[number])
        if steps:
            lineage[number] = made_of(story, steps, sources)
        for place, text in _never_reached(story, sources.values()):
            loops.setdefault(place, (number, text))
        found = first_broken(story, claims_for(claims, case.name)) if claims else None
        if found is not None and not found.unasked:
            words = f"{found.claim.holds} {found.claim.place}"
            broken.append((words, behind_claim(story, found, sources)))
    return Gathered(
        sources=dict(sources), results=results, coverage=coverage, notes=notes, lineage=lineage,
        loops=loops, claims=tuple(broken), stories=dict(stories),
    )  # fmt: skip


def _never_reached(story: Story, sources: Iterable[Source]) -> Iterable[tuple[Place, str]]:
    """For each loop: what it did not reach or use in one call, however often it was gone through
    there, in words."""
    for source in sources:
        for loop in language_of(source.name).reading.loops(source):
            in_calls: dict[int, list[Told]] = {}
            for one in passes(story, loop)[:_MOST_PASSES]:
                in_calls.setdefault(one.frame, []).append(told(story, loop, one))
            for some in in_calls.values():
                text = _missed_each_time(some)
                if text:
                    yield (source.name, loop.line), text


def _missed_each_time(some: Sequence[Told]) -> str:
    """What is missed by each of these times through a loop; blank for nothing."""
    always = set(some[0].unused).intersection(*(t.unused for t in some))
    for one in some:
        texts = [t for t in one.sentences if "never" in t]
        if texts and (len(some) == 1 or (always and set(one.unused) == always)):
            return texts[0]
    return ""
