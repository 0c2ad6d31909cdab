"""A statement that is missing: the increment, the reset, the removal, the appending, a way out."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import (
    CLASSES,
    FUNCTIONS,
    LOOPS,
    around,
    end_of,
    is_statement,
    line_of,
    own,
    walk,
)
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST = 40  # statements that could be missing, a function
_LEAVES = ("return_statement", "break_statement", "continue_statement", "throw_statement")
_DECLARES = (*FUNCTIONS, *CLASSES, "import_statement", "export_statement")
_PLAIN = ("number", "string", "array", "null", "true", "false", "undefined")


@dataclass(frozen=True)
class _Line:
    """A statement that could be missing. ``at``: in a ``loop`` alone, or at the ``end``."""

    text: str
    likely: float
    at: str = ""


class Missing(EditRule):
    """A line that was forgotten."""

    name = "missing"
    invents = "a line"
    title = "a line that is missing"
    explanation = (
        "A counter that nothing counts up, a total that is not set back, an item that is never put "
        "into the list. Ask of each variable: who changes it, and when?"
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Lines made of what the function already has, put in at each place where one could be."""
        known: dict[int, list[_Line]] = {}
        for block in scene.of_type("statement_block", "program"):
            inside = [c for c in block.named_children if is_statement(c)]
            if not inside or all(c.type in _DECLARES for c in inside):
                continue
            function = around(block, FUNCTIONS)
            key = function.id if function is not None else 0
            if key not in known:
                known[key] = _lines(scene, function)
            yield from self._into(scene, block, inside, known[key])
        yield from self._otherwise(scene)
        yield from self._asked_first(scene)

    def _into(
        self, scene: Scene, block: Node, inside: list[Node], lines: list[_Line]
    ) -> Iterator[TrialEdit]:
        in_loop = around(inside[0], LOOPS, FUNCTIONS) is not None
        whole = block.parent is not None and block.parent.type in FUNCTIONS
        for number in range(len(inside) + 1):
            before = inside[number - 1] if number else None
            after = inside[number] if number < len(inside) else None
            if before is not None and before.type in _LEAVES:
                continue
            if after is not None and after.type in _DECLARES:
                continue
            beside = {scene.text(n) for n in (before, after)}
            for one in lines:
                fits = not one.at or (in_loop if one.at == "loop" else whole and after is None)
                if fits and one.text not in beside:
                    yield self._put(scene, before, after, one, 0.05 if in_loop else 0.0)

    def _put(
        self, scene: Scene, before: Node | None, after: Node | None, one: _Line, more: float
    ) -> TrialEdit:
        if before is not None:
            at, line, new = (
                scene.tree.stop(before),
                end_of(before),
                f"\n{indent_of(before)}{one.text}",
            )
        else:
            assert after is not None
            at, line = scene.tree.start(after), max(1, line_of(after) - 1)
            new = f"{one.text}\n{indent_of(after)}"
        return make_edit(
            scene,
            self.name,
            (at, at),
            new,
            likely=one.likely + more,
            line=line,
            runs_at=_visited(before, after),  # what stands above may end in a branch not taken
            what=f"Something seems to be missing after line {line}: a step that should happen "
            "here, and that no line does.",
            how=f"Put in, after line {line}: {quoted(one.text)}.",
        )

    def _asked_first(self, scene: Scene) -> Iterator[TrialEdit]:
        """A question of what was just looked for in a loop, ahead of giving something back."""
        for node in scene.of_type("return_statement"):
            before = node.prev_named_sibling
            if before is None or before.type != "lexical_declaration":
                continue
            if around(node, LOOPS, FUNCTIONS) is None:
                continue
            name = scene.text(before.named_children[0].child_by_field_name("name"))
            tests = ((name, 0.42), (f"{name}.length > 0", 0.45), (f"{name} !== null", 0.4))
            for test, likely in (*tests, (f"{name} !== undefined", 0.35)):
                at = scene.tree.start(node)
                yield make_edit(
                    scene,
                    self.name,
                    (at, at),
                    f"if ({test}) ",
                    likely=likely,
                    line=line_of(node),
                    runs_at=line_of(node),
                    what=f"{quoted(scene.text(node).rstrip(';'))} runs whatever {quoted(name)} is. "
                    "Should something be asked first?",
                    how=f"Ask {quoted(f'if ({test})')} ahead of it.",
                )

    def _otherwise(self, scene: Scene) -> Iterator[TrialEdit]:
        """An ``else`` that sets a name back, where a condition in a loop has none."""
        for node in scene.of_type("if_statement"):
            loop = around(node, LOOPS, FUNCTIONS)
            if loop is None or node.child_by_field_name("alternative") is not None:
                continue
            function = around(node, FUNCTIONS)
            for text in (*_begun(scene, function).values(), *_kept_as_it_is(scene, node, loop)):
                at = scene.tree.stop(node)
                yield make_edit(
                    scene,
                    self.name,
                    (at, at),
                    f" else {{ {text} }}",
                    likely=0.4,
                    line=end_of(node),
                    runs_at=line_of(node),
                    what="Where this condition does not hold, nothing is done. Should something "
                    "be done then?",
                    how=f"Put in, behind the braces: {quoted(f'else {{ {text} }}')}.",
                )


def _kept_as_it_is(scene: Scene, node: Node, loop: Node) -> Iterator[str]:
    """What a branch builds up, with the item itself where its condition does not hold."""
    if loop.type != "for_in_statement" or scene.field(loop, "left").type != "identifier":
        return
    item = scene.text(scene.field(loop, "left"))
    for inner in walk(scene.field(node, "consequence")):
        if inner.type == "augmented_assignment_expression":
            yield f"{scene.text(scene.field(inner, 'left'))} += {item};"
        called = scene.text(inner.child_by_field_name("function"))
        if inner.type == "call_expression" and called.endswith(".push"):
            yield f"{called}({item});"


def _visited(*beside: Node | None) -> int:
    """The line whose visits say whether what stands behind it is come to."""
    return next((line_of(n) for n in beside if n is not None and n.type not in _DECLARES), 0)


def indent_of(node: Node) -> str:
    """The blanks ahead of a statement that begins its line."""
    return " " * int(node.start_point[1])


def _lines(scene: Scene, function: Node | None) -> list[_Line]:
    """What could be missing in a function, each once, the likelier first."""
    found: dict[str, _Line] = {}
    for one in _all_lines(scene, function):
        if one.text not in found or found[one.text].likely < one.likely:
            found[one.text] = one
    return sorted(found.values(), key=lambda one: -one.likely)[:_MOST]


def _body(scene: Scene, function: Node | None) -> Node:
    return scene.tree.root if function is None else scene.field(function, "body")


def _begun(scene: Scene, function: Node | None) -> dict[str, str]:
    """Each name that begins with a plain value, and the statement that sets it back."""
    found = {}
    for node in own(_body(scene, function)):
        if node.type != "variable_declarator" or node.parent is None:
            continue
        value, around = node.child_by_field_name("value"), node.parent.parent
        header = around is not None and around.type == "for_statement"
        negative = value is not None and scene.text(value)[:1] == "-"
        if value is None or not (value.type in _PLAIN or negative) or header:
            continue
        name = scene.text(scene.field(node, "name"))
        if name.isidentifier() and scene.text(node.parent.children[0]) != "const":
            found[name] = f"{name} = {scene.text(value)};"
    return found


def _all_lines(scene: Scene, function: Node | None) -> Iterator[_Line]:
    nodes = list(own(_body(scene, function)))
    begun = _begun(scene, function)
    for name, text in begun.items():
        yield _Line(text, 0.42, "loop")
        if text.rstrip(";").split(" = ")[-1].lstrip("-").isdigit():
            yield _Line(f"{name}++;", 0.4, "loop")
            yield _Line(f"{name}--;", 0.3, "loop")
    for node in nodes:
        if node.type == "expression_statement" and "\n" not in scene.text(node):
            yield _Line(scene.text(node), 0.35)
            yield from _all_of_it(scene, nodes, scene.text(node))
    yield from _moved(scene, nodes, [*begun])
    yield from _unmoved(scene, function, nodes)
    yield from _of_fields(scene, function, nodes)
    yield _Line("break;", 0.25, "loop")
    if function is not None:
        for name in begun:
            yield _Line(f"return {name};", 0.4, "end")
        for node in nodes:
            if node.type == "variable_declarator" and node.parent is not None:
                yield _Line(f"return {scene.text(scene.field(node, 'name'))};", 0.35, "end")


def _all_of_it(scene: Scene, nodes: list[Node], text: str) -> Iterator[_Line]:
    """``sum.miles += miles;`` with another name in both places."""
    moving = _moving(scene, nodes)
    for name in moving:
        if len(re.findall(rf"\b{re.escape(name)}\b", text)) > 1:
            for other in [m for m in moving if m != name][:6]:
                yield _Line(re.sub(rf"\b{re.escape(name)}\b", other, text), 0.4)


def _moving(scene: Scene, nodes: list[Node]) -> list[str]:
    """The names that hold something else in each round, and the function's parameters."""
    found = []
    for node in nodes:
        if node.type == "for_in_statement":
            left = scene.field(node, "left")
            found += [scene.text(n) for n in (walk(left) if left.named_children else (left,))
                      if "identifier" in n.type]  # fmt: skip
        elif node.type == "variable_declarator":
            found.append(scene.text(scene.field(node, "name")))
    function = around(nodes[0], FUNCTIONS) if nodes else None
    given = function.child_by_field_name("parameters") if function is not None else None
    found += [scene.text(n) for n in (given.named_children if given is not None else ())]
    return [name for name in dict.fromkeys(found) if name.isidentifier()]


def _moved(scene: Scene, nodes: list[Node], begun: list[str]) -> Iterator[_Line]:
    """Items put into lists, amounts added to totals, one name taken over by another."""
    if not nodes:
        return
    here, moving = nodes[-1], _moving(scene, nodes)
    kinds = {name: scene.types_of(name, here) for name in {*moving, *begun}}
    for held in [n for n in moving if "list" in kinds[n]][:4]:
        for item in [m for m in moving if m != held][:5]:
            # A list in a list that was given doubles what is in it, round for round.
            if held in begun or "list" not in kinds[item]:
                yield _Line(f"{held}.push({item});", 0.36)
    for held in [n for n in moving if "set" in kinds[n]][:3]:
        for item in [m for m in moving if m != held][:5]:
            yield _Line(f"{held}.add({item});", 0.36)
            yield _Line(f"{held}.delete({item});", 0.3)
    for total in begun[:4]:
        for amount in [m for m in moving if m != total][:6]:
            if not kinds[total] or not kinds[amount] or kinds[total] & kinds[amount]:
                yield _Line(f"{total} = {amount};", 0.3)
            if "number" in kinds[total] and "number" in kinds[amount]:
                yield _Line(f"{total} += {amount};", 0.34, "loop")


def _unmoved(scene: Scene, function: Node | None, nodes: list[Node]) -> Iterator[_Line]:
    """Lines that change what is begun, here or in the function around, and never changes."""
    kinds = ("assignment_expression", "augmented_assignment_expression", "update_expression")
    outer = around(function, FUNCTIONS) if function is not None else None
    owners = [function] if outer is None else [function, outer]
    begun = list(dict.fromkeys(name for owner in owners for name in _begun(scene, owner)))
    inside = walk(_body(scene, outer if outer is not None else function))
    changed = {scene.text(n.named_children[0]) for n in inside if n.type in kinds}
    terms = _moving(scene, nodes)
    for name in [n for n in begun if n not in changed][:4]:
        for term in [t for t in terms if t not in begun][:4]:
            yield _Line(f"{name} = {term};", 0.45)
            yield _Line(f"{name} = {term} + 1;", 0.42)
            yield _Line(f"{name} += {term};", 0.43)
            yield _Line(f"{name} += {term}.length;", 0.3)


def _of_fields(scene: Scene, function: Node | None, nodes: list[Node]) -> Iterator[_Line]:
    """What a method could do to a field of its object: count, add, take away, take over."""
    kind = around(function, CLASSES) if function is not None else None
    if kind is None:
        return
    numbers, fields = dict[str, None](), dict[str, None]()
    for node in walk(kind):
        if node.type == "assignment_expression" and scene.text(node).startswith("this."):
            name = scene.text(scene.field(node, "left"))
            fields[name] = None
            if scene.field(node, "right").type == "number":
                numbers[name] = None
    members = dict.fromkeys(scene.text(n) for n in nodes if n.type == "member_expression"
                            and scene.text(scene.field(n, "object")).isidentifier())  # fmt: skip
    moving = _moving(scene, nodes)
    given = [name for name in moving if name != "this"][:3]
    amounts = [m for m in [*members, *moving] if not m.startswith("this")][:5]
    for field in [*numbers][:4]:
        yield _Line(f"{field}++;", 0.4)
        yield _Line(f"{field}--;", 0.4)
        for amount in amounts:
            yield _Line(f"{field} += {amount};", 0.36)
            yield _Line(f"{field} -= {amount};", 0.36)
        for name in given:
            yield _Line(f"{field} += {name}.length;", 0.34)
    for field in [*fields][:5]:
        for name in given:
            yield _Line(f"{field} = {name};", 0.32)
