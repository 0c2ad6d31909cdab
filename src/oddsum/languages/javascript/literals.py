"""Plain data as JavaScript writes it: texts to values, and back.

Lists and objects are lists and dicts here, ``null`` is None, and ``undefined`` a value of its own.
"""

from __future__ import annotations

import json
import math
import re
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.parsing import Tree


class _Undefined:
    def __repr__(self) -> str:
        return "undefined"


UNDEFINED = _Undefined()
_SAID: dict[str, Any] = {"true": True, "false": False, "null": None, "undefined": UNDEFINED,
                         "NaN": math.nan, "Infinity": math.inf}  # fmt: skip
_PLAIN_NAME = re.compile(r"[A-Za-z_$][\w$]*\Z|\d+\Z")
_ESCAPES = {"n": "\n", "t": "\t", "r": "\r", "b": "\b", "f": "\f", "v": "\v", "0": "\0"}
_LARGEST = 1e21  # from here on numbers are written with an exponent
_SMALLEST = 1e-6


def value_of(text: str) -> Any:
    """Plain data from a literal; raises ValueError where the text is more than that."""
    tree = Tree(f"({text.strip()}\n)")
    if tree.fault is not None or len(tree.root.named_children) != 1:
        raise ValueError(f"{text} is no plain data")
    statement = tree.root.named_children[0]
    node = statement.named_children[0] if statement.named_children else None
    if node is None or node.type != "parenthesized_expression":
        raise ValueError(f"{text} is no plain data")
    return _value(node.named_children[0], tree)


def _value(node: Node, tree: Tree) -> Any:
    number = number_of(node, tree)
    if number is not None:
        return number
    text = tree.of(node)
    if text in _SAID:
        return _SAID[text]
    if text == "-Infinity":
        return -math.inf
    if node.type == "string":
        return string_of(node, tree)
    if node.type == "template_string" and all(
        c.type != "template_substitution" for c in node.named_children
    ):
        return _unescaped(text[1:-1])
    if node.type == "array":
        return [_value(child, tree) for child in node.named_children if child.type != "comment"]
    if node.type == "object":
        return dict(_pair(child, tree) for child in node.named_children if child.type != "comment")
    if node.type == "parenthesized_expression" and len(node.named_children) == 1:
        return _value(node.named_children[0], tree)
    raise ValueError(f"{text} is no plain data")


def _pair(node: Node, tree: Tree) -> tuple[str, Any]:
    key, value = node.child_by_field_name("key"), node.child_by_field_name("value")
    if node.type != "pair" or key is None or value is None or key.type == "computed_property_name":
        raise ValueError(f"{tree.of(node)} is no plain data")
    return (string_of(key, tree) if key.type == "string" else tree.of(key)), _value(value, tree)


def string_of(node: Node, tree: Tree) -> str:
    """The text that a string literal stands for."""
    return _unescaped(tree.of(node)[1:-1])


def _unescaped(text: str) -> str:
    def one(told: re.Match[str]) -> str:
        code = told[1]
        if code[0] in "xu":
            return chr(int(code[1:].strip("{}"), 16))
        return "" if code == "\n" else _ESCAPES.get(code, code)

    return re.sub(r"\\(x[0-9a-fA-F]{2}|u[0-9a-fA-F]{4}|u\{[0-9a-fA-F]+\}|[\s\S])", one, text)


def number_of(node: Node, tree: Tree) -> int | float | None:
    """The number that a node is, a sign before it included; None for any other."""
    if node.type == "unary_expression":
        sign = tree.of(node.child_by_field_name("operator"))
        inner = node.child_by_field_name("argument")
        number = number_of(inner, tree) if inner is not None and sign in "+-" else None
        if number is None or sign == "+":
            return number
        return -number if number else -0.0  # a whole 0 has no sign
    if node.type != "number":
        return None
    return _number(tree.of(node).replace("_", ""))


def _number(text: str) -> int | float | None:
    if text.endswith("n"):
        return None
    try:
        if text[:2].lower() in ("0x", "0o", "0b"):
            whole = int(text, 0)
            float(whole)  # raises OverflowError, where this language rounds to Infinity
            return whole
        number = float(text)
    except ValueError:
        return None
    except OverflowError:  # as large as that is Infinity here
        return math.inf
    return int(number) if number.is_integer() and abs(number) < _LARGEST else number


def text_of(value: Any) -> str:
    """The text of plain data, as one would write it in a program."""
    if value is None:
        return "null"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, (int, float)):
        return number_text(value)
    if isinstance(value, str):
        return quoted_text(value)
    if isinstance(value, (list, tuple)):
        return f"[{', '.join(map(text_of, value))}]"
    if isinstance(value, dict):
        return "{" + ", ".join(f"{key_text(k)}: {text_of(v)}" for k, v in value.items()) + "}"
    return repr(value)


def number_text(value: float) -> str:
    """A number as the language writes it (ECMA-262, Number::toString)."""
    if math.isnan(value) or math.isinf(value):
        return "NaN" if math.isnan(value) else ("Infinity" if value > 0 else "-Infinity")
    if value == 0:
        return "-0" if math.copysign(1, value) < 0 else "0"
    digits, exponent = _digits(abs(float(value)))
    sign = "-" if value < 0 else ""
    if abs(value) >= _LARGEST or abs(value) < _SMALLEST:
        lead, rest = digits[0], digits[1:]
        shown = f"{lead}.{rest}" if rest else lead
        return f"{sign}{shown}e{'+' if exponent > 0 else '-'}{abs(exponent)}"
    if exponent >= len(digits) - 1:
        return sign + digits + "0" * (exponent - len(digits) + 1)
    if exponent >= 0:
        return f"{sign}{digits[: exponent + 1]}.{digits[exponent + 1 :]}"
    return f"{sign}0.{'0' * (-exponent - 1)}{digits}"


def _digits(value: float) -> tuple[str, int]:
    """The shortest digits that stand for a number, and the power of ten of the first."""
    mantissa, _, exponent = f"{value!r}".partition("e")
    whole, _, part = mantissa.partition(".")
    digits = (whole + part).lstrip("0")
    power = len(whole) - 1 + int(exponent or 0)
    if whole.strip("0") == "":
        power = -(len(part) - len(part.lstrip("0"))) - 1 + int(exponent or 0)
    return digits.rstrip("0") or "0", power


def quoted_text(value: str) -> str:
    """A text in quotes, as the language reads it: single ones, where it has none itself."""
    inner = json.dumps(value, ensure_ascii=False)[1:-1].replace('\\"', '"')
    if "'" in value and '"' not in value:
        return f'"{inner}"'
    return "'" + inner.replace("'", "\\'") + "'"


def key_text(key: Any) -> str:
    """A key of an object, in quotes where it has to be."""
    text = str(key)
    return text if _PLAIN_NAME.match(text) else quoted_text(text)
