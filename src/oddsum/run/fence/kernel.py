"""System calls that Python has no function for, and their numbers on the machines we know."""

from __future__ import annotations

import ctypes
import os
import sys

TYPE_CHECKING = False  # typing takes longer to load than all of this
if TYPE_CHECKING:
    from typing import Any

_MACHINE = os.uname().machine
_COLUMN = {"x86_64": 0, "aarch64": 1}.get(_MACHINE if sys.maxsize > 1 << 32 else "")

# name: number on x86_64, on aarch64; -1 where the machine has no such call. From the kernel's
# own tables (arch/x86/entry/syscalls/syscall_64.tbl, include/uapi/asm-generic/unistd.h).
_NUMBERS = {
    "accept": (43, 202), "acct": (163, 89), "add_key": (248, 217), "adjtimex": (159, 171),
    "bpf": (321, 280), "chmod": (90, -1), "chown": (92, -1), "chroot": (161, 51),
    "clock_adjtime": (305, 266), "clock_settime": (227, 112), "clone": (56, 220),
    "clone3": (435, 435), "delete_module": (176, 106), "fchmod": (91, 52), "fchmodat": (268, 53),
    "fchmodat2": (452, 452), "fchown": (93, 55), "fchownat": (260, 54),
    "finit_module": (313, 273), "fork": (57, -1), "fremovexattr": (199, 16), "fsconfig": (431, 431),
    "fsetxattr": (190, 7), "fsmount": (432, 432), "fsopen": (430, 430), "fspick": (433, 433),
    "futimesat": (261, -1), "init_module": (175, 105), "io_uring_enter": (426, 426),
    "io_uring_register": (427, 427), "io_uring_setup": (425, 425), "ioctl": (16, 29),
    "ioperm": (173, -1), "iopl": (172, -1), "kcmp": (312, 272), "kexec_file_load": (320, 294),
    "kexec_load": (246, 104), "keyctl": (250, 219), "landlock_add_rule": (445, 445),
    "landlock_create_ruleset": (444, 444), "landlock_restrict_self": (446, 446),
    "lchown": (94, -1), "lremovexattr": (198, 15), "lsetxattr": (189, 6), "mount": (165, 40),
    "mount_setattr": (442, 442), "move_mount": (429, 429), "mq_open": (240, 180),
    "msgget": (68, 186), "open_by_handle_at": (304, 265), "open_tree": (428, 428),
    "perf_event_open": (298, 241), "pidfd_getfd": (438, 438), "pivot_root": (155, 41),
    "prlimit64": (302, 261), "process_madvise": (440, 440), "process_mrelease": (448, 448),
    "process_vm_readv": (310, 270), "process_vm_writev": (311, 271), "ptrace": (101, 117),
    "quotactl": (179, 60), "quotactl_fd": (443, 443), "reboot": (169, 142),
    "removexattr": (197, 14), "request_key": (249, 218), "seccomp": (317, 277),
    "semget": (64, 190), "setdomainname": (171, 162), "sethostname": (170, 161),
    "setns": (308, 268), "setpriority": (141, 140), "settimeofday": (164, 170),
    "setxattr": (188, 5), "setxattrat": (463, 463), "shmget": (29, 194), "socket": (41, 198),
    "swapoff": (168, 225), "swapon": (167, 224), "syslog": (103, 116), "umount2": (166, 39),
    "unshare": (272, 97), "userfaultfd": (323, 282), "utime": (132, -1), "utimensat": (280, 88),
    "utimes": (235, -1), "vfork": (58, -1), "vhangup": (153, 58),
}  # fmt: skip
AUDIT_ARCH = (0xC000003E, 0xC00000B7)

_libc: Any = None


def libc() -> Any:
    """The C library of this process."""
    global _libc  # noqa: PLW0603  (opened once, when it is first needed)
    if _libc is None:
        _libc = ctypes.CDLL(None, use_errno=True)
    return _libc


def known() -> bool:
    """Whether this is Linux on a machine whose numbers are known."""
    return sys.platform == "linux" and _COLUMN is not None


def number(name: str) -> int:
    """The number of a system call here; -1 where there is none."""
    return -1 if _COLUMN is None else _NUMBERS[name][_COLUMN]


def architecture() -> int:
    """How the kernel's filters name this machine."""
    return AUDIT_ARCH[_COLUMN or 0]


def call(name: str, *arguments: Any) -> int:
    """Make a system call; raises OSError."""
    return checked(libc().syscall(number(name), *arguments), name)


def call_holding(name: str, *arguments: Any) -> int:
    """The same for a call that forks, with the interpreter's lock held all through it: a child has
    no other thread that could hand it over, and would wait for ever. Raises OSError.
    """
    return checked(ctypes.PyDLL(None, use_errno=True).syscall(number(name), *arguments), name)


def checked(result: int, name: str) -> int:
    """The result of a call into the C library; raises OSError where it failed."""
    if result < 0:
        error = ctypes.get_errno()
        raise OSError(error, f"{os.strerror(error)} ({name})")
    return result


def control(option: int, *arguments: int) -> int:
    """``prctl``; raises OSError."""
    rest = [ctypes.c_ulong(a) for a in (*arguments, 0, 0, 0, 0)[:4]]
    return checked(libc().prctl(option, *rest), "prctl")


PDEATHSIG, SECCOMP, CAPBSET_DROP, SUBREAPER, NO_NEW_PRIVS, DUMPABLE = 1, 22, 24, 36, 38, 4
