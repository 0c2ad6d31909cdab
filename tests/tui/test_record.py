"""Record: the grid of runs, two of them side by side, the notebook, the report."""

from __future__ import annotations

import pytest
from piloting import WIDE, opened, said, screen, sizes, until

from oddsum.model.history import Entry, PastRun, Version
from oddsum.model.outcome import Outcome
from oddsum.record.history import History

A, D, E = Outcome.AGREES, Outcome.DIFFERS, Outcome.ENDLESS
NAMES = ("two adults", "a family of four", "just sixteen")


def remember(path, *marks: tuple[Outcome, ...]) -> None:
    """Runs of before: each with a program of its own."""
    history, text = History(path), path.read_text()
    for n, row in enumerate(marks):
        run = PastRun(at=1_790_000_000.0 + n * 60, seconds=0.4, plan="fares.cases.toml",
                      outcomes=dict(zip(NAMES, row, strict=True)))  # fmt: skip
        version = text.replace("age <= 16", f"age <= {20 - n}")
        history.add_run(run, Version(files={"fares.py": version}))


@pytest.fixture
def fares(demo):
    path = demo / "fares.py"
    remember(path, (D, E, D), (A, D, D), (A, A, D))
    return path


async def at_record(pilot, count: int) -> None:
    await until(pilot, lambda: pilot.app.workspace.recording.record.count == count)
    await pilot.press("5")
    await until(pilot, lambda: "RUNS" in screen(pilot))


@pytest.mark.parametrize("size", sizes(WIDE))
async def test_the_grid_shows_when_a_case_was_settled_or_broke(fares, size):
    async with opened(fares, size) as pilot:
        await at_record(pilot, 4)
        text = screen(pilot)
        row = next(line for line in text.split("\n") if "a family of four" in line)
        assert row.split("│")[1].split()[:4] == ["∞", "≠", "=", "="]
        await pilot.press("left", "left")
        await until(pilot, lambda: "settled: two adults" in screen(pilot))
        await until(pilot, lambda: "if age <= 20: → if age <= 19:" in screen(pilot))
        await pilot.press("home")
        await until(pilot, lambda: "The first run that is recorded here" in screen(pilot))


async def test_runs_of_long_ago_are_read_when_one_goes_there(demo):
    path = demo / "fares.py"
    remember(path, *[(A, A, D)] * 230)
    async with opened(path) as pilot:
        await at_record(pilot, 231)
        record = pilot.app.workspace.recording.record
        assert " of 231" in screen(pilot) and len(record.runs) < 231
        await pilot.press("home", "space", "left")
        await until(pilot, lambda: len(record.runs) == 231)
        assert record.marked == record.cursor + 1 and "RUN 3" in screen(pilot)
        held = record.runs[record.cursor].number
        await pilot.press("r")
        await until(pilot, lambda: record.count == 232)
        assert len(record.runs) == 232 and record.runs[record.cursor].number == held


async def test_two_runs_are_held_against_each_other_and_one_is_put_back(fares):
    before = fares.read_text()
    async with opened(fares) as pilot:
        app = pilot.app
        await at_record(pilot, 4)
        await pilot.press("home", "space", "right", "right", "d")
        await until(pilot, lambda: "RUN 1 AND RUN 3" in screen(pilot))
        text = screen(pilot)
        assert "if age <= 20:" in text and "if age <= 18:" in text
        assert "∞ endless" in text and "→ = agrees" in text
        await pilot.press("escape", "b")
        await until(
            pilot,
            lambda: app.workspace.mending.draft is not None and app.workspace.mending.draft.shown,
        )
        assert "age <= 18" in app.workspace.mending.draft.text and fares.read_text() == before
        assert "Taken over: the program of run 3" in screen(pilot)
        await pilot.press("escape", "5", "d")  # the change in hand stays where it is
        await until(pilot, lambda: "RUN 1 AND RUN 3" in screen(pilot))


async def test_a_page_is_written_changed_and_taken_out(fares):
    async with opened(fares) as pilot:
        app = pilot.app
        await at_record(pilot, 4)
        await pilot.press("a", *"line 8", "tab", *"a limit", "ctrl+s")
        await until(pilot, lambda: len(app.workspace.recording.record.entries) == 1)
        assert "line 8" in screen(pilot) and "a limit" in screen(pilot)
        await pilot.press("e", *"I see it now.", "ctrl+s")
        await until(pilot, lambda: "I see it now." in screen(pilot))
        await pilot.press("delete", "escape")
        assert len(app.workspace.recording.record.entries) == 1
        await pilot.press("delete", "right", "enter")
        await until(pilot, lambda: not app.workspace.recording.record.entries)


async def test_a_report_is_written_and_one_that_is_there_is_asked_about(fares):
    History(fares).write_entry(Entry(at=1.0, where="line 8", own="Mine."))
    page = fares.parent / "fares-report.html"
    async with opened(fares) as pilot:
        await at_record(pilot, 4)
        await pilot.press("w", "enter")
        await until(pilot, page.exists)
        assert "Mine." in page.read_text() and "4 runs recorded" in page.read_text()
        await until(pilot, lambda: "The report is written" in said(pilot))
        page.write_text("theirs")
        await pilot.press("w", "enter")
        await until(pilot, lambda: "THE FILE IS THERE" in screen(pilot))
        await pilot.press("escape", "w", "end", *"x", "enter")
        await until(pilot, lambda: "cannot be written as .htmlx" in screen(pilot))
        assert page.read_text() == "theirs"


async def test_a_damaged_record_is_set_aside_and_said_and_all_else_works(demo):
    from oddsum.record.history import data_file

    data_file().parent.mkdir(parents=True, exist_ok=True)
    data_file().write_bytes(b"no database at all\n" * 200)
    # What is said in passing goes by: it is waited for before the plan has run.
    async with opened(demo / "fares.py", checked=False) as pilot:
        await until(pilot, lambda: "The record was damaged" in said(pilot))
        await at_record(pilot, 1)
        assert "1 in all" in screen(pilot)
    assert list(data_file().parent.glob("history-damaged-*.db"))


async def test_the_walk_goes_over_every_station_and_can_be_left(demo):
    from oddsum.tui.dialogs.walk import CARDS

    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        app.walk()
        for n, (station, title, _, _) in enumerate(CARDS):
            await until(pilot, lambda title=title: title in screen(pilot))
            assert app.screen_stack[-2].station == station
            await pilot.press("left" if n == 4 else "enter")
        await until(pilot, lambda: CARDS[3][1] in screen(pilot))
        await pilot.press("escape")
        await until(pilot, lambda: app.workspace.preferences.settings.walk_seen)
        assert "A WALK" not in screen(pilot) and app.screen.station == "mend"


async def test_a_card_that_does_not_stand_yet_takes_no_harm_from_news(demo):
    from oddsum.tui.dialogs.walk import Walk
    from oddsum.workspace.interface import EVERYTHING

    async with opened(demo / "fares.py") as pilot:
        doing = ["the plan is read."]
        pilot.app.push_screen(Walk(0, lambda: doing[0]))
        doing[0] = "the plan is running."
        pilot.app.show(EVERYTHING)
        await until(pilot, lambda: "Wait a moment: the plan is running." in screen(pilot))
