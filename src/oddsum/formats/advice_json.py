"""``oddsum plan advise --format json``."""

from __future__ import annotations

from oddsum.advise.advice import Advice
from oddsum.formats.json_text import dump
from oddsum.model.case import Plan


def write(plan: Plan, advice: Advice) -> str:
    """An object with a row a gap; ``case`` is null where no input was found for it."""
    return dump(
        {
            "program": plan.program.name,
            "plan": plan.file.name if plan.file else None,
            "looked_at": advice.looked_at,
            "gaps": [
                {
                    "kind": p.gap.kind,
                    "file": p.gap.file or None,
                    "line": p.gap.line or None,
                    "text": p.gap.text,
                    "case": p.case
                    and {
                        "name": p.case.name,
                        "kind": p.case.kind,
                        "stdin": p.case.stdin,
                        "call": p.case.call,
                    },
                }
                for p in advice.proposals
            ],
        }
    )
