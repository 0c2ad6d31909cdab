"""Which top-level statements a ``call`` needs: those that neither talk nor depend on such.

By the contract, statements that read input or print, themselves or through functions they call, are
left out, and so are those that depend on what these would have set.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.names import CHANGING, pattern_names, read_in, targets_of
from oddsum.languages.javascript.outline import name_of
from oddsum.languages.javascript.parsing import CLASSES, FUNCTIONS, Tree, line_of, walk

_TALKING = frozenset({"prompt", "alert", "confirm", "console.log", "console.info", "console.error",
                      "console.table", "console.warn", "console.dir", "document.write",
                      "document.writeln", "process.stdout.write"})  # fmt: skip
_STREAMS = re.compile(r"process\s*\.\s*(stdin|stdout)|/dev/stdin")
_MAIN = re.compile(r"require\s*\.\s*main\s*[=!]==?\s*module|module\s*[=!]==?\s*require\s*\.\s*main")


def needed(text: str) -> tuple[str, tuple[int, ...]]:
    """The text with what a call does not need made blank, lines kept; and the lines left out."""
    tree = Tree(text)
    talking = _talking_functions(tree)
    cuts: list[Node] = []
    left_out: list[int] = []
    unset: set[str] = set()
    for statement in tree.root.named_children:
        if statement.type in ("comment", "import_statement"):
            continue
        if statement.type == "if_statement" and _MAIN.search(
            tree.of(statement.child_by_field_name("condition"))
        ):
            cuts.append(statement)  # it is not the main module here: it would not run anyway
            continue
        sets = set(_sets(statement, tree))
        if _talks(statement, tree, talking) or set(_reads(statement, tree)) & unset:
            cuts.append(statement)
            left_out.append(line_of(statement))
            unset |= sets
        else:
            unset -= sets
    return _blanked(text, tree, cuts), tuple(left_out)


def _blanked(text: str, tree: Tree, cuts: list[Node]) -> str:
    made, at = [], 0
    for node in cuts:
        start, stop = tree.start(node), tree.stop(node)
        made += [text[at:start], re.sub(r"[^\n]", " ", text[start:stop])]
        at = stop
    return "".join([*made, text[at:]])


def _runs_with(statement: Node) -> Iterator[Node]:
    """The nodes that run when a statement does: bodies of functions only where they are handed on
    in a call, which may call them at once."""
    todo = [statement]
    while todo:
        node = todo.pop()
        yield node
        kept = node.type in FUNCTIONS or node.type in CLASSES
        handed = node.parent is not None and node.parent.type == "arguments"
        if not kept or handed:
            todo += node.named_children


def _called(node: Node, tree: Tree) -> str:
    if node.type not in ("call_expression", "new_expression"):
        return ""
    called = node.child_by_field_name("function") or node.child_by_field_name("constructor")
    return re.sub(r"\s|\?", "", tree.of(called))


def _says(node: Node, tree: Tree, talking: frozenset[str] | set[str]) -> bool:
    name = _called(node, tree)
    if name and (name in talking or name.rpartition(".")[2] in talking - _TALKING):
        return True
    if name.endswith("readFileSync"):
        given = tree.of(node.child_by_field_name("arguments"))
        return bool(re.match(r"\(\s*(0\b|process\.stdin|['\"]/dev/stdin)", given))
    return node.type == "member_expression" and bool(_STREAMS.fullmatch(tree.of(node)))


def _talks(statement: Node, tree: Tree, talking: set[str]) -> bool:
    if statement.type in FUNCTIONS or statement.type in CLASSES:
        return False
    return any(_says(node, tree, talking) for node in _runs_with(statement))


def _talking_functions(tree: Tree) -> set[str]:
    """Names of functions, methods and classes whose call reads input or prints."""
    bodies: dict[str, list[Node]] = {}
    for node in walk(tree.root):
        if node.type in FUNCTIONS:
            name = name_of(node, tree.of).rpartition(".")[2]
            above = node.parent.parent if node.parent is not None else None
            if name == "constructor" and above is not None:
                name = tree.of(above.child_by_field_name("name"))
            bodies.setdefault(name, []).append(node)
    talking, grown = set(_TALKING), True
    while grown:
        new = {
            name
            for name, nodes in bodies.items()
            if name
            and name not in talking
            and any(_says(n, tree, talking) for f in nodes for n in walk(f))
        }
        grown = bool(new)
        talking |= new
    return talking


def _reads(statement: Node, tree: Tree) -> Iterator[str]:
    if statement.type in FUNCTIONS or statement.type in CLASSES:
        return
    own = set(_sets(statement, tree))
    for node in _runs_with(statement):
        if node.type in ("identifier", "shorthand_property_identifier"):
            name = tree.of(node)
            plain = name in set(read_in(node, tree)) or node.parent is not None
            if plain and (name not in own or statement.type == "expression_statement"):
                yield name


def _sets(statement: Node, tree: Tree) -> Iterator[str]:
    """Names that a statement binds or changes in place."""
    for node in _runs_with(statement):
        for target in targets_of(node, tree):
            yield tree.of(target)
        left = node.child_by_field_name("left") or (
            node.child_by_field_name("argument") if node.type == "update_expression" else None
        )
        if left is not None and left.type in ("member_expression", "subscript_expression"):
            yield _root(left, tree)
        called = node.child_by_field_name("function") if node.type == "call_expression" else None
        if called is not None and called.type == "member_expression":
            if tree.of(called.child_by_field_name("property")) in CHANGING:
                yield _root(called, tree)
        if node.type == "class_declaration":
            yield from (tree.of(n) for n in pattern_names(node.child_by_field_name("name"), tree))


def _root(node: Node, tree: Tree) -> str:
    while node.type in ("member_expression", "subscript_expression"):
        inner = node.child_by_field_name("object")
        if inner is None:
            break
        node = inner
    return tree.of(node)
