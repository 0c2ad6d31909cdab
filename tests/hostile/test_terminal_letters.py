"""No letter of a program, a plan or a file's name does anything to a terminal, wherever it is shown.

Fed are escape and control sequences (7 and 8 bits), bidirectional and invisible marks, and NUL; by
the program's output and errors, values and names, by the plan's names, notes and texts, by the
file's own name.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path
from xml.etree import ElementTree

import pytest

from conftest import MANY, OWN
from oddsum.source.visible import escaped, visible

sys.path.insert(0, str(Path(__file__).parents[1] / "tui"))
from piloting import NARROW, WIDE, opened, screen, until

BAD = ("\x1b[31m\x1b]0;gone\x07\x1b]52;c;aGk=\x1b\\ \x9b2J \x85 \x7f \x08\x08 \r "
       "\u202eabc\u202c \u2066x\u2069 \u200b\u200f\ufeff \u2028 \x0b\x0c")  # fmt: skip
PROGRAM = f"""
BAD = {BAD!r}

class Odd:
    def __init__(self): self.rope = BAD
    def __repr__(self): return "Odd" + BAD

def fare(name):
    rope = [BAD, Odd(), {{BAD: 1}}]
    print("Fare of", name, BAD)
    return len(rope)

total = 0
for name in [input(BAD), BAD]:
    total = total + fare(name)
print("Total:", total)
if total > 5:
    raise ValueError(BAD)
"""
# TOML takes no control letters raw: they stand there as escapes.
TOML = BAD.encode("unicode_escape").decode().replace("\\x", "\\u00").replace('"', '\\"')
PLAN = f"""
[[case]]
name = "rope {TOML}"
note = "note {TOML}"
stdin = "Ro{TOML}\\n"
stdout = "Total: {TOML}\\n"

[[case]]
name = "second"
stdin = "x\\n"
stdout = "Fare of x\\nTotal: 6\\n"

[[case]]
name = "{TOML}"
call = "fare('{TOML.replace(chr(92), chr(92) * 2)}')"
returns = "4"
"""
# What a terminal acts on or does not show: everything but printed letters, line ends and tabs.
RAW = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u200b-\u200f\u2028-\u202e\u2066-\u2069\ufeff]")


@pytest.fixture
def hostile(tmp_path: Path) -> Path:
    path = tmp_path / "fer\x1b[2Jry\u202e.py"
    path.write_text(PROGRAM, encoding="utf-8")
    path.with_suffix(".cases.toml").write_text(PLAN, encoding="utf-8")
    return path


COMMANDS = [
    "check", "check --format json", "check --format xml", "trace --case 1", "trace --case 3 --full",
    "trace --case 1 --format json", "pinpoint --budget 1 --reveal how",
    "pinpoint --budget 1 --format json", "ask calls --case 1", "ask loops --case 1 --format json",
    "ask lineage --case 1 --name total", "ask ledger --case 1 --step 20", "plan advise",
    "report", "report --format md", "plan export", "plan export --format csv",
]  # fmt: skip


@pytest.mark.parametrize("command", COMMANDS)
def test_no_command_prints_such_a_letter(hostile, oddsum, command):
    verb, *options = command.split()
    words = [verb, options.pop(0)] if verb == "plan" else [verb]
    asked = [options.pop(0)] if verb == "ask" else []
    out_file = hostile.parent / "report.html" if verb == "report" else None
    more = ["--out", out_file] if out_file else []
    status, out, err = oddsum(*words, hostile, *asked, *options, *more, "--python", OWN.path)
    assert status in (0, 1), err
    assert not RAW.search(err), RAW.search(err)
    exact = {"xml", "csv"} & set(options)
    if exact:
        out = visible(out)  # to the letter in a file or a pipe; a terminal gets it through the door
    assert not RAW.search(out), RAW.search(out)
    if "xml" in options:
        ElementTree.fromstring(out)


@pytest.mark.parametrize(
    "words", [["check", "no\x1b[2Jne.py"], ["open\x1b[2J"], ["check", "--\x1b"]]
)
def test_a_wrong_command_is_told_without_such_a_letter(oddsum, words):
    status, out, err = oddsum(*words)
    assert status == 2 and err and not RAW.search(out + err)


@pytest.mark.parametrize("what", ["source", "calls", "ledger", "rounds", "outcomes"])
def test_charts_stay_well_formed(hostile, oddsum, what):
    file = hostile.parent / "chart.svg"
    status, _, err = oddsum("chart", hostile, "--what", what, "--case", "1", "-o", file,
                            "--python", OWN.path)  # fmt: skip
    if status == 2 and not file.exists():
        assert err and not RAW.search(err)
        return
    text = file.read_text(encoding="utf-8")
    ElementTree.fromstring(text)
    assert not RAW.search(text)


# In 80 columns in a soak: the widgets are the same, and each picture of all takes its time.
@pytest.mark.parametrize("size", [WIDE, NARROW] if MANY else [WIDE])
async def test_no_panel_and_no_dialog_shows_such_a_letter(hostile, searched_once, size):
    async with opened(hostile, size) as pilot:
        work = pilot.app.workspace
        seen = []

        def look(where: str) -> None:
            text = screen(pilot)
            found = RAW.search(text)
            assert not found, (where, found)
            seen.append(where)

        look("check")
        for key in ("down", "down", "enter", "escape", "question_mark", "escape", "e", "escape", "d",
                    "escape"):  # fmt: skip
            await pilot.press(key)
            look(f"check {key}")
        await pilot.press("home", "t")
        await until(pilot, lambda: work.tracing.traced is not None)
        look("trace")
        for key in (*["down"] * 5, "right", "f", "escape", "j", "escape", "ctrl+n", "escape", "l",
                    "escape", "p", "escape", "enter", "escape"):  # fmt: skip
            await pilot.press(key)
            look(f"trace {key}")
        await pilot.press("3")
        await until(pilot, lambda: work.pinpointing.search.found is not None)
        look("pinpoint")
        for key in ("enter", "down", "enter", "enter"):
            await pilot.press(key)
            look(f"pinpoint {key}")
        for key in ("4", "escape", "5", "down", "enter", "escape"):
            await pilot.press(key)
            look(f"then {key}")
        pilot.app.notify(BAD)
        await until(pilot, lambda: bool(pilot.app._notifications))
        look("a notice")
        assert len(seen) > 35


def test_what_is_escaped_reads_back_as_it_was():
    import json

    text = json.dumps({"a": BAD + "\U000e0001 \ud800"}, ensure_ascii=False)
    assert not RAW.search(escaped(text)) and json.loads(escaped(text)) == json.loads(text)
