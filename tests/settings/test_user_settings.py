"""The user's settings: read, changed key by key, and never written over when they are wrong."""

from __future__ import annotations

import pytest
from tests.conftest import python

from oddsum.model.case import Plan, Settings
from oddsum.settings.user import (
    SettingsError,
    UserSettings,
    change_setting,
    read_settings,
    settings_file,
    with_settings,
)


def put(text: str | bytes) -> None:
    settings_file().parent.mkdir(parents=True, exist_ok=True)
    settings_file().write_bytes(text if isinstance(text, bytes) else text.encode())


def test_without_a_file_all_is_as_it_comes():
    assert read_settings() == (UserSettings(), None)


def test_a_change_keeps_comments_and_order_and_is_read_again():
    put('# mine\neditor = "nano"  # small\ntheme = "lamp"\n')
    change_setting("theme", "paper")
    change_setting("timeout", 3.5)
    assert settings_file().read_text() == (
        '# mine\neditor = "nano"  # small\ntheme = "paper"\ntimeout = 3.5\n'
    )
    change_setting("timeout", None)
    settings, fault = read_settings()
    assert fault is None and settings == UserSettings(editor="nano", theme="paper")


WRONG = [
    ("theme = ", "cannot be read"),
    ('colour = "red"', "colour, which means nothing"),
    ('them = "paper"', "Did you mean theme?"),
    ('theme = "red"', "theme: Invalid enum value"),
    ("plain_marks = 3", "plain_marks: Expected `bool`"),
    ("timeout = -1", "above 0"),
    (b"editor = '\xff'", "UTF-8"),
]


@pytest.mark.parametrize(("text", "said"), WRONG)
def test_settings_that_are_wrong_are_told_do_not_hold_and_stay(text, said):
    put(text)
    before = settings_file().read_bytes()
    settings, fault = read_settings()
    assert settings == UserSettings() and said in str(fault)
    with pytest.raises(SettingsError):
        change_setting("theme", "paper")
    assert settings_file().read_bytes() == before


def test_a_folder_that_cannot_be_written_is_told(tmp_path, monkeypatch):
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "file"))
    with pytest.raises(SettingsError, match="was not kept"):
        change_setting("theme", "paper")


def test_a_plan_s_own_limits_go_before_the_user_s(tmp_path):
    mine = UserSettings(timeout=5.0, memory=64.0)
    plan = with_settings(Plan(program=tmp_path, settings=Settings(timeout=1.0)), mine)
    assert (plan.settings.timeout, plan.settings.memory, plan.settings.output) == (1.0, 64.0, None)


def test_the_commands_take_limits_from_the_settings_and_say_when_they_are_wrong(oddsum, program):
    path = program("while True: pass\n", '[[case]]\nname = "a"\nstdin = ""\nstdout = "x"\n')
    put("timeout = 0.2\n")
    status, out, _ = oddsum("check", path, *python())
    assert status == 1 and "no end in 0.2 s" in out
    put("timeout = \n")
    program("print('x')\n")
    status, _, err = oddsum("check", path, *python())
    assert status == 0 and "settings" in err and "cannot be read" in err
