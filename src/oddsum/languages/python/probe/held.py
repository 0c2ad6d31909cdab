"""The objects that names hold, each known by a number, with what is known of its content.

An object that can change is sent once, as a node (see ``scan.py``), and after that only what
changed in it. After a change in place whose place is plain from the syntax, that one item is sent,
whatever the length of the list; after anything else that may have changed an object, it is scanned
again and sent where it is not as it was.
"""

from __future__ import annotations

import marshal
from types import FunctionType, ModuleType

from .scan import Scan
from .summary import ITEMS, SCALAR, plain_fields

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any

_PLAIN = SCALAR - {complex}
_NUMBERS = _PLAIN - {str}
SHORT = 200  # characters of a text that goes into the log as it is
_MISSING = object()


class Held:
    """One object. ``code`` tells its content as last sent, None where single items were sent."""

    __slots__ = (
        "code",
        "count",
        "deep",
        "flat",
        "indexed",
        "members",
        "number",
        "object",
        "places",
        "row",
        "size",
    )

    def __init__(self, value: Any, number: int) -> None:
        self.object, self.number, self.count = value, number, 0
        self.code: bytes | None = None
        self.flat, self.row, self.deep = (
            True,
            False,
            False,
        )  # deep: objects inside of objects inside
        self.size = -1
        self.members: dict[int, list[Any]] = {}  # objects inside, by id: the paths to them
        self.indexed: list[int] = []  # ids by which it is found from what is inside of it
        self.places: set[tuple[Any, ...]] = set()  # all of those paths

    def scan(self) -> Any:
        """Look at the whole object; returns its node where it is not as it was last sent."""
        seen = Scan(self.object)
        code = _told(seen.node)
        self.flat, self.members = seen.flat, seen.members
        self.places = {path for paths in seen.members.values() for path in paths if path}
        self.deep = any(len(path) > 1 for path in self.places)
        self.row = type(seen.node) is list  # not followed inside
        self.size = len(self.object) if type(self.object) is list else -1
        if code == self.code:
            return _MISSING
        self.code = code
        return seen.node


class Holdings:
    """Everything held by the names of a program, and what is told when it changes."""

    def __init__(self, log: list[Any]) -> None:
        self.log = log
        self.by_id: dict[int, Held] = {}
        self.nested: dict[int, Held] = {}  # by number: those with objects inside
        # By the id of what is inside of them: what holds it, by number.
        self.outers: dict[int, dict[int, Held]] = {}
        self.count = 0
        # By number: no name holds them, but something that is held.
        self.resting: dict[int, Held] = {}
        self.attributes: Any = None  # of classes, see attributes.py
        self.on_nested: Callable[[bool], None] = _nobody  # told when nested is empty no longer

    def hold(self, value: Any) -> Held:
        """The Held of an object that one more name holds."""
        held = self.by_id.get(id(value))
        if held is None:
            self.count += 1
            held = self.by_id[id(value)] = Held(value, self.count)
            node = held.scan()
            self._note_nested(held)
            self.log.extend((held.number, node, "new"))
        held.count += 1
        return held

    def release(self, helds: Iterable[Held]) -> None:
        """Names that held these are gone."""
        for held in helds:
            self.let_go(held)

    def let_go(self, held: Held) -> None:
        """A name that held this is gone."""
        held.count -= 1
        if not held.count:
            if self.nested and self._is_inside(held):
                self.resting[held.number] = held
            else:
                self._drop(held)

    def _is_inside(self, held: Held) -> bool:
        outers = self.outers.get(id(held.object), ())
        return len(outers) > (held.number in outers)

    def _drop(self, held: Held) -> None:
        self.by_id.pop(id(held.object), None)
        self._not_nested(held)
        if self.resting:
            self._sweep()

    def _sweep(self) -> None:
        """Forget objects that no name holds and that are inside of nothing held any longer."""
        resting, self.resting = self.resting, {}
        gone: list[Held] = []
        for held in resting.values():
            if held.count:
                continue
            if self._is_inside(held):
                self.resting[held.number] = held
            else:
                gone.append(held)
        for held in gone:
            self._drop(held)

    def look_again(self) -> None:
        """Look at everything held, and tell what is not as it was."""
        for held in list(self.by_id.values()):
            self._look_at(held)
        if self.attributes:
            self.attributes.look_again()

    def look(self, value: Any) -> None:
        """Look again at one object, and at all that it is inside of."""
        if self.attributes:
            self.attributes.look(value)
        held = self.by_id.get(id(value))
        if held is not None:
            self._look_at(held)
        around = self.outers.get(id(value), {}) if type(value) in _FOLLOWED else self.nested
        for outer in list(around.values()):
            if outer is not held:
                self._look_at(outer)

    def _look_at(self, held: Held) -> None:
        node = held.scan()
        self._note_nested(held)
        if node is not _MISSING:
            self.log.extend((held.number, node, "all"))
            if self.resting:
                self._sweep()

    def _note_nested(self, held: Held) -> None:
        if held.flat:
            self._not_nested(held)
        else:
            if not self.nested:
                self.on_nested(True)
            self.nested[held.number] = held
            self._index(held)

    def _index(self, held: Held) -> None:
        """Have it found from all that is inside of it."""
        outers = self.outers
        for known in held.indexed:
            if known not in held.members:
                _forget(outers, known, held.number)
        for known in held.members:
            around = outers.get(known)
            if around is None:
                outers[known] = {held.number: held}
            else:
                around[held.number] = held
        held.indexed = list(held.members)

    def _not_nested(self, held: Held) -> None:
        for known in held.indexed:
            _forget(self.outers, known, held.number)
        held.indexed = []
        if self.nested.pop(held.number, None) is not None and not self.nested:
            self.on_nested(False)

    # -- changes whose place is known ----------------------------------------------------------

    def item_set(self, target: Any, key: Any) -> None:
        """``target[key] = ...`` was carried out."""
        held = self.by_id.get(id(target))
        if held is None and not self.nested:
            return
        kind = type(target)
        value: Any = _MISSING
        if kind is list:
            if type(key) is int and -len(target) <= key < len(target):
                value = target[key]
                key += len(target) if key < 0 else 0
                plain = held is not None and held.flat and type(value) in _NUMBERS
                if plain and not self.nested and key < ITEMS:  # what most such changes come to
                    held.code = None  # type: ignore[union-attr]
                    self.log.extend((held.number, (), key, value, "set"))  # type: ignore[union-attr]
                    return
                if key >= ITEMS:
                    value = _MISSING
        elif kind is dict and type(key) in _PLAIN:
            value = target.get(key, _MISSING)
        self._tell_item(held, target, key, value)

    def row_set(self, root: Any, one: Any, two: Any) -> None:
        """``root[one][two] = ...`` was carried out: a grid's most usual change."""
        if type(root) is list and type(one) is int and -len(root) <= one < len(root):
            if not self._cell_set(root, one, two):
                self.item_set(root[one], two)
        elif self.by_id:
            self.look_again()

    def _cell_set(self, root: Any, one: int, two: Any) -> bool:
        """The quick way for a number in a grid of numbers that nothing else holds."""
        row, outer = root[one], self.by_id.get(id(root))
        if outer is None or outer.deep or len(self.nested) != 1 or outer.number not in self.nested:
            return False
        if type(row) is not list or type(two) is not int or not 0 <= two < len(row) < ITEMS:
            return False
        value, paths = row[two], outer.members.get(id(row))
        if type(value) not in _NUMBERS or paths is None or len(paths) != 1 or paths[0] != (one,):
            return False
        held = self.by_id.get(id(row))
        if held is not None:
            held.code = None
            self.log.extend((held.number, (), two, value, "set"))
        outer.code = None
        self.log.extend((outer.number, paths[0], two, value, "set"))
        return True

    def attribute_set(self, target: Any, name: str) -> None:
        """``target.name = ...`` was carried out."""
        if type(target) is FunctionType or isinstance(target, (type, ModuleType)):
            self.attributes.set(target, name)
            return
        held = self.by_id.get(id(target))
        if held is None and not self.nested:
            return
        fields = plain_fields(target)
        value = _MISSING if fields is None else fields.get(name, _MISSING)
        self._tell_item(held, target, name, value, "≠" + name)

    def _tell_item(
        self, held: Held | None, target: Any, key: Any, value: Any, step: Any = None
    ) -> None:
        plain = type(value) in _PLAIN and (type(value) is not str or len(value) <= SHORT)
        at = key if step is None else step
        if not plain or (held is not None and (held.row or (at,) in held.places)):
            self.look(target)
            return
        if held is not None:
            held.code = None
            self.log.extend((held.number, (), key, value, "set"))
        if self.nested:
            self._tell_outer(held, target, (key, value, "set"), at)

    def _tell_outer(
        self, held: Held | None, target: Any, change: tuple[Any, ...], at: Any = None
    ) -> None:
        """Tell a change of one item to all that the object is inside of.

        ``at``: where in the object, for something with a place of its own may have stood there.
        """
        known, extend, again = id(target), self.log.extend, []
        for outer in self.outers.get(known, _NONE).values():
            if outer is held:
                continue
            outer.code = None
            for path in outer.members[known]:
                if path is None or (*path, at) in outer.places:
                    again.append(outer)
                    break
                extend((outer.number, path, *change))
        for outer in again:
            self._look_at(outer)

    def appended(self, target: Any) -> None:
        """``target.append(...)`` was carried out."""
        held = self.by_id.get(id(target))
        if held is not None and type(target) is list and not self.nested:
            size = len(target)
            if held.size == size - 1 and type(target[-1]) in _NUMBERS:  # most come to this
                held.size, held.code = size, None
                self.log.extend((held.number, (), target[-1], "add"))
                return
        if held is None and not self.nested:
            return
        if type(target) is not list or not target or (held and held.size != len(target) - 1):
            self.look(target)
            return
        value = target[-1]
        if type(value) in _PLAIN and (type(value) is not str or len(value) <= SHORT):
            if held is not None:
                held.size, held.code = len(target), None
                self.log.extend((held.number, (), value, "add"))
            if self.nested:
                self._tell_outer(held, target, (value, "add"))
        elif held is None or id(target) in self.outers:
            self.look(target)
        else:
            self._append_node(held, value)

    def appended_in(self, root: Any, name: str) -> None:
        """``root.name.append(...)`` was carried out."""
        if not self.by_id:
            return
        fields = plain_fields(root)
        target = _MISSING if fields is None else fields.get(name, _MISSING)
        if target is _MISSING or target is root:
            self.look_again()
        else:
            self.appended(target)

    def _append_node(self, held: Held, value: Any) -> None:
        """An object was appended to a list that is in no other: only the object is scanned."""
        place = held.size
        held.size, held.code = place + 1, None
        seen = Scan([value])
        held.flat = held.flat and seen.flat
        for number, paths in seen.members.items():
            moved = [path and (place, *path[1:]) for path in paths]
            held.members.setdefault(number, []).extend(moved)
            held.deep = held.deep or any(path and len(path) > 1 for path in moved)
            held.places.update(filter(None, moved))
        self._note_nested(held)
        self.log.extend((held.number, (), seen.node[2][0], "add"))

    def emptied(self, target: Any) -> None:
        """A list is empty for as long as it is sorted; what it comes to then is looked at after."""
        held = self.by_id.get(id(target))
        if held is not None:
            held.code, held.size = None, -1
            self.log.extend((held.number, ("list", 0, []), "all"))
        if self.nested and len(target) <= ITEMS:
            for _ in target:
                self._tell_outer(held, target, (-1, "drop"))

    def popped(self, target: Any, place: int) -> None:
        """``target.pop(place)`` was carried out, with 0 or -1 for the place."""
        held = self.by_id.get(id(target))
        if held is None and not self.nested:
            return
        simple = held is not None and type(target) is list and held.size == len(target) + 1
        if not simple or held is None or not held.flat or held.size > ITEMS:
            self.look(target)
            return
        held.size, held.code = len(target), None
        self.log.extend((held.number, (), place, "drop"))
        if self.nested:
            self._tell_outer(held, target, (place, "drop"))


def _nobody(_: bool) -> None:
    pass


def _forget(outers: dict[int, dict[int, Held]], known: int, number: int) -> None:
    """Something is not inside of the object of that number any more."""
    around = outers.get(known)
    if around is not None and around.pop(number, None) is not None and not around:
        del outers[known]


_NONE: dict[int, Held] = {}


_FOLLOWED = frozenset({list, dict, set})


def _told(node: Any) -> bytes | None:
    """A node as bytes: equal where it reads the same. Version 2 knows no references."""
    try:
        return marshal.dumps(node, 2)
    except ValueError:
        return None
