"""The wire cannot be forged from the program: what comes out is what comes out at home."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator

import pytest
from forging import FORGING

from conftest import OWN
from oddsum.compare.judge import judge
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Outcome
from oddsum.run.case import run_case
from oddsum.run.host import Host
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import UNFENCED

RIGHT = Case(number=1, name="right", stdout="15")
WRONG = Case(number=2, name="wrong", stdout="16")


@pytest.fixture(scope="module")
def host() -> Iterator[Host]:
    with Host(OWN, UNFENCED) as waiting:
        yield waiting


def written(tmp_path, name: str) -> Plan:
    path = tmp_path / "ferry.py"
    path.write_text("TOTAL = 15\n" + FORGING[name].lstrip())
    return Plan(program=path, cases=(RIGHT, WRONG))


def at_home(plan: Plan) -> tuple[str, int]:
    done = subprocess.run(
        [sys.executable, plan.program],
        check=False,
        stdin=subprocess.DEVNULL,
        capture_output=True,
        timeout=30,
    )
    return done.stdout.decode(), done.returncode


@pytest.mark.parametrize("name", FORGING)
def test_a_program_that_reaches_for_the_wire_comes_to_what_it_comes_to_at_home(
    tmp_path, name, host
):
    plan = written(tmp_path, name)
    text, status = at_home(plan)
    with Scratch(bundle(plan), room=host.room) as scratch:
        for case, outcome in ((RIGHT, Outcome.AGREES), (WRONG, Outcome.DIFFERS)):
            run = run_case(plan, case, scratch, host.start)
            assert (run.output, run.exit_status) == (text, status), run
            told = judge(case, plan.settings_of(case), run)
            if not status:
                assert told.outcome is outcome, told
