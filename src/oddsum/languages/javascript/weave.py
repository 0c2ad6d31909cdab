"""A program with calls of ours put into its text: what `probe/record.js` needs to tell its steps.

The text is woven and not the tree: every line stays where it is, so that errors name the lines of
the program. What is called is ``ǂ``, a name that no program of a course has; a program that does is
not woven. The step of a statement is noted ahead of it, what a name is given after it was given.

    total += cost(age);      ǂ.w(7); ǂ.b(2, total += cost(age));
    if (age < 16) {          ǂ.w(8); if (ǂ.c(age < 16)) {
    for (const age of ages)  for (const age of ǂ.of(9, (ǂ.w(9), ages))) { ǂ.b(3, age); ... }
    function cost(age) {     function cost(age) { const ǂ1 = ǂ.call(2, [ǂ0], ...); try { ... }
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.calls import CHANGING, HOOK, Calls, is_directive
from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.outline import named_functions
from oddsum.languages.javascript.parsing import (
    BLOCKS,
    CLASSES,
    FUNCTIONS,
    LOOPS,
    is_statement,
    own,
    tree_of,
    walk,
)
from oddsum.languages.javascript.parts import Parts
from oddsum.languages.javascript.rows import (
    Rows,
    declared_here,
)
from oddsum.languages.javascript.watching import why_not
from oddsum.source.program import Source

_DECLARATIONS = frozenset({"lexical_declaration", "variable_declaration"})
_SILENT = frozenset({"function_declaration", "generator_function_declaration", "import_statement",
                     "empty_statement", "statement_block", "labeled_statement"})  # fmt: skip


class Woven:
    """A file as it is recorded: ``text``, and the rows of its statements and names.

    ``base``: how many statements and slots of other files are ahead of it. ``watches``: expressions
    that are worked out at each statement, in its scope.
    """

    def __init__(
        self,
        source: Source,
        base: tuple[int, int],
        prefix: str,
        apart: int | None = None,
        watches: Sequence[str] = (),
    ) -> None:
        self._asks = "".join(f", () => ({text})" for text in watches)
        self.tree = tree_of(source)
        self.parts = Parts(source, apart) if apart is not None else None
        self.rows = Rows(source, base, prefix)
        self.now = base[0]  # the statement that is being woven
        titles = {start: f.name for start, f in named_functions(source)}
        self._calls = Calls(self, self.tree, self.rows, titles)
        self._emits: dict[str, Callable[[Node], str]] = {
            "expression_statement": self._plain,
            "if_statement": self._if,
            "while_statement": self._while,
            "do_statement": self._do,
            "for_statement": self._for,
            "for_in_statement": self._for_of,
            "return_statement": self._return,
            "switch_statement": self._switch,
            "try_statement": self._silent,
            "catch_clause": self._catch,
            "finally_clause": self._finally,
            "labeled_statement": self._silent,
            "lexical_declaration": self._declaration,
            "variable_declaration": self._declaration,
            "export_statement": self._export,
            "class_declaration": self._plain,
            "assignment_expression": self._assignment,
            "augmented_assignment_expression": self._assignment,
            "update_expression": self._update,
            "await_expression": self._calls.waits,
            "yield_expression": self._calls.gives,
            **dict.fromkeys(FUNCTIONS, self._calls.function),
        }
        self.text = self.children(self.tree.root)

    def binds(self, nodes: list[Node]) -> str:
        """Calls that tell what names were given, with a semicolon behind each."""
        told = ((self.rows.slot(self.tree.of(n)), self.tree.of(n)) for n in nodes)
        return "".join(f"{HOOK}.b({slot}, {name});" for slot, name in told if slot is not None)

    def _visit(self, node: Node, kind: str = "") -> str:
        """The call that tells of a visit; ``w``: objects may be changed by the statement."""
        how = "w" if any(n.type in CHANGING for n in _own_part(node)) else "v"
        self.now = self.rows.statement(node, kind)
        begun = f"({HOOK}.qb(), {self.now})" if self._is_apart(node) else f"{self.now}"
        return f"{HOOK}.{how}({begun}{self._asks})"

    def _is_apart(self, node: Node) -> bool:
        return self.parts is not None and self.parts.statement == node

    # -- putting together ------------------------------------------------------------------

    def emit(self, node: Node) -> str:
        """The text of a node, woven."""
        emit = self._emits.get(node.type, self._children_or_text)
        if self.parts is None or not self.parts.has(node):
            return emit(node)
        with self.parts.part(node) as number:
            return f"{HOOK}.q({number}, {emit(node)})"

    def _children_or_text(self, node: Node) -> str:
        if is_statement(node) and node.type not in _SILENT:
            return self._stepped(node, self.children(node))
        return self.children(node)

    def children(self, node: Node, instead: dict[int, str] | None = None) -> str:
        """A node with its children woven; some of them, by id, replaced."""
        if node.child_count == 0:
            return self.tree.of(node)
        made: list[str] = []
        at = self.tree.start(node) if node.parent is not None else 0
        for child in node.children:
            made.append(self.tree.text[at : self.tree.start(child)])
            told = (instead or {}).get(child.id)
            made.append(self.emit(child) if told is None else told)
            at = self.tree.stop(child)
        end = self.tree.stop(node) if node.parent is not None else len(self.tree.text)
        return "".join([*made, self.tree.text[at:end]])

    def _stepped(self, node: Node, text: str, before: str | None = None) -> str:
        """A statement with its visit ahead of it."""
        visit = self._visit(node) if before is None else before
        if is_directive(node, self.tree):
            return text
        return f"{visit};{text}" if _in_block(node) else f"{{{visit};{text}}}"

    def _body(self, node: Node, ahead: str = "") -> str:
        """A statement that stands under a header, in braces, with something ahead of it."""
        if node.type == "statement_block":
            return "{" + ahead + self.children(node)[1:]
        return f"{{{ahead}{self.emit(node)}}}"

    # -- statements ------------------------------------------------------------------------

    def _plain(self, node: Node) -> str:
        if node.parent is not None and node.parent.type == "export_statement":
            return self.children(node)
        visit = self._visit(node)
        text = self.children(node)
        if node.type == "class_declaration":
            name = node.child_by_field_name("name")
            text += ";" + self.binds([name] if name is not None else [])
        elif self.rows.scope.above is not None and text.lstrip().startswith("super("):
            slot = self.rows.slot("this")
            text += f";{HOOK}.b({slot}, this);" if slot is not None else ""
        return self._stepped(node, text, visit)

    def _declaration(self, node: Node) -> str:
        above = node.parent.type if node.parent is not None else ""
        if above in ("for_statement", "for_in_statement", "export_statement"):
            return self.children(node)
        visit = self._visit(node)
        text = self.children(node)
        text = text if text.rstrip().endswith(";") else text + ";"
        given = [d for d in node.named_children if d.child_by_field_name("value") is not None]
        names = [n for d in given for n in pattern_names(d.child_by_field_name("name"), self.tree)]
        return self._stepped(node, text + self.binds(names), visit)

    def _export(self, node: Node) -> str:
        """What is given out is declared first: its visit comes ahead of the `export`."""
        inner = node.child_by_field_name("declaration") or node.child_by_field_name("value")
        if inner is None or inner.type in FUNCTIONS:
            return self.children(node)
        visit = self._visit(inner)
        text = self.children(node)
        given = [d for d in inner.named_children if d.child_by_field_name("value") is not None]
        places = given if inner.type in _DECLARATIONS else [inner] * (inner.type in CLASSES)
        names = [n for d in places for n in pattern_names(d.child_by_field_name("name"), self.tree)]
        return f"{visit};{text};{self.binds(names)}"

    def _if(self, node: Node) -> str:
        visit = self._visit(node)
        condition = node.child_by_field_name("condition")
        then, other = (
            node.child_by_field_name("consequence"),
            node.child_by_field_name("alternative"),
        )
        instead = {condition.id: self._asked(condition)} if condition is not None else {}
        if then is not None:
            instead[then.id] = self._body(then)
        if other is not None and other.named_children:
            inner = other.named_children[-1]
            between = self.tree.text[self.tree.start(other) : self.tree.start(inner)]
            instead[other.id] = f"{between}{self._body(inner)}"
        return self._stepped(node, self.children(node, instead), visit)

    def _asked(self, node: Node, ahead: str = "") -> str:
        """A condition in parentheses whose outcome is told."""
        inner = self.children(node)
        begin = f"({ahead}, " if ahead else "("
        return f"{begin}{HOOK}.c({inner}))"

    def _while(self, node: Node) -> str:
        visit = self._visit(node)
        condition, body = node.child_by_field_name("condition"), node.child_by_field_name("body")
        assert condition is not None and body is not None
        instead = {condition.id: self._asked(condition, visit), body.id: self._body(body)}
        return self.children(node, instead)

    def _do(self, node: Node) -> str:
        visit = self._visit(node)
        condition, body = node.child_by_field_name("condition"), node.child_by_field_name("body")
        assert condition is not None and body is not None
        instead = {condition.id: self._asked(condition, visit), body.id: self._body(body)}
        return self.children(node, instead)

    def _for(self, node: Node) -> str:
        """``for (let i = 0; i < n; i++)``: its header is visited ahead of each question."""
        visit = self._visit(node)
        begin, asked, then, body = (
            node.child_by_field_name(f) for f in ("initializer", "condition", "increment", "body")
        )
        assert body is not None
        named = declared_here(begin, self.tree)
        first = self.binds(named).rstrip(";").replace(";", ", ")
        start = f"({visit}, 0)" if begin is None or begin.type == "empty_statement" else ""
        if begin is not None and begin.type in _DECLARATIONS:
            text = self.children(begin).rstrip().removesuffix(";")
            hidden = f", {HOOK}t{self.now} = ({first or 0}, 0)" if named else ""
            start = self._declared_after(begin, text, visit) + hidden
        elif begin is not None and begin.type != "empty_statement":
            start = f"{visit}, {self._emit_expression(begin)}"
        question = (
            self._emit_expression(asked)
            if asked is not None and asked.type != "empty_statement"
            else "true"
        )
        step = f"{visit}, {self.emit(then)}" if then is not None else visit
        header = f"for ({start}; {HOOK}.c({question}); {step}) "
        lines = self.tree.text[self.tree.start(node) : self.tree.start(body)].count("\n")
        return header + "\n" * (lines - header.count("\n")) + self._body(body)

    def _emit_expression(self, node: Node) -> str:
        text = self.children(node) if node.type == "expression_statement" else self.emit(node)
        return text.strip().removesuffix(";")

    def _declared_after(self, node: Node, text: str, visit: str) -> str:
        """A declaration whose first value comes after the visit.

        The name that this takes has a number: a `var` of a function would else be declared twice.
        """
        word = self.tree.of(node.children[0])
        return f"{word} {HOOK}v{self.now} = ({visit}, 0), {text[len(word) :].strip()}"

    def _for_of(self, node: Node) -> str:
        number = self.rows.statement(node)
        left, right, body = (node.child_by_field_name(f) for f in ("left", "right", "body"))
        assert left is not None and right is not None and body is not None
        keys = self.tree.of(node.child_by_field_name("operator")) == "in"
        awaits = any(self.tree.of(c) == "await" for c in node.children[:3])
        hook = "keys" if keys else "slow" if awaits else "of"
        whose = f", {HOOK}f" if awaits and self.rows.scope.above is not None else ""
        over = f"{HOOK}.{hook}({number}, ({HOOK}.w({number}), {self.emit(right)}){whose})"
        names = list(pattern_names(left, self.tree))
        operator = node.child_by_field_name("operator")
        instead = {right.id: over, body.id: self._body(body, self.binds(names))}
        if operator is not None and keys:
            instead[operator.id] = "of"
        return self.children(node, instead)

    def _return(self, node: Node) -> str:
        visit = self._visit(node)
        values = [c for c in node.named_children if c.type != "comment"]
        if not values:
            return self._stepped(node, self.children(node), visit)
        value = values[0]
        text = self.children(node, {value.id: f"{HOOK}.r({self.emit(value)})"})
        return self._stepped(node, text, visit)

    def _switch(self, node: Node) -> str:
        visit = self._visit(node)
        return self._stepped(node, self.children(node), visit)

    def _silent(self, node: Node) -> str:
        """What is no step itself: the statements in it are."""
        return self.children(node)

    def _catch(self, node: Node) -> str:
        parameter, body = node.child_by_field_name("parameter"), node.child_by_field_name("body")
        assert body is not None
        error = (
            self.tree.of(parameter)
            if parameter is not None and parameter.type == "identifier"
            else ""
        )
        names = list(pattern_names(parameter, self.tree)) if parameter is not None else []
        ahead = f"{self._calls.again()}{HOOK}.h({error});{self.binds(names)}"
        return self.children(node, {body.id: self._body(body, ahead)})

    def _finally(self, node: Node) -> str:
        body = node.child_by_field_name("body")
        assert body is not None
        return self.children(node, {body.id: self._body(body, self._calls.again())})

    def _assignment(self, node: Node) -> str:
        left = node.child_by_field_name("left")
        text = self.children(node)
        names = list(pattern_names(left, self.tree))
        if left is None or not names:
            return text
        if left.type == "identifier":
            slot = self.rows.slot(self.tree.of(left))
            return text if slot is None else f"{HOOK}.b({slot}, {text})"
        told = self.binds(names).rstrip(";").replace(";", ", ")
        return f"{HOOK}.p({text}, {told or 0})"

    def _update(self, node: Node) -> str:
        target = node.child_by_field_name("argument")
        text = self.children(node)
        if target is None or target.type != "identifier":
            return text
        slot = self.rows.slot(self.tree.of(target))
        return (
            text if slot is None else f"{HOOK}.p({text}, {HOOK}.b({slot}, {self.tree.of(target)}))"
        )


def woven(
    sources: list[Source],
    how: str,
    apart: dict[str, Any] | None = None,
    watches: Sequence[str] = (),
) -> dict[str, Any]:
    """What a request has for the files of a program, itself first: their texts, and their rows.

    ``how``: which of the probe's modules the calls are for. ``apart``: the file and line of which
    the parts are wanted, and at which visit. ``watches``: expressions to work out at each step.
    """
    unasked = [why_not(text, sources) for text in watches]
    asked = ["undefined" if why else text for text, why in zip(watches, unasked, strict=True)]
    statements: list[list[Any]] = []
    slots: list[list[Any]] = []
    texts: dict[str, str] = {}
    more: dict[str, Any] = {}
    for number, source in enumerate(sources):
        prefix = source.name.rpartition(".")[0].replace("/", ".") if number else ""
        line = apart["line"] if apart and apart["file"] == source.name else None
        made = Woven(source, (len(statements), len(slots)), prefix, line, asked)
        if made.parts is not None and apart is not None:
            more["parts"] = {"rows": made.parts.rows, "visit": apart["visit"]}
        statements += made.rows.statements
        slots += made.rows.slots
        texts[source.name] = made.text if number else f"{made.text}\n;{HOOK}.done();"
    return {
        "sources": texts,
        "weave": {
            "how": how,
            "statements": statements,
            "slots": slots,
            "watches": unasked,
            "careful": any(_can_run_when_read(source) for source in sources),
            **more,
        },
    }


# What gives a field a function that runs as the field is read.
_READ_BY_FUNCTION = re.compile(r"definePropert|__define|\bProxy\b|Object\s*\.\s*create|Reflect")


def _can_run_when_read(source: Source) -> bool:
    """Whether an object's own field may run something as it is read; those of classes are not its
    own.
    """
    if _READ_BY_FUNCTION.search(source.text):
        return True
    tree = tree_of(source)
    return any(
        node.type == "method_definition"
        and node.parent is not None
        and node.parent.type == "object"
        and tree.says(node, "get", "set")
        for node in walk(tree.root)
    )


def _own_part(node: Node) -> Iterator[Node]:
    """What a statement does itself: the whole of a plain one, the header of one with a block."""
    if node.type in ("if_statement", "while_statement", "do_statement", "switch_statement"):
        part = node.child_by_field_name("condition") or node.child_by_field_name("value")
        if part is not None:
            yield from own(part)
        return
    if node.type in LOOPS:
        for name in ("initializer", "condition", "increment", "right"):
            part = node.child_by_field_name(name)
            if part is not None:
                yield from own(part)
        return
    yield from own(node)


def _in_block(node: Node) -> bool:
    """Whether other statements may stand beside it."""
    above = node.parent
    if above is None:
        return True
    return above.type in BLOCKS
