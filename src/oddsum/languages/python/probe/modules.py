"""Loads the learner's files: the program as ``__main__`` or as a module, and what it imports."""

from __future__ import annotations

import os
import sys
import types

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]


class Cannot(Exception):
    """The program cannot start; ``fields`` are those of the wire's ``syntax`` message."""

    def __init__(self, error: BaseException, folder: str) -> None:
        super().__init__(str(error))
        file = getattr(error, "filename", None) or ""
        inside = file.startswith(folder)
        self.fields = {
            "message": getattr(error, "msg", None) or str(error),
            "file": os.path.relpath(file, folder) if inside else file,
            "line": getattr(error, "lineno", None),
            "column": getattr(error, "offset", None),
            "text": (getattr(error, "text", None) or "").rstrip("\n"),
        }


class Broken(BaseException):
    """Something of ours failed; it must not pass for the program's doing."""


def read(path: str) -> bytes:
    """Return the bytes of a source file."""
    with open(path, "rb") as file:
        return file.read()


def compile_plain(data: Any, path: Any) -> Any:
    """Compile a source file as the interpreter itself would."""
    return compile(data, path, "exec", dont_inherit=True)


def execute(code: Any, names: dict[str, Any]) -> None:
    """Run a file's code in a module's names; a file may be compiled in several pieces."""
    for piece in code if type(code) is list else [code]:
        exec(piece, names)


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


_RANDOM = ("random", "numpy.random")


class SeedOnImport:
    """Seeds random numbers when the program imports them, so that every run is the same.

    Importing ``random`` ahead of every program would cost each run some 5 ms.
    """

    def __init__(self, seed: int) -> None:
        self.seed = seed

    def install(self) -> None:
        """Watch imports from now on; what the interpreter has loaded itself is seeded at once."""
        for name in _RANDOM:
            if name in sys.modules:
                sys.modules[name].seed(self.seed)
        sys.meta_path[:] = [self, *(f for f in sys.meta_path if type(f) is not SeedOnImport)]

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
        original, seed = spec.loader.exec_module, self.seed

        def exec_module(module: Any) -> None:
            original(module)
            module.seed(seed)

        try:
            vars(spec.loader)["exec_module"] = exec_module
        except TypeError:
            pass  # a loader that takes no attributes: left unseeded
        return spec
