"""What the learner says at a line: what must hold, what to keep an eye on, where to stop."""

from __future__ import annotations

from oddsum.trace.breakpoints import breakpoint_from
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def breakpoint_under(asker: Asker, traced: Traced) -> None:
    """Stop at the line in hand under a condition, or in one round."""
    step, breakpoints = traced.story.step(traced.step), asker.workspace.breakpoints
    file, line = step.statement.file, step.line

    def take(text: str | None) -> None:
        if text is not None:
            breakpoints.set(breakpoint_from(file, line, text))

    asker.show(
        Ask(f"HOLD AT LINE {line}", "A condition, or a round of the loop around it",
            "It is asked before the line runs. Nothing typed: hold every time.",
            lambda text: breakpoint_from(file, line, text), breakpoints.typed_at(file, line),
            "total > 20, or round 25"), take,
    )  # fmt: skip


def watch(asker: Asker, traced: Traced) -> None:
    """Keep an eye on an expression: a column more."""

    def take(text: str | None) -> None:
        if text:
            asker.workspace.tracing.watch(text)

    asker.show(
        Ask("KEEP AN EYE ON", "An expression: it becomes a column of the trace table",
            "The case is recorded again with it. Type one that is watched to end it.",
            traced.story.question, example="total - extra"), take,
    )  # fmt: skip


def claim(asker: Asker, traced: Traced) -> None:
    """Say what must hold after this line, or when this function returns; or change that."""
    step, claims = traced.story.step(traced.step), asker.workspace.claims
    returns = "return" in step.events
    where = f"when {step.function} returns" if returns else f"after line {step.line}"
    kept = claims.here()

    def take(text: str | None) -> None:
        if text is not None:
            claims.make(text)

    asker.show(
        Ask(f"WHAT MUST HOLD {where.upper()}?", "Your claim, as a condition",
            "It is kept beside the program, and held against every case. "
            + ("result is what it returns. " if returns else "")
            + "Nothing typed takes it away.",
            lambda text: traced.story.question(text) if text.strip() else None,
            kept[0].holds if kept else "", "total == 24"), take,
    )  # fmt: skip
