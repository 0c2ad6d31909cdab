"""A statement that is missing: the increment, the reset, the removal, the appending, a way out."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    Block,
    blocks,
    first_line,
    indent_of,
    is_text,
    last_line,
    line_text,
    replaced,
)
from oddsum.languages.python.edits.candidate import Candidate
from oddsum.languages.python.edits.candidates import candidates_for
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import whole_edit
from oddsum.languages.python.edits.scene import Function, Scene
from oddsum.languages.python.outline import UNVISITED
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_OPENS = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)


class Missing(EditRule):
    """A line that was forgotten."""

    name = "missing"
    invents = "a line"
    title = "a line that is missing"
    explanation = (
        "A counter that nothing counts up, a total that is not set back, an item that is never put "
        "into the list. Ask of each variable: who changes it, and when?"
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Lines made of what the function already has, put in at each place where one could be."""
        known: dict[int, list[Candidate]] = {}
        for block in blocks(scene):
            if isinstance(block.owner, ast.ClassDef):
                continue
            function = _function(scene, block)
            key = id(function)
            if key not in known:
                known[key] = candidates_for(scene, function)
            yield from self._into(scene, block, known[key])

    def _into(self, scene: Scene, block: Block, candidates: list[Candidate]) -> Iterator[TrialEdit]:
        body = [s for s in block.body if not is_text(s)]
        if not body or (
            block.field == "body"
            and isinstance(block.owner, ast.Module)
            and all(isinstance(s, _OPENS) for s in body)
        ):
            return
        in_loop = block.is_loop or scene.loop_of(body[0]) is not None
        for number in range(len(body) + 1):
            node = body[min(number, len(body) - 1)]
            line = first_line(node) if number < len(body) else last_line(node) + 1
            if number == len(body) and isinstance(node, (ast.Return, ast.Break, ast.Continue)):
                continue
            if isinstance(node, _OPENS) and number < len(body):
                continue
            for one in candidates:
                if one.at == "loop" and not in_loop:
                    continue
                if one.at == "after" and not (
                    number and isinstance(body[number - 1], (ast.For, ast.While))
                ):
                    continue
                if one.at == "end" and not (number == len(body) and block.is_function):
                    continue
                if one.at == "start" and not (number == 0 and block.is_function):
                    continue
                if one.at == "function" and scene.function_of(node) is None:
                    continue
                # What stands above may end in a branch that is not taken.
                runs = _visited(body[max(0, number - 1) : number + 1])
                yield from self._put(scene, block, node, line, runs, one)

    def _put(
        self, scene: Scene, block: Block, node: ast.stmt, line: int, runs: int, one: Candidate
    ) -> Iterator[TrialEdit]:
        indent = indent_of(scene, node)
        lines = [indent + x for x in one.text.split("\n")]
        beside = {
            line_text(scene, n).strip()
            for n in (line - 1, line)
            if 1 <= n <= len(scene.source.lines)
        }
        if one.text in beside:
            return
        where = f"line {line - 1}" if line > 1 else "the first line"
        yield from whole_edit(
            scene,
            self.name,
            replaced(scene, (line, line - 1, lines)),
            max(1, line - 1),
            what=f"Something seems to be missing after {where}: a step that should happen here, "
            "and that no line does.",
            how=f"Put in, after {where}: {quoted(one.text)}.",
            likely=one.likely + (0.08 if block.is_loop else 0.0),
            size=len(one.text),
            sure=True,
            runs_at=runs,
        )


def _visited(beside: list[ast.stmt]) -> int:
    """The line whose visits say whether what stands behind it is come to."""
    return next((first_line(s) for s in beside if not isinstance(s, UNVISITED)), 0)


def _function(scene: Scene, block: Block) -> Function | None:
    if isinstance(block.owner, (ast.FunctionDef, ast.AsyncFunctionDef)):
        return block.owner
    return scene.function_of(block.body[0])
