"""The settings as the application uses them, and how the palette changes them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from oddsum.model.case import LEVELS, Plan
from oddsum.model.errors import OddSumError
from oddsum.settings.user import (
    UserSettings,
    change_setting,
    read_settings,
    settings_file,
    with_limits,
)
from oddsum.tui.glyphs import use_plain_marks
from oddsum.tui.recording import RecordingApp

Command = tuple[str, str, Callable[[], None]]  # a title, what it does, how
_LIMITS = {
    "timeout": ("seconds of processor time a case may take", "2"),
    "memory": ("MB of memory a case may use", "1024"),
    "output": ("MB a case may print", "1"),
}


class ChoosingApp(RecordingApp):
    """Reads the settings at the start and keeps what is chosen."""

    def __init__(self, program: Path, plan_file: Path | None, python: str | None) -> None:
        self.settings, self._settings_fault = read_settings()
        super().__init__(program, plan_file, python or self.settings.interpreter or None)
        self._named_python = python
        use_plain_marks(self.settings.plain_marks)
        self.editor_setting = self.settings.editor
        self.work.reveal_first = LEVELS.index(self.settings.reveal)

    def say_settings_fault(self) -> None:
        """Tell, once, what is wrong with the settings."""
        if self._settings_fault is not None:
            self.notify(str(self._settings_fault), severity="warning", timeout=15)

    def limited(self, plan: Plan) -> Plan:
        """A plan with the user's limits where it has none of its own."""
        return with_limits(plan, self.settings)

    def choose(self, key: str, value: object) -> None:
        """Keep a setting. It holds for now in any case; that it was not kept is told."""
        try:
            self.settings = change_setting(key, value)
        except OddSumError as error:
            self.settings = _changed(self.settings, key, value)
            self.notify(str(error), severity="warning", timeout=15)

    def action_toggle_light(self) -> None:
        """Lamp or Paper."""
        self.theme = "paper" if self.theme == "lamp" else "lamp"
        self.choose("theme", self.theme)

    def action_toggle_marks(self) -> None:
        """The marks, or plain characters in their place."""
        self.choose("plain_marks", not self.settings.plain_marks)
        use_plain_marks(self.settings.plain_marks)
        self.show()
        self.refresh(layout=True)

    def choices(self) -> Iterator[Command]:
        """What the palette offers to set."""
        other = "Paper, the light one" if self.theme == "lamp" else "Lamp, the dark one"
        yield f"Theme: {other}", "Change the colours.", self.action_toggle_light
        marks = "as drawn" if self.settings.plain_marks else "plain, for fonts that lack them"
        yield f"Marks: {marks}", "Change the marks.", self.action_toggle_marks
        for level in LEVELS:
            if level != self.settings.reveal:
                yield (f"Pinpoint begins with: {level}", "How far a lead is uncovered when it is "
                       "first seen.", partial(self._choose_reveal, level))  # fmt: skip
        yield "Setting: interpreter", "Which Python runs the programs.", self._ask_interpreter
        yield "Setting: editor", "Your own editor's command.", self._ask_editor
        for key, (what, _) in _LIMITS.items():
            yield f"Setting: {key}", f"How many {what}.", partial(self._ask_limit, key)

    def _choose_reveal(self, level: str) -> None:
        self.choose("reveal", level)
        self.work.reveal_first = LEVELS.index(level)
        self.show()

    def _ask(self, key: str, label: str, typed: str, check: Callable[[str], object],
             take: Callable[[str], None]) -> None:  # fmt: skip
        from oddsum.tui.dialogs.ask import Ask

        hint = f"Kept in {settings_file()}. Empty: as without a setting."
        page = Ask(f"SETTING: {key.upper()}", label, hint, check, typed=typed)
        self.push_screen(page, lambda text: take(text.strip()) if text is not None else None)

    def _ask_interpreter(self) -> None:
        from oddsum.run.interpreter import find_interpreter

        def check(text: str) -> None:
            if text.strip():
                find_interpreter(self.work.program, text.strip())

        def take(text: str) -> None:
            self.choose("interpreter", text or None)
            self.work.python = self._named_python or text or None
            self.action_check()

        self._ask("interpreter", "Which command runs Python?", self.settings.interpreter, check,
                  take)  # fmt: skip

    def _ask_editor(self) -> None:
        def take(text: str) -> None:
            self.choose("editor", text or None)
            self.editor_setting = text

        self._ask("editor", "Which command opens your editor?", self.settings.editor,
                  lambda text: None, take)  # fmt: skip

    def _ask_limit(self, key: str) -> None:
        what, usual = _LIMITS[key]
        now = getattr(self.settings, key)

        def check(text: str) -> None:
            if text.strip():
                _number(text)

        def take(text: str) -> None:
            self.choose(key, _number(text) if text else None)
            self.read_files()
            self.action_check()

        label = f"How many {what}? Without a setting: {usual}."
        self._ask(key, label, f"{now:g}" if now is not None else "", check, take)


def _number(text: str) -> float:
    """A limit; raises OddSumError."""
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        number = 0.0
    if not 0 < number < 1e6:
        raise OddSumError("A number above 0 is wanted, such as 2 or 0.5.")
    return number


def _changed(settings: UserSettings, key: str, value: object) -> UserSettings:
    import msgspec

    if value is None:
        value = getattr(UserSettings(), key)
    return msgspec.structs.replace(settings, **{key: value})
