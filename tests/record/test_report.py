"""The report: one file with it all, whatever the program holds, and nothing of the machine in it."""

from __future__ import annotations

import re
import shutil
import sys
from functools import cache
from html.parser import HTMLParser
from pathlib import Path

import pytest
from tests.conftest import FERRY, OWN, python

from oddsum.formats.table import write
from oddsum.model.history import Entry, PastRun, Version
from oddsum.model.lead import Evidence, Lead
from oddsum.model.outcome import Outcome
from oddsum.plan.read import read_plan
from oddsum.record.assemble import assemble, format_of
from oddsum.record.history import History
from oddsum.record.report import MOST_ROWS
from oddsum.record.revealed import remember
from oddsum.record.store import Store
from oddsum.record.versions import version_of

PLAN = """
[[case]]
name = "a <b> & | pipe"
stdin = "3"
stdout = "3 <i>x</i> `tick`"
note = "**not bold**"

[[case]]
name = "stops"
stdin = "x"
stdout = "1"
"""
PROGRAM = (
    "import os\nn = int(input())\nplace = os.getcwd()\nfor i in range(n):\n    y = i * 2\n"
    "print(n, '<i>x</i> `tick`', os.getcwd())\n"
)
LEAD = Lead(rank=1, lines=(5,), file="ferry.py", function="", kind="arithmetic", where="Look there.",
            what="What is it?", how="So it goes.", mend=None, score=0.9,
            evidence=(Evidence("trial", "for", "settles"), Evidence("note", "against", "odd")))  # fmt: skip


class Reader(HTMLParser):
    """The headings and cells of a page, and whether its tags are closed."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.open: list[str] = []
        self.texts: list[tuple[str, str]] = []
        self.feed(text)

    def handle_starttag(self, tag, attrs):
        if tag not in ("meta", "br", "path", "use", "rect", "line"):
            self.open.append(tag)
        if tag in ("script", "link", "img", "iframe"):
            raise AssertionError(f"the page needs more than itself: {tag}")

    def handle_endtag(self, tag):
        if self.open and tag == self.open[-1]:
            self.open.pop()

    def handle_data(self, data):
        if data.strip():
            self.texts.append((self.open[-1] if self.open else "", data.strip()))


@pytest.fixture(scope="module")
def awkward(tmp_path_factory):
    """Where an awkward program stands."""
    return tmp_path_factory.mktemp("awkward")


@pytest.fixture(scope="module")
def made(awkward):
    """The report of an awkward program, with all that can be in one; each level is made once."""
    path = awkward / "ferry.py"
    path.write_text(PROGRAM)
    path.with_suffix(".cases.toml").write_text(PLAN)
    history = History(path, Store(awkward / "h.db"))
    for outcome in (Outcome.DIFFERS, Outcome.AGREES):
        history.add_run(PastRun(at=1, seconds=0, outcomes={"x": outcome}), Version(files={}))
    history.write_entry(Entry(at=1, where="line 5", what="a <thing>", own="I *see*.\nNow.",
                              known=(("proof", "so | so"),)))  # fmt: skip
    plan = read_plan(path.with_suffix(".cases.toml"), path)

    @cache
    def build(level: int = 2):
        return assemble(plan, OWN, history, chosen=plan.cases[:1], leads=[(LEAD, level)])[0]

    return build


def test_the_page_stands_alone_and_escapes_all_that_is_not_its_own(made):
    text = write("report", "html", made())
    page = Reader(text)
    assert not [t for t in page.open if t not in ("html", "body")], page.open
    headings = [t for tag, t in page.texts if tag == "h2"]
    assert headings == ["Test plan", "What is odd", "Leads, as far as uncovered",
                        "Trace table, case 1: a <b> & | pipe", "How it went", "Notebook",
                        "ferry.py"]  # fmt: skip
    assert "<i>x</i>" not in text and "&lt;i&gt;x&lt;/i&gt;" in text
    assert text.count("<svg") == 2 and "agrees" in text
    assert "http" not in re.sub(r'xmlns(:xlink)?="[^"]+"', "", text)


def test_nothing_outside_of_the_program_s_folder_is_named(made, awkward):
    for how in ("html", "md"):
        text = write("report", how, made())
        for place in (str(awkward), str(Path.home()), sys.executable, "/tmp/oddsum-"):
            assert place not in text, f"{how}: {place}"


def test_leads_are_told_as_far_as_uncovered(made):
    for how in ("html", "md"):
        covered, what, whole = (write("report", how, made(level)) for level in (0, 1, 2))
        assert "Look there." in covered and "is not uncovered" in covered
        assert "What is it?" not in covered and "settles" not in covered
        assert "What is it?" in what and "settles" in what and "So it goes." not in what
        assert "So it goes." in whole


def test_markdown_keeps_its_tables_whatever_is_in_the_cells(made):
    text = write("report", "md", made())
    for table in re.findall(r"(?:^\|.*\n)+", text, re.M):
        rows = [re.sub(r"\\\|", "", row) for row in table.strip().split("\n")]
        assert len({row.count("|") for row in rows}) == 1, table
    assert "data:image/svg+xml;base64," in text and "> I \\*see\\*." in text


def test_a_long_trace_has_its_first_and_last_rows_and_says_so(program, tmp_path):
    path = program("for i in range(400):\n    x = i\n", '[[case]]\nname = "a"\nstdin = ""\n')
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    found, remarks = assemble(plan, OWN, None, chosen=plan.cases, level=2)
    (table,) = found.tables
    assert len(table.rows) == MOST_ROWS and table.steps == 801 and not remarks
    assert sum(r.gap for r in table.rows) == 801 - MOST_ROWS
    assert "501 steps are left out" in write("report", "html", found)


def test_a_record_that_cannot_be_had_is_said_and_the_report_is_made(program, tmp_path):
    path = program("print(1)\n", '[[case]]\nname = "a"\nstdin = ""\nstdout = "2"\n')
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    (tmp_path / "file").write_text("")
    broken = History(path, Store(tmp_path / "file" / "h.db"))
    found, (remark,) = assemble(plan, OWN, broken)
    assert "cannot be kept" in remark and found.runs == 0 and found.tables[0].case.name == "a"
    assert "1 differs" in write("report", "html", found)


def test_the_command_writes_asks_and_refuses(oddsum, tmp_path):
    for name in ("fares.py", "fares.cases.toml"):
        shutil.copy(FERRY / name, tmp_path)
    program, page = tmp_path / "fares.py", tmp_path / "r.html"
    status, out, err = oddsum("report", program, "-o", page, "--case", "6", "--reveal", "none",
                              *python())  # fmt: skip
    assert (status, out) == (0, "") and "r.html is written" in err
    assert "Trace table, case 6" in page.read_text() and "Leads" not in page.read_text()
    status, _, err = oddsum("report", program, "-o", page, *python())
    assert status == 2 and "--force" in err
    for words, said in ((("-o", tmp_path / "r.doc"), "html"), (("--case", "99"), "99")):
        status, out, err = oddsum("report", program, *words, *python())
        assert status == 2 and said in err and not out
    status, out, _ = oddsum("report", program, "--reveal", "what", *python())
    assert status == 0 and out.startswith("# fares.py: report") and "### A: Look at line 10" in out
    with pytest.raises(Exception, match="without an ending"):
        format_of(Path("report"))


def test_what_was_drawn_stands_beside_what_should_have_been(demo):
    path = demo / "lighthouse.py"
    plan = read_plan(demo / "lighthouse.cases.toml", path)
    found, _ = assemble(plan, OWN, None)
    text = write("report", "html", found)
    assert [case.name for case, _ in found.pictures] == ["the sign", "a roof alone"]
    assert "The drawing of case 1: the sign" in text and text.count("<svg") >= 2
    assert "The drawing of case 3" in write("report", "md", found)


WRONG = (
    "def fare(age):\n    if age <= 16:\n        return 3\n    return 6\nprint(fare(int(input())))\n"
)
FARES = '[[case]]\nname = "just sixteen"\nstdin = "16"\nstdout = "6"\n'


@pytest.mark.parametrize("how", ["html", "md"])
def test_after_the_mend_the_wrong_results_and_their_trace_are_still_told(program, tmp_path, how):
    path = program(WRONG)
    path.with_suffix(".cases.toml").write_text(FARES)
    history = History(path, Store(tmp_path / "record.db"))
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    history.add_run(
        PastRun(at=1.0, seconds=0.1, outcomes={"just sixteen": Outcome.DIFFERS}), version_of(path)
    )
    remember(history, version_of(path), {(path.name, (2,)): 2})
    assert assemble(plan, OWN, history, leads=())[0].before is None  # nothing is mended yet
    path.write_text(WRONG.replace("<=", "<"))
    history.add_run(
        PastRun(at=2.0, seconds=0.1, outcomes={"just sixteen": Outcome.AGREES}), version_of(path)
    )
    made, remarks = assemble(plan, OWN, history, leads=())
    assert not remarks and made.before is not None and made.before.run == 1
    text = write("report", how, made)
    told = re.sub(r"<[^>]+>|`", " ", text).replace("&lt;", "<")
    assert "Before it was mended" in told and "just sixteen" in told
    assert "6 expected, 3 came out" in told
    assert f"{path.name}, line 2: if age <= 16: → if age < 16:" in " ".join(told.split())
    assert "how to mend it was uncovered" in told
    assert "Before it was mended: trace table, case 1" in told and "gives 3" in told
