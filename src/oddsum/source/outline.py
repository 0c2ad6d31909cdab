"""What stands where in a program: its functions, loops, and the modules it imports."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from oddsum.source.program import Source, read_source


@dataclass(frozen=True)
class Loop:
    """A loop: its header's line, its last line, and the header as written.

    ``asked`` are the names in its condition, ``names`` all that stand in it.
    """

    line: int
    end: int
    kind: str
    header: str
    asked: tuple[str, ...] = ()
    names: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Function:
    """A function: its ``def`` line, last line, name as the trace gives it, and parameters."""

    line: int
    end: int
    name: str
    parameters: tuple[str, ...]


def loops(source: Source) -> tuple[Loop, ...]:
    """Every loop of a program, in the order of its lines."""
    found = [
        Loop(
            node.lineno,
            node.end_lineno or node.lineno,
            "while" if isinstance(node, ast.While) else "for",
            source.lines[node.lineno - 1].strip(),
            tuple(
                dict.fromkeys(_names_in(node.test if isinstance(node, ast.While) else node.iter))
            ),
            frozenset(_names_in(node)),
        )
        for node in ast.walk(source.tree or ast.Module([], []))
        if isinstance(node, (ast.For, ast.While, ast.AsyncFor))
    ]
    return tuple(sorted(found, key=lambda loop: loop.line))


def _names_in(node: ast.AST) -> Iterator[str]:
    return (n.id for n in ast.walk(node) if isinstance(n, ast.Name))


def loop_around(source: Source, lines: list[int]) -> Loop | None:
    """The smallest loop that holds all these lines."""
    around = [x for x in loops(source) if lines and x.line <= min(lines) and max(lines) <= x.end]
    return min(around, key=lambda loop: loop.end - loop.line, default=None)


@lru_cache(maxsize=16)  # asked of one program thousands of times, once a trial edit
def functions(source: Source) -> tuple[Function, ...]:
    """Every function and method, outermost first; names as ``Class.method`` and ``outer.inner``."""
    return tuple(_functions_in(source.tree or ast.Module([], []), ""))


def _functions_in(node: ast.AST, prefix: str) -> Iterator[Function]:
    for child in ast.iter_child_nodes(node):
        if isinstance(child, (ast.FunctionDef, ast.AsyncFunctionDef)):
            every = [*child.args.posonlyargs, *child.args.args, *child.args.kwonlyargs]
            name = prefix + child.name
            yield Function(
                child.lineno, child.end_lineno or child.lineno, name, tuple(a.arg for a in every)
            )
            yield from _functions_in(child, name + ".")
        elif isinstance(child, ast.ClassDef):
            yield from _functions_in(child, prefix + child.name + ".")
        else:
            yield from _functions_in(child, prefix)


def function_at(source: Source, line: int) -> str:
    """Name of the innermost function that holds the line; blank in the module."""
    around = [f for f in functions(source) if f.line <= line <= f.end]
    return max(around, key=lambda f: f.line).name if around else ""


def plain_functions(source: Source) -> tuple[Function, ...]:
    """Functions of the module that one can call: no methods, none inside others."""
    return tuple(f for f in functions(source) if "." not in f.name)


def asks_for_input(source: Source) -> bool:
    """Whether the program calls ``input`` anywhere."""
    return any(
        isinstance(node, ast.Call) and getattr(node.func, "id", "") == "input"
        for node in ast.walk(source.tree or ast.Module([], []))
    )


def own_modules(program: Path) -> tuple[Path, ...]:
    """The learner's modules that the program imports, directly or through others, with itself.

    Paths are absolute; the program comes first.
    """
    folder = program.resolve().parent
    found, todo = [program.resolve()], [program.resolve()]
    while todo:
        for name in _imported(todo.pop()):
            for path in _candidates(folder, name):
                if path.is_file() and path not in found:
                    found.append(path)
                    todo.append(path)
    return tuple(found)


def _candidates(folder: Path, name: str) -> Iterator[Path]:
    stem = folder.joinpath(*name.split("."))
    yield stem.with_suffix(".py")
    yield stem / "__init__.py"
    if "." in name:
        yield from _candidates(folder, name.rpartition(".")[0])


def _imported(path: Path) -> Iterator[str]:
    try:
        tree = read_source(path).tree
    except Exception:
        return  # unreadable: the run itself will say so
    for node in ast.walk(tree or ast.Module([], [])):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = node.module or ""
            if base:
                yield base
            yield from (f"{base}.{a.name}" if base else a.name for a in node.names)


@lru_cache(maxsize=4096)
def statement_at(source: Source, line: int) -> int:
    """First line of the innermost statement that holds a line; the line itself outside of any."""
    around = [
        node.lineno
        for node in ast.walk(source.tree or ast.Module([], []))
        if isinstance(node, ast.stmt) and node.lineno <= line <= (node.end_lineno or node.lineno)
    ]
    return max(around, default=line)
