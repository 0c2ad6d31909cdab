"""A part of an expression that is missing: ``+ 1``, one more addend, a limit, a question."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    blocks,
    first_line,
    indent_of,
    is_text,
    last_line,
    line_text,
    lines_of,
    replaced,
    unit,
)
from oddsum.languages.python.edits.bounds import plus
from oddsum.languages.python.edits.candidates import bases_and_keys
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST_NAMES = 6
_ASKED = (ast.Assign, ast.Expr, ast.AugAssign)  # ahead of which a condition may be missing


class MissingPart(EditRule):
    """Something that should be added, left at most so large, or asked first."""

    name = "missing part"
    invents = "a line"
    title = "a part of a line that is missing"
    explanation = (
        "One number is counted from 0 and the other from 1; one amount of several is left out of a "
        "sum; a line that should run only sometimes runs always."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """One more or less, another addend, ``min`` and ``max``, and a condition ahead."""
        around = _goes_round(scene)
        for node in scene.expressions(ast.Name, ast.BinOp, ast.Call, ast.Subscript, ast.Attribute):
            if isinstance(getattr(node, "ctx", ast.Load()), ast.Load) and self._is_given(
                scene, node
            ):
                yield from self._more(scene, node, around)
        for comprehension in scene.expressions(ast.ListComp, ast.GeneratorExp):
            assert isinstance(comprehension, (ast.ListComp, ast.GeneratorExp))
            yield from self._sifted(scene, comprehension)
        for block in blocks(scene):
            for before, statement in zip([None, *block.body], block.body, strict=False):
                if isinstance(statement, ast.Assign) and scene.loop_of(statement) is not None:
                    yield from self._extreme(scene, statement)
                if isinstance(statement, ast.Return) and isinstance(before, ast.Assign):
                    if scene.loop_of(statement) is not None:
                        yield from self._asked(scene, statement, _found(scene, before))
                elif isinstance(statement, _ASKED) and not is_text(statement):
                    yield from self._asked(scene, statement, _tests(scene, statement))

    def _is_given(self, scene: Scene, node: ast.expr) -> bool:
        """Whether it is a whole value: returned, assigned, an argument, a side of a comparison."""
        above = scene.parents.get(id(node))
        if isinstance(above, ast.Call):
            name = getattr(above.func, "id", "")
            return above.func is not node and name not in ("int", "input", "len", "range", "float")
        if isinstance(above, ast.FormattedValue):
            return True
        return isinstance(above, (ast.Return, ast.Assign, ast.AugAssign, ast.Compare, ast.Tuple))

    def _more(self, scene: Scene, node: ast.expr, around: list[str]) -> Iterator[TrialEdit]:
        if isinstance(node, ast.Name):
            types = scene.types_of(node.id, node)
            if types and not types & {"int", "float"}:
                return
        at = span(scene, node)
        text = at.of(scene.source)
        what = f"{quoted(text)} is not quite the number that is needed: something is left out."
        for by in (1, -1):
            new, _ = plus(scene, node, by)
            yield make_edit(scene, self.name, at, new, what=what, likely=0.4, within=node)
        for name in scene.names_of("number", node)[:_MOST_NAMES]:
            if name == text:
                continue
            yield make_edit(
                scene, self.name, at, f"{text} + {name}", what=what, likely=0.25, within=node
            )
            yield make_edit(
                scene, self.name, at, f"{text} - {name}", what=what, likely=0.25, within=node
            )
            for limit in ("min", "max"):
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    f"{limit}({text}, {name})",
                    likely=0.25,
                    what=f"{quoted(text)} can be larger or smaller than it may.",
                    within=node,
                )
        yield from self._left(scene, node, what)
        above = scene.parents.get(id(node))
        for other in _partners(scene, node):
            for limit in ("min", "max"):
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    f"{limit}({text}, {other})",
                    likely=0.3,
                    what=f"{quoted(text)} asks one of two. Does {quoted(other)} count as well?",
                    within=node,
                )
        if isinstance(above, (ast.Return, ast.Assign, ast.AugAssign, ast.FormattedValue)):
            for operand, sign in _operands(scene, node, around):
                if operand not in text:
                    inner = f"({text})" if isinstance(node, ast.BinOp) else text
                    yield make_edit(
                        scene,
                        self.name,
                        at,
                        f"{inner} {sign} {operand}",
                        what=what,
                        likely=0.2,
                        within=node,
                    )

    def _left(self, scene: Scene, node: ast.expr, what: str) -> Iterator[TrialEdit]:
        """What is left of a whole, and never less than nothing."""
        at, above = span(scene, node), scene.parents.get(id(node))
        for new in _turned(scene, node):
            yield make_edit(scene, self.name, at, new, what=what, likely=0.25, within=node)
        if isinstance(above, (ast.Return, ast.Assign)) and _is_difference(node):
            text = at.of(scene.source)
            yield make_edit(
                scene, self.name, at, f"max(0, {text})", likely=0.4, within=node,
                what=f"{quoted(text)} can fall below 0. Is less than nothing meant?",
            )  # fmt: skip

    def _sifted(self, scene: Scene, node: ast.ListComp | ast.GeneratorExp) -> Iterator[TrialEdit]:
        """``[c for c in text]`` with a question of each item."""
        last = node.generators[-1]
        if last.ifs or not isinstance(last.target, ast.Name):
            return
        name, at = last.target.id, span(scene, last.iter).stop
        for test in (name, f"{name}.isalpha()", f"{name}.isdigit()", f"{name}.strip()",
                     f"{name} is not None", f"{name} > 0"):  # fmt: skip
            yield make_edit(
                scene,
                self.name,
                Span(at, at),
                f" if {test}",
                likely=0.25,
                what=f"{quoted(text_of(scene, node))} takes every {quoted(name)} there is. Are all "
                "of them meant?",
                how=f"Ask {quoted(f'if {test}')} of each.",
            )

    def _extreme(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        """``worst = need`` in a loop: the larger or smaller of the two is meant to stay."""
        target, value = text_of(scene, node.targets[0]), text_of(scene, node.value)
        if not isinstance(node.targets[0], ast.Name) or len(value) > 40 or "\n" in value:
            return
        for limit in ("max", "min"):
            yield make_edit(
                scene,
                self.name,
                span(scene, node.value),
                f"{limit}({target}, {value})",
                what=f"{quoted(f'{target} = {value}')} keeps the value of this round only, "
                f"whatever "
                "came before.",
                likely=0.45,
            )

    def _asked(
        self,
        scene: Scene,
        node: ast.Assign | ast.Expr | ast.AugAssign | ast.Return,
        tests: Iterator[tuple[str, float]],
    ) -> Iterator[TrialEdit]:
        """A condition ahead of a statement that runs always."""
        for test, likely in tests:
            indent = indent_of(scene, node)
            lines = [f"{indent}if {test}:", *(unit(scene) + x for x in lines_of(scene, node))]
            text = replaced(scene, (first_line(node), last_line(node), lines))
            mine = quoted(line_text(scene, node.lineno))
            yield from whole_edit(
                scene,
                self.name,
                text,
                node.lineno,
                likely=likely,
                size=len(test),
                what=f"{mine} runs in any case. Should something be asked first?",
                how=f"Ask {quoted(f'if {test}:')} ahead of it.",
            )


def _is_difference(node: ast.expr) -> bool:
    return isinstance(node, ast.BinOp) and isinstance(node.op, ast.Sub)


def _turned(scene: Scene, node: ast.expr) -> Iterator[str]:
    """What is left of a whole: ``amount - taken`` for ``taken``, ``end - (goal - end)`` for what
    comes back from an end."""
    text = text_of(scene, node)
    if isinstance(node, ast.Name):
        given = parameters(scene.function_of(node))
        yield from (f"{whole} - {text}" for whole in scene.alike(text, node) if whole in given)
    elif isinstance(node, ast.BinOp) and _is_difference(node):
        if "\n" not in text and not isinstance(node.right, ast.Constant):
            yield f"{text_of(scene, node.right)} - ({text})"


def _partners(scene: Scene, node: ast.expr) -> Iterator[str]:
    """What a call or an item would be of another thing of its kind that the function is given."""
    base = node.func if isinstance(node, ast.Call) else node
    if not isinstance(base, (ast.Attribute, ast.Subscript)) or not isinstance(base.value, ast.Name):
        return
    given = parameters(scene.function_of(node))
    text, name = text_of(scene, node), base.value.id
    for other in [n for n in scene.alike(name, node) if n in given and name in given][:2]:
        yield other + text[len(name) :]


def _operands(scene: Scene, node: ast.expr, around: list[str]) -> Iterator[tuple[str, str]]:
    """What could be left out beside a number: a factor, what another thing has, a round number that
    it goes round at (one of ``around``)."""
    for name in scene.names_of("number", node)[:_MOST_NAMES]:
        yield name, "*"
    if "self" in scene.names_at(node):
        for name in scene.set_attributes[:_MOST_NAMES]:
            for operand, signs in ((f"self.{name}", "-+*"), (f"len(self.{name})", "-+")):
                yield from ((operand, sign) for sign in signs)
    for name in scene.names_of("list", node)[:2]:
        yield from ((f"len({name})", sign) for sign in "-+")
    if isinstance(node, ast.Name):
        yield from ((item, "+") for item in _items(scene, node))
    yield from ((number, "%") for number in around)


def _items(scene: Scene, node: ast.Name) -> list[str]:
    """``costs[here]``: items of what has any in the function, at what its loops are at."""
    function = scene.function_of(node)
    inside = list(ast.walk(function)) if function is not None else []
    pairs = bases_and_keys(inside)
    return [f"{base}[{key}]" for base, key in pairs if base != key][:_MOST_NAMES]


def _goes_round(scene: Scene) -> list[str]:
    """Numbers that others may go round at: 24, 60 and, of two of them, 24 * 60."""
    numbers = [
        n.value
        for n in scene.expressions(ast.Constant)
        if isinstance(n, ast.Constant) and type(n.value) is int and n.value > 2
    ]
    plain = list(dict.fromkeys(numbers))[:5]
    pairs = [f"({a} * {b})" for n, a in enumerate(plain) for b in plain[n + 1 :]]
    return [*map(str, plain), *pairs[:4]]


def _found(scene: Scene, node: ast.Assign) -> Iterator[tuple[str, float]]:
    """What could be asked of what was just looked for, ahead of giving something back."""
    if isinstance(node.targets[0], ast.Name):
        name = node.targets[0].id
        yield from ((name, 0.5), (f"{name} is not None", 0.4), (f"not {name}", 0.3))


def _tests(
    scene: Scene, node: ast.Assign | ast.Expr | ast.AugAssign
) -> Iterator[tuple[str, float]]:
    """What could be asked ahead of a statement, made of its own parts."""
    if isinstance(node, ast.Assign):
        target, value = text_of(scene, node.targets[0]), text_of(scene, node.value)
        if (
            isinstance(node.value, (ast.Name, ast.Subscript, ast.Call, ast.BinOp))
            and "\n" not in value
        ):
            for sign in (">", "<"):
                yield f"{value} {sign} {target}", 0.35
            if scene.has_none:
                for sign in (">", "<"):
                    yield f"{target} is None or {value} {sign} {target}", 0.34
    call = getattr(node, "value", None)
    if isinstance(node, ast.Expr) and isinstance(call, ast.Call) and len(call.args) == 1:
        if isinstance(call.func, ast.Attribute) and call.func.attr in ("append", "add", "remove"):
            item, base = text_of(scene, call.args[0]), text_of(scene, call.func.value)
            yield f"{item} {'in' if call.func.attr == 'remove' else 'not in'} {base}", 0.4
    for name in scene.names_of("number", node)[:3]:
        yield f"{name} > 0", 0.15
