"""What a recording says of a run, held against prints that are put into the program's text, and
against what node prints by itself: on the programs of the corpus, on the demos, and on random ones.

A few of them here; all, and more random ones, where more examples are asked for, as ``make soak``
does.
"""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from prints import AROUND, OWN, Seen, account
from running import bare, recorded, tries
from some_programs import Writer

from conftest import DATA, MANY
from oddsum.plan.read import read_plan
from oddsum.trace.ask import Story
from oddsum.trace.nodes import value_of

CORPUS = Path(__file__).parents[3] / "benchmarks" / "pinpoint" / "programs" / "javascript"
DEMOS = Path(__file__).parents[3] / "src" / "oddsum" / "demo" / "ferry"
BY_HAND = [
    *sorted((DATA / "javascript" / "truth").glob("*.js")),
    *(DATA / "javascript" / name for name in ("closures.js", "classes.js")),
]
PROGRAMS = [*BY_HAND, *sorted(CORPUS.glob("*.js")), *sorted(DEMOS.glob("*.js"))]
SOME = [*BY_HAND[::2], *PROGRAMS[len(BY_HAND) :: 16]]


def run_whole(path: Path) -> tuple[str, str]:
    """A program that makes all its calls one after another, and what is typed into it."""
    text = path.read_text(encoding="utf-8")
    if path in BY_HAND:
        return text, ""
    if path.parent == DEMOS:
        cases = read_plan(path.with_suffix(".cases.toml"), path).cases
        calls, typed = [c.call for c in cases if c.call], [c.stdin for c in cases if c.stdin]
    else:
        facts = tomllib.loads(path.with_suffix(".toml").read_text(encoding="utf-8"))
        calls, typed = facts.get("calls", ()), facts.get("stdins", ())
    printed = "".join(f"console.log({call});\n" for call in calls)
    return text + printed, typed[0] if typed else ""


def before(story: Story, number: int) -> dict[str, str]:
    """The texts of what was in sight ahead of a step, as the recording has them."""
    if number == 1:
        return {}
    found = story.refs_at(number - 1, story.frame_at(number))
    return {name: value_of(part.node(ref)).text for name, (part, ref) in found.items()}


def falsehoods(story: Story, seen: list[Seen], lines: set[int]) -> list[str]:
    """Where the two accounts of a run say different things."""
    steps = [s for s in story.steps if s.visit is not None and s.line in lines]
    if [s.line for s in steps] != [s.line for s in seen]:
        return [f"lines {[s.line for s in steps]}, by prints {[s.line for s in seen]}"]
    found = []
    for step, moment in zip(steps, seen, strict=True):
        held = before(story, step.number)
        if bool(step.depth) != moment.in_function:
            found.append(f"line {step.line}, step {step.number}: at depth {step.depth}")
        for name, (whose, text) in moment.names.items():
            told = _told(held, name, whose, step.statement.function)
            if text not in told and not (text == "undefined" and not told):
                found.append(
                    f"line {moment.line}, step {step.number}: {name} {told}, by prints {text}"
                )
    return found


def _told(held: dict[str, str], name: str, whose: str, function: str) -> list[str]:
    """What the recording has under a name: one text, where it has something at all."""
    if whose == AROUND:
        return [
            text for title, text in held.items() if f".{name}" in title and _name(title) == name
        ]
    title = f"{function}.{name}" if whose == OWN and function else name
    return [text for one, text in held.items() if one == title or _without_line(one) == title]


def _name(title: str) -> str:
    return _without_line(title).rpartition(".")[2]


def _without_line(title: str) -> str:
    """``fee.total.12`` is the ``total`` of another function of that name, at line 12."""
    head, _, last = title.rpartition(".")
    return head if last.isdigit() else title


@pytest.mark.parametrize("path", PROGRAMS if MANY else SOME, ids=lambda p: p.stem)
def test_a_recording_says_what_prints_say(path, tmp_path):
    text, typed = run_whole(path)
    (tmp_path / "plain.js").write_text(text, encoding="utf-8")
    story = recorded(tmp_path, text, typed)
    seen, lines, printed = account(tmp_path, text, typed)
    assert falsehoods(story, seen, lines) == []
    assert len(seen) > 5
    assert story.all_output[0] == printed
    if "prompt(" not in text:
        assert printed == bare(tmp_path / "plain.js", typed).stdout


@settings(max_examples=tries(4), suppress_health_check=list(HealthCheck), deadline=None)
@given(st.randoms(use_true_random=False))
def test_a_recording_of_a_random_program_says_what_prints_say(tmp_path_factory, random):
    folder = tmp_path_factory.mktemp("random")
    text = Writer(random).program()
    (folder / "plain.js").write_text(text, encoding="utf-8")
    story = recorded(folder, text)
    seen, lines, printed = account(folder, text)
    assert falsehoods(story, seen, lines) == [], text
    assert story.all_output[0] == printed == bare(folder / "plain.js").stdout
