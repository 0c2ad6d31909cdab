"""A conversion that is missing, too much, or another one."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MISSING = {
    "str": (("int", 0.5), ("float", 0.4), ("len", 0.4)),
    "number": (("str", 0.3), ("abs", 0.4), ("int", 0.3)),
    "list": (("len", 0.3), ("sum", 0.2), ("sorted", 0.2)),
    "other": (("int", 0.3), ("str", 0.2), ("abs", 0.3), ("len", 0.2), ("float", 0.2)),
}
_TAKEN = ("int", "float", "str", "abs", "len", "bool", "list", "sorted")


class Conversion(EditRule):
    """``int``, ``float``, ``str``, ``abs``, ``len``, ``sorted`` missing or too much."""

    name = "conversion"
    invents = "a line"
    title = "a value that is not turned into what is needed"
    explanation = (
        "`input()` gives a text, even when digits are typed; texts are compared letter by letter. "
        "`int()` drops a fraction, `abs()` a minus sign. Look at the type of each value."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Conversions put around values, and taken away."""
        for node in scene.expressions(ast.Name, ast.Call, ast.BinOp, ast.Subscript, ast.Attribute):
            if isinstance(node, ast.Call):
                yield from self._taken(scene, node)
            if isinstance(getattr(node, "ctx", ast.Load()), ast.Load) and self._matters(
                scene, node
            ):
                yield from self._put(scene, node)
        for compared in scene.expressions(ast.Compare):
            assert isinstance(compared, ast.Compare)
            yield from self._by_letters(scene, compared)
            yield from self._by_length(scene, compared)
        for call in scene.expressions(ast.Call):
            if isinstance(call, ast.Call) and getattr(call.func, "attr", "") == "join":
                for given in call.args[:1]:
                    if isinstance(given, ast.Name):
                        yield from self._sorted(scene, given, "What is joined is taken from")
        for loop in scene.statements(ast.For):
            assert isinstance(loop, ast.For)
            yield from self._sorted(scene, loop.iter)
            yield from self._each_once(scene, loop.iter)

    def _each_once(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        """``for x in xs`` as ``for x in set(xs)``: what comes twice is gone over once."""
        if isinstance(node, ast.Name) and scene.types_of(node.id, node) <= {"list", "str", "tuple"}:
            yield make_edit(
                scene,
                self.name,
                span(scene, node),
                f"set({node.id})",
                likely=0.2,
                what=f"The loop goes over {quoted(node.id)}, twice over what is in it twice.",
            )

    def _by_length(self, scene: Scene, node: ast.Compare) -> Iterator[TrialEdit]:
        """``line > best`` of two lists or texts, as ``len(line) > len(best)``."""
        sides = [node.left, *node.comparators]
        sorts = ({"list"}, {"str"}, {"tuple"}, {"list", "str", "tuple"})
        for side in sides:
            if len(sides) != 2 or not isinstance(side, ast.Name):
                return
            if scene.types_of(side.id, node) not in sorts:
                return
        if not isinstance(node.ops[0], (ast.Lt, ast.LtE, ast.Gt, ast.GtE)):
            return
        left, right = (span(scene, side) for side in sides)
        between = scene.source.text[left.stop : right.start]
        new = f"len({left.of(scene.source)}){between}len({right.of(scene.source)})"
        yield make_edit(
            scene,
            self.name,
            span(scene, node),
            new,
            likely=0.55,
            what=f"{quoted(text_of(scene, node))} compares item by item, from the first on: how "
            "long they are does not count.",
            within=node,
        )

    def _by_letters(self, scene: Scene, node: ast.Compare) -> Iterator[TrialEdit]:
        """``e > str(limit)``: numbers compared letter by letter, as ``int(e) > limit``."""
        if len(node.ops) != 1:
            return
        left, right = node.left, node.comparators[0]
        for text, other in ((right, left), (left, right)):
            if isinstance(text, ast.Call) and getattr(text.func, "id", "") == "str" and text.args:
                whole, first = span(scene, node), text is right
                between = scene.source.text[span(scene, left).stop : span(scene, right).start]
                for kind, likely in (("int", 0.6), ("float", 0.4)):
                    sides = [f"{kind}({text_of(scene, other)})", text_of(scene, text.args[0])]
                    new = between.join(sides if first else reversed(sides))
                    yield make_edit(
                        scene, self.name, whole, new, likely=likely, within=node,
                        what=f"{quoted(text_of(scene, node))} compares texts, letter by letter: "
                        "'10' comes before '9'.",
                    )  # fmt: skip

    def _matters(self, scene: Scene, node: ast.expr) -> bool:
        """Whether the value itself is used: compared, worked with, returned, given, printed."""
        above = scene.parents.get(id(node))
        if isinstance(above, ast.Call):
            return above.func is not node and not (
                isinstance(above.func, ast.Name) and above.func.id in (*_TAKEN, "round")
            )
        return isinstance(
            above,
            (
                ast.Compare,
                ast.BinOp,
                ast.Return,
                ast.Assign,
                ast.AugAssign,
                ast.Tuple,
                ast.FormattedValue,
            ),
        )

    def _put(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        family = self._family(scene, node)
        at = span(scene, node)
        text = at.of(scene.source)
        for name, likely in _MISSING[family]:
            words = {
                "abs": f"{quoted(text)} can come out below zero. Is that meant?",
                "len": f"{quoted(text)} is used itself here, not how many items it has.",
                "sorted": f"{quoted(text)} is used in the order it happens to have.",
            }
            yield make_edit(
                scene,
                self.name,
                at,
                f"{name}({text})",
                likely=likely * 0.8,
                what=words.get(name, f"Of what type is {quoted(text)} here? Is it the one needed?"),
                how=f"Write {quoted(f'{name}({text})')} for {quoted(text)}.",
                within=node,
            )

    @staticmethod
    def _family(scene: Scene, node: ast.expr) -> str:
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "input":
            return "str"
        if isinstance(node, ast.BinOp) and isinstance(node.op, (ast.Sub, ast.Div, ast.FloorDiv)):
            return "number"
        if isinstance(node, ast.Name):
            types = scene.types_of(node.id, node)
            for family, of in (
                ("str", {"str"}),
                ("number", {"int", "float"}),
                ("list", {"list", "tuple", "set", "dict"}),
            ):
                if types & of:
                    return family
        return "other"

    def _taken(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        name = getattr(node.func, "id", "")
        if name not in _TAKEN or len(node.args) != 1 or node.keywords:
            return
        whole, inside = span(scene, node), text_of(scene, node.args[0])
        if isinstance(node.args[0], (ast.BinOp, ast.BoolOp, ast.IfExp)):
            inside = f"({inside})"
        if isinstance(node.args[0], ast.GeneratorExp):
            return
        yield make_edit(
            scene,
            self.name,
            whole,
            inside,
            likely=0.4,
            within=node,
            what=(
                f"{quoted(whole.of(scene.source))}: is `{name}()` needed here, and what "
                f"does it lose?"
            ),
        )

    def _sorted(
        self, scene: Scene, node: ast.expr, said: str = "The loop takes"
    ) -> Iterator[TrialEdit]:
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") in (
            "range",
            "sorted",
            "input",
        ):
            return
        at = span(scene, node)
        text = at.of(scene.source)
        for name, likely in (("sorted", 0.22), ("reversed", 0.2)):
            yield make_edit(
                scene,
                self.name,
                at,
                f"{name}({text})",
                likely=likely,
                what=f"{said} {quoted(text)} in the order it happens to have. Does the order "
                "matter here?",
                how=f"Take {quoted(f'{name}({text})')}.",
            )
