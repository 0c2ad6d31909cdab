"""Which edits are worth a trial: those of lines that run."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence

from oddsum.languages import language_of
from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.coverage import Coverage, Place, by_place
from oddsum.pinpoint.proposal import Proposal
from oddsum.source.program import Source


def proposed(
    language: Language, scenes: Sequence[Scene], ran: frozenset[Place]
) -> Iterator[Proposal | None]:
    """Every edit in one place, scene by scene; None for one of a line that did not run."""
    runs = _asking({s.source.name: s.source for s in scenes}, ran.__contains__)
    for scene in scenes:
        for edit, _ in language.edits.edits(scene):
            yield Proposal((edit,)) if runs(edit) else None


def reached(
    proposals: Iterable[Proposal], case: Case, sources: Mapping[str, Source], coverage: Coverage
) -> list[Proposal]:
    """Of edits in one place those of lines that a case runs: no other one does anything to it."""
    runs = _asking(sources, lambda place: coverage.may_run(place, case.number))
    return [p for p in proposals if runs(p.edits[0])]


def made_to_fit(language: Language, edit: TrialEdit) -> bool:
    """Whether an edit was made for the values that are due: such a one fits nearly anything."""
    return language.edits.invents(edit.kind) == "a value"


def _asking(
    sources: Mapping[str, Source], ran: Callable[[Place], bool]
) -> Callable[[TrialEdit], bool]:
    """Whether the statement of an edit ran, or is one that no recording tells of (``global``)."""
    told = {n: frozenset(language_of(n).reading.statements(s)) for n, s in sources.items()}
    return by_place(sources, lambda place: ran(place) or place[1] not in told[place[0]])
