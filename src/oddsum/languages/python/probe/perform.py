"""Carries out one case: runs the program or makes the call, and says how that ended."""

from __future__ import annotations

import builtins
import os
import sys

from . import modules, stand_in, values, wire
from .guards import Cut, GuardStop, OutputFull
from .summary import summarise, variables

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    Request = dict[str, Any]

# Compiled ahead by a host, for plain runs: (content, path, "script") to code; (content, path, what
# of the top level runs) to code and the lines left out.
READY: dict[Any, Any] = {}
_OURS = (Cut, GuardStop, OutputFull, modules.Broken)


class Program:
    """The learner's program in this process: where it is and how its files are compiled."""

    def __init__(self, folder: str, file: str, top_level: str, compiler: Any) -> None:
        self.folder = folder + os.sep
        self.file, self.path = file, os.path.join(folder, file)
        self.top_level, self.compiler = top_level, compiler
        self.skipped: list[int] = []
        self.reader = modules.read
        self.tells_values = True  # of the line where it stopped; a trial need not

    def is_own(self, path: str) -> bool:
        """Whether a code object's file is one of the learner's."""
        return path.startswith(self.folder)

    def run_as_script(self) -> dict[str, Any]:
        """Run the program as ``python PROGRAM`` would; returns its names."""
        data = self._read()
        code = self._ready(data, "script") or self._compiled(data, None)
        module = modules.new_module("__main__", self.path)
        modules.execute(code, module.__dict__)
        return dict_of(module)

    def load_for_call(self) -> dict[str, Any]:
        """Run what a call needs of the program, as a module; returns its names."""
        name = os.path.splitext(os.path.basename(self.file))[0]
        data = self._read()
        made = self._ready(data, self.top_level)
        if made:
            code, self.skipped = made
        else:
            code = self._compiled(data, self.select)
        module = modules.new_module(name, self.path)
        modules.execute(code, module.__dict__)
        return dict_of(module)

    def _ready(self, data: bytes, what: str) -> Any:
        """What a host has compiled of this, for a plain run."""
        return READY.get((data, self.path, what)) if self.compiler is None else None

    def _read(self) -> bytes:
        try:
            return self.reader(self.path)
        except SyntaxError as error:
            raise modules.Cannot(error, self.folder, self.path) from None

    def select(self, tree: Any) -> Any:
        if self.top_level == "needed":
            from . import needed

            tree.body, self.skipped = needed.select(tree)
        return tree

    def _compiled(self, data: Any, select: Any) -> Any:
        try:
            return self.compiler(data, self.path, select)
        except (SyntaxError, ValueError, RecursionError, MemoryError) as error:
            raise modules.Cannot(error, self.folder, self.path) from None
        except Exception as error:
            raise modules.Broken(f"{type(error).__name__}: {error}") from error


def perform(
    program: Any, case: Request, console: Any, extra: Callable[[], dict[str, Any]]
) -> dict[str, Any]:
    """Run the case; returns the fields of the wire's ``end`` message that depend on the program.

    ``extra()`` gives the names a ``check`` may use besides the module's: its ``stdout``.
    Raises modules.Cannot when the program cannot start.
    """
    told: dict[str, Any] = {
        "status": 0,
        "error": None,
        "returned": None,
        "checked": None,
        "check_error": "",
        "part": "",  # of the case, that is being worked out: an error in it is not the program's
    }
    try:
        value, names = None, {}
        if case.get("call") is None:
            names = program.run_as_script()
        else:
            names = program.load_for_call()
            value = _call(case, names, console, told)
        _finish_threads()
        if case.get("check") is not None:
            _check(case, names, value, extra, told)
    except _OURS:
        raise
    except SystemExit as error:
        told["status"] = _exit_status(error)
    except modules.Cannot:
        raise
    except BaseException as error:
        if _cannot_start(error, program):
            raise modules.Cannot(error, program.folder) from None
        told["error"] = describe(error, program)
        if told["error"]["line"] is None:
            told["error"]["part"] = told["part"]
    finally:
        del told["part"]
    return told


def dict_of(module: Any) -> dict[str, Any]:
    """The names of a module, the dict itself."""
    names: dict[str, Any] = module.__dict__
    return names


def _cannot_start(error: BaseException, program: Any) -> bool:
    """Whether it is a syntax error in one of the learner's own modules."""
    file = getattr(error, "filename", None)
    return isinstance(error, SyntaxError) and isinstance(file, str) and program.is_own(file)


_CODES: dict[tuple[str, str], Any] = {}  # compiled pieces of cases: a trial runs them many times
_READ: dict[str, list[str]] = {}
_WANTED: dict[str, tuple[str, str]] = {}  # text and type of what is expected


def _code(text: str, name: str, mode: str = "eval") -> Any:
    """Compile a piece of a case, once."""
    key = text, name
    if key not in _CODES:
        _CODES[key] = compile(text, name, mode, dont_inherit=True)
    return _CODES[key]


def _names_read(text: str) -> list[str]:
    """Return the names that an expression reads and the interpreter does not have built in."""
    if text not in _READ:
        import ast

        nodes = [n for n in ast.walk(ast.parse(text, mode="eval")) if isinstance(n, ast.Name)]
        names = [n.id for n in nodes if isinstance(n.ctx, ast.Load)]
        _READ[text] = [n for n in dict.fromkeys(names) if not hasattr(builtins, n)]
    return _READ[text]


def _call(case: Request, names: Any, console: Any, told: Any) -> Any:
    if case.get("before"):
        told["part"] = "before"
        exec(_code(case["before"], "<before>", "exec"), modules.with_builtins(names))
    expected = None
    if case.get("returns") is not None:
        told["part"] = "returns"
        expected = _expected(case["returns"], names)
    console.mark(wire.FRESH)
    stand_in.fresh()
    told["part"] = "call"
    value = eval(_code(case["call"].strip(), "<call>"), modules.with_builtins(names))
    told["part"] = ""
    summary = summarise(value)
    returned: dict[str, Any] = {"actual": summary.text, "type": summary.type}
    if expected is not None:
        wanted, own_names = expected
        told_of = _WANTED.get(case["returns"]) if not own_names else None
        if told_of is None:
            summary = summarise(wanted)
            told_of = _WANTED[case["returns"]] = summary.text, summary.type
        returned["expected"], returned["expected_type"] = told_of
        returned["own_names"] = own_names
        returned["equal"] = values.same(wanted, value, case["tolerance"])
    told["returned"] = returned
    return value


def _expected(text: str, names: Any) -> tuple[Any, list[str]]:
    """Evaluate ``returns`` apart from the program; names only it knows are taken and reported."""
    code = _code(text.strip(), "<returns>")
    apart: dict[str, Any] = {}
    own = []
    for name in _names_read(text.strip()):
        if name in names and not _is_module(names[name]):
            own.append(name)
            apart[name] = names[name]
        elif _is_standard(name):
            apart[name] = __import__(name)
    return eval(code, modules.with_builtins(apart)), sorted(own)


def _is_module(value: Any) -> bool:
    return isinstance(value, type(sys))


def _is_standard(name: str) -> bool:
    known = getattr(sys, "stdlib_module_names", None)
    return name in known if known is not None else name in ("math", "decimal", "fractions",
                                                            "datetime", "collections")  # fmt: skip


def _check(
    case: Request, names: Any, value: Any, extra: Callable[[], dict[str, Any]], told: Any
) -> None:
    scope = {**names, "result": value, **extra()}
    try:
        told["checked"] = bool(
            eval(_code(case["check"].strip(), "<check>"), modules.with_builtins(scope))
        )
    except Exception as error:
        told["checked"], told["check_error"] = False, f"{type(error).__name__}: {error}"


def _finish_threads() -> None:
    """Wait for the program's threads, as the interpreter does before it ends."""
    threading = sys.modules.get("threading")
    if threading is None:
        return
    try:
        for thread in threading.enumerate():
            if thread is not threading.current_thread() and not thread.daemon:
                thread.join()
    except (AttributeError, TypeError):  # the program took these away: as the interpreter does it
        threading._shutdown()


def _exit_status(error: SystemExit) -> int:
    code = error.code
    if code is None:
        return 0
    if isinstance(code, int):
        return code & 0xFF if -(1 << 63) <= code < 1 << 63 else 0xFF  # as the interpreter has it
    print(code, file=sys.stderr)
    return 1


def _values_in(frame: Any, error: BaseException) -> list[list[str]]:
    """The variables of a frame; none where there is no room left to write them."""
    if frame is None or isinstance(error, (MemoryError, RecursionError)):
        return []
    try:
        return variables(frame.f_locals)
    except Exception:
        return []


def _innermost(error: BaseException, program: Any) -> Any:
    """The last entry of an error's way that is in one of the learner's own files.

    It is looked for from the end: a deep recursion has thousands, and each look at a frame costs.
    """
    way: list[Any] = []
    trace = error.__traceback__
    while trace is not None:
        way.append(trace)
        trace = trace.tb_next
    own = (t for t in reversed(way) if program.is_own(t.tb_frame.f_code.co_filename))
    return next(own, None)


def describe(error: BaseException, program: Any) -> dict[str, Any]:
    """Return what the contract's ``error`` says: the innermost line of the learner's own files."""
    file = line = frame = None
    inner = _innermost(error, program)
    if inner is not None:
        frame, line = inner.tb_frame, inner.tb_lineno
        file = frame.f_code.co_filename[len(program.folder) :]
    try:
        message = str(error)
    except Exception:
        message = "(its own text cannot be read)"
    bases = [c.__name__ for c in type(error).__mro__ if issubclass(c, BaseException)]
    return {
        "type": type(error).__name__,
        "message": message[:2000],
        "file": file,
        "line": line,
        "bases": bases,
        "values": _values_in(frame, error) if program.tells_values else [],
    }
