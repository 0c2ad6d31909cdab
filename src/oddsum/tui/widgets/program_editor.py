"""The program as it is edited: with the margin of the other stations, and Python's ways."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import ClassVar

from rich.segment import Segment
from textual import events
from textual.binding import Binding, BindingType
from textual.document._syntax_aware_document import SyntaxAwareDocument
from textual.strip import Strip
from textual.widgets import TextArea
from textual.widgets.text_area import TextAreaTheme
from tree_sitter import Language as Grammar
from tree_sitter import Query

from oddsum.languages import language_of
from oddsum.languages.language import Language
from oddsum.tui.theme import COLOURS, ink
from oddsum.tui.widgets.highlight import INKS, ink_of
from oddsum.tui.widgets.margin import Margin
from oddsum.tui.writing import Cell, Line

WIDTH = 4  # columns of a level
# Beside those that have an ink of their own, the names that the editor's query makes of them.
PARTS = (*INKS, "keyword.function", "keyword.operator", "keyword.return", "string.escape")


# Textual reads a grammar's query anew with each text that an editor is given, 25 ms every time.
_query = lru_cache(maxsize=8)(Query)


def _query_of(document: SyntaxAwareDocument, text: str) -> Query:
    grammar: Grammar = document.language
    return _query(grammar, text)


SyntaxAwareDocument.prepare_query = _query_of  # type: ignore[assignment, method-assign]


def _theme(name: str) -> TextAreaTheme:
    styles = {
        part: ink(name, colour, bold=colour == "keyword", italic=colour == "quiet")
        for part in PARTS
        if (colour := ink_of(part))
    }
    return TextAreaTheme(
        f"oddsum-{name}",
        base_style=ink(name, "ink", "ground"),
        gutter_style=ink(name, "quiet", "ground"),
        cursor_style=ink(name, "on-blue", "blue"),
        cursor_line_style=ink(name, "ink", "lifted"),
        cursor_line_gutter_style=ink(name, "blue", "lifted"),
        bracket_matching_style=ink(name, "blue", "lifted", bold=True),
        selection_style=ink(name, "strong", "rule"),
        syntax_styles=styles,
    )


class ProgramEditor(TextArea):
    """An editor. What stands in the margin is given from above; the text is told at each change."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("shift+tab", "indent(-1)", "Further out", show=False),
        Binding("ctrl+home", "to_edge(-1)", "First line", show=False),
        Binding("ctrl+end", "to_edge(1)", "Last line", show=False),
    ]
    DEFAULT_CSS = """
    ProgramEditor { border: none; padding: 0; height: 1fr; background: transparent; }
    ProgramEditor:focus { border: none; }
    """

    def __init__(self, *, id: str | None = None) -> None:
        # Ahead of the rest, which asks how wide the margin is.
        self.margin_shown = Margin()
        super().__init__(
            soft_wrap=False, tab_behavior="indent", show_line_numbers=True, max_checkpoints=500,
            id=id,
        )  # fmt: skip
        self.spoken = language_of("")
        self.indent_width = WIDTH
        for name in COLOURS:
            self.register_theme(_theme(name))

    def on_mount(self) -> None:
        """The colours follow the application's."""
        self.wear()

    def speak(self, language: Language) -> None:
        """Highlight, indent and comment as a language does."""
        self.spoken = language
        self.language = language.grammar or None

    def wear(self) -> None:
        """Put on the application's theme."""
        name = self.app.theme if self.app.theme in COLOURS else "lamp"
        self.theme = f"oddsum-{name}"
        self._line_cache.clear()
        self.refresh()

    def mark(self, marks: Mapping[int, Cell], times: Mapping[int, int]) -> None:
        """Show other marks and times run in the margin, by line from 1."""
        margin = Margin(times, marks)
        if margin == self.margin_shown:
            return
        wider = margin.width != self.margin_shown.width
        self.margin_shown = margin
        self._line_cache.clear()
        if wider:
            self._refresh_size()
        self.refresh()

    def become(self, text: str) -> None:
        """Make the text another one, as one edit that can be taken back: only what differs."""
        before, after = self.text.split("\n"), text.split("\n")
        start = 0
        while start < min(len(before), len(after)) and before[start] == after[start]:
            start += 1
        end = 0
        while end < min(len(before), len(after)) - start and before[-1 - end] == after[-1 - end]:
            end += 1
        old, new = before[start : len(before) - end], after[start : len(after) - end]
        self.history.checkpoint()
        if end:  # whole lines, each with its end
            self.replace("".join(f"{t}\n" for t in new), (start, 0), (start + len(old), 0))
        elif start:  # the last lines: the line end before them goes along
            last = len(before) - 1
            self.replace(
                "".join(f"\n{t}" for t in new),
                (start - 1, len(before[start - 1])),
                (last, len(before[last])),
            )
        else:
            self.replace(text, (0, 0), (len(before) - 1, len(before[-1])))
        self.history.checkpoint()
        self.move_cursor((min(start, len(after) - 1), 0))
        self.action_cursor_line_start()

    @property
    def gutter_width(self) -> int:
        """Cells of the margin."""
        return self.margin_shown.width

    def _render_line(self, y: int) -> Strip:
        strip = super()._render_line(y)
        number = y + int(self.scroll_offset.y) + 1
        if number > self.document.line_count:
            return strip
        here = number == self.cursor_location[0] + 1
        line = Line(self.app.theme, "lifted" if here else "ground")
        line.put(*self.margin_shown.of(number, here))
        margin = [Segment(s.text, s.style) for s in line.segments]
        width = strip.cell_length
        return Strip.join([Strip(margin, self.gutter_width), strip.crop(self.gutter_width, width)])

    def on_key(self, event: events.Key) -> None:
        """Enter goes on where the block does; Tab moves marked lines."""
        if event.key == "enter" and not self.read_only:
            row, column = min(self.selection)
            self._replace_via_keyboard(
                "\n" + self.spoken.writing.next_indent(self.document[row][:column]), *self.selection
            )
        elif event.key == "tab" and self.selection.start[0] != self.selection.end[0]:
            self.action_indent(1)
        else:
            return
        event.stop()
        event.prevent_default()

    def action_to_edge(self, side: int) -> None:
        """To the beginning of the program, or its end."""
        self.move_cursor((0, 0) if side < 0 else self.document.end)

    def _marked_rows(self) -> tuple[int, int]:
        """The rows that are marked, from 0; one that is only touched at its start is not."""
        (first, _), (last, column) = sorted(self.selection)
        return first, last - 1 if last > first and column == 0 else last

    def _change_rows(self, new: list[str], first: int, last: int) -> None:
        start, end = self.selection
        self.replace("\n".join(new), (first, 0), (last, len(self.document[last])),
                     maintain_selection_offset=True)  # fmt: skip
        if start != end:
            self.selection = type(self.selection)((first, 0), (last, len(self.document[last])))

    def action_comment(self) -> None:
        """Make the marked lines comments, or take that back."""
        first, last = self._marked_rows()
        rows = [self.document[n] for n in range(first, last + 1)]
        self._change_rows(self.spoken.writing.commented(rows), first, last)

    def action_indent(self, by: int) -> None:
        """Move the marked lines a level further in, or out."""
        first, last = self._marked_rows()
        rows = [self.document[n] for n in range(first, last + 1)]
        blank = " " * WIDTH
        if by > 0:
            moved = [blank + r if r.strip() else r for r in rows]
        else:
            moved = [r[min(WIDTH, len(r) - len(r.lstrip())) :] for r in rows]
        self._change_rows(moved, first, last)
