"""Notes on conditions: those that are always so, and those that ask something else."""

from __future__ import annotations

import ast

from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes.rule import Found, Rule, code, is_number
from oddsum.languages.python.parsing import literal

_METHODS = {
    "isupper", "islower", "isdigit", "isalpha", "isalnum", "isspace", "strip", "upper", "lower",
    "title", "split", "copy", "sort", "append", "pop", "keys", "values", "items", "readline",
}  # fmt: skip


def _or_constant(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if not isinstance(node, ast.BoolOp) or not isinstance(node.values[0], ast.Compare):
            continue
        for value in node.values[1:]:
            if isinstance(value, ast.Constant) and value.value not in (None, True, False):
                first = code(node.values[0])
                yield (
                    node.lineno,
                    (
                        f"{code(node)}: {code(value)} is not compared with anything; by itself it "
                        f"counts as true or false whatever happens. Is it meant to be "
                        f"compared as in "
                        f"{first}?"
                    ),
                )


def _always(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Compare) and len(node.ops) == 1:
            left, right = node.left, node.comparators[0]
            if isinstance(left, ast.Constant) and isinstance(right, ast.Constant):
                yield node.lineno, f"{code(node)} compares two fixed values. Can it ever change?"
            elif isinstance(left, ast.Name) and ast.dump(left) == ast.dump(right):
                yield node.lineno, f"{code(node)} compares a value with itself. Is that meant?"
        elif isinstance(node, ast.If) and isinstance(node.test, (ast.Tuple, ast.JoinedStr)):
            yield node.lineno, f"{code(node.test)} always counts as true. Is that meant?"
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.BoolOp):
            yield from _never_both(node)


def _never_both(node: ast.BoolOp) -> Found:
    """``x == 1 and x == 2`` is never so; ``x != 1 or x != 2`` always is."""
    wanted = ast.Eq if isinstance(node.op, ast.And) else ast.NotEq
    seen: dict[str, ast.Compare] = {}
    for value in node.values:
        if (
            isinstance(value, ast.Compare)
            and len(value.ops) == 1
            and isinstance(value.ops[0], wanted)
            and isinstance(value.comparators[0], ast.Constant)
        ):
            subject = ast.dump(value.left)
            other = seen.setdefault(subject, value)
            if other is not value and ast.dump(other.comparators[0]) != ast.dump(
                value.comparators[0]
            ):
                word = "never" if wanted is ast.Eq else "always"
                yield (
                    node.lineno,
                    f"{code(node)} is {word} true. Is another word meant between them?",
                )


def _equals_none(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Compare) and isinstance(node.ops[0], (ast.Eq, ast.NotEq)):
            right = node.comparators[0]
            if isinstance(right, ast.Constant) and right.value is None:
                yield (
                    node.lineno,
                    f"{code(node)}: is it None itself that is asked for? `is` does that.",
                )


def _is_literal(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Compare) and isinstance(node.ops[0], (ast.Is, ast.IsNot)):
            right = node.comparators[0]
            if isinstance(right, ast.Constant) and type(right.value) in (int, float, str):
                yield (
                    node.lineno,
                    (
                        f"{code(node)} asks whether it is the very same object. Is it "
                        f"equality that is "
                        "meant?"
                    ),
                )


def _float_exact(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if not isinstance(node, ast.Compare) or not isinstance(node.ops[0], (ast.Eq, ast.NotEq)):
            continue
        for side in (node.left, node.comparators[0]):
            fraction = isinstance(side, ast.Constant) and type(side.value) is float
            if fraction and float(literal(side)) % 1:
                yield (
                    node.lineno,
                    (
                        f"{code(node)} asks for exactly that fraction. Most fractions are "
                        f"kept only "
                        "nearly. Would near enough do?"
                    ),
                )
                break


def _mixed(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if not (isinstance(node, ast.BoolOp) and isinstance(node.op, ast.Or)):
            continue
        inner = [v for v in node.values if isinstance(v, ast.BoolOp)]
        if len(inner) == 1:
            start, _ = scene.place(inner[0])
            if not scene.source.text[:start].rstrip().endswith("("):
                yield (
                    node.lineno,
                    (
                        f"{code(node)}: `and` is worked out before `or`. Is that the order "
                        f"that is meant?"
                    ),
                )


def _chained(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Compare) and len(node.ops) > 1:
            kinds = {type(op) for op in node.ops}
            if kinds & {ast.In, ast.NotIn} or (kinds & {ast.Eq} and kinds & {ast.Lt, ast.Gt}):
                yield (
                    node.lineno,
                    (
                        f"{code(node)} asks several things at once: each sign is asked of its two "
                        "neighbours. Is that meant?"
                    ),
                )


def _not_called(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        test = node.test if isinstance(node, (ast.If, ast.While)) else None
        if isinstance(test, ast.Attribute) and test.attr in _METHODS:
            if isinstance(test.value, (ast.Name, ast.Subscript)):
                text = f"{code(test)} names the method and does not call it."
                yield test.lineno, f"{text} Are the brackets missing?"


def _number_text(scene: Scene) -> Found:
    """A name that came from ``input()`` and is compared with, or added to, a number."""
    texts = {
        node.targets[0].id
        for node in ast.walk(scene.tree)
        if isinstance(node, ast.Assign)
        and isinstance(node.targets[0], ast.Name)
        and isinstance(node.value, ast.Call)
        and getattr(node.value.func, "id", "") == "input"
    }
    turned = {
        node.targets[0].id
        for node in ast.walk(scene.tree)
        if isinstance(node, ast.Assign)
        and isinstance(node.targets[0], ast.Name)
        and not (isinstance(node.value, ast.Call) and getattr(node.value.func, "id", "") == "input")
    }
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Compare):
            sides = [node.left, *node.comparators]
        elif isinstance(node, ast.BinOp) and not isinstance(node.op, (ast.Mod, ast.Mult)):
            sides = [node.left, node.right]
        else:
            continue
        names = [s.id for s in sides if isinstance(s, ast.Name) and s.id in texts - turned]
        if names and any(map(is_number, sides)):
            yield (
                node.lineno,
                (
                    f"`{names[0]}` is what was typed, a text, and here it meets a number. "
                    f"Should it be "
                    "turned into a number first?"
                ),
            )


RULES = (
    Rule(
        "or a value",
        "`or` joins whole questions. `a == 1 or 2` asks whether a is 1, or "
        "whether 2 "
        "counts as true, which it always does.",
        "if day == 6 or 7:\n    pass\n",
        ("logic", "comparison"),
        _or_constant,
    ),
    Rule(
        "always the same answer",
        "A condition whose answer never changes decides nothing.",
        "x = 3\nif x == 1 and x == 2:\n    pass\n",
        ("logic", "comparison"),
        _always,
    ),
    Rule(
        "equal to None",
        "None is one single object; `is None` asks for it.",
        "x = None\nif x == None:\n    pass\n",
        ("comparison",),
        _equals_none,
    ),
    Rule(
        "is a number",
        "`is` asks for the same object. Two equal numbers can be two objects.",
        "x = 3\nif x is 3:\n    pass\n",
        ("comparison",),
        _is_literal,
    ),
    Rule(
        "exactly that fraction",
        "0.1 + 0.2 is not exactly 0.3: fractions are kept in halves, quarters, eighths.",
        "x = 0.1 + 0.2\nif x == 0.3:\n    pass\n",
        ("comparison", "rounding"),
        _float_exact,
    ),
    Rule(
        "and before or",
        "Without parentheses `and` is worked out before `or`.",
        "a = b = c = True\nif a or b and c:\n    pass\n",
        ("parentheses", "logic"),
        _mixed,
    ),
    Rule(
        "several questions",
        "`a < b == c` asks `a < b` and `b == c`.",
        "a = b = c = 1\nif a < b == c:\n    pass\n",
        ("comparison", "logic"),
        _chained,
    ),
    Rule(
        "not called",
        "A method's name alone is the method; with brackets it is what it gives.",
        "name = 'Ard'\nif name.isupper:\n    pass\n",
        ("discarded", "missing part"),
        _not_called,
    ),
    Rule(
        "a text as a number",
        "`input()` always gives a text, also when digits are typed.",
        "age = input()\nif age < 16:\n    pass\n",
        ("conversion",),
        _number_text,
    ),
)
