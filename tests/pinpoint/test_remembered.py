"""What one search knows from the one before: nothing is found otherwise, and less is tried."""

from __future__ import annotations

import pytest

from conftest import OWN
from oddsum.check.plan import check_all
from oddsum.pinpoint.remembered import Change, Memory
from oddsum.pinpoint.search import pinpoint
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.plan.read import read_plan

PROGRAM = '''def fee(cars, bikes):
    """What a load costs."""
    return cars * 9 + bikes * 3


def berth(length):
    if length < 12:
        return "short"
    return "long"


def tide(hour):
    # twice a day
    return hour % 12 < 4
'''
FEE = 'call = "fee(2, 1)"\nreturns = "21"', 'call = "fee(0, 3)"\nreturns = "9"'
BERTH = 'call = "berth(12)"\nreturns = "\'short\'"', 'call = "berth(13)"\nreturns = "\'long\'"'


def plan_of(*cases):
    return "".join(f'[[case]]\nname = "{n}"\n{case}\n' for n, case in enumerate(cases))


PLAINLY = {}  # edits run, and the first lead's place, of a search that knows nothing


@pytest.fixture
def searched(tmp_path, monkeypatch):
    """Searches with one memory; gives what was found and how many edits were really run."""
    memory, ran = Memory(), []
    real = TrialRunner.run

    def run(self, proposals, *args, **named):
        ran.append(len(proposals))
        return real(self, proposals, *args, **named)

    monkeypatch.setattr(TrialRunner, "run", run)

    def search(text, *cases, beside=""):
        (tmp_path / "tides.txt").write_text(beside)
        program, file = tmp_path / "ferry.py", tmp_path / "ferry.cases.toml"
        program.write_text(text)
        file.write_text(plan_of(*cases))
        plan = read_plan(file, program)
        ran.clear()
        results = check_all(plan, OWN)
        found = pinpoint(plan, OWN, results, budget=60.0, memory=memory)
        some, key = ran[0], (text, *cases)
        if key not in PLAINLY:
            ran.clear()
            best = pinpoint(plan, OWN, results, budget=60.0).leads[0]
            PLAINLY[key] = (ran[0], best.lines, best.kind)
        every, *best = PLAINLY[key]
        assert [found.leads[0].lines, found.leads[0].kind] == best
        assert some <= every and found.complete
        return some, every

    return search


WRONG = PROGRAM.replace("cars * 9", "cars + 9")


@pytest.mark.parametrize(
    ("text", "cases", "less"),
    [
        (WRONG, (*FEE, 'call = "fee(1, 0)"\nreturns = "9"', *BERTH), True),  # a case more
        (WRONG.replace("twice", "four times"), (*FEE, *BERTH), True),  # in a function aside
        (WRONG.replace("hour % 12", "hour % 6\n    hour + 1"), (*FEE, *BERTH), True),
        # In one that the case which does least does not enter, and in one that every odd case runs.
        (WRONG.replace("length < 12", "length < 11"), (*FEE, *BERTH), True),
        (WRONG.replace("bikes * 3", "bikes * 2"), (*FEE, *BERTH), False),
        ("TIDES = 2\n" + WRONG, (*FEE, *BERTH), False),  # outside of any
        (WRONG, (*FEE, *BERTH), False),  # the same once more, as it was asked for
    ],
)
def test_a_run_that_is_the_same_is_not_tried_with_all_edits_again(searched, text, cases, less):
    text_before = WRONG.replace("length < 12", "length <= 12")
    if "length < 12" in text:
        text = text.replace("length < 12", "length <= 12")
    searched(text_before, *FEE, *BERTH)
    some, every = searched(text, *cases)
    assert (some < every / 2) == less, (some, every)


def test_where_a_file_beside_the_program_has_changed_all_is_tried_again(searched):
    searched(WRONG, *FEE, *BERTH)
    some, every = searched(WRONG, *FEE, *BERTH[:1], beside="high\n")
    assert some == every


@pytest.mark.parametrize(
    ("old", "new", "first", "old_last", "new_last"),
    [
        ("a\nb\nc\n", "a\nx\ny\nc\n", 2, 2, 3),
        ("a\nb\n", "a\nb\nc\n", 3, 2, 3),
        ("a\na\na\n", "a\na\n", 3, 3, 2),
        ("a\n", "a\n", 3, 2, 2),
        ("a", "b", 1, 1, 1),
        ("", "a\n", 1, 0, 1),
    ],
)
def test_what_lies_between_two_texts(old, new, first, old_last, new_last):
    change = Change(old, new)
    assert (change.first, change.old_last, change.new_last) == (first, old_last, new_last)
    olds, news = old.split("\n"), new.split("\n")
    for line, text in enumerate(olds, 1):
        now = change.line(line)
        assert now is None or news[now - 1] == text
    for start in range(len(old)):
        for stop in range(start, len(old) + 1):
            shift = change.shift(start, stop)
            assert shift is None or new[start + shift : stop + shift] == old[start:stop]
