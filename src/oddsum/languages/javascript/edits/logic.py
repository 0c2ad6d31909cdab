"""Conditions: both or one of them, the opposite, always."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import line_of
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_HEADERS = ("if_statement", "while_statement", "for_statement", "for_in_statement")
_COMPARES = ("===", "==", "!==", "!=", "<", "<=", ">", ">=")


class Logic(EditRule):
    """``&&`` for ``||``, the opposite, one part of two."""

    name = "logic"
    title = "a condition put together in another way"
    explanation = (
        "`&&` holds where both parts do, `||` as soon as one does. A condition on each name "
        "needs its "
        "own comparison: `a === 1 || b === 1`."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The other word; each part alone; the opposite of a condition."""
        for node in scene.of_type("binary_expression"):
            sign = scene.text(scene.operator(node))
            if sign not in ("&&", "||"):
                continue
            other = "||" if sign == "&&" else "&&"
            text = quoted(scene.text(node))
            all_or_one = (
                "only when all of its parts are" if sign == "&&" else "as soon as one part is"
            )
            what = f"{text} is true {all_or_one}. Is that what is meant?"
            yield make_edit(
                scene, self.name, scene.operator(node), other, likely=0.7, what=what, within=node
            )
            for side in ("left", "right"):
                part = scene.text(scene.field(node, side))
                yield make_edit(scene, self.name, node, part, likely=0.3, what=what, within=node)
            yield from self._chained(scene, node, sign)
            yield from self._of_a_tie(scene, node, sign)
        for node in scene.of_type("if_statement", "while_statement"):
            asked = scene.field(node, "condition").named_children[0]
            text = scene.text(asked)
            new = text[1:] if text.startswith("!") else f"!({text})"
            yield make_edit(
                scene,
                self.name,
                asked,
                new,
                likely=0.45,
                within=asked,
                what=f"{quoted(text)}: is it this, or the opposite, that is meant?",
            )
        for node in scene.of_type("unary_expression"):
            if scene.text(node).startswith("!"):
                inner = scene.text(scene.field(node, "argument"))
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    inner,
                    likely=0.4,
                    within=node,
                    what=f"{quoted(scene.text(node))}: is it this, or the opposite?",
                )
        for node in scene.of_type("true", "false"):
            other = "false" if node.type == "true" else "true"
            yield make_edit(
                scene,
                self.name,
                node,
                other,
                likely=0.4,
                within=node,
                what=f"`{node.type}` stands here. Is it that?",
            )

    def _of_a_tie(self, scene: Scene, node: Node, sign: str) -> Iterator[TrialEdit]:
        """``n > most || name < best`` with ``n === most`` asked first of the second."""
        left, right = scene.field(node, "left"), scene.field(node, "right")
        while left.type == "binary_expression" and scene.text(scene.operator(left)) == sign:
            left = scene.field(left, "right")
        both = [n for n in (left, right) if n.type == "binary_expression"]
        if sign != "||" or len(both) < 2:
            return
        if any(scene.text(scene.operator(n)) not in ("<", ">") for n in both):
            return
        same = (
            f"{scene.text(scene.field(left, 'left'))} === {scene.text(scene.field(left, 'right'))}"
        )
        yield make_edit(
            scene,
            self.name,
            right,
            f"({same} && {scene.text(right)})",
            likely=0.6,
            within=node,
            what=f"{quoted(scene.text(right))} is asked whatever comes of "
            f"{quoted(scene.text(left))}, also where that is less.",
        )

    def _chained(self, scene: Scene, node: Node, sign: str) -> Iterator[TrialEdit]:
        """``a === 1 || a === 2`` for ``a === 1 || 2``."""
        left, right = scene.field(node, "left"), scene.field(node, "right")
        while left.type == "binary_expression" and scene.text(scene.operator(left)) == sign:
            left = scene.field(left, "right")
        asks = left.type == "binary_expression" and scene.text(scene.operator(left)) in _COMPARES
        if not asks or right.type not in ("string", "number", "identifier"):
            return
        asked = f"{scene.text(scene.field(left, 'left'))} {scene.text(scene.operator(left))}"
        yield make_edit(
            scene,
            self.name,
            right,
            f"{asked} {scene.text(right)}",
            likely=0.95 if right.type != "identifier" else 0.4,
            within=node,
            what=f"{quoted(scene.text(right))} stands here alone: with what is it compared?",
        )


class EmptyBody(EditRule):
    """``if (...);``: a semicolon that is all of the body."""

    name = "empty body"
    title = "a semicolon that ends a loop or an `if` too early"
    explanation = (
        "A semicolon right behind `if (...)`, `while (...)` or `for (...)` is the whole of what it "
        "decides on: the block below runs in any case, and once."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Take it out."""
        for node in scene.of_type("empty_statement"):
            above = node.parent
            if above is None or above.type not in _HEADERS:
                continue
            if node in (above.child_by_field_name(f) for f in ("body", "consequence")):
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    "",
                    likely=0.95,
                    what="A semicolon stands right behind this header: nothing else belongs to it.",
                    how="Take the semicolon behind the header out.",
                )


class Falling(EditRule):
    """``case`` without ``break``."""

    name = "falling through"
    title = "a `case` that goes on into the next"
    explanation = "Without `break` or `return`, a `case` goes on with the lines of the next one."

    invents = "a line"

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """A ``break`` at the end of each that has none."""
        for node in scene.of_type("switch_case"):
            body = [n for n in node.named_children if n != node.child_by_field_name("value")]
            last = body[-1] if body else None
            if last is None or last.type in (
                "break_statement",
                "return_statement",
                "throw_statement",
                "continue_statement",
            ):
                continue
            at = scene.tree.stop(last)
            one_line = line_of(last) == line_of(node)
            yield make_edit(
                scene,
                self.name,
                (at, at),
                " break;" if one_line else f"\n{' ' * last.start_point[1]}break;",
                likely=0.85,
                line=last.end_point[0] + 1,
                what="This `case` has no `break`: after its lines those of the next one run.",
                how="Write `break;` at the end of this `case`.",
            )
