"""System calls that a fenced run may not make: a filter in the kernel (seccomp, classic BPF).

What a learner's program calls is left alone; refused is what reaches out of the fence another way
than by a file, or could take the fence down. A refused call fails with "operation not permitted",
as it would for a user without the right.
"""

from __future__ import annotations

import ctypes
import errno
import os
import struct

from oddsum.run.fence import kernel

_LOAD, _EQUAL, _AT_LEAST, _ANY_BIT, _RETURN = 0x20, 0x15, 0x35, 0x45, 0x06
_NUMBER_AT, _ARCH_AT, _ARGUMENTS_AT = 0, 4, 16
_ALLOW, _FAIL, _KILL = 0x7FFF0000, 0x00050000, 0x80000000
_X32 = 0x40000000  # numbers from here on are the same calls by another door
_SET_FILTER = 1

_NEVER = (
    # other processes' memory, time and rights
    "ptrace", "process_vm_readv", "process_vm_writev", "process_madvise", "process_mrelease",
    "kcmp", "pidfd_getfd", "setpriority",
    # what could take the fence down
    "mount", "umount2", "pivot_root", "chroot", "setns", "unshare", "mount_setattr", "move_mount",
    "open_tree", "fsopen", "fsconfig", "fsmount", "fspick", "open_by_handle_at",
    # calls made on our behalf by the kernel, past this filter
    "io_uring_setup", "io_uring_enter", "io_uring_register", "bpf", "userfaultfd",
    "perf_event_open",
    # the machine itself
    "keyctl", "add_key", "request_key", "init_module", "finit_module", "delete_module",
    "kexec_load", "kexec_file_load", "reboot", "swapon", "swapoff", "acct", "settimeofday",
    "clock_settime", "adjtimex", "clock_adjtime", "sethostname", "setdomainname", "syslog",
    "quotactl", "quotactl_fd", "vhangup", "iopl", "ioperm",
)  # fmt: skip
_SHARED_MEMORY = ("shmget", "semget", "msgget", "mq_open")
_RIGHTS = (
    "chmod", "fchmod", "fchmodat", "fchmodat2", "chown", "fchown", "lchown", "fchownat", "utime",
    "utimes", "futimesat", "utimensat", "setxattr", "lsetxattr", "fsetxattr", "setxattrat",
    "removexattr", "lremovexattr", "fremovexattr",
)  # fmt: skip
_CLONE_THREAD = 0x10000
_CLONE_NEW = 0x7E020000  # any namespace of its own
_TIOCSTI, _TIOCLINUX = 0x5412, 0x541C  # to type into a terminal


class Refused:
    """What a filter refuses besides what it always does.

    ``rights``: changing modes, owners and times of files, where no read-only tree does that.
    """

    def __init__(self, network: bool, processes: bool, shared_memory: bool, rights: bool) -> None:
        self.network, self.processes = network, processes
        self.shared_memory, self.rights = shared_memory, rights


def usable() -> bool:
    """Whether the kernel takes filters: asked with one that is none, so nothing is put on."""
    if not kernel.known():
        return False
    try:
        kernel.control(kernel.SECCOMP, 2, 0)
    except OSError as error:
        return error.errno == errno.EFAULT
    return True


def restrict(refused: Refused) -> None:
    """Put the filter on this process and all it starts. Needs ``no_new_privs``. Raises OSError."""
    code = _program(refused)
    text = ctypes.create_string_buffer(code, len(code))
    program = struct.pack("HxxxxxxP", len(code) // 8, ctypes.addressof(text))
    kernel.call("seccomp", _SET_FILTER, 0, ctypes.create_string_buffer(program, len(program)))


def _program(refused: Refused) -> bytes:
    """The filter: the machine first, then a block a call."""
    code = [
        _step(_LOAD, _ARCH_AT),
        _step(_EQUAL, kernel.architecture(), 1, 0),
        _step(_RETURN, _KILL),
        _step(_LOAD, _NUMBER_AT),
    ]
    if os.uname().machine == "x86_64":
        code += [_step(_AT_LEAST, _X32, 0, 1), _step(_RETURN, _FAIL | errno.EPERM)]
    names = [*_NEVER]
    names += _SHARED_MEMORY if refused.shared_memory else ()
    names += _RIGHTS if refused.rights else ()
    names += ["socket"] if refused.network else []
    names += ["fork", "vfork"] if refused.processes else []
    for name in names:
        code += _block(name, [_step(_RETURN, _FAIL | errno.EPERM)])
    code += _block("clone3", [_step(_RETURN, _FAIL | errno.ENOSYS)])  # its flags cannot be seen
    code += _block("clone", _clone(refused.processes))
    code += _block("prlimit64", [*_unless_zero(0)])
    code += _block("ioctl", _typing())
    return b"".join([*code, _step(_RETURN, _ALLOW)])


def _step(code: int, operand: int, true: int = 0, false: int = 0) -> bytes:
    return struct.pack("HBBI", code, true, false, operand)


def _block(name: str, inside: list[bytes]) -> list[bytes]:
    """Steps for one call, each way through which returns; nothing where there is no such call."""
    number = kernel.number(name)
    return [] if number < 0 else [_step(_EQUAL, number, 0, len(inside)), *inside]


def _clone(no_processes: bool) -> list[bytes]:
    """Threads are let through; processes where they may be, without namespaces of their own."""
    flags = _step(_LOAD, _ARGUMENTS_AT)
    yes, no = _step(_RETURN, _ALLOW), _step(_RETURN, _FAIL | errno.EPERM)
    if no_processes:
        return [flags, _step(_ANY_BIT, _CLONE_THREAD, 0, 1), yes, no]
    return [flags, _step(_ANY_BIT, _CLONE_NEW, 1, 0), yes, no]


def _unless_zero(argument: int) -> list[bytes]:
    """Limits may be set for oneself, which is process 0, alone."""
    yes, no = _step(_RETURN, _ALLOW), _step(_RETURN, _FAIL | errno.EPERM)
    return [_step(_LOAD, _ARGUMENTS_AT + 8 * argument), _step(_EQUAL, 0, 0, 1), yes, no]


def _typing() -> list[bytes]:
    yes, no = _step(_RETURN, _ALLOW), _step(_RETURN, _FAIL | errno.EPERM)
    wanted = _step(_LOAD, _ARGUMENTS_AT + 8)
    return [wanted, _step(_EQUAL, _TIOCSTI, 2, 0), _step(_EQUAL, _TIOCLINUX, 1, 0), yes, no]
