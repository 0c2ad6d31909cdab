"""A program with its edits: all of them in one text, each taken where its number is switched on.

An edited expression stands as ``(ǂs[17]?(new):(old))``, edited statements as ``if(ǂs[18]){new}``
beside what they were, a statement that is put in as ``if(ǂs[19]){new}`` alone. So some hundred
edits are compiled at once, and a trial is a list of numbers to switch on, and a run. What can be
none of these (a declaration whose name others use) is ``apart``: the probe compiles its text by
itself. Rounds and calls are counted by ``ǂt()``.

Source of the idea, that variants of a program share one compilation and are told apart as it runs:
R. H. Untch, A. J. Offutt, M. J. Harrold, "Mutation analysis using mutant schemata", ISSTA 1993.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tree_sitter import Node

from oddsum.languages.javascript.parsing import CLASSES, FUNCTIONS, LOOPS, Tree, is_statement, walk

Splices = Sequence[tuple[int, int, str]]
_EXPRESSIONS = frozenset({
    "identifier", "number", "string", "template_string", "true", "false", "null", "undefined",
    "member_expression", "subscript_expression", "call_expression", "binary_expression",
    "unary_expression", "ternary_expression", "parenthesized_expression", "array", "object",
    "new_expression", "arrow_function", "function_expression", "assignment_expression",
    "augmented_assignment_expression", "update_expression", "await_expression", "this", "regex",
})  # fmt: skip
_DECLARING = frozenset({"lexical_declaration", "class_declaration", "function_declaration",
                        "generator_function_declaration"})  # fmt: skip
# What gives what stands on its left side a value.
_GIVING = frozenset({"assignment_expression", "augmented_assignment_expression", "for_in_statement",
                     "assignment_pattern", "object_assignment_pattern"})  # fmt: skip
_BLOCKS = frozenset({"program", "statement_block"})
_IN_ALL = "async function* f() {{ while (1) {{ {} }} }}"  # where every statement may stand


@dataclass(frozen=True)
class _Choice:
    """A place with another text: from one offset to another, as an expression or statements."""

    start: int
    stop: int
    new: str
    number: int
    statements: bool


class Choices:
    """One file with edits, by their numbers; ``text`` is what is compiled.

    ``spans``: for each edit that is in it, from where to where it changes something.
    """

    def __init__(self, text: str, edits: Sequence[tuple[int, Splices]]) -> None:
        self._tree = Tree(text)
        self.apart: list[int] = []
        self.spans: dict[int, list[tuple[int, int]]] = {}
        self._at: dict[tuple[int, int, bool], list[_Choice]] = {}
        self._put: dict[int, list[tuple[int, str]]] = {}  # by offset: what is put in, by number
        for number, splices in edits:
            if len(splices) == 1 and self._is_put_in(number, splices[0]):
                continue
            made = [self._choice(number, splice) for splice in splices]
            if None in made or len(splices) != 1:
                self.apart.append(number)
                continue
            for one in made:
                assert one is not None
                self._at.setdefault((one.start, one.stop, one.statements), []).append(one)
                self.spans.setdefault(number, []).append((one.start, one.stop))
        self.text = self._children(self._tree.root, self._tree, with_edits=True)
        assert not self._put

    def _is_put_in(self, number: int, splice: tuple[int, int, str]) -> bool:
        """Whether an edit puts whole statements between two others; then it is kept as that."""
        start, stop, new = splice
        edge = self._edge(start) if start == stop and new.rstrip().endswith((";", "}")) else None
        if edge is None:
            return False
        tree = Tree(_IN_ALL.format(new))
        whole = next(n for n in walk(tree.root) if n.type == "while_statement")
        body = whole.child_by_field_name("body")
        inside = body.named_children if body is not None else []
        if (
            tree.fault is not None
            or not inside
            or any(not is_statement(c) or c.type in _DECLARING for c in inside)
        ):
            return False
        told = "".join(self._children(c, tree, with_edits=False) + ";" for c in inside)
        self._put.setdefault(edge, []).append((number, told))
        self.spans[number] = [(edge, edge)]
        return True

    def _edge(self, offset: int) -> int | None:
        """Where a statement of a block begins or ends, if what is put in here comes there; None
        where it would come into the midst of one."""
        tree, block = self._tree, self._smallest(offset, offset)
        # What ends or begins here is beside it, not around it.
        while block.type not in _BLOCKS or offset in (tree.start(block), tree.stop(block)):
            if block.parent is None:
                break
            block = block.parent
        inside = [c for c in block.named_children if is_statement(c)]
        if not inside or any(tree.start(c) < offset < tree.stop(c) for c in inside):
            return None
        if any(offset == tree.stop(c) for c in inside):
            return offset
        return next((tree.start(c) for c in inside if tree.start(c) >= offset), None)

    def _put_at(self, offset: int) -> str:
        """What is put in between two statements, once."""
        some = self._put.pop(offset, ())
        return "".join(f";if(ǂs[{number}]){{{told}}};" for number, told in some)

    # -- where an edit lies -----------------------------------------------------------------

    def _choice(self, number: int, splice: tuple[int, int, str]) -> _Choice | None:
        start, stop, new = splice
        after = self._tree.edited(start, stop, new)
        if after.fault is not None:
            return None
        grown = len(new) - (stop - start)
        node: Node | None = self._smallest(start, stop)
        while node is not None:
            first, last = self._tree.start(node), self._tree.stop(node)
            other = _exactly(after, first, last + grown)
            if other is not None and _stands_alone(node) and other.type in _EXPRESSIONS:
                told = self._children(other, after, with_edits=False)
                return _Choice(first, last, told, number, statements=False)
            if node.type in _BLOCKS:
                return self._of_statements(node, after, start, stop, grown, number)
            node = node.parent
        return None

    def _smallest(self, start: int, stop: int) -> Node:
        """The smallest node that holds a stretch of the text."""
        node = self._tree.root
        while True:
            inner = next(
                (c for c in node.named_children
                 if self._tree.start(c) <= start and stop <= self._tree.stop(c)), None,
            )  # fmt: skip
            if inner is None:
                return node
            node = inner

    def _of_statements(
        self, block: Node, after: Tree, start: int, stop: int, grown: int, number: int
    ) -> _Choice | None:
        """The run of a block's statements that an edit changes, as a choice of statements."""
        tree = self._tree
        same = _block_at(after, tree.start(block), tree.stop(block) + grown, block.type)
        if same is None:
            return None
        inside = [c for c in block.named_children if is_statement(c)]
        others = [c for c in same.named_children if is_statement(c)]
        first, last = start, stop
        while True:  # what is read anew may take in what follows, as an `if` its block
            touched = [c for c in inside if tree.start(c) <= last and first <= tree.stop(c)]
            first = min([first, *(tree.start(c) for c in touched)])
            reach = max([last, *(tree.stop(c) for c in touched)])
            new = [c for c in others if first <= after.start(c) < max(reach + grown, first + 1)]
            reach = max([reach, *(after.stop(c) - grown for c in new)])
            if reach == last:
                break
            last = reach
        if any(c.type in _DECLARING for c in (*touched, *new)):
            return None
        told = "".join(self._children(c, after, with_edits=False) + ";" for c in new)
        if touched:
            first, last = tree.start(touched[0]), tree.stop(touched[-1])
        else:  # it comes ahead of what follows
            begins = (tree.start(c) for c in block.children if tree.start(c) >= start)
            first = last = next(begins, len(tree.text))
        return _Choice(first, last, told, number, statements=True)

    # -- one text ---------------------------------------------------------------------------

    def _children(self, node: Node, tree: Tree, *, with_edits: bool) -> str:
        """A node's text with counters, and where wanted with the choices in it."""
        if node.child_count == 0:
            return self._chosen(node, tree.of(node)) if with_edits else tree.of(node)
        made: list[str] = []
        at = tree.start(node) if node.parent is not None else 0
        pieces = self._runs(node) if with_edits and node.type in _BLOCKS else {}
        skip_to = -1
        for child in node.children:
            first = tree.start(child)
            if first in pieces and first >= skip_to:
                made.append(tree.text[at:first])
                choice_text, at = self._statement_choice(node, first, pieces[first])
                made.append(choice_text)
                skip_to = at
            if first < skip_to:
                continue
            made.append(tree.text[at:first])
            edges = with_edits and node.type in _BLOCKS
            made.append(self._put_at(first) if edges else "")
            made.append(self._counted(child, tree, with_edits))
            at = tree.stop(child)
            made.append(self._put_at(at) if edges else "")
        end = tree.stop(node) if node.parent is not None else len(tree.text)
        made.append(tree.text[at:end])
        if end in pieces and node.parent is None:
            made.append(self._statement_choice(node, end, end)[0])
        text = "".join(made)
        return self._chosen(node, text) if with_edits else text

    def _counted(self, node: Node, tree: Tree, with_edits: bool) -> str:
        return with_ticks(node, self._children(node, tree, with_edits=with_edits))

    def _chosen(self, node: Node, text: str) -> str:
        """An expression with those that may stand instead."""
        choices = self._at.get((self._tree.start(node), self._tree.stop(node), False))
        if not choices or not _stands_alone(node):
            return text
        made = "".join(f"ǂs[{c.number}]?({c.new}):" for c in choices)
        return f"({made}({text}))"

    def _runs(self, block: Node) -> dict[int, int]:
        """By its beginning, how far each run of statements goes that others may stand for."""
        first, last = self._tree.start(block), self._tree.stop(block)
        if block.parent is None:
            first, last = 0, len(self._tree.text)
        found: dict[int, int] = {}
        for start, stop, statements in sorted(self._at):
            if not (
                statements and first <= start and stop <= last and self._is_of(block, start, stop)
            ):
                continue
            over = next((s for s, e in found.items() if start < e or start == s), start)
            found[over] = max(found.get(over, stop), stop)
        return found

    def _is_of(self, block: Node, start: int, stop: int) -> bool:
        """Whether a run is of this block itself, not of one inside of it."""
        held = (c for c in block.named_children
                if self._tree.start(c) <= start and stop <= self._tree.stop(c))  # fmt: skip
        inner = next(held, None)
        if inner is None:
            return True
        first, last = self._tree.start(inner), self._tree.stop(inner)
        return (first, last) == (start, stop) or start == stop in (first, last)

    def _statement_choice(self, block: Node, first: int, last: int) -> tuple[str, int]:
        """The statements from one place to another with those that may stand instead."""
        tree = self._tree
        children = [c for c in block.children if first <= tree.start(c) and tree.stop(c) <= last]
        texts, at = [], first
        for child in children if last > first else ():
            between = tree.text[at : tree.start(child)]
            ahead = self._put_at(tree.start(child))
            texts += [between, ahead, self._counted(child, tree, with_edits=True)]
            at = tree.stop(child)
            texts.append(self._put_at(at))
        mine = [
            choice
            for (start, stop, statements), some in self._at.items()
            if statements and first <= start and stop <= last and self._is_of(block, start, stop)
            for choice in some
        ]
        made = []
        for choice in mine:
            before, behind = tree.text[first : choice.start], tree.text[choice.stop : last]
            made.append(f"if(ǂs[{choice.number}]){{{before}{choice.new}{behind}}}else ")
        return f"{''.join(made)}{{{''.join(texts)}}}", last


def with_ticks(node: Node, text: str) -> str:
    """A node's text; with a counter in it where it is the body of a loop or a function."""
    above = node.parent
    if above is None or above.child_by_field_name("body") != node:
        return text
    if above.type not in LOOPS and above.type not in FUNCTIONS:
        return text
    if node.type == "statement_block":
        return "{ǂt();" + text[1:]
    if above.type in LOOPS:
        return f"{{ǂt();{text}}}"
    return f"(ǂt(),{text})"


def _exactly(tree: Tree, start: int, stop: int) -> Node | None:
    """The outermost node that begins and ends there."""
    node = tree.root
    while True:
        if (tree.start(node), tree.stop(node)) == (start, stop) and node.parent is not None:
            return node
        inner = next(
            (c for c in node.named_children if tree.start(c) <= start and stop <= tree.stop(c)),
            None,
        )
        if inner is None:
            return None
        node = inner


def _block_at(tree: Tree, start: int, stop: int, kind: str) -> Node | None:
    if kind == "program":
        return tree.root
    node = _exactly(tree, start, stop)
    return node if node is not None and node.type == kind else None


def _stands_alone(node: Node) -> bool:
    """Whether an expression may stand in brackets with another beside it."""
    if node.type not in _EXPRESSIONS:
        return False
    above = node.parent
    if above is None:
        return False
    function = above.child_by_field_name("function")
    if above.type == "call_expression" and function == node:
        return node.type == "identifier"
    if above.type == "new_expression" and above.child_by_field_name("constructor") == node:
        return False
    if above.type in _GIVING:
        return bool(above.child_by_field_name("left") != node)
    if above.type in ("member_expression", "subscript_expression", "call_expression"):
        return not any(c.type == "optional_chain" for c in above.children)
    if above.type == "pair":
        return bool(above.child_by_field_name("key") != node)
    if above.type == "variable_declarator":
        return bool(above.child_by_field_name("name") != node)
    if above.type == "unary_expression":
        return above.children[0].type not in ("delete", "typeof")
    return above.type not in (
        "update_expression", "formal_parameters", "array_pattern", "object_pattern", "pair_pattern",
        "rest_pattern", "class_heritage", "labeled_statement", "catch_clause", "import_specifier",
        "export_specifier", "template_string", "method_definition", "class_declaration", *FUNCTIONS,
        *CLASSES,
    ) or (above.type == "arrow_function" and above.child_by_field_name("body") == node)  # fmt: skip
