"""Other limits for a comparison: one for each way to part the values that were seen there."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterable

SIGNS = frozenset({"<", "<=", ">", ">="})
TURNED = str.maketrans("<>", "><")  # a sign as it is read from the other side
_MOST = 8  # limits that are told
_ROUND = (1000, 500, 100, 50, 10, 5, 1, 0.5, 0.1, 0.05, 0.01)  # what people choose, the first first

Number = int | float


def limits(sign: str, now: Number, seen: Iterable[Number]) -> list[Number]:
    """Limits for ``value SIGN limit`` that part the values seen in another way than ``now`` does.

    Of all that part them alike it is the roundest, and the one nearest to ``now``; the ways that
    are nearest to the present one come first. Both sides have some of the values.
    """
    values = sorted(set(seen))
    takes_high = sign in (">=", "<")  # else the lower value itself is a limit, and the higher none
    at = bisect_left(values, now) if takes_high else bisect_right(values, now)
    ways = sorted((n for n in range(1, len(values)) if n != at), key=lambda n: (abs(n - at), n))
    return [_roundest(values[n - 1], values[n], takes_high, now) for n in ways[:_MOST]]


def _roundest(low: Number, high: Number, takes_high: bool, now: Number) -> Number:
    """The roundest number from one to the other; that one of them is left out which parts them
    otherwise.
    """
    near = min(max(now, low), high)
    for step in _ROUND:
        multiples = (round((near // step + n) * step, 10) for n in (-1, 0, 1, 2))
        some = [m for m in multiples if (low < m <= high if takes_high else low <= m < high)]
        if some:
            best = min(some, key=lambda m: (abs(m - now), m))
            return int(best) if math.floor(best) == best else best
    return high if takes_high else low
