"""An index one off, the first item for the last, rows for columns."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.bounds import plus
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Index(EditRule):
    """Another item than the one that is meant."""

    name = "index"
    title = "another item than the one that is meant"
    explanation = (
        "The first item is number 0, the last is number -1 or `len(...) - 1`. A place that people "
        "count from 1 has to be made one less."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each index one more, one less, first for last; ``pop`` from the other end, or at all."""
        filled = _filled(scene)
        for node in scene.expressions(ast.Subscript, ast.Call):
            if isinstance(node, ast.Subscript):
                yield from self._item(scene, node)
                yield from self._kept(scene, node, filled)
            elif isinstance(node, ast.Call) and getattr(node.func, "attr", "") == "pop":
                yield from self._pop(scene, node)

    def _item(self, scene: Scene, node: ast.Subscript) -> Iterator[TrialEdit]:
        key = node.slice
        if isinstance(key, (ast.Slice, ast.Tuple)) or _is_text(scene, key):
            return
        at = span(scene, key)
        text = quoted(text_of(scene, node))
        what = f"{text}: which item is that in the first round, and which in the last?"
        minus_one = isinstance(key, ast.UnaryOp)
        if isinstance(key, ast.Constant) or minus_one:
            what = f"{text} is one certain item. Is it the one that is meant?"
            yield make_edit(
                scene, self.name, at, "0" if minus_one else "-1", what=what, likely=0.5, within=node
            )
        for by in (1, -1):
            new, likely = plus(scene, key, by)
            yield make_edit(scene, self.name, at, new, what=what, likely=likely - 0.2, within=node)
        if isinstance(key, ast.Constant) or minus_one:  # a neighbour's place, counted from a name
            for new in ("1:", ":-1"):
                yield make_edit(scene, self.name, at, new, what=what, likely=0.2, within=node)
            for name in scene.names_of("number", node)[:4]:
                for new in (name, f"{name} + 1", f"{name} - 1"):
                    yield make_edit(scene, self.name, at, new, what=what, likely=0.3, within=node)
            for name in _over(scene, node):
                yield make_edit(
                    scene, self.name, span(scene, node), name, what=what, likely=0.45, within=node
                )
        if isinstance(key, ast.Name):
            for other in scene.alike(key.id, node):
                yield make_edit(scene, self.name, at, other, what=what, likely=0.3, within=node)

    def _kept(self, scene: Scene, node: ast.Subscript, filled: set[str]) -> Iterator[TrialEdit]:
        """``inside[car]`` as ``inside.pop(car)``: what was looked up is over, and stays there."""
        key, base = node.slice, node.value
        if not isinstance(node.ctx, ast.Load) or not isinstance(base, (ast.Name, ast.Attribute)):
            return
        first = isinstance(base, ast.Name) and text_of(scene, key) == "0"
        if not first and not isinstance(key, (ast.Name, ast.Attribute)):
            return
        whole = text_of(scene, base)
        if whole in filled:
            text = text_of(scene, node)
            yield make_edit(
                scene, self.name, span(scene, node), f"{whole}.pop({text_of(scene, key)})",
                likely=0.3, within=node,
                what=f"{quoted(text)} stays in {quoted(whole)} once it was looked up. Is it over?",
            )  # fmt: skip

    def _pop(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        text = quoted(whole.of(scene.source))
        inside = Span(whole.stop - 1, whole.stop - 1)
        if not node.args:
            yield make_edit(
                scene,
                self.name,
                inside,
                "0",
                likely=0.6,
                how=f"Let {text} take item 0.",
                what=f"{text} takes the last item. Is it the last that is meant?",
            )
        elif isinstance(node.args[0], ast.Constant) and node.args[0].value == 0:
            yield make_edit(
                scene,
                self.name,
                span(scene, node.args[0]),
                "",
                likely=0.5,
                what=f"{text} takes the first item. Is it the first that is meant?",
            )


def _filled(scene: Scene) -> set[str]:
    """What is filled item by item: ``inside[car] = ...``, ``queue.append(...)``."""
    put = {
        text_of(scene, n.value)
        for n in scene.expressions(ast.Subscript)
        if isinstance(n, ast.Subscript) and isinstance(n.ctx, ast.Store)
    }
    return put | {
        text_of(scene, n.value)
        for n in scene.expressions(ast.Attribute)
        if isinstance(n, ast.Attribute) and n.attr == "append"
    }


def _over(scene: Scene, node: ast.Subscript) -> list[str]:
    """What loops around a place that go over the same list call its items."""
    found: list[str] = []
    text, loop = text_of(scene, node.value), scene.loop_of(node)
    while loop is not None:
        if isinstance(loop, ast.For) and isinstance(loop.target, ast.Name):
            if text_of(scene, loop.iter) == text:
                found.append(loop.target.id)
        loop = scene.loop_of(loop)
    return found


class RowColumn(EditRule):
    """Rows and columns exchanged."""

    name = "row and column"
    title = "rows and columns exchanged"
    explanation = (
        "In a list of rows, `grid[a][b]` is item b of row a: the row comes first. Try a grid that "
        "is wider than it is high."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``grid[a][b]`` as ``grid[b][a]``, and an addend moved from one to the other."""
        for node in scene.expressions(ast.Subscript):
            assert isinstance(node, ast.Subscript)
            inner = node.value
            if not isinstance(inner, ast.Subscript):
                continue
            if isinstance(node.slice, ast.Slice) or isinstance(inner.slice, ast.Slice):
                continue
            yield from self._exchanged(scene, node, inner)

    def _exchanged(
        self, scene: Scene, node: ast.Subscript, inner: ast.Subscript
    ) -> Iterator[TrialEdit]:
        base = text_of(scene, inner.value)
        first, second = text_of(scene, inner.slice), text_of(scene, node.slice)
        what = f"{quoted(text_of(scene, node))}: which of the two is the row, which the column?"
        yield make_edit(
            scene,
            self.name,
            span(scene, node),
            f"{base}[{second}][{first}]",
            what=what,
            likely=0.7,
            within=node,
        )
        if isinstance(inner.slice, ast.BinOp):
            left, sign = (
                text_of(scene, inner.slice.left),
                first[len(text_of(scene, inner.slice.left)) :],
            )
            new = f"{base}[{left}][{second}{sign}]"
            yield make_edit(scene, self.name, span(scene, node), new, what=what, likely=0.5)
        if isinstance(node.slice, ast.BinOp):
            left, sign = (
                text_of(scene, node.slice.left),
                second[len(text_of(scene, node.slice.left)) :],
            )
            new = f"{base}[{first}{sign}][{left}]"
            yield make_edit(scene, self.name, span(scene, node), new, what=what, likely=0.5)


def _is_text(scene: Scene, key: ast.expr) -> bool:
    if isinstance(key, ast.Constant):
        return not isinstance(key.value, int)
    return isinstance(key, ast.Name) and scene.types_of(key.id, key) == frozenset({"str"})
