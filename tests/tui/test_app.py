"""The application, driven by its keys, at both sizes."""

from __future__ import annotations

import asyncio
import threading

import pytest
from piloting import NARROW, WIDE, opened, screen, sizes, until

from oddsum.workspace.interface import EVERYTHING


@pytest.mark.parametrize("size", sizes(WIDE))
async def test_the_main_path_from_cases_to_a_lead(searched_once, demo, size):
    async with opened(demo / "fares.py", size) as pilot:
        work = pilot.app.workspace
        assert "7 agree   2 differ" in screen(pilot)
        assert "trace case 6, the shortest that is odd" in screen(pilot)
        assert work.checking.selected == 6
        await pilot.press("t")
        await until(pilot, lambda: work.tracing.traced is not None)
        assert "TRACE TABLE" in screen(pilot)
        await pilot.press(*["down"] * 11)
        assert "⟨10⟩" in screen(pilot)
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        assert "line 10" in screen(pilot) and "covered" in screen(pilot)
        assert "fair" in screen(pilot)  # other changes fit, too
        assert "exactly" not in screen(pilot)
        await pilot.press("enter")
        assert "is exactly 16" in screen(pilot)
        assert "Write" not in screen(pilot)
        await pilot.press("enter")
        await pilot.press("end")
        assert work.pinpointing.search.level(work.pinpointing.search.leads[0]) == 2


async def test_time_runs_both_ways_in_a_trace(demo):
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        await pilot.press("down", "t")
        await until(pilot, lambda: work.tracing.traced is not None)
        traced = work.tracing.traced
        await pilot.press("end")
        assert traced.step == len(traced.story) == 35
        await pilot.press("home", "down", "down", "up")
        assert traced.step == 2
        await pilot.press("right")
        assert traced.story.step(traced.step).events == ("call",)
        await pilot.press("left")
        assert traced.story.step(traced.step).events == ("back",)
        await pilot.press("h", "space")
        assert traced.story.step(traced.step).line == 22
        await pilot.press("backspace")
        assert traced.story.step(traced.step).visit == 1
        await pilot.press("number_sign", *"33", "enter")
        assert traced.step == 33
        await pilot.press("equals_sign", "enter")
        assert "VALUES AFTER STEP 33" in screen(pilot)
        await pilot.press("escape", "home")
        assert "≠ output departs" in screen(pilot)


async def test_only_the_odd_and_side_by_side(demo):
    async with opened(demo / "fares.py") as pilot:
        await pilot.press("o")
        assert "2 of 9, only the odd" in screen(pilot)
        assert "two adults" not in screen(pilot)
        await pilot.press("d")
        assert "CASE 6, SIDE BY SIDE" in screen(pilot)
        await pilot.press("escape", "o")
        assert "two adults" in screen(pilot)


async def test_saving_the_program_checks_it_again(searched_once, demo):
    path = demo / "fares.py"
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        await pilot.press("1")
        await until(pilot, lambda: work.watching)
        path.write_text(path.read_text().replace("<= 16", "< 16"))
        await until(pilot, lambda: not work.checking.odd() and not work.checking.busy)
        assert "9 agree" in screen(pilot)
        assert "every case agrees" in screen(pilot)
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        assert "All 9 cases agree" in screen(pilot)


async def test_a_program_that_cannot_start_is_told_and_mended(demo):
    path = demo / "tides.py"
    good = path.read_text()
    path.write_text(good.replace("def middle(low, high):", "def middle(low, high)"))
    async with opened(path, checked=False) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.checking.fault is not None)
        assert "cannot start" in screen(pilot) and "line 4" in screen(pilot)
        await pilot.press("2")
        assert "cannot be run as it is" in screen(pilot)
        await pilot.press("1")
        await until(pilot, lambda: work.watching)
        path.write_text(good)
        await until(pilot, lambda: bool(work.checking.checked_at))
        assert "4 agree   4 differ" in screen(pilot)


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_a_program_without_a_plan_gets_its_first_case(demo, size):
    path = demo / "lanes.py"
    path.with_suffix(".cases.toml").unlink()
    async with opened(path, size, checked=False) as pilot:
        await until(pilot, lambda: len(pilot.app.screen_stack) > 1)
        assert "THE FIRST CASE" in screen(pilot)
        await pilot.press(*"room_needed([4.2])", "tab", *"4.2")  # the name may wait
        await pilot.press("ctrl+s")
        await until(pilot, lambda: bool(pilot.app.workspace.checking.checked_at))
        assert "1 differs" in screen(pilot)
    text = path.with_suffix(".cases.toml").read_text()
    assert 'call = "room_needed([4.2])"' in text and 'returns = "4.2"' in text


async def test_the_card_says_what_is_missing_and_can_change_sides(demo):
    async with opened(demo / "fares.py") as pilot:
        await pilot.press("a")
        await pilot.press("tab", "tab", *"two adults")
        await pilot.press("ctrl+s")
        told = "There is a case named 'two adults' already"
        await until(pilot, lambda: told in screen(pilot))
        await pilot.click("#switch")
        await pilot.pause()
        assert "What it should return" in screen(pilot)
        await pilot.press("escape")
        assert pilot.app.workspace.checking.plan.cases[-1].number == 9


async def test_work_can_be_stopped_at_once(tmp_path):
    path = tmp_path / "wait.py"
    path.write_text("while True:\n    pass\n")
    case = '[[case]]\nname = "{0}"\nstdin = ""\ntimeout = 30\nstdout = "x"\n'
    path.with_suffix(".cases.toml").write_text("".join(case.format(n) for n in "abc"))
    async with opened(path, checked=False) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.checking.busy)
        await until(pilot, lambda: "checking 0 of 3" in screen(pilot))
        await pilot.press("escape")
        assert not work.checking.busy
        await until(pilot, lambda: not [t for t in threading.enumerate() if t.name == "check"])


@pytest.mark.parametrize("station", ["1", "2", "4", "5"])
async def test_help_and_glossary_at_every_station(demo, station):
    async with opened(demo / "fares.py", NARROW) as pilot:
        await pilot.press(station)
        await pilot.pause()
        await pilot.press("escape", "question_mark")
        assert "ALL KEYS IN" in screen(pilot)
        await pilot.press("escape", "z")
        assert "THE WORDS IN" in screen(pilot)
        await pilot.press("escape")


async def test_a_small_terminal_is_told_what_is_needed(demo):
    async with opened(demo / "fares.py", (60, 20), checked=False) as pilot:
        await until(pilot, lambda: "60 columns and 20 lines" in screen(pilot))
        assert "at least 80 and 24" in screen(pilot)


async def test_what_arrives_while_the_application_closes_is_let_go(demo):
    async with opened(demo / "fares.py") as pilot:
        station = pilot.app.screen
    assert not station.query("#keys")  # the widgets are gone, the screen is not yet
    with pilot.app._context():
        station.refresh_from(EVERYTHING)


async def test_the_mouse_does_what_keys_do(demo):
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        await pilot.click("#cases", offset=(20, 3))
        assert work.checking.selected == 2
        text = screen(pilot).split("\n")[-1]
        await pilot.click("#keys", offset=(text.index("T trace it"), 0))
        await until(pilot, lambda: work.tracing.traced is not None)
        await pilot.click("#table", offset=(5, 6))
        assert work.tracing.traced.step == 5
        await pilot.click("#source", offset=(2, 21))
        assert set(work.breakpoints.at) == {("fares.py", 22)}
        await pilot.click("#run", offset=(80, 1))
        assert work.tracing.traced.step > 5
        await pilot.click("#trail", offset=(5, 0))
        assert "CASES" in screen(pilot)


async def test_the_palette_finds_every_action_and_the_theme(demo):
    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        titles = [c.title for c in app.get_system_commands(app.screen)]
        assert "Trace it" in titles and "Theme: Paper, the light one" in titles
        app.settings_commands.toggle_theme()
        assert app.theme == "paper"
    async with opened(demo / "fares.py", checked=False) as pilot:
        assert pilot.app.theme == "paper"  # it is remembered


async def test_marks_can_be_plain_and_the_program_is_left_alone(demo):
    path = demo / "fares.py"
    path.write_text("# ≠ → ‖\n" + path.read_text())
    async with opened(path) as pilot:
        pilot.app.settings_commands.toggle_marks()
        await until(pilot, lambda: "# differs" in screen(pilot))
        text = screen(pilot)
        assert "# ≠ → ‖" in text
        assert text.count("≠") == 1
        assert "Up Down choose a case" in text
        pilot.app.settings_commands.toggle_marks()
        await until(pilot, lambda: "≠ differs" in screen(pilot))


async def test_from_a_lead_to_the_moment_its_line_runs(searched_once, demo):
    async with opened(demo / "lanes.py") as pilot:
        work = pilot.app.workspace
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        await pilot.press("t")
        await until(pilot, lambda: work.tracing.traced is not None)
        assert work.tracing.traced.story.step(work.tracing.traced.step).line == 10
        assert "⟨10⟩" in screen(pilot)
        await pilot.press("3", "up", "down", "r")
        await until(
            pilot,
            lambda: bool(
                work.pinpointing.search
                and work.pinpointing.search.found
                and not work.pinpointing.search.stale
            ),
        )
        assert "line 10" in screen(pilot)


async def test_what_is_uncovered_stays_until_the_program_changes(searched_once, demo):
    path = demo / "tides.py"
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        await pilot.press("enter", "r")
        await until(
            pilot, lambda: bool(work.pinpointing.search.found and not work.pinpointing.search.stale)
        )
        assert work.pinpointing.search.level(work.pinpointing.search.leads[0]) == 1
        await until(pilot, lambda: work.watching)
        number = work.checking.job.number
        path.write_text(path.read_text() + "# a remark\n")
        await until(pilot, lambda: work.checking.job.number > number)
        await until(
            pilot, lambda: bool(work.pinpointing.search.found and not work.pinpointing.search.stale)
        )
        assert work.pinpointing.search.level(work.pinpointing.search.leads[0]) == 0


async def test_an_author_s_wish_is_kept(searched_once, demo):
    plan = demo / "fares.cases.toml"
    plan.write_text('reveal = "where"\n' + plan.read_text())
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        await pilot.press("3")
        await until(pilot, lambda: bool(work.pinpointing.search and work.pinpointing.search.found))
        await pilot.press("enter", "enter")
        assert work.pinpointing.search.level(work.pinpointing.search.leads[0]) == 0
        told = [notice.message for notice in pilot.app._notifications]
        assert any("asks you to find the rest yourself" in text for text in told)


async def test_a_plan_that_is_broken_and_mended_while_it_is_open(demo):
    path, plan = demo / "fares.py", demo / "fares.cases.toml"
    good = plan.read_text()
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.watching)
        plan.write_text(good.replace('stdin = """', 'stdn = """', 1))
        await until(pilot, lambda: work.checking.fault is not None)
        assert "Did you mean `stdin`?".replace("`", "") in screen(pilot)
        plan.write_text(good)
        await until(pilot, lambda: work.checking.fault is None and work.checking.complete())
        assert "7 agree   2 differ" in screen(pilot)


async def test_a_program_that_goes_away_is_told_and_nothing_is_lost(demo):
    path = demo / "tides.py"
    good = path.read_text()
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.watching)
        path.unlink()
        await until(pilot, lambda: work.checking.fault is not None)
        assert "There is no file" in screen(pilot)
        path.write_text(good)
        await until(pilot, lambda: work.checking.fault is None and work.checking.complete())
        assert "4 agree   4 differ" in screen(pilot)


async def test_a_recording_of_before_is_told_as_such(demo):
    path = demo / "fares.py"
    async with opened(path) as pilot:
        work = pilot.app.workspace
        await pilot.press("t")
        await until(pilot, lambda: work.tracing.traced is not None)
        await until(pilot, lambda: work.watching)
        path.write_text(path.read_text() + "\n# later\n")
        await until(pilot, lambda: "the program has changed since this recording" in screen(pilot))
        assert work.tracing.traced.stale and work.checking.complete()
        await pilot.press("t")
        await until(
            pilot, lambda: work.tracing.traced is not None and not work.tracing.traced.stale
        )
        assert "say first what will change" in screen(pilot)


async def test_cases_that_stopped_and_never_end_are_shown_where_they_are(tmp_path):
    path = tmp_path / "queue.py"
    path.write_text("n = int(input())\nwhile n > 3:\n    m = n\nprint(10 // n)\n")
    case = '[[case]]\nname = "{0}"\nstdin = "{0}\\n"\nstdout = "5"\ntimeout = 0.3\n'
    path.with_suffix(".cases.toml").write_text("".join(case.format(n) for n in (2, 0, 9)))
    async with opened(path) as pilot:
        text = screen(pilot)
        assert "1 agrees   1 stopped   1 endless" in text
        assert "ZeroDivisionError on line 4" in text and "in the loop on line 2" in text
        await pilot.press("down")
        await pilot.press("t")
        work = pilot.app.workspace
        await until(pilot, lambda: work.tracing.traced is not None)
        await pilot.press("end")
        await pilot.pause()
        assert "Recorded up to step" in screen(pilot)


async def test_leaving_with_work_under_way_is_quick(tmp_path):
    path = tmp_path / "wait.py"
    path.write_text("while True:\n    pass\n")
    path.with_suffix(".cases.toml").write_text(
        '[[case]]\nname = "a"\nstdin = ""\ntimeout = 60\nstdout = ""\n'
    )
    started = asyncio.get_running_loop().time()
    async with opened(path, checked=False) as pilot:
        await until(pilot, lambda: pilot.app.workspace.checking.busy)
        await pilot.press("ctrl+q")
    assert asyncio.get_running_loop().time() - started < 10


async def test_all_of_a_case_can_be_read_in_a_small_window(demo):
    async with opened(demo / "fares.py", NARROW) as pilot:
        await until(pilot, lambda: "boundary · Space: more" in screen(pilot))
        assert "HOW IT RAN" not in screen(pilot)
        for _ in range(4):
            await pilot.press("space")
            if "HOW IT RAN" in screen(pilot):
                break
        assert "HOW IT RAN" in screen(pilot)
        await pilot.press("down")
        await until(pilot, lambda: "CASE 7" in screen(pilot))
        assert "typed in" in screen(pilot)  # another case begins at its beginning
        await pilot.press("space")
        before = screen(pilot)
        pilot.app.workspace.checking.check_this()  # a result that comes moves nothing
        await until(pilot, lambda: not pilot.app.workspace.checking.busy)
        assert screen(pilot).split("\n")[13:20] == before.split("\n")[13:20]
