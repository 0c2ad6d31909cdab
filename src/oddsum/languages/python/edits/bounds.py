"""A range or a slice that begins or ends one place off: one round too few or too many."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.arithmetic import SIGNS
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, closed, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST_STEPS = 5  # names that a range may go in steps of


class Bounds(EditRule):
    """Each bound of each ``range`` and slice, moved by one; a start and a step that are missing."""

    name = "bounds"
    title = "a range or a slice that is one off"
    explanation = (
        "`range(n)` makes n rounds, from 0 to n - 1; a slice leaves its end out. Count the rounds, "
        "and compare them with how many there should be."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each bound one more and one less, and each missing one put in."""
        for node in scene.expressions(ast.Call, ast.Subscript):
            whole = quoted(text_of(scene, node))
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "range" and node.args:
                yield from self._range(scene, node, whole)
            elif isinstance(node, ast.Subscript) and isinstance(node.slice, ast.Slice):
                yield from self._slice(scene, node, node.slice, whole)

    def _range(self, scene: Scene, node: ast.Call, whole: str) -> Iterator[TrialEdit]:
        for bound in node.args[:2]:
            stop = len(node.args) == 1 or bound is not node.args[0]
            words = _range_words(whole, stop)
            yield from self._moved(scene, bound, words, stop)
            if not stop and not _is_number(bound, 0, 1):
                yield make_edit(scene, self.name, span(scene, bound), "0", what=words, likely=0.2)
        if len(node.args) == 1:
            start = span(scene, node.args[0]).start
            yield make_edit(
                scene,
                self.name,
                Span(start, start),
                "1, ",
                what=_range_words(whole, False),
                how=f"Let {whole} begin with 1.",
                likely=0.5,
            )
        if len(node.args) == 2:
            yield from self._in_steps(scene, node, whole)
        if len(node.args) == 2 and _is_number(node.args[0], 1):
            first, second = (span(scene, a) for a in node.args)
            yield make_edit(
                scene,
                self.name,
                Span(first.start, second.start),
                "",
                likely=0.5,
                what=_range_words(whole, False),
                how=f"Let {whole} begin with 0.",
            )

    def _in_steps(self, scene: Scene, node: ast.Call, whole: str) -> Iterator[TrialEdit]:
        """``range(a, b)`` in steps of what a name has, the one it begins with first of all; of two,
        where its loop takes an item and the next."""
        end, first = span(scene, node).stop - 1, text_of(scene, node.args[0])
        if scene.source.text[:end].rstrip().endswith(","):
            return
        stop = text_of(scene, node.args[1])
        names = [n for n in scene.names_of("number", node) if not n.isupper() and n != stop]
        pairs = ["2"] if _goes_by_pairs(scene, node) else []
        for name in [*pairs, *sorted(names, key=lambda n: n != first)[:_MOST_STEPS]]:
            yield make_edit(
                scene,
                self.name,
                Span(end, end),
                f", {name}",
                likely=0.5 if name in (first, "2") else 0.3,
                what=f"{whole} counts up by 1. Is it steps of 1 that are meant?",
                how=f"Let {whole} go in steps of {quoted(name)}.",
            )

    def _slice(
        self, scene: Scene, node: ast.Subscript, piece: ast.Slice, whole: str
    ) -> Iterator[TrialEdit]:
        for end in (piece.lower, piece.upper):
            if end is not None:
                stop = end is piece.upper
                yield from self._moved(scene, end, _slice_words(whole, stop), stop)
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, end),
                    "",
                    likely=0.3,
                    what=_slice_words(whole, stop),
                )
        if piece.lower is not None and piece.upper is not None:
            yield from self._as_long(scene, piece.lower, piece.upper, whole)
        whole_span = span(scene, node)
        inside = scene.source.text[span(scene, node.value).stop : whole_span.stop]
        at = span(scene, node.value).stop + inside.index("[") + 1
        close = whole_span.stop - 1
        if piece.lower is None and piece.step is None:
            yield make_edit(
                scene,
                self.name,
                Span(at, at),
                "1",
                likely=0.25,
                what=_slice_words(whole, False),
                how=f"Let {whole} begin at item 1.",
            )
        if piece.upper is None and piece.step is None and scene.source.text[close - 1] == ":":
            yield make_edit(
                scene,
                self.name,
                Span(close, close),
                "-1",
                likely=0.25,
                what=_slice_words(whole, True),
                how=f"Let {whole} end before the last.",
            )
        if piece.step is not None:
            turned = f"-{closed(scene, piece.step)}"
            yield make_edit(
                scene,
                self.name,
                span(scene, piece.step),
                turned,
                likely=0.2,
                what=f"{whole}: look at the step, the number behind the second colon.",
            )

    def _as_long(
        self, scene: Scene, first: ast.expr, last: ast.expr, whole: str
    ) -> Iterator[TrialEdit]:
        """``xs[i:i + n]`` for ``xs[i:n]``, and back: where a piece ends, or how long it is."""
        new = _other_end(scene, first, last)
        if new is not None:
            yield make_edit(
                scene,
                self.name,
                span(scene, last),
                new,
                likely=0.45,
                what=f"{whole}: the second number says where the piece ends, not how long it is.",
            )

    def _moved(self, scene: Scene, bound: ast.expr, what: str, stop: bool) -> Iterator[TrialEdit]:
        """The bound one more and one less; ``n - 1`` becomes ``n`` rather than ``n - 1 + 1``."""
        at = span(scene, bound)
        text = at.of(scene.source)
        for by in (1, -1):
            new, likely = plus(scene, bound, by)
            likely += 0.1 if stop else 0.0
            how = f"Write {quoted(new)} instead of {quoted(text)}."
            yield make_edit(scene, self.name, at, new, what=what, likely=likely, how=how)


def _goes_by_pairs(scene: Scene, node: ast.Call) -> bool:
    """Whether the loop over a range looks at the place it is at and at the next."""
    loop = scene.parents.get(id(node))
    if not isinstance(loop, ast.For) or not isinstance(loop.target, ast.Name):
        return False
    name = loop.target.id
    keys = {text_of(scene, n.slice) for n in ast.walk(loop) if isinstance(n, ast.Subscript)}
    return {name, f"{name} + 1"} <= keys


def _range_words(whole: str, stop: bool) -> str:
    if stop:
        return (
            f"{whole} ends before its last number is reached: a range never includes the number it "
            "ends with. Count its rounds against what there is to go over."
        )
    return f"{whole}: look at the number it begins with. Lists begin at item 0."


def _slice_words(whole: str, stop: bool) -> str:
    side = "ends; the item at its end is not included" if stop else "begins; item 0 is the first"
    return f"{whole}: look at where this piece {side}."


def _other_end(scene: Scene, first: ast.expr, last: ast.expr) -> str | None:
    """Where a piece ends that is as long as its end says, or as its end is ahead of its start;
    None where that makes no sense, as for an end counted from the end."""
    if isinstance(first, ast.Constant):
        return None
    start, stop = text_of(scene, first), text_of(scene, last)
    if isinstance(last, ast.BinOp) and isinstance(last.op, ast.Add):
        left, right = text_of(scene, last.left), text_of(scene, last.right)
        if start in (left, right):
            return right if start == left else left
    if stop.startswith("len(") or not (_adds_up(first) and _adds_up(last)):
        return None
    return f"{start} + {stop}"


def _adds_up(node: ast.expr) -> bool:
    """Whether an expression can stand beside a ``+`` as it is."""
    if isinstance(node, ast.BinOp):
        return isinstance(node.op, (ast.Add, ast.Sub, ast.Mult, ast.FloorDiv, ast.Mod))
    return isinstance(node, (ast.Name, ast.Attribute, ast.Constant, ast.Call, ast.Subscript))


def _is_number(node: ast.expr, *values: int) -> bool:
    return isinstance(node, ast.Constant) and type(node.value) is int and node.value in values


def plus(scene: Scene, bound: ast.expr, by: int) -> tuple[str, float]:
    """The text of an expression one more or one less, and how likely that edit is."""
    if isinstance(bound, ast.Constant) and type(bound.value) is int:
        return str(bound.value + by), 0.7
    if isinstance(bound, ast.UnaryOp) and isinstance(bound.operand, ast.Constant):
        return str(-int(bound.operand.value) + by), 0.4  # type: ignore[arg-type]
    if isinstance(bound, ast.BinOp) and isinstance(bound.right, ast.Constant):
        sign = {ast.Add: 1, ast.Sub: -1}.get(type(bound.op), 0)
        if type(bound.right.value) is int and sign:
            total = sign * bound.right.value + by
            start, stop = span(scene, bound).start, span(scene, bound.left).stop
            left = scene.source.text[start:stop]
            if total == 0:
                return left, 0.8
            return f"{left} {'+' if total > 0 else '-'} {abs(total)}", 0.5
    binds = isinstance(bound, ast.BinOp) and type(bound.op) in SIGNS  # as strongly as + does
    body = text_of(scene, bound) if binds else closed(scene, bound)
    return f"{body} {'+' if by > 0 else '-'} 1", 0.7
