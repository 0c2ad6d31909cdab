"""Ranks what the trials found, and turns it into leads with their accounts."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import zip_longest

import msgspec

from oddsum.languages import language_of
from oddsum.model.lead import Edit, Lead, Mend, TrialEdit
from oddsum.pinpoint.account import account
from oddsum.pinpoint.evidence import Gathered
from oddsum.pinpoint.holdout import held
from oddsum.pinpoint.proof import prove
from oddsum.pinpoint.proposal import Confirmed, Proposal, Screening
from oddsum.pinpoint.suspects import suspects
from oddsum.pinpoint.values import told
from oddsum.pinpoint.weights import (
    BESIDE_A_MEND,
    LEANING,
    LIKELY,
    PARTLY,
    PUT_IN,
    SETTLED,
    SIZE,
    UNSURE,
)
from oddsum.pinpoint.whole_lines import line_edits
from oddsum.source.edits import edits_of, lines_of
from oddsum.source.program import Source
from oddsum.source.quoting import quoted
from oddsum.trace.words import counted

MOST_LEADS = 6
_MOST_MADE = 3  # leads that settle everything and were made to fit, ahead of lines to look at
_Group = list[tuple[Confirmed, TrialEdit]]  # mends of one place, the best first
_MOST_WAYS = 3  # changes that fit as well, told beside a lead's
_AROUND = re.compile(r"\w*\((.*)\)", re.DOTALL)


def weight(one: Confirmed, gathered: Gathered) -> float:
    """How likely a mend is the one that is meant, from 0 to 1, whatever it settles.

    How common the edits are, weighed with what else speaks for their lines, less for a mend that
    writes much.
    """
    leaning = len(one.leaning_on or ()) / max(1, len(gathered.odd))
    return _likely(one.proposal, gathered) * (1 - LEANING * leaning)


def _likely(proposal: Proposal, gathered: Gathered) -> float:
    beside = min(support(s, gathered) for s in proposal.edits)
    put_in = sum(language_of(s.file).edits.invents(s.kind) == "a line" for s in proposal.edits)
    return min(1.0, proposal.likely * PUT_IN**put_in * beside / (1 + proposal.size / SIZE))


def support(edit: TrialEdit, gathered: Gathered) -> float:
    """What else speaks for an edit, as a factor: coverage, lineage, notes, loops, claims."""
    file, line = edit.file, edit.line
    weigh, place = BESIDE_A_MEND, gathered.place(file, line)
    factor = weigh.shared("coverage", gathered.suspicion(file, line))
    share = gathered.in_lineage(file, line)
    if share is not None and edit.old.strip():  # what is missing is in no lineage
        factor *= weigh.shared("lineage", share)
    if any(edit.kind in note.kinds for note in gathered.notes_at(file, line)):
        factor *= weigh.factors["note"]
    if edit.kind in ("bounds", "index", "placement") and place in gathered.loops:
        factor *= weigh.factors["loop"]
    if any(place in places for _, places in gathered.claims):
        factor *= weigh.factors["claim"]
    return factor


def order(one: Confirmed, gathered: Gathered) -> tuple[float, ...]:
    """What comes first: settles most and breaks least, in one place rather than in two, then the
    likelier."""
    settled = len(one.settles) - len(one.breaks)
    edits = one.proposal.edits
    return (-settled, len(one.breaks), len(edits), -weight(one, gathered), edits[0].line)


def score(one: Confirmed, gathered: Gathered) -> float:
    """How far a lead explains what is wrong, from 0 to 1.

    The share of odd cases it settles, less what it breaks, weighed with how likely the mend is; a
    lead that settles everything and breaks nothing stays above every other.
    """
    settled = max(0.0, (len(one.settles) - len(one.breaks)) / max(1, len(gathered.odd)))
    weighed = settled * (SETTLED + LIKELY * min(1.0, weight(one, gathered)))
    return round(weighed if one.whole else PARTLY * weighed, 3)


def leads(
    confirmed: Sequence[Confirmed],
    gathered: Gathered,
    found: Sequence[Screening] = (),
    *,
    alone: bool = True,
) -> tuple[Lead, ...]:
    """Make leads, best first, one place once; equal explanations stand on one lead.

    ``found`` is what all trials showed: with it each odd case is held out in turn. ``alone``:
    mends that settle everything, where there are such, need nothing beside them.
    """
    held = (_held_out(one, gathered, found) for one in confirmed)
    confirmed = sorted(held, key=lambda c: order(c, gathered))
    places: dict[tuple[str, int], _Group] = {}
    for one in confirmed:
        for edit in one.proposal.edits:
            places.setdefault((edit.file, edit.line), []).append((one, edit))
    groups = list(places.values())[:MOST_LEADS]
    whole = [g for g in groups if g[0][0].whole]
    if whole and alone:
        return _numbered(groups, gathered)
    if whole:
        first, rest = whole[:_MOST_MADE], [g for g in groups if g not in whole]
    else:
        first, rest = _new_ones_first(groups)
    taken = frozenset(gathered.place(e.file, e.line) for group in groups for _, e in group)
    settled = frozenset(n for group in first for n in group[0][0].settles)
    lines = suspects(gathered, taken, settled, behind_a_fit=bool(whole))
    ranked = [*first, *_in_turn(lines, rest)]
    return _numbered(ranked[:MOST_LEADS] if whole else ranked, gathered)


def _numbered(ranked: Sequence[_Group | Lead], gathered: Gathered) -> tuple[Lead, ...]:
    """The leads of places, each at its rank; those that are made already take theirs."""
    groups = [(n, g) for n, g in enumerate(ranked, 1) if not isinstance(g, Lead)]
    ranks = {(g[0][0].proposal.edits, g[0][1]): n for n, g in groups}
    made = tuple(
        msgspec.structs.replace(g, rank=n) if isinstance(g, Lead) else _lead(n, g, ranks, gathered)
        for n, g in enumerate(ranked, 1)
    )
    if len(gathered.odd) == 1 or sum(g[0][0].whole for _, g in groups) > 1:
        return unsure(made)
    return made


def _in_turn(some: Iterable[Lead], others: Iterable[_Group]) -> Iterator[_Group | Lead]:
    """One of the first, one of the second, and so on; of the longer ones the rest."""
    for pair in zip_longest(some, others):
        yield from (one for one in pair if one is not None)


def _new_ones_first(groups: Iterable[_Group]) -> tuple[list[_Group], list[_Group]]:
    """Places whose mends settle cases that those ahead of them leave odd, and the others: where no
    mend settles everything, each case may name a place of its own.
    """
    known, first, rest = set[int](), list[_Group](), list[_Group]()
    for group in groups:
        settles = set(group[0][0].settles)
        (rest if settles <= known else first).append(group)
        known |= settles
    return first, rest


def unsure(made: tuple[Lead, ...]) -> tuple[Lead, ...]:
    """Leads of which none can be sure: other changes fit what is expected as well, or may."""
    return tuple(msgspec.structs.replace(x, score=min(x.score, UNSURE)) for x in made)


def _held_out(one: Confirmed, gathered: Gathered, found: Sequence[Screening]) -> Confirmed:
    if not found or not one.whole or len(gathered.odd) < 2:
        return one
    leaning = held(one.proposal, found, gathered.odd, lambda p: _likely(p, gathered))
    return msgspec.structs.replace(one, leaning_on=leaning)


def _lead(
    rank: int,
    group: list[tuple[Confirmed, TrialEdit]],
    ranks: dict[tuple[tuple[TrialEdit, ...], TrialEdit], int],
    gathered: Gathered,
) -> Lead:
    (one, edit), *others = group
    equals = [
        s
        for o, s in others
        if (o.settles, o.breaks, o.whole) == (one.settles, one.breaks, one.whole)
        and _besides(o, s) == _besides(one, edit)
    ]
    source = gathered.sources[edit.file]
    proof = prove(edit, source, gathered.stories)
    mine = line_edits(source, edit)
    right = gathered.rights.get(gathered.place(edit.file, edit.line))
    ways = _ways(edit, equals, source)
    edits = one.proposal.edits
    parts = [s for s in edits if s is not edit]
    beside = [ranks[edits, s] for s in parts if (edits, s) in ranks]
    return Lead(
        rank=rank,
        lines=lines_of(mine),
        file=edit.file,
        function=edit.function,
        kind=edit.kind,
        where=gathered.named(edit.where, edit.file, edit.line),
        what=" ".join(x for x in (edit.what, proof.text) if x),
        how=_how(edit, mine, proof.then, ways, _with_it(parts, beside)),
        case=proof.case,
        step=proof.step,
        mend=Mend(mend_edits(one.proposal, gathered.sources), one.settles, one.breaks),
        score=score(one, gathered),
        evidence=tuple(account(one, edit, len(ways), gathered)),
        equals=ways,
        values=told(right) if right is not None else (),
        beside=tuple(beside),
    )


def _besides(one: Confirmed, edit: TrialEdit) -> frozenset[TrialEdit]:
    """What a mend changes elsewhere: a change that needs another one fits no better alone."""
    return frozenset(one.proposal.edits) - {edit}


def _ways(edit: TrialEdit, equals: Sequence[TrialEdit], source: Source) -> tuple[str, ...]:
    """What else would do, each once: what only puts a call around another is left out."""
    seen, found = {_text(edit, source), _bare(edit.new)}, list[str]()
    for one in equals:
        told, text, bare = way(one), _text(one, source), _bare(one.new)
        if not seen & {text, bare} and told not in found and told != way(edit):
            found.append(told)
        seen |= {text, bare}
    return tuple(found)


def _text(edit: TrialEdit, source: Source) -> str:
    return source.text[: edit.start] + edit.new + source.text[edit.stop :]


def _bare(text: str) -> str:
    """A text without brackets, and without what is called with it, around the whole of it."""
    while (inner := _AROUND.fullmatch(text.strip())) and _is_closed(inner[1]):
        text = inner[1]
    return text.strip()


def _is_closed(text: str) -> bool:
    depth = 0
    for letter in text:
        depth += (letter == "(") - (letter == ")")
        if depth < 0:
            return False
    return not depth


def way(edit: TrialEdit) -> str:
    """What a change does, in short: for where several stand together."""
    if "\n" in edit.old + edit.new or not edit.old.strip() or not edit.new.strip():
        return edit.how.rstrip(".")
    return f"{quoted(edit.old)} → {quoted(edit.new)}"


def mend_edits(proposal: Proposal, sources: Mapping[str, Source]) -> tuple[Edit, ...]:
    """The edits of a proposal's mend: whole lines, file by file."""
    return tuple(
        edit
        for name, text in proposal.texts(sources).items()
        for edit in edits_of(sources[name], text)
    )


def _how(
    edit: TrialEdit,
    edits: tuple[Edit, ...],
    then: str,
    ways: tuple[str, ...],
    with_it: str,
) -> str:
    text = edit.how
    if len(edits) == 1 and len(edits[0].before) == len(edits[0].after) == 1:
        text += f" The line then reads: `{edits[0].after[0].strip()}`"
    text += f" {then}" if then else ""
    text += with_it
    if ways:
        text += f" The cases would be settled as well by: {'; or '.join(ways[:_MOST_WAYS])}"
        more = len(ways) - _MOST_WAYS
        text += f"; or {counted(more, 'other change')}." if more > 0 else "."
    return text


def _with_it(parts: Sequence[TrialEdit], beside: Sequence[int]) -> str:
    """Where a mend has other parts: at which lead they stand, or what the first of them is."""
    if not parts:
        return ""
    if beside:
        return f" This alone is not enough: see {chr(ord('A') + beside[0] - 1)}, too."
    return f" This alone is not enough. On line {parts[0].line}, too: {parts[0].how}"
