"""What Pinpoint finds: leads, their evidence, and the mends that were tried."""

from __future__ import annotations

from typing import Literal

import msgspec

EvidenceKind = Literal["trial", "note", "coverage", "lineage", "loop", "claim"]
Side = Literal["for", "against"]


class Edit(msgspec.Struct, frozen=True):
    """Lines ``line`` to ``end`` of the original file, replaced; both count from 1.

    An empty ``before`` inserts ahead of ``line`` (then ``end`` is ``line - 1``); an empty ``after``
    deletes.
    """

    file: str
    line: int
    end: int
    before: tuple[str, ...]
    after: tuple[str, ...]


class TrialEdit(msgspec.Struct, frozen=True):
    """One edit to try, which undoes one thing that beginners get wrong.

    ``kind`` names its rule (a key of the registry). ``start`` and ``stop`` are offsets in
    characters from 0 into the file's text, ``new`` what stands there instead. ``what`` and ``how``
    are sentences for the learner. ``likely`` is from 0 to 1: how common the mistake is; ``size``
    how much of the program it touches, in characters.
    """

    kind: str
    file: str
    line: int
    function: str
    start: int
    stop: int
    old: str
    new: str
    where: str
    what: str
    how: str
    likely: float
    size: int
    runs_at: int = 0  # the line whose runs the edit matters for, where that is another; else 0
    asks: str = ""  # the expression around it as it is, and as it would be: for the proof
    would: str = ""


class Mend(msgspec.Struct, frozen=True):
    """Edits that were confirmed, with the numbers of the cases they settle and break."""

    edits: tuple[Edit, ...]
    settles: tuple[int, ...]
    breaks: tuple[int, ...]


class RightValue(msgspec.Struct, frozen=True):
    """What would have been right in a case, found by trial.

    ``gave`` and ``would`` are the texts of values. ``visit`` counts from 1; 0: at every visit.
    Without an expression it is lines that should be printed between two statements. ``when``: of
    all visits, those at which this condition holds.
    """

    case: int
    file: str
    line: int
    visit: int
    expression: str
    gave: str
    would: str
    when: str = ""

    @property
    def is_printed(self) -> bool:
        """Whether it is lines that should be printed, and no value of an expression."""
        return not self.expression


class Evidence(msgspec.Struct, frozen=True):
    """One entry of the account: a sentence that speaks for the lead or against it."""

    kind: EvidenceKind
    side: Side
    text: str


class Note(msgspec.Struct, frozen=True):
    """Something a reader of the code would question, worded as a question; lines count from 1.

    ``rule`` names the rule that asks, ``kinds`` the kinds of edit that it speaks for.
    """

    file: str
    line: int
    rule: str
    text: str
    kinds: tuple[str, ...] = ()


class Gives(msgspec.Struct, frozen=True):
    """What comes out with a lead's mend: text printed, or the text of a value.

    ``way``: with one of the changes that fit the same place as well, as it is told there.
    """

    rank: int
    actual: str
    way: str = ""


class Ask(msgspec.Struct, frozen=True):
    """An input on which mends differ that settle every case: what should come out decides.

    Either ``stdin`` is typed in, or ``call`` is called.
    """

    gives: tuple[Gives, ...]
    stdin: str | None = None
    call: str | None = None


class Lead(msgspec.Struct, frozen=True, kw_only=True):
    """A ranked finding; the sentences go from where to how. ``score`` is from 0 to 1."""

    rank: int
    lines: tuple[int, ...]
    file: str
    function: str
    kind: str
    where: str
    what: str
    how: str
    mend: Mend | None
    score: float
    evidence: tuple[Evidence, ...] = ()
    equals: tuple[str, ...] = ()  # other mends of this place that explain the cases as well
    case: int | None = None  # the case and step that show it best
    step: int | None = None
    values: tuple[RightValue, ...] = ()  # that would have been right there
    beside: tuple[int, ...] = ()  # ranks of the leads whose places the same mend changes

    @property
    def letter(self) -> str:
        """What the lead is called: A for the best, then B and so on."""
        return chr(ord("A") + self.rank - 1)


class Weighed(msgspec.Struct, frozen=True):
    """How much speaks against a line, from 0 to 1, trials aside."""

    file: str
    line: int
    weight: float


class Pinpointing(msgspec.Struct, frozen=True, kw_only=True):
    """All that a search found. ``complete`` is False when its time was over before its trials."""

    program: str
    seconds: float
    trials: int
    agrees: tuple[int, ...]
    odd: tuple[int, ...]
    leads: tuple[Lead, ...]
    complete: bool = True
    settled_all: int = 0  # trials that settled every odd case and broke none
    settled_some: int = 0  # trials that settled some case, at whatever price
    notes: tuple[Note, ...] = ()
    weights: tuple[Weighed, ...] = ()
    remarks: tuple[str, ...] = ()
    ask: Ask | None = None
