"""Recorded values as structure: from the wire's nodes to texts, and to values one can ask.

A node is a plain scalar; ``(kind, size, items)``; ``("itself",)``; or a row ``[type, text, size,
whole]`` of what was not followed inside: see ``probe/scan.py``.
"""

from __future__ import annotations

from typing import Any

from oddsum.model.trace import Value

Node = Any
_BRACKETS = {"list": "[]", "tuple": "()", "set": "{}", "dict": "{}"}
_PAIRED = 2


def value_of(node: Node, number: int = 0) -> Value:
    """A node as a Value; ``number`` is that of the object, 0 where it has none."""
    if isinstance(node, list):
        return Value(node[0], node[1], node[2], node[3], number)
    if isinstance(node, tuple):
        text, whole = text_of(node)
        size = node[1] if len(node) > 1 and node[0][:1] != "." else None
        return Value(type_of(node), text, size, whole, number)
    size = len(node) if isinstance(node, str) else None
    return Value(type(node).__name__, scalar_text(node), size, True, number)


def type_of(node: Node) -> str:
    """The name of the type of what a node stands for."""
    if isinstance(node, list):
        return str(node[0])
    if isinstance(node, tuple):
        return str(node[0]).lstrip(".")
    return type(node).__name__


def scalar_text(value: Any) -> str:
    """What ``repr`` gives, of a very large int how large it is."""
    try:
        return repr(value)
    except ValueError:  # more digits than the interpreter turns into text
        return f"<int of {value.bit_length()} bits>"


def text_of(node: Node) -> tuple[str, bool]:
    """The text of a node, as ``repr`` would give it, and whether nothing was left out."""
    if isinstance(node, list):
        return node[1], bool(node[3])
    if not isinstance(node, tuple):
        return scalar_text(node), True
    kind = node[0]
    if kind == "itself":
        return "(itself)", False
    _, size, items = node
    if items is None:
        return (f"{kind.lstrip('.')}(…)", False)
    if kind == "list" and _PLAIN.issuperset(map(type, items)):
        text, whole = _plain_text(items), True
        parts = [text[1:-1]] if items else []
    else:
        told = [text_of(item) for item in items]
        whole = all(w for _, w in told)
        parts = [t for t, _ in told]
    return _put_together(kind, size, len(items), parts, whole)


_PLAIN = frozenset({int, float, bool, type(None), str, complex})


def _plain_text(items: list[Any]) -> str:
    try:
        return repr(items)
    except ValueError:
        return "[" + ", ".join(scalar_text(i) for i in items) + "]"


def _put_together(
    kind: str, size: int, count: int, parts: list[str], whole: bool
) -> tuple[str, bool]:
    is_object = kind[:1] == "."
    if is_object:
        names = parts[::_PAIRED]
        parts = [f"{n[1:-1]}={v}" for n, v in zip(names, parts[1::_PAIRED], strict=True)]
    elif kind == "dict":
        parts = [f"{k}: {v}" for k, v in zip(parts[::_PAIRED], parts[1::_PAIRED], strict=True)]
    held = count // _PAIRED if is_object or kind == "dict" else count
    if held < size:
        whole = False
        if not is_object:
            parts.append(f"… {size - held} more")
    inside = ", ".join(parts)
    if is_object:
        return f"{kind[1:]}({inside})", whole
    if kind == "frozenset":
        return ("frozenset({" + inside + "})" if size else "frozenset()"), whole
    if kind == "set" and not size:
        return "set()", whole
    brackets = _BRACKETS[kind]
    left, right = brackets[0], brackets[1]
    return left + inside + ("," if kind == "tuple" and size == 1 else "") + right, whole


def weight(node: Node) -> int:
    """How many values a node is made of."""
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return 1
    if _PLAIN.issuperset(map(type, node[2])):
        return 1 + len(node[2])
    return 1 + sum(weight(item) for item in node[2])


def same(one: Node, other: Node) -> bool:
    """Whether two nodes read the same: ``1``, ``1.0`` and ``True`` do not."""
    if type(one) is not type(other):
        return False
    if isinstance(one, (int, str)) and not isinstance(one, bool):
        return one == other  # type: ignore[no-any-return]
    return one is other or (isinstance(one, (tuple, list)) and len(one) == len(other)
                            and scalar_text(one) == scalar_text(other)) or (
        not isinstance(one, (tuple, list)) and scalar_text(one) == scalar_text(other)
    )  # fmt: skip
