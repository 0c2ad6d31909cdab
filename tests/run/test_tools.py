"""Languages that go through Check alone: their commands are offered, and what they say is shown."""

from __future__ import annotations

import shutil

import pytest

from conftest import OWN, python
from oddsum.check.plan import check_all
from oddsum.languages import language_of
from oddsum.languages.tools import TOOLS, tool_of
from oddsum.model.errors import PlanError, RunError
from oddsum.plan.begin import begin_plan
from oddsum.plan.commands import head_for, typed_commands
from oddsum.plan.read import parse_plan, read_plan

# Each doubles the number of boats that is typed in.
PROGRAMS = {
    "boats.c": '#include <stdio.h>\nint main(void) { int n; scanf("%d", &n); printf("%d\\n", n * 2); }\n',
    "boats.cpp": "#include <iostream>\nint main() { int n; std::cin >> n; std::cout << n * 2 << '\\n'; }\n",
    "Boats.java": "class Boat {}\nclass Pier { public static void main(String[] a) { System.out.println("
    "new java.util.Scanner(System.in).nextInt() * 2); } }\n",
    "boats.go": 'package main\nimport "fmt"\nfunc main() { var n int; fmt.Scan(&n); fmt.Println(n * 2) }\n',
    "boats.rs": "fn main() { let mut s = String::new(); std::io::stdin().read_line(&mut s).unwrap(); "
    'println!("{}", s.trim().parse::<i32>().unwrap() * 2); }\n',
    "boats.rb": "puts gets.to_i * 2\n",
    "boats.R": 'n <- as.integer(readLines("stdin", n = 1))\ncat(n * 2, "\\n")\n',
    "boats.m": 'n = input(""); disp(n * 2)\n',
    "boats.sh": "read n\necho $((n * 2))\n",
    "boats.bash": "read n\necho $((n * 2))\n",
}


def filled(folder, name, text):
    """A program and the plan that is begun for it, its first case filled in."""
    program = folder / name
    program.write_text(text)
    path = begin_plan(program, None)
    plan = path.read_text().replace('stdin = """\n"""', 'stdin = "21\\n"')
    path.write_text(plan.replace('# stdout = """\n# """', 'stdout = "42"'))
    return program, path


@pytest.mark.parametrize("name", PROGRAMS)
def test_a_plan_that_is_begun_runs_where_the_tools_are_and_names_what_is_missing(tmp_path, name):
    program, path = filled(tmp_path, name, PROGRAMS[name])
    plan = read_plan(path, program)
    missing = tool_of(name).commands(program, PROGRAMS[name]).missing
    if missing:
        with pytest.raises(RunError, match=f"There is no {missing} on this machine") as told:
            check_all(plan, OWN)
        assert "name another command" in told.value.hint
        return
    (result,) = check_all(plan, OWN)
    assert result.outcome.value == "agrees", result.run.errors


def test_a_tool_that_is_not_there_is_named(tmp_path, monkeypatch):
    program, path = filled(tmp_path, "boats.c", PROGRAMS["boats.c"])
    monkeypatch.setenv("PATH", str(tmp_path))
    with pytest.raises(RunError, match="There is no cc on this machine"):
        check_all(read_plan(path, program), OWN)


def test_a_plan_that_does_not_say_how_is_told_what_to_put_there(tmp_path):
    program, path = tmp_path / "boats.c", tmp_path / "boats.cases.toml"
    program.write_text(PROGRAMS["boats.c"])
    case = '[[case]]\nname = "a"\nstdin = "21\\n"\n'
    with pytest.raises(PlanError, match=r"boats\.c is in C, and the plan does not say how") as told:
        parse_plan(case, path, program)
    _, head = told.value.hint.split(":\n")
    plan = parse_plan(f"{head}\n{case}", path, program)
    assert plan.build == ("cc", "boats.c", "-o", "boats", "-lm") and plan.run == ("./boats",)
    assert parse_plan("", path, program).cases == ()  # one that is begun later


@pytest.mark.skipif(shutil.which("cc") is None, reason="no C compiler here")
def test_what_a_build_and_a_program_say_besides_is_shown(tmp_path, oddsum):
    text = PROGRAMS["boats.c"].replace("int n;", 'int n; char *p = 7; fputs("quay\\n", stderr);')
    program, path = filled(tmp_path, "boats.c", text)
    path.write_text(path.read_text().replace('"42"', '"41"'))
    status, out, err = oddsum("check", program, *python())
    assert status == 1 and "its own errors:  quay" in out
    assert "The build succeeded, and had this to say:" in err and "warning:" in err
    assert str(tmp_path) not in err


@pytest.mark.parametrize(("command", "words"), [
    (("trace",), "let the program print its variables"),
    (("pinpoint",), "what the odd cases share"),
    (("plan", "advise"), "try both sides of each limit"),
])  # fmt: skip
def test_what_it_does_not_go_through_is_told_with_what_helps(tmp_path, oddsum, command, words):
    program, _ = filled(tmp_path, "boats.sh", PROGRAMS["boats.sh"])
    status, _, err = oddsum(*command, program, *python())
    assert status == 2 and words in err


def test_every_ending_of_the_table_is_of_a_language_that_is_checked_and_no_more(tmp_path):
    for suffix, tool in TOOLS.items():
        language = language_of(f"x{suffix}")
        assert language.name == tool.name and language.can == {"check"}
        assert 'run = ["' in head_for(tmp_path / f"x{suffix}")
    assert language_of("x.py").name == "Python" and language_of("x").name == "Python"


def test_commands_are_typed_as_in_a_shell():
    made = typed_commands("", "java -cp 'two words' Pier")
    assert made.build == () and made.run == ("java", "-cp", "two words", "Pier")
    for build, run, words in (("cc x.c", " ", "how the program is run"), ("cc 'x", "./x", "quote")):
        with pytest.raises(PlanError, match=words):
            typed_commands(build, run)
