"""The file the learner's interpreter is started with: takes one request, carries it out.

Arguments: the number of the descriptor to read the request from, and of the one to answer on; or
``host`` and the number of a socket, to begin many cases (see host.py).
The package is loaded by hand under a private name: an ordinary import would put this folder on
``sys.path``, where its modules would hide the learner's modules of the same name.
"""

from __future__ import annotations

import sys

_BARE = frozenset(sys.modules)  # before anything is loaded for us

import os  # noqa: E402

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]

PACKAGE = "_odd_sum_probe"


def load_package() -> None:
    """Make the folder of this file the package ``_odd_sum_probe``."""
    package = type(sys)(PACKAGE)
    package.__path__ = [os.path.dirname(os.path.abspath(__file__))]
    sys.modules[PACKAGE] = package


def main() -> int:
    """Read the request and hand it to the mode it asks for."""
    sys.path.pop(0)  # this folder: it is not the program's
    sys.dont_write_bytecode = False  # our own modules may be cached; the learner's are not
    load_package()
    from _odd_sum_probe import modules, wire  # type: ignore[import-not-found]

    modules.bare = _BARE

    if sys.argv[1] == "host":
        return _host(int(sys.argv[2]))
    channel = wire.Channel(int(sys.argv[1]), int(sys.argv[2]))
    return _carry_out(channel, channel.receive())


def _host(control: int) -> int:
    """Load what every case needs, once, then begin cases."""
    import resource  # noqa: F401  (loaded once, for all the forks)

    from _odd_sum_probe import host, ready

    sys.dont_write_bytecode = True
    known = frozenset(sys.modules)
    begun = host.serve(control, ready.take)
    if begun is not None:
        host.leave(begun(), known)
    return 0


def _carry_out(channel: Any, request: Request | None) -> int:
    """Do what a request asks for."""
    from _odd_sum_probe import wire

    if request is None or request.get("version") != wire.VERSION:
        channel.send("refused", text="The request is of another version.")
        os._exit(70)
    channel.nonce = request["nonce"]
    if request["mode"] == "trials":
        from _odd_sum_probe import trials

        sys.dont_write_bytecode = True
        trials.serve(request, channel)
        return 0
    from _odd_sum_probe import one

    if request["mode"] == "record":
        from _odd_sum_probe import record  # noqa: F401  (cached while that is allowed)
    sys.dont_write_bytecode = True
    return int(one.run(request, channel))


if __name__ == "__main__":
    sys.exit(main())
