"""Imports the learner's own modules where they are to be woven or edited."""

from __future__ import annotations

import importlib.abc
import importlib.util
import os

from .modules import execute, read

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]


class OwnFinder(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Imports the learner's own modules through ``compiler(data, path)``.

    Used where they are to be woven or edited; a plain run leaves importing to the interpreter.
    """

    def __init__(self, folder: str, compiler: Any) -> None:
        self.folder, self.compiler = folder, compiler

    def find_spec(self, name: str, path: Any = None, target: Any = None) -> Any:
        for base in path if path is not None else [self.folder]:
            stem = os.path.join(base, name.rpartition(".")[2])
            for file, package in ((os.path.join(stem, "__init__.py"), True), (stem + ".py", False)):
                if os.path.isfile(file) and os.path.realpath(file).startswith(self.folder):
                    return importlib.util.spec_from_file_location(
                        name,
                        file,
                        loader=self,
                        submodule_search_locations=[stem] if package else None,
                    )
        return None

    def create_module(self, spec: Any) -> None:
        return None

    def exec_module(self, module: Any) -> None:
        path = module.__spec__.origin
        execute(self.compiler(read(path), path), module.__dict__)
