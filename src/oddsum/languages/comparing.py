"""What is asked of a comparison whose sign could have been another, in any language."""

from __future__ import annotations

from oddsum.source.quoting import quoted

_LIMIT = {("<", "<="), ("<=", "<"), (">", ">="), (">=", ">")}
_TURNED = {("<", ">"), (">", "<"), ("<=", ">="), (">=", "<=")}


def sign_words(sign: str, new: str, shown: str, left: str, right: str) -> str:
    """What to ask where ``new`` could stand for ``sign``; ``shown`` is the comparison, quoted."""
    if (sign, new) in _LIMIT:
        holds = "also holds" if "=" in sign else "does not hold"
        return (
            f"{shown} {holds} when {quoted(left)} is exactly {quoted(right)}. "
            "Is that the side of the limit that is meant?"
        )
    if (sign, new) in _TURNED:
        return f"{shown}: read it aloud. Is it the larger or the smaller one that is wanted here?"
    return f"{shown} does not ask quite the question that the cases need an answer to."
