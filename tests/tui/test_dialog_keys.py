"""Every dialog is opened, and every key that its heading shows is pressed and seen to act."""

from __future__ import annotations

from pathlib import Path

import pytest
from piloting import NARROW, WIDE, cut_off, opened, screen, sizes, until

from conftest import OWN
from oddsum.languages.tools import Commands
from oddsum.model.answer import Judged
from oddsum.model.case import Case, Plan
from oddsum.model.history import Entry
from oddsum.pinpoint.asking import Inquiry
from oddsum.trace.series import series
from oddsum.tui.actions import DIALOGS, keys_words
from oddsum.tui.dialogs.advice import AdvicePage
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.case_card import CaseCard
from oddsum.tui.dialogs.choose import Choose
from oddsum.tui.dialogs.choose_file import ChooseFile
from oddsum.tui.dialogs.file_card import FileCard
from oddsum.tui.dialogs.forecast import Forecast
from oddsum.tui.dialogs.how_run import HowRun
from oddsum.tui.dialogs.import_page import ImportPage
from oddsum.tui.dialogs.is_it_right import IsItRight
from oddsum.tui.dialogs.judge import Judge
from oddsum.tui.dialogs.number import StepNumber
from oddsum.tui.dialogs.page import TextPage
from oddsum.tui.dialogs.page_card import PageCard
from oddsum.tui.dialogs.pick import Pick
from oddsum.tui.dialogs.plot import PlotPage
from oddsum.tui.dialogs.question_list import QuestionList
from oddsum.tui.dialogs.recorder import Recorder
from oddsum.tui.dialogs.texts import TextsPage
from oddsum.tui.dialogs.walk import Walk
from oddsum.tui.questions.fitting import fitting
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Piece, cell
from oddsum.workspace.interface import Choice
from oddsum.workspace.written import About

CHOICE = Choice("A QUESTION", ("Said.",), (("leave", "Leave it"), ("do", "Do it")))
ASKED = Inquiry(Judged(text="fare(16) gave 3", case=1, step=3, line=11), None, 5)


def made(name: str, app):
    """The dialog of a name, as it would be opened on the demo."""
    work = app.workspace
    traced, result = work.tracing.traced, work.checking.results[6]
    rows = [[cell("one")], [cell("two")]]
    return {
        "advice": lambda: AdvicePage(work.advising),
        "ask": lambda: Ask("A TITLE", "What?", "A hint.", len),
        "case_card": lambda: CaseCard(10, About(), Case(number=10, name="ten")),
        "choose": lambda: Choose(CHOICE),
        "file_card": lambda: FileCard({"a.txt": "a"}),
        "how_run": lambda: HowRun("fares.sh", Commands((), ("sh", "fares.sh"))),
        "import": lambda: ImportPage(work.planning.look),
        "choose_file": lambda: ChooseFile("plan", (Path("a.toml"), Path("b.toml")), Path("a.toml")),
        "forecast": lambda: Forecast(traced.story, 1),
        "is_it_right": lambda: IsItRight(result),
        "judge": lambda: Judge(ASKED, lambda: ASKED, lambda text, said: None),
        "number": lambda: StepNumber(traced.story.last),
        "page": lambda: TextPage("A PAGE", lambda width: [[Piece("line")]] * 90),
        "page_card": lambda: PageCard(Entry(at=1.0, where="here")),
        "pick": lambda: Pick("ROWS", [Column("what", 20)], rows),
        "pick_only": lambda: Pick("ROWS", [Column("what", 20)], rows, keys="pick_only"),
        "plot": lambda: PlotPage("TOTAL", [series(traced.story, "total")], "step", False,
                                 lambda: "saved"),
        "questions": lambda: QuestionList(fitting(work)),
        "recorder": lambda: Recorder(Plan(program=work.files.program), OWN, 10),
        "texts": lambda: TextsPage(result),
        "walk": lambda: Walk(1),
    }[name]()  # fmt: skip


async def opened_dialog(pilot, name: str):
    app = pilot.app
    dialog, closed = made(name, app), []
    app.push_screen(dialog, closed.append)
    await until(pilot, lambda: dialog.is_current and dialog.is_mounted)
    await pilot.pause()
    return dialog, closed


def way_out(name: str) -> str:
    """The last of a dialog's keys, which its heading names in every width."""
    return keys_words(name).rpartition(" · ")[2]


async def press_every_key(pilot, name: str) -> None:
    """Each key of an open dialog calls the action it stands for."""
    dialog = pilot.app.screen
    for action in DIALOGS[name]:
        bound = action.action.partition("(")[0]
        if not bound or bound.startswith("app."):
            continue
        called: list[tuple[object, ...]] = []
        setattr(dialog, f"action_{bound}", lambda *args, into=called: into.append(args))
        for key in action.keys.split(","):
            called.clear()
            await pilot.press(key)
            await until(pilot, lambda into=called: bool(into), 5)
        delattr(dialog, f"action_{bound}")


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_every_dialog_s_keys_act_and_esc_leaves_it_and_changes_nothing(demo, size):
    path = demo / "fares.py"
    kept = path.read_text(), path.with_suffix(".cases.toml").read_text()
    async with opened(path, size) as pilot:
        work = pilot.app.workspace
        await pilot.press("t")
        await until(pilot, lambda: work.tracing.traced is not None)
        work.advising.look()
        await until(pilot, lambda: work.advising.advice is not None)
        await pilot.press("1")
        for name in DIALOGS:
            dialog, closed = await opened_dialog(pilot, name)
            assert way_out(name) in screen(pilot), name
            assert cut_off(pilot) == [], name
            if size == WIDE:
                await press_every_key(pilot, name)
            if name == "recorder":  # a key of its own here goes to the program that is recorded
                dialog.dismiss(None)
            else:
                await pilot.press("escape")
            await until(pilot, lambda d=dialog: not d.is_current)
            assert closed == [None], name
    assert kept == (path.read_text(), path.with_suffix(".cases.toml").read_text())


async def test_arrows_and_enter_answer_where_a_dialog_says_so(demo):
    async with opened(demo / "fares.py", WIDE) as pilot:
        for name in ("choose", "is_it_right"):
            _, closed = await opened_dialog(pilot, name)
            await pilot.press("right", "left", "right", "enter")
            await until(pilot, lambda c=closed: bool(c))
            assert closed == [{"choose": "do", "is_it_right": "right"}[name]]
        _, closed = await opened_dialog(pilot, "pick")
        await pilot.press("down", "enter")
        await until(pilot, lambda: closed == [1])
        _, closed = await opened_dialog(pilot, "ask")
        await pilot.press(*"abc", "enter")
        await until(pilot, lambda: closed == ["abc"])
