"""What a search saw, for the next one: an edit that did nothing for a run is not tried on it again.

A learner saves, or adds a case, and most runs are what they were. A run counts as the same where
the case, what came out, and the lines that it goes through are the same, and what was changed lies
inside a function that it does not enter. An edit can lead a run into that function all the same: so
where something was changed, edits that are known come last, and are not left out.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import msgspec

from oddsum.languages import language_of
from oddsum.languages.language import Interpreter
from oddsum.languages.outline import Function
from oddsum.model.case import Case, Plan, Settings
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint.coverage import Coverage, Place
from oddsum.pinpoint.proposal import Proposal
from oddsum.run.scratch import Bundle
from oddsum.source.program import Source

Key = tuple[str, int, int, str]  # of an edit: file, from, to, and what stands there instead


class Seen(msgspec.Struct, frozen=True):
    """A run of a case, and the edits that did nothing for it: all that were tried but a few."""

    case: Case
    settings: Settings
    outcome: Outcome
    actual: str
    places: frozenset[Place]
    idle: frozenset[Key] = frozenset()


class Search(msgspec.Struct, frozen=True):
    """What the last search was made of, and what it saw.

    ``around``: what else a run depends on, the interpreter and the files that lie beside.
    """

    texts: Mapping[str, str]
    cases: tuple[Case, ...]
    around: Any
    seen: dict[int, Seen]  # by the number that the case had then


class Memory:
    """What was seen of one program. One search at a time writes to it, at its end."""

    def __init__(self) -> None:
        self.last: Search | None = None

    def begin(
        self, plan: Plan, interpreter: Interpreter, files: Bundle, sources: Mapping[str, Source]
    ) -> Recall:
        """What is known to a search that begins."""
        ours = f"{plan.program.stem}."  # plan, claims and answers: no run depends on them
        beside = {
            name: hash(data)
            for name, data in files.files.items()
            if name not in sources and not (name.startswith(ours) and name.endswith(".toml"))
        }
        around = (interpreter, plan.allow, plan.top_level, beside)
        return Recall(self, plan, sources, around)


class Recall:
    """What one search knows from the one before, and what it sees itself."""

    def __init__(
        self, memory: Memory, plan: Plan, sources: Mapping[str, Source], around: Any
    ) -> None:
        self._memory, self._plan = memory, plan
        texts = {name: source.text for name, source in sources.items()}
        self._now = Search(texts, tuple(_bare(c) for c in plan.active()), around, {})
        last = memory.last
        usable = last is not None and (last.around, last.texts.keys()) == (around, texts.keys())
        # The same once more is asked for by somebody who wants all to be tried once more.
        again = last is not None and (last.texts, last.cases) == (texts, self._now.cases)
        self._since = _Since(last, sources) if last is not None and usable and not again else None

    def idle(
        self, case: Case, result: CaseResult, coverage: Coverage, proposals: Iterable[Proposal]
    ) -> tuple[frozenset[Proposal], bool]:
        """Those of the proposals, edits in one place each, that did nothing for this run; and
        whether that is sure, since the program is the same.
        """
        if self._since is None:
            return frozenset(), False
        known = self._since.idle(self._seen(case, result, coverage))
        return frozenset(p for p in proposals if _key(p) in known), not self._since.changes

    def note(
        self,
        case: Case,
        result: CaseResult,
        coverage: Coverage,
        tried: Iterable[Proposal],
        found: Iterable[Proposal],
    ) -> None:
        """Note that all these were tried on a case, and which of them did something."""
        idle = frozenset(map(_key, tried)) - frozenset(map(_key, found))
        seen = self._seen(case, result, coverage)
        self._now.seen[case.number] = msgspec.structs.replace(seen, idle=idle)

    def keep(self) -> None:
        """The search is over: what it saw is for the next one."""
        self._memory.last = self._now

    def _seen(self, case: Case, result: CaseResult, coverage: Coverage) -> Seen:
        settings, places = self._plan.settings_of(case), coverage.ran.get(case.number, frozenset())
        return Seen(_bare(case), settings, result.outcome, result.actual, places)


class _Since:
    """What has changed in a program since a search, and which of its runs are as they were."""

    def __init__(self, last: Search, sources: Mapping[str, Source]) -> None:
        self._last = last
        self.changes = {
            name: Change(last.texts[name], source.text)
            for name, source in sources.items()
            if last.texts[name] != source.text
        }
        # By file, the function that the change lies in, as it is now; None outside of any.
        self._inside = {
            name: _function_of(change, Source(name, last.texts[name]), sources[name])
            for name, change in self.changes.items()
        }

    def idle(self, now: Seen) -> frozenset[Key]:
        """The edits that did nothing for a run, where they stand now; none for another run."""
        seen = next((s for s in self._last.seen.values() if self._is_same(s, now)), None)
        if seen is None:
            return frozenset()
        moved = map(self._moved, seen.idle)
        return frozenset(key for key in moved if key is not None)

    def _is_same(self, seen: Seen, now: Seen) -> bool:
        as_before = msgspec.structs.replace(now, places=seen.places, idle=seen.idle) == seen
        places = {(file, self._line(file, line)) for file, line in seen.places}
        return (
            as_before
            and bool(places)
            and places == now.places
            and all(self._is_aside(name, now.places) for name in self.changes)
        )

    def _line(self, file: str, line: int) -> int | None:
        return self.changes[file].line(line) if file in self.changes else line

    def _is_aside(self, file: str, places: Iterable[Place]) -> bool:
        """Whether what was changed in a file lies inside a function that none of these enters."""
        inside = self._inside[file]
        return inside is not None and not any(
            name == file and inside.line < line <= inside.end for name, line in places
        )

    def _moved(self, key: Key) -> Key | None:
        file, start, stop, new = key
        shift = self.changes[file].shift(start, stop) if file in self.changes else 0
        return None if shift is None else (file, start + shift, stop + shift, new)


class Change:
    """What lies between two versions of a text, as one stretch of lines, counted from 1.

    In the old text ``first`` to ``old_last`` are no more, in the new one ``first`` to ``new_last``
    are new; where the last is less than the first, none are.
    """

    def __init__(self, old: str, new: str) -> None:
        olds, news = _lines(old), _lines(new)
        same = _alike(olds, news)
        same_after = _alike(olds[same:][::-1], news[same:][::-1])
        self.first = same + 1
        self.old_last, self.new_last = len(olds) - same_after, len(news) - same_after
        self._begins = sum(map(len, olds[:same]))
        self._ends = len(old) - sum(map(len, olds[self.old_last :]))
        self._by, self._lines = len(new) - len(old), len(news) - len(olds)

    def line(self, old: int) -> int | None:
        """Where a line stands now; None where it is one of those changed."""
        if old < self.first:
            return old
        return old + self._lines if old > self.old_last else None

    def shift(self, start: int, stop: int) -> int | None:
        """How far a stretch of characters has moved; None where it was changed."""
        if stop <= self._begins:
            return 0
        return self._by if start >= self._ends else None


def _lines(text: str) -> list[str]:
    """The lines of a text with their ends; together they are the text."""
    *whole, last = text.split("\n")
    return [*(line + "\n" for line in whole), last]


def _alike(old: Sequence[str], new: Sequence[str]) -> int:
    """How many lines are the same from the beginning on."""
    pairs = zip(old, new, strict=False)
    return next((n for n, (a, b) in enumerate(pairs) if a != b), min(len(old), len(new)))


def _function_of(change: Change, before: Source, now: Source) -> Function | None:
    """The function that a change lies in, as it is now; None where it is in none, or in others."""
    functions = language_of(now.name).reading.functions
    was = _function_at(functions(before), change.first, change.old_last)
    inside = _function_at(functions(now), change.first, change.new_last)
    return inside if inside is not None and was is not None and inside.name == was.name else None


def _function_at(functions: Iterable[Function], first: int, last: int) -> Function | None:
    """The innermost function that has these lines in its body; of none, the place ahead of one."""
    holding = [f for f in functions if f.line < first and max(first, last) <= f.end]
    return max(holding, key=lambda f: f.line, default=None)


def _bare(case: Case) -> Case:
    """A case as it runs and is judged, whatever it is called."""
    return msgspec.structs.replace(case, number=0, name="", note="", kind="normal")


def _key(proposal: Proposal) -> Key:
    edit = proposal.edits[0]
    return edit.file, edit.start, edit.stop, edit.new
