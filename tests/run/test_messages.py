"""Nothing is taken from the wire but what a probe can have sent."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from oddsum.run.messages import KINDS, MOST_MESSAGE, Hearing, read_message

END = {"k": "end", "status": 0, "error": None, "cpu": 0.1, "remarks": [], "skipped": [3]}
plain = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=6), inner),
    max_leaves=12,
)
fields = st.sampled_from(
    ["status", "error", "frames", "rows", "text", "file", "line", "column", "why", "id", "case"]
)


@given(st.sampled_from(sorted(KINDS)), st.dictionaries(fields, plain))
def test_whatever_a_message_holds_is_whole_or_refused(kind, given):
    message = read_message(json.dumps({**given, "k": kind}).encode())
    if message is not None and kind == "looping":
        for path, lines, seen, changed, visits, *_ in message["frames"]:
            assert isinstance(path, str) and lines and seen >= 0
            assert all(isinstance(c, str) for c in changed) and dict(visits) is not None


@given(st.binary())
@example(b"[" * 100_000)
@example(b'{"k": ' + b"[" * 100_000 + b"}")
@example(b'{"k": "end", "status": ' + b"9" * 5_000 + b"}")
@example(b'"k"')
@example(b'{"k": ["end"]}')
@example(b'{"k": "end", "k": null}')
def test_bytes_that_are_no_message_are_counted_and_never_raise(data):
    hearing = Hearing()
    line = hearing.nonce.encode() + data.replace(b"\n", b"").lstrip(b"=") + b"\n"
    assert hearing.take(line) == []
    assert hearing.foreign == len(line)


@pytest.mark.parametrize("change", [
    {"status": "0"}, {"status": None}, {"error": {"type": "E"}}, {"error": []}, {"cpu": "1"},
    {"cpu": None}, {"remarks": "no"}, {"remarks": [1]}, {"skipped": [-1]}, {"skipped": [1.5]},
    {"returned": {"actual": 5}}, {"drawn": {"lines": [[0, 0]]}}, {"starved": 1}, {"unread": None},
    {"k": "begin"}, {"k": None},
])  # fmt: skip
def test_a_field_of_another_type_makes_it_no_message(change):
    assert read_message(json.dumps(END).encode()) == END
    assert read_message(json.dumps({**END, **change}).encode()) is None


def test_messages_come_whole_however_they_are_cut_and_only_from_who_knows_the_text():
    hearing = Hearing()
    start = hearing.nonce.encode()
    lines = [start + json.dumps({"k": "read", "text": t}).encode() + b"\n" for t in "abc"]
    lines.insert(1, b'{"k": "read", "text": "forged"}\n')
    lines.insert(3, b"0" * len(start) + b'{"k": "read", "text": "guessed"}\n')
    data, heard = b"".join(lines), []
    for at in range(0, len(data), 7):
        heard += hearing.take(data[at : at + 7])
    assert [m["text"] for m in heard] == ["a", "b", "c"]
    assert hearing.foreign == len(lines[1]) + len(lines[3])


def test_how_a_case_ended_is_said_once():
    hearing = Hearing()
    line = hearing.nonce.encode() + json.dumps(END).encode() + b"\n"
    assert len(hearing.take(line * 3)) == 1 and hearing.foreign == 2 * len(line)


def test_a_line_without_an_end_is_not_kept_for_ever():
    hearing: Any = Hearing()
    piece = b"x" * (1 << 20)
    for _ in range(MOST_MESSAGE // len(piece) + 2):
        hearing.take(piece)
    assert len(hearing._rest) <= MOST_MESSAGE and hearing.foreign > MOST_MESSAGE
