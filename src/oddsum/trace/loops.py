"""Every time a loop was gone through: its rounds, how it ended, and what it never reached."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from oddsum.languages import language_of
from oddsum.languages.outline import Loop, Use
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.column import short_name
from oddsum.trace.ask import Story
from oddsum.trace.nodes import text_of
from oddsum.trace.plain import UNKNOWN
from oddsum.trace.rounds import Ending, Pass, calls_in
from oddsum.trace.search import Asking
from oddsum.trace.sight import Sight
from oddsum.trace.words import counted, short

_MOST_LOOKED_AT = 20_000  # steps: of a longer pass, which items it uses is not worked out
ENDING_WORDS: dict[Ending, str] = {
    "condition": "its condition was False",
    "ran out": "no item was left",
    "break": "by break",
    "return": "by return",
    "exception": "by an error",
    "cut": "the recording stops inside it",
    "waiting": "it was asked for no more",
    "lost": "its end is among the steps that were not kept",
}

_NO_END = ("cut", "lost")  # how it was left, where it did not come to an end

ENDED: dict[Ending, str] = {  # the same in the one word that scripts read
    "condition": "false",
    "ran out": "no more",
    "break": "break",
    "return": "return",
    "exception": "error",
    "cut": "cut off",
    "waiting": "cut off",
    "lost": "cut off",
}


def passes(story: Story, loop: Loop) -> list[Pass]:
    """Every time this loop was gone through, in the order of the steps."""
    return story.passes.of(loop.file, loop.line, loop.kind)


# -- in words ----------------------------------------------------------------------------------


@dataclass(frozen=True)
class Told:
    """What there is to say of one time a loop was gone through.

    ``first`` and ``last`` are what its target was in the first and the last round, as texts, None
    where it has none; ``unused`` the items that were never reached or used, ``unchanged`` the names
    in the condition of a loop that did not end which stay as they are.
    """

    first: str | None = None
    last: str | None = None
    unused: tuple[str, ...] = ()
    unchanged: tuple[str, ...] = ()
    sentences: tuple[str, ...] = ()


def told(story: Story, loop: Loop, one: Pass) -> Told:
    """One time a loop was gone through, in facts and in plain sentences."""
    most = "" if one.whole else "at least "
    made = f"It makes {most}{counted(one.rounds, 'round')}"
    ends = ending_words(story, one)
    lines = [f"{made}, and {ends}." if one.ending in _NO_END else f"{made} and ends: {ends}."]
    lines += [_target_words(story, one, name) for name in loop.targets if one.rounds]
    unused: list[str] = []
    unchanged: tuple[str, ...] = ()
    if one.whole:
        for words, items in (*_never_reached(story, loop, one), *_never_used(story, loop, one)):
            lines.append(words)
            unused += items
        unchanged, words = _never_changing(story, loop, one)
        lines += [words] if words else []
    first, last = (_went_over(story, loop, one, n) for n in (0, -1))
    return Told(first, last, tuple(unused), unchanged, tuple(lines))


def _went_over(story: Story, loop: Loop, one: Pass, which: int) -> str | None:
    """What the loop's names were in its first (0) or last (-1) round."""
    if not loop.targets or not one.rounds:
        return None
    texts = [_value(story, name, one.starts[which]) for name in loop.targets]
    return texts[0] if len(texts) == 1 else f"({', '.join(texts)})"


def ending_words(story: Story, one: Pass) -> str:
    """How it ended, in words."""
    if one.ending == "exception":
        raised = story.step(one.ends).value
        if raised is not None and raised.type == "SystemExit":
            return "the program ends in it"
    return ENDING_WORDS[one.ending]


def _target_words(story: Story, one: Pass, name: str) -> str:
    values = [_value(story, name, s) for s in (one.starts[0], one.starts[-1])]
    if one.rounds == 1:
        return f"{name} is {values[0]}."
    return f"{name} begins with {values[0]} and ends with {values[1]}."


def _value(story: Story, name: str, number: int) -> str:
    node = Sight(story, (name,)).node_of(name, number)
    return short(text_of(node)[0], 40) if node is not UNKNOWN else "nothing"


def _asked(story: Story, text: str, number: int) -> Any:
    try:
        return Asking(story, story.question(text)).answer(number)
    except (QuestionError, Unanswered):
        return None


def _before(story: Story, number: int) -> int:
    """The step before this one, the first for the first: what held as a statement began."""
    at = story.place(number)
    return story.number(max(0, at - 1))


def _size(story: Story, text: str, one: Pass) -> int | None:
    """How many items something has, None where that is not known, or changes on the way."""
    length = language_of(story.trace.program).asking.length_of(text)
    size = _asked(story, length, _before(story, one.enters))
    if not isinstance(size, int):
        return None
    changed = one.starts and _asked(story, length, one.starts[-1]) not in (size, None)
    return None if changed else size


_Missed = Iterator[tuple[str, list[str]]]  # a sentence, and the items that it speaks of


def _never_reached(story: Story, loop: Loop, one: Pass) -> _Missed:
    """What a ``for`` goes over, and how much of that it did not reach."""
    if loop.over is None or one.ending == "ran out":
        return
    size = _size(story, loop.over, one)
    if size is None or size <= one.rounds:
        return
    has, left = f"{loop.over} has {counted(size, 'item')}", size - one.rounds
    if loop.order == "other" or not _has_places(story, loop.over, one):
        yield f"{has}; {left:,} of them {'is' if left == 1 else 'are'} never reached.", []
        return
    places = range(one.rounds, size) if loop.order == "forward" else range(left)
    yield f"{has}; {_items(loop.over, places)} reached.", [f"{loop.over}[{n}]" for n in places]


def _has_places(story: Story, text: str, one: Pass) -> bool:
    """Whether items are found by a number: those of a dict or a set have no place."""
    return isinstance(_asked(story, text, _before(story, one.enters)), (list, tuple, str))


def _never_used(story: Story, loop: Loop, one: Pass) -> _Missed:
    """Of what is used by index in the rounds: which items never are."""
    if one.ends - one.enters > _MOST_LOOKED_AT:
        return
    for sequence in dict.fromkeys(u.sequence for u in loop.uses):
        size = _size(story, sequence, one)
        if size is None or sequence == loop.over or not _has_places(story, sequence, one):
            continue
        used = _used(story, loop, one, [u for u in loop.uses if u.sequence == sequence])
        if used is None:
            continue
        used = {u + size if u < 0 else u for u in used}
        left = [n for n in range(size) if n not in used]
        if left:
            has = f"{sequence} has {counted(size, 'item')}"
            yield f"{has}; {_items(sequence, left)} used.", [f"{sequence}[{n}]" for n in left]


def _used(story: Story, loop: Loop, one: Pass, uses: Iterable[Use]) -> set[int] | None:
    """The indexes that were used; None where one of them could not be worked out."""
    found: set[int] = set()
    for use in uses:
        try:
            asking = Asking(story, story.question(use.index))
        except QuestionError:
            return None
        for number in story.visits_between({(loop.file, use.line)}, one.enters, one.ends):
            if story.frame_at(number) != one.frame:
                continue
            try:
                index = asking.answer(_before(story, number))
            except Unanswered:
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


def _never_changing(story: Story, loop: Loop, one: Pass) -> tuple[tuple[str, ...], str]:
    """For a loop that did not end: what in its condition stays as it is, and a sentence of it."""
    if one.ending != "cut" or not loop.asked or calls_in(story, one):
        return (), ""  # what is called in it may look at anything
    sight = Sight(story, loop.asked)
    known = [n for n in loop.asked if sight.node_of(n, one.ends) is not UNKNOWN]
    still = tuple(n for n in known if not sight.changes(n, one.enters, one.ends))
    if still:
        names = " and ".join(still)
        return still, f"In its condition, {names} never change{'s' if len(still) == 1 else ''}."
    if not known:
        return (), ""
    return (), "Everything in its condition does change; see whether it can ever become False."


def rounds_table(
    story: Story, loop: Loop, one: Pass, most: int = 500
) -> tuple[list[str], list[list[str]]]:
    """What changed in each round: the names, and a row a round with the last value each got."""
    rows: list[dict[str, str]] = []
    names: dict[str, None] = dict.fromkeys(loop.targets)
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
