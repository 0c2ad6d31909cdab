"""Charts as files: text stays text, lines differ without colour, bad wishes are told."""

from __future__ import annotations

import re
import zlib
from xml.etree import ElementTree

import pytest
from tests.conftest import python

from oddsum.draw import chart
from oddsum.draw.figure import ChartError, save
from oddsum.trace.series import Series

ONE = Series("total", (1, 4, 9), (0.0, 12.0, 7.0))
TWO = Series("fare.age", (2, 5), (34.0, 9.0))
SVG = "{http://www.w3.org/2000/svg}"


def texts(path) -> list[str]:
    return ["".join(t.itertext()).strip() for t in ElementTree.parse(path).iter(SVG + "text")]


def test_an_svg_says_what_it_shows_as_text(tmp_path):
    path = tmp_path / "chart.svg"
    save(path, chart.lines("fares.py, case 2", "steps", [ONE, TWO]))
    told = texts(path)
    assert {"fares.py, case 2", "step", "total", "fare.age"} <= set(told)
    style = path.read_text()
    assert len(set(re.findall(r"stroke-dasharray: ([^;\"]+)", style))) >= 1
    again = tmp_path / "again.svg"
    save(again, chart.lines("fares.py, case 2", "steps", [ONE, TWO]))
    assert again.read_bytes() == path.read_bytes()


def test_a_pdf_has_fonts_and_marks_in_it(tmp_path):
    path = tmp_path / "chart.pdf"
    save(path, chart.bars("queue at step 4", ONE))
    data = path.read_bytes()
    assert data.startswith(b"%PDF-") and b"/Font" in data
    streams = re.findall(rb"stream\r?\n(.*?)\r?\nendstream", data, re.DOTALL)
    pages = [zlib.decompress(s) for s in streams if s[:1] == b"x"]
    assert any(b"Tj" in p or b"TJ" in p for p in pages)


def test_a_file_of_another_kind_and_a_folder_that_is_not_there_are_told(tmp_path):
    with pytest.raises(ChartError, match=r"\.png"):
        save(tmp_path / "chart.png", chart.lines("", "steps", [ONE]))
    with pytest.raises(ChartError, match="cannot be written"):
        save(tmp_path / "none" / "chart.svg", chart.lines("", "steps", [ONE]))


def test_the_command_draws_variables_rounds_and_bars(oddsum, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "ferry.py").write_text(
        "xs = [3]\nt = 0\nfor i in range(4):\n    t = t + i\n    xs.append(t)\n"
    )
    for words in (["--variable", "t", "--over", "rounds"], ["--variable", "xs", "--bars", "9"], []):
        status, out, err = oddsum("chart", "ferry.py", *words, "--force", *python())
        assert (status, out) == (0, ""), err
        assert texts(tmp_path / "ferry.svg")
    assert oddsum("chart", "ferry.py", *python())[0] == 2
    for words in (
        ["--variable", "tide"],
        ["--variable", "t", "--bars", "3"],
        ["--line", "1", "--over", "rounds"],
        ["--what", "lineage", "--step", "99"],
        ["--what", "calls"],
        ["--what", "drawing"],
        ["--what", "outcomes"],
    ):
        status, out, _ = oddsum("chart", "ferry.py", *words, "-o", "other.svg", *python())
        assert status == 2 and not out
    assert not (tmp_path / "other.svg").exists()
    for what in ("source", "rounds", "lineage", "ledger"):
        status, _, err = oddsum("chart", "ferry.py", "--what", what, "-o", f"{what}.svg", *python())
        assert status == 0 and texts(tmp_path / f"{what}.svg"), err


def test_the_trace_command_has_filters_and_watches(oddsum, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "ferry.py").write_text(
        "def f(n):\n    m = n * 2\n    return m\nx = f(3)\ny = f(x)\n"
    )
    _, out, _ = oddsum("trace", "ferry.py", "--format", "csv", "--function", "f", "--lines", "2",
                   "--variables", "m", "--watch", "m + 1", *python())  # fmt: skip
    rows = out.splitlines()
    assert rows[0].endswith(",output,f.m,[m + 1]")
    assert [r.split(",")[-2:] for r in rows[1:]] == [["6", "7"], ["12", "13"]]
    for words in (["--watch", "f(3)"], ["--lines", "two"], ["--variables", "tide"]):
        status, out, _ = oddsum("trace", "ferry.py", *words, *python())
        assert status == 2 and not out
