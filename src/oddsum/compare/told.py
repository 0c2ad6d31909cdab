"""What is worth knowing of a case that stopped or does not end, beyond its one sentence."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from oddsum.compare.stops import plain_error
from oddsum.model.outcome import CaseResult, LoopInfo, Outcome

EARLIER = "The cause can lie earlier: a value may be wrong long before a line cannot bear it."
_SHOWN = 60  # characters of a value
_LAST = 6  # lines of standard error


def more_told(result: CaseResult) -> tuple[str, ...]:
    """Sentences for a result that stopped or is endless; none for all others."""
    error = result.run.error
    if error is None or not result.outcome.odd:
        return ()
    if result.outcome is Outcome.ENDLESS:
        return _of_loop(error.loop) if error.loop is not None else ()
    if result.outcome is not Outcome.STOPPED:
        return ()
    plain = plain_error(error)
    said = (plain[:1].upper() + plain[1:] + ".",) if plain and not result.run.starved else ()
    if error.line is None:
        return said
    return (*said, EARLIER)


def values_told(result: CaseResult) -> tuple[tuple[str, str], ...]:
    """The variables at the line where a case stopped, with their values, shortened."""
    error = result.run.error
    if error is None or result.outcome is not Outcome.STOPPED:
        return ()
    return tuple((name, _short(text)) for name, text in error.values)


def rounds_told(result: CaseResult) -> tuple[str, ...]:
    """The last rounds of the loop that a case goes round in, a line each, oldest first."""
    error = result.run.error
    loop = error.loop if error is not None else None
    if loop is None or result.outcome is not Outcome.ENDLESS:
        return ()
    return tuple(", ".join(f"{n} {_short(t)}" for n, t in row) for row in loop.rounds if row)


def errors_told(result: CaseResult) -> tuple[str, ...]:
    """What a program wrote to its standard error, a line each: its last ones, and how many more."""
    lines = result.run.errors.strip().split("\n") if result.run.errors.strip() else []
    if len(lines) <= _LAST:
        return tuple(lines)
    first = f"({len(lines) - _LAST} lines before)"
    return (first, *lines[-_LAST:])


def _of_loop(loop: LoopInfo) -> tuple[str, ...]:
    names = [f"`{n}`" for n in loop.unchanged]
    if not loop.asked or not names:
        return ()
    if len(names) == len(loop.asked) and loop.whole:
        what = names[0] if len(names) == 1 else ", ".join(names[:-1]) + f" and {names[-1]}"
        verb = "never changes" if len(names) == 1 else "never change"
        return (f"While it was watched, {what} in its condition {verb}: it stays as it is.",)
    return (f"Of its condition, {', '.join(names)} never changed while it was watched.",)


def _short(text: str) -> str:
    return text if len(text) <= _SHOWN else text[:36] + " … " + text[-(_SHOWN - 39) :]


def since_words(before: Mapping[str, Outcome], now: Iterable[CaseResult]) -> str:
    """What changed since another run, by the cases' names: ``+2 settled, 1 broke``; else blank."""
    settled = broke = other = 0
    for result in now:
        was = before.get(result.name)
        if was is None or was is result.outcome:
            continue
        if was.odd and not result.outcome.odd:
            settled += 1
        elif result.outcome.odd and not was.odd:
            broke += 1
        else:
            other += 1
    parts = [f"+{settled} settled"] if settled else []
    parts += [f"{broke} broke"] if broke else []
    parts += [f"{other} odd in another way"] if other else []
    return ", ".join(parts)
