"""What a change does to every case: the numbers of those it settles and breaks."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from typing import Literal

import msgspec

from oddsum.model.outcome import CaseResult, Outcome


class Effect(msgspec.Struct, frozen=True, kw_only=True):
    """What a change does: the numbers of the cases it settles, breaks, or makes odd otherwise.

    ``agreeing`` of ``cases`` agree after it.
    """

    settled: tuple[int, ...] = ()
    broke: tuple[int, ...] = ()
    otherwise: tuple[int, ...] = ()  # odd before and after, and something else comes out
    agreeing: int = 0
    cases: int = 0
    from_nothing: bool = False  # before it, no case could run at all


Turn = Literal["", "settled", "broke", "otherwise"]


def turn_of(was: CaseResult, now: CaseResult) -> Turn:
    """What a change did to one case; blank where it comes out as before."""
    if was.outcome.odd and now.outcome is Outcome.AGREES:
        return "settled"
    if was.outcome is Outcome.AGREES and now.outcome.odd:
        return "broke"
    if now.outcome.odd and (was.outcome is not now.outcome or was.actual != now.actual):
        return "otherwise"
    return ""


def effect_of(before: Mapping[int, CaseResult], after: Mapping[int, CaseResult]) -> Effect:
    """What changed between two checks of the same cases, by number."""
    turns = [(n, turn_of(before[n], now)) for n, now in sorted(after.items()) if n in before]

    def those(turn: Turn) -> tuple[int, ...]:
        return tuple(n for n, found in turns if found == turn)

    agreeing = sum(r.outcome is Outcome.AGREES for r in after.values())
    if not before:
        return Effect(agreeing=agreeing, cases=len(after), from_nothing=True)
    return Effect(
        settled=those("settled"), broke=those("broke"), otherwise=those("otherwise"),
        agreeing=agreeing, cases=len(after),
    )  # fmt: skip


def key_of(name: str, text: str) -> str:
    """The same for the same text of the same file, however it came about."""
    return hashlib.sha256(f"{name}\0{text}".encode()).hexdigest()
