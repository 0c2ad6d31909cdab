"""How many programs can compute at once on this machine."""

from __future__ import annotations

import os


def cores() -> int:
    """The number of cores, one where nobody can say."""
    return max(1, os.cpu_count() or 1)
