"""A comparison too loose, too tight, or the wrong way round; ``=`` where one is meant."""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.languages.comparing import sign_words
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MEANT: dict[str, tuple[tuple[str, float], ...]] = {
    "<": (("<=", 0.9), (">", 0.6), (">=", 0.3), ("!==", 0.2)),
    "<=": (("<", 0.9), (">=", 0.6), (">", 0.3), ("===", 0.2)),
    ">": ((">=", 0.9), ("<", 0.6), ("<=", 0.3), ("!==", 0.2)),
    ">=": ((">", 0.9), ("<=", 0.6), ("<", 0.3), ("===", 0.2)),
    "===": (("!==", 0.6), ("==", 0.5), (">=", 0.4), ("<=", 0.4), (">", 0.2), ("<", 0.2)),
    "==": (("!=", 0.6), ("===", 0.7), (">=", 0.4), ("<=", 0.4), (">", 0.2), ("<", 0.2)),
    "!==": (("===", 0.6), ("<", 0.4), (">", 0.4), ("!=", 0.4)),
    "!=": (("==", 0.6), ("!==", 0.6), ("<", 0.4), (">", 0.4)),
}


class Comparison(EditRule):
    """Each comparison with each sign that could have been meant."""

    name = "comparison"
    title = "a comparison that asks a slightly other question"
    explanation = (
        "`<` and `<=` differ in one value only: the limit itself. `==` turns both sides into "
        "one kind "
        "first, `===` does not. Try the limit, and the values beside it on both sides."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another sign for each comparison."""
        for node in scene.of_type("binary_expression"):
            sign = scene.text(scene.operator(node))
            left, right = (
                scene.text(scene.field(node, "left")),
                scene.text(scene.field(node, "right")),
            )
            for new, likely in _MEANT.get(sign, ()):
                what = _words(sign, new, f"{left} {sign} {right}", left, right)
                yield make_edit(
                    scene,
                    self.name,
                    scene.operator(node),
                    new,
                    what=what,
                    likely=likely,
                    within=node,
                )


class Assigned(EditRule):
    """``if (a = 1)``: a condition that gives a value."""

    name = "assigned"
    title = "a condition that gives a value and asks nothing"
    explanation = (
        "A single `=` gives a name a value, also in a condition: it then holds whenever that value "
        "counts as true. `===` asks."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """A comparison in its place."""
        for node in scene.of_type("assignment_expression"):
            above = node.parent
            if above is None or above.type not in (
                "parenthesized_expression",
                "binary_expression",
                "ternary_expression",
            ):
                continue
            left, right = scene.field(node, "left"), scene.field(node, "right")
            between = (scene.tree.stop(left), scene.tree.start(right))
            text = scene.text(node)
            yield make_edit(
                scene,
                self.name,
                between,
                " === ",
                likely=0.95,
                what=f"{quoted(text)} gives {quoted(scene.text(left))} a value: it asks nothing.",
                how=f"Write `===` instead of `=` in {quoted(text)}.",
            )
            yield make_edit(
                scene,
                self.name,
                node,
                scene.text(left),
                likely=0.9,
                what=f"{quoted(text)} gives {quoted(scene.text(left))} a value: it asks nothing.",
            )


class NotANumber(EditRule):
    """``x === NaN``, which holds for nothing."""

    name = "not a number"
    title = "a comparison with NaN"
    explanation = "NaN is equal to nothing, not even to itself: `Number.isNaN(x)` asks for it."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``Number.isNaN`` in its place."""
        for node in scene.of_type("binary_expression"):
            sign = scene.text(scene.operator(node))
            sides = [scene.text(scene.field(node, side)) for side in ("left", "right")]
            if sign not in ("==", "===", "!=", "!==") or not {"NaN", "Number.NaN"} & {*sides}:
                continue
            other = sides[0] if sides[1].endswith("NaN") else sides[1]
            yield make_edit(
                scene,
                self.name,
                node,
                f"{'!' if sign.startswith('!') else ''}Number.isNaN({other})",
                likely=0.95,
                within=node,
                what=f"{quoted(scene.text(node))}: what is equal to NaN?",
            )


class AsNumbers(EditRule):
    """Texts that are compared or put together, where numbers are meant."""

    name = "as text"
    title = "texts where numbers are meant"
    explanation = (
        "What is typed in is a text. `+` puts texts one behind the other, and `<` compares "
        "them letter "
        "by letter, so that '9' comes after '12'. `Number(...)` makes a number of a text."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``Number(...)`` around what reads, and around names that were seen as texts."""
        for node in scene.of_type("call_expression"):
            called = scene.text(scene.field(node, "function"))
            above = node.parent
            wrapped = above is not None and above.type == "arguments"
            if (called == "prompt" or called.endswith(".question")) and not wrapped:
                around = above if above is not None and above.type == "await_expression" else node
                yield self._number(scene, around, 0.85)
        for node in scene.of_type("identifier"):
            above = node.parent
            if above is None or above.type not in (
                "binary_expression",
                "augmented_assignment_expression",
            ):
                continue
            left = above.child_by_field_name("left") == node
            if above.type == "augmented_assignment_expression" and left:
                continue
            if "string" in scene.types_of(scene.text(node), node):
                yield self._number(scene, node, 0.6)
        for node in scene.of_type("identifier"):
            above = node.parent
            if above is None or "string" not in scene.types_of(scene.text(node), node):
                continue
            if above.type in ("return_statement", "arguments", "pair", "array") or (
                above.type in ("variable_declarator", "assignment_expression")
                and node in (above.child_by_field_name("value"), above.child_by_field_name("right"))
            ):
                yield self._number(scene, node, 0.4)
        for node in scene.of_type("member_expression", "subscript_expression"):
            above = node.parent
            right = (
                above is not None
                and above.type == "augmented_assignment_expression"
                and (above.child_by_field_name("right") == node)
            )
            if right or (above is not None and above.type == "binary_expression"):
                yield self._number(scene, node, 0.25)

    def _number(self, scene: Scene, node, likely: float) -> TrialEdit:  # type: ignore[no-untyped-def]
        text = scene.text(node)
        return make_edit(
            scene,
            self.name,
            node,
            f"Number({text})",
            likely=likely,
            within=node,
            what=f"{quoted(text)}: is that a number here, or a text that looks like one?",
        )


def _words(sign: str, new: str, text: str, left: str, right: str) -> str:
    shown = quoted(text)
    if {sign, new} in ({"==", "==="}, {"!=", "!=="}):
        return f"{shown}: should `1` and `'1'` count as the same here, or not?"
    return sign_words(sign, new, shown, left, right)
