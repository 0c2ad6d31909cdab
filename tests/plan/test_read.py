"""Plans are read key by key; every complaint says what, where and what to do."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddsum.model.errors import PlanError
from oddsum.plan.read import parse_plan, read_plan

PROGRAM, FILE = Path("ferry.py"), Path("ferry.cases.toml")
CASE = '[[case]]\nname = "one"\n'

BAD = [
    ("[[case]\n", 1, "this is not TOML"),
    ('[[case]]\nname = "one\n', 2, "this is not TOML"),
    (CASE + 'stdn = "1"\n', 3, "Did you mean `stdin`?"),
    ('tiemout = 2\n', 1, "Did you mean `timeout`?"),
    (CASE, 1, "nothing to run and nothing to expect"),
    (CASE + 'stdin = ""\n' + CASE + 'stdin = ""\n', 5, "are both named 'one'"),
    (CASE + "stdin = 5\n", 3, "`stdin` is 5; it should be a text"),
    (CASE + 'stdin = ""\nkind = "odd"\n', 4, '"normal", "boundary", "invalid"'),
    ('timeout = -1\n', 1, "a number above 0"),
    ('compare = "line"\n', 1, '"exact", "lines"'),
    (CASE + 'call = "f("\n', 3, "an expression"),
    (CASE + 'call = "f()"\nreturns = "1 +"\n', 4, "an expression"),
    (CASE + 'returns = "1"\n', 3, "`returns` but no `call`"),
    (CASE + 'before = "x = 1"\nstdin = ""\n', 3, "`before` but no `call`"),
    ('[[case]]\nstdin = ""\n', 1, "has no name"),
    (CASE + 'stdin = ""\nfiles = {"../x" = "1"}\n', 4, "inside the program's folder"),
    (CASE + 'stdin = ""\nargs = ["a", 2]\n', 4, "a list of texts"),
    (CASE + 'stdin = ""\ncompare = "pattern"\nstdout = "("\n', 5, "compared by pattern"),
    ('[case]\nname = "x"\n', None, "two brackets"),
    (CASE + 'draws = "x.svg"\n', 3, "The drawing x.svg cannot be read"),
    (CASE + "draws = [[0, 0, 9]]\n", 3, "the name of an SVG file"),
    ("guess_first = 1\n", 1, "it should be true or false"),
    ("fence = 1\n", 1, "`fence`"),
    ('allow = ["net"]\n', 1, "`allow`"),
    ("timeout = inf\n", 1, "`timeout` is inf; it should be a number above 0"),
    ("tolerance = nan\n", 1, "a number, 0 or more"),
    ("timeout = true\n", 1, "a number above 0"),
    ("seed = 1.5\n", 1, "a whole number"),
    ('today = "4 May"\n', 1, 'a date, or a date and a time: "2026-05-04"'),
    ("today = 2026-05-04\n", 1, "it should be a text"),
    (CASE + 'stdin = ""\ntoday = "2026-05-04"\n', 4, "cannot be told another date"),
    ("author = [1]\n", 1, "a text"),
    ('build = []\nrun = ["a"]\n', 1, "a command as a list"),
    ('run = [" "]\n', 1, "a command as a list"),
    (CASE + 'stdin = ""\ndisabled = 1\n', 4, "true or false"),
    (CASE + 'stdin = ""\nfiles = {a = 1}\n', 4, '{ "name" = "content" }'),
    (CASE + 'stdin = ""\nfiles = "a"\n', 4, '{ "name" = "content" }'),
    (CASE + 'stdin = ""\nexit = "2"\n', 4, "a whole number"),
    (CASE + 'stdin = ""\nfiles = {"" = "x"}\n', 4, "inside the program's folder, not ''"),
    (CASE + 'stdin = ""\nfiles = {"." = "x"}\n', 4, "inside the program's folder, not '.'"),
    (CASE + 'stdin = ""\nfiles = {"a" = "x", "a/b" = "y"}\n', 4, "a file and a folder"),
    (CASE + f'stdin = ""\nwrites = {{"{"x" * 300}" = "y"}}\n', 4, "longer than 255 bytes"),
    (CASE + f'call = "{"(" * 20_000}1{")" * 20_000}"\n', 3, "an expression"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "line", "words"), BAD)
def test_a_bad_plan_is_told_with_its_line(text, line, words):
    with pytest.raises(PlanError) as caught:
        parse_plan(text, FILE, PROGRAM)
    assert words in str(caught.value)
    assert caught.value.line == line
    assert "Traceback" not in str(caught.value)


def test_a_whole_plan_is_read():
    text = """
    timeout = 3
    compare = "words"
    top_level = "all"
    reveal = "what"
    [[case]]
    name = "a"
    kind = "boundary"
    stdin = \"\"\"
    1
    \"\"\"
    stdout = "x"
    exit = 2
    timeout = 0.5
    [[case]]
    name = "b"
    call = "f(1)"
    before = "import math"
    returns = "math.pi"
    disabled = true
    """
    plan = parse_plan(text, FILE, PROGRAM)
    first, second = plan.cases
    assert (first.number, first.kind, first.stdin.strip(), first.exit) == (1, "boundary", "1", 2)
    assert first.checked() == ("stdout", "exit")
    assert (plan.settings_of(first).timeout, plan.settings_of(second).timeout) == (0.5, 3)
    assert plan.settings_of(first).compare == "words"
    assert (plan.top_level, plan.reveal, plan.active()) == ("all", "what", (first,))


def test_a_plan_in_another_encoding_is_told(tmp_path):
    path = tmp_path / "x.cases.toml"
    path.write_bytes('[[case]]\nname = "käse"'.encode("latin-1"))
    with pytest.raises(PlanError, match="UTF-8"):
        read_plan(path, PROGRAM)


def test_a_plan_with_a_byte_order_mark_is_read(tmp_path):
    path = tmp_path / "x.cases.toml"
    path.write_bytes(b'\xef\xbb\xbf[[case]]\nname = "one"\nstdin = ""\n')
    assert read_plan(path, PROGRAM).cases[0].name == "one"
