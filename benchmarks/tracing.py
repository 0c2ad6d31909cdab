"""What a long recording takes, how quickly it answers, and what parts and watches cost apart."""

from __future__ import annotations

import statistics
import tempfile
import time
import tracemalloc
from collections.abc import Callable
from pathlib import Path

from figures import Figure, in_turn, middle, ratio

from oddsum.languages.python.asking import Question
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.languages.python.loops import loops
from oddsum.model.case import Case, Plan
from oddsum.model.trace import Trace
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.loops import passes, told
from oddsum.trace.record import Wanted, recording
from oddsum.trace.search import first_true

DAY = """
def fare(age):
    if age < 2:
        return 0
    if age <= 15:
        return 3
    return 6

total = 0
takings = []
for day in range({days}):
    n = 7
    while n < 90:
        n = n + 3
        if n % 2 == 0:
            total = total + fare(n)
        else:
            total = total - 1
    takings.append(total)
print(total)
"""
MANY, FEW = 5_376, 300  # days: a million steps, and some 56,000
_TIMES = 15


def measure() -> list[Figure]:
    tracemalloc.start()
    story = Story(_recorded(MANY))
    held = tracemalloc.get_traced_memory()[0]
    story.prepare()
    with_indexes = tracemalloc.get_traced_memory()[0]
    tracemalloc.stop()
    count = len(story)
    how = (
        f"{count:,} steps of scalar code with calls, and a list that grows; counted by tracemalloc"
    )
    del story
    # Once more for the times: counting memory slows everything down.
    began = time.perf_counter()
    story = Story(_recorded(MANY))
    recorded = time.perf_counter()
    story.prepare()
    prepared = time.perf_counter()
    return [
        Figure("bytes a step, held", held / count, "B", "at most 300", how),
        Figure("bytes a step, with the indexes", with_indexes / count, "B", "", how),
        Figure(
            "a million steps recorded", recorded - began, "s", "", "the plain run, probe and tool"
        ),
        Figure("indexes made", prepared - recorded, "s", "", "behind the scenes, once a recording"),
        _loops(story, prepared - recorded),
        *_jumps(story),
        *_apart(),
    ]


def _loops(story: Story, indexes: float) -> Figure:
    """Every time its loops were gone through, in sentences, against making the indexes once."""
    source = Source("fares.py", DAY.format(days=MANY))
    began = time.perf_counter()
    count = rounds = 0
    for loop in loops(source):
        for one in passes(story, loop)[:200]:
            told(story, loop, one)
            count, rounds = count + 1, rounds + one.rounds
    spent = time.perf_counter() - began
    how = f"{count:,} times through a loop, {rounds:,} rounds in all: {spent:.3f} s"
    return Figure("loops told / indexes made", spent / indexes, "x", "", how)


def _recorded(days: int) -> Trace:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "fares.py"
        path.write_text(DAY.format(days=days))
        case = Case(number=1, name="one", stdin="")
        plan, interpreter = Plan(program=path, cases=(case,)), find_interpreter(path, None)
        with Scratch(bundle(plan)) as scratch:
            plain = run_case(plan, case, scratch, fresh(interpreter))
            return recording(plan, case, scratch, fresh(interpreter), plain, Wanted()).trace


def _jumps(story: Story) -> list[Figure]:
    """The slowest of the questions that an index answers, from places all over the run."""
    last = story.last
    places = [1 + n * (last - 1) // _TIMES for n in range(_TIMES + 1)]
    questions: dict[str, Callable[[int], object]] = {
        "a step by number, with all values": lambda n: (story.step(n), story.values_at(n)),
        "this line again, and before": lambda n: (
            story.next_at({("fares.py", story.step(n).line)}, n),
            story.last_at({("fares.py", story.step(n).line)}, n)),
        "next and last change of a variable": lambda n: (
            story.next_change("total", 0, n), story.last_change("total", 0, n)),
        "into, over and out of a call": lambda n: (story.into(n), story.over(n), story.out(n)),
        "the next call": story.next_call,
        "output so far": story.output_until,
    }  # fmt: skip
    figures = []
    for name, ask in questions.items():
        times = []
        for n in places:
            began = time.perf_counter()
            ask(n)
            times.append((time.perf_counter() - began) * 1e3)
        how = f"the slowest of {len(times)}, median {statistics.median(times):.2f} ms"
        figures.append(Figure(f"1,000,000 steps: {name}", max(times), "ms", "under 50", how))
    began = time.perf_counter()
    first_true(story, Question("total > 10 ** 9"), 0)
    took = time.perf_counter() - began
    figures.append(Figure("1,000,000 steps: a condition never true", took, "s", "",
                          "asked at every step that can change it, behind the scenes"))  # fmt: skip
    return figures


def _apart() -> list[Figure]:
    """The same case recorded as ever, with the parts of one line, with a watch."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "fares.py"
        path.write_text(DAY.format(days=FEW))
        case = Case(number=1, name="one", stdin="")
        plan, interpreter = Plan(program=path, cases=(case,)), find_interpreter(path, None)
        with Scratch(bundle(plan)) as scratch:
            plain = run_case(plan, case, scratch, fresh(interpreter))

            def recorded(wanted: Wanted) -> Callable[[], object]:
                return lambda: recording(plan, case, scratch, fresh(interpreter), plain, wanted)

            part = Wanted(part=("fares.py", 17, 50))
            ever, parts, watched = in_turn(
                5, recorded(Wanted()), recorded(part), recorded(Wanted(watches=("total * 2",)))
            )
    how = (
        f"{middle(ever):.2f} s as ever, {middle(parts):.2f} s parts, {middle(watched):.2f} s watch"
    )
    return [
        Figure("parts of one line / recording", ratio(parts, ever), "x", "", how),
        Figure("one watch / recording", ratio(watched, ever), "x", "", how),
    ]
