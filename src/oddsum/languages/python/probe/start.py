"""The file the learner's interpreter is started with: takes one request, carries it out.

Arguments: the number of the descriptor to read the request from, and of the one to answer on; or
``host`` and the number of a socket, to begin many cases (see host.py).
The package is loaded by hand, into a house of its own (``House``): an ordinary import would put
this folder on ``sys.path``, where its modules would hide the learner's modules of the same name.
"""

from __future__ import annotations

import sys

_BARE = frozenset(sys.modules)  # before anything is loaded for us

import builtins  # noqa: E402
import os  # noqa: E402

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]

PACKAGE = "_odd_sum_probe"


class House:
    """Our modules, where the program finds none of them, each with built-ins of their own.

    They stand in no ``sys.modules``, and what the program puts in the place of a built-in, or of a
    function of the system's, is for itself: ``len`` and ``os.write`` mean the same to us whatever
    they mean to the program. The interpreter looks for an ``import`` statement's ``__import__``
    among a module's own built-ins, which is how they find each other.
    """

    def __init__(self, folder: str) -> None:
        self._folder = folder
        self._modules: dict[str, Any] = {}
        self._found: dict[str, Any] = {}  # modules of the system's, as they were found
        self._import = builtins.__import__
        self._builtins = {**builtins.__dict__, "__import__": self.bring}
        self._package = self._new("", folder)
        self._package.__path__ = [folder]

    def bring(
        self, name: str, globals: Any = None, locals: Any = None, wanted: Any = (), level: int = 0
    ) -> Any:
        """Stand for ``__import__`` in our modules: ``from . import a`` and ``from .a import b``."""
        if level == 0:
            module = self._import(name, globals, locals, wanted, level)
            if name in _AS_FOUND:
                return self._found.get(name) or self._found.setdefault(name, _copy(module))
            return module
        if name:
            return self.module(name)
        for each in wanted or ():
            self._package.__dict__[each] = self.module(each)
        return self._package

    def module(self, name: str) -> Any:
        """One of our modules, loaded when it is first asked for."""
        if name not in self._modules:
            path = os.path.join(self._folder, name + ".py")
            loader: Any = _file_loader()(f"{PACKAGE}.{name}", path)
            code = loader.get_code(f"{PACKAGE}.{name}")
            self._modules[name] = module = self._new(name, path)
            exec(code, module.__dict__)
        return self._modules[name]

    def _new(self, name: str, path: str) -> Any:
        module: Any = type(sys)(f"{PACKAGE}.{name}".rstrip("."))
        module.__file__, module.__package__ = path, PACKAGE
        module.__builtins__ = self._builtins
        return module


_AS_FOUND = frozenset({"atexit", "binascii", "fcntl", "gc", "io", "json", "marshal", "os",
                       "resource", "signal", "time"})  # fmt: skip


def _copy(module: Any) -> Any:
    """A module with the same in it; what is put into the one is not in the other."""
    copied: Any = type(sys)(module.__name__)
    copied.__dict__.update(module.__dict__)
    if module.__name__ == "os":
        copied.path = _copy(module.path)
    return copied


def _file_loader() -> Any:
    """What reads a module's file, and keeps it compiled; the interpreter has it already."""
    import _frozen_importlib_external

    return _frozen_importlib_external.SourceFileLoader


def main() -> int:
    """Read the request and hand it to the mode it asks for."""
    sys.path.pop(0)  # this folder: it is not the program's
    sys.dont_write_bytecode = False  # our own modules may be cached; the learner's are not
    house = House(os.path.dirname(os.path.abspath(__file__)))
    house.module("modules").bare = _BARE
    if sys.argv[1] == "host":
        return _host(house, int(sys.argv[2]))
    channel = house.module("wire").Channel(int(sys.argv[1]), int(sys.argv[2]))
    return _carry_out(house, channel, channel.receive())


def _host(house: House, control: int) -> int:
    """Load what every case needs, once, then begin cases."""
    host, ready = house.module("host"), house.module("ready")
    sys.dont_write_bytecode = True
    known = frozenset(sys.modules)
    begun = host.serve(control, ready.take)
    if begun is not None:
        host.leave(begun(), known)
    return 0


def _carry_out(house: House, channel: Any, request: Request | None) -> int:
    """Do what a request asks for."""
    if request is None or request.get("version") != house.module("wire").VERSION:
        channel.send("refused", text="The request is of another version.")
        os._exit(70)
    channel.take(request)
    if request["mode"] == "trials":
        trials = house.module("trials")
        sys.dont_write_bytecode = True
        trials.serve(request, channel)
        return 0
    channel.hang_up()
    one = house.module("one")
    if request["mode"] == "record":
        house.module("record")  # cached while that is allowed
    sys.dont_write_bytecode = True
    return int(one.run(request, channel))


if __name__ == "__main__":
    sys.exit(main())
