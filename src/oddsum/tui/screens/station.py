"""What every station is made of: masthead, trail, body, the next thing to do, keys."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual import events, on
from textual.app import ComposeResult
from textual.containers import VerticalScroll
from textual.content import Content
from textual.screen import Screen
from textual.widget import Widget
from textual.widgets import Static

from oddsum.model.outcome import CaseResult
from oddsum.tui.actions import Action, Focus, actions_of, actions_under
from oddsum.tui.glossary import looked_up
from oddsum.tui.glyphs import own
from oddsum.tui.tallies import masthead, tallies
from oddsum.tui.widgets.bands import KeyLine, Masthead, NextLine, Trail
from oddsum.tui.widgets.panels import Panels
from oddsum.workspace.interface import EVERYTHING, Part, StationName
from oddsum.workspace.next_step import next_words
from oddsum.workspace.workspace import Workspace

LEAST_WIDTH, LEAST_HEIGHT = 80, 24
NARROW, SHORT = 120, 34


class Station(Screen[None]):
    """A screen for one station of the workspace. It shows, and passes on what keys and mouse say.

    ``refresh_from`` brings up to date what shows one of the parts that changed.
    """

    station: ClassVar[StationName] = "check"
    _pointing = False  # whether the mouse was moved after the last key
    _by_name = False  # whether an action is being carried out that was chosen by its name

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace

    def compose(self) -> ComposeResult:
        """Put the shared parts around the station's own body."""
        yield Masthead()
        yield Trail()
        yield from self.compose_body()
        yield NextLine()
        yield KeyLine()
        yield Static(id="too-small")

    def compose_body(self) -> Iterable[Widget]:
        """The station's own part; its outermost widget is ``#body``."""
        raise NotImplementedError

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring up to date what of the station's own part shows one of these."""
        raise NotImplementedError

    def on_screen_resume(self) -> None:
        """The user has come here: everything may have changed meanwhile."""
        self.workspace.arrived(self.station)
        self.refresh_from(EVERYTHING)

    def on_resize(self, event: events.Resize) -> None:
        """Fit the room there is; say how much is needed where there is too little."""
        width, height = event.size
        self.set_class(width < NARROW, "-narrow")
        self.query_one(Panels).share_width(narrow=width < NARROW)
        self.set_class(height < SHORT, "-short")
        self.set_class(width < LEAST_WIDTH or height < LEAST_HEIGHT, "-small")
        words = Content(
            f"This window has {width} columns and {height} lines.\n"
            f"Odd Sum needs at least {LEAST_WIDTH} and {LEAST_HEIGHT}.\n"
            "Make the window larger, or its letters smaller.\n\nCtrl+Q leaves."
        )
        self.query_one("#too-small", Static).update(words)
        self.call_after_refresh(self.refresh_from, EVERYTHING)

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """Bring up to date what shows one of these parts.

        A late message can still ask for it while the application closes, with half of the
        widgets gone already.
        """
        if not self.is_mounted or not self.app.is_running:
            return
        work = self.workspace
        self.query_one(Masthead).write(*masthead(work))
        self.query_one(Trail).show(self.station, tallies(work), self.app.size.width < NARROW)
        self.query_one(NextLine).show(own(next_words(work, self.station)))
        self._show_keys()
        if Part.MARKS in parts:
            self.query_one(KeyLine).refresh()
        self.show_body(parts)

    # -- keys --------------------------------------------------------------------------------

    @property
    def focus_now(self) -> Focus:
        """Where the keys go. A station with fields of its own says which."""
        return "station"

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        """Whether a key may act: with the focus where it is, as the table of actions has it."""
        named = [a for a in actions_of(self.station) if a.action.partition("(")[0] == action]
        if action in self.absent:
            return False
        if named and not self._by_name and not any(self.focus_now in a.under for a in named):
            return False
        return super().check_action(action, parameters)

    async def run_by_name(self, action: str) -> None:
        """Carry out an action that was chosen by its name, wherever the focus is."""
        self._by_name = True
        try:
            await self.run_action(action)
        finally:
            self._by_name = False

    @property
    def absent(self) -> frozenset[str]:
        """Actions, by their names, that make no sense in the room there is."""
        return frozenset({"widen"}) if self.has_class("-narrow") else frozenset()

    def offered(self) -> tuple[Action, ...]:
        """The actions whose keys hold now."""
        every = actions_under(self.station, self.focus_now)
        return tuple(a for a in every if a.action.partition("(")[0] not in self.absent)

    def _show_keys(self) -> None:
        self.query_one(KeyLine).show(self.offered())

    @on(events.DescendantFocus)
    @on(events.DescendantBlur)
    def focus_moved(self) -> None:
        """Other keys hold now."""
        self._show_keys()

    @on(KeyLine.Pressed)
    async def do(self, message: KeyLine.Pressed) -> None:
        """A key of the key line was clicked."""
        if message.chosen.action:
            await self.run_action(message.chosen.action)

    @on(Trail.Chosen)
    def go_to(self, message: Trail.Chosen) -> None:
        """A station of the trail was clicked."""
        self.workspace.go(message.station)

    def action_go(self, station: StationName) -> None:
        """Go to a station."""
        self.workspace.go(station)

    def action_widen(self, by: int) -> None:
        """Give the left panel more of the width, or less; in percent."""
        self.query_one(Panels).widen(by)

    @on(Panels.Widened)
    def draw_anew(self) -> None:
        """The panels have other widths."""
        self.call_after_refresh(self.refresh_from, EVERYTHING)

    def action_check(self) -> None:
        """Run the whole plan."""
        self.workspace.checking.check_all()

    def action_mend(self) -> None:
        """Change the program, at what is in hand here."""
        self.workspace.mend()

    def action_stop_work(self) -> None:
        """Stop what is running."""
        self.workspace.stop()

    def action_side_by_side(self) -> None:
        """Expected and actual of the case in hand, whole."""
        work = self.workspace
        self.show_texts(work.checking.results.get(work.result_in_hand()))

    def show_texts(self, result: CaseResult | None) -> None:
        """Expected and actual of a result, whole."""
        from oddsum.tui.dialogs.texts import TextsPage

        if result is None:
            self.notify("This case has not run yet.")
        else:
            self.app.push_screen(TextsPage(result))

    def action_keys(self) -> None:
        """Every key of the station."""
        from oddsum.tui.dialogs.page import keys_page

        self.app.push_screen(keys_page(self.station))

    def action_glossary(self) -> None:
        """The words of the station, the one in hand first."""
        from oddsum.tui.dialogs.page import words_page

        self.app.push_screen(words_page(self.station, self.word_in_hand()))

    # -- the word in hand --------------------------------------------------------------------

    def on_mouse_move(self) -> None:
        """From now on the mouse points at what is meant."""
        self._pointing = True

    def on_key(self) -> None:
        """From now on the keys say what is meant."""
        self._pointing = False

    def word_in_hand(self) -> str:
        """The glossary's word under the mouse, where that was moved last; else the keys'."""
        if self._pointing:
            x, y = self.app.mouse_position
            found = looked_up(self.station, word_at(_line_of_screen(self, int(y)), int(x)))
            if found:
                return found
        return looked_up(self.station, self.word_of_keys())

    def word_of_keys(self) -> str:
        """The word that stands where the keys are; a station says."""
        return ""


def _line_of_screen(screen: Screen[None], y: int) -> str:
    strips = screen._compositor.render_strips()
    return "".join(s.text for s in strips[y]) if 0 <= y < len(strips) else ""


def scroll_on(scroll: VerticalScroll) -> None:
    """A page further on in a panel; from its end back to its beginning."""
    if scroll.scroll_y >= scroll.max_scroll_y:
        scroll.scroll_to(y=0, animate=False)
    else:
        scroll.scroll_relative(y=max(1, scroll.size.height - 2), animate=False)


def word_at(line: str, x: int) -> str:
    """The word of a line at a cell, from 0; blank for none."""
    if not 0 <= x < len(line) or line[x].isspace():
        return ""
    start = line.rfind(" ", 0, x) + 1
    stop = line.find(" ", x)
    return line[start : stop if stop >= 0 else len(line)]
