"""What a process for trials needs of the tool: the program with its edits, ready to be compiled."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from oddsum.languages.javascript.choices import Choices, Splices
from oddsum.languages.javascript.needed import needed
from oddsum.languages.javascript.outline import is_modern
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
        "modern": [n for n in names if is_modern(Source(n, plain[n]))],
    }  # fmt: skip


def _is_cut(text: str, kept: str, splice: tuple[int, int, str]) -> bool:
    """Whether an edit is of something that was made blank."""
    start, stop, _ = splice
    line = slice(text.rfind("\n", 0, start) + 1, (text + "\n").index("\n", start))
    blank = not kept[line].strip() and bool(text[line].strip())
    return blank or kept[start:stop] != text[start:stop]
