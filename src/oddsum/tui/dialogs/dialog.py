"""What every dialog is: a screen in front of a station that closes with a typed answer."""

from __future__ import annotations

from typing import TypeVar

from textual.screen import ModalScreen

from oddsum.workspace.interface import Part

Answer = TypeVar("Answer")


class Dialog(ModalScreen[Answer]):
    """Closes once, and only while it is the one in front."""

    def close(self, answer: Answer | None = None) -> None:
        """Close with an answer; a second wish to close, on its way already, finds nobody."""
        if self.is_current:
            self.dismiss(answer)

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """Something of the work in hand is another now; most dialogs show what was, and stay."""

    def action_leave(self) -> None:
        """Close without an answer."""
        self.close()
