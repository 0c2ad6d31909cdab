"""Trace, asked: each question in one or two keys, driven as a learner would."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from piloting import NARROW, WIDE, opened, screen, sizes, until

from conftest import FERRY
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.forecast import Forecast
from oddsum.tui.dialogs.ledger import LedgerPage
from oddsum.tui.dialogs.pick import Pick

KEYS = {" ": "space", "<": "less_than_sign", ">": "greater_than_sign", "=": "equals_sign",
        "(": "left_parenthesis", ")": "right_parenthesis", "*": "asterisk", "+": "plus",
        "/": "slash", ".": "full_stop"}  # fmt: skip


async def typed(pilot, text: str) -> None:
    await pilot.press(*[KEYS.get(c, c) for c in text])


def demo(tmp_path: Path, name: str) -> Path:
    for path in FERRY.glob(f"{name}.*"):
        shutil.copy(path, tmp_path)
    return tmp_path / f"{name}.py"


async def trace(pilot, *keys: str):
    await pilot.press("t")
    await until(pilot, lambda: pilot.app.workspace.tracing.traced is not None)
    await pilot.press(*keys)
    await pilot.pause()
    return pilot.app.workspace


LISTS = [
    ("f", "WHERE", "this is asked about", WIDE),
    ("asterisk", "ROUNDS OF THE LOOPS", "It makes 1 round and ends: no item was left", NARROW),
    ("left_parenthesis", "THE CALLS · 1 call", "fare(age = 16) → 3", WIDE),
]


@pytest.mark.parametrize(("key", "title", "words", "size"), LISTS)
async def test_a_list_is_walked_through_and_the_trace_follows(tmp_path, key, title, words, size):
    async with opened(demo(tmp_path, "fares"), size) as pilot:
        work = await trace(pilot, *["down"] * 9)
        assert work.tracing.traced.step == 10
        await pilot.press(key)
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        assert title in screen(pilot)
        assert words[:20] in " ".join(screen(pilot).split())
        await pilot.press("down")
        await pilot.pause()
        moved = work.tracing.traced.step
        await pilot.press("escape")
        await until(pilot, lambda: not isinstance(pilot.app.screen, Pick))
        assert work.tracing.traced.step == 10
        await pilot.press(key)
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        await pilot.press("down", "enter")
        await pilot.pause()
        assert key != "f" or (work.tracing.traced.step == moved != 10)


async def test_a_line_is_taken_apart_with_its_values(tmp_path):
    async with opened(demo(tmp_path, "tides")) as pilot:
        await trace(pilot, "end", "x")
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        text = screen(pilot)
        assert "LINE 6 TAKEN APART" in text and "60 + 30.0" in text
        assert "Python reads it as  low + (high / 2)" in text


async def test_rounds_of_a_loop_say_what_it_missed(tmp_path):
    async with opened(demo(tmp_path, "lanes")) as pilot:
        await trace(pilot, "end", "asterisk")
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        assert "lengths has 1 item; lengths[0] is never used." in screen(pilot)


async def test_a_watch_is_a_column_and_is_refused_where_it_would_change_the_program(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        work = await trace(pilot, "k")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await typed(pilot, "fare(3)")
        await pilot.press("enter")
        await pilot.pause()
        assert "Calling fare() could change the program" in screen(pilot)
        await pilot.press("end", *["backspace"] * 7)
        await typed(pilot, "total * 2")
        await pilot.press("enter")
        await until(
            pilot,
            lambda: (
                work.tracing.traced is not None
                and "[total * 2]" in work.tracing.traced.story.columns
            ),
        )
        assert "[total * 2]" in screen(pilot)


async def test_a_hold_under_a_condition_says_how_often_it_stops(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        work = await trace(pilot, *["down"] * 9, "ampersand")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await typed(pilot, "age =")
        await pilot.press("enter")
        await pilot.pause()
        assert "cannot be read as Python" in screen(pilot) or "statement" in screen(pilot)
        await pilot.press("end", *["backspace"] * 5)
        await typed(pilot, "round 1")
        await pilot.press("enter")
        await until(pilot, lambda: bool(work.breakpoints.at))
        (hold,) = work.breakpoints.at.values()
        assert hold.round == 1 and work.breakpoints.stops() == []  # a def line has no visit in it
        await pilot.press("down", "h", "home", "space")
        assert work.tracing.traced.step == 11


async def test_the_moment_something_becomes_true_is_found(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        work = await trace(pilot, "slash")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await typed(pilot, "total == 3")
        await pilot.press("enter")
        await until(pilot, lambda: work.tracing.traced.step == 14)
        await pilot.press("semicolon")
        assert work.tracing.traced.step == work.tracing.traced.departs
        work.walking.take_column("total")
        await pilot.press("less_than_sign")
        assert work.tracing.traced.column == "total" and work.tracing.traced.step == 14
        await pilot.press("less_than_sign")
        assert work.tracing.traced.step == 5
        await pilot.press("greater_than_sign")
        assert work.tracing.traced.step == 14


async def test_a_claim_is_kept_beside_the_program_and_told_at_every_station(tmp_path):
    path = demo(tmp_path, "tides")
    async with opened(path) as pilot:
        work = await trace(pilot, "end", "a")
        await until(pilot, lambda: isinstance(pilot.app.screen, Ask))
        await typed(pilot, "result < 80")
        await pilot.press("enter")
        await until(pilot, lambda: work.tracing.traced.broken is not None)
        assert "your claim result < 80 does not hold here: result is 90.0" in screen(pilot)
        assert 'holds = "result < 80"' in path.with_suffix(".claims.toml").read_text()
        await pilot.press("1")
        await until(pilot, lambda: bool(work.claims.broken))
        assert "your claim result < 80 does not hold in case 1, line 6" in screen(pilot)


async def test_a_guess_is_held_against_the_machine_cell_by_cell(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        work = await trace(pilot, "down", "down", "down", "g")
        await until(pilot, lambda: isinstance(pilot.app.screen, Forecast))
        await pilot.press("0", "enter", "1", "enter")
        await pilot.pause()
        assert "i is 0 here, not 1" in " ".join(screen(pilot).split())
        await pilot.press("escape")
        await until(pilot, lambda: not isinstance(pilot.app.screen, Forecast))
        assert work.tracing.traced.step == 6


async def test_two_runs_are_shown_from_where_they_part(tmp_path):
    async with opened(demo(tmp_path, "lanes")) as pilot:
        work = await trace(pilot, "1", "down")
        first = work.tracing.traced
        await pilot.press("t")
        await until(
            pilot, lambda: work.tracing.traced is not None and work.tracing.traced is not first
        )
        await pilot.press("vertical_line")
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        text = " ".join(screen(pilot).split())
        assert "BESIDE CASE" in text and "run the same lines" in text


async def test_columns_and_rows_are_chosen(tmp_path):
    async with opened(demo(tmp_path, "fares")) as pilot:
        work = await trace(pilot, "tab", "minus")
        (hidden,) = work.tracing.view.hidden
        assert "1 hidden, 0 brings back" in screen(pilot)
        await pilot.press("tab", "tab", "circumflex_accent")
        (pinned,) = work.tracing.view.order
        assert pinned != hidden and work.walking.in_sight[0] == pinned
        await pilot.press(*["down"] * 10, "percent_sign")
        await pilot.pause()
        assert "only fare" in screen(pilot) and "reads '1'" not in screen(pilot)
        await pilot.press("0")
        assert not work.tracing.view.hidden and work.tracing.view.only is None


async def test_a_plot_is_drawn_and_saved(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    path = tmp_path / "queue.py"
    path.write_text("t = 0\nfor i in range(9):\n    t = t + i\nprint(t)\n")
    path.with_suffix(".cases.toml").write_text('[[case]]\nname = "x"\nstdin = ""\nstdout = "1"\n')
    async with opened(path) as pilot:
        work = await trace(pilot)
        work.walking.take_column("i")
        await pilot.press("circumflex_accent")
        work.walking.take_column("t")
        await pilot.press("p")
        await until(pilot, lambda: "t OVER THE STEPS" in screen(pilot))
        assert "t and i:" in screen(pilot)  # i is pinned: the two are drawn together
        assert "9 values" in screen(pilot) or "8 values" in screen(pilot)
        await pilot.press("ctrl+s")
        await until(pilot, (tmp_path / "queue-t.svg").exists)


DECKS = "lane = [0, 0]\ndecks = [lane] * 2\ndecks[0][1] = 7\nfor deck in decks:\n    print(deck)\n"
LONE = "decks = [[0, 0], [0, 0]]\nprint(decks)\n"


def program(tmp_path: Path, text: str) -> Path:
    (tmp_path / "decks.py").write_text(text)
    (tmp_path / "decks.cases.toml").write_text('[[case]]\nname = "one"\nstdout = "no"\n')
    return tmp_path / "decks.py"


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_lists_inside_of_lists_are_told_apart_or_as_one(tmp_path, size):
    async with opened(program(tmp_path, DECKS), size) as pilot:
        await trace(pilot, "end", "at")
        whole = "lane, deck, decks[0] and decks[1] are one and the same list."
        # Names alone are told at once, what lies inside of lists once the case ran again.
        await until(pilot, lambda: whole in " ".join(screen(pilot).split()))
        text = " ".join(screen(pilot).split())
        assert "What is done to one of them is done to all." in text
        assert "[entry 1, entry 1]" in text
    async with opened(program(tmp_path, LONE), size) as pilot:
        await trace(pilot, "end", "at")
        await until(
            pilot, lambda: "held by anything else as well" in " ".join(screen(pilot).split())
        )
        assert "one and the same list." not in screen(pilot)


async def test_the_ledger_of_a_program_that_was_changed_says_why_it_tells_no_more(tmp_path):
    path = program(tmp_path, DECKS)
    async with opened(path) as pilot:
        work = await trace(pilot, "end")
        work.tracing.traced.stale = True
        await pilot.press("at")
        await until(pilot, lambda: "after the next recording" in " ".join(screen(pilot).split()))


async def test_a_page_that_is_put_away_misses_nothing_when_its_answer_comes(tmp_path):
    async with opened(program(tmp_path, DECKS)) as pilot:
        work = await trace(pilot, "end", "at")
        page = pilot.app.screen
        await pilot.press("escape")
        page.take(None, "too late")
        await pilot.pause()
        assert "too late" not in screen(pilot)
        assert "NAMES AND LISTS" not in screen(pilot)
        assert work.tracing.traced is not None


async def test_an_answer_that_comes_before_its_page_stands_is_on_it(tmp_path):
    async with opened(program(tmp_path, DECKS)) as pilot:
        work = await trace(pilot, "end")
        page = LedgerPage(work.tracing.traced)
        pilot.app.push_screen(page)
        page.take(None, "too early")
        await until(pilot, lambda: "too early" in screen(pilot))
