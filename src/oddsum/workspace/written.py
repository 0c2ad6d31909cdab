"""A case as it is being written in a card: what stands in its fields, and the case it comes to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import get_args

import msgspec

from oddsum.languages.language import Asking
from oddsum.languages.notation import DEFAULT
from oddsum.languages.outline import Function
from oddsum.model.case import Case, Kind, Rule


@dataclass(frozen=True)
class About:
    """What a card knows of program and plan: names that are taken, functions one can call, what
    the program asks with, and what is in the way of running it."""

    taken: frozenset[str] = frozenset()
    functions: tuple[Function, ...] = ()
    asks: bool = True  # whether the program asks for input
    prompts: tuple[str, ...] = ()
    fault: Callable[[], str] = lambda: ""
    asking: Asking = DEFAULT  # what its plan is written in


@dataclass(frozen=True)
class Written:
    """What stands in the fields of a card; kept when it is left, for nothing typed is lost.

    ``rule`` is blank where the case compares as its plan does.
    """

    name: str = ""
    kind: Kind = "normal"
    rule: str = ""
    calls: bool = False
    stdin: str = ""
    stdout: str = ""
    call: str = ""
    returns: str = ""
    files: dict[str, str] = field(default_factory=dict)

    @classmethod
    def of(cls, case: Case, calls: bool) -> Written:
        """What a case has in these fields."""
        return cls(case.name, case.kind, case.settings.compare or "", calls, case.stdin or "",
                   case.stdout or "", case.call or "", case.returns or "",
                   dict(case.files))  # fmt: skip

    def title(self, number: int) -> str:
        """The case's name; its number's, where none was written."""
        return self.name.strip() or f"case {number}"

    def fault(self, about: About, number: int) -> str:
        """What is missing or cannot be read, in a sentence; blank where it can be kept."""
        name = self.title(number)
        if name in about.taken:
            return f"There is a case named {name!r} already. Give this one another name."
        if not self.calls:
            return ""
        if not self.call.strip():
            return "Say what is called, for example " + example(about.functions) + "."
        for what, text in (("call", self.call.strip()), ("result", self.returns.strip())):
            wrong = about.asking.expression_fault(text) if text else None
            if wrong:
                quoted = f" A text stands in quotes: {text!r}." if what == "result" else ""
                return f"The {what} cannot be read: {wrong}.{quoted}"
        return ""

    def bare_name(self, about: About) -> str:
        """The result, where it is a name that may have been meant as a text; else blank."""
        text = self.returns.strip() if self.calls else ""
        known = {f.name for f in about.functions}
        try:
            about.asking.value_of(text)
        except (ValueError, SyntaxError, TypeError):
            return text if text.isidentifier() and text not in known else ""
        return ""  # a constant of the language

    def case(self, number: int, begun: Case | None) -> Case:
        """The case; what a card does not show stays as it was in ``begun``."""
        case = begun or Case(number=number, name="")
        rule: Rule | None = next((r for r in get_args(Rule) if r == self.rule), None)
        settings = msgspec.structs.replace(case.settings, compare=rule)
        case = msgspec.structs.replace(
            case, name=self.title(number), kind=self.kind, settings=settings, files=self.files
        )
        if self.calls:
            stdin = case.stdin if case.call is not None else None
            return msgspec.structs.replace(
                case, call=self.call.strip(), returns=self.returns.strip() or None, stdin=stdin
            )
        nothing = "" if case.stdout == "" else None  # nothing printed can be what is expected
        stdout = _ended(self.stdout) if self.stdout.strip() else nothing
        return msgspec.structs.replace(
            case, stdin=_ended(self.stdin), stdout=stdout, call=None, returns=None, before=None
        )


def _ended(text: str) -> str:
    return text if not text or text.endswith("\n") else text + "\n"


def signature(function: Function) -> str:
    """A function as one calls it: its name and parameters."""
    return f"{function.name}({', '.join(function.parameters)})"


def example(functions: tuple[Function, ...]) -> str:
    """What a call could look like here."""
    return signature(functions[0]) if functions else "fare(16)"
