"""Pages to read in front of a station: keys, words, values, texts side by side."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.screen import Screen
from textual.widget import Widget
from textual.widgets import Static

from oddsum.tui.actions import (
    STATIONS,
    Action,
    Focus,
    actions_under,
    bindings_for,
)
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.glossary import words_of
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.prose import Prose, Writer, wrapped
from oddsum.tui.writing import Piece
from oddsum.workspace.interface import StationName

_TIP = 40  # cells ahead of what a key does
_AROUND = 12  # lines of a card that are not its rows, and of the screen around it


def fit_rows(screen: Screen[Any], rows: Widget, wanted: int) -> None:
    """Make rows as high as they need, or as there is room on the screen."""
    rows.styles.height = max(4, min(wanted, screen.app.size.height - _AROUND))


class TextPage(Dialog[None]):
    """A page of lines; the keys that open such pages, Enter and Esc put it away."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("page")]

    def __init__(self, title: str, writer: Writer, wide: bool = False) -> None:
        super().__init__(classes="page")
        self._title, self._writer, self._wide = title, writer, wide

    def compose(self) -> ComposeResult:
        """A heading, the lines, and how to put it away."""
        with Vertical(id="card", classes="-wide" if self._wide else ""):
            yield KeysHeading(self._title, "page")
            with VerticalScroll(id="scroll"):
                yield Static("")
                yield Prose(self._writer)

    def on_mount(self) -> None:
        """Arrows scroll."""
        self.query_one("#scroll", VerticalScroll).focus()


_FIELDS: dict[Focus, str] = {"program": "IN THE PROGRAM", "search": "IN THE SEARCH"}


def keys_page(station: StationName) -> TextPage:
    """Every key of a station, those of its fields under headings of their own."""

    def write(width: int) -> list[list[Piece]]:
        lines = _keys(actions_under(station, "station"), width)
        for focus, title in _FIELDS.items():
            inside = [a for a in STATIONS[station] if focus in a.under]
            if inside:
                lines += [[], [Piece(title, "straw", True)], *_keys(inside, width)]
        mouse = (
            "The mouse does it all as well: click a row, a station, a key, a line's margin or "
            "the run."
        )
        return [*lines, [], *wrapped(mouse, width, "quiet")]

    return TextPage(f"ALL KEYS IN {station.upper()}", write)


def _keys(actions: Iterable[Action], width: int) -> list[list[Piece]]:
    lines: list[list[Piece]] = []
    for action in actions:
        body = wrapped(action.tip, max(20, width - _TIP), "quiet")
        for n, line in enumerate(body):
            start = [Piece(" " * _TIP)]
            if n == 0:
                start = [Piece(f"{own(action.label):<14} ", "blue", True),
                         Piece(f"{own(action.words):<24} ", "ink")]  # fmt: skip
            lines.append([*start, *line])
    return lines


def words_page(station: StationName, word: str = "") -> TextPage:
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
