"""Questions in JavaScript, asked of recorded values: worked out here, so that nothing can change.

What could run the program's own code, or never end, is refused where it is typed.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript import conversions as to
from oddsum.languages.javascript.literals import number_of, string_of
from oddsum.languages.javascript.parsing import Tree, walk
from oddsum.languages.javascript.scalars import NULL, UNDEFINED, key, string
from oddsum.languages.questions import QuestionError, Unanswered

_LARGEST = 1_000_000  # items or characters that a question may make
_WHY = {
    "assignment_expression": "it would give a name a value",
    "update_expression": "it would change a name",
    "augmented_assignment_expression": "it would change a name",
    "await_expression": "it would wait",
    "yield_expression": "it would leave the function", "arrow_function": "it makes a function",
    "function_expression": "it makes a function", "new_expression": "it makes an object",
    "class": "it makes a class", "spread_element": "dots have no meaning here",
}  # fmt: skip
_SAID: dict[str, Any] = {"undefined": UNDEFINED, "NaN": math.nan, "Infinity": math.inf}


class Question:
    """An expression over the variables of a moment."""

    def __init__(self, text: str) -> None:
        self.text = text.strip()
        self._tree = Tree(f"({self.text}\n)")
        self._node = _expression_in(self._tree, self.text)
        for node in walk(self._node):
            self._refuse(node)
        self.names = tuple(dict.fromkeys(_names(self._node, self._tree)))

    def ask(self, values: Mapping[str, Any]) -> Any:
        """The answer for these values of its names; raises Unanswered where there is none."""
        missing = [n for n in self.names if n not in values]
        if missing:
            raise Unanswered(f"{missing[0]} has no value here.")
        try:
            return _Answer(self._tree, values).of(self._node)
        except Unanswered:
            raise
        except Exception as error:
            raise Unanswered(f"{type(error).__name__}: {error}") from None

    def _refuse(self, node: Node) -> None:
        column = max(1, self._tree.start(node))
        if node.type == "call_expression" and _called(node, self._tree) is None:
            name = self._tree.of(node.child_by_field_name("function"))
            raise QuestionError(
                f"Calling {name}() could change the program.",
                hint=f"These can be called: {', '.join(_CALLABLE)}.",
                column=column,
            )
        if node.type in _WHY or (
            node.type == "unary_expression" and self._operator(node) == "delete"
        ):
            why = _WHY.get(node.type, "it would take something away")
            raise QuestionError(f"This cannot be asked: {why}.", column=column)

    def _operator(self, node: Node) -> str:
        return self._tree.of(node.child_by_field_name("operator"))


def _expression_in(tree: Tree, text: str) -> Node:
    if not text:
        raise QuestionError("Nothing is asked.", hint="Write a condition, such as total > 20.")
    statements = [n for n in tree.root.named_children if n.type != "comment"]
    if (
        tree.fault is not None
        or len(statements) != 1
        or statements[0].type != "expression_statement"
    ):
        hint = "Three equal signs compare: total === 24." if "=" in text else ""
        raise QuestionError(
            "This cannot be read as an expression of JavaScript.", hint=hint, column=1
        )
    return statements[0].named_children[0]


def _names(node: Node, tree: Tree) -> Iterator[str]:
    for inner in walk(node):
        if inner.type == "this":
            yield "this"
        if (
            inner.type not in ("identifier", "shorthand_property_identifier")
            or tree.of(inner) in _SAID
        ):
            continue
        above = inner.parent
        called = (
            above is not None
            and above.type == "call_expression"
            and (above.child_by_field_name("function") == inner)
        )
        library = (
            tree.of(inner) in _LIBRARIES and above is not None and above.type == "member_expression"
        )
        if not called and not library:
            yield tree.of(inner)


def _called(node: Node, tree: Tree) -> Callable[..., Any] | None:
    """What a call calls, of what may be called: takes what it is called on, then the arguments."""
    function = node.child_by_field_name("function")
    if function is None:
        return None
    if function.type == "member_expression":
        on, name = function.child_by_field_name("object"), function.child_by_field_name("property")
        if on is not None and on.type == "identifier" and tree.of(on) in _LIBRARIES:
            return _plain(_FUNCTIONS.get(f"{tree.of(on)}.{tree.of(name)}"))
        return _METHODS.get(tree.of(name))
    return _plain(_FUNCTIONS.get(tree.of(function)))


def _plain(function: Callable[..., Any] | None) -> Callable[..., Any] | None:
    """A function that is called on nothing."""
    if function is None:
        return None
    return lambda _on, *given: function(*given)


class _Answer:
    """Works an expression out, node by node."""

    def __init__(self, tree: Tree, values: Mapping[str, Any]) -> None:
        self._tree, self._values = tree, values

    def of(self, node: Node) -> Any:
        """What a node comes to."""
        work = getattr(self, f"_{node.type}", None)
        if work is None:
            raise Unanswered(f"{self._tree.of(node)} cannot be asked.")
        return work(node)

    def _field(self, node: Node, name: str) -> Any:
        inner = node.child_by_field_name(name)
        assert inner is not None
        return self.of(inner)

    def _operator(self, node: Node) -> str:
        return self._tree.of(node.child_by_field_name("operator"))

    def _number(self, node: Node) -> Any:
        found = number_of(node, self._tree)
        if found is None:
            raise Unanswered(f"{self._tree.of(node)} cannot be asked.")
        return to.as_number(found)

    def _string(self, node: Node) -> Any:
        return string(string_of(node, self._tree))

    def _template_string(self, node: Node) -> Any:
        parts = (
            to.to_text(self.of(child.named_children[0]))
            if child.type == "template_substitution"
            else self._tree.of(child)
            for child in node.named_children
        )
        return string("".join(parts))

    def _true(self, _node: Node) -> Any:
        return to.truth(True)

    def _false(self, _node: Node) -> Any:
        return to.truth(False)

    def _null(self, _node: Node) -> Any:
        return NULL

    def _undefined(self, _node: Node) -> Any:
        return UNDEFINED

    def _this(self, _node: Node) -> Any:
        return self._values["this"]

    def _identifier(self, node: Node) -> Any:
        name = self._tree.of(node)
        return _SAID[name] if name in _SAID else self._values[name]

    def _parenthesized_expression(self, node: Node) -> Any:
        return self.of(next(n for n in node.named_children if n.type != "comment"))

    def _array(self, node: Node) -> Any:
        return [self.of(n) for n in node.named_children if n.type != "comment"]

    def _object(self, node: Node) -> Any:
        found = {}
        for child in node.named_children:
            name, value = (child.child_by_field_name(f) for f in ("key", "value"))
            if child.type == "shorthand_property_identifier":
                found[key(self._tree.of(child))] = self._values[self._tree.of(child)]
            elif name is not None and value is not None:
                text = string_of(name, self._tree) if name.type == "string" else self._tree.of(name)
                found[key(text)] = self.of(value)
        return found

    def _ternary_expression(self, node: Node) -> Any:
        chosen = "consequence" if to.is_true(self._field(node, "condition")) else "alternative"
        return self._field(node, chosen)

    def _unary_expression(self, node: Node) -> Any:
        sign, value = self._operator(node), self._field(node, "argument")
        if sign == "!":
            return to.truth(not to.is_true(value))
        if sign == "typeof":
            return to.type_of(value)
        if sign == "void":
            return UNDEFINED
        number = to.to_number(value)
        return to.as_number(
            ~int(number) if sign == "~" else -float(number) if sign == "-" else number
        )

    def _binary_expression(self, node: Node) -> Any:
        sign, left = self._operator(node), self._field(node, "left")
        if sign == "&&":
            return self._field(node, "right") if to.is_true(left) else left
        if sign == "||":
            return left if to.is_true(left) else self._field(node, "right")
        if sign == "??":
            return self._field(node, "right") if left in (NULL, UNDEFINED) else left
        return operated(sign, left, self._field(node, "right"))

    def _member_expression(self, node: Node) -> Any:
        on = self._field(node, "object")
        name = self._tree.of(node.child_by_field_name("property"))
        if on is NULL or on is UNDEFINED:
            if any(c.type == "optional_chain" for c in node.children):
                return UNDEFINED
            raise Unanswered(f"{self._tree.of(node.child_by_field_name('object'))} is {on!r} here.")
        return _attribute(on, name)

    def _subscript_expression(self, node: Node) -> Any:
        on, index = self._field(node, "object"), self._field(node, "index")
        if on is NULL or on is UNDEFINED:
            raise Unanswered(f"{self._tree.of(node.child_by_field_name('object'))} is {on!r} here.")
        if isinstance(on, (list, str)) and to.is_number(index):
            inside = float(index).is_integer() and 0 <= index < len(on)
            found = on[int(index)] if inside else UNDEFINED
            return string(found) if isinstance(on, str) and inside else found
        return _attribute(on, to.to_text(index))

    def _call_expression(self, node: Node) -> Any:
        function, given = (
            node.child_by_field_name("function"),
            node.child_by_field_name("arguments"),
        )
        called = _called(node, self._tree)
        assert called is not None and function is not None and given is not None
        library = self._tree.of(function.child_by_field_name("object")) in _LIBRARIES
        on = None
        if function.type == "member_expression" and not library:
            on = self._field(function, "object")
        return called(on, *(self.of(n) for n in given.named_children if n.type != "comment"))


def _attribute(on: Any, name: str) -> Any:
    if isinstance(on, (list, str)) and name == "length":
        return int(getattr(on, "full_length", None) or len(on))
    if isinstance(on, dict):
        if name == "size" and name not in on:
            return len(on)
        return on.get(name, UNDEFINED)
    if isinstance(on, (set, frozenset)) and name == "size":
        return len(on)
    if isinstance(on, list):
        return UNDEFINED
    found = getattr(on, name)
    return found


def operated(sign: str, left: Any, right: Any) -> Any:
    """What an operator gives of two values."""
    if sign in ("===", "!=="):
        return to.truth(to.strictly_equal(left, right) == (sign == "==="))
    if sign in ("==", "!="):
        return to.truth(to.loosely_equal(left, right) == (sign == "=="))
    left, right = to.to_primitive(left), to.to_primitive(right)
    if sign == "in":
        return to.truth(to.to_text(left) in right)
    if sign == "+" and (isinstance(left, str) or isinstance(right, str)):
        return string(to.to_text(left) + to.to_text(right))
    if sign in _ORDERS:
        if isinstance(left, str) and isinstance(right, str):
            return to.truth(_ORDERS[sign](str(left), str(right)))
        return to.truth(_ORDERS[sign](to.to_number(left), to.to_number(right)))
    if sign not in _SIGNS:
        raise Unanswered(f"{sign} cannot be asked.")
    return to.as_number(_SIGNS[sign](to.to_number(left), to.to_number(right)))


_ORDERS: dict[str, Callable[[Any, Any], bool]] = {
    "<": lambda a, b: a < b, ">": lambda a, b: a > b,
    "<=": lambda a, b: a <= b, ">=": lambda a, b: a >= b,
}  # fmt: skip


def _divided(a: float, b: float) -> float:
    if b == 0:
        return (
            math.nan
            if a == 0 or math.isnan(a)
            else math.copysign(math.inf, a) * math.copysign(1, b)
        )
    return a / b


def _rest(a: float, b: float) -> float:
    if b == 0 or math.isinf(a) or math.isnan(a) or math.isnan(b):
        return math.nan
    return a if math.isinf(b) else math.fmod(a, b)


def _power(a: float, b: float) -> float:
    try:
        return float(float(a) ** float(b))
    except (OverflowError, ZeroDivisionError):
        return math.inf


def _bits(a: float) -> int:
    """A number as 32 bits with a sign (ECMA-262, ToInt32)."""
    if math.isnan(a) or math.isinf(a):
        return 0
    whole = int(a) & 0xFFFFFFFF
    return whole - (1 << 32) if whole >= 1 << 31 else whole


_SIGNS: dict[str, Callable[[Any, Any], float]] = {
    "+": lambda a, b: a + b, "-": lambda a, b: a - b, "*": lambda a, b: float(a) * b,
    "/": _divided, "%": _rest, "**": _power,
    "&": lambda a, b: _bits(a) & _bits(b), "|": lambda a, b: _bits(a) | _bits(b),
    "^": lambda a, b: _bits(a) ^ _bits(b), "<<": lambda a, b: _bits(_bits(a) << (_bits(b) & 31)),
    ">>": lambda a, b: _bits(a) >> (_bits(b) & 31),
    ">>>": lambda a, b: (_bits(a) & 0xFFFFFFFF) >> (_bits(b) & 31),
}  # fmt: skip


def _rounded(value: Any) -> Any:
    number = to.to_number(value)
    found = math.floor(number + 0.5) if math.isfinite(number) else number
    return to.as_number(to.signed(found, number))


def _on_number(work: Callable[[float], float]) -> Callable[[Any], Any]:
    def worked(value: Any = UNDEFINED) -> Any:
        number = to.to_number(value)
        return to.as_number(work(number) if math.isfinite(number) else number)

    return worked


def _on_sign(work: Callable[[float], float]) -> Callable[[Any], Any]:
    """A 0 that is worked out has the sign of what it comes from."""

    def worked(value: Any = UNDEFINED) -> Any:
        number = to.to_number(value)
        found = work(number) if math.isfinite(number) else number
        return to.as_number(to.signed(found, number))

    return worked


def _best(choose: Callable[..., Any]) -> Callable[..., Any]:
    def chosen(*values: Any) -> Any:
        numbers = [to.to_number(v) for v in values]
        if any(math.isnan(n) for n in numbers):
            return to.as_number(math.nan)
        return to.as_number(choose(numbers)) if numbers else to.as_number(-math.inf)

    return chosen


def _whole_in(value: Any, base: Any = 10) -> Any:
    return to.as_number(to.leading_whole(to.to_text(value), int(to.to_number(base)) or 10))


_LIBRARIES = frozenset({"Math", "Number", "Object", "Array", "String"})
_FUNCTIONS: dict[str, Callable[..., Any]] = {
    "Number": lambda value=0: to.as_number(to.to_number(value)),
    "String": lambda value="": string(to.to_text(value)),
    "Boolean": lambda value=UNDEFINED: to.truth(to.is_true(value)),
    "parseInt": _whole_in,
    "parseFloat": lambda value: to.as_number(to.leading_number(to.to_text(value))),
    "isNaN": lambda value=UNDEFINED: to.truth(math.isnan(to.to_number(value))),
    "Math.abs": _on_number(abs), "Math.floor": _on_sign(math.floor),
    "Math.ceil": _on_sign(math.ceil), "Math.trunc": _on_sign(math.trunc),
    "Math.round": _rounded, "Math.sqrt": _on_number(lambda n: math.sqrt(n) if n >= 0 else math.nan),
    "Math.max": _best(max), "Math.min": _best(min),
    "Math.pow": lambda a, b: to.as_number(_power(to.to_number(a), to.to_number(b))),
    "Number.isInteger": lambda v: to.truth(to.is_number(v) and float(v).is_integer()),
    "Number.isNaN": lambda v: to.truth(to.is_number(v) and math.isnan(v)),
    "Array.isArray": lambda v: to.truth(isinstance(v, list)),
    "Object.keys": lambda v: [string(k) for k in v],
    "Object.values": lambda v: list(v.values()),
}  # fmt: skip


def _index(items: Any, wanted: Any) -> int:
    if isinstance(items, str):
        return str(items).find(to.to_text(wanted))
    return next((n for n, i in enumerate(items) if to.strictly_equal(i, wanted)), -1)


def _includes(items: Any, wanted: Any) -> Any:
    """As ``===``, but what is no number is found too."""
    if isinstance(wanted, float) and math.isnan(wanted) and not isinstance(items, str):
        return to.truth(any(isinstance(i, float) and math.isnan(i) for i in items))
    return to.truth(_index(items, wanted) >= 0)


def _sliced(items: Any, start: Any = 0, stop: Any = None) -> Any:
    end = None if stop is None else int(to.to_number(stop))
    found = items[int(to.to_number(start)) : end]
    return string(found) if isinstance(items, str) else found


def _repeated(text: Any, count: Any) -> Any:
    if len(text) * to.to_number(count) > _LARGEST:
        raise Unanswered("It would be too long.")
    return string(str(text) * int(to.to_number(count)))


def _split(text: Any, by: Any = None) -> Any:
    if by is None:
        return [text]
    parts = str(text).split(str(by)) if by else list(str(text))
    return [string(p) for p in parts]


def _at(items: Any, index: Any = 0) -> Any:
    number = int(to.to_number(index))
    return items[number] if -len(items) <= number < len(items) else UNDEFINED


_METHODS: dict[str, Callable[..., Any]] = {
    "includes": _includes, "indexOf": _index,
    "join": lambda on, by=",": string(to.joined(on, to.to_text(by))),
    "slice": _sliced, "at": _at, "has": lambda on, wanted: to.truth(wanted in on),
    "get": lambda on, wanted: on.get(wanted, UNDEFINED),
    "toUpperCase": lambda on: string(on.upper()), "toLowerCase": lambda on: string(on.lower()),
    "trim": lambda on: string(on.strip()), "split": _split, "repeat": _repeated,
    "startsWith": lambda on, start: to.truth(str(on).startswith(to.to_text(start))),
    "endsWith": lambda on, end: to.truth(str(on).endswith(to.to_text(end))),
    "charAt": lambda on, index=0: string(str(on)[int(index) : int(index) + 1]),
    "toFixed": lambda on, places=0: string(to.fixed(to.to_number(on), int(places))),
}  # fmt: skip
_CALLABLE = (*_FUNCTIONS, *(f".{name}" for name in _METHODS))
