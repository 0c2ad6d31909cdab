"""What every kind of edit needs: places in the text, and a TrialEdit made from one."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass

from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.outline import function_at
from oddsum.languages.python.parsing import module_of
from oddsum.model.lead import TrialEdit
from oddsum.source.program import Source
from oddsum.source.quoting import quoted

_SIMPLE = (ast.Name, ast.Call, ast.Attribute, ast.Subscript, ast.Constant)


@dataclass(frozen=True)
class Span:
    """A stretch of the source: offsets in characters from 0."""

    start: int
    stop: int

    def of(self, source: Source) -> str:
        """The text of it."""
        return source.text[self.start : self.stop]


def span(scene: Scene, node: ast.expr | ast.stmt) -> Span:
    """The stretch a node takes, without parentheses around it."""
    return Span(*scene.place(node))


def text_of(scene: Scene, node: ast.expr | ast.stmt) -> str:
    """The text of a node as it is written."""
    return span(scene, node).of(scene.source)


def closed(scene: Scene, node: ast.expr) -> str:
    """The text of an expression, in parentheses where it needs them beside an operator."""
    text = text_of(scene, node)
    return text if isinstance(node, _SIMPLE) else f"({text})"


def operator_between(source: Source, left: Span, right: Span, text: str) -> Span | None:
    """Where an operator stands between two operands, past brackets, comments and line ends."""
    gap = re.sub(r"#[^\n]*", lambda m: " " * len(m.group()), source.text[left.stop : right.start])
    pattern = rf"\b{text}\b" if text.isalpha() else re.escape(text)
    found = re.search(pattern, gap)
    return None if found is None else Span(left.stop + found.start(), left.stop + found.end())


def place_words(source: Source, line: int) -> str:
    """Where a line is: all that is told at the first level."""
    function = function_at(source, line)
    return f"Look at line {line}, in {function}." if function else f"Look at line {line}."


def make_edit(
    scene: Scene,
    kind: str,
    at: Span,
    new: str,
    *,
    what: str,
    likely: float,
    how: str = "",
    within: ast.expr | None = None,
) -> TrialEdit:
    """An edit that replaces a stretch of the text; ``how`` is made from that where not given.

    ``within`` is the expression around the stretch whose value the edit changes: what it gives in a
    run, before and after, is the proof that is shown.
    """
    source = scene.source
    line = source.text.count("\n", 0, at.start) + 1
    old = at.of(source)
    asks = would = ""
    if within is not None and not scene.has_own_names(within):
        around = span(scene, within)
        asks = around.of(source)
        would = source.text[around.start : at.start] + new + source.text[at.stop : around.stop]
    return TrialEdit(
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
        how=how or _how(old, new),
        likely=likely,
        size=abs(len(new) - len(old)) + 1,
        asks=asks,
        would=would,
    )


def _how(old: str, new: str) -> str:
    if not new.strip():
        return f"Take {quoted(old)} out."
    return f"Write {quoted(new)} instead of {quoted(old)}."


def whole_edit(
    scene: Scene,
    kind: str,
    text: str,
    line: int,
    *,
    what: str,
    how: str,
    likely: float,
    size: int,
    sure: bool = False,
    runs_at: int = 0,
) -> Iterator[TrialEdit]:
    """One edit from the whole text as it would be; none where nothing changes, or none can read it.

    ``line`` is the one at fault, which may be another than the first that changes; ``sure`` says
    that the text needs no reading to know that it is a program. ``runs_at``: see ``TrialEdit``.
    """
    source, old = scene.source, scene.source.text
    if old == text:
        return
    start = _shared(old, text)
    if len(text) > len(old) and text.endswith(old[start:]):
        tail = len(old) - start  # most often a line is put in
    else:
        room = min(len(old), len(text)) - start
        tail = _shared(old[::-1][:room], text[::-1][:room])
    stop = len(old) - tail
    if not (sure or _can_be_read(scene, start, stop, text)):
        return
    yield TrialEdit(
        kind=kind,
        file=source.name,
        line=line,
        function=function_at(source, line),
        start=start,
        stop=stop,
        old=old[start:stop],
        new=text[start : len(text) - tail],
        where=place_words(source, line),
        what=what,
        how=how,
        likely=likely,
        size=size,
        runs_at=runs_at,
    )


def _can_be_read(scene: Scene, start: int, stop: int, text: str) -> bool:
    """Whether a text is a program that has something else from ``start`` to ``stop``.

    The statements of the module around it are read, and not the whole: what lies before and
    behind them is as it was. The one before is among them, for a line may now belong to it.
    """
    before = [at for at in scene.tops if at < start][-2:]
    behind = next((at for at in scene.tops if at > stop), len(scene.source.text))
    first, last = before[0] if before else 0, len(text) - (len(scene.source.text) - behind)
    try:
        module_of(text[first:last])
    except (SyntaxError, ValueError, RecursionError):
        return False
    return True


def _shared(one: str, other: str) -> int:
    """How many characters two texts begin with alike."""
    least, most = 0, min(len(one), len(other))
    while least < most:
        middle = (least + most + 1) // 2
        if one[least:middle] == other[least:middle]:
            least = middle
        else:
            most = middle - 1
    return least
