"""Which lines ran in which cases, and how suspicious that makes them."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from functools import cache
from typing import TypeVar

import msgspec

from oddsum.languages import language_of
from oddsum.model.lead import TrialEdit
from oddsum.source.program import Source

Place = tuple[str, int]
T = TypeVar("T")


class Coverage(msgspec.Struct, frozen=True):
    """For each recorded case, by number: the places (file, first line) of statements visited.

    ``cut``: the cases of which not all was recorded. ``steps``: how many each took.
    """

    ran: dict[int, frozenset[Place]]
    cut: frozenset[int] = frozenset()
    steps: dict[int, int] = {}

    def cases_at(self, place: Place, numbers: Iterable[int]) -> tuple[int, ...]:
        """Those of these cases in which a place ran."""
        return tuple(n for n in numbers if place in self.ran.get(n, frozenset()))

    def known(self, numbers: Iterable[int]) -> tuple[int, ...]:
        """Those of these cases that were recorded."""
        return tuple(n for n in numbers if n in self.ran)

    def anywhere(self, numbers: Iterable[int]) -> frozenset[Place]:
        """Places that ran in at least one of these cases."""
        found: frozenset[Place] = frozenset()
        for number in numbers:
            found |= self.ran.get(number, frozenset())
        return found

    def may_run(self, place: Place, number: int) -> bool:
        """Whether a case visits a place, as far as is known."""
        return number in self.cut or number not in self.ran or place in self.ran[number]

    def suspicion(self, place: Place, odd: Iterable[int], agreeing: Iterable[int]) -> float:
        """How suspicious a place is, from 0 to 1, by the Ochiai coefficient.

        It is odd(p) / sqrt(odd · (odd(p) + agreeing(p))), where odd(p) and agreeing(p) count the
        cases of each sort in which the place ran. Source: R. Abreu, P. Zoeteweij, A. J. C. van
        Gemund, "An Evaluation of Similarity Coefficients for Software Fault Localization", PRDC
        2006; the coefficient itself is A. Ochiai's, 1957.
        """
        odd = self.known(odd)
        here = len(self.cases_at(place, odd))
        beside = len(self.cases_at(place, self.known(agreeing)))
        return here / math.sqrt(len(odd) * (here + beside)) if here else 0.0


def place_of(source: Source, line: int) -> Place:
    """The place whose visits say whether a line ran: the first line of its statement."""
    return source.name, language_of(source.name).reading.statement_at(source, line)


def by_place(sources: Mapping[str, Source], ask: Callable[[Place], T]) -> Callable[[TrialEdit], T]:
    """What is asked of the place whose visits an edit matters for; each line is asked of once."""

    @cache
    def of_line(file: str, line: int) -> T:
        return ask(place_of(sources[file], line))

    return lambda edit: of_line(edit.file, edit.runs_at or edit.line)
