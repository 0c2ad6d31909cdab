"""The corpus: correct programs, the faults that are put into them, and which are kept aside.

``programs/LANGUAGE/NAME`` is correct; ``NAME.toml`` beside it holds its cases and its faults, each
as a piece of the text and what stands there instead. What a case should give is worked out from the
correct program. A third of each kind of fault is kept aside: the rules were never tuned on it.
Which third was decided by a digest of the names before the first measurement.
"""

from __future__ import annotations

import difflib
import hashlib
import sys
import tempfile
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from pathlib import Path

from oddsum.check.plan import check_all
from oddsum.languages.language import Interpreter
from oddsum.languages.registry import language_of
from oddsum.model.case import Case, Plan

PROGRAMS = Path(__file__).parent / "programs"
TWO = "two faults"
# Faults that no single small edit of an operator, a name or a number undoes, most of them.
HARD = frozenset({"formula", "unit", "sort key", "missing branch", "missing statement", "closure",
                  "generator", "cache", "state kept", "far"})  # fmt: skip
ENDINGS = {"python": ".py", "javascript": ".js"}  # by language; each has a folder of programs


@dataclass(frozen=True)
class Sample:
    """A program with one fault or two. ``places`` are the sets of lines that a lead may name, one
    a fault, in the faulty text; ``cases`` have what the correct program gives. ``later`` is 0 for
    the first programs, else the number of the addition that they came with: each of these is split
    by itself, so that no sample ever changes sides."""

    name: str
    file: str
    kind: str
    text: str
    correct: str
    places: tuple[frozenset[int], ...]
    cases: tuple[Case, ...]
    aside: bool
    later: int = 0

    def plan(self, folder: Path) -> Plan:
        """The faulty program in a folder of its own, with its plan."""
        program = folder / self.file
        program.write_text(self.text, encoding="utf-8")
        return Plan(program=program, cases=self.cases)


@dataclass(frozen=True)
class Fault:
    """One edit put into a program: a piece of its text, and what stands there instead."""

    kind: str
    old: str
    new: str


@dataclass(frozen=True)
class Subject:
    """A correct program with its cases and faults."""

    file: str
    text: str
    cases: tuple[Case, ...]
    faults: tuple[Fault, ...]
    later: int = 0

    @property
    def name(self) -> str:
        return Path(self.file).stem


def interpreter_for(language: str = "python") -> Interpreter:
    """Ours for Python, so that the machine's other ones change no figure."""
    named = sys.executable if language == "python" else None
    file = Path(f"program{ENDINGS[language]}")
    return language_of(file).running.find_interpreter(file, named)


def subjects(interpreter: Interpreter, pattern: str = "*") -> list[Subject]:
    """Every correct program of a language, its cases filled in with what it gives."""
    language = interpreter.language.lower()
    found = (PROGRAMS / language).glob(f"{pattern}{ENDINGS[language]}")
    return [_subject(path, interpreter) for path in sorted(found)]


def _subject(path: Path, interpreter: Interpreter) -> Subject:
    text = path.read_text(encoding="utf-8")
    facts = tomllib.loads(path.with_suffix(".toml").read_text(encoding="utf-8"))
    calls, stdins = facts.get("calls", []), facts.get("stdins", [])
    asked = [Case(number=n, name=f"case {n}", call=c) for n, c in enumerate(calls, 1)]
    asked += [
        Case(number=n, name=f"case {n}", stdin=s) for n, s in enumerate(stdins, len(calls) + 1)
    ]
    with tempfile.TemporaryDirectory() as folder:
        program = Path(folder, path.name)
        program.write_text(text, encoding="utf-8")
        results = check_all(Plan(program=program, cases=tuple(asked)), interpreter)
    cases = []
    for case, result in zip(asked, results, strict=True):
        if result.run.ending != "ended":
            raise ValueError(f"{path.name}, {case.call or case.stdin}: {result.difference}")
        cases.append(_expecting(case, result))
    faults = tuple(Fault(**f) for f in facts["fault"])
    return Subject(path.name, text, tuple(cases), faults, int(facts.get("later", 0)))


def _expecting(case: Case, result) -> Case:  # type: ignore[no-untyped-def]
    given = {field: getattr(case, field) for field in ("number", "name", "call", "stdin")}
    if case.call is None:
        return Case(**given, stdout=result.run.output)
    return Case(**given, returns=result.run.returned.actual)


def samples(found: list[Subject]) -> list[Sample]:
    """One sample a fault, and for each program one with two faults."""
    made = [s for subject in found for s in _of(subject)]
    by_kind: dict[tuple[bool, str], list[Sample]] = {}
    for sample in made:
        by_kind.setdefault((sample.later, sample.kind), []).append(sample)
    return [s for kind in sorted(by_kind) for s in _split(by_kind[kind])]


def other_pairs(found: list[Subject], draw: int) -> list[Sample]:
    """A further pair of faults a program, another with each ``draw``, each of a fault that rules
    were tuned on: how two faults are found can be looked at in these as often as one likes, and
    what is kept aside stays unseen. Empty for a program with no such pair left."""
    aside = {s.name for s in samples(found) if s.aside}
    made: list[Sample] = []
    for subject in found:
        known = {f"{subject.name}#{n}": f for n, f in enumerate(subject.faults, 1)}
        tuned = [fault for name, fault in known.items() if name not in aside]
        pairs = [
            (a, b)
            for a, b in combinations(tuned, 2)
            if _are_apart(subject, a, b)
            and _are_apart(subject, b, a)
            and {a, b} != set(_pair(subject))
        ]
        pairs.sort(key=lambda p: digest(f"{draw} {subject.name} {p[0].new} {p[1].new}"))
        if pairs:
            made.append(_sample(subject, f"{subject.name}#two{draw}", TWO, list(pairs[0])))
    return made


def _are_apart(subject: Subject, first: Fault, second: Fault) -> bool:
    """Whether the second can be put in behind the first: their texts have nothing in common, and
    they do not stand side by side."""
    text = subject.text
    apart = abs(text.find(first.old) - text.find(second.old)) > 80
    return apart and text.replace(first.old, first.new).count(second.old) == 1


def digest(name: str) -> str:
    """A number of a name, the same on every machine: what is chosen by it is chosen by nobody."""
    return hashlib.sha256(name.encode()).hexdigest()


def _split(group: list[Sample]) -> Iterator[Sample]:
    """Every third of a kind is kept aside, in the order of the digests of the names."""
    for number, sample in enumerate(sorted(group, key=lambda s: digest(s.name))):
        yield Sample(**{**sample.__dict__, "aside": number % 3 == 2})


def _of(subject: Subject) -> Iterator[Sample]:
    for number, fault in enumerate(subject.faults, 1):
        yield _sample(subject, f"{subject.name}#{number}", fault.kind, [fault])
    pair = _pair(subject)
    if pair:
        yield _sample(subject, f"{subject.name}#two", TWO, pair)


def _pair(subject: Subject) -> list[Fault]:
    """Two faults whose texts have nothing in common, chosen by digest."""
    order = sorted(subject.faults, key=lambda f: digest(subject.name + f.kind + f.old + f.new))
    for first, second in combinations(order, 2):
        if first.kind != second.kind and _are_apart(subject, first, second):
            return [first, second]
    return []


def _sample(subject: Subject, name: str, kind: str, faults: list[Fault]) -> Sample:
    text = subject.text
    for fault in faults:
        if text.count(fault.old) != 1:
            raise ValueError(f"{name}: {fault.old!r} stands {text.count(fault.old)} times")
        text = text.replace(fault.old, fault.new)
    places = tuple(frozenset(_places(text, _undone(subject, faults, f))) for f in faults)
    return Sample(
        name, subject.file, kind, text, subject.text, places, subject.cases, False, subject.later
    )


def _undone(subject: Subject, faults: list[Fault], mended: Fault) -> str:
    """The text with one of the faults undone: the others are still in it."""
    text = subject.text
    for fault in faults:
        if fault is not mended:
            text = text.replace(fault.old, fault.new)
    return text


def _places(faulty: str, mended: str) -> set[int]:
    """Lines of the faulty text that the mend changes; of an insertion, those it comes between."""
    a, b = faulty.split("\n"), mended.split("\n")
    found: set[int] = set()
    for tag, start, stop, _, _ in difflib.SequenceMatcher(None, a, b, autojunk=False).get_opcodes():
        if tag == "insert":
            found |= {start, start + 1}
        elif tag != "equal":
            found |= set(range(start + 1, stop + 1))
    return found
