"""What a statement can change, read off its syntax.

The recorder looks again at containers only after statements that can have changed one. Being wrong
on the careful side costs time; being wrong on the other would hide a change. So a call is only
trusted when it is a built-in that changes nothing, or one of the program's own functions, whose
statements are recorded themselves.
"""

from __future__ import annotations

import ast

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

    Request = dict[str, Any]

MUTATORS = frozenset(
    "append extend insert remove pop clear sort reverse add discard update setdefault popitem "
    "appendleft popleft extendleft rotate intersection_update difference_update "
    "symmetric_difference_update".split()
)
_PURE_METHODS = frozenset(
    "upper lower strip lstrip rstrip split rsplit splitlines join replace startswith endswith "
    "find rfind index rindex count title capitalize swapcase center ljust rjust zfill format "
    "isdigit isalpha isalnum isnumeric isdecimal isspace isupper islower encode decode "
    "casefold partition rpartition items keys values get copy union intersection difference "
    "issubset issuperset bit_length is_integer removeprefix removesuffix expandtabs".split()
)
_PURE_BUILTINS = frozenset(
    "abs all any ascii bin bool bytes chr complex dict divmod enumerate filter float format "
    "frozenset hex id input int isinstance issubclass iter len list map max min next oct ord "
    "pow print range repr reversed round set slice sorted str sum tuple type zip ValueError "
    "TypeError KeyError IndexError ZeroDivisionError Exception RuntimeError".split()
)

NOTHING, EVERYTHING = "", "*"


def root_name(node: Any) -> str:
    """Return the name at the root of ``a.b[c].d``, or "*" when there is none."""
    while isinstance(node, (ast.Attribute, ast.Subscript)):
        node = node.value
    return node.id if isinstance(node, ast.Name) else EVERYTHING


_LOOPING = (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)


def _calls_in_order(node: Any) -> Iterator[Any]:
    """The calls of a statement itself, or of a lambda, in the order in which they are made."""
    for inner in ast.iter_child_nodes(node):
        if not isinstance(inner, (ast.stmt, ast.Lambda, ast.ExceptHandler)):
            yield from _calls_in_order(inner)
    if isinstance(node, ast.Call):
        yield node


class Effects:
    """Answers for one module, whose own functions and classes it knows."""

    def __init__(self, tree: Any) -> None:
        bound = set()
        own = set()
        for node in ast.walk(tree):
            if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
                own.add(node.name)
            elif isinstance(node, ast.Name) and not isinstance(node.ctx, ast.Load):
                bound.add(node.id)
            elif isinstance(node, ast.arg):
                bound.add(node.arg)
            elif isinstance(node, ast.alias):
                bound.add((node.asname or node.name).split(".")[0])
        self.trusted = (_PURE_BUILTINS - bound | own) - (own & bound)
        self._own_methods = own

    def of(self, *nodes: Any) -> set[str]:
        """Return the names whose objects evaluating these can change, "*" for any object."""
        names = set()
        for top in nodes:
            for node in ast.walk(top):
                if isinstance(node, ast.Call):
                    names.add(self._of_call(node))
                elif isinstance(node, (ast.Await, ast.Yield, ast.YieldFrom)):
                    names.add(EVERYTHING)
        names.discard(NOTHING)
        return {EVERYTHING} if EVERYTHING in names else names

    def _of_call(self, call: Any) -> str:
        function = call.func
        if isinstance(function, ast.Name):
            return NOTHING if function.id in self.trusted else EVERYTHING
        if isinstance(function, ast.Attribute):
            if function.attr in _PURE_METHODS or function.attr in self._own_methods:
                return NOTHING
            if function.attr in MUTATORS and isinstance(function.value, ast.Name):
                return function.value.id
        return EVERYTHING

    def midway(self, tree: Any) -> set[int]:
        """The identities of calls that can change an object, and behind which the same statement
        calls a function of the program: what was changed shows in that function already."""
        found: set[int] = set()
        for node in ast.walk(tree):
            if isinstance(node, (ast.stmt, ast.Lambda)):
                found |= self._midway_in(list(_calls_in_order(node)))
            elif isinstance(node, _LOOPING):
                inside = [c for c in ast.walk(node) if isinstance(c, ast.Call)]
                if any(self._is_own(c) for c in inside):  # in the next round, if not in this one
                    found |= {id(c) for c in inside if self._changes(c)}
        return found

    def _midway_in(self, calls: list[Any]) -> set[int]:
        last = max((n for n, call in enumerate(calls) if self._is_own(call)), default=0)
        return {id(call) for call in calls[:last] if self._changes(call)}

    def _is_own(self, call: Any) -> bool:
        name = getattr(call.func, "attr", None) or getattr(call.func, "id", None)
        return name in self._own_methods

    def _changes(self, call: Any) -> bool:
        return not self._is_own(call) and self._of_call(call) != NOTHING

    @staticmethod
    def of_target(target: Any) -> str:
        """Return the name whose object assigning to this target changes ("" for a plain name)."""
        if isinstance(target, (ast.Tuple, ast.List)):
            names = {Effects.of_target(t) for t in target.elts} - {NOTHING}
            return names.pop() if len(names) == 1 else EVERYTHING if names else NOTHING
        if isinstance(target, ast.Starred):
            return Effects.of_target(target.value)
        if isinstance(target, ast.Name):
            return NOTHING
        # One level down from a name: that object. Deeper: what changes may have a name elsewhere.
        return target.value.id if isinstance(target.value, ast.Name) else EVERYTHING
