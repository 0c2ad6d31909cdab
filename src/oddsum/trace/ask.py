"""Questions to a trace, answered from indexes made once. Steps count from 1."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from functools import cached_property

from oddsum.model.trace import Change, Statement, Step, Trace, Value

Place = tuple[str, int]  # file and line
_LOOK_BACK = 5_000  # steps that are gone through to find the loop around one: a key waits for it


class Story:
    """A trace with what has to be looked up in it again and again."""

    def __init__(self, trace: Trace) -> None:
        self.trace, self.steps = trace, trace.steps
        self._loops: dict[Statement, list[list[int]]] = {}

    def __len__(self) -> int:
        return len(self.steps)

    def step(self, number: int) -> Step:
        """The step of this number; raises IndexError outside of 1 to ``len``."""
        if not 1 <= number <= len(self.steps):
            raise IndexError(number)
        return self.steps[number - 1]

    @cached_property
    def columns(self) -> tuple[str, ...]:
        """Every variable, in the order of its first appearance."""
        return tuple(dict.fromkeys(c.name for s in self.steps for c in s.changes))

    @cached_property
    def _at_line(self) -> dict[Place, list[int]]:
        found: dict[Place, list[int]] = {}
        for step in self.steps:
            if step.visit is not None:
                place = (step.statement.file, step.statement.line)
                found.setdefault(place, []).append(step.number)
        return found

    @cached_property
    def _history(self) -> dict[int, dict[str, list[tuple[int, Change]]]]:
        """Changes of each variable, by the frame of the step and by its name."""
        found: dict[int, dict[str, list[tuple[int, Change]]]] = {}
        for step in self.steps:
            for change in step.changes:
                frame = step.frame if "." in change.name else 0
                names = found.setdefault(frame, {})
                names.setdefault(change.name, []).append((step.number, change))
        return found

    @cached_property
    def _output(self) -> tuple[str, list[int]]:
        """All output, and how much of it there was after each step."""
        lengths, total = [], 0
        for step in self.steps:
            total += len(step.output)
            lengths.append(total)
        return "".join(s.output for s in self.steps), lengths

    def times_run(self, file: str, line: int, until: int | None = None) -> int:
        """How often a line's statement was visited, in all or up to a step."""
        steps = self._at_line.get((file, line), [])
        return len(steps) if until is None else bisect_right(steps, until)

    def next_at(self, places: set[Place], after: int) -> int | None:
        """The next step that visits one of these lines, after this one."""
        found = []
        for place in places:
            steps = self._at_line.get(place, [])
            at = bisect_right(steps, after)
            if at < len(steps):
                found.append(steps[at])
        return min(found, default=None)

    def last_at(self, places: set[Place], before: int) -> int | None:
        """The last step before this one that visits one of these lines."""
        found = []
        for place in places:
            steps = self._at_line.get(place, [])
            at = bisect_left(steps, before)
            if at:
                found.append(steps[at - 1])
        return max(found, default=None)

    def into(self, number: int) -> int | None:
        """The first step of the call that this statement makes; None where it makes none."""
        following = number + 1
        if following <= len(self.steps) and "call" in self.step(following).events:
            return following
        return None

    def out(self, number: int) -> int | None:
        """The step where the caller goes on; None in the module."""
        depth = self.step(number).depth
        if depth == 0:
            return None
        for step in self.steps[number:]:
            if step.depth < depth:
                return step.number
        return None

    def over(self, number: int) -> int | None:
        """The next step that is not inside a call made here."""
        depth = self.step(number).depth
        for step in self.steps[number:]:
            if step.depth <= depth:
                return step.number
        return None

    def values_at(self, number: int) -> dict[str, Value]:
        """What every variable in sight holds after a step: the module's, and this call's own."""
        frame = self.step(number).frame
        found: list[tuple[int, str, Value]] = []
        for owner in {0, frame}:
            for name, changes in self._history.get(owner, {}).items():
                at = bisect_right(changes, number, key=lambda c: c[0])
                value = changes[at - 1][1].after if at else None
                if value is not None:
                    found.append((changes[0][0], name, value))
        return {name: value for _, name, value in sorted(found, key=lambda f: f[0])}

    def output_until(self, number: int) -> str:
        """All that was printed up to and with a step; blank for step 0."""
        text, lengths = self._output
        return text[: lengths[number - 1]] if number else ""

    def printing(self, offset: int) -> int | None:
        """The step that printed the character at an offset of the whole output, from 0.

        An offset past the end is the last step's: what should have come did not. None for a trace
        without steps.
        """
        at = bisect_right(self._output[1], offset)
        return min(at + 1, len(self.steps)) or None

    def visits(self, places: set[Place]) -> list[int]:
        """The steps that visit one of these lines, in order."""
        return sorted(n for place in places for n in self._at_line.get(place, []))

    @cached_property
    def where_raised(self) -> int | None:
        """The step in which the last exception was raised."""
        return next((s.number for s in reversed(self.steps) if "raise" in s.events), None)

    @cached_property
    def statements(self) -> tuple[Statement, ...]:
        """Every statement that a step is at, in the order of its first step."""
        return tuple({id(s.statement): s.statement for s in self.steps}.values())

    def next_call(self, number: int) -> int | None:
        """The first step of the next call made from this call or the module, None for none."""
        depth = self.step(number).depth
        for step in self.steps[number:]:
            if step.depth < depth:
                return None
            if step.depth == depth + 1 and "call" in step.events:
                return step.number
        return None

    def loop_around(self, number: int) -> Statement | None:
        """The innermost loop, of this call or of one that it came from, that a step is in."""
        step = self.step(number)
        outer = step.depth
        passed: set[int] = set()
        for at in range(number, max(0, number - _LOOK_BACK), -1):
            earlier = self.step(at)
            outer = min(outer, earlier.depth)
            if earlier.depth > outer or earlier.statement.kind not in ("for", "while"):
                continue
            ended = earlier.round == 0 or earlier.condition is False
            if ended or id(earlier.statement) in passed:
                passed.add(id(earlier.statement))
                continue
            return earlier.statement
        return None

    def round_starts(self, loop: Statement, around: Step) -> list[int]:
        """Steps at which the rounds of a loop begin: of the one time it is gone through around a
        step."""
        passes = self._passes(loop)
        at = bisect_right(passes, around.number, key=lambda starts: starts[0])
        return passes[at - 1] if at else []

    def _passes(self, loop: Statement) -> list[list[int]]:
        """For each time a loop is gone through, the steps at which its rounds begin."""
        if loop not in self._loops:
            passes: list[list[int]] = [[]]
            for number in self._at_line.get((loop.file, loop.line), []):
                step = self.step(number)
                if step.statement != loop:
                    continue
                if step.round == 1 or not (step.round or step.condition):
                    passes.append([])
                if step.round or step.condition:
                    passes[-1].append(number)
            self._loops[loop] = [starts for starts in passes if starts]
        return self._loops[loop]
