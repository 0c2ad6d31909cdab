"""Expressions that give the values that would be right, found without running the program.

A *moment* is one visit of an expression: the names it could read there, with their values, and what
it has to give. Expressions are built from the bottom up, first those that stand in the program
already, then names, attributes, items, constants and what common functions and operators make of
them. Two that give the same at all moments are one (observational equivalence), so only the first,
the smallest and nearest, is kept. What two operands have to be is looked up from the one and the
value that is wanted. Functions of the program may be called; what a call changes in the names stays
for the expressions after it. What is found is no more than a proposal: it is tried like any edit.

Sources: R. Alur et al., "Syntax-guided synthesis", FMCAD 2013; A. Udupa et al., "TRANSIT:
specifying protocols with concolic snippets", PLDI 2013 (bottom-up enumeration with observational
equivalence).
"""

from __future__ import annotations

import ast
import operator
import time

from .guards import GuardStop
from .solving import Moment

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence
    from typing import Any

    from .sites import Place

MOST = 24  # expressions that are told
_MOST_LEAVES = 60
_MOST_EXTREMES = 30
_MOST_PAIRS = 900  # expressions of one operator, that others are looked for beside
_LARGEST = 8.0  # size of an expression that is told
_FOR_SOME = 0.65  # of the time: for values; the rest for conditions under which they are due
_MOST_OTHER, _MOST_CONDITIONS = 3, 6
_OF_A_CONDITION = 2.5  # its size: a name, and what is asked of it
_FIXED = (int, float, str, bool, type(None))
_LONG = 4_000  # letters of a text, items of a list: longer ones are not made
_UNARY = ("len", "sum", "max", "min", "abs", "round", "int", "str", "sorted", "float")
_METHODS: dict[Any, tuple[str, ...]] = {
    str: ("strip", "lower", "upper", "title", "split", "isdigit", "isupper", "isalpha"),
    dict: ("values", "keys"),
}
_SIGNS: dict[str, Callable[[Any, Any], Any]] = {
    "+": operator.add, "-": operator.sub, "*": operator.mul, "/": operator.truediv,
    "//": operator.floordiv, "%": operator.mod,
}  # fmt: skip
_ASKING: dict[str, Callable[[Any, Any], Any]] = {
    "<": operator.lt, "<=": operator.le, ">": operator.gt, ">=": operator.ge,
    "==": operator.eq, "!=": operator.ne,
}  # fmt: skip
_NUMBERS = (int, float)
_FAILED = object()


class Made:
    """An expression with what it gives at each moment, in order; ``size`` counts its parts.

    ``loose``: it needs parentheses beside an operator.
    """

    def __init__(self, text: str, values: list[Any], size: float, loose: bool = False) -> None:
        self.text, self.values, self.size, self.loose = text, values, size, loose

    @property
    def closed(self) -> str:
        """The text as an operand."""
        return f"({self.text})" if self.loose else self.text


def expressions(
    place: Place,
    text: str,
    moments: list[Moment],
    seconds: float,
    calls: Callable[[bool], None] = lambda _: None,
    when: bool = False,
    known: Sequence[str] = (),
) -> list[tuple[str, float]]:
    """Expressions that could stand at a place, the smallest and nearest first, with their size.

    ``when``: it is a condition that is looked for, true where a moment is needed and nowhere else,
    not what stands there; ``known`` are conditions under which a value was found to be right.
    ``calls`` is told before and after anything of the program may be called.
    """
    if not any(m.needed for m in moments):
        return []
    if when:
        moments = [Moment(m.names, m.needed, True) for m in moments]
    some = any(not m.needed for m in moments) and not when
    search = _Search(place, text, moments, seconds * (_FOR_SOME if some else 1), calls, when)
    search.find(known if when else ())
    right = dict(search.right)
    if some:
        holding = expressions(place, text, moments, seconds * (1 - _FOR_SOME), calls, True, known)
        right.update(_in_some_rounds(search, holding))
    return sorted(right.items(), key=lambda pair: pair[1])[:MOST]


def _in_some_rounds(search: _Search, holding: list[tuple[str, float]]) -> dict[str, float]:
    """Conditional expressions: another value where a condition holds, else what stands there."""
    wanted = search.wanted[: search.needed]
    other = sorted(search.needed_size.items(), key=lambda pair: pair[1])[:_MOST_OTHER]
    if all(type(w) in _FIXED and _key([w]) == _key(wanted[:1]) for w in wanted):
        fixed = repr(wanted[0])
        other = [(fixed, 1.0 + len(fixed) / 20), *other]
    there = search.place.text
    if "\n" in there or not other:
        return {}
    made = {}
    for condition, size in holding[:_MOST_CONDITIONS]:
        for text, own in other:
            made[f"{text} if {condition} else {there}"] = own + size
    return made


class _Search:
    def __init__(
        self,
        place: Place,
        text: str,
        moments: list[Moment],
        seconds: float,
        calls: Callable[[bool], None],
        when: bool,
    ) -> None:
        self.place, self.calls, self.when = place, calls, when
        self.begun, self.seconds = time.monotonic(), seconds
        self.moments = sorted(moments, key=lambda m: not m.needed)
        self.needed = sum(m.needed for m in moments)  # so many come first: these values are right
        self.wanted = [m.wanted for m in self.moments]
        self.key = _key(self.wanted[: self.needed])
        self.by_needed: dict[Any, Made] = {}
        # The more values it has to give, the less it says by chance: so large it may be then.
        different = len({_key([w]) for w in self.wanted[: self.needed]})
        self.largest = min(_LARGEST, 3.5 + min(different, self.needed))
        self.words = set(_words(place.text))
        self.tree = ast.parse(text)
        self.text = text
        self.known: dict[Any, Made] = {}
        self.right: dict[str, float] = {}
        self.needed_size: dict[str, float] = {}  # their own size, whatever they give elsewhere

    def find(self, holding: Sequence[str]) -> None:
        """Look for expressions until the time is over, or there are enough; ``holding``: conditions
        that are looked at first."""
        for text in dict.fromkeys(holding):
            for made in self._texts(text):
                made.size = _OF_A_CONDITION
                self._take(made)
        for stage, share in (
            (self._standing, 0.3), (self._leaves, 0.4), (self._inside, 0.6), (self._unary, 0.7),
            (self._binary, 0.85), (self._truths, 1.0),
        ):  # fmt: skip
            if self.when and stage in (self._standing, self._inside):
                continue  # a condition of its own has nothing to do with what stands there
            until = self.begun + share * self.seconds
            for made in stage():
                self._take(made)
                if len(self.right) >= 4 * MOST:
                    return
                if time.monotonic() > until:
                    break

    def _take(self, made: Made) -> None:
        """Keep an expression, where none that gives the same is known."""
        key = _key(made.values)
        if key is None:
            return
        if key[: self.needed] == self.key:
            text = made.text
            if text != self.place.text and text not in self.right and made.size <= self.largest:
                self.needed_size[text] = made.size
                self.right[text] = made.size + self._far(text) + self._other(key)
        self.known.setdefault(key, made)
        self.by_needed.setdefault(key[: self.needed], made)

    def _other(self, key: Any) -> float:
        """What other values cost where nothing is wrong: a mend should change little there."""
        rest = len(self.wanted) - self.needed
        gave = _key(self.wanted) or ()
        unlike = sum(a != b for a, b in zip(key[self.needed :], gave[self.needed :]))
        return 3 * unlike / rest if rest else 0.0

    def _far(self, text: str) -> float:
        """How unlike what stands there: the share of words that one has and the other has not."""
        words = set(_words(text))
        both = words | self.words
        return 3 * len(words ^ self.words) / len(both) if both else 0.0

    # -- stages --------------------------------------------------------------------------------

    def _standing(self) -> Iterator[Made]:
        """Expressions that stand in the program already."""
        there = self._of_text(self.place.text)
        if there is not None:
            there.size = 1.0  # what is made of it is nearest to it
            yield there
        seen = {self.place.text}
        found: list[tuple[int, str]] = []
        for node in ast.walk(self.tree):
            if not isinstance(node, ast.expr) or isinstance(node, _NOT_TAKEN):
                continue
            if not isinstance(getattr(node, "ctx", None) or ast.Load(), ast.Load):
                continue
            line = getattr(node, "lineno", 0)
            written = ast.get_source_segment(self.text, node) if line else None
            if written and "\n" not in written and written not in seen and len(written) < 100:
                seen.add(written)
                found.append((abs(line - self.place.line), written))
        for far, written in sorted(found)[:150]:
            made = self._of_text(written)
            if made is not None:
                made.size = 1.5 + min(far, 40) / 40  # it stands there: one thing, not its parts
                yield made

    def _of_text(self, text: str, right: bool = False) -> Made | None:
        """What a text gives at each moment; None where it does not, or is not ``right`` at once."""
        try:
            code = compile(text, "<expression>", "eval", dont_inherit=True)
        except (SyntaxError, ValueError):
            return None
        values: list[Any] = []
        for moment, wanted in zip(self.moments, self.wanted):
            value = self._value(code, moment)
            if value is _FAILED:
                return None
            if right and len(values) < self.needed and _key([value]) != _key([wanted]):
                return None
            values.append(value)
        loose = not isinstance(ast.parse(text, mode="eval").body, _SIMPLE)
        return Made(text, values, 1, loose)

    def _value(self, code: Any, moment: Moment) -> Any:
        self.calls(True)
        try:
            value = eval(code, {"__builtins__": _PURE, **moment.names})
        except (Exception, GuardStop):
            return _FAILED
        finally:
            self.calls(False)
        return value if _fits(value) else _FAILED

    def _leaves(self) -> Iterator[Made]:
        """Names, attributes and items, constants of the program, 0, 1 and the empty ones."""
        names = list(dict.fromkeys(n for m in self.moments for n in m.names))
        for name in names[:_MOST_LEAVES]:
            made = self._of_text(name)
            if made is not None:
                yield made
                if type(made.values[0]) is list:
                    yield from self._texts(f"{name}[0]", f"{name}[-1]", f"{name}[1:]",
                                           f"{name}[:-1]", f"{name}[::-1]")  # fmt: skip
            else:
                thing = self.moments[0].names.get(name)
                yield from self._texts(*(f"{name}.{a}" for a in sorted(vars_of(thing))))
        for node in ast.walk(self.tree):
            if isinstance(node, ast.Constant) and type(node.value) in (int, float, str):
                if type(node.value) is not str or len(node.value) < 20:
                    yield from self._texts(repr(node.value))
        if all(type(w) is bool for w in self.wanted[: self.needed]):
            yield from self._limits(names)
        yield from self._texts("0", "1", "2", "-1", "True", "False", "None", "[]", "''")

    def _limits(self, names: list[str]) -> Iterator[Made]:
        """Numbers that part the moments at which a condition holds from the others, by name."""
        for name in names[:_MOST_LEAVES]:
            values = [m.names.get(name) for m in self.moments]
            if not _all_numbers(values):
                continue
            sides: dict[bool, list[Any]] = {True: [], False: []}
            for value, wanted in zip(values, self.wanted):
                sides[bool(wanted)].append(value)
            if sides[True] and sides[False]:
                ends = (min(sides[True]), max(sides[True]), min(sides[False]), max(sides[False]))
                yield from self._texts(*(repr(n) for n in dict.fromkeys(ends)))

    def _inside(self) -> Iterator[Made]:
        """What stands there with one part of it changed: a name, an attribute, an operand more."""
        try:
            whole = ast.parse(self.place.text, mode="eval").body
        except SyntaxError:
            return
        written = self.place.text
        if "\n" in written or len(written) > 160 or not written.isascii():
            return
        leaves = self._near_leaves(whole)
        for node in ast.walk(whole):
            if node is whole or not isinstance(node, ast.expr) or isinstance(node, ast.Starred):
                continue
            if not isinstance(getattr(node, "ctx", _LOAD), ast.Load):
                continue
            start, stop = node.col_offset, node.end_col_offset or 0
            old = written[start:stop]
            for new, size in _changed(node, old, leaves):
                text = written[:start] + new + written[stop:]
                made = self._of_text(text, right=True)
                if made is not None:
                    made.size = size
                    yield made

    def _near_leaves(self, whole: Any) -> list[str]:
        """Names that the expression has or could have, and attributes that stand somewhere."""
        own = [n.id for n in ast.walk(whole) if isinstance(n, ast.Name)]
        names = list(dict.fromkeys([*own, *self.moments[0].names]))
        plain = [n for n in names if not callable(self.moments[0].names.get(n))][:14]
        attributes = dict.fromkeys(
            n.attr for n in ast.walk(self.tree)
            if isinstance(n, ast.Attribute) and isinstance(n.value, ast.Name)
        )  # fmt: skip
        bases = dict.fromkeys(
            n.value.id for n in ast.walk(whole)
            if isinstance(n, ast.Attribute) and isinstance(n.value, ast.Name)
        )  # fmt: skip
        return plain + [f"{base}.{a}" for base in bases for a in attributes][:14]

    def _texts(self, *texts: str) -> Iterator[Made]:
        for text in texts:
            made = self._of_text(text)
            if made is not None:
                made.size = 1 + 0.5 * (len(text) > 3 and not text.isidentifier())
                yield made

    def _unary(self) -> Iterator[Made]:
        """What common functions and methods make of what is known."""
        for one in self._few(250):
            if _is_constant(one.text):
                continue
            first = one.values[0]
            for name in _UNARY:
                if _takes(name, first):
                    yield from self._texts_of(f"{name}({one.text})", one.size + 1)
            for method in _METHODS.get(type(first), ()):
                yield from self._texts_of(f"{one.closed}.{method}()", one.size + 1)
            if type(first) in (bool,):
                yield Made(f"not {one.closed}", [not v for v in one.values], one.size + 1, True)
            if type(first) in _NUMBERS:
                yield from self._texts_of(f"-{one.closed}", one.size + 1)
                if type(first) is float:
                    yield from self._texts_of(f"round({one.text}, 2)", one.size + 1.5)

    def _texts_of(self, text: str, size: float) -> Iterator[Made]:
        made = self._of_text(text)
        if made is not None:
            made.size = size
            yield made

    def _binary(self) -> Iterator[Made]:
        """What operators make of two, then what is wanted of one of these and something else."""
        if type(self.wanted[0]) in _NUMBERS:
            yield from self._numbers()
        elif type(self.wanted[0]) in (str, list):
            same = [m for m in self._few(120) if type(m.values[0]) is type(self.wanted[0])]
            if type(self.wanted[0]) is list:
                same = [*self._lists_of_one(), *same]
            for one in same:
                for other in same:
                    yield from self._pair(one, other, "+")
        keyed = [m for m in self._few(160) if type(m.values[0]) in (list, dict, str, tuple)]
        keys = [m for m in self._few(60) if type(m.values[0]) in (int, str)]
        for one in keyed[:40]:
            for key in keys:
                values = _each(operator.getitem, one.values, key.values)
                if values is not None:
                    yield Made(f"{one.closed}[{key.text}]", values, one.size + key.size + 0.5)

    def _lists_of_one(self) -> list[Made]:
        """Lists of one item."""
        some = [m for m in self._few(60) if type(m.values[0]) in (int, float, str, tuple, dict)]
        some = [m for m in some if not _is_constant(m.text)]
        return [Made(f"[{m.text}]", [[v] for v in m.values], m.size + 0.5) for m in some[:20]]

    def _pair(self, one: Made, other: Made, sign: str) -> Iterator[Made]:
        if _is_idle(one.text, sign, other.text):
            return
        values = _each(_SIGNS[sign], one.values, other.values)
        if values is not None:
            yield Made(
                f"{one.closed} {sign} {other.closed}", values, one.size + other.size + 0.5, True
            )

    def _numbers(self) -> Iterator[Made]:
        leaves = [m for m in self._few(400) if _all_numbers(m.values)][:_MOST_LEAVES]
        for one in leaves:
            for other in leaves:
                for sign in _SIGNS:
                    if sign in "+*" and one.text > other.text:
                        continue
                    yield from self._pair(one, other, sign)
        yield from self._extremes(leaves[:_MOST_EXTREMES])
        many = [m for m in self._few(4000) if _all_numbers(m.values)][:_MOST_PAIRS]
        if not _all_numbers(self.wanted[: self.needed]):
            return
        for one in many:
            yield from self._beside(one)

    def _extremes(self, some: list[Made]) -> Iterator[Made]:
        """The larger and the smaller of two."""
        for number, one in enumerate(some):
            for other in some[number + 1 :]:
                if not (_is_constant(one.text) and _is_constant(other.text)):
                    size = one.size + other.size + 0.5
                    pairs = list(zip(one.values, other.values))
                    for name, which in (("max", max), ("min", min)):
                        values = [which(pair) for pair in pairs]
                        yield Made(f"{name}({one.text}, {other.text})", values, size)

    def _beside(self, one: Made) -> Iterator[Made]:
        """``one`` and an operator and something known that give what is wanted."""
        for sign, inverse, turned in _INVERSE:
            count = self.needed
            values = _each(inverse, self.wanted[:count], one.values[:count])
            other = self.by_needed.get(_key(values)) if values is not None else None
            if other is not None:
                first, second = (other, one) if turned else (one, other)
                yield from self._pair(first, second, sign)

    def _truths(self) -> Iterator[Made]:
        """Conditions: comparisons, and what is there with one of them beside it."""
        if not all(type(w) is bool for w in self.wanted[: self.needed]):
            return
        some = self._few(70)
        made: list[Made] = []
        for one in some:
            for other in some:
                if one is other:
                    continue
                made += _compared(one, other)
        yield from made
        here = None if self.when else self._of_text(self.place.text)
        if here is None:
            return
        truths = [bool(v) for v in here.values]
        for one in sorted(made, key=lambda m: m.size)[:3000]:
            both = [a and bool(b) for a, b in zip(truths, one.values)]
            either = [a or bool(b) for a, b in zip(truths, one.values)]
            yield Made(f"{here.closed} and {one.text}", both, 1 + one.size, True)
            yield Made(f"{here.closed} or {one.text}", either, 1 + one.size, True)

    def _few(self, most: int) -> list[Made]:
        """The smallest of what is known."""
        return sorted(self.known.values(), key=lambda m: m.size)[:most]


def _compared(one: Made, other: Made) -> list[Made]:
    """What two of them come to beside each other: by size, alike or not, one in the other."""
    a, b = one.values[0], other.values[0]
    size = one.size + other.size + 0.5
    made: list[Made] = []
    signs: tuple[str, ...] = ()
    if _is_constant(one.text):
        return made  # `age > 5`, not `5 < age`
    either = one.text < other.text or _is_constant(other.text)
    if type(a) in _NUMBERS and type(b) in _NUMBERS:
        signs = ("<", "<=", *((">", ">=") if _is_constant(other.text) else ()))
        signs += ("==", "!=") if either else ()
    elif type(a) is type(b) is str:
        signs = ("==", "!=") if either else ()
    for sign in signs:
        values = _each(_ASKING[sign], one.values, other.values)
        if values is not None:
            text = f"{one.closed} {sign} {other.closed}"
            made.append(Made(text, values, size + _alone(sign, other.text), True))
    if type(b) in (list, dict, set, tuple) or (type(a) is type(b) is str):
        values = _each(_is_in, one.values, other.values)
        if values is not None:
            made.append(Made(f"{one.closed} in {other.closed}", values, size, True))
            turned = [not v for v in values]
            made.append(Made(f"{one.closed} not in {other.closed}", turned, size, True))
    return made


def _changed(node: Any, old: str, leaves: list[str]) -> Iterator[tuple[str, float]]:
    """Other texts for a part of an expression, with what they cost."""
    is_name = isinstance(node, (ast.Name, ast.Attribute, ast.Subscript))
    for leaf in leaves:
        if leaf == old:
            continue
        if is_name or isinstance(node, ast.Constant):
            yield leaf, 2.2
        if is_name or isinstance(node, ast.Call):
            for sign in ("*", "+", "-", "/"):
                yield f"{old} {sign} {leaf}", 3.0
    if isinstance(node, ast.Constant) and type(node.value) is int:
        for number in (0, 1, 2, 10, 60, 100):
            yield str(number), 2.4


_LOAD = ast.Load()
_NOT_TAKEN = (ast.Starred, ast.Lambda, ast.Constant, ast.JoinedStr)
_SIMPLE = (ast.Name, ast.Call, ast.Attribute, ast.Subscript, ast.Constant, ast.List, ast.Dict)
_INVERSE: tuple[tuple[str, Callable[[Any, Any], Any], bool], ...] = (
    ("+", lambda w, a: w - a, False),
    ("-", lambda w, a: a - w, False),
    ("-", lambda w, a: w + a, True),
    ("*", lambda w, a: _whole(w / a), False),
    ("/", lambda w, a: _whole(a / w), False),
    ("/", lambda w, a: _whole(w * a), True),
)
_PURE = {n: getattr(__import__("builtins"), n) for n in
         ("len", "sum", "max", "min", "abs", "round", "int", "str", "float", "sorted", "any",
          "all", "list", "dict", "set", "tuple", "range", "enumerate", "zip", "reversed",
          "True", "False", "None", "bool", "ord", "chr", "divmod") if hasattr(
             __import__("builtins"), n)}  # fmt: skip


def _whole(value: Any) -> Any:
    return int(value) if isinstance(value, float) and value.is_integer() else value


def _is_idle(one: str, sign: str, other: str) -> bool:
    """Whether an operator changes nothing, or has nothing but constants beside it."""
    if _is_constant(one) and _is_constant(other):
        return True
    if other in ("0", "0.0", "''", "[]"):
        return sign in "+-"
    if other in ("1", "-1", "1.0") or other[:1] == "-" or one[:1] == "-":
        return sign in ("*", "/", "//", "%") or other[:1] == "-" or one[:1] == "-"
    return (one in ("0", "0.0", "''", "[]") and sign == "+") or (one == "1" and sign == "*")


def _alone(sign: str, other: str) -> float:
    """What a comparison costs that holds for one value alone, of which less is to be said; that
    there is none of something is said often, and in this way."""
    if sign not in ("==", "!="):
        return 0.0
    return -0.25 if other == "0" else 1.0


def _is_constant(text: str) -> bool:
    return (
        text[:1] in "0123456789'\"" or text[:2] in ("-1", "(-") or text in ("True", "False", "[]")
    )


def _is_in(one: Any, other: Any) -> bool:
    return bool(one in other)


def _each(make: Callable[[Any, Any], Any], ones: list[Any], others: list[Any]) -> list[Any] | None:
    """What an operator makes of two lists of values, one by one; None where it cannot."""
    made = []
    try:
        for a, b in zip(ones, others):
            if make is operator.mul and not (type(a) in _NUMBERS and type(b) in _NUMBERS):
                return None  # a text or list many times over
            value = make(a, b)
            if not _fits(value):
                return None
            made.append(value)
    except Exception:
        return None
    return made


def _fits(value: Any) -> bool:
    """Whether a value is plain and of a size that can be looked through."""
    kind = type(value)
    if kind is int:
        return bool(-(1 << 62) < value < 1 << 62)
    if kind in (str, list, tuple, dict, set):
        return bool(len(value) <= _LONG)
    return kind in (float, bool) or value is None


def _takes(name: str, value: Any) -> bool:
    if name in ("len", "sorted"):
        return type(value) in (list, tuple, dict, set, str)
    if name in ("sum", "max", "min"):
        return type(value) in (list, tuple, set) and bool(value)
    if name in ("abs", "round", "int", "float"):
        return type(value) in _NUMBERS or (type(value) is str and name in ("int", "float"))
    return type(value) in _NUMBERS


def _all_numbers(values: list[Any]) -> bool:
    return all(type(v) in _NUMBERS for v in values)


def _key(values: list[Any]) -> Any:
    """What tells values apart: 6 and 6.0 are one, and so are fractions that differ by noise."""
    parts: list[Any] = []
    for value in values:
        if type(value) is float:
            parts.append(float("%.10g" % value))
        elif type(value) in (int, bool, str) or value is None:
            parts.append((value,) if type(value) is bool else value)
        else:
            try:
                parts.append(repr(value))
            except Exception:
                return None
    return tuple(parts)


def _words(text: str) -> list[str]:
    return "".join(c if c.isalnum() or c == "_" else " " for c in text).split()


def vars_of(thing: Any) -> list[str]:
    """The attributes of an object that are plain values of its own."""
    try:
        return [k for k, v in thing.__dict__.items() if not k.startswith("_") and _fits(v)]
    except AttributeError:
        return []
