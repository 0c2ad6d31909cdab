"""What masthead and trail say: the program, and each station's running tally."""

from __future__ import annotations

from oddsum.languages import cannot, language_for
from oddsum.model.errors import StartError
from oddsum.trace.words import counted
from oddsum.tui.glyphs import glyph
from oddsum.tui.inks import INK_OF
from oddsum.tui.writing import Piece
from oddsum.workspace.interface import StationName
from oddsum.workspace.workspace import Workspace


def masthead(work: Workspace) -> tuple[list[Piece], list[Piece]]:
    """The program, its plan and what runs it; and when the plan has run."""
    left = [
        Piece(f" {glyph('differs')} ", "odd", True),
        Piece("Odd Sum    ", "strong", True),
        Piece(work.files.program.name, "strong", True),
    ]
    plan, cases = work.checking.plan, counted(len(work.checking.cases), "case")
    if plan is not None and plan.file is not None:
        left.append(Piece(f"   plan {plan.file.name} · {cases}", "quiet"))
    elif work.checking.fault is None and work.begun:
        left.append(Piece("   no plan yet", "quiet"))
    interpreter = work.checking.interpreter
    if plan is not None and cannot(plan, "trace"):
        left.append(Piece(f" · run by {language_for(plan).name}", "quiet"))
    elif interpreter is not None:
        left.append(Piece(f" · {interpreter.title}", "quiet"))
    return left, [Piece(_when(work) + " ", "quiet")]


def _when(work: Workspace) -> str:
    if work.checking.busy:
        return f"checking {work.checking.done} of {work.checking.total} · Esc stops it"
    if work.checking.stale:
        return "~ the program has changed"
    if work.checking.checked_at:
        return f"checked {work.checking.checked_at} in {work.checking.seconds:.2f} s"
    return ""


def tallies(work: Workspace) -> list[tuple[StationName, list[Piece]]]:
    """How far each station is."""
    return [
        ("check", check_tally(work)),
        ("trace", [Piece(_trace_tally(work), "quiet")]),
        ("pinpoint", [Piece(_pinpoint_tally(work), "quiet")]),
        ("mend", [Piece(_mend_tally(work), "quiet")]),
        ("record", [Piece(_record_tally(work), "quiet")]),
    ]


def check_tally(work: Workspace) -> list[Piece]:
    """The counts of outcomes, with their marks; dimmed while they are stale."""
    if work.checking.fault is not None:
        starts = isinstance(work.checking.fault, StartError)
        return [Piece("cannot start" if starts else "to be put right", "stopped")]
    pieces, counts = [], work.checking.counts()
    for outcome, name in INK_OF.items():
        count = counts[outcome]
        if count:
            mark = glyph(outcome.value)
            pieces.append(Piece(f"{count} {mark} ", "quiet" if work.checking.stale else name, True))
    return pieces or [Piece("not run yet", "quiet")]


def _trace_tally(work: Workspace) -> str:
    traced = work.tracing.traced
    if work.tracing.busy:
        return f"recording, {counted(work.tracing.recorded, 'step')}"
    if traced is None:
        return "not opened"
    stale = "~ " if traced.stale else ""
    number = f"case {traced.case.number} · " if traced.case.number else ""
    return f"{stale}{number}{traced.step:,}/{traced.story.last:,}"


def _pinpoint_tally(work: Workspace) -> str:
    search = work.pinpointing.search
    if search is None:
        return "not opened"
    if search.held_back:
        return "your guess first"
    if search.doing:
        return counted(search.done, "trial") if search.done else "looking"
    if search.stopped:
        return "stopped"
    count = len(search.leads)
    stale = "~ " if search.stale else ""
    return f"{stale}{count} lead{'s' if count != 1 else ''}" if count else f"{stale}no lead"


def _mend_tally(work: Workspace) -> str:
    if work.mending.draft is not None and work.mending.draft.changed:
        return "not kept"
    return counted(len(work.tries.all), "try", "tries") if work.tries.all else "nothing tried"


def _record_tally(work: Workspace) -> str:
    count = work.recording.record.count
    return counted(count, "run") if count else "no run yet"
