"""How a recording is kept: little memory a step, long runs by their two ends, lists by changes."""

from __future__ import annotations

import tracemalloc

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from asked import told
from conftest import examples
from oddsum.model.trace import Trace
from oddsum.trace.ask import Story
from oddsum.trace.decode import Decoder
from oddsum.trace.nodes import text_of, weight
from oddsum.trace.objects import Life

ROWS = [["x.py", 1, 1, "", "assign"], ["x.py", 2, 2, "", "expr"]]


def decoder(most: int = 1_000_000) -> Decoder:
    made = Decoder(most)
    made.take({"k": "statements", "base": 0, "rows": ROWS})
    made.take({"k": "slots", "base": 0, "rows": [["", "n", True], ["", "xs", True]]})
    return made


def rounds(start: int, stop: int) -> list[object]:
    """Two steps a round: a number bound, and appended to a list that lives all the while."""
    return [part for n in range(start, stop) for part in (0, n, ~0, 1, 1, (), n, "add")]


def story_of(made: Decoder) -> Story:
    steps = made.finish()
    return Story(Trace(program="x.py", case="one", number=1, steps=steps, outcome="", complete=True,
                       missing=made.left_out))  # fmt: skip


def begun(most: int = 1_000_000) -> Decoder:
    made = decoder(most)
    made.take({"k": "log", "events": [0, 1, ("list", 0, []), "new", (1,), ~1]})
    return made


def test_a_step_takes_less_than_300_bytes_with_its_indexes():
    made, count = begun(), 8_000
    tracemalloc.start()
    for start in range(0, count, 2_000):
        made.take({"k": "log", "events": rounds(start, start + 2_000)})
    story = story_of(made)
    story.prepare()
    taken, _ = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert len(story) == 2 * count + 1
    assert taken / len(story) < 300


def test_of_a_very_long_run_the_first_and_the_last_part_are_kept():
    made = begun(most=400)
    for start in range(0, 2_000, 100):
        made.take({"k": "log", "events": rounds(start, start + 100)})
    story = story_of(made)
    first, last = story.trace.missing
    assert first == 201 and story.last == 4_001 and 200 < len(story) <= 400
    numbers = [step.number for step in story.steps]
    assert numbers == [*range(1, first), *range(last + 1, 4_002)]
    for number in (first - 1, last + 1, last + 50, 4_001):
        done = (number - 1 + 1) // 2  # rounds whose number is bound by then
        values = story.values_at(number)
        assert values["n"].text == str(done - 1)
        assert values["xs"].size == (number - 1) // 2
    assert story.step(4_001).visit == 2_000
    assert story.nearest(first + 3) == last + 1 and story.steps.index_of(first) is None
    with pytest.raises(IndexError):
        story.step(first)


_keys = st.integers(0, 8)
changes = st.lists(
    st.one_of(
        st.tuples(st.just("add"), st.integers(0, 9)),
        st.tuples(st.just("set"), _keys, st.sampled_from([0, 1, True, 1.0, "1", None])),
        st.tuples(st.just("drop"), st.sampled_from([0, -1])),
        st.tuples(st.just("all"), st.lists(st.integers(0, 3), max_size=12)),
    ),
    max_size=90,
)


@settings(max_examples=examples(60))
@given(changes, st.randoms())
def test_a_list_at_any_version_is_what_it_was_then(made, random):
    now: list[object] = [1, 2]
    life, texts = Life(("list", 2, [1, 2])), ["[1, 2]"]
    for change in made:
        if change[0] == "add":
            now.append(change[1])
            took = life.put(("add", (), change[1]))
        elif change[0] == "drop":
            if not now:
                continue
            del now[change[1]]
            took = life.put(("drop", (), change[1]))
        elif change[0] == "set":
            if change[1] >= len(now):
                continue
            now[change[1]] = change[2]
            took = life.put(("set", (), change[1], change[2]))
        else:
            now = list(change[1])
            took = life.put(("all", ("list", len(now), list(now))))
        if took:
            texts.append(repr(now))
        assert text_of(life.now)[0] == repr(now)
    for version in random.sample(range(len(texts)), len(texts)):
        assert text_of(life.version(version))[0] == texts[version]


def test_two_names_for_one_list_carry_one_number(tmp_path):
    story, _ = told(tmp_path, "xs = [1]\nys = xs\nzs = xs[:]\nys.append(2)\n")
    values = story.values_at(story.last)
    assert values["xs"].number == values["ys"].number != values["zs"].number
    assert [c.name for c in story.step(4).changes] == ["xs", "ys"]


NESTED = """grid = [[0, 0] for _ in range(3)]
row = grid[1]
row[0] = 5
grid[2][1] = 7
ferry = {"lanes": grid, "name": "Kea"}
ferry["lanes"][0].append(9)
grid[1] = 4
row[1] = 8
grid.append(row)
row.pop()
twice = [[1]] * 2
twice[0].append(2)
class Boat:
    def __init__(self):
        self.cars = []
        self.n = 0
    def load(self, n):
        self.n = self.n + n
        self.cars.append(n)
boats = [Boat(), Boat()]
for boat in boats:
    boat.load(3)
boats[0].cars[0] = 1
boats[1].n += 1
del row[0]
row += [6]
queue = [1, 2, 3]
queue.pop(0)
queue.insert(0, 9)
queue.sort()
"""


def test_changes_through_any_name_at_any_depth_end_as_the_program_does(tmp_path):
    story, _ = told(tmp_path, NESTED)
    names: dict[str, object] = {"__name__": "ferry"}
    exec(NESTED, names)
    values = story.values_at(story.last)
    for name in ("grid", "row", "ferry", "twice", "queue"):
        assert values[name].text == repr(names[name]), name
    assert values["boats"].text == "[Boat(cars=[1], n=3), Boat(cars=[3], n=4)]"


def test_a_list_longer_than_is_followed_says_so(tmp_path):
    story, _ = told(tmp_path, "xs = []\nfor i in range(1500):\n    xs.append(i)\nn = len(xs)\n")
    value = story.values_at(story.last)["xs"]
    assert (value.size, value.whole) == (1500, False) and "500 more" in value.text
    assert weight(story.node_of("xs", story.last)) == 1001


def test_arrays_are_told_by_shape_type_range_and_corner(tmp_path):
    story, _ = told(tmp_path, "import numpy as np\na = np.arange(12).reshape(3, 4)\na[0, 0] = 99\n")
    assert story.values_at(2)["a"].text == (
        "array 3 by 4 of int64, 0 to 11: [[0, 1, 2], [4, 5, 6], [8, 9, 10]] …"
    )
    assert "1 to 99" in story.values_at(3)["a"].text
