"""Mends are shown only after a full check in isolated processes: here they are confirmed.

What a trial saw is a guess until then: a trial shares its process with others.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Mapping, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait

from oddsum.check.many import Checks, Results
from oddsum.model.lead import TrialEdit
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint.proposal import Confirmed, Proposal, Screening
from oddsum.run.scratch import Bundle
from oddsum.source.program import Source

MOST_WHOLE = 8  # mends that settle everything, to be confirmed
MOST_MADE = 4  # of them, that were made to fit: some such nearly always is
MOST_ALIKE = 4  # of them, that change one and the same line
MOST_PARTS = 4  # mends that settle something, where none settles everything
MOST_AHEAD = 3  # mends that are confirmed while others are still tried


class Confirming:
    """Confirms mends of one search, each once; from any thread."""

    def __init__(
        self,
        checks: Checks,
        files: Bundle,
        sources: Mapping[str, Source],
        results: Sequence[CaseResult],
    ) -> None:
        self.checks, self.files, self.sources = checks, files, sources
        self.was = {r.number: r.outcome for r in results}
        self.odd = [r.number for r in results if r.outcome.odd]
        self._known: dict[tuple[TrialEdit, ...], Future[Results]] = {}
        self._lock = threading.Lock()
        self._early = 0

    def ahead(self, one: Screening, then: Callable[[Confirmed], None]) -> None:
        """Begin to confirm a mend that settles everything while others are tried; ``then`` hears of
        it on another thread. Not more than a few.
        """
        with self._lock:
            if self._early >= MOST_AHEAD or not one.whole(len(self.odd)):
                return
            self._early += 1

        def heard(future: Future[Results]) -> None:
            if not future.cancelled() and future.exception() is None:
                confirmed = self._judged(one.proposal, future.result())
                if confirmed is not None and confirmed.whole:
                    then(confirmed)

        self._begin(one.proposal).add_done_callback(heard)

    def confirm(
        self, worth: Sequence[Screening], each: Callable[[int, Sequence[Confirmed]], None]
    ) -> list[Confirmed]:
        """Confirm these mends; ``each`` hears how many are done, and what stands so far.

        Raises Cancelled once the search is stopped.
        """
        waiting = {self._begin(s.proposal): s.proposal for s in worth}
        left: set[Future[Results]] = set(waiting)
        judged: dict[Future[Results], Confirmed | None] = {}
        confirmed: list[Confirmed] = []
        while left:
            done, left = wait(left, return_when=FIRST_COMPLETED)
            judged |= {f: self._judged(waiting[f], f.result()) for f in done}
            # In the order of their worth, whichever was done first.
            confirmed = [one for f in waiting if (one := judged.get(f)) is not None]
            each(len(waiting) - len(left), confirmed)
        return confirmed

    def _begin(self, proposal: Proposal) -> Future[Results]:
        with self._lock:
            if proposal.edits not in self._known:
                self._known[proposal.edits] = self.checks.submit(self._edited(proposal))
            return self._known[proposal.edits]

    def _edited(self, proposal: Proposal) -> Bundle:
        texts = proposal.texts(self.sources)
        return self.files.edited({n: self.sources[n].edited(t).encoded() for n, t in texts.items()})

    def _judged(self, proposal: Proposal, now: Iterable[CaseResult]) -> Confirmed | None:
        """What a full check says of a mend; None where it settles nothing."""
        settles, breaks = [], []
        for result in now:
            was = self.was[result.number]
            if was.odd and result.outcome is Outcome.AGREES:
                settles.append(result.number)
            elif was is Outcome.AGREES and result.outcome.odd:
                breaks.append(result.number)
        whole = len(settles) == len(self.odd) and not breaks
        return Confirmed(proposal, tuple(settles), tuple(breaks), whole) if settles else None
