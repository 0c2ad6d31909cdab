"""A function for what has parts, that asks the parts themselves and not what they have in them."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.fitted import DEEPER, OF_THE_WHOLE
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span, text_of
from oddsum.languages.python.edits.scene import Function, Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Deeper(EditRule):
    """``total += part["own"]`` in ``weight(thing)``, as ``total += weight(part)``."""

    name = "deeper"
    title, explanation = DEEPER.title, DEEPER.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The function called for a part, where only something of the part is asked for; another
        that is given the whole of a thing, where one is given a part of it."""
        yield from self._of_the_whole(scene)
        for function in scene.functions.values():
            first = next(iter(parameters(function)), "")
            if not first or not _goes_over_parts(function, first):
                continue
            mine = {_asked(n) for n in ast.walk(function) if _base(n) == first}
            for node in ast.walk(function):
                name = _base(node)
                if name and name != first and isinstance(node, ast.expr) and _asked(node) in mine:
                    given = ", ".join([name, *parameters(function)[1:]])
                    new = f"{function.name}({given})"
                    yield make_edit(
                        scene,
                        self.name,
                        span(scene, node),
                        new,
                        likely=0.55,
                        what=DEEPER.asks.format(here=quoted(text_of(scene, node))),
                        within=node,
                    )

    def _of_the_whole(self, scene: Scene) -> Iterator[TrialEdit]:
        """``postage(parcel["weight"])`` as ``price(parcel)``."""
        functions = scene.functions.values()
        taking = [f for f in functions if len(f.args.args) == len(parameters(f)) == 1]
        for node in scene.expressions(ast.Call):
            if not isinstance(node, ast.Call) or len(node.args) != 1 or node.keywords:
                continue
            name, called = _base(node.args[0]), getattr(node.func, "id", "")
            for other in taking if name and called in scene.functions else ():
                if other.name != called and other is not scene.function_of(node):
                    here = quoted(text_of(scene, node))
                    yield make_edit(
                        scene, self.name, span(scene, node), f"{other.name}({name})", likely=0.4,
                        what=OF_THE_WHOLE.format(here=here, all=quoted(name)), within=node,
                    )  # fmt: skip


def _goes_over_parts(function: Function, name: str) -> bool:
    """Whether a loop of a function goes over something that its first parameter has."""
    loops = [n.iter for n in ast.walk(function) if isinstance(n, (ast.For, ast.comprehension))]
    return any(_base(n) == name for over in loops for n in ast.walk(over))


def _base(node: ast.AST) -> str:
    """The name that something is asked of, as an attribute or by a text; blank for others."""
    if isinstance(node, ast.Subscript) and not isinstance(node.slice, ast.Constant):
        return ""
    if isinstance(node, (ast.Attribute, ast.Subscript)) and isinstance(node.ctx, ast.Load):
        return getattr(node.value, "id", "")
    return ""


def _asked(node: ast.AST) -> str:
    """What is asked of it."""
    if isinstance(node, ast.Attribute):
        return node.attr
    key = node.slice if isinstance(node, ast.Subscript) else None
    return repr(key.value) if isinstance(key, ast.Constant) else ""
