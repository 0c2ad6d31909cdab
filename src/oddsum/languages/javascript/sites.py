"""A program whose expressions can be given other values: each one's value goes through a hook.

Every expression whose value the program reads stands as ``ǂv(7,(expression)/*ǂ7*/)``; the hook
hears what it gave at each visit, and may hand on something else instead. Which expression a number
means is its place in ``rows``. The comment marks where the probe puts a way to the names that can
be used there, once it wants to know them. Between statements the hook stands by itself, for what
nothing prints.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.choices import with_ticks
from oddsum.languages.javascript.names import CHANGING, targets_of
from oddsum.languages.javascript.parsing import FUNCTIONS, Tree, around, line_of, own, walk
from oddsum.languages.javascript.rows import parameter_names

MOST = 600  # expressions of a program
MOST_GAPS = 300  # between its statements
_LONGEST = 100  # letters of an expression that could stand elsewhere
_KINDS = {
    "identifier": "name", "member_expression": "name", "subscript_expression": "name",
    "this": "other", "number": "number", "string": "text", "call_expression": "call",
    "binary_expression": "other", "unary_expression": "other", "ternary_expression": "other",
    "template_string": "other", "array": "other", "object": "other", "new_expression": "other",
    "await_expression": "other", "true": "other", "false": "other", "null": "other",
    "undefined": "other",
}  # fmt: skip
# What stands there is a name to be called, to be looked into or to be given a value.
_NO_VALUE = {
    "call_expression": ("function",), "new_expression": ("constructor",),
    "member_expression": ("object",), "assignment_expression": ("left",),
    "augmented_assignment_expression": ("left",), "update_expression": ("argument",),
    "variable_declarator": ("name",), "for_in_statement": ("left",), "catch_clause": ("parameter",),
    "arrow_function": ("parameter",), "function_declaration": ("name",),
    "generator_function_declaration": ("name",), "function_expression": ("name",),
    "generator_function": ("name",), "class_declaration": ("name",), "class": ("name",),
    "assignment_pattern": ("left",), "object_assignment_pattern": ("left",), "pair": ("key",),
    "pair_pattern": ("key", "value"), "method_definition": ("name",),
    "field_definition": ("property",),
}  # fmt: skip
_NO_PARTS = frozenset({
    "formal_parameters", "array_pattern", "object_pattern", "rest_pattern", "class_heritage",
    "computed_property_name", "spread_element", "import_specifier", "namespace_import",
    "import_clause", "import_statement", "export_specifier", "export_statement", "decorator",
    "expression_statement", "meta_property",
})  # fmt: skip
_COMPARING = frozenset({"==", "===", "!=", "!==", "<", "<=", ">", ">=", "in", "instanceof"})
_LOGICAL = frozenset({"&&", "||"})


_LEAVES = frozenset(
    {"return_statement", "throw_statement", "break_statement", "continue_statement"}
)
_OPENS = frozenset({
    "function_declaration", "generator_function_declaration", "class_declaration",
    "import_statement", "export_statement", "comment", "hash_bang_line",
})  # fmt: skip
_PRINTING = frozenset({"console.log", "console.info", "document.write", "alert"})


class Sites:
    """The expressions of a program's files; one and the same has one number in every reading."""

    def __init__(self) -> None:
        self.rows: list[dict[str, Any]] = []
        self._numbers: dict[tuple[str, int, int, str], int] = {}
        self._left = {False: MOST, True: MOST_GAPS}

    def hooked(self, name: str, text: str) -> str:
        """A file's text with its expressions hooked, and rounds and calls counted."""
        tree = Tree(text)
        return self._told(name, tree.root, tree)

    def _told(self, name: str, node: Node, tree: Tree) -> str:
        whole = node.parent is None
        first = 0 if whole else tree.start(node)
        last = len(tree.text) if whole else tree.stop(node)
        if node.type in ("import_statement", "comment"):
            return tree.text[first:last]
        number = self._number(name, node, tree)
        pieces, at = [], first
        gaps = self._gaps(name, node, tree)
        for child in node.children:
            pieces += [tree.text[at : tree.start(child)], gaps.get((child.id, "before"), "")]
            pieces += [self._told(name, child, tree), gaps.get((child.id, "behind"), "")]
            at = tree.stop(child)
        told = with_ticks(node, "".join([*pieces, tree.text[at:last]]))
        return told if number is None else f"ǂv({number},({told})/*ǂ{number}*/)"

    def _number(self, name: str, node: Node, tree: Tree) -> int | None:
        """The number of an expression; None for what is none, and where there are too many."""
        if node.type not in _KINDS or not is_value(node, tree):
            return None
        more = {"text": tree.of(node), "kind": _KINDS[node.type], "decides": _decides(node, tree)}
        return self._known(name, node, tree, more)

    def _known(self, name: str, node: Node, tree: Tree, more: dict[str, Any]) -> int | None:
        """The number of an expression, or of a gap beside a statement; None for one too many."""
        gap = more.get("gap", "")
        key = name, tree.start(node), tree.stop(node), gap
        if key not in self._numbers:
            if not self._left[bool(gap)]:
                return None
            self._left[bool(gap)] -= 1
            self._numbers[key] = len(self.rows)
            place = {"file": name, "start": key[1], "stop": key[2], "line": line_of(node)}
            self.rows.append(place | more)
        return self._numbers[key]

    def _gaps(self, name: str, block: Node, tree: Tree) -> dict[tuple[int, str], str]:
        """What stands in the gaps of a block, by the statement beside each and its side."""
        found: dict[tuple[int, str], str] = {}
        beside = list(_gaps_of(block))
        prints = bool(beside) and _prints(block, tree)  # once a block: it walks the function
        for node, side in beside:
            more = {"text": "", "kind": "gap", "decides": False, "gap": side, "prints": prints}
            number = self._known(name, node, tree, more)
            if number is not None:
                found[node.id, side] = f";ǂv({number},undefined/*ǂ{number}*/);"
        return found


def _gaps_of(block: Node) -> Iterator[tuple[Node, str]]:
    """The statements of a block beside which something could be put in, each with the side. Before
    a definition there is no gap: nothing happens there that the next one does not see as well."""
    if block.type not in ("program", "statement_block"):
        return
    inside = [n for n in block.children if n.is_named and n.type != "comment"]
    for number, node in enumerate(inside):
        if node.type not in _OPENS and not _is_directive(node, inside[:number]):
            yield node, "before"
    if inside and inside[-1].type not in _LEAVES:
        yield inside[-1], "behind"


def _is_directive(node: Node, before: list[Node]) -> bool:
    """Whether it is a text at the very beginning, as ``"use strict"``."""
    alone = node.type == "expression_statement" and node.named_child_count == 1
    is_text = alone and node.named_children[0].type == "string"
    return is_text and all(_is_directive(n, []) for n in before)


def _prints(block: Node, tree: Tree) -> bool:
    """Whether the function around prints something itself, or the program where there is none."""
    scope = block if block.parent is None else around(block, FUNCTIONS | {"program"})
    return scope is not None and any(tree.of(n) in _PRINTING for n in own(scope))


def words_of(text: str) -> dict[str, Any]:
    """What could be put together to an expression: ``names`` that the program gives values,
    ``standing``, expressions that it has, each with its line, ``fields`` that it looks into, and
    numbers and texts (``literals``).
    """
    tree = Tree(text)
    nodes = list(walk(tree.root))
    names: dict[str, None] = {}
    for node in nodes:
        names |= dict.fromkeys(tree.of(n) for n in targets_of(node, tree))
        given = node.child_by_field_name("parameters") or (
            node.child_by_field_name("parameter") if node.type == "arrow_function" else None
        )
        names |= dict.fromkeys(tree.of(n) for n in parameter_names(given, tree))
    standing = dict.fromkeys((tree.of(n), line_of(n)) for n in nodes if _could_stand(n, tree))
    literals = [(n.type, tree.of(n)) for n in nodes if n.type in ("number", "string")]
    return {
        "names": list(names), "standing": list(standing),
        "fields": list(dict.fromkeys(tree.of(n) for n in nodes if n.type == "property_identifier")),
        "literals": [t for t in dict.fromkeys(t for _, t in literals) if len(t) < 20],
    }  # fmt: skip


def _could_stand(node: Node, tree: Tree) -> bool:
    """Whether an expression could be worked out elsewhere as well, and changes nothing there."""
    if node.type not in _KINDS or node.type in ("number", "string", "await_expression"):
        return False
    text = tree.of(node)
    if len(text) > _LONGEST or "\n" in text or not is_value(node, tree):
        return False
    return not any(_does_something(n, tree) for n in walk(node))


def _does_something(node: Node, tree: Tree) -> bool:
    if node.type == "call_expression":
        called = node.child_by_field_name("function")
        method = called.child_by_field_name("property") if called is not None else None
        return tree.of(method) in CHANGING
    return node.type in ("assignment_expression", "augmented_assignment_expression",
                         "update_expression", "await_expression", "yield_expression")  # fmt: skip


def is_value(node: Node, tree: Tree) -> bool:
    """Whether a node stands where a value is read, and could be one in brackets."""
    above = node.parent
    if above is None or (above.type in _NO_PARTS and not _is_condition(node, above)):
        return False
    if any(above.child_by_field_name(f) == node for f in _NO_VALUE.get(above.type, ())):
        return False
    if above.type == "unary_expression" and above.children[0].type in ("delete", "typeof"):
        return False
    if above.type == "call_expression":
        return False  # a text that is given to a function without brackets
    if above.type == "arguments" and above.parent is not None:
        return tree.of(above.parent.child_by_field_name("function")) not in ("require", "import")
    chained = ("member_expression", "subscript_expression", "call_expression")
    return not (above.type in chained and any(c.type == "optional_chain" for c in walk(node)))


def _is_condition(node: Node, above: Node) -> bool:
    """Whether it is the middle of a ``for``, which some grammars take for a statement."""
    over = above.parent
    return (
        above.type == "expression_statement"
        and over is not None
        and over.type == "for_statement"
        and over.child_by_field_name("condition") == above
    )


def _decides(node: Node, tree: Tree) -> bool:
    """Whether it is asked for its truth alone."""
    if node.type == "binary_expression" and _sign(node, tree) in _COMPARING:
        return True
    inner, above = node, node.parent
    while above is not None and (
        above.type in ("parenthesized_expression", "expression_statement")
        or (above.type == "binary_expression" and _sign(above, tree) in _LOGICAL)
    ):
        inner, above = above, above.parent
    if above is None:
        return False
    if above.type == "unary_expression":
        return tree.says(above, "!")
    return above.child_by_field_name("condition") == inner


def _sign(node: Node, tree: Tree) -> str:
    return tree.of(node.child_by_field_name("operator"))


def numbered(texts: dict[str, dict[str, str]]) -> dict[str, Any]:
    """Of each file its readings (whole, and as a call needs it) with hooks, and what they mean."""
    sites = Sites()
    hooked = {
        name: {reading: sites.hooked(name, text) for reading, text in readings.items()}
        for name, readings in texts.items()
    }
    words = {name: words_of(readings["whole"]) for name, readings in texts.items()}
    return {"texts": hooked, "places": sites.rows, "words": words}
