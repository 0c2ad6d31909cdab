"""Another number, another name, another place in a list."""

from __future__ import annotations

import difflib
from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.literals import number_of, number_text
from oddsum.languages.javascript.parsing import FUNCTIONS, LOOPS, around
from oddsum.languages.parting import SIGNS, TURNED, limits
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST_WANTED = 12
_MOST_NAMES = 12


class Constant(EditRule):
    """Each number with those beside it, and those that are expected."""

    name = "constant"
    title = "another number than the one that is needed"
    explanation = "Look where the number comes from: is it the one of the task?"

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """One more, one less, a number that is expected somewhere; another text that is there."""
        others = {scene.text(n) for n in scene.of_type("number")}
        for node in scene.of_type("number"):
            value = number_of(node, scene.tree)
            if value is None:
                continue
            text = scene.text(node)
            news = [
                (number_text(value + 1), 0.5),
                (number_text(value - 1), 0.5),
                ("0", 0.4),
                ("1", 0.4),
            ]
            news += [(n, 0.25) for n in sorted(others)]
            news += [(n, 0.2) for n in sorted(scene.wanted)[:_MOST_WANTED]]
            news += [(number_text(value * 10), 0.2), (number_text(value / 10), 0.2)]
            news += [(number_text(n), 0.2) for n in self._limits(scene, node, value)]
            for new, likely in {n: k for n, k in reversed(news)}.items():
                if new != text:
                    yield make_edit(
                        scene,
                        self.name,
                        node,
                        new,
                        likely=likely,
                        within=node,
                        what=f"The number {text} on this line is not what the cases expect: "
                        "they fit one "
                        f"that is {'higher' if _more(new, text) else 'lower'}.",
                    )

    @staticmethod
    def _limits(scene: Scene, node: Node, value: float) -> list[int | float]:
        """For a number that a name is compared with: limits that part its values otherwise."""
        above = node.parent
        if above is None or above.type != "binary_expression":
            return []
        left, right = scene.field(above, "left"), scene.field(above, "right")
        sign = scene.text(scene.operator(above))
        other, sign = (left, sign) if node == right else (right, sign.translate(TURNED))
        if sign not in SIGNS or other.type != "identifier":
            return []
        return limits(sign, value, scene.numbers_of(scene.text(other), node))


def _more(new: str, old: str) -> bool:
    try:
        return float(new) > float(old)
    except ValueError:
        return True


class Initial(EditRule):
    """What something begins with."""

    name = "initial"
    title = "a name that begins with another value"
    explanation = "What a sum, a product or a greatest value begins with decides what it comes to."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The first item, one, nothing, the smallest and largest number."""
        for node in scene.of_type("variable_declarator"):
            value = node.child_by_field_name("value")
            if value is None or value.type not in ("number", "string", "array", "null", "object"):
                continue
            name = scene.text(scene.field(node, "name"))
            lists = [n for n in sorted(scene.names_at(node)) if "list" in scene.types_of(n, node)]
            news = [(f"{one}[0]", 0.4) for one in lists[:3]]
            news += [("-Infinity", 0.35), ("Infinity", 0.35)] if value.type == "number" else []
            others = [n for n in ("0", '""', "[]", "1", "null") if n != scene.text(value)]
            news += [(n, 0.3) for n in (others if value.type != "number" else others[1:3])]
            for new, likely in news:
                yield make_edit(
                    scene,
                    self.name,
                    value,
                    new,
                    likely=likely,
                    what=f"{quoted(name)} begins with {quoted(scene.text(value))}. Follow an "
                    "input in "
                    "which that first value matters.",
                )


class Variable(EditRule):
    """Each name with others that could stand there."""

    name = "variable"
    title = "another name than the one that is meant"
    explanation = "Names that look or sound alike are easily exchanged: say what each one holds."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Names of the same type, those that look alike first."""
        for node in scene.of_type("identifier"):
            if not _is_read(node):
                continue
            name = scene.text(node)
            mine = scene.types_of(name, node)
            others = [
                other
                for other in scene.names_at(node) - {name}
                if not mine or not scene.types_of(other, node) or mine & scene.types_of(other, node)
            ]
            others.sort(key=lambda o: -difflib.SequenceMatcher(None, name, o).ratio())
            for other in others[:_MOST_NAMES]:
                alike = difflib.SequenceMatcher(None, name, other).ratio()
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    other,
                    likely=0.25 + 0.35 * alike,
                    within=node,
                    what=f"{quoted(name)} stands here. Is it that variable whose value is needed?",
                )


def _over(scene: Scene, node: Node) -> list[str]:
    """What loops around a place that go over the same list call its items."""
    found: list[str] = []
    text, loop = scene.text(scene.field(node, "object")), around(node, LOOPS, FUNCTIONS)
    while loop is not None:
        if loop.type == "for_in_statement" and scene.text(scene.field(loop, "right")) == text:
            left = scene.field(loop, "left")
            found += [scene.text(left)] if left.type == "identifier" else []
        loop = around(loop, LOOPS, FUNCTIONS)
    return found


class Index(EditRule):
    """An item beside the one that is meant; one round more or less over a list."""

    name = "index"
    title = "an item beside the one that is meant"
    explanation = (
        "The first item is [0], the last one `length - 1`. A loop over all of them goes on "
        "while the "
        "index is less than the length."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """One further, one back; ``length`` and ``length - 1``."""
        for node in scene.of_type("subscript_expression"):
            index = scene.field(node, "index")
            text = scene.text(index)
            item = quoted(scene.text(node))
            what = f"{item}: which item is that in the first round, and which in the last?"
            if index.type == "string":
                continue
            if index.type == "number":
                for name in _over(scene, node):
                    yield make_edit(
                        scene, self.name, node, name, likely=0.45, what=what, within=node
                    )
            if text == "0":
                last = f"{scene.text(scene.field(node, 'object'))}.length - 1"
                yield make_edit(scene, self.name, index, last, likely=0.35, what=what, within=node)
            for new, likely in ((f"{text} - 1", 0.5), (f"{text} + 1", 0.5)):
                yield make_edit(scene, self.name, index, new, likely=likely, what=what, within=node)
            if index.type == "binary_expression" and scene.text(scene.field(index, "right")) == "1":
                left = scene.text(scene.field(index, "left"))
                yield make_edit(scene, self.name, index, left, likely=0.6, what=what, within=node)
        yield from self._cut(scene)
        for node in scene.of_type("member_expression"):
            if scene.text(scene.field(node, "property")) != "length":
                continue
            text = scene.text(node)
            above = node.parent
            what = f"{quoted(text)}: count the rounds against what there is to go over."
            if (
                above is not None
                and above.type == "binary_expression"
                and above.child_by_field_name("left") == node
            ):
                sign, right = (
                    scene.text(scene.operator(above)),
                    scene.text(scene.field(above, "right")),
                )
                if sign == "-" and right == "1":
                    yield make_edit(
                        scene, self.name, above, text, likely=0.7, what=what, within=above
                    )
            yield make_edit(
                scene, self.name, node, f"{text} - 1", likely=0.5, what=what, within=node
            )
            yield make_edit(
                scene, self.name, node, f"{text} + 1", likely=0.3, what=what, within=node
            )

    def _cut(self, scene: Scene) -> Iterator[TrialEdit]:
        """``slice(i, i + n)`` for ``slice(i, n)``, and back."""
        for node in scene.of_type("call_expression"):
            called, given = scene.field(node, "function"), scene.field(node, "arguments")
            if not scene.text(called).endswith((".slice", ".substring")):
                continue
            if len(given.named_children) != 2:
                continue
            first, last = given.named_children
            text = scene.text(last)
            news = [f"{scene.text(first)} + {text}", f"{text} + 1", f"{text} - 1"]
            if last.type == "binary_expression":
                news.append(scene.text(scene.field(last, "right")))
            for new in news:
                yield make_edit(
                    scene,
                    self.name,
                    last,
                    new,
                    likely=0.45,
                    within=node,
                    what=f"{quoted(scene.text(node))}: which is the first item that is no longer "
                    "taken?",
                )


class Attribute(EditRule):
    """Another method or attribute of those that are easily exchanged."""

    name = "attribute"
    title = "another method than the one that is meant"
    explanation = "Look up what the method does with what it is called on, and what it gives back."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Methods of one family, and attributes that the program has."""
        own = {scene.text(n) for n in scene.of_type("property_identifier")}
        for node in scene.of_type("member_expression"):
            named = scene.field(node, "property")
            name = scene.text(named)
            family = next((f for f in _FAMILIES if name in f), ())
            for other in family:
                if other != name:
                    yield make_edit(
                        scene,
                        self.name,
                        named,
                        other,
                        likely=0.5,
                        what=f"{quoted(scene.text(node))}: does `{name}` do what is needed?",
                    )
            above = node.parent
            called = (
                above is not None
                and above.type == "call_expression"
                and above.child_by_field_name("function") == node
            )
            if not called and name != "length" and not family:
                for other in sorted(own - {name, "length", "log"})[:8]:
                    yield make_edit(
                        scene,
                        self.name,
                        named,
                        other,
                        likely=0.3,
                        within=node,
                        what=f"{quoted(scene.text(node))}: is that the one that is meant here, "
                        "or one beside it?",
                    )


_FAMILIES = (
    ("push", "unshift"),
    ("pop", "shift"),
    ("toUpperCase", "toLowerCase"),
    ("some", "every"),
    ("startsWith", "endsWith", "includes"),
    ("indexOf", "lastIndexOf"),
    ("map", "filter", "forEach"),
    ("find", "filter"),
    ("trimStart", "trimEnd", "trim"),
    ("max", "min"),
    ("slice", "splice"),
    ("floor", "ceil", "round"),
    ("keys", "values"),
    ("padStart", "padEnd"),
    ("add", "delete"),
    ("has", "get"),
)


def _is_read(node: Node) -> bool:
    """Whether an identifier is a variable that is read."""
    above = node.parent
    if above is None:
        return False
    if above.type in (
        "variable_declarator",
        "function_declaration",
        "class_declaration",
        "formal_parameters",
        "arrow_function",
        "catch_clause",
        "array_pattern",
        "labeled_statement",
        "rest_pattern",
        "import_specifier",
        "class_heritage",
        "method_definition",
    ):
        body = above.child_by_field_name("body") or above.child_by_field_name("value")
        return bool(body == node)
    if above.type == "call_expression":
        return bool(above.child_by_field_name("function") != node)
    if above.type == "new_expression":
        return False
    if above.type in ("assignment_expression", "for_in_statement", "assignment_pattern"):
        return bool(above.child_by_field_name("left") != node)
    return True
