"""Lines that nothing prints, in JavaScript: gaps, what is missing, edits, and a whole search."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import pytest
from running import COMMAND, node

import oddsum.languages.javascript
from missing_lines import MISSING
from oddsum.languages.javascript import JAVASCRIPT
from oddsum.languages.javascript.sites import numbered
from oddsum.model.case import Case, Plan
from oddsum.pinpoint.search import pinpoint
from oddsum.source.edits import applied
from oddsum.source.program import Source

BOARD = """\
"use strict";
// The board at the pier.
import { pier } from "./pier.js";

function board(times) {
  let shown = 0;
  for (const time of times) {
    if (time < 300) continue;
    console.log(time);
    shown += 1;
  }
  if (times.length) return shown;
}

board([7]);
"""


def ran(text: str, typed: str = "") -> str:
    done = subprocess.run(
        [COMMAND, "-e", text], input=typed, capture_output=True, text=True, check=True
    )
    return done.stdout


def test_both_probes_know_the_same_lines_as_missing():
    probe = Path(oddsum.languages.javascript.__file__).parent / "probe" / "gaps.js"
    pairs = json.dumps([[expected, actual] for expected, actual, _ in MISSING])
    told = ran(f"const exported = {{}};\n{probe.read_text(encoding='utf-8')}\n"
               f"console.log(JSON.stringify({pairs}.map((p) => missingText(...p))));")  # fmt: skip
    assert json.loads(told) == [missing for _, _, missing in MISSING]


def test_gaps_are_where_a_statement_can_stand():
    told = numbered({"pier.js": {"whole": BOARD}})["places"]
    gaps = {(p["line"], p["gap"], p["prints"]) for p in told if p["kind"] == "gap"}
    assert gaps == {
        (6, "before", True), (7, "before", True), (8, "before", True), (9, "before", True),
        (10, "before", True), (10, "behind", True), (12, "before", True), (12, "behind", True),
        (15, "before", False), (15, "behind", False),
    }  # fmt: skip


PRINTED = [
    ("let shown", "before", "", "none\n", '  console.log("none");\n  let shown'),
    ("for", "behind", "shown === 0", "none\n", '  }\n  if (shown === 0) console.log("none");\n  if'),
    ("board([7])", "behind", "x", "a\nb\n",
     'board([7]);\nif (x) { console.log("a"); console.log("b"); }\n'),
    ("time < 300", "before", "", "none\n", None),  # no statement begins there
]  # fmt: skip


@pytest.mark.parametrize(("at", "gap", "condition", "printed", "wanted"), PRINTED)
def test_a_line_that_nothing_prints_is_put_where_it_is_due(at, gap, condition, printed, wanted):
    scene = JAVASCRIPT.edits.scene(Source("pier.js", BOARD), {}, frozenset())
    edit = JAVASCRIPT.edits.printed(scene, BOARD.index(at), gap, condition, printed, 0.4)
    if wanted is None:
        assert edit is None
        return
    assert wanted in BOARD[: edit.start] + edit.new + BOARD[edit.stop :]


DAY = """\
const [now, ...times] = require("fs").readFileSync(0, "utf8").split(/\\s+/).filter(Boolean).map(Number);
let shown = 0;
for (const time of times) {
  if (time < now) continue;
  console.log("at", time);
  shown += 1;
}
"""
DAYS = {"250 300 400": "at 300\nat 400\n", "450 300 500": "at 500\n", "350 300": "no more today\n",
        "100": "no more today\n"}  # fmt: skip


def test_a_line_that_nothing_prints_is_found_with_the_condition_for_it(tmp_path):
    program = tmp_path / "ferry.js"
    program.write_text(DAY, encoding="utf-8")
    cases = tuple(
        Case(number=n, name=str(n), stdin=given, stdout=wanted)
        for n, (given, wanted) in enumerate(DAYS.items(), 1)
    )
    found = pinpoint(Plan(program=program, cases=cases), node(), budget=15)
    best = found.leads[0]
    assert (best.kind, best.mend.settles) == ("unprinted", found.odd)
    assert '`if (shown === 0) console.log("no more today");`' in best.how
    mended = applied(Source("ferry.js", DAY), best.mend.edits)
    for given, wanted in DAYS.items():
        assert ran(mended, given) == wanted
