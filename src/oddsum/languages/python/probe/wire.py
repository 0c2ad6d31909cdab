"""The wire format between the tool and the probe: plain data, a line of JSON a message.

Version 1. Both sides import this file, and nothing else of each other.

*Tool to probe*: one request line (and in trials mode more of them), an object with ``version``,
``nonce``, ``aside``, ``mark``, ``mode`` (``case``, ``record``, ``live`` or ``trials``) and what
the mode needs.

In trials mode each further line asks to ``do`` something:

- ``load`` edits: ``texts``, by file, of the files they are of; ``edits``, splices by file each (see
  splices.py); ``cases`` beside those of the request. It has no answer.
- ``try`` some of them on a ``case``: ``numbers``, a list of edits, from 0, for each trial; ``id``;
  ``rounds``, ``seconds``, ``output`` and ``depth`` for each; ``memory``, bytes by which all of them
  may make the process grow, or null; ``spend``, seconds after which to answer with those tried.
  Where ``apart`` is false, edits that would have to be compiled by themselves have outcome -1.
- ``values`` tries other values of expressions on a ``case``, towards what is ``expected`` of its
  output, of the places in ``only`` or of all of its ``share``, the how many-th (from 0) of so many;
  and prints lines that are missing there in each gap of its share.
- ``express`` looks for expressions for a ``place``, from ``rows``, ``[case, row]`` each, whose
  values were right, and from cases that are ``agreeing``; where ``when`` is set, for conditions
  that hold where these values are due. A probe that answers these two says so (``values``, in
  languages/language.py).

*Probe to tool*: lines that begin with the nonce, a random text made for this one run, followed by a
JSON object with ``k``, its kind. A line without the nonce, or with fields that its kind has not,
was written by the program: it is counted and told, and never taken for a result. ``read``,
``typed``, ``printed`` and ``looping`` begin with ``aside`` instead, another such text.

=========  =====================================================================================
``k``      fields
=========  =====================================================================================
hello      trials: ``python``, version text: ready for the first
begun      ``cpu``: seconds of the processor before the program runs, where it begins in a process
           of its own that is long in coming; the case's time counts from here
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
built      trials: ``id``: the edits are put together: what takes long from now on hangs
tried      trials: ``id``, ``case``, ``outcomes``, a number for each edit tried, in order: all
           that came out alike has one number; ``new``, what was told by none before, with the
           fields of ``end`` and ``output`` (base64), ``asked``, ``ending``, ``written``; ``spoilt``
           and ``dirty``: the process, its folder have to be put back, and it ended early;
           ``refused``, what the fence refused, in the words of a plan's ``allow``; ``ticks``,
           rounds and calls of the last; ``grew``, bytes that a run without ``memory`` needed
valued     trials: ``id``, ``case``, ``new`` as of ``tried``; ``rows`` of ``[row, place, visit,
           gave, would, outcome]``: a value put in the place of another, at a visit, 0 for all of
           them, and the number of what came out; ``places``, ``[file, start, stop, line]`` of the
           expressions, by their number; ``gaps``, ``[number, side, prints]`` of those that
           are gaps, ``before`` or ``behind`` the statement that stands there, and whether other
           lines are printed in the same function; ``when``, ``[row, condition, sort]`` of rows
           that are due where a condition holds, or blank, where it holds in the only round;
           ``spoilt`` and ``dirty``
expressed  trials: ``id``, ``texts`` of ``[text, size]``, expressions that give what is wanted
=========  =====================================================================================

A line that goes on with ``=`` after the nonce is a recorded run's ``log``: packed events, see
``record.py``; json would take several times as long to write and to read.

*In the program's standard output* the request's ``mark``, another random text, marks places after a
zero byte: ``<`` a prompt of ``input()`` begins, ``>`` it ends (a read follows), ``!`` what came so
far is not compared. What a program prints it could read back: the nonce is never there.
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


_written = getattr(json.encoder, "c_make_encoder", None)
_quoted = json.encoder.encode_basestring_ascii


def as_json(value: Any) -> str:
    """Plain data as text of json.

    Done in C: the module's own code looks for its parts in places that a program can change.
    """
    if _written is None:  # an interpreter without it
        return json.dumps(value)
    encode = _written(None, _refuse, _quoted, None, ":", ",", False, False, True)
    return "".join(encode(value, 0))


def _refuse(value: Any) -> Any:
    raise TypeError(f"no plain data: {type(value).__name__}")


def marked(own_mark: str, sign: bytes) -> bytes:
    """Bytes that mark a place in the program's output."""
    return b"\0" + own_mark.encode() + sign


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
    """One end of the wire, in the probe. Sending never raises: the program may have closed it.

    A process that the program forks has the wire too, and would tell its own end as the program's:
    only the process that owns the channel says how things came out.
    """

    def __init__(self, reader: int | None, writer: int) -> None:
        self._reader = None if reader is None else os.fdopen(reader, "rb", closefd=True)
        self._writer = writer
        self._place = _place_of(writer)
        self.nonce = ""
        self.aside = Aside(self)
        self.sent = 0  # bytes
        self.own()

    def own(self) -> None:
        """From now on this process speaks."""
        self._owner = os.getpid()

    def take(self, request: Request) -> None:
        """The texts of this run."""
        self.nonce = request["nonce"]
        self.aside.nonce, self.aside.mark = request["aside"], request["mark"]

    def hang_up(self) -> None:
        """No more requests are read: what came with one is not for the program to read."""
        if self._reader is not None:
            self._reader.close()

    def receive(self) -> Request | None:
        """Return the next request, or None when the tool has closed its end."""
        line = self._reader.readline() if self._reader is not None else b""
        return json.loads(line) if line else None

    def send(self, kind: str, **fields: Any) -> None:
        """Send one message; whether it got through is for the tool to notice."""
        if self._owner == os.getpid():
            fields["k"] = kind
            self._write((self.nonce + as_json(fields) + "\n").encode())

    def send_log(self, packed: bytes) -> None:
        """Send packed events, which end with a line end."""
        if self._owner == os.getpid():
            self._write(self.nonce.encode() + b"=" + packed)

    def _write(self, data: bytes) -> None:
        self.sent += len(data)
        if _place_of(self._writer) == self._place:
            _write_all(self._writer, data)


class Aside:
    """The wire for what a program does on its way: what it reads and prints, and where it hangs.

    These are told by objects that a program can come to, as what stands for ``input``. So they have
    a random text of their own, by which nobody can say how the run ended. Processes that the
    program forks tell what they read and print as well.
    """

    def __init__(self, channel: Channel) -> None:
        self._writer, self._place = channel._writer, channel._place
        self.nonce = self.mark = ""

    def send(self, kind: str, **fields: Any) -> None:
        """Send one message."""
        fields["k"] = kind
        if _place_of(self._writer) == self._place:
            _write_all(self._writer, (self.nonce + as_json(fields) + "\n").encode())


def _place_of(descriptor: int) -> Any:
    """What a descriptor leads to; a program may have closed ours, and opened something there."""
    try:
        found = os.fstat(descriptor)
    except OSError:
        return None
    return found.st_dev, found.st_ino


_under_way: list[int] = []  # writes that are not done, of this process


def is_writing() -> bool:
    """Whether a message is half sent: nothing may be written between its parts."""
    return bool(_under_way) and _under_way[-1] == os.getpid()


def _write_all(descriptor: int, data: bytes) -> None:
    _under_way.append(os.getpid())
    try:
        while data:
            data = data[os.write(descriptor, data) :]
    except OSError:
        pass
    finally:
        _under_way.pop()
