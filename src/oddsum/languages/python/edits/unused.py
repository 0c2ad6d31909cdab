"""What a function is given and never uses: there is a line that should ask for it."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import indent_of, line_text, replaced
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import closed, make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Function, Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_ORDERED = (ast.Lt, ast.LtE, ast.Gt, ast.GtE)
_SIGNS = ("<=", "<", ">=", ">", "==")
_WHOLE = (ast.Return, ast.Assign, ast.AugAssign)


class Unused(EditRule):
    """A limit, an amount or a step that is handed in, and that no line of the function reads."""

    name = "unused"
    title = "something that is given and never used"
    explanation = (
        "What a function is given, it is given for something. Where no line reads it, a line goes "
        "by something else instead, or a question is missing."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """It in the place of a number, asked for in an ``else``, and beside whole values."""
        for function in scene.statements(ast.FunctionDef, ast.AsyncFunctionDef):
            assert isinstance(function, (ast.FunctionDef, ast.AsyncFunctionDef))
            for name in _unread(function):
                yield from self._compared(scene, function, name)
                yield from self._beside(scene, function, name)

    def _compared(self, scene: Scene, function: Function, name: str) -> Iterator[TrialEdit]:
        for node in ast.walk(function):
            if isinstance(node, ast.If):
                yield from self._in_else(scene, node, name)
            if not isinstance(node, ast.Constant) or type(node.value) not in (int, float, str):
                continue
            above = scene.parents.get(id(node))
            if isinstance(above, (ast.Compare, ast.BinOp, ast.Call, ast.Assign)):
                if self._is_placed(scene, node):
                    yield make_edit(
                        scene, self.name, span(scene, node), name, likely=0.45,
                        what=_asked(name), within=above if isinstance(above, ast.expr) else None,
                    )  # fmt: skip

    def _in_else(self, scene: Scene, node: ast.If, name: str) -> Iterator[TrialEdit]:
        """``else:`` as ``elif level <= name:``, of what is compared above."""
        if not node.orelse or isinstance(node.orelse[0], ast.If):
            return
        lines = [n for n in range(node.body[-1].lineno + 1, node.orelse[0].lineno)
                 if line_text(scene, n).strip().startswith("else")]  # fmt: skip
        if len(lines) != 1 or not line_text(scene, lines[0]).strip().endswith(":"):
            return
        for side in _sides(node.test):
            for place, sign in enumerate(_SIGNS):
                test = f"{text_of(scene, side)} {sign} {name}"
                new = f"{indent_of(scene, node)}elif {test}:"
                yield from whole_edit(
                    scene,
                    self.name,
                    replaced(scene, (lines[0], lines[0], [new])),
                    lines[0],
                    likely=0.5 - 0.02 * place,
                    size=len(test),
                    what=_asked(name),
                    how=f"Write {quoted(f'elif {test}:')} in place of `else:`.",
                    runs_at=node.lineno,
                )

    def _beside(self, scene: Scene, function: Function, name: str) -> Iterator[TrialEdit]:
        for node in ast.walk(function):
            value = node.value if isinstance(node, _WHOLE) else None
            if value is None or not self._is_placed(scene, value):
                continue
            if isinstance(value, (ast.Name, ast.BinOp, ast.Call, ast.Subscript, ast.Attribute)):
                for sign in "*+-":
                    new = f"{closed(scene, value)} {sign} {name}"
                    yield make_edit(
                        scene, self.name, span(scene, value), new, likely=0.4,
                        what=_asked(name), within=value,
                    )  # fmt: skip

    def _is_placed(self, scene: Scene, node: ast.expr) -> bool:
        return any(n is node for n in scene.expressions(type(node)))


def _unread(function: Function) -> list[str]:
    """Parameters that nothing in the function reads, as far as it does anything."""
    read = {n.id for n in ast.walk(function) if isinstance(n, ast.Name)}
    if len(function.body) == 1 and isinstance(function.body[0], (ast.Pass, ast.Raise)):
        return []
    return [name for name in parameters(function) if name not in read and name[:1] != "_"]


def _sides(test: ast.expr) -> list[ast.expr]:
    """What a condition compares with something by size."""
    return [n.left for n in ast.walk(test)
            if isinstance(n, ast.Compare) and isinstance(n.ops[0], _ORDERED)]  # fmt: skip


def _asked(name: str) -> str:
    return f"The function is given {quoted(name)}, and no line of it reads {quoted(name)}."
