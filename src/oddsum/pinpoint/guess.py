"""The learner's own guess at the line: what the evidence says to it, and no more than that."""

from __future__ import annotations

from oddsum.model.lead import Pinpointing
from oddsum.trace.words import counted


def guess_words(found: Pinpointing, file: str, line: int) -> str:
    """Whether a guessed line is one that a lead names; else what speaks for it or against it.

    It never says which line it is instead.
    """
    for lead in found.leads:
        if lead.file == file and line in lead.lines:
            rank = "the strongest lead" if lead.rank == 1 else f"lead {lead.letter}"
            return f"Line {line} is {rank}. You found the place: now say what is wrong there."
    near = [x for x in found.leads if x.file == file and min(abs(line - n) for n in x.lines) <= 2]
    weight = next((w.weight for w in found.weights if (w.file, w.line) == (file, line)), 0.0)
    if not weight:
        return (
            f"Line {line} runs in none of the {counted(len(found.odd), 'odd case')} that were "
            "recorded, so it cannot have made them odd."
        )
    beside = " You are close: look at the lines around it." if near else ""
    if weight >= 0.6:
        return (
            f"Line {line} has a part in what goes wrong, but no small change there settles it. Ask "
            f"where its values come from.{beside}"
        )
    return (
        f"Little speaks against line {line}: it runs in cases that agree as well, or the wrong "
        f"values do not come from it.{beside}"
    )
