"""What a program's names hold ahead of each of its statements, by prints that are put into its text.

Made apart from the recorder, and as simply as can be: a call ahead of every statement that stands
in a block, which works out each name in sight where it stands and writes its text down. Nothing of
the weaver or of its runtime is used; of the grammar only where statements and names begin.
"""

from __future__ import annotations

import json
import os
import subprocess
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import tree_sitter_javascript
from tree_sitter import Language, Node, Parser

_GRAMMAR = Language(tree_sitter_javascript.language())
_STATEMENTS = frozenset({"expression_statement", "lexical_declaration", "variable_declaration",
                         "return_statement", "throw_statement", "break_statement",
                         "continue_statement"})  # fmt: skip
_BLOCKS = frozenset({"program", "statement_block"})
_FUNCTIONS = frozenset({"function_declaration", "function_expression", "arrow_function",
                        "method_definition", "generator_function",
                        "generator_function_declaration"})  # fmt: skip
_RUNTIME = Path(__file__).with_name("prints.js")
OWN, AROUND, MODULE = "own", "around", "module"


@dataclass(frozen=True)
class Seen:
    """A statement's line, whether it stands in a function, and by name: whose it is, and the text of
    what it holds."""

    line: int
    in_function: bool
    names: dict[str, tuple[str, str]]


def with_prints(text: str) -> tuple[str, set[int]]:
    """The text with a call ahead of each statement, and the lines on which one stands."""
    data = text.encode()
    root = Parser(_GRAMMAR).parse(data).root_node
    found = [n for n in _walk(root) if n.type in _STATEMENTS and n.parent.type in _BLOCKS]
    starts = Counter(n.start_point[0] for n in _walk(root) if _stands_alone(n))
    calls = {}
    for node in found:
        directive = node.type == "expression_statement" and node.named_children[0].type == "string"
        if starts[node.start_point[0]] == 1 and not directive:
            calls[node.start_byte] = node.start_point[0] + 1, node
    pieces, at = [], 0
    for start, (line, node) in sorted(calls.items()):
        shown = ", ".join(f"{n}: ['{whose}', () => {n}]" for n, whose in _in_sight(node).items())
        inside = int(any(n.type in _FUNCTIONS for n in _above(node)))
        pieces += [data[at:start].decode(), f"__seen({line}, {inside}, {{ {shown} }}); "]
        at = start
    return "".join([*pieces, data[at:].decode()]), {line for line, _ in calls.values()}


def _stands_alone(node: Node) -> bool:
    """Whether it is a statement of any kind, or a function whose body is one expression."""
    if node.type == "arrow_function":
        return node.child_by_field_name("body").type != "statement_block"
    return node.type.endswith(("_statement", "_declaration")) and node.type != "empty_statement"


def account(folder: Path, text: str, typed: str = "") -> tuple[list[Seen], set[int], str]:
    """What the names held ahead of each statement, the lines that are told of, and the output."""
    woven, lines = with_prints(text)
    program, told = folder / "printing.js", folder / "told.json"
    # One line, so that the lines of an error stay where they are.
    program.write_text(f"require({json.dumps(str(_RUNTIME))}); {woven}", encoding="utf-8")
    run = subprocess.run(["node", program.name], cwd=folder, input=typed, capture_output=True,
                         text=True, timeout=60, check=False,
                         env={**os.environ, "TOLD": str(told)})  # fmt: skip
    rows = json.loads(told.read_text(encoding="utf-8"))
    seen = [Seen(line, bool(inside), names) for line, inside, names in rows]
    return seen, lines, run.stdout


def _walk(node: Node) -> Iterator[Node]:
    yield node
    for child in node.named_children:
        yield from _walk(child)


def _above(node: Node) -> Iterator[Node]:
    """What a statement stands in, the nearest first."""
    one = node.parent
    while one is not None:
        yield one
        one = one.parent


def _in_sight(node: Node) -> dict[str, str]:
    """The names that a statement can see, each once, and whose they are: those of two are left out."""
    around = [n for n in _above(node) if n.type in _FUNCTIONS or n.type == "program"]
    counted = Counter(name for scope in around for name in _declared(scope))
    found = {}
    for place, scope in enumerate(around):
        whose = MODULE if scope.type == "program" else AROUND if place else OWN
        for name in _declared(scope):
            if counted[name] == 1:
                found[name] = whose
    return found


def _declared(scope: Node) -> list[str]:
    """The names that a function or the module declares, as often as it does."""
    found: list[str] = []
    if scope.type != "program":
        for field in ("parameters", "parameter"):
            given = scope.child_by_field_name(field)
            if given is not None:
                found += _bound(given)
    todo = list(scope.named_children)
    while todo:
        one = todo.pop()
        if one.type in _FUNCTIONS or one.type == "class_declaration":
            continue  # a name of a function: no prints tell of it
        if one.type == "variable_declarator":
            found += _bound(one.child_by_field_name("name"))
        if one.type == "for_in_statement" and one.child_by_field_name("kind") is not None:
            found += _bound(one.child_by_field_name("left"))
        if one.type == "catch_clause" and one.child_by_field_name("parameter") is not None:
            found += _bound(one.child_by_field_name("parameter"))
        todo += one.named_children
    return found


def _bound(pattern: Node) -> list[str]:
    """The names in a pattern; not those of values that it has for what is missing."""
    if pattern.type in ("identifier", "shorthand_property_identifier_pattern"):
        return [pattern.text.decode()]
    found = []
    for child in pattern.named_children:
        if pattern.type in ("assignment_pattern", "object_assignment_pattern"):
            return _bound(child)
        if pattern.type == "pair_pattern":
            return _bound(pattern.child_by_field_name("value"))
        found += _bound(child)
    return found
