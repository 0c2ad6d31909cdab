"""The json that all commands share: format 1, indented, readable."""

from __future__ import annotations

import json
from typing import Any

from oddsum.model.errors import OddSumError
from oddsum.source.visible import escaped

FORMAT = 1


def dump(fields: dict[str, Any]) -> str:
    """One answer as json text with a line end; ``format`` comes first."""
    return escaped(json.dumps({"format": FORMAT, **fields}, ensure_ascii=False, indent=2)) + "\n"


def dump_error(error: OddSumError) -> str:
    """The answer in place of one, for exit statuses 2 and 3."""
    fields = {
        "status": int(error.status),
        "text": str(error),
        "file": error.file,
        "line": error.line,
        "column": error.column,
    }
    return dump({"error": fields})
