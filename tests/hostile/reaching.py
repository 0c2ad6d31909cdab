"""Programs that try to reach out of their folder, by every way an interpreter has.

``OUT`` is a folder that is not theirs, with ``kept.txt`` in it; ``VICTIM`` a process of the same
user, ``PORT`` a port somebody listens on, ``SOCKET`` the path of a socket, ``@odd`` an abstract
one. Each tries, and may fail as it likes.
"""

from __future__ import annotations

_C = """import ctypes, os
libc = ctypes.CDLL(None, use_errno=True)
"""

REACHING = {
    # by path
    "writes a new file": "open(OUT + '/new.txt', 'w').write('x')",
    "appends to a file": "open(OUT + '/kept.txt', 'a').write('x')",
    "opens to read and write": "open(OUT + '/kept.txt', 'r+').write('x')",
    "opens with flags": "import os\nos.write(os.open(OUT + '/kept.txt', os.O_RDWR), b'x')",
    "goes up and writes": "import os\nos.chdir('/')\nopen(OUT[1:] + '/new.txt', 'w')",
    "climbs out by dots": "import os\nopen(os.path.relpath(OUT) + '/new.txt', 'w')",
    "removes a file": "import os\nos.remove(OUT + '/kept.txt')",
    "renames a file": "import os\nos.rename(OUT + '/kept.txt', OUT + '/gone.txt')",
    "moves a file into its folder": "import os\nos.rename(OUT + '/kept.txt', 'mine.txt')",
    "moves a file out": "import os\nopen('x', 'w').close()\nos.rename('x', OUT + '/new.txt')",
    "makes a folder": "import os\nos.mkdir(OUT + '/new')",
    "removes a tree": "import shutil\nshutil.rmtree(OUT)",
    "truncates": "import os\nos.truncate(OUT + '/kept.txt', 0)",
    "makes a pipe": "import os\nos.mkfifo(OUT + '/new')",
    "makes a node": "import os\nos.mknod(OUT + '/new')",
    # what is not content
    "changes a mode": "import os\nos.chmod(OUT + '/kept.txt', 0o777)",
    "changes a mode by a descriptor": "import os\nos.fchmod(os.open(OUT + '/kept.txt', 0), 0o777)",
    "changes times": "import os\nos.utime(OUT + '/kept.txt', (1, 1))",
    "changes an owner": "import os\nos.chown(OUT + '/kept.txt', 1234, 1234)",
    "changes the folder's mode": "import os\nos.chmod(OUT, 0o700)",
    "sets an attribute": "import os\nos.setxattr(OUT + '/kept.txt', 'user.tide', b'high')",
    # by links
    "writes through a link": "import os\nos.symlink(OUT + '/kept.txt', 'l')\nopen('l', 'w')",
    "writes through a linked folder": "import os\nos.symlink(OUT, 'd')\nopen('d/new.txt', 'w')",
    "writes through a second name": (
        "import os\nos.link(OUT + '/kept.txt', 'h')\nopen('h', 'a').write('x')"
    ),
    "leaves a link for who puts back": (
        "import os\nos.remove('data.txt')\nos.symlink(OUT + '/kept.txt', 'data.txt')"
    ),
    "leaves a linked folder": ("import os, shutil\nshutil.rmtree('deep')\nos.symlink(OUT, 'deep')"),
    "leaves a link where files are laid": "import os\nos.symlink(OUT + '/kept.txt', 'laid.txt')",
    "swaps its own folder": (
        "import os\nhere = os.getcwd()\nos.rename(here, here + '2')\nos.symlink(OUT, here)"
    ),
    "writes by its process's root": "open('/proc/self/root' + OUT + '/new.txt', 'w')",
    "writes by another's folder": "open(f'/proc/{VICTIM}/cwd/kept.txt', 'a').write('x')",
    # without a word to the interpreter
    "writes by a database": (
        "import sqlite3\nc = sqlite3.connect(OUT + '/new.db')\nc.execute('create table a(b)')\n"
        "c.commit()"
    ),
    "attaches a database": (
        "import sqlite3\nc = sqlite3.connect(':memory:')\n"
        "c.execute(f\"attach '{OUT}/new.db' as o\")\nc.execute('create table o.a(b)')\nc.commit()"
    ),
    "writes by the C library": _C + "libc.fopen((OUT + '/new.txt').encode(), b'w')",
    "changes a mode by the C library": _C + "libc.chmod((OUT + '/kept.txt').encode(), 0o777)",
    "writes by a bare call": _C
    + "n = 257 if os.uname().machine == 'x86_64' else 56\n"
    + "libc.syscall(n, -100, (OUT + '/new.txt').encode(), 0o101, 0o644)",
    "maps a file": (
        "import mmap, os\nf = os.open(OUT + '/kept.txt', os.O_RDWR)\nm = mmap.mmap(f, 0)\nm[0] = 88"
    ),
    "takes the fence away": _C
    + "libc.mount(b'none', b'/', None, 4096 | 32, None)\nlibc.umount2(b'/', 2)\n"
    + "libc.unshare(0x10000000 | 0x20000)\nlibc.mount(b'none', b'/', None, 32, None)\n"
    + "open(OUT + '/new.txt', 'w')",
    "asks another queue of calls": _C
    + "assert libc.syscall(425, 8, None) < 0\nopen(OUT + '/n', 'w')",
    "patches what the interpreter asks": (
        "import os, sys\nsys.addaudithook(lambda *a: None)\nos.path.realpath = lambda p: os.getcwd()\n"
        "open(OUT + '/new.txt', 'w')"
    ),
    # descriptors that it was not given
    "writes to every descriptor": (
        "import os\nfor n in range(3, 1100):\n    try:\n        os.write(n, b'x\\n')\n"
        "    except OSError:\n        pass"
    ),
    # the network
    "connects": "import socket\nsocket.create_connection(('127.0.0.1', PORT), 1).send(b'x')",
    "sends a packet": (
        "import socket\ns = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)\n"
        "s.sendto(b'x', ('127.0.0.1', PORT))"
    ),
    "reads a page": "import urllib.request\nurllib.request.urlopen(f'http://127.0.0.1:{PORT}/')",
    "connects by the C library": _C
    + "import struct\ns = libc.socket(2, 1, 0)\n"
    + "a = struct.pack('>HHBBBB8x', 0x0200, PORT, 127, 0, 0, 1)\nlibc.connect(s, a, 16)",
    "connects to a socket's path": (
        "import socket\ns = socket.socket(socket.AF_UNIX)\ns.connect(SOCKET)\ns.send(b'x')"
    ),
    "connects to an abstract socket": (
        "import socket\ns = socket.socket(socket.AF_UNIX)\ns.connect('\\0' + ABSTRACT)\n"
        "s.send(b'x')"
    ),
    "waits for others": "import socket\ns = socket.socket()\ns.bind(('', 0))\ns.listen()",
    # other processes
    "ends another process": "import os\nos.kill(VICTIM, 9)",
    "stops another process": "import os, signal\nos.kill(VICTIM, signal.SIGSTOP)",
    "ends everybody": "import os\nos.kill(-1, 15)",
    "ends by the C library": _C + "libc.kill(VICTIM, 9)",
    "ends by a descriptor": (
        "import os, signal\nsignal.pidfd_send_signal(os.pidfd_open(VICTIM), signal.SIGKILL)"
    ),
    "slows another process": "import os\nos.setpriority(os.PRIO_PROCESS, VICTIM, 19)",
    "limits another process": (
        "import resource\nresource.prlimit(VICTIM, resource.RLIMIT_CPU, (1, 1))"
    ),
    "looks into another process": (
        "d = open(f'/proc/{VICTIM}/mem', 'rb+')\nd.seek(4096)\nd.write(b'x')"
    ),
    "traces another process": _C
    + "assert libc.ptrace(16, VICTIM, 0, 0) < 0\nopen(OUT + '/n', 'w')",
    "runs a command": "import os\nos.system(f'echo x > {OUT}/new.txt')",
    "starts a program": "import subprocess\nsubprocess.run(['touch', OUT + '/new.txt'])",
    "becomes another program": (
        "import os\nos.execv('/bin/sh', ['sh', '-c', f'echo x > {OUT}/new.txt'])"
    ),
    "forks": "import os\nif os.fork() == 0:\n    open(OUT + '/new.txt', 'w')\n    os._exit(0)",
    "forks by the C library": _C + "if libc.fork() == 0:\n    libc.setsid()\n    open(MARK, 'w')\n"
    "    os.execv('/bin/sleep', ['sleep', '98.75'])",
    "leaves a child that left its session": (
        "import os\nif os.fork() == 0:\n    os.setsid()\n    if os.fork() == 0:\n"
        "        os.execv('/bin/sleep', ['sleep', '98.75'])\n    os._exit(0)"
    ),
    # what goes on
    "leaves a thread": (
        "import threading, time\ndef later():\n    time.sleep(0.3)\n    open(OUT + '/new.txt', 'w')\n"
        "threading.Thread(target=later, daemon=True).start()"
    ),
    "writes at its end": "import atexit\natexit.register(lambda: open(OUT + '/new.txt', 'w'))",
    "writes when it is collected": (
        "class Late:\n    def __del__(self):\n        open(OUT + '/new.txt', 'w')\nlate = Late()"
    ),
    "writes on a signal": (
        "import signal\nsignal.signal(signal.SIGALRM, lambda *a: open(OUT + '/new.txt', 'w'))\n"
        "signal.setitimer(signal.ITIMER_REAL, 0.05)"
    ),
    "uses shared memory": (
        "from multiprocessing import shared_memory\n"
        "s = shared_memory.SharedMemory(name='odd_tide', create=True, size=8)"
    ),
    "uses a queue of the system": _C + "assert libc.shmget(77123, 4096, 0o1666) < 0",
    "types into a terminal": (
        "import fcntl, os\nfor n in range(64):\n    try:\n"
        "        t = os.open(f'/dev/pts/{n}', os.O_RDONLY | os.O_NOCTTY)\n"
        "        fcntl.ioctl(t, 0x5412, b'x')\n        open(OUT + '/typed', 'w')\n"
        "    except OSError:\n        pass"
    ),
}
