"""Asks whether values are right, one after the other, until the answers lead somewhere."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Button, Label

from oddsum.model.answer import Judged, Said
from oddsum.pinpoint.asking import Inquiry
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.writing import Piece

_ANSWERS: tuple[tuple[Said, str], ...] = (
    ("right", "Yes, right"),
    ("wrong", "No, wrong"),
    ("unsure", "Not sure"),
)
_MOST_SHOWN = 6  # earlier answers


class Judge(Dialog[int | None]):
    """Closes with a step to look at in Trace, or None.

    ``first`` is asked first, ``ask`` gives what to ask next; ``tell`` takes an answer: a
    sentence and what was said of it.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("judge")]

    def __init__(
        self,
        first: Inquiry,
        ask: Callable[[], Inquiry | None],
        tell: Callable[[str, Said], None],
    ) -> None:
        super().__init__(classes="page")
        self._inquiry, self._ask, self._tell = first, ask, tell
        self._given: list[tuple[str, Said]] = []

    @property
    def asked(self) -> Judged | None:
        """What is being asked; None once the answers lead somewhere."""
        return self._inquiry.question

    def compose(self) -> ComposeResult:
        """The question, the answers, and what was said before."""
        with Vertical(id="card"):
            yield KeysHeading("IS THIS RIGHT?", "judge", id="title")
            yield Label("", classes="label", id="left")
            yield Prose(id="question")
            with Horizontal():
                for said, words in _ANSWERS:
                    yield Button(words, id=said)
                yield Button("See it in Trace", id="see")
            yield Prose(id="earlier")

    def on_mount(self) -> None:
        """Begin with the first question."""
        self._show()
        self.query_one("#unsure", Button).focus()

    def _show(self) -> None:
        inquiry = self._inquiry
        label = self.query_one("#left", Label)
        asking = inquiry.question is not None
        for said, _ in _ANSWERS:
            self.query_one(f"#{said}", Button).display = asking
        if asking:
            steps = f"{inquiry.left:,} steps are left to look at; each answer about halves them."
            label.update(steps)
        elif inquiry.ends is not None:
            label.update("This is where your answers lead.")
            self.query_one("#see", Button).focus()
        else:
            label.update("There is nothing to ask about this case.")
            self.query_one("#see", Button).display = False
        self.query_one("#question", Prose).write(self._question)
        self.query_one("#earlier", Prose).write(self._earlier)

    def _question(self, width: int) -> list[list[Piece]]:
        inquiry = self._inquiry
        if inquiry.question is not None:
            one = inquiry.question
            where = f"In case {one.case}, step {one.step:,}:"
            return [
                [],
                [Piece(where, "quiet")],
                *wrapped(f"{one.text}.", width, "strong"),
                [],
                *wrapped("Work it out by hand first. Is that what it should be?", width, "quiet"),
                [],
            ]
        text = inquiry.ends.text if inquiry.ends is not None else ""
        return [[], *wrapped(text, width), []]

    def _earlier(self, width: int) -> list[list[Piece]]:
        lines: list[list[Piece]] = [[]]
        words = dict(_ANSWERS)
        for text, said in self._given[-_MOST_SHOWN:]:
            lines += [*wrapped(f"{text}: {words[said].lower()}", width, "quiet")]
        return lines

    @on(Button.Pressed)
    def answered(self, event: Button.Pressed) -> None:
        """One of the answers, or a look at the step."""
        inquiry = self._inquiry
        at = inquiry.question or inquiry.ends
        if event.button.id == "see":
            self.close(at.step if at is not None else None)
            return
        said = next((s for s, _ in _ANSWERS if s == event.button.id), None)
        if inquiry.question is None or said is None:
            return
        self._tell(inquiry.question.text, said)
        self._given.append((inquiry.question.text, said))
        self._inquiry = self._ask() or self._inquiry
        self._show()
