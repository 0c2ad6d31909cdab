"""Pinpoint: the leads, uncovered no faster than the learner wants."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual import events, on
from textual.binding import Binding, BindingType
from textual.containers import Vertical, VerticalScroll
from textual.message import Message
from textual.widget import Widget

from oddsum.model.lead import Ask as Differing
from oddsum.model.lead import Lead
from oddsum.trace.words import counted
from oddsum.tui.actions import bindings_of
from oddsum.tui.dialogs.ask import Ask, check_line
from oddsum.tui.dialogs.judge import Judge
from oddsum.tui.glyphs import own
from oddsum.tui.plan_dialogs import PlanDialogs
from oddsum.tui.screens.station import Station, scroll_on
from oddsum.tui.widgets.case_detail import odd_list
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.lead_account import (
    account_lines,
    ask_lines,
    lead_lines,
    note_lines,
    own_lines,
    shown_lines,
    tried_lines,
    uncovered_lines,
)
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.writing import Cell, Piece, cell
from oddsum.workspace.interface import Part
from oddsum.workspace.pinpointing import Search

_ROWS = 2  # lines a lead takes in the list
_GUESS_FIRST = (
    "First your own guess: which line do you suspect? Read the program at the right, beside the "
    "odd cases, then press G and name the line. If none looks odd to you, leave it empty. "
    "The leads are shown after that."
)


class LeadList(Prose, can_focus=True):
    """The leads, two lines each; arrows and clicks choose one, Enter uncovers more of it."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("up", "move(-1)", "Lead above", show=False),
        Binding("down", "move(1)", "Lead below", show=False),
    ]

    class Moved(Message):
        """Another lead is wanted: by so many places, or the one at a place (from 0)."""

        def __init__(self, by: int = 0, to: int | None = None) -> None:
            super().__init__()
            self.by, self.to = by, to

    def action_move(self, by: int) -> None:
        """Tell that another lead is wanted."""
        self.post_message(self.Moved(by))

    def on_click(self, event: events.Click) -> None:
        """A click chooses a lead."""
        self.post_message(self.Moved(to=event.y // _ROWS))


class PinpointScreen(Station):
    """Leads at the left with their account; the program at the right."""

    station = "pinpoint"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("pinpoint")]

    def compose_body(self) -> Iterable[Widget]:
        """Lay out leads, the one in hand, and the program."""
        with Panels(47, id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading("LEADS", id="leads-heading")
                yield LeadList(id="leads")
                yield Heading(id="lead-heading").add_class("spaced")
                with VerticalScroll(id="lead-scroll", can_focus=False):
                    yield Prose(id="lead")
            yield Divider()
            with Vertical(id="right", classes="column"):
                yield Heading(id="program-heading")
                yield SourceView(id="program")
                yield Heading("THE CASE THAT SHOWS IT BEST", id="best-heading").add_class(
                    "spaced", "roomy"
                )
                yield Prose(id="best").add_class("roomy")
                yield Heading("READER'S NOTES", id="notes-heading").add_class("spaced", "roomy")
                yield Prose(id="notes").add_class("roomy")
                yield Heading("TRIED SO FAR", id="tried-heading").add_class("spaced", "roomy")
                yield Prose(id="tried").add_class("roomy")

    def on_mount(self) -> None:
        """The keys go to the leads."""
        self.query_one("#leads", LeadList).focus()

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring leads, account and program up to date; while the search counts, its count."""
        search = self.workspace.pinpointing.search
        heading = self.query_one("#leads-heading", Heading)
        heading.lit = True
        heading.right = _counts(search)
        if search is None or not search.leads or parts - {Part.COUNT}:
            self.query_one("#leads", LeadList).write(self._leads)
        self.query_one("#tried", Prose).write(lambda width: tried_lines(search, width))
        if parts == {Part.COUNT}:
            return
        self._show_lead(search)
        self._show_program(search)
        self._show_best(search)
        self._show_notes(search)

    def _show_best(self, search: Search | None) -> None:
        lead = self._lead_in_hand()
        for name in ("#best-heading", "#best"):
            self.query_one(name).set_class(lead is None, "-gone")
        if lead is None or search is None:
            return
        level = search.level(lead)
        names = {c.number: c.name for c in self.workspace.checking.cases}
        case = names.get(lead.case or 0, "")
        self.query_one("#best", Prose).write(lambda width: shown_lines(lead, level, case, width))

    def _show_notes(self, search: Search | None) -> None:
        found = search.found if search is not None and not search.held_back else None
        for name in ("#notes-heading", "#notes"):
            self.query_one(name).set_class(not (found and found.notes), "-gone")
        if found is None or search is None:
            return
        covered = frozenset(
            (x.file, line) for x in search.leads if not search.level(x) for line in x.lines
        )
        self.query_one("#notes-heading", Heading).right = str(len(found.notes))
        self.query_one("#notes", Prose).write(lambda width: note_lines(found, covered, width))

    def _lead_in_hand(self) -> Lead | None:
        return self.workspace.pinpointing.lead_in_hand()

    def _leads(self, width: int) -> list[list[Piece]]:
        search = self.workspace.pinpointing.search
        if search is not None and search.held_back:
            return [[], *wrapped(_GUESS_FIRST, width)]
        if search is not None and search.leads:
            rows: list[list[Piece]] = []
            for n, lead in enumerate(search.leads):
                rows += lead_lines(lead, search.level(lead), width, n == search.cursor)
            return rows
        return [[], *wrapped(self._nothing(search), width)]

    def _nothing(self, search: Search | None) -> str:
        from oddsum.pinpoint.words import nothing_found

        work = self.workspace.checking
        if work.fault is not None:
            return "The program cannot be run as it is. Check (1) says what is in the way."
        if search is not None and search.doing:
            count = f" ({counted(search.done, 'trial')} so far)" if search.done else ""
            return (
                f"Working: {search.doing}{count}. Your own file is not touched. Which line do you "
                "suspect meanwhile? G takes your guess."
            )
        if search is not None and search.stopped:
            return "The search was stopped. R checks the plan again, and then looks again."
        if search is not None and search.found is not None:
            return nothing_found(search.found)
        if not work.cases:
            return "Without a case nobody can say what is wrong. Press 1, then A for the first."
        if not work.complete():
            return "The plan is being run first."
        return "There is nothing to look for."

    def _show_lead(self, search: Search | None) -> None:
        lead = self._lead_in_hand()
        heading, prose = self.query_one("#lead-heading", Heading), self.query_one("#lead", Prose)
        if lead is None or search is None:
            heading.title, heading.right = "HOW PINPOINT WORKS", ""
            prose.write(_how_it_works)
            return
        heading.title = f"{lead.letter}, UNCOVERED AS FAR AS YOU LIKE"
        heading.right = "Space: more" if self.has_class("-narrow") else ""
        level, most = search.level(lead), self.workspace.checking.most_revealed()

        odd, file = self.workspace.checking.odd(), self.workspace.files.program.name

        def write(width: int) -> list[list[Piece]]:
            lines = own_lines(search, file, width)  # what was asked last stands at the top
            lines += uncovered_lines(lead, level, most, width)
            lines += ask_lines(search, level, width)
            lines += account_lines(lead, width) if level else []
            return lines + odd_list(odd, 0, width)

        prose.write(write)

    def _show_program(self, search: Search | None) -> None:
        lead = self._lead_in_hand()
        source = self.workspace.files.source_of(lead.file) if lead else self.workspace.files.source
        if source is None:
            return
        heading = self.query_one("#program-heading", Heading)
        heading.title = source.name.upper()
        marks: dict[int, Cell] = {}
        shown = search is not None and not search.held_back
        for one in (search.leads if search and shown else ())[::-1]:
            if one.file == source.name:
                for line in one.lines:
                    marks[line] = cell(one.letter, "blue", True)
        found = search.found if search is not None and shown else None
        weights = (
            {w.line: w.weight for w in found.weights if w.file == source.name} if found else {}
        )
        heading.right = own("▪ how much speaks against a line") if weights else ""
        self.query_one("#program", SourceView).show(
            source, marks=marks, weights=weights, current=lead.lines[0] if lead else 0
        )

    @on(LeadList.Moved)
    def choose(self, message: LeadList.Moved) -> None:
        """Another lead is in hand."""
        search = self.workspace.pinpointing.search
        if search is not None:
            self.query_one("#lead-scroll", VerticalScroll).scroll_to(y=0, animate=False)
            wanted = search.cursor + message.by if message.to is None else message.to
            self.workspace.pinpointing.choose(wanted)

    def action_more(self) -> None:
        """The rest of what is told of the lead in hand."""
        scroll_on(self.query_one("#lead-scroll", VerticalScroll))

    def action_uncover(self) -> None:
        """Uncover one level more of the lead in hand."""
        self.workspace.pinpointing.reveal()

    def word_of_keys(self) -> str:
        """What is in hand."""
        return "lead"

    def action_trace(self) -> None:
        """Follow the case that shows the lead best, from its step on; else the shortest odd one."""
        self.workspace.pinpointing.trace()

    def action_guess(self) -> None:
        """Let the user name a line before more is uncovered."""
        pinpointing, source = self.workspace.pinpointing, self.workspace.files.source
        if not pinpointing.may_guess() or source is None:
            return
        most = len(source.lines)

        def take(text: str | None) -> None:
            if text is not None:
                self.query_one("#lead-scroll", VerticalScroll).scroll_to(y=0, animate=False)
                pinpointing.guess(int(text) if text.strip() else 0)

        self.app.push_screen(
            Ask(
                "YOUR GUESS",
                "Which line do you suspect?",
                "You are told whether the evidence points there, and nothing more. Leave it empty "
                "if no line looks odd to you.",
                lambda text: check_line(most, text) if text.strip() else None,
                example="a line's number",
            ),
            take,
        )

    @property
    def absent(self) -> frozenset[str]:
        """There is nothing to decide where no two mends differ."""
        return super().absent | (frozenset() if self._ask() else {"decide"})

    def _ask(self) -> Differing | None:
        search = self.workspace.pinpointing.search
        found = search.found if search is not None and not search.held_back else None
        return found.ask if found is not None else None

    def action_decide(self) -> None:
        """Say what should come out where mends differ."""
        ask = self._ask()
        if ask is not None:
            PlanDialogs(self.workspace, self.app).decide(ask)

    def action_judge(self) -> None:
        """Ask about values of the shortest odd case, until the answers lead somewhere."""
        pinpointing = self.workspace.pinpointing
        first = pinpointing.inquiry()
        if first is not None:
            self.app.push_screen(
                Judge(first, pinpointing.inquiry, pinpointing.keep_answer), pinpointing.see
            )


def _counts(search: Search | None) -> str:
    if search is None:
        return ""
    if search.doing:
        return f"{counted(search.done, 'trial')} so far" if search.done else search.doing
    if search.found is not None:
        stale = "~ " if search.stale else ""
        return f"{stale}{counted(search.found.trials, 'trial')} in {search.found.seconds:.1f} s"
    return ""


def _how_it_works(width: int) -> list[list[Piece]]:
    lines: list[list[Piece]] = [[]]
    for text in (
        "Small changes, of the kind beginners' slips are made of, are tried on copies of the "
        "program. Where one settles the odd cases and breaks none, there is a lead.",
        "A lead first tells where to look. You say when it may tell what is wrong, and how it "
        "could be mended. It can be wrong: read both sides of its account.",
    ):
        lines += [*wrapped(text, width, "quiet"), []]
    return lines
