"""Another operation, another way to round, another order."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MEANT: dict[str, tuple[tuple[str, float], ...]] = {
    "+": (("-", 0.7), ("*", 0.4), ("/", 0.2)),
    "-": (("+", 0.7), ("*", 0.2), ("%", 0.25), ("/", 0.2)),
    "*": (("/", 0.5), ("+", 0.5), ("**", 0.2), ("-", 0.2)),
    "/": (("*", 0.5), ("%", 0.6)),
    "%": (("/", 0.7), ("-", 0.2)),
    "**": (("*", 0.6),),
}
_AUGMENTED = {
    "+=": (("=", 0.5), ("-=", 0.6), ("*=", 0.3)),
    "-=": (("+=", 0.6), ("=", 0.3)),
    "*=": (("+=", 0.5), ("/=", 0.3)),
    "/=": (("*=", 0.4),),
}
_ROUNDING = ("Math.floor", "Math.round", "Math.ceil", "Math.trunc")


class Arithmetic(EditRule):
    """Each operation with each sign that could have been meant."""

    name = "arithmetic"
    title = "another operation than the one that is needed"
    explanation = "Say aloud what is to be worked out, in words, and compare it with the sign."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another sign; and the same with its operands the other way round."""
        for node in scene.of_type("binary_expression"):
            operator = scene.operator(node)
            sign, text = scene.text(operator), quoted(scene.text(node))
            for new, likely in _MEANT.get(sign, ()):
                yield make_edit(
                    scene,
                    self.name,
                    operator,
                    new,
                    likely=likely,
                    within=node,
                    what=f"Look at {text}: is `{sign}` the operation that is meant?",
                )
            if sign in ("-", "/", "%"):
                left, right = (
                    scene.text(scene.field(node, "left")),
                    scene.text(scene.field(node, "right")),
                )
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    f"{right} {sign} {left}",
                    likely=0.35,
                    within=node,
                    what=f"{text}: which of the two comes first?",
                )
        for node in scene.of_type("augmented_assignment_expression"):
            sign_at = scene.operator(node)
            sign = scene.text(sign_at)
            for new, likely in _AUGMENTED.get(sign, ()):
                yield make_edit(
                    scene,
                    self.name,
                    sign_at,
                    new,
                    likely=likely,
                    what=f"Look at {quoted(scene.text(node))}: it works with `{sign}`.",
                )
        for node in scene.of_type("update_expression"):
            sign_at = scene.operator(node)
            other = "--" if scene.text(sign_at) == "++" else "++"
            yield make_edit(
                scene,
                self.name,
                sign_at,
                other,
                likely=0.4,
                what=f"{quoted(scene.text(node))}: up, or down?",
            )


class LostUpdate(EditRule):
    """``total = price`` in a loop, where what was before should stay."""

    name = "lost update"
    title = "a value that is forgotten with every round"
    explanation = "`=` forgets what a name was before. `+=` puts something to it."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``+=`` for ``=``, where a name that exists already gets another value."""
        for node in scene.of_type("assignment_expression"):
            left, right = scene.field(node, "left"), scene.field(node, "right")
            above = node.parent
            if (
                above is None
                or above.type != "expression_statement"
                or scene.text(left) in scene.text(right)
            ):
                continue
            between = (scene.tree.stop(left), scene.tree.start(right))
            name = quoted(scene.text(left))
            yield make_edit(
                scene,
                self.name,
                between,
                " += ",
                likely=0.55,
                what=f"{quoted(scene.text(node))} forgets what {name} was before. Is it the "
                "last one "
                "that is wanted, or all of them together?",
                how=f"Write `+=` instead of `=` in {quoted(scene.text(node))}.",
            )


class Overwritten(EditRule):
    """``counts[key] = 1``, ``counts.set(key, n)``, ``list = [x]``: what was there is forgotten."""

    name = "overwritten"
    title = "an entry that forgets what it was"
    explanation = (
        "An entry that is set anew does not know what it was: work with it, as in "
        "`counts[key] = (counts[key] || 0) + 1`."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """What was there and what comes, put together."""
        for node in scene.of_type("call_expression"):
            called, given = scene.field(node, "function"), scene.field(node, "arguments")
            if not scene.text(called).endswith(".set") or len(given.named_children) != 2:
                continue
            key, value = given.named_children
            held = scene.text(scene.field(called, "object"))
            if f"{held}.get" not in scene.text(value):
                before = f"({held}.get({scene.text(key)}) || 0)"
                yield self._kept(scene, node, value, f"{before} + {scene.text(value)}")
        for node in scene.of_type("assignment_expression"):
            left, right = scene.field(node, "left"), scene.field(node, "right")
            name = scene.text(left)
            if left.type == "subscript_expression" and name not in scene.text(right):
                yield self._kept(scene, node, right, f"({name} || 0) + {scene.text(right)}")
            worked = scene.text(right)
            if not _is_fixed(right) and name not in worked and not worked.startswith("Math."):
                for most in ("max", "min"):
                    both = f"Math.{most}({name}, {worked})"
                    yield self._kept(scene, node, right, both, 0.35)
            if right.type == "array" and len(right.named_children) == 1:
                item = scene.text(right.named_children[0])
                yield self._kept(scene, node, node, f"{name}.push({item})")

    def _kept(
        self, scene: Scene, node: Node, at: Node, new: str, likely: float = 0.55
    ) -> TrialEdit:
        return make_edit(
            scene,
            self.name,
            at,
            new,
            likely=likely,
            what=f"{quoted(scene.text(node))} forgets what was there. Is it the last one that is "
            "wanted, or all of them together?",
        )


def _is_fixed(node: Node) -> bool:
    """Whether it is a value by itself, a list or an object: no number that is worked out."""
    return node.type in ("number", "string", "true", "false", "null", "array", "object",
                         "template_string", "new_expression", "arrow_function")  # fmt: skip


class Rounding(EditRule):
    """Rounded in another way, not at all, or where a whole number is needed."""

    name = "rounding"
    title = "rounded in another way than is meant"
    explanation = (
        "`/` gives a number with a part behind the point, also of two whole ones. "
        "`Math.floor` goes "
        "down, `Math.ceil` up, `Math.round` to the nearest."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another way to round; rounding around a division; none."""
        for node in scene.of_type("call_expression"):
            called, given = scene.field(node, "function"), scene.field(node, "arguments")
            name = scene.text(called)
            if name in _ROUNDING and len(given.named_children) == 1:
                what = f"{quoted(scene.text(node))}: does `{name}` give what is needed?"
                for other in _ROUNDING[:3]:
                    if other != name:
                        yield make_edit(
                            scene, self.name, called, other, likely=0.5, what=what, within=node
                        )
                inner = scene.text(given.named_children[0])
                yield make_edit(
                    scene, self.name, node, f"({inner})", likely=0.4, what=what, within=node
                )
                for tens in ("10", "100") if name == "Math.round" and _is_whole(inner) else ():
                    places = f"Math.round(({inner}) * {tens}) / {tens}"
                    yield make_edit(
                        scene, self.name, node, places, likely=0.4, what=what, within=node
                    )
            if name in ("parseInt", "Number", "parseFloat"):
                for other, likely in (("parseInt", 0.4), ("Number", 0.5), ("parseFloat", 0.5)):
                    if other != name:
                        yield make_edit(
                            scene,
                            self.name,
                            called,
                            other,
                            likely=likely,
                            within=node,
                            what=f"{quoted(scene.text(node))}: what does `{name}` make of a "
                            "part behind the point?",
                        )
        for node in scene.of_type("binary_expression"):
            if scene.text(scene.operator(node)) == "/":
                text = scene.text(node)
                for way, likely in (("floor", 0.6), ("ceil", 0.4), ("round", 0.4)):
                    yield make_edit(
                        scene,
                        self.name,
                        node,
                        f"Math.{way}({text})",
                        likely=likely,
                        within=node,
                        what=f"{quoted(text)} can have a part behind the point. Is a whole "
                        "number needed?",
                    )


def _is_whole(rounded: str) -> bool:
    """Whether a number is rounded to a whole one, and not to some places already."""
    return "* 10" not in rounded


class Grouping(EditRule):
    """Parentheses that are missing, or too many."""

    name = "parentheses"
    title = "worked out in another order than is meant"
    explanation = "`*`, `/` and `%` come before `+` and `-`; what is in parentheses comes first."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``(a + b) * c`` for ``a + b * c``, and back."""
        for node in scene.of_type("binary_expression"):
            sign = scene.text(scene.operator(node))
            left, right = scene.field(node, "left"), scene.field(node, "right")
            what = f"{quoted(scene.text(node))}: what belongs together here?"
            if sign in "+-" and right.type == "binary_expression":
                inner, operator = scene.field(right, "left"), scene.text(scene.operator(right))
                last = scene.text(scene.field(right, "right"))
                if operator in "*/%":
                    new = f"({scene.text(left)} {sign} {scene.text(inner)}) {operator} {last}"
                    yield make_edit(scene, self.name, node, new, likely=0.6, what=what, within=node)
            if sign in "+-" and left.type == "binary_expression":
                first, operator = (
                    scene.text(scene.field(left, "left")),
                    scene.text(scene.operator(left)),
                )
                inner = scene.field(left, "right")
                if operator in "*/%":
                    new = f"{first} {operator} ({scene.text(inner)} {sign} {scene.text(right)})"
                    yield make_edit(scene, self.name, node, new, likely=0.5, what=what, within=node)
            for side in (left, right):
                if side.type == "parenthesized_expression" and sign in "*/%-":
                    yield make_edit(
                        scene, self.name, side, scene.text(side)[1:-1], likely=0.4, what=what
                    )
