"""An account of what a program does, made apart from the recorder: a plain callback of the
interpreter with a snapshot at every line, and counters put into its loops.

Nothing of the recorder is used here. What can be compared is what both speak of: lines with one
statement each, whose header is not a ``with``, nor a ``while`` of a constant, nor decorated.
"""

from __future__ import annotations

import ast
import contextlib
import io
import re
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from types import CodeType, FrameType, FunctionType, ModuleType
from typing import Any

FILE = "program.py"
LEVELS, MOST = 3, 20_000
_HIDDEN = (FunctionType, type, ModuleType, staticmethod, classmethod, property)


@dataclass
class Moment:
    """Ahead of a line: where it is, what the names in sight hold, what was printed so far."""

    line: int
    function: str
    own: dict[str, str]
    module: dict[str, str]
    classes: dict[str, str]
    printed: int
    answers: dict[str, bool] = field(default_factory=dict)


@dataclass
class Called:
    """A call: what went in, and what came out: ``gave``, or the type of what it was left by."""

    function: str
    arguments: dict[str, str]
    gave: str | None = None
    raised: str | None = None


@dataclass
class Account:
    """All of a run. ``loops``: for each time one was entered, its line, rounds and ending."""

    moments: list[Moment] = field(default_factory=list)
    calls: list[Called] = field(default_factory=list)
    loops: list[list[Any]] = field(default_factory=list)
    asked: tuple[str, ...] = ()
    output: str = ""
    ending: str = "ended"


def text(value: Any, levels: int = LEVELS, inside: tuple[int, ...] = ()) -> str:
    """A value as the trace should show it."""
    kind = type(value)
    if kind in (int, float, bool, complex, str, bytes, type(None), range):
        return repr(value)
    if id(value) in inside:
        return "(itself)"
    deeper = (*inside, id(value))
    if kind in (list, tuple, set, frozenset, dict):
        if any(isinstance(part, (*_HIDDEN, BaseException)) for part in value):
            return "?"
        if not levels:
            return f"{kind.__name__}(…)"
        if kind is dict:
            pairs = [f"{text(k, levels - 1, deeper)}: {text(v, levels - 1, deeper)}"
                     for k, v in value.items()]  # fmt: skip
            return "{" + ", ".join(pairs) + "}"
        parts = ", ".join(text(v, levels - 1, deeper) for v in value)
        if kind is tuple:
            return f"({parts}{',' if len(value) == 1 else ''})"
        if kind is list:
            return f"[{parts}]"
        brackets = "{" + parts + "}" if value else ""
        return f"{kind.__name__}({brackets})" if kind is frozenset or not value else brackets
    if isinstance(value, (*_HIDDEN, BaseException)) or not hasattr(value, "__dict__"):
        return "?"
    if not levels:
        return f"{kind.__name__}(…)"
    fields = ", ".join(f"{k}={text(v, levels - 1, deeper)}" for k, v in vars(value).items())
    return f"{kind.__name__}({fields})"


def title(code: CodeType) -> str:
    """What the trace calls a function."""
    plain = re.sub(r"<(?!lambda)\w+>\.", "", code.co_qualname.replace(".<locals>", ""))
    return plain.replace("<lambda>", "lambda")


def comparable(source: str) -> set[int]:
    """The lines that both speak of."""
    seen: dict[int, int] = {}
    left_out: set[int] = set()
    for node in ast.walk(ast.parse(source)):
        if not isinstance(node, ast.stmt):
            continue
        seen[node.lineno] = seen.get(node.lineno, 0) + 1
        constant = isinstance(node, ast.While) and isinstance(node.test, ast.Constant)
        said = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        declared = isinstance(node, (ast.Global, ast.Nonlocal, ast.With, ast.AsyncWith, ast.Match))
        several = not hasattr(node, "body") and node.end_lineno != node.lineno
        if several or constant or said or declared or getattr(node, "decorator_list", None):
            left_out |= {node.lineno, *(d.lineno for d in getattr(node, "decorator_list", []))}
    return {line for line, count in seen.items() if count == 1} - left_out


def account(source: str, stdin: str = "", ask: tuple[str, ...] = ()) -> Account:
    """Run a program and note what it does, and of some expressions whether each is true.

    One that cannot be worked out at a moment is not true then.
    """
    told = Account(asked=ask)
    lines, out = comparable(source), io.StringIO()
    names: dict[str, Any] = {"__name__": "__main__"}
    under_way: dict[int, Called] = {}
    on_its_way: dict[int, str] = {}  # exceptions, by the frame that they came to last
    asleep: dict[int, FrameType] = {}  # generators

    def shown(found: dict[str, Any]) -> dict[str, str]:
        return {
            n: text(v)
            for n, v in found.items()
            if not n.startswith(("__", ".")) and text(v) != "?" and n != "_counted"
        }

    def classes() -> Iterator[tuple[str, str]]:
        for kind in [
            v for v in names.values() if isinstance(v, type) and v.__module__ == "__main__"
        ]:
            for name, value in vars(kind).items():
                if (
                    not name.startswith("__")
                    and text(value) != "?"
                    and not hasattr(value, "__get__")
                ):
                    yield f"{kind.__qualname__}.{name}", text(value)

    def answers(frame: FrameType) -> dict[str, bool]:
        found = {}
        nested = "<locals>" in frame.f_code.co_qualname
        for question in ask:
            names_in = {n.id for n in ast.walk(ast.parse(question)) if isinstance(n, ast.Name)}
            if nested and not names_in <= {*frame.f_locals, "len", "max"}:
                continue  # it may mean a name of the function around, which ``eval`` does not see
            try:
                found[question] = bool(eval(question, {**names, **frame.f_locals}))
            except NameError:
                continue
            except Exception:
                found[question] = False
        return found

    def on_line(frame: FrameType) -> None:
        if frame.f_lineno not in lines or len(told.moments) >= MOST:
            return
        code, own = frame.f_code, {}
        at_def = code.co_flags & 2 and frame.f_lineno == code.co_firstlineno
        if at_def and code.co_consts[:1] != (None,) and code.co_name != "<lambda>":
            return  # a function of nothing but a docstring gives None at the line of its def
        if code.co_name != "<module>":
            if not code.co_flags & 2 and frame.f_lineno == code.co_firstlineno:
                return  # a class body begins
            own = shown(frame.f_locals)
        told.moments.append(
            Moment(frame.f_lineno, "" if code.co_name == "<module>" else title(code), own,
                   shown(names), dict(classes()), len(out.getvalue()),
                   answers(frame))
        )  # fmt: skip

    def trace(frame: FrameType, event: str, value: Any) -> Callable[..., Any] | None:
        code = frame.f_code
        hidden = code.co_name.startswith("<") and code.co_name not in ("<module>", "<lambda>")
        if code.co_filename != FILE or hidden:
            return None
        if event == "line":
            on_its_way.pop(id(frame), None)
            on_line(frame)
        elif event == "exception":
            on_its_way[id(frame)] = value[0].__name__
        elif event == "call" and code.co_flags & 2 and id(frame) not in asleep:
            if code.co_flags & 0x20:
                asleep[id(frame)] = frame  # kept, so that its id stays its own
            count = code.co_argcount + code.co_kwonlyargcount
            count += bool(code.co_flags & 4) + bool(code.co_flags & 8)
            given = {n: text(frame.f_locals[n]) for n in code.co_varnames[:count]
                     if n in frame.f_locals}  # fmt: skip
            under_way[id(frame)] = Called(title(code), given)
            told.calls.append(under_way[id(frame)])
        elif event == "return" and id(frame) in under_way and not code.co_flags & 0x20:
            call = under_way.pop(id(frame))
            call.raised = on_its_way.pop(id(frame), None)
            call.gave = text(value) if call.raised is None else None
        return trace

    counted = _Counters(told)
    tree = ast.fix_missing_locations(_Counting().visit(ast.parse(source)))
    with (
        contextlib.redirect_stdout(io.StringIO()),
        _typed(stdin),
        contextlib.suppress(BaseException),
    ):
        exec(compile(tree, FILE, "exec"), {"__name__": "__main__", "_counted": counted})
    with contextlib.redirect_stdout(out), _typed(stdin):
        code = compile(source, FILE, "exec")
        sys.settrace(trace)
        try:
            exec(code, names)
        except BaseException as error:  # whatever it is, the program has ended by it
            told.ending = type(error).__name__
        finally:
            sys.settrace(None)
    told.output = out.getvalue()
    return told


@contextlib.contextmanager
def _typed(stdin: str) -> Iterator[None]:
    before, sys.stdin = sys.stdin, io.StringIO(stdin)
    try:
        yield
    finally:
        sys.stdin = before


class _Counters:
    """What the instrumented program calls; a loop is known by its line and the frame it is in."""

    def __init__(self, told: Account) -> None:
        self.told, self.open = told, {}

    def _key(self, line: int) -> tuple[int, int]:
        return id(sys._getframe(2)), line

    def enter(self, line: int) -> None:
        self.told.loops.append([line, 0, "error"])
        self.open[self._key(line)] = self.told.loops[-1]

    def round(self, line: int) -> None:
        self.open[self._key(line)][1:] = [self.open[self._key(line)][1] + 1, "error"]

    def end(self, line: int, how: str) -> None:
        self.open[self._key(line)][2] = how

    def leave(self, lines: list[int], value: Any) -> Any:
        for line in lines:
            self.open[self._key(line)][2] = "return"
        return value


class _Counting(ast.NodeTransformer):
    """Puts counters into loops."""

    def __init__(self) -> None:
        self.around: list[int] = []

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        kept, self.around = self.around, []
        self.generic_visit(node)
        self.around = kept
        return node

    visit_Lambda = visit_ClassDef = visit_FunctionDef  # type: ignore[assignment]

    def _loop(self, node: Any) -> list[ast.AST]:
        line = node.lineno
        over = "no more" if isinstance(node, ast.For) else "false"
        after = [self.visit(s) for s in node.orelse]
        self.around.append(line)
        body = [self.visit(s) for s in node.body]
        self.around.pop()
        node.body = [_call(f"round({line})"), *_flat(body)]
        node.orelse = [_call(f"end({line}, {over!r})"), *_flat(after)]
        return [_call(f"enter({line})"), node]

    visit_For = visit_While = _loop

    def visit_Break(self, node: ast.Break) -> list[ast.AST]:
        return [_call(f"end({self.around[-1]}, 'break')"), node]

    def visit_Return(self, node: ast.Return) -> ast.AST:
        if self.around:
            given = node.value or ast.Constant(None)
            wrapped = ast.parse(f"_counted.leave({self.around}, 0)", mode="eval").body
            assert isinstance(wrapped, ast.Call)
            wrapped.args[1] = given
            node.value = wrapped
        return node


def _flat(body: list[Any]) -> list[Any]:
    return [s for part in body for s in (part if isinstance(part, list) else [part])]


def _call(text_: str) -> ast.stmt:
    return ast.parse(f"_counted.{text_}").body[0]
