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
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import read_source

ALLOWED = Allowance(rounds=100_000, seconds=2.0, output=100_000)
FRESH_RUNS = 20


def measure() -> list[Figure]:
    return [figure for name in ("fares", "lanes", "tides") for figure in _of(name)]


def _of(name: str) -> list[Figure]:
    program = copy_demo(name)
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    source = read_source(program)
    texts = [text for _, text in trial_edits(Scene(source))]
    interpreter = find_interpreter(program, sys.executable)
    case = plan.cases[0]
    with TrialBench(plan, bundle(plan), interpreter) as bench:
        bench.run(case, {}, ALLOWED)  # the process starts

        def trials() -> None:
            for text in texts:
                bench.run(case, {source.name: text}, ALLOWED)

        each = seconds(trials) / len(texts)
    fresh = _fresh(program, plan) / FRESH_RUNS
    how = f"{each * 1e3:.3f} ms a trial, {fresh * 1e3:.1f} ms a fresh interpreter run"
    return [
        Figure(f"trials a second, one core: {name}", 1 / each, "/s", "", how),
        Figure(f"trial against fresh run: {name}", fresh / each, "x", "at least 20", how),
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
