"""A plan is changed case by case, and what people wrote in it stays."""

from __future__ import annotations

import errno
import os
from pathlib import Path

import msgspec
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from oddsum.model.case import Case, Settings
from oddsum.model.errors import PlanError
from oddsum.plan import edit
from oddsum.plan.begin import begin_plan
from oddsum.plan.find import choose_plan, plans_of
from oddsum.plan.keep import ChangedOnDisk, PlanFile
from oddsum.plan.read import parse_plan, read_plan
from oddsum.plan.write import case_text, write_text

texts = st.text(st.characters(exclude_categories=["Cs"]), max_size=60)
names = texts.filter(bool)
WHERE = Path("x.cases.toml"), Path("x.py")
WRITTEN = """\
# the ferry's plan: mine
timeout = 3.0   # slow pier

# two of them
[[case]] # first
  name="a"   # why
stdin = ""

[[case]]
name = "b"
stdin = '''
[[case]]
'''
[case.files]
"tide.txt" = "low"

# the last
[[case]]
name = "c"
call = "fare(1)"   # a child
returns = "0"
"""


def cases_of(text):
    return parse_plan(text, *WHERE).cases


@given(name=names, note=texts, stdin=texts, stdout=texts, code=st.none() | st.integers(0, 255))
@example(name="a", note="", stdin="\n\n", stdout="\n", code=None)
def test_what_is_written_is_read_back_the_same(name, note, stdin, stdout, code):
    case = Case(number=1, name=name, note=note, stdin=stdin, stdout=stdout, exit=code)
    assert cases_of(case_text(case)) == (case,)


def test_every_key_of_a_case_is_written():
    case = Case(
        number=1, name="all", kind="invalid", note="n", disabled=True, stdin="1\n", args=("-v",),
        files={"in.txt": "x"}, call="f()", before="x = 1", stdout="o\n", returns="1",
        raises="ValueError", exit=0, writes={"out.txt": "y"}, check="result",
        settings=Settings(compare="words", tolerance=0.1, timeout=1.0, seed=3, ignore_case=False),
    )  # fmt: skip
    assert cases_of(case_text(case)) == (case,)


def test_a_date_is_written_for_a_program_that_can_be_told_one():
    case = Case(number=1, name="dated", stdin="", settings=Settings(today="2026-05-04T10:30"))
    program = WHERE[1].with_suffix(".js")
    assert parse_plan(case_text(case), WHERE[0], program).cases == (case,)


@given(st.data())
def test_any_row_of_changes_leaves_the_other_cases_as_they_are_written(data):
    text, pieces = WRITTEN, {p.split("name")[1][:8]: p for p in edit.blocks(WRITTEN).cases}
    touched: set[str] = set()
    for _ in range(data.draw(st.integers(1, 5))):
        cases = cases_of(text)
        number = data.draw(st.integers(1, len(cases)))
        name = cases[number - 1].name
        what = data.draw(st.sampled_from(["copy", "move", "aside", "replace"]))
        if what == "copy":
            text = edit.duplicate(text, number, edit.free_name(name, {c.name for c in cases}))
        elif what == "move":
            text = edit.move(text, number, data.draw(st.sampled_from([-1, 1])))
        elif what == "aside":
            text = edit.set_disabled(text, number, not cases[number - 1].disabled)
            touched.add(name)
        else:
            changed = msgspec.structs.replace(cases[number - 1], note="seen")
            text = edit.replace(text, number, changed)
            touched.add(name)
        assert text.startswith("# the ferry's plan: mine\ntimeout = 3.0   # slow pier\n")
    for name, piece in zip("abc", pieces.values(), strict=True):
        assert name in touched or piece.strip() in text
    for comment in ("# first", "# why", "# two of them", "# the last", "# a child"):
        assert comment in text


def test_a_case_is_put_in_copied_moved_set_aside_and_taken_out():
    added = edit.add(WRITTEN, Case(number=9, name="new", call="f()", returns="1"), after=1)
    assert [c.name for c in cases_of(added)] == ["a", "new", "b", "c"]
    assert [c.name for c in cases_of(edit.duplicate(WRITTEN, 2, "b (2)"))] == [
        "a",
        "b",
        "b (2)",
        "c",
    ]
    assert cases_of(edit.duplicate(WRITTEN, 2, "b (2)"))[2].files == {"tide.txt": "low"}
    moved = edit.move(WRITTEN, 3, -1)
    assert [c.name for c in cases_of(moved)] == ["a", "c", "b"]
    assert moved.index("# the last") < moved.index('"c"') < moved.index('"b"')
    assert edit.move(WRITTEN, 1, -1) == WRITTEN
    aside = edit.set_disabled(WRITTEN, 3, True)
    assert [c.disabled for c in cases_of(aside)] == [False, False, True]
    assert edit.set_disabled(aside, 3, False) == WRITTEN
    gone = edit.delete(WRITTEN, 3)
    assert [c.name for c in cases_of(gone)] == ["a", "b"] and "# the last" not in gone
    empty = edit.delete(edit.delete(gone, 1), 1)
    assert cases_of(empty) == () and empty.startswith("# the ferry's plan")


def test_replacing_touches_only_the_keys_that_change():
    case = msgspec.structs.replace(cases_of(WRITTEN)[2], returns="3", kind="boundary")
    text = edit.replace(WRITTEN, 3, case)
    assert 'call = "fare(1)"   # a child' in text
    assert cases_of(text)[2] == case


@pytest.fixture
def kept(tmp_path):
    path = tmp_path / "x.cases.toml"
    path.write_text(WRITTEN)
    return PlanFile(path, tmp_path / "x.py")


def test_changes_are_taken_back_one_by_one(kept):
    kept.change("deleting c", lambda text: edit.delete(text, 3))
    kept.change("deleting b", lambda text: edit.delete(text, 2))
    assert kept.last_change == "deleting b"
    kept.take_back()
    kept.take_back()
    assert kept.path.read_text() == WRITTEN
    with pytest.raises(PlanError, match="nothing to take back"):
        kept.take_back()


def test_a_change_from_outside_is_never_written_over(kept):
    kept.change("deleting c", lambda text: edit.delete(text, 3))
    kept.path.write_text(WRITTEN + "# mine\n")
    for step in (lambda: kept.change("x", lambda t: edit.delete(t, 1)), kept.take_back):
        with pytest.raises(ChangedOnDisk):
            step()
    assert kept.path.read_text() == WRITTEN + "# mine\n"
    assert kept.read_again() and not kept.last_change
    kept.change("deleting c", lambda text: edit.delete(text, 3))
    assert [c.name for c in kept.plan().cases] == ["a", "b"]


def test_added_cases_get_names_that_are_free(kept):
    plan = kept.add(*(Case(number=1, name="a", call="f()") for _ in range(2)))
    assert [c.name for c in plan.cases] == ["a", "b", "c", "a (2)", "a (3)"]


@pytest.mark.parametrize("step", ["fsync", "replace"])
def test_a_full_disk_loses_nothing(kept, monkeypatch, step):
    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, step, full)
    with pytest.raises(PlanError, match="cannot be written: no space left on device") as told:
        kept.change("deleting c", lambda text: edit.delete(text, 3))
    assert "Nothing in it has changed" in str(told.value)
    assert kept.path.read_text() == WRITTEN
    assert [p.name for p in kept.path.parent.iterdir()] == ["x.cases.toml"]
    assert not kept.last_change


def test_a_folder_that_may_not_be_written_in_is_told(tmp_path):
    with pytest.raises(PlanError, match="cannot be written"):
        write_text(tmp_path / "nowhere" / "x.cases.toml", "")


def test_a_plan_behind_a_link_is_written_where_it_is(tmp_path):
    (tmp_path / "real.toml").write_text("")
    (tmp_path / "x.cases.toml").symlink_to(tmp_path / "real.toml")
    write_text(tmp_path / "x.cases.toml", WRITTEN)
    assert (tmp_path / "x.cases.toml").is_symlink()
    assert (tmp_path / "real.toml").read_text() == WRITTEN


@pytest.mark.parametrize(
    ("source", "has"),
    [("n = int(input())\nprint(n)\n", "stdin"), ("def fare(age):\n    return 6\n", "fare(age)")],
)
def test_a_new_plan_is_begun_once_and_can_be_read(tmp_path, source, has):
    program = tmp_path / "x.py"
    program.write_text(source)
    path = begin_plan(program, None)
    assert has in path.read_text()
    assert len(read_plan(path, program).cases) == 1
    with pytest.raises(PlanError, match="There is a plan already"):
        begin_plan(program, None)


def test_the_plan_beside_a_program_is_found(tmp_path):
    program = tmp_path / "x.py"
    for name in ("x.cases.toml", "x.hard.cases.toml", "xy.cases.toml"):
        (tmp_path / name).touch()
    assert [p.name for p in plans_of(program)] == ["x.cases.toml", "x.hard.cases.toml"]
    assert choose_plan(program, None).name == "x.cases.toml"
