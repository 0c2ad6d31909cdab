"""Moments: by number, by a condition that becomes true, by what one thinks comes next."""

from __future__ import annotations

from oddsum.trace.claims import effect_of
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.forecast import Forecast
from oddsum.tui.dialogs.number import StepNumber
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def by_number(asker: Asker, traced: Traced) -> None:
    """A step by its number."""
    asker.show(StepNumber(traced.story.last), asker.go)


def becomes_true(asker: Asker, traced: Traced) -> None:
    """The next moment at which a condition becomes true, or a value turns up."""

    def look(typed: str | None) -> None:
        if typed:
            asker.workspace.lookups.find(traced.story.question(typed))

    asker.show(
        Ask("WHEN DOES IT BECOME TRUE?", "A condition; or a value: where it turns up",
            "It is asked after every step from here on. Esc stops a long search.",
            traced.story.question, example="total > 20"), look,
    )  # fmt: skip


def comes_next(asker: Asker, traced: Traced) -> None:
    """The next values and conditions, filled in before they are seen."""
    here = effect_of(traced.story, traced.step)
    tracing, before = asker.workspace.tracing, traced.step

    def closed(step: int | None) -> None:
        tracing.veil(None)
        asker.go(step or before)

    asker.show(Forecast(traced.story, here, tracing.veil), closed)
