"""How much a run may take of the machine, besides processor time and output.

What the kernel can refuse by itself stands in a resource limit; what a family of processes takes
together is looked at from outside, a few times a second, by the warden (``keeper/warden.py``).
"""

from __future__ import annotations

import os
import resource

from oddsum.model.limits import MOST_FILE, MOST_OPEN, MOST_PROCESSES, MOST_WRITTEN


def restrict(cpu: int) -> None:
    """Put the limits of a process on this one; ``cpu`` in seconds of processor time, 0 for none."""
    _limit(resource.RLIMIT_CORE, 0, 0)
    _limit(resource.RLIMIT_FSIZE, MOST_FILE, MOST_FILE)
    if cpu:  # a second more for the signal that says why it ends: at the hard limit it is killed
        _limit(resource.RLIMIT_CPU, cpu, cpu + 1)
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    _limit(resource.RLIMIT_NOFILE, min(n for n in (MOST_OPEN, soft, hard) if n >= 0), hard)


def _limit(kind: int, soft: int, hard: int) -> None:
    try:
        resource.setrlimit(kind, (soft, hard))
    except (OSError, ValueError):
        pass  # it is lower already, or this system has none: what is here is held from outside too


def struck(family: list[int], folder: str, memory: int) -> str:
    """Which bound a family of processes is past: "processes", "memory" or "written"; else blank."""
    if len(family) > MOST_PROCESSES:
        return "processes"
    if memory and sum(resident(p) for p in family) > memory:
        return "memory"
    if folder and written(folder) > MOST_WRITTEN:
        return "written"
    return ""


_PAGE = os.sysconf("SC_PAGESIZE")


def resident(process: int) -> int:
    """Bytes of memory that a process really uses."""
    try:
        with open(f"/proc/{process}/statm", "rb") as file:
            return int(file.read().split()[1]) * _PAGE
    except (OSError, IndexError, ValueError):
        return 0


_MOST_LOOKED = 5000  # files that are counted: a run with more than these has its own trouble


def written(folder: str) -> int:
    """Bytes on the disk below a folder; no link is followed."""
    total, looked, todo = 0, 0, [folder]
    while todo:
        try:
            with os.scandir(todo.pop()) as entries:
                for entry in entries:
                    looked += 1
                    if entry.is_dir(follow_symlinks=False):
                        todo.append(entry.path)
                    else:
                        total += entry.stat(follow_symlinks=False).st_blocks * 512
        except OSError:
            continue
        if looked > _MOST_LOOKED:
            break
    return total
