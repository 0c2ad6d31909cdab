"""A case is written: nothing typed is lost, and little has to be pressed besides its text."""

from __future__ import annotations

import pytest
from piloting import WIDE, opened, screen, sizes, until
from textual.widgets import Button, Input, Select, TextArea

from oddsum.model.outcome import Outcome
from oddsum.plan.read import read_plan
from oddsum.tui.dialogs.case_card import CaseCard
from oddsum.tui.dialogs.choose import Choose
from oddsum.tui.dialogs.file_card import FileCard
from oddsum.tui.dialogs.how_run import HowRun
from oddsum.tui.dialogs.import_page import ImportPage
from oddsum.workspace.interface import Choice

PROGRAM = 'count = int(input("How many? "))\nprint("Total:", count * 3)\n'
FUNCTIONS = '''def fare(age, zone="A"):
    """What one pays.

    >>> fare(4)
    3
    """
    return 3


def name_of(boat):
    return "hello"
'''


@pytest.fixture
def ferry(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text(PROGRAM)
    return path


def shows_card(pilot) -> bool:
    return isinstance(pilot.app.screen, CaseCard)


@pytest.mark.parametrize("size", sizes(WIDE))
async def test_the_first_case_stands_after_two_keys_besides_its_text(ferry, size):
    async with opened(ferry, size, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        await pilot.press("4", "tab", *"Total", "colon", "space", *"12", "ctrl+s")
        work = pilot.app.workspace
        await until(pilot, work.checking.complete)
        assert work.checking.results[1].outcome is Outcome.AGREES


async def test_what_was_typed_stands_there_when_the_card_is_opened_again(ferry):
    async with opened(ferry, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        await pilot.press("7", "tab", *"Tot", "tab", *"seven", "escape", "a")
        await until(pilot, lambda: shows_card(pilot))
        card = pilot.app.screen
        assert card.query_one("#stdin", TextArea).text == "7"
        assert card.query_one("#stdout", TextArea).text == "Tot"
        assert card.query_one("#name", Input).value == "seven"
        await pilot.press("ctrl+s")
        await until(pilot, pilot.app.workspace.checking.complete)
        await pilot.press("a")
        await until(pilot, lambda: shows_card(pilot))
        assert pilot.app.screen.query_one("#stdin", TextArea).text == ""  # it has been kept


async def test_a_whole_run_a_rule_and_a_file_go_into_a_case(ferry):
    async with opened(ferry, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        assert "What it asks, as 'How many? ', may be left out" in " ".join(screen(pilot).split())
        await pilot.click("#paste")
        await until(pilot, lambda: bool(pilot.app.screen.query("#run")))
        pilot.app.screen.query_one("#run", TextArea).text = "How many? 5\nTotal: 15\n"
        await pilot.click("#apart")
        await until(pilot, lambda: bool(pilot.app.screen.query("#stdin")))
        card = pilot.app.screen
        assert card.query_one("#stdin", TextArea).text == "5\n"
        card.query_one("#rule", Select).value = "numbers"
        card.query_one("#kind", Select).value = "boundary"
        await pilot.click("#file")
        await until(pilot, lambda: isinstance(pilot.app.screen, FileCard))
        await pilot.press(*"../x", "ctrl+s")
        await until(pilot, lambda: "inside the program's folder" in screen(pilot))
        pilot.app.screen.query_one("#file-name", Input).value = "prices.txt"
        pilot.app.screen.query_one("#content", TextArea).text = "3\n"
        await pilot.press("ctrl+s")
        await until(pilot, lambda: shows_card(pilot) and "prices.txt (1 line)" in screen(pilot))
        await pilot.press("ctrl+s")
        await until(pilot, pilot.app.workspace.checking.complete)
    (case,) = read_plan(ferry.with_suffix(".cases.toml"), ferry).cases
    assert (case.stdin, case.stdout, case.kind) == ("5\n", "Total: 15\n", "boundary")
    assert case.settings.compare == "numbers" and case.files == {"prices.txt": "3\n"}


async def test_functions_are_offered_and_a_text_without_quotes_is_asked_about(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text(FUNCTIONS)
    async with opened(path, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        assert "fare(age, zone) · name_of(boat)" in screen(pilot)
        await pilot.press(*"name_of(1)", "tab", *"hello", "ctrl+s")
        await until(pilot, lambda: "For the text, write 'hello'" in screen(pilot))
        field = pilot.app.screen.query_one("#returns", Input)
        field.value = "two words"
        await pilot.press("ctrl+s")
        await until(pilot, lambda: "A text stands in quotes: 'two words'" in screen(pilot))
        field.value = "'hello'"
        await pilot.press("ctrl+s")
        work = pilot.app.workspace
        await until(pilot, work.checking.complete)
        assert work.checking.results[1].outcome is Outcome.AGREES


async def test_cases_are_taken_in_and_never_twice(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text(FUNCTIONS)
    (tmp_path / "cases.csv").write_text("call,returns\nfare(4),3\nfare(5),3\n")
    async with opened(path, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        await pilot.press("escape", "i")
        await until(pilot, lambda: isinstance(pilot.app.screen, ImportPage))
        assert "1 case to add" in screen(pilot) and "fare(4)" in screen(pilot)
        await pilot.press("ctrl+s")
        await until(pilot, pilot.app.workspace.checking.complete)
        await pilot.press("i")
        await until(pilot, lambda: "1 case stands in the plan already" in screen(pilot))
        await pilot.press(*"nothing.csv", "enter")
        await until(pilot, lambda: bool(str(pilot.app.screen.query_one("#error").render())))
        pilot.app.screen.query_one(Input).value = "cases.csv"
        await pilot.press("enter")
        await until(pilot, lambda: "1 case to add, 1 case stands" in screen(pilot))
        await pilot.press("ctrl+s")
        await until(pilot, lambda: len(pilot.app.workspace.checking.cases) == 2)


async def test_a_program_that_cannot_start_is_told_without_a_plan(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text("print('one'\nprint('two')\n")
    async with opened(path, checked=False) as pilot:
        work = pilot.app.workspace
        await until(pilot, lambda: work.checking.fault is not None)
        await until(pilot, lambda: "cannot start" in screen(pilot))
        await pilot.press("escape")
        await until(pilot, lambda: "press M and put it right" in screen(pilot))


async def test_arrows_and_letters_choose_in_every_row_of_buttons(ferry):
    answers = (("stay", "Stay here"), ("drop", "Drop it"), ("same", "Start anew"))
    async with opened(ferry, checked=False) as pilot:
        await until(pilot, lambda: shows_card(pilot))
        for keys, wanted in (
            (("right", "enter"), "drop"), (("up", "enter"), "same"), (("a",), "same"),
            (("s",), "stay"), (("d",), "drop"), (("left", "left", "enter"), "drop"),
        ):  # fmt: skip
            given: list[str | None] = []
            pilot.app.push_screen(Choose(Choice("A QUESTION", (), answers)), given.append)
            await until(pilot, lambda: isinstance(pilot.app.screen, Choose))
            await until(pilot, lambda: isinstance(pilot.app.focused, Button))
            await pilot.press(*keys)
            await until(pilot, lambda into=given: bool(into))
            assert given == [wanted], keys


async def test_of_a_language_that_is_only_checked_its_commands_come_first(tmp_path):
    program = tmp_path / "boats.sh"
    program.write_text("read n\necho $((n * 2))\n")
    async with opened(program, checked=False) as pilot:
        await until(pilot, lambda: isinstance(pilot.app.screen, HowRun))
        assert pilot.app.screen.query_one("#run", Input).value == "sh boats.sh"
        pilot.app.screen.query_one("#run", Input).value = "nowhere 'boats.sh"
        await until(pilot, lambda: "A quote is not closed" in screen(pilot))
        pilot.app.screen.query_one("#run", Input).value = "nowhere boats.sh"
        await until(pilot, lambda: "There is no nowhere on this machine" in screen(pilot))
        pilot.app.screen.query_one("#run", Input).value = "sh ./boats.sh"
        await pilot.press("ctrl+s")
        await until(pilot, lambda: shows_card(pilot))
        await pilot.press("4", "tab", "8", "ctrl+s")
        work = pilot.app.workspace
        await until(pilot, work.checking.complete)
        assert work.checking.results[1].outcome is Outcome.AGREES
        offered = {a.label for a in pilot.app.screen.offered()}
        assert "A" in offered and not {"T", "L"} & offered  # they would only say that they cannot
        await pilot.press("a")
        await until(pilot, lambda: shows_card(pilot))  # it was said once
    text = (tmp_path / "boats.cases.toml").read_text()
    assert text.startswith('run = ["sh", "./boats.sh"]\n\n[[case]]')
