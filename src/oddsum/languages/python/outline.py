"""What stands where in a program: its functions, loops, and the modules it imports."""

from __future__ import annotations

import ast
from bisect import bisect
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path

from oddsum.languages.outline import HOLE, Function
from oddsum.languages.python.parsing import tree_of
from oddsum.source.program import Source, read_source


@lru_cache(maxsize=16)  # asked of one program thousands of times, once a trial edit
def functions(source: Source) -> tuple[Function, ...]:
    """Every function and method, outermost first; names as ``Class.method`` and ``outer.inner``."""
    return tuple(_functions_in(tree_of(source) or ast.Module([], []), ""))


def _functions_in(node: ast.AST, prefix: str) -> Iterator[Function]:
    for child in ast.iter_child_nodes(node):
        if isinstance(child, (ast.FunctionDef, ast.AsyncFunctionDef)):
            name = prefix + child.name
            yield function_of(child, name, node.name if isinstance(node, ast.ClassDef) else "")
            yield from _functions_in(child, name + ".")
        elif isinstance(child, ast.ClassDef):
            yield from _functions_in(child, prefix + child.name + ".")
        else:
            yield from _functions_in(child, prefix)


def function_of(node: ast.FunctionDef | ast.AsyncFunctionDef, name: str, kind: str) -> Function:
    """A definition as a Function; ``kind`` is the class it stands in, blank for none."""
    every = [*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs]
    static = any(isinstance(d, ast.Name) and d.id == "staticmethod" for d in node.decorator_list)
    return Function(
        node.lineno,
        node.end_lineno or node.lineno,
        name,
        tuple(a.arg for a in every),
        called=(node.name, kind) if kind and node.name in ("__init__", "__new__") else (node.name,),
        bound=bool(kind) and not static and bool(every),
        rest=node.args.vararg.arg if node.args.vararg else "",
        more=node.args.kwarg.arg if node.args.kwarg else "",
    )


@lru_cache(maxsize=4096)  # each edit is told with the function it stands in
def function_at(source: Source, line: int) -> str:
    """Name of the innermost function that holds the line; blank in the module."""
    around = [f for f in functions(source) if f.line <= line <= f.end]
    return max(around, key=lambda f: f.line).name if around else ""


def asks_for_input(source: Source) -> bool:
    """Whether the program calls ``input`` anywhere."""
    return any(
        isinstance(node, ast.Call) and getattr(node.func, "id", "") == "input"
        for node in ast.walk(tree_of(source) or ast.Module([], []))
    )


def prompts(source: Source) -> tuple[str, ...]:
    """What the program asks with: texts that ``input`` is given, each once, values as a HOLE."""
    nodes = ast.walk(tree_of(source) or ast.Module([], []))
    calls = [n for n in nodes if isinstance(n, ast.Call) and getattr(n.func, "id", "") == "input"]
    calls.sort(key=lambda n: (n.lineno, n.col_offset))
    asked = [_asked(n.args[0]).rpartition("\n")[2] for n in calls if n.args]
    return tuple(dict.fromkeys(text for text in asked if text.strip(f" {HOLE}")))


def _asked(node: ast.expr) -> str:
    if isinstance(node, ast.Constant):
        return str(node.value)
    if isinstance(node, ast.JoinedStr):
        return "".join(_asked(part) for part in node.values)
    if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add):
        return _asked(node.left) + _asked(node.right)
    return HOLE


def own_files(program: Path) -> tuple[Path, ...]:
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


def _imported(path: Path) -> tuple[str, ...]:
    """Names of the modules that a file imports; none where it cannot be read: a run will say so."""
    try:
        return _imports_in(path.read_bytes(), path)
    except Exception:
        return ()


@lru_cache(maxsize=64)  # asked several times a check, and slow for a program of many lines
def _imports_in(data: bytes, path: Path) -> tuple[str, ...]:
    return tuple(_names(read_source(path))) if b"import" in data else ()


def _names(source: Source) -> Iterator[str]:
    tree = tree_of(source)
    for node in ast.walk(tree or ast.Module([], [])):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = node.module or ""
            if base:
                yield base
            yield from (f"{base}.{a.name}" if base else a.name for a in node.names)


def statement_at(source: Source, line: int) -> int:
    """First line of the innermost statement that holds a line; the line itself outside of any.

    A line between the statements of a block (``else:``, a comment) belongs to the one that follows.
    """
    return _innermost(source).get(line, line)


@lru_cache(maxsize=64)
def _innermost(source: Source) -> dict[int, int]:
    """For every line of a statement, where the innermost one that holds it begins."""
    tree = tree_of(source) or ast.Module([], [])
    nodes = [node for node in ast.walk(tree) if isinstance(node, ast.stmt)]
    found: dict[int, int] = {}
    for node in nodes:
        for line in range(node.lineno, (node.end_lineno or node.lineno) + 1):
            found[line] = max(found.get(line, 0), node.lineno)
    begins = sorted(node.lineno for node in nodes)
    for node in nodes:
        for line in range(_header_end(node) + 1, (node.end_lineno or 0) + 1):
            if found[line] == node.lineno and hasattr(node, "body"):
                found[line] = begins[bisect(begins, line)]
    return found


def _header_end(node: ast.stmt) -> int:
    """The last line of a statement that is ahead of its block."""
    ahead = (c for c in ast.iter_child_nodes(node) if isinstance(c, (ast.expr, ast.arguments)))
    inner = (getattr(n, "end_lineno", None) for c in ahead for n in ast.walk(c))
    return max([node.lineno, *(int(line) for line in inner if line)])


UNVISITED = (ast.Global, ast.Nonlocal)  # they say which variable a name is for, and do nothing
_LEFT = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.Import, ast.ImportFrom,
         *UNVISITED)  # fmt: skip


def statements(source: Source) -> tuple[int, ...]:
    """First lines of the statements; definitions, imports, and what only says which variable a
    name is for are left out."""
    return tuple(
        node.lineno
        for node in ast.walk(tree_of(source) or ast.Module([], []))
        if isinstance(node, ast.stmt) and not isinstance(node, _LEFT)
    )


def example_of(function: Function, parameter: str, source: Source) -> str:
    """A value of the sort that the function's text treats the parameter as, as it is written."""
    for node in ast.walk(tree_of(source) or ast.Module([], [])):
        if not function.line <= getattr(node, "lineno", 0) <= function.end:
            continue
        if isinstance(node, ast.For) and getattr(node.iter, "id", "") == parameter:
            return "[3, 1, 2]"
        if isinstance(node, ast.Subscript) and getattr(node.value, "id", "") == parameter:
            return "[3, 1, 2]"
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "len" and node.args:
            if getattr(node.args[0], "id", "") == parameter:
                return "[3, 1, 2]"
        if isinstance(node, ast.Attribute) and getattr(node.value, "id", "") == parameter:
            return "'pier'"
    return "10"
