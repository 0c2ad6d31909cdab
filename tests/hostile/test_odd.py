"""What odd programs come to, through check, trace and pinpoint: each as it is told to, or said so."""

from __future__ import annotations

import json
import os

import pytest
from odd import ODD

from conftest import MANY, OWN

PLAN = """
timeout = {timeout}
memory = 256

[[case]]
name = "odd"
stdin = {stdin}
stdout = "15"
"""
# What takes the search a second or two each: a few in the suite, all of them in a soak.
# Of which a recording, or a search, takes ten seconds and more: a soak makes it.
SLOW = () if MANY else ("opens and opens", "1,500 folders deep", "many files")
SEARCHED = list(ODD) if MANY else [name for name in ODD if name not in SLOW][::9]


def written(program, name: str):
    odd = ODD[name]
    return program(
        odd.source + "\n",
        PLAN.format(timeout=0.4 if odd.outcome == "endless" else 5, stdin=json.dumps(odd.stdin)),
    )


def told_of(out: str) -> str:
    case = json.loads(out)["cases"][0]
    error, difference = case["error"] or {}, case["difference"] or {}
    return f"{difference.get('summary', '')} {error.get('type', '')} {error.get('message', '')}"


@pytest.mark.parametrize("name", ODD)
def test_an_odd_program_comes_to_what_it_must(program, oddsum, name):
    odd, path = ODD[name], written(program, name)
    before = sorted(os.listdir(path.parent)), path.read_bytes()
    status, out, err = oddsum("check", path, "--format", "json", "--python", OWN.path)
    assert "Traceback" not in err and "inside Odd Sum" not in err + out
    if odd.outcome == "cannot start":
        assert status == 3 and "cannot start" in out
    elif odd.outcome:
        assert json.loads(out)["cases"][0]["outcome"] == odd.outcome, out
        assert odd.words.lower() in told_of(out).lower(), told_of(out)
    if name in SLOW or (odd.outcome == "endless" and not MANY):
        return  # to record until its time is over takes some seconds: a soak does
    status, out, err = oddsum("trace", path, "--format", "json", "--python", OWN.path)
    assert "Traceback" not in err and "inside Odd Sum" not in err + out
    if status == 0:
        told = json.loads(out)
        assert [s["step"] for s in told["steps"][:50]] == list(
            range(1, len(told["steps"][:50]) + 1)
        )
    else:
        assert json.loads(out)["error"]["text"].strip()
    assert (sorted(os.listdir(path.parent)), path.read_bytes()) == before


@pytest.mark.parametrize("name", SEARCHED)
def test_a_search_in_an_odd_program_ends_and_leaves_everything_as_it_was(program, oddsum, name):
    path = written(program, name)
    before = sorted(os.listdir(path.parent)), path.read_bytes()
    status, out, err = oddsum("pinpoint", path, "--budget", "1", "--format", "json",
                              "--python", OWN.path)  # fmt: skip
    assert status in (0, 1, 3) and "Traceback" not in err and "inside Odd Sum" not in err + out
    told = json.loads(out)
    assert status == 3 or isinstance(told["leads"], list)
    assert (sorted(os.listdir(path.parent)), path.read_bytes()) == before
