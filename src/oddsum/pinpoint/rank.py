"""Ranks what the trials found, and turns it into leads with their accounts."""

from __future__ import annotations

from collections.abc import Sequence

from oddsum.model.lead import Edit, Evidence, Lead, Mend, Slip
from oddsum.model.outcome import CaseResult
from oddsum.pinpoint.coverage import Coverage, place_of
from oddsum.pinpoint.edits.place import quoted
from oddsum.source.program import Source

MOST_LEADS = 6


class Confirmed:
    """A slip whose mend was confirmed by a full check in isolated processes."""

    def __init__(
        self, slip: Slip, source: Source, settles: tuple[int, ...], breaks: tuple[int, ...]
    ) -> None:
        self.slip, self.source, self.settles, self.breaks = slip, source, settles, breaks

    def order(self) -> tuple[float, ...]:
        """What comes first: settles most and breaks least, then the likelier, then the smaller."""
        settled = len(self.settles) - len(self.breaks)
        return (-settled, len(self.breaks), -self.slip.likely, self.slip.size, self.slip.line)


def score(confirmed: Confirmed, odd: int) -> float:
    """How far a lead explains what is wrong, from 0 to 1.

    The share of odd cases it settles, less what it breaks, weighed with how common the slip is; a
    lead that settles everything and breaks nothing stays above every other.
    """
    settled = max(0.0, (len(confirmed.settles) - len(confirmed.breaks)) / max(1, odd))
    whole = settled == 1.0 and not confirmed.breaks
    weighed = settled * (0.5 + 0.45 * confirmed.slip.likely)
    return round(weighed if whole else 0.5 * weighed, 3)


def leads(
    confirmed: Sequence[Confirmed], results: Sequence[CaseResult], coverage: Coverage
) -> tuple[Lead, ...]:
    """Make leads, best first, one place once; equal explanations stand on one lead."""
    odd = [r.number for r in results if r.outcome.odd]
    agreeing = [r.number for r in results if r.outcome == "agrees"]
    best: dict[tuple[str, int], list[Confirmed]] = {}
    for one in sorted(confirmed, key=Confirmed.order):
        best.setdefault((one.slip.file, one.slip.line), []).append(one)
    made = []
    for rank, group in enumerate(list(best.values())[:MOST_LEADS], 1):
        first, *others = group
        equals = [o for o in others if (o.settles, o.breaks) == (first.settles, first.breaks)]
        made.append(_lead(rank, first, equals, odd, agreeing, coverage))
    return tuple(made)


def _lead(
    rank: int,
    one: Confirmed,
    equals: list[Confirmed],
    odd: list[int],
    agreeing: list[int],
    coverage: Coverage,
) -> Lead:
    slip = one.slip
    edit = edit_of(one.source, slip)
    ways = [f"{quoted(o.slip.old)} → {quoted(o.slip.new)}" for o in equals]
    return Lead(
        rank=rank,
        lines=tuple(range(edit.line, edit.end + 1)),
        file=slip.file,
        function=slip.function,
        kind=slip.kind,
        where=slip.where,
        what=slip.what,
        how=_how(slip, edit, ways),
        mend=Mend((edit,), one.settles, one.breaks),
        score=score(one, len(odd)),
        evidence=tuple(_evidence(one, odd, agreeing, coverage, len(equals))),
        equals=tuple(ways),
    )


def _how(slip: Slip, edit: Edit, ways: list[str]) -> str:
    line = edit.after[0].strip() if len(edit.after) == 1 else ""
    text = slip.how + (f" The line then reads: `{line}`" if line else "")
    if ways:
        text += f" The cases would be settled as well by {', or by '.join(ways)}."
    return text


def _evidence(
    one: Confirmed, odd: list[int], agreeing: list[int], coverage: Coverage, equals: int
) -> list[Evidence]:
    found = [Evidence("trial", "for", f"a change here settles {_of(len(one.settles), len(odd))}")]
    if one.breaks:
        found.append(Evidence("trial", "against", f"and breaks {_cases(len(one.breaks))}"))
    else:
        found.append(Evidence("trial", "for", "and breaks none"))
    if len(one.settles) < len(odd):
        left = len(odd) - len(one.settles)
        verb = "stays" if left == 1 else "stay"
        found.append(Evidence("trial", "against", f"{_cases(left)} {verb} odd"))
    place = place_of(one.source, one.slip.line)
    in_odd = coverage.cases_at(place, [n for n in odd if n in coverage.ran])
    in_agreeing = coverage.cases_at(place, [n for n in agreeing if n in coverage.ran])
    known = [n for n in agreeing if n in coverage.ran]
    if in_odd:
        found.append(Evidence("coverage", "for", f"runs in {_of(len(in_odd), len(odd))}"))
    if known and len(in_agreeing) < len(known):
        rest = len(known) - len(in_agreeing)
        found.append(
            Evidence("coverage", "for", f"does not run in {_cases(rest)} that {_agree(rest)}")
        )
    count = len(in_agreeing)
    if count:
        found.append(
            Evidence("coverage", "against", f"runs in {_cases(count)} that {_agree(count)}, too")
        )
    if equals:
        text = f"{equals} other {'change' if equals == 1 else 'changes'} here would fit as well"
        found.append(Evidence("trial", "against", text))
    return found


def _of(count: int, total: int) -> str:
    if count < total:
        return f"{count} of {total} odd cases"
    return {1: "the only odd case", 2: "both odd cases"}.get(total, f"all {total} odd cases")


def _agree(count: int) -> str:
    return "agrees" if count == 1 else "agree"


def _cases(count: int) -> str:
    return "1 case" if count == 1 else f"{count} cases"


def edit_of(source: Source, slip: Slip) -> Edit:
    """The edit in whole lines, as the contract wants it."""
    first = source.text.count("\n", 0, slip.start)
    last = source.text.count("\n", 0, slip.stop)
    before = source.text.split("\n")[first : last + 1]
    text = source.text[: slip.start] + slip.new + source.text[slip.stop :]
    after = text.split("\n")[first : last + 1 + slip.new.count("\n") - slip.old.count("\n")]
    return Edit(source.name, first + 1, last + 1, tuple(before), tuple(after))
