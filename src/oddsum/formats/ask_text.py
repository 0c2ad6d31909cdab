"""``oddsum ask``: what a recording was asked, and its answer, in lines to read."""

from __future__ import annotations

import textwrap
from collections.abc import Callable, Iterator
from itertools import pairwise
from typing import Any

from oddsum.check.asked import Answer, Asked
from oddsum.formats.ruled import WIDTH, heading

Row = dict[str, Any]
_TITLES = {
    "loops": "ITS LOOPS",
    "calls": "ITS CALLS",
    "lineage": "WHERE IT COMES FROM",
    "apart": "A LINE TAKEN APART",
    "ledger": "NAMES AND LISTS",
    "true": "WHERE IT IS TRUE",
}
_DEEPEST = 12  # levels that a call is set in by
_NOTHING = {
    "loops": "No loop was gone through.",
    "calls": "None of its functions was called.",
    "true": "At no step.",
}


def write(question: str, asked: Asked, answer: Answer) -> str:
    """A heading, then a paragraph or a line for each row of the answer."""
    trace = asked.story.trace
    case = f"case {trace.number}, {trace.case}" if trace.number is not None else trace.case
    title = f"{trace.program.upper()}: {_TITLES[question]}"
    lines = [heading(title, case), ""]
    lines += _WRITERS[question](answer) if answer else [f"  {_NOTHING.get(question, 'Nothing.')}"]
    return "\n".join(lines) + "\n"


def _loops(rows: list[Row]) -> Iterator[str]:
    for row in rows:
        start = f"  line {row['line']}, from step {row['enters']:,}: "
        yield from textwrap.wrap(start + row["text"], WIDTH, subsequent_indent="      ")


def _calls(rows: list[Row]) -> Iterator[str]:
    for row in rows:
        inside = ", ".join(f"{n} = {v}" for n, v in row["arguments"].items())
        came = f"gave {row['gave']}" if row["gave"] is not None else "has not ended"
        if row["raised"] is not None:
            came = f"left by {row['raised']}"
        text = f"{row['function']}({inside})  {came}"
        yield from _under(
            f"  step {row['step']:>5,}  ", "  " * min(row["depth"] - 1, _DEEPEST) + text
        )


def _lineage(rows: list[Row]) -> Iterator[str]:
    for row in rows:
        what = f"{row['name']} = {row['value']}" if row["name"] else row["value"] or "this step"
        start = f"  step {row['step']:>5,}  line {row['line']:>3}  "
        yield from _under(start, f"{'  ' * row['depth']}{what}: {row['why']}")


def _apart(rows: list[Row]) -> Iterator[str]:
    for number, row in enumerate(rows, 1):
        gives = ", ".join(row["gives"]) or "never looked at"
        filled = f"   {row['filled']}" if row["filled"] != row["part"] else ""
        yield from _under(f"  {number:>3}  ", f"{row['part']}{filled}   = {gives}")


def _ledger(rows: list[Row]) -> Iterator[str]:
    for row in rows:
        entry = f"{row['entry']:>3}" if row["entry"] is not None else "   "
        yield from _under(f"  {entry}  ", f"{', '.join(row['names'])}: {row['value']}")


def _true(steps: list[int]) -> Iterator[str]:
    edges = [n for n, (a, b) in enumerate(pairwise(steps), 1) if b != a + 1]
    runs = [steps[a:b] for a, b in pairwise([0, *edges, len(steps)])]
    told = ", ".join(f"{r[0]:,}" if len(r) == 1 else f"{r[0]:,} to {r[-1]:,}" for r in runs)
    yield from textwrap.wrap(f"After step {told}.", WIDTH, initial_indent="  ",
                             subsequent_indent="  ")  # fmt: skip


def _under(start: str, text: str) -> list[str]:
    """A text behind a start, further lines under where it began."""
    inner = len(text) - len(text.lstrip())
    return textwrap.wrap(text.strip(), max(WIDTH, len(start) + inner + 20),
                         initial_indent=start + " " * inner,
                         subsequent_indent=" " * (len(start) + inner + 2),
                         break_on_hyphens=False)  # fmt: skip


_WRITERS: dict[str, Callable[[Any], Iterator[str]]] = {
    "loops": _loops,
    "calls": _calls,
    "lineage": _lineage,
    "apart": _apart,
    "ledger": _ledger,
    "true": _true,
}
