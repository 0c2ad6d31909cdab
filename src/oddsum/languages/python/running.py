"""What runs Python programs: the learner's interpreter, and the probe inside it."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from oddsum.languages.language import Probe
from oddsum.languages.python.interpreter import find_interpreter, interpreters
from oddsum.languages.python.probe.wire import unpack

__all__ = [
    "find_interpreter",
    "interpreters",
    "last_words",
    "loaded",
    "made_ready",
    "probe",
    "unpack",
]


def made_ready(_request: Mapping[str, Any], _files: Mapping[str, bytes]) -> Mapping[str, Any]:
    """The probe reads and weaves the program itself."""
    return {}


def loaded(*_told: Any) -> Mapping[str, Any]:
    """The probe puts the edits into the program itself."""
    return {}


def last_words(_errors: str) -> tuple[str, str] | None:
    """An interpreter that is out of memory raises an error first."""
    return None


def probe() -> Probe:
    """It waits with everything loaded, and forks for each case."""
    return Probe(
        str(Path(__file__).with_name("probe") / "start.py"), forks=True, live=True, values=True
    )
