"""A line too much, twice, or left in a comment."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    blocks,
    first_line,
    indent_of,
    indented,
    is_text,
    last_line,
    line_text,
    lines_of,
    replaced,
    without,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.parsing import module_of
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Extra(EditRule):
    """Each statement left out, and each condition that may be one too many."""

    name = "doubled"
    invents = "a line"
    title = "a line that is too much"
    explanation = (
        "A line that stands twice counts twice; one that was needed once may do harm now. Switch a "
        "line off and look which cases change."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The program without each of its statements."""
        for block in blocks(scene):
            for number, node in enumerate(block.body):
                if is_text(node) or isinstance(
                    node, (ast.Import, ast.ImportFrom, ast.FunctionDef, ast.ClassDef, ast.Pass)
                ):
                    continue
                before = block.body[number - 1] if number else None
                twice = before is not None and ast.dump(before) == ast.dump(node)
                text = replaced(scene, without(scene, block, node))
                mine = quoted(line_text(scene, node.lineno))
                simple = first_line(node) == last_line(node)
                what = (
                    f"{mine} stands here twice. Is that meant?"
                    if twice
                    else (f"What would be different without {mine}?")
                )
                yield from whole_edit(
                    scene,
                    self.name,
                    text,
                    node.lineno,
                    what=what,
                    how=f"Take {mine} out.",
                    likely=0.9 if twice else 0.3 if simple else 0.15,
                    size=6,
                )
        for statement in scene.statements(ast.If):
            assert isinstance(statement, ast.If)
            yield from self._unwrapped(scene, statement)

    def _unwrapped(self, scene: Scene, node: ast.If) -> Iterator[TrialEdit]:
        """What stands under an ``if`` without the ``if``."""
        if node.orelse or node.body[0].lineno == node.lineno:
            return
        if not line_text(scene, node.lineno).lstrip().startswith("if"):
            return
        lines = indented(
            lines_of(scene, node.body[0], node.body[-1]),
            indent_of(scene, node.body[0]),
            indent_of(scene, node),
        )
        text = replaced(scene, (first_line(node), last_line(node), lines))
        header = quoted(line_text(scene, node.lineno))
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            likely=0.2,
            size=8,
            what=f"Does {header} have to be asked at all?",
            how=f"Let what stands under {header} run always.",
        )


_CODE = re.compile(r"^(\s*)#\s?(.*\S)\s*$")


class Commented(EditRule):
    """Code that was put into a comment, and is still needed."""

    name = "commented"
    invents = "a line"
    title = "a line that was left in a comment"
    explanation = (
        "What stands behind # is not run. A line put away for a trial is easily forgotten."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each comment that reads as a statement, made one again."""
        for number, line in enumerate(scene.source.lines, 1):
            match = _CODE.match(line)
            if match is None or not is_code(match[2]):
                continue
            indent, code = match.groups()
            after = line_text(scene, number + 1) if number < len(scene.source.lines) else ""
            last = number + 1 if after.strip() == "pass" else number
            yield from whole_edit(
                scene,
                self.name,
                replaced(scene, (number, last, [indent + code])),
                number,
                what=(
                    f"A piece of program stands in a comment: {quoted(code)}. Is it not "
                    f"needed any more?"
                ),
                how="Take the # away.",
                likely=0.7,
                size=2,
            )


def is_code(text: str) -> bool:
    """Whether a comment's text is a statement: an assignment, a call, a way out."""
    try:
        body = module_of(text).body
    except (SyntaxError, ValueError):
        return False
    if len(body) != 1:
        return False
    if isinstance(body[0], (ast.Assign, ast.AugAssign, ast.Return, ast.Break, ast.Continue)):
        return True
    return isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Call)
