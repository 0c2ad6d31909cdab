"""The card for a new case: what goes in on the left, what should come out on the right."""

from __future__ import annotations

from typing import ClassVar

import msgspec
from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widgets import Button, Input, Label, Select, TextArea

from oddsum.languages.notation import PLANS
from oddsum.languages.outline import Function
from oddsum.model.case import Case, Kind
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading

_KINDS: tuple[tuple[str, Kind], ...] = (
    ("normal: everyday data", "normal"),
    ("boundary: right at a limit", "boundary"),
    ("invalid: should be refused", "invalid"),
)


class CaseCard(Dialog[Case | None]):
    """Closes with the case to keep, or None. ``functions`` are those one can call.

    With a ``case`` it begins with what that one has; keys the card does not show stay.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("case_card")]

    def __init__(
        self,
        number: int,
        taken: frozenset[str],
        functions: tuple[Function, ...],
        asks: bool,
        case: Case | None = None,
        title: str = "",
    ) -> None:
        super().__init__(classes="page")
        self.VERTICAL_BREAKPOINTS = [(0, "-short"), (34, "-tall")]
        self.number, self.taken, self.functions = number, taken, functions
        self.calls = bool(functions) and not asks
        self.begun, self.title_words = case, title
        if case is not None:
            self.calls = case.call is not None

    def compose(self) -> ComposeResult:
        """Name and kind, the two sides, and the buttons."""
        first = "THE FIRST CASE" if self.number == 1 else f"CASE {self.number}"
        first = self.title_words or first
        case = self.begun or Case(number=self.number, name="")
        with Vertical(id="card", classes="-wide"), VerticalScroll(id="scroll", can_focus=False):
            yield KeysHeading(first, "case_card")
            yield Label("Its name, in your own words", classes="label")
            yield Input(case.name, placeholder="for example: two adults, one child", id="name")
            yield Select(_KINDS, value=case.kind, allow_blank=False, id="kind", compact=True)
            with Horizontal():
                with Vertical(classes="half"):
                    yield Label(self._left_words(), classes="label")
                    if self.calls:
                        yield Input(
                            case.call or "", placeholder=_example(self.functions), id="call"
                        )
                    else:
                        yield TextArea(case.stdin or "", id="stdin")
                yield Vertical(classes="gap")
                with Vertical(classes="half"):
                    yield Label(self._right_words(), classes="label")
                    if self.calls:
                        yield Input(case.returns or "", placeholder="6", id="returns")
                    else:
                        yield TextArea(case.stdout or "", id="stdout")
            yield Label(self._hint(), classes="hint")
            yield Label("", classes="fault", id="error")
            with Horizontal():
                yield Button("Keep it", id="keep", variant="primary")
                if self.functions or self.calls:
                    other = "what is typed in" if self.calls else "a call of a function"
                    yield Button(f"Use {other} instead", id="switch")
                yield Button("Leave", id="leave")

    def _left_words(self) -> str:
        return "What is called" if self.calls else "What is typed in, a line each"

    def _right_words(self) -> str:
        return "What it should return" if self.calls else "What it should print"

    def _hint(self) -> str:
        if self.calls and not self.functions:
            return "This program has no function of its own: there is nothing to call yet."
        return (
            "Work the right side out by hand, without the program. Leave it empty if you do not "
            "know yet: the case is then open."
        )

    def on_mount(self) -> None:
        """Begin with the name."""
        self.query_one("#name", Input).focus()

    @on(Button.Pressed, "#switch")
    async def switch(self) -> None:
        """A call in place of typed input, or the other way round; the name stays."""
        name = self.query_one("#name", Input).value
        self.calls = not self.calls
        await self.recompose()
        self.query_one("#name", Input).value = name
        self.query_one("#call" if self.calls else "#stdin").focus()

    @on(Button.Pressed, "#leave")
    @on(Button.Pressed, "#keep")
    @on(Input.Submitted)
    def action_keep_typed(self) -> None:
        """Close with the case, or say what is missing."""
        fault = self._fault()
        if fault:
            self.query_one("#error", Label).update(fault)
            return
        self.close(self._case())

    def _fault(self) -> str:
        name = self._title()
        if name in self.taken:
            return f"There is a case named {name!r} already. Give this one another name."
        if not self.calls:
            return ""
        call = self.query_one("#call", Input).value.strip()
        if not call:
            return "Say what is called, for example " + _example(self.functions) + "."
        for what, text in (("call", call), ("result", self._returns())):
            wrong = PLANS.asking.expression_fault(text) if text else None
            if wrong:
                return f"The {what} cannot be read: {wrong}."
        return ""

    def _title(self) -> str:
        return self.query_one("#name", Input).value.strip() or f"case {self.number}"

    def _returns(self) -> str:
        return self.query_one("#returns", Input).value.strip()

    def _case(self) -> Case:
        kind = self.query_one("#kind", Select).value
        case = self.begun or Case(number=self.number, name="")
        case = msgspec.structs.replace(case, name=self._title(), kind=kind)
        if self.calls:
            call = self.query_one("#call", Input).value.strip()
            stdin = case.stdin if case.call is not None else None
            return msgspec.structs.replace(
                case, call=call, returns=self._returns() or None, stdin=stdin
            )
        typed = _ended(self.query_one("#stdin", TextArea).text)
        printed = self.query_one("#stdout", TextArea).text
        nothing = "" if case.stdout == "" else None  # nothing printed can be what is expected
        stdout = _ended(printed) if printed.strip() else nothing
        return msgspec.structs.replace(
            case, stdin=typed, stdout=stdout, call=None, returns=None, before=None
        )


def _ended(text: str) -> str:
    return text if not text or text.endswith("\n") else text + "\n"


def _example(functions: tuple[Function, ...]) -> str:
    if not functions:
        return "fare(16)"
    first = functions[0]
    return f"{first.name}({', '.join(first.parameters)})"
