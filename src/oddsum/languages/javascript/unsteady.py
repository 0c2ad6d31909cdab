"""Calls whose result is another one each time: lots that are drawn, clocks that are read."""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.languages.javascript.parsing import line_of, tree_of, walk
from oddsum.source.program import Source

_LOTS = frozenset({"Math.random"})
_OWN_LOTS = frozenset({"crypto.randomUUID", "crypto.randomInt", "crypto.randomBytes",
                       "crypto.getRandomValues"})  # fmt: skip
_CLOCKS = frozenset({"Date.now", "performance.now", "process.hrtime", "process.uptime"})
_SHOWN = 40  # characters of a call


def unsteady_calls(source: Source) -> tuple[tuple[int, str], ...]:
    """A line and the call as it is written, in the order of the lines."""
    return tuple(_calls(source, _LOTS | _OWN_LOTS | _CLOCKS, dates=True))


def unseeded_calls(source: Source) -> tuple[tuple[int, str], ...]:
    """Of these, the calls that draw lots which no seed decides."""
    return tuple(_calls(source, _OWN_LOTS, dates=False))


def _calls(source: Source, names: frozenset[str], *, dates: bool) -> Iterator[tuple[int, str]]:
    tree = tree_of(source)
    for node in walk(tree.root):
        called = node.child_by_field_name("function") or node.child_by_field_name("constructor")
        if called is None or node.type not in ("call_expression", "new_expression"):
            continue
        given = node.child_by_field_name("arguments")
        now = tree.of(called) == "Date" and (given is None or not given.named_children)
        if tree.of(called) in names or (dates and now):
            yield line_of(node), tree.of(node)[:_SHOWN]
