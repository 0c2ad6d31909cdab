"""The first-run walk: five short cards over the demo, to be left and found again."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.glyphs import own
from oddsum.tui.screens.station import NARROW
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.writing import Piece
from oddsum.workspace.interface import Part, StationName

# A card: its title, what it says, the keys to try on it. Each stands over the station it is about.
CARDS: tuple[tuple[StationName, str, tuple[str, ...], str], ...] = (
    (
        "check", "1 · CHECK",
        ("A program can run without an error and still be wrong. So you say beforehand what should "
         "come out: a list of cases, each with what is typed in and what is expected.",
         "Behind this card every case has run. `=` agrees, `≠` differs. Read the two amber rows: "
         "what do they have in common?"),
        "T follows the case in hand. A adds a case.",
    ),
    (
        "trace", "2 · TRACE",
        ("Take one odd case and walk through it, a step at a time, forward and back. Beside the "
         "program is the trace table: a row a step, a column a variable, and only what changed is "
         "written.",
         "At every step say first what you think will happen. The first surprise is near the "
         "fault."),
        "↓ ↑ step on and back. O goes to where it is odd. J has every question in words.",
    ),
    (
        "pinpoint", "3 · PINPOINT",
        ("Where is it? Small changes are tried on copies of the program. Where one settles the "
         "odd cases, there is a lead: a line worth reading again.",
         "A lead is covered. Look at its line first, for as long as you like. Only you uncover "
         "what it may be, and how it could be mended."),
        "Enter uncovers one level more. G: name the line you suspect.",
    ),
    (
        "mend", "4 · MEND",
        ("Change one thing. As soon as you pause, every case runs on a copy: before and after "
         "stand beside each other. Your file is touched only when you keep the change.",
         "A change that settles one case can break another. That is why all of them run."),
        "Ctrl+S keeps it. Ctrl+L switches a line off and on.",
    ),
    (
        "record", "5 · RECORD",
        ("Every run is written down: when a case was settled, and what you had changed. For each "
         "fault you mended a page is begun in the notebook; the last lines are yours.",
         "That is the whole walk; the palette (Ctrl+P) has it again, and ? the keys of where you "
         "are. Next comes a program of yours: leave with Ctrl+Q, then write oddsum and its name, "
         "as `oddsum fares.py`. It asks for your first case."),
        "W writes a report, to hand in or to ask for help with.",
    ),
)  # fmt: skip


class Walk(Dialog[int | None]):
    """One card. Closes with the number of the card that is wanted next, from 0; None to leave.

    ``doing`` tells what is under way, blank for nothing: the card says that it waits for it.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("walk")]

    def __init__(self, card: int = 0, doing: Callable[[], str] = lambda: "") -> None:
        super().__init__(classes="page low walk")
        self.card, self._doing = card, doing
        # Where the panels stand under each other, what a card speaks of may be the lower one.
        low_panel = CARDS[card][0] == "trace" and self.app.size.width < NARROW
        self.set_class(low_panel, "high")

    def compose(self) -> ComposeResult:
        """A heading, the card, and how to go on."""
        with Vertical(id="card"):
            yield KeysHeading("", "walk", id="title")
            yield Prose(self._lines, id="text")

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """What was under way may be over."""
        self.query_one("#text", Prose).write(self._lines)

    def on_mount(self) -> None:
        """Say which card it is."""
        heading = self.query_one("#title", Heading)
        heading.title = f"A WALK IN FIVE CARDS · {CARDS[self.card][1]}"
        if self.card == len(CARDS) - 1:
            heading.right = "Enter ends it"

    def _lines(self, width: int) -> list[list[Piece]]:
        _, _, texts, keys = CARDS[self.card]
        lines: list[list[Piece]] = []
        for text in texts:
            lines += wrapped(own(text), min(width, 100))
        doing = self._doing()
        if doing:
            lines += wrapped(f"Wait a moment: {doing}", min(width, 100), "straw")
        dots = [_dot(n + 1, n == self.card) for n in range(len(CARDS))]
        indent = 3 * len(CARDS) + 3
        first, *more = wrapped(own(keys), max(20, width - indent), "blue")
        return [*lines, [], [*dots, Piece("   "), *first],
                *([Piece(" " * indent), *line] for line in more)]  # fmt: skip

    def action_turn(self, by: int) -> None:
        """Another card; after the last one the walk is over."""
        wanted = max(0, self.card + by)
        if wanted != self.card:
            self.close(wanted if wanted < len(CARDS) else None)


def _dot(number: int, here: bool) -> Piece:
    return Piece(f" {number} ", "on-blue" if here else "quiet", here, ground="blue" if here else "")
