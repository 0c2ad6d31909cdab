"""Many trial edits in one process, with what a case can change put back between them.

Put back: the module's names (made afresh), the learner's other modules, streams and ``input``,
arguments, working folder, environment, random state, recursion limit, the built-ins, the
attributes of the standard modules that were loaded. Files are the tool's to put back, where the
process says that some were touched (``dirty``). Where something happened that cannot be put back (a
thread, a signal handler), it says that as well (``spoilt``) and the tool starts another.
"""

from __future__ import annotations

import ast
import base64
import builtins
import os
import signal
import stat
import sys

from . import modules, stand_in
from .console import Memory
from .guards import Fence, GuardStop, OutputFull, RoundGuard, limit_memory
from .imports import OwnFinder
from .perform import Program, perform
from .pieces import Pieces
from .summary import SCALAR

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    from .wire import Channel

    Request = dict[str, Any]

MOST_READ = 20 * 1024 * 1024  # bytes of a file that is compared
_NOT_AHEAD = {"this", "antigravity", "__future__", "__main__"}  # importing these does something


def serve(request: Request, channel: Channel) -> None:
    """Answer ``trial`` requests until the tool closes its end."""
    bench = _Bench(request)
    limit_memory(request["memory"])
    channel.send("hello", python=sys.version.split()[0])
    while True:
        trial = channel.receive()
        if trial is None:
            return
        channel.send("trial", **bench.run(trial))


class _Bench:
    """The program, its cases, and the state to return to."""

    def __init__(self, request: Request) -> None:
        self.folder = request["folder"]
        self.cases = {case["number"]: case for case in request["cases"]}
        self.pieces: dict[tuple[str, bool], Pieces] = {}
        self.guard = RoundGuard()
        self.edits: dict[str, str] = {}
        self.unedited: dict[int, Any] = {}  # what each case gives without an edit
        self.program = Program(self.folder, request["program"], request["top_level"], self._compile)
        self.program.tells_values = False
        os.chdir(self.folder)
        sys.path.insert(0, self.folder)
        sys.meta_path.insert(0, OwnFinder(self.program.folder, self._compile))
        stand_in.Finder(self.folder).install()
        builtins.__dict__["≠g"] = self.guard.tick
        signal.signal(signal.SIGALRM, self.guard.alarm)
        modules.make_way(self.folder)
        self.state = _State(self.program)
        self.fence = Fence(self.folder, request["allow"])

    def run(self, trial: Request) -> dict[str, Any]:
        """Run one edit on one case; returns the fields of the wire's ``trial`` message."""
        case = self.cases[trial["case"]]
        self.edits = trial["edits"]
        console = Memory(case.get("stdin") or "", trial["output"])
        self.guard.left, self.guard.tripped = trial["rounds"], False
        sys.argv = [self.program.file, *case.get("args", [])]
        modules.SeedOnImport(case["seed"]).install()
        stand_in.begin()
        console.install()
        told = self._guarded(case, console, trial["seconds"])
        written = {n: _content(os.path.join(self.folder, n)) for n in case.get("writes") or {}}
        self.state.restore()
        dirty, self.fence.dirty = self.fence.dirty, False
        refused, self.fence.refused = sorted(self.fence.refused), set()
        output, asked = console.output()
        did = {**told, "output": output, "asked": asked, "unread": console.unread()[:1000],
               "written": written, "drawn": stand_in.told()}  # fmt: skip
        about = {"id": trial["id"], "case": trial["case"], "spoilt": self.fence.spoilt,
                 "dirty": dirty, "refused": refused,
                 "ticks": trial["rounds"] - self.guard.left}  # fmt: skip
        if self.edits and did == self.unedited.get(trial["case"]):
            return {**about, "same": True}  # most edits: nothing to send, nothing to judge
        if not self.edits:
            self.unedited[trial["case"]] = did
        return {**did, **about, "output": base64.b64encode(output).decode()}

    def _guarded(self, case: Request, console: Memory, seconds: float) -> dict[str, Any]:
        ending, told = "ended", {}
        signal.setitimer(signal.ITIMER_REAL, seconds)
        self.fence.up = True
        try:
            told = perform(
                self.program, case, console,
                lambda: {"stdout": console.output()[0].decode("utf-8", "replace")},
            )  # fmt: skip
        except GuardStop:
            ending = "time"
        except OutputFull:
            ending = "output"
        except (modules.Cannot, modules.Broken):
            ending = "syntax"
        finally:
            self.fence.up = False
            signal.setitimer(signal.ITIMER_REAL, 0)
        if self.guard.tripped:
            ending = "time"  # the program caught our stop and went on: it counts all the same
        error = told.get("error") or {}
        if error:
            ending = "raised"
        starved = console.starved and bool(error) and error["type"] == "EOFError"
        return {**told, "ending": ending, "starved": starved}

    def _compile(self, data: Any, path: Any, select: Any = None) -> Any:
        """Return the codes of a file, edited where this trial edits it."""
        key = path, select is None  # a case with a call needs other parts than one with input
        if key not in self.pieces:
            self.pieces[key] = Pieces(data, path, select)
        edited = self.edits.get(os.path.relpath(path, self.folder))
        pieces = self.pieces[key]
        return pieces.plain() if edited is None else pieces.edited(edited)


class _State:
    """What a case can change in this process, and how it is put back."""

    def __init__(self, program: Any) -> None:
        self.program = program
        self.environ, self.path = dict(_environment()), list(sys.path)
        self.meta_path, self.recursion = list(sys.meta_path), sys.getrecursionlimit()
        self.streams = {n: getattr(sys, n) for n in
                        ("stdin", "stdout", "stderr", "__stdin__", "__stdout__", "__stderr__",
                         "argv", "displayhook", "excepthook")}  # fmt: skip
        self.known: dict[str, Any] = {}
        self.remember_modules()
        self.loaded = set(sys.modules) - {"__main__"}

    def remember_modules(self) -> None:
        """Keep the attributes of the modules that the program can name, and of the built-ins.

        Lists, dicts and sets among them are copied: a program may rebind a module's attribute, or
        change the object it finds there in place.
        """
        names = {"builtins", "os", "os.path"} | _imported_names(self.program)
        for name in names:
            module = sys.modules.get(name)
            if module is None or self._own(module):
                continue
            attributes = dict(module.__dict__)
            copies = {
                k: (v, v.copy())
                for k, v in attributes.items()
                if type(v) in (list, dict, set) and len(v) <= 1000 and not k.startswith("__")
                and SCALAR.issuperset(map(type, v))
            }  # fmt: skip
            self.known[name] = (module, attributes, copies)

    def _own(self, module: Any) -> bool:
        return bool(self.program.is_own(getattr(module, "__file__", None) or ""))

    def restore(self) -> None:
        """Put everything back; modules that a case loaded for the first time are kept as loaded."""
        for name in sys.modules.keys() - self.loaded:
            module = sys.modules[name]
            if name == "__main__" or (isinstance(module, type(sys)) and self._own(module)):
                del sys.modules[name]
            else:
                self.loaded.add(name)  # the interpreter's own, loaded late: kept as it is
        for name, (module, names, copies) in self.known.items():
            sys.modules[name] = module
            if module.__dict__ != names:  # identity first: equal objects are the same objects here
                module.__dict__.clear()
                module.__dict__.update(names)
            for value, copy in copies.values():
                if value != copy:
                    value.clear()
                    (value.extend if type(value) is list else value.update)(copy)
        if _environment() != self.environ:
            os.environ.clear()
            os.environ.update({os.fsdecode(k): os.fsdecode(v) for k, v in self.environ.items()})
        os.chdir(self.program.folder)
        sys.path[:] = self.path
        sys.meta_path[:] = self.meta_path
        sys.setrecursionlimit(self.recursion)
        for name, value in self.streams.items():
            setattr(sys, name, value)


def _environment() -> dict[Any, Any]:
    """Return the bytes behind ``os.environ``: comparing them is cheap, decoding them is not."""
    data: dict[Any, Any] = os.environ._data  # type: ignore[attr-defined]
    return data


def _imported_names(program: Any) -> set[str]:
    """Import, ahead of any trial, the modules that the learner's files name; returns their names.

    What is loaded before the first trial is as its makers left it, so that is what is kept.
    """
    names = set()
    for base, _folders, files in os.walk(program.folder):
        for file in files:
            if file.endswith(".py"):
                names |= _imports_in(os.path.join(base, file))
    own = {f[:-3] for f in os.listdir(program.folder) if f.endswith(".py")}
    found = set()
    for name in names:
        if name.split(".")[0] in own or name in _NOT_AHEAD or not name:
            continue
        try:
            __import__(name)
            found.add(name)
        except BaseException:
            pass  # not there, or not loadable: the program will meet that itself
    return found


def _imports_in(path: str) -> set[str]:
    try:
        tree = ast.parse(modules.read(path), path)
    except (SyntaxError, ValueError):
        return set()
    names = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module and not node.level:
            names.add(node.module)
    return names


def _content(path: str) -> str | None:
    """What stands in a file that the plan expects; None where there is none, or no plain file."""
    try:
        place = os.open(path, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK)
    except OSError:
        return None
    with os.fdopen(place, "rb") as file:
        if not stat.S_ISREG(os.fstat(place).st_mode):
            return None
        try:
            return file.read(MOST_READ).decode("utf-8", "replace")
        except OSError:
            return None
