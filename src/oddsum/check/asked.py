"""Every question that a recording can be asked, and its answer as plain rows.

The screen of Trace shows the same; here it is for scripts, for people who read better that way, and
so that what is said can be held against what is so.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from oddsum.check.apart import line_apart
from oddsum.check.containment import containment_at
from oddsum.languages import language_of
from oddsum.languages.language import Interpreter
from oddsum.languages.outline import Reads
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError, PlanError
from oddsum.model.outcome import Run
from oddsum.source.program import Source, read_source
from oddsum.trace.aliases import ledger_at
from oddsum.trace.ask import Story
from oddsum.trace.calls import Call, calls
from oddsum.trace.lineage import Lineage, in_tree, why_words
from oddsum.trace.loops import ENDED, passes, told
from oddsum.trace.search import steps_where
from oddsum.trace.sight import Sight

Row = dict[str, Any]
MOST_CALLS = 100_000


@dataclass
class Asked:
    """One recording, and of what the question is: a step (from 1), a line, a name."""

    plan: Plan
    case: Case
    interpreter: Interpreter
    story: Story
    run: Run
    step: int | None = None
    line: int | None = None
    name: str = ""
    _reads: dict[str, dict[int, Reads]] = field(default_factory=dict)

    @cached_property
    def sources(self) -> Mapping[str, Source]:
        """The program's own files, by the names that steps have for them."""
        folder = self.plan.program.resolve().parent
        ran = dict.fromkeys(s.file for s in self.story.statements)
        return {file: read_source(folder / file, file) for file in ran}

    @property
    def program(self) -> str:
        """The program, as steps name its file."""
        return self.plan.program.name

    def reads(self, file: str) -> dict[int, Reads]:
        """What each statement of a file reads and sets."""
        if file not in self._reads:
            source = self.sources.get(file)
            found = language_of(file).reading.reads(source) if source is not None else {}
            self._reads[file] = found
        return self._reads[file]

    @property
    def at(self) -> int:
        """The step the question is of: the last, where none is named. Raises PlanError."""
        if self.step is None:
            return self.story.last
        if not 1 <= self.step <= self.story.last or self.story.nearest(self.step) != self.step:
            raise PlanError(
                f"There is no step {self.step} in this case.",
                hint=f"Its steps are 1 to {self.story.last}.",
            )
        return self.step


def loops(asked: Asked) -> list[Row]:
    """A row each time a loop was gone through, in the order of the steps."""
    found = [
        (loop, one)
        for file, source in asked.sources.items()
        for loop in language_of(file).reading.loops(source)
        for one in passes(asked.story, loop)
        if asked.line in (None, loop.line)
    ]
    rows = []
    for loop, one in sorted(found, key=lambda f: f[1].enters):
        facts = told(asked.story, loop, one)
        rows.append(
            {
                "file": loop.file,
                "line": loop.line,
                "enters": one.enters,
                "rounds": one.rounds,
                "ended": ENDED[one.ending],
                "first": facts.first,
                "last": facts.last,
                "unused": list(facts.unused),
                "unchanged": list(facts.unchanged),
                "text": " ".join(facts.sentences),
            }
        )
    return rows


def every_call(asked: Asked) -> list[Row]:
    """A row a call of one of the program's functions, in the order in which they began."""
    function = asked.name or None
    return [_call(asked.story, c) for c in calls(asked.story, function, most=MOST_CALLS)]


def _call(story: Story, call: Call) -> Row:
    return {
        "step": call.enters,
        "file": story.step(call.enters).statement.file,
        "line": story.step(call.enters).line,
        "function": call.function,
        "arguments": {name: value.text for name, value in call.arguments},
        "gave": call.result.text if call.result is not None else None,
        "raised": call.raised,
        "back": call.back,
        "depth": call.depth,
    }


def lineage(asked: Asked) -> list[Row]:
    """Where what a name holds after a step, or what the step did, comes from; nearest first."""
    story, step = asked.story, asked.at
    followed = Lineage(story, asked.reads)
    origins = followed.of_variable(_column(asked), step) if asked.name else followed.of_step(step)
    return [
        {
            "depth": depth,
            "step": one.step,
            "file": story.step(one.step).statement.file,
            "line": one.line,
            "name": one.name,
            "value": one.value,
            "why": why_words(one, depth),
        }
        for depth, one in in_tree(origins)
    ]


def _column(asked: Asked) -> str:
    """The column that a name means at the step: as seen from there, or named whole."""
    story = asked.story
    found = Sight(story, (asked.name,)).variable(asked.name, asked.at)
    if found is not None:
        return story.steps.columns[found[1]].title
    if asked.name in story.columns:
        return asked.name
    known = ", ".join(story.columns[:12])
    raise PlanError(
        f"{asked.name} has no value at step {asked.at}.",
        hint=f"The variables of this case: {known}." if known else "",
    )


def apart(asked: Asked) -> list[Row]:
    """The parts of a line at its visit at or before the step, in the order they were worked out."""
    story = asked.story
    file = (
        asked.plan.program.name if asked.line is not None else story.step(asked.at).statement.file
    )
    line = asked.line if asked.line is not None else story.step(asked.at).line
    visits = [n for n in story.visits({(file, line)}) if n <= asked.at]
    source = asked.sources.get(file)
    if not visits or source is None:
        raise PlanError(f"Line {line} is not visited up to step {asked.at}.")
    visit = story.step(visits[-1]).visit
    assert visit is not None
    found = line_apart(asked.plan, asked.case, asked.interpreter, source, line, visit)
    seen = [p for p in found.parts if not p.is_name] or list(found.parts)
    return [
        *({"part": p.written, "filled": p.inside, "gives": [v.text for v in p.values]}
          for p in seen),
        *({"part": p.written, "filled": p.inside, "gives": []} for p in found.unseen),
    ]  # fmt: skip


def ledger(asked: Asked) -> list[Row]:
    """What the names in sight hold after a step; an entry for what several may hold."""
    inside = containment_at(asked.plan, asked.case, asked.interpreter, asked.at, asked.run)
    found = ledger_at(asked.story, asked.at, inside)
    entries = [
        {"entry": e.number, "names": list(e.holders), "value": e.text} for e in found.entries
    ]
    plain = [{"entry": None, "names": [n.name], "value": n.text}
             for n in found.names if not n.entry]  # fmt: skip
    return [*entries, *plain]


def true(asked: Asked) -> list[int]:
    """The steps after which an expression is true."""
    if not asked.name:
        raise PlanError("Nothing is asked.", hint='Say what: --name "total > 20".')
    return steps_where(asked.story, asked.story.question(asked.name))


Answer = list[Row] | list[int]
QUESTIONS: dict[str, Callable[[Asked], Answer]] = {
    "loops": loops,
    "calls": every_call,
    "lineage": lineage,
    "apart": apart,
    "ledger": ledger,
    "true": true,
}


def ask(question: str, asked: Asked) -> Answer:
    """The answer to a question, by its word; raises OddSumError."""
    if not len(asked.story):
        raise OddSumError("No line of the program ran in this case: there is nothing to ask.")
    return QUESTIONS[question](asked)
