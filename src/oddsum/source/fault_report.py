"""What is written down of an exception of our own, for the user to send if they like."""

from __future__ import annotations

import platform
import sys
import tempfile
import time
import traceback
from pathlib import Path

from oddsum.model.errors import OddSumError


def fault_told(error: BaseException, where: str, version: str) -> OddSumError:
    """The exception as a sentence, with the file that says more; no file where none can be written.

    The report has the places in our code and no text of the user's programs.
    """
    kind = f"{type(error).__name__}: {error}".split("\n")[0][:200]
    text = f"Something went wrong inside Odd Sum ({where}: {kind}). Your files are as they were."
    path = _written(error, where, version)
    hint = f"What happened is written down in {path}; please send it to us." if path else ""
    return OddSumError(text, hint=hint)


def _written(error: BaseException, where: str, version: str) -> Path | None:
    name = f"oddsum-fault-{time.strftime('%Y%m%d-%H%M%S')}-"
    lines = [
        f"Odd Sum {version}, Python {platform.python_version()}, {sys.platform}",
        f"at: {where}",
        *traceback.format_exception(error),
    ]
    try:
        handle, path = tempfile.mkstemp(
            prefix=name, suffix=".txt"
        )  # a name nobody can lie in wait at
        with open(handle, "w", encoding="utf-8", errors="replace") as file:
            file.write("\n".join(lines))
    except OSError:
        return None
    return Path(path)
