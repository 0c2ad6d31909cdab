"""Notes on loops and on what they share: their ends, their items, their names."""

from __future__ import annotations

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.notes.rule import (
    Found,
    code,
    function_around,
    method,
    names_in,
    rule,
    set_in,
    sides,
    sign,
)
from oddsum.languages.javascript.parsing import FUNCTIONS, LOOPS, around, own, walk


def _one_too_many(scene: Scene) -> Found:
    for loop, asked, list_, index in _over_lists(scene):
        if sign(scene, asked) == "<=" and f"{list_}[{index}]" in scene.text(loop):
            yield (
                asked,
                (
                    f"The last index of `{list_}` is `{list_}.length - 1`. What is "
                    f"`{list_}[{index}]` when `{index}` is `{list_}.length`?"
                ),
            )


def _last_left_out(scene: Scene) -> Found:
    for node in scene.of_type("for_statement"):
        asked = node.child_by_field_name("condition")
        if asked is None or sign(scene, asked) != "<":
            continue
        left, right = sides(asked)
        text, index = scene.text(right), scene.text(left)
        if not text.endswith(".length - 1") or left.type != "identifier":
            continue
        items = {scene.text(n) for n in walk(node) if n.type == "subscript_expression"}
        named = text.removesuffix(".length - 1")
        if items & {f"{named}[{index}]"} and not any(f"{index} + 1" in one for one in items):
            yield asked, f"{code(scene, asked)} leaves the last item out. Is that meant?"


def _over_lists(scene: Scene) -> list[tuple[Node, Node, str, str]]:
    """Loops that count up to the length of something: with what they ask, and the two names."""
    found = []
    for node in scene.of_type("for_statement"):
        asked = node.child_by_field_name("condition")
        if asked is None or sign(scene, asked) not in ("<", "<="):
            continue
        left, right = sides(asked)
        if left.type == "identifier" and scene.text(right).endswith(".length"):
            list_ = scene.text(right).removesuffix(".length")
            found.append((node, asked, list_, scene.text(left)))
    return found


def _places_for_items(scene: Scene) -> Found:
    lists = {
        scene.text(scene.field(n, "name"))
        for n in scene.of_type("variable_declarator")
        if n.child_by_field_name("value") is not None and scene.field(n, "value").type == "array"
    }
    for node in scene.of_type("for_in_statement"):
        over = scene.field(node, "right")
        if scene.text(scene.operator(node)) != "in" or not (
            over.type == "array" or scene.text(over) in lists
        ):
            continue
        name = scene.text(scene.field(node, "left"))
        if f"[{name}]" not in scene.text(scene.field(node, "body")):
            yield (
                node,
                (
                    f"`for ... in` gives the places of {code(scene, over)} as texts, '0' "
                    "and on. Are "
                    "its items meant: `of`?"
                ),
            )


def _nothing_changes(scene: Scene) -> Found:
    for node in scene.of_type("while_statement"):
        asked, body = scene.field(node, "condition"), scene.field(node, "body")
        names = names_in(scene, asked)
        quiet = not any(n.type in ("call_expression", "await_expression", "member_expression",
                                   "update_expression") for n in walk(asked))  # fmt: skip
        leaves = any(n.type in ("break_statement", "return_statement", "throw_statement",
                                "call_expression") for n in own(body))  # fmt: skip
        if names and quiet and not leaves and not names & set_in(scene, body):
            yield (
                node,
                (
                    f"Nothing in this loop changes {' or '.join(f'`{n}`' for n in sorted(names))}. "
                    "What ends it?"
                ),
            )


def _one_for_all(scene: Scene) -> Found:
    """``var`` in a loop's header, seen by a function that is made in the loop."""
    for node in scene.of_type("variable_declaration"):
        loop = node.parent
        if loop is None or loop.type not in LOOPS:
            continue
        names = {scene.text(scene.field(d, "name")) for d in node.named_children}
        made = (n for n in walk(scene.field(loop, "body")) if n.type in FUNCTIONS)
        if any(names & names_in(scene, f) and _is_kept(scene, f) for f in made):
            yield (
                node,
                (
                    f"{code(scene, node)} is one name for all rounds, and a function that "
                    "is made in "
                    "them sees its last value. Is `let` meant?"
                ),
            )


def _is_kept(scene: Scene, function: Node) -> bool:
    """Whether a function is put away and not called at once."""
    above = function.parent
    call = above.parent if above is not None and above.type == "arguments" else above
    if call is None or call.type != "call_expression":
        return above is not None and above.type in ("assignment_expression", "pair",
                                                    "variable_declarator")  # fmt: skip
    return method(scene, call) in ("push", "then", "set", "addEventListener") or scene.text(
        call
    ).startswith(("setTimeout", "setInterval"))


def _as_texts(scene: Scene) -> Found:
    """A name that holds what was typed in, put to something or compared in size."""
    typed = {
        (function_around(n), scene.text(scene.field(n, "name")))
        for n in scene.of_type("variable_declarator")
        if scene.text(n.child_by_field_name("value")).startswith(("prompt(", "await ask"))
    }
    for node in scene.of_type("binary_expression"):
        if sign(scene, node) not in ("+", "<", "<=", ">", ">="):
            continue
        left, right = sides(node)
        names = {scene.text(s) for s in (left, right) if s.type == "identifier"}
        texts = any(s.type in ("string", "template_string") for s in (left, right))
        here = {name for where, name in typed if where == function_around(node)}
        if names & here and not texts and not _in_text(scene, node):
            yield (
                node,
                (
                    f"{code(scene, node)}: what is typed in is a text, and texts are put "
                    "one behind "
                    "the other. Is `Number(...)` missing?"
                ),
            )


def _in_text(scene: Scene, node: Node) -> bool:
    """Whether it is a part of a longer text."""
    above = node.parent
    while above is not None and above.type == "binary_expression":
        if any(s.type in ("string", "template_string") for s in sides(above)):
            return True
        above = above.parent
    return False


def _numbers_as_texts(scene: Scene) -> Found:
    for node in scene.of_type("call_expression"):
        bare = method(scene, node) == "sort" and not scene.field(node, "arguments").named_children
        if not bare:
            continue
        sorted_ = scene.field(scene.field(node, "function"), "object")
        numbers = (
            sorted_.type == "array"
            and sorted_.named_children
            and all(n.type == "number" for n in sorted_.named_children)
        )
        if numbers or scene.text(sorted_).endswith(".map(Number)"):
            yield (
                node,
                (
                    f"{code(scene, node)} compares as texts: 10 comes before 9. Is "
                    "`sort((a, b) => a - b)` meant?"
                ),
            )


def _hidden(scene: Scene) -> Found:
    """A name that is declared once more in a block, where the function's own is meant."""
    for node in scene.of_type("lexical_declaration"):
        loop = around(node, LOOPS, FUNCTIONS)
        if loop is None or node.parent == loop:
            continue
        function = function_around(node)
        body = scene.tree.root if function is None else scene.field(function, "body")
        for one in node.named_children:
            named = one.child_by_field_name("name")
            before = [
                d for d in own(body)
                if d.type == "variable_declarator" and d != one and d.start_byte < one.start_byte
                and scene.text(d.child_by_field_name("name")) == scene.text(named)
                and around(d, LOOPS, FUNCTIONS) is None
            ]  # fmt: skip
            if before and named is not None and named.type == "identifier":
                yield (
                    node,
                    (
                        f"`{scene.text(named)}` is declared once more here, and the one "
                        "outside of the "
                        "loop stays as it is. Is it that one that is meant?"
                    ),
                )


RULES = (
    rule("one too many", "The first index is 0, so the last one is the length less 1.",
         "for (let i = 0; i <= a.length; i++) { b(a[i]); }\n", ("comparison", "index"),
         _one_too_many),
    rule("last left out", "`i < a.length` goes as far as the last item.",
         "for (let i = 0; i < a.length - 1; i++) { b(a[i]); }\n", ("index", "constant"),
         _last_left_out),
    rule("places for items", "`for ... in` gives places, `for ... of` items.",
         "const a = [1];\nfor (const x in a) { b(x); }\n", ("going over",), _places_for_items),
    rule("nothing changes", "A loop ends when its condition no longer holds.",
         "while (a > 0) { b += 1; }\n", ("missing", "variable"), _nothing_changes),
    rule("one for all", "`let` gives each round a name of its own; `var` does not.",
         "for (var i = 0; i < 3; i++) { a.push(() => i); }\n", ("late",), _one_for_all),
    rule("as texts", "What is typed in is a text: '2' + '3' is '23'.",
         'const a = prompt("?");\nb(a + c);\n', ("as text",), _as_texts),
    rule("numbers as texts", "`sort()` compares texts.", "[10, 9].sort();\n", ("sort key",),
         _numbers_as_texts),
    rule("hidden", "A name that is declared in a block is another one than that outside.",
         "let a = 0;\nfor (const x of xs) { let a = x; b(a); }\n", ("initial", "lost update"),
         _hidden),
)  # fmt: skip
