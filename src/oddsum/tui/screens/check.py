"""Check: the cases of the plan, and how each one came out."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.compare.numbers import off_by
from oddsum.formats.check_text import brief
from oddsum.languages.language import Station as Reach
from oddsum.languages.registry import cannot
from oddsum.model.case import Case
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.trace.words import counted
from oddsum.tui.actions import Action, bindings_of
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.inks import INK_OF
from oddsum.tui.plan_dialogs import PlanDialogs
from oddsum.tui.screens.station import Station, scroll_on
from oddsum.tui.widgets.case_detail import case_detail, odd_list
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.fault import fault_lines
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import HEAD, Column, Rows, RuledTable
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.writing import Cell, Piece, cell, clean
from oddsum.workspace.interface import Part
from oddsum.workspace.workspace import Workspace

_WITH_OFF_BY = 90  # cells from which on the ledger has a column for what a result is off by
_LEADS_TO: tuple[Reach, ...] = ("trace", "advice")  # keys of these names go there
_SHOWN = frozenset({Part.PROGRAM, Part.CASES, Part.MARKS})  # what the body shows


class CheckScreen(Station):
    """The cases, the totals under a double rule, and the case in hand beside them."""

    station = "check"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("check")]

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace)
        self.dialogs = PlanDialogs(workspace, self.app)
        # What the ledger says of each result, with the result that it was worked out from.
        self._briefs: dict[int, tuple[CaseResult, tuple[str, str]]] = {}
        self._read_case = 0  # the number of the case that is shown at the right

    def compose_body(self) -> Iterable[Widget]:
        """Lay out the ledger of cases, the program, and the case in hand."""
        with Panels(62, id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading("CASES", id="cases-heading")
                yield RuledTable(id="cases")
                yield Prose(id="totals")
                yield Heading(id="program-heading").add_class("spaced", "roomy")
                yield SourceView(id="program").add_class("roomy")
            yield Divider()
            with Vertical(id="right", classes="column"):
                yield Heading("CASE", id="case-heading")
                with VerticalScroll(id="case-scroll", can_focus=False):
                    yield Prose(id="case")

    def on_mount(self) -> None:
        """The keys go to the ledger."""
        self.query_one("#cases", RuledTable).focus()

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring ledger, totals, program and case up to date."""
        if not parts & _SHOWN:
            return
        checking = self.workspace.checking
        self.set_class(checking.fault is not None, "-fault")
        cases = checking.shown()
        table = self.query_one("#cases", RuledTable)
        numbers = [c.number for c in cases]
        cursor = numbers.index(checking.selected) if checking.selected in numbers else 0
        width = max(40, table.size.width or self.app.size.width)
        columns = self._columns(width, cases)
        count = len(columns)
        table.show(columns, Rows(len(cases), lambda n: self._row(cases[n])[:count]), cursor)
        if not self.has_class("-narrow"):
            table.styles.height = len(cases) + HEAD
        else:
            table.styles.height = None
        heading = self.query_one("#cases-heading", Heading)
        heading.right = self._count_words(len(cases))
        heading.lit = True
        self.query_one("#totals", Prose).write(self._totals)
        self._show_program()
        self._show_case()

    def _count_words(self, shown: int) -> str:
        total = len(self.workspace.checking.cases)
        if not self.workspace.begun:
            return ""
        return (
            f"{shown:,} of {total:,}, only the odd"
            if self.workspace.checking.only_odd
            else f"{total:,} in the plan"
        )

    def _row(self, case: Case) -> Sequence[Cell]:
        result = self.workspace.checking.results.get(case.number)
        number = cell(str(case.number), "quiet")
        bold = case.number == self.workspace.checking.selected
        name, kind = cell(clean(case.name), "strong", bold), cell(case.kind, "quiet")
        if result is None:
            waits = "runs" if self.workspace.checking.busy else "not run"
            if case.disabled:
                waits, name = "set aside", cell(clean(case.name), "quiet", italic=True)
            blank = cell("")
            return (cell(f" {waits}", "quiet", italic=True), number, name, kind, *[blank] * 3)
        expected, actual = self._brief(result)
        ink = INK_OF[result.outcome]
        stale = result.stale
        mark = glyph("stale" if stale else result.outcome.value)
        return (
            cell(f" {mark} {result.outcome.value}", "quiet" if stale else ink),
            number,
            name,
            kind,
            cell(expected),
            cell(actual, ink if result.outcome.odd and not stale else "ink"),
            cell(own(_off(result)), ink),
        )

    def _brief(self, result: CaseResult) -> tuple[str, str]:
        """Expected and actual for the ledger, worked out once a result."""
        known = self._briefs.get(result.number)
        if known is None or known[0] is not result:
            expected, actual = (clean(t) for t in brief(result))
            self._briefs[result.number] = known = (result, (expected, actual))
        return known[1]

    def _columns(self, width: int, cases: list[Case]) -> list[Column]:
        results = self.workspace.checking.results
        shown = [self._brief(results[c.number]) for c in cases if c.number in results]
        names = max((len(c.name) for c in cases), default=10)
        longest = max((len(t) for pair in shown for t in pair), default=0)
        return _columns(width, names, longest)

    def _totals(self, width: int) -> list[list[Piece]]:
        work, checking = self.workspace, self.workspace.checking
        lines = [[Piece("═" * width, "rule")]]
        if checking.fault is not None:
            return lines + fault_lines(checking.fault, width)
        if not work.begun:
            return [*lines, [Piece(f"  reading {work.files.program.name}", "quiet")]]
        if not checking.cases:
            return [*lines, [Piece("  no case yet; A adds the first", "quiet")]]
        pieces, counts = [Piece("  ")], checking.counts()
        for outcome, ink in INK_OF.items():
            count = counts[outcome]
            if count:
                word = outcome.value if count == 1 else outcome.plural
                ink_now = "quiet" if checking.stale else ink
                pieces.append(Piece(f"{count} {word}   ", ink_now, True))
        if checking.since and not checking.stale:
            pieces.append(Piece(f"{checking.since} since the run before", "strong"))
        if checking.left_out:
            pieces.append(Piece(checking.left_out, "quiet"))
        return [*lines, pieces, *self._pattern(width)]

    def _pattern(self, width: int) -> list[list[Piece]]:
        """What the odd cases share, as far as there is room."""
        pattern = self.workspace.checking.shared.pattern
        if pattern is None:
            return []
        narrow = self.has_class("-narrow")
        lines: list[list[Piece]] = [] if narrow else [[]]
        for sentence in pattern.sentences[: 1 if narrow else 3]:
            lines += wrapped(sentence, width - 2, "strong", indent=2)
        return lines

    def _show_program(self) -> None:
        source = self.workspace.files.source
        if source is None:
            return
        heading = self.query_one("#program-heading", Heading)
        heading.title, heading.right = source.name.upper(), counted(len(source.lines), "line")
        checking = self.workspace.checking
        fault, result = checking.fault, checking.results.get(checking.selected)
        marks, current = {}, 0
        if fault is not None and fault.line and fault.file == source.name:
            marks, current = {fault.line: cell(" !", "stopped", True)}, fault.line
        elif result is not None and result.outcome.odd and result.run.error is not None:
            error = result.run.error
            if error.line and error.file == source.name:
                mark = glyph(result.outcome.value)
                marks = {error.line: cell(f" {mark}", INK_OF[result.outcome], True)}
                current = error.line
        self.query_one("#program", SourceView).show(source, marks=marks, current=current)

    def _show_case(self) -> None:
        case = self.workspace.checking.case_in_hand()
        heading = self.query_one("#case-heading", Heading)
        prose = self.query_one("#case", Prose)
        if case is None and not self.workspace.begun:
            return
        if case is None:
            heading.title, heading.right = "HOW IT WORKS", ""
            prose.write(_first_steps)
            return
        heading.title, heading.right = f"CASE {case.number}", case.kind
        result = self.workspace.checking.results.get(case.number)
        roomy = not self.has_class("-narrow")
        odd = self.workspace.checking.odd()

        def write(width: int) -> list[list[Piece]]:
            lines = case_detail(case, result, width, roomy)
            return lines + odd_list(odd, case.number, width)

        prose.write(write)
        if self._read_case != case.number:  # a result that comes does not move what is read
            self._read_case = case.number
            self.query_one("#case-scroll", VerticalScroll).scroll_to(y=0, animate=False)
        self.call_after_refresh(self._tell_more, case.kind)

    def _tell_more(self, kind: str) -> None:
        """Say in the heading that there is more of the case than can be seen."""
        more = self.query_one("#case-scroll", VerticalScroll).max_scroll_y > 0
        self.query_one("#case-heading", Heading).right = f"{kind} · Space: more" if more else kind

    def action_more(self) -> None:
        """The rest of the case in hand; from its end back to its beginning."""
        scroll_on(self.query_one("#case-scroll", VerticalScroll))

    @on(RuledTable.Moved)
    def choose(self, message: RuledTable.Moved) -> None:
        """Another case is in hand."""
        cases = self.workspace.checking.shown()
        if message.row < len(cases):
            self.workspace.checking.selected = cases[message.row].number
            self._show_program()  # the ledger has moved its cursor by itself
            self._show_case()

    @on(RuledTable.Opened)
    def open_case(self) -> None:
        """Enter or a double click: expected and actual, whole."""
        self.action_side_by_side()

    def offered(self) -> tuple[Action, ...]:
        """The actions whose keys hold now; one that this plan's program does not go to would only
        say so."""
        plan = self.workspace.checking.plan
        if plan is None:
            return super().offered()
        refused = {station for station in _LEADS_TO if cannot(plan, station)}
        return tuple(a for a in super().offered() if a.action not in refused)

    def word_of_keys(self) -> str:
        """How the case in hand came out."""
        checking = self.workspace.checking
        result = checking.results.get(checking.selected)
        return result.outcome.value if result is not None else "case"

    def action_trace(self) -> None:
        """Follow the case in hand step by step."""
        self.workspace.trace_case_in_hand()

    def action_only_odd(self) -> None:
        """Show or hide what agrees."""
        self.workspace.checking.toggle_odd()

    def action_check_odd(self) -> None:
        """Run those that do not agree."""
        self.workspace.checking.check_odd()

    def action_check_this(self) -> None:
        """Run the case in hand alone."""
        self.workspace.checking.check_this()

    # -- the plan ----------------------------------------------------------------------------

    def action_dialog(self, name: str) -> None:
        """Open one of the dialogs about the plan: a case written, recorded, judged, taken in."""
        getattr(self.dialogs, name)()

    def action_advice(self) -> None:
        """See what no case tries."""
        self.dialogs.advice()

    def action_copy_case(self) -> None:
        """Put a copy of the case in hand behind it."""
        self.workspace.planning.copy()

    def action_delete_case(self) -> None:
        """Take the case in hand out of the plan."""
        self.workspace.planning.delete()

    def action_move_case(self, by: int) -> None:
        """Let the case in hand change places with its neighbour."""
        self.workspace.planning.move(by)

    def action_set_aside(self) -> None:
        """Keep the case in hand and do not run it, or take it back."""
        self.workspace.planning.set_aside()

    def action_take_back(self) -> None:
        """Undo the last change of the plan."""
        self.workspace.planning.take_back()


def _off(result: CaseResult) -> str:
    if result.outcome is not Outcome.DIFFERS or result.expected is None:
        return ""
    return off_by(result.expected, result.actual)


def _columns(width: int, longest: int, results: int) -> list[Column]:
    """Columns for the room there is: names as far as they need, the rest for the two results.

    ``longest`` is the longest name, ``results`` the longest thing that came out, in cells.
    """
    narrow = width < _WITH_OFF_BY
    fixed = 12 + 4 + 1 + 11 + 3 + 3 + 1 + (0 if narrow else 9)  # with rules and blanks
    room = max(30, width - fixed)
    least = max(8, min(results, room * 28 // 100))
    name = max(12, min(longest, room - 2 * least))
    rest = room - name
    columns = [
        Column("  outcome", 11, ruled=False),
        Column("", 3, "right", ruled=False),
        Column("name", name, ruled=False),
        Column("kind", 8),
        Column("expected", rest // 2),
        Column("actual", rest - rest // 2),
        Column("off by", 6, "right"),
    ]
    return columns[:-1] if narrow else columns


def _first_steps(width: int) -> list[list[Piece]]:
    lines: list[list[Piece]] = [[]]
    for text in (
        "A plan is a list of cases: what is typed in, and what should come out.",
        "Work out by hand what should come out. Then let the program show what does.",
        "Press A to write the first case, or V to run the program and keep what you type. It is "
        "kept in a file beside your program.",
    ):
        lines += [*wrapped(text, width), []]
    return lines
