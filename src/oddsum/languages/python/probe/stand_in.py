"""Puts the stand-in for the drawing module where a program finds it; loads it when one asks.

A program with a module of that name of its own keeps it.
"""

from __future__ import annotations

import os
import sys

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

NAME = "turtle"
PEN = "(pen)"  # what the trace calls the pen that functions without one move


class Finder:
    """Gives the stand-in to who imports the drawing module."""

    def __init__(self, folder: str) -> None:
        self.folder = folder

    def install(self) -> None:
        """Stand ahead of the standard library; once, however many cases a process begins."""
        sys.meta_path[:] = [self, *(f for f in sys.meta_path if type(f) is not Finder)]

    def find_spec(self, name: str, path: object = None, target: Any = None) -> Any:
        if name != NAME or os.path.exists(os.path.join(self.folder, NAME + ".py")):
            return None
        from importlib.machinery import ModuleSpec

        return ModuleSpec(name, self)  # type: ignore[arg-type]

    def create_module(self, spec: Any) -> Any:
        from . import easel

        easel.begin()
        return easel.made(NAME, PEN)

    def exec_module(self, module: Any) -> None:
        """It is whole already."""


def begin() -> None:
    """A clean sheet, where one was drawn on before."""
    if NAME in sys.modules and told() is not None:
        from . import easel

        easel.begin()


def fresh() -> None:
    """What was drawn so far does not count: the call that is checked begins now."""
    module = sys.modules.get(NAME)
    sheet = getattr(module, "_odd_sum_sheet", None)
    if sheet is not None:
        sheet.clear()


def told() -> Any:
    """What was drawn, None where the program has not imported the stand-in."""
    module = sys.modules.get(NAME)
    sheet = getattr(module, "_odd_sum_sheet", None)
    return sheet.told() if sheet is not None else None


def imports_it(node: Any) -> bool:
    """Whether an import statement imports the drawing module."""
    module = getattr(node, "module", None)
    return module == NAME or (module is None and any(a.name == NAME for a in node.names))


def uses_the_pen(tree: Any) -> bool:
    """Whether a program moves the pen that has no name: by functions of the module."""
    import ast

    named = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module == NAME:
            return True
        if isinstance(node, ast.Import):
            named |= {a.asname or a.name for a in node.names if a.name == NAME}
    return any(
        isinstance(n, ast.Call) and isinstance(n.func, ast.Attribute)
        and isinstance(n.func.value, ast.Name) and n.func.value.id in named
        and n.func.attr not in ("Turtle", "Pen", "Screen", "done", "mainloop", "exitonclick")
        for n in ast.walk(tree)
    )  # fmt: skip
