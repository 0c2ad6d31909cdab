"""Files, ports and signals: a Landlock ruleset, which an ordinary user may put on a process.

What it holds, by the kernel's ABI (Documentation/userspace-api/landlock.rst): writing to files and
making, moving and removing them (1), links and moves between folders (2), truncating (3), TCP ports
(4), control of devices (5), signals and abstract sockets to processes outside (6). Reading is left
free: an interpreter's own files may lie anywhere. Changes of a file's mode, owner and times are not
held by it; the read-only tree of ``namespaces.py`` holds those.
"""

from __future__ import annotations

import os
import stat
import struct

from oddsum.run.fence import kernel

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

_WRITE_FILE, _REFER, _TRUNCATE, _IOCTL_DEV = 1 << 1, 1 << 13, 1 << 14, 1 << 15
_REMOVING = 1 << 4 | 1 << 5
_MAKE_CHAR, _MAKE_BLOCK = 1 << 6, 1 << 11
_MAKING = sum(1 << n for n in range(6, 13))
_TCP = 1 << 0 | 1 << 1  # to bind, to connect
_SCOPES = 1 << 0 | 1 << 1  # abstract sockets, signals
_SINCE = {_REFER: 2, _TRUNCATE: 3, _IOCTL_DEV: 5}
_NET_SINCE, _SCOPES_SINCE = 4, 6
_VERSION, _BENEATH = 1, 1  # flag of the call that asks for the ABI; kind of a rule
_DEVICES = ("/dev/null", "/dev/zero", "/dev/full")  # that may be written to


def abi() -> int:
    """The kernel's version of it; 0 where it has none, or has it switched off."""
    if not kernel.known():
        return 0
    try:
        return kernel.call("landlock_create_ruleset", None, 0, _VERSION)
    except OSError:
        return 0


def restrict(folders: Iterable[str], files: bool, network: bool) -> None:
    """From now on this process and its children write to these folders only.

    ``files``, ``network``: not held where True. Needs ``no_new_privs``. Raises OSError.
    """
    version = abi()
    rights = 0 if files else _rights(version)
    ports = _TCP if version >= _NET_SINCE and not network else 0
    scopes = _SCOPES if version >= _SCOPES_SINCE else 0
    asked = struct.pack("QQQ", rights, ports, scopes)
    size = 8 if version < _NET_SINCE else 16 if version < _SCOPES_SINCE else 24
    if not (rights or ports or scopes):
        return
    ruleset = kernel.call("landlock_create_ruleset", asked, size, 0)
    try:
        if rights:
            for folder in folders:
                _allow(ruleset, folder, rights & ~(_IOCTL_DEV | _MAKE_CHAR | _MAKE_BLOCK))
            for device in _DEVICES:
                _allow(ruleset, device, rights & (_WRITE_FILE | _TRUNCATE | _IOCTL_DEV))
        kernel.call("landlock_restrict_self", ruleset, 0)
    finally:
        os.close(ruleset)


def _rights(version: int) -> int:
    """All rights to change something that this version of it knows."""
    newer = sum(right for right, since in _SINCE.items() if version >= since)
    return _WRITE_FILE | _REMOVING | _MAKING | newer


def _allow(ruleset: int, path: str, rights: int) -> None:
    try:
        place = os.open(path, os.O_PATH | os.O_CLOEXEC)
    except OSError:
        return  # it is not there, so nothing is allowed in it
    try:
        if stat.S_ISDIR(os.fstat(place).st_mode) or "/dev/" in path:
            rule = struct.pack("=Qi", rights, place)
            kernel.call("landlock_add_rule", ruleset, _BENEATH, rule, 0)
    finally:
        os.close(place)
