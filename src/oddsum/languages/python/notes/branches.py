"""Questions about branches that nothing comes to: what they ask for was taken above."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass

from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes.rule import Found, Rule, bodies, code, is_number
from oddsum.languages.python.parsing import literal
from oddsum.languages.spans import Span, span_of

_SIGNS = {ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "=="}
_TURNED = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "==": "=="}
_LEAVING = (ast.Return, ast.Raise, ast.Continue, ast.Break)


@dataclass(frozen=True)
class _Asked:
    """A condition that is a stretch of numbers for one subject."""

    test: ast.expr
    subject: str
    span: Span


def _taken_above(scene: Scene) -> Found:
    """``n >= 10`` ahead of ``n >= 30``: whatever the second asks for, the first has taken."""
    for body in bodies(scene):
        above: list[_Asked] = []
        for statement in body:
            if not isinstance(statement, ast.If):
                above = []
                continue
            # An `elif` is a body of its own: it is looked at with the `if` it belongs to.
            inside, every_one_leaves = list(above), True
            for one in _chain(statement):
                asked = _asked(one.test)
                wider = next((a for a in inside if asked and _takes(a, asked)), None)
                if asked is not None and wider is not None:
                    yield (
                        one.lineno,
                        (
                            f"Whenever {code(asked.test)} holds, {code(wider.test)} held before, "
                            "so this branch is never taken. Should it be asked first?"
                        ),
                    )
                inside += _held_above(one.test, asked)
                leaves = isinstance(one.body[-1], _LEAVING)
                every_one_leaves = every_one_leaves and leaves
            above = inside if every_one_leaves else []


def _chain(statement: ast.If) -> Iterator[ast.If]:
    """An ``if`` and the ``elif`` that belong to it."""
    one: ast.stmt = statement
    while isinstance(one, ast.If):
        yield one
        one = one.orelse[0] if len(one.orelse) == 1 else ast.Pass()


def _held_above(test: ast.expr, asked: _Asked | None) -> list[_Asked]:
    """What is known to be false once a condition was; each part of an ``or`` by itself."""
    parts = test.values if isinstance(test, ast.BoolOp) and isinstance(test.op, ast.Or) else []
    found = [asked, *(_asked(part) for part in parts)]
    return [one for one in found if one is not None]


def _takes(wider: _Asked, asked: _Asked) -> bool:
    same = ast.dump(wider.test) == ast.dump(asked.test)  # that is another rule's
    return wider.subject == asked.subject and not same and wider.span.covers(asked.span)


def _asked(test: ast.expr) -> _Asked | None:
    """The stretch of numbers that a condition asks for; None where it is no such condition."""
    if isinstance(test, ast.BoolOp) and isinstance(test.op, ast.And):
        parts = [_asked(value) for value in test.values]
        return _together(test, [p for p in parts if p is not None], len(parts))
    if not isinstance(test, ast.Compare):
        return None
    pairs = zip([test.left, *test.comparators], test.ops, test.comparators, strict=False)
    found = [_compared(test, left, sign, right) for left, sign, right in pairs]
    return _together(test, [f for f in found if f is not None], len(found))


def _together(test: ast.expr, parts: list[_Asked], count: int) -> _Asked | None:
    if len(parts) != count or len({p.subject for p in parts}) != 1:
        return None
    span = parts[0].span
    for part in parts[1:]:
        span = span.both(part.span)
    return _Asked(test, parts[0].subject, span)


def _compared(test: ast.expr, left: ast.expr, sign: ast.cmpop, right: ast.expr) -> _Asked | None:
    written = _SIGNS.get(type(sign))
    if written is None:
        return None
    for subject, number, way in ((left, right, written), (right, left, _TURNED[written])):
        if is_number(number) and _is_steady(subject):
            span = span_of(way, float(literal(number)))
            return _Asked(test, ast.dump(subject), span) if span is not None else None
    return None


def _is_steady(node: ast.expr) -> bool:
    """Whether asking for it twice in a row gives the same: a name, an attribute, a length."""
    if isinstance(node, ast.Call):
        return (
            getattr(node.func, "id", "") == "len"
            and len(node.args) == 1
            and isinstance(node.args[0], ast.Name)
        )
    if isinstance(node, ast.Attribute):
        return isinstance(node.value, ast.Name)
    return isinstance(node, ast.Name)


RULES = (
    Rule(
        "wider first",
        "Of a chain of conditions the first that holds is taken: ask the narrower one first.",
        "def f(n):\n    if n >= 10:\n        return 1\n    elif n >= 50:\n        return 2\n",
        ("branch", "comparison", "constant"),
        _taken_above,
    ),
)
