"""Drawings as files: what is in the SVG and the PDF, read as a program would read it."""

from __future__ import annotations

import re
import zlib
from pathlib import Path
from xml.etree import ElementTree

import pytest
from tests.conftest import OWN

from oddsum.check.traced import trace_case
from oddsum.draw import chart
from oddsum.draw.figure import ChartError, Drawing, save, svg
from oddsum.draw.ledger import ledger_sheet
from oddsum.draw.listing import listing
from oddsum.draw.picture import drawing
from oddsum.draw.sheet import Sheet, Word
from oddsum.draw.trees import call_tree, lineage_tree
from oddsum.languages.python.loops import loops
from oddsum.languages.python.reads import reads
from oddsum.model.case import Case, Plan
from oddsum.model.history import PastRun
from oddsum.model.lead import Lead
from oddsum.model.outcome import Outcome
from oddsum.model.picture import Picture, Segment
from oddsum.source.program import Source
from oddsum.trace.aliases import ledger_at
from oddsum.trace.ask import Story
from oddsum.trace.calls import calls
from oddsum.trace.lineage import Lineage, in_tree
from oddsum.trace.loops import passes

SVG = "{http://www.w3.org/2000/svg}"
A, D, S = Outcome.AGREES, Outcome.DIFFERS, Outcome.STOPPED
PROGRAM = """\
def fare(age, price=6):
    if age < 16:
        return half(price)
    return price

def half(n):
    return n // 2

ages = [34, 9]
others = ages
total = 0
for age in ages:
    total = total + fare(age)
print("$5 <b> & more:", total)
"""


def story_of(tmp_path: Path, text: str = PROGRAM) -> tuple[Story, Source]:
    path = tmp_path / "ferry.py"
    path.write_text(text)
    plan = Plan(program=path, cases=(Case(number=1, name="one", stdin=""),))
    return Story(trace_case(plan, plan.cases[0], OWN)[0]), Source("ferry.py", text)


def words(made: Drawing) -> list[str]:
    """The texts of a drawing as SVG, in its order; blanks that stay are blanks."""
    root = ElementTree.fromstring(svg(made))
    return ["".join(t.itertext()).replace("\u00a0", " ") for t in root.iter(SVG + "text")]


def pdf_text(made: Drawing, path: Path) -> tuple[bytes, int]:
    """The pages of a drawing as PDF, unpacked, and how many texts are shown on them."""
    save(path, made)
    streams = re.findall(rb"stream\r?\n(.*?)\r?\nendstream", path.read_bytes(), re.DOTALL)
    pages = b"".join(zlib.decompress(s) for s in streams if s[:1] == b"x")
    return path.read_bytes(), pages.count(b"Tj") + pages.count(b"TJ")


def test_the_source_stands_with_times_run_and_leads(tmp_path):
    story, source = story_of(tmp_path)
    times = {n: story.times_run("ferry.py", n) for n in (2, 3, 12)}
    lead = Lead(rank=1, lines=(2,), file="ferry.py", function="fare", kind="comparison", where="",
                what="", how="", mend=None, score=0.9)  # fmt: skip
    told_words = words(listing("ferry.py", source, times, [lead]))
    assert {"×2", "×1", "×3", "A", "if age < 16:", "leads  A: line 2"} <= set(told_words)
    assert 'print("$5 <b> & more:", total)' in told_words  # a $ and a < are themselves
    root = ElementTree.fromstring(svg(listing("ferry.py", source, times)))
    at = {"".join(t.itertext()): float(t.get("x") or 0) for t in root.iter(SVG + "text")}
    step = at["return n // 2"] - at["def half(n):"]
    assert step == pytest.approx(4 * 9 * 0.60205, abs=0.05)  # code stands in as far as it does


def test_calls_stand_under_the_call_that_made_them(tmp_path):
    story, _ = story_of(tmp_path)
    made = call_tree("calls", calls(story))
    told_words = words(made)
    assert "fare(age = 34, price = 6) → 6" in told_words and "3 calls" in told_words
    root = ElementTree.fromstring(svg(made))
    at = {"".join(t.itertext()): float(t.get("x") or 0) for t in root.iter(SVG + "text")}
    assert at["half(n = 6) → 3"] > at["fare(age = 9, price = 6) → 3"]
    with pytest.raises(ChartError, match="No function"):
        call_tree("calls", [])


def test_a_lineage_ends_in_what_is_written_in_the_program(tmp_path):
    story, source = story_of(tmp_path)
    lineage = Lineage(story, lambda file: reads(source))
    told_words = words(lineage_tree("total", in_tree(lineage.of_variable("total", story.last))))
    assert told_words[0] == "total" and "total = 9" in told_words and "total = 0" in told_words
    assert "written in the program" in told_words


def test_two_names_for_one_list_carry_one_number(tmp_path):
    story, _ = story_of(tmp_path)
    found = ledger_at(story, story.last)
    entries = {n.name: n.entry for n in found.names}
    assert entries["ages"] == entries["others"] != 0 and entries["total"] == 0
    told_words = words(ledger_sheet("names", story, story.last))
    assert told_words.count("entry 1") == 2 and "[34, 9]" in told_words
    assert "ages and others are one and the same list" in " ".join(told_words)
    assert (
        ledger_at(story_of(tmp_path, "x = [1]\ny = [1]\n")[0], 2).names[1].entry == 2
    )  # equal is not the same


def test_rounds_and_outcomes_are_bars_with_their_numbers(tmp_path):
    story, source = story_of(tmp_path)
    (walk,) = loops(source)
    assert {"line 12, from step 6", "2"} <= set(words(chart.rounds("rounds", passes(story, walk))))
    with pytest.raises(ChartError, match="No loop"):
        chart.rounds("rounds", [])
    history = [PastRun(at=n, seconds=0, outcomes={"a": A, "b": o}) for n, o in enumerate((S, D, A))]
    made = chart.outcomes("by run", history, first=7)
    assert {"agrees", "differs", "stopped", "7", "9"} <= set(words(made))
    assert svg(made).count("<pattern") >= 2  # hatched: told apart in black and white
    with pytest.raises(ChartError, match="No run"):
        chart.outcomes("by run", [])


def test_a_drawing_sets_off_what_is_odd_by_its_stroke():
    square = (Segment(0, 0, 60, 0), Segment(60, 0, 60, 60))
    turned = (Segment(0, 0, 60, 0), Segment(60, 0, 60, -60, "no such ink"))
    picture = Picture(lines=turned, texts=((1.0, 2.0, "pier", "black"),),
                      dots=((0.0, 0.0, 5.0, "red"),), fills=(((0.0, 0.0, 9.0, 0.0, 9.0, 9.0), "x"),))  # fmt: skip
    made = drawing("sign", picture, square, turned[1:], square[1:])
    assert {"sign", "expected", "actual", "pier"} <= set(words(made))
    assert len(set(re.findall(r"stroke-dasharray: ([\d. ,]+)", svg(made)))) >= 2
    with pytest.raises(ChartError, match="Nothing was drawn"):
        drawing("sign", Picture())


def test_every_drawing_is_text_in_a_pdf_too(tmp_path):
    story, source = story_of(tmp_path)
    for n, made in enumerate([
        listing("ferry.py", source, {2: 3}), call_tree("calls", calls(story)),
        ledger_sheet("names", story, story.last),
        chart.outcomes("runs", [PastRun(at=1, seconds=0, outcomes={"a": A})]),
    ]):  # fmt: skip
        data, texts = pdf_text(made, tmp_path / f"{n}.pdf")
        assert data.startswith(b"%PDF-") and b"/Font" in data and texts >= 3


def test_a_sheet_too_long_is_refused_and_one_without_glyphs_is_drawn(tmp_path):
    long = Sheet("long", [[Word(0, "x")] for _ in range(2_001)])
    with pytest.raises(ChartError, match="2,001 lines"):
        long.drawing()
    save(tmp_path / "a.svg", Sheet("漢字", [[Word(2, "  a  b", quiet=True)]]).drawing())
    assert "a\u00a0 b" in (tmp_path / "a.svg").read_text()
