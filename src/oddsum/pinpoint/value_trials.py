"""Tries values in the place of what expressions give, with as many processes as there are."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Generic, TypeVar

import msgspec

from oddsum.model.case import Case
from oddsum.run.trials import Allowance, TrialBench, Valued
from oddsum.source.program import Source

_BESIDE = 4  # agreeing cases whose values an expression should leave as they are

Verdict = TypeVar("Verdict")
T = TypeVar("T")


class Asked(msgspec.Struct, frozen=True):
    """Expressions that are looked for at a place: what gives the values that rows (case and number
    each) found to be right; or, with ``when``, what holds where these are due.
    """

    place: int
    rows: tuple[tuple[int, int], ...]
    when: bool = False


class ValueTrials(Generic[Verdict]):
    """Each process has its share of the program's expressions, and knows the values of these.

    ``allowance`` says what a case may take; it is asked once for each process and case.
    """

    def __init__(
        self,
        benches: Sequence[TrialBench[Verdict]],
        odd: Sequence[Case],
        agreeing: Sequence[Case],
        allowance: Callable[[TrialBench[Verdict], Case], Allowance],
    ) -> None:
        self._benches, self._allowance = benches, allowance
        self.odd = odd
        self._beside = [c.number for c in agreeing if not c.files][:_BESIDE]
        self._allowed: dict[int, Allowance] = {}  # by case

    def begin(self, sources: Mapping[str, Source], cases: Sequence[Case]) -> None:
        """Make the processes ready for trying values on these cases, in all files as given."""

        def work(number: int) -> None:
            bench = self._benches[number]
            for case in cases:  # of the program as it is
                self._allowed[case.number] = self._allowance(bench, case)
            bench.load({name: s.text for name, s in sources.items()}, [])

        self._at_once(work)

    def values(
        self, case: Case, seconds: float, only: Sequence[int] | None
    ) -> list[Valued[Verdict]]:
        """Put other values in the place of what expressions give on an odd case, for so many
        seconds: of the places in ``only``, or of all; and lines that are missing in every gap."""
        count = len(self._benches)

        def work(number: int) -> list[Valued[Verdict]]:
            some = only if only is None else [p for p in only if p % count == number]
            allowed = self._allowed[case.number]
            return self._benches[number].values(case, allowed, seconds, some, (number, count))

        return [one for some in self._at_once(work) for one in some]

    def expressions(
        self, asked: Sequence[Asked], seconds: float, go_on: Callable[[], bool]
    ) -> list[list[tuple[str, float]]]:
        """What is found for each, the smallest first, in so many seconds; nothing for those that
        it did not come to before ``go_on`` said no more."""
        found: list[list[tuple[str, float]]] = [[] for _ in asked]

        def work(number: int) -> None:
            for n, one in enumerate(asked):
                if one.place % len(self._benches) == number and go_on():
                    found[n] = self._express(number, one, seconds)

        self._at_once(work)
        return found

    def _express(self, number: int, one: Asked, seconds: float) -> list[tuple[str, float]]:
        case = next(c for c in self.odd if c.number == one.rows[0][0])
        allowed = self._allowed[case.number]
        return self._benches[number].express(
            case, one.place, one.rows, self._beside, allowed, seconds, when=one.when
        )

    def _at_once(self, work: Callable[[int], T]) -> list[T]:
        """Have every process do its share, and wait for all of them."""
        with ThreadPoolExecutor(len(self._benches), thread_name_prefix="values") as pool:
            return list(pool.map(work, range(len(self._benches))))
