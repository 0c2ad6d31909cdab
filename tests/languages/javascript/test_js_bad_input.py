"""What is wrong around a JavaScript program: each told in a sentence, and what can be done still is."""

from __future__ import annotations

import pytest
from running import node

from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.model.case import Case, Plan, Settings
from oddsum.model.errors import OddSumError

MODULE = {"package.json": b'{"type": "module"}'}
IMPORTS = "import fs from 'fs';\nconsole.log(fs.readFileSync(0, 'utf8').trim());\n"
# A program, what lies beside it, how its case comes out, and words that are told.
TOLD = [
    ("console.log(4);\n".encode("utf-16"), {}, "cannot start", "another encoding than UTF-8"),
    (b"console.log('4'); // caf\xe9\n", {}, "agrees", ""),
    (b"\xef\xbb\xbfconsole.log(4);\n", {}, "agrees", ""),
    (b"", {}, "differs", "nothing was printed"),
    (IMPORTS.encode(), {}, "agrees", ""),
    (IMPORTS.encode(), MODULE, "agrees", ""),
    (b"console.log(4);\n", {"package.json": b'{"type": '}, "stopped", "package.json"),
    (b"const fs = require('fs');\n", MODULE, "stopped", "require is not defined"),
    (b"const other = require('./other');\n", {}, "stopped", "Cannot find module './other'"),
    (b"console.log(4);\nsetInterval(() => {}, 100);\n", {}, "endless", "most of them waiting"),
    (b"require('http').createServer(() => {}).listen(0);\nconsole.log(4);\n", {}, "endless",
     "most of them waiting"),
    (b"const twice = new Function('a', 'return a * 2');\nconsole.log(eval('twice(2)'));\n", {},
     "agrees", ""),
    (b"process.on('exit', () => console.log(4));\nprocess.exit(0);\n", {}, "agrees", ""),
    (b"using x = null;\n", {}, "cannot start", "is missing ahead of this name"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "beside", "outcome", "words"), TOLD)
def test_it_is_told(tmp_path, text, beside, outcome, words):
    for name, data in beside.items():
        (tmp_path / name).write_bytes(data)
    program = tmp_path / "ferry.js"
    program.write_bytes(text)
    case = Case(number=1, name="one", stdin="4\n", stdout="4\n", settings=Settings(timeout=0.7))
    plan = Plan(program=program, cases=(case,))
    try:
        [result] = check_all(plan, node())
    except OddSumError as error:
        assert outcome == "cannot start" and words in str(error)
        return
    told = result.difference.summary if result.difference is not None else ""
    assert result.outcome.value == outcome and words in told
    assert "/probe/" not in result.run.errors  # nothing of how it is run


def test_a_file_that_is_no_utf_8_is_checked_and_not_traced(tmp_path):
    program = tmp_path / "ferry.js"
    program.write_bytes(b"console.log('4'); // caf\xe9\n")
    case = Case(number=1, name="one", stdout="4\n")
    with pytest.raises(OddSumError, match="Save the file as UTF-8: node reads no other"):
        trace_case(Plan(program=program, cases=(case,)), case, node())


def test_what_a_program_builds_as_it_runs_is_recorded_as_one_step(tmp_path):
    """``eval`` and ``Function`` have no lines in the file; what they change is seen all the same."""
    program = tmp_path / "ferry.js"
    program.write_text("let n = 1;\neval('n = n + 4');\nconsole.log(n);\n")
    case = Case(number=1, name="one", stdout="5\n")
    trace, result = trace_case(Plan(program=program, cases=(case,)), case, node())
    assert result.outcome.value == "agrees" and trace.complete


def test_what_our_reading_does_not_know_is_checked_and_said_by_trace(tmp_path):
    """`yield` as a name: the grammar knows it as a word of the language alone."""
    program = tmp_path / "ferry.js"
    program.write_text("var yield = 4;\nconsole.log(yield);\nnull.boat;\n")
    case = Case(number=1, name="one", stdout="4\n")
    plan = Plan(program=program, cases=(case,))
    [result] = check_all(plan, node())
    assert (result.outcome.value, result.run.error.line) == ("stopped", 3)
    with pytest.raises(
        OddSumError, match=r"own reading of JavaScript takes line 2 .*Check runs it"
    ):
        trace_case(plan, case, node())


@pytest.mark.parametrize(
    "text", [b"var yield = 3;\nconsole.log(yield);\n", b"console.log('5'); // caf\xe9\n"]
)
def test_a_check_tells_an_odd_case_of_what_cannot_be_recorded(tmp_path, oddsum, text):
    program = tmp_path / "ferry.js"
    program.write_bytes(text)
    (tmp_path / "ferry.cases.toml").write_text("[[case]]\nname = 'one'\nstdout = '4'\n")
    status, out, err = oddsum("check", program)
    assert status == 1 and "1 differs" in out and "Trace cannot" not in err
