"""Where a value comes from: back through the steps that made it, to inputs and constants.

A step made a value out of what its statement reads (see ``source/reads.py``); what it reads was
made by the last step before that changed it. What a parameter got comes from the call, what a call
gave from its return. Which lines ran was decided by the conditions around them. The method is the
dynamic slice of Korel and Laski (1988), told one origin at a time.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from oddsum.languages.notation import read_value, write_value
from oddsum.languages.outline import Read, Reads
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.column import is_local, short_name
from oddsum.model.trace import Step, Value
from oddsum.trace.ask import Story
from oddsum.trace.search import Asking

Why = Literal["made from", "decided by", "came in as", "given by"]
StatementsOf = Callable[[str], dict[int, Reads]]  # of a file
_MOST = 400  # origins that are followed


@dataclass(frozen=True)
class Origin:
    """One step of a lineage: at ``step``, ``name`` got ``value``; ``why`` it matters to the one it
    stands under. ``kind``: ``value``, ``input``, ``constant``, ``condition`` or ``start``.

    ``parent`` is the place in the list of the origin that it explains, -1 for the first.
    """

    step: int
    line: int
    function: str
    name: str
    value: str
    why: Why
    kind: str
    parent: int
    constants: tuple[str, ...] = ()


class Lineage:
    """Follows values back through one story."""

    def __init__(self, story: Story, statements_of: StatementsOf) -> None:
        self.story, self._statements_of = story, statements_of

    def of_variable(self, name: str, number: int) -> list[Origin]:
        """The lineage of what a variable (as its column is called) holds after a step."""
        made = self._maker(name, self.story.step(number).frame, number)
        return self._followed([] if made is None else [(made, name, "made from", -1)])

    def of_step(self, number: int) -> list[Origin]:
        """The lineage of what a step did: printed, returned, decided."""
        return self._followed([(number, "", "made from", -1)])

    def _followed(self, todo: list[tuple[int, str, Why, int]]) -> list[Origin]:
        found: list[Origin] = []
        seen: set[tuple[int, str]] = set()
        while todo and len(found) < _MOST:
            number, name, why, parent = todo.pop(0)
            if (number, name) in seen:
                continue
            seen.add((number, name))
            found.append(self._origin(number, name, why, parent))
            here = len(found) - 1
            todo += [(n, x, w, here) for n, x, w in self._behind(number, name)]
        return found

    def _origin(self, number: int, name: str, why: Why, parent: int) -> Origin:
        step = self.story.step(number)
        facts = self._facts(step)
        constants = facts.constants if facts is not None else ()
        value, kind = self._told(step, name)
        plain = facts is not None and not facts.all_reads and "call" not in step.events
        if kind == "value" and plain:
            kind = "constant"
        return Origin(number, step.line, step.function, short_name(name), value, why,
                      kind, parent, constants)  # fmt: skip

    @staticmethod
    def _told(step: Step, name: str) -> tuple[str, str]:
        for change in step.changes:
            if change.name == name:
                kind = "input" if "input" in step.events else "value"
                return (change.after.text if change.after is not None else "(gone)"), kind
        if step.condition is not None:
            return f"condition {step.condition}", "condition"
        if step.round is not None:
            return (f"round {step.round:,}" if step.round else "no more rounds"), "condition"
        if step.value is not None:
            return step.value.text, "input" if "input" in step.events else "value"
        return step.output.rstrip("\n"), "value"

    def _facts(self, step: Step) -> Reads | None:
        return self._statements_of(step.statement.file).get(step.statement.line)

    # -- one step back -------------------------------------------------------------------------

    def _behind(self, number: int, name: str) -> Iterator[tuple[int, str, Why]]:
        step = self.story.step(number)
        if "call" in step.events:
            yield from self._behind_parameter(step, name)
            return
        facts = self._facts(step)
        if facts is None:
            return
        reads = facts.sets.get(short_name(name), facts.all_reads)
        for read in reads:
            made = self._read_from(read, step)
            if made is not None:
                yield (*made, "made from")
        for end in self._returns(step, facts):
            yield end, "", "given by"
        for header in self._deciding(step, facts):
            yield header, "", "decided by"

    def _read_from(self, read: Read, step: Step) -> tuple[int, str] | None:
        """The step that made what is read, with the column it is in."""
        before = self._number_before(step.number)
        return None if before is None else self._made_by(read, step, before)

    def _made_by(self, read: Read, step: Step, until: int) -> tuple[int, str] | None:
        for name, owner in self._columns(read.name, step):
            made = None
            if read.index is not None:
                made = self._item_maker(name, owner, read, until)
            made = made or self._maker(name, owner, until)
            if made is not None:
                return made, name
        return None

    def _columns(self, name: str, step: Step) -> Iterator[tuple[str, int]]:
        title = step.function
        while title:
            yield (
                f"{title}.{name}",
                step.frame if title == step.function else self._outer(title, step),
            )
            title = title.rpartition(".")[0]
        yield name, 0

    def _outer(self, title: str, step: Step) -> int:
        for at in range(bisect_left(self.story.calls, self.story.place(step.number)) - 1, -1, -1):
            began = self.story.steps[self.story.calls[at]]
            if began.function == title:
                return began.frame
        return -1

    def _maker(self, name: str, frame: int, until: int) -> int | None:
        """The last step up to this one that changed a variable of a call."""
        owner = frame if is_local(name) else 0
        return self.story.last_change(name, owner, until)

    def _item_maker(self, name: str, owner: int, read: Read, before: int) -> int | None:
        """The last step that changed the very item that is read, where that can be told."""
        try:
            index = Asking(self.story, self.story.question(read.index or "")).answer(before)
        except (QuestionError, Unanswered):
            return None
        until: int | None = before
        while until is not None:
            made = self._maker(name, owner, until)
            if made is None:
                return None
            if self._touches(name, owner, made, index):
                return made
            until = self._number_before(made)
        return None

    def _touches(self, name: str, owner: int, made: int, index: object) -> bool:
        """Whether a change of a list or dict changed this item of it."""
        step = self.story.step(made)
        for change in step.changes:
            if change.name == name and change.frame == owner:
                return _item(change.before, index) != _item(change.after, index)
        return True

    def _number_before(self, number: int) -> int | None:
        at = self.story.place(number) - 1
        return self.story.number(at) if at >= 0 else None

    def _behind_parameter(self, step: Step, name: str) -> Iterator[tuple[int, str, Why]]:
        """What a call was given: read where it was called."""
        before = self._number_before(step.number)
        if before is None:
            return
        caller = self.story.step(before)
        facts = self._facts(caller)
        if facts is None:
            return
        arguments = facts.called.get(step.function.rpartition(".")[2], ())
        names = [c.name for c in step.changes]
        at = names.index(name) if name in names else -1
        reads = arguments[at] if 0 <= at < len(arguments) else facts.all_reads
        for read in reads:
            made = self._made_by(read, caller, caller.number)
            if made is not None:
                yield (*made, "came in as")
        for header in self._deciding(caller, facts):
            yield header, "", "decided by"

    def _returns(self, step: Step, facts: Reads) -> list[int]:
        """The steps at which the calls that this statement made gave their results."""
        if "back" not in step.events or not facts.called:
            return []
        found: list[int] = []
        at = self.story.place(step.number) - 1
        while at >= 0:
            earlier = self.story.steps[at]
            if earlier.frame == step.frame and earlier.visit is not None:
                break
            if earlier.depth == step.depth + 1 and "return" in earlier.events:
                found.append(earlier.number)
            at = self._before_call(at, step.depth)
        return found

    def _before_call(self, at: int, depth: int) -> int:
        """The place before this one that is at most one call deeper than ``depth``."""
        at -= 1
        while at >= 0 and self.story.depth(at) > depth + 1:
            at -= 1
        return at

    def _deciding(self, step: Step, facts: Reads) -> Iterator[int]:
        """The last visits of the headers that decided that this step runs, in its own call."""
        lines = [*facts.guards]
        if facts.header and facts.header_kind not in ("try", "with"):
            lines.append(facts.header)
        for line in reversed(lines):
            number: int | None = step.number
            while number is not None:
                number = self.story.last_at({(step.statement.file, line)}, number)
                if number is not None and self.story.step(number).frame == step.frame:
                    yield number
                    break

    # -- the other way -------------------------------------------------------------------------

    def influenced(self, name: str, number: int, most: int = 200) -> list[int]:
        """The steps that what a variable got at a step went on to matter for."""
        todo, found = [(name, number)], list[int]()
        seen: set[int] = set()
        while todo and len(found) < most:
            column, made = todo.pop(0)
            for user in self._users(column, made):
                if user in seen:
                    continue
                seen.add(user)
                found.append(user)
                todo += [(c.name, user) for c in self.story.step(user).changes]
        return sorted(found)

    def _users(self, name: str, made: int) -> Iterator[int]:
        """The steps that read a variable before it changes again."""
        step = self.story.step(made)
        frame = next((c.frame for c in step.changes if c.name == name), step.frame)
        end = self.story.next_change(name, frame, made) or self.story.last + 1
        short = short_name(name)
        lines = {
            (file, line)
            for file in {s.file for s in self.story.statements}
            for line, facts in self._statements_of(file).items()
            if any(read.name == short for read in facts.all_reads)
        }
        number: int | None = made
        while number is not None and number <= end:
            number = self.story.next_at(lines, number)
            if number is not None and number <= end:
                user = self.story.step(number)
                if frame in (0, user.frame):
                    yield self._effect(user)

    def _effect(self, user: Step) -> int:
        """Where a statement's effects stand: after the calls it made, if any."""
        if self.story.into(user.number) is None:
            return user.number
        return self.story.over(user.number) or user.number


def in_tree(origins: Sequence[Origin]) -> list[tuple[int, Origin]]:
    """Origins in the order of their tree, each with how deep it stands."""
    under: dict[int, list[int]] = {}
    for n, origin in enumerate(origins):
        under.setdefault(origin.parent, []).append(n)
    found: list[tuple[int, Origin]] = []
    todo = [(n, 0) for n in reversed(under.get(-1, []))]
    while todo:
        n, depth = todo.pop()
        found.append((depth, origins[n]))
        todo += [(child, depth + 1) for child in reversed(under.get(n, []))]
    return found


def _item(value: Value | None, index: object) -> str | None:
    """The text of one item, where the container is plain data."""
    if value is None:
        return None
    try:
        return write_value(read_value(value.text)[index])
    except (ValueError, SyntaxError, KeyError, IndexError, TypeError):
        return None
