"""Which language a file is of."""

from __future__ import annotations

from pathlib import Path

from oddsum.languages.commands import Unread, unread
from oddsum.languages.javascript import JAVASCRIPT
from oddsum.languages.language import Interpreter, Language, Station
from oddsum.languages.python import PYTHON
from oddsum.model.case import Plan

LANGUAGES: list[Language] = [PYTHON, JAVASCRIPT]


def language_of(file: str | Path) -> Language:
    """The language of a file, by its ending; the first there is, for an ending that nobody has."""
    suffix = Path(file).suffix
    known = next((one for one in LANGUAGES if suffix in one.suffixes), None)
    return known or unread(file) or LANGUAGES[0]


def language_for(plan: Plan) -> Language:
    """The language of a plan's program: of a plan that says how it is run, only its commands."""
    return Unread(" ".join(plan.run)) if plan.run else language_of(plan.program)


def language_named(name: str) -> Language:
    """The language of an interpreter, by its name."""
    return next((one for one in LANGUAGES if one.name == name), LANGUAGES[0])


def of_the_network() -> frozenset[str]:
    """Names of the environment that matter only to what reaches the network, in any language."""
    return frozenset(name for one in LANGUAGES for name in one.running.probe().network)


def is_source(file: Path) -> bool:
    """Whether a file is of some language."""
    return any(file.suffix in one.suffixes for one in LANGUAGES) or unread(file) is not None


def cannot(plan: Plan, station: Station) -> str:
    """Why a plan's program does not go through a station, as a sentence; blank where it does."""
    language = language_for(plan)
    if station in language.can:
        return ""
    known = " and ".join(one.name for one in LANGUAGES if station in one.can)
    of = f"this plan runs `{language.name}`" if plan.run else f"this one is in {language.name}"
    return f"{station.capitalize()} reads {known} programs, and {of}. {_INSTEAD[station]}"


# What helps in a language that goes through Check alone.
_INSTEAD: dict[Station, str] = {
    "check": "",
    "trace": "Instead, let the program print its variables at a line: Check shows what comes out.",
    "pinpoint": "Instead, see in Check what the odd cases share, and which of the cases agree.",
    "mend": "Change it in your own editor: a save runs the plan again.",
    "advice": "Instead, try both sides of each limit, nothing at all, and the largest there is.",
}


def runs_on(plan: Plan, interpreter: Interpreter) -> str:
    """What runs a plan's program, as it is named on screen: its command, or the interpreter."""
    return " ".join(plan.run) or interpreter.title
