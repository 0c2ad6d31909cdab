"""What lies inside of what: the ledger's entries are the program's own objects, no more, no less."""

from __future__ import annotations

import contextlib
import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import DATA, OWN, other_interpreters
from oddsum.check.containment import containment_at
from oddsum.check.traced import trace_case
from oddsum.languages.language import Interpreter
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.languages.python.probe.containment import StepLog
from oddsum.languages.python.probe.guards import Cut
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.trace import Trace
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.trace.aliases import Ledger, ledger_at, may_share
from oddsum.trace.ask import Story
from oddsum.trace.containment import Containment, web_of
from oddsum.trace.record import Wanted, recording
from woven import FILE, steps_of, woven

LEVELS = 3  # that a recording follows
NAMES = st.sampled_from("abc")


def recorded(
    source: str, step: int | None = None
) -> tuple[Story, Containment | None, dict[str, Any]]:
    """A program's story, its containment, and the names it leaves; ended after a step where one is given."""
    log = None if step is None else StepLog(step)
    code, recorder, wire = woven(source, log)
    if log is not None:
        log.recorder = recorder
    names: dict[str, Any] = {"__name__": "__main__"}
    with contextlib.redirect_stdout(io.StringIO()), contextlib.suppress(Cut, Exception):
        exec(code, names)
    if log is not None:
        log.tell()
    recorder.flush()
    containment = next((web_of(m["rows"]) for m in wire.messages if m["k"] == "containment"), None)
    steps = steps_of(wire)
    trace = Trace(program=FILE, case="one", number=1, steps=steps, outcome="", complete=log is None)
    return Story(trace), containment, names


# -- the truth, from the objects themselves ------------------------------------------------------


def parts_of(value: Any) -> Iterator[tuple[Any, Any]]:
    if isinstance(value, (list, tuple)):
        yield from enumerate(value)
    elif isinstance(value, dict):
        yield from value.items()


def holders_of(names: dict[str, Any]) -> dict[int, set[Any]]:
    """Each list and dict that names lead to, by id: the names and the (object, place) that hold it."""
    found: dict[int, set[Any]] = {}

    def walk(value: Any, levels: int, holder: Any, above: tuple[int, ...]) -> None:
        if isinstance(value, (list, dict)):
            found.setdefault(id(value), set()).add(holder)
            if id(value) in above:
                return
            holder = id(value)
        elif not isinstance(value, tuple):
            return
        if levels:
            for at, part in parts_of(value):
                way = (*holder, at) if isinstance(holder, tuple) else (holder, at)
                walk(part, levels - 1, way, (*above, id(value)))

    for name, value in names.items():
        if not name.startswith("__"):
            walk(value, LEVELS, name, ())
    return found


def assert_true(found: Ledger, names: dict[str, Any]) -> None:
    objects = [{id(eval(h, names)) for h in e.holders} for e in found.entries]
    assert all(len(ids) == 1 for ids in objects)  # all that holds an entry holds one object
    entries = [next(iter(ids)) for ids in objects]
    assert len(set(entries)) == len(entries)  # which is no other entry's
    held = holders_of(names)
    due = {known for known, by in held.items() if len(by) > 1 or any(type(h) is str for h in by)}
    assert set(entries) == due  # and there is one for each object that is held more than once
    for entry, known in zip(found.entries, entries, strict=True):
        assert len(entry.holders) == len(held[known])


@st.composite
def statements(draw) -> str:
    """A change of lists that lie inside of lists, dicts and tuples."""
    one, two, three = draw(NAMES), draw(NAMES), draw(NAMES)
    return draw(st.sampled_from([
        f"{one} = []", f"{one} = {two}", f"{one} = [{two}, {three}]", f"{one} = [[1]] * 2",
        f"{one} = [[1], [2]]", f"{one} = {two}[:]", f"{one} = [{{'k': {two}}}]",
        f"{one} = [({two}, 5), {three}]", f"{one}.append({two})", f"{one}.append([])",
        f"if {one}: {one}[0] = {two}", f"if {one}: {one}.pop()", f"{one}.insert(0, {two})",
        f"{one} += [{two}]", f"for _ in range(2): {one}.append({two})", f"del {one}; {one} = [7]",
        f"if {one} and type({one}[0]) is list: {one}[0].append({two})",
        f"{one} = list(reversed({two}))", f"{one}.clear()", f"{one}.extend({two}[:2])",
        f"change({one}, {two})", f"{one} = made({two})",
    ]))  # fmt: skip


START = """def change(xs, ys):
    xs.append(ys)
    for x in xs[:3]:
        if type(x) is list:
            x[:0] = [0]
def made(xs):
    inner = [xs[:1]]
    return [inner, inner]
a, b = [1], [[2], [3]]
c = [a]
"""


@given(st.lists(statements(), min_size=1, max_size=10), st.data())
def test_entries_are_the_objects_of_the_program_at_every_step(lines, data):
    source = START + "\n".join(lines) + "\n"
    story, _, _ = recorded(source)
    module = [n for n in range(1, story.last + 1) if story.step(n).frame == 0]
    step = data.draw(st.sampled_from(module))
    _, containment, names = recorded(source, step)
    callables = {n: v for n, v in names.items() if not callable(v) or n.startswith("__")}
    assert containment is not None
    assert_true(ledger_at(story, step, containment), callables)


# -- in processes of their own ---------------------------------------------------------------------


def planned(path: Path) -> tuple[Plan, Case]:
    case = Case(number=1, name="one", stdin="")
    return Plan(program=path, cases=(case,)), case


def ledger(path: Path, step: int = 0, interpreter: Interpreter = OWN) -> Ledger:
    plan, case = planned(path)
    story = Story(trace_case(plan, case, interpreter)[0])
    step = step or story.last
    return ledger_at(story, step, containment_at(plan, case, interpreter, step))


@pytest.mark.parametrize(
    "path", sorted(p for p in (DATA / "steps").glob("*.py") if p.stem != "threads"),
    ids=lambda p: p.stem,
)  # fmt: skip
def test_steps_are_counted_as_in_a_trace(path):
    """Ended after the last step, a recording is whole; after the one before, it is not."""
    plan, case = planned(path)
    with Scratch(bundle(plan)) as scratch:
        plain = run_case(plan, case, scratch, fresh(OWN))

        def told(**wanted):
            return recording(plan, case, scratch, fresh(OWN), plain, Wanted(**wanted))

        whole = told()
        last = len(whole.trace.steps)
        for step in (1, last // 3, last - 1, last):
            found = told(containment=step)
            assert found.containment is not None
            assert (len(found.trace.steps) == last) == (step == last)


DECKS = """row = [0, 0]
decks = [row] * 2 + [[0, 0]]
copy = decks[:]
class Car:
    def __init__(self):
        self.load = []
cars = [Car(), Car()]
cars[1].load = cars[0].load
def put(car):
    car.load.append("crate")
    return car
put(cars[0])
lone = [[1], {"k": [2]}]
"""


@pytest.mark.parametrize("python", ["", *other_interpreters()])
def test_a_copy_holds_the_same_rows_and_two_cars_one_load(tmp_path, python):
    interpreter = find_interpreter(tmp_path, python) if python else OWN
    (tmp_path / "decks.py").write_text(DECKS)
    found = ledger(tmp_path / "decks.py", interpreter=interpreter)
    told = {e.holders: e.text for e in found.entries}
    assert told["row", "decks[0]", "decks[1]", "copy[0]", "copy[1]"] == "[0, 0]"
    assert told["decks[2]", "copy[2]"] == "[0, 0]"
    assert told["cars[0].load", "cars[1].load"] == "['crate']"
    assert told["lone",] == "[[1], {'k': [2]}]"  # held once: it stands where it is
    numbers = {e.holders: e.number for e in found.entries}
    one, other = (
        numbers["row", "decks[0]", "decks[1]", "copy[0]", "copy[1]"],
        numbers["decks[2]", "copy[2]"],
    )
    assert told["decks",] == f"[entry {one}, entry {one}, entry {other}]"
    assert any("decks[2] and copy[2] are one and the same list." in s for s in found.shared())


def test_inside_of_a_call_what_it_holds_is_told_before_it_is_let_go(tmp_path):
    (tmp_path / "decks.py").write_text(DECKS)
    plan, case = planned(tmp_path / "decks.py")
    story = Story(trace_case(plan, case, OWN)[0])
    (step,) = [n for n in range(1, story.last) if "return" in story.step(n).events
               and story.step(n).function == "put"]  # fmt: skip
    found = ledger(tmp_path / "decks.py", step)
    assert ("put.car", "cars[0]") in [e.holders for e in found.entries]


def test_many_places_are_counted_and_a_list_in_itself_ends(tmp_path):
    (tmp_path / "p.py").write_text("rows = [[0]] * 30\nround = [[1]]\nround[0].append(round[0])\n")
    found = ledger(tmp_path / "p.py")
    assert any("rows[5] and 24 more are one and the same list." in s for s in found.shared())
    assert ("round[0]", "round[0][1]") in [e.holders for e in found.entries]


def test_an_error_s_last_step_is_told(tmp_path):
    (tmp_path / "p.py").write_text("def f(xs):\n    ys = [xs, xs]\n    ys[9]\nf([1])\n")
    plan, case = planned(tmp_path / "p.py")
    story = Story(trace_case(plan, case, OWN)[0])
    containment = containment_at(plan, case, OWN, story.last)
    assert [e.holders for e in ledger_at(story, story.last, containment).entries] == [
        ("f.xs", "f.ys[0]", "f.ys[1]"), ("f.ys",)]  # fmt: skip


def test_flat_lists_need_no_second_run(tmp_path):
    story, _, _ = recorded("x = [1, 2]\ny = [3]\nz = [x]\n")
    assert not may_share(story, 2)
    assert may_share(story, 3)


def test_a_run_that_ends_before_the_step_is_told(tmp_path):
    (tmp_path / "p.py").write_text("import os\nx = [[1]]\nos._exit(0)\n")
    plan, case = planned(tmp_path / "p.py")
    with pytest.raises(RunError, match="did not come to step 50"):
        containment_at(plan, case, OWN, 50)
