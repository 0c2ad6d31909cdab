"""What things are ordered by: the wrong part, the wrong way round, or nothing that breaks a tie."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_ORDERING = ("sorted", "min", "max")
_MOST_PARTS = 3  # items of a row that could be what it is ordered by
_MOST_ATTRIBUTES = 5
_KEYS = (("len", 0.3), ("str.lower", 0.35), ("int", 0.3), ("abs", 0.25), ("float", 0.25))


class Sorting(EditRule):
    """The key of ``sorted``, ``sort``, ``min`` and ``max``, and what comes first."""

    name = "sorting"
    title = "an order by something else than what is meant"
    explanation = (
        "Rows are compared by their first item, then by the next; texts letter by letter. A key "
        "says what counts instead. Where two are equal by it, they stay in the order they had: a "
        "pair as a key says what decides then."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another key for each call that orders, one more that breaks a tie, and the other way."""
        for node in scene.expressions(ast.Call, ast.Name):
            if isinstance(node, ast.Name):
                yield from self._put(scene, node)
            elif isinstance(node, ast.Call) and _orders(node):
                yield from self._call(scene, node)

    def _call(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        key = next((k for k in node.keywords if k.arg == "key"), None)
        if key is None:
            yield from self._without(scene, node)
        else:
            yield from self._taken_away(scene, node, key)
            if isinstance(key.value, ast.Lambda) and len(key.value.args.args) == 1:
                yield from self._other(scene, node, key.value)
        if getattr(node.func, "id", "") not in ("min", "max"):
            yield from self._turned(scene, node)

    def _put(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        """A list that is given back or gone over as it is, with the largest first."""
        above = scene.parents.get(id(node))
        given = isinstance(above, ast.Return) or (isinstance(above, ast.For) and above.iter is node)
        if given and "list" in scene.types_of(getattr(node, "id", ""), node):
            text = text_of(scene, node)
            yield make_edit(
                scene, self.name, span(scene, node), f"sorted({text}, reverse=True)", likely=0.25,
                what=f"{quoted(text)} is used in the order it happens to have.", within=node,
            )  # fmt: skip

    def _without(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        at = Span(span(scene, node).stop - 1, span(scene, node).stop - 1)
        comma = ", " if node.args or node.keywords else ""
        what = f"{quoted(_short(scene, node))}: what are they compared by?"
        news = [(f"lambda row: row[{n}]", 0.45 if n else 0.2) for n in range(_MOST_PARTS)]
        if node.args and len(node.args) == 1 and isinstance(node.args[0], ast.Name):
            table = node.args[0].id
            news.append((f"{table}.get", 0.4))
            if "dict" in scene.types_of(table, node):
                news += [(f"lambda key: ({sign}{table}[key], key)", 0.4) for sign in ("-", "")]
        for new, likely in [*news, *_KEYS]:
            yield make_edit(
                scene, self.name, at, f"{comma}key={new}", what=what, likely=likely, within=node,
                how=f"Let `key={new}` say what counts.",
            )  # fmt: skip

    def _taken_away(self, scene: Scene, node: ast.Call, key: ast.keyword) -> Iterator[TrialEdit]:
        """No key at all: the things themselves are compared."""
        before = [*node.args, *(k.value for k in node.keywords if k is not key)]
        earlier = [n for n in before if scene.place(n)[1] < scene.place(key.value)[0]]
        stop = scene.place(key.value)[1]
        if earlier:
            start = max(scene.place(n)[1] for n in earlier)
        else:
            start = scene.source.text.rfind("key", 0, scene.place(key.value)[0])
        said = scene.source.text[start:stop].lstrip(" ,")
        yield make_edit(
            scene, self.name, Span(start, stop), "", likely=0.35, within=node,
            what=f"{quoted(said)}: is that what counts, and not the things themselves?",
            how=f"Take {quoted(said)} out.",
        )  # fmt: skip

    def _other(self, scene: Scene, node: ast.Call, key: ast.Lambda) -> Iterator[TrialEdit]:
        at, name = span(scene, key.body), key.args.args[0].arg
        old = at.of(scene.source)
        what = f"{quoted(f'key=lambda {name}: {old}')}: is that what counts, and what breaks a tie?"
        parts = [f"{name}[{n}]" for n in range(_MOST_PARTS)]
        if f"{name}." in old:
            parts = [f"{name}.{a}" for a in scene.set_attributes[:_MOST_ATTRIBUTES]]
            parts = [p for p in parts if p not in old]
        news = [(p, 0.45) for p in parts]
        news += [(f"-{old}" if not old.startswith("-") else old[1:], 0.5)]
        if not isinstance(key.body, ast.Tuple):
            news += [(f"({old}, {tie})", 0.5) for tie in (name, *parts)]
            news += [(f"({tie}, {old})", 0.4) for tie in parts]
            news += [(f"(-{old}, {name})", 0.4), (f"({old}, -{name})", 0.2)]
        else:
            texts = [text_of(scene, e) for e in key.body.elts]
            news += [(texts[0], 0.2), (f"({', '.join(reversed(texts))})", 0.45)]
            for number, text in enumerate(texts):
                turned = text[1:] if text.startswith("-") else f"-{text}"
                news.append(
                    (f"({', '.join([*texts[:number], turned, *texts[number + 1 :]])})", 0.5)
                )
        for new, likely in news:
            if new != old:
                yield make_edit(
                    scene, self.name, at, new, what=what, likely=likely, within=node,
                )  # fmt: skip

    def _turned(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        said = next((k for k in node.keywords if k.arg == "reverse"), None)
        what = f"{quoted(_short(scene, node))}: which comes first, the smallest or the largest?"
        if said is None:
            at = Span(span(scene, node).stop - 1, span(scene, node).stop - 1)
            comma = ", " if node.args or node.keywords else ""
            yield make_edit(
                scene, self.name, at, f"{comma}reverse=True", what=what, likely=0.5, within=node,
                how="Let the largest come first: `reverse=True`.",
            )  # fmt: skip
        elif isinstance(said.value, ast.Constant):
            yield make_edit(
                scene, self.name, span(scene, said.value), str(not said.value.value), what=what,
                likely=0.5, within=node,
            )  # fmt: skip


def _orders(node: ast.Call) -> bool:
    if isinstance(node.func, ast.Attribute):
        return node.func.attr == "sort"
    return getattr(node.func, "id", "") in _ORDERING and len(node.args) == 1


def _short(scene: Scene, node: ast.Call) -> str:
    return text_of(scene, node) if len(text_of(scene, node)) < 50 else text_of(scene, node.func)
