"""The program as a drawing: line numbers, times run, and the leads in its margin."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oddsum.draw.figure import BLUE, Drawing
from oddsum.draw.sheet import Rule, Sheet, Word
from oddsum.model.lead import Lead
from oddsum.source.program import Source


def listing(
    title: str, source: Source, times: Mapping[int, int], leads: Sequence[Lead] = ()
) -> Drawing:
    """A program with how often each line ran, and a letter at the lines that leads name."""
    letters: dict[int, str] = {}
    for lead in reversed(leads):
        if lead.file == source.name:
            letters |= dict.fromkeys(lead.lines, lead.letter)
    sheet = Sheet(title)
    width = max((len(line) for line in source.lines), default=20)
    sheet.row(Word(0, "line", quiet=True), Word(6, "times run", quiet=True))
    sheet.row(Rule(0, 20 + width))
    for number, text in enumerate(source.lines, 1):
        words = [Word(4 - len(str(number)), str(number), quiet=True)]
        if number in times:
            count = f"×{times[number]:,}"
            words.append(Word(15 - len(count), count, quiet=True))
        if number in letters:
            words.append(Word(17, letters[number], bold=True, ink=BLUE))
        sheet.row(*words, Word(20, text.expandtabs(4), bold=number in letters))
    last = len(sheet.rows)
    sheet.edges.append((19, 1.0, last - 0.5))
    sheet.row(Rule(0, 20 + width, double=True))
    named = ", ".join(f"{x.letter}: line {x.lines[0]}" for x in leads if x.file == source.name)
    sheet.row(Word(0, f"leads  {named}" if named else "no lead", quiet=True))
    return sheet.drawing()
