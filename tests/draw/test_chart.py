"""Charts as files: text stays text, lines differ without colour, bad wishes are told."""

from __future__ import annotations

import re
import subprocess
import sys
import zlib
from xml.etree import ElementTree

import pytest

from oddsum.draw import chart
from oddsum.trace.series import Series

ONE = Series("total", (1, 4, 9), (0.0, 12.0, 7.0))
TWO = Series("fare.age", (2, 5), (34.0, 9.0))
SVG = "{http://www.w3.org/2000/svg}"


def texts(path) -> list[str]:
    return ["".join(t.itertext()).strip() for t in ElementTree.parse(path).iter(SVG + "text")]


def test_an_svg_says_what_it_shows_as_text(tmp_path):
    path = tmp_path / "chart.svg"
    chart.lines(path, "fares.py, case 2", "steps", [ONE, TWO])
    told = texts(path)
    assert {"fares.py, case 2", "step", "total", "fare.age"} <= set(told)
    style = path.read_text()
    assert len(set(re.findall(r"stroke-dasharray: ([^;\"]+)", style))) >= 1
    again = tmp_path / "again.svg"
    chart.lines(again, "fares.py, case 2", "steps", [ONE, TWO])
    assert again.read_bytes() == path.read_bytes()


def test_a_pdf_has_fonts_and_marks_in_it(tmp_path):
    path = tmp_path / "chart.pdf"
    chart.bars(path, "queue at step 4", ONE)
    data = path.read_bytes()
    assert data.startswith(b"%PDF-") and b"/Font" in data
    streams = re.findall(rb"stream\r?\n(.*?)\r?\nendstream", data, re.DOTALL)
    pages = [zlib.decompress(s) for s in streams if s[:1] == b"x"]
    assert any(b"Tj" in p or b"TJ" in p for p in pages)


def test_a_file_of_another_kind_and_a_folder_that_is_not_there_are_told(tmp_path):
    with pytest.raises(chart.ChartError, match=r"\.png"):
        chart.lines(tmp_path / "chart.png", "", "steps", [ONE])
    with pytest.raises(chart.ChartError, match="cannot be written"):
        chart.lines(tmp_path / "none" / "chart.svg", "", "steps", [ONE])


def command(*words: str, folder) -> subprocess.CompletedProcess[str]:
    return subprocess.run([sys.executable, "-m", "oddsum", *words], cwd=folder, text=True,
                          capture_output=True, stdin=subprocess.DEVNULL, check=False)  # fmt: skip


def test_the_command_draws_variables_rounds_and_bars(tmp_path):
    (tmp_path / "ferry.py").write_text(
        "xs = [3]\nt = 0\nfor i in range(4):\n    t = t + i\n    xs.append(t)\n"
    )
    for words in (["--variable", "t", "--over", "rounds"], ["--variable", "xs", "--bars", "9"], []):
        done = command("chart", "ferry.py", *words, "--force", folder=tmp_path)
        assert (done.returncode, done.stdout) == (0, ""), done.stderr
        assert texts(tmp_path / "ferry.svg")
    assert command("chart", "ferry.py", folder=tmp_path).returncode == 2
    for words in (
        ["--variable", "tide"],
        ["--variable", "t", "--bars", "3"],
        ["--line", "1", "--over", "rounds"],
    ):
        done = command("chart", "ferry.py", *words, "-o", "other.svg", folder=tmp_path)
        assert done.returncode == 2 and "Traceback" not in done.stderr
    assert not (tmp_path / "other.svg").exists()


def test_the_trace_command_has_filters_and_watches(tmp_path):
    (tmp_path / "ferry.py").write_text(
        "def f(n):\n    m = n * 2\n    return m\nx = f(3)\ny = f(x)\n"
    )
    done = command("trace", "ferry.py", "--format", "csv", "--function", "f", "--lines", "2",
                   "--variables", "m", "--watch", "m + 1", folder=tmp_path)  # fmt: skip
    rows = done.stdout.splitlines()
    assert rows[0].endswith(",output,f.m,[m + 1]")
    assert [r.split(",")[-2:] for r in rows[1:]] == [["6", "7"], ["12", "13"]]
    for words in (["--watch", "f(3)"], ["--lines", "two"], ["--variables", "tide"]):
        done = command("trace", "ferry.py", *words, folder=tmp_path)
        assert done.returncode == 2 and not done.stdout and "Traceback" not in done.stderr
