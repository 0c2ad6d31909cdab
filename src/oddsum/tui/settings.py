"""What the user has set: the theme, and whether marks are plain. Kept in the user's own folder."""

from __future__ import annotations

import json
from pathlib import Path

import msgspec
from platformdirs import user_config_path


class UserSettings(msgspec.Struct, frozen=True):
    """The settings. ``plain_marks``: characters of sure width in place of the glyphs."""

    theme: str = "lamp"
    plain_marks: bool = False


def _file() -> Path:
    return user_config_path("oddsum") / "settings.json"


def load_settings() -> UserSettings:
    """Read the settings; what cannot be read counts as never set."""
    try:
        return msgspec.convert(json.loads(_file().read_text(encoding="utf-8")), UserSettings)
    except (OSError, ValueError):
        return UserSettings()


def save_settings(settings: UserSettings) -> None:
    """Keep the settings. Failing to is no reason to disturb anybody's work."""
    try:
        _file().parent.mkdir(parents=True, exist_ok=True)
        _file().write_text(json.dumps(msgspec.to_builtins(settings)), encoding="utf-8")
    except OSError:
        return
