"""Two runs held against each other: what came out, and the programs, side by side."""

from __future__ import annotations

from oddsum.compare.align import Pair
from oddsum.model.history import PastRun, Version
from oddsum.tui.dialogs.page import TextPage
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.inks import INK_OF
from oddsum.tui.widgets.prose import titled
from oddsum.tui.widgets.side_by_side import RULE, half_of, paired, sides
from oddsum.tui.writing import Piece, clean, fitted

Seen = tuple[int, PastRun, Version]  # a run's number, the run, and its program
Lines = list[list[Piece]]
_AROUND = 2  # lines shown around what differs
_NAME = 34


def two_versions_page(first: Seen, second: Seen) -> TextPage:
    """A page with what came out differently in two runs, and where their programs differ."""

    def write(width: int) -> Lines:
        return [*outcome_lines(first, second, width), [], *program_lines(first, second, width)]

    return TextPage(f"RUN {first[0]} AND RUN {second[0]}", write, wide=True)


def outcome_lines(first: Seen, second: Seen, width: int) -> Lines:
    """The cases that came out differently."""
    was, now = first[1].outcomes, second[1].outcomes
    lines: Lines = [titled("CASES THAT CAME OUT DIFFERENTLY", width)]
    for name in dict.fromkeys([*now, *was]):
        before, after = was.get(name), now.get(name)
        if before is after:
            continue
        line = [Piece("  "), *fitted((Piece(clean(name), "strong"),), _NAME)]
        for n, outcome in enumerate((before, after)):
            word = f"{glyph(outcome.value)} {outcome.value}" if outcome else "not in the plan"
            ink = INK_OF[outcome] if outcome else "quiet"
            line.append(Piece(word.ljust(16), ink, True))
            if n == 0:
                line.append(Piece(own("→ "), "quiet"))
        lines.append(line)
    if len(lines) == 1:
        lines.append([Piece("  none", "quiet")])
    return lines


def program_lines(first: Seen, second: Seen, width: int) -> Lines:
    """The places at which the programs differ, with some lines around them."""
    old, new = first[2].files, second[2].files
    lines: Lines = []
    for name in dict.fromkeys([*new, *old]):
        if old.get(name) != new.get(name):
            lines += [titled(name.upper(), width), *_file_lines(old.get(name, ""),
                      new.get(name, ""), (first[0], second[0]), width), []]  # fmt: skip
    return lines or [titled("THE PROGRAMS ARE THE SAME", width)]


def _file_lines(old: str, new: str, numbers: tuple[int, int], width: int) -> Lines:
    half = half_of(width)
    left, right, pairs = paired(old, new)
    lines: Lines = [
        [*fitted((Piece(f"run {numbers[0]}", "quiet"),), half), Piece(RULE, "rule"),
         Piece(f"run {numbers[1]}", "quiet")],
        [Piece("─" * (half + 1) + "┼" + "─" * max(0, width - half - 2), "rule")],
    ]  # fmt: skip
    shown = _near(pairs)
    for at, number in enumerate(shown):
        if at and number != shown[at - 1] + 1:
            lines.append([Piece("···", "quiet")])
        one, other = sides(left, right, pairs[number], True)
        lines.append([*fitted(_neutral(one), half), Piece(RULE, "rule"),
                      *fitted(_neutral(other), half)])  # fmt: skip
    return lines


def _neutral(pieces: tuple[Piece, ...]) -> tuple[Piece, ...]:
    """What differs, lifted: neither program is the odd one here."""
    return tuple(
        Piece(p.text, "blue", True, ground="lifted") if p.ground in ("agree", "odd")
        else Piece(p.text, "ink") if p.ink in ("agree", "odd") else p
        for p in pieces
    )  # fmt: skip


def _near(pairs: list[Pair]) -> list[int]:
    """The pairs that differ, and those around them."""
    found: set[int] = set()
    for n, pair in enumerate(pairs):
        if not pair.same:
            found |= set(range(max(0, n - _AROUND), min(len(pairs), n + _AROUND + 1)))
    return sorted(found)
