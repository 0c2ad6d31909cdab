"""A function made in a loop that sees the loop's last value, not the one it was made with."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Late(EditRule):
    """``def f(age):`` in a loop over ``zone``, as ``def f(age, zone=zone):``."""

    name = "late"
    title = "a function that sees a loop's last value"
    explanation = (
        "A function looks a name up when it is called, not when it is made. One that is made in a "
        "loop and called after it finds the loop's last value. A default is worked out when the "
        "function is made: `zone=zone` keeps the value of that round."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """A default that keeps the value of the round, for each such name of each such function."""
        functions: list[ast.FunctionDef | ast.Lambda] = [
            n for n in ast.walk(scene.tree) if isinstance(n, (ast.FunctionDef, ast.Lambda))
        ]
        for function in functions:
            for name in _loop_names(scene, function):
                if _reads(function, name):
                    yield from self._kept(scene, function, name)

    def _kept(
        self, scene: Scene, function: ast.FunctionDef | ast.Lambda, name: str
    ) -> Iterator[TrialEdit]:
        at = _end_of_arguments(scene, function)
        if at is None:
            return
        arguments = function.args.args
        blank = " " if isinstance(function, ast.Lambda) and not arguments else ""
        comma = ", " if arguments else blank
        yield make_edit(
            scene,
            self.name,
            Span(at, at),
            f"{comma}{name}={name}",
            likely=0.85,
            what=f"The function is made in a loop and reads {quoted(name)} when it is called. What "
            f"is {quoted(name)} by then?",
            how=f"Keep the value of the round: give it `{name}={name}`.",
        )


def _loop_names(scene: Scene, function: ast.AST) -> Iterator[str]:
    """Names that the loops around a function set, in the function around it."""
    node = scene.parents.get(id(function))
    while node is not None and not isinstance(node, (ast.FunctionDef, ast.Lambda)):
        if isinstance(node, ast.For):
            yield from (n.id for n in ast.walk(node.target) if isinstance(n, ast.Name))
        for part in getattr(node, "generators", ()):
            yield from (n.id for n in ast.walk(part.target) if isinstance(n, ast.Name))
        node = scene.parents.get(id(node))


def _reads(function: ast.FunctionDef | ast.Lambda, name: str) -> bool:
    if any(a.arg == name for a in function.args.args):
        return False
    body = function.body if isinstance(function.body, list) else [function.body]
    inner = [n for s in body for n in ast.walk(s) if isinstance(n, ast.Name) and n.id == name]
    return bool(inner) and all(isinstance(n.ctx, ast.Load) for n in inner)


def _end_of_arguments(scene: Scene, function: ast.FunctionDef | ast.Lambda) -> int | None:
    """The offset behind the last argument; None where the list is of no plain kind."""
    arguments, source = function.args, scene.source
    if arguments.vararg or arguments.kwarg or arguments.kwonlyargs:
        return None
    start = source.offset(function.lineno, function.col_offset)
    text = source.text[start:]
    if arguments.args:
        last = arguments.defaults[-1] if arguments.defaults else arguments.args[-1]
        return source.offset(last.end_lineno or last.lineno, last.end_col_offset or 0)
    if isinstance(function, ast.Lambda):
        return start + len("lambda")
    found = text.find("(")
    return start + found + 1 if found >= 0 else None
