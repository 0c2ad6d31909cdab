"""A variable that begins with another value than it should."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.candidates import begun
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Function, Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST_NAMED = 6  # items by name, that a variable may begin with
_BEGINNINGS = ("0", "1", '""', "[]", "None", "True", "False")


class Initial(EditRule):
    """The first value of a total, a largest or smallest so far, a count, a flag."""

    name = "initial"
    title = "a beginning that is not the right one"
    explanation = (
        "A sum begins with 0, a product with 1, a largest-so-far with the first item and not with "
        "0. Try an input in which the first value shows: none at all, or all below zero."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each value given before a loop, with others that things begin with; a count's first."""
        for node in scene.statements(ast.Assign):
            assert isinstance(node, ast.Assign)
            if isinstance(
                node.value,
                (ast.Constant, ast.List, ast.UnaryOp, ast.Attribute, ast.Subscript, ast.Name),
            ):
                yield from self._of(scene, node)
            yield from self._with_one(scene, node)
        for call in scene.expressions(ast.Call):
            if isinstance(call, ast.Call) and getattr(call.func, "id", "") == "enumerate":
                yield from self._numbered(scene, call)

    def _numbered(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        """``enumerate(rows)``, numbered from 1 and not from 0, and the other way round."""
        given = [*node.args, *(k.value for k in node.keywords)]
        if len(node.args) == 1 and len(given) == 1:
            end = span(scene, node).stop - 1
            if not scene.source.text[:end].rstrip().endswith(","):
                yield make_edit(
                    scene,
                    self.name,
                    Span(end, end),
                    ", 1",
                    likely=0.45,
                    within=node,
                    what=f"{quoted(text_of(scene, node))} counts from 0.",
                    how="Count from 1.",
                )
        elif len(given) == 2 and isinstance(given[1], ast.Constant) and given[1].value != 0:
            yield make_edit(
                scene,
                self.name,
                span(scene, given[1]),
                "0",
                likely=0.4,
                within=node,
                what=f"{quoted(text_of(scene, node))} does not count from 0.",
            )

    def _with_one(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        """``seen = set()`` as ``{here}``, ``waiting = []`` as ``[here]``: one is there already."""
        old = text_of(scene, node.value)
        brackets = {"set()": "{}", "[]": "[]"}.get(old)
        if brackets is None or not isinstance(node.targets[0], ast.Name):
            return
        function = scene.function_of(node)
        items = [*_only_items(scene, function), *parameters(function), *_put_in(scene, node)]
        for item in dict.fromkeys(items):
            new = f"{brackets[0]}{item}{brackets[1]}"
            yield make_edit(
                scene,
                self.name,
                span(scene, node.value),
                new,
                likely=0.35,
                what=f"{quoted(node.targets[0].id)} begins with nothing in it. Is one there from "
                "the beginning?",
            )

    def _of(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        at = span(scene, node.value)
        old = at.of(scene.source)
        target = quoted(text_of(scene, node.targets[0]))
        new = dict.fromkeys(_fitting(node.value), 0.4)
        new |= dict.fromkeys(_first_items(scene, node), 0.4)
        new |= dict.fromkeys(_attributes(scene, node), 0.25)
        new |= dict.fromkeys(_named_items(scene, node), 0.3)
        new |= {n: 0.2 for n in scene.names_at(node) if n != text_of(scene, node.targets[0])}
        if isinstance(node.value, (ast.Constant, ast.UnaryOp)):
            new |= {'float("inf")': 0.2, '-float("inf")': 0.2}
        for text, likely in new.items():
            if text != old:
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    text,
                    likely=likely,
                    what=f"{target} begins with {quoted(old)}. Follow an input in which that "
                    "first value matters.",
                )


def _put_in(scene: Scene, node: ast.Assign) -> list[str]:
    """What is put into the variable later, of names that have a value already."""
    name, function = text_of(scene, node.targets[0]), scene.function_of(node)
    above = [s for s in scene.statements(ast.Assign)
             if s.lineno < node.lineno and scene.function_of(s) is function]  # fmt: skip
    known = begun(above) | set(parameters(function))
    return [
        text_of(scene, call.args[0])
        for call in scene.expressions(ast.Call)
        if isinstance(call, ast.Call)
        and isinstance(call.func, ast.Attribute)
        and call.func.attr in ("append", "add")
        and text_of(scene, call.func.value) == name
        and len(call.args) == 1
        and scene.function_of(call) is function
        and {n.id for n in ast.walk(call.args[0]) if isinstance(n, ast.Name)} & known
    ]


def _only_items(scene: Scene, function: Function | None) -> list[str]:
    """What stands alone in a list or set that a variable of the function begins with."""
    return [
        text_of(scene, node.value.elts[0])
        for node in ast.walk(function or scene.tree)
        if isinstance(node, ast.Assign)
        and isinstance(node.value, (ast.List, ast.Set))
        and len(node.value.elts) == 1
        and scene.function_of(node) is function
    ]


def _fitting(node: ast.expr) -> tuple[str, ...]:
    """Beginnings of the same sort as the value that stands there."""
    if isinstance(node, ast.Constant) and isinstance(node.value, bool):
        return ("True", "False")
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return ('""', "[]")
    return _BEGINNINGS


def _attributes(scene: Scene, node: ast.Assign) -> list[str]:
    """``self.day``: what the object has, where one is at hand."""
    function = scene.function_of(node)
    if function is None or [a.arg for a in function.args.args][:1] != ["self"]:
        return []
    return [f"self.{name}" for name in scene.set_attributes[:8]]


def _named_items(scene: Scene, node: ast.Assign) -> list[str]:
    """``thing["own"]``: what is asked elsewhere of something of that name, by a name of its own."""
    names = scene.names_at(node)
    found = [
        text_of(scene, n)
        for n in scene.expressions(ast.Subscript)
        if isinstance(n, ast.Subscript)
        and isinstance(n.value, ast.Name)
        and n.value.id in names
        and isinstance(n.slice, ast.Constant)
        and type(n.slice.value) is str
    ]
    return list(dict.fromkeys(found))[:_MOST_NAMED]


def _first_items(scene: Scene, node: ast.Assign) -> list[str]:
    """First items of the lists that can be read here."""
    return [f"{name}[0]" for family in ("list", "tuple") for name in scene.names_of(family, node)]
