"""Does the program do the same each time? Where not: which line draws lots, or reads the clock."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping

from oddsum.languages import language_of
from oddsum.model.case import Case
from oddsum.model.outcome import CaseResult
from oddsum.source.program import Source
from oddsum.trace.ask import Story

_ADDRESS = re.compile(r" at 0x[0-9a-fA-F]+")  # where an object lies in memory: another each time


def unsteady(
    stories: Mapping[int, tuple[Case, Story]], results: Iterable[CaseResult]
) -> tuple[int, ...]:
    """The cases that printed or gave something else when they were recorded than before."""
    by_number = {r.number: r for r in results}
    return tuple(n for n, (_, story) in stories.items() if _differs(story, by_number[n]))


def _differs(story: Story, result: CaseResult) -> bool:
    run = result.run
    if run.ending != "ended" or not story.trace.complete or not len(story):
        return False
    if story.output_until(story.last) != run.output:
        return True
    if run.returned is None:
        return False
    gave = story.trace.returned
    return gave is not None and _ADDRESS.sub("", gave) != _ADDRESS.sub("", run.returned.actual)


def drawing_lines(sources: Iterable[Source]) -> list[tuple[str, int, str]]:
    """Calls whose result is another one each time: file, line, and the call as it is written."""
    return sorted(
        (source.name, line, call)
        for source in sources
        for line, call in language_of(source.name).reading.unsteady_calls(source)
    )


def unsteady_remark(cases: tuple[int, ...], sources: Iterable[Source]) -> str:
    """What is said of a program that does not do the same each time."""
    numbers = ", ".join(map(str, cases))
    many = "Cases" if len(cases) > 1 else "Case"
    drawn = drawing_lines(sources)
    if not drawn:
        return (
            f"{many} {numbers} came out otherwise the second time. Something in the program "
            f"changes "
            "from run to run, so mends cannot be judged surely."
        )
    places = "; ".join(f"line {line}: `{call}`" for _, line, call in drawn[:3])
    return (
        f"{many} {numbers} came out otherwise the second time: {places} gives another value "
        f"in each "
        "run. Mends cannot be judged surely until that is fixed to one value."
    )
