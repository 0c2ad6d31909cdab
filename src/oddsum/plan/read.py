"""Reads a plan: a TOML file, checked key by key, every complaint a sentence with its place."""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Callable, Iterable, Mapping
from datetime import datetime
from pathlib import Path, PurePosixPath
from typing import Any, TypeVar

import msgspec

from oddsum.languages import language_of
from oddsum.languages.language import Asking
from oddsum.languages.notation import notation_of
from oddsum.model.case import Case, Plan, Settings
from oddsum.model.errors import PlanError
from oddsum.model.typed import convert
from oddsum.plan.commands import unsaid
from oddsum.plan.pictures import draws_fault, read_draws
from oddsum.plan.rows import CaseRow, TopRow, wanted
from oddsum.source.toml import parse_toml

# What the value should have been, in the plan's language; None where it is right.
Fault = Callable[[Any, Asking], str | None]
Row = TypeVar("Row", TopRow, CaseRow)
_SETTINGS = Settings.__struct_fields__
_LONGEST_NAME = 255  # bytes: no file system here has longer ones


def _command(value: tuple[str, ...], _asking: Asking) -> str | None:
    return None if value[0].strip() else wanted(TopRow)["run"]


def _files(value: Mapping[str, str], _asking: Asking) -> str | None:
    inside = "the name of a file inside the program's folder"
    for name in value:
        path = PurePosixPath(name)
        if not path.parts or path.is_absolute() or ".." in path.parts or "\0" in name:
            return f"{inside}, not {name!r}"
        if any(len(part.encode()) > _LONGEST_NAME for part in path.parts):
            return f"{inside}, no part of it longer than {_LONGEST_NAME} bytes"
    for name in value:
        over = next((p for p in PurePosixPath(name).parents if str(p) in value), None)
        if over is not None:
            return f"{inside}; {str(over)!r} cannot be a file and a folder"
    return None


def _expression(value: str, asking: Asking) -> str | None:
    fault = asking.expression_fault(value)
    return fault and f"an expression ({fault})"


def _statements(value: str, asking: Asking) -> str | None:
    fault = asking.statements_fault(value)
    return fault and f"statements ({fault})"


def _moment(value: str, _asking: Asking) -> str | None:
    try:
        datetime.fromisoformat(value)
    except ValueError:
        return 'a date, or a date and a time: "2026-05-04", "2026-05-04T10:30"'
    return None


# What a type cannot say, by key.
_FAULTS: dict[str, Fault] = {
    "build": _command,
    "run": _command,
    "files": _files,
    "writes": _files,
    "call": _expression,
    "returns": _expression,
    "check": _expression,
    "before": _statements,
    "today": _moment,
    "draws": lambda value, _asking: draws_fault(value),
}


def read_plan(path: Path, program: Path) -> Plan:
    """Read the plan of a program; raises PlanError with the place and what to do."""
    if path.exists() and not path.is_file():
        raise PlanError(f"{path} is no file that could hold a plan.", file=path.name)
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
        self.asking = notation_of(program)
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
        top = self._checked(data, TopRow, None)
        cases = tuple(self._case(n, row) for n, row in enumerate(rows, 1))
        self._refuse_python(cases, top)
        self._refuse_twins(cases)
        self._refuse_dates(cases, top)
        missing = unsaid(self.path.name, self.program) if cases and not top.run else None
        if missing is not None:
            raise missing
        return Plan(
            program=self.program,
            file=self.path,
            cases=cases,
            settings=_settings(top),
            top_level=top.top_level,
            fence=top.fence,
            allow=top.allow,
            reveal=top.reveal,
            guess_first=top.guess_first,
            author=top.author,
            build=top.build or (),
            run=top.run or (),
        )

    def _toml(self) -> dict[str, Any]:
        try:
            return parse_toml(self.text.replace("\r\n", "\n"))
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

    def _checked(self, data: dict[str, Any], row: type[Row], number: int | None) -> Row:
        """Hold a table of the file against what may stand there."""
        try:
            made = convert(data, row)
        except msgspec.ValidationError as error:
            raise self._unfit(str(error), data, row, number) from error
        for key, fault in _FAULTS.items():
            value = getattr(made, key, None)
            words = fault(value, self.asking) if value is not None else None
            if words:
                raise self._should_be(key, data[key], words, number)
        return made

    def _unfit(
        self, said: str, data: dict[str, Any], row: type[Row], number: int | None
    ) -> PlanError:
        """What msgspec says of a table, in words that a learner reads."""
        unknown = re.search(r"unknown field `(.*)`", said)
        if unknown is None:
            match = re.search(r"at `\$\.(\w+)", said)
            key = match.group(1) if match else ""
            return self._should_be(
                key, data.get(key), wanted(row).get(key, "something else"), number
            )
        key = unknown.group(1)
        line = self._line_of(number, key) if number else self._top_line(key)
        where = "in a case" if number else "at the top of a plan"
        return self.error(f"`{key}` means nothing {where}.", _nearest(key, wanted(row)), line)

    def _should_be(self, key: str, value: Any, words: str, number: int | None) -> PlanError:
        line = self._line_of(number, key) if number else self._top_line(key)
        import tomlkit  # 8 ms, for a plan that cannot be read

        shown = "{…}" if isinstance(value, dict) else tomlkit.item(value).as_string()
        return self.error(f"`{key}` is {shown[:60]}; it should be {words}.", line=line)

    def _top_line(self, key: str) -> int | None:
        match = re.search(rf'^\s*"?{re.escape(key)}"?\s*=', self.text, re.MULTILINE)
        return self.text.count("\n", 0, match.start(0)) + 1 if match else None

    def _case(self, number: int, data: dict[str, Any]) -> Case:
        row = self._checked(data, CaseRow, number)
        if row.name is None:
            line = self._line_of(number)
            raise self.error(f"case {number} has no name.", 'Give it one: name = "..."', line)
        values = {k: v for k, v in msgspec.structs.asdict(row).items() if k not in _SETTINGS}
        if row.draws is not None:
            try:
                values["draws"] = read_draws(row.draws, self.path.parent)
            except PlanError as error:
                raise self.error(error.text, error.hint, self._line_of(number, "draws")) from error
        case = Case(number=number, settings=_settings(row), **values)
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
            import regex  # as in compare/rules.py

            try:
                regex.compile(case.stdout)
            except regex.error as error:
                raise self.error(
                    f"{title} is compared by pattern, and its stdout is none: {error}.",
                    line=self._line_of(case.number, "stdout"),
                ) from error

    def _refuse_python(self, cases: tuple[Case, ...], top: TopRow) -> None:
        """A program that is run by a command has text that goes in and comes out, no values."""
        if top.build and not top.run:
            raise self.error(
                "`build` says how the program is made, and `run` is missing.",
                'Say how it is run: run = ["./fares"].',
                self._top_line("build"),
            )
        for case in cases if top.run else ():
            for key in ("call", "before", "returns", "raises", "draws", "check"):
                if getattr(case, key) is not None:
                    raise self.error(
                        f"case {case.number}, {case.name!r}, has `{key}`, which is for Python.",
                        "A program run by `run` is checked by stdin, args, files, stdout, exit "
                        "and writes.",
                        self._line_of(case.number, key),
                    )

    def _refuse_dates(self, cases: tuple[Case, ...], top: TopRow) -> None:
        """A date of its own, where the program's language cannot be told one."""
        language = language_of(self.program)
        if not top.run and language.running.probe().dates:
            return
        if top.today is None and all(c.settings.today is None for c in cases):
            return
        number = next((c.number for c in cases if c.settings.today is not None), None)
        raise self.error(
            "`today` is set, but this program cannot be told another date than the day's own.",
            "That goes for JavaScript. Have the program ask for the date, or give it in `args`.",
            self._line_of(number, "today") if number is not None else None,
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


def _settings(row: TopRow | CaseRow) -> Settings:
    return Settings(**{k: getattr(row, k) for k in _SETTINGS})


def _toml_place(said: str, text: str) -> tuple[str, int, int]:
    """What the reader of TOML said, and the line and column it speaks of."""
    reason, _, place = said.partition(" (at ")
    numbers = [int(n) for n in re.findall(r"\d+", place)]
    if len(numbers) == 2:
        return reason[:1].lower() + reason[1:], numbers[0], numbers[1]
    return reason[:1].lower() + reason[1:], text.rstrip("\n").count("\n") + 1, 1


def _nearest(key: str, known: Iterable[str]) -> str:
    close = difflib.get_close_matches(key, known, n=1, cutoff=0.5)
    return f"Did you mean `{close[0]}`?" if close else "Known are: " + ", ".join(known) + "."
