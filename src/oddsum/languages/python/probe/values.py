"""Whether two values are the same, by the contract's rule; here, because only here they exist."""

from __future__ import annotations

import math

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]


def same(expected: Any, actual: Any, tolerance: float) -> bool:
    """Compare with ``==``, floats within a relative tolerance, NaN equal to NaN.

    Lists, tuples and dicts are compared item by item, so that the tolerance reaches inside them.
    """
    if isinstance(expected, (int, float)) and isinstance(actual, (int, float)):
        return _same_number(expected, actual, tolerance)
    if type(expected) is type(actual):
        if isinstance(expected, (list, tuple)):
            return len(expected) == len(actual) and all(
                same(e, a, tolerance) for e, a in zip(expected, actual)
            )
        if isinstance(expected, dict):
            return expected.keys() == actual.keys() and all(
                same(expected[k], actual[k], tolerance) for k in expected
            )
    return _truth(expected == actual)


def _same_number(expected: Any, actual: Any, tolerance: float) -> bool:
    if expected == actual:
        return True
    if isinstance(expected, float) or isinstance(actual, float):
        try:
            if math.isnan(expected) or math.isnan(actual):
                return math.isnan(expected) and math.isnan(actual)
            return math.isclose(expected, actual, rel_tol=tolerance, abs_tol=0.0)
        except OverflowError:  # an int too large to become a float
            return False
    return False


def _truth(answer: Any) -> bool:
    """Return the answer of ``==`` as a bool; arrays answer with an array."""
    try:
        return bool(answer)
    except ValueError:
        return bool(answer.all())
