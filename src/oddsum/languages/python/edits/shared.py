"""One list with two names, a value lost on its way, a name of the module's set in a function."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    begin_of,
    blocks,
    first_line,
    indent_of,
    last_line,
    line_text,
    replaced,
    unit,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Function, Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_SHARED = {"list", "dict", "set"}


_MADE = ("list", "dict", "set")


class Shared(EditRule):
    """Two names for one list, where each should have its own."""

    name = "alias"
    title = "two names for one and the same list"
    explanation = (
        "`b = a` makes no second list: both names mean the same one, and what is changed through "
        "one is changed for the other. `[row] * 3` has one row three times."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Copies where a list is handed on; rows made one by one; defaults made anew; and what is
        given changed, where a new one was made."""
        for node in scene.expressions(ast.Name, ast.BinOp, ast.Subscript, ast.Attribute):
            if isinstance(node, ast.BinOp):
                yield from self._rows(scene, node)
            elif isinstance(getattr(node, "ctx", None), ast.Load):
                yield from self._copied(scene, node)
        for function in scene.functions.values():
            yield from self._defaults(scene, function)
        for statement in scene.statements(ast.Assign):
            assert isinstance(statement, ast.Assign)
            yield from self._made_anew(scene, statement)

    def _made_anew(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        """``seen = seen | {x}`` of what a function is given: whoever gave it never sees that."""
        target, value, function = node.targets[0], node.value, scene.function_of(node)
        if not isinstance(target, ast.Name) or not isinstance(value, ast.BinOp) or not function:
            return
        sign = {ast.Add: "+=", ast.BitOr: "|=", ast.Sub: "-="}.get(type(value.op))
        given = target.id in [a.arg for a in function.args.args]
        same = isinstance(value.left, ast.Name) and value.left.id == target.id
        types = scene.types_of(target.id, node)
        if not given or not same or sign is None or not types & _SHARED:
            return
        yield make_edit(
            scene,
            self.name,
            span(scene, node),
            f"{target.id} {sign} {text_of(scene, value.right)}",
            likely=0.5,
            what=f"{quoted(text_of(scene, node))} makes a new one under the name "
            f"{quoted(target.id)}: the one that the function was given stays as it was.",
        )

    def _copied(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        above = scene.parents.get(id(node))
        handed = isinstance(above, (ast.Assign, ast.Return)) or (
            isinstance(above, ast.Call) and above.func is not node
        )
        if not handed:
            return
        types = scene.types_of(node.id, node) if isinstance(node, ast.Name) else frozenset(_SHARED)
        at = span(scene, node)
        text = at.of(scene.source)
        for kind, new in (
            ("list", f"{text}[:]"),
            ("dict", f"dict({text})"),
            ("set", f"set({text})"),
        ):
            if kind in types:
                likely = 0.5 if isinstance(above, ast.Assign) else 0.35
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    new,
                    likely=likely if isinstance(node, ast.Name) else 0.2,
                    what=f"{quoted(text)} is handed on here, and not a copy of it: what is changed "
                    "there is changed here, too.",
                    how=f"Hand on a copy: {quoted(new)}.",
                )

    def _rows(self, scene: Scene, node: ast.BinOp) -> Iterator[TrialEdit]:
        """``[[0] * n] * m``: the same row m times."""
        if not isinstance(node.op, ast.Mult) or not isinstance(node.left, ast.List):
            return
        if len(node.left.elts) != 1 or isinstance(node.left.elts[0], ast.Constant):
            return
        inner, count = node.left.elts[0], text_of(scene, node.right)
        item = text_of(scene, inner)
        news = [item] if not isinstance(inner, ast.Name) else [f"{item}[:]", f"dict({item})"]
        at = span(scene, node)
        for new in news:
            yield make_edit(
                scene,
                self.name,
                at,
                f"[{new} for _ in range({count})]",
                likely=0.9,
                what=f"{quoted(at.of(scene.source))} holds one and the same item {count} times: "
                "what is changed in one is changed in all.",
            )

    def _defaults(self, scene: Scene, function: Function) -> Iterator[TrialEdit]:
        arguments = function.args.args[len(function.args.args) - len(function.args.defaults) :]
        for argument, default in zip(arguments, function.args.defaults, strict=True):
            made = isinstance(default, ast.Call) and getattr(default.func, "id", "") in _MADE
            if not made and not isinstance(default, (ast.List, ast.Dict, ast.Set)):
                continue
            at, first = span(scene, default), function.body[0]
            indent = indent_of(scene, first)
            ahead = begin_of(function)
            line = line_text(scene, default.lineno)
            start = at.start - scene.source.line_starts[default.lineno - 1]
            header = line[:start] + "None" + line[start + (at.stop - at.start) :]
            lines = [
                f"{indent}if {argument.arg} is None:",
                f"{indent}{unit(scene)}{argument.arg} = {at.of(scene.source)}",
            ]
            text = replaced(
                scene, (default.lineno, default.lineno, [header]), (ahead, ahead - 1, lines)
            )
            yield from whole_edit(
                scene,
                self.name,
                text,
                default.lineno,
                likely=0.9,
                size=12,
                what=f"{quoted(f'{argument.arg}={at.of(scene.source)}')} is made once, when the "
                "function is defined, and kept from call to call.",
                how="Let it be None, and make a new one inside.",
            )


class Mutated(EditRule):
    """A list that is changed while a loop goes over it."""

    name = "mutated"
    title = "a list that is changed while it is gone through"
    explanation = (
        "When an item is taken out, all behind it move up, and the loop steps over the next one. "
        "Go over a copy, or build a new list."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each loop over something with a name, over a copy of it."""
        for node in scene.statements(ast.For):
            assert isinstance(node, ast.For)
            if not isinstance(node.iter, (ast.Name, ast.Attribute)):
                continue
            text = text_of(scene, node.iter)
            changed = any(
                isinstance(n, ast.Call)
                and isinstance(n.func, ast.Attribute)
                and ast.unparse(n.func.value) == text
                for s in node.body
                for n in ast.walk(s)
            )
            yield make_edit(
                scene,
                self.name,
                span(scene, node.iter),
                f"list({text})",
                likely=0.9 if changed else 0.1,
                what=f"The loop goes over {quoted(text)}. Is {quoted(text)} changed on the way?",
            )


class LostUpdate(EditRule):
    """A value overwritten before it was used."""

    name = "lost update"
    title = "a value that is overwritten before it is used"
    explanation = (
        "After `a = b` the old a is gone. To exchange two values, keep one aside first, or write "
        "`a, b = b, a`."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Two assignments that should be one, and values that were kept aside and not used."""
        for block in blocks(scene):
            for first, second in zip(block.body, block.body[1:], strict=False):
                if isinstance(first, ast.Assign) and isinstance(second, ast.Assign):
                    yield from self._together(scene, first, second)
            for node in block.body:
                if isinstance(node, ast.Assign):
                    yield from self._kept_aside(scene, node, block.body)
                    yield from self._begun_again(scene, node)

    def _begun_again(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        """``rows[name] = []`` in a loop: what stands there already is put away each time."""
        target = node.targets[0]
        if not isinstance(target, ast.Subscript):
            return
        if scene.loop_of(node) is None and not isinstance(target.value, ast.Attribute):
            return
        base, key, made = (text_of(scene, n) for n in (target.value, target.slice, node.value))
        if base in made or "\n" in made or isinstance(target.slice, ast.Slice):
            return
        what = (
            f"{quoted(text_of(scene, node))} begins anew, whatever {quoted(base)} has at "
            f"{quoted(key)} by then."
        )
        if isinstance(node.value, ast.List) and len(node.value.elts) == 1:
            item = text_of(scene, node.value.elts[0])
            gathered = f"{base}.setdefault({key}, []).append({item})"
            yield make_edit(scene, self.name, span(scene, node), gathered, likely=0.5, what=what)
        yield make_edit(
            scene,
            self.name,
            span(scene, node),
            f"{base}.setdefault({key}, {made})",
            likely=0.4,
            what=what,
            how=f"Put it there only where nothing is: {quoted(f'{base}.setdefault({key}, ...)')}.",
        )

    def _together(self, scene: Scene, first: ast.Assign, second: ast.Assign) -> Iterator[TrialEdit]:
        if len(first.targets) != 1 or len(second.targets) != 1:
            return
        a, b = text_of(scene, first.targets[0]), text_of(scene, second.targets[0])
        x, y = text_of(scene, first.value), text_of(scene, second.value)
        if a not in y:
            return
        line = f"{indent_of(scene, first)}{a}, {b} = {x}, {y}"
        yield from whole_edit(
            scene,
            self.name,
            replaced(scene, (first_line(first), last_line(second), [line])),
            first.lineno,
            likely=0.9 if (x, y) == (b, a) else 0.35,
            size=8,
            what=f"{quoted(text_of(scene, second))} works with {quoted(a)}, which the line "
            f"above has "
            "just changed. Is it the new value that is meant?",
            how=f"Set both at once: {quoted(line.strip())}.",
        )

    def _kept_aside(
        self, scene: Scene, node: ast.Assign, body: list[ast.stmt]
    ) -> Iterator[TrialEdit]:
        value = text_of(scene, node.value)
        for earlier in body[: body.index(node)]:
            if isinstance(earlier, ast.Assign) and isinstance(earlier.targets[0], ast.Name):
                if text_of(scene, earlier.value) == value:
                    yield make_edit(
                        scene,
                        self.name,
                        span(scene, node.value),
                        earlier.targets[0].id,
                        likely=0.8,
                        what=f"{quoted(value)} has been changed by now. Which value is "
                        f"meant, the old "
                        "or the new one?",
                    )


class Global(EditRule):
    """A function that sets a variable of its own where the module's is meant."""

    name = "global"
    title = "a function that sets a variable of its own"
    explanation = (
        "A name that a function sets is its own, also where the module has one of that name. "
        "`global name` says that the module's is meant."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """``global`` put in, or given one more name."""
        module = set(scene.own_names(None))
        for function in scene.functions.values():
            said = [s for s in function.body if isinstance(s, ast.Global)]
            names = {n for s in said for n in s.names}
            for name in scene.own_names(function):
                if name in module - names and not any(a.arg == name for a in function.args.args):
                    yield from self._said(scene, function, said, name)

    def _said(
        self, scene: Scene, function: Function, said: list[ast.Global], name: str
    ) -> Iterator[TrialEdit]:
        what = (
            f"The function sets a {quoted(name)} of its own. The one outside stays as it "
            f"is. Is that "
            "meant?"
        )
        line = next(
            (
                n.lineno
                for n in ast.walk(function)
                if isinstance(n, ast.Name) and n.id == name and isinstance(n.ctx, ast.Store)
            ),
            function.lineno,
        )
        if said:
            at = span(scene, said[0])
            yield make_edit(
                scene,
                self.name,
                Span(at.stop, at.stop),
                f", {name}",
                what=what,
                likely=0.7,
                how=f"Name {quoted(name)} in the `global` line, too.",
            )
            return
        first = function.body[0]
        ahead = begin_of(function)
        text = replaced(scene, (ahead, ahead - 1, [f"{indent_of(scene, first)}global {name}"]))
        yield from whole_edit(
            scene,
            self.name,
            text,
            line,
            what=what,
            likely=0.7,
            size=len(name) + 8,
            how=f"Begin the function with `global {name}`.",
        )
