"""Notes on loops: rounds that are missing, things set anew in each, ways out in the first."""

from __future__ import annotations

import ast

from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes.rule import Found, Rule, bodies, called, code, loads, own, stores

_CHANGERS = {"append", "remove", "pop", "insert", "clear", "extend", "add", "discard"}


def _for_loops(scene: Scene) -> list[ast.For]:
    return [n for n in ast.walk(scene.tree) if isinstance(n, ast.For)]


def _range_short(scene: Scene) -> Found:
    """``range(len(x) - 1)`` where the body never looks at the item after."""
    for loop in _for_loops(scene):
        if called(loop.iter) != "range" or not isinstance(loop.target, ast.Name):
            continue
        end = loop.iter.args[-1] if len(loop.iter.args) < 3 and loop.iter.args else None  # type: ignore[attr-defined]
        if not (
            isinstance(end, ast.BinOp) and isinstance(end.op, ast.Sub) and called(end.left) == "len"
        ):
            continue
        ahead = any(
            isinstance(n, ast.BinOp) and isinstance(n.op, ast.Add) and loop.target.id in loads(n)
            for s in loop.body
            for n in ast.walk(s)
        )
        if not ahead and loop.target.id in {x for s in loop.body for x in loads(s)}:
            yield loop.lineno, f"{code(loop.iter)} leaves out the last one. Is that meant?"


def _range_down(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Call) and called(node) == "range" and len(node.args) == 2:
            first, last = (getattr(a, "value", None) for a in node.args)
            if isinstance(first, int) and isinstance(last, int) and first > last:
                yield (
                    node.lineno,
                    f"{code(node)} makes no round: it counts up. Is a step of -1 missing?",
                )


def _first_round(scene: Scene) -> Found:
    """A loop that is left in its first round, whatever happens."""
    for loop in ast.walk(scene.tree):
        if not isinstance(loop, (ast.For, ast.While)):
            continue
        last = loop.body[-1]
        if isinstance(last, ast.Return) and not any(
            isinstance(n, ast.Continue) for s in loop.body for n in [s, *own(s)]
        ):
            yield (
                last.lineno,
                (
                    "This `return` is reached in the first round, and ends the loop. Should "
                    "the other "
                    "rounds come first?"
                ),
            )
        elif isinstance(last, ast.If) and _returns(last.body) and _returns(last.orelse):
            yield (
                last.lineno,
                (
                    "Both ways end in a `return`: the loop never makes a second round. Is "
                    "that meant?"
                ),
            )


def _returns(body: list[ast.stmt]) -> bool:
    return bool(body) and isinstance(body[-1], ast.Return)


def _target_changed(scene: Scene) -> Found:
    for loop in _for_loops(scene):
        if not isinstance(loop.target, ast.Name) or called(loop.iter) != "range":
            continue
        for statement in loop.body:
            for node in [statement, *own(statement)]:
                if isinstance(node, ast.AugAssign) and loop.target.id in stores(node.target):
                    yield (
                        node.lineno,
                        (
                            f"`{loop.target.id}` is set by the loop anew in each round. "
                            f"Does changing it "
                            "here do what is meant?"
                        ),
                    )


def _changed_on_the_way(scene: Scene) -> Found:
    for loop in _for_loops(scene):
        if not isinstance(loop.iter, (ast.Name, ast.Attribute)):
            continue
        over = ast.dump(loop.iter)
        for statement in loop.body:
            for node in ast.walk(statement):
                if called(node) in _CHANGERS and isinstance(node, ast.Call):
                    base = getattr(node.func, "value", None)
                    if base is not None and ast.dump(base) == over and not _leaves(loop, node):
                        yield (
                            node.lineno,
                            (
                                f"{code(loop.iter)} is changed while the loop goes over it. "
                                f"What becomes "
                                "of the item that comes next?"
                            ),
                        )


def _leaves(loop: ast.For, node: ast.Call) -> bool:
    """Whether the loop is left right after the change: then nothing is stepped over."""
    for holder in ast.walk(loop):
        for field in ("body", "orelse"):
            body = getattr(holder, field, None)
            if (
                isinstance(body, list)
                and isinstance(body[-1:][0] if body else None, (ast.Break, ast.Return))
                and any(node in ast.walk(s) for s in body)
            ):
                return True
    return False


def _begun_in_loop(scene: Scene) -> Found:
    """A total begun in every round and looked at only after the loop."""
    for body in bodies(scene):
        for number, loop in enumerate(body):
            if isinstance(loop, (ast.For, ast.While)):
                yield from _begun_in(loop, body[number + 1 :])


def _begun_in(loop: ast.For | ast.While, after: list[ast.stmt]) -> Found:
    later = {x for s in after for x in loads(s)}
    for statement in loop.body:
        if not (isinstance(statement, ast.Assign) and isinstance(statement.targets[0], ast.Name)):
            continue
        name = statement.targets[0].id
        fixed = isinstance(statement.value, ast.Constant) and statement.value.value == 0
        added = any(
            isinstance(n, ast.AugAssign) and name in stores(n.target)
            for s in loop.body
            for n in ast.walk(s)
        )
        inside = [x for s in loop.body if s is not statement for x in loads(s)]
        if fixed and added and name in later and name not in inside:
            yield (
                statement.lineno,
                (
                    f"`{name}` is set to {code(statement.value)} in every round. Should "
                    f"that happen once, "
                    "before the loop?"
                ),
            )


def _overwritten(scene: Scene) -> Found:
    """``total = price`` in a loop, begun with 0 before it and used after it."""
    for body in bodies(scene):
        for number, loop in enumerate(body):
            if not isinstance(loop, ast.For):
                continue
            begun = {
                s.targets[0].id
                for s in body[:number]
                if isinstance(s, ast.Assign)
                and isinstance(s.targets[0], ast.Name)
                and isinstance(s.value, ast.Constant)
                and type(s.value.value) is int
            }
            later = {x for s in body[number + 1 :] for x in loads(s)}
            for statement in loop.body:
                if isinstance(statement, ast.Assign) and isinstance(statement.targets[0], ast.Name):
                    name = statement.targets[0].id
                    used = [x for s in loop.body for x in loads(s)]
                    if name in begun & later and name not in used:
                        yield (
                            statement.lineno,
                            (
                                f"{code(statement)} forgets what `{name}` was in the rounds "
                                f"before. Is "
                                "it the last one that is wanted, or all of them together?"
                            ),
                        )


def _never_changing(scene: Scene) -> Found:
    for loop in ast.walk(scene.tree):
        if not isinstance(loop, ast.While) or not isinstance(loop.test, ast.Compare):
            continue
        asked = [
            n
            for n in ast.walk(loop.test)
            if isinstance(n, (ast.Call, ast.Attribute, ast.Subscript))
        ]
        names = set(loads(loop.test))
        changed = {x for s in loop.body for x in stores(s)}
        leaves = any(
            isinstance(n, (ast.Break, ast.Return, ast.Raise, ast.Call, ast.Yield))
            for s in loop.body
            for n in ast.walk(s)
        )
        if names and not asked and not names & changed and not leaves:
            yield (
                loop.lineno,
                (
                    f"Nothing in the loop changes what {code(loop.test)} asks about. How "
                    f"does it end?"
                ),
            )


RULES = (
    Rule(
        "the last one left out",
        "`range(len(x) - 1)` makes one round fewer than x has "
        "items; that "
        "is right only where each item is looked at with the next.",
        "x = [1]\nfor i in range(len(x) - 1):\n    print(x[i])\n",
        ("bounds",),
        _range_short,
    ),
    Rule(
        "no round at all",
        "`range` counts up from its first number; downwards it needs a step of -1.",
        "for i in range(5, 0):\n    print(i)\n",
        ("bounds",),
        _range_down,
    ),
    Rule(
        "return in the first round",
        "`return` ends the function, in whatever round it stands.",
        "def f(xs):\n    for x in xs:\n        return x\n",
        ("leaving", "placement"),
        _first_round,
    ),
    Rule(
        "the loop's own variable",
        "A `for` gives its variable the next value whatever was done to it.",
        "for i in range(9):\n    i += 1\n",
        ("augmented", "inner loop"),
        _target_changed,
    ),
    Rule(
        "changed on the way",
        "Where an item is taken out, the one behind it moves up, and is stepped over.",
        "xs = [1, 2]\nfor x in xs:\n    xs.remove(x)\n",
        ("mutated",),
        _changed_on_the_way,
    ),
    Rule(
        "begun in every round",
        "A total that is set to 0 in every round holds the last round only.",
        "def f(xs):\n    for x in xs:\n        total = 0\n        total += x\n    return total\n",
        ("placement",),
        _begun_in_loop,
    ),
    Rule(
        "overwritten in every round",
        "`total = x` in a loop keeps the last x; `total += x` keeps them all.",
        "def f(xs):\n    total = 0\n    for x in xs:\n        total = x\n    return total\n",
        ("augmented",),
        _overwritten,
    ),
    Rule(
        "nothing changes it",
        "A `while` ends when its condition becomes False: something in it has to see to that.",
        "n = 3\nwhile n > 0:\n    m = 1\n",
        ("missing", "comparison"),
        _never_changing,
    ),
)
