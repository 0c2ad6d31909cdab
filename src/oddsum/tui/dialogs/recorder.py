"""Records a case: the program runs live in a panel, and what is typed is kept."""

from __future__ import annotations

import threading
from dataclasses import dataclass
from typing import ClassVar

import msgspec
from textual import on, work
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.message import Message
from textual.widgets import Button, Label

from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError
from oddsum.run.live import LiveRun, Recorded
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.live_terminal import LiveTerminal

_PIECES = 4  # of output that may wait to be shown


class Recorder(Dialog[Case | None]):
    """Closes with the case as it was recorded, or None.

    Its expected text is what was printed where the user says that this is right, and open
    otherwise.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("recorder")]

    @dataclass
    class Shown(Message):
        """Bytes that a run has put on its terminal."""

        run: LiveRun
        data: bytes

    @dataclass
    class Ended(Message):
        """A run is over; ``fault`` says why it could not be carried out."""

        run: LiveRun
        recorded: Recorded | None
        fault: OddSumError | None

    def __init__(self, plan: Plan, interpreter: Interpreter, number: int) -> None:
        super().__init__(classes="page")
        self.plan, self.interpreter, self.number = plan, interpreter, number
        self.run: LiveRun | None = None
        self.recorded: Recorded | None = None
        self._room = threading.Semaphore(_PIECES)

    def compose(self) -> ComposeResult:
        """The terminal, what to do, and the answers once it has ended."""
        with Vertical(id="card", classes="-wide -tall"):
            yield KeysHeading(f"RECORD CASE {self.number}", "recorder")
            yield LiveTerminal()
            yield Label(
                "Type as in a terminal.",
                classes="hint",
                id="said",
            )
            with Horizontal(id="answers"):
                yield Button("It is right", id="right")
                yield Button("It is not right", id="other")
                yield Button("I do not know yet", id="open")
                yield Button("Once more", id="again")

    def on_mount(self) -> None:
        """Run as soon as the panel has its size."""
        self.query_one("#answers").display = False
        self.call_after_refresh(self.begin)

    def begin(self) -> None:
        """Start the program, for the first time or anew."""
        terminal = self.query_one(LiveTerminal)
        terminal.terminal.reset()
        terminal.asleep, self.recorded = False, None
        terminal.focus()
        self.query_one("#answers").display = False
        size = terminal.size
        self.run = LiveRun(self.plan, self.interpreter, max(20, size.width), max(4, size.height))
        self.play(self.run)

    @work(thread=True, exclusive=True, group="live", exit_on_error=False)
    def play(self, run: LiveRun) -> None:
        """Run the program to its end, on a thread."""

        def show(data: bytes) -> None:
            # Waiting for the picture holds a program back that prints faster than can be shown.
            while not self._room.acquire(timeout=0.2):
                if run.stopping:
                    return
            self.post_message(self.Shown(run, data))

        try:
            recorded, fault = run.play(show), None
        except OddSumError as error:
            recorded, fault = None, error
        self.post_message(self.Ended(run, recorded, fault))

    def on_recorder_shown(self, message: Shown) -> None:
        """The program has shown something."""
        self._room.release()
        if message.run is self.run:
            self.query_one(LiveTerminal).feed(message.data)

    def on_unmount(self) -> None:
        """Whoever leaves ends the program."""
        if self.run is not None:
            self.run.stop()

    def on_recorder_ended(self, message: Ended) -> None:
        """The program is over: say how, and ask what it should have printed."""
        recorded, fault = message.recorded, message.fault
        if message.run is not self.run or not self.is_attached:
            return
        self.query_one(LiveTerminal).asleep = True
        self.recorded = recorded
        said = self.query_one("#said", Label)
        if recorded is None:
            said.update(str(fault))
            return
        asks = "Is what it printed right? Work it out by hand." if recorded.by_itself else (
            "Keep it as a case, to find out why?")  # fmt: skip
        said.update(f"{recorded.ended} {asks}")
        self.query_one("#right").display = recorded.by_itself
        self.query_one("#answers").display = True
        self.query_one("#other").display = recorded.by_itself
        keep = self.query_one("#open", Button)
        keep.label = "I do not know yet" if recorded.by_itself else "Keep what I typed"
        self.letter_buttons()
        (self.query_one("#right", Button) if recorded.by_itself else keep).focus()

    @on(LiveTerminal.Typed)
    def typed(self, message: LiveTerminal.Typed) -> None:
        """A key for the program."""
        if self.run is not None:
            self.run.type(message.data)

    @on(LiveTerminal.Resized)
    def resized(self, message: LiveTerminal.Resized) -> None:
        """The panel has another size."""
        if self.run is not None:
            self.run.resize(message.columns, message.lines)

    @on(Button.Pressed)
    def answered(self, event: Button.Pressed) -> None:
        """What the user says of the run."""
        if event.button.id == "again":
            self.begin()
            return
        if self.recorded is None:
            return
        case = Case(number=self.number, name="", stdin=self.recorded.typed)
        if event.button.id != "open" and self.recorded.by_itself:
            case = msgspec.structs.replace(case, stdout=self.recorded.seen)
        self.close(case)

    def action_interrupt(self) -> None:
        """Ctrl+C is the program's."""
        if self.run is not None and self.recorded is None:
            self.run.interrupt()

    def action_leave(self) -> None:
        """End the program and keep nothing."""
        if self.run is not None:
            self.run.stop()
        self.close(None)
