"""What the palette has beside a station's actions: the walk, and the settings."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from textual.app import App

from oddsum.model.case import LEVELS
from oddsum.settings.user import settings_file
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.glyphs import use_plain_marks
from oddsum.workspace.preferences import LIMITS, Preferences, limit
from oddsum.workspace.tracing import Opens

_OPENS: dict[Opens, str] = {
    "work": "where the program's own work begins",
    "odd": "where it first goes odd",
    "first": "at the first step",
}
Command = tuple[str, str, Callable[[], None]]  # a title, what it does, how


class SettingsCommands:
    """Changes the user's settings, and the application where a setting is about its looks."""

    def __init__(self, preferences: Preferences, app: App[None]) -> None:
        self._preferences, self._app = preferences, app

    def commands(self) -> Iterator[Command]:
        """What the palette offers to set."""
        settings = self._preferences.settings
        other = "Paper, the light one" if self._app.theme == "lamp" else "Lamp, the dark one"
        yield f"Theme: {other}", "Change the colours.", self.toggle_theme
        marks = "as drawn" if settings.plain_marks else "plain, for fonts that lack them"
        yield f"Marks: {marks}", "Change the marks.", self.toggle_marks
        for level in LEVELS:
            if level != settings.reveal:
                yield (f"Pinpoint begins with: {level}", "How far a lead is uncovered when it is "
                       "first seen.", partial(self._preferences.choose_reveal, level))  # fmt: skip
        first = settings.guess_first
        yield (f"Pinpoint: leads {'at once' if first else 'after my own guess'}",
               "Whether a lead is shown before you have named a line.",
               partial(self._preferences.choose_guess_first, not first))  # fmt: skip
        for where, words in _OPENS.items():
            if where != settings.trace_opens:
                yield (f"Trace opens: {words}", "Where one stands when a case is traced.",
                       partial(self._preferences.choose_opens, where))  # fmt: skip
        fence = settings.fence
        yield (f"Fence: plain runs {'as at home' if fence else 'fenced in too'}",
               "Trials always are.",
               partial(self._preferences.choose_fence, not fence))  # fmt: skip
        yield ("What trials may do", "Answer once more what the plan asks to be allowed.",
               self._preferences.ask_again)  # fmt: skip
        yield (
            "Setting: interpreter",
            "Which command runs the program.",
            self._ask_interpreter,
        )
        yield "Setting: editor", "Your own editor's command.", self._ask_editor
        for key, (what, _) in LIMITS.items():
            yield f"Setting: {key}", f"How many {what}.", partial(self._ask_limit, key)

    def toggle_theme(self) -> None:
        """Lamp or Paper."""
        self._app.theme = "paper" if self._app.theme == "lamp" else "lamp"
        self._preferences.choose("theme", self._app.theme)

    def toggle_marks(self) -> None:
        """The marks, or plain characters in their place."""
        plain = not self._preferences.settings.plain_marks
        use_plain_marks(plain)
        self._app.set_class(plain, "-plain")
        self._preferences.choose_marks(plain)
        self._app.refresh(layout=True)

    def _ask(self, key: str, label: str, typed: str, check: Callable[[str], object],
             take: Callable[[str], None]) -> None:  # fmt: skip
        hint = f"Kept in {settings_file()}. Empty: as without a setting."
        page = Ask(f"SETTING: {key.upper()}", label, hint, check, typed=typed)
        self._app.push_screen(page, lambda text: take(text.strip()) if text is not None else None)

    def _ask_interpreter(self) -> None:
        mine = self._preferences
        self._ask("interpreter", f"Which command runs {mine.language.name}?", mine.command,
                  mine.check_interpreter, mine.choose_interpreter)  # fmt: skip

    def _ask_editor(self) -> None:
        mine = self._preferences
        self._ask("editor", "Which command opens your editor?", mine.settings.editor,
                  lambda text: None, lambda text: mine.choose("editor", text or None))  # fmt: skip

    def _ask_limit(self, key: str) -> None:
        what, usual = LIMITS[key]
        now = getattr(self._preferences.settings, key)
        label = f"How many {what}? Without a setting: {usual}."
        self._ask(
            key,
            label,
            f"{now:g}" if now is not None else "",
            lambda text: limit(text) if text.strip() else None,
            partial(self._preferences.choose_limit, key),
        )
