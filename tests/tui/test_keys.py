"""Keys tell the truth: what is shown happens, in the order in which it was pressed."""

from __future__ import annotations

import asyncio
import inspect

import pytest
from piloting import NARROW, opened, said, screen, sizes, until
from textual import events
from textual.widgets import Input

from conftest import MANY
from oddsum.model.case import Case
from oddsum.model.history import Entry
from oddsum.tui.actions import DIALOGS, STATIONS, actions_of, actions_under
from oddsum.tui.app import OddSumApp
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.bands import KeyLine
from oddsum.tui.widgets.program_editor import ProgramEditor

NUMBERS = {"check": "1", "trace": "2", "pinpoint": "3", "mend": "4", "record": "5"}
FOCUSES = [(s, "station") for s in STATIONS] + [("mend", "program"), ("mend", "search")]
# On German, French, Spanish, Italian, Nordic or British keyboards these need AltGr, or are dead.
AWKWARD = {"at", "tilde", "circumflex_accent", "vertical_line", "number_sign", "left_square_bracket",
           "right_square_bracket", "left_curly_bracket", "right_curly_bracket", "backslash",
           "grave_accent", "acute_accent", "dollar_sign", "quotation_mark", "apostrophe"}  # fmt: skip


async def at(pilot, station: str, focus: str):
    """The station's screen, with the focus where it is wanted."""
    app = pilot.app
    if station == "trace":
        await pilot.press("t")
        await until(pilot, lambda: app.workspace.tracing.traced is not None)
    else:
        await pilot.press(NUMBERS[station])
    await until(pilot, lambda: isinstance(app.screen, Station) and app.screen.station == station)
    here = app.screen
    if station == "pinpoint":
        await until(pilot, lambda: bool(app.workspace.pinpointing.search.found))
    if station == "mend":
        await until(pilot, lambda: here.focus_now == "program")
        if focus == "search":
            await pilot.press("ctrl+f")
        elif focus == "station":
            await pilot.press("escape")
    await until(pilot, lambda: here.focus_now == focus)
    return here


@pytest.mark.parametrize(("station", "focus"), FOCUSES)
async def test_every_key_that_is_shown_does_what_it_says(searched_once, demo, station, focus):
    async with opened(demo / "fares.py", (240, 47)) as pilot:
        here = await at(pilot, station, focus)
        shown = here.query_one(KeyLine).actions
        assert shown == [
            a for a in actions_under(station, focus) if a.shown and a.words != "another panel"
        ]
        line = screen(pilot).split("\n")[-1]
        assert all(f"{a.label} {a.words}" in line for a in shown)
        for action in shown:
            if not action.action:
                continue
            name, _, rest = action.action.partition("(")
            called = []
            setattr(here, f"action_{name}", lambda *args, into=called: into.append(args))
            for key in action.keys.split(","):
                called.clear()
                await pilot.press(key)
                await until(pilot, lambda into=called: bool(into), 5)
                wanted = tuple(a.strip().strip("'") for a in rest.rstrip(")").split(",") if a)
                assert tuple(str(a) for a in called[0]) == wanted, action
            delattr(here, f"action_{name}")


async def test_what_widgets_do_for_a_key_that_is_shown(searched_once, demo):
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        work.recording.write_page(Entry(at=1.0, where="here"))
        work.recording.write_page(Entry(at=2.0, where="there"))
        await pilot.press("up")
        assert work.checking.selected == 5
        await pilot.press("r")
        await until(pilot, lambda: work.recording.record.count == 2)
        here = await at(pilot, "record", "station")
        before = work.recording.record.cursor, work.recording.record.page
        await pilot.press("left", "up" if before[1] == 0 else "down")
        record = work.recording.record
        assert (record.cursor, record.page) == (before[0] - 1, 1 - before[1])
        here = await at(pilot, "mend", "program")
        editor = here.query_one(ProgramEditor)
        editor.move_cursor((10, 0))
        await pilot.press("shift+down", "tab")
        assert editor.document[10].startswith(" " * 12)
        await pilot.press("shift+tab", "ctrl+f", *"age")
        await until(pilot, lambda: "4 of 10" in screen(pilot))
        await pilot.press("enter")
        await until(pilot, lambda: "5 of 10" in screen(pilot))


async def test_the_line_changes_with_the_focus_and_the_field_is_left_with_esc(demo):
    async with opened(demo / "fares.py") as pilot:
        here = await at(pilot, "mend", "program")
        line = here.query_one(KeyLine)
        assert "E" not in [a.label for a in line.actions] and line.actions[0].label == "Esc"
        before = here.query_one(ProgramEditor).text
        await pilot.press("e", "question_mark", "1", "escape")
        assert "e?1" in here.query_one(ProgramEditor).text  # typed, as anybody would expect
        assert line.actions[0].label == "E"
        await pilot.press("ctrl+z")
        await pilot.press("ctrl+z", "ctrl+z", "ctrl+z")
        await until(pilot, lambda: here.query_one(ProgramEditor).text == before)


@pytest.mark.parametrize("way", ["escape", "away", "record"])
async def test_ctrl_s_and_ctrl_z_act_wherever_they_are_promised(demo, way):
    path = demo / "fares.py"
    before = path.read_text()
    async with opened(path) as pilot:
        work, here = pilot.app.workspace, await at(pilot, "mend", "program")
        editor = here.query_one(ProgramEditor)
        editor.move_cursor((2, 0))  # CHILD = 3
        await pilot.press("x", "escape")
        if way == "away":
            await pilot.press("1", "4")
        elif way == "record":
            await pilot.press("5", "b", "4")
        await pilot.press("ctrl+z")
        await until(pilot, lambda: editor.text == before)
        await pilot.press("ctrl+y")
        await until(pilot, lambda: editor.document[2] == "xCHILD = 3")
        await pilot.press("ctrl+z", "ctrl+l", "ctrl+s")
        await until(pilot, lambda: path.read_text() != before and not work.mending.draft.changed)


async def test_no_key_that_is_not_shown_changes_the_program_or_the_plan(demo):
    path = demo / "fares.py"
    kept = path.read_text(), path.with_suffix(".cases.toml").read_text()
    keys = [*"abcdefghijklmnopqrstuvwxyz0123456789", "enter", "space", "tab", "delete", "backspace",
            "insert", "pageup", "home", *(f"ctrl+{c}" for c in "abdeghijknortuvwxy")]  # fmt: skip
    for station in STATIONS if MANY else ("check", "trace", "mend"):
        async with opened(path) as pilot:
            app, here = pilot.app, await at(pilot, station, "station")
            bound = {
                k for a in actions_of(station) for k in (*a.keys.split(","), *a.also.split(","))
            }
            await pilot.press(
                *(k for k in keys if k not in bound and k not in ("ctrl+q", "ctrl+p"))
            )
            await pilot.pause()
            draft = app.workspace.mending.draft
            assert draft is None or not draft.changed
            assert app.screen is here
    assert kept == (path.read_text(), path.with_suffix(".cases.toml").read_text())


def test_no_key_needs_altgr_and_none_is_dead():
    for actions in (*STATIONS.values(), *DIALOGS.values()):
        for action in actions:
            assert not AWKWARD & set(action.keys.split(",")), action


def test_a_letter_means_one_thing_at_every_station():
    """A wish of the design: add, side by side, edit, where from, guess, hold, eye, mend ..."""
    meant = {"a": "add", "d": "side by side", "e": "edit", "g": "guess", "m": "mend", "t": "trac",
             "r": "check", "v": "record live", "z": "words"}  # fmt: skip
    for station in STATIONS:
        for action in actions_of(station):
            words = meant.get(action.keys)
            if words is not None and (station, action.keys) != ("trace", "t"):
                assert words in action.words, (station, action)
    assert not {a.keys for a in STATIONS["trace"]} & set("bcilnqsuw")


def test_every_dialog_has_its_keys_in_the_table():
    import importlib
    import pkgutil

    import oddsum.tui.dialogs as package

    found = 0
    for module in pkgutil.iter_modules(package.__path__):
        loaded = importlib.import_module(f"oddsum.tui.dialogs.{module.name}")
        for _, one in inspect.getmembers(loaded, inspect.isclass):
            if issubclass(one, Dialog) and one.__module__ == loaded.__name__ and one is not Dialog:
                tables = [{b.action for a in actions if a.action for b in a.bindings()}
                          for actions in DIALOGS.values()]  # fmt: skip
                mine = {b.action for b in one.BINDINGS}
                assert mine in tables or not one.BINDINGS, one
                found += 1
    assert found >= 14


# -- in order ------------------------------------------------------------------------------------


def burst(app: OddSumApp, *keys: str) -> None:
    """Keys as a terminal sends them when somebody types ahead: none waits for the one before."""
    for key in keys:
        app.post_message(events.Key(key, key if len(key) == 1 else None))


@pytest.mark.parametrize("on_its_way", [False, True])
async def test_a_key_that_comes_while_it_closes_is_let_go(demo, on_its_way):
    async with opened(demo / "fares.py") as pilot:
        app, held = pilot.app, pilot.app.screen_stack
        key = events.Key("a", "a")
        key._forwarded = on_its_way  # it has been to a field already
        app._screen_stacks[app._current_mode].clear()
        try:
            await app.on_event(key)
        finally:
            app._screen_stacks[app._current_mode].extend(held)


async def test_keys_pressed_quickly_act_in_the_order_they_were_pressed(demo):
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        await pilot.press("t")
        await until(pilot, lambda: work.tracing.traced is not None)
        burst(pilot.app, *["down"] * 9, "up", "up", "h", "home", "space", "4", "escape", "1", "home",
              "down", "a", *"quick", "escape", "2")  # fmt: skip
        # It begins at Trace, and ends there once Check has been gone to.
        await until(pilot, lambda: work.checking.selected == 2, 20)
        await until(pilot, lambda: getattr(pilot.app.screen, "station", "") == "trace", 20)
        traced = work.tracing.traced
        await pilot.pause()
        assert [n for n in work.breakpoints.at] == [("fares.py", 19)]
        assert traced.story.step(traced.step).line == 19
        assert work.checking.selected == 2
        assert work.mending.draft is not None and not work.mending.draft.changed


async def test_text_typed_ahead_into_a_dialog_arrives_whole(demo):
    async with opened(demo / "fares.py") as pilot:
        burst(pilot.app, "a", *"1", "enter", *"17", "tab", "tab", *"just seventeen")
        await until(pilot, lambda: bool(pilot.app.screen.query("#stdin")))
        await until(pilot, lambda: pilot.app.screen.query_one("#stdin").text == "1\n17")
        name = pilot.app.screen.query_one("#name", Input)
        await until(pilot, lambda: name.value == "just seventeen")


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_keys_pressed_before_the_first_dialog_is_up_are_for_it(tmp_path, size):
    path = tmp_path / "ferry.py"
    path.write_text("print(input())\n")
    app = OddSumApp(path, None, None)
    app.going_on.raises = True
    burst(app, *"5", "tab", "tab", *"tar", "ctrl+s")
    async with app.run_test(size=size) as pilot:
        checking = app.workspace.checking
        await until(pilot, lambda: checking.plan is not None and checking.complete())
        (case,) = checking.plan.cases
        assert (case.name, case.stdin) == ("tar", "5\n")


async def test_wishes_to_close_a_dialog_that_is_closed_already_do_nothing(demo):
    async with opened(demo / "fares.py") as pilot:
        await pilot.press("a")
        card = pilot.app.screen
        await pilot.press("a")
        card.close(None)
        card.close(Case(number=1, name="late"))
        await pilot.pause()
        burst(pilot.app, "a", "escape", "escape", "escape", "a", "ctrl+s", "ctrl+s", "escape")
        await asyncio.sleep(0)
        await until(
            pilot,
            lambda: isinstance(pilot.app.screen, Station) and not pilot.app.keys_in_order._waiting,
        )
        assert "Traceback" not in said(pilot)
