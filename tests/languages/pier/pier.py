"""Pier as the house sees it: everything it must offer, by its own parser, in two hundred lines."""

from __future__ import annotations

import importlib.util
import re
import sys
from collections.abc import Mapping
from pathlib import Path
from types import SimpleNamespace
from typing import Any

from oddsum.languages.language import Interpreter, Probe
from oddsum.languages.outline import Fork, Function, Limit, Loop, Passed, Read, Reads
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.lead import TrialEdit

HARBOUR = Path(__file__).with_name("harbour.py")
_SPEC = importlib.util.spec_from_file_location("pier_harbour", HARBOUR)
harbour = importlib.util.module_from_spec(_SPEC)
_SPEC.loader.exec_module(harbour)


def _statements(source):
    try:
        return list(harbour.every(harbour.read(source.text)))
    except harbour.Mistake:
        return []


class Running:
    def find_interpreter(self, program, named):
        return Interpreter(sys.executable, (1, 0, 0), language="Pier")

    def interpreters(self):
        return (self.find_interpreter(None, None),)

    def probe(self):
        return Probe(str(HARBOUR))

    def made_ready(self, request, files):
        return {}

    def loaded(self, *told):
        return {}

    def last_words(self, errors):
        return None

    def unpack(self, data):
        raise ValueError("Pier sends json")


class Reading:
    def own_files(self, program):
        return (program.resolve(),)

    def functions(self, source):
        found = [s for s in _statements(source) if s.kind == "def"]
        return tuple(Function(s.line, s.end, s.target, s.parameters, (s.target,)) for s in found)

    def loops(self, source):
        return tuple(
            Loop(source.name, s.line, s.end, "while", source.lines[s.line - 1].strip(),
                 in_header=tuple(harbour.names_in(s.trees[0])),
                 names=frozenset(n for t in s.body for x in t.trees for n in harbour.names_in(x)))
            for s in _statements(source) if s.kind == "while"
        )  # fmt: skip

    def limits(self, source):
        found = []
        for s in _statements(source):
            for tree in s.trees:
                if tree[0] in harbour.LEVELS[0] and tree[1][0] == "name" and tree[2][0] == "value":
                    found.append(Limit(source.name, s.line, s.line, s.function, tree[1][1],
                                       tree[0], tree[2][1]))  # fmt: skip
        return tuple(found)

    def forks(self, source):
        return tuple(
            Fork(source.name, s.line, s.kind, source.lines[s.line - 1].strip(), None)
            for s in _statements(source) if s.kind in ("if", "while")
        )  # fmt: skip

    def reads(self, source):
        found = {}
        headers = [s for s in _statements(source) if s.kind in ("if", "while")]
        for s in _statements(source):
            around = [h for h in headers if h.line < s.line <= h.end and h.function == s.function]
            header = max(around, key=lambda h: h.line, default=None)
            read = tuple(Read(n) for t in s.trees for n in harbour.names_in(t))
            called = tuple(
                Passed(t[1], None, tuple(tuple(Read(n) for n in harbour.names_in(a)) for a in t[2]), {})
                for tree in s.trees for t in harbour.calls_in(tree)
            )  # fmt: skip
            defines = next((f for f in self.functions(source) if f.line == s.line), None)
            constants = tuple(str(t[1]) for t in s.trees if t[0] == "value")
            found[s.line] = Reads(
                s.line, s.end, s.kind, {s.target if s.kind in ("set", "ask") else "": read},
                header.line if header else 0, header.kind if header else "", (), called, constants, defines,
            )  # fmt: skip
        return found

    def statements(self, source):
        return tuple(s.line for s in _statements(source) if s.kind != "def")

    def statement_at(self, source, line):
        return line

    def prompts(self, source):
        return ()

    def asks_for_input(self, source):
        return any(s.kind == "ask" for s in _statements(source))

    def unsteady_calls(self, source):
        return ()

    def unseeded_calls(self, source):
        return ()

    def grouped(self, line):
        return ""

    def example_of(self, function, parameter, source):
        return "10"

    def plain_mistake(self, message, text="", column=0):
        return ""

    def plain_stop(self, kind, message):
        return ""

    def opened_at(self, source, message):
        return ""


class Question:
    def __init__(self, text: str) -> None:
        self.text = text.strip()
        try:
            self._tree = harbour.parse(self.text)
        except harbour.Mistake as mistake:
            raise QuestionError(f"This cannot be read as Pier: {mistake.args[0]}.") from None
        self.names = tuple(dict.fromkeys(harbour.names_in(self._tree)))

    def ask(self, values: Mapping[str, Any]) -> Any:
        run = harbour.Run("", [], lambda *_: None)
        run.names = dict(values)
        try:
            return run.value(self._tree, None)
        except harbour.Fault as fault:
            raise Unanswered(str(fault)) from None


class Asking:
    question = Question

    def expression_fault(self, text):
        try:
            harbour.parse(text)
        except harbour.Mistake as mistake:
            return mistake.args[0]
        return None

    statements_fault = expression_fault

    def call_of(self, text):
        return None

    def with_argument(self, call, at, argument):
        raise SyntaxError(call)

    def names_in(self, expression):
        return tuple(dict.fromkeys(harbour.names_in(harbour.parse(expression))))

    def value_of(self, text):
        return int(text)

    nothing = "0"

    def as_number(self, kind, text):
        return int(text) if kind == "int" else None

    def length_of(self, text):
        return f"{text} + 0"

    def type_words(self, value):
        return "a number" if isinstance(value, int) else "a text"

    def text_of(self, value):
        return str(value)


SIGNS = {"<": ("<=", ">"), "<=": ("<", ">="), ">": (">=", "<"), ">=": (">", "<="),
         "==": ("!=",), "+": ("-",), "-": ("+",), "*": ("+",)}  # fmt: skip


class Edits:
    def scene(self, source, types, wanted, numbers):
        return SimpleNamespace(source=source, types=types, wanted=wanted)

    def edits(self, scene):
        source = scene.source
        for found in re.finditer(r"\d+|<=|>=|==|[-+*<>]", source.text):
            old = found.group()
            new = [str(int(old) + 1), str(int(old) - 1)] if old.isdigit() else SIGNS.get(old, ())
            line = source.text.count("\n", 0, found.start()) + 1
            around = [s for s in _statements(source) if s.line == line]
            for one in new if around else ():
                text = source.text[: found.start()] + one + source.text[found.end() :]
                if "#" not in source.lines[line - 1]:
                    yield TrialEdit(
                        kind="one sign" if not old.isdigit() else "one number", file=source.name,
                        line=line, function=around[0].function, start=found.start(),
                        stop=found.end(), old=old, new=one, where=f"Look at line {line}.",
                        what=f"{old} may not be what is meant.", how=f"Write {one}.", likely=0.5,
                        size=len(one),
                    ), text  # fmt: skip

    def notes(self, scenes):
        return ()

    def invents(self, kind):
        return ""

    def kind_words(self, kind):
        return (f"{kind} off", "It happens.") if kind.startswith("one ") else ("", "")


class Writing:
    def examples(self, source):
        return (), ()

    def switched(self, source, line):
        lines = source.text.split("\n")
        lines[line - 1] = "# " + lines[line - 1]
        return "\n".join(lines), True

    def off_lines(self, text):
        return ()

    def commented(self, rows):
        return [f"# {r}" for r in rows]

    def next_indent(self, before):
        return before[: len(before) - len(before.lstrip())]


class Pier:
    """Three stations; the fourth has what every text has."""

    name = "Pier"
    setting = "interpreter"
    suffixes = frozenset({".pier"})
    can = frozenset({"check", "trace", "pinpoint", "mend"})
    grammar = ""
    running, reading, asking, edits, writing = Running(), Reading(), Asking(), Edits(), Writing()
