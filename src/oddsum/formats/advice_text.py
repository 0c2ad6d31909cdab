"""``oddsum plan advise``: what a plan misses, with a ready-made input where there is one."""

from __future__ import annotations

import textwrap

from oddsum.advise.advice import Advice, Proposal
from oddsum.formats.ruled import WIDTH, heading
from oddsum.model.case import Case, Plan


def write(plan: Plan, advice: Advice) -> str:
    """A paragraph a gap."""
    count = len(advice.proposals)
    title = f"{plan.program.name.upper()}: WHAT NO CASE TRIES"
    lines = [heading(title, f"{count} found")]
    if not count:
        lines += ["", "  Nothing is missing that could be found: both sides of every limit, every",
                  "  branch, and every loop with no round and one are tried."]  # fmt: skip
    for number, proposal in enumerate(advice.proposals, 1):
        lines += ["", *_paragraph(number, proposal)]
    if any(p.case for p in advice.proposals):
        lines += ["", "  Work out by hand what each should give. --add puts them into the plan,",
                  "  what is expected left open."]  # fmt: skip
    if advice.looked_at < advice.of:
        lines += ["", f"  Looked at were the first {advice.looked_at} of {advice.of} cases."]
    return "\n".join(lines) + "\n"


def _paragraph(number: int, proposal: Proposal) -> list[str]:
    text = proposal.gap.text[:1].upper() + proposal.gap.text[1:]
    lines = textwrap.wrap(f"{number:>2}  {text}.", WIDTH, subsequent_indent="    ")
    if proposal.case is not None:
        lines += [f"    try: {line}" if at == 0 else f"         {line}"
                  for at, line in enumerate(asked_of(proposal.case))]  # fmt: skip
    return lines


def asked_of(case: Case) -> list[str]:
    """What a case runs, as lines: its call, or what is typed in."""
    if case.call is not None:
        return [case.call]
    lines = (case.stdin or "").rstrip("\n").split("\n")
    return ["nothing typed in"] if lines == [""] else [" ⏎ ".join(lines)]
