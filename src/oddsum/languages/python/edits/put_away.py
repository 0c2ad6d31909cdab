"""What could be missing behind a loop: the last of what it gathers, that no round puts away."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import is_text, unit
from oddsum.languages.python.edits.candidate import Candidate
from oddsum.languages.python.edits.place import text_of
from oddsum.languages.python.edits.scene import Scene

_MOST = 3  # lines of a loop that are looked at


def put_away(scene: Scene, nodes: list[ast.AST]) -> Iterator[Candidate]:
    """Lines of a loop's branches once more behind it, where ``xs[i]`` is the last item, and those
    asked for only where there was anything: a group ends where the next one begins, and behind the
    last one none does.
    """
    for loop in nodes:
        if not isinstance(loop, ast.For):
            continue
        moving = [n.id for n in ast.walk(loop.target) if isinstance(n, ast.Name)]
        for line in _in_branches(loop)[:_MOST]:
            text = text_of(scene, line)
            if "\n" in text:
                continue
            last = _of_the_last(moving, text)
            for asked, inner in _as_asked(scene, loop, line, moving):
                yield Candidate(f"if {asked}:\n{unit(scene)}{inner}", 0.42, "after")
            some = [ast.unparse(n) for n in ast.walk(loop.iter) if isinstance(n, ast.Name)]
            some += re.findall(r"(\w+)\[-1\]", last)
            for written in dict.fromkeys((last, text)):
                yield Candidate(written, 0.4, "after")
                for name in [n for n in dict.fromkeys(reversed(some)) if n not in _BUILT][:2]:
                    asked = f"if {name}:\n{unit(scene)}{written}"
                    yield Candidate(asked, 0.38, "after")


def _as_asked(
    scene: Scene, loop: ast.For, line: ast.stmt, moving: list[str]
) -> Iterator[tuple[str, str]]:
    """A line under what its branch asks beside the item, with the number of all in place of the
    number that the loop is at: behind the loop it is over."""
    branch = scene.parents.get(id(line))
    over = _numbered(loop)
    if not isinstance(branch, ast.If) or not over:
        return
    tests = branch.test.values if isinstance(branch.test, ast.BoolOp) else [branch.test]
    text = re.sub(rf"\b{re.escape(moving[0])}\b", over, text_of(scene, line))
    for test in tests:
        named = {n.id for n in ast.walk(test) if isinstance(n, ast.Name)}
        if not named & set(moving) and named:
            yield text_of(scene, test), text


def _numbered(loop: ast.For) -> str:
    """How many rounds a loop makes that counts them; blank for others."""
    call = loop.iter
    if not isinstance(call, ast.Call) or not call.args:
        return ""
    name, over = getattr(call.func, "id", ""), ast.unparse(call.args[0])
    if name == "enumerate" and len(call.args) == 1 and isinstance(loop.target, ast.Tuple):
        return f"len({over})"
    return over if name == "range" and len(call.args) == 1 else ""


_BUILT = ("range", "len", "enumerate", "reversed", "sorted", "zip", "min", "max")


def _of_the_last(moving: list[str], text: str) -> str:
    """A line that tells of the item a loop is at, or the one before it, told of the last one."""
    for name in moving:
        text = re.sub(rf"\[{re.escape(name)}(\s*-\s*1)?\]", "[-1]", text)
    return text


def _in_branches(loop: ast.For) -> list[ast.stmt]:
    """What the branches of a loop put away: into a list, or to what is there."""
    return [
        n
        for branch in ast.walk(loop)
        if isinstance(branch, ast.If)
        for n in (*branch.body, *branch.orelse)
        if isinstance(n, ast.AugAssign)
        or (isinstance(n, ast.Expr) and isinstance(n.value, ast.Call) and not is_text(n))
    ]
