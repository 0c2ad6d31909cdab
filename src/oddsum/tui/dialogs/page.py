"""Pages to read in front of a station: keys, words, values, texts side by side."""

from __future__ import annotations

from typing import Any, ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Vertical, VerticalScroll
from textual.screen import ModalScreen, Screen
from textual.widget import Widget
from textual.widgets import Static

from oddsum.tui.actions import actions_of
from oddsum.tui.glossary import words_of
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.prose import Prose, Writer, wrapped
from oddsum.tui.writing import Piece

_AROUND = 12  # lines of a card that are not its rows, and of the screen around it


def fit_rows(screen: Screen[Any], rows: Widget, wanted: int) -> None:
    """Make rows as high as they need, or as there is room on the screen."""
    rows.styles.height = max(4, min(wanted, screen.app.size.height - _AROUND))


class Page(ModalScreen[None]):
    """What all pages share: a card in the middle, Esc puts it away."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "dismiss", "Put away", show=False),
    ]


class TextPage(Page):
    """A page of lines; any key that opened it, Enter or Esc puts it away."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter,q,question_mark,z,d", "dismiss", "Put away", show=False),
    ]

    def __init__(self, title: str, writer: Writer, wide: bool = False) -> None:
        super().__init__(classes="page")
        self._title, self._writer, self._wide = title, writer, wide

    def compose(self) -> ComposeResult:
        """A heading, the lines, and how to put it away."""
        with Vertical(id="card", classes="-wide" if self._wide else ""):
            yield Heading(self._title, "Esc puts this away")
            with VerticalScroll(id="scroll"):
                yield Static("")
                yield Prose(self._writer)

    def on_mount(self) -> None:
        """Arrows scroll."""
        self.query_one("#scroll", VerticalScroll).focus()


def keys_page(station: str) -> TextPage:
    """Every key of a station."""

    def write(width: int) -> list[list[Piece]]:
        lines = []
        for action in actions_of(station):
            body = wrapped(action.tip, max(20, width - 36), "quiet")
            for n, line in enumerate(body):
                start = [Piece(" " * 36)]
                if n == 0:
                    start = [Piece(f"{own(action.label):<14}", "blue", True),
                             Piece(f"{own(action.words):<22}", "ink")]  # fmt: skip
                lines.append([*start, *line])
        palette = [Piece(f"{'Ctrl+P':<14}", "blue", True), Piece("find an action", "ink")]
        mouse = (
            "The mouse does it all as well: click a row, a station, a key, a line's margin or "
            "the run."
        )
        lines += [palette, [], *wrapped(mouse, width, "quiet")]
        return lines

    return TextPage(f"ALL KEYS IN {station.upper()}", write)


def words_page(station: str, word: str = "") -> TextPage:
    """What the words on a station's screen mean; the one that was looked up stands first."""

    def write(width: int) -> list[list[Piece]]:
        entries = words_of(station)
        lines: list[list[Piece]] = []
        if word in entries:
            lines += [*_entry(word, entries[word], width, "blue"), [Piece("─" * width, "rule")]]
        for one, meaning in entries.items():
            lines += _entry(one, meaning, width, "straw")
        return lines

    return TextPage(f"THE WORDS IN {station.upper()}", write)


def _entry(word: str, meaning: str, width: int, ink: str) -> list[list[Piece]]:
    body = wrapped(meaning, max(20, width - 22))
    return [
        [Piece(f"{own(word) if n == 0 else '':<22}", ink, True), *line]
        for n, line in enumerate(body)
    ]
