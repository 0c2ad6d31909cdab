"""`oddsum plan` and what `check` learned with it: sheets, examples, pairs, advice, xml, other languages."""

from __future__ import annotations

import json
import shutil

import pytest
from junitparser import Error, Failure, JUnitXml, Skipped

from conftest import FERRY, python

FUNCTION = '''\
def fare(age):
    """What a passenger pays.

    >>> fare(3)
    3
    >>> fare(16)
    6
    >>> fare(
    """
    return 3 if age <= 16 else 6
'''


@pytest.fixture
def fares(tmp_path):
    path = tmp_path / "fares.py"
    shutil.copy(FERRY / "fares.py", path)
    return path


def test_a_plan_is_begun_filled_from_examples_and_checked(oddsum, tmp_path):
    path = tmp_path / "fare.py"
    path.write_text(FUNCTION)
    status, _, err = oddsum("plan", "new", path)
    assert status == 0 and "is begun" in err
    status, _, err = oddsum("plan", "new", path)
    assert status == 2 and "There is a plan already" in err
    status, _, err = oddsum("plan", "import", path, "--examples", "--kind", "boundary")
    assert status == 0 and "2 cases added to fare.cases.toml" in err
    assert "fare.py, line 8: this example cannot be read" in err
    status, out, _ = oddsum("check", path, "--format", "json", *python())
    cases = json.loads(out)["cases"]
    assert [c["outcome"] for c in cases[1:]] == ["agrees", "differs"]
    assert {c["kind"] for c in cases[1:]} == {"boundary"}


def test_a_sheet_is_imported_checked_and_written_back(oddsum, fares, tmp_path):
    sheet = tmp_path / "plan.csv"
    sheet.write_text(
        'name,kind,input,expected\nsixteen,boundary,"1\n16","Passengers: 1\nTotal: 6"\n'
    )
    assert oddsum("plan", "import", fares, "--csv", sheet)[0] == 0
    back = tmp_path / "back.csv"
    status, out, _ = oddsum("plan", "export", fares, "--format", "csv", "-o", back, *python())
    assert (status, out) == (0, "")
    assert 'differs,"line 2: 6 expected, 3 came out' in back.read_text()
    status, _, err = oddsum("plan", "export", fares, "--format", "csv", "-o", back, *python())
    assert status == 2 and "--force" in err
    status, out, _ = oddsum("plan", "export", fares, "--no-run", *python())
    assert status == 0 and "| not run |" in out


@pytest.mark.parametrize(
    ("args", "words"),
    [
        ((), "Say what to import"),
        (("--examples", "--csv", "x.csv"), "Say what to import"),
        (("--csv", "nowhere.csv"), "cannot be read"),
        (("--examples",), "No example was found"),
        (("--pairs", "in.txt", "out*.txt"), "has no *"),
    ],
)
def test_what_cannot_be_imported_is_told_and_changes_nothing(oddsum, fares, args, words):
    status, out, err = oddsum("plan", "import", fares, *args)
    assert (status, out) == (2, "") and words in err
    assert not fares.with_suffix(".cases.toml").exists()


def test_pairs_of_files_become_cases(oddsum, fares):
    (fares.parent / "in1.txt").write_text("0\n")
    (fares.parent / "out1.txt").write_text("Passengers: 0\nTotal: 0\n")
    assert oddsum("plan", "import", fares, "--pairs", "in*.txt", "out*.txt")[0] == 0
    status, out, _ = oddsum("check", fares, *python())
    assert status == 0 and "1 agrees" in out


def test_advice_names_what_is_missing_and_adds_it_open(oddsum, fares):
    shutil.copy(FERRY / "fares.cases.toml", fares.with_suffix(".cases.toml"))
    status, out, _ = oddsum("plan", "advise", fares, *python())
    assert status == 0 and "no case tries age 121, just above it" in out
    assert max(map(len, out.splitlines())) <= 80
    status, out, err = oddsum("plan", "advise", fares, "--format", "json", "--add", *python())
    gaps = json.loads(out)["gaps"]
    assert {g["kind"] for g in gaps} == {"limit"} and gaps[0]["case"]["stdin"] == "1\n120\n"
    assert "4 cases added" in err
    status, _, err = oddsum("check", fares, *python())
    assert status == 1 and "Nothing is expected yet in: age is 120" in err


def test_what_the_odd_cases_share_is_told(oddsum, fares):
    shutil.copy(FERRY / "fares.cases.toml", fares.with_suffix(".cases.toml"))
    _, out, _ = oddsum("check", fares, *python())
    assert "Both odd cases have an age of exactly 16; none of the 7 that agree does." in out


ALL_KINDS = """
[[case]]
name = "right"
stdin = "2"
stdout = "4"
[[case]]
name = "wrong <&> \\u0007"
kind = "invalid"
stdin = "3"
stdout = "7"
[[case]]
name = "stops"
stdin = "x"
stdout = "7"
[[case]]
name = "goes on"
stdin = "-1"
stdout = "7"
timeout = 0.2
[[case]]
name = "open"
stdin = "5"
"""


def test_the_xml_report_is_read_by_a_reader_of_that_format(oddsum, tmp_path):
    path = tmp_path / "twice.py"
    path.write_text("n = int(input())\nwhile n < 0: pass\nprint(n * 2)\n")
    path.with_suffix(".cases.toml").write_text(ALL_KINDS)
    status, out, _ = oddsum("check", path, "--format", "xml", *python())
    assert status == 1
    report = JUnitXml.fromstring(out.encode())
    (suite,) = report
    assert (suite.tests, suite.failures, suite.errors, suite.skipped) == (5, 1, 2, 1)
    results = {case.name: [type(r) for r in case.result] for case in suite}
    assert results == {
        "right": [], "wrong <&> \ufffd": [Failure], "stops": [Error], "goes on": [Error],
        "open": [Skipped],
    }  # fmt: skip
    wrong = next(c for c in suite if c.name.startswith("wrong"))
    assert wrong.classname == "twice.invalid"
    assert wrong.result[0].message == "line 1: 7 expected, 6 came out; 1 too little"
    assert "7" in wrong.result[0].text


def test_a_program_in_another_language_is_checked_and_not_traced(oddsum, tmp_path):
    path = tmp_path / "twice.sh"
    path.write_text("read n\necho $((n + 2))\n")
    path.with_suffix(".cases.toml").write_text(
        'run = ["sh", "twice.sh"]\n[[case]]\nname = "a"\nstdin = "2\\n"\nstdout = "4\\n"\n'
        '[[case]]\nname = "b"\nstdin = "3\\n"\nstdout = "6\\n"\n'
    )
    status, out, _ = oddsum("check", path, *python())
    assert status == 1 and "1 agrees   1 differ" in out and "oddsum trace" not in out
    for command in ("trace", "pinpoint"):
        status, out, err = oddsum(command, path, *python())
        assert (status, out) == (2, "") and "reads Python and JavaScript programs" in err


def test_a_failed_build_is_status_3_and_told_as_json_too(oddsum, tmp_path):
    path = tmp_path / "x.c"
    path.write_text("")
    path.with_suffix(".cases.toml").write_text(
        'build = ["sh", "-c", "echo x.c:4:2: no such pier; exit 1"]\nrun = ["./x"]\n'
        '[[case]]\nname = "a"\nstdin = ""\n'
    )
    status, out, _ = oddsum("check", path, "--format", "json", *python())
    error = json.loads(out)["error"]
    assert status == 3 and (error["status"], error["line"], error["column"]) == (3, 4, 2)
    assert "no such pier" in error["text"]
