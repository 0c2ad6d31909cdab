"""Questions about branches that nothing comes to: what they ask for was taken above."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.literals import number_of
from oddsum.languages.javascript.notes.rule import Found, code, rule, sides, sign
from oddsum.languages.javascript.parsing import BLOCKS, is_statement
from oddsum.languages.spans import Span, span_of

_SIGNS = {"<": "<", "<=": "<=", ">": ">", ">=": ">=", "==": "==", "===": "=="}
_TURNED = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "==": "=="}
_STEADY = frozenset({"identifier", "member_expression"})
_LEAVING = frozenset({"return_statement", "throw_statement", "continue_statement",
                      "break_statement"})  # fmt: skip


@dataclass(frozen=True)
class _Asked:
    """A condition that is a stretch of numbers for one subject."""

    test: Node
    subject: str
    span: Span


def _taken_above(scene: Scene) -> Found:
    """``n >= 10`` ahead of ``n >= 30``: whatever the second asks for, the first has taken."""
    for block in scene.of_type(*BLOCKS):
        above: list[_Asked] = []
        for statement in (c for c in block.named_children if is_statement(c)):
            if statement.type != "if_statement":
                above = []
                continue
            inside, every_one_leaves = list(above), True
            for one in _chain(statement):
                test = scene.field(one, "condition").named_children[0]
                asked = _asked(scene, test)
                wider = next((a for a in inside if asked and _takes(scene, a, asked)), None)
                if asked is not None and wider is not None:
                    yield (
                        one,
                        (
                            f"Whenever {code(scene, asked.test)} holds, "
                            f"{code(scene, wider.test)} held before, so this "
                            "branch is never taken. Should it be asked first?"
                        ),
                    )
                inside += _held_above(scene, test, asked)
                every_one_leaves = every_one_leaves and _leaves(scene, one)
            above = inside if every_one_leaves else []


def _chain(statement: Node) -> Iterator[Node]:
    """An ``if`` and the ``else if`` that belong to it."""
    one: Node | None = statement
    while one is not None and one.type == "if_statement":
        yield one
        other = one.child_by_field_name("alternative")
        one = other.named_children[-1] if other is not None and other.named_children else None


def _leaves(scene: Scene, one: Node) -> bool:
    """Whether nothing goes on behind what an ``if`` does."""
    does = scene.field(one, "consequence")
    last = does.named_children[-1] if does.type == "statement_block" and does.named_children else (
        does)  # fmt: skip
    return last.type in _LEAVING


def _held_above(scene: Scene, test: Node, asked: _Asked | None) -> list[_Asked]:
    """What is known to be false once a condition was; each part of an ``||`` by itself."""
    parts = [asked]
    if sign(scene, test) == "||":
        parts += [p for side in sides(test) for p in _held_above(scene, side, _asked(scene, side))]
    return [one for one in parts if one is not None]


def _takes(scene: Scene, wider: _Asked, asked: _Asked) -> bool:
    same = scene.text(wider.test) == scene.text(asked.test)  # that is another rule's
    return wider.subject == asked.subject and not same and wider.span.covers(asked.span)


def _asked(scene: Scene, test: Node) -> _Asked | None:
    """The stretch of numbers that a condition asks for; None where it is no such condition."""
    if test.type == "parenthesized_expression" and test.named_children:
        return _asked(scene, test.named_children[0])
    if sign(scene, test) == "&&":
        one, other = (_asked(scene, side) for side in sides(test))
        if one is None or other is None or one.subject != other.subject:
            return None
        return _Asked(test, one.subject, one.span.both(other.span))
    written = _SIGNS.get(sign(scene, test))
    if written is None:
        return None
    left, right = sides(test)
    for subject, number, way in ((left, right, written), (right, left, _TURNED[written])):
        value = number_of(number, scene.tree)
        if value is not None and subject.type in _STEADY:
            span = span_of(way, float(value))
            return _Asked(test, scene.text(subject), span) if span is not None else None
    return None


RULES = (
    rule("wider first", "Of a chain of conditions the first that holds is taken: ask the narrower "
         "one first.", "if (a >= 10) { b(); } else if (a >= 30) { c(); }\n",
         ("branches", "comparison"), _taken_above),
)  # fmt: skip
