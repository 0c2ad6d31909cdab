"""``oddsum pinpoint --format json``."""

from __future__ import annotations

from typing import Any

from oddsum.formats.json_text import dump
from oddsum.model.case import Reveal
from oddsum.model.lead import Ask, Edit, Evidence, Gives, Lead, Note, Pinpointing, RightValue

_DEPTH: dict[Reveal, int] = {"where": 1, "what": 2, "how": 3}


def write(found: Pinpointing, reveal: Reveal = "how") -> str:
    """The contract's object; what lies deeper than ``reveal`` is null."""
    return dump(
        {
            "program": found.program,
            "seconds": found.seconds,
            "trials": found.trials,
            "agrees": list(found.agrees),
            "odd": list(found.odd),
            "leads": [_lead(lead, _DEPTH[reveal]) for lead in found.leads],
            "notes": [_note(note, found, reveal) for note in found.notes],
            "ask": _ask(found.ask, _DEPTH[reveal]) if found.ask is not None else None,
        }
    )


def _lead(lead: Lead, depth: int) -> dict[str, Any]:
    mend = lead.mend if depth > 2 else None
    return {
        "rank": lead.rank,
        "lines": list(lead.lines),
        "function": lead.function,
        "kind": lead.kind if depth > 1 else None,
        "where": lead.where,
        "what": lead.what if depth > 1 else None,
        "how": lead.how if depth > 2 else None,
        "mend": mend
        and {
            "edits": [_edit(e) for e in mend.edits],
            "settles": list(mend.settles),
            "breaks": list(mend.breaks),
        },
        "score": lead.score,
        "with": list(lead.beside),
        "values": [_value(v) for v in lead.values] if depth > 1 else [],
        "evidence": [_evidence(e, depth) for e in lead.evidence],
    }


def _ask(ask: Ask, depth: int) -> dict[str, Any] | None:
    if depth < 2:
        return None
    given = {"call": ask.call} if ask.call is not None else {"stdin": ask.stdin}
    return {**given, "gives": [_gives(g) for g in ask.gives] if depth > 2 else None}


def _gives(gives: Gives) -> dict[str, Any]:
    way = {"way": gives.way} if gives.way else {}
    return {"rank": gives.rank, "actual": gives.actual, **way}


def _value(value: RightValue) -> dict[str, Any]:
    return {
        "case": value.case,
        "line": value.line,
        "visit": value.visit,
        "expression": value.expression or "what is printed here",
        "gave": value.gave,
        "would": value.would,
        **({"when": value.when} if value.when else {}),
    }


def _note(note: Note, found: Pinpointing, reveal: Reveal) -> dict[str, Any]:
    """A note; on the line of a lead its text says what is wrong, which lies deeper than where."""
    covered = reveal == "where" and any(
        note.file == lead.file and note.line in lead.lines for lead in found.leads
    )
    return {
        "line": note.line,
        "rule": None if covered else note.rule,
        "text": None if covered else note.text,
    }


def _edit(edit: Edit) -> dict[str, Any]:
    return {
        "file": edit.file,
        "line": edit.line,
        "end": edit.end,
        "before": list(edit.before),
        "after": list(edit.after),
    }


def _evidence(evidence: Evidence, depth: int) -> dict[str, Any]:
    if depth == 1:
        return {"kind": evidence.kind, "side": None, "text": None}
    return {"kind": evidence.kind, "side": evidence.side, "text": evidence.text}
