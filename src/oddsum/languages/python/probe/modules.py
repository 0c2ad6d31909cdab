"""Loads the learner's files: the program as ``__main__`` or as a module, and what it imports."""

from __future__ import annotations

import os
import re
import sys
import types

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]


_COOKIE = re.compile(rb"\A(?:[^\n]*\n)?[ \t\f]*#[^\n]*?coding[:=][ \t]*[-\w.]+")


class Cannot(Exception):
    """The program cannot start; ``fields`` are those of the wire's ``syntax`` message."""

    def __init__(self, error: BaseException, folder: str, path: str = "") -> None:
        super().__init__(str(error))
        file = getattr(error, "filename", None) or path
        inside = file.startswith(folder)
        self.fields = {
            "message": getattr(error, "msg", None) or str(error) or "nested too deeply",
            "file": os.path.relpath(file, folder) if inside else file,
            "line": getattr(error, "lineno", None),
            "column": getattr(error, "offset", None),
            "text": (getattr(error, "text", None) or "").rstrip("\n"),
        }


class Broken(BaseException):
    """Something of ours failed; it must not pass for the program's doing."""


def read(path: str) -> bytes:
    """Return the bytes of a source file; raises SyntaxError as the interpreter itself would.

    Compiling from memory looks at its letters less closely: a comment in another encoding passes.
    """
    with open(path, "rb") as file:
        data = file.read()
    if not data.isascii() and data[:3] != b"\xef\xbb\xbf" and not _COOKIE.search(data):
        try:
            data.decode("utf-8")
        except UnicodeDecodeError as error:
            line = data.count(b"\n", 0, error.start) + 1
            said = f"Non-UTF-8 code starting with '\\x{data[error.start]:02x}' on line {line}"
            raise SyntaxError(said, (path, line, 1, None)) from None
    return data


def compile_plain(data: Any, path: Any) -> Any:
    """Compile a source file as the interpreter itself would."""
    return compile(data, path, "exec", dont_inherit=True)


def execute(code: Any, names: dict[str, Any]) -> None:
    """Run a file's code in a module's names; a file may be compiled in several pieces."""
    for piece in code if type(code) is list else [code]:
        exec(piece, with_builtins(names))


def with_builtins(names: dict[str, Any]) -> dict[str, Any]:
    """Names for code of the program's or of a case's: ours would come with our own built-ins."""
    names.setdefault("__builtins__", sys.modules["builtins"])
    return names


def new_module(name: str, path: Any) -> Any:
    """Make an empty module in ``sys.modules``, set up as the interpreter would."""
    module: Any = types.ModuleType(name)
    module.__file__ = path
    module.__builtins__ = sys.modules["builtins"]
    if name != "__main__":
        from importlib.machinery import ModuleSpec, SourceFileLoader

        module.__spec__ = ModuleSpec(name, SourceFileLoader(name, path), origin=path)
        module.__package__ = ""
    else:
        module.__cached__ = None
    sys.modules[name] = module
    return module


bare: frozenset[str] = frozenset()  # what the interpreter had loaded before anything of ours
_OURS = frozenset({"ast", "importlib", "traceback", "linecache", "warnings"})  # loaded as needed


def make_way(folder: str) -> None:
    """Forget what was loaded for us under a name that the program has a file of its own for."""
    for name in [n for n in sys.modules if "." not in n and n not in bare | _OURS]:
        stem = os.path.join(folder, name)
        if os.path.isfile(stem + ".py") or os.path.isfile(os.path.join(stem, "__init__.py")):
            for known in [n for n in sys.modules if n == name or n.startswith(name + ".")]:
                del sys.modules[known]


_RANDOM = ("random", "numpy.random")


class SeedOnImport:
    """Seeds random numbers when the program imports them, so that every run is the same.

    That holds for ``seed()`` without a number as well, which asks for another run each time.
    Importing ``random`` ahead of every program would cost each run some 5 ms.
    """

    def __init__(self, seed: int) -> None:
        self.seed = seed

    def install(self) -> None:
        """Watch imports from now on; what the interpreter has loaded itself is seeded at once."""
        for name in _RANDOM:
            if name in sys.modules:
                self.take(sys.modules[name])
        sys.meta_path[:] = [self, *(f for f in sys.meta_path if type(f) is not SeedOnImport)]

    def take(self, module: Any) -> None:
        """Seed a module, now and wherever it is asked to seed itself from the clock."""
        seed, number = getattr(module.seed, "odd_sum", module.seed), self.seed

        def steady(a: Any = None, *more: Any, **named: Any) -> Any:
            return seed(number if a is None else a, *more, **named)

        steady.odd_sum = seed  # type: ignore[attr-defined]
        seed(number)
        module.seed = steady

    def find_spec(self, name: str, path: object = None, target: Any = None) -> Any:
        if name not in _RANDOM:
            return None
        from importlib.util import find_spec

        sys.meta_path.remove(self)
        try:
            spec = find_spec(name)
        finally:
            sys.meta_path.insert(0, self)
        if spec is None or spec.loader is None:
            return spec
        original = spec.loader.exec_module

        def exec_module(module: Any) -> None:
            original(module)
            self.take(module)

        try:
            vars(spec.loader)["exec_module"] = exec_module
        except TypeError:
            pass  # a loader that takes no attributes: left unseeded
        return spec
