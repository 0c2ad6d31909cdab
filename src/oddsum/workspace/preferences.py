"""The user's settings, as they hold now."""

from __future__ import annotations

import msgspec

from oddsum.languages import language_of
from oddsum.languages.language import Language
from oddsum.model.case import LEVELS, Plan, allowing
from oddsum.model.errors import OddSumError
from oddsum.settings.user import (
    UserSettings,
    answered,
    change_setting,
    read_settings,
    unanswered,
    with_settings,
)
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Choice, Interface, Part
from oddsum.workspace.pinpointing import Pinpointing
from oddsum.workspace.tracing import Opens, Tracing

# What a case may take, by the setting's key: what is asked, and what holds without it.
LIMITS = {
    "timeout": ("seconds of processor time a case may take", "2"),
    "memory": ("MB of memory a case may use", "1024"),
    "output": ("MB a case may print", "1"),
}


class Preferences:
    """Reads the settings at the start, keeps what is chosen, and puts it to use.

    ``python`` is the interpreter that the command line named: it goes before the setting.
    """

    def __init__(
        self,
        checking: Checking,
        tracing: Tracing,
        pinpointing: Pinpointing,
        interface: Interface,
        python: str | None,
    ) -> None:
        self._checking, self._pinpointing, self._interface = checking, pinpointing, interface
        self._tracing = tracing
        self.settings, self._fault = read_settings()
        self._read: Plan | None = None  # as it was written, before anything was put to it
        self._asks = False
        self._named = python
        checking.python = python or self.command or None
        checking.limited = self.limited
        pinpointing.reveal_first = LEVELS.index(self.settings.reveal)
        tracing.opens = self.settings.trace_opens
        pinpointing.guess_first = self.settings.guess_first

    @property
    def language(self) -> Language:
        """The program's."""
        return language_of(self._checking.files.program)

    @property
    def command(self) -> str:
        """What runs programs of its language, as it is set; blank where nothing is."""
        return str(getattr(self.settings, self.language.setting))

    def say_fault(self) -> None:
        """Tell what is wrong with the settings, where something is."""
        if self._fault is not None:
            self._interface.say(str(self._fault), "warning", 15)

    def limited(self, plan: Plan) -> Plan:
        """A plan as it was read, on the user's terms."""
        self._read = plan
        return with_settings(plan, self.settings)

    def ask(self) -> None:
        """Ask what the plan's runs may do behind the fence, where nobody has said so yet."""
        wanted = unanswered(self._read, self.settings) if self._read is not None else ()
        if wanted and not self._asks:
            self._asks = True
            self.ask_again()

    def ask_again(self) -> None:
        """Ask it, whatever was answered before."""
        plan = self._read
        if plan is None or not plan.allow:
            self._interface.say("The plan asks for nothing: its runs stay behind the fence.")
            return
        said = (
            "A trial runs a small change of the program that nobody has read. So trials are fenced "
            "in: they write in a folder of their own, and do nothing else outside.",
            f"This plan asks that they may also {allowing(plan.allow)}.",
            "Say yes only if you know the program and whoever wrote its plan.",
        )
        answers = ("no", "No, hold them"), ("yes", "Yes, for this plan")
        choice = Choice("WHAT TRIALS MAY DO", said, answers)
        self._interface.choose(choice, lambda answer: self._answer(plan, answer))

    def _answer(self, plan: Plan, answer: str) -> None:
        self._asks = False
        given = plan.allow if answer == "yes" else ()
        before = self._checking.plan
        self.choose("allowed", answered(plan, given, self.settings))
        self._checking.reread()
        if self._checking.plan != before:
            self._checking.check_all()

    def choose_fence(self, fence: bool) -> None:
        """Whether plain runs are fenced in, whatever their plan says."""
        self.choose("fence", fence)
        self._checking.reread()
        self._checking.check_all()

    def choose(self, key: str, value: object) -> None:
        """Keep a setting. It holds for now in any case; that it was not kept is told."""
        try:
            self.settings = change_setting(key, value)
        except OddSumError as error:
            now = getattr(UserSettings(), key) if value is None else value
            self.settings = msgspec.structs.replace(self.settings, **{key: now})
            self._interface.say(str(error), "warning", 15)

    def choose_reveal(self, level: str) -> None:
        """How far leads are uncovered when they are first seen."""
        self.choose("reveal", level)
        self._pinpointing.reveal_first = LEVELS.index(self.settings.reveal)

    def choose_guess_first(self, first: bool) -> None:
        """Whether leads wait for a guess, from the next search on."""
        self.choose("guess_first", first)
        self._pinpointing.guess_first = self.settings.guess_first

    def choose_opens(self, where: Opens) -> None:
        """Where Trace opens a case."""
        self.choose("trace_opens", where)
        self._tracing.opens = self.settings.trace_opens

    def check_interpreter(self, command: str) -> None:
        """Refuse a command that runs no program of the language; raises OddSumError."""
        if command.strip():
            self.language.running.find_interpreter(self._checking.files.program, command.strip())

    def choose_interpreter(self, command: str) -> None:
        """What runs the programs of this language; blank as without a setting."""
        self.choose(self.language.setting, command or None)
        self._checking.python = self._named or command or None
        self._checking.check_all()

    def choose_limit(self, key: str, typed: str) -> None:
        """What a case may take; blank as without a setting."""
        self.choose(key, limit(typed) if typed else None)
        self._checking.reread()
        self._checking.check_all()

    def choose_marks(self, plain: bool) -> None:
        """Plain characters in the place of the marks, or not."""
        self.choose("plain_marks", plain)
        self._interface.changed(Part.MARKS)


def limit(text: str) -> float:
    """A limit as it was typed; raises OddSumError."""
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        number = 0.0
    if not 0 < number < 1e6:
        raise OddSumError("A number above 0 is wanted, such as 2 or 0.5.")
    return number
