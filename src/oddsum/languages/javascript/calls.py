"""Functions as they are recorded: a call that begins, waits, goes on and is over.

function cost(age) { ... }    function cost(age) { const ǂf = ǂ.call(2, ...); try { ... } ... }
await cost(9)                 ǂ.back(ǂf, await ǂ.leave(ǂf, cost(9)))
"""

from __future__ import annotations

from typing import Protocol

from tree_sitter import Node

from oddsum.languages.javascript.parsing import CLASSES, FUNCTIONS, Tree, own, walk
from oddsum.languages.javascript.rows import Rows, Scope, declared, made_anew, parameter_names

HOOK = "ǂ"
CHANGING = frozenset({"call_expression", "new_expression", "await_expression", "yield_expression",
                      "template_string", "update_expression", "augmented_assignment_expression",
                      "assignment_expression", "unary_expression"})  # fmt: skip
_USED = frozenset({"identifier", "shorthand_property_identifier", "this"})


class Puts(Protocol):
    """What puts a program together. ``now``: the number of the statement that is being woven."""

    now: int

    def emit(self, node: Node) -> str:
        """The text of a node, woven."""

    def children(self, node: Node, instead: dict[int, str] | None = None) -> str:
        """That of its children; some of them, by id, replaced."""

    def binds(self, nodes: list[Node]) -> str:
        """Calls that tell what names were given."""


class Calls:
    """Weaves functions, and the places where they wait. ``titles``: what each is called, by where
    it begins."""

    def __init__(self, puts: Puts, tree: Tree, rows: Rows, titles: dict[int, str]) -> None:
        self._put, self._tree, self._rows, self._titles = puts, tree, rows, titles

    def waits(self, node: Node) -> str:
        """An `await`: the call leaves the stack and comes back to it."""
        value = node.named_children[-1]
        if self._rows.scope.above is None:
            return f"{HOOK}.top({self._put.now}, {self._put.children(node)})"
        left = f"{HOOK}.leave({HOOK}f, {self._put.emit(value)})"
        text = self._put.children(node, {value.id: left})
        return f"{HOOK}.back({HOOK}f, {text})"

    def gives(self, node: Node) -> str:
        """A `yield`, or a `yield*`."""
        values = node.named_children
        over = self._tree.says(node, "*")
        if over and self._rows.scope.slow:
            return f"{HOOK}.back({HOOK}f, {self._put.children(node)})"
        if over:
            through = f"{HOOK}.through({HOOK}f, {self._put.emit(values[-1])})"
            return f"({self._put.children(node, {values[-1].id: through})})"
        if not values:
            return f"({HOOK}.back({HOOK}f, yield {HOOK}.gives({HOOK}f)))"
        given = f"{HOOK}.gives({HOOK}f, {self._put.emit(values[-1])})"
        text = self._put.children(node, {values[-1].id: given})
        return f"({HOOK}.back({HOOK}f, {text}))"

    def function(self, node: Node) -> str:
        """A function of any kind, with its call told ahead of its body and its end behind it."""
        body = node.child_by_field_name("body")
        if body is None:
            return self._put.children(node)
        title = self._titles.get(self._tree.start(node), "function")
        above = self._rows.scope
        parameters = node.child_by_field_name("parameters") or node.child_by_field_name("parameter")
        names = list(parameter_names(parameters, self._tree))
        inner = Scope(title, above.depth + 1, above)
        inner.names = {self._tree.of(n) for n in names} | declared(body, self._tree)
        inner.anew = made_anew(body, self._tree)
        if node.type == "method_definition" and _mentions_this(node):
            inner.names.add("this")
        if node.type == "function_expression" and node.child_by_field_name("name") is not None:
            inner.names.add(self._tree.of(node.child_by_field_name("name")))
        before = {} if parameters is None else {parameters.id: self._put.emit(parameters)}
        generator = self._tree.says(node, "*") or "generator" in node.type
        slow = self._tree.says(node, "async")
        inner.waits, inner.slow = generator or slow, slow
        inner.used_inside = _uses_inside(body, inner.names, self._tree)
        with self._rows.inside(inner):
            number = self._rows.statement(node, "def")
            binds = self._seen(node) + self._put.binds(names)
            has_this = "this" in inner.names and _has_this(node, self._tree)
            this = f"{HOOK}.b({self._rows.slot('this')}, this);" if has_this else ""
            text = self._put.children(body) if body.type == "statement_block" else self._given(body)
        around = ", ".join(f"{HOOK}{n}" for n in range(1, inner.depth))
        depth = f"{HOOK}{inner.depth}"
        kind = "2" if generator else "1" if slow else "0"
        cells = "1" if inner.used_inside else "0"
        called = f"{HOOK}.call({number}, [{around}], {kind}, {cells})"
        begin = f"const {HOOK}f = {called}, {depth} = {HOOK}f.number;try {{{this}{binds}"
        end = f"}} catch ({HOOK}e) {{ throw {HOOK}.x({HOOK}f, {HOOK}e); }}"
        end += f" finally {{ {HOOK}.l({HOOK}f); }}"
        if body.type == "statement_block":
            inside = text[1:-1]
            said, rest = _directives(body, self._tree, inside)
            made = f"{{{said}{begin}{rest}{end}}}"
        else:
            made = f"{{{begin}{text}{end}}}"
        return self._put.children(node, {**before, body.id: made})

    def _seen(self, function: Node) -> str:
        """Calls that tell what a function sees of names that each round of a loop around it has
        for itself: those of the round it was made in."""
        told: dict[str, str] = {}
        for node in walk(function):
            name = self._tree.of(node) if node.type in _USED else ""
            home = self._rows.scope.home(name)
            if home is None or home is self._rows.scope or name not in home.anew:
                continue
            number = f"{HOOK}{home.depth}" if home.depth else "0"
            slot = self._rows.seen_from_rounds(name)
            told[name] = f"{HOOK}.see({HOOK}f, {slot}, {number}, () => {name});"
        return "".join(told.values())

    def _given(self, body: Node) -> str:
        """The body of an arrow that is an expression: a step that gives it back."""
        how = "w" if any(n.type in CHANGING for n in own(body)) else "v"
        step = f"{HOOK}.{how}({self._rows.statement(body, 'expr')});"
        return f"{step} return {HOOK}.r({self._put.emit(body)});"

    def again(self) -> str:
        """Ahead of what a function that waits can come to without the value it waited for."""
        return f"{HOOK}.again({HOOK}f);" if self._rows.scope.waits else ""


def _uses_inside(body: Node, names: set[str], tree: Tree) -> bool:
    """Whether a function inside of a body uses one of the names that are its own."""
    functions = (n for n in own(body) if n.type in FUNCTIONS or n.type in CLASSES)
    used = (n for f in functions for n in walk(f) if n.type in _USED)
    return any(tree.of(n) in names for n in used)


def _has_this(node: Node, tree: Tree) -> bool:
    """Whether a function begins with the `this` that it is called on, as one of its names."""
    if node.type != "method_definition":
        return False
    if tree.says(node, "static", "get", "set"):
        return False
    around = node.parent.parent if node.parent is not None else None
    derived = around is not None and any(c.type == "class_heritage" for c in around.children)
    late = tree.of(node.child_by_field_name("name")) == "constructor" and derived
    return not late  # it has none before `super` was called


def _directives(body: Node, tree: Tree, inside: str) -> tuple[str, str]:
    """What a body begins with that has to stay its beginning, and the rest."""
    first = next((c for c in body.named_children if c.type != "comment"), None)
    if first is None or not is_directive(first, tree):
        return "", inside
    text = tree.of(first)
    at = inside.index(text) + len(text)
    return inside[:at] + ("" if text.endswith(";") else ";"), inside[at:]


def _mentions_this(node: Node) -> bool:
    return any(n.type == "this" for n in walk(node))


def is_directive(node: Node, tree: Tree) -> bool:
    """Whether a statement is one of those words that a body begins with: `"use strict"`."""
    return (
        node.type == "expression_statement"
        and node.named_child_count == 1
        and node.named_children[0].type == "string"
        and tree.of(node.named_children[0])[1:-1].startswith("use ")
    )
