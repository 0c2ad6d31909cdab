"""Pairs of faults that are drawn anew leave alone what is kept aside."""

from __future__ import annotations

import ast
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[2] / "benchmarks" / "pinpoint"))

from corpus import Fault, Subject, other_pairs, samples

LINES = [f"line_{n} = {n}  # one of {'many' * 20}" for n in range(12)]


def subject(number: int) -> Subject:
    faults = tuple(Fault("constant", f"line_{n} = {n} ", f"line_{n} = 90{n} ") for n in range(12))
    return Subject(f"quay_{number}.py", "\n".join(LINES) + "\n", (), faults)


def test_pairs_are_of_tuned_faults_alone_and_another_draw_has_others():
    found = [subject(n) for n in range(6)]
    every = samples(found)
    aside = {(s.file, s.text) for s in every if s.aside and s.kind == "constant"}
    drawn = [other_pairs(found, draw) for draw in (1, 2)]
    for made in drawn:
        assert len(made) == 6
        for one in made:
            assert len(one.places) == 2
            assert all(len(lines) == 1 for lines in one.places)
            ast.parse(one.text)
            for lines in one.places:  # with the other fault mended it is a sample of one fault
                (line,) = lines
                single = one.correct.split("\n")
                single[line - 1] = one.text.split("\n")[line - 1]
                assert (one.file, "\n".join(single)) not in aside
    assert [s.text for s in drawn[0]] != [s.text for s in drawn[1]]
    assert {s.name for s in drawn[0]}.isdisjoint(s.name for s in every)
