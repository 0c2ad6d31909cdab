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
from oddsum.tui.glyphs import use_plain_marks
from oddsum.tui.planning import PlanningApp
from oddsum.tui.screens.check import CheckScreen
from oddsum.tui.screens.station import Station
from oddsum.tui.settings import UserSettings, load_settings, save_settings
from oddsum.tui.theme import THEMES


def _trace_screen() -> Screen[Any]:
    """Loaded when it is first gone to, as the next: the first picture need not wait for them."""
    from oddsum.tui.screens.trace import TraceScreen

    return TraceScreen()


def _pinpoint_screen() -> Screen[Any]:
    from oddsum.tui.screens.pinpoint import PinpointScreen

    return PinpointScreen()


class OddSumApp(PlanningApp):
    """Shows one station of the work in hand."""

    TITLE = "Odd Sum"
    CSS_PATH: ClassVar = ["css/base.tcss", "css/check.tcss", "css/trace.tcss", "css/pinpoint.tcss"]
    MODES: ClassVar[dict[str, str | Callable[[], Screen[Any]]]] = {
        "check": CheckScreen,
        "trace": _trace_screen,
        "pinpoint": _pinpoint_screen,
    }
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+q", "quit", "Leave", show=False, priority=True),
    ]
    ENABLE_COMMAND_PALETTE = True

    def __init__(self, program: Path, plan_file: Path | None, python: str | None) -> None:
        super().__init__(program, plan_file, python)
        for theme in THEMES:
            self.register_theme(theme)
        self._settings = load_settings()
        use_plain_marks(self._settings.plain_marks)
        self.theme = self._settings.theme if self._settings.theme in ("lamp", "paper") else "lamp"

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
        self.watch_saves()

    # -- keys that hold everywhere -----------------------------------------------------------

    def show(self) -> None:
        """Bring the station on the screen up to date."""
        for screen in self.screen_stack:
            if isinstance(screen, Station):
                screen.show()

    def plan_has_run(self) -> None:
        """On Pinpoint, the search begins as soon as it can."""
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

    def action_keys(self) -> None:
        """Every key of the station."""
        from oddsum.tui.dialogs.page import keys_page

        self.push_screen(keys_page(self._station()))

    def action_glossary(self) -> None:
        """The words of the station."""
        from oddsum.tui.dialogs.page import words_page

        self.push_screen(words_page(self._station()))

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

    def action_toggle_light(self) -> None:
        """Lamp or Paper."""
        self.theme = "paper" if self.theme == "lamp" else "lamp"
        self._settings = UserSettings(self.theme, self._settings.plain_marks)
        save_settings(self._settings)

    def action_toggle_marks(self) -> None:
        """The marks, or plain characters in their place."""
        self._settings = UserSettings(self._settings.theme, not self._settings.plain_marks)
        use_plain_marks(self._settings.plain_marks)
        save_settings(self._settings)
        self.show()
        self.refresh(layout=True)

    def get_system_commands(self, screen: Screen[Any]) -> Iterable[SystemCommand]:
        """The palette has every action of the station, and the theme."""
        for action in actions_of(self._station()):
            if action.action:
                yield SystemCommand(
                    action.words.capitalize(),
                    f"{action.tip} ({action.label})",
                    partial(self._run_named, action.action),
                )
        other = "Paper, the light one" if self.theme == "lamp" else "Lamp, the dark one"
        yield SystemCommand(f"Theme: {other}", "Change the colours.", self.action_toggle_light)

        marks = "as drawn" if self._settings.plain_marks else "plain, for fonts that lack them"
        yield SystemCommand(f"Marks: {marks}", "Change the marks.", self.action_toggle_marks)

    async def _run_named(self, action: str) -> None:
        for screen in reversed(self.screen_stack):
            if isinstance(screen, Station):
                await screen.run_action(action)
                return


def run_app(program: Path, plan_file: Path | None, python: str | None) -> None:
    """Open the application and stay until the user leaves."""
    OddSumApp(program, plan_file, python).run()
