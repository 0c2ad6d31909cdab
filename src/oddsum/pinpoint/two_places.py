"""Faults in two places: what is tried beside what, in the order in which it is worth trying."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.case import Case
from oddsum.pinpoint.expressing import edits_for
from oddsum.pinpoint.pairs import covering, halves, placed_before, second_halves
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.pinpoint.values import right_values

MOST_HALF_WAYS = 4  # half mends, with which in place values are looked for

Ahead = Callable[[Proposal], Sequence[Case]]
Stage = tuple[Iterable[Proposal], Ahead]


@dataclass(frozen=True)
class TwoPlaces:
    """What a search has found in one place, and where it can look for a second."""

    runner: TrialRunner
    scenes: Sequence[Scene]
    language: Language
    every: Sequence[Proposal]
    has_time: Callable[[], bool]

    def stages(self, found: Sequence[Screening]) -> Iterator[Stage]:
        """Proposals of two edits, with the odd cases on which each is tried first.

        First what settles what another leaves, then every edit beside the best half mends; what was
        made to fit the values comes after what is of a known kind, and never two such together.
        """
        plain = [s for s in found if not self._is_made_to_fit(s)]
        made = [s for s in found if self._is_made_to_fit(s)]
        numbers = [c.number for c in self.runner.odd]
        yield covering(plain, numbers), self._all
        for some in (halves(plain), halves(made)):
            yield second_halves(some, self.every), self._left_by(some)
        yield (p for p in covering(found, numbers) if not self._both_made(p)), self._all
        if self.language.running.probe().values:
            yield self._worked_out(plain), self._all

    def _is_made_to_fit(self, one: Screening) -> bool:
        return self.language.edits.invents(one.proposal.edits[0].kind) == "a value"

    def _both_made(self, pair: Proposal) -> bool:
        """Two edits that were each made to fit fit nearly anything: that says nothing."""
        return all(self.language.edits.invents(e.kind) == "a value" for e in pair.edits)

    def _all(self, _: Proposal) -> Sequence[Case]:
        return self.runner.odd

    def _left_by(self, some: Sequence[Screening]) -> Ahead:
        """The first odd case that a pair's half mend leaves."""
        first = {
            half.proposal.edits[0]: [c for c in self.runner.odd if c.number not in half.settles][:1]
            for half in some
        }
        return lambda pair: first[pair.edits[0]]

    def _worked_out(self, found: Sequence[Screening]) -> Iterator[Proposal]:
        """Half a mend, and beside it what gives the values that would be right with it in place."""
        for half in halves(found)[:MOST_HALF_WAYS]:
            first = half.proposal.edits[0]
            texts = half.proposal.texts({s.source.name: s.source for s in self.scenes})
            edited = [self._edited(s, texts) for s in self.scenes]
            left = [c for c in self.runner.odd if c.number not in half.settles]
            if not left or not self.has_time():
                return
            sources = {s.source.name: s.source for s in edited}
            rights = right_values(self.runner, sources, self.has_time, left)
            for edit in edits_for(self.runner, rights, edited, self.language, self.has_time):
                second = placed_before(first, edit)
                if second is not None:
                    yield Proposal((first, second))

    def _edited(self, scene: Scene, texts: dict[str, str]) -> Scene:
        source = scene.source.edited(texts.get(scene.source.name, scene.source.text))
        return self.language.edits.scene(source, scene.types, scene.wanted)
