"""What each statement of a program reads and sets, and what decides whether it runs."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import TypeGuard

from oddsum.languages.outline import Function, Passed, Read, Reads
from oddsum.languages.python.outline import functions
from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source


def reads(source: Source) -> dict[int, Reads]:
    """Every statement of a program by its first line; of several on a line, the first."""
    found: dict[int, Reads] = {}
    defined = {f.line: f for f in functions(source)}
    for statement, header, guards in _statements(tree_of(source) or ast.Module([], []), None):
        line = _first_line(statement)
        if line not in found:
            found[line] = _of(statement, header, guards, line, defined.get(statement.lineno))
        if statement.lineno != line:  # where a call of a decorated function begins
            found.setdefault(statement.lineno, found[line])
    return found


def _first_line(node: ast.stmt) -> int:
    decorators: list[ast.expr] = getattr(node, "decorator_list", [])
    return min([node.lineno, *(d.lineno for d in decorators)])


_LEAVING = (ast.Return, ast.Raise, ast.Break, ast.Continue)
_HEADERS = (ast.If, ast.While, ast.For, ast.With, ast.Try, ast.Match)


_Placed = tuple[ast.stmt, ast.stmt | None, tuple[int, ...]]


def _statements(node: ast.AST, header: ast.stmt | None) -> Iterator[_Placed]:
    """All statements, each with the header it stands under in its own function, and its guards."""
    for _, value in ast.iter_fields(node):
        guards: tuple[int, ...] = ()
        for child in value if isinstance(value, list) else [value]:
            if isinstance(child, ast.stmt):
                yield child, header, guards
                own = isinstance(child, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef))
                under = None if own else child if isinstance(child, _HEADERS) else header
                yield from _statements(child, under)
                if isinstance(child, (ast.If, ast.Try, ast.Match)) and _can_leave(child):
                    guards = (*guards, _first_line(child))
            elif isinstance(child, (ast.ExceptHandler, ast.match_case)):
                yield from _statements(child, header)


def _can_leave(node: ast.stmt) -> bool:
    return any(isinstance(n, _LEAVING) for n in ast.walk(node))


def _of(
    node: ast.stmt,
    header: ast.stmt | None,
    guards: tuple[int, ...],
    line: int,
    defines: Function | None,
) -> Reads:
    expressions = list(_expressions(node))
    return Reads(
        line=line,
        end=node.end_lineno or line,
        kind=type(node).__name__.lower(),
        sets=dict(_sets(node, expressions)),
        header=_first_line(header) if header is not None else 0,
        header_kind=type(header).__name__.lower() if header is not None else "",
        guards=guards,
        called=tuple(_called(expressions)),
        defines=defines,
        leaves=isinstance(node, _LEAVING),
        binds=frozenset(n.id for t, _ in _pairs(node) for n in _named(t)),
        constants=_constants(expressions),
    )


def _constants(expressions: list[ast.expr]) -> tuple[str, ...]:
    """What is written in some expressions as it is, each once."""
    return tuple(
        dict.fromkeys(
            repr(n.value)
            for e in expressions
            for n in ast.walk(e)
            if isinstance(n, ast.Constant) and n.value is not None
        )
    )


def _expressions(node: ast.stmt) -> Iterator[ast.expr]:
    """The expressions that a statement itself works out: of a header, not those of its body."""
    for _, value in ast.iter_fields(node):
        for part in value if isinstance(value, list) else [value]:
            if isinstance(part, ast.expr):
                yield part
            elif isinstance(part, ast.withitem):
                yield part.context_expr
            elif isinstance(part, ast.arguments):
                yield from (*part.defaults, *filter(None, part.kw_defaults))


def _sets(node: ast.stmt, expressions: list[ast.expr]) -> Iterator[tuple[str, tuple[Read, ...]]]:
    everything = tuple(dict.fromkeys(r for e in expressions for r in _read(e)))
    if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
        yield from _defaults(node.args)
        return
    pairs = list(_pairs(node))
    for target, value in pairs:
        inner = tuple(dict.fromkeys([*_read(value), *_read(target)]))
        if isinstance(node, ast.AugAssign):
            inner = tuple(dict.fromkeys([*_target_read(target), *inner]))
        for name in _set_names(target):
            yield name, inner
        if isinstance(target, ast.Attribute) and isinstance(target.value, ast.Name):
            own = (Read(target.value.id, attribute=target.attr),)
            more = own if isinstance(node, ast.AugAssign) else ()
            yield f"{target.value.id}.{target.attr}", tuple(dict.fromkeys([*_read(value), *more]))
    if not pairs:
        for name in _mutated(node):
            yield name, everything
        yield "", everything


def _defaults(args: ast.arguments) -> Iterator[tuple[str, tuple[Read, ...]]]:
    """The parameters that have a default, with what that is worked out from."""
    placed = [*args.posonlyargs, *args.args]
    pairs = [*zip(placed[len(placed) - len(args.defaults) :], args.defaults, strict=True),
             *zip(args.kwonlyargs, args.kw_defaults, strict=True)]  # fmt: skip
    for argument, default in pairs:
        if default is not None:
            yield argument.arg, tuple(_read(default))


def _pairs(node: ast.stmt) -> Iterator[tuple[ast.expr, ast.expr]]:
    """Targets with what they are worked out from; ``a, b = c, d`` is two pairs."""
    if isinstance(node, ast.Assign):
        for target in node.targets:
            yield from _unpacked(target, node.value)
    elif isinstance(node, (ast.AugAssign, ast.AnnAssign)) and node.value is not None:
        yield node.target, node.value
    elif isinstance(node, ast.For):
        yield node.target, node.iter


def _named(target: ast.expr) -> Iterator[ast.Name]:
    """The plain names among the targets of an assignment."""
    if isinstance(target, (ast.Tuple, ast.List)):
        for part in target.elts:
            yield from _named(part)
    elif isinstance(target, ast.Starred):
        yield from _named(target.value)
    elif isinstance(target, ast.Name):
        yield target


def _unpacked(target: ast.expr, value: ast.expr) -> Iterator[tuple[ast.expr, ast.expr]]:
    parts: list[list[ast.expr]] = [
        n.elts for n in (target, value) if isinstance(n, (ast.Tuple, ast.List))
    ]
    if len(parts) == 2 and len(parts[0]) == len(parts[1]):
        yield from zip(*parts, strict=True)
    else:
        yield target, value


def _set_names(target: ast.expr) -> Iterator[str]:
    """The names that assigning to a target changes: of ``xs[i]`` and ``ferry.name``, the root."""
    if isinstance(target, (ast.Tuple, ast.List)):
        for part in target.elts:
            yield from _set_names(part)
        return
    while isinstance(target, (ast.Subscript, ast.Attribute, ast.Starred)):
        target = target.value
    if isinstance(target, ast.Name):
        yield target.id


def _target_read(target: ast.expr) -> tuple[Read, ...]:
    if isinstance(target, ast.Subscript) and isinstance(target.value, ast.Name):
        return (Read(target.value.id, ast.unparse(target.slice)),)
    return tuple(Read(name) for name in _set_names(target))


def _mutated(node: ast.stmt) -> Iterator[str]:
    """The object whose method an expression statement calls: ``queue.append(car)``."""
    if isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
        called = node.value.func
        if isinstance(called, ast.Attribute):
            yield from _set_names(called.value)


def _read(node: ast.expr) -> Iterator[Read]:
    """Names and items read in an expression; those that only exist within it are left out."""
    if _is_item(node):
        yield Read(node.value.id, ast.unparse(node.slice))
        yield from _read(node.slice)
        return
    if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name):
        read = isinstance(node.ctx, ast.Load)
        yield Read(node.value.id, attribute=node.attr if read else "")
        return
    if isinstance(node, ast.Name):
        if isinstance(node.ctx, ast.Load):
            yield Read(node.id)
        return
    inner = _names_within(node)
    for part in _parts(node):
        yield from (r for r in _read(part) if r.name not in inner)


def _names_within(node: ast.expr) -> set[str]:
    """The names that a lambda or a comprehension has for itself."""
    if isinstance(node, ast.Lambda):
        return {n.arg for n in ast.walk(node.args) if isinstance(n, ast.arg)}
    targets = [g.target for g in getattr(node, "generators", ())]
    return {n.id for t in targets for n in ast.walk(t) if isinstance(n, ast.Name)}


def _parts(node: ast.expr) -> Iterator[ast.expr]:
    """The expressions that one is made of."""
    for _, value in ast.iter_fields(node):
        for part in value if isinstance(value, list) else [value]:
            if isinstance(part, ast.comprehension):
                yield from (part.iter, *part.ifs)
            elif isinstance(part, ast.keyword):
                yield part.value
            elif isinstance(part, ast.arguments):
                yield from (*part.defaults, *filter(None, part.kw_defaults))
            elif isinstance(part, ast.expr):
                yield part


def _is_item(node: ast.expr) -> TypeGuard[_Item]:
    return (
        isinstance(node, ast.Subscript)
        and isinstance(node.ctx, ast.Load)
        and isinstance(node.value, ast.Name)
        and not isinstance(node.slice, ast.Slice)
    )


class _Item(ast.Subscript):
    """An item of something with a name."""

    value: ast.Name


def _called(expressions: list[ast.expr]) -> Iterator[Passed]:
    for expression in expressions:
        for node in ast.walk(expression):
            if not isinstance(node, ast.Call):
                continue
            name = getattr(node.func, "id", None) or getattr(node.func, "attr", None)
            if name is not None:
                on = tuple(_read(node.func.value)) if isinstance(node.func, ast.Attribute) else None
                spread = any(isinstance(a, ast.Starred) for a in node.args)
                yield Passed(
                    str(name),
                    on,
                    tuple(tuple(_read(a)) for a in node.args),
                    {k.arg or "**": tuple(_read(k.value)) for k in node.keywords},
                    spread or any(k.arg is None for k in node.keywords),
                    tuple(_constants([a]) for a in node.args),
                    {k.arg or "**": _constants([k.value]) for k in node.keywords},
                )
