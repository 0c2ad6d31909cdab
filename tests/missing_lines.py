"""What is missing from what was printed: both languages' probes are held against it."""

from __future__ import annotations

# What is expected, what came out, and the lines that are missing; None where others are wrong, too.
MISSING: list[tuple[str, str, str | None]] = [
    ("a\nb\nc\n", "a\nc\n", "b\n"),
    ("a\nb\n", "b\n", "a\n"),
    ("a\nb\n", "a\n", "b\n"),
    ("a\nb\nc\nd\n", "a\nd\n", "b\nc\n"),
    ("full\nfull\nfull\n", "full\nfull\n", "full\n"),
    ("a\n\nb\n", "a\nb\n", None),  # an empty line alone tells nothing
    ("none\n", "How many? Ages? ", "none\n"),  # behind a question stands nothing
    ("Pay 6\nBye\n", "Age? Pay 6\n", "Bye\n"),
    ("Pay 6\nBye\n", "Age? Pay 6\nCome again? ", "Bye\n"),
    ("Pay 6\n", "Age? Pay 6\n", None),
    ("a\nb\nc\nd\ne\n", "a\n", None),  # too many
    ("Pay 6\nBye\n", "Pay 7\n", None),  # and another one is wrong
    ("Pay 6\n", "Pay 7\n", None),
    ("a\nb", "a\n", "b\n"),
    ("a\n", "", "a\n"),
]
