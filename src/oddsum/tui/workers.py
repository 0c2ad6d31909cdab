"""What runs in the background: on threads, ending in messages, touching no widget."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from textual.message import Message
from textual.worker import get_current_worker

from oddsum.advise.advice import advise
from oddsum.advise.pattern import find_pattern
from oddsum.check.apart import line_apart
from oddsum.check.claims import check_claims
from oddsum.check.inside import inside_at
from oddsum.check.plan import check
from oddsum.check.traced import Cancelled, trace_case
from oddsum.compare.departure import departure_offset
from oddsum.model.case import Case, Plan
from oddsum.model.claim import Claim
from oddsum.model.errors import OddSumError
from oddsum.model.history import Version
from oddsum.model.outcome import CaseResult, Run
from oddsum.pinpoint.search import pinpoint
from oddsum.record.versions import version_of
from oddsum.run.interpreter import Interpreter, find_interpreter
from oddsum.run.scratch import bundle
from oddsum.run.watch import changes
from oddsum.source.asking import Question
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.claims import claims_for, first_broken
from oddsum.trace.nodes import scalar_text
from oddsum.trace.search import first_true, steps_with
from oddsum.tui import messages
from oddsum.tui.work import Traced

if TYPE_CHECKING:
    from textual.app import App


def _teller(app: App[None]) -> Callable[[Message], None]:
    """A function that tells the application something, from whatever thread."""

    def tell(message: Message) -> None:
        app.post_message(message)

    return tell


def check_plan(
    app: App[None], number: int, plan: Plan, python: str | None, cases: tuple[Case, ...]
) -> None:
    """Check cases of a plan and tell each result."""
    stop = get_current_worker().cancelled_event
    started = time.monotonic()
    fault: OddSumError | None = None
    try:
        interpreter = find_interpreter(plan.program, python)
        files = bundle(plan)
        found = messages.InterpreterFound(number, interpreter, files.left_out, _version(plan))
        app.post_message(found)
        for result in check(plan, interpreter, stop=stop, files=files, cases=cases):
            app.post_message(messages.CaseFinished(number, result))
    except OddSumError as error:
        fault = error
    app.post_message(messages.CheckEnded(number, time.monotonic() - started, fault))


def _version(plan: Plan) -> Version | None:
    """The program as it is now, for the record: a save may come while the plan runs."""
    try:
        return version_of(plan.program)
    except OddSumError:
        return None


def look_for_pattern(
    app: App[None],
    number: int,
    plan: Plan,
    interpreter: Interpreter | None,
    results: tuple[CaseResult, ...],
) -> None:
    """See what the odd cases share and tell it; where it cannot be found out, nothing is said."""
    stop = get_current_worker().cancelled_event
    try:
        pattern = find_pattern(plan, interpreter, results, stop)
    except OddSumError:  # stopped, or the program was changed meanwhile: the next check looks again
        return
    app.post_message(messages.PatternFound(number, pattern))


def look_for_advice(
    app: App[None],
    number: int,
    plan: Plan,
    interpreter: Interpreter,
    results: tuple[CaseResult, ...],
) -> None:
    """See what no case tries and tell it."""
    stop = get_current_worker().cancelled_event
    try:
        advice, fault = advise(plan, interpreter, results, stop), None
    except Cancelled:
        return
    except OddSumError as error:
        advice, fault = None, error
    app.post_message(messages.AdviceFound(number, advice, fault))


def record_case(
    app: App[None],
    number: int,
    plan: Plan,
    case: Case,
    interpreter: Interpreter,
    plain: Run | None,
    line: int | None,
    at_the_end: bool = False,
    watches: tuple[str, ...] = (),
    claims: tuple[Claim, ...] = (),
) -> None:
    """Record a case and tell its trace."""
    stop, tell = get_current_worker().cancelled_event, _teller(app)
    try:
        trace, result = trace_case(
            plan,
            case,
            interpreter,
            plain=plain,
            stop=stop,
            on_steps=lambda count: tell(messages.StepsRecorded(number, count)),
            watches=watches,
        )
    except Cancelled:
        app.post_message(messages.TraceEnded(number, None, None))
    except OddSumError as error:
        app.post_message(messages.TraceEnded(number, None, error))
    else:
        traced = Traced(case, Story(trace), result, case.stdout, None)
        traced.story.prepare()
        traced.departs = departing_step(traced)
        traced.broken = first_broken(traced.story, claims_for(claims, case.name))
        app.post_message(messages.TraceEnded(number, traced, None, line, at_the_end))


def departing_step(traced: Traced) -> int | None:
    """The step after which the output can no longer become the expected one."""
    case, result = traced.case, traced.result
    if case.stdout is None or case.call is not None or not result.outcome.odd:
        return None
    offset = departure_offset(case.stdout, result.actual, result.run)
    return None if offset is None else traced.story.printing(offset)


def search_leads(
    app: App[None],
    number: int,
    plan: Plan,
    interpreter: Interpreter,
    results: tuple[CaseResult, ...],
    claims: tuple[Claim, ...],
) -> None:
    """Look for leads and tell the best so far, and how far the search is."""
    stop, tell = get_current_worker().cancelled_event, _teller(app)
    found, fault = None, None
    try:
        found = pinpoint(
            plan,
            interpreter,
            results,
            stop=stop,
            on_progress=lambda what, done, total: tell(
                messages.SearchWent(number, what, done, total)
            ),
            on_leads=lambda leads: tell(messages.LeadsFound(number, leads)),
            claims=claims,
            on_stories=lambda stories: tell(messages.StoriesTold(number, stories)),
        )
    except Cancelled:
        pass
    except OddSumError as error:
        fault = error
    app.post_message(messages.SearchEnded(number, found, fault))


def watch_files(app: App[None], plan: Plan) -> None:
    """Tell whenever a file beside the program is saved."""
    stop = get_current_worker().cancelled_event
    for paths in changes(plan.program, plan.file, stop):
        if paths:
            app.post_message(messages.FilesChanged(paths))


def take_apart(
    app: App[None],
    plan: Plan,
    traced: Traced,
    interpreter: Interpreter,
    source: Source,
    line: int,
    visit: int,
) -> None:
    """Take a line apart and tell what it came to."""
    stop = get_current_worker().cancelled_event
    apart, fault = None, None
    try:
        apart = line_apart(plan, traced.case, interpreter, source, line, visit, stop)
    except Cancelled:
        pass
    except OddSumError as error:
        fault = error
    app.post_message(messages.LineApart(traced, line, apart, fault))


def look_for(app: App[None], traced: Traced, question: Question) -> None:
    """Look for the next moment at which a question becomes true, and tell it."""
    stop, tell = get_current_worker().cancelled_event, _teller(app)
    if not question.names:  # no condition, but a value: where does it turn up next?
        text = scalar_text(question.ask({}))
        step = steps_with(traced.story, text, traced.step, stop)
        app.post_message(messages.MomentFound(traced, text, step))
        return
    step = first_true(
        traced.story, question, traced.step, stop=stop,
        on_progress=lambda step: tell(messages.LookedThrough(question.text, step)),
    )  # fmt: skip
    if not stop.is_set():
        app.post_message(messages.MomentFound(traced, question.text, step))


def hold_claims(
    app: App[None],
    plan: Plan,
    results: tuple[CaseResult, ...],
    interpreter: Interpreter,
    claims: tuple[Claim, ...],
) -> None:
    """Hold the claims against every case and tell which are broken."""
    try:
        broken = check_claims(
            plan, results, interpreter, claims, get_current_worker().cancelled_event
        )
    except OddSumError:
        return  # the check itself says what is wrong
    app.post_message(messages.ClaimsHeld(claims, broken))


def look_inside(app: App[None], plan: Plan, traced: Traced, interpreter: Interpreter) -> None:
    """Tell what lies inside of what after the step in hand."""
    stop, step = get_current_worker().cancelled_event, traced.step
    web, fault = None, ""
    try:
        web = inside_at(plan, traced.case, interpreter, step, traced.result.run, stop)
    except Cancelled:
        return
    except OddSumError as error:
        fault = str(error)
    app.post_message(messages.InsideFound(traced, step, web, fault))
