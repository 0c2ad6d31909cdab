"""A program woven and recorded in this process, with the recorder's channel in memory."""

from __future__ import annotations

import ast
import json
from collections.abc import Sequence
from typing import Any

from oddsum.languages.python.probe.record import Recorder
from oddsum.languages.python.probe.weave import Weaver
from oddsum.languages.python.probe.wire import unpack
from oddsum.model.trace import Step
from oddsum.trace.decode import Decoder

FILE = "program.py"


class Wire:
    """A channel that keeps what is sent, through json and back as in real life."""

    def __init__(self) -> None:
        self.messages: list[dict[str, Any]] = []
        self.sent = 0

    def send_log(self, packed: bytes) -> None:
        self.messages.append({"k": "log", "data": packed})

    def send(self, kind: str, **fields: Any) -> None:
        self.messages.append(json.loads(json.dumps({"k": kind, **fields})))


def woven(source: str, log: Any = None) -> tuple[Any, Recorder, Wire]:
    """The code of a program with its notes, the recorder that takes them, and what it sends."""
    wire = Wire()
    recorder = Recorder(wire, 10**9, lambda path: path == FILE, log)  # type: ignore[arg-type]
    recorder.install()
    weaver = Weaver(FILE)
    tree = weaver.weave(ast.parse(source))
    recorder.add_module(weaver, 0, 0)
    return compile(tree, FILE, "exec"), recorder, wire


def steps_of(wire: Wire) -> Sequence[Step]:
    """What was sent, as steps."""
    decoder = Decoder(unpack=unpack)
    for message in wire.messages:
        decoder.take(message)
    return decoder.finish()
