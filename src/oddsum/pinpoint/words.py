"""The words of Pinpoint that both faces use."""

from __future__ import annotations

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


def asked(ask: Ask, full: bool) -> str:
    """An input on which mends differ, as a question; ``full``: with what each of them gives."""
    first, second = ask.gives
    given = quoted(ask.call) if ask.call is not None else _typed(ask.stdin or "")
    gives = (
        f"With {given} the mend of {_letter(first)} gives {_shown(first)}, and that of "
        f"{_letter(second)} gives {_shown(second)}."
        if full
        else f"Several changes fit all cases, and differ with {given}."
    )
    return f"{gives} What should come out? Added as a case, your answer decides."


def _typed(text: str) -> str:
    return quoted(" ⏎ ".join(text.rstrip("\n").split("\n"))) + " typed in"


def _letter(gives: Gives) -> str:
    return chr(ord("A") + gives.rank - 1)


def _shown(gives: Gives) -> str:
    return quoted(short(" ⏎ ".join(gives.actual.rstrip("\n").split("\n")), 60))


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
