"""Where in a recording the wrong value comes out, and what it was made of."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import lru_cache
from itertools import islice

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
from oddsum.trace.returns import outermost_returns, result_step
from oddsum.trace.sight import Sight
from oddsum.trace.sparing import StatementsOf

_MOST_RESULTS = 8  # calls whose results one case puts together, that are followed back


def wrong_steps(story: Story, case: Case, result: CaseResult) -> tuple[int, ...]:
    """The steps in which it goes wrong: an error, the first wrong line, a wrong result given.

    None of them where that cannot be told: it did not end, or what differs is no output of a step.
    Several where the result is made of what several calls gave: any of them may be wrong.
    """
    step = None
    if result.run.ending == "raised":
        step = story.where_raised
    if result.run.ending != "ended":
        return () if step is None else (step,)
    if case.stdout is not None and case.call is None:
        offset = departure_offset(case.stdout, result.actual, result.run)
        if offset is not None:
            step = story.printing(offset)
    if case.call is not None and case.returns is not None and result.run.returned is not None:
        step = result_step(story, result.run.returned.actual)
        if step is None:
            return tuple(islice(outermost_returns(story), _MOST_RESULTS))
    return () if step is None else (step,)


def made_of(story: Story, steps: Iterable[int], sources: Mapping[str, Source]) -> frozenset[Place]:
    """The places of all steps that what these steps did goes back to, their own included."""
    lineage = Lineage(story, statements_of(sources), all_reasons=False)
    return frozenset(
        (story.step(o.step).statement.file, o.line) for step in steps for o in lineage.of_step(step)
    )


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
