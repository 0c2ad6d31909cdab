"""What can be read off a program's text, in any language: functions, loops, limits, statements.

Lines count from 1. Expressions are texts of the program's own language.
"""

from __future__ import annotations

from typing import Literal

import msgspec

Number = int | float
Order = Literal["forward", "backward", "other"]


HOLE = "\0"  # in a prompt: a value that is another one each time


class Function(msgspec.Struct, frozen=True):
    """A function: its first line, last line, name as the trace gives it, and parameters.

    ``called`` are the words by which a call can name it. ``bound``: its first parameter is what a
    method is called on. ``rest`` takes what is given by place beyond its parameters, ``more`` what
    is given by other names; blank for none.
    """

    line: int
    end: int
    name: str
    parameters: tuple[str, ...]
    called: tuple[str, ...] = ()
    bound: bool = False
    rest: str = ""
    more: str = ""


class Use(msgspec.Struct, frozen=True):
    """``sequence[index]`` at a statement; both are expressions that can be asked."""

    line: int
    sequence: str
    index: str


class Loop(msgspec.Struct, frozen=True):
    """A loop: its lines, the names it sets, what it goes over, and the indexes it uses.

    ``kind``: ``for`` goes over something, ``while`` goes on as long as a condition holds.
    ``header`` as written; ``plain``: nothing of the program's is called in it. ``over`` is the
    sequence as an expression, None where that is not plain, and ``order`` how its items come: as
    they stand, from the last one on, or otherwise; ``bounds`` the arguments of a counting loop.
    ``in_header`` are the names in its header, ``names`` all that stand in it.
    """

    file: str
    line: int
    end: int
    kind: str
    header: str
    targets: tuple[str, ...] = ()
    over: str | None = None
    order: Order = "forward"
    bounds: tuple[str, ...] = ()
    in_header: tuple[str, ...] = ()
    plain: bool = False
    uses: tuple[Use, ...] = ()
    names: frozenset[str] = frozenset()

    @property
    def asked(self) -> tuple[str, ...]:
        """The names in the condition of a ``while``."""
        return self.in_header if self.kind == "while" else ()


def loop_around(loops: tuple[Loop, ...], lines: list[int]) -> Loop | None:
    """The smallest of these loops that holds all these lines."""
    around = [x for x in loops if lines and x.line <= min(lines) and max(lines) <= x.end]
    return min(around, key=lambda loop: loop.end - loop.line, default=None)


class Limit(msgspec.Struct, frozen=True):
    """One comparison of something with a number.

    ``subject`` is what is compared, as an expression of the program (``age``, ``len(cars)``,
    ``n % 2``); ``line`` is the first line of the statement it stands in, ``place`` the line of the
    comparison itself. The sign reads subject first: ``16 > age`` is ``age < 16``. ``others``: what
    has to hold for the comparison to decide anything, as ``member`` in ``member and age < 16``.
    """

    file: str
    line: int
    place: int
    function: str
    subject: str
    sign: str
    value: Number
    length_of: str = ""  # the name whose number of items the subject is
    others: tuple[str, ...] = ()

    @property
    def text(self) -> str:
        """The comparison, subject first."""
        return f"{self.subject} {self.sign} {self.value}"

    def holds(self, subject: Number) -> bool:
        """Whether the comparison is true of a subject."""
        value = self.value
        return {
            "<": subject < value,
            "<=": subject <= value,
            ">": subject > value,
            ">=": subject >= value,
            "==": subject == value,
            "!=": subject != value,
        }[self.sign]


class Fork(msgspec.Struct, frozen=True):
    """A condition or a loop: where it stands, what it says, and whether it decides or repeats.

    ``fixed``: a loop that goes round as many times in every case.
    """

    file: str
    line: int
    kind: str
    header: str
    inside: int | None  # line of the condition or loop around it, in the same function
    fixed: bool = False


class Read(msgspec.Struct, frozen=True):
    """Something a statement reads: a name; one item where it is ``name[index]``, one attribute
    where it is ``name.attribute``."""

    name: str
    index: str | None = None
    attribute: str = ""


Several = tuple[Read, ...]


class Passed(msgspec.Struct, frozen=True):
    """A call as it is written: what is read for what it is called on (None for nothing), for each
    argument by place, and for each by name. ``unsure``: some stand for several. ``written`` are the
    constants in each argument by place, ``written_names`` in each by name."""

    name: str
    on: Several | None
    places: tuple[Several, ...]
    names: dict[str, Several]
    unsure: bool = False
    written: tuple[tuple[str, ...], ...] = ()
    written_names: dict[str, tuple[str, ...]] = {}

    def constants_for(self, function: Function, parameter: str) -> tuple[str, ...]:
        """The constants that a parameter's argument is written with."""
        mine = Passed(self.name, self.on and (), _as_reads(self.written),
                      {k: _as_reads((v,))[0] for k, v in self.written_names.items()},
                      self.unsure)  # fmt: skip
        return tuple(r.name for r in mine.went_in(function, parameter) or ())

    def went_in(self, function: Function, parameter: str) -> Several | None:
        """What is read for a parameter of a function; None where nothing is: it has its default."""
        everything = tuple(r for p in (*self.places, *self.names.values()) for r in p)
        if parameter in self.names:
            return self.names[parameter]
        if parameter == function.rest:
            return everything
        if parameter == function.more:
            return tuple(r for p in self.names.values() for r in p)
        at = function.parameters.index(parameter) if parameter in function.parameters else -1
        if function.bound and (self.on is not None or self.name != function.called[0]):
            if at == 0:
                return self.on or ()
            at -= 1
        if 0 <= at < len(self.places):
            return everything if self.unsure else self.places[at]
        return everything if self.unsure else None


def _as_reads(texts: tuple[tuple[str, ...], ...]) -> tuple[Several, ...]:
    return tuple(tuple(Read(text) for text in mine) for mine in texts)


class Reads(msgspec.Struct, frozen=True):
    """One statement: what it reads for which target, and the header that let it run.

    ``sets``: what each target is worked out from; the key ``""`` holds what is read for all of it
    (a printed text, a returned value, a condition); an attribute that is set, as ``ferry.seats``,
    has a key of its own beside its object's. Of a definition, it has the defaults of its
    parameters, and ``defines`` is the function. ``header``: the line of the nearest header
    around it, 0 for none in its function; ``guards``: earlier ones beside it that can leave, as by
    ``return``. ``called``: the calls it makes. ``leaves``: it can leave a loop or a function.
    ``binds``: of what it sets, the names that hold another value then, not one with another part.
    """

    line: int
    end: int
    kind: str
    sets: dict[str, tuple[Read, ...]]
    header: int
    header_kind: str
    guards: tuple[int, ...]
    called: tuple[Passed, ...]
    constants: tuple[str, ...]
    defines: Function | None = None
    leaves: bool = False
    binds: frozenset[str] = frozenset()

    @property
    def all_reads(self) -> tuple[Read, ...]:
        """Everything it reads, each once."""
        return tuple(dict.fromkeys(r for reads in self.sets.values() for r in reads))


class CallText(msgspec.Struct, frozen=True):
    """A call as it stands in a plan: what is called, and its arguments as they are written."""

    name: str
    arguments: tuple[str, ...]
