"""The command line as a learner meets it: answers, exit statuses, and bad input in sentences."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest

from conftest import FERRY, python
from oddsum.demo.copy import DEMOS
from oddsum.formats.ruled import fit
from oddsum.formats.trace_csv import FIXED

PLAN = '[[case]]\nname = "one"\nstdin = "1\\n"\nstdout = "1\\n"\n'


def test_check_prints_a_ledger_that_fits_80_columns(oddsum):
    status, out, _ = oddsum("check", FERRY / "fares.py", *python())
    assert status == 1
    assert max(len(line) for line in out.splitlines() if not line.startswith("Next")) <= 80
    assert "≠ differs     6  just sixteen" in out
    assert "7 agree   2 differ" in out
    assert "line 2: 6 expected, 3 came out; 3 too little" in out


def test_check_as_json_has_the_keys_of_the_contract(oddsum):
    status, out, _ = oddsum("check", FERRY / "lanes.py", "--format", "json", *python())
    answer = json.loads(out)
    assert status == 1
    assert list(answer) == ["format", "program", "plan", "counts", "seconds", "cases"]
    assert answer["format"] == 1
    assert answer["counts"] == {"agrees": 5, "differs": 3, "stopped": 0, "endless": 0, "open": 0}
    case = answer["cases"][0]
    assert list(case) == ["number", "name", "kind", "outcome", "checked", "expected", "actual",
                          "difference", "error", "seconds"]  # fmt: skip
    assert (case["expected"], case["actual"]) == ("13.5", "10.0")
    assert answer["cases"][7]["error"] == {
        "type": "ValueError", "message": "a car has a length above 0", "file": "lanes.py",
        "line": 21,
    }  # fmt: skip


def test_statuses_of_check(oddsum, program):
    agrees = program("print(input())", PLAN, "a.py")
    cannot = program("print(input()", PLAN, "b.py")
    unplanned = program("print(1)", name="c.py")
    still_open = program("print(1)", '[[case]]\nname = "x"\nstdin = ""\n', "d.py")
    wrong = program("print(1)", "oops", "e.py")
    assert oddsum("check", agrees, *python())[0] == 0
    assert oddsum("check", cannot, *python())[0] == 3
    status, out, err = oddsum("check", unplanned, *python())
    assert (status, out) == (2, "")
    assert "has no plan yet" in err and "[[case]]" in err
    status, _, err = oddsum("check", still_open, *python())
    assert (status, "Nothing is expected yet in: x." in err) == (0, True)
    assert oddsum("check", wrong, *python())[0] == 2


@pytest.mark.parametrize("command", ["check", "trace", "pinpoint"])
def test_errors_are_json_where_json_was_asked_for(oddsum, program, command):
    path = program("x = (1\n", PLAN)
    status, out, _ = oddsum(command, path, "--format", "json", *python())
    error = json.loads(out)["error"]
    assert (status, error["status"], error["file"], error["line"]) == (3, 3, "ferry.py", 1)
    status, out, _ = oddsum(command, path.with_name("no.py"), "--format", "json")
    assert (status, json.loads(out)["error"]["status"]) == (2, 2)
    status, out, _ = oddsum(command, "--format", "json", "--oops")
    assert (status, json.loads(out)["error"]["status"]) == (2, 2)


BAD = [
    (("check", "none.py"), "There is no file none.py"),
    (("check", "."), "is a folder"),
    (("check",), "Missing argument"),
    (("chekc", "x.py"), "There is no command chekc. Did you mean check?"),
    (("check", "plan.cases.toml"), "is a plan, and the program is wanted"),
    (("trace", "ok.py", "--case", "9"), "There are cases 1 to 1"),
    (("trace", "ok.py", "--case", "onne"), "Did you mean 'one'?"),
    (("check", "ok.py", "--plan", "no.toml"), "There is no plan no.toml"),
    (("check", "ok.py", "--python", "snake"), "is no Python interpreter"),
    (("check", "ok.py", "-o", "ok.py", *python()), "exists already"),
    (("check", "ok.py", "-o", "no/such/folder.txt", *python()), "cannot be written"),
    (("check", "latin.py"), "not text in utf-8"),
    (("demo", "ferry"), "There is no demo ferry"),
    (("demo",), "needs a terminal"),
    (("ok.py",), "needs a terminal"),
    (("pinpoint", "ok.py", "--budget", "0"), "0"),
    (("check", "two.py"), "has 2 plans"),
]  # fmt: skip


@pytest.mark.parametrize(("args", "words"), BAD)
def test_bad_input_is_a_sentence_and_status_2(oddsum, tmp_path, monkeypatch, args, words):
    monkeypatch.chdir(tmp_path)
    Path("ok.py").write_text("print(input())")
    Path("ok.cases.toml").write_text(PLAN)
    Path("plan.cases.toml").write_text(PLAN)
    Path("two.py").write_text("")
    Path("two.a.cases.toml").write_text(PLAN)
    Path("two.b.cases.toml").write_text(PLAN)
    Path("latin.py").write_bytes(b"print('\xe4')")
    Path("latin.cases.toml").write_text(PLAN)
    status, out, err = oddsum(*args)
    if args[:2] == ("check", "latin.py"):
        assert status == 3  # that is for the interpreter to say, and it says so
        return
    assert (status, out) == (2, "")
    assert words in err
    assert Path("ok.py").read_text() == "print(input())"


def test_trace_as_csv_has_the_columns_of_the_contract(oddsum):
    status, out, err = oddsum("trace", FERRY / "fares.py", "--case", "just sixteen", "--format",
                              "csv", *python())  # fmt: skip
    rows = list(csv.reader(io.StringIO(out)))
    assert (status, err) == (0, "")
    assert rows[0] == [*FIXED, "CHILD", "ADULT", "count", "total", "i", "age", "fare.age"]
    back = next(r for r in rows if r[6] == "back")
    assert (back[2], back[3], back[5], back[12]) == ("22", "", "", "3")
    assert rows[4][8] == "How many? "


def test_trace_without_a_plan_follows_what_is_typed(oddsum, program):
    path = program("n = int(input('n? '))\nprint(n * 2)\n")
    status, out, _ = oddsum("trace", path, "--format", "json", *python(), typed="21\n")
    answer = json.loads(out)
    assert (status, answer["outcome"], answer["complete"]) == (0, "open", True)
    assert answer["steps"][0]["value"] == "'21'"
    assert [s["output"] for s in answer["steps"]] == ["n? ", "42\n"]


def test_trace_chooses_the_first_odd_case_and_says_so(oddsum):
    status, out, err = oddsum("trace", FERRY / "tides.py", *python())
    assert status == 0
    assert "Tracing case 1, halfway between low and high: the first that is odd" in err
    assert "gives 160.0" in out


def test_long_values_are_cut_unless_asked_for_whole(oddsum, program):
    path = program("x = list(range(200))\n")
    assert "…" in oddsum("trace", path, "--format", "csv", *python())[1]
    assert "199]" in oddsum("trace", path, "--format", "csv", "--full", *python())[1]


def test_pinpoint_reveals_no_deeper_than_asked(oddsum):
    path = FERRY / "fares.py"
    status, where, _ = oddsum("pinpoint", path, *python())
    assert status == 1
    assert "Look at line 10, in fare." in where
    assert "<" not in where.replace("age <", "") and "16" not in where and "settles" not in where
    assert "if age < 16:" in oddsum("pinpoint", path, "--reveal", "how", *python())[1]


def test_pinpoint_waits_for_a_guess_where_the_author_wishes_it(oddsum, demo):
    path = demo / "fares.py"
    plan = path.with_suffix(".cases.toml")
    plan.write_text("guess_first = true\n" + plan.read_text())
    status, out, err = oddsum("pinpoint", path, *python())
    assert status == 2 and not out and "which line do you suspect" in err and "--guess 10" in err
    status, out, _ = oddsum("pinpoint", path, "--guess", "10", *python())
    assert status == 1 and out.startswith("Line 10 is the strongest lead.") and "LEADS IN" in out
    assert oddsum("pinpoint", path, "--guess", "0", *python())[1].startswith("── LEADS IN")
    assert oddsum("pinpoint", path, "--format", "json", *python())[0] == 1


def test_pinpoint_as_json_has_the_keys_of_the_contract(oddsum):
    path = FERRY / "fares.py"
    _, out, _ = oddsum("pinpoint", path, "--format", "json", *python())
    answer = json.loads(out)
    assert list(answer) == ["format", "program", "seconds", "trials", "agrees", "odd", "leads",
                            "notes", "ask"]  # fmt: skip
    lead = answer["leads"][0]
    assert list(lead) == ["rank", "lines", "function", "kind", "where", "what", "how", "mend",
                          "score", "with", "values", "evidence"]  # fmt: skip
    assert lead["mend"] == {
        "edits": [{"file": "fares.py", "line": 10, "end": 10, "before": ["    if age <= 16:"],
                   "after": ["    if age < 16:"]}],
        "settles": [6, 7],
        "breaks": [],
    }  # fmt: skip
    _, out, _ = oddsum("pinpoint", path, "--format", "json", "--reveal", "where", *python())
    covered = json.loads(out)["leads"][0]
    assert [covered[k] for k in ("kind", "what", "how", "mend")] == [None] * 4
    assert covered["evidence"][0] == {"kind": "trial", "side": None, "text": None}


def test_pinpoint_says_so_where_all_agree(oddsum, program):
    path = program("print(input())", PLAN)
    status, out, _ = oddsum("pinpoint", path, *python())
    assert (status, "The only case agrees" in out) == (0, True)


def test_the_answer_goes_to_a_file_with_out(oddsum, tmp_path):
    file = tmp_path / "answer.json"
    for extra in ((), ("--force",)):
        status, out, _ = oddsum("check", FERRY / "fares.py", "--format", "json", "-o", file,
                                *python(), *extra)  # fmt: skip
        assert (status, out) == (1, "")
    assert json.loads(file.read_text())["counts"]["differs"] == 2


def test_the_demos_are_listed(oddsum):
    status, out, _ = oddsum("demo", "--list")
    assert status == 0
    assert [line.split()[0] for line in out.splitlines()] == list(DEMOS)


def test_text_is_cut_by_what_it_takes_on_screen():
    assert [fit("漢字かな", n) for n in (8, 5)] == ["漢字かな", "漢字…"]


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_a_shell_gets_what_it_completes_with(oddsum, shell):
    status, out, err = oddsum("completion", shell)
    assert status == 0 and "_ODDSUM_COMPLETE" in out and f"oddsum completion {shell}" in err


def test_commands_cases_and_demos_are_completed(demo, monkeypatch):
    from click.shell_completion import ShellComplete

    from oddsum.cli import cli

    def offered(*words: str, typed: str = "") -> set[str]:
        monkeypatch.setenv("COMP_WORDS", " ".join(["oddsum", *words, typed]))
        items = ShellComplete(cli, {}, "oddsum", "_X").get_completions(list(words), typed)
        return {i.value for i in items if i.type == "plain"}

    monkeypatch.chdir(demo)
    assert {"check", "report", "completion"} <= offered()
    assert offered("demo", typed="li") == {"lighthouse"}
    assert "just sixteen" in offered("trace", "fares.py", "--case")
    assert offered("chart", "fares.py", "--what", typed="le") == {"ledger"}
    assert offered("trace", "none.py", "--case") == set()
