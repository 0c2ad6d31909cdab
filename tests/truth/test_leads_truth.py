"""What is said of a mend: it is carried out on a copy, and the plain interpreter runs every case."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from conftest import MANY, OWN
from oddsum.model.case import Case
from oddsum.pinpoint.search import pinpoint
from oddsum.plan.read import read_plan
from oddsum.source.program import read_source


def agrees(folder: Path, name: str, case: Case) -> bool:
    """Whether a case comes out as expected, by nothing but the interpreter."""
    if case.call is not None:
        module = Path(name).stem
        wanted = "assert abs(got - want) < 1e-9 if isinstance(want, float) else got == want"
        text = (f"from {module} import *\n{case.before or ''}\ntry:\n    got = {case.call}\n"
                f"except {case.raises or '()'}:\n    raise SystemExit(0)\n"
                f"assert {case.raises is None}\nwant = {case.returns}\n{wanted}\n")  # fmt: skip
        command = [sys.executable, "-B", "-c", text]
    else:
        command = [sys.executable, "-B", name, *case.args]
    ran = subprocess.run(command, cwd=folder, input=case.stdin or "", capture_output=True,
                         text=True, timeout=60, check=False)  # fmt: skip
    if case.call is not None:
        return ran.returncode == 0
    if case.raises is not None:
        return ran.returncode == 1 and f"\n{case.raises}" in ran.stderr
    lines = [line.rstrip() for line in (case.stdout or "").rstrip().split("\n")]
    printed = [line.rstrip() for line in ran.stdout.rstrip().split("\n")]
    without = [line.rpartition("? ")[2] for line in printed]
    return ran.returncode == (case.exit or 0) and lines in (printed, without)


@pytest.mark.parametrize(
    "name", ["fares", "lanes", "tickets", "sailings"] if MANY else ["lanes", "tickets"]
)
def test_a_mend_settles_and_breaks_the_cases_that_it_is_said_to(demo, name):
    program = demo / f"{name}.py"
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    found = pinpoint(plan, OWN)
    source = read_source(program)
    mends = [lead.mend for lead in found.leads if lead.mend is not None]
    before = {c.number: agrees(demo, program.name, c) for c in plan.active()}
    assert tuple(n for n, right in before.items() if not right) == found.odd
    assert mends
    for mend in mends[:3]:
        lines = source.text.split("\n")
        for edit in sorted(mend.edits, key=lambda e: -e.line):
            assert edit.file == program.name
            assert tuple(lines[edit.line - 1 : edit.end]) == edit.before
            lines[edit.line - 1 : edit.end] = edit.after
        program.write_text("\n".join(lines))
        after = {c.number: agrees(demo, program.name, c) for c in plan.active()}
        program.write_text(source.text)
        assert mend.settles == tuple(n for n, ok in after.items() if ok and not before[n])
        assert mend.breaks == tuple(n for n, ok in after.items() if not ok and before[n])
