"""The report as one HTML file that needs nothing beside it."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from oddsum.compare.told import more_told, values_told
from oddsum.model.case import Case
from oddsum.model.marks import MARKS
from oddsum.model.outcome import tally
from oddsum.pinpoint.words import kind_title, verdict
from oddsum.record.report import Report

if TYPE_CHECKING:
    from jinja2 import Template


def write(found: Report) -> str:
    """The whole page; every text of the program and the learner is escaped."""
    return _template().render(
        r=found,
        cases=[(c, _result(found, c)) for c in found.plan.cases],
        counts=[(n, o.value if n == 1 else o.plural) for o, n in tally(found.results).items() if n],
        odd=[r for r in found.results if r.outcome.odd],
        asked=_asked, mark=lambda outcome: MARKS[outcome.value].glyph, kind_title=kind_title,
        verdict=verdict, more_told=more_told, values_told=values_told,
    )  # fmt: skip


def _result(found: Report, case: Case) -> Any:
    return next((r for r in found.results if r.number == case.number), None)


def _asked(case: Case) -> str:
    """What a case gives to the program."""
    if case.call is not None:
        return case.call
    words = f"arguments: {' '.join(case.args)}\n" if case.args else ""
    return words + (case.stdin or "").rstrip("\n")


@lru_cache(maxsize=1)
def _template() -> Template:
    from jinja2 import Environment, StrictUndefined

    text = Path(__file__).with_name("report.html.j2").read_text(encoding="utf-8")
    environment = Environment(
        autoescape=True, undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True
    )
    return environment.from_string(text)
