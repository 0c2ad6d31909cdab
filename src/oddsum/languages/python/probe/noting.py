"""What weaving notes, and how: numbers for statements and names, and the calls of hooks.

See ``weave.py`` for where they are put.
"""

from __future__ import annotations

import ast

from .effects import EVERYTHING
from .nodes import (
    at_def,
    bound,
    entries,
    hook_call,
    joined,
    kind_of,
    noted_condition,
    placed,
    visit_of,
)
from .places import method_called, place_of
from .scopes import Scope, names_in, parameters

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any


class Noting(ast.NodeTransformer):
    """Numbers the statements and names of one module, and makes the calls that note them."""

    def __init__(
        self, file: str, statement_base: int = 0, slot_base: int = 0, prefix: str = ""
    ) -> None:
        self.file = file
        self.statements: list[list[Any]] = []
        self.slots: list[list[Any]] = []
        self._base, self._slot_base, self.prefix = statement_base, slot_base, prefix
        self._slot_numbers: dict[Any, int] = {}
        self._scopes: list[Scope] = []  # innermost last
        self._effects: Any = None
        self._midway: set[int] = set()
        self._uses_async = False
        self.apart = False  # every visit is noted by a call of its own, for a watch to stand before
        self._current = 0  # the statement whose expressions are being visited
        self._elsewhere: set[str] = set()

    # -- numbers ---------------------------------------------------------------------------

    def _number(self, node: Any, kind: str | None = None) -> int:
        first = node
        if getattr(node, "decorator_list", None):
            first = node.decorator_list[0]
        row = [
            self.file,
            node.lineno,
            node.end_lineno,
            self._scopes[-1].title,
            kind or kind_of(node),
        ]
        if first is not node and first.lineno < row[1]:
            row[1] = first.lineno  # decorators belong to their def
        self.statements.append(row)
        number = self._base + len(self.statements) - 1
        if kind is None and isinstance(node, ast.stmt):
            self._current = number
        return number

    def _slot(self, name: str) -> int:
        return self._slot_in(self._scopes[-1].home(name), name)

    def _slot_in(self, scope: Scope, name: str) -> int:
        key = (scope, name)  # the scope itself: the id of one that is gone comes again
        if key not in self._slot_numbers:
            title = scope.title
            if scope.in_module and not title:
                title = self.prefix
            self.slots.append([title, name, scope.in_module])
            self._slot_numbers[key] = self._slot_base + len(self.slots) - 1
        return self._slot_numbers[key]

    # -- making calls ----------------------------------------------------------------------

    def _statement(self, hook: str, at: Any, *args: Any) -> Any:
        return placed(ast.Expr(hook_call(hook, at, *args)), at)

    def _visit_call(self, node: Any) -> Any:
        return self._statement("v", node, self._number(node))

    def _bind(self, name: str, at: Any) -> Any:
        scope, slot = self._scopes[-1], ~self._slot(name)
        if name in scope.certain:
            return self._statement("x", at, entries([ast.Name(name, ast.Load()), slot]))
        return bound("g" if scope.home(name).in_module else "b", slot, name, at)

    def _binds(self, target: Any, at: Any) -> list[Any]:
        return [self._bind(n, at) for n in names_in(target)]

    def _changed(self, names: set[str], at: Any) -> list[Any]:
        """Statements that look again at what may have changed: objects by name, or all."""
        if EVERYTHING in names:
            return [self._statement("m", at)]
        return [self._statement("m", at, ast.Name(n, ast.Load())) for n in sorted(names)]

    def _put(self, target: Any, at: Any) -> tuple[list[Any], set[str]]:
        """What tells of an assignment to an item or attribute; names to look at where none can."""
        found = place_of(target) if isinstance(target, (ast.Subscript, ast.Attribute)) else None
        if found is None:
            return [], {self._effects.of_target(target)} - {""}
        hook = {2: "s", 3: "ss"}.get(len(found))
        if hook and all(isinstance(step, ast.Name) for step in found[1:]):
            return [self._statement(hook, at, *found)], set()
        if (name := _attribute(found)) is not None:
            return [self._statement("sa", at, found[0], name)], set()
        return [self._statement("p", at, "set", *found)], set()

    def _called(self, call: Any, at: Any) -> tuple[list[Any], set[str]]:
        """The same for an expression that may be a call of ``append`` or ``pop``."""
        method = method_called(call)
        found = method and place_of(method[1])
        if not method or not found:
            return [], self._effects.of(call)
        hook = self._statement("p", at, method[0], *found)
        name = _attribute(found)
        if name is not None and method[0] == "add":
            hook = self._statement("aa", at, found[0], name)
        elif len(found) == 1:
            hook = self._statement({"add": "a", "first": "pf", "last": "pl"}[method[0]], at, *found)
        return [hook], self._effects.of(*call.args)

    def _first_visit(self, block: list[Any]) -> tuple[list[int], list[Any]]:
        """Take the visit that a block begins with out of it, to be noted with what comes before."""
        number = visit_of(block[0]) if block and not self.apart else None
        if number is None:
            return [], block
        return [number], block[1:] or [placed(ast.Pass(), block[0])]

    def _look(self, at: Any) -> Any:
        """Where watched expressions are worked out: a note of nothing."""
        return self._statement("x", at, entries([]))

    def _joined(self, first: list[Any], then: list[Any]) -> list[Any]:
        return first + then if self.apart else joined(first, then)

    # -- conditions and functions --------------------------------------------------------------

    def _test(self, test: Any, yes: list[int], no: list[int], ticks: bool = False) -> Any:
        """A test, visited already, that notes its outcome and what is visited next either way."""
        if getattr(test, "changes", False):
            return noted_condition(test, test, yes, no, ticks)
        return noted_condition(test, test, [True, *yes], [False, *no], ticks)

    def _visited_test(self, test: Any) -> Any:
        """A test, before what it decides on is woven; one that may change something says so."""
        if not self._effects.of(test):
            return self.visit(test)
        woven = hook_call("cm", test, self.visit(test))
        woven.changes = True
        return woven

    def _function_call(self, node: Any) -> Any:
        number = self._number(at_def(node), "call")
        args: list[Any] = [number]
        for name in parameters(node.args):
            args += [~self._slot(name), ast.Name(name, ast.Load())]
        hook = "ac" if isinstance(node, ast.AsyncFunctionDef) else call_hook(args)
        return self._statement(hook, node, *args)

    def _around(self, node: Any, free: set[str]) -> list[Any]:
        """What tells at the start of a function which names it shares with others, and whose."""
        told, mine = [], self._scopes[-1]
        if mine.captured:
            told.append(hook_call("oc", node, _looking_at(mine.captured)))
        slots: dict[str, int] = {}
        for scope in reversed(self._scopes[:-1]):
            if scope.in_module or scope.is_class:
                continue
            for name in free & scope.captured - slots.keys():
                slots[name] = self._slot_in(scope, name)
        if slots:
            told.append(hook_call("of", node, _looking_at(set(slots)), _table(slots)))
        return told

    def _guarded(self, body: Any, node: Any) -> Any:
        """Wrap a function's body so that an exception that leaves it is noticed, and goes on."""
        followed = [True] if self._scopes[-1].goes_on else []
        leave = [self._statement("e", node, *followed), placed(ast.Raise(None, None), node)]
        every = placed(ast.Name("BaseException", ast.Load()), node)
        handler = placed(ast.ExceptHandler(every, None, leave), node)
        last = [self._statement("l", node)] if self._scopes[-1].goes_on else []
        return placed(ast.Try(body, [handler], [], last), node)

    def _returned(self, at: Any, value: Any, changes: bool) -> Any:
        """A function's result, noted; it is over with that, but where its ``finally`` follows."""
        hook = ("rlm" if changes else "rl") if self._scopes[-1].goes_on else "r"
        return hook_call("rm" if changes and hook == "r" else hook, at, value)


def _attribute(place: list[Any]) -> str | None:
    """The name of an attribute of what a name holds, where a place is one: the usual one."""
    last = place[-1]
    if len(place) == 2 and isinstance(last, ast.Constant) and str(last.value)[:1] == "≠":
        return str(last.value)[1:]
    return None


def _looking_at(names: set[str]) -> Any:
    """A function that uses some names and is never called: the cells they are in can be read off
    it."""
    nothing = ast.arguments([], [], None, [], [], None, [])
    return ast.Lambda(
        nothing, ast.Tuple([ast.Name(n, ast.Load()) for n in sorted(names)], ast.Load())
    )


def _table(slots: dict[str, int]) -> Any:
    return ast.Dict([ast.Constant(n) for n in slots], [ast.Constant(s) for s in slots.values()])


def call_hook(args: list[Any]) -> str:
    """The hook for a function's start: most functions have one parameter or none."""
    return {1: "call0", 3: "call1"}.get(len(args), "call")
