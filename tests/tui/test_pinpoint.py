"""Pinpoint on screen: nothing deeper than asked, a guess, values judged, the way into Trace."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from piloting import NARROW, WIDE, opened, screen, sizes, until

from conftest import FERRY
from oddsum.plan.answers import read_answers
from oddsum.record.revealed import recall, remember
from oddsum.record.versions import version_of
from oddsum.settings.user import change_setting
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.case_card import CaseCard
from oddsum.tui.dialogs.judge import Judge

pytestmark = pytest.mark.usefixtures("searched_once")
NOTED = """
def half(low, high):
    m = low + high / 2
    return m
"""
NOTED_PLAN = """
[[case]]
name = "two"
call = "half(2, 4)"
returns = "3.0"
[[case]]
name = "none"
call = "half(0, 0)"
returns = "0.0"
"""


def demo(tmp_path: Path, name: str) -> Path:
    for path in FERRY.glob(f"{name}.*"):
        shutil.copy(path, tmp_path)
    return tmp_path / f"{name}.py"


async def searched(pilot) -> None:
    await pilot.press("3")
    await until(
        pilot,
        lambda: (
            pilot.app.workspace.pinpointing.search
            and pilot.app.workspace.pinpointing.search.found is not None
        ),
    )


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_nothing_deeper_is_on_the_screen_before_it_is_asked_for(tmp_path, size):
    async with opened(demo(tmp_path, "fares"), size) as pilot:
        await searched(pilot)
        where = screen(pilot)
        await pilot.press("enter")
        await pilot.pause()
        what = screen(pilot)
        await pilot.press("enter")
        await pilot.pause()
        how = screen(pilot)
    assert "line 10" in where
    assert "covered" in where
    assert "comparison" not in where
    assert "also holds when" not in where
    assert "also holds when" in what
    assert "where age is 16" in " ".join(what.split())
    assert "instead of" not in what
    assert "instead of" in how or size == NARROW


async def test_notes_on_a_covered_line_are_only_counted(program):
    path = program(NOTED, NOTED_PLAN)
    async with opened(path) as pilot:
        await searched(pilot)
        assert "1 note on lines that are still covered" in screen(pilot)
        assert "is divided" not in screen(pilot)
        await pilot.press("enter")
        await pilot.pause()
        assert "only high is divided" in " ".join(screen(pilot).split())


GUESSES = {"10": "strongest lead", "20": "runs in none of the 2 odd cases", "24": "Little speaks"}


async def test_a_guess_is_answered_without_giving_the_place_away(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        await searched(pilot)
        await pilot.press("g", "9", "9", "enter")
        await until(pilot, lambda: "The program has lines 1 to 25" in screen(pilot))
        await pilot.press("escape")
        for line, words in GUESSES.items():
            await pilot.press("g", *line, "enter")
            await until(pilot, lambda words=words: words in " ".join(screen(pilot).split()))


async def test_values_are_judged_until_the_answers_lead_to_a_line(tmp_path):
    path = demo(tmp_path, "fares")
    async with opened(path) as pilot:
        await searched(pilot)
        await pilot.press("q")
        await until(pilot, lambda: isinstance(pilot.app.screen, Judge))
        for _ in range(12):
            question = pilot.app.screen.asked
            if question is None:
                break
            assert question.text in " ".join(screen(pilot).split())
            wrong = question.text.startswith(("fare(age = 16) gave 3", "Line 10"))
            await pilot.click("#wrong" if wrong else "#right")
            await pilot.pause()
        assert "which you say is wrong" in " ".join(screen(pilot).split())
        await pilot.click("#see")
        await until(pilot, lambda: pilot.app.workspace.tracing.traced is not None)
        traced = pilot.app.workspace.tracing.traced
        assert traced.story.step(traced.step).line == 10
        await pilot.press("3")
        await until(pilot, lambda: "WHERE YOUR ANSWERS LEAD" in screen(pilot))
    kept = read_answers(path)
    assert kept["fare(age = 16) gave 3"] == "wrong"
    assert all(" gave " in text for text in kept)  # what is said of lines holds for this text only


async def test_trace_opens_the_case_and_the_step_that_show_the_lead_best(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        await searched(pilot)
        await pilot.press("t")
        await until(pilot, lambda: pilot.app.workspace.tracing.traced is not None)
        traced = pilot.app.workspace.tracing.traced
        assert traced.case.number == 6
        step = traced.story.step(traced.step)
        assert (step.line, step.condition) == (10, True)


async def test_what_was_uncovered_stays_so_in_the_next_window_until_the_program_changes(tmp_path):
    path = demo(tmp_path, "fares")
    async with opened(path) as pilot:
        await searched(pilot)
        assert "exactly" not in screen(pilot)
        await pilot.press("enter")
        app = pilot.app
        await until(pilot, lambda: bool(recall(app.workspace.history, version_of(path))))
    async with opened(path) as pilot:
        await searched(pilot)
        await until(pilot, lambda: "also holds when" in screen(pilot))
    path.write_text("# the fares\n" + path.read_text())
    async with opened(path) as pilot:
        await searched(pilot)
        await until(pilot, lambda: "line 11" in screen(pilot))
        assert "also holds when" not in screen(pilot)


async def test_a_setting_that_uncovers_more_is_not_covered_by_what_was_uncovered_before(tmp_path):
    path = demo(tmp_path, "fares")
    async with opened(path) as pilot:
        remember(pilot.app.workspace.history, version_of(path), {("fares.py", (10,)): 1})
        pilot.app.workspace.pinpointing.reveal_first = 2
        await searched(pilot)
        search = pilot.app.workspace.pinpointing.search
        await until(pilot, lambda: bool(search.revealed))
        assert search.level(search.leads[0]) == 2


@pytest.mark.parametrize("by", ["plan", "setting"])
async def test_leads_are_held_back_until_a_guess_is_given(demo, by):
    path = demo / "fares.py"
    plan = path.with_suffix(".cases.toml")
    if by == "plan":
        plan.write_text("guess_first = true\n" + plan.read_text())
    else:
        change_setting("guess_first", True)
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await pilot.press("3")
        await until(pilot, lambda: "First your own guess" in screen(pilot))
        await until(pilot, lambda: work.pinpointing.search.found is not None)
        await pilot.press("enter", "down")  # nothing of a lead can be had
        told = screen(pilot)
        assert "line 10" not in told and "▪" not in told and "G takes your guess" in told
        assert work.pinpointing.lead_in_hand() is None and not work.pinpointing.search.revealed
        await pilot.press("g")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await pilot.press("8", "enter")
        await until(pilot, lambda: "YOUR GUESS" in screen(pilot))
        assert "line 10" in screen(pilot) and "Do you see it?" in screen(pilot)


async def test_no_guess_is_an_answer_too(demo):
    change_setting("guess_first", True)
    async with opened(demo / "fares.py") as pilot:
        await pilot.press("3")
        await until(pilot, lambda: "First your own guess" in screen(pilot))
        await pilot.press("g")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await pilot.press("enter")
        await until(pilot, lambda: "line 10" in screen(pilot))
        assert "YOUR GUESS" not in screen(pilot)


async def test_where_mends_differ_the_answer_becomes_a_case(tmp_path):
    async with opened(demo(tmp_path, "fares"), WIDE) as pilot:
        await searched(pilot)
        work = pilot.app.workspace
        ask = work.pinpointing.search.found.ask
        first, second = (g.actual.split("\n")[-2] for g in ask.gives)
        await until(pilot, lambda: "add what decides" in screen(pilot))
        told = " ".join(screen(pilot).split())
        assert "Several changes fit all cases. A case more would decide" in told
        assert second not in told  # what a mend gives lies deeper
        await pilot.press("enter", "enter", "down", "up")
        await until(pilot, lambda: f"gives {first}" in " ".join(screen(pilot).split()))
        assert f"it gives {second}" in " ".join(screen(pilot).split())
        before = len(work.checking.cases)
        await pilot.press("a")
        await until(pilot, lambda: isinstance(pilot.app.screen, CaseCard))
        assert "WHAT SHOULD COME OUT HERE?" in screen(pilot)
        assert ask.stdin.split()[-1] in screen(pilot)
        await pilot.press("ctrl+s")
        await until(pilot, lambda: len(work.checking.cases) == before + 1)
        assert work.checking.cases[-1].stdin == ask.stdin
