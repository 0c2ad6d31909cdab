"""The application: modes, themes, keys that hold everywhere, and what the workers tell."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path
from typing import Any, ClassVar

from textual.app import SystemCommand
from textual.binding import Binding, BindingType
from textual.screen import Screen

from oddsum.tui.actions import actions_of
from oddsum.tui.choices import ChoosingApp
from oddsum.tui.screens.check import CheckScreen
from oddsum.tui.screens.station import Station
from oddsum.tui.theme import THEMES


def _trace_screen() -> Screen[Any]:
    """Loaded when it is first gone to, as the next: the first picture need not wait for them."""
    from oddsum.tui.screens.trace import TraceScreen

    return TraceScreen()


def _pinpoint_screen() -> Screen[Any]:
    from oddsum.tui.screens.pinpoint import PinpointScreen

    return PinpointScreen()


def _mend_screen() -> Screen[Any]:
    from oddsum.tui.screens.mend import MendScreen

    return MendScreen()


def _record_screen() -> Screen[Any]:
    from oddsum.tui.screens.record import RecordScreen

    return RecordScreen()


class OddSumApp(ChoosingApp):
    """Shows one station of the work in hand."""

    TITLE = "Odd Sum"
    CSS_PATH: ClassVar = [
        "css/base.tcss", "css/check.tcss", "css/trace.tcss", "css/pinpoint.tcss", "css/mend.tcss",
        "css/record.tcss",
    ]  # fmt: skip
    MODES: ClassVar[dict[str, str | Callable[[], Screen[Any]]]] = {
        "check": CheckScreen,
        "trace": _trace_screen,
        "pinpoint": _pinpoint_screen,
        "mend": _mend_screen,
        "record": _record_screen,
    }
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+q", "quit", "Leave", show=False, priority=True),
    ]
    ENABLE_COMMAND_PALETTE = True

    def __init__(
        self, program: Path, plan_file: Path | None, python: str | None, first_walk: bool = False
    ) -> None:
        super().__init__(program, plan_file, python)
        self.first_walk = first_walk  # whether the walk is shown to who has not seen it
        for theme in THEMES:
            self.register_theme(theme)
        self.theme = self.settings.theme

    def on_mount(self) -> None:
        """Show Check; run the plan, or ask for the first case where there is none."""
        self.switch_mode("check")
        self.call_after_refresh(self.begin)

    def begin(self) -> None:
        """Start the work once the first picture stands: it would make it wait."""
        self.read_files()
        self.work.begun = True
        self.show()
        if self.work.plan is not None:
            self.action_check()
        elif self.work.fault is None:
            self.action_add_case()
        elif self.first_plan_is_missing():
            self.action_choose_plan()
        self.read_record()
        self.look_for_unkept()
        self.say_settings_fault()
        self.watch_saves()
        if self.first_walk and not self.settings.walk_seen:
            self.action_walk()

    # -- keys that hold everywhere -----------------------------------------------------------

    def show(self) -> None:
        """Bring the station on the screen up to date."""
        for screen in self.screen_stack:
            if isinstance(screen, Station):
                screen.show()

    def plan_has_run(self) -> None:
        """On Pinpoint, the search begins as soon as it can."""
        super().plan_has_run()
        if self._station() == "pinpoint":
            self.begin_search()

    def _station(self) -> str:
        for screen in reversed(self.screen_stack):
            if isinstance(screen, Station):
                return screen.station
        return "check"

    def action_go(self, station: str) -> None:
        """Go to a station. Trace opens on the shortest odd case where nothing is recorded."""
        work = self.work
        if station == "trace" and work.traced is None and work.tracing is None:
            result = work.shortest_odd()
            case = next((c for c in work.cases if result and c.number == result.number), None)
            case = case or work.selected_case()
            if case is not None and work.complete() and work.fault is None:
                self.open_trace(case)
                return
        self.switch_mode(station)

    async def action_quit(self) -> None:
        """Leave; a change that is not kept is asked about first."""
        from oddsum.tui.dialogs.choose import Choose

        draft = self.work.draft
        if draft is None or not draft.changed or isinstance(self.screen, Choose):
            self.exit()
            return
        said = [f"What you changed in {draft.source.name} is tried on a copy only. Its file is as "
                "it was."]  # fmt: skip
        answers = [("stay", "Stay"), ("drop", "Leave without it")]
        self.push_screen(
            Choose("A CHANGE IS NOT KEPT", said, answers),
            lambda answer: self.drop_change() if answer == "drop" else None,
        )

    def action_mend(self) -> None:
        """Change the program: at the lead in hand, or at the line the trace is at."""
        work = self.work
        station, traced = self._station(), work.traced
        lead = work.search.lead_in_hand() if work.search is not None else None
        if station == "pinpoint" and lead is not None:
            if not self.take_over(lead):
                return
        elif station == "trace" and traced is not None and not traced.stale:
            step = traced.story.step(traced.step)
            self.open_draft(step.statement.file, step.line)
        elif station == "check" and work.fault is not None and work.fault.line:
            self.open_draft(work.fault.file or "", work.fault.line)
        self.action_go("mend")

    def action_walk(self, card: int = 0) -> None:
        """The first-run walk: each card stands over the station that it is about."""
        from oddsum.tui.dialogs.walk import CARDS, Walk

        def on(wanted: int | None) -> None:
            if wanted is not None:
                self.action_walk(wanted)
            else:
                self.choose("walk_seen", True)

        self.action_go(CARDS[card][0])
        self.call_after_refresh(self.push_screen, Walk(card), on)

    def action_keys(self) -> None:
        """Every key of the station."""
        from oddsum.tui.dialogs.page import keys_page

        self.push_screen(keys_page(self._station()))

    def action_glossary(self) -> None:
        """The words of the station."""
        from oddsum.tui.dialogs.page import words_page

        screen = next((s for s in reversed(self.screen_stack) if isinstance(s, Station)), None)
        word = screen.word_in_hand() if screen is not None else ""
        self.push_screen(words_page(self._station(), word))

    def action_side_by_side(self) -> None:
        """Expected and actual of the case in hand, whole."""
        from oddsum.tui.dialogs.texts import TextsPage

        work = self.work
        number = work.selected
        if self._station() == "trace" and work.traced is not None:
            number = work.traced.case.number
        result = work.results.get(number)
        if result is None:
            self.notify("This case has not run yet.")
            return
        self.push_screen(TextsPage(result))

    def get_system_commands(self, screen: Screen[Any]) -> Iterable[SystemCommand]:
        """The palette has every action of the station, and the theme."""
        for action in actions_of(self._station()):
            if action.action:
                yield SystemCommand(
                    action.words.capitalize(),
                    f"{action.tip} ({action.label})",
                    partial(self._run_named, action.action),
                )
        yield SystemCommand("The walk in five cards", "How the stations work.", self.action_walk)
        for title, about, run in self.choices():
            yield SystemCommand(title, about, run)

    async def _run_named(self, action: str) -> None:
        for screen in reversed(self.screen_stack):
            if isinstance(screen, Station):
                await screen.run_action(action)
                return


def run_app(
    program: Path, plan_file: Path | None, python: str | None, first_walk: bool = False
) -> None:
    """Open the application and stay until the user leaves."""
    OddSumApp(program, plan_file, python, first_walk).run()
