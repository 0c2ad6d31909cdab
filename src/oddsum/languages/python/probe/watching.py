"""Watches: expressions worked out at every step, on the program's own values.

What could run code of the program's own, or change something, is not done: operators only on plain
values, indexes only on built-in containers, attributes read past any ``__getattribute__``. The
expression has been looked through by the tool before.
"""

from __future__ import annotations

import ast
import builtins
import operator

from .hooks import plain_value
from .scan import CONTAINERS
from .summary import SCALAR, own_attributes

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_PLAIN = SCALAR | CONTAINERS | {bytes, range}
_ALLOWED = (
    abs,
    all,
    any,
    bool,
    float,
    int,
    len,
    list,
    max,
    min,
    round,
    set,
    sorted,
    str,
    sum,
    tuple,
)
_CALLS: dict[str, Any] = {f.__name__: f for f in (*_ALLOWED, tuple)}
_BINARY = {
    ast.Add: operator.add, ast.Sub: operator.sub, ast.Mult: operator.mul, ast.Mod: operator.mod,
    ast.Div: operator.truediv, ast.FloorDiv: operator.floordiv, ast.BitAnd: operator.and_,
    ast.BitOr: operator.or_, ast.BitXor: operator.xor, ast.RShift: operator.rshift,
    ast.LShift: operator.lshift, ast.Pow: operator.pow,
}  # fmt: skip
_COMPARE: dict[Any, Any] = {
    ast.Eq: operator.eq, ast.NotEq: operator.ne, ast.Lt: operator.lt, ast.LtE: operator.le,
    ast.Gt: operator.gt, ast.GtE: operator.ge, ast.Is: operator.is_, ast.IsNot: operator.is_not,
    ast.In: lambda a, b: a in b, ast.NotIn: lambda a, b: a not in b,
}  # fmt: skip
_LARGE = 100_000  # digits or items


class Unknown(Exception):
    """There is no answer here; the text says why."""


class Watching:
    """Works the watches out before each visit and return, and notes what changed."""

    def __init__(self, recorder: Any, texts: list[str]) -> None:
        self.recorder = recorder
        self.trees = [ast.parse(text.strip(), mode="eval").body for text in texts]
        self.last: list[Any] = [None] * len(texts)
        self.begun = False  # before the first step there is no row to note anything in

    def install(self) -> None:
        """Put them where nothing is noted, between statements, and before a function returns."""
        returned, note = getattr(builtins, "≠r"), getattr(builtins, "≠x")

        def watch_or_note(told: Any) -> None:
            if told:
                note(told)
            else:
                self.look(self.recorder.frame_here())

        def watch_and_return(value: Any) -> Any:
            self.look(self.recorder.frame_here())
            return returned(value)

        setattr(builtins, "≠x", watch_or_note)
        setattr(builtins, "≠r", watch_and_return)

    def look(self, frame: Any) -> None:
        """Work all of them out in a frame."""
        if not self.begun:
            self.begun = True
            return
        for n, tree in enumerate(self.trees):
            try:
                told = plain_value(_Worker(frame).work(tree))
            except Unknown as why:
                told = ["unknown", f"({why})", None, False]
            except Exception as error:
                told = ["unknown", f"({type(error).__name__}: {error})", None, False]
            if repr(told) != repr(self.last[n]):
                self.last[n] = told
                self.recorder.log.extend((n, told, "w"))


class _Worker:
    def __init__(self, frame: Any) -> None:
        self.frame = frame

    def work(self, node: Any) -> Any:
        method: Any = getattr(self, "_" + type(node).__name__, None)
        if method is None:
            raise Unknown("this cannot be watched")
        return method(node)

    @staticmethod
    def _plain(value: Any) -> Any:
        kind = type(value)
        if kind not in _PLAIN:
            raise Unknown(f"what a {kind.__name__} does here is its class's own code")
        if kind in CONTAINERS:
            parts = list(value) + (list(value.values()) if kind is dict else [])
            for part in parts:
                if type(part) not in SCALAR:
                    _Worker._plain(part)
        return value

    def _Constant(self, node: Any) -> Any:
        return node.value

    def _Name(self, node: Any) -> Any:
        for names in (self.frame.f_locals, self.frame.f_globals):
            if node.id in names:
                return names[node.id]
        raise Unknown(f"{node.id} has no value yet")

    def _Attribute(self, node: Any) -> Any:
        fields = own_attributes(self.work(node.value))
        if node.attr not in fields:
            raise Unknown(f"no plain attribute {node.attr}")
        return fields[node.attr]

    def _Subscript(self, node: Any) -> Any:
        value, index = self.work(node.value), self.work(node.slice)
        if type(value) not in (list, tuple, dict, str, range, bytes):
            raise Unknown("only built-in containers are looked into")
        return value[self._plain(index) if type(index) is not slice else index]

    def _Index(self, node: Any) -> Any:
        return self.work(node.value)

    def _Slice(self, node: Any) -> Any:
        parts = [n and self._plain(self.work(n)) for n in (node.lower, node.upper, node.step)]
        return slice(*parts)

    def _BinOp(self, node: Any) -> Any:
        left, right = self._plain(self.work(node.left)), self._plain(self.work(node.right))
        _refuse_large(node.op, left, right)
        return _BINARY[type(node.op)](left, right)

    def _UnaryOp(self, node: Any) -> Any:
        value = self._plain(self.work(node.operand))
        if isinstance(node.op, ast.Not):
            return not value
        return -value if isinstance(node.op, ast.USub) else +value

    def _BoolOp(self, node: Any) -> Any:
        value = None
        for part in node.values:
            value = self._plain(self.work(part))
            if bool(value) is isinstance(node.op, ast.Or):
                break
        return value

    def _Compare(self, node: Any) -> Any:
        left = self.work(node.left)
        for sign, part in zip(node.ops, node.comparators):
            right = self.work(part)
            if not isinstance(sign, (ast.Is, ast.IsNot)):
                self._plain(left), self._plain(right)
            if not _COMPARE[type(sign)](left, right):
                return False
            left = right
        return True

    def _IfExp(self, node: Any) -> Any:
        return self.work(node.body if self._plain(self.work(node.test)) else node.orelse)

    def _Call(self, node: Any) -> Any:
        args = [self.work(a) for a in node.args]
        name = node.func.id
        if name == "len" and type(args[0]) in _PLAIN:
            return len(args[0])
        return _CALLS[name](*[self._plain(a) for a in args])

    def _List(self, node: Any) -> Any:
        return [self.work(n) for n in node.elts]

    def _Tuple(self, node: Any) -> Any:
        return tuple(self.work(n) for n in node.elts)

    def _Set(self, node: Any) -> Any:
        return {self._plain(self.work(n)) for n in node.elts}

    def _Dict(self, node: Any) -> Any:
        return {self._plain(self.work(k)): self.work(v) for k, v in zip(node.keys, node.values)}


def _refuse_large(sign: Any, left: Any, right: Any) -> None:
    if isinstance(sign, (ast.Pow, ast.LShift)) and type(right) is int and abs(right) > _LARGE:
        raise Unknown("too large a number")
    if isinstance(sign, ast.Pow) and type(left) is int and type(right) is int:
        if left.bit_length() * abs(right) > _LARGE:
            raise Unknown("too large a number")
    if isinstance(sign, ast.Mult):
        for items, count in ((left, right), (right, left)):
            if type(items) in (str, list, tuple) and type(count) is int:
                if len(items) * count > _LARGE:
                    raise Unknown("too long")
