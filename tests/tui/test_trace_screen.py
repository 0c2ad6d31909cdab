"""Trace as it is looked at: the odd moment, what is in sight, questions by digit, word and click."""

from __future__ import annotations

from pathlib import Path

import pytest
from piloting import NARROW, WIDE, opened, screen, sizes, until
from textual.widgets import Input

from oddsum.settings.user import change_setting
from oddsum.tui.dialogs.forecast import Forecast
from oddsum.tui.dialogs.pick import Pick
from oddsum.tui.dialogs.question_list import QuestionList
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.trace_table import TraceTable

KIOSK = """class Item:
    def __init__(self, price, stock):
        self.price = price
        self.stock = stock


class Kiosk:
    def __init__(self):
        self.items = {"tea": Item(3, 10), "map": Item(5, 2)}
        self.takings = 0

    def sell(self, name, amount):
        item = self.items[name]
        item.stock -= amount
        self.takings += item.price
        return amount * item.price


kiosk = Kiosk()
print("Costs", kiosk.sell("tea", 2))
print("Takings:", kiosk.takings)
"""
PLAN = '[[case]]\nname = "two teas"\nstdin = ""\nstdout = "Costs 6\\nTakings: 6\\n"\n'
CALL = '[[case]]\nname = "a fare"\ncall = "fare(16)"\nreturns = "6"\n'


@pytest.fixture
def kiosk(tmp_path) -> Path:
    path = tmp_path / "kiosk.py"
    path.write_text(KIOSK)
    path.with_suffix(".cases.toml").write_text(PLAN)
    return path


async def traced(pilot):
    await pilot.press("t")
    await until(pilot, lambda: pilot.app.workspace.tracing.walked is not None)
    return pilot.app.workspace


def behind(pilot) -> str:
    """The station behind a dialog, as text."""
    strips = pilot.app.screen_stack[-2]._compositor.render_strips()
    return "\n".join("".join(s.text for s in strip) for strip in strips)


def at_line(work, line: int) -> int:
    return work.tracing.walked.story.visits({("kiosk.py", line)})[0]


@pytest.mark.parametrize("size", [WIDE, NARROW, (100, 30), (220, 60)])
async def test_an_attribute_that_changes_is_in_sight_as_a_column(kiosk, size):
    async with opened(kiosk, size) as pilot:
        work = await traced(pilot)
        assert work.tracing.walked.story.step(work.tracing.walked.step).line == 19  # past the defs
        work.tracing.go(at_line(work, 15))
        await until(pilot, lambda: "0 → 3" in screen(pilot))
        assert "kiosk.takings" in screen(pilot)
        title = next(t for t in work.walking.in_sight if t.endswith("takings"))
        work.walking.take_column(title)
        await pilot.press("f")
        await until(pilot, lambda: isinstance(pilot.app.screen, Pick))
        told = screen(pilot)
        assert "WHERE kiosk.takings COMES FROM" in told and "self.takings = 3" in told


async def test_where_it_goes_odd_is_marked_everywhere_also_on_it(kiosk):
    async with opened(kiosk) as pilot:
        work = await traced(pilot)
        assert "≠ output departs" in screen(pilot)
        await pilot.press("o")
        await pilot.pause()
        step = work.tracing.walked.story.step(work.tracing.walked.step)
        assert step.output == "Takings: 3\n"
        told = screen(pilot)
        assert "≠ here it departs" in told and f"≠ {step.number}" in told
        assert "expected Takings: 6" in told.partition("PRINTED SO FAR")[0]
        (line,) = [x for x in told.split("\n") if x.lstrip().startswith("⟨21⟩")]
        assert "≠" in line
        assert "Next: here it goes odd: expected Takings: 6. F shows" in told


async def test_a_call_shows_what_it_should_give_beside_what_it_gave(tmp_path):
    path = tmp_path / "kiosk.py"
    path.write_text("def fare(age):\n    return 3 if age <= 16 else 6\n")
    path.with_suffix(".cases.toml").write_text(CALL)
    async with opened(path) as pilot:
        await traced(pilot)
        assert "GIVEN SO FAR" in screen(pilot) and "nothing yet" in screen(pilot)
        await pilot.press("o")
        await pilot.pause()
        assert "should give 6" in screen(pilot) and "nothing yet" not in screen(pilot)


async def test_trace_opens_at_the_odd_moment_where_that_is_wished(kiosk):
    change_setting("trace_opens", "odd")
    async with opened(kiosk) as pilot:
        work = await traced(pilot)
        assert work.tracing.walked.step == work.tracing.walked.departs


@pytest.mark.parametrize("size", sizes(WIDE))
async def test_questions_are_asked_by_digit_by_word_and_by_click(kiosk, size):
    async with opened(kiosk, size) as pilot:
        work = await traced(pilot)
        await pilot.press("j")
        await until(pilot, lambda: isinstance(pilot.app.screen, QuestionList))
        assert "1 Where does it first go odd?" in screen(pilot)
        await pilot.press("1")
        await until(pilot, lambda: work.tracing.walked.step == work.tracing.walked.departs)
        await pilot.press("j", *"each call")
        await until(pilot, lambda: len(getattr(pilot.app.screen, "shown", ())) == 1)
        await pilot.press("enter")
        await until(pilot, lambda: "THE CALLS" in screen(pilot))
        await pilot.press("escape")
        await until(pilot, lambda: not isinstance(pilot.app.screen, Pick))
        table = pilot.app.screen.query_one(TraceTable)
        x = screen(pilot).split("\n")[table.region.y].index("kiosk.takings")
        await pilot.click(offset=(x + 2, table.region.y))  # the title of a column
        await until(pilot, lambda: isinstance(pilot.app.screen, QuestionList))
        assert work.tracing.walked.column == "kiosk.takings"
        assert "Where does kiosk.takings come from?" in screen(pilot)
        await pilot.press(*"zzz")
        await until(pilot, lambda: "No question has this word in it" in screen(pilot))


async def test_while_one_guesses_nothing_of_the_answer_is_in_sight(kiosk):
    async with opened(kiosk) as pilot:
        work = await traced(pilot)
        work.tracing.go(at_line(work, 13))
        await pilot.press("g")
        await until(pilot, lambda: isinstance(pilot.app.screen, Forecast))
        await pilot.pause()
        asked = pilot.app.screen.cells
        assert [c.name for c in asked[:2]] == ["item.stock", "kiosk.takings"]
        told = behind(pilot)
        assert "10 → 8" not in told and "0 → 3" not in told and "stock=8" not in told
        assert "item.stock -= amount" in told  # what is needed to work it out
        pilot.app.screen.query_one("#cell0", Input).value = "8"
        await pilot.press("enter")
        await until(pilot, lambda: "10 → 8" in behind(pilot))
        assert "0 → 3" not in behind(pilot)
        pilot.app.screen.query_one("#cell1", Input).value = "6"
        await pilot.press("enter")
        await until(pilot, lambda: "Here you and the machine part" in screen(pilot))
        await pilot.press("escape")
        await until(pilot, lambda: not isinstance(pilot.app.screen, Forecast))
        assert work.tracing.walked.step == at_line(work, 15) and "0 → 3" in screen(pilot)


async def test_a_panel_at_a_time_where_there_is_room_for_one(kiosk):
    async with opened(kiosk, NARROW) as pilot:
        work = await traced(pilot)
        work.tracing.go(at_line(work, 21))
        await pilot.pause()
        assert "TRACE TABLE" in screen(pilot) and "VALUES NOW" not in screen(pilot)
        await pilot.press("ctrl+o")
        await until(pilot, lambda: "VALUES NOW" in screen(pilot))
        assert "TRACE TABLE" not in screen(pilot) and "Kiosk: takings 3" in screen(pilot)
        await pilot.press("ctrl+o")
        await until(pilot, lambda: "PRINTED SO FAR" in screen(pilot))
        assert "Takings: 3" in screen(pilot)


async def test_the_panels_share_the_width_as_one_likes(kiosk):
    async with opened(kiosk) as pilot:
        await traced(pilot)
        panels = pilot.app.screen.query_one(Panels)
        before = panels.share
        await pilot.press("ctrl+right")
        assert panels.share == before + 4
        for _ in range(30):
            await pilot.press("ctrl+left")
        assert panels.share == 25  # each keeps enough to be read
        divider = pilot.app.screen.query_one(Divider)
        x, y = divider.region.x, divider.region.y + 5
        await pilot.mouse_down(offset=(x, y))
        await pilot.hover(offset=(x + 16, y))
        await pilot.mouse_up(offset=(x + 16, y))
        assert panels.share == 35


async def test_a_claim_that_does_not_hold_is_marked_on_its_row_with_what_is_there(kiosk):
    async with opened(kiosk) as pilot:
        work = await traced(pilot)
        work.tracing.go(at_line(work, 19))
        await pilot.pause()
        assert "≟" not in screen(pilot)
        work.tracing.go(at_line(work, 20))
        work.claims.make("kiosk.takings == 6")
        await until(pilot, lambda: work.tracing.walked.broken is not None)
        await pilot.press("home", "o")
        await pilot.pause()
        told = screen(pilot)
        assert work.tracing.walked.step == work.tracing.walked.broken.step
        assert f"≟ {work.tracing.walked.step}" in told and "your claim kiosk.ta" in told
        assert "does not hold here" in told


async def test_a_run_without_end_is_odd_where_its_recording_stops(tmp_path):
    path = tmp_path / "kiosk.py"
    path.write_text("level = 0\nwhile level < 9:\n    hours = level + 1\nprint(hours)\n")
    path.with_suffix(".cases.toml").write_text(
        'timeout = 0.3\n[[case]]\nname = "rising"\nstdin = ""\nstdout = "9"\n'
    )
    async with opened(path) as pilot:
        work = await traced(pilot)
        await pilot.press("o")
        await pilot.pause()
        assert work.tracing.walked.step == work.tracing.walked.story.last > 100
        told = screen(pilot)
        assert "∞ does not end" in told or "it does not end" in told
        assert "Next: it does not end, and the recording stops here. * tells" in told
