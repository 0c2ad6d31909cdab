"""The words of Pinpoint that both faces use."""

from __future__ import annotations

from collections.abc import Iterable

from oddsum.languages.registry import LANGUAGES
from oddsum.model.lead import Ask, Gives, Pinpointing
from oddsum.source.quoting import quoted
from oddsum.trace.words import short


def verdict(score: float) -> str:
    """A score in a word."""
    if score >= 0.7:
        return "strong"
    return "fair" if score >= 0.4 else "weak"


def kind_title(kind: str) -> str:
    """What a kind of edit is called, in a sentence."""
    return _words(kind)[0] or "what is wrong was not found out"


def kind_explained(kind: str) -> str:
    """How a kind of edit comes about; blank where no kind is known."""
    return _words(kind)[1]


def _words(kind: str) -> tuple[str, str]:
    """From the first language that has edits of this kind."""
    told = (language.edits.kind_words(kind) for language in LANGUAGES)
    return next((words for words in told if words[0]), ("", ""))


def asked(ask: Ask, level: int) -> str:
    """An input on which mends differ, as a question, as far as a lead is uncovered.

    ``level``: 0 for the place alone, 1 for what is wrong there, 2 for its mend; see ``LEVELS``.
    """
    if not level:
        return "Several changes fit all cases. A case more would decide between them."
    given = quoted(ask.call) if ask.call is not None else _typed(ask.stdin or "")
    if level > 1:
        said = f"With {given}, {'; '.join(map(_given, ask.gives, _apart(ask.gives)))}."
    else:
        said = f"Several changes fit all cases, and differ with {given}."
    return f"{said} What should come out? Added as a case, your answer decides."


def _given(gives: Gives, text: str) -> str:
    """``the mend of A gives `3` ``, or, of a change that fits its place as well, what that does."""
    letter = chr(ord("A") + gives.rank - 1)
    if gives.way:
        return f"with {gives.way} there in place of that of {letter}, it gives {text}"
    return f"the mend of {letter} gives {text}"


def _apart(gives: Iterable[Gives]) -> list[str]:
    """What each gives: of texts of as many lines only the lines in which they differ."""
    texts = [g.actual.rstrip("\n").split("\n") for g in gives]
    if len({len(lines) for lines in texts}) == 1:
        odd = [n for n, lines in enumerate(zip(*texts, strict=True)) if len(set(lines)) > 1]
        texts = [[lines[n] for n in odd] for lines in texts]
    return [quoted(short(" / ".join(lines), 60)) for lines in texts]


def _typed(text: str) -> str:
    return ", ".join(quoted(line) for line in text.rstrip("\n").split("\n")) + " typed in"


def nothing_found(found: Pinpointing) -> str:
    """What is said where there is no lead, and what to do next."""
    if not found.odd:
        if not found.agrees:
            return "No case says yet what is expected. Fill in expected results, then check again."
        return (
            f"{_all(len(found.agrees))}. There is nothing to look for. If you think something is "
            "wrong, add a case that shows it."
        )
    if not found.complete:
        return (
            f"Time was over after {found.trials} trials, and none of them settled a case. Give it "
            "longer with --budget, or follow an odd case in Trace."
        )
    return (
        f"{found.trials} small edits were tried, and none settles a case. The fault is of another "
        "kind, or lies in more than one place. Follow the shortest odd case in Trace, and compare "
        "each value with what you expect."
    )


def _all(count: int) -> str:
    return "The only case agrees" if count == 1 else f"All {count} cases agree"
