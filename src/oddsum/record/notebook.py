"""A page of the notebook, begun with what is known: where, what, how, and how it was found."""

from __future__ import annotations

from collections.abc import Sequence

from oddsum.languages import language_of
from oddsum.languages.language import function_at
from oddsum.mend.words import edit_words
from oddsum.model.history import Entry, PastRun, Try
from oddsum.model.lead import Edit, Lead
from oddsum.pinpoint.words import kind_title
from oddsum.record.changes import odd_since
from oddsum.source.program import Source

_LEVELS = ("where", "where and what", "where, what and how")


def page_for(
    edits: Sequence[Edit],
    settled: Sequence[str],
    source: Source,
    *,
    leads: Sequence[tuple[Lead, int]] = (),
    runs: Sequence[PastRun] = (),
    tries: Sequence[Try] = (),
    now: float,
) -> Entry:
    """The page for a change that was kept and settled these cases.

    ``source`` is the program before the change; ``leads`` come with how far each is uncovered (0 to
    2); ``runs`` and ``tries`` are those recorded so far. ``now`` in seconds since 1970.
    """
    lead, level = _lead_on(edits, leads)
    known = [("settled", ", ".join(settled))]
    if lead is not None:
        told = f"{lead.letter} named the place; {_LEVELS[level]} was uncovered"
        if level == len(_LEVELS) - 1 and lead.mend is not None:
            taken = tuple(lead.mend.edits) == tuple(edits)
            told += ", and its mend taken over" if taken else ", and another mend written"
        known.append(("lead", told))
        known += [("proof", e.text) for e in lead.evidence if e.side == "for"][:1]
    else:
        known.append(("lead", "none named this place"))
    since = odd_since(runs, settled)
    if since is not None:
        known.append(("took", _took(now - since)))
        count = sum(t.at >= since for t in tries)
        if count:
            known.append(("tries", f"{count}, with the one that was kept"))
    return Entry(
        at=now,
        where="; ".join(_where(e, source) for e in edits),
        what=kind_title(lead.kind) if lead is not None else "",
        how="; ".join(edit_words(e) for e in edits),
        known=tuple(known),
    )


def _lead_on(edits: Sequence[Edit], leads: Sequence[tuple[Lead, int]]) -> tuple[Lead | None, int]:
    """The first lead that names a line of the change, and how far it is uncovered."""
    lines = {(e.file, n) for e in edits for n in range(e.line, max(e.line, e.end) + 1)}
    for lead, level in leads:
        if any((lead.file, n) in lines for n in lead.lines):
            return lead, level
    return None, 0


def _where(edit: Edit, source: Source) -> str:
    function = function_at(language_of(source.name), source, edit.line)
    place = f"in {function}" if function else "in the main part"
    lines = f"line {edit.line}" if edit.end <= edit.line else f"lines {edit.line} to {edit.end}"
    return f"{edit.file}, {lines}, {place}"


def _took(seconds: float) -> str:
    """A time in words: ``40 seconds``, ``12 minutes``, ``2 hours``, ``3 days``."""
    for size, word in ((86400, "day"), (3600, "hour"), (60, "minute"), (1, "second")):
        if seconds >= size or size == 1:
            count = max(1, round(seconds / size))
            return f"{count} {word}{'s' if count > 1 else ''} from the first odd run to this change"
    return ""
