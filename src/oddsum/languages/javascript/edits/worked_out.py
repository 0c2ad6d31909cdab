"""What was found from the values that would have been right: another expression, a branch more."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.fitted import EXPRESSION, GUARD
from oddsum.languages.javascript.edits.missing import indent_of
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import Tree, is_statement, line_of
from oddsum.languages.javascript.sites import is_value
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

# Beside these what is worked out needs brackets of its own.
_BESIDE = frozenset({"binary_expression", "unary_expression", "member_expression",
                     "subscript_expression", "ternary_expression", "await_expression",
                     "spread_element"})  # fmt: skip
_SIMPLE = frozenset({"identifier", "call_expression", "member_expression", "subscript_expression",
                     "number", "string", "array", "this", "true", "false", "null", "undefined",
                     "parenthesized_expression", "template_string"})  # fmt: skip


class Expression(EditRule):
    """What an expression works out is not what is needed; another works it out."""

    name = "expression"
    invents = "a value"
    title, explanation = EXPRESSION.title, EXPRESSION.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """None: an expression is found from values, not read off the source."""
        return iter(())

    def instead(
        self, scene: Scene, start: int, stop: int, text: str, likely: float
    ) -> TrialEdit | None:
        """Another expression at a place; None where no expression of the program stands there."""
        node = _value_at(scene, start, stop)
        if node is None or node.parent is None:
            return None
        above = node.parent
        in_key = above.type == "subscript_expression" and scene.field(above, "index") == node
        if above.type in _BESIDE and not in_key and not _is_simple(text):
            text = f"({text})"
        return make_edit(
            scene,
            self.name,
            node,
            text,
            likely=likely,
            within=node,
            what=EXPRESSION.asks.format(here=quoted(scene.text(node))),
        )


class Guard(EditRule):
    """``if (age < 6) return 0;`` ahead of a ``return``, found from values that would be right."""

    name = "guard"
    invents = "a value"
    title, explanation = GUARD.title, GUARD.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """None: a branch is found from values, not read off the source."""
        return iter(())

    def ahead(
        self, scene: Scene, start: int, stop: int, condition: str, result: str, likely: float
    ) -> TrialEdit | None:
        """A branch ahead of the ``return`` whose value stands there; None where none does."""
        value = _value_at(scene, start, stop)
        node = value.parent if value is not None else None
        while node is not None and node.type == "parenthesized_expression":
            node = node.parent
        if node is None or node.type != "return_statement":
            return None
        indent, first = indent_of(node), scene.tree.start(node)
        if scene.source.text[first - len(indent) : first].strip():
            return None  # it shares its line with a header
        told = f"if ({condition}) return {result};"
        return make_edit(
            scene,
            self.name,
            (first, first),
            f"{told}\n{indent}",
            likely=likely,
            line=line_of(node),
            what=GUARD.asks,
            how=f"Put in, ahead of line {line_of(node)}: {quoted(told)}.",
        )


def _value_at(scene: Scene, start: int, stop: int) -> Node | None:
    """The expression from one offset to another; None where there is none."""
    return next(
        (
            n
            for n in scene.nodes
            if (scene.tree.start(n), scene.tree.stop(n)) == (start, stop)
            and not is_statement(n)
            and is_value(n, scene.tree)
        ),
        None,
    )


def _is_simple(text: str) -> bool:
    root = Tree(f"({text}\n)").root
    inside = root.named_children[0].named_children[0].named_children
    return len(inside) == 1 and inside[0].type in _SIMPLE
