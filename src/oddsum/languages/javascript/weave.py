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

from collections.abc import Callable, Iterator, Sequence
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.outline import named_functions
from oddsum.languages.javascript.parsing import (
    BLOCKS,
    CLASSES,
    FUNCTIONS,
    LOOPS,
    Tree,
    is_statement,
    own,
    tree_of,
    walk,
)
from oddsum.languages.javascript.parts import Parts
from oddsum.languages.javascript.rows import Rows, Scope, declared, declared_here, parameter_names
from oddsum.languages.javascript.watching import why_not
from oddsum.source.program import Source

HOOK = "ǂ"
_CHANGING = frozenset({"call_expression", "new_expression", "await_expression", "yield_expression",
                       "template_string", "update_expression", "augmented_assignment_expression",
                       "assignment_expression", "unary_expression"})  # fmt: skip
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
        self._now = base[0]  # the statement that is being woven
        self._titles = {start: f.name for start, f in named_functions(source)}
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
            "labeled_statement": self._silent,
            "lexical_declaration": self._declaration,
            "variable_declaration": self._declaration,
            "export_statement": self._export,
            "class_declaration": self._plain,
            "assignment_expression": self._assignment,
            "augmented_assignment_expression": self._assignment,
            "update_expression": self._update,
            "await_expression": self._await,
            "yield_expression": self._yield,
            **dict.fromkeys(FUNCTIONS, self._function),
        }
        self.text = self._children(self.tree.root)

    def _binds(self, nodes: list[Node]) -> str:
        """Calls that tell what names were given, with a semicolon behind each."""
        told = ((self.rows.slot(self.tree.of(n)), self.tree.of(n)) for n in nodes)
        return "".join(f"{HOOK}.b({slot}, {name});" for slot, name in told if slot is not None)

    def _visit(self, node: Node, kind: str = "") -> str:
        """The call that tells of a visit; ``w``: objects may be changed by the statement."""
        how = "w" if any(n.type in _CHANGING for n in _own_part(node)) else "v"
        self._now = self.rows.statement(node, kind)
        begun = f"({HOOK}.qb(), {self._now})" if self._is_apart(node) else f"{self._now}"
        return f"{HOOK}.{how}({begun}{self._asks})"

    def _is_apart(self, node: Node) -> bool:
        return self.parts is not None and self.parts.statement == node

    # -- putting together ------------------------------------------------------------------

    def _emit(self, node: Node) -> str:
        emit = self._emits.get(node.type, self._children_or_text)
        if self.parts is None or not self.parts.has(node):
            return emit(node)
        with self.parts.part(node) as number:
            return f"{HOOK}.q({number}, {emit(node)})"

    def _children_or_text(self, node: Node) -> str:
        if is_statement(node) and node.type not in _SILENT:
            return self._stepped(node, self._children(node))
        return self._children(node)

    def _children(self, node: Node, instead: dict[int, str] | None = None) -> str:
        """A node with its children woven; some of them, by id, replaced."""
        if node.child_count == 0:
            return self.tree.of(node)
        made: list[str] = []
        at = self.tree.start(node) if node.parent is not None else 0
        for child in node.children:
            made.append(self.tree.text[at : self.tree.start(child)])
            told = (instead or {}).get(child.id)
            made.append(self._emit(child) if told is None else told)
            at = self.tree.stop(child)
        end = self.tree.stop(node) if node.parent is not None else len(self.tree.text)
        return "".join([*made, self.tree.text[at:end]])

    def _stepped(self, node: Node, text: str, before: str | None = None) -> str:
        """A statement with its visit ahead of it."""
        visit = self._visit(node) if before is None else before
        if _is_directive(node, self.tree):
            return text
        return f"{visit};{text}" if _in_block(node) else f"{{{visit};{text}}}"

    def _body(self, node: Node, ahead: str = "") -> str:
        """A statement that stands under a header, in braces, with something ahead of it."""
        if node.type == "statement_block":
            return "{" + ahead + self._children(node)[1:]
        return f"{{{ahead}{self._emit(node)}}}"

    # -- statements ------------------------------------------------------------------------

    def _plain(self, node: Node) -> str:
        if node.parent is not None and node.parent.type == "export_statement":
            return self._children(node)
        visit = self._visit(node)
        text = self._children(node)
        if node.type == "class_declaration":
            name = node.child_by_field_name("name")
            text += ";" + self._binds([name] if name is not None else [])
        elif self.rows.scope.above is not None and text.lstrip().startswith("super("):
            slot = self.rows.slot("this")
            text += f";{HOOK}.b({slot}, this);" if slot is not None else ""
        return self._stepped(node, text, visit)

    def _declaration(self, node: Node) -> str:
        above = node.parent.type if node.parent is not None else ""
        if above in ("for_statement", "for_in_statement", "export_statement"):
            return self._children(node)
        visit = self._visit(node)
        text = self._children(node)
        text = text if text.rstrip().endswith(";") else text + ";"
        given = [d for d in node.named_children if d.child_by_field_name("value") is not None]
        names = [n for d in given for n in pattern_names(d.child_by_field_name("name"), self.tree)]
        return self._stepped(node, text + self._binds(names), visit)

    def _export(self, node: Node) -> str:
        """What is given out is declared first: its visit comes ahead of the `export`."""
        inner = node.child_by_field_name("declaration") or node.child_by_field_name("value")
        if inner is None or inner.type in FUNCTIONS:
            return self._children(node)
        visit = self._visit(inner)
        text = self._children(node)
        given = [d for d in inner.named_children if d.child_by_field_name("value") is not None]
        places = given if inner.type in _DECLARATIONS else [inner] * (inner.type in CLASSES)
        names = [n for d in places for n in pattern_names(d.child_by_field_name("name"), self.tree)]
        return f"{visit};{text};{self._binds(names)}"

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
        return self._stepped(node, self._children(node, instead), visit)

    def _asked(self, node: Node, ahead: str = "") -> str:
        """A condition in parentheses whose outcome is told."""
        inner = self._children(node)
        begin = f"({ahead}, " if ahead else "("
        return f"{begin}{HOOK}.c({inner}))"

    def _while(self, node: Node) -> str:
        visit = self._visit(node)
        condition, body = node.child_by_field_name("condition"), node.child_by_field_name("body")
        assert condition is not None and body is not None
        instead = {condition.id: self._asked(condition, visit), body.id: self._body(body)}
        return self._children(node, instead)

    def _do(self, node: Node) -> str:
        visit = self._visit(node)
        condition, body = node.child_by_field_name("condition"), node.child_by_field_name("body")
        assert condition is not None and body is not None
        instead = {condition.id: self._asked(condition, visit), body.id: self._body(body)}
        return self._children(node, instead)

    def _for(self, node: Node) -> str:
        """``for (let i = 0; i < n; i++)``: its header is visited ahead of each question."""
        visit = self._visit(node)
        begin, asked, then, body = (
            node.child_by_field_name(f) for f in ("initializer", "condition", "increment", "body")
        )
        assert body is not None
        named = declared_here(begin, self.tree)
        first = self._binds(named).rstrip(";").replace(";", ", ")
        start = f"({visit}, 0)" if begin is None or begin.type == "empty_statement" else ""
        if begin is not None and begin.type in _DECLARATIONS:
            text = self._children(begin).rstrip().removesuffix(";")
            hidden = f", {HOOK}t = ({first or 0}, 0)" if named else ""
            start = self._declared_after(begin, text, visit) + hidden
        elif begin is not None and begin.type != "empty_statement":
            start = f"{visit}, {self._emit_expression(begin)}"
        question = (
            self._emit_expression(asked)
            if asked is not None and asked.type != "empty_statement"
            else "true"
        )
        step = f"{visit}, {self._emit(then)}" if then is not None else visit
        header = f"for ({start}; {HOOK}.c({question}); {step}) "
        lines = self.tree.text[self.tree.start(node) : self.tree.start(body)].count("\n")
        return header + "\n" * (lines - header.count("\n")) + self._body(body)

    def _emit_expression(self, node: Node) -> str:
        text = self._children(node) if node.type == "expression_statement" else self._emit(node)
        return text.strip().removesuffix(";")

    def _declared_after(self, node: Node, text: str, visit: str) -> str:
        """A declaration whose first value comes after the visit."""
        word = self.tree.of(node.children[0])
        return f"{word} {HOOK}v = ({visit}, 0), {text[len(word) :].strip()}"

    def _for_of(self, node: Node) -> str:
        number = self.rows.statement(node)
        left, right, body = (node.child_by_field_name(f) for f in ("left", "right", "body"))
        assert left is not None and right is not None and body is not None
        keys = self.tree.of(node.child_by_field_name("operator")) == "in"
        awaits = any(self.tree.of(c) == "await" for c in node.children[:3])
        hook = "keys" if keys else "slow" if awaits else "of"
        over = f"{HOOK}.{hook}({number}, ({HOOK}.w({number}), {self._emit(right)}))"
        names = list(pattern_names(left, self.tree))
        operator = node.child_by_field_name("operator")
        instead = {right.id: over, body.id: self._body(body, self._binds(names))}
        if operator is not None and keys:
            instead[operator.id] = "of"
        return self._children(node, instead)

    def _return(self, node: Node) -> str:
        visit = self._visit(node)
        values = [c for c in node.named_children if c.type != "comment"]
        if not values:
            return self._stepped(node, self._children(node), visit)
        value = values[0]
        text = self._children(node, {value.id: f"{HOOK}.r({self._emit(value)})"})
        return self._stepped(node, text, visit)

    def _switch(self, node: Node) -> str:
        visit = self._visit(node)
        return self._stepped(node, self._children(node), visit)

    def _silent(self, node: Node) -> str:
        """What is no step itself: the statements in it are."""
        return self._children(node)

    def _catch(self, node: Node) -> str:
        parameter, body = node.child_by_field_name("parameter"), node.child_by_field_name("body")
        assert body is not None
        error = (
            self.tree.of(parameter)
            if parameter is not None and parameter.type == "identifier"
            else ""
        )
        names = list(pattern_names(parameter, self.tree)) if parameter is not None else []
        ahead = f"{HOOK}.h({error});{self._binds(names)}"
        return self._children(node, {body.id: self._body(body, ahead)})

    # -- expressions -----------------------------------------------------------------------

    def _assignment(self, node: Node) -> str:
        left = node.child_by_field_name("left")
        text = self._children(node)
        names = list(pattern_names(left, self.tree))
        if left is None or not names:
            return text
        if left.type == "identifier":
            slot = self.rows.slot(self.tree.of(left))
            return text if slot is None else f"{HOOK}.b({slot}, {text})"
        told = self._binds(names).rstrip(";").replace(";", ", ")
        return f"{HOOK}.p({text}, {told or 0})"

    def _update(self, node: Node) -> str:
        target = node.child_by_field_name("argument")
        text = self._children(node)
        if target is None or target.type != "identifier":
            return text
        slot = self.rows.slot(self.tree.of(target))
        return (
            text if slot is None else f"{HOOK}.p({text}, {HOOK}.b({slot}, {self.tree.of(target)}))"
        )

    def _await(self, node: Node) -> str:
        value = node.named_children[-1]
        if self.rows.scope.above is None:
            return f"{HOOK}.top({self._now}, {self._children(node)})"
        text = self._children(node, {value.id: f"{HOOK}.leave({HOOK}f, {self._emit(value)})"})
        return f"{HOOK}.back({HOOK}f, {text})"

    def _yield(self, node: Node) -> str:
        values = node.named_children
        over = any(self.tree.of(c) == "*" for c in node.children)
        if over:
            return f"{HOOK}.back({HOOK}f, {self._children(node)})"
        instead = (
            {values[-1].id: f"{HOOK}.gives({HOOK}f, {self._emit(values[-1])})"} if values else {}
        )
        text = self._children(node, instead)
        if not values:
            text = f"yield {HOOK}.gives({HOOK}f)"
        return f"({HOOK}.back({HOOK}f, {text}))"

    def _function(self, node: Node) -> str:
        body = node.child_by_field_name("body")
        if body is None:
            return self._children(node)
        title = self._titles.get(self.tree.start(node), "function")
        above = self.rows.scope
        parameters = node.child_by_field_name("parameters") or node.child_by_field_name("parameter")
        names = list(parameter_names(parameters, self.tree))
        inner = Scope(title, above.depth + 1, above)
        inner.names = {self.tree.of(n) for n in names} | declared(body, self.tree)
        if node.type == "method_definition" and _mentions_this(node):
            inner.names.add("this")
        if node.type == "function_expression" and node.child_by_field_name("name") is not None:
            inner.names.add(self.tree.of(node.child_by_field_name("name")))
        before = {} if parameters is None else {parameters.id: self._emit(parameters)}
        with self.rows.inside(inner):
            number = self.rows.statement(node, "def")
            binds = self._binds(names)
            has_this = "this" in inner.names and _has_this(node, self.tree)
            this = f"{HOOK}.b({self.rows.slot('this')}, this);" if has_this else ""
            text = self._children(body) if body.type == "statement_block" else self._given(body)
        around = ", ".join(f"{HOOK}{n}" for n in range(1, inner.depth))
        depth = f"{HOOK}{inner.depth}"
        generator = any(self.tree.of(c) == "*" for c in node.children) or "generator" in node.type
        slow = any(self.tree.of(c) == "async" for c in node.children)
        kind = "2" if generator else "1" if slow else "0"
        cells = "1" if inner.used_inside else "0"
        called = f"{HOOK}.call({number}, [{around}], {kind}, {cells})"
        begin = f"const {HOOK}f = {called}, {depth} = {HOOK}f.number;try {{{this}{binds}"
        end = f"}} catch ({HOOK}e) {{ throw {HOOK}.x({HOOK}f, {HOOK}e); }}"
        end += f" finally {{ {HOOK}.l({HOOK}f); }}"
        if body.type == "statement_block":
            inside = text[1:-1]
            said, rest = _directives(body, self.tree, inside)
            made = f"{{{said}{begin}{rest}{end}}}"
        else:
            made = f"{{{begin}{text}{end}}}"
        return self._children(node, {**before, body.id: made})

    def _given(self, body: Node) -> str:
        """The body of an arrow that is an expression: a step that gives it back."""
        how = "w" if any(n.type in _CHANGING for n in own(body)) else "v"
        step = f"{HOOK}.{how}({self.rows.statement(body, 'expr')});"
        return f"{step} return {HOOK}.r({self._emit(body)});"


def _has_this(node: Node, tree: Tree) -> bool:
    """Whether a function begins with the `this` that it is called on, as one of its names."""
    if node.type != "method_definition":
        return False
    if any(tree.of(c) in ("static", "get", "set") for c in node.children):
        return False
    around = node.parent.parent if node.parent is not None else None
    derived = around is not None and any(c.type == "class_heritage" for c in around.children)
    late = tree.of(node.child_by_field_name("name")) == "constructor" and derived
    return not late  # it has none before `super` was called


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
        texts[source.name] = made.text
    return {
        "sources": texts,
        "weave": {
            "how": how,
            "statements": statements,
            "slots": slots,
            "watches": unasked,
            **more,
        },
    }


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


def _is_directive(node: Node, tree: Tree) -> bool:
    return (
        node.type == "expression_statement"
        and node.named_child_count == 1
        and (
            node.named_children[0].type == "string"
            and tree.of(node.named_children[0])[1:-1].startswith("use ")
        )
    )


def _directives(body: Node, tree: Tree, inside: str) -> tuple[str, str]:
    """What a body begins with that has to stay its beginning, and the rest."""
    first = next((c for c in body.named_children if c.type != "comment"), None)
    if first is None or not _is_directive(first, tree):
        return "", inside
    text = tree.of(first)
    at = inside.index(text) + len(text)
    return inside[:at] + ("" if text.endswith(";") else ";"), inside[at:]


def _mentions_this(node: Node) -> bool:
    return any(n.type == "this" for n in walk(node))
