"""Changes in place whose place is plain from the syntax: ``xs.append(7)``, ``grid[r][c] = 1``.

For these, only the item that changed need be looked at. The place is found again by walking from
the object that the root name holds, past any code of the program's own: a step is an index or key,
or an attribute's name after a ``≠``. Lists stand for what is worked out first (nothing can be found
under a list): ``[left, right, sign]`` for a sum, a product or a remainder, ``[root, steps]`` for an
item of something else, as in ``counts[ages[i]]``.
"""

from __future__ import annotations

import ast
import operator

from .summary import plain_fields

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_SIGNS: dict[Any, str] = {
    ast.Add: "+", ast.Sub: "-", ast.Mult: "*", ast.Mod: "%", ast.FloorDiv: "//",
}  # fmt: skip
_WORKED: dict[str, Any] = {
    "+": operator.add, "-": operator.sub, "*": operator.mul, "%": operator.mod,
    "//": operator.floordiv,
}  # fmt: skip
_LARGE = 1 << 64  # no list has so many items
LOST = object()  # the place could not be found without running the program's code


def place_of(target: Any) -> list[Any] | None:
    """The root name and the steps to what a target or an object's expression stands for.

    None where finding it again might run code of the program's or give something else.
    """
    steps: list[Any] = []
    while isinstance(target, (ast.Attribute, ast.Subscript)):
        if isinstance(target, ast.Attribute):
            steps.append(ast.Constant("≠" + target.attr))
        else:
            index = target.slice
            if type(index).__name__ == "Index":  # 3.8's tree; a newer one has the value itself
                index = index.value  # type: ignore[attr-defined]
            step = _simple(index)
            if step is None:
                return None
            steps.append(step)
        target = target.value
    if not isinstance(target, ast.Name):
        return None
    return [ast.Name(target.id, ast.Load()), *reversed(steps)]


def _simple(index: Any) -> Any:
    if isinstance(index, ast.Constant) and type(index.value) in (int, str):
        return ast.Constant(index.value)
    if isinstance(index, ast.UnaryOp) and isinstance(index.op, ast.USub):
        inner = index.operand
        if isinstance(inner, ast.Constant) and type(inner.value) is int:
            return ast.Constant(-inner.value)
    if isinstance(index, ast.Name):
        return ast.Name(index.id, ast.Load())
    if isinstance(index, ast.BinOp) and type(index.op) in _SIGNS:
        left, right = _simple(index.left), _simple(index.right)
        if left is not None and right is not None:
            return ast.List([left, right, ast.Constant(_SIGNS[type(index.op)])], ast.Load())
    if isinstance(index, (ast.Subscript, ast.Attribute)):
        found = place_of(index)
        return found and ast.List([found[0], ast.List(found[1:], ast.Load())], ast.Load())
    return None


def method_called(node: Any) -> tuple[str, Any] | None:
    """For ``place.append(x)``, ``place.pop()``, ``place.pop(0)``: how, and the place's node."""
    if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Attribute) or node.keywords:
        return None
    name, args = node.func.attr, node.args
    if name == "append" and len(args) == 1:
        return "add", node.func.value
    if name == "pop" and not args:
        return "last", node.func.value
    if name == "pop" and len(args) == 1 and isinstance(args[0], ast.Constant):
        if args[0].value == 0 and type(args[0].value) is int:
            return "first", node.func.value
    return None


def walked(root: Any, steps: Any, through: list[Any]) -> Any:
    """What the steps lead to, LOST where only the program's own code could tell.

    ``through`` gathers what was looked into on the way: where that is the very object that was
    changed, the way may have been another before the change.
    """
    at = root
    for raw in steps:
        through.append(at)
        step = worked_out(raw, through)
        if type(step) is str and step[:1] == "≠":
            at = (plain_fields(at) or {}).get(step[1:], LOST)
        elif type(at) in (list, tuple, str) and type(step) is int:
            at = at[step] if -len(at) <= step < len(at) else LOST
        elif type(at) is dict and type(step) in (int, str):
            at = at.get(step, LOST)
        else:
            return LOST
        if at is LOST:
            return LOST
    return at


def worked_out(step: Any, through: list[Any]) -> Any:
    """A step's value: what is reckoned with whole numbers, or looked up, is worked out here."""
    if type(step) is not list:
        return step
    if len(step) == 2 and type(step[1]) is list:
        return walked(step[0], step[1], through)
    if len(step) != 3 or type(step[2]) is not str or step[2] not in _WORKED:
        return LOST
    left, right = worked_out(step[0], through), worked_out(step[1], through)
    if type(left) is not int or type(right) is not int or max(abs(left), abs(right)) > _LARGE:
        return LOST
    return _WORKED[step[2]](left, right) if right or step[2] not in ("%", "//") else LOST
