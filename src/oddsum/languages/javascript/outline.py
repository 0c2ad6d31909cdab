"""What stands where in a program: its functions, statements, and the files it takes in."""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Iterator
from functools import lru_cache
from pathlib import Path

from tree_sitter import Node

from oddsum.languages.javascript.parsing import (
    CLASSES,
    FUNCTIONS,
    end_of,
    header_of,
    is_statement,
    line_of,
    tree_of,
    walk,
)
from oddsum.languages.outline import HOLE, Function
from oddsum.source.program import Source, read_source

Text = Callable[[Node | None], str]  # of a node
ASKING = frozenset({"prompt", "confirm"})
_READERS = re.compile(r"\bprompt\s*\(|\bconfirm\s*\(|\breadline\b|process\s*\.\s*stdin|/dev/stdin|"
                      r"readFileSync\s*\(\s*0\b")  # fmt: skip
_LEFT = frozenset({"function_declaration", "generator_function_declaration", "import_statement",
                   "statement_block", "empty_statement", "class_declaration"})  # fmt: skip
ENDINGS = ("", ".js", ".mjs", ".cjs", "/index.js")


@lru_cache(maxsize=16)
def functions(source: Source) -> tuple[Function, ...]:
    """Every function and method that has a name, outermost first; ``Boat.board``, ``outer.inner``.

    One without a name is called by what it is given to: ``twice`` in ``const twice = n => 2 * n``,
    ``stops.map`` in ``stops.map(s => ...)``.
    """
    return tuple(function for _, function in named_functions(source))


@lru_cache(maxsize=16)
def named_functions(source: Source) -> tuple[tuple[int, Function], ...]:
    """The same with where each begins in the text, in characters from 0."""
    tree = tree_of(source)
    found: list[tuple[int, Function]] = []

    def visit(node: Node, prefix: str, kind: str) -> None:
        for child in node.named_children:
            if child.type in FUNCTIONS:
                name = name_of(child, tree.of)
                found.append(
                    (tree.start(child), _function(child, prefix + name, name, kind, tree.of))
                )
                visit(child, f"{prefix}{name}.", "")
            elif child.type in CLASSES:
                name = (
                    tree.of(child.child_by_field_name("name"))
                    or _given_to(child, tree.of)
                    or "class"
                )
                visit(child, f"{prefix}{name}.", name)
            else:
                visit(child, prefix, kind if child.type == "class_body" else "")

    visit(tree.root, "", "")
    return tuple(found)


def name_of(node: Node, of: Text) -> str:
    """What a function is called: by its own name, or by what it is given to."""
    return of(node.child_by_field_name("name")) or _given_to(node, of) or "function"


def _given_to(node: Node, of: Text) -> str:
    """What a function without a name is called by: the variable, the key, the call it goes to."""
    above = node.parent
    while above is not None and above.type in ("parenthesized_expression", "await_expression"):
        above = above.parent
    if above is None:
        return ""
    if above.type == "variable_declarator":
        return str(of(above.child_by_field_name("name")))
    if above.type in ("assignment_expression", "field_definition"):
        place = above.child_by_field_name("left") or above.child_by_field_name("property")
        return str(of(place)).rpartition(".")[2]
    if above.type == "pair":
        return str(of(above.child_by_field_name("key"))).strip("'\"")
    if above.type == "arguments" and above.parent is not None:
        called = above.parent.child_by_field_name("function") or above.parent.child_by_field_name(
            "constructor"
        )
        text = re.sub(r"\s+", "", str(of(called)))
        return text if len(text) <= 30 else text.rpartition(".")[2][:30]
    return ""


def _function(node: Node, name: str, short: str, kind: str, of: Text) -> Function:
    single = node.child_by_field_name("parameter")
    listed = node.child_by_field_name("parameters")
    nodes = [single] if single is not None else listed.named_children if listed is not None else []
    nodes = [n for n in nodes if n.type != "comment"]
    rest = next((n for n in nodes if n.type == "rest_pattern"), None)
    plain = [of(_without_default(n)) for n in nodes if n.type != "rest_pattern"]
    return Function(
        line_of(node),
        end_of(node),
        name,
        tuple(plain),
        called=(short, kind) if kind and short == "constructor" else (short,),
        rest=of(rest).removeprefix("...").strip() if rest is not None else "",
    )


def _without_default(node: Node) -> Node:
    left = node.child_by_field_name("left") if node.type == "assignment_pattern" else None
    return left if left is not None else node


def function_at(source: Source, line: int) -> str:
    """Name of the innermost function that holds the line; blank in the module."""
    around = [f for f in functions(source) if f.line <= line <= f.end]
    return max(around, key=lambda f: (f.line, -f.end)).name if around else ""


def asks_for_input(source: Source) -> bool:
    """Whether the program reads what is typed in, by any of the ways there are."""
    return _READERS.search(source.text) is not None


def prompts(source: Source) -> tuple[str, ...]:
    """What the program asks with: texts of ``prompt`` and of questions, values as a HOLE."""
    tree = tree_of(source)
    found = []
    for node in walk(tree.root):
        if node.type != "call_expression":
            continue
        called = tree.of(node.child_by_field_name("function"))
        given = node.child_by_field_name("arguments")
        asks = called in ASKING or called.endswith((".question", ".setPrompt"))
        if asks and given is not None and given.named_children:
            found.append(_asked(given.named_children[0], tree.of).rpartition("\n")[2])
    return tuple(dict.fromkeys(text for text in found if text.strip(f" {HOLE}")))


def _asked(node: Node, of: Text) -> str:
    if node.type == "string":
        return str(of(node))[1:-1].replace("\\n", "\n")
    if node.type == "template_string":
        parts = [
            str(of(c)) if c.type == "string_fragment" else HOLE for c in node.named_children
        ]  # fmt: skip
        return "".join(parts)
    if node.type == "binary_expression" and of(node.child_by_field_name("operator")) == "+":
        sides = (node.child_by_field_name(side) for side in ("left", "right"))
        return "".join(_asked(side, of) for side in sides if side is not None)
    return HOLE


def own_files(program: Path) -> tuple[Path, ...]:
    """The learner's files that the program requires or imports, directly or not, with itself.

    Paths are absolute; the program comes first.
    """
    found, todo = [program.resolve()], [program.resolve()]
    while todo:
        path = todo.pop()
        for name in _taken_in(path):
            wanted = next((p for p in _candidates(path.parent / name) if p.is_file()), None)
            if wanted is not None and wanted.resolve() not in found:
                found.append(wanted.resolve())
                todo.append(wanted.resolve())
    return tuple(found)


def _candidates(path: Path) -> Iterator[Path]:
    for ending in ENDINGS:
        yield Path(os.path.normpath(f"{path}{ending}"))


def _taken_in(path: Path) -> tuple[str, ...]:
    """What a file requires or imports by a path; nothing where it cannot be read."""
    try:
        return _names_in(path.read_bytes(), path)
    except Exception:
        return ()


@lru_cache(maxsize=64)
def _names_in(data: bytes, path: Path) -> tuple[str, ...]:
    if b"require" not in data and b"import" not in data:
        return ()
    return taken_in(read_source(path))


def is_modern(source: Source) -> bool:
    """Whether it is a module of the newer kind: with `import` or `export` statements in it."""
    kinds = {node.type for node in tree_of(source).root.named_children}
    return bool(kinds & {"import_statement", "export_statement"})


def taken_in(source: Source) -> tuple[str, ...]:
    """What a source requires or imports by a path, as it is written."""
    tree = tree_of(source)
    found = []
    for node in walk(tree.root):
        told = None
        if node.type in ("import_statement", "export_statement"):
            told = node.child_by_field_name("source")
        elif node.type == "call_expression":
            called = tree.of(node.child_by_field_name("function"))
            given = node.child_by_field_name("arguments")
            if called in ("require", "import") and given is not None and given.named_children:
                told = given.named_children[0]
        if told is not None and told.type == "string":
            name = tree.of(told)[1:-1]
            if name.startswith("."):
                found.append(name)
    return tuple(found)


def statement_nodes(source: Source) -> Iterator[Node]:
    """Every statement that does something, in the order of the text."""
    for node in walk(tree_of(source).root):
        if (is_statement(node) and node.type not in _LEFT) or node.type == "class_declaration":
            yield node


def statements(source: Source) -> tuple[int, ...]:
    """First lines of the statements; definitions are left out."""
    lines = (line_of(n) for n in statement_nodes(source) if n.type != "class_declaration")
    return tuple(dict.fromkeys(lines))


def statement_at(source: Source, line: int) -> int:
    """First line of the innermost statement that holds a line; the line itself outside of any.

    A line between the statements of a block (``} else {``, a comment) belongs to the one after it.
    """
    return _innermost(source).get(line, line)


@lru_cache(maxsize=64)
def _innermost(source: Source) -> dict[int, int]:
    found: dict[int, int] = {}
    nodes = list(statement_nodes(source))
    for node in nodes:
        for line in range(line_of(node), end_of(node) + 1):
            found[line] = max(found.get(line, 0), line_of(node))
    begins = sorted(line_of(node) for node in nodes)
    for node in nodes:
        header = max((end_of(n) for n in header_of(node)), default=line_of(node))
        inside = [b for b in begins if line_of(node) < b <= end_of(node)]
        for line in range(header + 1, end_of(node) + 1):
            after = next((b for b in inside if b > line), None)
            if found[line] == line_of(node) and after is not None:
                found[line] = after
    return found


def example_of(function: Function, parameter: str, source: Source) -> str:
    """A value of the sort that the function's text treats the parameter as, as it is written."""
    lines = "\n".join(source.lines[function.line - 1 : function.end])
    name = re.escape(parameter)
    if re.search(rf"\bof {name}\b|\b{name}\s*\[|\b{name}\.(length|map|filter|push|forEach|reduce|"
                 rf"slice|join|sort|some|every|find)\b", lines):  # fmt: skip
        return "[3, 1, 2]"
    if re.search(
        rf"\b{name}\.(trim|toUpperCase|toLowerCase|split|startsWith|endsWith|charAt)\b", lines
    ):
        return "'pier'"
    return "10"
