"""Statements that are missing, too many, or stand in another place."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import (
    FUNCTIONS,
    LOOPS,
    around,
    is_statement,
    line_of,
    own,
    walk,
)
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_DOES = {"break": "leaves the loop for good", "continue": "skips the rest of the round"}
_PLAIN = frozenset(
    {"expression_statement", "return_statement", "break_statement", "continue_statement"}
)


class GivenBack(EditRule):
    """A result that is worked out and not given back."""

    name = "given back"
    title = "a result that is not given back"
    explanation = (
        "A function gives back what stands behind `return`; without one it gives `undefined`. "
        "An arrow "
        "with braces needs a `return`, too."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``return`` before the last expression of a body; for ``console.log`` of a result."""
        for node in scene.of_type(*FUNCTIONS):
            body = (
                scene.field(node, "body") if node.child_by_field_name("body") is not None else None
            )
            if body is None or body.type != "statement_block":
                continue
            for inner in own(body):
                if inner.type != "expression_statement":
                    continue
                value = inner.named_children[0] if inner.named_children else None
                if value is None:
                    continue
                text = scene.text(value)
                last = body.named_children and body.named_children[-1] == inner
                logs = value.type == "call_expression" and text.startswith("console.log(")
                at = scene.tree.start(inner)
                if logs:
                    given = scene.field(value, "arguments")
                    told = ", ".join(scene.text(a) for a in given.named_children[:1])
                    yield make_edit(
                        scene,
                        self.name,
                        value,
                        f"return {told}",
                        likely=0.5,
                        what=f"{quoted(text)} prints the result. Who calls the function gets "
                        "nothing.",
                    )
                elif value.type not in (
                    "assignment_expression",
                    "augmented_assignment_expression",
                    "update_expression",
                ):
                    yield make_edit(
                        scene,
                        self.name,
                        (at, at),
                        "return ",
                        likely=0.8 if last else 0.4,
                        line=line_of(inner),
                        what=f"{quoted(text)} is worked out, and nothing takes the result.",
                        how=f"Write `return` before {quoted(text)}.",
                    )


class Discarded(EditRule):
    """A call whose result nobody takes."""

    name = "discarded"
    title = "a result that nobody takes"
    explanation = (
        "A call that only works something out changes nothing by itself: what it gives has to be "
        "added to something, kept under a name or given back."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The result added to, put into, or kept under a name of the function."""
        for node in scene.of_type("expression_statement"):
            value = node.named_children[0] if node.named_children else None
            function = around(node, FUNCTIONS)
            if value is None or value.type != "call_expression" or function is None:
                continue
            text = scene.text(value)
            if text.startswith("console."):
                continue
            for inner in own(scene.field(function, "body")):
                if inner.type != "variable_declarator" or line_of(inner) > line_of(node):
                    continue
                name = scene.text(scene.field(inner, "name"))
                for new, likely in ((f"{name} += {text}", 0.45), (f"{name} = {text}", 0.4),
                                    (f"{name}.push({text})", 0.3)):  # fmt: skip
                    if not text.startswith(f"{name}."):
                        yield make_edit(
                            scene,
                            self.name,
                            value,
                            new,
                            likely=likely,
                            what=f"{quoted(text)} is worked out, and nothing takes the result.",
                        )


class Extra(EditRule):
    """A statement that is too many."""

    name = "extra"
    title = "a line that is too many"
    explanation = "What if this line were not there? Switch it off and look at what changes."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Take each plain statement out."""
        for node in scene.of_type(*_PLAIN):
            if node.parent is not None and node.parent.type in (
                "statement_block",
                "program",
                "switch_case",
            ):
                text = scene.text(node).rstrip(";")
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    "",
                    likely=0.2,
                    how=f"Take {quoted(text)} out.",
                    what=f"{quoted(text)}: is it needed here, and that often?",
                )


class Placement(EditRule):
    """A statement that stands in a block, where it should stand behind it, and the other way "
    "round."""

    name = "placement"
    title = "a line in another block than is meant"
    explanation = (
        "What stands in a loop's braces runs in each round; what stands behind them runs once."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The last statement of a block behind it; the one behind a block into it."""
        for node in scene.of_type("if_statement", *LOOPS):
            block = node.child_by_field_name("body") or node.child_by_field_name("consequence")
            if block is None or block.type != "statement_block":
                continue
            yield from self._out(scene, node, block)
            yield from self._in(scene, node, block)

    def _out(self, scene: Scene, node: Node, block: Node) -> Iterator[TrialEdit]:
        inside = [n for n in block.named_children if is_statement(n)]
        if (
            len(inside) < 2
            or inside[-1].type not in _PLAIN
            or node.child_by_field_name("alternative")
        ):
            return
        last = inside[-1]
        at = scene.tree.start(last), scene.tree.stop(node)
        text = scene.text(last)
        between = scene.source.text[scene.tree.stop(last) : scene.tree.stop(node)].strip()
        yield make_edit(
            scene,
            self.name,
            at,
            f"{between}\n{text}",
            likely=0.4,
            line=line_of(last),
            what=f"{quoted(text.rstrip(';'))} stands in the braces of "
            f"{quoted(_header(scene, node))}. How often "
            "should it run: each time, or once?",
            how=f"Move {quoted(text.rstrip(';'))} behind the braces of "
            f"{quoted(_header(scene, node))}.",
        )

    def _in(self, scene: Scene, node: Node, block: Node) -> Iterator[TrialEdit]:
        after = node.next_named_sibling
        if after is None or after.type not in _PLAIN or node.child_by_field_name("alternative"):
            return
        at = scene.tree.stop(block) - 1, scene.tree.stop(after)
        text = scene.text(after)
        yield make_edit(
            scene,
            self.name,
            at,
            f"  {text}\n}}",
            likely=0.4,
            line=line_of(after),
            what=f"{quoted(text.rstrip(';'))} runs once, behind "
            f"{quoted(_header(scene, node))}. How often should it run?",
            how=f"Move {quoted(text.rstrip(';'))} into the braces of "
            f"{quoted(_header(scene, node))}.",
        )


class Leaving(EditRule):
    """A loop that is left too early, or goes on."""

    name = "leaving"
    title = "a loop that is left at another moment"
    explanation = (
        "`break` leaves the loop for good, `continue` goes on with the next round, `return` leaves "
        "the function."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``break`` for ``continue`` and back; a ``return`` behind its loop."""
        for node in scene.of_type("break_statement", "continue_statement"):
            word = "break" if node.type == "break_statement" else "continue"
            other = "continue" if word == "break" else "break"
            text = scene.text(node)
            if any(scene.text(c) == word for c in node.children) and around(node, LOOPS, FUNCTIONS):
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    text.replace(word, other),
                    likely=0.6,
                    what=f"`{word}` {_DOES[word]}. Is that meant?",
                )
        for node in scene.of_type(*LOOPS):
            block = node.child_by_field_name("body")
            last = block.named_children[-1] if block is not None and block.named_children else None
            if (
                block is None
                or last is None
                or last.type != "return_statement"
                or block.type != "statement_block"
            ):
                continue
            at = scene.tree.start(last), scene.tree.stop(node)
            between = scene.source.text[scene.tree.stop(last) : scene.tree.stop(node)].strip()
            yield make_edit(
                scene,
                self.name,
                at,
                f"{between}\n{scene.text(last)}",
                likely=0.8,
                line=line_of(last),
                what="This `return` is reached in the first round, and ends the loop. Should "
                "the other rounds come first?",
                how="Move the `return` behind the loop.",
            )


class Order(EditRule):
    """Two lines that stand in the other order."""

    name = "order"
    title = "two lines in the other order"
    explanation = "Follow what each line needs: what it reads has to be there already."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each plain statement after the next one."""
        for node in scene.of_type("expression_statement"):
            after = node.next_named_sibling
            if after is None or after.type not in ("expression_statement", "if_statement"):
                continue
            at = scene.tree.start(node), scene.tree.stop(after)
            between = scene.source.text[scene.tree.stop(node) : scene.tree.start(after)]
            first, second = scene.text(node), scene.text(after)
            yield make_edit(
                scene,
                self.name,
                at,
                f"{second}{between}{first}",
                likely=0.35,
                line=line_of(node),
                what=f"{quoted(first.rstrip(';'))} runs ahead of "
                f"{quoted(_header(scene, after))}. Is that the right order?",
                how="Exchange the two.",
            )


class Branches(EditRule):
    """Conditions that are asked in another order; ``if`` for ``while``."""

    name = "branches"
    title = "conditions that are asked in another order, or not often enough"
    explanation = (
        "Of several conditions the first that holds is the one that counts: ask the narrower one "
        "first. `if` asks once, `while` until it no longer holds."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Two neighbours exchanged; the other word."""
        for node in scene.of_type("if_statement"):
            other = node.child_by_field_name("alternative")
            second = other.named_children[-1] if other is not None else None
            if second is not None and second.type == "if_statement":
                yield self._exchanged(scene, node, second)
            elif second is None and not _is_else(node):
                yield self._word(scene, node, "while", 0.4)
        for node in scene.of_type("while_statement"):
            inside = own(scene.field(node, "body"))
            if not any(n.type in ("break_statement", "continue_statement") for n in inside):
                yield self._word(scene, node, "if", 0.3)

    def _exchanged(self, scene: Scene, first: Node, second: Node) -> TrialEdit:
        parts = [scene.field(n, f) for n in (first, second) for f in ("condition", "consequence")]
        begin, end = scene.tree.start(parts[0]), scene.tree.stop(parts[3])
        between = [scene.source.text[scene.tree.stop(a) : scene.tree.start(b)]
                   for a, b in pairwise(parts)]  # fmt: skip
        texts = [scene.text(p) for p in (parts[2], parts[3], parts[0], parts[1])]
        new = "".join(t for pair in zip(texts, [*between, ""], strict=True) for t in pair)
        shown = quoted(scene.text(parts[0])), quoted(scene.text(parts[2]))
        return make_edit(
            scene,
            self.name,
            (begin, end),
            new,
            likely=0.5,
            line=line_of(first),
            what=f"{shown[0]} is asked ahead of {shown[1]}. For which values do both hold?",
            how="Exchange the two branches.",
        )

    def _word(self, scene: Scene, node: Node, word: str, likely: float) -> TrialEdit:
        return make_edit(
            scene,
            self.name,
            node.children[0],
            word,
            likely=likely,
            what=f"{quoted(_header(scene, node))}: should this happen once, or as long as it "
            "holds?",
        )


class Scoping(EditRule):
    """``var`` in a loop, whose last value all functions share; a fresh start in each round."""

    name = "late"
    title = "a name that all rounds share"
    explanation = (
        "A name declared by `var` is one for the whole function: functions made in a loop all "
        "see its "
        "last value. `let` gives each round its own."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``let`` for ``var``."""
        for node in scene.of_type("variable_declaration"):
            word = node.children[0]
            yield make_edit(
                scene,
                self.name,
                word,
                "let",
                likely=0.7,
                what=f"{quoted(scene.text(node).rstrip(';'))} is one name for the whole "
                "function, in every round.",
            )
        for node in scene.of_type("for_in_statement"):
            kind = node.child_by_field_name("kind")
            if kind is not None and scene.text(kind) == "var":
                yield make_edit(
                    scene,
                    self.name,
                    kind,
                    "let",
                    likely=0.8,
                    what="All rounds share one name here.",
                )


class GoingOver(EditRule):
    """``for in`` over a list, which gives its places as texts."""

    name = "going over"
    title = "places gone over in place of items"
    explanation = "`for ... in` gives the names of places, as texts; `for ... of` gives the items."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``of`` for ``in``, and back."""
        for node in scene.of_type("for_in_statement"):
            word = scene.operator(node)
            other, likely = ("of", 0.85) if scene.text(word) == "in" else ("in", 0.3)
            yield make_edit(
                scene,
                self.name,
                word,
                other,
                likely=likely,
                what=f"{quoted(_header(scene, node))}: are these the items, or their places?",
            )


class Awaited(EditRule):
    """A promise that nobody waits for."""

    name = "awaited"
    title = "a value that is not there yet"
    explanation = (
        "A call of an `async` function gives a promise; `await` waits for what it comes to."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``await`` before calls of async functions."""
        slow = {
            scene.text(n.child_by_field_name("name"))
            for n in scene.of_type(*FUNCTIONS)
            if scene.tree.says(n, "async")
        }
        for node in scene.of_type("variable_declarator"):
            value = node.child_by_field_name("value")
            if value is not None and value.type in FUNCTIONS and scene.tree.says(value, "async"):
                slow.add(scene.text(scene.field(node, "name")))
        slow |= _giving_promises(scene)
        for node in scene.of_type("call_expression"):
            above = node.parent
            waits = above is not None and above.type == "await_expression"
            called = scene.text(scene.field(node, "function"))
            slow_call = called in slow or called in _PROMISES
            if slow_call and not waits and _in_async(scene, node):
                yield make_edit(
                    scene,
                    self.name,
                    node,
                    f"await {scene.text(node)}",
                    likely=0.9,
                    what=f"{quoted(scene.text(node))} gives a promise here, and nobody waits "
                    "for it.",
                )


_PROMISES = ("Promise.all", "Promise.race", "Promise.any", "Promise.allSettled", "fetch")


def _giving_promises(scene: Scene) -> set[str]:
    """The functions that give back a promise that they make."""
    found = set()
    for node in scene.of_type(*FUNCTIONS):
        body, name = node.child_by_field_name("body"), node.child_by_field_name("name")
        above = node.parent
        if name is None and above is not None and above.type == "variable_declarator":
            name = above.child_by_field_name("name")
        if body is None or name is None:
            continue
        made = (n for n in own(body) if n.type == "new_expression")
        if any(scene.text(n).startswith("new Promise") for n in made):
            found.add(scene.text(name))
    return found


class Sorting(EditRule):
    """``sort()`` by text, upside down, on the list itself."""

    name = "sort key"
    title = "sorted by another measure than is meant"
    explanation = (
        "`sort()` compares items as texts: 10 comes before 9. `sort((a, b) => a - b)` compares "
        "numbers."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """By number; the other way round."""
        for node in scene.of_type("call_expression"):
            called, given = scene.field(node, "function"), scene.field(node, "arguments")
            if not scene.text(called).endswith((".sort", ".toSorted")):
                continue
            what = f"{quoted(scene.text(node))}: by what are the items compared?"
            if not given.named_children:
                for new, likely in _MEASURES:
                    yield make_edit(scene, self.name, given, new, likely=likely, what=what)
                continue
            for inner in walk(given):
                if inner.type == "binary_expression" and scene.text(scene.operator(inner)) == "-":
                    left, right = (
                        scene.text(scene.field(inner, "left")),
                        scene.text(scene.field(inner, "right")),
                    )
                    yield make_edit(
                        scene, self.name, inner, f"{right} - {left}", likely=0.7, what=what
                    )
                elif inner.type == "binary_expression" and scene.text(scene.operator(inner)) in (
                    "<",
                    ">",
                    "<=",
                    ">=",
                ):
                    yield make_edit(
                        scene, self.name, scene.operator(inner), "-", likely=0.9, what=what
                    )
            if len(given.named_children) == 1:
                yield make_edit(scene, self.name, given, "()", likely=0.2, what=what)


_MEASURES = (
    ("((a, b) => a - b)", 0.9),
    ("((a, b) => b - a)", 0.6),
    ("((a, b) => a[0] - b[0])", 0.6),
    ("((a, b) => a[1] - b[1])", 0.5),
)


def _is_else(node: Node) -> bool:
    return node.parent is not None and node.parent.type == "else_clause"


def _in_async(scene: Scene, node: Node) -> bool:
    above = around(node, FUNCTIONS)
    return above is not None and scene.tree.says(above, "async")


def _header(scene: Scene, node: Node) -> str:
    return scene.text(node).split("\n")[0].rstrip("{ ").rstrip(";")
