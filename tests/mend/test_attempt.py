"""A change tried on a copy: what it settles and breaks; and kept, without losing anything."""

from __future__ import annotations

import pytest
from tests.conftest import OWN

from oddsum.check.plan import check_all
from oddsum.mend.attempt import attempt
from oddsum.mend.effect import Effect, effect_of, key_of
from oddsum.mend.keep import ChangedMeanwhile, keep
from oddsum.mend.words import edit_words, edits_words, effect_words, places_words
from oddsum.model.errors import ProgramError, StartError
from oddsum.model.lead import Edit
from oddsum.plan.read import read_plan
from oddsum.source.edits import edits_of
from oddsum.source.program import Source, read_source
from oddsum.source.save import SaveError


def tried(folder, old: str, new: str) -> Effect:
    path = folder / "fares.py"
    plan, source = read_plan(folder / "fares.cases.toml", path), read_source(path)
    before = {r.number: r for r in check_all(plan, OWN)}
    text = source.text.replace(old, new)
    assert text != source.text
    after = {r.number: r for r in attempt(plan, source, text, OWN)}
    assert path.read_text() == source.text  # the file is not touched
    return effect_of(before, after)


def test_a_try_says_what_it_settles_breaks_and_makes_odd_in_another_way(demo):
    assert tried(demo, "age <= 16", "age < 16") == Effect(settled=(6, 7), agreeing=9, cases=9)
    broken = tried(demo, "age <= 16", "age < 9")
    assert broken.settled == (6, 7) and 5 in broken.broke
    assert tried(demo, "return ADULT", "return ADULT + 1").otherwise == (7,)
    assert tried(demo, "CHILD = 3", "CHILD = 3  # coins") == Effect(agreeing=7, cases=9)


def test_a_copy_that_cannot_start_is_told_with_its_line(demo):
    with pytest.raises(StartError) as told:
        tried(demo, "if age <= 16:", "if age <= 16")
    assert told.value.line == 10


@pytest.mark.parametrize("data", [b"x = 1\r\ny = 2\r\n", "\ufeffx = 'ö'\n".encode(),
                                  b"# -*- coding: latin-1 -*-\nx = '\xf6'\n"])  # fmt: skip
def test_keeping_writes_the_file_as_it_is_written(tmp_path, data):
    path = tmp_path / "x.py"
    path.write_bytes(data)
    source = read_source(path)
    assert keep(path, source, source.text + "z = 3\n").text == source.text + "z = 3\n"
    end = b"\r\n" if b"\r\n" in data else b"\n"
    assert path.read_bytes() == data + b"z = 3" + end


def test_what_changed_meanwhile_is_not_written_over_unasked(tmp_path):
    path = tmp_path / "x.py"
    path.write_text("x = 1\n")
    source = read_source(path)
    path.write_text("x = 2\n")
    with pytest.raises(ChangedMeanwhile):
        keep(path, source, "x = 3\n")
    assert path.read_text() == "x = 2\n"
    assert keep(path, source, "x = 3\n", over=True).text == path.read_text() == "x = 3\n"
    path.unlink()
    with pytest.raises(ChangedMeanwhile):
        keep(path, source, "x = 4\n")


def test_what_the_encoding_lacks_and_a_read_only_file_are_told(tmp_path):
    path = tmp_path / "x.py"
    path.write_bytes(b"# -*- coding: latin-1 -*-\nx = 1\n")
    source = read_source(path)
    with pytest.raises(ProgramError, match=r"iso-8859-1, which has no '≠' .line 3") as told:
        keep(path, source, source.text + "y = '≠'\n")
    assert told.value.line == 3
    path.chmod(0o444)
    with pytest.raises(SaveError, match="read-only"):
        keep(path, source, source.text + "y = 2\n")


def test_the_same_text_is_the_same_try():
    assert key_of("a.py", "x = 1") == key_of("a.py", "x = 1")
    assert len({key_of("a.py", "x"), key_of("b.py", "x"), key_of("a.py", "y")}) == 3


@pytest.mark.parametrize(
    ("effect", "words"),
    [
        (Effect(agreeing=2, cases=3), "It changes nothing that any case shows."),
        (Effect(agreeing=2, cases=3, from_nothing=True),
         "Now the program can start: 2 of 3 cases agree."),
        (Effect(settled=(2,), agreeing=3, cases=3),
         "It settles case 2 and breaks none: every case agrees."),
        (Effect(settled=(2, 4), agreeing=3, cases=4), "It settles cases 2 and 4 and breaks none."),
        (Effect(settled=(2,), broke=(1, 3), agreeing=1, cases=3),
         "It settles case 2 and breaks cases 1 and 3."),
        (Effect(otherwise=(5,), agreeing=1, cases=3),
         "Case 5 gives something else, still not as expected."),
    ],
)  # fmt: skip
def test_an_effect_is_said_in_a_sentence(effect, words):
    assert effect_words(effect) == words


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("a\nb\nc\n", "a\nB\nc\n", "line 2: b → B"),
        ("a\nb\n", "a\n", "line 2: without b"),
        ("a\nb\n", "a\nx\nb\n", "ahead of line 2: + x"),
        ("a\n    b\n", "a\nb\n", "line 2: b → the same, further in or out"),
        ("a\n\nb\n", "a\nb\n", "line 2: without a blank line"),
        ("a\nb\nc\n", "A\nb\nC\n", "line 1: a → A; line 3: c → C"),
        ("a\nb\nc\n", "A\nB\nc\n", "lines 1 to 2: a → A; b → B"),
        ("a\n  b\nc\n", "a\nx\ny\nc\n", "line 2: b → x ⏎ y"),
        ("a\nb\n", "a\nx\ny\nb\n", "ahead of line 2: + x ⏎ y"),
    ],
)
def test_a_change_is_said_in_a_line(old, new, words):
    assert edits_words(edits_of(Source("x.py", old), new)) == words


def test_more_than_one_place_is_told_kindly():
    one, two = (Edit("x.py", n, n, ("a",), ("b",)) for n in (3, 8))
    assert places_words([one]) == ""
    assert "2 places (lines 3 and 8)" in places_words([one, two])
    assert edit_words(one) == "line 3: a → b"
