"""Whatever a program looks like, what is read off it can be told: nothing in it ends a search."""

from __future__ import annotations

from pathlib import Path

import pytest

from conftest import MANY
from oddsum.languages.language import Language
from oddsum.languages.registry import language_of
from oddsum.source.program import Source

PROGRAMS = Path(__file__).parents[2] / "benchmarks" / "pinpoint" / "programs"
LIBRARY = Path(pytest.__file__).parents[1]  # programs of many hands, for the soak
ODD = {
    "rows.py": "for r in range(9):\n    if len(grid[r]) > 0 and len(grid[r - 1]) > 0: print(r)\n",
    "own.py": "while i < len(self.rows[i].seats): self.rows[i].seats[i] = i = i + 1\n",
    "rows.js": "for (let r = 0; r < 9; r++) if (grid[r].length > grid[r - 1].length) show(r);\n",
}


def _read_all(language: Language, source: Source) -> None:
    reading, last = language.reading, len(source.lines) + 1
    for loop in reading.loops(source):
        assert 1 <= loop.line <= loop.end <= last
        assert all(loop.line <= use.line <= loop.end for use in loop.uses)
    told = (reading.functions, reading.limits, reading.forks, reading.statements)
    assert all(tell(source) is not None for tell in told)
    assert all(1 <= line <= last for line in reading.reads(source))
    assert isinstance(reading.prompts(source), tuple)
    assert isinstance(reading.unsteady_calls(source), tuple)


@pytest.mark.parametrize("name", ODD)
def test_sequences_whose_items_alone_are_measured_are_used_by_index(name):
    source = Source(name, ODD[name])
    language = language_of(name)
    _read_all(language, source)
    if name == "rows.py":
        (loop,) = language.reading.loops(source)
        assert [(u.sequence, u.index) for u in loop.uses] == [("grid", "r"), ("grid", "r - 1")]


def test_every_program_of_the_corpus_can_be_read():
    files = sorted(f for f in PROGRAMS.glob("*/*") if f.suffix != ".toml")
    assert len(files) > 100
    for file in files:
        _read_all(language_of(file), Source(file.name, file.read_text(encoding="utf-8")))


@pytest.mark.skipif(not MANY, reason="takes minutes; the soak reads them")
def test_every_module_of_the_packages_at_hand_can_be_read():
    for file in sorted(LIBRARY.glob("*/*.py"))[:600]:
        text = file.read_text(encoding="utf-8", errors="replace")
        _read_all(language_of(file.name), Source(file.name, text))
