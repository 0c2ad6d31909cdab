"""The learner's own editor, on a copy of a text; what it leaves there comes back."""

from __future__ import annotations

import os
import shlex
import subprocess
import tempfile
from pathlib import Path

from oddsum.model.errors import OddSumError

# Editors that open at a line when it stands before the file's name as +12.
_AT_LINE = {"vi", "vim", "nvim", "view", "nano", "emacs", "emacsclient", "joe", "micro", "kak",
            "mcedit", "ne", "jed", "mg"}  # fmt: skip


class EditorError(OddSumError):
    """The editor cannot be used; the text is as it was."""


def editor_command(setting: str = "") -> str:
    """The editor's command: the setting, else what the environment names; raises EditorError."""
    command = setting or os.environ.get("VISUAL") or os.environ.get("EDITOR") or ""
    if not command.strip():
        raise EditorError(
            "No editor of your own is named.",
            hint="Set EDITOR, for example `export EDITOR=nano`, or `editor` in the settings.",
        )
    return command


def edited_with(command: str, text: str, name: str, line: int) -> str:
    """Open a text in an editor and wait for its end; returns the text that it left.

    The editor gets a copy under the file's own name, at ``line`` (from 1) where it can. Raises
    EditorError where it cannot be started, or ends with a status other than 0.
    """
    try:
        words = shlex.split(command)
    except ValueError:
        raise EditorError(f"The editor's command cannot be read: {command}") from None
    at_line = [f"+{line}"] if words and Path(words[0]).name in _AT_LINE else []
    with tempfile.TemporaryDirectory(prefix="oddsum-edit-") as folder:
        path = Path(folder) / Path(name).name
        path.write_text(text, encoding="utf-8")
        try:
            status = subprocess.run([*words, *at_line, str(path)], check=False).returncode
        except (OSError, IndexError) as error:
            why = getattr(error, "strerror", None) or "there is no such command"
            raise EditorError(
                f"The editor `{command}` cannot be started: {why.lower()}.",
                hint="Name another one in EDITOR, or as `editor` in the settings.",
            ) from error
        if status:
            raise EditorError(
                f"The editor `{command}` ended with status {status}; "
                "the text here is as it was before."
            )
        try:
            return path.read_text(encoding="utf-8")
        except (OSError, UnicodeDecodeError) as error:
            raise EditorError(
                f"What the editor `{command}` left cannot be read; the text here is as it was."
            ) from error
