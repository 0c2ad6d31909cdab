"""Each test opens an application of its own; what all of them read alike is read once."""

from __future__ import annotations

import pytest
from textual.css.stylesheet import Stylesheet

_parsed: dict[object, object] = {}


@pytest.fixture(autouse=True)
def _style_sheets_are_parsed_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Reading all style sheets anew for each application takes a sixth of these tests' time."""
    parse = Stylesheet._parse_rules

    def parsed(self: Stylesheet, css: str, *more: object, **named: object) -> object:
        key = css, more, tuple(named.items()), tuple(sorted(self._variables.items()))
        if key not in _parsed:
            _parsed[key] = parse(self, css, *more, **named)  # type: ignore[arg-type]
        return _parsed[key]

    monkeypatch.setattr(Stylesheet, "_parse_rules", parsed)
