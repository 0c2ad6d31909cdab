"""The calls of a run, and the lineage of a value, as trees of lines: further in is further down."""

from __future__ import annotations

from collections.abc import Sequence

from oddsum.draw.figure import BLUE, ChartError, Drawing
from oddsum.draw.sheet import Rule, Sheet, Word
from oddsum.trace.calls import Call
from oddsum.trace.lineage import Origin
from oddsum.trace.words import short

_MOST = 400  # lines of a tree
_STEP = 3  # columns a level goes further in
_DEEPEST = 16


def call_tree(title: str, calls: Sequence[Call]) -> Drawing:
    """Who called whom, with what, and what came back. Raises ChartError."""
    if not calls:
        raise ChartError("No function of this program was called in this case.")
    sheet = Sheet(title)
    depths = {c.frame: c.depth for c in calls}
    sheet.row(Word(0, "step", quiet=True), Word(8, "call", quiet=True))
    sheet.row(Rule(0, 70))
    shown = calls[:_MOST]
    rows: dict[int, int] = {}
    for call in shown:
        level = min(depths[call.frame] - 1, _DEEPEST)
        column = 8 + level * _STEP
        rows[call.frame] = sheet.row(
            Word(6 - len(f"{call.enters:,}"), f"{call.enters:,}", quiet=True),
            Word(column, call.words),
        )
        _branch(sheet, column, rows.get(call.parent), rows[call.frame])
    _close(sheet, len(calls), len(shown), "call")
    return sheet.drawing()


def lineage_tree(title: str, tree: Sequence[tuple[int, Origin]]) -> Drawing:
    """Where a value comes from; ``tree`` has each origin with how deep it stands."""
    if not tree:
        raise ChartError("Nothing is known of where this value comes from.")
    sheet = Sheet(title)
    sheet.row(
        Word(0, "step", quiet=True), Word(8, "line", quiet=True), Word(14, "value", quiet=True)
    )
    sheet.row(Rule(0, 78))
    above: dict[int, int] = {}
    for depth, one in tree[:_MOST]:
        level = min(depth, _DEEPEST)
        column = 14 + level * _STEP
        what = f"{one.name} = {short(one.value, 40)}" if one.name else short(one.value, 50)
        base = one.kind in ("input", "constant")
        words = [
            Word(6 - len(f"{one.step:,}"), f"{one.step:,}", quiet=True),
            Word(12 - len(str(one.line)), str(one.line), quiet=True),
            Word(column, what or "this step", bold=base),
        ]
        why = _why(one, depth)
        words.append(Word(column + len(what or "this step") + 2, why, quiet=True))
        above[level] = sheet.row(*words)
        _branch(sheet, column, above.get(level - 1), above[level])
    _close(sheet, len(tree), min(len(tree), _MOST), "origin")
    return sheet.drawing()


def _why(one: Origin, depth: int) -> str:
    if one.kind == "input":
        return "typed in"
    if one.kind == "constant":
        return "written in the program"
    return one.why if depth else ""


def _branch(sheet: Sheet, column: float, parent: int | None, row: int) -> None:
    """The rule from the line a line stands under down to it."""
    if parent is None:
        return
    edge = column - _STEP + 0.5
    sheet.edges.append((edge, parent + 0.5, row))
    sheet.rows[row].append(Rule(edge, column - 0.4))


def _close(sheet: Sheet, count: int, shown: int, noun: str) -> None:
    sheet.row(Rule(0, 70, double=True))
    more = f", the first {shown:,} of them shown" if shown < count else ""
    plural = noun if count == 1 else f"{noun}s"
    sheet.row(Word(0, f"{count:,} {plural}{more}", ink=BLUE))
