"""What can be asked of a trace: where from, which rounds, which calls, when, and what if."""

from __future__ import annotations

from pathlib import Path

from oddsum.model.claim import Claim
from oddsum.model.errors import OddSumError
from oddsum.source.asking import Question
from oddsum.trace.calls import calls
from oddsum.trace.claims import effect_of
from oddsum.trace.holds import Hold, hits, hold_from
from oddsum.trace.lineage import Lineage, in_tree
from oddsum.trace.loops import Pass, passes, rounds_table, told
from oddsum.trace.series import Series, SeriesError, bars, numeric, series
from oddsum.trace.two import first_difference, lines_between, parting
from oddsum.trace.words import counted
from oddsum.tui import lists, messages
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.forecast import Forecast
from oddsum.tui.screens.walking import WalkingScreen
from oddsum.tui.work import Traced

_AROUND = 6  # steps shown before two runs part, and
_AFTER = 40  # after it


class QuestionsScreen(WalkingScreen):
    """The questions; moving about is in ``walking.py``, the panels in ``trace.py``."""

    # -- where a value comes from ----------------------------------------------------------------

    def action_lineage(self) -> None:
        """Where the value in hand comes from."""
        traced = self.traced
        if traced is None:
            return
        lineage = Lineage(traced.story, self.odd_sum.reads_of)
        name = self.variable_in_hand(traced)
        if name:
            tree = in_tree(lineage.of_variable(name, traced.step))
            title = f"WHERE {name.rpartition('.')[2]} COMES FROM"
        else:
            tree = in_tree(lineage.of_step(traced.step))
            title = f"WHERE STEP {traced.step:,} COMES FROM"
        steps = [one.step for _, one in tree]
        hint = (
            "Nearest first; further in is further back. Straw: typed in, or written in the program."
        )
        self.walk_through(title, lists.LINEAGE, lists.lineage_rows(tree), steps, hint)

    def action_influence(self) -> None:
        """What the value in hand went on to matter for."""
        traced = self.traced
        name = self.variable_in_hand(traced) if traced is not None else ""
        if traced is None or not name:
            self.notify("Choose a variable with Tab first: then this shows what it mattered for.")
            return
        frame = traced.story.frame_of(name, traced.step)
        made = traced.story.last_change(name, frame, traced.step)
        found = Lineage(traced.story, self.odd_sum.reads_of).influenced(name, made) if made else []
        steps = [traced.story.step(n) for n in found]
        title = f"WHAT {name.rpartition('.')[2]} WENT ON TO MATTER FOR"
        self.walk_through(title, lists.STEPS, lists.step_rows(steps), found)

    # -- loops and calls -------------------------------------------------------------------------

    def action_loops(self) -> None:
        """Every time a loop was gone through; Enter shows its rounds."""
        traced = self.traced
        if traced is None:
            return
        found = [p for f in self.files_of(traced) for w in self.odd_sum.walks_of(f)
                 for p in passes(traced.story, w)]  # fmt: skip
        found.sort(key=lambda p: p.enters)
        here = [n for n, p in enumerate(found) if p.enters <= traced.step <= p.ends]

        def words(row: int) -> str:
            return " ".join(told(traced.story, found[row])) + " Enter shows its rounds."

        self.walk_through(
            "ROUNDS OF THE LOOPS", lists.LOOPS, lists.loop_rows(found), [p.enters for p in found],
            hint_of=words, then=lambda n: self._rounds(found[n]),
            start=here[-1] if here else 0,
        )  # fmt: skip

    def _rounds(self, one: Pass) -> None:
        traced = self.traced
        if traced is None:
            return
        columns, rows = lists.rounds(*rounds_table(traced.story, one))
        title = f"ROUNDS OF LINE {one.walk.line}"
        self.walk_through(title, columns, rows, list(one.starts), " ".join(told(traced.story, one)))

    def action_ledger(self) -> None:
        """Names and lists at this step: each list an entry with a number, names carry it."""
        from oddsum.tui.dialogs.ledger import LedgerPage

        traced = self.traced
        if traced is not None:
            page = LedgerPage(traced)
            self.app.push_screen(page)
            if page.wants_more and not traced.stale:
                self.odd_sum.look_inside(traced)

    def action_calls(self) -> None:
        """Every call with what went in and what came out."""
        traced = self.traced
        if traced is not None:
            found = calls(traced.story)
            steps = [c.enters for c in found]
            start = max((n for n, s in enumerate(steps) if s <= traced.step), default=0)
            title = f"THE CALLS · {counted(len(found), 'call')}"
            self.walk_through(title, lists.CALLS, lists.call_rows(found), steps, start=start)

    # -- one line ----------------------------------------------------------------------------------

    def action_apart(self) -> None:
        """Take the line in hand apart: in which order it was worked out."""
        traced = self.traced
        if traced is None:
            return
        step = traced.story.step(traced.step)
        visits = traced.story.visits_of(step.statement)
        visit = len([n for n in visits if n <= traced.step])
        if step.statement.kind in ("call", "await") or not visit:
            self.notify("This step works nothing out itself. Take one step on, with ↓.")
            return
        self.odd_sum.take_apart(traced, step.statement.file, step.line, visit)

    def show_apart(self, message: messages.LineApart) -> None:
        """The line is taken apart: the application hands it on."""
        if message.fault is not None:
            self.notify(str(message.fault), severity="error")
        elif message.apart is not None:
            rows = lists.part_rows(message.apart)
            grouped = message.apart.grouped
            hint = f"Python reads it as  {grouped}" if grouped else "From top to bottom in time."
            title = f"LINE {message.line} TAKEN APART"
            self.walk_through(title, lists.PARTS, rows, [], hint)

    # -- moments -----------------------------------------------------------------------------------

    def action_find(self) -> None:
        """Look for the next moment at which a condition becomes true."""
        if self.traced is not None:
            self.app.push_screen(
                Ask("WHEN DOES IT BECOME TRUE?", "A condition; or a value: where it turns up",
                    "It is asked after every step from here on. Esc stops a long search.",
                    Question, example="total > 20"), self._found_out,
            )  # fmt: skip

    def _found_out(self, typed: str | None) -> None:
        if typed:
            self.odd_sum.look_for(Question(typed))

    # -- holds, watches, claims --------------------------------------------------------------------

    def stops(self) -> list[int]:
        """The steps at which the lines held stop, in order."""
        traced = self.traced
        if traced is None:
            return []
        found: set[int] = set()
        for hold in self.work.holds.values():
            found.update(hits(traced.story, hold, self.odd_sum.walks_of(hold.file)))
        return sorted(found)

    def toggle_hold(self, file: str, line: int) -> None:
        """Hold at a line, or no longer."""
        if self.traced is None:
            return
        if (file, line) in self.work.holds:
            del self.work.holds[file, line]
            self.show()
        else:
            self._hold(Hold(file, line))

    def _hold(self, hold: Hold) -> None:
        traced = self.traced
        if traced is not None:
            self.work.holds[hold.file, hold.line] = hold
            count = len(hits(traced.story, hold, self.odd_sum.walks_of(hold.file)))
            when = "" if hold.words == "always" else f" {hold.words}"
            times = counted(count, "time")
            self.notify(f"Line {hold.line} is held{when}. It stops {times} in this case.")
            self.show()

    def action_hold_where(self) -> None:
        """Hold at the line in hand under a condition, or in one round."""
        traced = self.traced
        if traced is None:
            return
        step = traced.story.step(traced.step)
        file, line = step.statement.file, step.line
        kept = self.work.holds.get((file, line))
        typed = "" if kept is None else f"round {kept.round}" if kept.round else kept.condition
        self.app.push_screen(
            Ask(f"HOLD AT LINE {line}", "A condition, or a round of the loop around it",
                "It is asked before the line runs. Nothing typed: hold every time.",
                lambda text: hold_from(file, line, text), typed, "total > 20, or round 25"),
            lambda text: self._hold(hold_from(file, line, text)) if text is not None else None,
        )  # fmt: skip

    def action_watch(self) -> None:
        """Keep an eye on an expression: a column more."""
        if self.traced is not None:
            self.app.push_screen(
                Ask("KEEP AN EYE ON", "An expression: it becomes a column of the trace table",
                    "The case is recorded again with it. Type one that is watched to end it.",
                    Question, example="total - extra"), self._watched,
            )  # fmt: skip

    def _watched(self, typed: str | None) -> None:
        if typed:
            text, now = typed.strip(), self.work.watches
            self.work.watches = tuple(w for w in now if w != text) if text in now else (*now, text)
            self.odd_sum.record_again()

    def action_claim(self) -> None:
        """Say what must hold after this line, or change that."""
        traced = self.traced
        if traced is None:
            return
        step = traced.story.step(traced.step)
        returns = "return" in step.events
        where = f"when {step.function} returns" if returns else f"after line {step.line}"
        kept = [c for c in self.work.claims if self._is_here(c)]
        self.app.push_screen(
            Ask(f"WHAT MUST HOLD {where.upper()}?", "Your claim, as a condition",
                "It is kept beside the program, and held against every case. "
                + ("result is what it returns. " if returns else "")
                + "Nothing typed takes it away.",
                lambda text: Question(text) if text.strip() else None,
                kept[0].holds if kept else "", "total == 24"),
            self._claimed,
        )  # fmt: skip

    def _is_here(self, claim: Claim) -> bool:
        traced = self.traced
        if traced is None:
            return False
        step = traced.story.step(traced.step)
        if "return" in step.events:
            return claim.function == step.function
        return claim.line == step.line and claim.file in ("", step.statement.file)

    def _claimed(self, typed: str | None) -> None:
        traced = self.traced
        if traced is None or typed is None:
            return
        step = traced.story.step(traced.step)
        others = tuple(c for c in self.work.claims if not self._is_here(c))
        made: tuple[Claim, ...] = ()
        if typed.strip() and "return" in step.events:
            made = (Claim(holds=typed.strip(), function=step.function),)
        elif typed.strip():
            source = self.odd_sum.source_of(step.statement.file)
            text = source.lines[step.line - 1].strip() if source is not None else ""
            made = (
                Claim(holds=typed.strip(), file=step.statement.file, line=step.line, text=text),
            )
        self.odd_sum.change_claims((*others, *made))
        broken = traced.broken
        if broken is not None:
            self.notify(
                f"{broken.claim.holds} does not hold at step {broken.step:,}: {broken.why}."
            )
        elif made:
            self.notify("It holds in this case, every time.")

    # -- guesses, plots, two runs ------------------------------------------------------------------

    def action_forecast(self) -> None:
        """Fill in what you think comes next."""
        traced = self.traced
        if traced is not None:
            here = effect_of(traced.story, traced.step)
            self.app.push_screen(Forecast(traced.story, here), self.go_where_there_is)

    def action_plot(self) -> None:
        """Draw the variable in hand over the steps; a list as bars."""
        traced = self.traced
        if traced is None:
            return
        name = self.variable_in_hand(traced) or next(iter(numeric(traced.story)), "")
        if not name:
            self.notify("No variable of this run holds a number.")
            return
        from oddsum.tui.dialogs.plot import PlotPage

        try:
            try:
                drawn, over, as_bars = bars(traced.story, name, traced.step), "index", True
            except SeriesError:
                drawn, over, as_bars = series(traced.story, name), "step", False
        except SeriesError as fault:
            self.notify(str(fault))
            return
        if len(drawn.values) < 2:
            self.notify(f"{name} has one value only, {drawn.values[0]:g}: no line to draw.")
            return
        title = f"{name.upper()} {'AT STEP ' + str(traced.step) if as_bars else 'OVER THE STEPS'}"
        others = [] if as_bars else self._pinned_beside(traced, name)
        page = PlotPage(title, [drawn, *others], over, as_bars,
                        lambda: self._saved(traced, name, as_bars))  # fmt: skip
        self.app.push_screen(page)

    def _pinned_beside(self, traced: Traced, name: str) -> list[Series]:
        """The first pinned column that holds numbers is drawn together with the one in hand."""
        for other in self.work.view.order:
            if other != name and other in numeric(traced.story):
                return [series(traced.story, other)]
        return []

    def _saved(self, traced: Traced, name: str, as_bars: bool) -> str:
        from oddsum.draw import chart
        from oddsum.draw.figure import save

        short = name.rpartition(".")[2]
        path = Path.cwd() / f"{self.work.program.stem}-{short.strip('[]')}.svg"
        title = f"{self.work.program.name}, {traced.case.name}"
        try:
            if as_bars:
                save(path, chart.bars(title, bars(traced.story, name, traced.step)))
            else:
                drawn = [series(traced.story, name), *self._pinned_beside(traced, name)]
                save(path, chart.lines(title, "steps", drawn))
        except OddSumError as fault:
            return str(fault)
        return f"Saved as {path.name} in {path.parent}."

    def action_two_runs(self) -> None:
        """This recording beside the one before it: where do they part?"""
        traced, earlier = self.traced, self.work.earlier
        if traced is None or earlier is None or not len(earlier.story):
            self.notify("Trace another case first, or this one before and after a change.")
            return
        now = self.odd_sum.source_of(self.work.program.name)
        before = earlier.source
        lines = lines_between(before, now) if before and now and before != now else None
        found = parting(earlier.story, traced.story, lines)
        start = max(0, found.same - _AROUND)
        places = range(start, found.same + _AFTER)
        left = [s.steps[n] if n < len(s) else None for s in (earlier.story,) for n in places]
        right = [s.steps[n] if n < len(s) else None for s in (traced.story,) for n in places]
        pairs = [(a, b) for a, b in zip(left, right, strict=True) if a or b]
        rows = lists.two_rows([a for a, _ in pairs], [b for _, b in pairs])
        steps = [b.number if b is not None else 0 for _, b in pairs]
        hint = f"{found.words} {first_difference(earlier.story, traced.story, found)}"
        title = f"CASE {earlier.case.number or '-'} BESIDE CASE {traced.case.number or '-'}"
        columns = lists.two_columns(*(f"case {t.case.number}" for t in (earlier, traced)))
        self.walk_through(title, columns, rows, steps, hint, start=min(_AROUND, found.same))
