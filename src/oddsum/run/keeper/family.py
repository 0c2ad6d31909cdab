"""Which processes descend from one."""

from __future__ import annotations

import os


def family(process: int) -> list[int]:
    """All that descend from a process and have not ended, as ``/proc`` names them.

    What its ancestors have left goes to the nearest "subreaper" above it, so a family stays
    together. Where there is no ``/proc`` nobody is found.
    """
    found: list[int] = []
    todo = children(process)
    while todo:
        child = todo.pop()
        todo += children(child)
        if not _has_ended(child):
            found.append(child)
    return found


def children(process: int) -> list[int]:
    """The children of all threads of a process."""
    found: list[int] = []
    folder = f"/proc/{process}/task"
    try:
        for thread in os.listdir(folder):
            with open(f"{folder}/{thread}/children", "rb") as file:
                found += map(int, file.read().split())
    except OSError:
        pass  # it has ended meanwhile
    return found


def _has_ended(process: int) -> bool:
    try:
        with open(f"/proc/{process}/stat", "rb") as file:
            return file.read().rpartition(b") ")[2][:1] in (b"Z", b"X", b"")
    except OSError:
        return True
