"""Modules of the newer kind on trial: as functions, with what they import required."""

from __future__ import annotations

import pytest
from running import node

from oddsum.languages.javascript.older import replacements, waits_at_the_top
from oddsum.model.case import Case, Plan
from oddsum.pinpoint.search import pinpoint

RATES = """\
export const FREE = 4;
export default function fare(age) {
  if (age <= FREE) {
    return 0;
  }
  return age < 16 ? 3 : 6;
}
"""
PARTY = """\
import fs from "node:fs";
import fare, { FREE as free } from "./rates.mjs";
const text = await Promise.resolve(fs.readFileSync(0, "utf8"));
const ages = text.trim().split("\\n").map(Number);
let total = 0;
for (const age of ages) {
  total += fare(age);
}
console.log(`${total} ${free}`);
"""
CASES = (
    Case(number=1, name="two", stdin="34\n9\n", stdout="9 4"),
    Case(number=2, name="four", stdin="4\n5\n", stdout="3 4"),
    Case(number=3, name="limits", stdin="16\n15\n40\n", stdout="15 4"),
)


@pytest.mark.parametrize(("right", "wrong", "line"), [
    ("total += fare(age)", "total = fare(age)", 7), ("age <= FREE", "age < FREE", 3),
])  # fmt: skip
def test_the_line_at_fault_is_named_first_in_whichever_file(tmp_path, right, wrong, line):
    files = {"party.mjs": PARTY, "rates.mjs": RATES}
    for name, text in files.items():
        (tmp_path / name).write_text(text.replace(right, wrong))
    found = pinpoint(Plan(program=tmp_path / "party.mjs", cases=CASES), node(), budget=20)
    best = found.leads[0]
    assert line in best.lines and right in (files[best.file].split("\n")[line - 1])
    assert best.mend is not None and found.remarks == ()


def test_each_statement_has_another_that_does_the_same():
    text = 'import a from "x";\nimport { b as c } from "y";\nimport * as d from "z";\nimport "w";\n'
    required = dict(replacements(text))
    assert required['import { b as c } from "y";'] == 'const { b: c } = require("y");'
    assert required['import * as d from "z";'] == 'const d = require("z");'
    assert required['import "w";'] == 'require("w");'
    given = dict(
        replacements("export const { n, m } = f();\nexport { n as p };\nexport default 3;\n")
    )
    assert [new.count("defineProperty") for new in given.values()] == [2, 1, 0]
    assert given["export default "] == "exports.default = "


@pytest.mark.parametrize(("text", "waits"), [
    ("await f();", True), ("for await (const a of b) {}", True), ("async () => { await f(); };", False),
    ("const a = 1;", False),
])  # fmt: skip
def test_whether_a_module_waits_itself(text, waits):
    assert waits_at_the_top(text) is waits
