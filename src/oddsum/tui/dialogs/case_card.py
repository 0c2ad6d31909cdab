"""The card for a case: what goes in on the left, what should come out on the right."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.suggester import SuggestFromList
from textual.widgets import Button, Input, Label, Select, TextArea

from oddsum.languages.outline import HOLE
from oddsum.model.case import Case, Kind
from oddsum.plan.pasted import taken_apart
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.file_card import FileCard
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.workspace.interface import Part
from oddsum.workspace.written import About, Written, example, signature

_KINDS: tuple[tuple[str, Kind], ...] = (
    ("normal data", "normal"),
    ("boundary: at a limit", "boundary"),
    ("invalid: refused", "invalid"),
)
_RULES: tuple[tuple[str, str], ...] = (
    ("the plan's rule", ""),
    ("line by line", "lines"),
    ("to the letter", "exact"),
    ("word by word", "words"),
    ("numbers alone", "numbers"),
    ("contains this", "contains"),
    ("in any order", "unordered"),
    ("as a pattern", "pattern"),
)
_TEXT, _MOST_TEXT = 5, 14  # lines of a text field, at least and at most
_OTHERS = 22  # lines of the card that are no text field


class CaseCard(Dialog[Case | None]):
    """Closes with the case to keep, or None. ``begun`` is what was typed and not kept before.

    With a ``case`` it begins with what that one has; keys the card does not show stay. What is
    typed when it is left goes to ``left``.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("case_card")]

    def __init__(
        self,
        number: int,
        about: About,
        case: Case | None = None,
        title: str = "",
        *,
        begun: Written | None = None,
        left: Callable[[Written], None] = lambda _: None,
    ) -> None:
        super().__init__(classes="page")
        self.VERTICAL_BREAKPOINTS = [(0, "-short"), (34, "-tall")]
        self.number, self.about, self.title_words = number, about, title
        self.begun, self._left = case, left
        calls = case.call is not None if case is not None else (
            bool(about.functions) and not about.asks)  # fmt: skip
        blank = Case(number=number, name="")
        self.written = begun or Written.of(case or blank, calls)
        self._pasting = False
        self._warned = ""  # what was said of a result once already

    @property
    def calls(self) -> bool:
        """Whether a function is called, in place of the program being run."""
        return self.written.calls

    # -- laying out ----------------------------------------------------------------------------

    def compose(self) -> ComposeResult:
        """Name and kind, the two sides, and the buttons."""
        first = "THE FIRST CASE" if self.number == 1 else f"CASE {self.number}"
        with Vertical(id="card", classes="-wide"), VerticalScroll(id="scroll", can_focus=False):
            yield KeysHeading(self.title_words or first, "case_card")
            yield self._in_the_way()
            if self._pasting:
                yield from self._paste()
                return
            yield from self._sides()
            yield from self._more()
            yield Label(self._hint(), classes="hint")
            yield Label("", classes="fault", id="error")
            with Horizontal(id="buttons"):
                yield Button("Keep it", id="keep", variant="primary")
                if self.about.functions or self.calls:
                    yield Button(
                        "Typed in instead" if self.calls else "A call instead", id="switch"
                    )
                if not self.calls:
                    yield Button("Paste a run", id="paste")
                yield Button("A file", id="file")
                yield Button("Leave", id="leave")

    def _in_the_way(self) -> Label:
        words = self.about.fault()
        label = Label(words, classes="fault", id="starts")
        label.display = bool(words)
        return label

    def _sides(self) -> ComposeResult:
        now = self.written
        with Horizontal():
            with Vertical(classes="half"):
                yield Label(self._left_words(), classes="label")
                if self.calls:
                    signatures = [signature(f) for f in self.about.functions]
                    yield Input(
                        now.call,
                        placeholder=example(self.about.functions),
                        id="call",
                        suggester=SuggestFromList(signatures) if signatures else None,
                    )
                    yield Label(" · ".join(signatures), classes="hint", id="signatures")
                else:
                    yield TextArea(now.stdin, id="stdin")
            yield Vertical(classes="gap")
            with Vertical(classes="half"):
                yield Label(self._right_words(), classes="label")
                if self.calls:
                    yield Input(now.returns, placeholder="6, or 'a text', or [1, 2]", id="returns")
                    yield Label("A text stands in quotes.", classes="hint")
                else:
                    yield TextArea(now.stdout, id="stdout")

    def _more(self) -> ComposeResult:
        now = self.written
        with Horizontal():
            with Vertical(classes="half"):
                yield Label("Its name, in your own words", classes="label")
                yield Input(now.name, placeholder="for example: two adults, one child", id="name")
            yield Vertical(classes="gap")
            with Vertical(classes="half"):
                yield Label("Kind of data, and how it is compared", classes="label")
                with Horizontal():
                    yield Select(_KINDS, value=now.kind, allow_blank=False, id="kind", compact=True)
                    if not self.calls:
                        yield Select(
                            _RULES, value=now.rule, allow_blank=False, id="rule", compact=True
                        )
        if now.files:
            names = ", ".join(f"{name} ({_lines(text)})" for name, text in now.files.items())
            yield Label(f"Files laid beside it: {names}", classes="hint", id="files")

    def _paste(self) -> ComposeResult:
        yield Label(
            "A run as it stood on the terminal: questions, answers and all", classes="label"
        )
        yield TextArea("", id="run")
        asked = ", ".join(_as_asked(p) for p in self.about.prompts[:4])
        told = (
            f"Your program asks {asked}. What stands behind that on a line was typed in; the other "
            "lines were printed."
            if asked
            else "Your program asks nothing that can be seen in its text: all of it is taken for "
            "what it should print."
        )
        yield Label(told, classes="hint")
        with Horizontal(id="buttons"):
            yield Button("Take it apart", id="apart", variant="primary")
            yield Button("Back", id="back")

    def _left_words(self) -> str:
        return "What is called" if self.calls else "What is typed in, a line each"

    def _right_words(self) -> str:
        return "What it should return" if self.calls else "What it should print"

    def _hint(self) -> str:
        if self.calls and not self.about.functions:
            return "This program has no function of its own: there is nothing to call yet."
        words = (
            "Work the right side out by hand, without the program. Leave it empty if you do not "
            "know yet: the case is then open."
        )
        if not self.calls and self.about.prompts:
            words += f" What it asks, as {_as_asked(self.about.prompts[0])}, may be left out there."
        return words

    def on_mount(self) -> None:
        """Begin with what goes in; where that is there already, with the name that is not."""
        self._fit()
        now = self.written
        unnamed = bool(now.stdin or now.call) and not now.name
        (self.query_one("#name", Input) if unnamed else self._first()).focus()

    def on_resize(self) -> None:
        """The texts get what room there is."""
        self._fit()

    def _fit(self) -> None:
        rows = min(max(self.app.size.height - _OTHERS, _TEXT), _MOST_TEXT)
        for area in self.query(TextArea):
            area.styles.height, area.cursor_blink = rows, False

    def _first(self) -> Input | TextArea:
        return self.query_one("#call", Input) if self.calls else self.query_one("#stdin", TextArea)

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """What is in the way of running the program may be known by now."""
        words = self.about.fault()
        for label in self.query("#starts").results(Label):
            label.update(words)
            label.display = bool(words)

    # -- what stands in the fields ---------------------------------------------------------------

    def _now(self) -> Written:
        """What is typed now; a field that is not shown keeps what it had."""
        if self._pasting or not self.query("#name"):
            return self.written
        typed: dict[str, str] = {
            name: self.query_one(f"#{name}", kind).text if kind is TextArea
            else self.query_one(f"#{name}", Input).value
            for name, kind in _FIELDS.items() if self.query(f"#{name}")
        }  # fmt: skip
        chosen = {name: self.query_one(f"#{name}", Select).value
                  for name in ("kind", "rule") if self.query(f"#{name}")}  # fmt: skip
        return replace(self.written, **typed, **chosen)  # type: ignore[arg-type]

    async def _show(self, written: Written, pasting: bool = False) -> None:
        self.written, self._pasting = written, pasting
        await self.recompose()
        self.letter_buttons()
        self._fit()

    @on(Button.Pressed, "#switch")
    async def switch(self) -> None:
        """A call in place of typed input, or the other way round; the name stays."""
        await self._show(replace(self._now(), calls=not self.calls))
        self._first().focus()

    @on(Button.Pressed, "#paste")
    async def paste(self) -> None:
        """Take a whole run, as it stood on the terminal."""
        await self._show(self._now(), pasting=True)
        self.query_one("#run", TextArea).focus()

    @on(Button.Pressed, "#back")
    async def back(self) -> None:
        """To the two sides again."""
        await self._show(self.written)
        self._first().focus()

    @on(Button.Pressed, "#apart")
    async def apart(self) -> None:
        """Fill the two sides from a whole run."""
        typed, printed = taken_apart(self.query_one("#run", TextArea).text, self.about.prompts)
        await self._show(replace(self.written, stdin=typed, stdout=printed))
        self.query_one("#stdout", TextArea).focus()

    @on(Button.Pressed, "#file")
    def add_file(self) -> None:
        """A file that is laid beside the program for this case."""
        now = self._now()

        async def take(file: tuple[str, str] | None) -> None:
            if file is not None:
                await self._show(replace(now, files={**now.files, file[0]: file[1]}))
                self._first().focus()

        self.app.push_screen(FileCard(now.files), take)

    # -- leaving -------------------------------------------------------------------------------

    @on(Button.Pressed, "#leave")
    def action_leave(self) -> None:
        """Close without keeping; what is typed stands here again the next time."""
        self._left(self._now())
        self.close()

    @on(Button.Pressed, "#keep")
    @on(Input.Submitted)
    def action_keep_typed(self) -> None:
        """Close with the case, or say what is missing."""
        if self._pasting:
            return
        self.written = self._now()
        fault = self.written.fault(self.about, self.number) or self._meant_as_text()
        if fault:
            self.query_one("#error", Label).update(fault)
        else:
            self.close(self.written.case(self.number, self.begun))

    def _meant_as_text(self) -> str:
        """Ask once about a result that is a name: a text without its quotes looks like one."""
        name = self.written.bare_name(self.about)
        if not name or name == self._warned:
            return ""
        self._warned = name
        return (
            f"{name} without quotes means whatever a name {name} holds. For the text, write "
            f"{name!r}. To keep it as it is, press Ctrl+S once more."
        )


_FIELDS: dict[str, type[Input] | type[TextArea]] = {
    "name": Input, "call": Input, "returns": Input, "stdin": TextArea, "stdout": TextArea,
}  # fmt: skip


def _as_asked(prompt: str) -> str:
    return repr(prompt.replace(HOLE, "…"))


def _lines(text: str) -> str:
    count = text.count("\n") + (not text.endswith("\n"))
    return f"{count} line{'s' if count != 1 else ''}"
