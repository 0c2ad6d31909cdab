"""The pattern across cases: the simplest true sentence that parts the odd from the others."""

from __future__ import annotations

import threading

import msgspec

from oddsum.advise.features import Feature, Known, features_of, values_of
from oddsum.advise.seen import Forks, Seen, forks_of, see
from oddsum.check.traced import Cancelled
from oddsum.compare.numbers import differing_numbers, plain_number
from oddsum.languages.language import Interpreter
from oddsum.languages.outline import Number
from oddsum.model.case import Plan
from oddsum.model.errors import ProgramError, RunError
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.run.scratch import bundle

MOST_LINES = 10_000  # of a program that is read and recorded for this
MOST_RECORDED = 40  # cases; a plan with more is judged by its inputs alone
_LONGEST = 1.0  # processor seconds a case may take to be recorded for this
_LATEST = 5.0  # seconds by the clock: a busy machine must not change what is said
_LIGHT = 2.0  # a sentence about a single odd case has to be as simple as this
_FEW = 3  # cases that agree have to be there for a sentence about a single odd one


class Pattern(msgspec.Struct, frozen=True):
    """Sentences with their counts, and the numbers of the cases they speak of."""

    sentences: tuple[str, ...]
    odd: tuple[int, ...]


def find_pattern(
    plan: Plan,
    interpreter: Interpreter | None,
    results: tuple[CaseResult, ...],
    stop: threading.Event | None = None,
) -> Pattern | None:
    """Say what the odd cases share that no agreeing case has; None where nothing can be said.

    ``interpreter`` is None where the program cannot be recorded: inputs and outputs speak alone.
    """
    odd = [r for r in results if r.outcome.odd]
    agree = [r for r in results if r.outcome is Outcome.AGREES]
    if not odd:
        return None
    files = bundle(plan) if interpreter is not None else None
    if files is not None and files.lines > MOST_LINES:
        interpreter = None  # to read and record it would take minutes
    forks = Forks((), (), (), plan.program.name)
    if interpreter is not None:
        forks = forks_of(plan.program)
    seen: dict[int, Seen] = {}
    if interpreter is not None and len(odd) + len(agree) <= MOST_RECORDED:
        quick = [r for r in (*odd, *agree) if r.run.cpu <= _LONGEST and r.run.seconds <= _LATEST]
        try:
            seen = see(plan, quick, interpreter, forks, stop, files)
        except Cancelled:  # what half of it would say is for nobody
            raise
        except (RunError, ProgramError):
            seen = {}  # what cannot be recorded has inputs and outputs all the same
    cases = {c.number: c for c in plan.cases}
    known = {
        r.number: Known(cases[r.number], values_of(cases[r.number], forks), seen.get(r.number))
        for r in (*odd, *agree)
    }
    features = {number: features_of(one, forks) for number, one in known.items()}
    # That no agreeing case has something is known only where all of its run was seen.
    whole = all(r.number in seen and seen[r.number].complete for r in agree)
    shared = _simplest(
        [features[r.number] for r in odd], [features[r.number] for r in agree], whole
    )
    sentences = [_sentence(shared, len(odd), len(agree))] if shared else []
    sentences += _off_sentences(odd, known)
    if not sentences:
        return None
    return Pattern(tuple(sentences), tuple(r.number for r in odd))


def _simplest(
    odd: list[dict[str, Feature]], agree: list[dict[str, Feature]], whole: bool
) -> Feature | None:
    """The lightest feature that all odd cases have and no agreeing one has.

    ``whole`` says whether every agreeing case was recorded to its end.
    """
    if not agree:
        return None  # nothing to set them apart from
    common = set.intersection(*(set(f) for f in odd))
    for features in agree:
        common -= set(features)
    fits = [odd[0][w] for w in common if whole or not odd[0][w].of_run]
    found = sorted(fits, key=lambda f: (f.weight, len(f.words), f.words))
    if not found:
        return None
    best = found[0]
    if len(odd) == 1 and (len(agree) < _FEW or best.weight > _LIGHT):
        return None  # of one case nearly everything is true that is of no other
    return best


def _sentence(shared: Feature, odd: int, agree: int) -> str:
    who = "The one odd case has" if odd == 1 else f"All {odd} odd cases have"
    if odd == 2:
        who = "Both odd cases have"
    others = (
        "the one that agrees does not" if agree == 1 else f"none of the {agree} that agree does"
    )
    return f"{who} {shared.words}; {others}."


def _off_sentences(odd: list[CaseResult], known: dict[int, Known]) -> list[str]:
    """Whether all that differ are off by one amount, by one factor, or by an item of the input."""
    differ = [r for r in odd if r.outcome is Outcome.DIFFERS and r.expected is not None]
    pairs = [differing_numbers(r.expected or "", r.actual) for r in differ]
    if len(differ) < 2 or len(differ) != len(odd) or None in pairs:
        return []
    both = [p for p in pairs if p is not None]
    who = "Both" if len(both) == 2 else f"All {len(both)}"
    item = _off_by_item([known[r.number] for r in differ], both)
    for words in (_off_amount(both), item, _off_factor(both), _off_side(both)):
        if words:
            return [f"{who} {words}."]
    return []


def _off_amount(pairs: list[tuple[Number, Number]]) -> str:
    amounts = {round(found - wanted, 9) for wanted, found in pairs}
    if len(amounts) != 1:
        return ""
    off = amounts.pop()
    return f"are off by the same amount: {plain_number(abs(off))} too {_much(off)}"


def _off_by_item(cases: list[Known], pairs: list[tuple[Number, Number]]) -> str:
    """Off by the last, or the first, of the numbers that went in."""
    for at, which in ((-1, "last"), (0, "first")):
        for name in {n for n, _ in cases[0].values}:
            items = [_numbers_of(case, name) for case in cases]
            fits = all(
                i and round(abs(found - wanted), 9) == round(abs(i[at]), 9)
                for i, (wanted, found) in zip(items, pairs, strict=True)
            )
            if fits:
                of = "number typed in" if name == "line" else f"item of {name}"
                return f"are off by the {which} {of}"
    return ""


def _numbers_of(case: Known, name: str) -> list[Number]:
    values = [v for n, v in case.values if n == name]
    if name != "line" and values and isinstance(values[0], (list, tuple)):
        values = list(values[0])
    elif name != "line":
        return []
    return [v for v in values if isinstance(v, (int, float)) and not isinstance(v, bool)]


def _off_factor(pairs: list[tuple[Number, Number]]) -> str:
    if not all(wanted for wanted, _ in pairs):
        return ""
    factors = {round(found / wanted, 9) for wanted, found in pairs}
    if len(factors) != 1:
        return ""
    factor = factors.pop()
    if factor == 0:
        return "give 0"
    if factor == -1:
        return "have the sign the other way round"
    return f"are off by the same factor: {plain_number(factor)} times what is expected"


def _off_side(pairs: list[tuple[Number, Number]]) -> str:
    if all(found > wanted for wanted, found in pairs):
        return "give too much, each by another amount"
    if all(found < wanted for wanted, found in pairs):
        return "give too little, each by another amount"
    return ""


def _much(off: float) -> str:
    return "much" if off > 0 else "little"
