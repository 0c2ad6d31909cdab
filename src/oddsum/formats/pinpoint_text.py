"""``oddsum pinpoint``: the leads to read, no further than asked."""

from __future__ import annotations

import textwrap
from shlex import quote

from oddsum.formats.ruled import DOUBLE, SINGLE, WIDTH, heading
from oddsum.model.case import LEVELS, Reveal
from oddsum.model.lead import Evidence, Lead, Pinpointing
from oddsum.pinpoint.words import asked, nothing_found, verdict
from oddsum.trace.words import counted

_HALF = WIDTH // 2 - 2


def write(found: Pinpointing, reveal: Reveal = "where") -> str:
    """The leads down to the level asked for, with how to ask for the next."""
    right = f"{counted(found.trials, 'trial')} in {found.seconds:.1f} s"
    lines = [heading(f"LEADS IN {found.program.upper()}", right)]
    if not found.leads:
        return "\n".join([*lines, "", *textwrap.wrap(nothing_found(found), WIDTH)]) + "\n"
    for lead in found.leads:
        lines += ["", *_lead(lead, reveal)]
    lines += _notes(found, reveal)
    deeper = {"where": "what", "what": "how"}.get(reveal)
    if deeper:
        lines += [
            "",
            f"To uncover {deeper}: oddsum pinpoint {quote(found.program)} --reveal {deeper}",
        ]
    if found.ask is not None:
        lines += ["", *textwrap.wrap(asked(found.ask, LEVELS.index(reveal)), WIDTH)]
    lines += [f"Note: {r}" for r in found.remarks]
    return "\n".join(lines) + "\n"


def _lead(lead: Lead, reveal: Reveal) -> list[str]:
    lines = [f"  {lead.letter}  {lead.where}  ({verdict(lead.score)})"]
    if reveal in ("what", "how"):
        lines += ["", *_wrapped(lead.what), "", *_account(lead)]
    if reveal == "how":
        lines += ["", *_wrapped(lead.how), ""]
        for edit in lead.mend.edits if lead.mend is not None else ():
            lines += [f"     {edit.line + n:>4}  now   {x}" for n, x in enumerate(edit.before)]
            lines += [f"     {edit.line + n:>4}  then  {x}" for n, x in enumerate(edit.after)]
    return lines


def _wrapped(text: str) -> list[str]:
    return textwrap.wrap(text, WIDTH - 5, initial_indent=" " * 5, subsequent_indent=" " * 5)


def _account(lead: Lead) -> list[str]:
    """The evidence as an account: what speaks for it, what speaks against it, the verdict."""
    sides = [_entries([e for e in lead.evidence if e.side == s]) for s in ("for", "against")]
    rows = max(map(len, sides), default=0)
    lines = [f"     {'speaks for it':<{_HALF}}speaks against it", "     " + SINGLE * (WIDTH - 5)]
    for n in range(rows):
        left, right = (s[n] if n < len(s) else "" for s in sides)
        lines.append(f"     {left:<{_HALF}}{right}".rstrip())
    return [*lines, "     " + DOUBLE * (WIDTH - 5), f"     {verdict(lead.score)}"]


def _entries(evidence: list[Evidence]) -> list[str]:
    lines: list[str] = []
    for entry in evidence:
        lines += textwrap.wrap(entry.text.replace("`", ""), _HALF - 3, subsequent_indent="  ")
    return lines


def _notes(found: Pinpointing, reveal: Reveal) -> list[str]:
    """The reader's notes; those on the lines of covered leads are only counted."""
    covered = {(x.file, n) for x in found.leads for n in x.lines} if reveal == "where" else set()
    shown = [n for n in found.notes if (n.file, n.line) not in covered]
    hidden = len(found.notes) - len(shown)
    if not found.notes:
        return []
    lines = ["", heading("A READER WOULD ASK"), ""]
    for note in shown:
        lines += textwrap.wrap(
            note.text, WIDTH - 7, initial_indent=f"{note.line:>5}  ", subsequent_indent=" " * 7
        )
    if hidden:
        lines.append(f"       {counted(hidden, 'note')} on lines that are still covered")
    return lines
