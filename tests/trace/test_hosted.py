"""A recording that forks from a host, which has the program woven, is that of a fresh interpreter."""

from __future__ import annotations

import msgspec
import pytest

from conftest import OWN
from oddsum.check.traced import trace_case
from oddsum.model.case import Case, Plan
from oddsum.run.host import Host
from oddsum.run.terms import UNFENCED
from oddsum.trace.ask import Story

TIDE = "LEVELS = [3, 5]\n\ndef high(at):\n    return LEVELS[at] + 1\n"
PROGRAMS = {
    "a script": ("import tide\nfor at in range(int(input('How many? '))):\n    print(tide.high(at))\n", None),
    "a call": (
        "import tide\n\ndef due(n):\n    total = 0\n    while n > 0:\n        n -= 1\n"
        "        total += tide.high(n)\n    return total\n\nprint(due(int(input())))\n",
        "due(2)",
    ),
    "threads": (
        "import threading\nseats = []\nboat = threading.Thread(target=seats.append, args=(24,))\n"
        "boat.start()\nboat.join()\nprint(seats)\n",
        None,
    ),
    "no program": ("print('Skerry'\n", None),
    "changed by itself": ("import sys\ntotal = 1\ntotal += len(sys.argv)\nassert total == 3, total\n", None),
}  # fmt: skip


@pytest.mark.parametrize("name", PROGRAMS)
def test_it_is_the_same_the_first_time_and_the_second(program, tmp_path, name):
    text, call = PROGRAMS[name]
    (tmp_path / "tide.py").write_text(TIDE)
    path = program(text)
    cases = (
        Case(number=1, name="one", stdin="2\n", call=call),
        Case(number=2, name="two", stdin="1\n", call=call and call.replace("2", "1")),
    )
    plan = Plan(program=path, cases=cases)

    def traced(**how):
        try:
            return [msgspec.json.encode([*Story(trace_case(plan, c, OWN, **how)[0]).steps])
                    for c in cases]  # fmt: skip
        except Exception as error:
            return str(error)

    with Host(OWN, UNFENCED) as host:
        fresh, first, second = traced(), traced(begin=host), traced(begin=host)
        assert first == fresh and second == fresh
        path.write_text(text.replace("total += ", "total = 1 + "))
        assert traced(begin=host) == traced()


def test_parts_of_a_line_and_watches_are_woven_anew(program):
    path = program("n = 2\nwhile n < 30:\n    n = n * 3 + 1\nprint(n)\n")
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=path, cases=(case,))

    def values(**how):
        trace, _ = trace_case(plan, case, OWN, watches=("n % 5",), **how)
        return msgspec.json.encode([*Story(trace).steps])

    with Host(OWN, UNFENCED) as host:
        trace_case(plan, case, OWN, begin=host)
        assert values(begin=host) == values()
