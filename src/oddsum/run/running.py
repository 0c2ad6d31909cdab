"""Which processes are there."""

from __future__ import annotations

import os


def own_process() -> int:
    """The number of the process that this is."""
    return os.getpid()


def is_running(process: int) -> bool:
    """Whether another process with this number is there; our own number was another's before us."""
    if process == os.getpid():
        return False
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:  # somebody else's
        return True
    return True
