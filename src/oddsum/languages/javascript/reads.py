"""What each statement reads and sets, for a lineage: read off the syntax."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from tree_sitter import Node

from oddsum.languages.javascript.names import CHANGING, read_in, targets_of
from oddsum.languages.javascript.outline import named_functions, statement_nodes
from oddsum.languages.javascript.parsing import (
    FUNCTIONS,
    LOOPS,
    Tree,
    end_of,
    header_of,
    is_statement,
    line_of,
    tree_of,
    walk,
)
from oddsum.languages.outline import Function, Passed, Read, Reads
from oddsum.source.program import Source

_HEADERS = {"if_statement": "if", "for_in_statement": "for", "switch_statement": "match",
            **dict.fromkeys(LOOPS - {"for_in_statement"}, "while")}  # fmt: skip
_LEAVING = frozenset(
    {"return_statement", "break_statement", "continue_statement", "throw_statement"}
)
_ASSIGNING = frozenset({"assignment_expression", "augmented_assignment_expression",
                        "update_expression", "variable_declarator"})  # fmt: skip
_CONSTANTS = frozenset({"number", "string", "true", "false", "null"})


@lru_cache(maxsize=32)
def reads(source: Source) -> dict[int, Reads]:
    """What each statement reads and sets, by its first line; of several, the first's."""
    tree = tree_of(source)
    found: dict[int, Reads] = {}
    for node in statement_nodes(source):
        found.setdefault(line_of(node), _of_statement(node, tree))
    defined = {start: f for start, f in named_functions(source)}
    for node in walk(tree.root):
        if node.type in FUNCTIONS and line_of(node) not in found:
            function = defined.get(tree.start(node))
            if function is not None:
                found[line_of(node)] = _of_function(node, function, tree)
    return found


def _of_function(node: Node, function: Function, tree: Tree) -> Reads:
    given = node.child_by_field_name("parameters")
    sets: dict[str, tuple[Read, ...]] = {}
    for each in given.named_children if given is not None else ():
        right = each.child_by_field_name("right")
        if each.type == "assignment_pattern" and right is not None:
            sets[tree.of(each.child_by_field_name("left"))] = _reads_of(right, tree)
    header, kind = _header_around(node)
    return Reads(
        line_of(node), end_of(node), "def", sets, header, kind, (), (), (), defines=function
    )


def _of_statement(node: Node, tree: Tree) -> Reads:
    parts = (
        list(header_of(node)) if node.type in _HEADERS or node.type in LOOPS else list(_whole(node))
    )
    header, kind = _header_around(node)
    sets: dict[str, tuple[Read, ...]] = {}
    binds: set[str] = set()
    for part in parts:
        for name, read, bound in _set_by(part, tree):
            sets[name] = tuple(dict.fromkeys((*sets.get(name, ()), *read)))
            binds |= {name} if bound else set()
    if not sets or node.type in ("return_statement", "throw_statement") or node.type in _HEADERS:
        every = [r for p in _tops(node) for r in _reads_of(p, tree)]
        sets[""] = tuple(dict.fromkeys(every))
    elif node.type == "expression_statement" and not any(_assigns(p) for p in parts):
        sets[""] = tuple(dict.fromkeys(r for p in _tops(node) for r in _reads_of(p, tree)))
    return Reads(
        line_of(node),
        end_of(node),
        _HEADERS.get(node.type, "expr"),
        sets,
        header,
        kind,
        tuple(_guards(node)),
        tuple(_calls(parts, tree)),
        tuple(dict.fromkeys(tree.of(p) for p in parts if p.type in _CONSTANTS)),
        leaves=any(n.type in _LEAVING for n in walk(node)),
        binds=frozenset(binds),
    )


def _assigns(node: Node) -> bool:
    return node.type in _ASSIGNING


def _whole(node: Node) -> Iterator[Node]:
    """What a plain statement works out, functions in it included: they may be called by it."""
    for child in node.named_children:
        if not is_statement(child):
            yield from walk(child)


def _tops(node: Node) -> Iterator[Node]:
    for child in node.named_children:
        if not is_statement(child) and child.type not in ("else_clause", "switch_body", "comment"):
            yield child


def _set_by(part: Node, tree: Tree) -> Iterator[tuple[str, tuple[Read, ...], bool]]:
    """What one node sets: a name, what it is worked out from, whether it holds another value."""
    right = (
        part.child_by_field_name("right")
        or part.child_by_field_name("value")
    )  # fmt: skip
    plain = _reads_of(right, tree) if right is not None else ()
    for target in targets_of(part, tree) if part.type not in FUNCTIONS else ():
        name = tree.of(target)
        again = part.type in ("augmented_assignment_expression", "update_expression")
        yield name, ((Read(name), *plain) if again else plain), True
    left = part.child_by_field_name("left") or (
        part.child_by_field_name("argument") if part.type == "update_expression" else None
    )
    if left is not None and left.type in ("member_expression", "subscript_expression"):
        root, attribute = _root(left, tree)
        if root:
            index = left.child_by_field_name("index")
            more = _reads_of(index, tree) if index is not None else ()
            yield root, (Read(root), *plain, *more), False
            if attribute:
                own = (
                    ()
                    if part.type == "assignment_expression"
                    else (Read(root, attribute=attribute),)
                )
                yield f"{root}.{attribute}", (*own, *plain), False
    if part.type == "call_expression":
        called = part.child_by_field_name("function")
        if called is not None and called.type == "member_expression":
            if tree.of(called.child_by_field_name("property")) in CHANGING:
                root, _ = _root(called, tree)
                given = part.child_by_field_name("arguments")
                if root and given is not None:
                    yield root, (Read(root), *_reads_of(given, tree)), False


def _root(node: Node, tree: Tree) -> tuple[str, str]:
    """The variable that a place is in, and the attribute of it that is meant; blank for none."""
    attribute = ""
    while node.type in ("member_expression", "subscript_expression"):
        attribute = (
            tree.of(node.child_by_field_name("property"))
            if node.type == "member_expression"
            else ""
        )
        inner = node.child_by_field_name("object")
        if inner is None:
            return "", ""
        node = inner
    return (tree.of(node), attribute) if node.type in ("identifier", "this") else ("", "")


def _reads_of(node: Node, tree: Tree) -> tuple[Read, ...]:
    """The names, items and attributes that are read in a node."""
    found: list[Read] = []
    taken: set[int] = set()
    for inner in walk(node):
        on = inner.child_by_field_name("object")
        if on is not None and on.type in ("identifier", "this") and inner.id not in taken:
            above = inner.parent
            method = (
                above is not None
                and above.type == "call_expression"
                and (above.child_by_field_name("function") == inner)
            )
            name = tree.of(on)
            if inner.type == "subscript_expression":
                index = inner.child_by_field_name("index")
                found.append(Read(name, index=tree.of(index)))
                taken.add(on.id)
            elif inner.type == "member_expression" and not method:
                attribute = tree.of(inner.child_by_field_name("property"))
                if attribute != "length":
                    found.append(Read(name, attribute=attribute))
                    taken.add(on.id)
        if (
            inner.type in ("identifier", "shorthand_property_identifier", "this")
            and inner.id not in taken
        ):
            found += [Read(name) for name in read_in(inner, tree)]
    return tuple(dict.fromkeys(found))


def _calls(parts: list[Node], tree: Tree) -> Iterator[Passed]:
    for part in parts:
        called = part.child_by_field_name("function") or part.child_by_field_name("constructor")
        given = part.child_by_field_name("arguments")
        if part.type not in ("call_expression", "new_expression") or called is None:
            continue
        arguments = (
            [a for a in given.named_children if a.type != "comment"] if given is not None else []
        )
        on = called.child_by_field_name("object") if called.type == "member_expression" else None
        name = tree.of(called.child_by_field_name("property") or called)
        yield Passed(
            name,
            _reads_of(on, tree) if on is not None else None,
            tuple(_reads_of(a, tree) for a in arguments),
            {},
            any(a.type == "spread_element" for a in arguments),
            tuple(tuple(tree.of(n) for n in walk(a) if n.type in _CONSTANTS) for a in arguments),
        )


def _header_around(node: Node) -> tuple[int, str]:
    """The line of the nearest header around a statement, in its function; 0 for none."""
    above = node.parent
    while above is not None and above.type not in FUNCTIONS:
        if above.type in _HEADERS:
            return line_of(above), _HEADERS[above.type]
        above = above.parent
    return 0, ""


def _guards(node: Node) -> Iterator[int]:
    """Headers ahead of it in its block that can leave."""
    block = node.parent
    if block is None:
        return
    for child in block.named_children:
        if child.start_byte >= node.start_byte:
            return
        if child.type in _HEADERS and any(n.type in _LEAVING for n in walk(child)):
            yield line_of(child)
