"""Copies the demo programs to a folder where they can be edited freely."""

from __future__ import annotations

import difflib
import shutil
import tempfile
from pathlib import Path

from oddsum.model.errors import ProgramError

DEMOS = {
    "fares": "what a party pays for the crossing: input() and print",
    "lanes": "where the cars stand on the car deck: functions",
    "tides": "how much water there is at the pier: functions",
    "crates": "how many crates of each kind stand on the quay: input() and a dict",
    "parcels": "which parcel is the heaviest: input() until an empty line",
    "sailings": "the next ferry after a time of the day: functions and lists",
    "cabins": "who sleeps where on the night boat: lists of lists",
    "waiting": "how many crossings until nobody waits: a loop that does not end",
    "tickets": "what a book of tickets costs: two things are wrong",
    "lighthouse": "the sign over the ticket office: a program that draws",
    "luggage": "what a party's luggage costs: JavaScript, prompt() and console.log",
    "harbour": "the longest wait between two departures: JavaScript, lines and lists",
    "cargo": "what is charged for a load: JavaScript, a class and a switch",
}
_NO_PROGRAMS = (".toml", ".svg")
_FOLDER = Path(__file__).with_name("ferry")


def demo_list() -> list[tuple[str, str]]:
    """Names of the demo programs, the easiest first, with what each is about."""
    return list(DEMOS.items())


def copy_demo(name: str | None = None) -> Path:
    """Copy all demo programs to a fresh folder; returns the path of the one named.

    A fresh folder each time: an edit made to try something never meets the next learner. Raises
    ProgramError where there is no demo of that name.
    """
    name = name or next(iter(DEMOS))
    name = name.removesuffix(".py").removesuffix(".js")
    if name not in DEMOS:
        close = difflib.get_close_matches(name, DEMOS, n=1)
        hint = f"Did you mean {close[0]}?" if close else "`oddsum demo --list` names them."
        raise ProgramError(f"There is no demo {name}.", hint=hint)
    folder = Path(tempfile.mkdtemp(prefix="oddsum-demo-"))
    for path in sorted(_FOLDER.iterdir()):
        if path.is_file():
            shutil.copy(path, folder / path.name)
    return next(p for p in folder.glob(f"{name}.*") if p.suffix not in _NO_PROGRAMS)
