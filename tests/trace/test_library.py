"""Ordinary correct code, taken from the standard library as if a learner had written it.

Each module is copied beside a program that uses it, run plainly and recorded: same output, same
ending, and a trace that names its lines.
"""

from __future__ import annotations

import importlib
from pathlib import Path

import pytest

from conftest import OWN
from oddsum.model.case import Case, Plan, Settings
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.trace.record import record

USES = {
    "bisect": """
import own_bisect as m
xs = [1, 3, 3, 7]
m.bisect_left = m.bisect_left
for v in range(9):
    print(v, m.bisect_left(xs, v), m.bisect_right(xs, v))
    m.insort_right(xs, v)
print(xs)
""",
    "heapq": """
import own_heapq as m
heap = [5, 2, 9, 1, 7]
m.heapify(heap)
m.heappush(heap, 3)
print([m.heappop(heap) for _ in range(len(heap))])
print(m.nlargest(2, [3, 8, 1]), m.nsmallest(2, [3, 8, 1]), list(m.merge([1, 4], [2, 3])))
""",
    "textwrap": """
import own_textwrap as m
text = "The ferry leaves the pier at half tide, and not before the last car is aboard."
print(m.fill(text, 30), m.shorten(text, 40), m.indent("a\\nb", "> "), sep="\\n")
print(repr(m.dedent("  a\\n   b\\n")))
""",
    "colorsys": """
import own_colorsys as m
for rgb in [(0, 0, 0), (1, 0.5, 0.25), (0.2, 0.9, 0.4)]:
    print(m.rgb_to_hls(*rgb), m.rgb_to_hsv(*rgb), m.rgb_to_yiq(*rgb))
    print(m.hls_to_rgb(*m.rgb_to_hls(*rgb)), m.hsv_to_rgb(*m.rgb_to_hsv(*rgb)))
""",
    "fractions": """
import own_fractions as m
a, b = m.Fraction(3, 4), m.Fraction("2/5")
print(a + b, a - b, a * b, a / b, a ** 2, a < b, float(a), m.Fraction(1.25), hash(a) == hash(0.75))
print(m.Fraction(7, 3).limit_denominator(2), round(a), repr(a), -a // b, a % b)
try:
    m.Fraction(1, 0)
except ZeroDivisionError as error:
    print(error)
""",
    "statistics": """
import own_statistics as m
xs = [3, 1, 4, 1, 5, 9]
print(m.mean(xs), m.median(xs), m.mode(xs), m.pstdev(xs), m.quantiles(xs), m.median_low(xs))
try:
    m.mean([])
except m.StatisticsError as error:
    print(error)
""",
    "calendar": """
import own_calendar as m
print(m.month(2026, 3), m.isleap(2028), m.monthrange(2026, 2), m.leapdays(2000, 2026))
print(m.TextCalendar(0).formatweek([(1, 0), (2, 1)], 3))
""",
    "difflib": """
import own_difflib as m
s = m.SequenceMatcher(None, "ferry", "fairy")
print(round(s.ratio(), 3), s.get_opcodes(), m.get_close_matches("tids", ["tide", "pier", "tidy"]))
print(list(m.ndiff(["a", "b"], ["a", "c"])))
""",
    "shlex": """
import own_shlex as m
print(m.split("load 'lane one' --now # no"), m.quote("a b"), m.join(["x", "y z"]))
""",
    "string": """
import own_string as m
print(m.Template("$boat leaves at ${time}").substitute(boat="Kea", time=9), m.capwords("a bc"))
print(m.Formatter().format("{0:>4}|{name!r}", 7, name="x"))
""",
    "graphlib": """
import own_graphlib as m
print(list(m.TopologicalSorter({"c": {"b"}, "b": {"a"}}).static_order()))
try:
    list(m.TopologicalSorter({"a": {"b"}, "b": {"a"}}).static_order())
except m.CycleError as error:
    print(error)
""",
    "reprlib": """
import own_reprlib as m
print(m.repr(list(range(20))), m.repr("x" * 99), m.repr({n: n for n in range(9)}))
""",
    "fnmatch": """
import own_fnmatch as m
print(m.fnmatch("fares.py", "*.py"), m.filter(["a.txt", "b.py"], "*.txt"), m.translate("a?[bc]"))
""",
    "contextlib": """
import own_contextlib as m
@m.contextmanager
def gate(name):
    print("open", name)
    try:
        yield name
    finally:
        print("close", name)
with gate("A") as a, m.suppress(ValueError):
    print(a)
    raise ValueError
with m.ExitStack() as stack:
    stack.enter_context(gate("B"))
    stack.callback(print, "called")
""",
    "dataclasses": """
import own_dataclasses as m
@m.dataclass(order=True)
class Car:
    length: float
    lane: int = 1
    parts: list = m.field(default_factory=list, compare=False)
a, b = Car(4.2), Car(3.9, 2)
a.parts.append("boot")
print(a, b, a > b, m.asdict(a), m.replace(b, lane=3), sorted([a, b]))
""",
}


@pytest.mark.parametrize("name", list(USES))
def test_library_code_is_recorded_and_left_as_it_is(tmp_path, name):
    original = Path(importlib.import_module(name).__file__)
    (tmp_path / f"own_{name}.py").write_bytes(original.read_bytes())
    path = tmp_path / "use.py"
    path.write_text(USES[name])
    case = Case(number=1, name="one", stdin="", settings=Settings(timeout=20.0))
    plan = Plan(program=path, cases=(case,))
    with Scratch(bundle(plan)) as scratch:
        plain = run_case(plan, case, scratch, fresh(OWN))
        trace, run = record(plan, case, scratch, fresh(OWN), plain)
    assert plain.ending == "ended", plain.error
    assert (run.output, run.ending, run.exit_status) == (plain.output, "ended", 0)
    assert trace.complete
    files = {s.statement.file for s in trace.steps}
    assert files == {"use.py", f"own_{name}.py"}
    assert trace.steps[-1].depth == 0
    assert "".join(s.output for s in trace.steps) == plain.output
