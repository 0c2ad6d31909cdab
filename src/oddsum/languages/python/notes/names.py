"""Notes on names: never used, twins by a slip, hiding others, set where another is meant."""

from __future__ import annotations

import ast
import builtins
import itertools
from difflib import SequenceMatcher

from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes.rule import (
    Found,
    Rule,
    bodies,
    code,
    functions_of,
    loads,
    own,
    stores,
)

_OFTEN_HIDDEN = {
    "list", "sum", "max", "min", "str", "int", "len", "input", "print", "range", "dict", "set",
    "sorted", "float", "abs", "round", "tuple", "any", "all",
}  # fmt: skip
_DEFINING = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)
_LONG = 4  # letters of a name in which a wrong one is told from another word
_ALIKE = str.maketrans("10", "lo")
_NEAR = 0.86  # of two names: a letter or two apart


def _unused(scene: Scene) -> Found:
    for function in functions_of(scene):
        used = set(loads(function)) | {
            n
            for g in ast.walk(function)
            if isinstance(g, (ast.Global, ast.Nonlocal))
            for n in g.names
        }
        for node in own(function):
            if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
                name = node.targets[0].id
                if name not in used and not name.startswith("_") and len(node.targets) == 1:
                    yield (
                        node.lineno,
                        f"`{name}` gets a value here that nothing uses. Is it needed?",
                    )


def _twin(scene: Scene) -> Found:
    """Two names a letter apart, of which one is set and never used."""
    made = {n.name for n in ast.walk(scene.tree) if isinstance(n, _DEFINING)}
    given = {n.arg for n in ast.walk(scene.tree) if isinstance(n, ast.arg)}
    for scope in [scene.tree, *functions_of(scene)]:
        used = set(loads(scope))
        for node in own(scope):
            if not (isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)):
                continue
            if node.id in used or node.id.startswith("_"):
                continue
            # `ROADS` is what a function is given as its `roads`, by somebody else.
            others = used - made - (given if node.id.isupper() else set())
            other = next((name for name in sorted(others) if _is_twin(node.id, name)), None)
            if other is not None:
                how = "look much alike" if _look(other) == _look(node.id) else (
                    "differ by a letter or two")  # fmt: skip
                yield (
                    node.lineno,
                    (
                        f"`{node.id}` and `{other}` {how}, and `{node.id}` is "
                        "never used. Are they meant to be one?"
                    ),
                )


def _is_twin(name: str, other: str) -> bool:
    """Whether one name could be another one, mistyped."""
    if other in dir(builtins):
        return False
    if len(name) > 1 and _look(name) == _look(other):
        return True
    near = SequenceMatcher(None, name, other, autojunk=False).ratio()
    return len(name) >= _LONG and near >= _NEAR and other[-1:] != "s" != name[-1:]


def _look(name: str) -> str:
    """A name without what is easily overlooked: capitals, underscores, 1 for l, 0 for o."""
    return name.casefold().replace("_", "").translate(_ALIKE)


def _hides(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if (
            isinstance(node, ast.Name)
            and isinstance(node.ctx, ast.Store)
            and node.id in _OFTEN_HIDDEN
        ) and isinstance(scene.parents.get(id(node)), ast.Assign):
            yield (
                node.lineno,
                (
                    f"`{node.id}` is the name of something built in; from here on it "
                    f"means this. "
                    "Is the built-in one needed later?"
                ),
            )


def _own_instead(scene: Scene) -> Found:
    """A function that sets a name of the module's without saying ``global``, after reading it
    nowhere else: its own variable stays unseen outside."""
    module = {
        t.id for s in scene.tree.body if isinstance(s, ast.Assign) for t in s.targets
        if isinstance(t, ast.Name)
    }  # fmt: skip
    for function in functions_of(scene):
        said = {n for g in ast.walk(function) if isinstance(g, ast.Global) for n in g.names}
        arguments = {a.arg for a in function.args.args}
        for node in own(function):
            if isinstance(node, ast.AugAssign) and isinstance(node.target, ast.Name):
                name = node.target.id
                begun = any(isinstance(n, ast.Assign) and name in stores(n) for n in own(function))
                if name in module - said - arguments and not begun:
                    yield (
                        node.lineno,
                        (
                            f"`{name}` of the function is another one than `{name}` "
                            f"outside. Is `global` "
                            "missing?"
                        ),
                    )
            elif isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
                name = node.targets[0].id
                if name in module - said - arguments and name not in set(loads(function)):
                    yield (
                        node.lineno,
                        (
                            f"`{name}` is set for this function alone; the one outside "
                            f"stays as it is. Is "
                            "that meant?"
                        ),
                    )


def _parameter_lost(scene: Scene) -> Found:
    for function in functions_of(scene):
        names = {a.arg for a in function.args.args}
        for statement in function.body:
            if isinstance(statement, ast.Assign) and isinstance(statement.targets[0], ast.Name):
                name = statement.targets[0].id
                if name in names and name not in set(loads(statement.value)):
                    yield (
                        statement.lineno,
                        (
                            f"`{name}` came in as a parameter, and gets another value "
                            f"before it was used. "
                            "Is what came in not needed?"
                        ),
                    )
            names -= set(loads(statement)) | set(stores(statement))


def _mutable_default(scene: Scene) -> Found:
    for function in functions_of(scene):
        for default in function.args.defaults:
            if isinstance(default, (ast.List, ast.Dict, ast.Set)):
                yield (
                    default.lineno,
                    (
                        f"{code(default)} is made once and kept from call to call. Should "
                        f"each call begin "
                        "with a new one?"
                    ),
                )


def _itself(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Assign) and len(node.targets) == 1:
            target = node.targets[0]
            if isinstance(target, ast.Name) and isinstance(node.value, ast.Name):
                if target.id == node.value.id and scene.function_of(node) is not None:
                    yield node.lineno, f"{code(node)} changes nothing. Is another name meant?"


def _lost(scene: Scene) -> Found:
    """``a = b`` and then ``b = a``."""
    for body in bodies(scene):
        for first, second in itertools.pairwise(body):
            if isinstance(first, ast.Assign) and isinstance(second, ast.Assign):
                a, x = ast.unparse(first.targets[0]), ast.unparse(first.value)
                b, y = ast.unparse(second.targets[0]), ast.unparse(second.value)
                if (a, b) == (y, x) and a != b:
                    yield (
                        second.lineno,
                        (
                            f"By now `{a}` has the value of `{b}` already. Is it the old "
                            f"`{a}` that is "
                            "meant?"
                        ),
                    )


RULES = (
    Rule(
        "never used",
        "A value that nothing uses is left over, or another name is meant where it should be used.",
        "def f(x):\n    total = x + 1\n    return x\n",
        ("variable", "missing"),
        _unused,
    ),
    Rule(
        "a twin",
        "Names that differ by a letter are two different variables.",
        "def f(x):\n    total = x\n    totl = total + 1\n    return total\n",
        ("variable",),
        _twin,
    ),
    Rule(
        "hides a built-in",
        "After `sum = 0` the function `sum()` cannot be called any more.",
        "sum = 0\n",
        ("variable",),
        _hides,
    ),
    Rule(
        "its own variable",
        "A name that a function sets is its own, unless it says `global`.",
        "count = 0\n\n\ndef f():\n    count = 1\n",
        ("global",),
        _own_instead,
    ),
    Rule(
        "parameter overwritten",
        "What the caller gives is lost once the parameter gets another value.",
        "def f(x):\n    x = 3\n    return x\n",
        ("doubled", "variable"),
        _parameter_lost,
    ),
    Rule(
        "one list for all calls",
        "A default value is made when the function is defined, once.",
        "def f(xs=[]):\n    return xs\n",
        ("alias",),
        _mutable_default,
    ),
    Rule(
        "set to itself",
        "`x = x` leaves everything as it is.",
        ("def f(x):\n    x = x\n    return x\n"),
        ("variable", "attribute"),
        _itself,
    ),
    Rule(
        "overwritten too early",
        "After `a = b` the old a is gone.",
        "def f(a, b):\n    a = b\n    b = a\n    return a, b\n",
        ("lost update",),
        _lost,
    ),
)
