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
import gc
import marshal
import os
import signal
import stat
import sys
import time
from importlib.util import decode_source

from . import modules, stand_in
from .asleep import Skipping
from .choices import SWITCHES, made_of, with_ticks
from .console import Memory
from .express import expressions
from .guards import (
    Fence,
    GuardStop,
    OutputFull,
    RoundGuard,
    limit_growth,
    limit_memory,
    most_used,
)
from .imports import OwnFinder
from .perform import Program, perform
from .solving import Solving
from .summary import SCALAR

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    from .wire import Channel

    Request = dict[str, Any]

MOST_READ = 20 * 1024 * 1024  # bytes of a file that is compared
_LONGEST = 0.1  # seconds that working out one expression may take
_CALLED = 5_000  # rounds and calls of a function that is called to see what it gives
_OURS_DEEP = 60  # calls of ours below a program's
_NOT_AHEAD = {"this", "antigravity", "__future__", "__main__"}  # importing these does something


def serve(request: Request, channel: Channel) -> None:
    """Answer requests (see the head of wire.py) until the tool closes its end."""
    bench = _Bench(request)
    limit_memory(request["memory"])
    gc.collect()
    gc.freeze()  # what is loaded by now stays: the collector need not go over it again
    channel.send("hello", python=sys.version.split()[0])
    while True:
        asked = channel.receive()
        if asked is None:
            return
        if asked["do"] == "load":
            bench.load(asked)
        elif asked["do"] == "try":
            bench.put_together(bench.cases[asked["case"]])
            channel.send("built", id=asked["id"])
            channel.send("tried", id=asked["id"], **bench.run(asked))
        elif asked["do"] == "values":
            bench.solver(bench.cases[asked["case"]])
            channel.send("built", id=asked["id"])
            channel.send("valued", id=asked["id"], **bench.values(asked))
        else:
            channel.send("expressed", id=asked["id"], **bench.express(asked))


class _Bench:
    """The program with its edits, its cases, and the state to return to."""

    def __init__(self, request: Request) -> None:
        self.folder = request["folder"]
        self.cases = {case["number"]: case for case in request["cases"]}
        self.guard = RoundGuard()
        self.grew = 0  # bytes by which a run that might grow as ever made the process grow
        self.texts: dict[str, str] = {}  # of files that are other than on the disk, to begin with
        self.edits: list[Any] = []  # each by file its splices
        self.numbers: tuple[int, ...] = ()  # the edits that are tried, at once
        self.plain: dict[Any, Any] = {}  # compiled files without an edit
        self.made: dict[Any, dict[int, Any]] = {}  # files with their edits, by edit
        self.switches: list[int] = []
        self.on: list[int] = []  # switches that are on
        self.solving: Solving | None = None  # the program with hooks, while values are tried
        self.hooked = False  # whether it is that which runs
        self.known: dict[int, dict[bytes, int]] = {}  # by case: what came out, and its number
        self.program = Program(self.folder, request["program"], request["top_level"], self._compile)
        self.program.tells_values, self.program.reader = False, self._read
        self.read: dict[str, bytes] = {}  # files of the program as they were found
        self.names: dict[str, str] = {}  # of files, by path
        self.console: Any = None
        os.chdir(self.folder)
        sys.path.insert(0, self.folder)
        sys.meta_path.insert(0, OwnFinder(self.program.folder, self._compile))
        stand_in.Finder(self.folder).install()
        builtins.input = self._input  # one for all runs: a built-in that changes is slow to find
        builtins.__dict__["≠g"] = self.guard.tick
        builtins.__dict__[SWITCHES] = self.switches
        signal.signal(signal.SIGALRM, self.guard.alarm)
        modules.make_way(self.folder)
        self.skipping = Skipping()
        self.skipping.install()
        self.state = _State(self.program)
        self.fence = Fence(self.folder, request["allow"])

    def load(self, asked: Request) -> None:
        """Take other edits, counted from 0."""
        self.texts, self.edits = asked["texts"], asked["edits"]
        self.cases.update((case["number"], case) for case in asked["cases"])
        self.switches[:] = [0] * len(self.edits)
        self.made.clear()
        self.plain.clear()
        self.solving = None

    def run(self, asked: Request) -> dict[str, Any]:
        """Try edits on one case; returns the fields of the wire's ``tried`` message.

        It ends ahead of its time where something has to be put back that only the tool can.
        """
        case, known = self.cases[asked["case"]], self.known.setdefault(asked["case"], {})
        until = time.monotonic() + asked["spend"]
        self.fence.refused = set()
        outcomes: list[int] = []
        new: list[Any] = []
        used = most_used()
        limit_growth(asked.get("memory"))
        for numbers in asked["numbers"]:
            self.numbers = tuple(numbers)
            if not asked.get("apart", True) and self._meet(case):
                outcomes.append(-1)
                continue
            outcomes.append(self._numbered(known, new, self._did(case, asked)))
            if self.fence.dirty or self.fence.spoilt or time.monotonic() > until:
                break
        limit_growth(None)
        if asked.get("memory") is None:  # the system tells the most so far: a second run adds none
            self.grew = max(self.grew, most_used() - used)
        dirty, self.fence.dirty = self.fence.dirty, False
        if dirty or case.get("files"):
            self.read.clear()
        return {"case": asked["case"], "outcomes": outcomes, "new": new, "dirty": dirty,
                "spoilt": self.fence.spoilt, "refused": sorted(self.fence.refused),
                "ticks": asked["rounds"] - self.guard.left,
                "grew": self.grew}  # fmt: skip

    def _meet(self, case: Request) -> bool:
        """Whether edits that are to be made at once lie in one place, and cost a compilation."""
        for name in {file for n in self.numbers for file in self.edits[n]}:
            plain = self._place_of(name, case)[1] is None
            mine = tuple(n for n in self.numbers if name in self.edits[n])
            trees = {self.made[name, plain][n] for n in mine}
            if len(mine) > 1 and (len(trees) > 1 or next(iter(trees)) is None
                                  or next(iter(trees)).codes(mine, False) is None):  # fmt: skip
                return True
        return False

    # -- which values would be right ---------------------------------------------------------------

    def values(self, asked: Request) -> dict[str, Any]:
        """Try other values of expressions on a case; returns the fields of ``valued``."""
        case, solving = self.cases[asked["case"]], self.solver(self.cases[asked["case"]])
        self.numbers = ()
        base = self._did(case, asked)
        known = self.known.setdefault(asked["case"], {})
        new: list[Any] = []
        same = self._numbered(known, new, base)
        rows: list[Any] = []
        when: list[Any] = []
        given = base["returned"] or {}
        expected = given.get("expected") or case.get("returns") or asked["expected"] or ""
        actual = given.get("actual") or base["output"].decode("utf-8", "replace")
        self.fence.refused = set()
        limit_growth(asked.get("memory"))
        for row, did in solving.values(case, asked, expected, actual):
            number = self._numbered(known, new, did)
            if number != same:
                when += [[len(solving.rows), *said] for said in solving.told_when(row)]
                rows.append([len(solving.rows), *solving.told(row), number])
                solving.rows.append(row)
            if self.fence.spoilt or self.fence.dirty:
                break
        limit_growth(None)
        dirty, self.fence.dirty = self.fence.dirty, False
        places = [[p.file, p.start, p.stop, p.line] for p in solving.places.all]
        gaps = [[n, p.gap, p.prints] for n, p in enumerate(solving.places.all) if p.gap]
        return {"case": asked["case"], "new": new, "rows": rows, "places": places, "gaps": gaps,
                "when": when, "dirty": dirty, "spoilt": self.fence.spoilt}  # fmt: skip

    def express(self, asked: Request) -> dict[str, Any]:
        """Look for expressions that give the values wanted; returns the fields of ``expressed``.

        ``rows`` are of odd cases, by case; ``agreeing`` the cases in which what it gives is right.
        """
        solving = self.solving
        if solving is None:
            return {"texts": []}
        self.numbers, place = (), asked["place"]
        moments: list[Any] = []
        of_rows = [(number, solving.rows[row]) for number, row in asked["rows"]]
        for number, row in [*of_rows, *((number, None) for number in asked["agreeing"])]:
            self.solver(self.cases[number])
            moments += solving.moments(self.cases[number], asked, place, row)
        one = solving.places.all[place]
        self.fence.up = True
        try:
            text = self.texts[one.file]
            found = expressions(
                one, text, moments, asked["spend"], self._allow_more, asked["when"],
                [condition.text for _, row in of_rows for condition in row.when],
            )  # fmt: skip
        finally:
            signal.setitimer(signal.ITIMER_REAL, 0)
            self.fence.up = False
        return {"texts": [[text, size] for text, size in found]}

    def _allow_more(self, begins: bool) -> None:
        """An expression is worked out from now on, or has been: so much it may take."""
        self.guard.left = _CALLED
        signal.setitimer(signal.ITIMER_REAL, _LONGEST if begins else 0)

    def _on_hooks(self, case: Request, asked: Request) -> dict[str, Any]:
        """Run a case with every expression hooked."""
        self.hooked = True
        try:
            return self._did(case, asked)
        finally:
            self.hooked = False

    def solver(self, case: Request) -> Solving:
        """The program with hooks, read for a case of this kind."""
        if self.solving is None:
            self.solving = Solving(self._on_hooks, self.state.put)
        for name, text in self.texts.items():
            path, select = self._place_of(name, case)
            self.solving.prepare(name, text, path, select)
        return self.solving

    @staticmethod
    def _numbered(known: dict[bytes, int], new: list[Any], did: dict[str, Any]) -> int:
        """The number of what a run did; what was not told before is put into ``new``."""
        key = marshal.dumps(did, 2)
        if key not in known:
            known[key] = len(known)
            new.append({**did, "output": base64.b64encode(did["output"]).decode()})
        return known[key]

    def _did(self, case: Request, asked: Request) -> dict[str, Any]:
        """Run the case with the edit in hand; returns all that can be told of it."""
        self.console = console = Memory(case.get("stdin") or "", asked["output"])
        sys.argv = [self.program.file, *case.get("args", [])]
        modules.SeedOnImport(case["seed"]).install()
        stand_in.begin()
        self.skipping.begin()
        console.install()
        sys.setrecursionlimit(min(self.state.recursion, _OURS_DEEP + asked["depth"]))
        told = self._guarded(case, console, asked)
        written = {n: _content(os.path.join(self.folder, n)) for n in case.get("writes") or {}}
        self.state.restore()
        output, prompts = console.output()
        return {**told, "output": output, "asked": prompts, "unread": console.unread()[:1000],
                "written": written, "drawn": stand_in.told()}  # fmt: skip

    def _guarded(self, case: Request, console: Memory, asked: Request) -> dict[str, Any]:
        ending, told = "ended", {}
        self.guard.start(asked["rounds"], asked["seconds"])
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
            self.guard.stop()
            self._switch_off()
        if self.guard.tripped:
            ending = "time"  # the program caught our stop and went on: it counts all the same
        error = told.get("error") or {}
        if error:
            ending = "raised"
        starved = console.starved and bool(error) and error["type"] == "EOFError"
        return {**told, "ending": ending, "starved": starved}

    def _input(self, prompt: object = "", /) -> str:
        """Stand for the built-in ``input``."""
        return str(self.console.input(prompt))

    def _read(self, path: str) -> bytes:
        """A file of the program, as long as nobody can have changed it."""
        if path not in self.read:
            self.read[path] = modules.read(path)
        return self.read[path]

    # -- the program with its edits ----------------------------------------------------------------

    def _compile(self, data: Any, path: Any, select: Any = None) -> Any:
        """Return the code of a file, with the edit in hand switched on where it is of this file."""
        if path not in self.names:
            self.names[path] = os.path.relpath(path, self.folder)
        name = self.names[path]
        if self.hooked and self.solving is not None and name in self.texts:
            return self.solving.codes[name, select is None]
        key = name, select is None  # a case with a call needs other parts than one with input
        mine = tuple(n for n in self.numbers if name in self.edits[n])
        if not mine:
            if key not in self.plain:
                self.plain[key] = self._plainly(self.texts.get(name, data), path, select)
            return self.plain[key]
        trees = {self.made[key][n] for n in mine}
        made = trees.pop()
        if made is None or trees:
            raise SyntaxError("it makes no program")
        code = made.codes(mine)
        for number in mine:
            for switch in (number, *made.ahead.get(number, ())):
                self.switches[switch] = 1
                self.on.append(switch)
        return code

    def put_together(self, case: Request) -> None:
        """Read and compile the files that have edits, ahead of any run: it counts for none."""
        for name in {file for edit in self.edits for file in edit}:
            path, select = self._place_of(name, case)
            if (name, select is None) not in self.made:
                self.made[name, select is None] = self._with_edits(name, path, select)

    def _place_of(self, name: str, case: Request) -> tuple[str, Any]:
        """A file's path, and what selects the statements that a case needs of it; None: all."""
        path = os.path.join(self.folder, name)
        called = case.get("call") is not None and path == self.program.path
        return path, self.program.select if called else None

    def _with_edits(self, name: str, path: str, select: Any) -> dict[int, Any]:
        edits = [(n, edit[name]) for n, edit in enumerate(self.edits) if name in edit]
        text = self.texts.get(name)
        text = decode_source(modules.read(path)) if text is None else text
        return made_of(text, path, select, edits, self.switches)

    @staticmethod
    def _plainly(text: Any, path: Any, select: Any) -> Any:
        tree: Any = ast.parse(text, path)
        if select is not None:
            tree = select(tree)
        return compile(with_ticks(tree), path, "exec", dont_inherit=True)

    def _switch_off(self) -> None:
        """Back to the program without an edit."""
        for switch in self.on:
            self.switches[switch] = 0
        self.on.clear()


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
        names = _imported_names(self.program)
        # A program that imports nothing comes to no module but the built-ins.
        names |= {"builtins", "os", "os.path"} if names else {"builtins"}
        for name in names:
            module = sys.modules.get(name)
            if module is None or self._own(module):
                continue
            attributes = dict(module.__dict__)
            copies = {
                k: (v, v.copy())
                for k, v in attributes.items()
                if type(v) in (list, dict, set) and len(v) <= 1000 and not k.startswith(("__", "≠"))
                and SCALAR.issuperset(map(type, v))
            }  # fmt: skip
            self.known[name] = (module, attributes, copies)

    def _own(self, module: Any) -> bool:
        return bool(self.program.is_own(getattr(module, "__file__", None) or ""))

    def put(self, name: str, value: Any) -> None:
        """Put something of ours among the built-ins, to stay there."""
        builtins.__dict__[name] = self.known["builtins"][1][name] = value

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
        sys.path[:] = self.path  # not the folder: a process that left it is given up
        sys.meta_path[:] = self.meta_path
        sys.setrecursionlimit(self.recursion)
        for name, value in self.streams.items():
            setattr(sys, name, value)


def _environment() -> dict[Any, Any]:
    """Return the bytes behind ``os.environ``: comparing them is cheap, decoding them is not."""
    data: dict[Any, Any] = os.environ._data  # type: ignore[attr-defined]
    return data


def _imported_names(program: Any) -> set[str]:
    """Import, ahead of any trial, the modules that the program's files name; returns their names.

    What is loaded before the first trial is as its makers left it, so that is what is kept. Other
    programs that lie in the folder do not matter.
    """
    found, seen, todo = set(), set(), [program.path]
    while todo:
        path = todo.pop()
        for name in _imports_in(path):
            own = _own_files(program.folder, name)
            if name in seen or name in _NOT_AHEAD or not name:
                continue
            seen.add(name)
            if own:
                todo += own
                continue
            try:
                __import__(name)
                found.add(name)
            except BaseException:
                pass  # not there, or not loadable: the program will meet that itself
    return found


def _own_files(folder: str, name: str) -> list[str]:
    """The learner's files that an import of a name runs, as far as names tell."""
    stem = os.path.join(folder, *name.split("."))
    first = os.path.join(folder, name.partition(".")[0])
    every = [stem + ".py", os.path.join(stem, "__init__.py"), first + ".py",
             os.path.join(first, "__init__.py")]  # fmt: skip
    if os.path.isdir(stem):
        every += [os.path.join(stem, f) for f in os.listdir(stem) if f.endswith(".py")]
    return [path for path in dict.fromkeys(every) if os.path.isfile(path)]


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
