"""Notes on conditions: those that are always so, and those that ask something else."""

from __future__ import annotations

from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.notes.rule import Found, code, rule, sides, sign

_COMPARES = ("==", "===", "!=", "!==", "<", "<=", ">", ">=")
_CONSTANTS = ("number", "string", "true", "false", "null")


def _gives_a_value(scene: Scene) -> Found:
    for node in scene.of_type("if_statement", "while_statement"):
        asked = scene.field(node, "condition").named_children[0]
        if asked.type == "assignment_expression":
            left, _ = sides(asked)
            yield (
                asked,
                (
                    f"{code(scene, asked)} gives {code(scene, left)} a value, and asks nothing. Is "
                    "`===` meant?"
                ),
            )


def _or_constant(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) not in ("||", "&&"):
            continue
        left, right = sides(node)
        first = left
        while sign(scene, first) == sign(scene, node):
            first = sides(first)[1]
        if sign(scene, first) in _COMPARES and right.type in ("number", "string"):
            yield (
                node,
                (
                    f"{code(scene, right)} is not compared with anything here; by itself it "
                    "counts as "
                    f"true or false whatever happens. Is it meant as in {code(scene, first)}?"
                ),
            )


def _nan(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) in _COMPARES[:4] and any(
            scene.text(s) in ("NaN", "Number.NaN") for s in sides(node)
        ):
            yield (
                node,
                (
                    f"{code(scene, node)}: nothing is equal to NaN, not even NaN. Should "
                    "`Number.isNaN` ask?"
                ),
            )


def _always(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) not in _COMPARES:
            continue
        left, right = sides(node)
        if left.type in _CONSTANTS and right.type in _CONSTANTS:
            yield node, f"{code(scene, node)} compares two fixed values. Can it ever change?"
        elif left.type == "identifier" and scene.text(left) == scene.text(right):
            yield node, f"{code(scene, node)} compares a value with itself. Is that meant?"


def _never_both(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        joined = sign(scene, node)
        if joined not in ("&&", "||"):
            continue
        wanted = ("===", "==") if joined == "&&" else ("!==", "!=")
        left, right = sides(node)
        if sign(scene, left) not in wanted or sign(scene, right) not in wanted:
            continue
        (a, x), (b, y) = sides(left), sides(right)
        fixed = x.type in _CONSTANTS and y.type in _CONSTANTS
        if fixed and scene.text(a) == scene.text(b) and scene.text(x) != scene.text(y):
            always = "never" if joined == "&&" else "always"
            other = "||" if joined == "&&" else "&&"
            yield node, f"{code(scene, node)} is {always} so. Is `{other}` meant?"


def _chain(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) in _COMPARES[4:] and sign(scene, sides(node)[0]) in _COMPARES[4:]:
            yield (
                node,
                (
                    f"{code(scene, node)} compares what the first comparison gave, true or "
                    "false, with "
                    "the last value. Are two comparisons meant, joined by `&&`?"
                ),
            )


def _opposite_first(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        left, _ = sides(node)
        alone = left.type == "unary_expression" and scene.text(left).startswith("!")
        if sign(scene, node) in (*_COMPARES, "in", "instanceof") and alone:
            yield (
                node,
                (
                    f"{code(scene, node)} takes the opposite of "
                    f"{code(scene, left.named_children[0])} "
                    "first, and compares then. Does the `!` belong to the whole?"
                ),
            )


def _new_object(scene: Scene) -> Found:
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) in _COMPARES[:4] and any(
            s.type in ("array", "object") for s in sides(node)
        ):
            yield (
                node,
                (
                    f"{code(scene, node)} compares with a list or object that is made just "
                    "here: no "
                    "other one is the same. Is its length, or what is in it, meant?"
                ),
            )


def _same_again(scene: Scene) -> Found:
    for node in scene.of_type("if_statement"):
        seen = {scene.text(scene.field(node, "condition"))}
        other = node.child_by_field_name("alternative")
        while other is not None and other.named_children[-1].type == "if_statement":
            inner = other.named_children[-1]
            asked = scene.field(inner, "condition")
            if scene.text(asked) in seen:
                yield (
                    inner,
                    (
                        f"{code(scene, asked)} was asked before in this chain, so this "
                        "branch is never "
                        "taken. Is another condition meant?"
                    ),
                )
            seen.add(scene.text(asked))
            other = inner.child_by_field_name("alternative")


RULES = (
    rule("gives a value", "A single `=` gives a value, also in a condition; `===` asks.",
         "if (a = 1) { b(); }\n", ("assigned",), _gives_a_value),
    rule("or constant", "Each part of `||` needs a comparison of its own.",
         "if (a === 1 || 2) { b(); }\n", ("logic",), _or_constant),
    rule("nan", "NaN is equal to nothing; `Number.isNaN(x)` asks for it.",
         "if (a === NaN) { b(); }\n", ("not a number",), _nan),
    rule("always", "What never changes needs no condition.", "if (a === a) { b(); }\n",
         ("comparison", "variable"), _always),
    rule("never both", "One value cannot be two things; one of two is enough with `||`.",
         "if (a === 1 && a === 2) { b(); }\n", ("logic",), _never_both),
    rule("chain", "`a < b < c` compares true or false with c.", "if (1 < a < 5) { b(); }\n",
         ("logic",), _chain),
    rule("opposite first", "`!` belongs to what stands right behind it.",
         "if (!a === b) { c(); }\n", ("logic", "parentheses"), _opposite_first),
    rule("new object", "Two lists are the same only where they are one and the same list.",
         "if (a === []) { b(); }\n", ("comparison",), _new_object),
    rule("same again", "Of a chain of conditions the first that holds is taken.",
         "if (a > 1) { b(); } else if (a > 1) { c(); }\n", ("branches", "comparison", "constant"),
         _same_again),
)  # fmt: skip
