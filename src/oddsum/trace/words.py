"""Says in plain words what happened in a step."""

from __future__ import annotations

from oddsum.languages import language_of
from oddsum.model.column import short_name
from oddsum.model.trace import Change, Step

_CUT = 60


def place_words(step: Step) -> str:
    """What kind of step it is, where it is no ordinary visit."""
    parts = [f"[{step.thread}]"] if step.thread else []
    if "call" in step.events:
        parts.append("called")
    if "back" in step.events:
        parts.append("back")
    if "return" in step.events and step.value is not None:
        parts.append(f"gives {short(step.value.text)}")
    if "raise" in step.events and step.value is not None:
        parts.append(f"raises {short(step.value.text)}")
    if "input" in step.events and step.value is not None:
        parts.append(f"reads {short(step.value.text)}")
    return ", ".join(parts).replace("], ", "] ")


def condition_words(step: Step) -> str:
    """How the condition came out, or which round of a loop begins."""
    if step.condition is not None:
        return f"condition {answer_of(step)}"
    if step.round is not None:
        return f"round {step.round}" if step.round else "no more rounds"
    return ""


def answer_of(step: Step) -> str:
    """How a condition came out, as the step's language writes it; blank where none was asked."""
    if step.condition is None:
        return ""
    return language_of(step.statement.file).asking.text_of(step.condition)


def change_words(change: Change, full: bool = False) -> str:
    """A change as it is inked: ``total 12 → 17``."""
    name = short_name(change.name)
    after = "(gone)" if change.after is None else change.after.text
    before = "" if change.before is None else change.before.text + " → "
    if not full:
        after, before = short(after), before and short(before[:-3], 24) + " → "
    return f"{name} {before}{after}"


def short(text: str, most: int = _CUT) -> str:
    """A text cut in the middle: the first and the last of a value tell most."""
    if len(text) <= most:
        return text
    return text[: most * 2 // 3].rstrip() + " … " + text[-(most // 3 - 3) :].lstrip()


def short_apart(one: str, other: str, most: int = _CUT) -> tuple[str, str]:
    """Two texts that differ, cut so that the place where they begin to differ is in both."""
    if max(len(one), len(other)) <= most:
        return one, other
    same = next((n for n, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), 0)
    start = max(0, same - most // 3)
    return _window(one, start, most), _window(other, start, most)


def _window(text: str, start: int, most: int) -> str:
    if len(text) <= most:
        return text
    start = min(start, len(text) - most) if start else 0
    ahead, behind = ("… " if start else ""), (" …" if start + most < len(text) else "")
    return f"{ahead}{text[start : start + most].strip()}{behind}"


def counted(number: int, noun: str, plural: str = "") -> str:
    """``1 round``, ``4 rounds``; ``3 tries`` where the plural is named."""
    return f"{number:,} {noun}" if number == 1 else f"{number:,} {plural or noun + 's'}"


def ordinal(number: int) -> str:
    """``1st``, ``2nd``, ``11th``."""
    ends = {1: "st", 2: "nd", 3: "rd"}
    teens = 10 < number % 100 < 14
    return f"{number}{'th' if teens else ends.get(number % 10, 'th')}"
