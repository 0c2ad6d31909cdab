"""Notes on statements: what is never come to, what nobody takes, what belongs to nothing."""

from __future__ import annotations

from itertools import pairwise

from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.notes.rule import (
    Found,
    code,
    function_around,
    method,
    rule,
    sign,
)
from oddsum.languages.javascript.parsing import CLASSES, FUNCTIONS, around, is_statement, own, walk

_LEAVES = frozenset({"return_statement", "break_statement", "continue_statement",
                     "throw_statement"})  # fmt: skip
_HEADERS = ("if_statement", "while_statement", "for_statement", "for_in_statement")
_GIVE = frozenset({"trim", "toUpperCase", "toLowerCase", "slice", "concat", "replace", "replaceAll",
                   "padStart", "padEnd", "toFixed", "join", "split", "repeat", "filter",
                   "substring"})  # fmt: skip
_ASKING = frozenset({"map", "filter", "reduce", "find", "findIndex", "some", "every", "sort"})


def _nothing_belongs(scene: Scene) -> Found:
    for node in scene.of_type("empty_statement"):
        above = node.parent
        if above is not None and above.type in _HEADERS and node in (
            above.child_by_field_name("body"), above.child_by_field_name("consequence")
        ):  # fmt: skip
            yield (
                node,
                (
                    "A semicolon stands right behind this header, so nothing else belongs "
                    "to it. Is "
                    "the block below meant to?"
                ),
            )


def _never_come_to(scene: Scene) -> Found:
    for block in scene.of_type("statement_block", "program", "switch_case"):
        inside = [c for c in block.named_children if is_statement(c)]
        for first, second in pairwise(inside):
            if first.type in _LEAVES and second.type not in (*FUNCTIONS, "break_statement"):
                yield (
                    second,
                    (
                        f"{code(scene, second)} stands behind {code(scene, first)}, which "
                        "leaves. Can "
                        "this line ever run?"
                    ),
                )


def _goes_on(scene: Scene) -> Found:
    """A ``case`` that does something and goes on into one that does something else."""
    for node in scene.of_type("switch_case"):
        body = [c for c in node.named_children if c != node.child_by_field_name("value")
                and c.type != "comment"]  # fmt: skip
        after = node.next_named_sibling
        if not body or after is None or body[-1].type in _LEAVES:
            continue
        if any(n.type in _LEAVES for n in own(body[-1])):
            continue
        yield (
            node,
            (
                f"{code(scene, body[-1])} is the last line of this `case`, and no `break` follows: "
                "then the lines of the next one run, too. Is that meant?"
            ),
        )


def _gives_nothing(scene: Scene) -> Found:
    """An arrow or function handed to ``map`` and the like that gives nothing back."""
    for call in scene.of_type("call_expression"):
        if method(scene, call) not in _ASKING:
            continue
        given = scene.field(call, "arguments").named_children
        function = given[0] if given else None
        if function is None or function.type not in ("arrow_function", "function_expression"):
            continue
        body = scene.field(function, "body")
        if body.type == "statement_block" and not any(
            n.type in ("return_statement", "throw_statement") for n in own(body)
        ):
            yield (
                function,
                (
                    f"`{method(scene, call)}` uses what this function gives back, and it "
                    "has braces "
                    "and no `return`. What does it give?"
                ),
            )


def _nobody_takes(scene: Scene) -> Found:
    own_methods = {scene.text(scene.field(n, "name")) for n in scene.of_type("method_definition")}
    for node in scene.of_type("expression_statement"):
        value = node.named_children[0] if node.named_children else None
        if value is None:
            continue
        if value.type == "call_expression" and method(scene, value) in _GIVE - own_methods:
            yield (
                node,
                (
                    f"{code(scene, value)} gives something new and changes nothing. Who "
                    "takes what it "
                    "gives?"
                ),
            )
        elif sign(scene, value) in ("===", "==", "+", "-", "*", "/", "<", ">"):
            yield node, f"{code(scene, value)} is worked out. Who takes the result?"


def _first_round(scene: Scene) -> Found:
    for loop in scene.of_type("for_statement", "for_in_statement", "while_statement"):
        body = loop.child_by_field_name("body")
        if body is None or body.type != "statement_block":
            continue
        inside = [c for c in body.named_children if is_statement(c)]
        goes_on = any(n.type == "continue_statement" for n in own(body))
        if inside and inside[-1].type == "return_statement" and not goes_on:
            yield (
                inside[-1],
                (
                    "This `return` is come to in the first round, whatever happens. Should "
                    "the other "
                    "rounds come first?"
                ),
            )


def _other_this(scene: Scene) -> Found:
    for node in scene.of_type("function_expression"):
        above = node.parent
        uses = any(n.type == "this" for n in walk(scene.field(node, "body")))
        if uses and above is not None and above.type == "arguments" and around(node, CLASSES):
            yield (
                node,
                (
                    "A `function` that is handed on has a `this` of its own. Is the `this` of the "
                    "method meant, as an arrow has it?"
                ),
            )


def _not_waited_for(scene: Scene) -> Found:
    slow = {
        scene.text(n.child_by_field_name("name"))
        for n in scene.of_type("function_declaration")
        if scene.tree.says(n, "async")
    }
    for node in scene.of_type("variable_declarator", "augmented_assignment_expression"):
        value = node.child_by_field_name("value") or node.child_by_field_name("right")
        function = function_around(node)
        if value is None or value.type != "call_expression" or function is None:
            continue
        if scene.text(scene.field(value, "function")) in slow and scene.tree.says(
            function, "async"
        ):
            yield (
                node,
                (
                    f"{code(scene, value)} gives a promise, and nobody waits for it here. Is an "
                    "`await` missing?"
                ),
            )


RULES = (
    rule("nothing belongs", "A semicolon behind a header is the whole of what it decides on.",
         "if (a);\n{ b(); }\n", ("empty body",), _nothing_belongs),
    rule("never come to", "What stands behind a `return`, `break` or `continue` is never run.",
         "function f() { return 1; g(); }\n", ("order", "extra", "placement"), _never_come_to),
    rule("goes on", "A `case` without `break` goes on into the next one.",
         "switch (a) { case 1: b(); case 2: c(); }\n", ("falling through",), _goes_on),
    rule("gives nothing", "An arrow with braces gives back what stands behind `return` alone.",
         "a.map((x) => { x + 1; });\n", ("given back",), _gives_nothing),
    rule("nobody takes", "Texts never change: a method gives a new one, which has to be kept.",
         "a.trim();\n", ("given back", "discarded", "folding", "lost update"), _nobody_takes),
    rule("first round", "A `return` leaves the function, and with it the loop.",
         "function f(xs) { for (const x of xs) { g(x); return x; } }\n", ("leaving",),
         _first_round),
    rule("other this", "An arrow has the `this` of the method it stands in; a `function` has not.",
         "class A { f(xs) { xs.forEach(function (x) { this.n += x; }); } }\n", ("lost this",),
         _other_this),
    rule("not waited for", "A call of an `async` function gives a promise.",
         "async function f() {}\nasync function g() { const a = f(); return a; }\n", ("awaited",),
         _not_waited_for),
)  # fmt: skip
