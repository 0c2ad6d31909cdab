"""Every time a loop was gone through: its rounds, how it ended, and what it never reached."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from oddsum.languages.outline import Loop, Use
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.column import Column, is_local, short_name
from oddsum.model.trace import Statement, Step
from oddsum.trace.ask import Story
from oddsum.trace.search import Asking
from oddsum.trace.words import counted, short

Ending = Literal["condition", "ran out", "break", "return", "exception", "cut"]
_MOST_LOOKED_AT = 20_000  # steps: of a longer pass, which items it uses is not worked out
ENDING_WORDS: dict[Ending, str] = {
    "condition": "its condition was False",
    "ran out": "no item was left",
    "break": "by break",
    "return": "by return",
    "exception": "by an error",
    "cut": "the recording ends in it",
}


@dataclass(frozen=True)
class Pass:
    """One time a loop was gone through. Steps count from 1; ``starts`` begin its rounds."""

    loop: Loop
    frame: int
    enters: int
    starts: tuple[int, ...]
    ends: int
    ending: Ending

    @property
    def rounds(self) -> int:
        """How many rounds it made."""
        return len(self.starts)

    def round_at(self, step: int) -> int:
        """The round that a step is in, 0 before the first."""
        return bisect_right(self.starts, step)


def passes(story: Story, loop: Loop) -> list[Pass]:
    """Every time this loop was gone through, in the order of the steps."""
    found: list[Pass] = []
    under_way: dict[int, list[int]] = {}  # frame to the entering step and the rounds' starts
    for header in _headers(story, loop):
        for number in story.visits_of(header):
            step = story.step(number)
            if step.round is None and step.condition is None:
                if step.events or loop.kind == "while":
                    continue  # the header was left by an error
                _close(story, loop, under_way, step.frame, found)
                under_way[step.frame] = [number]
                continue
            _header_visit(story, loop, step, under_way, found)
    for frame in list(under_way):
        _close(story, loop, under_way, frame, found)
    return sorted(found, key=lambda p: p.enters)


def _headers(story: Story, loop: Loop) -> list[Statement]:
    return [s for s in story.statements
            if (s.file, s.line, s.kind) == (loop.file, loop.line, loop.kind)]  # fmt: skip


def _header_visit(
    story: Story, loop: Loop, step: Step, under_way: dict[int, list[int]], found: list[Pass]
) -> None:
    frame = step.frame
    again = step.round == 1 or (
        frame in under_way and _was_left(story, loop, under_way[frame], step)
    )
    if again and len(under_way.get(frame, ())) > 1:
        _close(story, loop, under_way, frame, found)
    steps = under_way.setdefault(frame, [step.number])
    if step.round or step.condition:
        steps.append(step.number)
        return
    ending: Ending = "condition" if loop.kind == "while" else "ran out"
    found.append(Pass(loop, frame, steps[0], tuple(steps[1:]), step.number, ending))
    del under_way[frame]


def _was_left(story: Story, loop: Loop, steps: Sequence[int], step: Step) -> bool:
    """Whether a ``while`` that is entered here had been left since its last round began."""
    if loop.kind != "while" or len(steps) < 2:
        return False
    return _leaving(story, loop, step.frame, steps[-1], step.number) is not None


def _leaving(story: Story, loop: Loop, frame: int, start: int, end: int) -> int | None:
    """The last step inside the loop before it is left; None where it is not left before ``end``."""
    inside, number = start, start
    depth = story.step(start).depth
    while True:
        following = story.over(number)
        if following is None or following >= end:
            return None if following is not None else inside
        step = story.step(following)
        if step.depth < depth or step.frame != frame:
            return inside
        if not loop.line <= step.line <= loop.end:
            return inside
        inside = number = following


def _close(
    story: Story, loop: Loop, under_way: dict[int, list[int]], frame: int, found: list[Pass]
) -> None:
    steps = under_way.pop(frame, None)
    if not steps or (len(steps) == 1 and loop.kind == "while"):
        return
    last = _leaving(story, loop, frame, steps[-1], story.last + 1)
    last = steps[-1] if last is None else last
    found.append(Pass(loop, frame, steps[0], tuple(steps[1:]), last, _ending(story, last)))


def _ending(story: Story, last: int) -> Ending:
    step = story.step(last)
    if step.statement.kind == "break":
        return "break"
    if "return" in step.events:
        return "return"
    if "raise" in step.events:
        return "exception"
    return "cut" if last >= story.last and not story.trace.complete else "exception"


# -- in words ----------------------------------------------------------------------------------


def told(story: Story, one: Pass) -> list[str]:
    """What there is to say of one time a loop was gone through, in plain sentences."""
    lines = [f"It makes {counted(one.rounds, 'round')} and ends: {ENDING_WORDS[one.ending]}."]
    lines += [_target_words(story, one, name) for name in one.loop.targets if one.rounds]
    lines += _over_words(story, one)
    lines += _use_words(story, one)
    lines += _never_changing(story, one)
    return lines


def _target_words(story: Story, one: Pass, name: str) -> str:
    values = [_value(story, name, s) for s in (one.starts[0], one.starts[-1])]
    if one.rounds == 1:
        return f"{name} is {values[0]}."
    return f"{name} begins with {values[0]} and ends with {values[1]}."


def _value(story: Story, name: str, number: int) -> str:
    values = story.values_at(number)
    function = story.step(number).function
    value = values.get(Column(function, name).title) or values.get(name)
    return short(value.text, 40) if value is not None else "nothing"


def _asked(story: Story, text: str, number: int) -> Any:
    try:
        return Asking(story, story.question(text)).answer(number)
    except (QuestionError, Unanswered):
        return None


def _size(story: Story, text: str, number: int) -> int | None:
    """How many items something has at a step, None where that is not known."""
    size = _asked(story, f"len({text})", number)
    return size if isinstance(size, int) else None


def _over_words(story: Story, one: Pass) -> list[str]:
    """What a ``for`` goes over, and how much of that it did not reach."""
    if one.loop.over is None:
        return []
    size = _size(story, one.loop.over, one.enters)
    if size is None or size <= one.rounds or one.ending == "ran out":
        return []
    left = range(one.rounds, size)
    return [f"{one.loop.over} has {counted(size, 'item')}; {_items(one.loop.over, left)} reached."]


def _use_words(story: Story, one: Pass) -> list[str]:
    """Of what is used by index in the rounds: which items never are."""
    if one.ends - one.enters > _MOST_LOOKED_AT:
        return []
    lines = []
    for sequence in dict.fromkeys(u.sequence for u in one.loop.uses):
        size = _size(story, sequence, one.enters)
        used = _used(story, one, [u for u in one.loop.uses if u.sequence == sequence])
        if size is None or used is None or sequence == one.loop.over:
            continue
        used = {u + size if u < 0 else u for u in used}
        left = [n for n in range(size) if n not in used]
        if left:
            lines.append(f"{sequence} has {counted(size, 'item')}; {_items(sequence, left)} used.")
    return lines


def _used(story: Story, one: Pass, uses: Iterable[Use]) -> set[int] | None:
    """The indexes that were used; None where one of them could not be worked out."""
    found: set[int] = set()
    for use in uses:
        try:
            asking = Asking(story, story.question(use.index))
        except QuestionError:
            return None
        for number in story.visits({(one.loop.file, use.line)}):
            if not one.enters <= number <= one.ends or story.step(number).frame != one.frame:
                continue
            try:
                index = asking.answer(max(one.enters, story.number(story.place(number) - 1)))
            except (Unanswered, IndexError):
                return None
            if not isinstance(index, int):
                return None
            found.add(index)
    return found


def _items(name: str, left: Sequence[int] | range) -> str:
    """``levels[4] is never``, ``levels[3] to levels[6] are never``."""
    if len(left) == 1:
        return f"{name}[{left[0]}] is never"
    if left[-1] - left[0] == len(left) - 1:
        return f"{name}[{left[0]}] to {name}[{left[-1]}] are never"
    few = ", ".join(f"{name}[{n}]" for n in left[:4])
    return f"{few}{' and others' if len(left) > 4 else ''} are never"


def _never_changing(story: Story, one: Pass) -> list[str]:
    """For a loop that did not end: what in its condition stays as it is."""
    if one.ending != "cut" or not one.loop.asked:
        return []
    step = story.step(one.enters)
    still = []
    for name in one.loop.asked:
        own = Column(step.function, name).title
        column = own if story.column_number(own) is not None else name
        owner = one.frame if is_local(column) else 0
        changes = [n for n in story.changes_of(column, owner) if one.enters < n <= one.ends]
        if story.column_number(column) is not None and not changes:
            still.append(name)
    if not still:
        return ["Everything in its condition does change; see whether it can ever become False."]
    names = " and ".join(still)
    return [f"In its condition, {names} never change{'s' if len(still) == 1 else ''}."]


def rounds_table(story: Story, one: Pass, most: int = 500) -> tuple[list[str], list[list[str]]]:
    """What changed in each round: the names, and a row a round with the last value each got."""
    rows: list[dict[str, str]] = []
    names: dict[str, None] = dict.fromkeys(one.loop.targets)
    ends = [*one.starts[1:], one.ends + 1][: one.rounds]
    for start, end in list(zip(one.starts, ends, strict=True))[:most]:
        row: dict[str, str] = {}
        for number in range(start, min(end, start + _MOST_LOOKED_AT)):
            if story.steps.index_of(number) is None:
                break
            step = story.step(number)
            for change in step.changes:
                if change.frame in (0, one.frame):
                    name = short_name(change.name)
                    row[name] = change.after.text if change.after is not None else "(gone)"
        names.update(dict.fromkeys(row))
        rows.append(row)
    return list(names), [[row.get(n, "") for n in names] for row in rows]
