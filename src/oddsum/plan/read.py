"""Reads a plan: a TOML file, checked key by key, every complaint a sentence with its place."""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any, get_args

import tomlkit

from oddsum.languages.notation import PLANS
from oddsum.model.case import Case, Kind, Plan, Prompts, Reveal, Rule, Settings, TopLevel
from oddsum.model.errors import PlanError
from oddsum.plan.pictures import draws_fault, read_draws

Check = Callable[[Any], str | None]  # what the value should have been, None where it is right


def _text(value: Any) -> str | None:
    return None if isinstance(value, str) else 'a text, in quotes: "like this"'


def _flag(value: Any) -> str | None:
    return None if isinstance(value, bool) else "true or false"


def _positive(value: Any) -> str | None:
    right = isinstance(value, (int, float)) and not isinstance(value, bool) and value > 0
    return None if right else "a number above 0"


def _not_negative(value: Any) -> str | None:
    right = isinstance(value, (int, float)) and not isinstance(value, bool) and value >= 0
    return None if right else "a number, 0 or more"


def _whole(value: Any) -> str | None:
    right = isinstance(value, int) and not isinstance(value, bool)
    return None if right else "a whole number"


def _texts(value: Any) -> str | None:
    right = isinstance(value, list) and all(isinstance(v, str) for v in value)
    return None if right else 'a list of texts: ["like", "this"]'


def _command(value: Any) -> str | None:
    right = _texts(value) is None and bool(value) and bool(value[0].strip())
    return None if right else 'a command as a list: ["cc", "fares.c", "-o", "fares"]'


def _files(value: Any) -> str | None:
    if not isinstance(value, Mapping) or not all(isinstance(v, str) for v in value.values()):
        return '{ "name" = "content" }'
    outside = [n for n in value if Path(n).is_absolute() or ".." in Path(n).parts]
    return f"the name of a file inside the program's folder, not {outside[0]}" if outside else None


def _one_of(choices: tuple[str, ...]) -> Check:
    def check(value: Any) -> str | None:
        return None if value in choices else "one of " + ", ".join(f'"{c}"' for c in choices)

    return check


def _expression(value: Any) -> str | None:
    fault = _text(value) or PLANS.asking.expression_fault(value)
    return fault if fault is None or _text(value) else f"an expression ({fault})"


def _statements(value: Any) -> str | None:
    fault = _text(value) or PLANS.asking.statements_fault(value)
    return fault if fault is None or _text(value) else f"statements ({fault})"


_SETTINGS: dict[str, Check] = {
    "compare": _one_of(get_args(Rule)),
    "tolerance": _not_negative,
    "ignore_case": _flag,
    "prompts": _one_of(get_args(Prompts)),
    "timeout": _positive,
    "seed": _whole,
    "memory": _positive,
    "output": _positive,
}
_TOP: dict[str, Check] = {
    **_SETTINGS,
    "top_level": _one_of(get_args(TopLevel)),
    "reveal": _one_of(get_args(Reveal)),
    "author": _text,
    "build": _command,
    "run": _command,
}
_CASE: dict[str, Check] = {
    "name": _text,
    "kind": _one_of(get_args(Kind)),
    "note": _text,
    "disabled": _flag,
    "stdin": _text,
    "args": _texts,
    "files": _files,
    "call": _expression,
    "before": _statements,
    "stdout": _text,
    "returns": _expression,
    "raises": _text,
    "exit": _whole,
    "writes": _files,
    "draws": draws_fault,
    "check": _expression,
    **_SETTINGS,
}
# The contract knows these; this version cannot carry them out, and says so.
_LATER = {
    "allow": "runs may not reach beyond their own folder yet",
}


def read_plan(path: Path, program: Path) -> Plan:
    """Read the plan of a program; raises PlanError with the place and what to do."""
    try:
        text = path.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError as error:
        raise PlanError(
            f"{path.name} is not text in UTF-8.",
            hint="Save it as UTF-8 in your editor.",
            file=path.name,
        ) from error
    except OSError as error:
        raise PlanError(f"{path} cannot be read: {error.strerror}.", file=path.name) from error
    return parse_plan(text, path, program)


def parse_plan(text: str, path: Path, program: Path) -> Plan:
    """Turn a plan's text into a Plan; raises PlanError."""
    return _Reader(text, path, program).plan()


class _Reader:
    def __init__(self, text: str, path: Path, program: Path) -> None:
        self.text, self.path, self.program = text, path, program
        pattern = re.compile(r"^[ \t]*\[\[\s*case\s*\]\]", re.MULTILINE)
        self.case_lines = [text.count("\n", 0, m.start()) + 1 for m in pattern.finditer(text)]

    def error(self, text: str, hint: str = "", line: int | None = None) -> PlanError:
        where = f"{self.path.name}, line {line}: " if line else f"{self.path.name}: "
        return PlanError(where + text, hint=hint, file=self.path.name, line=line)

    def plan(self) -> Plan:
        data = self._toml()
        rows = data.pop("case", [])
        if not isinstance(rows, list) or not all(isinstance(r, dict) for r in rows):
            raise self.error("a case is written under [[case]], with two brackets.")
        top = self._checked(data, _TOP, "at the top of a plan", None)
        for key in ("build", "run"):
            top[key] = tuple(top.get(key, ()))
        cases = tuple(self._case(n, row) for n, row in enumerate(rows, 1))
        self._refuse_python(cases, top)
        self._refuse_twins(cases)
        return Plan(
            program=self.program,
            file=self.path,
            cases=cases,
            settings=Settings(**{k: top.pop(k) for k in _SETTINGS if k in top}),
            **top,
        )

    def _toml(self) -> dict[str, Any]:
        try:
            return tomllib.loads(self.text.replace("\r\n", "\n"))
        except tomllib.TOMLDecodeError as error:
            reason, line, column = _toml_place(str(error), self.text)
            raise PlanError(
                f"{self.path.name}, line {line}: this is not TOML: {reason}.",
                hint="Look at the line above as well: a quote or a bracket may be open there.",
                file=self.path.name,
                line=line,
                column=column,
            ) from error

    def _line_of(self, number: int, key: str | None = None) -> int | None:
        if number > len(self.case_lines):
            return None
        first = self.case_lines[number - 1]
        last = self.case_lines[number] - 1 if number < len(self.case_lines) else None
        lines = self.text.split("\n")[first - 1 : last]
        for at, line in enumerate(lines):
            if key and re.match(rf'\s*"?{re.escape(key)}"?\s*[=.]', line):
                return first + at
        return first

    def _checked(
        self, data: dict[str, Any], known: dict[str, Check], where: str, number: int | None
    ) -> dict[str, Any]:
        for key, value in data.items():
            if key in known and known[key](value) is None:
                continue
            line = self._line_of(number, key) if number else self._top_line(key)
            if key in _LATER and not number:
                raise self.error(
                    f"`{key}` cannot be used here: {_LATER[key]}.", "Leave it out.", line
                )
            if key not in known:
                raise self.error(f"`{key}` means nothing {where}.", _nearest(key, known), line)
            wanted = known[key](value)
            if wanted is not None:
                shown = tomlkit.item(value).as_string() if not isinstance(value, dict) else "{…}"
                raise self.error(f"`{key}` is {shown[:60]}; it should be {wanted}.", line=line)
        return data

    def _top_line(self, key: str) -> int | None:
        match = re.search(rf'^\s*"?{re.escape(key)}"?\s*=', self.text, re.MULTILINE)
        return self.text.count("\n", 0, match.start(0)) + 1 if match else None

    def _case(self, number: int, row: dict[str, Any]) -> Case:
        values = self._checked(dict(row), _CASE, "in a case", number)
        if "name" not in values:
            line = self._line_of(number)
            raise self.error(f"case {number} has no name.", 'Give it one: name = "..."', line)
        settings = Settings(**{k: values.pop(k) for k in _SETTINGS if k in values})
        values["args"] = tuple(values.get("args", ()))
        if "draws" in values:
            try:
                values["draws"] = read_draws(values["draws"], self.path.parent)
            except PlanError as error:
                raise self.error(error.text, error.hint, self._line_of(number, "draws")) from error
        case = Case(number=number, settings=settings, **values)
        self._refuse_contradictions(case)
        return case

    def _refuse_contradictions(self, case: Case) -> None:
        title = f"case {case.number}, {case.name!r},"
        runs = case.stdin is not None or case.call is not None or case.args or case.files
        if not runs and not case.checked():
            raise self.error(
                f"{title} has nothing to run and nothing to expect.",
                'Give it stdin = "..." or call = "...", and stdout = "..." or returns = "...".',
                self._line_of(case.number),
            )
        if case.call is None:
            for key in ("returns", "before"):
                if getattr(case, key) is not None:
                    raise self.error(
                        f"{title} has `{key}` but no `call`.",
                        'Say what is called: call = "fare(16)".',
                        self._line_of(case.number, key),
                    )
        rule = case.settings.compare
        if rule == "pattern" and case.stdout is not None:
            try:
                re.compile(case.stdout)
            except re.error as error:
                raise self.error(
                    f"{title} is compared by pattern, and its stdout is none: {error}.",
                    line=self._line_of(case.number, "stdout"),
                ) from error

    def _refuse_python(self, cases: tuple[Case, ...], top: dict[str, Any]) -> None:
        """A program that is run by a command has text that goes in and comes out, no values."""
        if top["build"] and not top["run"]:
            raise self.error(
                "`build` says how the program is made, and `run` is missing.",
                'Say how it is run: run = ["./fares"].',
                self._top_line("build"),
            )
        for case in cases if top["run"] else ():
            for key in ("call", "before", "returns", "raises", "draws", "check"):
                if getattr(case, key) is not None:
                    raise self.error(
                        f"case {case.number}, {case.name!r}, has `{key}`, which is for Python.",
                        "A program run by `run` is checked by stdin, args, files, stdout, exit "
                        "and writes.",
                        self._line_of(case.number, key),
                    )

    def _refuse_twins(self, cases: tuple[Case, ...]) -> None:
        seen: dict[str, int] = {}
        for case in cases:
            if case.name in seen:
                raise self.error(
                    f"cases {seen[case.name]} and {case.number} are both named {case.name!r}.",
                    "Give one of them another name.",
                    self._line_of(case.number, "name"),
                )
            seen[case.name] = case.number


def _toml_place(said: str, text: str) -> tuple[str, int, int]:
    """What the reader of TOML said, and the line and column it speaks of."""
    reason, _, place = said.partition(" (at ")
    numbers = [int(n) for n in re.findall(r"\d+", place)]
    if len(numbers) == 2:
        return reason[:1].lower() + reason[1:], numbers[0], numbers[1]
    return reason[:1].lower() + reason[1:], text.rstrip("\n").count("\n") + 1, 1


def _nearest(key: str, known: Mapping[str, Check]) -> str:
    close = difflib.get_close_matches(key, known, n=1, cutoff=0.5)
    return f"Did you mean `{close[0]}`?" if close else "Known are: " + ", ".join(known) + "."
