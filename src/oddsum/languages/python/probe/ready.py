"""What a host makes ready before it forks: the request read, the program and its pieces compiled.

Compiling writes to some 250 pages of memory. In a fork each of them would have to be copied first,
which takes longer than the compiling; in the host they are written once.
"""

from __future__ import annotations

import io
import json
import os
import sys

from . import modules, one, perform, wire

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

MOST = 8  # programs kept compiled: a search for mends brings a new one every time
MOST_PIECES = 4_000  # of cases: a host can outlive many plans


def take(descriptor: int, end: int) -> Any:
    """Read a request for a case from a file and make ready what it needs.

    ``end`` is the wire's descriptor. Returns what the fork calls to carry it out, which gives the
    exit status.
    """
    with os.fdopen(os.dup(descriptor), "rb") as file:
        request = json.loads(file.readline())
    channel = wire.Channel(None, end)
    if request.get("version") != wire.VERSION or request.get("mode") not in ("case", "record"):
        return lambda: _refuse(channel)
    channel.take(request)
    if request["mode"] == "record":
        from . import imports, record, woven  # noqa: F401  (loaded once, for all recordings)

        _try(_weave, request)
        return lambda: one.run(request, channel)
    _try(_compile, request)
    prepared = one.Prepared(request, channel)
    return lambda: one.go(prepared)


def _try(make: Any, request: Any) -> None:
    """Make something ready; a fault in it is left for the fork, which meets it as well."""
    before = set(sys.modules)
    try:
        make(request)
    except Exception:
        pass
    for name in set(sys.modules) - before:
        del sys.modules[name]  # a program may have a module of that name


def _refuse(channel: Any) -> int:
    channel.send("refused", text="The request is of another version, or for no case.")
    return 70


def _compile(request: Any) -> None:
    case, path = request["case"], os.path.join(request["folder"], request["program"])
    data = modules.read(path)
    if case.get("call") is None:
        _keep((data, path, "script"), lambda: modules.compile_plain(data, path))
        return
    _keep((data, path, request["top_level"]), lambda: _module(request, data, path))
    for pieces in (perform._CODES, perform._READ):
        if len(pieces) > MOST_PIECES:
            pieces.clear()
    perform._code(case["call"].strip(), "<call>")
    if case.get("returns") is not None:
        perform._names_read(case["returns"].strip())
        perform._code(case["returns"].strip(), "<returns>")
    if case.get("before"):
        perform._code(case["before"], "<before>", "exec")


def _weave(request: Any) -> None:
    from . import woven

    if request.get("parts") or request.get("watches"):
        return  # it is woven otherwise for these
    program = perform.Program(request["folder"], request["program"], request["top_level"], None)
    data, called = modules.read(program.path), request["case"].get("call") is not None
    key = woven.key_of(data, program.path, program.top_level if called else None)
    select = program.select if called else None
    _keep(key, lambda: woven.woven(program, data, program.path, select))


def _module(request: Any, data: Any, path: str) -> Any:
    import ast

    program = perform.Program(request["folder"], request["program"], request["top_level"], None)
    tree = program.select(ast.parse(data, path))
    return compile(tree, path, "exec", dont_inherit=True), program.skipped


def _keep(key: Any, make: Any) -> None:
    """Keep what was made; not where making it had something to say, for the fork is to say it."""
    if key in perform.READY:
        return
    told, sys.stderr = sys.stderr, io.StringIO()
    try:
        made = make()
        silent = not sys.stderr.getvalue()
    finally:
        sys.stderr = told
    if silent:
        if len(perform.READY) >= MOST:
            perform.READY.clear()
        perform.READY[key] = made
