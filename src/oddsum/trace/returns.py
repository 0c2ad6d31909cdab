"""Where in a recording what was called gave its result."""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.trace.ask import Story


def outermost_returns(story: Story) -> Iterator[int]:
    """The steps in which a call gave something that is not inside another call, the last first."""
    for at in reversed(range(len(story))):
        step = story.steps[at]
        if "return" in step.events and step.depth <= 1:
            yield step.number


def result_step(story: Story, actual: str) -> int | None:
    """The step in which the result of the case, ``actual``, was given as it is.

    None where the case makes its result of what several calls gave, as ``(fare(9), fare(16))``:
    then no step gives it.
    """
    last = next(outermost_returns(story), None)
    value = story.step(last).value if last is not None else None
    if value is None or (value.whole and value.text != actual):
        return None
    return last
