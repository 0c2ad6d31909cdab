"""Calls whose result is another one each time: lots that are drawn, clocks that are read."""

from __future__ import annotations

import ast

from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source

_LOTS = frozenset(
    {"random", "randint", "choice", "shuffle", "uniform", "randrange", "sample", "choices"}
)
_CHANGING = {
    "random": _LOTS,
    "time": {"time", "time_ns", "perf_counter", "monotonic", "localtime", "ctime", "process_time"},
    "datetime": {"now", "today", "utcnow"},
    "date": {"today"},
    "os": {"urandom", "getpid"},
    "uuid": {"uuid1", "uuid4"},
    "secrets": {"token_hex", "randbelow", "choice", "token_bytes"},
}
_PLAIN = {"id", "urandom", "getpid", "uuid4", "token_hex", "randbelow", "SystemRandom"}
_SHOWN = 40  # characters of a call


def unsteady_calls(source: Source) -> tuple[tuple[int, str], ...]:
    """A line and the call as it is written, in the order of the lines."""
    return tuple(
        sorted(
            (node.lineno, ast.unparse(node)[:_SHOWN])
            for node in ast.walk(tree_of(source) or ast.Module([], []))
            if isinstance(node, ast.Call) and _changes(node.func)
        )
    )


def unseeded_calls(source: Source) -> tuple[tuple[int, str], ...]:
    """Of these, the calls that draw lots which no seed decides."""
    if not any(name in source.text for name in _OWN_LOTS | _SEEDED_BY_ARGUMENT):
        return ()
    return tuple(
        sorted(
            (node.lineno, ast.unparse(node)[:_SHOWN])
            for node in ast.walk(tree_of(source) or ast.Module([], []))
            if isinstance(node, ast.Call) and _is_unseeded(node)
        )
    )


def _is_unseeded(node: ast.Call) -> bool:
    name = getattr(node.func, "attr", None) or getattr(node.func, "id", "")
    if name in _OWN_LOTS:
        return True
    return name in _SEEDED_BY_ARGUMENT and not node.args and not node.keywords


_OWN_LOTS = frozenset(
    {"SystemRandom", "urandom", "uuid1", "uuid4", "token_hex", "token_bytes", "randbelow"}
)
_SEEDED_BY_ARGUMENT = frozenset({"default_rng", "Random", "RandomState"})


def _changes(func: ast.expr) -> bool:
    if isinstance(func, ast.Name):
        return func.id in _PLAIN
    if not isinstance(func, ast.Attribute):
        return False
    root = func.value
    name = root.attr if isinstance(root, ast.Attribute) else getattr(root, "id", "")
    return func.attr in _CHANGING.get(name, ())
