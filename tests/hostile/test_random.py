"""Random keys, damaged plans, random messages, kills at random moments: nothing ends, nothing is lost.

A few of each in the suite; thousands in ``make soak``.
"""

from __future__ import annotations

import asyncio
import json
import os
import random
import shutil
import signal
import sys
import time
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

sys.path.insert(0, str(Path(__file__).parents[1] / "tui"))
from piloting import NARROW, WIDE, until

from conftest import FERRY, MANY, examples
from oddsum.model.case import Case, Plan
from oddsum.model.claim import Claim
from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun, Version
from oddsum.model.outcome import Outcome
from oddsum.plan.claims import read_claims, write_claims
from oddsum.plan.read import read_plan
from oddsum.plan.write import write_text
from oddsum.record.history import History
from oddsum.record.store import Store
from oddsum.run.case import facts, refuse_syntax
from oddsum.run.messages import KINDS, Hearing
from oddsum.run.process import Heard
from oddsum.run.scratch import Scratch, bundle
from oddsum.trace.decode import Decoder
from oddsum.trace.record import unreadable
from oddsum.tui.app import OddSumApp

KEYS = [
    *"abcdefghijklmnopqrstuvwxyz", *"12345", *["up", "down", "left", "right"] * 4, "enter", "escape",
    "escape", "tab", "shift+tab", "space", "pageup", "pagedown", "home", "end", "backspace", "delete",
    "question_mark", "number_sign", "plus", "minus", "slash", "comma", "full_stop", "ctrl+n", "ctrl+e",
    "ctrl+d", "ctrl+g", "ctrl+f", "ctrl+k", "ctrl+l", "ctrl+r", "ctrl+s", "ctrl+z", "ctrl+y", "ctrl+p",
]  # fmt: skip


@settings(max_examples=examples(1), derandomize=not MANY)
@given(seed=st.integers(0, 10**6), wide=st.booleans())
def test_random_keys_end_nothing(tmp_path_factory, seed, wide):
    folder = tmp_path_factory.mktemp("keys")
    chosen = random.Random(seed)
    name = chosen.choice(["fares", "tides", "parcels", "timetable"])
    for path in FERRY.glob(f"{name}.*"):
        shutil.copy(path, folder)

    async def press() -> None:
        app = OddSumApp(folder / f"{name}.py", None, sys.executable)
        app.going_on.raises = True
        async with app.run_test(size=WIDE if wide else NARROW) as pilot:
            for _ in range(60):
                key = chosen.choice(KEYS)
                if key == "u":  # somebody's own editor takes the terminal
                    continue
                await pilot.press(key)
                assert app.is_running, key
            work = app.workspace
            await until(pilot, lambda: not work.checking.busy)

    asyncio.run(press())


@st.composite
def damaged(draw: Any) -> bytes:
    """A plan that was good, with some of its bytes lost, doubled, moved or put in."""
    data = bytearray(draw(st.sampled_from(sorted(FERRY.glob("*.cases.toml")))).read_bytes())
    for _ in range(draw(st.integers(1, 6))):
        at = draw(st.integers(0, len(data)))
        how = draw(st.integers(0, 3))
        piece = draw(st.binary(max_size=8) | st.sampled_from(
            [b"=", b"[[case]]\n", b'"""', b"inf", b"-1", b"\x00", b"{", b"1e999", b"\xff", b"files"]
        ))  # fmt: skip
        if how == 0:
            del data[at : at + draw(st.integers(1, 60))]
        elif how == 1:
            data[at:at] = piece
        elif how == 2:
            data[at : at + len(piece)] = piece
        else:
            data[at:at] = data[max(0, at - 80) : at]
    return bytes(data)


@settings(max_examples=examples(60))
@given(data=damaged())
@example(data=b"[[case]]\nname = 'a'\nfiles = {'' = 'x', '.' = 'y', 'a' = '1', 'a/b' = '2'}\n")
@example(data=b"[[case]]\nname = 'a'\ncall = '" + b"(" * 20_000 + b")" * 20_000 + b"'\n")
@example(data=b"timeout = inf\n[[case]]\nname = 'a'\n")
@example(data=b"a = " + b"[" * 20_000)
@example(data=b"[[case]]\nname = 'a'\nexit = 9999999999999999999999\n")
def test_a_damaged_plan_is_read_or_refused_in_a_sentence(tmp_path_factory, data):
    folder = tmp_path_factory.mktemp("plan")
    program = folder / "ferry.py"
    program.write_text("print(15)\n")
    path = program.with_suffix(".cases.toml")
    path.write_bytes(data)
    try:
        plan = read_plan(path, program)
        with Scratch(bundle(plan)) as scratch:
            for case in plan.cases[:4]:
                scratch.lay(case)
                scratch.put_back()
    except OddSumError as error:
        assert str(error).strip() and "Traceback" not in str(error)
    assert path.read_bytes() == data


values = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=6), inner),
    max_leaves=10,
)
GOOD: dict[str, Any] = {
    "end": {"status": 0, "error": None, "returned": None, "checked": None, "drawn": None, "cpu": 0.1},
    "looping": {"frames": [["/x/ferry.py", [1, 2], 9, ["n"], [[1, [[["n", "1"]]]]], "f", 2]]},
    "syntax": {"message": "no", "file": "ferry.py", "line": 1, "column": 2, "text": "x"},
    "read": {"text": "5"}, "cut": {"why": "steps"}, "refused": {"text": "no"},
    "statements": {"base": 0, "rows": [["ferry.py", 1, 1, "", "assign"]]},
    "slots": {"base": 0, "rows": [["", "n", True]]}, "class": {"title": "A", "bases": []},
    "log": {"events": [0, 1, "n", ~0]},
}  # fmt: skip


@st.composite
def messages(draw: Any) -> list[dict[str, Any]]:
    made = []
    for _ in range(draw(st.integers(1, 5))):
        kind = draw(st.sampled_from([*GOOD, *KINDS]))
        fields = {"k": kind, **json.loads(json.dumps(GOOD.get(kind, {})))}
        for name in draw(st.lists(st.sampled_from([*fields, "extra"]), max_size=2)):
            if name != "k":
                fields[name] = draw(values)
        made.append(fields)
    return made


@settings(max_examples=examples(80))
@given(sent=messages())
def test_whatever_a_probe_says_becomes_a_result_or_a_sentence(sent):
    hearing, heard, case = Hearing(), Heard(), Case(number=1, name="a")
    decoder = Decoder()
    data = b"".join(hearing.nonce.encode() + json.dumps(m).encode() + b"\n" for m in sent)
    for message in hearing.take(data):
        try:
            with unreadable(case):
                decoder.take(message)
        except OddSumError:
            return
        heard.messages.append(message)
    plan = Plan(program=FERRY / "fares.py")
    with Scratch(bundle(plan)) as scratch:
        try:
            refuse_syntax(heard, scratch.bundle.files)
            facts(heard, case, scratch)
        except OddSumError as error:
            assert str(error).strip()


# -- kills ---------------------------------------------------------------------------------------

TEXTS = [f"x = {n}\n" * 400 for n in range(6)]


def keep_writing(folder: Path, seed: int) -> None:
    """Write program, plan, claims, notebook and record over and over, as a window would."""
    chosen = random.Random(seed)
    history = History(folder / "ferry.py", Store(folder / "history.db"))
    while True:
        text = chosen.choice(TEXTS)
        what = chosen.randrange(4)
        if what == 0:
            write_text(folder / "ferry.py", text)
        elif what == 1:
            write_text(
                folder / "ferry.cases.toml", f'[[case]]\nname = "a"\nstdout = "{len(text)}"\n'
            )
        elif what == 2:
            write_claims(folder / "ferry.py", (Claim(line=1, text="x = 0", holds="x == 0"),))
        else:
            run = PastRun(at=1.0, seconds=0.1, outcomes={"a": Outcome.AGREES})
            history.add_run(run, Version(files={"ferry.py": text}))
            history.write_entry(Entry(at=2.0, own=text))


def whole(folder: Path) -> None:
    """Everything is one of the texts that were written, and can be read."""
    program = folder / "ferry.py"
    assert not program.exists() or program.read_text() in TEXTS
    plan = folder / "ferry.cases.toml"
    assert not plan.exists() or tomllib.loads(plan.read_text())["case"][0]["name"] == "a"
    if program.exists():
        read_claims(program)
    store = Store(folder / "history.db")
    history = History(program, store)
    assert all(run.outcomes == {"a": Outcome.AGREES} for run in history.runs())
    assert all(entry.own in TEXTS for entry in history.entries())
    assert store.set_aside is None


@pytest.mark.parametrize("two", [False, True], ids=["one window", "two windows"])
def test_what_is_kept_is_whole_after_kills_at_random_moments(tmp_path, two):
    for number in range(examples(25) // 2):
        writers = []
        for seed in range(number, number + 1 + two):
            child = os.fork()
            if child == 0:
                try:
                    keep_writing(tmp_path, seed)
                except OddSumError:  # the other window holds the record: a sentence, in real life
                    os._exit(0)
                finally:
                    os._exit(1)
            writers.append(child)
        time.sleep(random.Random(number).uniform(0.0, 0.06))
        for child in writers:
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
        whole(tmp_path)
