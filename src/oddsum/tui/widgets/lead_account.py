"""A lead in the list, as far as it is uncovered, and its account."""

from __future__ import annotations

from dataclasses import replace

from rich.cells import cell_len, chop_cells

from oddsum.compare.align import parts
from oddsum.model.case import LEVELS
from oddsum.model.lead import Evidence, Lead, Pinpointing
from oddsum.pinpoint.guess import guess_words
from oddsum.pinpoint.words import asked, kind_explained, kind_title, verdict
from oddsum.trace.words import counted
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.prose import titled, wrapped
from oddsum.tui.writing import Piece, clean, fitted
from oddsum.workspace.pinpointing import Search

Lines = list[list[Piece]]
_BAR = 10
_MOST_NOTES = 4


def lead_lines(lead: Lead, level: int, width: int, chosen: bool) -> Lines:
    """Two lines in the list: line and function, and the kind of fault once it is uncovered."""
    ground = "lifted" if chosen else ""
    span = lines_words(lead)
    full = round(lead.score * _BAR)
    right = [
        Piece(own("▰" * full), "ink", ground=ground),
        Piece(own("▱" * (_BAR - full)), "quiet", ground=ground),
        Piece(f" {verdict(lead.score):<7}", "ink", True, ground=ground),
    ]
    place = lead.function or "main part"
    first = [
        Piece(f" {lead.letter}  ", "blue", True, ground=ground),
        Piece(span.ljust(9), "strong", True, ground=ground),
        Piece(f"  {place}", "quiet", ground=ground),
    ]
    about = kind_title(lead.kind) if level else "covered"
    if level and lead.values and lead.mend is None:
        printed = lead.values[0].is_printed
        about = f"{'a line printed' if printed else 'another value'} would be right here"
    second = (Piece(f"    {about}", "ink" if level else "quiet", italic=not level, ground=ground),)
    return [
        [*_grounded(tuple(first), width - _BAR - 8, ground), *right],
        _grounded(second, width, ground),
    ]


def lines_words(lead: Lead) -> str:
    """``line 10``, ``lines 5 and 6``, ``lines 4 to 9``."""
    first, last = lead.lines[0], lead.lines[-1]
    if first == last:
        return f"line {first}"
    return f"lines {first} {'and' if last == first + 1 else 'to'} {last}"


def _grounded(pieces: tuple[Piece, ...], width: int, ground: str) -> list[Piece]:
    return [Piece(p.text, p.ink, p.bold, p.italic, ground) for p in fitted(pieces, width)]


def uncovered_lines(lead: Lead, level: int, most: int, width: int) -> Lines:
    """Where, what and how, as far as uncovered; what is still covered says how to uncover it."""
    lines: Lines = [[], _levels(level, most), []]
    lines += wrapped(lead.where, width)
    if level >= 1:
        lines += [[], *wrapped(lead.what, width)]
        explained = kind_explained(lead.kind)
        if explained:
            lines += [[], *wrapped(explained, width, "quiet")]
    if level >= 2:
        lines += [[], *wrapped(lead.how, width)]
        if lead.mend is not None:
            lines += [[], *_mend(lead, width)]
    return [*lines, []]


def _levels(level: int, most: int) -> list[Piece]:
    pieces = [Piece("  ")]
    for n, name in enumerate(LEVELS):
        if n:
            pieces.append(
                Piece(own("━━━━" if n <= level else "────"), "blue" if n <= level else "rule")
            )
        title = f" {name.capitalize()} "
        if n <= level:
            pieces.append(Piece(title, "on-blue", True, ground="blue"))
        else:
            pieces.append(Piece(title, "quiet", ground="lifted"))
    if level < most:
        pieces.append(Piece("    covered; Enter uncovers it", "quiet"))
    elif most < len(LEVELS) - 1:
        pieces.append(Piece("    the plan's author asks to stop here", "quiet"))
    return pieces


def _mend(lead: Lead, width: int) -> Lines:
    """Each line as it is and as it would be, with the part that differs in bold; none is cut."""
    lines: Lines = []
    for edit in lead.mend.edits if lead.mend else ():
        paired = len(edit.before) == len(edit.after)
        others = edit.after if paired else ("",) * len(edit.before)
        for n, (old, new) in enumerate(zip(edit.before, others, strict=True)):
            told = [Piece(a, "quiet" if same or not paired else "ink", not same and paired)
                    for same, a, _ in parts(old, new)]  # fmt: skip
            lines += _beside(f"  {edit.line + n:>4}  now    ", told, width)
        olds = edit.before if paired else ("",) * len(edit.after)
        for n, (old, new) in enumerate(zip(olds, edit.after, strict=True)):
            told = [
                Piece(b, "ink" if same else "strong", not same) for same, _, b in parts(old, new)
            ]
            lines += _beside(f"  {edit.line + n:>4}  then   ", told, width)
    return lines


def _beside(start: str, pieces: list[Piece], width: int) -> Lines:
    """Pieces behind a start, over as many lines as they need."""
    lines: Lines = [[Piece(start, "quiet")]]
    room = left = max(16, width - len(start))
    for piece in pieces:
        text = clean(piece.text)
        while text:
            taken = chop_cells(text, left)[0] if left else ""
            lines[-1].append(replace(piece, text=taken))
            text, left = text[len(taken) :], left - cell_len(taken)
            if text:
                lines.append([Piece(" " * len(start))])
                left = room
    return lines


def account_lines(lead: Lead, width: int) -> Lines:
    """The evidence as an account: two columns, a double rule, the verdict in a word."""
    half = max(16, (width - 3) // 2)
    sides = [[e for e in lead.evidence if e.side == s] for s in ("for", "against")]
    title = f"THE ACCOUNT FOR {lines_words(lead).upper()}"
    lines: Lines = [
        titled(title, width),
        [*fitted((Piece("speaks for it", "quiet"),), half), Piece(" │ ", "rule"),
         Piece("speaks against it", "quiet")],
        [Piece("─" * (half + 1) + "┼" + "─" * max(0, width - half - 2), "rule")],
    ]  # fmt: skip
    columns = [_column(side, half) for side in sides]
    for n in range(max(len(c) for c in columns)):
        left, right = (c[n] if n < len(c) else [] for c in columns)
        lines.append([*fitted(tuple(left), half), Piece(" │ ", "rule"), *right])
    lines.append([Piece("═" * width, "rule")])
    lines.append([Piece(f" {verdict(lead.score)}", "strong", True)])
    return lines


def _column(entries: list[Evidence], width: int) -> Lines:
    lines: Lines = []
    before = ""
    for entry in entries:
        body = wrapped(entry.text, width - 10)
        for n, words in enumerate(body):
            label = _LABELS.get(entry.kind, entry.kind) if n == 0 else ""
            label, before = ("" if label == before else label), label or before
            lines.append([Piece(label.ljust(10), "quiet"), *words])
    return lines


_LABELS = {"coverage": "runs"}


def ask_lines(search: Search, level: int, width: int) -> Lines:
    """Where several mends fit: the input that decides; what each gives once a mend is uncovered."""
    ask = search.found.ask if search.found is not None and not search.held_back else None
    if ask is None:
        return []
    return [*wrapped(asked(ask, level), width, "ink"), []]


def tried_lines(search: Search | None, width: int) -> Lines:
    """How the trials came out, counted."""
    if search is None or search.held_back or (not search.done and search.found is None):
        return [[Piece("Nothing has been tried yet.", "quiet", italic=True)]]
    found = search.found
    if found is None:
        done = round(search.done / max(1, search.total) * 30)
        bar = [Piece(own("▰" * done), "blue"), Piece(own("▱" * (30 - done)), "quiet")]
        return [
            [Piece(f"{counted(search.done, 'trial')} so far   ", "ink"), *bar],
            [Piece(search.doing, "quiet")],
        ]
    nothing = found.trials - found.settled_all - found.settled_some
    rows = (
        ("settle everything, break nothing", found.settled_all),
        ("settle some", found.settled_some),
        ("settle nothing", nothing),
    )
    lines: Lines = []
    for words, count in rows:
        marks = own("▰") * max(count > 0, round(count / max(1, found.trials) * (width - 46)))
        lines.append([Piece(f"{words:<34}"), Piece(f"{count:>6,}   ", "strong", True),
                      Piece(marks, "quiet")])  # fmt: skip
    lines.append([Piece("═" * width, "rule")])
    lines.append([Piece(f"{'small changes, each on a copy':<34}", "quiet"),
                  Piece(f"{found.trials:>6,}", "strong", True)])  # fmt: skip
    if not found.complete:
        lines += wrapped("Time was over before all were tried.", width, "quiet")
    for remark in found.remarks:
        lines += wrapped(remark, width, "quiet")
    return lines


def shown_lines(lead: Lead, level: int, case: str, width: int) -> Lines:
    """The case that shows a lead best: its name, and how to get there."""
    if lead.case is None:
        return [[Piece("No case that was recorded shows it.", "quiet", italic=True)]]
    lines: Lines = [[Piece(f" {lead.case}  ", "odd", True), Piece(case, "strong", True)]]
    step = f", at step {lead.step:,}" if level and lead.step else ""
    lines += wrapped(f"T follows it from {lines_words(lead)}{step}.", width, "quiet")
    return lines


def note_lines(found: Pinpointing, covered: frozenset[tuple[str, int]], width: int) -> Lines:
    """The reader's notes; those on lines that are still covered are only counted."""
    shown = [n for n in found.notes if (n.file, n.line) not in covered]
    hidden = len(found.notes) - len(shown)
    lines: Lines = []
    for note in shown[:_MOST_NOTES]:
        body = wrapped(note.text, width - 7)
        for n, words in enumerate(body):
            number = str(note.line) if n == 0 else ""
            lines.append([Piece(f"{number:>5}  ", "quiet"), *words])
    if len(shown) > _MOST_NOTES:
        lines.append([Piece(f"       and {len(shown) - _MOST_NOTES} more", "quiet", italic=True)])
    if hidden:
        covers = f"{counted(hidden, 'note')} on lines that are still covered"
        lines.append([Piece(f"       {covers}", "quiet", italic=True)])
    return lines or [[Piece("A reader would ask nothing here.", "quiet", italic=True)]]


def own_lines(search: Search, file: str, width: int) -> Lines:
    """The user's own guess and where their answers lead, as far as there are any."""
    lines: Lines = []
    if search.guess:
        lines += [[], titled("YOUR GUESS", width), []]
        told = f"Line {search.guess}. What speaks for it is told once the search is over."
        if search.found is not None:
            told = guess_words(search.found, file, search.guess)
        lines += wrapped(told, width)
    if search.ends is not None:
        lines += [[], titled("WHERE YOUR ANSWERS LEAD", width), []]
        lines += wrapped(search.ends.text, width)
    return lines
