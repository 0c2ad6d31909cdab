"""``oddsum doctor``, and what a plan asks to be allowed."""

from __future__ import annotations

import json
import sys
import tomllib

import pytest

from conftest import python
from oddsum.run.fence.layers import layers
from oddsum.settings.user import settings_file

PROGRAM = (
    "import subprocess, sys\nprint(subprocess.run([sys.executable, '-c', '']).returncode + 14)\n"
)
PLAN = (
    'allow = ["processes"]\nfence = {fence}\n[[case]]\nname = "a"\nstdin = ""\nstdout = "{out}"\n'
)


def test_the_machine_is_told_in_lines_and_as_json(oddsum):
    status, out, err = oddsum("doctor", "--format", "json")
    told = json.loads(out)
    assert (status, err, told["format"]) == (0, "", 1)
    paths = [one["path"] for one in told["interpreters"] if one["what"] == "Python"]
    assert sys.executable in paths
    assert told["interpreters"][-1]["what"] == "node"
    assert [one["name"] for one in told["layers"]] == [one.name for one in layers()]
    assert {f["what"] for f in told["folders"]} == {"programs run in", "the record", "settings"}
    status, text, _ = oddsum("doctor")
    assert status == 0 and all(one["name"] in text for one in told["layers"])
    assert all(len(line) <= 80 or "/" in line for line in text.splitlines())


def test_a_folder_that_nobody_can_write_in_is_told(oddsum, tmp_path, monkeypatch):
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "file"))
    _, out, _ = oddsum("doctor")
    assert "Nothing can be written to" in out and "not a directory" in out


def test_what_a_plan_asks_for_is_given_only_once_somebody_has_said_so(oddsum, program):
    path = program(PROGRAM, PLAN.format(fence="true", out="14"))
    status, _, err = oddsum("check", path, *python())
    assert status == 1 and "start other programs" in err and "--allow processes" in err
    status, _, err = oddsum("check", path, "--allow", "processes", *python())
    assert (status, "--allow" in err) == (0, False)
    status, _, err = oddsum("check", path, *python())  # it is remembered, for this plan
    assert (status, "--allow" in err) == (0, False)
    kept = tomllib.loads(settings_file().read_text())["allowed"]
    assert kept == {str(path.with_suffix(".cases.toml")): ["processes"]}


def test_what_a_trial_was_refused_is_said_beside_the_leads(oddsum, program):
    path = program(PROGRAM, PLAN.format(fence="false", out="15"))
    assert oddsum("check", path, *python())[0] == 1
    _, out, _ = oddsum("pinpoint", path, "--budget", "2", *python())
    words = " ".join(out.split())
    assert "In case 1 the program wants to start other programs" in words
    assert 'allow = ["processes"]' in words


@pytest.mark.parametrize("fence", [False, True])
def test_plain_runs_are_fenced_where_the_user_wants_it(oddsum, program, tmp_path, fence):
    out_there = tmp_path / "elsewhere"
    out_there.mkdir()
    path = program(f"open({str(out_there / 'new')!r}, 'w').write('x')\nprint(5)\n",
                   '[[case]]\nname = "a"\nstdin = ""\nstdout = "5"\n')  # fmt: skip
    if fence:
        settings_file().parent.mkdir(parents=True, exist_ok=True)
        settings_file().write_text("fence = true\n")
    status, out, err = oddsum("check", path, *python())
    assert (status == 0, (out_there / "new").exists()) == (not fence, not fence)
    assert not fence or ("behind the fence" in out and "allow" in err)
