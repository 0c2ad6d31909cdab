"""Edits that provably change nothing in a recorded case: they need no trial on it.

An edit of one expression cannot change what a case does where the expression gives the same number,
text, truth or None as before at every visit of its statement. That is asked of the recorded values,
once for each place and edit; where anything is not known, the edit is tried.
"""

from __future__ import annotations

from typing import Any

from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.coverage import Place, place_of
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.search import Asking

_MOST_VISITS = 60  # of a line: of more it is quicker to try the edit
_SCALARS = (int, float, bool, str, type(None))


class Unchanged:
    """Asks one story of one case, and remembers the values at each place."""

    def __init__(self, story: Story) -> None:
        self.story = story
        self._moments: dict[Place, list[int] | None] = {}
        self._values: dict[tuple[Place, tuple[str, ...]], list[dict[str, Any]]] = {}

    def changes_nothing(self, edit: TrialEdit, source: Source) -> bool:
        """Whether an edit provably leaves this case as it is."""
        if not edit.asks or not self.story.trace.complete:
            return False
        place = place_of(source, edit.line)
        moments = self._before(place)
        if moments is None:
            return False
        try:
            now, then = (self.story.question(t) for t in (edit.asks, edit.would))
        except QuestionError:
            return False
        names = tuple(sorted({*now.names, *then.names}))
        try:
            return all(_same(now.ask(v), then.ask(v)) for v in self._at(place, names, moments))
        except Unanswered:
            return False

    def _before(self, place: Place) -> list[int] | None:
        """The steps just before each visit; None where there are many, or calls are made in it."""
        if place not in self._moments:
            visits = self.story.visits({place})
            plain = len(visits) <= _MOST_VISITS and all(
                self.story.into(step) is None for step in visits
            )
            at = [self.story.place(step) - 1 for step in visits]
            known = plain and all(n >= 0 for n in at)
            self._moments[place] = [self.story.number(n) for n in at] if known else None
        return self._moments[place]

    def _at(self, place: Place, names: tuple[str, ...], moments: list[int]) -> list[dict[str, Any]]:
        key = (place, names)
        if key not in self._values:
            # A text that names them all: what is asked is only which values they have.
            asking = Asking(self.story, self.story.question(f"({', '.join([*names, '0'])},)"))
            self._values[key] = [asking.values(step) for step in moments]
        return self._values[key]


def _same(one: Any, other: Any) -> bool:
    """Equal, of one type, and of a type where equal things cannot be told apart later."""
    if type(one) is not type(other) or not isinstance(one, _SCALARS):
        return False
    return repr(one) == repr(other)  # 0.0 and -0.0 are equal and not the same
