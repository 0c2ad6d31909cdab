"""What recording costs: against a do-nothing ``sys.settrace`` line callback, and a plain run.

All three run in this one process and interpreter. The recording includes weaving, and packing the
log and writing it (to the null device); not the start of an interpreter.
"""

from __future__ import annotations

import ast
import os
import sys
import types

from figures import Figure, in_turn, middle, ratio
from workloads import WANTED, WORKLOADS

from oddsum.languages.python.probe.record import Recorder
from oddsum.languages.python.probe.weave import Weaver
from oddsum.languages.python.probe.wire import Channel

ROUNDS = 15


def measure() -> list[Figure]:
    figures = []
    for name, source in WORKLOADS.items():
        plain, traced, recorded = in_turn(
            ROUNDS, _plain(source), _with_nothing_callback(source), _recorded(source)
        )
        plain_ms, traced_ms, recorded_ms = (middle(t) * 1e3 for t in (plain, traced, recorded))
        how = f"{plain_ms:.1f} ms plain, {traced_ms:.1f} callback, {recorded_ms:.1f} rec."
        to_callback = ratio(recorded, traced)
        figures.append(
            Figure(
                f"recording / callback: {name}",
                to_callback,
                "x",
                WANTED.get(name, ""),
                how,
            )
        )
        figures.append(Figure(f"recording / plain: {name}", ratio(recorded, plain), "x", "", how))
    return figures


def _plain(source: str):
    code = compile(source, "workload.py", "exec")
    return lambda: exec(code, {"__name__": "__main__"})


def _with_nothing_callback(source: str):
    code = compile(source, "workload.py", "exec")

    def nothing(frame: types.FrameType, event: str, arg: object):
        return nothing

    def run() -> None:
        sys.settrace(nothing)
        try:
            exec(code, {"__name__": "__main__"})
        finally:
            sys.settrace(None)

    return run


def _recorded(source: str):
    """The woven program; weaving is part of every run, as it is in a real one."""

    def run() -> None:
        reader, writer = os.open(os.devnull, os.O_RDONLY), os.open(os.devnull, os.O_WRONLY)
        channel = Channel(reader, writer)
        recorder = Recorder(channel, 10**9, lambda path: path == "workload.py")
        recorder.install()
        weaver = Weaver("workload.py")
        tree = weaver.weave(ast.parse(source))
        recorder.add_module(weaver, 0, 0)
        exec(compile(tree, "workload.py", "exec"), {"__name__": "__main__"})
        recorder.flush()
        os.close(writer)

    return run
