"""Puts the recorder's calls into a program's syntax tree.

Why the tree and not the interpreter's line events: those differ between versions (a call over
three lines, a ``try``, a comprehension), and say neither what a condition came to nor what a name
was bound to. Woven statements are visited exactly as the contract counts them, on every version.

The calls go to names that no program can spell, found among the built-ins (``HOOKS``), so
``globals()``, ``locals()`` and ``dir()`` show nothing of them.

==========  ===================================================================================
hook        stands
==========  ===================================================================================
``≠v k``    before statement k: a visit
``≠w``      in a ``while`` whose test held: True, and now and then a look at the log
``≠cl x``   around a call that may have changed something, with one of the program's behind it
``≠cm x``   around any test that may have changed something: its outcome
``≠b[≠t x]`` after a binding: the function's name now holds x; what notes it depends on x's type
``≠g[≠t x]`` the same for a name of the module
``≠x t``    notes several things at once: the log's own ``extend``. Outcomes of most conditions,
            rounds of a ``for``, bindings of what is certainly a number, and the next visit
``≠n s x``  around a walrus: a binding, returning x
``≠u s``    after a ``del``: the name is gone
``≠m x``    after a change in place of the object x; ``≠m`` alone: of any
``≠a x``    after ``x.append(...)``; ``≠pf`` ``≠pl`` after ``x.pop(0)`` and ``x.pop()``;
            ``≠s x i`` after ``x[i] = ...``; ``≠ss`` with two
            indexes; ``≠sa x 'name'`` after ``x.name = ...``, ``≠aa`` after ``x.name.append(...)``;
            ``≠p`` after another change whose place is plain: see ``places.py``
``≠i k``    after an import: our own modules may have run meanwhile
``≠f``      around what a ``for`` walks through
``≠call``   at the start of a function, with its parameters
``≠r x``    around a returned value; ``≠rm`` where the expression may have changed something;
            ``≠rl`` ``≠rlm`` where a ``finally`` or the end of a ``with`` may follow in the
            function, and then ``≠l`` as it is left
``≠e``      in the handler around a function's body: it is left by an exception
``≠h``      at the start of every ``except`` of the program
``≠y ≠z``   around a ``yield``, before and after; ``≠zf`` as a ``finally`` begins; ``≠yf``
            around what a ``yield from`` goes through
``≠ks``     around the key that a list is sorted by
``≠k c``    after a class is made
``≠oc``     where functions that are made in a call see its names; ``≠of`` in these
``≠ac``     in an ``async def``, in place of ``≠call``; ``≠aw k x`` around an ``await``: other tasks
            may have run meanwhile
==========  ===================================================================================
"""

from __future__ import annotations

import ast

from .certain import certain_names, declared_elsewhere
from .effects import EVERYTHING, Effects
from .nodes import (
    always_leaves,
    entries,
    goes_on_after_return,
    hook_call,
    placed,
    split_head,
)
from .noting import Noting, call_hook
from .places import place_of
from .scopes import Scope, captured_names, free_names, parameters
from .stand_in import PEN, imports_it, uses_the_pen

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]

HOOKS = tuple(
    "v w cm cl b g t x n u m a pf pl s ss p i f call0 call1 call r rm rl rlm l e h y z zf yf k oc "
    "of ac aw ks".split()
)
_LEAVING = (ast.Return, ast.Raise, ast.Break, ast.Continue)
_UNVISITED = (ast.Global, ast.Nonlocal)


class Weaver(Noting):
    """Weaves one module. After ``weave``, ``statements`` and ``slots`` say what the numbers mean.

    ``statements``: rows ``[file, line, end, function, kind]``; ``slots``: rows
    ``[function, name, in_module]``. Numbers begin at the given bases.
    """

    def weave(self, tree: Any) -> Any:
        """Return the tree with the recorder's calls in it (the tree itself is changed)."""
        self._effects = Effects(tree)
        self._midway = self._effects.midway(tree)
        self._uses_async = any(isinstance(n, ast.AsyncFunctionDef) for n in ast.walk(tree))
        self._elsewhere = declared_elsewhere(tree)
        self._shows_pen = uses_the_pen(tree)
        module = Scope("", None, set(), in_module=True)
        module.certain = certain_names(tree, self._elsewhere, self._effects.trusted)
        self._scopes = [module]
        head, rest = split_head(tree.body)
        late = [self._visit_call(s) for s in head if isinstance(s, ast.ImportFrom)]
        tree.body = head + late + self._block(rest)
        return ast.fix_missing_locations(tree)

    # -- blocks and statements -------------------------------------------------------------

    def _block(self, body: Any) -> list[Any]:
        woven: list[Any] = []
        for statement in body:
            if self.apart:
                woven += [self._look(statement), *self._one(statement)]
            else:
                woven = self._joined(woven, self._one(statement))
        if self.apart and body and not isinstance(body[-1], _LEAVING):
            woven.append(self._look(body[-1]))
        return woven

    def _one(self, node: Any) -> list[Any]:
        if isinstance(node, _UNVISITED) or getattr(node, "woven", False):
            return [node]
        method = getattr(self, "_weave_" + type(node).__name__, None)
        if method is not None:
            woven: list[Any] = method(node)
            return woven
        before = self._visit_call(node)
        changed = self._effects.of(node)
        return [before, self.visit(node), *self._changed(changed, node)]

    def _weave_Assign(self, node: Any) -> list[Any]:
        number = self._number(node)
        called, changed = self._called(node.value, node)
        for target in node.targets:
            put, more = self._put(target, node)
            called, changed = called + put, changed | more | self._effects.of(target)
        after = [b for t in node.targets for b in self._binds(t, node)]
        if self._uses_async and EVERYTHING in changed:
            after.insert(0, self._statement("i", node, number))
        before = self._statement("v", node, number)
        return [before, self.visit(node), *after, *called, *self._changed(changed, node)]

    def _weave_AnnAssign(self, node: Any) -> list[Any]:
        if node.value is None:
            return [self._visit_call(node), node]
        before = self._visit_call(node)
        changed = self._effects.of(node.value) | {self._effects.of_target(node.target)}
        after = self._binds(node.target, node)
        return [before, self.visit(node), *after, *self._changed(changed - {""}, node)]

    def _weave_AugAssign(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        put, changed = self._put(node.target, node)
        changed = changed | self._effects.of(node.value, node.target)
        after = self._binds(node.target, node)
        return [before, self.visit(node), *after, *put, *self._changed(changed, node)]

    def _weave_Delete(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        gone, changed = [], self._effects.of(node)
        for target in node.targets:
            if isinstance(target, ast.Name):
                gone.append(self._statement("u", node, self._slot(target.id)))
            elif isinstance(target, (ast.Attribute, ast.Subscript)):
                changed = changed | {self._effects.of_target(target)}
        return [before, self.visit(node), *gone, *self._changed(changed, node)]

    def _weave_Import(self, node: Any) -> list[Any]:
        number = self._number(node)
        after = []
        if isinstance(node, ast.ImportFrom):
            names = [a.asname or a.name for a in node.names if a.name != "*"]
            after = [self._bind(n, node) for n in names]
        if self._shows_pen and imports_it(node):
            after.append(self._bind(PEN, node))
        return [
            self._statement("v", node, number),
            node,
            self._statement("i", node, number),
            *after,
        ]

    _weave_ImportFrom = _weave_Import

    def _weave_Return(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        changes = node.value is not None and bool(self._effects.of(node.value))
        value = ast.Constant(None) if node.value is None else self.visit(node.value)
        node.value = self._returned(node, value, changes)
        return [before, node]

    def _weave_If(self, node: Any) -> list[Any]:
        before, test = self._visit_call(node), self._visited_test(node.test)
        yes, node.body = self._first_visit(self._block(node.body))
        no, node.orelse = self._first_visit(self._block(node.orelse))
        node.test = self._test(test, yes, no)
        return [before, node]

    def _weave_While(self, node: Any) -> list[Any]:
        number = self._number(node)
        test = self._visited_test(node.test)
        yes, node.body = self._first_visit(self._block(node.body))
        node.orelse = self._block(node.orelse)
        test = self._test(test, yes, [], ticks=True)
        node.test = placed(ast.BoolOp(ast.Or(), [hook_call("v", node, number), test]), test)
        return [node]

    def _weave_Assert(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.test = self._test(self._visited_test(node.test), [], [])
        if node.msg is not None:
            node.msg = self.visit(node.msg)
        return [before, node]

    def _weave_For(self, node: Any) -> list[Any]:
        number = self._number(node)
        changes = bool(self._effects.of(node.iter))
        first = self._statement("v", node, number)
        node.iter = hook_call("f", node.iter, number, self.visit(node.iter), changes)
        target = self._effects.of_target(node.target)
        head = self._binds(node.target, node) + self._changed({target} - {""}, node)
        round_begins = self._statement("x", node, entries([number, "f"]))
        node.body = self._joined(self._joined([round_begins], head), self._block(node.body))
        over = self._statement("x", node, entries([number, "e"]))
        node.orelse = self._joined([over], self._block(node.orelse))
        return [first, node]

    def _weave_AsyncFor(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.iter = self.visit(node.iter)
        resumed = self._statement("aw", node, self._current, None)
        node.body = [resumed, *self._binds(node.target, node), *self._block(node.body)]
        node.orelse = self._block(node.orelse)
        return [before, node]

    def _weave_With(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        head = []
        for item in node.items:
            if item.optional_vars is not None:
                head.extend(self._binds(item.optional_vars, node))
        if isinstance(node, ast.AsyncWith):
            head.insert(0, self._statement("aw", node, self._current, None))
        changed = self._effects.of(*[i.context_expr for i in node.items])
        node.items = [self.visit(i) for i in node.items]
        node.body = head + self._changed(changed, node) + self._block(node.body)
        return [before, node]

    _weave_AsyncWith = _weave_With

    def _weave_Try(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.body = self._block(node.body)
        for handler in node.handlers:
            head: list[Any] = [self._statement("h", handler)]
            body = self._block(handler.body)
            if handler.name:  # it is gone however the handler is left, as by another exception
                head.append(self._bind(handler.name, handler))
                gone = self._statement("u", handler, self._slot(handler.name))
                body = [placed(ast.Try(body, [], [], [gone]), handler)]
            handler.body = head + body
        node.orelse, node.finalbody = self._block(node.orelse), self._block(node.finalbody)
        if node.finalbody:
            node.finalbody.insert(0, self._statement("zf", node.finalbody[0]))
        return [before, node]

    _weave_TryStar = _weave_Try

    def _weave_Match(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.subject = self.visit(node.subject)
        for case in node.cases:
            names = [
                n
                for p in ast.walk(case.pattern)
                for n in (getattr(p, "name", None), getattr(p, "rest", None))
                if n
            ]
            case.body = [self._bind(n, case.pattern) for n in names] + self._block(case.body)
        return [before, node]

    def _weave_FunctionDef(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.decorator_list = [self.visit(d) for d in node.decorator_list]
        node.args.defaults = [self.visit(d) for d in node.args.defaults]
        node.args.kw_defaults = [d and self.visit(d) for d in node.args.kw_defaults]
        scope, free = Scope.of_function(node, self._scopes[-1]), free_names(node)
        scope.captured = captured_names(node, scope)
        scope.certain = certain_names(node, self._elsewhere, self._effects.trusted)
        self._scopes.append(scope)
        head, rest = split_head(node.body)
        declared = [s for s in rest if isinstance(s, _UNVISITED)]
        rest = [s for s in rest if not isinstance(s, _UNVISITED)]
        call = self._function_call(node)
        around = [placed(ast.Expr(seen), node) for seen in self._around(node, free)]
        scope.goes_on = goes_on_after_return(rest)
        body = self._block(rest) or [placed(ast.Pass(), node)]
        if not always_leaves(rest):
            at = rest[-1] if rest else node
            body.append(placed(ast.Expr(self._returned(at, ast.Constant(None), False)), at))
        node.body = head + declared + [call, *around, self._guarded(body, node)]
        self._scopes.pop()
        return [before, node]

    _weave_AsyncFunctionDef = _weave_FunctionDef

    def _weave_ClassDef(self, node: Any) -> list[Any]:
        before = self._visit_call(node)
        node.decorator_list = [self.visit(d) for d in node.decorator_list]
        node.bases = [self.visit(b) for b in node.bases]
        self._scopes.append(Scope.of_class(node, self._scopes[-1]))
        head, rest = split_head(node.body)
        node.body = head + self._block(rest) or [ast.Pass()]
        self._scopes.pop()
        if node.name[:2] == "__":
            return [before, node]  # within another class it has another name
        return [before, node, self._statement("k", node, ast.Name(node.name, ast.Load()))]

    def _weave_Expr(self, node: Any) -> list[Any]:
        number = self._number(node)
        called, changed = self._called(node.value, node)
        if self._uses_async and EVERYTHING in changed:  # it may be what runs all the tasks
            called.append(self._statement("i", node, number))
        before = self._statement("v", node, number)
        return [before, self.visit(node), *called, *self._changed(changed, node)]

    # -- expressions -----------------------------------------------------------------------

    def visit_NamedExpr(self, node: Any) -> Any:
        """Note what a walrus binds, wherever it stands."""
        node.value = self.visit(node.value)
        return hook_call("n", node, ~self._slot(node.target.id), node)

    def visit_Yield(self, node: Any) -> Any:
        """A generator steps out of its body and back in."""
        value = ast.Constant(None) if node.value is None else self.visit(node.value)
        number = self._number(node, "yield")
        out = placed(ast.Yield(hook_call("y", node, number, value)), node)
        return hook_call("z", node, number, out)

    def visit_YieldFrom(self, node: Any) -> Any:
        """The same, once for every item of another generator."""
        node.value = hook_call("yf", node, self._number(node, "yield"), self.visit(node.value))
        return node

    def visit_Call(self, node: Any) -> Any:
        """While a list is sorted by a key, Python shows it as empty; what is changed on the way to
        a call of the program's is told before that."""
        self.generic_visit(node)
        key = next((k for k in node.keywords if k.arg == "key"), None)
        if key is not None and isinstance(node.func, ast.Attribute) and node.func.attr == "sort":
            place = place_of(node.func.value)
            if place is not None and all(isinstance(p, (ast.Name, ast.Constant)) for p in place):
                key.value = hook_call("ks", node, key.value, *place)
        return hook_call("cl", node, node) if id(node) in self._midway else node

    def visit_Await(self, node: Any) -> Any:
        """While a coroutine waits, others may run."""
        node.value = self.visit(node.value)
        return hook_call("aw", node, self._current, node)

    def visit_Lambda(self, node: Any) -> Any:
        """A lambda is called, visited and returns like any function."""
        scope, free = Scope.of_function(node, self._scopes[-1]), free_names(node)
        scope.captured = captured_names(node, scope)
        self._scopes.append(scope)
        around = self._around(node, free)
        called, body = self._number(node.body, "call"), self._number(node.body, "lambda")
        args: list[Any] = [called]
        for name in parameters(node.args):
            args += [~self._slot(name), ast.Name(name, ast.Load())]
        value = hook_call("r", node, self.visit(node.body))
        self._scopes.pop()
        steps = [
            hook_call(call_hook(args), node, *args),
            *around,
            hook_call("v", node, body),
            value,
        ]
        picked = ast.Subscript(
            ast.Tuple(steps, ast.Load()), ast.Constant(len(steps) - 1), ast.Load()
        )
        node.body = placed(picked, node)
        return node
