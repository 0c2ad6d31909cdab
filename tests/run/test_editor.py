"""The learner's own editor: what it leaves comes back, and its failures are sentences."""

from __future__ import annotations

import pytest

from oddsum.run.editor import EditorError, edited_with, editor_command


@pytest.fixture
def script(tmp_path):
    def write(body: str) -> str:
        path = tmp_path / "edit it"
        path.write_text("#!/bin/sh\n" + body)
        path.chmod(0o755)
        return f"'{path}'"

    return write


def test_the_text_goes_there_and_back_under_its_own_name(script):
    command = script('basename "$2" >> "$2"\necho "$1" >> "$2"\n') + " --wait"
    assert edited_with(command, "ö = 1\n", "deck/fares.py", 7) == "ö = 1\nfares.py\n--wait\n"


def test_an_editor_that_can_is_opened_at_the_line(script, tmp_path):
    command = script('echo "$1" >> "$2"\n')
    (tmp_path / "vim").symlink_to(tmp_path / "edit it")
    assert edited_with(f"'{tmp_path / 'vim'}'", "", "a.py", 12) == "+12\n"
    assert command


@pytest.mark.parametrize(
    ("body", "said"),
    [("exit 3\n", "ended with status 3"), ('rm "$1"\n', "cannot be read"),
     ("printf '\\377' > \"$1\"\n", "cannot be read")],
)  # fmt: skip
def test_an_editor_that_fails_is_told(script, body, said):
    with pytest.raises(EditorError, match=said):
        edited_with(script(body), "x = 1\n", "a.py", 1)


@pytest.mark.parametrize("command", ["no-such-editor-here", "'", '""'])
def test_a_command_that_is_none_is_told(command):
    with pytest.raises(EditorError):
        edited_with(command, "", "a.py", 1)


def test_the_setting_goes_before_visual_and_that_before_editor(monkeypatch):
    monkeypatch.setenv("EDITOR", "ed")
    assert (editor_command("nano"), editor_command()) == ("nano", "ed")
    monkeypatch.setenv("VISUAL", "vim")
    assert editor_command() == "vim"
    monkeypatch.delenv("VISUAL")
    monkeypatch.delenv("EDITOR")
    with pytest.raises(EditorError, match="export EDITOR"):
        editor_command()
