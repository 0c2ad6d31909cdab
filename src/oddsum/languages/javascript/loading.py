"""What a process for trials needs of the tool: the program with its edits, ready to be compiled."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.choices import Choices, Splices
from oddsum.languages.javascript.names import targets_of
from oddsum.languages.javascript.needed import needed
from oddsum.languages.javascript.outline import is_modern
from oddsum.languages.javascript.parsing import CLASSES, tree_of, walk
from oddsum.languages.javascript.rows import declared, parameter_names
from oddsum.source.program import Source, decode_source


def loaded(
    texts: Mapping[str, str],
    edits: Sequence[Mapping[str, Splices]],
    program: str,
    files: Mapping[str, bytes],
    top: str,
) -> Mapping[str, Any]:
    """Each file with its edits, as a script and as what a call needs of it; ``apart`` are the
    numbers of the edits that are compiled by themselves, ``spans`` where each of the others lies,
    ``idle`` those of what a call does not need.
    """
    scripts: dict[str, str] = {}
    calls: dict[str, str] = {}
    kept: dict[str, str] = {}
    idle: list[int] = []
    apart: set[int] = set()
    spans: dict[int, list[tuple[int, int]]] = {}
    names = [*texts, *(() if program in texts else (program,))]
    for name in names:
        text = texts.get(name) if name in texts else decode_source(files[name], name).text
        assert text is not None
        mine = [(n, edit[name]) for n, edit in enumerate(edits) if name in edit]
        made = Choices(text, mine)
        scripts[name] = made.text
        apart |= set(made.apart)
        spans.update(made.spans)
        if name == program:
            kept[name] = needed(text)[0] if top == "needed" else text
            idle = [n for n, splices in mine if any(_is_cut(text, kept[name], s) for s in splices)]
            left = [edit for edit in mine if edit[0] not in idle]
            calls[name] = Choices(kept[name], left).text if kept[name] != text else made.text
    plain = {n: decode_source(files[n], n).text if n not in texts else texts[n] for n in names}
    return {
        "scripts": scripts, "calls": calls, "kept": kept, "idle": idle, "apart": sorted(apart),
        "spans": spans, "plain": plain,
        "clean": all(_is_clean(Source(n, t)) for n, t in plain.items()),
        "modern": [n for n in names if is_modern(Source(n, plain[n]))],
    }  # fmt: skip


# What can change the language itself, or the world that all programs share.
_REACHING = re.compile(r"prototype|\bglobal(This)?\b|definePropert|__proto__|\beval\b|\bFunction\b|"
                       r"\bReflect\b|Object\s*\.\s*(assign|freeze|seal)|"
                       r"\bconstructor\s*\.|Symbol")  # fmt: skip


def _is_clean(source: Source) -> bool:
    """Whether a program can leave nothing behind but its own variables: it names nothing of the
    language that it could change, declares all it sets, and has `this` in classes alone."""
    if _REACHING.search(source.text):
        return False
    tree = tree_of(source)
    known = declared(tree.root, tree)
    nodes = list(walk(tree.root))
    said: set[str] = set()
    for node in nodes:
        if node.type not in ("assignment_expression", "augmented_assignment_expression"):
            said |= {tree.of(n) for n in targets_of(node, tree)}
        said |= {tree.of(n) for n in parameter_names(node.child_by_field_name("parameters"), tree)}
    loose = known - said
    return not loose and all(_in_class(n) for n in nodes if n.type == "this")


def _in_class(node: Node) -> bool:
    above = node.parent
    while above is not None and above.type not in CLASSES:
        if above.type in ("function_declaration", "function_expression"):
            return False
        above = above.parent
    return above is not None


def _is_cut(text: str, kept: str, splice: tuple[int, int, str]) -> bool:
    """Whether an edit is of something that was made blank."""
    start, stop, _ = splice
    line = slice(text.rfind("\n", 0, start) + 1, (text + "\n").index("\n", start))
    blank = not kept[line].strip() and bool(text[line].strip())
    return blank or kept[start:stop] != text[start:stop]
