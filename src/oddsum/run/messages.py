"""What a probe may say: each kind of message with its fields, held against what really came.

The program runs beside the probe and may write where it should not. So nothing is taken from the
wire but a line that begins with the run's own random text and is whole: of a kind that is known,
with the fields of that kind and no value of another type. All else counts as foreign. The table
of what the fields mean stands at the head of Python's ``probe/wire.py``.
"""

from __future__ import annotations

import json
import os
from typing import Annotated, Any, Literal, NotRequired, TypedDict

import msgspec

from oddsum.languages.language import Gap
from oddsum.model.case import Allow
from oddsum.model.outcome import ErrorInfo, Returned
from oddsum.model.picture import Picture
from oddsum.model.typed import convert

Message = dict[str, Any]
_Count = Annotated[int, msgspec.Meta(ge=0, le=1 << 53)]
_Line = Annotated[int, msgspec.Meta(ge=0, le=1 << 31)]
_Rows = list[list[tuple[str, str]]]


class _Hello(TypedDict):
    k: str
    python: NotRequired[str]


class _Begun(TypedDict):
    k: str
    cpu: Annotated[float, msgspec.Meta(ge=0)]


class _Refused(TypedDict):
    k: str
    text: str


class _Syntax(TypedDict):
    k: str
    message: str
    file: str
    line: _Line | None
    column: int | None
    text: NotRequired[str | None]


class _Text(TypedDict):
    k: str
    text: str


class _Data(TypedDict):
    k: str
    data: str


class _Frame(msgspec.Struct, array_like=True):
    file: str
    lines: Annotated[list[_Line], msgspec.Meta(min_length=1)]
    seen: _Count
    changed: list[str]
    visits: list[tuple[_Line, _Rows]]
    function: str = ""
    last: _Line | None = None


class _Looping(TypedDict):
    k: str
    frames: list[_Frame]


class _Statements(TypedDict):
    k: str
    base: NotRequired[_Count]
    rows: list[tuple[str, _Line, _Line, str, str]]
    home: NotRequired[str | None]


class _Slots(TypedDict):
    k: str
    base: _Count
    rows: list[tuple[str, str, bool]]


class _Class(TypedDict):
    k: str
    title: str
    bases: list[str]


class _Parts(TypedDict):
    k: str
    rows: list[list[Any]]


class _Containment(TypedDict):
    k: str
    rows: list[Any]
    steps: NotRequired[_Count]


class _Cut(TypedDict):
    k: str
    why: Literal["steps", "size"]


class _Told(TypedDict):
    """How a case ended: what ``end`` says of it, and ``tried`` of each trial like no other."""

    status: NotRequired[int]
    error: NotRequired[ErrorInfo | None]
    starved: NotRequired[bool]
    unread: NotRequired[str]
    returned: NotRequired[Returned | None]
    checked: NotRequired[bool | None]
    check_error: NotRequired[str]
    drawn: NotRequired[Picture | None]
    refused: NotRequired[list[Allow]]


class _End(_Told):
    k: str
    remarks: NotRequired[list[str]]
    cpu: NotRequired[float]
    skipped: NotRequired[list[_Line]]


class _Outcome(_Told):
    output: bytes  # base64
    asked: list[tuple[_Count, _Count, str]]
    ending: Literal["ended", "raised", "time", "output", "syntax"]
    written: NotRequired[dict[str, str | None]]


class _Built(TypedDict):
    k: str
    id: _Count


class _Tried(TypedDict):
    k: str
    id: _Count
    case: int
    outcomes: list[Annotated[int, msgspec.Meta(ge=-1)]]
    new: list[_Outcome]
    dirty: bool
    spoilt: bool
    refused: list[Allow]
    ticks: int
    grew: NotRequired[_Count]


class _Valued(TypedDict):
    k: str
    id: _Count
    case: int
    new: list[_Outcome]
    rows: list[tuple[_Count, _Count, _Count, str, str, _Count]]
    places: list[tuple[str, _Count, _Count, _Line]]
    gaps: NotRequired[list[tuple[_Count, Gap, bool]]]
    when: NotRequired[list[tuple[_Count, str, str]]]
    dirty: bool
    spoilt: bool


class _Expressed(TypedDict):
    k: str
    id: _Count
    texts: list[tuple[str, float]]


class _Events(TypedDict):
    k: str
    events: list[Any]


KINDS: dict[str, Any] = {
    "hello": _Hello, "begun": _Begun, "refused": _Refused, "syntax": _Syntax, "read": _Text,
    "typed": _Data, "printed": _Data, "looping": _Looping, "statements": _Statements,
    "slots": _Slots, "class": _Class, "parts": _Parts, "containment": _Containment, "cut": _Cut,
    "end": _End, "built": _Built, "tried": _Tried, "valued": _Valued, "expressed": _Expressed,
    "log": _Events,
}  # fmt: skip
ASIDE = frozenset({"read", "typed", "printed", "looping"})  # what a program does on its way
ONCE = frozenset({"begun", "refused", "syntax", "end"})  # a second one is none of the probe's
MOST_MESSAGE = 64 << 20  # bytes of one line; a recording is sent in pieces far shorter


def new_nonce() -> str:
    """A random text for one run: nobody guesses it."""
    return os.urandom(16).hex()  # as `secrets` has it, which takes 8 ms to load


def read_message(line: bytes) -> Message | None:
    """A message without its nonce, whole and of its own types; None where it is none.

    A packed log is handed on as it came: whoever decodes it says whether it is one.
    """
    if line[:1] == b"=":
        return {"k": "log", "data": line[1:]}
    try:
        message = json.loads(line)
        if type(message) is not dict:
            return None
        convert(message, KINDS[message["k"]])
    except (ValueError, KeyError, TypeError, RecursionError, MemoryError):
        return None
    return message


class Hearing:
    """Takes the bytes of a wire apart into messages, and counts what is none of them."""

    def __init__(self) -> None:
        self.nonce, self.aside = new_nonce(), new_nonce()
        self.foreign = 0  # bytes that somebody else wrote there
        self._starts = self.nonce.encode(), self.aside.encode()
        self._rest = bytearray()
        self._once: set[str] = set()

    def take(self, data: bytes) -> list[Message]:
        """The messages that are whole with these bytes."""
        self._rest += data
        if b"\n" not in data:
            if len(self._rest) > MOST_MESSAGE:
                self.foreign += len(self._rest)
                self._rest.clear()
            return []
        *lines, rest = bytes(self._rest).split(b"\n")
        self._rest = bytearray(rest)
        return [m for m in map(self._read, lines) if m is not None]

    def end(self) -> None:
        """Nothing more comes: what began and did not end was no message."""
        self.foreign += len(self._rest)
        self._rest.clear()

    def _read(self, line: bytes) -> Message | None:
        message = self._message(line)
        if message is None or message["k"] in self._once:
            self.foreign += len(line) + 1
            return None
        if message["k"] in ONCE:
            self._once.add(message["k"])
        return message

    def _message(self, line: bytes) -> Message | None:
        whole, aside = self._starts
        if line.startswith(whole):
            return read_message(line[len(whole) :])
        message = read_message(line[len(aside) :]) if line.startswith(aside) else None
        return message if message is not None and message["k"] in ASIDE else None

    def texts(self) -> dict[str, str]:
        """The texts as a request carries them."""
        return {"nonce": self.nonce, "aside": self.aside}
