"""What every dialog is: a screen in front of a station that closes with a typed answer."""

from __future__ import annotations

from typing import TypeVar

from textual import events
from textual.content import Content
from textual.screen import ModalScreen
from textual.widgets import Button, Input, TextArea

from oddsum.workspace.interface import EVERYTHING, Part

Answer = TypeVar("Answer")
_WAYS = {"left": -1, "up": -1, "right": 1, "down": 1}


class Dialog(ModalScreen[Answer]):
    """Closes once, and only while it is the one in front.

    In a row of buttons arrows go from one to the next, and the letter that is underlined presses
    the button that has it.
    """

    def close(self, answer: Answer | None = None) -> None:
        """Close with an answer; a second wish to close, on its way already, finds nobody.

        ``is_current`` would not do: it holds for a dialog behind another one as well, and what
        is closed is the one in front.
        """
        if self.app.screen is self:
            self.dismiss(answer)

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """Something of the work in hand is another now; most dialogs show what was, and stay.

        Called once more when the dialog comes to the front: before it stands there is nothing to
        show it in, and behind another one it cannot close.
        """

    def on_screen_resume(self) -> None:
        """Show what changed by now."""
        self.call_after_refresh(self.refresh_from, EVERYTHING)

    def action_leave(self) -> None:
        """Close without an answer."""
        self.close()

    # -- rows of buttons ---------------------------------------------------------------------

    def on_mount(self) -> None:
        """Underline the letters of the buttons; nothing blinks."""
        self.letter_buttons()
        for line in self.query(Input):
            line.cursor_blink = False
        for text in self.query(TextArea):
            text.cursor_blink = False

    def letter_buttons(self) -> None:
        """Underline in each button the letter that presses it."""
        for letter, button in self._lettered():
            text = str(button.label)
            at = text.casefold().find(letter)
            if at >= 0:
                # Two contents that read the same are equal to a reactive: it has to be told.
                button.set_reactive(Button.label, Content(text).stylize("underline", at, at + 1))
                button.refresh()

    def _buttons(self) -> list[Button]:
        return [b for b in self.query(Button) if b.display and b.parent and b.parent.display]

    def _lettered(self) -> list[tuple[str, Button]]:
        """Each button with the first letter of its words that no button before it has."""
        found: dict[str, Button] = {}
        for button in self._buttons():
            starts = [w[0] for w in str(button.label).casefold().split()]
            letters = [*starts, *str(button.label).casefold()]
            free = next((c for c in letters if c.isalpha() and c not in found), "")
            if free:
                found[free] = button
        return list(found.items())

    def on_key(self, event: events.Key) -> None:
        """With a button in hand: arrows to the next one, its letter to press one."""
        if not isinstance(self.focused, Button):
            return
        buttons = self._buttons()
        if event.key in _WAYS and self.focused in buttons:
            event.stop()
            at = buttons.index(self.focused) + _WAYS[event.key]
            buttons[at % len(buttons)].focus()
            return
        pressed = dict(self._lettered()).get((event.character or "").casefold())
        if pressed is not None:
            event.stop()
            pressed.press()
