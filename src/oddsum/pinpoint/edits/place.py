"""What every kind of slip needs: places in the text, and a Slip made from one."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass

from oddsum.model.lead import Slip
from oddsum.source.outline import function_at
from oddsum.source.program import Source


@dataclass(frozen=True)
class Span:
    """A stretch of the source: offsets in characters from 0."""

    start: int
    stop: int

    def of(self, source: Source) -> str:
        """The text of it."""
        return source.text[self.start : self.stop]


def span(source: Source, node: ast.expr) -> Span:
    """The stretch an expression takes, without parentheses around it."""
    return Span(
        source.offset(node.lineno, node.col_offset),
        source.offset(node.end_lineno or node.lineno, node.end_col_offset or 0),
    )


def expressions(source: Source, *kinds: type[ast.expr]) -> Iterator[ast.expr]:
    """Every expression of these kinds, in the order of the text; those inside f-strings are left.

    Before Python 3.12 the parser gives no usable places inside f-strings.
    """
    if source.tree is None:
        return
    inside = {
        id(inner)
        for node in ast.walk(source.tree)
        if isinstance(node, ast.JoinedStr)
        for inner in ast.walk(node)
    }
    found = [n for n in ast.walk(source.tree) if isinstance(n, kinds) and id(n) not in inside]
    yield from sorted(found, key=lambda n: (n.lineno, n.col_offset))


def operator_between(source: Source, left: ast.expr, right: ast.expr, text: str) -> Span | None:
    """Where an operator stands between two operands, past brackets, comments and line ends."""
    start, stop = span(source, left).stop, span(source, right).start
    gap = re.sub(r"#[^\n]*", lambda m: " " * len(m.group()), source.text[start:stop])
    at = gap.find(text)
    return None if at < 0 else Span(start + at, start + at + len(text))


def place_words(source: Source, line: int) -> str:
    """Where a line is: all that is told at the first level."""
    function = function_at(source, line)
    return f"Look at line {line}, in {function}." if function else f"Look at line {line}."


def make_slip(
    source: Source,
    kind: str,
    at: Span,
    new: str,
    *,
    what: str,
    likely: float,
    how: str = "",
) -> Slip:
    """A Slip that replaces a stretch of the text; ``how`` is made from the line where not given."""
    line = source.text.count("\n", 0, at.start) + 1
    old = at.of(source)
    return Slip(
        kind=kind,
        file=source.name,
        line=line,
        function=function_at(source, line),
        start=at.start,
        stop=at.stop,
        old=old,
        new=new,
        where=place_words(source, line),
        what=what,
        how=how or f"Write {quoted(new)} instead of {quoted(old)}.",
        likely=likely,
        size=abs(len(new) - len(old)) + 1,
    )


def quoted(text: str) -> str:
    """A piece of the program in a sentence: on one line."""
    return "`" + " ".join(text.split()) + "`"
