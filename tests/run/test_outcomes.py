"""Every row of the contract's table of outcomes, and programs that do their worst."""

from __future__ import annotations

import os
import subprocess
import sys
import time

import psutil
import pytest

from conftest import check_one
from oddsum.model.errors import StartError

TABLE = [
    # source, case, outcome, what the difference says
    ("print(5)", {"stdout": "5"}, "agrees", None),
    ("print(6)", {"stdout": "5"}, "differs", "5 expected, 6 came out; 1 too much"),
    ("", {"stdout": ""}, "agrees", None),
    ("", {"stdout": "5"}, "differs", "nothing was printed"),
    ("print(5)", {"stdin": ""}, "open", None),
    ("print(5); exit(3)", {"stdout": "5"}, "differs", "exit status 3; 0 is expected"),
    ("print(5); exit(3)", {"stdout": "5", "exit": 3}, "agrees", None),
    ("exit('no ferry')", {"exit": 1}, "agrees", None),
    ("print(5); [][1]", {"stdout": "5"}, "stopped", "IndexError on line 1"),
    ("{}[1]", {"raises": "LookupError"}, "agrees", None),
    ("{}[1]", {"raises": "ValueError"}, "stopped", "KeyError"),
    ("print(5)", {"raises": "ValueError"}, "differs", "nothing was raised"),
    ("def f(): f()\nf()", {"stdout": ""}, "stopped", "RecursionError on line 1"),
    ("x = []\nwhile True: x.append(' ' * 9**7)", {"stdout": "", "timeout": 20.0, "memory": 400.0},
     "stopped", "MemoryError on line 2"),
    ("import os; os.kill(os.getpid(), 11)", {"stdout": ""}, "stopped", "SIGSEGV"),
    ("input()\ninput()", {"stdin": "1\n", "stdout": ""}, "stopped", "more input than the case"),
    ("print(input())", {"stdin": "1\n2\n", "stdout": "1"}, "agrees", None),
    ("while True: pass", {"stdout": "", "timeout": 0.3}, "endless", "loop on line 1"),
    ("while True:\n try: 1/0\n except: pass", {"stdout": "", "timeout": 0.3}, "endless", "line 1"),
    ("import time\ntime.sleep(60)", {"stdout": "", "timeout": 0.1}, "endless",
     "most of them waiting"),
    ("while True: print('tide')", {"stdout": "", "output": 0.1}, "endless", "printed more than"),
    ("import os; print(5, flush=True); os._exit(0)", {"stdout": "5"}, "agrees", None),
    ("import os; os._exit(4)", {"stdout": ""}, "differs", "exit status 4"),
    ("import sys; sys.exit(2**70)", {"stdout": ""}, "differs", "exit status 255"),
    ("import sys; sys.exit(-1)", {"stdout": ""}, "differs", "exit status 255"),
    ("import atexit, os; atexit.register(os._exit, 3)", {"stdout": ""}, "differs", "status 3"),
    ("import os\nclass A:\n    def __del__(self): os._exit(4)\na = A()", {"stdout": ""}, "differs",
     "exit status 4"),
    ("import atexit\natexit.register(lambda: 1 / 0)", {"stdout": ""}, "agrees", None),
    # What was typed is no output, but behind a prompt on its own line.
    ("n = input()", {"stdin": "7\n", "stdout": "7"}, "differs", "nothing was printed"),
    ("n = input('How many?\\n')", {"stdin": "7\n", "stdout": "How many?\n7"}, "differs", "7"),
    ("n = input('How many? ')", {"stdin": "7\n", "stdout": "How many? 7"}, "agrees", None),
    ("a = input('A? ')\nb = input()", {"stdin": "7\n8\n", "stdout": "A? 7\n8"}, "differs", None),
    ("n = input('Cars? ')\nprint(8)", {"stdin": "4\n", "stdout": "10"}, "differs",
     "10 expected, 8 came out"),
    ("import random; random.seed(); print(random.random())",
     {"stdin": "", "stdout": "0.8444218515250481"}, "agrees", None),
    ("import sys; print(5); sys.stdout.close()", {"stdout": "5"}, "agrees", None),
    ("import os; os.write(1, b'5\\n')", {"stdout": "5"}, "agrees", None),
    ("import os; [os.close(n) for n in range(3, 50)\n if not os.fstat]", {"stdout": ""},
     "agrees", None),
    ("open('log.txt', 'w').write('a\\nb')", {"writes": {"log.txt": "a\nb\n"}}, "agrees", None),
    ("open('log.txt', 'w').write('a\\nc')", {"writes": {"log.txt": "a\nb"}}, "differs",
     "log.txt, line 2"),
    ("", {"writes": {"log.txt": "a"}}, "differs", "was not written"),
    ("import sys; print(sys.argv[1:])", {"args": ("a", "b c"), "stdout": "['a', 'b c']"},
     "agrees", None),
    ("print(open('in.txt').read())", {"files": {"in.txt": "77"}, "stdout": "77"}, "agrees", None),
    ("print(5)", {"check": "'5' in stdout"}, "agrees", None),
    ("print(5)", {"check": "'6' in stdout"}, "differs", "does not hold"),
    ("print(5)", {"check": "nothing"}, "differs", "NameError"),
]  # fmt: skip


@pytest.mark.parametrize(("source", "case", "outcome", "words"), TABLE)
def test_what_happened_and_what_it_is_called(program, source, case, outcome, words):
    result = check_one(program(source), **case)
    assert result.outcome.value == outcome, result
    if words is not None:
        assert words in result.difference.summary
    elif outcome != "differs":
        assert result.difference is None


def test_a_file_of_one_s_own_goes_before_what_the_tool_has_loaded(program):
    program("def dumps(x):\n    return 'mine'\n", name="json.py")
    assert (
        check_one(program("import json\nprint(json.dumps(1))\n"), stdout="mine").outcome == "agrees"
    )


@pytest.mark.parametrize("source", [b"# caf\xe9\nprint(5)\n", b"print(5)\n# caf\xe9\n"])
def test_a_source_that_the_interpreter_refuses_does_not_run(program, source):
    with pytest.raises(StartError, match="save the file as UTF-8"):
        check_one(program(source), stdout="5")


def test_a_source_that_names_its_encoding_runs(program):
    source = b"# -*- coding: latin-1 -*-\nprint(len('caf\xe9'))\n"
    assert check_one(program(source), stdout="4").outcome.value == "agrees"


def test_an_error_in_another_file_names_it(program):
    program("def fare(age):\n    return 6 // age\n", name="fares.py")
    result = check_one(program("import fares\nprint(fares.fare(0))\n"), stdout="")
    assert "ZeroDivisionError on line 2 of fares.py" in result.difference.summary


CALLS = [
    ("def f(x): return x * 2", "f(4)", "8", "agrees", None),
    ("def f(x): return x / 3", "f(1)", "0.333333333333", "agrees", None),
    ("def f(x): return [x, {'a': (0.1 + 0.2)}]", "f(1)", "[1, {'a': 0.3}]", "agrees", None),
    ("def f(): return float('nan')", "f()", "float('nan')", "agrees", None),
    ("def f(): return 1", "f()", "True", "agrees", None),
    ("def f(x): return str(x)", "f(12)", "12", "differs", "'12' is text, 12 is a number"),
    ("def f(x): print(x)", "f(3)", "3", "differs", "None came out: nothing was returned"),
    ("def f(): return [3, 1]", "f()", "[1, 3]", "differs", "the same items in another order"),
    ("def f(): return [3]", "f()", "[3, 1]", "differs", "1 item too few"),
    ("def f(x): return -x", "f(4)", "4", "differs", "the sign is the other way round"),
    ("def f(): return 'Pier'", "f()", "'pier'", "differs", "but for capital letters"),
    ("def f(): return 5", "g()", "5", "stopped", "name 'g' is not defined"),
    ("import math\ndef f(): return math.pi", "f()", "math.pi", "agrees", None),
]


@pytest.mark.parametrize(("source", "call", "returns", "outcome", "words"), CALLS)
def test_calls_are_compared_by_value(program, source, call, returns, outcome, words):
    result = check_one(program(source), call=call, returns=returns)
    assert result.outcome.value == outcome, result
    assert (words or "") in (result.difference.summary if result.difference else "")


MIXED = """
RATE = 3
name = input("Name? ")
print("Hello", name)
limit = len(name)
double = limit * 2
def fare(n):
    return n * RATE
def main():
    print(fare(int(input())))
main()
LAST = RATE + 1
"""


def test_a_call_leaves_out_what_talks_and_what_depends_on_it(program):
    result = check_one(program(MIXED), call="fare(4) + LAST", returns="16")
    assert result.outcome.value == "agrees"
    assert result.run.skipped == (3, 4, 5, 6, 11)


def test_with_top_level_all_a_call_runs_everything(program):
    result = check_one(
        program(MIXED), top_level="all", stdin="Ann\n2\n", call="double", returns="6"
    )
    assert result.outcome.value == "agrees"
    assert result.run.output == ""  # what the main part printed is not the call's


def test_an_expected_value_that_uses_the_program_is_told(program):
    result = check_one(program("RATE = 3\ndef f(): return RATE"), call="f()", returns="RATE")
    assert result.run.returned.own_names == ("RATE",)


def test_before_runs_ahead_and_its_output_is_not_compared(program):
    source = "def board(deck, n):\n    deck.append(n)\n    print('aboard')"
    result = check_one(
        program(source), before="print('x')\ndeck = [1]", call="board(deck, 2)",
        stdout="aboard", check="deck == [1, 2]",
    )  # fmt: skip
    assert result.outcome.value == "agrees"


def test_input_left_unread_is_told_and_changes_nothing(program):
    result = check_one(program("print(input())"), stdin="1\n2\n3\n", stdout="1")
    assert (result.outcome.value, result.run.unread) == ("agrees", "2\n3\n")


def test_bytes_that_are_no_utf8_are_shown_and_told(program):
    source = "import sys; sys.stdout.buffer.write(b'caf\\xe9')"
    result = check_one(program(source), stdout="x")
    assert result.run.output == "caf\ufffd"
    assert "not UTF-8" in result.run.remarks[0]


def test_writing_into_our_wire_is_noticed_and_never_taken_for_a_result(program):
    source = """
import os
for fd in range(3, 1100):
    try: os.write(fd, b'{"k": "end", "status": 0}\\n')
    except OSError: pass
print(6)
"""
    result = check_one(program(source), stdout="5")
    assert result.outcome.value == "differs"
    assert any("not its own" in remark for remark in result.run.remarks)


def test_random_numbers_and_hashes_are_the_same_every_time(program):
    path = program("import random; print(random.random(), hash('pier'), set('ferry'))")
    first, second = (check_one(path, stdin="").run.output for _ in range(2))
    assert first == second
    assert check_one(path, stdin="", seed=7).run.output != first


def test_children_of_a_program_are_ended_with_it(program, tmp_path):
    told = tmp_path / "child"
    source = f"""
import subprocess, sys
child = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(60)"],
                         start_new_session=True)
open({str(told)!r}, "w").write(str(child.pid))
while True: pass
"""
    assert check_one(program(source), stdout="", timeout=0.4).outcome.value == "endless"
    pid = int(told.read_text())
    for _ in range(100):
        if not psutil.pid_exists(pid) or psutil.Process(pid).status() == psutil.STATUS_ZOMBIE:
            return
        time.sleep(0.1)
    raise AssertionError("the child still runs")


def test_the_endless_loop_is_named_not_what_it_happens_to_call(program):
    source = """
def wait(n):
    for _ in range(n):
        pass
tide = 0
for day in range(3):
    while tide < 5:
        wait(1000)
"""
    result = check_one(program(source), stdout="", timeout=0.4)
    assert (result.run.error.line, result.outcome.value) == (7, "endless")


def test_endless_in_one_operation_is_ended_from_outside(program):
    result = check_one(program("sum(range(10**13))"), stdout="", timeout=0.3)
    assert result.outcome.value == "endless"
    assert result.run.seconds < 5


@pytest.mark.parametrize(
    ("source", "line"),
    [("x = 1\nprint(x", 2), ("if True\n  pass", 1), (b"\xff\xfe", None), ("a = '\x00'", None)],
)
def test_a_program_that_cannot_start_is_no_case_of_its_own(program, source, line):
    with pytest.raises(StartError) as caught:
        check_one(program(source), stdout="")
    assert line is None or caught.value.line == line


@pytest.mark.parametrize(
    "source",
    [
        "\ufeffprint('käse')".encode(),
        b"# -*- coding: latin-1 -*-\r\nprint('k\xe4se')\r\n",
        b"if True:\r\n\tprint('k\\xe4se')\r\n",
    ],
)
def test_files_as_windows_and_old_editors_write_them(program, source):
    assert check_one(program(source), stdout="käse").outcome.value == "agrees"


def test_the_folder_is_put_back_between_cases(program, tmp_path):
    from conftest import OWN
    from oddsum.check.plan import check_all
    from oddsum.model.case import Case, Plan

    (tmp_path / "log.txt").write_text("begin\n")
    (tmp_path / ".secret").mkdir()
    source = """
import os
print(sorted(os.listdir()), open('log.txt').read())
open('log.txt', 'a').write('more'); open('new.txt', 'w').close(); os.makedirs('a/b')
os.chmod('ferry.py', 0)
"""
    path = program(source)
    cases = tuple(Case(number=n, name=str(n), stdin="") for n in range(1, 6))
    results = check_all(Plan(program=path, cases=cases), OWN)
    assert {r.run.output for r in results} == {"['ferry.py', 'log.txt'] begin\n\n"}
    assert (tmp_path / "log.txt").read_text() == "begin\n"


def test_a_command_that_is_ended_ends_and_clears_what_it_started(program, tmp_path):
    plan = '[[case]]\nname = "x"\nstdin = ""\nstdout = ""\ntimeout = 60\n'
    path = program("print(__file__, flush=True)\nwhile True: pass\n", plan)
    scratch = tmp_path / "scratch"
    scratch.mkdir()
    command = [sys.executable, "-m", "oddsum", "check", str(path), "--python", sys.executable]
    environment = {**os.environ, "TMPDIR": str(scratch)}
    with subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL) as process:
        for _ in range(100):
            if any(scratch.glob("oddsum-*/ferry.py")):
                break
            time.sleep(0.05)
        process.terminate()
        assert process.wait(10) == 130
    assert not list(scratch.iterdir())


@pytest.mark.parametrize(
    ("case", "words"),
    [
        (
            {"returns": "1/0"},
            "the expected value (`returns`) cannot be worked out: ZeroDivisionError",
        ),
        ({"returns": "thre"}, "the expected value (`returns`) cannot be worked out: NameError"),
        ({"returns": "3", "before": "x = 1/0"}, "what runs ahead of the call (`before`) stopped"),
        (
            {"call": "fair(2)", "returns": "3"},
            "the call cannot be worked out: NameError: name 'fair'",
        ),
    ],
)
def test_what_is_wrong_with_the_plan_s_own_words_is_not_laid_to_the_program(program, case, words):
    path = program("def fare(age):\n    return 3\n")
    result = check_one(path, **{"call": "fare(2)", **case})
    assert result.outcome.value == "stopped"
    assert result.difference.summary.startswith(words)
    assert result.difference.summary.endswith("that is written in the plan")


def test_an_error_in_the_called_function_is_the_program_s(program):
    result = check_one(program("def fare(age):\n    return age / 0\n"), call="fare(2)", returns="1")
    assert result.difference.summary == "ZeroDivisionError on line 2: division by zero"
