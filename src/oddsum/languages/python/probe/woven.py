"""A file of the program woven for a recording: its code, and what the numbers in it mean.

Weaving takes some tens of milliseconds for a program of a hundred lines, most of what the recording
of a small case takes. A host does it once, ahead of its forks (see ready.py).
"""

from __future__ import annotations

import ast
import os

from .tasks import starts_threads
from .weave import Weaver

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


class Woven:
    """``weaver`` has the statements and slots, numbered from the bases; ``threads``: it starts
    some. ``skipped``: lines of the top level that were left out for a call.
    """

    def __init__(self, code: Any, weaver: Weaver, threads: bool, skipped: list[int]) -> None:
        self.code, self.weaver, self.threads, self.skipped = code, weaver, threads, skipped


def woven(
    program: Any,
    data: Any,
    path: Any,
    select: Any = None,
    bases: tuple[int, int] = (0, 0),
    apart: bool = False,
    first: Callable[[Any, str], None] = lambda _tree, _name: None,
) -> Woven:
    """Read a file and weave it; statements and slots are numbered from ``bases``.

    ``apart`` is the weaver's, for watches; ``first`` may look at the tree, and change it.
    """
    tree: Any = ast.parse(data, path)
    if select is not None:
        tree = select(tree)
    name = os.path.relpath(path, program.folder)
    first(tree, name)
    threads = starts_threads(tree)
    weaver = Weaver(name, *bases, prefix_of(program, path))
    weaver.apart = apart
    code = compile(weaver.weave(tree), path, "exec", dont_inherit=True)
    return Woven(code, weaver, threads, program.skipped)


def prefix_of(program: Any, path: Any) -> str:
    """What the names of a module carry: blank for those of the program's own file."""
    if path == program.path:
        return ""
    stem: str = os.path.splitext(os.path.relpath(path, program.folder))[0]
    return stem.replace(os.sep, ".")


def key_of(data: Any, path: Any, top_level: str | None) -> tuple[Any, ...]:
    """Under which name a host keeps the program's own file; ``top_level`` for a call, else None."""
    return data, path, "woven", top_level
