"""The layers of the fence in the order in which they are put on, and which of them are here."""

from __future__ import annotations

import os
import sys

from oddsum.run.fence import kernel, landlock, namespaces, seccomp

TYPE_CHECKING = False  # typing takes longer to load than all of this, and dataclasses as well
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence


class Fence:
    """Where a run may write, and what else it may do.

    ``folders`` with all that is in them. ``allow``: of "network", "processes" and "files" (writing
    anywhere its user may). ``forks``: the process is one that begins cases by forking, so that a
    filter of calls cannot refuse it processes; what they can reach is held all the same.
    """

    def __init__(
        self, folders: tuple[str, ...], allow: tuple[str, ...] = (), forks: bool = False
    ) -> None:
        self.folders, self.allow, self.forks = folders, allow, forks

    @property
    def files(self) -> bool:
        """Whether it may write anywhere."""
        return "files" in self.allow

    @property
    def network(self) -> bool:
        """Whether it may use the network."""
        return "network" in self.allow


def put_on(fence: Fence, separate: bool) -> None:
    """Put the layers on this process that stay through the start of another program.

    ``separate``: it lives in namespaces of its own. A layer that is not here is left out; raises
    OSError where one that is here cannot be put on.
    """
    if not kernel.known():
        return
    namespaces.give_up_rights()
    kernel.control(kernel.NO_NEW_PRIVS, 1)
    if landlock.abi():
        landlock.restrict(fence.folders, fence.files, fence.network)
    if seccomp.usable():
        refused = seccomp.Refused(
            network=not fence.network,
            processes="processes" not in fence.allow and not fence.forks,
            shared_memory=not separate,
            rights=not separate and not fence.files,
        )
        seccomp.restrict(refused)


class Layer:
    """One layer as this machine has it: what it holds, and blank or what is missing."""

    def __init__(self, name: str, holds: str, here: bool, detail: str) -> None:
        self.name, self.holds, self.here, self.detail = name, holds, here, detail


def layers() -> Sequence[Layer]:
    """Every layer, tried on a child of this process where only trying can tell."""
    version = landlock.abi()
    separate = _tried(_separate) if kernel.known() else "only Linux has them"
    filters = seccomp.usable()
    return (
        Layer(
            "namespaces",
            "processes, network, shared memory, files' modes and times",
            not separate,
            separate or "processes end with their first one",
        ),
        Layer(
            "Landlock",
            "writing outside the run's folder, ports, signals to others",
            version > 0,
            f"version {version}" + _lacking(version) if version else "not in this kernel",
        ),
        Layer(
            "seccomp",
            "sockets, new processes, mounts, other processes' memory",
            filters,
            "" if filters else "not in this kernel",
        ),
        Layer(
            "limits",
            "memory, open files, size of a file, of all files, processes",
            True,
            "" if sys.platform == "linux" else "memory is watched, not limited",
        ),
        Layer(
            "keeper",
            "nothing is left running when Odd Sum ends, however it ends",
            True,
            "" if sys.platform == "linux" else "but for what left its process group",
        ),
    )


def _lacking(version: int) -> str:
    if version < 4:
        return ": files alone"
    return ": no signals" if version < 6 else ""


def _tried(attempt: Callable[[], int]) -> str:
    """Why something does not work here, blank where it does; ``attempt`` forks as it does."""
    reader, writer = os.pipe()
    try:
        child = attempt()
    except OSError as error:
        os.close(reader)
        os.close(writer)
        return f"this system does not let its users make them ({error.strerror})"
    if child == 0:
        try:
            namespaces.settle(*_ME)
            namespaces.read_only([])
        except BaseException as error:
            os.write(writer, str(error).encode())
        os._exit(0)
    os.close(writer)
    with os.fdopen(reader, "rb") as said:
        told = said.read().decode()
    os.waitpid(child, 0)
    return told


_ME = (os.getuid(), os.getgid())


def _separate() -> int:
    return namespaces.fork(files=False, network=False)
