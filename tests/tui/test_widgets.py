"""Widgets on their own, in an application with nothing else in it."""

from __future__ import annotations

import pytest
from textual.app import App, ComposeResult
from textual.widget import Widget

from oddsum.model.case import Case
from oddsum.model.lead import Edit, Evidence, Lead, Mend
from oddsum.model.outcome import CaseResult, Difference, ErrorInfo, Outcome, Returned, Run
from oddsum.model.trace import Trace
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.decode import Decoder
from oddsum.tui.theme import THEMES
from oddsum.tui.widgets.case_detail import case_detail
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.highlight import inked
from oddsum.tui.widgets.lead_account import account_lines, lead_lines, uncovered_lines
from oddsum.tui.widgets.ruled_table import Column, RuledTable
from oddsum.tui.widgets.run_line import RunLine, RunMark
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.widgets.trace_columns import InSight, columns_in_sight, room_of, trace_columns
from oddsum.tui.widgets.trace_rows import TraceRows
from oddsum.tui.writing import cell
from oddsum.workspace.tracing import Traced


class Stage(App[None]):
    """Shows one widget and keeps the messages it sends."""

    def __init__(self, widget: Widget) -> None:
        super().__init__()
        for theme in THEMES:
            self.register_theme(theme)
        self.theme = "lamp"
        self.widget, self.heard = widget, []

    def compose(self) -> ComposeResult:
        yield self.widget

    def on_ruled_table_moved(self, message: RuledTable.Moved) -> None:
        self.heard.append(("moved", message.row))

    def on_ruled_table_opened(self, message: RuledTable.Opened) -> None:
        self.heard.append(("opened", message.row))

    def on_run_line_clicked(self, message: RunLine.Clicked) -> None:
        self.heard.append(("step", message.step))

    def on_source_view_margin_clicked(self, message: SourceView.MarginClicked) -> None:
        self.heard.append(("line", message.line))

    def lines(self) -> list[str]:
        strips = self.screen._compositor.render_strips()
        return ["".join(s.text for s in strip).rstrip() for strip in strips]


def text_of(lines: list) -> str:
    return "\n".join("".join(p.text for p in line).rstrip() for line in lines)


async def test_a_table_draws_only_what_is_seen_and_keeps_its_row_in_sight():
    asked = []

    class Rows(list):
        def __getitem__(self, at):
            asked.append(at)
            return (cell(f"row {at}"), cell("x" * 30))

    rows = Rows(range(100_000))
    table = RuledTable()
    stage = Stage(table)
    async with stage.run_test(size=(40, 12)) as pilot:
        table.show([Column("name", 12, ruled=False), Column("value", 6)], rows, 50_000)
        await pilot.pause()
        assert any("row 50000" in line for line in stage.lines())
        assert len(set(asked)) < 100
        assert any("xxxxx…" in line for line in stage.lines())
        table.focus()
        await pilot.press("down", "end", "home", "enter")
        assert stage.heard == [("moved", 50_001), ("moved", 99_999), ("moved", 0), ("opened", 0)]


async def test_a_heading_drops_what_has_no_room():
    heading = Heading("CASES", "9 in the plan")
    stage = Stage(heading)
    async with stage.run_test(size=(60, 3)) as pilot:
        assert stage.lines()[0].startswith("── CASES ─") and "9 in the plan ──" in stage.lines()[0]
        await pilot.resize_terminal(20, 3)
        await pilot.pause()
        assert "CASES" in stage.lines()[0] and "plan" not in stage.lines()[0]


SOURCE = "def f(x):\n\treturn x  # käse\n\n\nprint(f('漢字'))\n" + "y = 1\n" * 50


async def test_a_program_is_shown_with_margin_values_and_marks():
    view = SourceView()
    stage = Stage(view)
    async with stage.run_test(size=(100, 10)) as pilot:
        view.show(Source("x.py", SOURCE), times={1: 1, 2: 12}, marks={2: cell("‖")}, values={2: cell("x 3 → 4")},
                  current=2, with_values=True)  # fmt: skip
        await pilot.pause()
        lines = stage.lines()
        assert "⟨2⟩ ×12" in lines[1] and "‖" in lines[1] and "x 3 → 4" in lines[1]
        assert "    return x  # käse" in lines[1]
        await pilot.click(SourceView, offset=(3, 4))
        await pilot.click(SourceView, offset=(60, 4))
        assert stage.heard == [("line", 5)]
        view.show(Source("x.py", SOURCE), current=50)
        await pilot.pause()
        assert any("⟨50⟩" in line for line in stage.lines())


def test_colouring_keeps_every_character():
    for text in (SOURCE, "", "x = '''a\nb'''\n", "\n\n", "if x:\n  y = f'{x!r}'", "\ttab"):
        lines = inked(text, "python")
        assert "\n".join("".join(p.text for p in line) for line in lines) == text.expandtabs(4)


def story(count: int = 40, most: int = 1_000_000) -> Story:
    """A made-up trace: a loop of four rounds, a call in each; so many of its steps are kept."""
    decoder = Decoder(most)
    rows = [["x.py", 1, 1, "", "for"], ["x.py", 5, 5, "f", "call"]]
    decoder.take({"k": "statements", "base": 0, "rows": rows})
    decoder.take({"k": "slots", "base": 0, "rows": [["", "total", True], ["f", "x", False]]})
    log: list[object] = [0, 0, "s"]
    for n in range(1, count + 1):
        place = n % 10
        steps = {1: [0, "f"], 4: [1, n, "call"], 5: [1, "back"], 6: [1, "back"]}
        log += ([-1, "p"] if place == 7 else []) + steps.get(place, [0, "back"])
        log += [n, ~int(place in (4, 5, 6))]
    decoder.take({"k": "log", "events": log})
    trace = Trace(program="x.py", case="one", number=1, steps=decoder.finish(), outcome="differs",
                  complete=True)  # fmt: skip
    return Story(trace)


async def test_the_run_shows_rounds_depth_and_marks_and_takes_clicks():
    line = RunLine()
    stage = Stage(line)
    async with stage.run_test(size=(100, 5)) as pilot:
        rounds = [RunMark(n, f"╷{i}", "quiet") for i, n in enumerate((1, 11, 21, 31), 1)]
        line.show(
            story(), 20, rounds, [RunMark(20, "⟨20⟩", "blue"), RunMark(40, "≠ departs", "odd")]
        )
        await pilot.pause()
        first, second, third = stage.lines()[:3]
        assert [first.count(f"╷{i}") for i in (1, 2, 3, 4)] == [1, 1, 1, 1]
        assert second.count("1") == 4 and "┃" in second
        assert "⟨20⟩" in third and "≠ departs" in third
        await pilot.click(RunLine, offset=(first.index("╷3"), 0))
        await pilot.click(RunLine, offset=(99, 1))
        await pilot.click(RunLine, offset=(3, 1))
        assert stage.heard == [("step", 21), ("step", 40)]


async def test_a_run_of_which_steps_were_let_go_is_drawn_to_its_end():
    told = story(400, most=100)
    assert told.trace.steps.parts and len(told) < 400 == told.last
    line = RunLine()
    stage = Stage(line)
    async with stage.run_test(size=(100, 5)) as pilot:
        for step in (1, told.nearest(200), 400):
            line.show(told, step, [RunMark(400, "╷9", "blue")], [])
            await pilot.pause()
        await pilot.click(RunLine, offset=(50, 1))
        kind, number = stage.heard[0]
        assert kind == "step" and 1 <= told.nearest(number) <= 400


def test_the_trace_table_inks_only_what_changed():
    told = story()
    room = room_of(told, 100, [])
    sight = columns_in_sight(told, 5, room, InSight())
    columns = trace_columns(told, sight, room)
    rows = TraceRows(told, sight.titles, columns, 5)
    assert len(rows) == 40
    assert [c.title for c in columns] == ["step", "line", "what happened", "total", "x", "output"]
    texts = ["".join(p.text for p in c) for c in rows[3]]
    assert texts == ["4", "5", "called", "", "4", ""]
    filled = [
        "".join(p.text for p in c) for c in TraceRows(told, sight.titles, columns, 5, fill=True)[3]
    ]
    assert filled[3] == "3"


def lead(**more: object) -> Lead:
    edit = Edit("x.py", 10, 10, ("if a <= 16:",), ("if a < 16:",))
    fields = {
        "rank": 1, "lines": (10,), "file": "x.py", "function": "fare", "kind": "comparison",
        "where": "Look at line 10.", "what": "It also holds at 16.", "how": "Write <.",
        "mend": Mend((edit,), (6,), ()), "score": 0.9,
        "evidence": (Evidence("trial", "for", "settles the only odd case"),
                     Evidence("coverage", "against", "runs in 5 cases that agree, too")),
    }  # fmt: skip
    return Lead(**(fields | more))


@pytest.mark.parametrize(
    ("level", "told", "covered"),
    [
        (0, ["Look at line 10."], ["16", "<", "comparison"]),
        (1, ["Look at line 10.", "It also holds at 16."], ["Write", "if a < 16"]),
        (2, ["It also holds at 16.", "Write <.", "if a < 16:"], []),
    ],
)
def test_a_lead_tells_no_more_than_is_uncovered(level, told, covered):
    text = text_of(uncovered_lines(lead(), level, 2, 60)) + text_of(
        lead_lines(lead(), level, 60, True)
    )
    assert all(words in text for words in told)
    assert not any(words in text for words in covered)
    assert ("Enter uncovers it" in text) == (level < 2)


def test_an_author_may_ask_to_stop_earlier():
    assert "the plan's author asks to stop here" in text_of(uncovered_lines(lead(), 1, 1, 70))


def test_the_account_has_two_sides_and_a_verdict():
    text = text_of(account_lines(lead(), 90))
    assert "settles the only odd case" in text.split("\n")[3]
    assert "speaks against it" in text and text.endswith("strong")


RUN = Run(ending="ended", output="Total: 3\n", asked=((0, 5, "1"),), seconds=0.1)
DETAILS = [
    ({"stdin": "1\n2\n", "stdout": "Total: 6\n"}, Outcome.DIFFERS, RUN, "3 too little",
     ["typed in    1", "by itself", "1 answer read, none left", "≠ 3 too little."]),
    ({"call": "f(1)", "returns": "6"}, Outcome.STOPPED,
     Run(ending="raised", error=ErrorInfo(type="ValueError", message="no", file="x.py", line=7),
         errors="warned\n", skipped=(3, 4)), "ValueError on line 7: no",
     ["called      f(1)", "by ValueError", "line 7 of x.py", "lines 3, 4", "warned"]),
    ({"stdin": ""}, Outcome.OPEN, RUN, None, ["nothing said yet", "Is this right?", "nothing"]),
    ({"stdin": "x\n" * 30, "stdout": "y"}, Outcome.ENDLESS, Run(ending="time"), "no end in 2 s",
     ["… 22 more lines", "by us: its time was over"]),
    ({"stdin": "1\n2\n", "stdout": "x", "note": "mind the gap"}, Outcome.AGREES,
     Run(ending="ended", unread="2\n", remarks=("It printed bytes.",)), None,
     ["1 line left unread", "It printed bytes.", "mind the gap", "are the same"]),
    ({"call": "f(1)", "returns": "R"}, Outcome.AGREES,
     Run(ending="ended", returned=Returned(actual="6", equal=True, own_names=("R",))), None,
     ["uses the program's own R"]),
    ({"stdin": "", "stdout": "x"}, Outcome.STOPPED,
     Run(ending="raised", starved=True, error=ErrorInfo(type="EOFError", message="")), "more",
     ["it asked for more than there was"]),
]  # fmt: skip


@pytest.mark.parametrize(("case", "outcome", "run", "summary", "told"), DETAILS)
def test_a_case_is_told_with_what_went_in_and_how_it_ran(case, outcome, run, summary, told):
    one = Case(number=1, name="one", **case)
    result = CaseResult(
        number=1, name="one", kind="normal", outcome=outcome, checked=one.checked(),
        expected=case.get("stdout"), actual=run.output, run=run,
        difference=Difference(summary=summary) if summary else None,
    )  # fmt: skip
    text = text_of(case_detail(one, result, 70, True))
    for words in told:
        assert words in text


def results(outcome: Outcome) -> dict[int, CaseResult]:
    run = Run(ending="ended", output="How? 5\n", asked=((0, 5, "1"),))
    return {
        1: CaseResult(number=1, name="one", kind="normal", outcome=outcome, checked=(),
                      expected=None, actual="5\n", difference=None, run=run)
    }  # fmt: skip


def test_what_was_printed_so_far_is_read_as_the_case_was():
    decoder = Decoder()
    rows = [["x.py", n, n, "", "expr"] for n in (1, 2)]
    decoder.take({"k": "statements", "base": 0, "rows": rows})
    decoder.take({"k": "log", "events": [0, "How? ", "o", 1, "5\n", "o"]})
    trace = Trace(program="x.py", case="one", number=1, steps=decoder.finish(), outcome="agrees",
                  complete=True)  # fmt: skip
    expected = Case(number=1, name="one", stdin="1\n", stdout="5\n")
    told = Traced(expected, Story(trace), results(Outcome.AGREES)[1], None, step=1)
    assert told.printed_so_far() == ""
    told.step = 2
    assert told.printed_so_far() == "5\n"
    told.case = Case(number=1, name="one", stdin="1\n")
    assert told.printed_so_far() == "How? 1\n5\n"


def test_what_highlights_a_text_is_read_once_a_language():
    from textual._tree_sitter import get_language
    from textual.document._syntax_aware_document import SyntaxAwareDocument

    import oddsum.tui.widgets.program_editor  # noqa: F401  (it sees to that)

    grammar = get_language("python")
    texts = ("fare = 3\n", "def fare():\n    return 6\n")
    first, second = (SyntaxAwareDocument(text, grammar) for text in texts)
    query = first.prepare_query("(identifier) @name")
    assert second.prepare_query("(identifier) @name") is query
    assert len(second.query_syntax_tree(query)["name"]) == 1
    assert first.prepare_query("(integer) @number") is not query
