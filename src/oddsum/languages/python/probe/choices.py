"""A program with its edits: all of them in one tree, each taken where its number is switched on.

An edited expression stands as ``(new if ≠s[17] else old)``, edited statements as ``if ≠s[18]: new``
beside what they were; where several edits meet, one more switch is asked ahead of them, so that the
path without an edit stays near plain speed. So some hundred edits are compiled at once, and a trial
is a list of numbers to switch on, and a run. What cannot be chosen while a function runs (a name
that becomes the function's own, a ``yield``) is chosen where it is defined.

Source of the idea, that variants of a program share one compilation and are told apart as it runs:
R. H. Untch, A. J. Offutt, M. J. Harrold, "Mutation analysis using mutant schemata", ISSTA 1993.
"""

from __future__ import annotations

import ast

from .slots import is_docstring, read_lines, read_slot
from .splices import BODIES, SCOPES, Change, Comparing, Text, first_line

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any

SWITCHES = "≠s"
_FIELDS = (*BODIES, "handlers", "cases")
_FUNCTIONS = (ast.FunctionDef, ast.AsyncFunctionDef)
_SAID = (ast.Global, ast.Nonlocal)
_SILENT = (ast.Constant, ast.expr_context, ast.operator, ast.cmpop, ast.unaryop, ast.boolop)
_INNER = (*SCOPES, ast.Lambda, ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)


class Choices:
    """One file with edits. ``select`` leaves statements out, where it is given.

    ``edits`` are ``(number, splices)``; ``switches`` the list that the compiled program asks, which
    grows by the switches that stand ahead of several.
    ``apart`` are the numbers of those that have to be compiled by themselves, as text. Raises
    SyntaxError where one of the edits makes no program.
    """

    def __init__(
        self,
        text: str,
        path: str,
        select: Callable[[Any], Any] | None,
        edits: list[tuple[int, Any]],
        switches: list[int],
    ) -> None:
        self.path, self.select, self.switches = path, select, switches
        self.text = Text(text, path, ast.parse(text, path))
        self.apart: set[int] = set()
        self.by_text: dict[tuple[int, ...], Any] = {}  # what was compiled by itself last
        self.ahead: dict[int, list[int]] = {}  # by edit: the switches that stand ahead of it
        self.spans: dict[int, list[Any]] = {}  # by edit: from where to where it changes something
        # Beside a choice stands what is there without any: else each choice would hold all others.
        twin: Any = ast.parse(text, path)
        self.twins = dict(zip(map(id, _statements(self.text.tree)), _statements(twin)))
        before = list(self.text.tree.body)
        if select is not None:
            select(self.text.tree)
        self.left_out = [s for s in before if s not in self.text.tree.body]
        self.binding = any(word in text for word in _BINDING)
        self._scopes: dict[int, dict[Any, int]] = {}
        changes = {number: self._changes(number, splices) for number, splices in edits}
        own = list(_statements(self.text.tree))
        self._put_in({n: c for n, c in changes.items() if c})
        _hoist(own)
        self.splices = dict(edits)
        self.code = self._compiled(self.text.tree)

    def codes(self, numbers: tuple[int, ...], apart: bool = True) -> Any:
        """The code to run for edits made at once; raises SyntaxError where they make no program.

        None where they have to be compiled by themselves, and ``apart`` does not allow that.
        """
        if not any(n in self.apart for n in numbers) and (
            len(numbers) == 1 or self._are_separate(numbers)
        ):
            return self.code
        if not apart and len(numbers) > 1:
            return None
        if numbers not in self.by_text:
            splices = [s for n in numbers for s in self.splices[n]]
            tree: Any = ast.parse(self.text.with_splices(splices), self.path)
            if self.select is not None:
                tree = self.select(tree)
            self.by_text = {numbers: self._compiled(tree)}
        return self.by_text[numbers]

    def _are_separate(self, numbers: tuple[int, ...]) -> bool:
        """Whether no edit lies where another is chosen: the other would hide it."""
        spans = sorted(span for n in numbers for span in self.spans.get(n, ()))
        return all(a[1] < b[0] for a, b in zip(spans, spans[1:]))

    def _compiled(self, tree: Any) -> Any:
        return compile(with_ticks(tree), self.path, "exec", dont_inherit=True)

    # -- where each edit lies ------------------------------------------------------------------

    def _changes(self, number: int, splices: Any) -> list[Change]:
        """What an edit changes; nothing, where it is ``apart`` or of what is left out."""
        text = self.text
        first, last = text.touched(splices)
        if any(first_line(s) <= first and last <= s.end_lineno for s in self.left_out):
            return []
        around = text.around(splices)
        if len(splices) == 1:
            alone = self._put_between(splices)
            if alone is None:
                alone = self._put_inside(around, splices)
            if alone is not None:
                return alone
        for depth in range(len(around) - 1, -1, -1):
            run = around[depth]
            old = getattr(run[0], run[1])[run[2] : run[3]]
            try:
                news = text.read_anew(run, splices)
            except (SyntaxError, ValueError, RecursionError, MemoryError):
                continue  # it may belong to the statement around it now
            if not news or (not depth and not self._stays(old, news)):
                break
            change = self._change(around[: depth + 1], news, splices)
            if change is not None:
                return change
        self.apart.add(number)
        return []

    def _put_inside(self, around: list[Any], splices: Any) -> list[Change] | None:
        """The change of an edit that lies inside of one expression; None for any other."""
        if not around or around[-1][3] != around[-1][2] + 1:
            return None
        owner, field, first, _ = around[-1]
        start, stop, new = splices[0]
        slot = self.text.slot(getattr(owner, field)[first], start, stop)
        made = read_slot(slot, self.text.text, start, stop, new) if slot is not None else None
        if slot is None or made is None:
            return None
        changes = Comparing(self.text, splices, placed=False).slot(slot, made)
        if changes is None:
            return None
        outer = self._scope_around(around)
        return changes if self._changed_scope(changes, outer) is None else None

    def _put_between(self, splices: Any) -> list[Change] | None:
        """The change of an edit that puts whole lines ahead of a statement or behind it, in the
        same block; None for any other.
        """
        put = self.text.lines_put_in(*splices[0])
        made = read_lines(put) if put is not None else None
        if put is None or not made:
            return None
        around = self.text.runs(put.line, put.line)
        for depth in range(len(around) - 1, -1, -1):
            owner, field, first, last = around[depth]
            beside = getattr(owner, field)[first]
            if last != first + 1 or beside.col_offset != put.column:
                continue
            if (first_line(beside) if put.ahead else beside.end_lineno) != put.line:
                return None
            if self.text.is_chained(around[depth]):
                return None
            if not depth and not self._stays([beside], [*made, beside]):
                return None
            place = first if put.ahead else last
            changes = [Change(owner, field, place, place, made, True, None)]
            outer = self._scope_around(around[: depth + 1])
            return changes if self._changed_scope(changes, outer) is None else None
        return None

    def _stays(self, old: list[Any], news: list[Any]) -> bool:
        """Whether the module's statements may be chosen from as it runs."""
        future = any(isinstance(s, ast.ImportFrom) and s.module == "__future__" for s in old)
        chosen = self.select is not None and (len(old) != 1 or len(news) != 1)
        return not future and not chosen and not (old and is_docstring(old[0]))

    def _change(self, around: list[Any], news: list[Any], splices: Any) -> list[Change] | None:
        """The changes of an edit; None where the names of the scope around it change, too."""
        whole: set[int] = set()
        outer = self._scope_around(around)
        while True:
            changes = Comparing(self.text, splices, whole).run(around[-1], news)
            if len({(id(c.owner), c.field) if c.is_block else None for c in changes}) > 1:
                # A choice of statements holds others: an edit must not be half in, half outside.
                changes = Comparing(self.text, splices, whole).whole_run(around[-1], news)
            scope = self._changed_scope(changes, outer)
            if scope is None:
                return changes
            if scope is outer:
                return None
            whole.add(id(scope))

    @staticmethod
    def _scope_around(around: list[Any]) -> Any:
        """The function or class that a run of statements stands in; None for the module."""
        return next((getattr(o, f)[n] for o, f, n, _ in reversed(around[:-1])
                     if isinstance(getattr(o, f)[n], SCOPES)), None)  # fmt: skip

    def _changed_scope(self, changes: list[Change], outer: Any) -> Any:
        """A function or class that gets other names of its own by these changes; None for none."""
        if not self.binding:  # no expression of the program binds a name: only statements matter
            changes = [c for c in changes if c.is_block or _binds(c.new)]
        scopes = {id(c.scope or outer): c.scope or outer for c in changes}
        for key, scope in scopes.items():
            if scope is None:
                continue
            mine = [c for c in changes if id(c.scope or outer) == key]
            if any(isinstance(n, _SAID) for c in mine for n in (*c.old, *c.come)):
                return scope  # its place matters: it has to come before the names are used
            gone = _facts([n for c in mine for n in c.old])
            come = _facts([n for c in mine for n in c.come])
            if gone != come and self._names_change(scope, gone, come):
                return scope
        return None

    def _names_change(self, scope: Any, gone: Any, come: Any) -> bool:
        facts = self._facts_of(scope)
        after = dict(facts)
        for fact, count in come.items():
            after[fact] = after.get(fact, 0) + count
        for fact, count in gone.items():
            after[fact] = after.get(fact, 0) - count
        return {f for f, n in after.items() if n > 0} != facts.keys()

    def _facts_of(self, scope: Any) -> dict[Any, int]:
        if id(scope) not in self._scopes:
            self._scopes[id(scope)] = _facts(scope.body)
        return self._scopes[id(scope)]

    # -- one tree ------------------------------------------------------------------------------

    def _put_in(self, changes: dict[int, list[Change]]) -> None:
        expressions: dict[Any, list[tuple[int, Change]]] = {}
        blocks: dict[Any, list[tuple[int, Change]]] = {}
        for number, some in changes.items():
            for one in some:
                if one.is_block:
                    blocks.setdefault((id(one.owner), one.field), []).append((number, one))
                else:
                    key = id(one.owner), one.field, one.first
                    expressions.setdefault(key, []).append((number, one))
        for group in expressions.values():
            self._choose_expression(group)
        for group in blocks.values():
            self._choose_statements(group)

    def _ahead_of(self, numbers: list[int]) -> Any:
        """A switch ahead of these edits: their own, where it is one."""
        if len(set(numbers)) == 1:
            return numbers[0]
        switch = len(self.switches)
        self.switches.append(0)
        for number in numbers:
            self.ahead.setdefault(number, []).append(switch)
        return switch

    def _choose_expression(self, group: list[tuple[int, Change]]) -> None:
        one = group[0][1]
        holder, place = getattr(one.owner, one.field), one.first
        old = holder if place is None else holder[place]
        made: Any = group[-1][1].new
        for number, change in reversed(group[:-1]):
            made = ast.IfExp(_is_on(number, old), change.new, made)
            ast.copy_location(made, old)
        self._spans(group, _at(old), _end(old))
        switch = self._ahead_of([n for n, _ in group])
        chosen = ast.copy_location(ast.IfExp(_is_on(switch, old), made, old), old)
        if place is None:
            setattr(one.owner, one.field, chosen)
        else:
            holder[place] = chosen

    def _choose_statements(self, group: list[tuple[int, Change]]) -> None:
        """Put changes of one block beside what is there; those that overlap stand together."""
        owner, field = group[0][1].owner, group[0][1].field
        block = getattr(owner, field)
        made: list[Any] = []
        done = 0
        for first, last, some in _together(group):
            made += block[done:first]
            made += self._choice(block, first, last, some)
            done = last
        setattr(owner, field, made + block[done:])

    def _bare(self, statements: list[Any]) -> list[Any]:
        return [self.twins[id(s)] for s in statements]

    def _spans(self, some: list[tuple[int, Change]], start: Any, end: Any) -> None:
        for number in {n for n, _ in some}:
            self.spans.setdefault(number, []).append((start, end))

    def _choice(
        self, block: list[Any], first: int, last: int, some: list[tuple[int, Change]]
    ) -> list[Any]:
        near = block[first] if first < len(block) else block[-1]
        start = _at(near) if first < len(block) else _end(near)
        self._spans(some, start, _end(block[last - 1]) if last > first else start)
        taken: list[Any] = []
        for number in dict.fromkeys(n for n, _ in some):
            body, done = [], first
            for change in [c for n, c in some if n == number]:
                new = [self.twins.get(id(n), n) for n in change.new]
                body += [*self._bare(block[done : change.first]), *new]
                done = change.last
            body += self._bare(block[done:last])
            taken.append(_when(number, body or [_pass(near)], [], near))
        if len(taken) == 1 and first < last:
            taken[0].orelse = block[first:last]
            return taken
        if len(taken) == 1:
            return taken
        switch = self._ahead_of([n for n, _ in some])
        return [_when(switch, taken, block[first:last], near)]


_BINDING = (":=", "yield", "await")  # what makes more of an expression than its value


def _binds(node: Any) -> bool:
    return any(isinstance(n, (ast.NamedExpr, ast.Yield, ast.YieldFrom, ast.Await))
               for n in ast.walk(node))  # fmt: skip


def _statements(tree: Any) -> Iterator[Any]:
    """Every statement of a tree, once, in an order that is the same for trees that are the same."""
    todo, seen = [tree], set()
    while todo:
        node = todo.pop()
        for field in _FIELDS:
            for inner in getattr(node, field, None) or ():
                if id(inner) not in seen and isinstance(inner, ast.AST):
                    seen.add(id(inner))
                    todo.append(inner)
                    yield inner


def _together(
    group: list[tuple[int, Change]],
) -> Iterator[tuple[int, int, list[tuple[int, Change]]]]:
    """Changes of a block in the order of their places, with those that overlap: first, last."""
    pending: list[tuple[int, Change]] = []
    first = last = -1
    for number, one in sorted(group, key=lambda g: (g[1].first, g[1].last)):
        inside = one.first < last or (one.first == one.last == first == last)
        if pending and not inside:
            yield first, last, pending
            pending = []
        if not pending:
            first, last = one.first, one.last
        pending.append((number, one))
        last = max(last, one.last)
    if pending:
        yield first, last, pending


def _at(node: Any) -> tuple[int, int]:
    return first_line(node), node.col_offset


def _end(node: Any) -> tuple[int, int]:
    return node.end_lineno, node.end_col_offset


def _is_on(switch: int, near: Any) -> Any:
    place: Any = {"lineno": near.lineno, "end_lineno": near.lineno,
                  "col_offset": near.col_offset, "end_col_offset": near.col_offset}  # fmt: skip
    name, number = ast.Name(SWITCHES, ast.Load(), **place), ast.Constant(switch, **place)
    return ast.Subscript(name, number, ast.Load(), **place)


def _when(switch: int, body: list[Any], orelse: list[Any], near: Any) -> Any:
    return ast.copy_location(ast.If(_is_on(switch, near), body, orelse), near)


def _pass(near: Any) -> Any:
    return ast.copy_location(ast.Pass(), near)


# -- what a scope is made of -------------------------------------------------------------------


def _facts(statements: list[Any]) -> dict[Any, int]:
    """What decides how the names of a scope are read: bound names, ``global``, ``yield`` ..."""
    found: dict[Any, int] = {}
    todo = list(statements)
    while todo:
        node = todo.pop()
        if isinstance(node, _SILENT):  # half of all, and nothing is inside of them
            continue
        for fact in _facts_in(node):
            found[fact] = found.get(fact, 0) + 1
        if isinstance(node, _INNER):
            todo += _walrus_in(node)
            continue
        todo += ast.iter_child_nodes(node)
    return found


def _facts_in(node: Any) -> Iterator[Any]:
    if isinstance(node, ast.Name):
        if not isinstance(node.ctx, ast.Load):
            yield node.id
    elif isinstance(node, SCOPES):
        yield node.name
    elif isinstance(node, _SAID):
        yield from ((type(node).__name__, name) for name in node.names)
    elif isinstance(node, (ast.Yield, ast.YieldFrom)):
        yield "(yield)"
    elif isinstance(node, ast.Await):
        yield "(await)"
    elif isinstance(node, ast.alias):
        yield (node.asname or node.name).partition(".")[0]
    elif isinstance(node, ast.ExceptHandler) and node.name:
        yield node.name
    elif type(node).__name__ in ("MatchAs", "MatchStar", "MatchMapping"):
        yield getattr(node, "name", None) or getattr(node, "rest", None) or "_"


def _walrus_in(node: Any) -> list[Any]:
    """Names that a comprehension binds outside of itself."""
    if isinstance(node, (*SCOPES, ast.Lambda)):
        return []
    return [n.target for n in ast.walk(node) if isinstance(n, ast.NamedExpr)]


def _hoist(scopes: Any) -> None:
    """Put ``global`` and ``nonlocal`` first in the program's functions, ahead of all choices."""
    for scope in scopes:
        if isinstance(scope, SCOPES):
            said: dict[Any, set[str]] = {}
            _take_out(scope.body, said)
            made: list[Any] = []
            for kind, names in said.items():
                made.append(ast.copy_location(kind(sorted(names)), scope.body[0]))
            at = 1 if is_docstring(scope.body[0]) else 0
            scope.body[at:at] = made


def _take_out(body: list[Any], said: dict[Any, set[str]]) -> None:
    for place, node in enumerate(body):
        if isinstance(node, _SAID):
            said.setdefault(type(node), set()).update(node.names)
            body[place] = _pass(node)
        elif not isinstance(node, SCOPES):
            for field in _FIELDS:
                inner = getattr(node, field, None)
                if type(inner) is list and inner:
                    if isinstance(inner[0], ast.stmt):
                        _take_out(inner, said)
                    else:
                        for part in inner:
                            _take_out(part.body, said)


# -- counting ----------------------------------------------------------------------------------


def with_ticks(tree: Any) -> Any:
    """Put a tick at the start of every loop's body and every function's, once.

    Only statements are walked: a visitor of every node takes longer than the compiler.
    """
    for node in list(_statements(tree)):  # a statement may stand in several choices
        if isinstance(node, (ast.While, ast.For, ast.AsyncFor)):
            node.body.insert(0, _tick(node))
        elif isinstance(node, _FUNCTIONS):
            node.body.insert(1 if is_docstring(node.body[0]) else 0, _tick(node))
    return tree


def _tick(node: Any) -> Any:
    place: Any = {"lineno": node.lineno, "end_lineno": node.lineno, "col_offset": 0,
                  "end_col_offset": 0}  # fmt: skip
    name = ast.Name("≠g", ast.Load(), **place)
    return ast.Expr(ast.Call(name, [], [], **place), **place)


def made_of(
    text: str,
    path: str,
    select: Callable[[Any], Any] | None,
    edits: list[tuple[int, Any]],
    switches: list[int],
) -> dict[int, Choices | None]:
    """A file with its edits: by the edit's number, the tree it stands in; None: no program."""
    try:
        made = Choices(text, path, select, edits, switches)
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        if len(edits) == 1:
            return {edits[0][0]: None}
        half = len(edits) // 2  # some edit makes no program: the others do
        return {
            **made_of(text, path, select, edits[:half], switches),
            **made_of(text, path, select, edits[half:], switches),
        }
    return dict.fromkeys((number for number, _ in edits), made)
