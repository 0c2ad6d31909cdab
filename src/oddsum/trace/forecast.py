"""Forecasts: the learner says what comes next, and sees the first cell that is another."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.languages.language import Asking
from oddsum.model.column import is_watched
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.nodes import scalar_text
from oddsum.trace.words import answer_of, short

_FAR = 400  # steps that are looked through for cells to fill in


@dataclass(frozen=True)
class Cell:
    """A cell to fill in: after ``step`` at ``line``, what is ``name``? A blank name stands for the
    condition there."""

    step: int
    line: int
    name: str
    before: str
    actual: str


@dataclass(frozen=True)
class Verdict:
    """How a forecast came out, with a sentence for one that did not."""

    right: bool
    words: str = ""


def cells(story: Story, number: int, count: int = 6) -> list[Cell]:
    """The next cells of this call after a step: values that change, and conditions."""
    frame, found, at = story.step(number).frame, list[Cell](), story.place(number) + 1
    for place in range(at, min(at + _FAR, len(story))):
        step = story.steps[place]
        if step.frame == frame:
            found += _cells_of(story, step)
        if len(found) >= count:
            break
    return found[:count]


def _cells_of(story: Story, step: Step) -> list[Cell]:
    """What changes: values, or the item or attribute that does; whole objects cannot be said."""
    made = []
    for c in story.table.inner(step.number) if "input" not in step.events else ():
        if c.after is None or c.fields or is_watched(c.variable):
            continue
        part = c.place if c.before is not None else ""  # what came in is told by the whole
        after = c.after if part or not c.place else c.whole
        made.append(Cell(step.number, step.line, c.name + part, c.before or "", after))
    if step.condition is not None:
        made.append(Cell(step.number, step.line, "", "", answer_of(step)))
    return made


def judged(cell: Cell, typed: str, asking: Asking) -> Verdict:
    """Hold a forecast against what happened."""
    typed = typed.strip()
    if typed == cell.actual or " ".join(typed.split()) == " ".join(cell.actual.split()):
        return Verdict(True)
    guess, actual = _value(typed, asking), _value(cell.actual, asking)
    if guess is None and typed != "None":
        bare = _value(asking.text_of(typed), asking)
        if bare == actual and isinstance(actual, str):
            return Verdict(True)
        return Verdict(False, f"{short(typed)} is no value; here it is {short(cell.actual)}.")
    if guess == actual and type(guess) is type(actual):
        return Verdict(True)
    if guess == actual:
        kinds = f"{_kind(guess)}; here it is {_kind(actual)}"
        return Verdict(False, f"The value is right, the type is not: {typed} is {kinds}.")
    if scalar_text(guess).strip("'") == scalar_text(actual).strip("'"):
        kinds = f"{_kind(guess)}; here it is {_kind(actual)}"
        return Verdict(False, f"{typed} is {kinds}, {cell.actual}.")
    name = cell.name or "The condition"
    return Verdict(False, f"{name} is {short(cell.actual)} here, not {short(typed)}.")


def _value(text: str, asking: Asking) -> object:
    try:
        found: object = asking.value_of(text)
    except (ValueError, SyntaxError, TypeError):
        return None
    return found


def _kind(value: object) -> str:
    names: dict[type, str] = {
        str: "a text",
        int: "a whole number",
        float: "a number with a point",
        bool: "True or False",
    }
    return names.get(type(value), f"a {type(value).__name__}")
