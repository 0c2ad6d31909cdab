"""What could be missing where nothing changes a variable that the function goes by."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.candidate import Candidate
from oddsum.languages.python.edits.scene import Function, Scene, parameters

_MOST = 4  # names of one sort that a change is made of
_BEGUN = (ast.Constant, ast.UnaryOp, ast.List, ast.Dict)


def unmoved(scene: Scene, function: Function | None, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """Lines that change what is begun, is read, and never changes: a name of the function, one that
    it is given and goes by in a loop, an attribute of its object.

    ``nodes``: all of the function that is its own.
    """
    stored = [n.id for n in nodes if isinstance(n, ast.Name) and not _is_read(n)]
    read = {n.id for n in nodes if isinstance(n, ast.Name) and _is_read(n)}
    terms = _terms(function, nodes)
    for name in _unfilled(scene, nodes):
        for item in [*terms, *_items(scene, nodes)]:
            if item != name:
                yield Candidate(f"{name}.append({item})", 0.5, "loop")
    for name in _begun(nodes):
        if stored.count(name) == 1 and name in read and not name.isupper():
            yield from _changed(name, terms)
    if function is not None:
        for name in parameters(function):
            if name not in stored and "int" in scene.types_of(name, function.body[0]):
                yield from _used_up(name, nodes, terms)
        for attribute, is_list in _attributes(scene, function):
            yield from _gathered(attribute, terms) if is_list else _counted(attribute, terms)


def _is_read(node: ast.Name | ast.Attribute | ast.Subscript) -> bool:
    return isinstance(node.ctx, ast.Load)


def _begun(nodes: list[ast.AST]) -> list[str]:
    """Names that a plain value is given to, or by which a loop goes on; those of loops first."""
    asked = {
        n.id
        for loop in nodes
        if isinstance(loop, ast.While)
        for n in ast.walk(loop.test)
        if isinstance(n, ast.Name)
    }
    found = [
        target.id
        for node in nodes
        if isinstance(node, ast.Assign)
        for target, value in _one_by_one(node)
        if isinstance(target, ast.Name)
        and (isinstance(value, (ast.Constant, ast.UnaryOp)) or target.id in asked)
    ]
    return sorted(found, key=lambda name: name not in asked)[:_MOST]


def _one_by_one(node: ast.Assign) -> list[tuple[ast.expr, ast.expr]]:
    """What is given to what: ``left, right = 0, 9`` are two."""
    target, value = node.targets[0], node.value
    if isinstance(target, ast.Tuple) and isinstance(value, ast.Tuple):
        return list(zip(target.elts, value.elts, strict=False))
    return [(target, value)]


def _unfilled(scene: Scene, nodes: list[ast.AST]) -> list[str]:
    """Lists that begin empty, are read, and that nothing is ever put into."""
    empty = [
        target.id
        for node in nodes
        if isinstance(node, ast.Assign)
        for target, value in _one_by_one(node)
        if isinstance(target, ast.Name) and isinstance(value, ast.List) and not value.elts
    ]
    used = [n for n in nodes if isinstance(n, ast.Name) and n.id in empty and _is_read(n)]
    filled = {n.id for n in used if isinstance(scene.parents.get(id(n)), ast.Attribute)}
    return [name for name in dict.fromkeys(n.id for n in used) if name not in filled]


def _items(scene: Scene, nodes: list[ast.AST]) -> list[str]:
    """Items that are asked for: ``places[0]``."""
    found = (ast.unparse(n) for n in nodes if isinstance(n, ast.Subscript) and _is_read(n))
    return [text for text in dict.fromkeys(found) if len(text) < 20][:_MOST]


def _terms(function: Function | None, nodes: list[ast.AST]) -> list[str]:
    """Names that move in the function: what its loops set, what it sets, what it is given."""
    moving: dict[str, None] = {}
    for node in nodes:
        if isinstance(node, ast.For):
            moving |= dict.fromkeys(n.id for n in ast.walk(node.target) if isinstance(n, ast.Name))
    moving |= dict.fromkeys(
        n.id for n in nodes if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store)
    )
    moving |= dict.fromkeys(parameters(function))
    return list(moving)[: 2 * _MOST]


def _changed(name: str, terms: list[str]) -> Iterator[Candidate]:
    for sign in "+-":
        yield Candidate(f"{name} {sign}= 1", 0.52 if sign == "+" else 0.42)
    for term in [t for t in terms if t != name][:_MOST]:
        yield Candidate(f"{name} = {term}", 0.45)
        yield Candidate(f"{name} = {term} + 1", 0.42)
        yield Candidate(f"{name} = {term} - 1", 0.32)
        yield Candidate(f"{name} += {term}", 0.45)
        yield Candidate(f"{name} += len({term})", 0.32)
        yield Candidate(f"{name} -= {term}", 0.35)


def _counted(attribute: str, terms: list[str]) -> Iterator[Candidate]:
    yield Candidate(f"{attribute} += 1", 0.5, "function")
    for term in terms[:_MOST]:
        yield Candidate(f"{attribute} += {term}", 0.45, "function")
        yield Candidate(f"{attribute} += len({term})", 0.42, "function")
        yield Candidate(f"{attribute} = {term}", 0.4, "function")


def _gathered(attribute: str, terms: list[str]) -> Iterator[Candidate]:
    for term in terms[:_MOST]:
        yield Candidate(f"{attribute}.append({term})", 0.5, "function")


def _used_up(name: str, nodes: list[ast.AST], terms: list[str]) -> Iterator[Candidate]:
    """What is left of a number that a loop goes by: less, or the rest."""
    looped = {
        n.id
        for loop in nodes
        if isinstance(loop, (ast.For, ast.While))
        for n in ast.walk(loop)
        if isinstance(n, ast.Name)
    }
    if name not in looped:
        return
    others = [t for t in terms if t != name and t in looped][:_MOST]
    for number, term in enumerate(others):
        yield Candidate(f"{name} -= {term}", 0.4, "loop")
        yield Candidate(f"{name} %= {term}", 0.3, "loop")
        yield Candidate(f"{name} //= {term}", 0.3, "loop")
        for other in others[number + 1 :]:
            yield Candidate(f"{name} -= {term} * {other}", 0.35, "loop")
    for base in ("10", "2"):
        yield Candidate(f"{name} //= {base}", 0.3, "loop")


def _attributes(scene: Scene, function: Function) -> list[tuple[str, bool]]:
    """Attributes of the function's object that are begun, read, and set nowhere else; whether it is
    a list, then one that nothing is put into."""
    owner = scene.parents.get(id(function))
    if not isinstance(owner, ast.ClassDef) or function.name == "__init__":
        return []
    set_at: dict[str, list[ast.AST]] = {}
    read: set[str] = set()
    changed: set[str] = set()  # by a method of its own
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Attribute):
            if _is_read(node):
                read.add(node.attr)
                if isinstance(scene.parents.get(id(node)), ast.Attribute):
                    changed.add(node.attr)
            else:
                set_at.setdefault(node.attr, []).append(node)
    own = {id(n) for n in ast.walk(owner)}
    return [
        (f"self.{name}", name in lists)
        for name, places in set_at.items()
        if name in read and len(places) == 1 and id(places[0]) in own and _begins(scene, places[0])
        for lists in [_empty_lists(scene, places)]
        if not (name in lists and name in changed)
    ][:_MOST]


def _empty_lists(scene: Scene, places: list[ast.AST]) -> set[str]:
    above = scene.parents.get(id(places[0]))
    is_list = isinstance(above, ast.Assign) and isinstance(above.value, ast.List)
    return {getattr(places[0], "attr", "")} if is_list else set()


def _begins(scene: Scene, target: ast.AST) -> bool:
    above = scene.parents.get(id(target))
    return isinstance(above, ast.Assign) and isinstance(above.value, _BEGUN)
