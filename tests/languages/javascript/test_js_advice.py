"""A plan of a JavaScript program looked over: what no case tries, and inputs for it."""

from __future__ import annotations

from running import node

from oddsum.advise.advice import advise
from oddsum.check.plan import check_all
from oddsum.plan.read import parse_plan

DUES = """\
function dues(metres, night) {
  let sum = metres * 2;
  if (metres >= 12) {
    sum += 5;
  }
  if (night && metres > 20) {
    sum *= 2;
  }
  for (const step of [1, 2]) sum += step;
  return sum;
}
"""
WEIGHED = """\
const kilos = prompt("Kilos? ");
if (kilos <= 10) {
  console.log("free");
} else {
  console.log("to pay");
}
"""


def looked_over(folder, text, plan):
    program = folder / "dock.js"
    program.write_text(text)
    found = parse_plan(plan, folder / "dock.cases.toml", program)
    return advise(found, node(), check_all(found, node()))


def test_both_sides_of_limits_are_asked_for_with_calls(tmp_path):
    plan = """
[[case]]
name = "short"
call = "dues(5, false)"
returns = "13"
[[case]]
name = "long"
call = "dues(12, true)"
returns = "32"
"""
    found = looked_over(tmp_path, DUES, plan).proposals
    calls = {(p.gap.line, p.gap.wanted): p.case and p.case.call for p in found if p.gap.line}
    assert calls == {
        (3, 11): "dues(11, false)",
        (6, 20): "dues(20, true)",  # `night &&` stands ahead of it: else it decides nothing
        (6, 21): "dues(21, true)",
    }
    assert all("(nearest so far: 12)" in p.gap.text for p in found if p.gap.line)


def test_a_text_counts_as_the_number_that_it_is_compared_as(tmp_path):
    cases = "".join(f'[[case]]\nname = "{k}"\nstdin = "{k}\\n"\n' for k in (9, 10, 11))
    texts = [p.gap.text for p in looked_over(tmp_path, WEIGHED, cases).proposals]
    assert not any("Line 2" in text for text in texts)
    fewer = cases.replace("11", "40").replace("10", "4")
    texts = [p.gap.text for p in looked_over(tmp_path, WEIGHED, fewer).proposals]
    assert any("no case tries kilos 10, right at it (nearest so far: 9)" in t for t in texts)
