"""Answers about a trace as rows of a list: lineage, loops, calls, parts of a line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from oddsum.languages.outline import Loop
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.calls import Call
from oddsum.trace.lineage import Origin, why_words
from oddsum.trace.loops import ending_words
from oddsum.trace.parts import Apart, Part
from oddsum.trace.rounds import Pass
from oddsum.trace.words import change_words, condition_words, counted, place_words, short
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell, Piece, cell, clean

Rows = list[list[Cell]]
_FILE = 16  # cells of a line with its file

LINEAGE = (Column("step", 6, "right", ruled=False), Column("line", 5, "right"),
           Column("what", 44), Column("why", 46))  # fmt: skip
LOOPS = (Column("step", 6, "right", ruled=False), Column("line", 5, "right"),
         Column("rounds", 7, "right"), Column("ended", 32), Column("the loop", 50))  # fmt: skip
CALLS = (Column("step", 6, "right", ruled=False), Column("depth", 5, "right"),
         Column("the call and what it gave", 90))  # fmt: skip
PARTS = (Column("", 3, "right", ruled=False), Column("part, as written", 40),
         Column("with the values put in", 36), Column("gives", 30))  # fmt: skip
STEPS = (Column("step", 6, "right", ruled=False), Column("line", 5, "right"), Column("what", 90))


def with_files(story: Story, columns: Sequence[Column]) -> list[Column]:
    """Columns with room for a file beside each line, where a program has more than one."""
    many = len(story.table.files) > 1
    return [replace(c, width=_FILE) if many and c.title == "line" else c for c in columns]


def place(story: Story, number: int, line: int = 0) -> Cell:
    """The line of a step, with its file where there is more than one; another line of it."""
    statement = story.step(number).statement
    many = len(story.table.files) > 1
    text = str(line or statement.line)
    return (Piece(f"{statement.file} ", "quiet"), Piece(text)) if many else cell(text)


def lineage_rows(story: Story, tree: Sequence[tuple[int, Origin]]) -> Rows:
    """A row an origin, further in the further back it is."""
    rows: Rows = []
    for depth, one in tree:
        what = f"{one.name} = {short(one.value, 30)}" if one.name else short(one.value, 36)
        if not what.strip():
            what = "this step" if depth == 0 else "nothing new"
        ink = "straw" if one.kind in ("input", "constant") else "strong"
        rows.append([
            cell(f"{one.step:,}", "quiet"), place(story, one.step, one.line),
            cell("  " * min(depth, 9) + clean(what), ink), cell(why_words(one, depth, 22), "quiet"),
        ])  # fmt: skip
    return rows


def loop_rows(story: Story, found: Sequence[tuple[Loop, Pass]]) -> Rows:
    """A row each time a loop was gone through."""
    return [
        [cell(f"{p.enters:,}", "quiet"), place(story, p.enters, loop.line),
         cell(f"{p.rounds:,}", "strong", True), cell(ending_words(story, p)),
         cell(clean(loop.header), "quiet")]
        for loop, p in found
    ]  # fmt: skip


def call_rows(calls: Sequence[Call]) -> Rows:
    """A row a call, further in the deeper it is."""
    return [
        [cell(f"{c.enters:,}", "quiet"), cell(str(c.depth), "quiet"),
         cell("  " * min(c.depth - 1, 12) + clean(c.words), "strong")]
        for c in calls
    ]  # fmt: skip


def part_rows(apart: Apart) -> Rows:
    """A row a part in the order it was worked out, then those that were never looked at."""
    rows: Rows = []
    only_names = all(p.is_name for p in apart.parts)
    for part in apart.parts:
        if only_names or not part.is_name:
            rows.append([
                cell(str(len(rows) + 1), "quiet"), cell(clean(part.written)),
                cell(clean(part.inside), "quiet"), cell(_gives(part), "blue", True),
            ])  # fmt: skip
    for part in apart.unseen:
        rows.append([(), cell(clean(part.written), "quiet"), (),
                     cell("never looked at", "straw", italic=True)])  # fmt: skip
    return rows


def _gives(part: Part) -> str:
    texts = [short(clean(v.text), 28) for v in part.values]
    if len(texts) > 1:
        more = own(" …") if len(texts) > 4 else ""
        return f"{', '.join(texts[:4])}{more} in {counted(len(texts), 'turn')}"
    return own("→ ") + texts[0] if texts else ""


def rounds(names: list[str], table: list[list[str]]) -> tuple[list[Column], Rows]:
    """A row a round, a column a name."""
    widths = [min(24, max([len(n), *(len(row[at]) for row in table)], default=4))
              for at, n in enumerate(names)]  # fmt: skip
    columns = [Column("round", 6, "right", ruled=False)]
    columns += [Column(n, w, "right") for n, w in zip(names, widths, strict=True)]
    rows: Rows = [
        [cell(f"{n:,}", "quiet"), *(cell(short(clean(v), 24), "strong") for v in row)]
        for n, row in enumerate(table, 1)
    ]
    return columns, rows


def step_words(step: Step, story: Story | None = None) -> str:
    """What happened in a step, in one line; with its story, what exactly changed."""
    told = [place_words(step), condition_words(step)]
    if story is None:
        told += [change_words(c) for c in step.changes]
    else:
        inner = story.table.inner(step.number)
        told += [c.in_words(short(c.said)) for c in inner]
    if step.output:
        told.append(f"prints {short(repr(step.output), 30)}")
    return clean(", ".join(t for t in told if t))


def step_rows(story: Story, steps: Sequence[Step]) -> Rows:
    """A row a step."""
    return [
        [cell(f"{s.number:,}", "quiet"), place(story, s.number), cell(step_words(s, story))]
        for s in steps
    ]


def two_columns(left: str, right: str) -> list[Column]:
    """Columns for two runs side by side, with what each is called."""
    columns: list[Column] = []
    for n, name in enumerate((left, right)):
        columns += [Column("step", 6, "right", ruled=n > 0), Column("line", 5, "right"),
                    Column(name, 52)]  # fmt: skip
    return columns


def two_rows(left: Sequence[Step | None], right: Sequence[Step | None]) -> Rows:
    """Two runs side by side, a step of each in a row; where they are unlike, it is inked."""
    rows: Rows = []
    for one, other in zip(left, right, strict=True):
        texts = [step_words(s) if s is not None else "" for s in (one, other)]
        places = [str(s.line) if s is not None else "" for s in (one, other)]
        ink = "quiet" if texts[0] == texts[1] and places[0] == places[1] else "strong"
        row: list[Cell] = []
        for step, place, text in zip((one, other), places, texts, strict=True):
            row += [cell(f"{step.number:,}" if step is not None else "", "quiet"), cell(place),
                    cell(text, ink)]  # fmt: skip
        rows.append(row)
    return rows
