"""Lines to look at where no small edit settles everything: what the other evidence says."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.model.lead import Evidence, Lead, Weighed
from oddsum.pinpoint.account import line_account
from oddsum.pinpoint.coverage import Place
from oddsum.pinpoint.grounds import Grounds
from oddsum.pinpoint.proof import Proof, running_at
from oddsum.source.outline import function_at

MOST = 3  # leads without a mend
_LEFT = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.Import, ast.ImportFrom)


def suspects(grounds: Grounds, taken: frozenset[Place], first_rank: int) -> tuple[Lead, ...]:
    """The most suspicious lines that no lead names yet, as leads without a mend.

    Their order is by the Ochiai coefficient of their coverage (see ``coverage``), weighed with
    whether wrong values go back to them, and with notes, loops and claims.
    """
    weighed = sorted(
        ((_weight(grounds, place), place) for place in _statements(grounds) if place not in taken),
        key=lambda pair: (-pair[0], pair[1]),
    )
    chosen = [(w, place) for w, place in weighed if w > 0][:MOST]
    return tuple(_lead(grounds, place, w, n) for n, (w, place) in enumerate(chosen, first_rank))


def weights(grounds: Grounds) -> tuple[Weighed, ...]:
    """How much speaks against each statement that ran in some odd case."""
    return tuple(
        Weighed(file, line, round(_weight(grounds, (file, line)), 3))
        for file, line in _statements(grounds)
    )


def _statements(grounds: Grounds) -> Iterator[Place]:
    """The statements that ran in some odd case; definitions are left out."""
    ran = grounds.coverage.anywhere(grounds.odd)
    for name, source in grounds.sources.items():
        for node in ast.walk(source.tree or ast.Module([], [])):
            if isinstance(node, ast.stmt) and not isinstance(node, _LEFT):
                if (name, node.lineno) in ran:
                    yield name, node.lineno


def _weight(grounds: Grounds, place: Place) -> float:
    file, line = place
    weight = grounds.suspicion(file, line)
    share = grounds.in_lineage(file, line)
    if share is not None:
        weight *= 0.4 + 0.6 * share
    if grounds.notes_at(file, line):
        weight *= 1.5
    if place in grounds.loops:
        weight *= 1.4
    if any(place in places for _, places in grounds.claims):
        weight *= 1.5
    return min(1.0, weight)


def _lead(grounds: Grounds, place: Place, weight: float, rank: int) -> Lead:
    file, line = place
    source = grounds.sources[file]
    function = function_at(source, line)
    proof = running_at(source, line, grounds.stories)
    inside = f", in {function}" if function else ""
    return Lead(
        rank=rank,
        lines=(line,),
        file=file,
        function=function,
        kind="look here",
        where=f"Look at line {line}{inside}.",
        what=_what(grounds, place, proof),
        how="No small change that was tried settles every case. Follow the line in Trace, and "
        "compare each of its values with what you expect there.",
        mend=None,
        score=round(0.3 * weight, 3),
        evidence=tuple(_evidence(grounds, place)),
        case=proof.case,
        step=proof.step,
    )


def _what(grounds: Grounds, place: Place, proof: Proof) -> str:
    notes = " ".join(n.text for n in grounds.notes_at(*place))
    loop = grounds.loops.get(place)
    told = f"In case {loop[0]}: {loop[1]}" if loop is not None else ""
    parts = [notes, told, proof.text]
    said = " ".join(p for p in parts if p)
    return said or "What is wrong here was not found out; the evidence only points here."


def _evidence(grounds: Grounds, place: Place) -> Iterator[Evidence]:
    yield from line_account(grounds, *place)
    yield Evidence("trial", "against", "no small change here settles every odd case")
