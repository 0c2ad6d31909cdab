"""Texts that differ only in capitals, or in blanks at their ends."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_TIDYING = ("strip", "lower", "upper", "title", "capitalize", "casefold")


class Folding(EditRule):
    """``strip``, ``lower`` and ``upper`` missing, or too much."""

    name = "folding"
    title = "capitals or blanks that make two texts differ"
    explanation = (
        '`"Pier"`, `"pier"` and `"pier "` are three different texts. What people type has '
        "capitals and blanks where nobody expects them."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Tidying put behind texts, and taken away."""
        for node in scene.expressions(ast.Name, ast.Call, ast.Subscript, ast.Attribute):
            if not isinstance(getattr(node, "ctx", ast.Load()), ast.Load):
                continue
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
                yield from self._taken(scene, node, node.func)
            if self._is_text(scene, node):
                yield from self._put(scene, node)

    def _is_text(self, scene: Scene, node: ast.expr) -> bool:
        above = scene.parents.get(id(node))
        if isinstance(above, ast.Attribute) or (isinstance(above, ast.Call) and above.func is node):
            return False
        return _gives_text(scene, node)

    def _put(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        text = quoted(whole.of(scene.source))
        at = Span(whole.stop, whole.stop)
        yield from self._by_own(scene, node)
        for end, likely in (
            (".strip()", 0.45),
            (".lower()", 0.5),
            (".upper()", 0.4),
            (".strip().lower()", 0.3),
            ('.strip(".,;:!?")', 0.25),
            ('.strip(".,!")', 0.15),
        ):
            yield make_edit(
                scene,
                self.name,
                at,
                end,
                likely=likely,
                within=node,
                what=f"What if {text} has capitals, blanks or marks at its ends that are not "
                "expected here?",
                how=f"Write `{end}` behind {text}.",
            )

    def _by_own(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        """The program's own function for tidying, where it has one for a single text."""
        at = span(scene, node)
        text = at.of(scene.source)
        mine = scene.function_of(node)
        for name, function in scene.functions.items():
            above = scene.parents.get(id(node))
            if len(function.args.args) != 1 or function is mine or isinstance(above, ast.Call):
                continue
            yield make_edit(
                scene,
                self.name,
                at,
                f"{name}({text})",
                likely=0.3,
                within=node,
                what=f"{quoted(text)} is used as it came. Should something be done with it first?",
            )

    def _taken(self, scene: Scene, node: ast.Call, func: ast.Attribute) -> Iterator[TrialEdit]:
        base, whole = span(scene, func.value), span(scene, node)
        method = scene.source.text[base.stop : whole.stop]
        if func.attr in _TIDYING:
            yield make_edit(
                scene,
                self.name,
                Span(base.stop, whole.stop),
                "",
                likely=0.3,
                within=node,
                what=f"{quoted(text_of(scene, node))}: is {quoted(method)} meant here?",
            )
        yield from self._by_own(scene, node)
        for end, likely in ((".strip()", 0.4), (".lower()", 0.45), (".upper()", 0.3)):
            if _gives_text(scene, func.value) and f".{func.attr}()" != end:
                yield make_edit(
                    scene,
                    self.name,
                    Span(base.stop, base.stop),
                    end,
                    likely=likely,
                    what=f"What if {quoted(base.of(scene.source))} has capitals or blanks that are "
                    "not expected here?",
                    how=f"Write `{end}` behind {quoted(base.of(scene.source))}.",
                )


def _gives_text(scene: Scene, node: ast.expr) -> bool:
    """Whether an expression gives a text, as far as can be told; not knowing counts as yes."""
    if isinstance(node, ast.Name):
        types = scene.types_of(node.id, node)
        return "str" in types or (not scene.types and node.id in scene.names_at(node))
    if isinstance(node, ast.Call):
        name = getattr(node.func, "id", "") or getattr(node.func, "attr", "")
        return name in {"input", "str", "replace", "join", "strip", "lower", "upper", "title"} or (
            name in scene.functions
        )
    if isinstance(node, ast.Subscript):
        root = node.value
        return not isinstance(root, ast.Name) or bool(
            scene.types_of(root.id, root) & {"str", "list", "dict", "tuple"}
        )
    return isinstance(node, ast.Attribute)
