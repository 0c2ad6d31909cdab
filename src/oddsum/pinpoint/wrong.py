"""Where in a recording the wrong value comes out, and what it was made of."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from oddsum.compare.departure import departure_offset
from oddsum.languages import language_of
from oddsum.languages.outline import Reads
from oddsum.languages.questions import QuestionError
from oddsum.model.case import Case
from oddsum.model.claim import Broken
from oddsum.model.outcome import CaseResult
from oddsum.pinpoint.coverage import Place
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.lineage import Lineage
from oddsum.trace.sight import Sight
from oddsum.trace.sparing import StatementsOf


def wrong_step(story: Story, case: Case, result: CaseResult) -> int | None:
    """The step in which it first goes wrong: an error, the first wrong line, the wrong result.

    None where that cannot be told: it did not end, or what differs is no output of a step.
    """
    if result.run.ending == "raised":
        return story.where_raised
    if result.run.ending != "ended":
        return None
    if case.stdout is not None and case.call is None:
        offset = departure_offset(case.stdout, result.actual, result.run)
        if offset is not None:
            return story.printing(offset)
    if case.call is not None and case.returns is not None:
        return last_return(story)
    return None


def last_return(story: Story) -> int | None:
    """The step at which the outermost call gave its result."""
    for at in range(len(story) - 1, -1, -1):
        step = story.steps[at]
        if "return" in step.events and step.depth <= 1:
            return step.number
    return None


def made_of(story: Story, step: int, sources: Mapping[str, Source]) -> frozenset[Place]:
    """The places of all steps that what a step did goes back to, its own included."""
    lineage = Lineage(story, statements_of(sources), all_reasons=False)
    return frozenset((story.step(o.step).statement.file, o.line) for o in lineage.of_step(step))


def behind_claim(story: Story, broken: Broken, sources: Mapping[str, Source]) -> frozenset[Place]:
    """The places that the values in a broken claim go back to."""
    lineage = Lineage(story, statements_of(sources), all_reasons=False)
    found: set[Place] = set()
    try:
        names = story.question(broken.claim.holds).names
    except QuestionError:
        return frozenset()
    for name in names:
        variable = Sight(story, names).variable(name, broken.step)
        if variable is not None:
            title = story.steps.columns[variable[1]].title
            found |= {
                (story.step(o.step).statement.file, o.line)
                for o in lineage.of_variable(title, broken.step)
            }
    return frozenset(found)


def statements_of(sources: Mapping[str, Source]) -> StatementsOf:
    """What each statement of a file reads and sets, for a lineage."""

    def of(file: str) -> dict[int, Reads]:
        source = sources.get(file)
        return _reads(source) if source is not None else {}

    return of


@lru_cache(maxsize=16)
def _reads(source: Source) -> dict[int, Reads]:
    return language_of(source.name).reading.reads(source)
