"""A module of the newer kind as a script of the older one, for trials: they run as functions.

What it imports is required, what it exports is put into ``exports``, where others see it as it is
at the time. The rest of the text stays as it is, so that edits find their places: each statement is
one replacement, of its text by another.
"""

from __future__ import annotations

from tree_sitter import Node

from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.parsing import Tree, own

_DEFAULT = "((m) => (m !== null && typeof m === 'object' && 'default' in m ? m.default : m))"


def replacements(text: str) -> list[tuple[str, str]]:
    """What stands in a newer module, and what stands for it in an older one, in their order."""
    tree = Tree(text)
    made: list[tuple[str, str]] = []
    for node in tree.root.named_children:
        if node.type == "import_statement":
            made.append((tree.of(node), _required(node, tree)))
        elif node.type == "export_statement":
            made.append(_given_out(node, tree))
    if "import.meta.url" in text:
        made.append(("import.meta.url", "('file://' + __filename)"))
    return made


def waits_at_the_top(text: str) -> bool:
    """Whether the module itself awaits something."""
    tree = Tree(text)
    return any(
        n.type == "await_expression"
        or (n.type == "for_in_statement" and "await" in _words(n, tree))
        for n in own(tree.root)
    )


def _words(node: Node, tree: Tree) -> list[str]:
    return [tree.of(c) for c in node.children[:2]]


def _required(node: Node, tree: Tree) -> str:
    """``import a, { b as c } from "d"`` as declarations."""
    wanted = f"require({tree.of(node.child_by_field_name('source'))})"
    clause = next((c for c in node.named_children if c.type == "import_clause"), None)
    if clause is None:
        return f"{wanted};"
    told = []
    for part in clause.named_children:
        if part.type == "identifier":
            told.append(f"const {tree.of(part)} = {_DEFAULT}({wanted});")
        elif part.type == "namespace_import":
            told.append(f"const {tree.of(part.named_children[-1])} = {wanted};")
        else:
            names = ", ".join(_renamed(n, tree) for n in part.named_children)
            told.append(f"const {{ {names} }} = {wanted};")
    return " ".join(told)


def _renamed(specifier: Node, tree: Tree) -> str:
    """``b as c`` as ``b: c``."""
    name, alias = (specifier.child_by_field_name(f) for f in ("name", "alias"))
    return tree.of(name) if alias is None else f"{tree.of(name)}: {tree.of(alias)}"


def _given_out(node: Node, tree: Tree) -> tuple[str, str]:
    """An ``export`` with what declares something left where it is."""
    text = tree.of(node)
    declared = node.child_by_field_name("declaration")
    if declared is not None:
        named = declared.child_by_field_name("name")
        names = [named] if named is not None else [
            d.child_by_field_name("name") for d in declared.named_children
        ]  # fmt: skip
        held = [n for name in names for n in pattern_names(name, tree)]
        as_default = "default" in tree.text[tree.start(node) : tree.start(declared)]
        given = "".join(_shown("default" if as_default else tree.of(n), tree.of(n)) for n in held)
        # What is declared may be edited: only the words ahead of its name are replaced.
        last = tree.start(names[0]) if names[0] is not None else tree.start(declared)
        start = tree.text[tree.start(declared) : last]
        return tree.text[tree.start(node) : last] + tree.of(names[0]), (
            f"{given}{start}{tree.of(names[0])}"
        )
    value = node.child_by_field_name("value")
    if value is not None:
        return tree.text[tree.start(node) : tree.start(value)], "exports.default = "
    source = node.child_by_field_name("source")
    clause = next((c for c in node.named_children if c.type == "export_clause"), None)
    if clause is None:
        return text, f"Object.assign(exports, require({tree.of(source)}));"
    told = ""
    for one in clause.named_children:
        name, alias = (one.child_by_field_name(f) for f in ("name", "alias"))
        what = tree.of(name) if source is None else f"require({tree.of(source)}).{tree.of(name)}"
        told += _shown(tree.of(alias or name), what)
    return text, told


def _shown(name: str, held: str) -> str:
    """What others see under a name: what it holds at the time."""
    return (
        f"Object.defineProperty(exports, '{name}', "
        f"{{ get: () => {held}, enumerable: true, configurable: true }});"
    )
