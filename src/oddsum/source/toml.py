"""The one door to the reader of TOML: whatever is in a file that somebody else may have written."""

from __future__ import annotations

import tomllib
from typing import Any


def parse_toml(text: str) -> dict[str, Any]:
    """The values of a text. Raises TOMLDecodeError, also for what goes deeper than can be read."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError:
        raise
    except (RecursionError, ValueError) as error:  # brackets by the thousand, a number as long
        why = "something is nested too deeply, or too long a number (at line 1, column 1)"
        raise tomllib.TOMLDecodeError(why) from error
