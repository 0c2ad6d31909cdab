"""What a function is given and never uses: there is a line that should ask for it."""

from __future__ import annotations

import ast
from collections import Counter
from collections.abc import Iterator

from oddsum.languages.fitted import UNUSED
from oddsum.languages.python.edits.blocks import indent_of, line_text, replaced
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, closed, make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Function, Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_ORDERED = (ast.Lt, ast.LtE, ast.Gt, ast.GtE)
_SIGNS = ("<=", "<", ">=", ">", "==")
_WHOLE = (ast.Return, ast.Assign, ast.AugAssign)


class Unused(EditRule):
    """A limit, an amount or a step that is handed in, and that no line of the function reads."""

    name = "unused"
    title, explanation = UNUSED.title, UNUSED.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """It in the place of a number, asked for in an ``else``, and beside whole values."""
        for scope in (scene.tree, *scene.statements(ast.FunctionDef, ast.AsyncFunctionDef)):
            assert isinstance(scope, (ast.Module, ast.FunctionDef, ast.AsyncFunctionDef))
            own = not isinstance(scope, ast.Module)
            for name, since in _unread(scope):
                what = _asked(name, own)
                nodes = [n for n in ast.walk(scope) if getattr(n, "lineno", 0) > since]
                yield from self._compared(scene, nodes, name, what)
                yield from self._beside(scene, nodes, name, what)
                yield from self._handed_on(scene, nodes, name, what)

    def _handed_on(
        self, scene: Scene, nodes: list[ast.AST], name: str, what: str
    ) -> Iterator[TrialEdit]:
        """``add(kind)`` as ``add(kind, count)``, where the function can be given more."""
        for node in nodes:
            if not isinstance(node, ast.Call) or not node.args or node.keywords:
                continue
            called = getattr(node.func, "id", getattr(node.func, "attr", ""))
            function = scene.functions.get(called)
            if function is not None and len(node.args) < len(parameters(function)):
                at = span(scene, node.args[-1]).stop
                yield make_edit(
                    scene, self.name, Span(at, at), f", {name}", likely=0.5, what=what, within=node,
                    how=f"Hand {quoted(name)} on to {quoted(called)}.",
                )  # fmt: skip

    def _compared(
        self, scene: Scene, nodes: list[ast.AST], name: str, what: str
    ) -> Iterator[TrialEdit]:
        for node in nodes:
            if isinstance(node, ast.If):
                yield from self._in_else(scene, node, name, what)
            if not isinstance(node, ast.Constant) or type(node.value) not in (int, float, str):
                continue
            above = scene.parents.get(id(node))
            if isinstance(above, (ast.Compare, ast.BinOp, ast.Call, ast.Assign)):
                if self._is_placed(scene, node):
                    yield make_edit(
                        scene, self.name, span(scene, node), name, likely=0.45,
                        what=what, within=above if isinstance(above, ast.expr) else None,
                    )  # fmt: skip

    def _in_else(self, scene: Scene, node: ast.If, name: str, what: str) -> Iterator[TrialEdit]:
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
                    what=what,
                    how=f"Write {quoted(f'elif {test}:')} in place of `else:`.",
                )

    def _beside(
        self, scene: Scene, nodes: list[ast.AST], name: str, what: str
    ) -> Iterator[TrialEdit]:
        for node in nodes:
            value = node.value if isinstance(node, _WHOLE) else None
            if value is None or not self._is_placed(scene, value):
                continue
            if isinstance(value, (ast.Name, ast.BinOp, ast.Call, ast.Subscript, ast.Attribute)):
                text, inner = text_of(scene, value), closed(scene, value)
                limits = (f"min({text}, {name})", f"max({text}, {name})")
                read = [f"{called}({name})" for called in _conversions(value)]
                sums = (f"{inner} {sign} {one}" for one in (*read, name) for sign in "*+-")
                for new in (*sums, *limits):
                    yield make_edit(
                        scene, self.name, span(scene, value), new, likely=0.4,
                        what=what, within=value,
                    )  # fmt: skip

    def _is_placed(self, scene: Scene, node: ast.expr) -> bool:
        return any(n is node for n in scene.expressions(type(node)))


def _unread(scope: ast.Module | Function) -> list[tuple[str, int]]:
    """Parameters, and names that are given a value once, that nothing in a function reads, as far
    as it does anything; each with the line behind which it has a value."""
    names = [n for n in ast.walk(scope) if isinstance(n, ast.Name)]
    read = {n.id for n in names if not isinstance(n.ctx, ast.Store)}
    read |= {
        n for s in ast.walk(scope) if isinstance(s, (ast.Global, ast.Nonlocal)) for n in s.names
    }
    given = {} if isinstance(scope, ast.Module) else dict.fromkeys(parameters(scope), 0)
    if len(scope.body) == 1 and isinstance(scope.body[0], (ast.Pass, ast.Raise)):
        return []
    times = Counter(n.id for n in names)
    own = [s for s in ast.walk(scope) if isinstance(s, ast.Assign)]
    targets = [(t, s.lineno) for s in own for t in s.targets]
    kept = {
        t.id: line
        for whole, line in targets
        for t in (whole.elts if isinstance(whole, ast.Tuple) else [whole])
        if isinstance(t, ast.Name)
    }
    alone = {name: line for name, line in kept.items() if times[name] == 1}
    return [(name, line) for name, line in {**alone, **given}.items()
            if name not in read and name[:1] != "_"]  # fmt: skip


def _conversions(value: ast.expr) -> list[str]:
    """By what a value makes numbers of texts."""
    called = [getattr(n.func, "id", "") for n in ast.walk(value) if isinstance(n, ast.Call)]
    return [name for name in ("int", "float") if name in called]


def _sides(test: ast.expr) -> list[ast.expr]:
    """What a condition compares with something by size."""
    return [n.left for n in ast.walk(test)
            if isinstance(n, ast.Compare) and isinstance(n.ops[0], _ORDERED)]  # fmt: skip


def _asked(name: str, own: bool) -> str:
    return UNUSED.asks.format(all="the function" if own else "this file", here=quoted(name))
