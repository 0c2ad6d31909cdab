"""A comparison too loose, too tight, or the wrong way round."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.comparing import sign_words
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, operator_between, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

SIGNS: dict[type[ast.cmpop], str] = {
    ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!=",
    ast.Is: "is",
}  # fmt: skip
# What it could have been meant to be, with how common that edit is; both sides of a limit first.
_MEANT: dict[str, tuple[tuple[str, float], ...]] = {
    "<": (("<=", 0.9), (">", 0.6), (">=", 0.3), ("!=", 0.2)),
    "<=": (("<", 0.9), (">=", 0.6), (">", 0.3), ("==", 0.2)),
    ">": ((">=", 0.9), ("<", 0.6), ("<=", 0.3), ("!=", 0.2)),
    ">=": ((">", 0.9), ("<=", 0.6), ("<", 0.3), ("==", 0.2)),
    "==": (("!=", 0.6), (">=", 0.4), ("<=", 0.4), (">", 0.2), ("<", 0.2)),
    "!=": (("==", 0.6), ("<", 0.4), (">", 0.4), ("<=", 0.2), (">=", 0.2)),
    "is": (("==", 0.7),),
}


class Comparison(EditRule):
    """Each comparison with each sign that could have been meant."""

    name = "comparison"
    title = "a comparison that asks a slightly other question"
    explanation = (
        "`<` and `<=` differ in one value only: the limit itself. Signs are also easily turned "
        "round. Try the limit, and the values beside it on both sides."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another sign for each comparison, and a tolerance where floats are compared exactly."""
        words = _words_of(scene)
        for node in scene.expressions(ast.Compare):
            assert isinstance(node, ast.Compare)
            left = node.left
            for operator, right in zip(node.ops, node.comparators, strict=True):
                yield from self._signs(scene, node, operator, left, right)
                left = right
            yield from self._near(scene, node)
            yield from self._other_text(scene, node, words)

    def _other_text(self, scene: Scene, node: ast.Compare, words: list[str]) -> Iterator[TrialEdit]:
        """``mark == "passed"`` as ``mark != "again"``: of two kinds or more, asked from the other
        side."""
        sign = SIGNS.get(type(node.ops[0]))
        right = node.comparators[0]
        if len(node.ops) != 1 or sign not in ("==", "!=") or not _is_word(right):
            return
        turned = "!=" if sign == "==" else "=="
        mark = text_of(scene, right)[-1]
        for word in words:
            if word != right.value:  # type: ignore[attr-defined]
                new = f"{text_of(scene, node.left)} {turned} {mark}{word}{mark}"
                yield make_edit(
                    scene, self.name, span(scene, node), new, likely=0.2, within=node,
                    what=f"{quoted(text_of(scene, node))} asks for one of several. Which others "
                    "are meant as well?",
                )  # fmt: skip

    def _signs(
        self, scene: Scene, node: ast.Compare, operator: ast.cmpop, left: ast.expr, right: ast.expr
    ) -> Iterator[TrialEdit]:
        sign = SIGNS.get(type(operator))
        if sign is None or (sign == "is" and getattr(right, "value", 0) is None):
            return
        at = operator_between(scene.source, span(scene, left), span(scene, right), sign)
        if at is None:
            return
        text = quoted(f"{text_of(scene, left)} {sign} {text_of(scene, right)}")
        for new, likely in _MEANT[sign]:
            what = _words(sign, new, text, text_of(scene, left), text_of(scene, right))
            yield make_edit(scene, self.name, at, new, what=what, likely=likely, within=node)

    def _near(self, scene: Scene, node: ast.Compare) -> Iterator[TrialEdit]:
        """``a == b`` of two names seen as floats: near enough is what is meant."""
        if len(node.ops) != 1 or not isinstance(node.ops[0], (ast.Eq, ast.NotEq)):
            return
        sides = (node.left, node.comparators[0])
        if all(isinstance(n, ast.Constant) for n in sides):
            return
        names = [n for n in sides if isinstance(n, ast.Name)]
        if not any("float" in scene.types_of(n.id, node) for n in names):
            return
        sign = "<" if isinstance(node.ops[0], ast.Eq) else ">="
        left, right = text_of(scene, node.left), text_of(scene, node.comparators[0])
        at = span(scene, node)
        for near in ("0.01", "1e-9"):
            yield make_edit(
                scene, self.name, at, f"abs({left} - {right}) {sign} {near}", likely=0.4,
                what=f"{quoted(at.of(scene.source))} asks for exactly the same number. Fractions "
                "such as 0.1 are not kept exactly, so two that should be equal can differ a "
                    "little.",
            )  # fmt: skip


_MOST_WORDS = 6


def _is_word(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and type(node.value) is str and node.value.isalnum()


def _words_of(scene: Scene) -> list[str]:
    """Texts of one word that the program gives to something, or gives back."""
    found = [
        n.value
        for n in scene.expressions(ast.Constant)
        if isinstance(n, ast.Constant) and _is_word(n)
        and isinstance(scene.parents.get(id(n)), (ast.Assign, ast.Return, ast.Tuple, ast.List))
    ]  # fmt: skip
    return list(dict.fromkeys(str(word) for word in found))[:_MOST_WORDS]


def _words(sign: str, new: str, text: str, left: str, right: str) -> str:
    if sign == "is":
        return f"{text} asks whether both are one and the same object, not whether they are equal."
    return sign_words(sign, new, text, left, right)
