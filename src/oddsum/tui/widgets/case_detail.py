"""One case: what went in, expected beside actual, the difference in words, and how it ran."""

from __future__ import annotations

from oddsum.compare.told import errors_told, more_told, rounds_told, values_told
from oddsum.model.case import Case
from oddsum.model.outcome import LIMIT, CaseResult, Outcome, Run
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.inks import INK_OF
from oddsum.tui.widgets.picture import alone, beside
from oddsum.tui.widgets.prose import titled, wrapped
from oddsum.tui.widgets.side_by_side import side_by_side
from oddsum.tui.writing import Piece, clean

Lines = list[list[Piece]]
_MOST_TYPED, _MOST_SHOWN = 8, 14
_MOST_ODD = 12  # odd cases that are listed, around the one in hand
_LABEL = 12


def case_detail(case: Case, result: CaseResult | None, width: int, roomy: bool) -> Lines:
    """Write a case and how it came out."""
    lines: Lines = [[Piece(clean(case.name), "strong", True)]]
    if roomy:
        lines = [[], *lines, []]
    lines += _went_in(case, _MOST_TYPED if roomy else 3)
    if result is None:
        waits = (
            "set aside: it is kept and not run. - takes it back" if case.disabled else "not run yet"
        )
        return [*lines, [], [Piece(waits, "quiet", italic=True)]]
    lines += [[]] if roomy else []
    around = result.difference.line if result.difference else None
    differs = result.outcome is Outcome.DIFFERS
    pictures = _pictures(case, result, width) if roomy else []
    most = _MOST_SHOWN if roomy and not pictures else 6
    lines += pictures + [[]] * bool(pictures)
    lines += side_by_side(result.expected, result.actual, width, most, differs, around)
    lines += [[Piece("═" * width, "rule")], *_verdict(result, width)]
    lines += _more(result, width)
    lines += [[], *_how_it_ran(result, width)]
    if case.note:
        lines += [[], titled("NOTE", width), [], *wrapped(case.note, width, "quiet")]
    return lines


def _pictures(case: Case, result: CaseResult, width: int) -> Lines:
    """What was drawn, beside what should be; nothing for a program that draws nothing."""
    drawn = result.run.drawn.lines if result.run.drawn is not None else ()
    if case.draws is not None:
        return beside(case.draws.lines, drawn, width)
    return alone(drawn, width) if drawn else []


def _went_in(case: Case, most: int) -> Lines:
    if case.call is not None:
        return _labelled("called", case.call.split("\n"), most)
    lines: Lines = []
    if case.args:
        lines += _labelled("arguments", [" ".join(case.args)], most)
    typed = (case.stdin or "").split("\n")
    if typed and not typed[-1]:
        typed.pop()
    return lines + _labelled("typed in", typed or ["nothing"], most)


def _labelled(label: str, texts: list[str], most: int) -> Lines:
    lines = []
    for n, text in enumerate(texts[:most]):
        title = label if n == 0 else ""
        lines.append([Piece(title.ljust(_LABEL), "quiet"), Piece(clean(text), "ink")])
    if len(texts) > most:
        more = own(f"… {len(texts) - most} more lines")
        lines.append([Piece(" " * _LABEL), Piece(more, "quiet", italic=True)])
    return lines


def _verdict(result: CaseResult, width: int) -> Lines:
    mark, ink = glyph(result.outcome.value), INK_OF[result.outcome]
    if result.outcome is Outcome.AGREES:
        words = "actual and expected are the same."
    elif result.outcome is Outcome.OPEN:
        words = "nothing is expected yet. Is this right? Y says so, or what it should be."
    else:
        words = (result.difference.summary if result.difference else "").rstrip(".") + "."
    lines = wrapped(words[:1].upper() + words[1:], width - 2, "ink", indent=2)
    lines[0][0] = Piece(f"{mark} ", ink, True)
    if result.stale:
        lines.append([Piece("~ of the program as it was before the last save", "quiet")])
    return lines


def _more(result: CaseResult, width: int) -> Lines:
    """Of a case that stopped or never ends: what that means, and the values there."""
    lines: Lines = []
    for sentence in more_told(result):
        lines += wrapped(sentence, width - 2, "ink", indent=2)
    if result.outcome is Outcome.STOPPED and result.run.error and result.run.error.line:
        lines += wrapped("T traces it up to that line.", width - 2, "quiet", indent=2)
    values, rounds = values_told(result), rounds_told(result)
    if not (values or rounds):
        return lines
    line = result.run.error.line if result.run.error else None
    if values:
        lines += [[], titled(f"VALUES AT LINE {line}", width), []]
        lines += _table([(name, text) for name, text in values[:_MOST_SHOWN]], width)
    if rounds:
        lines += [[], titled("ITS LAST ROUNDS", width), []]
        lines += [[Piece(clean(text)[:width], "strong")] for text in rounds]
    return lines


def _table(rows: list[tuple[str, str]], width: int) -> Lines:
    lines: Lines = []
    room = min(24, max((len(n) for n, _ in rows), default=0)) + 2
    for name, text in rows:
        body = wrapped(clean(text), max(8, width - room))
        for n, line in enumerate(body):
            lines.append([Piece((name if n == 0 else "").ljust(room), "quiet"), *line])
    return lines


def _how_it_ran(result: CaseResult, width: int) -> Lines:
    run = result.run
    rows = [("ended", _ended(run)), ("took", _took(run))]
    if run.watched:
        rows.append(("input", _input(run)))
    if run.error is not None and run.error.line:
        rows.append(("at", f"line {run.error.line} of {run.error.file}"))
    if run.skipped:
        lines = ", ".join(map(str, run.skipped))
        rows.append(("left out", f"for the call, the main part's lines {lines}"))
    if run.returned is not None and run.returned.own_names:
        names = ", ".join(run.returned.own_names)
        rows.append(("careful", f"the expected value uses the program's own {names}"))
    rows += [("note" if n == 0 else "", remark) for n, remark in enumerate(run.remarks)]
    rows += [("errors" if n == 0 else "", line) for n, line in enumerate(errors_told(result))]
    made: Lines = [titled("HOW IT RAN", width), []]
    for label, text in rows:
        body = wrapped(clean(text), width - _LABEL)
        for n, line in enumerate(body):
            made.append([Piece((label if n == 0 else "").ljust(_LABEL), "quiet"), *line])
    return made


def _took(run: Run) -> str:
    """By the clock; where the limit is of computing, that is another thing, and said."""
    by_clock = f"{run.seconds:.2f} s"
    return f"{by_clock} by the clock; the limit is one of computing" if run.ending == "time" else (
        by_clock)  # fmt: skip


def _ended(run: Run) -> str:
    if run.ending == "ended":
        return "by itself" if not run.exit_status else f"with exit status {run.exit_status}"
    limited = run.error is not None and run.error.type == LIMIT
    crash = "by a crash" + (" of the interpreter" if run.watched else "")
    return {
        "raised": f"by {run.error.type}" if run.error else "by an error",
        "crashed": "by us: it took too much" if limited else crash,
        "time": "by us: its time was over",
        "output": "by us: it printed without end",
    }.get(run.ending, "by you")


def _input(run: Run) -> str:
    if run.starved:
        return "it asked for more than there was"
    if run.unread:
        return f"{run.unread_lines} line{'s' if run.unread_lines > 1 else ''} left unread"
    read = len(run.asked)
    return f"{read} answer{'s' if read != 1 else ''} read, none left" if read else "none read"


def odd_list(odd: list[CaseResult], chosen: int, width: int) -> Lines:
    """Every odd case in a sentence; the others dimmed where one is chosen (0: none is)."""
    if not odd:
        return []
    lines: Lines = [[], titled("WHAT IS ODD", width), []]
    at = next((n for n, r in enumerate(odd) if r.number == chosen), 0)
    first = max(0, min(at - _MOST_ODD // 2, len(odd) - _MOST_ODD))
    for result in odd[first : first + _MOST_ODD]:
        words = result.difference.summary if result.difference else ""
        ink = "ink" if chosen in (0, result.number) else "quiet"
        body = wrapped(words, width - 6, ink)
        for n, line in enumerate(body):
            mark = glyph(result.outcome.value) if n == 0 else " "
            number = str(result.number) if n == 0 else ""
            start = Piece(f"{mark} {number:>2}  ", INK_OF[result.outcome], True)
            lines.append([start, *line])
    more = len(odd) - _MOST_ODD
    if more > 0:
        lines.append([Piece(f"and {more} more; O shows only the odd", "quiet", italic=True)])
    return lines
