"""What runs JavaScript programs: node, and the probe inside it."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from oddsum.languages.javascript.interpreter import find_interpreter, interpreters
from oddsum.languages.javascript.needed import needed
from oddsum.languages.language import Probe
from oddsum.source.program import decode_source

__all__ = ["find_interpreter", "interpreters", "made_ready", "probe", "unpack"]

# Modules of the newer kind can only be loaded from texts of ours with the first of these.
_OPTIONS = ("--experimental-vm-modules", "--no-warnings")


def probe() -> Probe:
    """Each case has a node of its own."""
    script = str(Path(__file__).with_name("probe") / "start.js")
    return Probe(script, options=_OPTIONS, keeps_time=False)


def made_ready(
    _mode: str, case: Mapping[str, Any], program: str, files: Mapping[str, bytes], top: str
) -> Mapping[str, Any]:
    """For a call: the program without the statements that it does not need."""
    if case.get("call") is None:
        return {}
    text = decode_source(files[program], program).text
    kept, skipped = needed(text) if top == "needed" else (text, ())
    return {"sources": {program: kept}, "skipped": skipped}


def unpack(data: bytes) -> list[Any]:
    """Nothing is recorded yet."""
    raise ValueError("no log is packed in this language")
