"""What a process for trials needs of the tool: the program with its edits, ready to be compiled."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import PurePosixPath
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.choices import Choices, Splices
from oddsum.languages.javascript.names import targets_of
from oddsum.languages.javascript.needed import needed
from oddsum.languages.javascript.older import replacements, waits_at_the_top
from oddsum.languages.javascript.outline import is_modern
from oddsum.languages.javascript.parsing import CLASSES, Tree, walk
from oddsum.languages.javascript.rows import declared, parameter_names
from oddsum.languages.javascript.sites import numbered
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
            whole = kept[name] == text
            idle = (
                []
                if whole
                else [
                    n
                    for n, splices in mine
                    if any(_is_cut(text, kept[name], s, _edges(text)) for s in splices)
                ]
            )
            left = [edit for edit in mine if edit[0] not in idle]
            called = made if whole else Choices(kept[name], left)
            calls[name] = called.text
            apart |= set(called.apart)
    # Of all files: what is edited may take in others that are not.
    newer = {n: _newer(n, d) for n, d in files.items() if PurePosixPath(n).suffix in _PROGRAMS}
    plain = {n: decode_source(files[n], n).text if n not in texts else texts[n] for n in names}
    readings = {
        n: {"whole": plain[n], "call": kept[n]} if n in kept else {"whole": plain[n]} for n in texts
    }
    return {
        # What is asked of a program without edits: which values would be right in it.
        "sites": None if edits else numbered(readings),
        "scripts": scripts, "calls": calls, "kept": kept, "idle": idle, "apart": sorted(apart),
        "spans": spans, "plain": plain,
        # Whether one console does for all trials: it is asked for nothing that it remembers.
        "printing": not any(_COUNTING.search(t) for t in plain.values()),
        "clean": all(_is_clean(t) for t in plain.values()),
        "older": {n: told for n, (told, _) in newer.items()},
        "waits": [n for n, (_, waits) in newer.items() if waits],
    }  # fmt: skip


# What can change the language itself, or the world that all programs share.
_REACHING = re.compile(r"prototype|\bglobal(This)?\b|definePropert|__proto__|\beval\b|\bFunction\b|"
                       r"\bReflect\b|Object\s*\.\s*(assign|freeze|seal)|"
                       r"\bconstructor\s*\.|Symbol")  # fmt: skip


# What the console remembers, or what may come to that.
_COUNTING = re.compile(r"console\s*(?!\.\s*(log|info|warn|error|debug|table|dir)\b)\W")


@lru_cache(maxsize=16)
def _is_clean(text: str) -> bool:
    """Whether a program can leave nothing behind but its own variables: it names nothing of the
    language that it could change, declares all it sets, and has `this` in classes alone."""
    if _REACHING.search(text):
        return False
    tree = Tree(text)
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


_PROGRAMS = (".js", ".mjs", ".cjs")


@lru_cache(maxsize=64)
def _newer(name: str, data: bytes) -> tuple[list[tuple[str, str]], bool]:
    """What stands for what in a module of the newer kind, none for any other; whether it awaits
    something itself.
    """
    source = Source(name, data.decode("utf-8", "replace").replace("\r\n", "\n"))
    told = replacements(source.text) if is_modern(source) else []
    return told, waits_at_the_top(source.text)


@lru_cache(maxsize=4)
def _edges(text: str) -> frozenset[int]:
    """The places between the statements of the module itself."""
    tree = Tree(text)
    return frozenset(at for c in tree.root.named_children for at in (tree.start(c), tree.stop(c)))


def _is_cut(text: str, kept: str, splice: tuple[int, int, str], edges: frozenset[int]) -> bool:
    """Whether an edit is of something that was made blank."""
    start, stop, new = splice
    if start == stop and start in edges:  # whether it is needed itself
        after = needed(text[:start] + new + text[stop:])[0]
        return not after[start : start + len(new)].strip()
    line = slice(text.rfind("\n", 0, start) + 1, (text + "\n").index("\n", start))
    blank = not kept[line].strip() and bool(text[line].strip())
    return blank or kept[start:stop] != text[start:stop]
