"""The application: a mode a station, themes, and the keys that hold everywhere."""

from __future__ import annotations

import asyncio
from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path
from typing import Any, ClassVar

from textual import events, on
from textual.app import App, SystemCommand
from textual.binding import Binding, BindingType
from textual.screen import Screen

from oddsum.model.errors import OddSumError
from oddsum.source.plain import this_terminal_shows_ascii_only
from oddsum.tui.actions import actions_of
from oddsum.tui.commands import SettingsCommands
from oddsum.tui.edge import Carried, Edge
from oddsum.tui.glyphs import use_plain_marks
from oddsum.tui.going_on import GoingOn, guard_messages
from oddsum.tui.hangup import Hangup
from oddsum.tui.keys_in_order import KeysInOrder
from oddsum.tui.plain_terminal import AsciiOnly
from oddsum.tui.printable import Printable
from oddsum.tui.screens.check import CheckScreen
from oddsum.tui.screens.station import Station
from oddsum.tui.sixteen import Sixteen
from oddsum.tui.theme import COLOURS, THEMES
from oddsum.workspace.interface import Part, StationName
from oddsum.workspace.workspace import Workspace


def _screen_of(station: StationName, workspace: Workspace) -> Station:
    """A station's screen. All but the first are loaded when they are first gone to: the first
    picture need not wait for them.
    """
    if station == "trace":
        from oddsum.tui.screens.trace import TraceScreen

        return TraceScreen(workspace)
    if station == "pinpoint":
        from oddsum.tui.screens.pinpoint import PinpointScreen

        return PinpointScreen(workspace)
    if station == "mend":
        from oddsum.tui.screens.mend import MendScreen

        return MendScreen(workspace)
    if station == "record":
        from oddsum.tui.screens.record import RecordScreen

        return RecordScreen(workspace)
    return CheckScreen(workspace)


_STATIONS: tuple[StationName, ...] = ("check", "trace", "pinpoint", "mend", "record")


class OddSumApp(App[None]):
    """Shows one station of the workspace."""

    TITLE = "Odd Sum"
    CSS_PATH: ClassVar = [
        "css/base.tcss", "css/check.tcss", "css/trace.tcss", "css/pinpoint.tcss", "css/mend.tcss",
        "css/record.tcss",
    ]  # fmt: skip
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+q", "quit", "Leave", show=False, priority=True),
    ]
    ENABLE_COMMAND_PALETTE = True

    def __init__(
        self, program: Path, plan_file: Path | None, python: str | None, first_walk: bool = False
    ) -> None:
        self._sixteen = Sixteen()
        super().__init__()
        self.workspace = Workspace(program, Edge(self, self.show), plan_file, python)
        self.settings_commands = SettingsCommands(self.workspace.preferences, self)
        self.hangup: Hangup | None = None  # in a real terminal
        self.going_on = GoingOn(self._tell_fault, self._give_up)
        self.ended_by: OddSumError | None = None  # a fault that it could not go on after
        self.first_walk = first_walk  # whether the walk is shown to who has not seen it
        self.keys_in_order = KeysInOrder(self, super().on_event)
        self.keys_in_order.shut = True  # until it is known what they are meant for
        settings = self.workspace.preferences.settings
        use_plain_marks(settings.plain_marks)
        self.set_class(settings.plain_marks, "-plain")
        self._filters.append(Printable())
        for theme in THEMES:
            self.register_theme(theme)
        self.theme = settings.theme
        for station in _STATIONS:
            self.add_mode(station, partial(_screen_of, station, self.workspace))

    def draw_for_this_terminal(self) -> None:
        """Sixteen colours by their meaning, or ASCII, where the terminal has no more."""
        if self.console.color_system == "standard":
            self._filters.append(self._sixteen)
        if this_terminal_shows_ascii_only():
            self.draw_in_ascii()

    def draw_in_ascii(self) -> None:
        """For a terminal that shows no more than that."""
        use_plain_marks(True)
        self.add_class("-plain")
        self._filters.append(AsciiOnly())

    # -- beginning and ending ----------------------------------------------------------------

    def on_mount(self) -> None:
        """Show Check; begin once the first picture stands: reading would make it wait."""
        self._goes = asyncio.get_running_loop()
        guard_messages(lambda pump: getattr(pump.app, "going_on", None))
        if self.hangup is not None:
            self.hangup.begin()
        self.switch_mode("check")
        self.call_after_refresh(self.begin)

    async def begin(self) -> None:
        """Read the files and run the plan; ask for the first case where there is none."""
        self.workspace.begin()
        checking = self.workspace.checking
        if isinstance(self.screen, CheckScreen):
            if checking.plan is None and checking.fault is None:
                self.screen.dialogs.add()
            elif checking.plan is None and self.workspace.planning.must_choose():
                self.screen.dialogs.choose_plan()
        if self.first_walk and not self.workspace.preferences.settings.walk_seen:
            self.walk()
        self.screen.call_later(self.call_later, self.keys_in_order.open)

    def on_unmount(self) -> None:
        """Nothing goes on without a window."""
        self.workspace.close()

    async def action_quit(self) -> None:
        """Leave; a change that is not kept is asked about first."""
        from oddsum.tui.dialogs.choose import Choose
        from oddsum.workspace.interface import Choice

        draft = self.workspace.mending.draft
        if draft is None or not draft.changed or isinstance(self.screen, Choose):
            self.exit()
            return
        said = (f"What you changed in {draft.source.name} is tried on a copy only. Its file is as "
                "it was.",)  # fmt: skip
        answers = (("stay", "Stay"), ("drop", "Leave without it"))
        choice = Choice("A CHANGE IS NOT KEPT", said, answers)
        self.push_screen(Choose(choice), lambda answer: self._leave() if answer == "drop" else None)

    def leave_from_outside(self) -> None:
        """The terminal has gone, or somebody ends the process: from any thread.

        A change that is not kept stays in the record, and is offered when it is opened again.
        """
        self._goes.call_soon_threadsafe(self.exit)

    def _leave(self) -> None:
        self.workspace.autosave.drop()
        self.exit()

    def watch_theme(self, theme: str) -> None:
        """The sixteen colours follow it."""
        self._sixteen.theme = theme if theme in COLOURS else "lamp"

    # -- showing -----------------------------------------------------------------------------

    def show(self, parts: frozenset[Part]) -> None:
        """Bring what is on the screen up to date with the parts that changed."""
        for screen in self.screen_stack:
            refresh: Callable[[frozenset[Part]], None] | None
            refresh = getattr(screen, "refresh_from", None)
            if refresh is not None and screen.is_mounted:
                with self.going_on.at("showing"):
                    refresh(parts)

    @on(Carried)
    def carry_out(self, message: Carried) -> None:
        """A call of the workspace's jobs has come to this thread."""
        with self.going_on.at("a job"):
            message.call()

    # -- exceptions of our own -----------------------------------------------------------------

    async def run_action(self, action: Any, *args: Any, **named: Any) -> bool:
        """Do what a key or the palette asks for."""
        with self.going_on.at(str(action)):
            return bool(await super().run_action(action, *args, **named))
        return True

    def _handle_exception(self, error: Exception) -> None:
        """Textual would end the application for it."""
        if self.going_on.raises:
            super()._handle_exception(error)
        else:
            self.going_on.take(error, "drawing")

    def _tell_fault(self, told: OddSumError) -> None:
        self.notify(f"{told.text} {told.hint}", severity="error", timeout=30)

    def _give_up(self, told: OddSumError) -> None:
        self.ended_by = told
        self.exit(return_code=2)

    # -- keys that hold everywhere -----------------------------------------------------------

    async def on_event(self, event: events.Event) -> None:
        """Keys come in one at a time; leaving does not wait for its turn."""
        if isinstance(event, events.Key) and not self.screen_stack:
            return  # it closes: nothing is left that a key could be meant for
        if isinstance(event, events.Key) and not event.is_forwarded and event.key != "ctrl+q":
            await self.keys_in_order.take(event)
        else:
            await super().on_event(event)

    def walk(self, card: int = 0) -> None:
        """The first-run walk: each card stands over the station that it is about."""
        from oddsum.tui.dialogs.walk import CARDS, Walk

        def on(wanted: int | None) -> None:
            if wanted is not None:
                self.walk(wanted)
            else:
                self.workspace.preferences.choose("walk_seen", True)

        self.workspace.go(CARDS[card][0])
        self.push_screen(Walk(card, self._under_way), on)

    def _under_way(self) -> str:
        """What the stations are at, in words; blank for nothing."""
        work = self.workspace
        if work.checking.busy:
            return f"the plan is running, {work.checking.done} of {work.checking.total} cases."
        if work.tracing.busy:
            return "the case is being recorded."
        if work.pinpointing.busy:
            return "small changes are being tried."
        return ""

    def _station(self) -> Station | None:
        return next((s for s in reversed(self.screen_stack) if isinstance(s, Station)), None)

    def get_system_commands(self, screen: Screen[Any]) -> Iterable[SystemCommand]:
        """The palette has every action of the station, the walk, and the settings."""
        station = self._station()
        for action in actions_of(station.station) if station is not None else ():
            if action.action and station is not None:
                yield SystemCommand(
                    action.words.capitalize(),
                    f"{action.tip} ({action.label})",
                    partial(station.run_by_name, action.action),
                )
        yield SystemCommand("Leave", "Leave Odd Sum. (Ctrl+Q)", self.action_quit)
        yield SystemCommand("The walk in five cards", "How the stations work.", self.walk)
        for title, about, run in self.settings_commands.commands():
            yield SystemCommand(title, about, run)


def run_app(
    program: Path, plan_file: Path | None, python: str | None, first_walk: bool = False
) -> None:
    """Open the application and stay until the user leaves, or the terminal has gone."""
    app = OddSumApp(program, plan_file, python, first_walk)
    app.hangup = Hangup(app.leave_from_outside)
    app.draw_for_this_terminal()
    app.run()
    if app.ended_by is not None:
        raise app.ended_by
