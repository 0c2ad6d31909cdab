"""Attributes of the program's classes, functions and modules, told when one is another.

Each is a name that lives as long as the program, like a module's: ``Ferry.seats``, ``fare.calls``,
``helper.rate``. What a class's own body binds is noted there; this is for what is set from outside.
"""

from __future__ import annotations

from types import FunctionType, ModuleType

from .summary import SCALAR

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

FIRST_SLOT = 1_000_000_000  # of attributes: above those of any woven module
_METHODS = (FunctionType, classmethod, staticmethod, property)
_GONE = object()


class Attributes:
    """Knows the program's classes, and what their attributes were when they were last told."""

    def __init__(self, recorder: Any) -> None:
        self.recorder = recorder
        self.homes: dict[str, str] = {}  # a module's file to what its names begin with
        self.slots: dict[tuple[str, str], int] = {}  # by title and name
        self._known: dict[int, tuple[Any, str, dict[str, Any]]] = {}  # by id: owner, title, states

    def __bool__(self) -> bool:
        return bool(self._known)

    def add(self, rows: Any, base: int) -> None:
        """The slots of a woven module: names that live in modules and classes."""
        for number, (title, name, in_module) in enumerate(rows, base):
            if in_module and title:
                self.slots[title, name] = number

    def expect(self, owner: Any) -> None:
        """A class is made: its body has told what it has by now."""
        if issubclass(type(owner), type):
            title = owner.__qualname__.replace(".<locals>", "")
            self._known[id(owner)] = owner, title, dict(_states(owner))
            names = [c.__qualname__.replace(".<locals>", "") for c in type.mro(owner)[1:-1]]
            self.recorder.channel.send("class", title=title, bases=names)

    def set(self, owner: Any, name: str) -> None:
        """``owner.name = ...`` was carried out, or ``del owner.name``."""
        kind = type(owner)
        if id(owner) in self._known:
            self._look(owner)
        elif kind is FunctionType and self.recorder.is_own(owner.__code__.co_filename):
            title = owner.__qualname__.replace(".<locals>", "")
            self._tell(title, name, owner.__dict__.get(name, _GONE))
        elif kind is ModuleType and owner.__dict__.get("__file__") in self.homes:
            title = self.homes[owner.__dict__["__file__"]]
            self._tell(title, name, owner.__dict__.get(name, _GONE))

    def look_again(self) -> None:
        """Look at every class: something may have set an attribute."""
        for owner, _, _ in list(self._known.values()):
            self._look(owner)

    def look(self, owner: Any) -> None:
        """Look at what may be a class."""
        if id(owner) in self._known:
            self._look(owner)

    def _look(self, owner: Any) -> None:
        _, title, before = self._known[id(owner)]
        now = dict(_states(owner))
        if now == before:
            return
        self._known[id(owner)] = owner, title, now
        for name in before.keys() - now.keys():
            self._tell(title, name, _GONE)
        for name, state in now.items():
            if before.get(name, _GONE) != state:
                self._tell(title, name, type.__getattribute__(owner, "__dict__")[name])

    def _tell(self, title: str, name: str, value: Any) -> None:
        slot = self.slots.get((title, name))
        if slot is None:
            slot = self.slots[title, name] = FIRST_SLOT + len(self.slots)
            self.recorder.channel.send("slots", base=slot, rows=[[title, name, True]])
        if value is _GONE:
            self.recorder.on_u(slot)
        else:
            self.recorder.on_n(~slot, value)


def _states(owner: Any) -> Iterator[tuple[str, Any]]:
    """The data among a class's attributes, each with what tells it from another value.

    An object is known by its id: holding it would keep it alive.
    """
    for name, value in type.__getattribute__(owner, "__dict__").items():
        if name[:2] == "__" or isinstance(value, _METHODS) or hasattr(type(value), "__get__"):
            continue
        kind = type(value)
        yield name, (kind, repr(value) if kind is float else value if kind in SCALAR else id(value))
