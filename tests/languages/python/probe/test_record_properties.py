"""Properties of the recorder, on random programs: nothing changes, and what it says is true.

Everything runs in this process here, with the recorder's own channel in memory; the trace is held
against a plain run, and the values against those the interpreter itself has.
"""

from __future__ import annotations

import ast
import contextlib
import io
from collections.abc import Sequence
from itertools import pairwise
from typing import Any

from hypothesis import given, settings
from programs import programs

from conftest import examples
from oddsum.languages.python.probe.summary import LEVELS
from oddsum.model.trace import Step, Value
from woven import FILE, steps_of, woven


def run(code: Any) -> tuple[str, str, dict[str, Any]]:
    """What a program prints, how it ends, and the names it leaves."""
    names: dict[str, Any] = {"__name__": "__main__"}
    out = io.StringIO()
    ending = "ended"
    with contextlib.redirect_stdout(out):
        try:
            exec(code, names)
        except Exception as error:
            ending = f"{type(error).__name__}: {error}"
            line = error.__traceback__
            while line is not None and line.tb_next is not None:
                line = line.tb_next
            ending += f" at {line.tb_lineno if line else 0}"
    return out.getvalue(), ending, names


def recorded(source: str) -> tuple[tuple[str, str, dict[str, Any]], Sequence[Step]]:
    code, recorder, wire = woven(source)
    result = run(code)
    recorder.look_again()  # as the probe does at the end of a program that an error stopped
    recorder.flush()
    return result, steps_of(wire)


def shown(names: dict[str, Any]) -> dict[str, str]:
    """Variables as the trace should know them at the end: no functions, nothing of the module."""
    return {
        name: repr(value)
        for name, value in names.items()
        if not name.startswith("__") and not callable(value)
    }


def levels(value: Any) -> int:
    """How deep lists, dicts and objects lie inside of each other."""
    inside: Any = None
    if isinstance(value, dict):
        inside = [*value, *value.values()]
    elif isinstance(value, (list, tuple)):
        inside = value
    elif type(value).__name__ == "O":
        inside = vars(value).values()
    return 0 if inside is None else 1 + max(map(levels, inside), default=0)


@settings(max_examples=examples(15))
@given(programs())
def test_a_recording_changes_nothing_and_tells_what_happened(source):
    """All that is held of a recording, of one: to make it is what takes the time."""
    plain = run(compile(source, FILE, "exec"))
    woven, steps = recorded(source)
    assert woven[:2] == plain[:2]
    assert shown(woven[2]) == shown(plain[2])
    assert len(steps) > 5
    the_values_a_trace_ends_with_are_the_interpreter_s_own(woven[2], steps)
    every_change_goes_on_from_the_value_before(steps)
    visits_are_those_that_the_interpreter_makes(source, steps)
    calls_and_returns_are_balanced(steps)


def the_values_a_trace_ends_with_are_the_interpreter_s_own(
    names: dict[str, Any], steps: Sequence[Step]
) -> None:
    known: dict[str, str] = {}
    for step in steps:
        for change in step.changes:
            if "." not in change.name:
                if change.after is None:
                    known.pop(change.name, None)
                else:
                    known[change.name] = change.after.text
    true = shown(names)
    assert set(known) == set(true)
    followed = {name for name in true if levels(names[name]) <= LEVELS}
    assert {n: known[n] for n in followed} == {n: true[n] for n in followed}
    assert all("(…)" in known[n] for n in set(true) - followed)  # the rest says so


def every_change_goes_on_from_the_value_before(steps: Sequence[Step]) -> None:
    known: dict[tuple[int, str], Any] = {}
    for step in steps:
        for change in step.changes:
            key = (change.frame, change.name)
            assert _reads(change.before) != _reads(change.after)
            if key in known:
                assert _reads(change.before) == _reads(known[key])
            known[key] = change.after


def _reads(value: Value | None) -> tuple[str, str] | None:
    """A name may come to hold another object that reads the same: that is no change."""
    return None if value is None else (value.type, value.text)


def visits_are_those_that_the_interpreter_makes(source: str, steps: Sequence[Step]) -> None:
    """Count statements by a second, simpler weaving: a counter ahead of each of them."""
    counted: dict[int, int] = {}

    class Counter(ast.NodeTransformer):
        def generic_visit(self, node: ast.AST) -> ast.AST:
            super().generic_visit(node)
            for field in ("body", "orelse", "finalbody"):
                block = getattr(node, field, None)
                if isinstance(block, list) and block and isinstance(block[0], ast.stmt):
                    setattr(node, field, [s for one in block for s in (tick(one), one)])
            return node

    def tick(statement: ast.stmt) -> ast.stmt:
        call = ast.parse(f"count({statement.lineno})").body[0]
        return ast.copy_location(call, statement)

    def count(line: int) -> None:
        counted[line] = counted.get(line, 0) + 1

    tree = ast.fix_missing_locations(Counter().visit(ast.parse(source)))
    names = {"__name__": "__main__", "count": count}
    with contextlib.redirect_stdout(io.StringIO()), contextlib.suppress(Exception):
        exec(compile(tree, FILE, "exec"), names)
    headers = {
        node.lineno
        for node in ast.walk(ast.parse(source))
        if isinstance(node, (ast.For, ast.While))
    }
    visits: dict[int, int] = {}
    for step in steps:
        if step.visit is not None and step.statement.kind != "lambda":
            visits[step.line] = visits.get(step.line, 0) + 1
    for line in set(counted) | set(visits):
        if line not in headers:  # a loop's header is visited once more for every round
            assert visits.get(line, 0) == counted.get(line, 0), f"line {line}"


def calls_and_returns_are_balanced(steps: Sequence[Step]) -> None:
    for before, step in pairwise(steps):
        if "call" in step.events:
            assert step.depth == before.depth + 1 or before.depth >= step.depth
        elif "back" in step.events:
            assert step.depth < before.depth + 1
        else:
            assert step.depth <= before.depth
    assert all(step.depth == 0 for step in steps if not step.function)
    # The body of class O is no call.
    assert all(step.depth > 0 for step in steps if step.function not in ("", "O"))
