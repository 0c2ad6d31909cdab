"""Trials a second in one process, against one fresh interpreter run a trial."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from figures import Figure, seconds

from oddsum.demo.copy import copy_demo
from oddsum.languages.python.edits import trial_edits
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.model.case import Plan
from oddsum.pinpoint.proposal import on_trial
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench, allowance
from oddsum.source.program import read_source

ALLOWED = Allowance(rounds=10_000, seconds=0.25, output=100_000)
FRESH_RUNS = 20
TOGETHER = 240  # edits compiled at once


def measure() -> list[Figure]:
    return [figure for name in ("fares", "lanes", "tides") for figure in _of(name)]


def _of(name: str) -> list[Figure]:
    program = copy_demo(name)
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    source = read_source(program)
    edits = [on_trial(e) for e, _ in trial_edits(Scene(source))]
    interpreter = find_interpreter(program, sys.executable)
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
    fresh = _fresh(program, plan) / FRESH_RUNS
    how = (
        f"{each * 1e3:.3f} ms a trial, {only * 1e3:.3f} of it a run, {fresh * 1e3:.1f} ms a fresh "
        "interpreter run"
    )
    return [
        Figure(f"trials a second, one core: {name}", 1 / each, "/s", "8000 on all cores", how),
        Figure(f"trial against fresh run: {name}", fresh / each, "x", "at least 100", how),
    ]


def _fresh(program: Path, plan: Plan) -> float:
    case = plan.cases[0]
    code = program.read_text()
    if case.call is not None:
        code += f"\nprint(repr({case.call}))\n"

    def runs() -> None:
        for _ in range(FRESH_RUNS):
            subprocess.run(
                [sys.executable, "-c", code], input=case.stdin or "", text=True, check=False,
                capture_output=True,
            )  # fmt: skip

    return seconds(runs)
