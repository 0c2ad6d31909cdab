"""Which loop a run without end goes round in, from the frames that its probe watched."""

from __future__ import annotations

import os
from collections import Counter
from typing import Any

from oddsum.languages import language_of
from oddsum.languages.outline import Loop, loop_around
from oddsum.model.outcome import ErrorInfo, LoopInfo
from oddsum.run.messages import Message
from oddsum.run.scratch import Scratch
from oddsum.source.program import decode_source

_RECURSING = 3  # calls of one function under way at once: it calls itself


def loop_error(what: str, looping: Message | None, scratch: Scratch) -> ErrorInfo:
    """Name the loop an endless program goes round in, from the frames that were watched."""
    frames = (looping or {}).get("frames", [])
    for path, lines, seen, changed, visits, *_ in frames:
        name = os.path.relpath(path, scratch.folder)
        if seen < 3 or name not in scratch.bundle.files:
            continue
        source = decode_source(scratch.bundle.files[name], name)
        loop = loop_around(language_of(name).reading.loops(source), lines)
        if loop is not None:
            return ErrorInfo(
                type="endless",
                message=f"{what}: {loop.header}",
                file=name,
                line=loop.line,
                loop=_loop_info(loop, changed, visits),
            )
    alone = _loop_on_one_line(frames, scratch)
    if alone is not None:
        return ErrorInfo(
            type="endless",
            message=f"{what}: {alone.header}",
            file=alone.file,
            line=alone.line,
            loop=_loop_info(alone, [], []),
        )
    calls = Counter((f[0], f[5]) for f in frames if len(f) > 6 and f[5])
    for path, lines, *_, function, last in reversed([f for f in frames if len(f) > 6]):
        name = os.path.relpath(path, scratch.folder)
        if name in scratch.bundle.files:
            again = function if calls[path, function] >= _RECURSING else ""
            return ErrorInfo(
                type="endless", message=what, file=name, line=last or lines[0], calls_itself=again
            )
    return ErrorInfo(type="endless", message=what)


def _loop_on_one_line(frames: list[Any], scratch: Scratch) -> Loop | None:
    """The loop that the innermost frame is in, where all of it stands on one line: no other line
    comes by then."""
    path, lines = next(((f[0], f[1]) for f in reversed(frames)), ("", []))
    name = os.path.relpath(path, scratch.folder) if path else ""
    if name not in scratch.bundle.files:
        return None
    source = decode_source(scratch.bundle.files[name], name)
    loop = loop_around(language_of(name).reading.loops(source), lines)
    return loop if loop is not None and loop.line == loop.end else None


def _loop_info(loop: Loop, changed: list[str], visits: list[Any]) -> LoopInfo:
    """What was seen of a loop: of all variables, those that its lines name."""
    rounds = dict(visits).get(loop.line) or (visits[0][1] if visits else [])
    present = {name for row in rounds for name, _ in row}
    asked = tuple(n for n in loop.asked if n in present)
    return LoopInfo(
        header=loop.header,
        asked=asked,
        whole=loop.plain and len(asked) == len(loop.asked),
        unchanged=tuple(n for n in asked if n not in changed),
        rounds=tuple(tuple((n, t) for n, t in row if n in loop.names) for row in rounds),
    )
