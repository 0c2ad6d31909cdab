"""From what happened to what it means: the outcome of a case, by the contract's table."""

from __future__ import annotations

from difflib import SequenceMatcher

from oddsum.compare.pictures import picture_difference, picture_text
from oddsum.compare.readings import readings
from oddsum.compare.rules import text_agrees, tidy_lines
from oddsum.compare.values import value_difference
from oddsum.compare.words import text_difference
from oddsum.model.case import Case, Settings
from oddsum.model.outcome import LIMIT, CaseResult, Difference, Outcome, Run

_LONGEST_RATIO = 4000  # characters: beyond, nearness of two readings is not worth its time


def judge(case: Case, settings: Settings, run: Run) -> CaseResult:
    """Say how a case came out. The run must not be a cancelled one."""
    outcome, difference = _outcome(case, settings, run)
    expected, actual = shown_pair(case, settings, run)
    return CaseResult(
        number=case.number,
        name=case.name,
        kind=case.kind,
        outcome=outcome,
        checked=case.checked(),
        expected=expected,
        actual=actual,
        difference=difference,
        run=run,
    )


def agrees(case: Case, settings: Settings, run: Run) -> bool:
    """Whether ``judge`` would say that the case agrees, without the words for it.

    Thousands of trials are asked nothing else, and finding the words takes longer than a trial.
    """
    if run.ending == "raised":
        if not _raised_as_expected(case, run):
            return False
    elif run.ending != "ended" or case.raises is not None or run.exit_status != (case.exit or 0):
        return False
    if case.returns is not None and not (run.returned and run.returned.equal):
        return False
    if case.stdout is not None and not _prints_it(case.stdout, settings, run):
        return False
    if case.check is not None and not run.checked:
        return False
    return (
        bool(case.checked())
        and _writes(case, settings, run) is None
        and _draws(case, settings, run) is None
    )


def _prints_it(expected: str, settings: Settings, run: Run) -> bool:
    return any(text_agrees(expected, text, settings) for _, text in readings(run, settings.prompts))


def _outcome(case: Case, settings: Settings, run: Run) -> tuple[Outcome, Difference | None]:
    if run.ending == "time":
        return Outcome.ENDLESS, Difference(summary=_endless_words(run, settings))
    if run.ending == "output":
        text = f"it printed more than {settings.output:g} MB and was cut off{_endless_where(run)}"
        return Outcome.ENDLESS, Difference(summary=text)
    if run.ending == "crashed":
        return Outcome.STOPPED, Difference(summary=_error_words(run))
    if run.ending == "raised" and not _raised_as_expected(case, run):
        return Outcome.STOPPED, Difference(summary=_error_words(run))
    if not case.checked():
        return _without_expectation(run)
    for find in (_raises, _exit, _returns, _stdout, _writes, _draws, _check):
        difference = find(case, settings, run)
        if difference is not None:
            return Outcome.DIFFERS, difference
    return Outcome.AGREES, None


def _without_expectation(run: Run) -> tuple[Outcome, Difference | None]:
    if run.exit_status:
        text = f"it ended with exit status {run.exit_status}; 0 is expected"
        return Outcome.DIFFERS, Difference(summary=text)
    return Outcome.OPEN, None


def _raised_as_expected(case: Case, run: Run) -> bool:
    if case.raises is None or run.error is None:
        return False
    name = case.raises.strip().rpartition(".")[2]
    return name in (run.error.type, *run.error.bases)


def _endless_words(run: Run, settings: Settings) -> str:
    where, limit = _endless_where(run), settings.timeout or 0.0
    if run.seconds > 2 * limit and run.cpu < 0.75 * limit:
        return f"no end in {run.seconds:.2g} s, most of them waiting{where}"
    return f"no end in {limit:g} s{where}"


def _endless_where(run: Run) -> str:
    """Where it was: in which loop, in calls of itself, or at which line."""
    error = run.error
    if error is None or not error.line:
        return ""
    if error.loop is not None:
        return f", in the loop on {error.place}"
    if error.calls_itself:
        return f", where {error.calls_itself} calls itself, on {error.place}"
    return f", while it was on {error.place}"


_PARTS = {
    "before": "what runs ahead of the call (`before`) stopped",
    "returns": "the expected value (`returns`) cannot be worked out",
    "call": "the call cannot be worked out",
}


def _error_words(run: Run) -> str:
    error = run.error
    if error is None:
        return "it stopped"
    where = f" on {error.place}" if error.line else ""
    if run.starved:
        return f"it asked for more input than the case gives{where}"
    message = error.message.split("\n")[0]
    if error.type == LIMIT:
        return f"Odd Sum ended it: {message}"
    if error.part in _PARTS:
        return f"{_PARTS[error.part]}: {error.type}: {message}; that is written in the plan"
    return f"{error.type}{where}: {message}" if message else f"{error.type}{where}"


def _raises(case: Case, _settings: Settings, run: Run) -> Difference | None:
    if case.raises is None or run.ending == "raised":
        return None
    return Difference(summary=f"{case.raises} was expected, and nothing was raised")


def _exit(case: Case, _settings: Settings, run: Run) -> Difference | None:
    wanted = case.exit or 0
    if run.ending == "raised" or run.exit_status == wanted:
        return None
    text = f"it ended with exit status {run.exit_status}; {wanted} is expected"
    return Difference(summary=text)


def _returns(case: Case, _settings: Settings, run: Run) -> Difference | None:
    if case.returns is None or (run.returned and run.returned.equal):
        return None
    got = run.returned
    if got is None or got.expected is None:
        return Difference(summary="the call did not come to its end")
    return value_difference(got.expected, got.actual, got.expected_type, got.type, got.language)


def _stdout(case: Case, settings: Settings, run: Run) -> Difference | None:
    if case.stdout is None:
        return None
    if _prints_it(case.stdout, settings, run):
        return None
    texts = [text for _, text in readings(run, settings.prompts)]
    return _rule_difference(case.stdout, nearest(case.stdout, texts), settings)


def _rule_difference(expected: str, actual: str, settings: Settings) -> Difference:
    rule = settings.compare
    if rule == "contains":
        return Difference(summary="what should stand in the output is not there")
    if rule == "pattern":
        return Difference(summary="the output does not match the pattern")
    if rule == "exact":
        found = text_difference(expected, actual)
        return found if found.line else Difference(summary=found.summary)
    if rule == "unordered":
        return text_difference(_sorted(expected), _sorted(actual))
    return text_difference(expected, actual)


def _sorted(text: str) -> str:
    return "\n".join(sorted(text.strip("\n").split("\n")))


def _writes(case: Case, settings: Settings, run: Run) -> Difference | None:
    for name, wanted in (case.writes or {}).items():
        found = run.written.get(name)
        if found is None:
            return Difference(summary=f"the file {name} was not written")
        if not text_agrees(wanted, found, settings):
            difference = text_difference(wanted, found)
            return Difference(
                summary=f"{name}, {difference.summary}",
                line=difference.line,
                column=difference.column,
            )
    return None


def _draws(case: Case, _settings: Settings, run: Run) -> Difference | None:
    return None if case.draws is None else picture_difference(case.draws.lines, run.drawn)


def _check(case: Case, _settings: Settings, run: Run) -> Difference | None:
    if case.check is None or run.checked:
        return None
    if run.check_error:
        return Difference(summary=f"the check could not be worked out: {run.check_error}")
    return Difference(summary=f"this does not hold: {case.check}")


def nearest(expected: str, texts: list[str]) -> str:
    """The reading that is nearest to what was expected: its difference is the one worth telling."""
    if len(texts) == 1 or expected == texts[0]:
        return texts[0]
    same = next((t for t in texts if tidy_lines(t) == tidy_lines(expected)), None)
    if same is not None:
        return same

    def nearness(text: str) -> tuple[float, int]:
        length = -abs(len(text) - len(expected))
        if len(text) + len(expected) > _LONGEST_RATIO:
            return length, 0
        return SequenceMatcher(None, expected, text, autojunk=False).ratio(), length

    return max(texts, key=nearness)


def shown_pair(case: Case, settings: Settings, run: Run) -> tuple[str | None, str]:
    """The expected and actual texts to show: of the first thing that is checked and differs."""
    actual = run.output
    if case.stdout is not None:
        actual = nearest(case.stdout, [text for _, text in readings(run, settings.prompts)])
    if case.raises is not None and case.returns is None and case.stdout is None:
        return case.raises, run.error.type if run.error else "nothing raised"
    if case.draws is not None and case.returns is None and case.stdout is None:
        drawn = run.drawn.lines if run.drawn is not None else ()
        return picture_text(case.draws.lines), picture_text(drawn)
    if case.returns is not None or (case.call is not None and case.stdout is None):
        got = run.returned
        wanted = (got.expected if got else None) or case.returns
        return wanted, got.actual if got else _ending_text(run)
    if case.stdout is not None:
        return case.stdout, actual or (_ending_text(run) if run.error else "")
    if case.writes:
        name = next((n for n, t in case.writes.items() if run.written.get(n) != t),
                    next(iter(case.writes)))  # fmt: skip
        return case.writes[name], run.written.get(name) or ""
    if case.exit is not None:
        return f"exit status {case.exit}", f"exit status {run.exit_status}"
    return case.check, actual


def _ending_text(run: Run) -> str:
    if run.ending == "time":
        return "no end"
    if run.ending == "output":
        return run.output
    return run.error.type if run.error else run.output
