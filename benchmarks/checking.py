"""`oddsum check` on 8 cases, against the 8 bare interpreter runs one after the other."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from figures import Figure, in_turn, middle, ratio

from oddsum.demo.copy import copy_demo
from oddsum.plan.read import read_plan

ROUNDS = 5


def measure() -> list[Figure]:
    program = copy_demo("fares")
    plan_file = program.with_suffix(".cases.toml")
    _keep_eight(plan_file)
    cases = read_plan(plan_file, program).cases
    assert len(cases) == 8
    oddsum = [sys.executable, "-m", "oddsum", "check", str(program), "--python", sys.executable]

    def check() -> None:
        subprocess.run(oddsum, capture_output=True, check=False)

    def bare() -> None:
        for case in cases:
            subprocess.run(
                [sys.executable, str(program)], input=case.stdin, text=True, capture_output=True,
                check=False,
            )  # fmt: skip

    ours, theirs = in_turn(ROUNDS, check, bare)
    how = f"{middle(ours):.2f} s for the command, {middle(theirs):.2f} s for 8 bare runs in a row"
    return [Figure("check of 8 cases / 8 bare runs", ratio(ours, theirs), "x", "", how)]


def _keep_eight(plan_file: Path) -> None:
    head, *cases = plan_file.read_text().split("[[case]]")
    plan_file.write_text("[[case]]".join([head, *cases[:8]]))
