"""Where values come from, and what they went on to influence."""

from __future__ import annotations

from asked import told
from oddsum.languages.python.reads import reads
from oddsum.trace.calls import calls
from oddsum.trace.lineage import Lineage

FARES = """def fare(age):
    if age < 16:
        return 3
    return 6
ages = [34, int(input())]
total = 0
for age in ages:
    total = total + fare(age)
extra = 1
if total > 8:
    extra = 2
unused = 5
print(total * extra)
"""


def of(tmp_path, text, stdin=""):
    story, source = told(tmp_path, text, stdin)
    facts = reads(source)
    return story, Lineage(story, lambda file: facts)


def lines(origins) -> set[int]:
    return {o.line for o in origins}


def test_a_printed_line_goes_back_to_inputs_constants_and_conditions(tmp_path):
    story, lineage = of(tmp_path, FARES, "9\n")
    found = lineage.of_step(story.last)
    assert lines(found) == {1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 13}
    assert 12 not in lines(found)  # what was never used is no part of it
    kinds = {(o.line, o.kind) for o in found}
    assert {(5, "input"), (6, "constant"), (2, "condition"), (10, "condition")} <= kinds
    given = [o for o in found if o.why == "given by"]
    assert {(o.line, o.value) for o in given} == {(3, "3"), (4, "6")}


def test_a_condition_that_let_the_line_run_is_not_said_to_have_spared_it(tmp_path):
    story, lineage = of(tmp_path, FARES, "9\n")
    told = {(story.step(o.step).line, o.why) for o in lineage.of_step(story.last)}
    assert (7, "decided by") in told  # the rounds in which total was changed
    text = "best = 0\nfor n in (3, 1):\n    if n > best:\n        best = n\nprint(best)\n"
    story, lineage = of(tmp_path, text)
    spared = [o for o in lineage.of_step(story.last) if o.why == "left by"]
    assert [(o.line, o.value) for o in spared] == [
        (2, "round 2"), (3, "condition False"), (2, "no more rounds"),
    ]  # fmt: skip


def test_every_origin_stands_under_a_later_step(tmp_path):
    story, lineage = of(tmp_path, FARES, "9\n")
    found = lineage.of_step(story.last)
    assert all(found[o.parent].step >= o.step for o in found if o.parent >= 0)


def test_an_item_comes_from_the_change_of_that_item(tmp_path):
    text = "a = 1\nb = 2\nxs = [0, 0]\nxs[0] = a\nxs[1] = b\ny = xs[0]\n"
    _, lineage = of(tmp_path, text)
    found = lineage.of_variable("y", 6)
    assert 4 in lines(found) and 1 in lines(found)
    assert not {2, 5} & lines(found)


def test_what_a_value_went_on_to_matter_for(tmp_path):
    story, lineage = of(
        tmp_path, "a = 1\nb = a + 1\nc = 7\nif b > 1:\n    d = c\na = b\nprint(a)\n"
    )
    found = {story.step(n).line for n in lineage.influenced("a", 1)}
    assert found == {2, 4, 6, 7}


def test_a_long_chain_of_rounds_ends(tmp_path):
    story, lineage = of(tmp_path, "t = 0\nfor i in range(2000):\n    t = t + i\n")
    assert 100 < len(lineage.of_variable("t", story.last)) <= 400


def test_calls_tell_arguments_results_and_who_called(tmp_path):
    story, _ = told(tmp_path, "def up(n):\n    if n > 2: return n\n    return up(n + 1)\n"
                              "def fail(x):\n    raise ValueError(x)\nup(1)\nfail(2)\n")  # fmt: skip
    found = calls(story)
    assert [c.words for c in found] == [
        "up(n = 1) → 3", "up(n = 2) → 3", "up(n = 3) → 3", "fail(x = 2) → left by ValueError: 2",
    ]  # fmt: skip
    assert [c.depth for c in found] == [1, 2, 3, 1]
    assert found[1].parent == found[0].frame and found[3].parent == 0
    assert calls(story, "fail")[0].ends is None


def test_a_parameter_comes_from_its_own_argument_and_not_from_constants_beside_it(tmp_path):
    text = 'def at(line, boats, far=2):\n    return boats.index(line) + far\nl = input()\nat(l, ["Ivy", "Elm"], far=7)\n'
    story, lineage = of(tmp_path, text, "Elm\n")
    (called,) = [s for s in story.steps if "call" in s.events]

    def written(name: str) -> set[str]:
        found = lineage.of_variable(f"at.{name}", called.number)
        return {t for o in found if o.kind == "constant" for t in o.constants}

    assert written("line") == set() and written("boats") == {"'Ivy'", "'Elm'"}
    assert written("far") == {"7"}
