"""What exactly changed: items and attributes, told once, and the columns that they stand in."""

from __future__ import annotations

from pathlib import Path

import pytest
from judge import story_of

from oddsum.trace.ask import Story
from oddsum.trace.inside import brief

PROGRAMS = sorted((Path(__file__).parent / "programs").glob("*.py"))
KIOSK = """
class Item:
    def __init__(self, price, stock):
        self.price = price
        self.stock = stock

class Kiosk:
    def __init__(self):
        self.items = {}
        self.takings = 0

    def sell(self, name, amount):
        item = self.items[name]
        item.stock -= amount
        self.takings += item.price

kiosk = Kiosk()
kiosk.items["tea"] = Item(3, 10)
kiosk.sell("tea", 2)
seats = [5, 6, 7]
seats[1] = 9
seats.append(4)
del seats[0]
rows = [[0, 0], [0, 0]]
rows[1][0] = 3
known = {"north": 1}
known["south"] = 2
known["north"] += 4
"""


def said(story: Story) -> dict[int, list[tuple[str, str]]]:
    """What is told at each line, in the order of the steps."""
    told: dict[int, list[tuple[str, str]]] = {}
    for step in story.steps:
        for one in story.table.inner(step.number):
            told.setdefault(step.line, []).append((one.name, one.said))
    return told


def test_a_change_is_told_by_the_part_that_changed():
    told = said(story_of(KIOSK))
    assert told[4] == [("self.price", "3")] and told[5] == [("self.stock", "10")]
    assert told[14] == [("item.stock", "10 → 8")]
    assert told[15] == [("kiosk.takings", "0 → 3")]  # self is the kiosk: it is told once
    assert told[18] == [("kiosk.items", "['tea'] Item(price=3, stock=10) added")]
    assert told[21] == [("seats", "[1] 6 → 9")]
    assert told[22] == [("seats", "[3] 4 added")] and told[23] == [("seats", "[0] 5 taken out")]
    assert told[25] == [("rows", "[1][0] 0 → 3")]
    assert told[27] == [("known", "['south'] 2 added")]
    assert told[28] == [("known", "['north'] 1 → 5")]


@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_the_columns_are_inked_at_just_the_steps_that_tell_a_change(path):
    """Two ways to the same: whole contents compared, and the changes as they were recorded."""
    story = story_of(path.read_text(encoding="utf-8"))
    inked: dict[str, set[int]] = {}
    for step in story.steps:
        told = story.table.inner(step.number)
        for one in told:
            inked.setdefault(one.column, set()).add(story.place(step.number))
        assert bool(told) == bool(step.changes), step  # nothing is lost by telling it shortly
        assert len(set(told)) == len(told)
    columns = {title: set(places) for title, places in story.table.places.items()}
    assert set(inked) <= set(columns)
    for title, places in inked.items():
        assert places <= columns[title], title
    for title, places in columns.items():
        if "." not in story.table.by_title[title].name:
            assert places == inked[title], title


def test_an_object_in_few_cells_shows_what_changes():
    fields = (("owner", "'Bob'"), ("log", "['a', 'b', 'c', 'd']"), ("balance", "50"))
    text = "Account(owner='Bob', log=['a', 'b', 'c', 'd'], balance=50)"
    assert brief(text, fields, 80) == text
    assert brief(text, fields, 20, ["balance"]) == "Account: balance 50 …"[:21]
    assert brief(text, fields, 40, ["balance"]) == "Account: balance 50, owner 'Bob' …"
    assert brief("[1, 2, 3]", (), 4) == "[1, 2, 3]"
