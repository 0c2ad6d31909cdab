"""Reads the examples that docstrings hold: what is typed at a ``>>>`` prompt, and the answer."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import msgspec

from oddsum.languages.python.expressions import expression_fault, statements_fault
from oddsum.languages.python.parsing import literal, tree_of
from oddsum.model.case import Case
from oddsum.model.errors import ProgramError
from oddsum.source.program import Source

_PROMPT, _MORE = ">>>", "..."
_RAISED = re.compile(r"^([A-Za-z_][\w.]*)(?::|$)")


@dataclass(frozen=True)
class _Example:
    line: int
    typed: str
    answer: str


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
            if fault:
                left_out.append(
                    f"{source.name}, line {example.line}: this example cannot be read ({fault}): "
                    f"{example.typed.splitlines()[0]}"
                )
            elif expression_fault(example.typed):
                before.append(example.typed)
            else:
                cases.append(_case(doc, example, before))
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
        yield _Example(doc.line + start, "\n".join(typed).strip(), "\n".join(answer))


def _case(doc: _Docstring, example: _Example, before: list[str]) -> Case:
    call = example.typed
    name = call if len(call) <= 50 and "\n" not in call else f"{doc.owner}, line {example.line}"
    note = f"The example in {doc.owner}, line {example.line}."
    ahead = "\n".join(before) or None
    return Case(number=1, name=name, note=note, call=call, before=ahead, **_expected(example))


def _expected(example: _Example) -> dict[str, Any]:
    """What the answer says is expected: an exception, a value, or the text that is printed.

    An answer that is no plain value may be a value's text or something printed; a check takes
    either.
    """
    answer = example.answer
    if answer.startswith("Traceback "):
        last = answer.strip().split("\n")[-1]
        match = _RAISED.match(last)
        return {"raises": match.group(1).rpartition(".")[2] if match else "Exception"}
    if not answer:
        return {"check": "result is None and not stdout"}
    if example.typed.startswith("print(") and not expression_fault(example.typed):
        return {"stdout": answer + "\n"}
    try:
        literal(answer)
    except (ValueError, SyntaxError, TypeError, MemoryError, RecursionError):
        return {"check": f"{answer!r} in (repr(result), stdout.rstrip())"}
    return {"returns": answer}
