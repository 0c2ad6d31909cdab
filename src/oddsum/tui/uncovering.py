"""How far leads are uncovered is remembered for as long as the program is the same."""

from __future__ import annotations

from functools import partial

from textual import on

from oddsum.model.lead import Lead
from oddsum.tui import messages
from oddsum.tui.holding import HoldingApp


class UncoveringApp(HoldingApp):
    """Uncovers a lead for the screen, and for every window after this one."""

    def uncover(self, lead: Lead) -> None:
        """Uncover one level more of a lead."""
        from oddsum.tui.record_workers import remember_uncovered

        search = self.work.search
        if search is None:
            return
        search.uncover(lead, self.work.most_uncovered())
        start = partial(remember_uncovered, self, self.history, dict(search.uncovered))
        self.run_worker(start, thread=True, group="record")
        self.show()

    def begin_search(self) -> None:
        """A search knows what was uncovered of the same program before."""
        from oddsum.tui.record_workers import read_uncovered

        before = self.work.search
        super().begin_search()
        if self.work.search is not before:
            self._start("uncovered", partial(read_uncovered, self, self.history))

    @on(messages.UncoveredRead)
    def uncovered_read(self, message: messages.UncoveredRead) -> None:
        """What was uncovered here since is not covered again."""
        search = self.work.search
        if search is None or search.stale:
            return
        most = self.work.most_uncovered()
        for place, level in message.levels.items():
            now = search.uncovered.get(place, search.first)
            search.uncovered[place] = max(min(level, most), now)
        self.show()
