"""How a question shows its answer: over Trace, which follows the row in hand."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from textual.app import App
from textual.screen import Screen

from oddsum.tui.dialogs.pick import Pick
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell
from oddsum.workspace.tracing import Traced
from oddsum.workspace.workspace import Workspace


class Asker:
    """What a question needs of the station it is asked at."""

    def __init__(self, workspace: Workspace, app: App[None]) -> None:
        self.workspace, self._app = workspace, app

    def say(self, text: str, error: bool = False) -> None:
        """Tell something in passing."""
        self._app.notify(text, severity="error" if error else "information")

    def show(self, page: Screen[Any], then: Callable[[Any], None] | None = None) -> None:
        """Put a page or a dialog in front; ``then`` gets what it closes with."""
        self._app.push_screen(page, then)

    def go(self, step: int | None) -> None:
        """Go to a step that was asked for; nowhere where the question was left."""
        self.workspace.tracing.go(step)

    def variable_in_hand(self) -> str:
        """The variable that a question is about; blank for none."""
        return self.workspace.walking.variable_in_hand()

    @staticmethod
    def files_of(traced: Traced) -> list[str]:
        """The program's files that ran."""
        return list(traced.story.table.files)

    def walk_through(
        self,
        title: str,
        columns: Sequence[Column],
        rows: Sequence[Sequence[Cell]],
        steps: Sequence[int],
        hint: str = "",
        *,
        hint_of: Callable[[int], str] | None = None,
        then: Callable[[int], None] | None = None,
        start: int = 0,
    ) -> None:
        """Show a list; the trace follows its rows. Left with Esc, one is back where one was.

        ``steps`` are the rows' (0 for none); ``then`` is told the row that was taken.
        """
        traced = self.workspace.tracing.walked
        if traced is None:
            return
        if not rows:
            self.say("There is nothing of that kind in this run.")
            return
        before = traced.step

        def follow(row: int) -> None:
            if row < len(steps) and steps[row]:
                self.go(steps[row])

        def chosen(row: int | None) -> None:
            if row is None:
                self.go(before)
                return
            follow(row)
            if then is not None:
                then(row)

        page = Pick(
            title, columns, rows, hint=hint, hint_of=hint_of, start=start, on_row=follow,
            keys="pick" if steps else "pick_only",
        )  # fmt: skip
        self.show(page, chosen)
