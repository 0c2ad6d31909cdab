"""Trials a second in one process, against one fresh interpreter run a trial."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from figures import Figure, seconds

from oddsum.demo.copy import copy_demo
from oddsum.languages.language import Interpreter
from oddsum.languages.registry import language_of
from oddsum.model.case import Plan
from oddsum.pinpoint.proposal import on_trial
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench, allowance
from oddsum.source.program import read_source

ALLOWED = Allowance(rounds=10_000, seconds=0.25, output=100_000)
DEMOS = ("fares", "lanes", "tides", "luggage", "harbour", "cargo")
FRESH_RUNS = 20
TOGETHER = 240  # edits compiled at once


def measure() -> list[Figure]:
    return [figure for name in DEMOS for figure in _of(name)]


def _of(name: str) -> list[Figure]:
    program = copy_demo(name)
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    source = read_source(program)
    language = language_of(program)
    scene = language.edits.scene(source, {}, frozenset())
    edits = [on_trial(e) for e, _ in language.edits.edits(scene)]
    named = sys.executable if language.name == "Python" else None
    interpreter = language.running.find_interpreter(program, named)
    case = plan.cases[0]
    texts = {source.name: source.text}
    with TrialBench(plan, bundle(plan), interpreter, lambda case, run: run) as bench:
        bench.unedited(case, ALLOWED)  # the process starts
        allowed = allowance(0.0, bench.ticks, 2.0, 0.1)  # as a search allows it

        def trials() -> None:
            for at in range(0, len(edits), TOGETHER):
                some = edits[at : at + TOGETHER]
                bench.load(texts, some)
                list(bench.tried(case, [[n] for n in range(len(some))], allowed))

        def runs() -> None:
            list(bench.tried(case, [[]] * len(edits), allowed))

        each = seconds(trials) / len(edits)
        only = seconds(runs) / len(edits)
    fresh = _fresh(program, plan, interpreter) / FRESH_RUNS
    how = (
        f"{each * 1e3:.3f} ms a trial, {only * 1e3:.3f} of it a run, {fresh * 1e3:.1f} ms a fresh "
        "interpreter run"
    )
    return [
        Figure(f"trials a second, one core: {name}", 1 / each, "/s", "8000 on all cores", how),
        Figure(f"trial against fresh run: {name}", fresh / each, "x", "at least 100", how),
    ]


PRINTED = {"Python": ("-c", "print(repr({}))"), "JavaScript": ("-e", "console.log({})")}


def _fresh(program: Path, plan: Plan, interpreter: Interpreter) -> float:
    case = plan.cases[0]
    option, printed = PRINTED[interpreter.language]
    code = program.read_text()
    if case.call is not None:
        code += f"\n{printed.format(case.call)}\n"

    def runs() -> None:
        for _ in range(FRESH_RUNS):
            subprocess.run(
                [interpreter.path, option, code], input=case.stdin or "", text=True, check=False,
                capture_output=True,
            )  # fmt: skip

    return seconds(runs)
