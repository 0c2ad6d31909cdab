"""Reads the examples that docstrings hold: what is typed at a ``>>>`` prompt, and the answer."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import msgspec

from oddsum.languages.python.expressions import expression_fault, statements_fault
from oddsum.languages.python.parsing import expression_of, literal, tree_of
from oddsum.model.case import Case, Settings
from oddsum.model.errors import ProgramError
from oddsum.source.program import Source

_PROMPT, _MORE, _FAILED = ">>>", "...", "Traceback "
_WISHES = re.compile(
    r"[ \t]*#[ \t]*\w+:[ \t]*[+-][A-Z_]+(?:[ \t]*,?[ \t]*[+-][A-Z_]+)*[ \t]*$", re.M
)
_WISH = re.compile(r"\+([A-Z_]+)")
_BLANK = "<BLANKLINE>"  # stands in an answer for a line with nothing on it
_ANYTHING = "..."  # stands for any text, where the example asks for that
_RAISED = re.compile(r"^([A-Za-z_][\w.]*)(?::|$)")


@dataclass(frozen=True)
class _Example:
    line: int
    typed: str
    answer: str
    wishes: frozenset[str] = frozenset()  # how the answer is to be read, as a comment asks for it


@dataclass(frozen=True)
class _Docstring:
    owner: str
    line: int
    text: str


def examples(source: Source) -> tuple[tuple[Case, ...], tuple[str, ...]]:
    """Turn each example into a case; raises ProgramError where the program cannot be read.

    Statements ahead of an example in the same docstring run before it. What cannot be read is left
    out and told with its line.
    """
    tree = tree_of(source)
    if tree is None:
        raise ProgramError(
            f"{source.name} cannot be read as Python, so its examples cannot be found.",
            hint="Check it first: the place is told there.",
            file=source.name,
        )
    cases: list[Case] = []
    left_out: list[str] = []
    for doc in _docstrings(tree):
        before: list[str] = []
        for example in _examples(doc):
            fault = statements_fault(example.typed)
            if fault or "SKIP" in example.wishes:
                why = f"this example cannot be read ({fault})" if fault else "it is to be left out"
                where = f"{source.name}, line {example.line}"
                left_out.append(f"{where}: {why}: {example.typed.splitlines()[0]}")
                continue
            statement = bool(expression_fault(example.typed))
            if not statement or example.answer:
                cases.append(_case(doc, example, before, statement))
            if statement or _may_change(example):
                before.append(example.typed)
    numbered = (msgspec.structs.replace(c, number=n) for n, c in enumerate(cases, 1))
    return tuple(numbered), tuple(left_out)


def _docstrings(tree: ast.Module) -> Iterator[_Docstring]:
    for node in ast.walk(tree):
        if not isinstance(node, (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)):
            continue
        first = node.body[0] if node.body else None
        if not isinstance(first, ast.Expr) or not isinstance(first.value, ast.Constant):
            continue
        if isinstance(first.value.value, str):
            yield _Docstring(getattr(node, "name", "module"), first.lineno, first.value.value)


def _examples(doc: _Docstring) -> Iterator[_Example]:
    """Go through a docstring's lines: a prompt, lines that go on, then the answer until a blank."""
    lines = doc.text.split("\n")
    at = 0
    while at < len(lines):
        stripped = lines[at].lstrip()
        if not stripped.startswith(_PROMPT):
            at += 1
            continue
        start, indent = at, len(lines[at]) - len(stripped)
        typed = [stripped[len(_PROMPT) :].removeprefix(" ")]
        at += 1
        while at < len(lines) and lines[at].lstrip().startswith(_MORE):
            typed.append(lines[at].lstrip()[len(_MORE) :].removeprefix(" "))
            at += 1
        answer: list[str] = []
        while at < len(lines) and lines[at].strip() and not lines[at].lstrip().startswith(_PROMPT):
            answer.append(lines[at][indent:] if not lines[at][:indent].strip() else lines[at])
            at += 1
        text = "\n".join(typed).strip()
        wishes = frozenset(w for m in _WISHES.finditer(text) for w in _WISH.findall(m.group()))
        said = "\n".join("" if line.strip() == _BLANK else line for line in answer)
        yield _Example(doc.line + start, _WISHES.sub("", text).strip(), said, wishes)


def _parsed(text: str) -> ast.expr | None:
    try:
        return expression_of(text)
    except (SyntaxError, ValueError, RecursionError):
        return None


def _may_change(example: _Example) -> bool:
    """Whether an expression may do something that those after it see: a method that is called, or
    what gives nothing. One that is to raise an error is done once."""
    node = _parsed(example.typed)
    if not isinstance(node, ast.Call) or example.answer.startswith(_FAILED):
        return False
    return isinstance(node.func, ast.Attribute) or not example.answer


def _case(doc: _Docstring, example: _Example, before: list[str], statement: bool) -> Case:
    typed = example.typed
    name = typed if len(typed) <= 50 and "\n" not in typed else f"{doc.owner}, line {example.line}"
    note = f"The example in {doc.owner}, line {example.line}."
    ahead = "\n".join(before) or None
    if statement:  # what it prints is all there is of it
        return Case(number=1, name=name, note=note, call=f"exec({typed!r})", before=ahead,
                    **_printed(example))  # fmt: skip
    return Case(number=1, name=name, note=note, call=typed, before=ahead, **_expected(example))


def _expected(example: _Example) -> dict[str, Any]:
    """What the answer says is expected: an exception, a value, or the text that is printed.

    An answer that is no plain value may be a value's text or something printed; a check takes
    either.
    """
    answer = example.answer
    if answer.startswith(_FAILED):
        last = answer.strip().split("\n")[-1]
        match = _RAISED.match(last)
        return {"raises": match.group(1).rpartition(".")[2] if match else "Exception"}
    if not answer:
        return {"check": "result is None and not stdout"}
    if example.typed.startswith("print("):
        return _printed(example)
    given = "repr(result) if result is not None else stdout.rstrip()"
    if "ELLIPSIS" in example.wishes and _ANYTHING in answer:
        return {"check": f"__import__('re').fullmatch({_pattern(answer)!r}, {given}) is not None"}
    if "NORMALIZE_WHITESPACE" in example.wishes:
        return {"check": f"{answer.split()!r} == ({given}).split()"}
    try:
        literal(answer)
    except (ValueError, SyntaxError, TypeError, MemoryError, RecursionError):
        return {"check": f"{answer!r} in (repr(result), stdout.rstrip())"}
    return {"returns": answer}


def _printed(example: _Example) -> dict[str, Any]:
    """The answer as text that is printed, compared as the example asks for."""
    if example.answer.startswith(_FAILED):
        return _expected(example)
    if "ELLIPSIS" in example.wishes and _ANYTHING in example.answer:
        pattern = _pattern(example.answer) + r"\s*"
        return {"stdout": pattern, "settings": Settings(compare="pattern")}
    words = Settings(compare="words") if "NORMALIZE_WHITESPACE" in example.wishes else Settings()
    return {"stdout": example.answer + "\n", "settings": words}


def _pattern(answer: str) -> str:
    """The answer as a pattern in which ``...`` stands for anything."""
    return r"(?s)" + ".*".join(re.escape(part) for part in answer.split(_ANYTHING))
