"""Names and lists at a step, as a ledger: each list or object a numbered entry with its content.

A name carries the number of its entry, so two names for one list carry the same number.
"""

from __future__ import annotations

import textwrap

from oddsum.draw.figure import BLUE, ChartError, Drawing
from oddsum.draw.sheet import Rule, Sheet, Word
from oddsum.trace.aliases import Ledger, ledger_at
from oddsum.trace.ask import Story
from oddsum.trace.containment import Containment
from oddsum.trace.words import short

_NAME, _VALUE, _WIDTH = 0, 26, 84
_CONTENT = 60  # characters of a list's content in a line
_LINE = 84  # of a sentence


def ledger_sheet(
    title: str, story: Story, step: int, containment: Containment | None = None
) -> Drawing:
    """The names at a step with their values or entries, and the entries. Raises ChartError."""
    found = ledger_at(story, step, containment)
    if not found.names:
        raise ChartError(f"At step {step:,} no variable has a value yet.")
    sheet = Sheet(title)
    sheet.row(Word(_NAME, "name", quiet=True), Word(_VALUE, "value, or its entry", quiet=True))
    start = sheet.row(Rule(0, _WIDTH))
    for name in found.names:
        text = f"entry {name.entry}" if name.entry else short(name.text, _CONTENT)
        sheet.row(Word(_NAME, name.name), Word(_VALUE, text, bold=bool(name.entry),
                  ink=BLUE if name.entry else ""))  # fmt: skip
    sheet.edges.append((_VALUE - 1.5, start, len(sheet.rows) - 0.5))
    sheet.row(Rule(0, _WIDTH, double=True))
    _entries(sheet, found)
    return sheet.drawing()


def _entries(sheet: Sheet, found: Ledger) -> None:
    if not found.entries:
        sheet.row(Word(0, "No list, dict or object yet.", quiet=True))
        return
    sheet.row()
    sheet.row(Word(0, "entry", quiet=True), Word(8, "what it is", quiet=True),
              Word(_VALUE, "content", quiet=True))  # fmt: skip
    start = sheet.row(Rule(0, _WIDTH))
    for entry in found.entries:
        size = f"{entry.type} of {entry.size:,}" if entry.size is not None else entry.type
        lines = _wrapped(entry.text, _CONTENT)
        sheet.row(Word(4 - len(str(entry.number)), str(entry.number), bold=True, ink=BLUE),
                  Word(8, short(size, 16)), Word(_VALUE, lines[0]))  # fmt: skip
        for line in lines[1:]:
            sheet.row(Word(_VALUE, line))
    sheet.edges.append((_VALUE - 1.5, start, len(sheet.rows) - 0.5))
    sheet.row(Rule(0, _WIDTH, double=True))
    for sentence in found.shared():
        for line in textwrap.wrap(sentence, _LINE):
            sheet.row(Word(0, line))


def _wrapped(text: str, width: int) -> list[str]:
    return [text[n : n + width] for n in range(0, len(text), width)][:6] or [""]
