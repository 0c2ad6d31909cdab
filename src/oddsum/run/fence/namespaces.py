"""A view of the machine of its own: processes, network, shared memory, and a tree to read only.

A user namespace gives an ordinary user the right to make the others. The tree is the machine's own,
mounted once more and read-only but for the folders of the run: so not only what is written but also
modes, owners and times stay as they are. Where a machine does not let its users make these (some
containers and distributions do not), the other layers stand alone.
"""

from __future__ import annotations

import ctypes
import os
import struct

from oddsum.run.fence import kernel

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

_USER, _MOUNTS, _PROCESSES = 0x10000000, 0x00020000, 0x20000000
_SHARED_MEMORY, _NETWORK, _NAMES = 0x08000000, 0x40000000, 0x04000000
_SIGCHLD = 17
_BIND, _RECURSIVE, _PRIVATE = 0x1000, 0x4000, 0x40000
_READ_ONLY, _HERE, _AT_RECURSIVE = 1, -100, 0x8000


def fork(files: bool, network: bool) -> int:
    """Fork into namespaces of its own; the child is the first process of its view.

    ``files``, ``network``: shared with the machine where True. Returns as ``os.fork`` does. Raises
    OSError where the machine does not allow it.
    """
    flags = _USER | _PROCESSES | _SHARED_MEMORY | _NAMES
    flags |= (0 if files else _MOUNTS) | (0 if network else _NETWORK)
    return kernel.call_holding("clone", ctypes.c_ulong(flags | _SIGCHLD), None, None, None, None)


def settle(user: int, group: int) -> None:
    """Be the same user inside as outside; in the child of ``fork``. Raises OSError."""
    for name, text in (
        ("setgroups", "deny"),
        ("uid_map", f"{user} {user} 1"),
        ("gid_map", f"{group} {group} 1"),
    ):
        with open(f"/proc/self/{name}", "w", encoding="ascii") as file:
            file.write(text)


def read_only(folders: Iterable[str]) -> None:
    """Make the whole tree one to read, but for these folders. Raises OSError."""
    mount = kernel.libc().mount
    private = ctypes.c_ulong(_RECURSIVE | _PRIVATE)
    kernel.checked(mount(b"none", b"/", None, private, None), "mount")
    _attributes(b"/", _AT_RECURSIVE, _READ_ONLY, 0)
    for folder in folders:
        path = os.fsencode(folder)
        kernel.checked(mount(path, path, None, ctypes.c_ulong(_BIND), None), "mount")
        _attributes(path, 0, 0, _READ_ONLY)


def _attributes(path: bytes, flags: int, on: int, off: int) -> None:
    wanted = struct.pack("QQQQ", on, off, 0, 0)
    kernel.call("mount_setattr", _HERE, path, flags, wanted, len(wanted))


def give_up_rights() -> None:
    """Nothing started from here on has a right that its user alone would not have."""
    for capability in range(64):
        try:
            kernel.control(kernel.CAPBSET_DROP, capability)
        except OSError:
            return  # the last one, or none of them is ours to give up
