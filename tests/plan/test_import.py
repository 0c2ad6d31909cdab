"""Cases kept elsewhere are taken in; what cannot be is told with its place."""

from __future__ import annotations

from pathlib import Path

import pytest

from conftest import FERRY, OWN
from oddsum.check.plan import check_all
from oddsum.formats.table import write
from oddsum.languages.python.examples import examples
from oddsum.model.case import Case, Plan
from oddsum.model.errors import PlanError
from oddsum.plan.imported import Imported
from oddsum.plan.read import read_plan
from oddsum.plan.sheet import read_sheet
from oddsum.plan.textpairs import read_pairs
from oddsum.source.program import Source

EXAMPLES = '''
"""Module.

>>> fare(3)
3
"""
def fare(age):
    """Fare.

    >>> base = 10
    >>> for i in range(2):
    ...     base = base + i
    >>> fare(base)
    11
    >>> fare(16
    6
    >>> print("Total:",
    ...       fare(4))
    Total: 4
    >>> fare(-1)
    Traceback (most recent call last):
        ...
    ValueError: no such age
    >>> fare(None)
    >>> Boat("Ivy")
    Boat(Ivy)

    Text that ends it.
    """
    if age is None:
        return None
    if age < 0:
        raise ValueError("no such age")
    return age
class Boat:
    def __init__(self, name): self.name = name
    def __repr__(self): return "Boat(" + self.name + ")"
'''


def test_examples_in_docstrings_become_cases_that_agree(tmp_path):
    path = tmp_path / "x.py"
    path.write_text(EXAMPLES)
    found = Imported(*examples(Source("x.py", EXAMPLES)))
    assert len(found.cases) == 6
    (told,) = found.left_out
    assert told.startswith("x.py, line 15: this example cannot be read") and "fare(16" in told
    results = check_all(Plan(program=path, cases=found.cases), OWN)
    assert [r.outcome.value for r in results] == ["agrees"] * 6
    checked = [r.checked for r in results]
    assert checked == [("returns",), ("returns",), ("stdout",), ("raises",), ("check",), ("check",)]


MORE_EXAMPLES = '''
"""Boats.

>>> box = []
>>> box.append(3)
>>> box
[3]
>>> box.pop()
3
>>> len(box)
0
>>> for n in range(2):
...     print(n)
0
1
>>> list(range(20))  # given: +ELLIPSIS
[0, 1, ..., 19]
>>> print("a   b")  # given: +NORMALIZE_WHITESPACE
a b
>>> print("Boat", 17)  # given: +ELLIPSIS
Boat ...
>>> print("a", "", "b", sep=chr(10))
a
<BLANKLINE>
b
>>> box.nothing()  # given: +SKIP
77
"""
'''


def test_examples_follow_each_other_and_are_read_as_they_ask(tmp_path):
    path = tmp_path / "x.py"
    path.write_text(MORE_EXAMPLES)
    found = Imported(*examples(Source("x.py", MORE_EXAMPLES)))
    results = check_all(Plan(program=path, cases=found.cases), OWN)
    assert [(r.name, r.outcome.value) for r in results if r.outcome.value != "agrees"] == []
    assert len(results) == 9 and len(found.left_out) == 1
    wrong = MORE_EXAMPLES.replace("..., 19]", "..., 18]").replace("Boat ...", "Ship ...").replace(
        "0\n1\n", "0\n2\n").replace("a b\n", "a c\n")  # fmt: skip
    path.write_text(wrong)
    odd = check_all(Plan(program=path, cases=examples(Source("x.py", wrong))[0]), OWN)
    assert sum(r.outcome.value == "differs" for r in odd) == 4


def test_wrong_examples_are_odd(tmp_path):
    path = tmp_path / "x.py"
    path.write_text(EXAMPLES.replace("    11\n", "    12\n").replace("Boat(Ivy)", "Boat(Elm)"))
    found = Imported(*examples(Source("x.py", path.read_text())))
    results = check_all(Plan(program=path, cases=found.cases), OWN)
    assert [r.outcome.value for r in results if r.outcome.odd] == ["differs", "differs"]


def test_two_text_files_a_case_are_paired_by_what_the_star_stands_for(tmp_path):
    for name in ("in1.txt", "in2.txt", "in10.txt", "out1.txt", "out10.txt", "out7.txt"):
        (tmp_path / name).write_text(f"{name}\n")
    found = read_pairs(tmp_path, "in*.txt", "out*.txt")
    assert [(c.name, c.stdin, c.stdout) for c in found.cases] == [
        ("in1", "in1.txt\n", "out1.txt\n"),
        ("in2", "in2.txt\n", None),
        ("in10", "in10.txt\n", "out10.txt\n"),
    ]
    assert found.left_out == (
        "in2.txt has no out2.txt: its case is left open.",
        "out7.txt has no in7.txt: it was left out.",
    )


@pytest.mark.parametrize(
    ("inputs", "outputs", "words"),
    [("in.txt", "out*.txt", "has no \\*"), ("no*.x", "o*.x", "No file in .* is named like")],
)
def test_patterns_that_find_nothing_are_told(tmp_path, inputs, outputs, words):
    with pytest.raises(PlanError, match=words):
        read_pairs(tmp_path, inputs, outputs)


def sheet(tmp_path: Path, text: str | bytes) -> Path:
    path = tmp_path / "plan.csv"
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    return path


@pytest.mark.parametrize("mark", [",", ";", "\t"])
def test_a_sheet_is_read_whatever_parts_its_cells(tmp_path, mark):
    text = 'Name,Type,Input,Expected\r\nnobody,extreme,0,Total: 0\r\n"two, old",,"2\r\n70","a\r\nb"\r\n\r\nopen,,1,\r\n'
    text = text if mark == "," else text.replace("two, old", "two old").replace(",", mark)
    cases = read_sheet(sheet(tmp_path, "\ufeff" + text)).cases
    assert [(c.kind, c.stdin, c.stdout) for c in cases] == [
        ("boundary", "0\n", "Total: 0\n"),
        ("normal", "2\n70\n", "a\nb\n"),
        ("normal", "1\n", None),
    ]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("name,input\na,1,2\n", "row 2: it has 3 cells, and there are 2 titles"),
        ("name,kind,input\na,odd,1\n", "row 2, column 2: 'odd' is no kind"),
        (
            "name,inptu\na,1\n",
            "row 1, column 2: 'inptu' is no title that is known. Did you mean 'input'",
        ),
        ("name,expected\na,1\n", "row 1: there is no column for the input"),
        ("name,input,stdin\na,1,1\n", "row 1, column 3: two columns are for input"),
        ("name,call,returns\na,fare(,1\n", "row 2, column 2: 'fare\\(' cannot be read"),
        ("name,input\n", "has no row under its titles"),
        ("", "is empty"),
        ('name,input\n"a,1\nb,2\n', "row 2 .*this is not CSV"),
        (b"name,input\n\xff,1\n", "line 2: this is not text in UTF-8"),
    ],
)
def test_what_is_wrong_with_a_sheet_is_told_by_row_and_column(tmp_path, text, words):
    with pytest.raises(PlanError, match=words):
        read_sheet(sheet(tmp_path, text))


def test_a_sheet_keeps_errors_input_beside_a_call_and_passes_over_other_columns(tmp_path):
    cases = (
        Case(number=1, name="a", call="fare(-1)", raises="ValueError", before="x = 1"),
        Case(number=2, name="b", call="fare(3)", stdin="7\n", returns="3", stdout="Age? \n"),
        Case(number=3, name="c", stdin="1\n", exit=2, check="result is None"),
    )
    text = write("plan", "csv", Plan(program=tmp_path / "x.py", cases=cases), ())
    head, *rows = text.rstrip("\r\n").replace('\n"', '"').split("\r\n")
    text = "\r\n".join([f"{head},author", *(f"{row},me" for row in rows)])
    found = read_sheet(sheet(tmp_path, text))
    assert found.cases == cases
    assert "'author', was not read" in found.left_out[0]


def test_importing_twice_adds_nothing(oddsum, program):
    path = program("print(input())\n")
    sheet(path.parent, "name,input,expected\na,1,1\nb,2,2\n")
    command = ("plan", "import", path, "--csv", path.parent / "plan.csv")
    assert "2 cases added" in oddsum(*command)[2]
    said = oddsum(*command)[2]
    assert "0 cases added" in said and "2 cases stood in it already" in said
    assert len(read_plan(path.with_suffix(".cases.toml"), path).cases) == 2


@pytest.mark.parametrize("name", ["fares", "lanes"])
def test_a_sheet_written_back_is_read_as_the_same_cases(tmp_path, name):
    program = FERRY / f"{name}.py"
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    results = check_all(plan, OWN)
    path = sheet(tmp_path, write("plan", "csv", plan, results))
    assert "differs" in path.read_text()
    for case, again in zip(plan.cases, read_sheet(path).cases, strict=True):
        assert (again.name, again.kind, again.call, again.returns) == (
            case.name, case.kind, case.call, case.returns)  # fmt: skip
        assert (again.stdin or "") == (case.stdin or "")
        assert (again.stdout or "") == (case.stdout or "")


def test_the_markdown_table_keeps_its_columns_whatever_a_case_holds(tmp_path):
    case = Case(number=1, name="a|b", stdin="x|y `z`\n", stdout="p\nq\n")
    plan = Plan(program=tmp_path / "x.py", cases=(case,))
    table = write("plan", "md", plan, ())
    head, rule, row = table.split("\n")[2:5]
    assert head.count("|") == rule.count("|") == row.replace("\\|", "").count("|") == 8
    assert "`p`<br>`q`" in row and "not run" in row
