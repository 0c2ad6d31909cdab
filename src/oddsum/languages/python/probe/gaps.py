"""Lines that nothing prints: where one that is missing from what was printed could have come from.

Between two statements, and at the end of a block, stands a *gap*: an expression of its own that is
hooked like any other (``sites.py``). A value that would be right there is a text that is printed.
"""

from __future__ import annotations

import ast

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

MOST_LINES = 3  # that are missing at one place
_LEAVES = (ast.Return, ast.Raise, ast.Break, ast.Continue)
_OPENS = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.Import, ast.ImportFrom)


class Printed:
    """Lines that are printed at a gap; ``text`` is as it is printed, with its last line's end."""

    def __init__(self, text: str) -> None:
        self.text = text

    def put(self) -> None:
        """Print it, as the program would."""
        print(self.text, end="")


def missing_text(expected: str, actual: str) -> str | None:
    """The lines that are missing from what was printed, all at one place; None where there are
    none, or too many, or others came out that are not wanted.

    A line that came out may begin with what asked for input; whether it was only that which kept a
    case from agreeing is found by trial.
    """
    wanted = expected.rstrip().split("\n")
    came = actual.split("\n")[:-1]  # behind the last line's end there is a question, or nothing
    first = _as_wanted(wanted, came)
    last = _as_wanted(wanted[first:][::-1], came[first:][::-1])
    missing = wanted[first : len(wanted) - last]
    if first + last < len(came) or len(missing) > MOST_LINES:
        return None
    if not any(line.strip() for line in missing):
        return None
    return "".join(line + "\n" for line in missing)


def _as_wanted(wanted: list[str], came: list[str]) -> int:
    """How many lines came out as wanted, from the first on."""
    both = list(zip(wanted, came))
    alike = (_ends_alike(one.rstrip(), line.rstrip()) for one, line in both)
    return next((n for n, same in enumerate(alike) if not same), len(both))


def _ends_alike(wanted: str, came: str) -> bool:
    return came.endswith(wanted) if wanted else not came


def gaps(owner: Any, field: str, body: list[Any]) -> Iterator[tuple[int, Any, str]]:
    """The gaps of a block: before which of its statements each comes (from 0; one more than there
    are for its end), the statement beside it, and on which side of that it is.

    Before a definition there is none: nothing happens there that the next gap does not see as well.
    """
    if isinstance(owner, ast.ClassDef) or (field == "orelse" and _is_elif(owner, body)):
        return
    for number, node in enumerate(body):
        is_text = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        if not isinstance(node, _OPENS) and not is_text:
            yield number, node, "before"
    if not isinstance(body[-1], _LEAVES):
        yield len(body), body[-1], "behind"


def _is_elif(owner: Any, body: list[Any]) -> bool:
    return (
        isinstance(owner, ast.If)
        and len(body) == 1
        and isinstance(body[0], ast.If)
        and body[0].col_offset == owner.col_offset
    )


def prints(scope: Any) -> bool:
    """Whether a function, or the module, prints something itself: what nothing prints is most often
    due where other lines are."""
    own = (node for node in scope.body if not isinstance(node, _OPENS))
    inner = (node for statement in own for node in ast.walk(statement))
    return any(isinstance(node, ast.Name) and node.id == "print" for node in inner)


def filled(body: list[Any], made: list[tuple[int, Any]]) -> list[Any]:
    """A block with statements put in, each before the one of its number."""
    result: list[Any] = []
    for number in range(len(body) + 1):
        result += [statement for place, statement in made if place == number]
        result += body[number : number + 1]
    return result


def tried(text: str | None, visits: int, each: int) -> Iterator[tuple[int, Printed]]:
    """At which visits of a gap lines are printed: each of the first, the last, and all."""
    if text is None:
        return
    for visit in sorted({*range(1, min(visits, each) + 1), visits}):
        yield visit, Printed(text)
    if visits > 1:
        yield 0, Printed(text)
