"""Where a value comes from: back through the steps that made it, to inputs and constants.

A step made a value out of what its statement reads (see ``source/reads.py``); what it reads was
made by the last step before that changed it. What a parameter got comes from the call, what a call
gave from its return. Which lines ran was decided by the conditions around them. The method is the
dynamic slice of Korel and Laski (1988), told one origin at a time.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

from oddsum.languages.outline import Read, Reads, Several
from oddsum.model.column import short_name
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.claims import effect_of
from oddsum.trace.makers import Made, Makers, Part
from oddsum.trace.sparing import Sparing, StatementsOf, around
from oddsum.trace.table_columns import TableColumn
from oddsum.trace.words import condition_words, short

Why = Literal["made from", "decided by", "left by", "came in as", "given by"]
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


class _Want(NamedTuple):
    """One thing to be followed: at a step, a column (blank for the step itself), or one part of it.

    ``ends``: it is told, and not followed further; ``written`` are the constants it is then.
    """

    step: int
    column: str
    why: Why
    part: Part | None = None
    ends: bool = False
    written: tuple[str, ...] = ()


class Lineage:
    """Follows values back through one story."""

    def __init__(self, story: Story, statements_of: StatementsOf, all_reasons: bool = True) -> None:
        """``all_reasons``: also conditions that left something as it was; else what made it."""
        self.story, self._statements_of = story, statements_of
        self._makers = Makers(story)
        self._sparing = Sparing(story, statements_of) if all_reasons else None

    def of_variable(self, name: str, number: int) -> list[Origin]:
        """The lineage of what a variable (as its column is called) holds after a step."""
        owner = self.story.frame_of(name, number)
        made = self._makers.of_variable(name, owner, number)
        return self._followed([_Want(m.step, m.column, "made from") for m in made])

    def of_attribute(self, column: TableColumn, number: int) -> list[Origin]:
        """The lineage of what an attribute of a table's column holds after a step."""
        place = self.story.table.last_change(column.title, self.story.place(number) + 1)
        if place is None:
            return []
        step = self.story.step(self.story.number(place))
        part = Part(column.attribute, attribute=True)
        variable = self._as_written(step, column)
        return self._followed([_Want(step.number, variable, "made from", part)])

    def _as_written(self, step: Step, column: TableColumn) -> str:
        """Of the names for one object that changed, the one that the statement sets it by."""
        facts = self._facts(step)
        sets = facts.sets if facts is not None else {}
        names = [c.name for c in step.changes if f"{short_name(c.name)}.{column.attribute}" in sets]
        return names[0] if names else column.variable

    def of_step(self, number: int) -> list[Origin]:
        """The lineage of what a step did: printed, returned, decided."""
        return self._followed([_Want(number, "", "made from")])

    def _followed(self, first: list[_Want]) -> list[Origin]:
        found: list[Origin] = []
        seen: set[tuple[object, ...]] = set()
        todo = [(want, -1) for want in first]
        while todo and len(found) < _MOST:
            want, parent = todo.pop(0)
            key = (want.step, want.column, want.ends, repr(want.part))
            if key in seen:
                continue
            seen.add(key)
            found.append(self._origin(want, parent))
            here = len(found) - 1
            todo += [(more, here) for more in (() if want.ends else self._behind(want))]
        return found

    def _origin(self, want: _Want, parent: int) -> Origin:
        step = self.story.step(want.step)
        facts = self._facts(step)
        constants = want.written or (facts.constants if facts is not None else ())
        value, kind = self._told(step, want.column)
        name = short_name(want.column)
        if want.part is not None and want.part.attribute and kind in ("value", "input"):
            attribute = self._attribute(step, str(want.part.key))
            value, name = attribute or value, f"{name}.{want.part.key}" if attribute else name
        if want.ends:
            value, kind = ", ".join(constants), "constant"
        elif kind == "value" and facts and "call" not in step.events and not _read_for(facts, want):
            kind = "constant"
        return Origin(want.step, step.line, step.function, name, value, want.why,
                      kind, parent, constants)  # fmt: skip

    def _attribute(self, step: Step, name: str) -> str:
        """The text of an attribute that a step changed; blank where it changed none of the name."""
        inner = self.story.table.inner(step.number)
        return next((c.whole for c in inner if c.column == f"{c.variable}.{name}"), "")

    @staticmethod
    def _told(step: Step, name: str) -> tuple[str, str]:
        for change in step.changes:
            if change.name == name:
                kind = "input" if "input" in step.events else "value"
                return (change.after.text if change.after is not None else "(gone)"), kind
        if step.condition is not None:
            return condition_words(step), "condition"
        if step.round is not None:
            return (f"round {step.round:,}" if step.round else "no more rounds"), "condition"
        if step.value is not None:
            return step.value.text, "input" if "input" in step.events else "value"
        return step.output.rstrip("\n"), "value"

    def _facts(self, step: Step) -> Reads | None:
        return self._statements_of(step.statement.file).get(step.statement.line)

    # -- one step back -------------------------------------------------------------------------

    def _behind(self, want: _Want) -> Iterator[_Want]:
        step = self.story.step(want.step)
        if "call" in step.events:
            yield from self._behind_parameter(step, want)
            return
        facts, before = self._facts(step), self._number_before(want.step)
        if facts is None:
            return
        part = want.part if self._makers.binds(Made(want.step, want.column)) else None
        for read in _read_for(facts, want):
            if before is not None:
                yield from self._made(read, step, before, "made from", part)
        for end in self._results(step):
            yield _Want(end, "", "given by")
        for header in self._deciding(step, facts):
            yield _Want(header, "", "decided by")

    def _made(
        self, read: Read, step: Step, until: int, why: Why, part: Part | None = None
    ) -> Iterator[_Want]:
        """The steps that made what is read, and the conditions that left it so since."""
        for made in self._makers.of_read(read, step, until, part):
            again = None
            if self._sparing is not None and short_name(made.column) == read.name:
                again = self._sparing.set_again(made.column, made.step, step, until)
            if again is not None:
                yield _Want(again[0], made.column, why, made.part)
            if again is None or not again[1]:
                yield _Want(made.step, made.column, why, made.part)
            yield from (_Want(n, "", "left by") for n in self._left_by(read, made.step, step))

    def _left_by(self, read: Read, made: int, step: Step) -> list[int]:
        """The conditions since a change that left it as it was; not those that let the step run."""
        if self._sparing is None:
            return []
        facts = self._facts(step)
        every = self._statements_of(step.statement.file)
        lines = [h.line for h in around(every, facts)] if facts is not None else []
        deciding = set(self._last_visits(step, lines))
        return [n for n in self._sparing.between(read.name, made, step) if n not in deciding]

    def _number_before(self, number: int) -> int | None:
        at = self.story.place(number) - 1
        return self.story.number(at) if at >= 0 else None

    def _behind_parameter(self, step: Step, want: _Want) -> Iterator[_Want]:
        """What a call was given: read where it was called, or where its default is written."""
        before = self._number_before(step.number)
        facts = None if before is None else self._facts(self.story.step(before))
        if before is None or facts is None:
            return
        caller, name = self.story.step(before), short_name(want.column)
        reads, default, written = self._went_in(facts, step, name)
        for read in reads:
            yield from self._made(read, caller, caller.number, "came in as", want.part)
        if written and name:
            yield _Want(before, want.column, "came in as", ends=True, written=written)
        if default:
            yield _Want(default, want.column, "came in as", ends=True)
        for header in self._deciding(caller, facts):
            yield _Want(header, "", "decided by")

    def _went_in(
        self, caller: Reads, step: Step, name: str
    ) -> tuple[Several, int | None, tuple[str, ...]]:
        """What is read for a parameter, the step of the definition where it has its default, and
        the constants that its argument is written with."""
        defined = self._facts(step)
        function = defined.defines if defined is not None else None
        calls = [c for c in caller.called if function is not None and c.name in function.called]
        if not name or defined is None or function is None or not calls:
            # Called by what is no call to look at, as a + or a sort.
            return caller.all_reads, None, caller.constants
        written = dict.fromkeys(t for c in calls for t in c.constants_for(function, name))
        found = [c.went_in(function, name) for c in calls]
        default = None
        if None in found:
            place = {(step.statement.file, line) for line in (function.line, defined.line)}
            default = self.story.last_at(place, step.number)
        reads = tuple(dict.fromkeys(r for mine in found if mine for r in mine))
        return reads, default, tuple(written)

    def _results(self, step: Step) -> list[int]:
        """The steps at which the calls that this statement made gave their results."""
        if "back" not in step.events:
            return []
        found: list[int] = []
        at = self.story.place(step.number) - 1
        while at >= 0:
            earlier = self.story.steps[at]
            if earlier.frame == step.frame and earlier.visit is not None:
                break
            gives = earlier.value is not None and not {"raise", "input"} & {*earlier.events}
            if earlier.depth == step.depth + 1 and gives:
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
        """What the headers came to that decided that this step runs, in its own call."""
        lines = [*facts.guards]
        if facts.header and facts.header_kind not in ("try", "with"):
            lines.append(facts.header)
        return self._last_visits(step, lines[::-1])

    def _last_visits(self, step: Step, lines: list[int]) -> Iterator[int]:
        """What the last visit of each of these lines, in the step's own call, came to."""
        for line in lines:
            number: int | None = step.number
            while number is not None:
                number = self.story.last_at({(step.statement.file, line)}, number)
                if number is not None and self.story.frame_at(number) == step.frame:
                    yield effect_of(self.story, number)
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


_WHY: dict[Why, str] = {
    "made from": "read here",
    "decided by": "decided that the line ran",
    "left by": "could have changed it, and did not",
    "came in as": "went in as the argument",
    "given by": "what the call gave",
}


def why_words(one: Origin, depth: int, most: int = 1_000) -> str:
    """Why an origin matters to the one it stands under, in words; constants cut to so many."""
    told = _WHY[one.why] if depth else "this is asked about"
    if one.kind == "input":
        return f"{told}; it was typed in"
    if one.kind == "constant" and one.constants:
        return f"{told}; written in the program: {short(', '.join(one.constants), most)}"
    return told


def _read_for(facts: Reads, want: _Want) -> Several:
    """What a statement reads for what is followed: for an attribute that it sets, only that."""
    name = short_name(want.column)
    own = f"{name}.{want.part.key}" if want.part is not None and want.part.attribute else ""
    if own in facts.sets:
        return facts.sets[own]
    if name in facts.sets:
        return facts.sets[name]
    ending = [reads for key, reads in facts.sets.items() if name and key.endswith(f".{name}")]
    return ending[0] if ending else facts.all_reads


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
