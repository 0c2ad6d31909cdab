"""What could be missing in a function: lines made of what it already has."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable, Iterator

from oddsum.languages.python.edits.blocks import is_text, unit
from oddsum.languages.python.edits.candidate import Candidate
from oddsum.languages.python.edits.place import text_of
from oddsum.languages.python.edits.put_away import put_away
from oddsum.languages.python.edits.scene import Function, Scene, parameters
from oddsum.languages.python.edits.unmoved import unmoved

_MOST_OWN = 4  # names of a function that may stand for another's
_MOST = 120  # statements that could be missing, a function
_COPIED = (ast.Assign, ast.AugAssign, ast.Expr)


def candidates_for(scene: Scene, function: Function | None) -> list[Candidate]:
    """Each line once, with the best that was said of it, the likelier first; not too many."""
    found: dict[str, Candidate] = {}
    for one in _candidates(scene, function):
        if one.text not in found or found[one.text].likely < one.likely:
            found[one.text] = one
    return sorted(found.values(), key=lambda c: -c.likely)[:_MOST]


def _own_nodes(scene: Scene, function: Function | None) -> list[ast.AST]:
    return [
        n
        for n in ast.walk(function or scene.tree)
        if isinstance(n, (ast.stmt, ast.expr)) and scene.function_of(n) is function
    ]


def _candidates(scene: Scene, function: Function | None) -> Iterator[Candidate]:
    """What could be missing in a function, the likelier first."""
    nodes = _own_nodes(scene, function)
    if not nodes:
        return
    here = function.body[-1] if function is not None else scene.tree.body[-1]
    yield from _unset(scene, function, nodes)
    yield from _counted(nodes)
    yield from unmoved(scene, function, nodes)
    yield from put_away(scene, nodes)
    yield from _copies(scene, nodes)
    yield from _like_neighbours(scene, nodes)
    yield from _undone_elsewhere(scene, function, nodes)
    yield from _asked_whether_in(scene, nodes)
    yield from _of_module(scene, function)
    yield from _worked_out(scene, nodes, here)
    yield from _filled(scene, nodes, here)
    yield from _handed_on(nodes, function)
    yield from _taken_over(scene, nodes)
    yield from _added(scene, nodes)
    yield from _ways_out(scene, function)
    yield from _calls(scene, nodes, here)
    yield from _calls_by_name(scene, nodes, function)


def _unset(scene: Scene, function: Function | None, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """A beginning for each variable that is added to and never begun."""
    known = begun(nodes) | set(scene.names_at(nodes[0]) if function is None else ())
    if function is not None:
        known |= {a.arg for a in function.args.args} | _said_global(nodes)
    for node in nodes:
        added = isinstance(node, ast.AugAssign) and isinstance(node.target, ast.Name)
        used = isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)
        name = node.target.id if added else node.id if used else ""  # type: ignore[attr-defined]
        if not name or name in begun(nodes) or name not in scene.own_names(function):
            continue
        if any(isinstance(n, ast.For) and name in _targets(n) for n in nodes) or name in known:
            continue
        for value in ("0", "1", '""', "[]"):
            yield Candidate(f"{name} = {value}", 0.8)


def _targets(node: ast.For) -> set[str]:
    return {n.id for n in ast.walk(node.target) if isinstance(n, ast.Name)}


def _said_global(nodes: list[ast.AST]) -> set[str]:
    return {name for n in nodes if isinstance(n, ast.Global) for name in n.names}


def _of_module(scene: Scene, function: Function | None) -> Iterator[Candidate]:
    """What the module begins its variables with, for a function that says ``global``."""
    if function is None:
        return
    names = _said_global(list(ast.walk(function)))
    for node in scene.tree.body:
        if isinstance(node, ast.Assign) and any(
            isinstance(t, ast.Name) and t.id in names for t in node.targets
        ):
            yield Candidate(text_of(scene, node), 0.45)


def _worked_out(scene: Scene, nodes: list[ast.AST], here: ast.stmt) -> Iterator[Candidate]:
    """``name = f(name)`` with a function of the program; ``table[key] = value``."""
    names = scene.own_names(scene.function_of(here)) or scene.names_at(here)
    mine = scene.function_of(here)
    for title, function in scene.functions.items():
        if len(function.args.args) == 1 and function is not mine and not title.startswith("__"):
            for name in [n for n in names if n != "self" and not n.isupper()][:5]:
                yield Candidate(f"{name} = {title}({name})", 0.35)
    keyed = dict.fromkeys(
        n.value.id for n in nodes if isinstance(n, ast.Subscript) and isinstance(n.value, ast.Name)
    )
    keyed |= dict.fromkeys(n for n in scene.names_of("dict", here))
    moving = list(dict.fromkeys(_moving(nodes)))[:6]
    keys = dict.fromkeys(
        n.slice.id for n in nodes if isinstance(n, ast.Subscript) and isinstance(n.slice, ast.Name)
    )
    for table in list(keyed)[:5]:
        for key in [*keys, *(moving if table in scene.names_of("dict", here) else ())][:4]:
            for value in [*moving, "1", "[]"]:
                if len({table, key, value}) == 3:
                    likely = 0.3 if value in moving else 0.25
                    yield Candidate(f"{table}[{key}] = {value}", likely)


def _counted(nodes: list[ast.AST]) -> Iterator[Candidate]:
    """``n += 1`` for each variable that begins with a number."""
    for node in nodes:
        if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
            value = getattr(node.value, "value", None)
            if type(value) in (int, float):
                yield Candidate(f"{node.targets[0].id} += 1", 0.48, "loop")
                yield Candidate(f"{node.targets[0].id} -= 1", 0.35, "loop")


def _copies(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """Lines that stand elsewhere in the function: a reset, a second reading of input."""
    seen = set()
    for node in nodes:
        if isinstance(node, _COPIED) and not (isinstance(node, ast.Expr) and is_text(node)):
            text = text_of(scene, node)
            if "\n" not in text and text not in seen:
                seen.add(text)
                start = isinstance(node, ast.Assign) and isinstance(
                    node.value, (ast.Constant, ast.List, ast.Dict)
                )
                yield Candidate(text, 0.5 if start else 0.35)


def _like_neighbours(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """Lines that do with one variable what a line does with another of its kind."""
    gone_over = {name for n in nodes if isinstance(n, ast.For) for name in _targets(n)}
    for node in nodes:
        if not isinstance(node, (ast.AugAssign, ast.Expr)) or is_text(node):
            continue
        text, start = text_of(scene, node), scene.place(node)[0]
        if "\n" in text:
            continue
        yield from _all_of_it(scene, node, text)
        for name in [n for n in ast.walk(node) if isinstance(n, ast.Name)]:
            at, end = (place - start for place in scene.place(name))
            above = scene.parents.get(id(name))
            if text[at:end] == name.id and not (isinstance(above, ast.Call) and above.func is name):
                for other in scene.alike(name.id, node)[:6]:
                    counted = isinstance(node, ast.AugAssign) and name is node.target
                    if counted and other in gone_over:
                        continue  # the next round gives it its value
                    if not _is_doubled(node, name, other):
                        yield Candidate(text[:at] + other + text[end:], 0.4)


_OPPOSITE: dict[type, str] = {ast.Add: "-=", ast.Sub: "+="}


def _undone_elsewhere(
    scene: Scene, function: Function | None, nodes: list[ast.AST]
) -> Iterator[Candidate]:
    """``book.copies -= 1``, where another function adds to it: what one takes, another gives back.

    ``nodes``: all of the function that is its own.
    """
    names = {n.id for n in nodes if isinstance(n, ast.Name)} | set(parameters(function))
    for node in scene.statements(ast.AugAssign):
        if not isinstance(node, ast.AugAssign) or scene.function_of(node) is function:
            continue
        sign = _OPPOSITE.get(type(node.op))
        read = {n.id for n in ast.walk(node) if isinstance(n, ast.Name)}
        if sign is None or isinstance(node.target, ast.Name):
            continue
        if not read <= names:
            yield from _undone_by_another_name(scene, function, node, sign)
            continue
        target, value = text_of(scene, node.target), text_of(scene, node.value)
        yield Candidate(f"{target} {sign} {value}", 0.45, "function")
        yield Candidate(text_of(scene, node), 0.4, "function")


def _undone_by_another_name(
    scene: Scene, function: Function | None, node: ast.AugAssign, sign: str
) -> Iterator[Candidate]:
    """``self.level -= given``, where another method says ``self.level += taken``."""
    names = scene.own_names(function)
    base = {n.id for n in ast.walk(node.target) if isinstance(n, ast.Name)}
    if isinstance(node.value, ast.Name) and base <= {*names, *parameters(function)}:
        for name in [n for n in names if n not in base][:_MOST_OWN]:
            yield Candidate(f"{text_of(scene, node.target)} {sign} {name}", 0.4, "function")


def _asked_whether_in(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """Taking out what was asked for with ``in``, or putting in what was not there."""
    for node in nodes:
        if isinstance(node, ast.Compare) and isinstance(node.ops[0], (ast.In, ast.NotIn)):
            held, item = node.comparators[0], text_of(scene, node.left)
            within = text_of(scene, held)
            if isinstance(held, ast.Call) and getattr(held.func, "attr", "") == "get" and held.args:
                assert isinstance(held.func, ast.Attribute)
                within = f"{text_of(scene, held.func.value)}[{text_of(scene, held.args[0])}]"
            if "(" not in within and "\n" not in within:
                yield Candidate(f"{within}.remove({item})", 0.4, "function")
                yield Candidate(f"{within}.append({item})", 0.38, "function")


def _all_of_it(scene: Scene, node: ast.AugAssign | ast.Expr, text: str) -> Iterator[Candidate]:
    """``day.miles += miles`` with another name in both places."""
    for name in dict.fromkeys(n.id for n in ast.walk(node) if isinstance(n, ast.Name)):
        if len(re.findall(rf"\b{re.escape(name)}\b", text)) > 1:
            for other in scene.alike(name, node)[:6]:
                yield Candidate(re.sub(rf"\b{re.escape(name)}\b", other, text), 0.45)


def _is_doubled(node: ast.AugAssign | ast.Expr, name: ast.Name, other: str) -> bool:
    """Whether it would add a name to itself: round for round that is twice as much."""
    if not isinstance(node, ast.AugAssign) or not isinstance(node.target, ast.Name):
        return False
    read = {n.id for n in ast.walk(node.value) if isinstance(n, ast.Name)}
    if name is node.target:
        return other in read
    return other == node.target.id


def _filled(scene: Scene, nodes: list[ast.AST], here: ast.stmt) -> Iterator[Candidate]:
    """Items put into lists or taken out of them, amounts added to totals, names tidied."""
    moving = list(dict.fromkeys(_moving(nodes)))
    lists = [
        n for n in scene.own_names(scene.function_of(here)) if "list" in scene.types_of(n, here)
    ]
    given = parameters(scene.function_of(here))  # these are for whoever gave them to order
    for xs in [n for n in lists if n not in given][:3]:
        yield Candidate(f"{xs}.sort()", 0.3)
    lists += _list_attributes(nodes)
    for xs in lists[:5]:
        for item in moving[:5]:
            # A list in a list that was given doubles what is in it, round for round.
            if item != xs and not (xs in given and "list" in scene.types_of(item, here)):
                yield Candidate(f"{xs}.append({item})", 0.38, "loop")
                yield Candidate(f"{xs}.remove({item})", 0.25, "loop")
    sets = [n for n in scene.own_names(scene.function_of(here)) if "set" in scene.types_of(n, here)]
    for some in sets[:3]:
        for item in moving[:5]:
            if item != some:
                yield Candidate(f"{some}.add({item})", 0.4)
    numbers = scene.names_of("number", here)
    for total in [n for n in numbers if n in begun(nodes)][:4]:
        for amount in [m for m in moving if m in numbers and m != total][:4]:
            yield Candidate(f"{total} += {amount}", 0.38, "loop")
            yield Candidate(f"{total} -= {amount}", 0.35, "loop")
    for text in scene.names_of("str", here)[:4]:
        for method in ("strip", "lower"):
            yield Candidate(f"{text} = {text}.{method}()", 0.3)


def _handed_on(nodes: list[ast.AST], function: Function | None) -> Iterator[Candidate]:
    """What a method was given, put into one of the object's lists or taken out of it."""
    for item in parameters(function)[:2]:
        for xs in _list_attributes(nodes):
            yield Candidate(f"{xs}.append({item})", 0.3, "function")
            yield Candidate(f"{xs}.remove({item})", 0.3, "function")


def _list_attributes(nodes: list[ast.AST]) -> list[str]:
    """``self.names`` and the like, as far as something is put in, taken out or looked for."""
    return list(
        dict.fromkeys(
            ast.unparse(n)
            for n in nodes
            if isinstance(n, ast.Attribute)
            and isinstance(n.ctx, ast.Load)
            and isinstance(n.value, ast.Name)
            and n.value.id == "self"
        )
    )[:3]


def _moving(nodes: list[ast.AST]) -> Iterator[str]:
    """Names that loops set, then what is assigned in loops, then all that is assigned."""
    for node in nodes:
        if isinstance(node, ast.For):
            yield from (n.id for n in ast.walk(node.target) if isinstance(n, ast.Name))
    for node in nodes:
        if isinstance(node, (ast.For, ast.While)):
            yield from (
                n.id
                for s in node.body
                for n in ast.walk(s)
                if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store)
            )
    for node in nodes:
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            yield node.id


def begun(nodes: Iterable[ast.AST]) -> set[str]:
    """Names that some of these statements give a value."""
    return {
        t.id
        for n in nodes
        if isinstance(n, ast.Assign)
        for t in n.targets
        if isinstance(t, ast.Name)
    }


def _taken_over(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """``best = item``: a variable given what a loop is at; ``seen[key] = value`` alike."""
    targets = list(
        dict.fromkeys(
            text_of(scene, t)
            for n in nodes
            if isinstance(n, ast.Assign)
            for t in n.targets
            if isinstance(t, (ast.Name, ast.Attribute))
        )
    )
    sources = list(dict.fromkeys([*_moving(nodes), *_items(nodes)]))
    for target in [t for t in targets if not t.isupper()][:5]:
        for source in sources[:6]:
            if source != target:
                yield Candidate(f"{target} = {source}", 0.3)
        yield Candidate(f"{target} += 1", 0.25, "loop")


def _added(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """``self.total += thing.amount()``: an attribute, and what a method of the program gives."""
    attributes = list(
        dict.fromkeys(
            f"self.{n.attr}"
            for n in ast.walk(scene.tree)
            if isinstance(n, ast.Attribute)
            and isinstance(n.ctx, ast.Store)
            and isinstance(n.value, ast.Name)
            and n.value.id == "self"
        )
    )
    givers = dict.fromkeys(
        f"{n.func.value.id}.{name}()"
        for n in nodes
        if isinstance(n, ast.Call)
        and isinstance(n.func, ast.Attribute)
        and isinstance(n.func.value, ast.Name)
        for name, f in scene.functions.items()
        if n.func.attr in scene.functions and [a.arg for a in f.args.args] == ["self"]
    )
    if any(isinstance(n, ast.Name) and n.id == "self" for n in nodes):
        for attribute in attributes[:8]:
            for giver in list(givers)[:6]:
                if not giver.startswith("self."):
                    yield Candidate(f"{attribute} += {giver}", 0.25)


def _items(nodes: list[ast.AST]) -> Iterator[str]:
    """``xs[i]`` for each list and index that stand together somewhere, also in other pairs."""
    return (f"{base}[{key}]" for base, key in bases_and_keys(nodes))


def bases_and_keys(nodes: list[ast.AST]) -> Iterator[tuple[str, str]]:
    """Each name of something that has items, with each name that is an index somewhere.

    By name and not by place: inside of f-strings places are not always right before Python 3.12.
    """
    inside = [n for n in nodes if isinstance(n, ast.Subscript)]
    bases = dict.fromkeys(n.value.id for n in inside if isinstance(n.value, ast.Name))
    keys = dict.fromkeys(n.slice.id for n in inside if isinstance(n.slice, ast.Name))
    return ((base, key) for base in bases for key in keys)


def _ways_out(scene: Scene, function: Function | None) -> Iterator[Candidate]:
    """A ``return`` that is missing, a ``break``, a question ahead of everything."""
    for argument in parameters(function):
        for result in ("0", "None"):
            yield Candidate(f"if {argument} == 0:\n{unit(scene)}return {result}", 0.3, "start")
    yield Candidate("break", 0.35, "loop")
    yield Candidate("continue", 0.25, "loop")
    if function is None:
        return
    names = scene.own_names(function)
    for name in names[:6]:
        yield Candidate(f"return {name}", 0.5, "end")
    for value in ("True", "False"):
        yield Candidate(f"return {value}", 0.4, "function")
    step = unit(scene)
    for argument in parameters(function)[:3]:
        for result in ("0", "None", "[]", '""'):
            yield Candidate(f"if not {argument}:\n{step}return {result}", 0.3, "start")


def _calls(scene: Scene, nodes: list[ast.AST], here: ast.stmt) -> Iterator[Candidate]:
    """A call of one of the program's own functions, or of a method of the same object."""
    names = list(dict.fromkeys([*_moving(nodes), *scene.own_names(scene.function_of(here))]))
    for name, function in scene.functions.items():
        wanted = [a.arg for a in function.args.args]
        method = wanted[:1] == ["self"]
        if name.startswith("__") or len(wanted) - method > 1 or (method and "self" not in names):
            continue
        base = f"self.{name}" if method else name
        if len(wanted) - method == 0:
            yield Candidate(f"{base}()", 0.25)
        else:
            for given in [n for n in names if n != "self"][:5]:
                yield Candidate(f"{base}({given})", 0.3)


def _calls_by_name(
    scene: Scene, nodes: list[ast.AST], function: Function | None
) -> Iterator[Candidate]:
    """A call of a function that is given several things: what has a parameter's name goes there,
    and for one that nothing has the name of, each other parameter in turn, one that is never used
    first of all.
    """
    mine = parameters(function)
    read = {n.id for n in nodes if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Load)}
    for title, other in scene.functions.items():
        wanted = [a.arg for a in other.args.args]
        unnamed = [name for name in wanted if name not in mine]
        if other is function or len(wanted) < 2 or wanted[0] == "self" or len(unnamed) > 1:
            continue
        for instead in [n for n in mine if n not in wanted] if unnamed else [""]:
            given = ", ".join(instead if name in unnamed else name for name in wanted)
            idle = instead and instead not in read
            yield Candidate(f"{title}({given})", 0.45 if idle else 0.25, "function")
