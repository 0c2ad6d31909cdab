"""Lineage: what is not an origin of a value can be changed, and the value stays what it is.

Numbers in a program are changed one at a time; where what the last line prints is another text
then, the line of that number must be an origin of it.
"""

from __future__ import annotations

import ast
import contextlib
import io
import sys
from pathlib import Path

import pytest
from account import FILE, _typed
from course import courses
from hypothesis import assume, given, settings
from judge import story_of

from conftest import examples
from oddsum.languages.python.reads import reads
from oddsum.source.program import Source
from oddsum.trace.lineage import Lineage

PROGRAMS = sorted((Path(__file__).parent / "programs").glob("*.py"))
TYPED = "2\n34\n9\nTern\n2.5\nno\n"
pytestmark = pytest.mark.skipif(sys.version_info < (3, 11), reason="as the judge")


class _Change(ast.NodeTransformer):
    """Makes one number of a program another."""

    def __init__(self, which: int) -> None:
        self.which, self.seen, self.line = which, -1, 0

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if type(node.value) is int:
            self.seen += 1
            if self.seen == self.which:
                self.line = node.lineno
                return ast.copy_location(ast.Constant(node.value + 1), node)
        return node


def last_printed(tree: ast.Module, rounds: int = 20_000) -> str | None:
    """What a program prints last; None where it is stopped, or goes on for too long."""
    out, left = io.StringIO(), rounds

    def tick(frame: object, event: str, _: object) -> object:
        nonlocal left
        left -= 1
        if left < 0:
            raise TimeoutError
        return tick

    with contextlib.redirect_stdout(out), _typed(TYPED):
        sys.settrace(tick)  # type: ignore[arg-type]
        try:
            exec(compile(tree, FILE, "exec"), {"__name__": "__main__"})
        except BaseException:
            return None
        finally:
            sys.settrace(None)
    return out.getvalue().split("\n")[-2] if "\n" in out.getvalue() else None


def unfaithful(source: str) -> list[str]:
    """Numbers that matter for what is printed last, and are no origin of it."""
    before = last_printed(ast.parse(source))
    if before is None:
        return []
    story = story_of(source, TYPED)
    facts = reads(Source(FILE, source))
    origins = Lineage(story, lambda file: facts).of_step(
        story.printing(len(story.output_until(story.last)) - 1)
    )
    if len(origins) >= 400:
        return []  # it is cut there
    lines = {o.line for o in origins}
    # How many items a generator gives decides how often its loop goes round: that is not followed.
    generators = {
        line
        for f in ast.walk(ast.parse(source))
        if isinstance(f, ast.FunctionDef) and any(isinstance(n, ast.Yield) for n in ast.walk(f))
        for line in range(f.lineno, f.end_lineno + 1)
    }
    found, which = [], 0
    while True:
        change = _Change(which)
        tree = ast.fix_missing_locations(change.visit(ast.parse(source)))
        if not change.line:
            return found
        if change.line in generators:
            which += 1
            continue
        after = last_printed(tree)
        if after is not None and after != before and change.line not in lines:
            found.append(f"line {change.line}: {before!r} becomes {after!r}")
        which += 1


@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_a_number_that_matters_is_an_origin(path):
    assert not unfaithful(path.read_text(encoding="utf-8"))


@settings(max_examples=examples(8))
@given(courses())
def test_a_number_that_matters_is_an_origin_in_random_programs(source):
    # That a line was not reached because of an error that was caught is not followed either.
    assume("except (" not in source)
    assert not unfaithful(source + "print(a, b, n)\n")
