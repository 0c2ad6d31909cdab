"""Notes on lines that do nothing, are never reached, or stand where they say little."""

from __future__ import annotations

import ast
import itertools

from oddsum.languages.python.edits.extra import is_code
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes.rule import Found, Rule, bodies, called, code, is_number
from oddsum.languages.python.parsing import module_of

_GIVERS = {
    "strip", "lower", "upper", "title", "replace", "split", "join", "format", "capitalize",
    "lstrip", "rstrip", "zfill", "sorted", "reversed", "round", "abs", "len", "str", "int", "float",
    "sum", "max", "min",
}  # fmt: skip
_IN_PLACE = {"sort", "append", "reverse", "extend", "insert", "clear"}
_ENDS = (ast.Return, ast.Break, ast.Continue, ast.Raise)


def _thrown_away(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
            if called(node.value) in _GIVERS and not _owned(scene, node.value):
                yield (
                    node.lineno,
                    f"{code(node)} gives a result that nothing takes. Should something?",
                )
        elif isinstance(node, ast.Expr) and isinstance(node.value, (ast.BinOp, ast.Name)):
            if not isinstance(scene.parents.get(id(node)), ast.Try):
                yield (
                    node.lineno,
                    f"{code(node)} is worked out, and nothing is done with it. Is that all?",
                )


def _owned(scene: Scene, call: ast.Call) -> bool:
    """Whether one of the program's own functions has that name."""
    return called(call) in scene.functions


def _comparison_alone(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Compare):
            yield (
                node.lineno,
                (
                    f"{code(node)} compares, and nothing happens with the answer. Is a "
                    f"single `=` meant?"
                ),
            )


def _unreachable(scene: Scene) -> Found:
    for body in bodies(scene):
        for before, node in itertools.pairwise(body):
            if isinstance(before, _ENDS):
                word = type(before).__name__.lower()
                yield node.lineno, f"This line comes after a `{word}`: can it ever be reached?"
                break


def _same_branches(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.If) and node.orelse and len(node.body) == len(node.orelse):
            pairs = zip(node.body, node.orelse, strict=True)
            if all(ast.dump(a) == ast.dump(b) for a, b in pairs) and not isinstance(
                node.body[0], ast.Pass
            ):
                yield (
                    node.lineno,
                    f"Both ways of {code(node.test)} do the same. Is one meant otherwise?",
                )


def _twice(scene: Scene) -> Found:
    for body in bodies(scene):
        for before, node in itertools.pairwise(body):
            if isinstance(node, (ast.Assign, ast.AugAssign)) and ast.dump(before) == ast.dump(node):
                yield node.lineno, f"{code(node)} stands here twice. Is that meant?"


def _asked_twice(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        seen: set[str] = set()
        one: ast.AST = node
        while isinstance(one, ast.If):
            key = ast.dump(one.test)
            if key in seen:
                text = f"{code(one.test)} was asked above already. Is another one meant?"
                yield one.lineno, text
            seen.add(key)
            one = one.orelse[0] if len(one.orelse) == 1 else ast.Pass()


def _in_comment(scene: Scene) -> Found:
    for number, line in enumerate(scene.source.lines, 1):
        text = line.strip()
        if text.startswith("#") and is_code(text.lstrip("# ")):
            tree = module_of(text.lstrip("# ")).body[0]
            if isinstance(tree, (ast.Assign, ast.AugAssign)) or " " not in text[1:].strip():
                yield (
                    number,
                    "A line of the program stands in a comment. Is it not needed any more?",
                )


def _gives_none(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Assign) and isinstance(node.value, ast.Call):
            func = node.value.func
            if isinstance(func, ast.Attribute) and func.attr in _IN_PLACE:
                if ast.unparse(func.value) == ast.unparse(node.targets[0]):
                    yield (
                        node.lineno,
                        (
                            f"`.{func.attr}()` changes the list itself and gives None. Is "
                            f"the `=` needed?"
                        ),
                    )


def _swallowed(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.ExceptHandler) and node.type is None:
            if len(node.body) == 1 and isinstance(node.body[0], ast.Pass):
                yield (
                    node.lineno,
                    "Every error is passed over here, also one nobody thought of. Is that meant?",
                )


def _whole_average(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.BinOp) and isinstance(node.op, ast.FloorDiv):
            if called(node.left) == "sum" and called(node.right) == "len":
                yield node.lineno, f"{code(node)} drops the fraction of a mean. Is that meant?"


def _half_of_one(scene: Scene) -> Found:
    """``a + b / 2``: most often the mean of both is meant."""
    for node in ast.walk(scene.tree):
        if not (isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add)):
            continue
        right = node.right
        if (
            isinstance(right, ast.BinOp)
            and isinstance(right.op, (ast.Div, ast.FloorDiv))
            and isinstance(right.left, ast.Name)
            and isinstance(node.left, ast.Name)
            and getattr(right.right, "value", None) == 2
        ):
            yield node.lineno, f"In {code(node)} only {code(right.left)} is divided. Is that meant?"


def _round_early(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if not (isinstance(node, ast.Call) and called(node) == "round" and len(node.args) == 2):
            continue
        above = scene.parents.get(id(node))
        if isinstance(above, ast.BinOp) and isinstance(above.op, (ast.Mult, ast.Div)):
            yield node.lineno, f"{code(node)} is rounded before it is worked with. Round last?"


def _minus_zero(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Subscript) and isinstance(node.slice, ast.UnaryOp):
            if is_number(node.slice) and getattr(node.slice.operand, "value", 1) == 0:
                yield node.lineno, f"{code(node)}: -0 is 0, the first item. Is the last one meant?"


def _past_the_end(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Subscript) and called(node.slice) == "len":
            inside = node.slice.args[:1]  # type: ignore[attr-defined]
            if inside and ast.dump(inside[0]).replace("Load", "") == ast.dump(node.value).replace(
                "Load", ""
            ):
                yield node.lineno, f"{code(node)} is one past the last item. Is `- 1` missing?"


def _same_rows(scene: Scene) -> Found:
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Mult):
            if isinstance(node.left, ast.List) and len(node.left.elts) == 1:
                inner = node.left.elts[0]
                row = isinstance(inner, (ast.List, ast.Dict)) or (
                    isinstance(inner, ast.BinOp) and isinstance(inner.left, ast.List)
                )
                if row:
                    yield (
                        node.lineno,
                        (
                            f"{code(node)} has one and the same list several times. Should "
                            f"each be its own?"
                        ),
                    )


RULES = (
    Rule(
        "thrown away",
        "A text is never changed by its methods: they give a new one.",
        "name = 'ard '\nname.strip()\n",
        ("discarded",),
        _thrown_away,
    ),
    Rule(
        "a comparison alone",
        "`==` asks, `=` gives.",
        "x = 1\nx == 2\n",
        ("discarded",),
        _comparison_alone,
    ),
    Rule(
        "never reached",
        "What stands behind a `return` or `break` in the same block never runs.",
        "def f(x):\n    return x\n    print(x)\n",
        ("order", "leaving", "placement"),
        _unreachable,
    ),
    Rule(
        "both the same",
        "A question whose two answers lead to the same need not be asked.",
        "x = 1\nif x > 0:\n    x = 2\nelse:\n    x = 2\n",
        ("constant", "variable"),
        _same_branches,
    ),
    Rule(
        "twice",
        "A line that stands twice does its work twice.",
        "x = 0\nx += 1\nx += 1\n",
        ("doubled",),
        _twice,
    ),
    Rule(
        "asked before",
        "A question that was answered above is never answered otherwise below.",
        "x = 1\nif x < 1:\n    x = 2\nelif x < 1:\n    x = 3\n",
        ("constant", "comparison"),
        _asked_twice,
    ),
    Rule(
        "in a comment",
        "What stands behind # is not run.",
        "x = 0\n# x += 1\nprint(x)\n",
        ("commented",),
        _in_comment,
    ),
    Rule(
        "None is kept",
        "`sort` and `append` change the list and give None.",
        "xs = [2, 1]\nxs = xs.sort()\n",
        ("discarded",),
        _gives_none,
    ),
    Rule(
        "every error passed over",
        "`except: pass` hides also the errors that would have told you something.",
        "try:\n    x = 1\nexcept:\n    pass\n",
        (),
        _swallowed,
    ),
    Rule(
        "a mean without its fraction",
        "`//` drops what is behind the point.",
        "xs = [1, 2]\nm = sum(xs) // len(xs)\n",
        ("arithmetic",),
        _whole_average,
    ),
    Rule(
        "half of one",
        "`/` comes before `+`.",
        "low = high = 1\nm = low + high / 2\n",
        ("parentheses",),
        _half_of_one,
    ),
    Rule(
        "rounded early",
        "What is rounded early is wrong in all that is worked out from it.",
        "x = 1 / 3\ny = round(x, 1) * 100\n",
        ("rounding",),
        _round_early,
    ),
    Rule(
        "minus nothing",
        "-0 is 0; the last item is -1.",
        "xs = [1]\nprint(xs[-0])\n",
        ("index",),
        _minus_zero,
    ),
    Rule(
        "past the end",
        "The last item of n is number n - 1.",
        "xs = [1]\nprint(xs[len(xs)])\n",
        ("index",),
        _past_the_end,
    ),
    Rule(
        "one row many times",
        "`[row] * 3` has one row three times, not three rows.",
        "grid = [[0] * 3] * 2\n",
        ("alias",),
        _same_rows,
    ),
)
