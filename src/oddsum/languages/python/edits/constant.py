"""A number or a text that is not the one that is meant."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator

from oddsum.languages.parting import SIGNS, TURNED, limits
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_SIGNS: dict[type, str] = {ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">="}
_WRITTEN = re.compile(r"\{[^{}:]*:[<>^+ ]?0?\.?(\d+)[,.\d]*[dfs%]?\}")
_DIGITS = re.compile(r"(?<![\w.])[0-9]{1,9}(?![\w.])")
_FRACTION = re.compile(r"\{[^{}:]*:[<>^+ ]?\d+,?\.(\d+)[fe%]\}")
_MOST_OTHERS = 12
_HUGE = 10**30
_SMALL = 13  # whole numbers below it are all tried


class Constant(EditRule):
    """A number one off, with another sign, of another size, or taken for another one."""

    name = "constant"
    title = "a number or a text that is not the one meant"
    explanation = (
        "A number in a program is easily one too high or too low, has a digit too many, or is that "
        "of another rule. Compare each with what the task says."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each number and each short text, with others that could be meant."""
        every = [n for n in scene.expressions(ast.Constant) if isinstance(n, ast.Constant)]
        for node in every:
            if type(node.value) in (int, float):
                yield from self._number(scene, node, every)
            elif type(node.value) is str and not self._is_prose(scene, node):
                yield from self._text(scene, node, every)
            elif type(node.value) is bool:
                yield from self._truth(scene, node)
        for start, stop in scene.texts:
            yield from self._places(scene, start, stop)
        yield from self._twice(scene, every)

    def _twice(self, scene: Scene, every: list[ast.Constant]) -> Iterator[TrialEdit]:
        """One number in two places of a line (``total // 100``, ``total % 100``): both changed."""
        known = [n for n in _numbers(every) if type(n) is int and n >= _SMALL]
        for one, other in _doubled(scene.source.text):
            old, between = one[0], scene.source.text[one.end() : other.start()]
            for new in dict.fromkeys(map(str, [*known, int(old) + 1, int(old) - 1])):
                if new != old:
                    yield make_edit(
                        scene, self.name, Span(one.start(), other.end()), f"{new}{between}{new}",
                        likely=0.2,
                        what=f"The number {old} stands here twice. Is it the one meant?",
                        how=f"Write {new} in place of {old}, both times.",
                    )  # fmt: skip

    def _places(self, scene: Scene, start: int, stop: int) -> Iterator[TrialEdit]:
        """``{x:.1f}``, ``{n:05d}``: to how many places a text writes a number."""
        text = scene.source.text
        written_so = (*_WRITTEN.finditer(text, start, stop), *_FRACTION.finditer(text, start, stop))
        for found in written_so:
            number = int(found[1])
            written, start_of = found[0], found.start()
            sign = written.index(":") + 1
            if written.endswith("d}") and written[sign] in "0123456789":
                filled = written[sign] == "0"
                at = Span(start_of + sign, start_of + sign + filled)
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    "" if filled else "0",
                    likely=0.4,
                    what=f"{quoted(written)} fills up with {'zeros' if filled else 'blanks'}.",
                    how=f"Let {quoted(written)} fill up with {'blanks' if filled else 'zeros'}.",
                )
            for new in (number + 1, number - 1, number + 2):
                if new >= 0:
                    yield make_edit(
                        scene,
                        self.name,
                        Span(*found.span(1)),
                        str(new),
                        likely=0.35 if new != number + 2 else 0.2,
                        what=f"{quoted(found[0])}: is {found[1]} the number of places that is "
                        "meant?",
                        how=f"Write {new} in place of {found[1]} in {quoted(found[0])}.",
                    )

    def _number(
        self, scene: Scene, node: ast.Constant, every: list[ast.Constant]
    ) -> Iterator[TrialEdit]:
        at = span(scene, node)
        old = node.value
        assert isinstance(old, (int, float))
        if not at.of(scene.source).replace(".", "", 1).isdecimal():
            return  # 0x10, 1_000: written so for a reason
        tried: set[object] = {old}
        parting = ((n, 0.2) for n in self._limits(scene, node))
        for new, likely in (*_near(old), *self._others(scene, old, every), *parting):
            if new in tried and type(new) is type(old):
                continue
            tried.add(new)
            side = "lower" if new < old else "higher"
            yield make_edit(
                scene,
                self.name,
                at,
                _written(new),
                likely=likely,
                within=_around(scene, node),
                what=f"The number {at.of(scene.source)} on this line is not what the cases expect: "
                f"they fit one that is {side}.",
            )

    def _others(
        self, scene: Scene, old: float, every: list[ast.Constant]
    ) -> Iterator[tuple[float, float]]:
        for value in list(dict.fromkeys(_numbers(every)))[:_MOST_OTHERS]:
            yield value, 0.2
        for text in sorted(scene.wanted)[:_MOST_OTHERS]:
            try:
                value = float(text) if "." in text else int(text)
            except ValueError:
                continue
            yield value, 0.12  # it may merely repeat what one case expects

    @staticmethod
    def _limits(scene: Scene, node: ast.Constant) -> list[int | float]:
        """For a number that a variable is compared with: limits that part its values otherwise."""
        above = scene.parents.get(id(node))
        if not isinstance(above, ast.Compare) or len(above.ops) != 1:
            return []
        sign, left, right = _SIGNS.get(type(above.ops[0]), ""), above.left, above.comparators[0]
        other, sign = (left, sign) if node is right else (right, sign.translate(TURNED))
        if sign not in SIGNS or not isinstance(other, ast.Name):
            return []
        assert isinstance(node.value, (int, float))
        return limits(sign, node.value, scene.numbers_of(other.id, node))

    def _text(
        self, scene: Scene, node: ast.Constant, every: list[ast.Constant]
    ) -> Iterator[TrialEdit]:
        at = span(scene, node)
        old = str(node.value)
        new: dict[str, float] = {
            "": 0.15,
            " ": 0.25,
            old + " ": 0.15,
            old.strip(): 0.15,
            ", ": 0.15,
            "\n": 0.15,
            old.lower(): 0.2,
        }
        for other in every:
            if isinstance(other.value, str) and len(other.value) <= 20:
                new.setdefault(other.value, 0.15)
        for text, likely in list(new.items())[: _MOST_OTHERS + 7]:
            if text != old:
                yield make_edit(
                    scene,
                    self.name,
                    at,
                    repr(text).replace("'", '"'),
                    likely=likely,
                    what=f"The text {quoted(at.of(scene.source))} on this line is not the one that "
                    "the cases need.",
                )

    @staticmethod
    def _is_prose(scene: Scene, node: ast.Constant) -> bool:
        """Docstrings, prompts and other longer texts."""
        above = scene.parents.get(id(node))
        prompt = isinstance(above, ast.Call) and getattr(above.func, "id", "") in ("input", "open")
        return isinstance(above, ast.Expr) or prompt or len(str(node.value)) > 20

    def _truth(self, scene: Scene, node: ast.Constant) -> Iterator[TrialEdit]:
        at = span(scene, node)
        yield make_edit(
            scene,
            self.name,
            at,
            str(not node.value),
            likely=0.35,
            what=f"Here stands `{bool(node.value)}`. Read aloud what that means here: is it so?",
        )


def _numbers(every: list[ast.Constant]) -> list[int | float]:
    """The program's numbers, those aside that have more digits than are ever written in decimals:
    the interpreter makes no text of some."""
    found = [n.value for n in every]
    return [n for n in found if type(n) is float or (type(n) is int and abs(n) < _HUGE)]


def _doubled(text: str) -> Iterator[tuple[re.Match[str], re.Match[str]]]:
    """Numbers that stand exactly twice in a line: both places."""
    at = 0
    for line in text.splitlines(keepends=True):
        found: dict[str, list[re.Match[str]]] = {}
        for match in _DIGITS.finditer(text, at, at + len(line.split("#")[0])):
            found.setdefault(match[0], []).append(match)
        at += len(line)
        for old, places in found.items():
            if len(places) == 2 and int(old) >= _SMALL:
                yield places[0], places[1]


def _near(old: float) -> Iterator[tuple[float, float]]:
    """Numbers near by, and numbers that are written alike."""
    if isinstance(old, int):
        likely = 0.4 if old in (0, 1, 2) else 0.3
        yield old - 1, likely
        yield old + 1, likely
    yield -old, 0.2
    if old not in (0, 1):
        yield old * 10, 0.15
        yield (old // 10 if isinstance(old, int) else old / 10), 0.15
        yield old * 2, 0.12
        yield (old // 2 if isinstance(old, int) else old / 2), 0.12
    if isinstance(old, int):
        for small in range(_SMALL):
            yield small, 0.15 if small < 2 else 0.1
    digits = str(old)
    if isinstance(old, int) and len(digits) > 1:
        for n in range(len(digits) - 1):
            turned = digits[:n] + digits[n + 1] + digits[n] + digits[n + 2 :]
            if turned[0] != "0":
                yield int(turned), 0.25
    if isinstance(old, int) and len(digits) == 2:
        yield old + 10, 0.1
        yield old - 10, 0.1


def _written(number: float) -> str:
    text = f"{number:.10g}" if isinstance(number, float) else str(number)
    if isinstance(number, float) and "." not in text and "e" not in text:
        text += ".0"
    return f"({text})" if number < 0 else text


def _around(scene: Scene, node: ast.Constant) -> ast.expr | None:
    """The sum or comparison that the number is a part of."""
    above = scene.parents.get(id(node))
    return above if isinstance(above, (ast.BinOp, ast.Compare)) else None
