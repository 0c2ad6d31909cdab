"""The judge: what is said of a run, held against an account made apart from it.

Programs as a course has them are in ``programs/``; random ones are made here.
"""

from __future__ import annotations

import sys
import tomllib
from pathlib import Path

import pytest
from course import courses
from hypothesis import given, settings
from judge import judge

from conftest import examples

# What is asked of every moment of a random program, as in a claim, a search or a breakpoint.
ASKED = (
    "a > b", "n == 3", "len(xs) > 2", "xs[0] == 4", "xs == ys", "boat.rate == 2", "Boat.made > 2",
    "boat.name == 'Tern' and boat.log", "ferry.rate + a > 3", "Boat.names[-1] == 'Gull'", "k == 1",
    "start > 3", "len(seen) == 2", "by == 1", "self.name == 'Gull'", "a in xs", "max(xs) < 9",
)  # fmt: skip
CORPUS = sorted((Path(__file__).parents[2] / "benchmarks/pinpoint/programs/python").glob("*.py"))
PROGRAMS = sorted((Path(__file__).parent / "programs").glob("*.py"))
TYPED = "2\n34\n9\nTern\n2.5\nno\n"
# The account reads whole names of functions off their code, which older interpreters do not have.
pytestmark = pytest.mark.skipif(sys.version_info < (3, 11), reason="needs code.co_qualname")


@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_nothing_false_is_said_of_a_program_of_a_course(path):
    verdict = judge(path.read_text(encoding="utf-8"), TYPED)
    assert not verdict.false
    assert verdict.visits > 10 and verdict.values > 20


def cases_of(path: Path) -> tuple[str, str]:
    """A program of functions with some calls of them behind it, and what is typed in."""
    told = tomllib.loads(path.with_suffix(".toml").read_text(encoding="utf-8"))
    calls = "".join(
        f"try:\n    print({call})\nexcept Exception as fault:\n    print('stopped')\n"
        for call in told.get("calls", [])[:4]
    )
    return f"{path.read_text(encoding='utf-8')}\n{calls}", (told.get("stdins") or [""])[0]


@pytest.mark.parametrize("path", CORPUS, ids=lambda p: p.stem)
def test_nothing_false_is_said_of_the_programs_that_pinpoint_is_measured_on(path):
    assert not judge(*cases_of(path)).false


@settings(max_examples=examples(8))
@given(courses())
def test_nothing_false_is_said_of_a_random_program(source):
    verdict = judge(source, ask=ASKED)
    assert not verdict.false
    assert verdict.answers or not verdict.visits


def test_the_judge_can_find_something(monkeypatch):
    """A recorder that forgot one kind of change would be found out."""
    from oddsum.languages.python.probe.held import Holdings

    monkeypatch.setattr(Holdings, "appended", lambda self, target: None)
    verdict = judge("xs = []\nxs.append(1)\nprint(xs)\n")
    assert "xs is [1], and shown as []" in verdict.false[0]
