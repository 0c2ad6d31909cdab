"""Which step made what a statement reads: a variable, one item of a list, one attribute.

A list or an object that is read is made by the last step that changed anything in it; one item or
attribute by the last step that changed that one. What an object has not got itself, its class has.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple

from oddsum.languages.outline import Read
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.nodes import Node, text_of
from oddsum.trace.search import Asking
from oddsum.trace.sight import Sight
from oddsum.trace.store import NOTHING
from oddsum.trace.store import Part as Stretch

_MISSING = object()
_MOST_LOOKED_AT = 2_000  # changes of one list that are gone back through for one of its items


class Part(NamedTuple):
    """One item (by index or key) or one attribute (by name) of a list, a dict or an object."""

    key: Any
    attribute: bool = False


class Made(NamedTuple):
    """A step, the column that it made, and the part of it that is asked about, if only one is."""

    step: int
    column: str
    part: Part | None = None


class Makers:
    """Looks for the steps that made something, in one story."""

    def __init__(self, story: Story) -> None:
        self.story = story

    def of_read(
        self, read: Read, step: Step, until: int, part: Part | None = None
    ) -> Iterator[Made]:
        """The step, up to one, that made what is read as it is seen from a step; none, or several.

        ``part``: of what is read, only that is asked about.
        """
        asked = self._part_of(read, until) or part
        at = self.story.place(step.number)
        for owner, number in Sight(self.story, (read.name,)).candidates(read.name, at):
            column = self.story.steps.columns[number].title
            if self.story.last_change(column, owner, until) is None:
                continue
            yield from self.of_variable(column, owner, until, asked)
            if asked is not None and asked.attribute:
                yield from self._of_class(owner, number, until, asked)
            return
        if asked is not None and asked.attribute:  # an attribute of a class, a function, a module
            yield from self._of_owner(read.name, until, asked.key)

    def of_variable(
        self, column: str, owner: int, until: int, part: Part | None = None
    ) -> Iterator[Made]:
        """The step that made what a variable of one call (0 for the module) holds."""
        made = None if part is None else self._of_part(column, owner, until, part)
        if made is not None:
            yield Made(made, column, part)
            return
        last = self.story.last_change(column, owner, until)
        if last is not None:
            yield Made(last, column)

    # -- parts -----------------------------------------------------------------------------------

    def _part_of(self, read: Read, until: int) -> Part | None:
        if read.attribute:
            return Part(read.attribute, attribute=True)
        if read.index is None:
            return None
        try:
            return Part(Asking(self.story, self.story.question(read.index)).answer(until))
        except (QuestionError, Unanswered):
            return None

    def _of_part(self, column: str, owner: int, until: int, part: Part) -> int | None:
        """The last step that made one part what it is; None where that cannot be told."""
        at: int | None = until
        for _ in range(_MOST_LOOKED_AT):
            made = self.story.last_change(column, owner, at) if at is not None else None
            if made is None:
                return None
            before, now = self._parts(column, owner, made, part)
            if now is _MISSING:
                return None
            if before != now:
                return made
            earlier = self.story.place(made) - 1
            at = self.story.number(earlier) if earlier >= 0 else None
        return None

    def _parts(self, column: str, owner: int, made: int, asked: Part) -> tuple[Any, Any]:
        """One part of what a variable held, before and after a step."""
        part, row = self.story.steps.place(self.story.place(made))
        for n in self.story.steps.changes_of(part, row):
            told = self.story.steps.column_names[part.column[n]]
            if told == column and part.owner[n] == owner:
                before, after = part.before[n], part.after[n]
                return self._part_at(part, before, asked), self._part_at(part, after, asked)
        return _MISSING, _MISSING

    @staticmethod
    def _part_at(part: Stretch, ref: int, asked: Part) -> Any:
        """Its text, for what a node is made of changes under one's hands."""
        found = _MISSING if ref == NOTHING else part_of(part.node(ref), asked)
        return found if found is _MISSING else text_of(found)

    # -- classes ---------------------------------------------------------------------------------

    def _of_class(self, owner: int, number: int, until: int, part: Part) -> Iterator[Made]:
        """Of an object without this attribute: what made that of its class."""
        at = self.story.place(until)
        held = self.story.ref_at(owner, number, at, self.story.steps.place(at)[0])
        if held is None:
            return
        node = held[0].node(held[1])
        if isinstance(node, tuple) and node[0][:1] == "." and part_of(node, part) is _MISSING:
            yield from self._of_owner(node[0][1:], until, part.key)

    def _of_owner(self, title: str, until: int, name: str) -> Iterator[Made]:
        """What made an attribute of a class, its own or one from others; or of the like."""
        bases = self.story.steps.bases
        whole = next((t for t in bases if t.rpartition(".")[2] == title), title)
        for each in (whole, *bases.get(whole, ())):
            column = f"{each}.{name}"
            number = self.story.column_number(column)
            shared = number is not None and self.story.steps.columns[number].shared
            if shared and self.story.last_change(column, 0, until) is not None:
                yield from self.of_variable(column, 0, until)
                return

    def binds(self, made: Made) -> bool:
        """Whether a step gave a name to something, rather than changing a part of what it had."""
        step = self.story.step(made.step)
        mine = [c for c in step.changes if c.name == made.column]
        return any(
            c.before is None or c.after is None or c.before.number != c.after.number for c in mine
        )


def part_of(node: Node, part: Part) -> Any:
    """One part of what a node stands for; what is no part of it is told by a mark of its own."""
    if not isinstance(node, tuple) or len(node) < 3 or node[2] is None:
        return _MISSING
    kind, _, items = node
    if kind[:1] == "." or kind == "dict":
        pairs = zip(items[::2], items[1::2], strict=True)
        return next((v for k, v in pairs if k == part.key), _MISSING)
    if kind in ("list", "tuple") and isinstance(part.key, int):
        inside = -len(items) <= part.key < len(items)
        return items[part.key] if inside else _MISSING
    return _MISSING
