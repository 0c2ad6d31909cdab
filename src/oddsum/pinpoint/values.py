"""Which values would have been right: found by trial, case by case, and told in a sentence.

The best evidence there is short of a mend: with this value in the place of that one, the case
agrees. It says where, and what is wanted there; an expression that gives it is looked for next.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable, Mapping, Sequence

import msgspec

from oddsum.languages import language_of
from oddsum.model.case import Case
from oddsum.model.lead import RightValue
from oddsum.pinpoint.trial_runner import Judged
from oddsum.pinpoint.value_trials import ValueTrials
from oddsum.run.trials import Spot, Valued
from oddsum.source.program import Source
from oddsum.source.quoting import quoted
from oddsum.trace.words import ordinal, short, short_apart

MOST_CASES = 6  # odd cases in which values are looked for
_FIRST, _NEXT = 0.8, 0.25  # seconds for the first case, and for each further one
_SHORT = 40  # characters of a value that are told
_IN_ROUNDS = 0.7  # what a value says that is due in some rounds only: more of these fit by chance
_PER_CASE = 12  # values that would be right at one place in one case
_THEN = " then "  # between the values that an expression gave one after the other
_NUMBER = re.compile(r"-?\d+(\.\d+)?(e[+-]?\d+)?\Z")

Found = Valued[Judged]


class Right(msgspec.Struct, frozen=True):
    """An expression with the values that would have been right there, by case.

    Of a gap between statements ``text`` is blank, and the values are what should be printed there;
    ``lines``: over how many the expression goes, or the statement beside the gap. ``amount`` or
    ``factor``: all that would be right is more by so much, or so many times as much.
    """

    spot: Spot
    text: str
    by_case: dict[int, Found]
    sure: tuple[int, ...] = ()  # the cases for which no other value was found
    amount: float | None = None
    factor: float | None = None
    lines: int = 1

    @property
    def place(self) -> int:
        """The number of the expression in the trials."""
        return next(iter(self.by_case.values())).place

    @property
    def turns(self) -> bool:
        """Whether it is a condition that would have to come out the other way."""
        text_of = language_of(self.spot.file).asking.text_of
        truths = text_of(True), text_of(False)
        return not self.spot.gap and all(f.would in truths for f in self.by_case.values())

    @property
    def printed(self) -> str | None:
        """The lines that would have to be printed in a gap; None of an expression."""
        return next(iter(self.by_case.values())).would if self.spot.gap else None

    def leaving(self, settled: frozenset[int]) -> Right:
        """The same without what would be right in these cases."""
        left = {n: found for n, found in self.by_case.items() if n not in settled}
        return msgspec.structs.replace(self, by_case=left)

    def weight(self, odd: int) -> float:
        """How much it says, from 0 to 1: of how many odd cases, and how alike in each of them."""
        share = len(self.by_case) / max(1, min(odd, MOST_CASES))
        alike = self.turns or self.amount is not None or self.factor is not None
        inner = 1.0 if alike else 0.25 if self.spot.gap and not self.spot.prints else 0.5
        if any(f.when for f in self.by_case.values()):
            inner *= _IN_ROUNDS
        return share * share * inner / (1 + len(self.text) / 80)


def right_values(
    trials: ValueTrials[Judged],
    sources: Mapping[str, Source],
    go_on: Callable[[], bool],
    odd: Sequence[Case] | None = None,
) -> list[Right]:
    """Look for values that would be right: in the shortest odd case anywhere, then there alone.

    ``sources`` are the program as it is, or with half a mend in it, and ``odd`` the cases that are
    odd then. Ends early, with what is known, where ``go_on`` says so. The best come first.
    """
    cases = (trials.odd if odd is None else odd)[:MOST_CASES]
    trials.begin(sources, cases)
    # Of a gap, for each text by itself; of some rounds only, for each sort of condition.
    found: dict[tuple[int, str], dict[int, list[Found]]] = {}
    gaps: set[int] = set()
    for case in cases:
        if not go_on():
            break
        # Lines are printed in all gaps anyway; they say nothing of where to look for values.
        only = list(dict.fromkeys(place for place, _ in found if place not in gaps)) or None
        for one in trials.values(case, _NEXT if only is not None else _FIRST, only):
            if one.verdict.agrees:
                if one.spot.gap:
                    gaps.add(one.place)
                key = one.place, one.would if one.spot.gap else one.sort
                some = found.setdefault(key, {}).setdefault(case.number, [])
                if len(some) < _PER_CASE:
                    some.append(one)
    rights = [_right(by_case, sources) for by_case in found.values()]
    return sorted(rights, key=lambda r: (-r.weight(len(cases)), not r.turns, r.place))


def _right(by_case: Mapping[int, Sequence[Found]], sources: Mapping[str, Source]) -> Right:
    """The values of one place that are most alike in all cases."""
    spot = next(iter(by_case.values()))[0].spot
    text = sources[spot.file].text[spot.start : spot.stop]
    lines = text.count("\n") + 1
    if spot.gap:
        text = ""
    for measure in ("amount", "factor"):
        common = _common(by_case.values(), measure)
        if common is not None:
            chosen = {
                n: next(f for f in some if _is(_measured(f, measure), common))
                for n, some in by_case.items()
            }
            return Right(spot, text, chosen, tuple(chosen), lines=lines, **{measure: common})
    sure = tuple(n for n, some in by_case.items() if len({f.would for f in some}) == 1)
    chosen = {n: some[0] for n, some in by_case.items()}
    return Right(spot, text, chosen, sure, lines=lines)


def _common(by_case: Iterable[Sequence[Found]], measure: str) -> float | None:
    """An amount, or a factor, that stands for every case."""
    first, *others = by_case
    for one in first:
        value = _measured(one, measure)
        if value is not None and all(
            any(_is(_measured(f, measure), value) for f in some) for some in others
        ):
            return value
    return None


def _is(one: float | None, other: float) -> bool:
    return one is not None and math.isclose(one, other, rel_tol=1e-9, abs_tol=1e-12)


def _measured(found: Found, measure: str) -> float | None:
    gave, would = (_number(text.partition(_THEN)[0]) for text in (found.gave, found.would))
    if gave is None or would is None:
        return None
    if measure == "amount":
        return would - gave
    return would / gave if gave else None


def _number(text: str) -> float | None:
    return float(text) if _NUMBER.match(text) else None


def told(right: Right) -> tuple[RightValue, ...]:
    """The values as a lead has them."""
    return tuple(
        RightValue(
            n, right.spot.file, right.spot.line, f.visit, right.text, f.gave, f.would, f.when
        )
        for n, f in sorted(right.by_case.items())
    )


def in_words(right: Right) -> str:
    """``If `x` on line 30 had given 21.6 in place of 6.0, case 2 would agree; ...``"""
    (first, one), *others = sorted(right.by_case.items())
    if right.spot.gap:
        return _printed_in_words(right)
    text = quoted(short(" ".join(right.text.split()), 50))
    if one.visit == 0 and one.gave == one.would:
        said = f"If {text} on line {right.spot.line} gave other values, case {first} would agree"
    else:
        would, gave = short_apart(one.would, one.gave, _SHORT)
        said = (
            f"If {text} on line {right.spot.line} had given {would} instead of {gave}{_when(one)}, "
            f"case {first} would agree"
        )
    for number, f in others[:2]:
        would, gave = short_apart(f.would, f.gave, _SHORT)
        said += f"; in case {number} it would take {would} instead of {gave}"
    return f"{said}{_alike(right)}."


def _printed_in_words(right: Right) -> str:
    """``If `closed` had been printed after line 9, case 2 would agree, and so would case 4.``"""
    (first, one), *others = sorted(right.by_case.items())
    where = f"{'ahead of' if right.spot.gap == 'before' else 'after'} line {right.spot.line}"
    if right.spot.gap == "behind" and right.lines > 1:
        where += " and all that belongs to it"
    alike = [f"case {n}" for n, f in others if f.visit == one.visit]
    also = f", and so would {' and '.join(alike[:2])}" if alike else ""
    due = f"If {_lines(one.would)} had been printed {where}{_when(one)}"
    return f"{due}, case {first} would agree{also}."


def _lines(text: str) -> str:
    """Lines as they are printed, blanks and all, in a sentence."""
    return " and then ".join(f"`{short(row, _SHORT)}`" for row in text.rstrip("\n").split("\n"))


def _when(one: Found) -> str:
    if one.when:
        return f" wherever {quoted(one.when)}"
    if one.visit == 0:
        return " and so on" if _THEN in one.gave else " each time"
    return f" the {ordinal(one.visit)} time" if one.visit > 1 else ""


def _alike(right: Right) -> str:
    if len(right.by_case) < 2 or right.turns:
        return ""
    if right.amount is not None:
        more = "more" if right.amount > 0 else "less"
        return f": {_plain(abs(right.amount))} {more} each time"
    if right.factor is not None:
        return f": {_plain(right.factor)} times as much each time"
    return ""


def _plain(number: float) -> str:
    return f"{number:.4g}" if not float(number).is_integer() else f"{number:.0f}"
