"""Programs that are not Python: built, run, compared, under the same limits."""

from __future__ import annotations

import shutil
import threading

import pytest

from conftest import OWN
from oddsum.check.plan import check_all
from oddsum.model.errors import PlanError, RunError, StartError
from oddsum.plan.read import parse_plan, read_plan
from oddsum.run import command

FARES_C = """\
#include <stdio.h>
#include <stdlib.h>
int main(int argc, char **argv) {
    int count, age, total = 0;
    if (argc > 1) { fprintf(stderr, "no %s here\\n", argv[1]); return 3; }
    if (scanf("%d", &count) != 1) { int *p = 0; return *p; }
    if (count < 0) for (;;) total++;
    if (count > 99) for (;;) puts("queue");
    for (int i = 0; i < count; i++) { scanf("%d", &age); total += age <= 16 ? 3 : 6; }
    FILE *f = fopen("receipt.txt", "w"); fprintf(f, "%d", total); fclose(f);
    printf("Total: %d\\n", total);
}
"""
PLAN_C = """
build = ["cc", "fares.c", "-O0", "-o", "made/fares"]
run = ["made/fares"]
timeout = 0.3
[[case]]
name = "adult"
stdin = "1\\n34\\n"
stdout = "Total: 6\\n"
writes = { "receipt.txt" = "6" }
[[case]]
name = "sixteen"
stdin = "1\\n16\\n"
stdout = "Total: 6\\n"
[[case]]
name = "endless"
stdin = "-1"
stdout = ""
[[case]]
name = "prints for ever"
stdin = "100"
output = 0.1
[[case]]
name = "crashes"
stdin = "x"
[[case]]
name = "refuses"
args = ["luggage"]
exit = 3
[[case]]
name = "open"
stdin = "0\\n"
"""
needs_cc = pytest.mark.skipif(shutil.which("cc") is None, reason="no C compiler here")


def plan_of(tmp_path, source, plan, name="fares.c"):
    path = tmp_path / name
    path.write_text(source)
    (tmp_path / "made").mkdir(exist_ok=True)
    (tmp_path / "made" / "here.txt").touch()
    path.with_suffix(".cases.toml").write_text(plan)
    return read_plan(path.with_suffix(".cases.toml"), path)


@needs_cc
def test_a_c_program_has_every_outcome(tmp_path):
    results = check_all(plan_of(tmp_path, FARES_C, PLAN_C), OWN)
    outcomes = {r.name: r.outcome.value for r in results}
    assert outcomes == {
        "adult": "agrees", "sixteen": "differs", "endless": "endless", "refuses": "agrees",
        "prints for ever": "endless", "crashes": "stopped", "open": "open",
    }  # fmt: skip
    words = {r.name: r.difference.summary for r in results if r.difference}
    assert words["sixteen"] == "line 1: 6 expected, 3 came out; 3 too little (half of it)"
    assert words["endless"].startswith("no end in 0.3 s")
    assert words["crashes"] == "SIGSEGV: it touched memory that is not its own"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["fares.c", "fares.cases.toml", "made"]


@needs_cc
def test_it_is_built_once_for_the_same_files(tmp_path, monkeypatch):
    builds = []
    real = command._build
    monkeypatch.setattr(command, "_build", lambda *a: builds.append(1) or real(*a))
    plan = plan_of(tmp_path, FARES_C + f"// {tmp_path}\n", PLAN_C)
    check_all(plan, OWN)
    check_all(plan, OWN)
    assert len(builds) == 1
    plan.program.write_text(FARES_C.replace("<= 16", "< 16"))
    assert check_all(plan, OWN)[1].outcome == "agrees"
    assert len(builds) == 2


@needs_cc
def test_a_build_that_fails_is_told_in_the_compiler_s_words_with_the_place(tmp_path):
    plan = plan_of(tmp_path, FARES_C.replace("total = 0;", "total = 0"), PLAN_C)
    with pytest.raises(StartError) as told:
        check_all(plan, OWN)
    assert "cannot be built: `cc fares.c" in told.value.text and "error:" in told.value.hint
    assert told.value.file == "fares.c" and told.value.line in (4, 5)
    assert "oddsum-" not in told.value.hint


def test_a_shell_script_is_run_as_it_is(tmp_path):
    plan = plan_of(
        tmp_path,
        "read n\nif [ $n -gt 9 ]; then echo full; else echo $((n+2)); fi\n",
        'run = ["sh", "lane.sh"]\n[[case]]\nname = "a"\nstdin = "3\\n"\nstdout = "4\\n"\n'
        '[[case]]\nname = "b"\nstdin = "10\\n"\nstdout = "full\\n"\n',
        "lane.sh",
    )
    results = check_all(plan, OWN)
    assert [r.outcome.value for r in results] == ["differs", "agrees"]


def test_a_command_that_cannot_be_started_is_told(tmp_path):
    plan = plan_of(tmp_path, "", 'run = ["./nowhere"]\n[[case]]\nname = "a"\nstdin = ""\n', "x.c")
    with pytest.raises(RunError, match=r"\./nowhere cannot be started"):
        check_all(plan, OWN)


def test_it_can_be_cancelled(tmp_path):
    plan = plan_of(
        tmp_path,
        "sleep 60\n",
        'run = ["sh", "x.sh"]\ntimeout = 60\n[[case]]\nname = "a"\nstdin = ""\n',
        "x.sh",
    )
    stop = threading.Event()
    threading.Timer(0.3, stop.set).start()
    assert check_all(plan, OWN, stop=stop) == ()


@pytest.mark.parametrize(
    ("top", "words"),
    [
        ('build = ["cc"]\n', "`run` is missing"),
        ('run = "sh x"\n', "should be a command as a list"),
        ("run = []\n", "should be a command as a list"),
        ('run = ["sh"]\n', "has `call`, which is for Python"),
    ],
)
def test_what_a_plan_cannot_mean_is_told(tmp_path, top, words):
    with pytest.raises(PlanError, match=words):
        parse_plan(top + '[[case]]\nname = "a"\ncall = "f()"\n', tmp_path / "x", tmp_path / "x.c")
