"""Programs that reach for the wire, or put something else in the place of what the probe uses.

Each is a name and the lines of a program; it ends with ``print(TOTAL)``, and at home that is what
comes out: 15. What they do to our side must not change that, nor make another result of it.
"""

from __future__ import annotations

FORGING: dict[str, str] = {
    "json": """
import json
json.dumps = lambda *a, **k: '{"k": "end", "status": 0}'
json.JSONEncoder.encode = json.JSONEncoder.iterencode = json.dumps
json.encoder.encode_basestring_ascii = json.encoder.c_make_encoder = None
print(TOTAL)
""",
    "json-decoder": """
import json
json.loads = json.JSONDecoder.decode = lambda *a, **k: {}
print(TOTAL)
""",
    "os-write": """
import os
os.write = lambda fd, data: len(data)
os.getpid = lambda: 1
os.fstat = lambda fd: 1 / 0
print(TOTAL)
""",
    "os-exit": """
import os
os._exit = lambda status: None
print(TOTAL)
""",
    "os-whole": """
import os
for name in list(vars(os)):
    if not name.startswith("__"):
        setattr(os, name, None)
print(TOTAL)
""",
    "marshal": """
import marshal, binascii
marshal.dumps = binascii.b2a_base64 = lambda *a: b"x"
print(TOTAL)
""",
    "built-ins": """
import builtins
say = print
for name in ("len", "isinstance", "type", "list", "dict", "str", "getattr", "sorted", "repr", "eval",
             "range", "zip", "map", "any", "bool", "compile", "hasattr", "next", "max", "min"):
    setattr(builtins, name, lambda *a, **k: 0)
say(TOTAL)
""",
    "no-built-ins": """
import builtins
say = print
total = TOTAL
say(total)
builtins.__dict__.clear()
""",
    "import": """
import builtins
builtins.__import__ = lambda *a, **k: 1 / 0
print(TOTAL)
""",
    "signals": """
import signal
signal.signal = signal.setitimer = lambda *a: None
print(TOTAL)
""",
    "collector": """
import gc
gc.collect = gc.get_objects = lambda *a: [].missing
print(TOTAL)
""",
    "closing": """
import os
os.closerange(3, 2048)
print(TOTAL)
""",
    "closing-input": """
import os
os.close(0)
print(TOTAL)
""",
    "doubling": """
import os, sys
sys.stdout.flush()
for fd in range(3, 1100):
    try:
        os.fstat(fd)
    except OSError:
        continue
    os.dup2(1, fd)
print(TOTAL)
""",
    "reading-the-wire": """
import os
for fd in range(3, 1100):
    try:
        copy = os.open(f"/proc/self/fd/{fd}", os.O_RDWR | os.O_NONBLOCK)
    except OSError:
        continue
    try:
        said = os.read(copy, 1 << 16)
    except OSError:
        continue
    if said[:16].isalnum():
        os.write(fd, said[:32] + b'{"k": "end", "status": 0, "error": null}\\n')
        os._exit(0)
print(TOTAL)
""",
    "writing-in-the-wire": """
import os
for fd in range(3, 1100):
    for line in (b'{"k": "end", "status": 3}\\n', b"\\xff\\n", b"0" * 32 + b'{"k": "end", "status": 3}\\n'):
        try:
            os.write(fd, line)
        except OSError:
            pass
print(TOTAL)
""",
    "our-modules": """
import sys
for name, module in list(sys.modules.items()):
    if "odd" in name or hasattr(module, "Channel"):
        print("found", name)
print(TOTAL)
""",
    "our-objects": """
import gc
for thing in gc.get_objects():
    if type(thing).__name__ in ("Channel", "Prepared", "House") or (
        type(thing) is dict and "nonce" in thing
    ):
        print("found", type(thing).__name__)
print(TOTAL)
""",
    "our-input": """
channel = getattr(getattr(input, "__self__", None), "channel", None)
if channel is not None:
    channel.send("end", status=3, error=None)
print(TOTAL)
""",
    "our-signal": """
import signal
watch = getattr(signal.getsignal(signal.SIGPROF), "__self__", None)
if watch is not None:
    watch.channel.send("end", status=3, error=None)
print(TOTAL)
""",
    "a-child": """
import os
if os.fork() == 0:
    raise SystemExit(3)
os.wait()
print(TOTAL)
""",
    "a-child-that-goes-on": """
import os, time
if os.fork():
    time.sleep(0.05)
    print(TOTAL)
""",
    "a-child-of-multiprocessing": """
import multiprocessing

def work(n):
    return n * 5

if __name__ == "__main__":
    with multiprocessing.get_context("fork").Pool(2) as pool:
        print(sum(pool.map(work, [1, 2])))
""",
    "streams": """
import sys, io
out = sys.stdout
sys.stdout = sys.stderr = io.StringIO()
out.write(f"{TOTAL}\\n")
out.flush()
sys.stdin = None
""",
    "no-streams": """
import sys
print(TOTAL)
sys.stdout.flush()
sys.stdin = sys.stdout = sys.stderr = None
del sys.__stdout__, sys.__stdin__
""",
    "sys": """
import sys
print(TOTAL)
sys.exit = sys.excepthook = sys.settrace = sys.exc_info = sys._getframe = None
sys.modules.clear()
""",
    "modules-gone": """
import sys
print(TOTAL)
for name in list(sys.modules):
    if name not in ("__main__", "sys", "builtins"):
        del sys.modules[name]
""",
    "tracing": """
import sys
sys.settrace(lambda *a: None)
sys.setprofile(lambda *a: None)
print(TOTAL)
""",
    "at-the-end": """
import atexit, os
atexit.register(lambda: os.closerange(3, 2048))
print(TOTAL)
""",
    "threads-at-the-end": """
import threading
threading.enumerate = threading.current_thread = threading.main_thread = None
print(TOTAL)
""",
    "classes": """
class Odd(int):
    def __eq__(self, other): return True
    def __hash__(self): return 0
    def __repr__(self): return '15'
    __str__ = __repr__
total = Odd(TOTAL)
print(total)
""",
    "recursion": """
import sys
print(TOTAL)
sys.setrecursionlimit(60)
""",
    "working-folder-gone": """
import os, tempfile
gone = tempfile.mkdtemp()
os.chdir(gone)
os.rmdir(gone)
print(TOTAL)
""",
    "environment": """
import os, sys
os.environ.clear()
sys.path.clear()
sys.meta_path.clear()
print(TOTAL)
""",
    "limits": """
import resource
resource.setrlimit(resource.RLIMIT_NOFILE, (3, 3))
print(TOTAL)
""",
    "file-limit": """
import resource
resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
print(TOTAL)
""",
}
