"""The cases of the plan before and after a change, and what the change did, under a double rule."""

from __future__ import annotations

import time
from collections.abc import Mapping

from oddsum.formats.check_text import brief
from oddsum.mend.effect import Turn, turn_of
from oddsum.mend.words import effect_words, places_words
from oddsum.model.case import Case
from oddsum.model.history import Try
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.inks import INK_OF
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell, Piece, cell, clean
from oddsum.workspace.draft import Draft

Lines = list[list[Piece]]


_TURNS: dict[Turn, str] = {"": "quiet", "settled": "agree", "broke": "odd", "otherwise": "ink"}


def case_columns(width: int, longest: int) -> list[Column]:
    """The columns for so many cells: the two outcomes, the case, what changed, what comes out.

    ``longest`` is the longest name, in cells.
    """
    room = max(20, width - 27)  # without marks, number, the word, rules and blanks
    name = max(10, min(longest, room * 64 // 100))
    return [
        Column("", 7, ruled=False),
        Column("", 2, "right", ruled=False),
        Column("name", name, ruled=False),
        Column("change", 9),
        Column("actual", max(8, room - name)),
    ]


def case_row(
    case: Case, before: Mapping[int, CaseResult], after: Mapping[int, CaseResult], trying: bool
) -> tuple[Cell, ...]:
    """One case: its mark before, its mark after, and what changed in a word."""
    was, now = before.get(case.number), after.get(case.number)
    marks: list[Piece] = [Piece(" "), *_mark(was)]
    if now is not None:
        marks += [Piece(own(" → "), "quiet"), *_mark(now)]
    elif trying:
        marks += [Piece(own(" → "), "quiet"), Piece("·", "quiet")]
    word, ink = _word(was, now)
    shown = now or was
    actual = clean(brief(shown)[1]) if shown is not None else ""
    return (
        tuple(marks),
        cell(str(case.number), "quiet"),
        cell(clean(case.name), "strong"),
        cell(word, ink, bool(word)),
        cell(actual, INK_OF[shown.outcome] if shown is not None and shown.outcome.odd else "ink"),
    )


def _mark(result: CaseResult | None) -> list[Piece]:
    if result is None:
        return [Piece(" ")]
    return [Piece(glyph(result.outcome.value), INK_OF[result.outcome], True)]


def _word(was: CaseResult | None, now: CaseResult | None) -> tuple[str, str]:
    if was is None or now is None:
        return "", "quiet"
    turn = turn_of(was, now)
    return turn, _TURNS[turn]


def totals_lines(
    draft: Draft, before: Mapping[int, CaseResult], again: Try | None, width: int, roomy: bool
) -> Lines:
    """What the change did to all cases together; ``again`` is the same try from before."""
    lines: Lines = [[Piece("═" * width, "rule")]]
    effect = draft.effect(before)
    if effect is None:
        return lines + _standing(before, draft, width)
    counts = [
        Piece(f"  {len(effect.settled)} settled", "agree" if effect.settled else "quiet", True),
        Piece(f"   {len(effect.broke)} broke", "odd" if effect.broke else "quiet", True),
        Piece(f"   {effect.agreeing} of {effect.cases} agree", "ink", True),
    ]
    lines += [counts]
    said = [(effect_words(effect), "strong"), (places_words(draft.edits), "ink")]
    if draft.taken:
        said.append((f"Taken over: {draft.taken}. It can be changed like any text.", "quiet"))
    if again is not None:
        when = time.strftime("%d %b, %H:%M", time.localtime(again.at))
        said.append((f"You tried exactly this before ({when}).", "quiet"))
    for text, ink in said:
        if text:
            lines += [[], *wrapped(text, width - 2, ink, indent=2)] if roomy else wrapped(
                text, width - 2, ink, indent=2)  # fmt: skip
    return lines


def _standing(before: Mapping[int, CaseResult], draft: Draft, width: int) -> Lines:
    """How the file's own text stands, while there is no result of a change."""
    agree = sum(r.outcome is Outcome.AGREES for r in before.values())
    pieces = [Piece(f"  {agree} of {len(before)} agree", "ink", True)] if before else []
    if draft.done is not None:
        return [[*pieces, Piece("   trying the change on a copy", "quiet")]]
    return [[*pieces, Piece("   in the program as its file has it", "quiet")]]
