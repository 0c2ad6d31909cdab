"""The run as one ruled line: rounds, the depth of calls, marks where something happens."""

from __future__ import annotations

from dataclasses import dataclass

from textual import events
from textual.message import Message
from textual.strip import Strip
from textual.widget import Widget

from oddsum.trace.ask import Story
from oddsum.tui.glyphs import own
from oddsum.tui.writing import Line, Piece

_LABEL = 9


@dataclass(frozen=True)
class RunMark:
    """A mark at a step (from 1): its text and ink."""

    step: int
    text: str
    ink: str


class RunLine(Widget):
    """Three rows over the whole run. A click goes to the nearest mark, else to that moment."""

    DEFAULT_CSS = "RunLine { height: 3; }"

    @dataclass
    class Clicked(Message):
        """A click at a step."""

        step: int

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._story: Story | None = None
        self._step = 1
        self._rounds: list[RunMark] = []
        self._marks: list[RunMark] = []

    def show(self, story: Story, step: int, rounds: list[RunMark], marks: list[RunMark]) -> None:
        """Show a run with the step one is at, the rounds of a loop and other marks."""
        self._story, self._step, self._rounds, self._marks = story, step, rounds, marks
        self.refresh()

    def _x(self, step: int) -> int:
        count = self._story.last if self._story else 1
        room = max(1, self.size.width - _LABEL - 8)
        return _LABEL + (step - 1) * (room - 1) // max(1, count - 1)

    def _step_at(self, x: int) -> int:
        count = self._story.last if self._story else 1
        room = max(1, self.size.width - _LABEL - 8)
        step = 1 + round((x - _LABEL) * max(1, count - 1) / max(1, room - 1))
        return min(max(step, 1), count)

    def on_click(self, event: events.Click) -> None:
        """Go to the mark under the click, else to that moment."""
        if self._story is None or event.x < _LABEL:
            return
        marks = self._rounds if event.y == 0 else self._marks if event.y == 2 else []
        near = [m for m in marks if 0 <= event.x - self._x(m.step) < max(2, len(m.text))]
        self.post_message(self.Clicked(near[-1].step if near else self._step_at(event.x)))

    def render_line(self, y: int) -> Strip:
        """Draw one of the three rows."""
        width = self.size.width
        if self._story is None or not len(self._story):
            return Line(self.app.theme).strip(width)
        if y == 0:
            return self._marked("rounds", self._rounds, width)
        if y == 1:
            return self._depth(width)
        return self._marked("marks", self._marks, width)

    def _marked(self, label: str, marks: list[RunMark], width: int) -> Strip:
        line = Line(self.app.theme)
        line.put(Piece(f" {label}".ljust(_LABEL), "quiet"))
        at = _LABEL
        # What is in blue comes first: the others make room for it.
        here = [self._x(m.step) for m in marks if m.ink == "blue"]
        for mark in sorted(marks, key=lambda m: m.step):
            text, x = mark.text, min(self._x(mark.step), width - len(mark.text))
            if x < at:  # a mark before it stands here: its glyph alone may find room
                text, x = mark.text[0], self._x(mark.step)
            if x < at or (
                mark.ink != "blue" and any(x < h + 3 and h < x + len(text) for h in here)
            ):
                continue
            line.put(Piece(" " * (x - at)), Piece(text, mark.ink, mark.ink == "blue"))
            at = x + len(text)
        return line.strip(width)

    def _depth(self, width: int) -> Strip:
        """A thin rule in the main part, a thick one inside calls, the depth where it changes."""
        line, story = Line(self.app.theme), self._story
        line.put(Piece(" depth".ljust(_LABEL), "quiet"))
        assert story is not None
        here, before = self._x(self._step), -1
        for x in range(_LABEL, self._x(story.last) + 1):
            depth = story.step(story.nearest(self._step_at(x))).depth
            text = own("━" if depth else "─")
            if depth != before and depth:
                text = str(depth)[-1]
            before = depth
            is_here = x == here
            ink = "blue" if is_here else "ink" if depth else "quiet"
            line.put(Piece(own("┃") if is_here else text, ink, is_here))
        return line.strip(width)
