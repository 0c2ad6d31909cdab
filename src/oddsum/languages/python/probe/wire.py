"""The wire format between the tool and the probe: plain data, a line of JSON a message.

Version 1. Both sides import this file, and nothing else of each other.

*Tool to probe*: one request line (and in trials mode more of them), an object with ``version``,
``nonce``, ``mode`` (``case``, ``record``, ``live`` or ``trials``) and what the mode needs.

*Probe to tool*: lines that begin with the nonce, a random text made for this one run, followed by a
JSON object with ``k``, its kind. A line without the nonce was written by the program by accident:
it is counted and told, and never taken for a result.

=========  =====================================================================================
``k``      fields
=========  =====================================================================================
hello      trials: ``python``, version text: ready for the first
refused    ``text``: why the request cannot be carried out
syntax     ``message``, ``file``, ``line``, ``column``, ``text``: the program cannot start
read       ``text``: one answer of ``input()``, without its line end, in order
typed      live runs: ``data``, bytes that the program read, as latin-1 text
printed    live runs: ``data``, bytes that it printed, as latin-1 text
looping    ``frames``: outermost first, ``[file, lines seen, how many, names that changed,
           visits]`` with ``[line, variables at its last visits]`` each: where it goes round
statements recorded runs: ``base``, ``rows`` of ``[file, line, end, function, kind]``
slots      recorded runs: ``base``, ``rows`` of ``[function, name, in_module]``
parts      recorded runs that ask for the ``parts`` of a line: ``rows``, see ``parts.py``
cut        recorded runs: ``why``, ``steps`` or ``size``: a limit was reached and the program ended
end        ``status``, ``error`` (with ``values`` at its line), ``starved``, ``unread``,
           ``returned``, ``checked``, ``check_error``, ``remarks``, ``cpu``, and ``skipped``,
           the lines that a ``call`` leaves out
trial      trials: ``id``, ``case`` and the fields of ``end`` with ``output`` (base64), ``asked``,
           ``ending``, ``ticks`` (rounds and calls), ``written``, ``spoilt``, ``dirty``
=========  =====================================================================================

A line that goes on with ``=`` after the nonce is a recorded run's ``log``: packed events, see
``record.py``; json would take several times as long to write and to read.

*In the program's standard output* the same nonce, after a zero byte, marks places: ``<`` a prompt
of ``input()`` begins, ``>`` it ends (a read follows), ``!`` what came so far is not compared.
"""

from __future__ import annotations

import binascii
import json
import marshal
import os

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    Request = dict[str, Any]

VERSION = 1
# How many operands stand before each tag of a recorded log: see the table in record.py.
OPERANDS = {"call": 2, "back": 1, "z": 2, "u": 1, "s": 1, "n": 1, "f": 1, "e": 1, "r": 1, "y": 1,
            "rl": 1, "l": 0, "cells": 0, "c": 1,
            "x": 2, "p": 1, "h": 1, "i": 1, "o": 1, "new": 2, "all": 2, "set": 4, "add": 3,
            "drop": 3, "t": 2, "k": 2, "w": 2, "part": 2}  # fmt: skip
_PACKING = 4  # the version of marshal that every interpreter since 3.4 reads and writes
OPEN, CLOSE, FRESH = b"<", b">", b"!"


def mark(nonce: str, sign: bytes) -> bytes:
    """Bytes that mark a place in the program's output."""
    return b"\0" + nonce.encode() + sign


def pack(events: list[Any], sendable: Any) -> bytes:
    """Events as text; ``sendable`` makes plain data of a part that is none."""
    try:
        data = marshal.dumps(events, _PACKING)
    except ValueError:
        data = marshal.dumps([sendable(e) for e in events], _PACKING)
    return binascii.b2a_base64(data)


def unpack(text: bytes) -> list[Any]:
    """The events of a log; raises ValueError, EOFError or TypeError where it is none."""
    events = marshal.loads(binascii.a2b_base64(text))
    if type(events) is not list:
        raise ValueError("no list of events")
    return events


class Channel:
    """One end of the wire, in the probe. Sending never raises: the program may have closed it."""

    def __init__(self, reader: int | None, writer: int) -> None:
        self._reader = None if reader is None else os.fdopen(reader, "rb", closefd=True)
        self._writer = writer
        self.nonce = ""
        self.sent = 0  # bytes

    def receive(self) -> Request | None:
        """Return the next request, or None when the tool has closed its end."""
        line = self._reader.readline() if self._reader is not None else b""
        return json.loads(line) if line else None

    def send(self, kind: str, **fields: Any) -> None:
        """Send one message; whether it got through is for the tool to notice."""
        fields["k"] = kind
        self._write((self.nonce + json.dumps(fields) + "\n").encode())

    def send_log(self, packed: bytes) -> None:
        """Send packed events, which end with a line end."""
        self._write(self.nonce.encode() + b"=" + packed)

    def _write(self, data: bytes) -> None:
        self.sent += len(data)
        try:
            while data:
                data = data[os.write(self._writer, data) :]
        except OSError:
            pass
