"""What runs JavaScript programs: node, and the probe inside it."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path, PurePosixPath
from typing import Any

from oddsum.languages.javascript.calls import HOOK
from oddsum.languages.javascript.choices import Splices
from oddsum.languages.javascript.interpreter import find_interpreter, interpreters
from oddsum.languages.javascript.needed import needed
from oddsum.languages.javascript.outline import ENDINGS, is_modern, taken_in
from oddsum.languages.javascript.parsing import tree_of
from oddsum.languages.javascript.scalars import unpack
from oddsum.languages.javascript.weave import woven
from oddsum.languages.language import Probe
from oddsum.model.errors import ProgramError
from oddsum.source.program import Source, decode_source

__all__ = [
    "find_interpreter",
    "interpreters",
    "last_words",
    "loaded",
    "made_ready",
    "probe",
    "unpack",
]

# Modules of the newer kind can only be loaded from texts of ours with the first of these.
_OPTIONS = ("--experimental-vm-modules", "--no-warnings")


# With further certificates node reads all it knows at every start: 60 ms, twice what it takes else.
_NETWORK = ("NODE_EXTRA_CA_CERTS",)
_WOVEN = ("record", "watch", "live")


def probe() -> Probe:
    """Each case has a node of its own."""
    script = str(Path(__file__).with_name("probe") / "start.js")
    return Probe(
        script,
        options=_OPTIONS,
        keeps_time=False,
        live=True,
        values=True,
        dates=True,
        network=_NETWORK,
    )


def made_ready(request: Mapping[str, Any], files: Mapping[str, bytes]) -> Mapping[str, Any]:
    """For a call: the program without the statements that it does not need. For a recording, and
    where somebody types: all files of it, woven.
    """
    mode, case, program = request["mode"], request["case"], request["program"]
    if mode == "case" and case.get("call") is None:
        return {}
    text = _read(files, program).text
    calls = case.get("call") is not None and request["top_level"] == "needed"
    kept, skipped = needed(text) if calls else (text, ())
    if mode not in _WOVEN:
        modern = [program] if is_modern(Source(program, kept)) else []
        return {"sources": {program: kept}, "skipped": skipped, "modern": modern}
    sources = [Source(program, kept), *_others(program, text, files)]
    modern = [s.name for s in sources if is_modern(s)]
    if mode == "live" and not all(_can_be_woven(s) for s in sources):
        return {}  # it runs as it is, and cannot say where it goes round
    how = "watch" if mode == "live" else mode
    made = woven(sources, how, request.get("parts"), request.get("watches", ()))
    return {**made, "skipped": skipped, "modern": modern}


def _can_be_woven(source: Source) -> bool:
    """Whether our own reading makes sense of all of it."""
    return tree_of(source).fault is None and HOOK not in source.text


def _read(files: Mapping[str, bytes], name: str) -> Source:
    """A file of the program; raises ProgramError where it is no text that node reads as it is."""
    try:
        return decode_source(files[name], name)
    except ProgramError as error:
        raise ProgramError(
            error.text, hint="Save the file as UTF-8: node reads no other encoding.",
            file=error.file, line=error.line,
        ) from error  # fmt: skip


def _others(program: str, text: str, files: Mapping[str, bytes]) -> Iterator[Source]:
    """The learner's other files that the program takes in."""
    found, todo = [program], [(program, text)]
    while todo:
        name, inside = todo.pop()
        for wanted in taken_in(Source(name, inside)):
            path = PurePosixPath(os.path.normpath(PurePosixPath(name).parent / wanted))
            other = next((f for e in ENDINGS if (f := f"{path}{e}") in files), None)
            if other is not None and other not in found and not other.endswith(".json"):
                source = _read(files, other)
                found.append(other)
                todo.append((other, source.text))
                yield source


def loaded(
    texts: Mapping[str, str],
    edits: Sequence[Mapping[str, Splices]],
    program: str,
    files: Mapping[str, bytes],
    top: str,
) -> Mapping[str, Any]:
    """The program with its edits, in one text."""
    from oddsum.languages.javascript.loading import loaded as put_together

    return {"made": put_together(texts, edits, program, files, top)}


def last_words(errors: str) -> tuple[str, str] | None:
    """Node ends itself where it is out of memory, and says so on its error stream."""
    told = re.search(r"FATAL ERROR: .*?(heap out of memory|Allocation failed)", errors)
    return ("memory", "JavaScript heap out of memory") if told else None
