"""Faults in two places: what is tried beside what, in the order in which it is worth trying."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import chain

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.coverage import Coverage, Place, by_place
from oddsum.pinpoint.expressing import edits_for
from oddsum.pinpoint.pairs import both_nearer, covering, halves, placed_before, second_halves
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.pinpoint.proposing import made_to_fit
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.pinpoint.values import right_values

MOST_FIRST = 3  # half mends that are gone on from before anything else is tried
MOST_LIKELY = 4_000  # edits that are tried beside each of them then
_AT_ONCE = 1_000  # pairs, after which it is looked whether one of them is enough
MOST_HALF_WAYS = 4  # half mends, with which in place values are looked for
MOST_EARLY = 2  # of them, that settle some case: ahead of what is tried blindly

Ahead = Callable[[Proposal], Sequence[Case]]
Stage = tuple[Iterable[Proposal], Ahead]


@dataclass(frozen=True)
class TwoPlaces:
    """What a search has found in one place, and where it can look for a second."""

    runner: TrialRunner
    scenes: Sequence[Scene]
    language: Language
    every: Sequence[Proposal]
    coverage: Coverage
    has_time: Callable[[], bool]
    tried: set[frozenset[TrialEdit]] = field(default_factory=set)  # pairs that were given out
    first: list[Screening] = field(default_factory=list)  # half mends that are gone on from first
    left_out: list[Proposal] = field(default_factory=list)  # likely pairs that had no time
    slow: list[Proposal] = field(default_factory=list)  # of them, that take long to try
    known: set[TrialEdit] = field(default_factory=set)  # half mends beside which values were tried

    def likely(self, found: Sequence[Screening]) -> Iterator[Stage]:
        """The likeliest pairs, of the best half mends that settle some case; and, for faults that
        every case meets, of those that each come nearer.

        Of two faults one is nearly always among these: with it in place the other is a single
        fault, in the cases that are left.
        """
        plain = [s for s in found if not self._is_made_to_fit(s)]
        yield self._once(covering(plain, [c.number for c in self.runner.odd])), self._all
        yield self._once(both_nearer(plain)), self._all
        self.first.extend(halves([s for s in plain if s.settles] or plain)[:MOST_FIRST])
        likely = self._for_the_rest(self.first)[:MOST_LIKELY]
        pairs = list(self._once(second_halves(self.first, likely)))
        first = self._left_by(self.first)
        yield from ((some, first) for some in _parts_of(pairs))

    def rest(self) -> Iterator[Stage]:
        """Of the likeliest pairs those that there was no time for at first."""
        first = self._left_by(self.first)
        yield from ((some, first) for some in _parts_of(list(self.left_out)))

    def worked_out(self, found: Sequence[Screening]) -> Iterator[Stage]:
        """What gives the values that would be right with one of the best half mends in place: the
        second fault may be one that no edit of a known kind mends."""
        if not self.language.running.probe().values:
            return
        plain = [s for s in found if s.settles and not self._is_made_to_fit(s)]
        for half in halves(plain)[:MOST_EARLY]:
            yield self._once(self._worked_out([half])), self._all

    def stages(self, found: Sequence[Screening]) -> Iterator[Stage]:
        """Proposals of two edits, with the odd cases on which each is tried first.

        First what settles what another leaves, then what the values say that would be right beside
        a half mend, then every edit beside the best half mends; what was made to fit the
        values comes after what is of a known kind, and never two such together.
        """
        plain = [s for s in found if not self._is_made_to_fit(s)]
        made = [s for s in found if self._is_made_to_fit(s)]
        numbers = [c.number for c in self.runner.odd]
        yield self._once(covering(plain, numbers)), self._all
        yield from self.worked_out(found)
        yield self.slow, self._left_by(self.first)
        for some in (halves(plain), halves(made)):
            yield self._once(second_halves(some, self._for_the_rest(some))), self._left_by(some)
        mixed = (p for p in covering(found, numbers) if not self._both_made(p))
        yield self._once(mixed), self._all
        if self.language.running.probe().values:
            yield self._worked_out(halves(plain)[:MOST_HALF_WAYS]), self._all

    def _once(self, pairs: Iterable[Proposal]) -> Iterator[Proposal]:
        """Those of these pairs that no stage has had: what they do does not change."""
        for one in pairs:
            pair = frozenset(one.edits)
            if pair not in self.tried:
                self.tried.add(pair)
                yield one

    def _for_the_rest(self, some: Sequence[Screening]) -> list[Proposal]:
        """All edits, those first that are likely and in lines that the cases run which half a mend
        leaves, and others do not."""
        sources = {s.source.name: s.source for s in self.scenes}
        odd = {c.number for c in self.runner.odd}
        agreeing = {c.number for c in self.runner.agreeing}
        sides = {(frozenset(odd - {*s.settles}), frozenset({*agreeing, *s.settles})) for s in some}

        def most(place: Place) -> float:
            return max(self.coverage.suspicion(place, left, rest) for left, rest in sides)

        suspicion = by_place(sources, most)
        likely = ((p.likely * suspicion(p.edits[0]), p) for p in self.every if sides)
        return [p for _, p in sorted(likely, key=lambda pair: -pair[0])]

    def _is_made_to_fit(self, one: Screening) -> bool:
        return made_to_fit(self.language, one.proposal.edits[0])

    def _both_made(self, pair: Proposal) -> bool:
        """Two edits that were each made to fit fit nearly anything: that says nothing."""
        return all(made_to_fit(self.language, e) for e in pair.edits)

    def _all(self, _: Proposal) -> Sequence[Case]:
        return self.runner.odd

    def _left_by(self, some: Sequence[Screening]) -> Ahead:
        """The first odd case that a pair's half mend leaves; of other pairs any odd case."""
        first = {
            half.proposal.edits[0]: [c for c in self.runner.odd if c.number not in half.settles][:1]
            for half in some
        }
        return lambda pair: first.get(pair.edits[0], self.runner.odd)

    def _worked_out(self, some: Sequence[Screening]) -> Iterator[Proposal]:
        """Half a mend, and beside it what gives the values that would be right with it in place."""
        trials = self.runner.value_trials()
        for half in some:
            first = half.proposal.edits[0]
            if first in self.known:
                continue
            self.known.add(first)
            texts = half.proposal.texts({s.source.name: s.source for s in self.scenes})
            edited = [self._edited(s, texts) for s in self.scenes]
            left = [c for c in self.runner.odd if c.number not in half.settles]
            if not left or not self.has_time():
                return
            sources = {s.source.name: s.source for s in edited}
            rights = right_values(trials, sources, self.has_time, left)
            fitted = edits_for(trials, rights, edited, self.language, self.has_time)
            for one in chain.from_iterable(fitted):
                second = placed_before(first, one.edit)
                if second is not None:
                    yield Proposal((first, second))

    def _edited(self, scene: Scene, texts: dict[str, str]) -> Scene:
        source = scene.source.edited(texts.get(scene.source.name, scene.source.text))
        return self.language.edits.scene(source, scene.types, scene.wanted, scene.numbers)


def _parts_of(pairs: Sequence[Proposal]) -> Iterator[Sequence[Proposal]]:
    """The pairs in parts: after each it is looked whether one of them is enough."""
    for number in range(0, len(pairs), _AT_ONCE):
        yield pairs[number : number + _AT_ONCE]
