"""How far leads were uncovered stays known while the program is the same."""

import shutil

import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import FERRY, OWN
from oddsum.model.history import Version
from oddsum.plan.read import read_plan
from oddsum.record.assemble import assemble
from oddsum.record.history import History
from oddsum.record.revealed import recall, remember
from oddsum.record.store import Store
from oddsum.record.versions import version_of

pytestmark = pytest.mark.usefixtures("searched_once")
ONE, OTHER = Version(files={"fares.py": "fare = 5\n"}), Version(files={"fares.py": "fare = 6\n"})
PLACES = st.tuples(
    st.sampled_from(["fares.py", "prices.py"]),
    st.lists(st.integers(1, 9), min_size=1, max_size=2).map(tuple),
)
LEVELS = st.dictionaries(PLACES, st.integers(0, 2), max_size=4)


@pytest.fixture
def history(tmp_path):
    return History(tmp_path / "fares.py", Store(tmp_path / "history.db"))


@given(first=LEVELS, then=LEVELS)
def test_what_was_uncovered_is_not_covered_again(first, then, tmp_path_factory):
    folder = tmp_path_factory.mktemp("record")
    history = History(folder / "fares.py", Store(folder / "history.db"))
    remember(history, ONE, first)
    remember(history, ONE, then)
    told = recall(history, ONE)
    assert set(told) == set(first) | set(then)
    assert all(told[p] == max(first.get(p, 0), then.get(p, 0)) for p in told)


def test_another_version_is_covered(history):
    remember(history, ONE, {("fares.py", (10,)): 2})
    assert recall(history, OTHER) == {}
    assert history.count() == 0  # nothing was checked: no run is made up


def test_nothing_recorded_is_nothing_uncovered(history):
    assert recall(history, ONE) == {}


@pytest.fixture
def fares(tmp_path):
    for path in FERRY.glob("fares.*"):
        shutil.copy(path, tmp_path)
    return tmp_path / "fares.py"


@pytest.mark.parametrize(
    ("uncovered", "asked", "shown"),
    [(0, None, 0), (2, None, 2), (2, 0, 0), (2, 1, 1), (1, 2, 2)],
)
def test_a_report_tells_as_much_as_was_uncovered_or_asked_for(fares, uncovered, asked, shown):
    history = History(fares)
    remember(history, version_of(fares), {("fares.py", (10,)): uncovered})
    plan = read_plan(fares.with_suffix(".cases.toml"), fares)
    made, _ = assemble(plan, OWN, history, level=asked)
    levels = {told.lead.lines: told.level for told in made.leads}
    assert levels[10,] == shown
    assert all(level == (asked or 0) for lines, level in levels.items() if lines != (10,))


def test_a_report_tells_no_more_than_the_plan_s_author_wishes(fares):
    history = History(fares)
    remember(history, version_of(fares), {("fares.py", (10,)): 2})
    plan_file = fares.with_suffix(".cases.toml")
    plan_file.write_text('reveal = "what"\n' + plan_file.read_text())
    made, _ = assemble(read_plan(plan_file, fares), OWN, history, level=None)
    assert {told.level for told in made.leads if told.lead.lines == (10,)} == {1}
