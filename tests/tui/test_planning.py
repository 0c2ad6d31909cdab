"""A plan is built without leaving the application: written, recorded, changed, taken back."""

from __future__ import annotations

import pytest
from piloting import NARROW, cut_off, opened, screen, sizes, until
from textual.widgets import Button, Input, TextArea

from oddsum.model.outcome import Outcome
from oddsum.plan.read import read_plan
from oddsum.tui.dialogs.advice import AdvicePage
from oddsum.tui.dialogs.case_card import CaseCard
from oddsum.tui.dialogs.recorder import Recorder
from oddsum.tui.dialogs.texts import TextsPage
from oddsum.tui.widgets.live_terminal import LiveTerminal
from oddsum.workspace.interface import Part

DOUBLE = "n = int(input('Cars? '))\nprint('Lanes:', n // 4)\n"
PLAN = """\
# the queue
[[case]]
name = "four"   # one lane
stdin = "4\\n"
stdout = "Lanes: 1\\n"

[[case]]
name = "five"
stdin = "5\\n"
stdout = "Lanes: 2\\n"

[[case]]
name = "open"
stdin = "9\\n"
"""


@pytest.fixture
def queue(tmp_path):
    path = tmp_path / "queue.py"
    path.write_text(DOUBLE)
    path.with_suffix(".cases.toml").write_text(PLAN)
    return path


def names(path):
    return [c.name for c in read_plan(path.with_suffix(".cases.toml"), path).cases]


async def settled(pilot):
    work = pilot.app.workspace
    await until(pilot, lambda: not work.checking.busy and work.checking.complete())


async def test_cases_are_copied_moved_set_aside_deleted_and_all_taken_back(queue):
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        await pilot.press("home", "plus")
        await settled(pilot)
        assert names(queue) == ["four", "four (2)", "five", "open"]
        assert work.checking.selected == 2 and work.checking.results[2].outcome is Outcome.AGREES
        await pilot.press("shift+down")
        await settled(pilot)
        assert names(queue) == ["four", "five", "four (2)", "open"]
        assert work.checking.selected == 3 and work.checking.results[2].name == "five"
        await pilot.press("minus")
        await until(pilot, lambda: "set aside" in screen(pilot))
        assert [c.number for c in work.checking.cases] == [1, 2, 4] and work.checking.complete()
        await pilot.press("t")
        assert work.tracing.traced is None and not work.tracing.busy
        await pilot.press("minus")
        await settled(pilot)
        await pilot.press("delete")
        await settled(pilot)
        assert names(queue) == ["four", "five", "open"]
        for _ in range(5):
            await pilot.press("ctrl+z")
        await settled(pilot)
        assert queue.with_suffix(".cases.toml").read_text() == PLAN
        await pilot.press("ctrl+z")
        assert names(queue) == ["four", "five", "open"]


async def test_a_case_is_changed_in_its_card_and_only_it_is_run_again(queue):
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        kept = work.checking.results[1]
        await pilot.press("home", "down", "e")
        await until(pilot, lambda: isinstance(pilot.app.screen, CaseCard))
        card = pilot.app.screen
        assert card.query_one("#name", Input).value == "five"
        card.query_one("#stdout", TextArea).text = "Lanes: 1"
        await pilot.press("ctrl+s")
        await until(
            pilot,
            lambda: (
                2 in work.checking.results and work.checking.results[2].outcome is Outcome.AGREES
            ),
        )
        assert work.checking.results[1] is kept
        text = queue.with_suffix(".cases.toml").read_text()
        assert "# one lane" in text and 'name = "five"' in text


async def test_an_open_case_is_asked_about_and_never_taken_for_right_by_itself(queue):
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        assert work.checking.results[3].outcome is Outcome.OPEN
        await pilot.press("end", "y")
        await until(pilot, lambda: "IS THIS RIGHT?" in screen(pilot))
        assert "Lanes: 2" in screen(pilot)
        await pilot.press("enter")  # the first answer: I do not know yet
        await pilot.pause()
        assert queue.with_suffix(".cases.toml").read_text() == PLAN
        await pilot.press("y")
        await until(pilot, lambda: "IS THIS RIGHT?" in screen(pilot))
        await pilot.click("#right")
        await until(
            pilot,
            lambda: (
                3 in work.checking.results and work.checking.results[3].outcome is Outcome.AGREES
            ),
        )
        assert read_plan(work.checking.plan.file, queue).cases[2].stdout == "Cars? 9\nLanes: 2\n"


async def test_one_case_or_those_that_do_not_agree_are_run_alone(queue):
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        before = dict(work.checking.results)
        await pilot.press("end", "ctrl+r")
        await until(
            pilot,
            lambda: (
                not work.checking.busy and work.checking.results.get(3) not in (None, before[3])
            ),
        )
        assert work.checking.results[1] is before[1] and work.checking.results[2] is before[2]
        await pilot.press("n")
        await until(
            pilot,
            lambda: (
                not work.checking.busy and work.checking.results.get(2) not in (None, before[2])
            ),
        )
        assert work.checking.results[1] is before[1]


async def test_what_has_changed_since_the_run_before_is_said(queue):
    async with opened(queue) as pilot:
        queue.write_text(DOUBLE.replace("n // 4", "(n + 4) // 4"))
        await until(pilot, lambda: "since the run before" in screen(pilot))
        assert "+1 settled, 1 broke since the run before" in screen(pilot)


async def test_a_plan_changed_outside_is_not_written_over(queue):
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        work.jobs.cancel(work._watch)
        file = queue.with_suffix(".cases.toml")
        file.write_text(PLAN.replace('"five"', '"fifth"'))
        await pilot.press("home", "delete")
        await settled(pilot)
        assert names(queue) == ["four", "fifth", "open"]
        assert pilot.app.workspace.checking.plan.cases[1].name == "fifth"
        await pilot.press("delete")
        await settled(pilot)
        assert names(queue) == ["fifth", "open"]


async def test_what_the_odd_cases_share_stands_under_the_totals(demo):
    async with opened(demo / "fares.py") as pilot:
        await until(pilot, lambda: "have an age of exactly 16" in screen(pilot))
        assert "none of the 7 that agree does" in screen(pilot)
        (demo / "fares.py").write_text((demo / "fares.py").read_text().replace("<= 16", "< 16"))
        await until(
            pilot,
            lambda: (
                pilot.app.workspace.checking.complete() and not pilot.app.workspace.checking.odd()
            ),
        )
        assert "exactly 16" not in screen(pilot)


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_advice_is_looked_for_chosen_and_added_open(demo, size):
    async with opened(demo / "fares.py", size) as pilot:
        work = pilot.app.workspace
        await pilot.press("l")
        await until(pilot, lambda: isinstance(pilot.app.screen, AdvicePage))
        await until(pilot, lambda: "tries age 120" in screen(pilot), 40)
        await pilot.press("space", "down", "space", "a")
        await until(pilot, lambda: len(work.checking.cases) == 11)
        await settled(pilot)
        added = [work.checking.results[n] for n in (10, 11)]
        assert [r.outcome for r in added] == [Outcome.OPEN] * 2
        assert {c.kind for c in work.checking.cases[-2:]} == {"boundary"}
        await pilot.press("ctrl+z")
        await until(pilot, lambda: len(work.checking.cases) == 9)


async def test_what_ends_before_a_page_of_advice_stands_is_on_it(demo):
    async with opened(demo / "fares.py") as pilot:
        advising = pilot.app.workspace.advising
        advising.look()
        await until(pilot, lambda: advising.advice is not None)
        found, advising.advice = advising.advice, None
        page = AdvicePage(advising)
        pilot.app.push_screen(page)
        advising.advice = found
        pilot.app.show(frozenset({Part.CASES}))
        await until(pilot, lambda: "tries age 120" in screen(pilot))
        advising.failed = True
        pilot.app.push_screen(AdvicePage(advising))
        pilot.app.show(frozenset({Part.CASES}))
        await until(pilot, lambda: not isinstance(pilot.app.screen, AdvicePage))


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_a_case_is_recorded_live_and_kept(queue, size):
    async with opened(queue, size) as pilot:
        await pilot.press("v")
        await until(pilot, lambda: isinstance(pilot.app.screen, Recorder))
        recorder = pilot.app.screen
        live = recorder.query_one(LiveTerminal)
        await until(pilot, lambda: "Cars?" in live.text())
        await pilot.press("1", "7", "backspace", "2", "enter")
        await until(pilot, lambda: recorder.recorded is not None)
        assert live.text().strip() == "Cars? 12\nLanes: 3"
        assert recorder.focused is recorder.query_one("#right", Button)
        assert cut_off(pilot) == []
        await pilot.click("#right")
        await until(pilot, lambda: isinstance(pilot.app.screen, CaseCard))
        pilot.app.screen.query_one("#name", Input).value = "a dozen"
        await pilot.press("ctrl+s")
        await until(pilot, lambda: len(pilot.app.workspace.checking.cases) == 4)
        await settled(pilot)
        case = read_plan(queue.with_suffix(".cases.toml"), queue).cases[-1]
        assert (case.name, case.stdin, case.stdout) == ("a dozen", "12\n", "Cars? 12\nLanes: 3\n")
        assert pilot.app.workspace.checking.results[4].outcome is Outcome.AGREES


async def test_a_runaway_program_is_stopped_and_says_where_it_was(tmp_path):
    path = tmp_path / "tide.py"
    path.write_text(
        "import time\nlevel = 0\nwhile level < 9:\n    print('rising')\n    time.sleep(0.05)\n"
    )
    async with opened(path, checked=False) as pilot:
        await until(pilot, lambda: isinstance(pilot.app.screen, CaseCard))
        await pilot.press("escape", "v")
        await until(pilot, lambda: isinstance(pilot.app.screen, Recorder))
        recorder = pilot.app.screen
        await until(pilot, lambda: "rising" in recorder.query_one(LiveTerminal).text())
        await pilot.press("ctrl+c")
        await until(pilot, lambda: recorder.recorded is not None)
        assert "You stopped it. It was at line" in screen(pilot)
        await pilot.press("escape")
        await until(pilot, lambda: not isinstance(pilot.app.screen, Recorder))


async def test_a_program_that_prints_without_end_is_ended_and_says_where_it_was(tmp_path):
    path = tmp_path / "tide.py"
    path.write_text("level = 0\nwhile level < 9:\n    print('rising', level)\n")
    path.with_suffix(".cases.toml").write_text('output = 0.1\n[[case]]\nname = "a"\nstdin = ""\n')
    async with opened(path) as pilot:
        await pilot.press("v")
        await until(pilot, lambda: isinstance(pilot.app.screen, Recorder))
        recorder = pilot.app.screen
        await until(pilot, lambda: recorder.recorded is not None)
        assert "it printed without end. It was at line" in screen(pilot)


async def test_texts_side_by_side_scroll_together_and_show_blanks(tmp_path):
    path = tmp_path / "log.py"
    path.write_text("for n in range(300):\n    print('ferry', n if n != 250 else 'sunk ')\n")
    text = "\\n".join(f"ferry {n}" for n in range(300))
    path.with_suffix(".cases.toml").write_text(
        f'[[case]]\nname = "long"\nstdin = ""\nstdout = "{text}"\n'
    )
    async with opened(path) as pilot:
        await pilot.press("d")
        await until(pilot, lambda: isinstance(pilot.app.screen, TextsPage))
        await until(pilot, lambda: "ferry sunk" in screen(pilot))
        assert "251 ferry 250" in screen(pilot)
        await pilot.press("full_stop")
        assert "ferry·sunk" in screen(pilot)
        await pilot.press("home")
        assert "1 ferry·0" in screen(pilot) and "ferry·sunk" not in screen(pilot)
        await pilot.press("n")
        assert "ferry·sunk" in screen(pilot)


async def test_one_of_several_plans_is_chosen(queue):
    other = queue.with_name("queue.hard.cases.toml")
    other.write_text('[[case]]\nname = "many"\nstdin = "99\\n"\nstdout = "Lanes: 25\\n"\n')
    async with opened(queue) as pilot:
        work = pilot.app.workspace
        await pilot.press("ctrl+o")
        await until(pilot, lambda: "WHICH PLAN?" in screen(pilot))
        await pilot.press("down", "enter")
        await until(pilot, lambda: work.checking.complete() and len(work.checking.cases) == 1)
        assert work.checking.plan.file == other


async def test_a_program_in_another_language_is_checked_and_no_more(tmp_path):
    path = tmp_path / "lanes.sh"
    path.write_text("read n\necho Lanes: $((n / 4))\n")
    path.with_suffix(".cases.toml").write_text('run = ["sh", "lanes.sh"]\n' + PLAN)
    async with opened(path) as pilot:
        work = pilot.app.workspace
        assert "run by sh lanes.sh" in screen(pilot)
        assert [r.outcome.value for r in work.checking.in_order()] == ["agrees", "differs", "open"]
        await pilot.press("t")
        await pilot.pause()
        assert work.tracing.traced is None and not work.tracing.busy
        await pilot.press("3")
        await until(pilot, lambda: "does not read such programs" in screen(pilot))


async def test_a_plan_of_two_thousand_cases_opens_and_is_gone_through(tmp_path):
    path = tmp_path / "many.py"
    path.write_text("print(int(input()) * 2)\n")
    cases = [
        f'[[case]]\nname = "case {n}"\nstdin = "{n}\\n"\nstdout = "{2 * n}\\n"\n'
        for n in range(2000)
    ]
    path.with_suffix(".cases.toml").write_text("\n".join(cases))
    async with opened(path, checked=False) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.checking.done > 3, 60)
        assert "of 2000" in screen(pilot)
        await pilot.press("escape")
        await until(pilot, lambda: not work.checking.busy)
        await pilot.press("end")
        await until(pilot, lambda: "case 1999" in screen(pilot))
        assert work.checking.selected == 2000


async def test_with_several_plans_and_none_to_begin_with_one_is_asked_for(queue):
    plan = queue.with_suffix(".cases.toml")
    for name in ("queue.easy.cases.toml", "queue.hard.cases.toml"):
        plan.with_name(name).write_text(plan.read_text())
    plan.unlink()
    async with opened(queue, checked=False) as pilot:
        await until(pilot, lambda: "WHICH PLAN?" in screen(pilot))
        await pilot.press("down", "enter")
        await until(pilot, pilot.app.workspace.checking.complete)
        assert pilot.app.workspace.checking.plan.file.name == "queue.hard.cases.toml"


async def test_what_was_drawn_is_kept_as_what_should_be_drawn(tmp_path):
    path = tmp_path / "sign.py"
    path.write_text("import turtle\nturtle.left(30)\nturtle.forward(40)\nturtle.color('red')\n"
                    "turtle.back(20)\n")  # fmt: skip
    plan = path.with_suffix(".cases.toml")
    plan.write_text('# mine\n[[case]]\nname = "the sign"\nstdin = ""\n')
    async with opened(path) as pilot:
        await pilot.press("y")
        await until(pilot, lambda: "What it drew, and printed" in screen(pilot))
        assert any(0x2800 < ord(c) < 0x2900 for c in screen(pilot))
        await pilot.press("tab", "enter")
        await until(
            pilot, lambda: "draws" in plan.read_text() and pilot.app.workspace.checking.complete()
        )
        assert not pilot.app.workspace.checking.odd() and "1 agrees" in screen(pilot)
        assert plan.read_text().startswith("# mine\n") and '"red"' in plan.read_text()
