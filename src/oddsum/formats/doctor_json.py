"""``oddsum doctor`` as json."""

from __future__ import annotations

import msgspec

from oddsum.formats.json_text import dump
from oddsum.run.machine import Machine


def write(machine: Machine) -> str:
    """All of it, key by key as it is named in ``Machine``."""
    return dump(msgspec.to_builtins(machine))
