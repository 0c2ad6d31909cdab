"""Holds what Pinpoint says of a program against runs made apart from it.

Cases run in the plain interpreter, with a plain callback at every line; mends are carried out on a
copy and judged by their results; values that would be right are put into the program. Nothing of
the recorder, of the trials or of the comparing is used here. ``falsehoods`` gives one line for each
sentence that is not so. What it cannot check (where values go back to, what is found without an odd
case) it leaves alone, and counts.
"""

from __future__ import annotations

import ast
import contextlib
import io
import re
import sys
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from types import FrameType
from typing import Any

from oddsum.model.case import Case
from oddsum.model.lead import Edit, Lead, Pinpointing, RightValue

FILE = "program.py"
LONGEST = 2_000_000  # lines that a run may go through
_OF = {"the only odd case": (1, 1), "both odd cases": (2, 2)}
_TEXTS = re.compile(r"`([^`]*)`")
_CUT = "…"


class Stopped(Exception):
    """A run went on for too long."""


@dataclass
class Did:
    """What a run came to, and how often each line was begun."""

    output: str = ""
    gave: Any = None
    raised: str | None = None
    begun: dict[int, int] = field(default_factory=dict)
    asked: list[str | None] = field(default_factory=list)


Question = tuple[int, int, tuple[str, ...]]  # a line, the how many-th time, expressions


def run(text: str, case: Case, question: Question | None = None, lines: bool = False) -> Did:
    """Run a case; with a question, what its expressions come to just before that line."""
    did, left = Did(), [LONGEST]

    def trace(frame: FrameType, event: str, _: Any) -> Callable[..., Any] | None:
        code = frame.f_code
        if code.co_filename != FILE or (code.co_name.startswith("<") and code.co_name not in _OURS):
            return None
        if event == "line":
            left[0] -= 1
            if left[0] < 0:
                raise Stopped
            line = frame.f_lineno
            did.begun[line] = did.begun.get(line, 0) + 1
            if question is not None and question[:2] == (line, did.begun[line]):
                did.asked = [_worked_out(e, frame) for e in question[2]]
        return trace

    names: dict[str, Any] = {"__name__": "__main__" if case.call is None else "program"}
    out = io.StringIO()
    before, sys.stdin = sys.stdin, io.StringIO(case.stdin or "")
    depth = sys.getrecursionlimit()
    try:
        with contextlib.redirect_stdout(out):
            code = compile(text, FILE, "exec")
            asked = compile(case.call, "case", "eval") if case.call is not None else None
            if question is not None or lines:
                sys.settrace(trace)
            exec(code, names)
            if asked is not None:
                exec(case.before or "", names)
                did.gave = eval(asked, names)
    except (Exception, SystemExit) as error:
        did.raised = type(error).__name__
    finally:
        sys.settrace(None)
        sys.setrecursionlimit(depth)
        sys.stdin = before
    did.output = out.getvalue()
    return did


_OURS = ("<module>", "<lambda>")


def _worked_out(text: str, frame: FrameType) -> str | None:
    try:
        return repr(eval(text, frame.f_globals, frame.f_locals))
    except Exception as error:
        return f"({type(error).__name__})"


def agrees(text: str, case: Case) -> bool:
    """Whether a case of the corpus comes out as it should."""
    did = run(text, case, lines=True)
    if did.raised is not None:
        return False
    if case.call is None:
        return _lines(did.output) == _lines(case.stdout or "")
    return _same(did.gave, ast.literal_eval(case.returns or "None"))


def _lines(text: str) -> list[str]:
    """Lines as a plan compares them that names no rule: blanks at their ends and empty lines at
    the end of all do not count."""
    return [line.rstrip() for line in text.rstrip().split("\n")]


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, (list, tuple)) and type(one) is type(other):
        return len(one) == len(other) and all(map(_same, one, other))
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(_same(v, other[k]) for k, v in one.items())
    if isinstance(one, float) or isinstance(other, float):
        try:
            return bool(one == other or abs(one - other) <= 1e-9 * max(abs(one), abs(other)))
        except TypeError:
            return False
    return bool(one == other)


def mended(text: str, edits: Sequence[Edit]) -> str:
    """The program with edits of whole lines carried out."""
    lines = text.split("\n")
    for edit in sorted(edits, key=lambda e: -e.line):
        assert tuple(lines[edit.line - 1 : edit.end]) == edit.before
        lines[edit.line - 1 : edit.end] = edit.after
    return "\n".join(lines)


class Checker:
    """A search on one program; ``checked`` counts the sentences that were held against runs."""

    def __init__(self, text: str, cases: Sequence[Case], found: Pinpointing) -> None:
        self.text, self.found = text, found
        self.cases = {c.number: c for c in cases}
        self.single = _single_lines(text)
        self.was = {n: agrees(text, c) for n, c in self.cases.items()}
        self.did: dict[int, Did] = {}
        self.checked = 0

    def falsehoods(self) -> Iterator[str]:
        """What is said and is not so."""
        odd = tuple(n for n, right in self.was.items() if not right)
        if odd != self.found.odd:
            yield f"odd are {odd}, and {self.found.odd} is said"
        yield from self._remarks()
        yield from self._ask()
        texts: set[str] = set()
        for lead in self.found.leads:
            for told in (*self._wording(lead), *self._mend(lead, texts), *self._values(lead),
                         *self._what(lead), *self._evidence(lead)):  # fmt: skip
                yield f"{lead.letter}, line {lead.lines}: {told}"

    def _ran(self, number: int) -> Did:
        if number not in self.did:
            self.did[number] = run(self.text, self.cases[number], lines=True)
        return self.did[number]

    # -- the search as a whole -----------------------------------------------------------------

    def _remarks(self) -> Iterator[str]:
        for remark in self.found.remarks:
            told = re.match(r"Cases? ([\d, ]+) came out otherwise the second time", remark)
            if told:
                self.checked += 1
                for n in map(int, told[1].split(",")):
                    one, other = (run(self.text, self.cases[n]) for _ in range(2))
                    if (one.output, repr(one.gave)) == (other.output, repr(other.gave)):
                        yield remark

    def _ask(self) -> Iterator[str]:
        ask = self.found.ask
        if ask is None:
            return
        self.checked += 1
        case = Case(number=1, name="", stdin=ask.stdin, call=ask.call)
        if len({g.actual for g in ask.gives}) < 2:
            yield "the input that should decide does not"
        if any(lead.score >= 0.7 for lead in self.found.leads):
            yield "a lead is strong while an input is asked about"
        for gives in ask.gives:
            lead = self.found.leads[gives.rank - 1]
            texts = ([mended(self.text, lead.mend.edits)] if not gives.way
                     else list(self._other_ways(lead, gives.way)))  # fmt: skip
            came = [run(t, case) for t in texts]
            if texts and not any(gives.actual in (d.output, repr(d.gave)) for d in came):
                yield f"{ask.call or ask.stdin!r} gives {gives.actual!r} with {gives.way or 'it'}"

    # -- a lead ----------------------------------------------------------------------------------

    def _wording(self, lead: Lead) -> Iterator[str]:
        """What no sentence may say, whatever the run was."""
        said = [lead.where, lead.what, lead.how, *(e.text for e in lead.evidence)]
        for text in said:
            self.checked += 1
            bare = re.sub(r"'[^']*'|" + _TEXTS.pattern, "`_`", text)
            bad = re.search(r"\b1 (times|cases|others|rounds|items)\b|\b\d*[123]th\b(?<!1[123]th)|"
                            r"(?<!…)  |\.\.$", bare)  # fmt: skip
            if bad:
                yield f"worded badly ({bad[0]!r}): {text}"
            given = re.findall(r"had given (.+?) instead of (.+?)(?: each time| and so on| the \w+ "
                               r"time)?, case", text)  # fmt: skip
            yield from (f"no difference is shown: {text}" for a, b in given if a == b)
            sentences = [s for s in re.split(r"(?<=[.?!]) (?=[A-Z`])", text) if len(s) > 12]
            if len(set(sentences)) < len(sentences):
                yield f"a sentence stands twice: {text}"
        if len(set(lead.equals)) < len(lead.equals):
            yield f"a way stands twice: {lead.equals}"

    def _mend(self, lead: Lead, texts: set[str]) -> Iterator[str]:
        if lead.mend is None:
            return
        self.checked += 1
        text = mended(self.text, lead.mend.edits)
        if not lead.beside and text in texts:
            yield "its mend is that of another lead"
        texts.add(text)
        after = {n: agrees(text, c) for n, c in self.cases.items()}
        settles = tuple(n for n, ok in after.items() if ok and not self.was[n])
        breaks = tuple(n for n, ok in after.items() if not ok and self.was[n])
        if (settles, breaks) != (lead.mend.settles, lead.mend.breaks):
            said = lead.mend.settles, lead.mend.breaks
            yield f"settles and breaks {(settles, breaks)}, and {said} is said"
        for way in lead.equals:
            others = list(self._other_ways(lead, way))
            if not others:
                continue
            self.checked += 1
            if text in others:
                yield f"a change as good is the same text: {way}"
            if not any(all(agrees(t, self.cases[n]) for n in settles) for t in others):
                yield f"not as good: {way}"

    def _other_ways(self, lead: Lead, way: str) -> Iterator[str]:
        """The program with ``old`` → ``new`` on the lead's line, wherever ``old`` stands there; and
        with what the mend changes elsewhere, which such a way needs as well."""
        told = re.fullmatch(r"`([^`]+)` → `([^`]+)`", way)
        mine = [e for e in lead.mend.edits if {*range(e.line, e.end + 1)} & {*lead.lines}]
        if not told or [n for e in mine for n in range(e.line, e.end + 1)] != list(lead.lines):
            return
        rest = [e for e in lead.mend.edits if e not in mine]
        lines = self.text.split("\n")
        for at in lead.lines:
            line = lines[at - 1]
            for start in range(len(line)):
                if line.startswith(told[1], start):
                    changed = line[:start] + told[2] + line[start + len(told[1]) :]
                    here = Edit(lead.file, at, at, (line,), (changed,))
                    text = mended(self.text, [*rest, here])
                    with contextlib.suppress(SyntaxError):
                        ast.parse(text)
                        yield text

    def _values(self, lead: Lead) -> Iterator[str]:
        for told in _PRINTED.finditer(lead.what):
            self.checked += 1
            yield from self._printed(lead, told)
        for told in re.finditer(_HERE_WOULD, lead.how):
            self.checked += 1
            yield from self._would(lead, told)
        for value in lead.values:
            text = _put(self.text, value)
            if text is None:
                continue
            self.checked += 1
            if not agrees(text, self.cases[value.case]):
                yield f"does not make it agree: {value}"

    def _printed(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        """Lines printed at a place, in each case that is named."""
        rows, line, after = told["rows"], int(told["line"]), told["side"] == "after"
        if _CUT in rows:
            return
        visits = {v.case: v.visit for v in lead.values}
        for number in map(int, re.findall(r"case (\d+)", told["cases"])):
            texts = [row[1:-1] for row in rows.split(" and then ")]
            text = _printing(self.text, line, after, texts, visits[number])
            if not agrees(text, self.cases[number]):
                yield told[0]
        end = _statement(self.text, line).end_lineno or line
        if after and bool(told["more"]) != (end > line):
            yield f"what belongs to the line? {told[0]}"

    def _what(self, lead: Lead) -> Iterator[str]:
        for pattern, check in _SAID:
            for told in re.finditer(pattern, lead.what):
                line = int(told["line"])
                if line in self.single:
                    self.checked += 1
                    yield from check(self, told)

    def _has(self, told: re.Match[str]) -> Iterator[str]:
        visit = int(re.sub(r"\D", "", told["visit"] or "1"))
        names = _pairs(told["values"] or "")
        asked = (told["text"], *names)
        did = run(self.text, self.cases[int(told["case"])], (int(told["line"]), visit, asked))
        yield from _apart([told["gave"], *names.values()], did.asked, told[0])

    def _runs(self, told: re.Match[str]) -> Iterator[str]:
        count = self._ran(int(told["case"])).begun.get(int(told["line"]), 0)
        said = int(told["times"].replace(",", ""))
        if count < said or (count > said and not told["least"]):
            yield f"it runs {count} times: {told[0]}"
        names = _pairs(told["values"] or "")
        did = run(self.text, self.cases[int(told["case"])], (int(told["line"]), 1, tuple(names)))
        yield from _apart(list(names.values()), did.asked, told[0])

    def _once(self, told: re.Match[str]) -> Iterator[str]:
        count = self._ran(int(told["case"])).begun.get(int(told["line"]), 0)
        if count != 1:
            yield f"it runs {count} times: {told[0]}"
        names = _pairs(told["values"])
        did = run(self.text, self.cases[int(told["case"])], (int(told["line"]), 1, tuple(names)))
        yield from _apart(list(names.values()), did.asked, told[0])

    # -- its account -----------------------------------------------------------------------------

    def _evidence(self, lead: Lead) -> Iterator[str]:
        lines = self.text.split("\n")
        if all(lines[n - 1].lstrip().startswith("#") for n in lead.lines):
            return  # what stands in a comment runs where the statement beside it does
        for one in lead.evidence:
            for pattern, check in _TOLD:
                told = re.fullmatch(pattern, one.text)
                if told:
                    self.checked += 1
                    yield from check(self, lead, told)

    def _in_odd(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        part, whole = _of(told["of"])
        ran = {self._count(line, self.found.odd) for line in lead.lines}
        if (part not in ran or len(self.found.odd) != whole) and not told["recorded"]:
            yield f"{told[0]}: it runs in {ran} of {len(self.found.odd)}"

    def _left_odd(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        """In which cases it runs that the leads ahead of it do not settle, and in which they do."""
        above = [x.mend for x in self.found.leads[: lead.rank - 1] if x.mend is not None]
        gone = {n for mend in above for n in mend.settles}
        left = [n for n in self.found.odd if n not in gone]
        (line,) = lead.lines
        said = told["left"], told["there"]
        here = (
            f"{self._count(line, left)} of {len(left)} cases" if len(left) > 1 else "the only case"
        )
        there = f"{self._count(line, sorted(gone))} of {len(gone)}"
        if said != (here, there) or not self._count(line, left):
            yield f"{told[0]}: it is {here}, and {there}"

    def _in_agreeing(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        ran = max(self._count(line, self.found.agrees) for line in lead.lines)
        if ran < int(told["count"]):
            yield f"{told[0]}: it runs in {ran}"

    def _not_in(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        fewest = min(self._count(line, self.found.agrees) for line in lead.lines)
        if len(self.found.agrees) - fewest < int(told["count"]):
            yield f"{told[0]}: it does not run in {len(self.found.agrees) - fewest}"

    def _count(self, line: int, numbers: Sequence[int]) -> int:
        return sum(bool(self._ran(n).begun.get(self._begins(line))) for n in numbers)

    def _begins(self, line: int) -> int:
        """The line whose visits are those of a line: what an ``else:`` runs begins below it."""
        rows = self.text.split("\n")
        while re.match(r"\s*(else|try|finally)\s*:\s*$", rows[line - 1]):
            line += 1
        return line

    def _settles(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        part, whole = _of(told["of"])
        if (part, whole) != (len(lead.mend.settles), len(self.found.odd)):
            yield told[0]

    def _would(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        if _of(told["of"]) != (len({v.case for v in lead.values}), len(self.found.odd)):
            yield told[0]

    def _unused(self, lead: Lead, told: re.Match[str]) -> Iterator[str]:
        """A list in a loop: as many items, and none of those told is asked for there."""
        used, sizes = _items_used(self.text, lead.lines[0], told["name"],
                                  self.cases[int(told["case"])])  # fmt: skip
        if sizes and int(told["size"]) not in sizes:
            yield f"{told[0]} It has {sizes}."
        items = re.findall(rf"{re.escape(told['name'])}\[(\d+)\]", told["items"])
        if told["how"] == "reached" and len(items) == 2:
            items = [str(n) for n in range(int(items[0]), int(items[1]) + 1)]
        wrong = [n for n in items if int(n) in used]
        if sizes and wrong and len(sizes) == 1:
            yield f"{told[0]} Used are {sorted(used)}."


_VALUES = r"(?P<values>.+?)"
_SAID = (
    (r"In case (?P<case>\d+), line (?P<line>\d+)(?:, the (?P<visit>\w+) time,)? has `(?P<text>[^`]+)`"
     r"(?: where " + _VALUES + r")?: that gives (?P<gave>.+?)\.(?= [A-Z`]|$)", Checker._has),
    (r"In case (?P<case>\d+), line (?P<line>\d+) runs (?P<least>at least )?(?P<times>[\d,]+) times?\."
     r"(?: The first time, " + _VALUES + r" just before it\.)?", Checker._runs),
    (r"In case (?P<case>\d+), just before line (?P<line>\d+) runs, " + _VALUES
     + r"\.(?= [A-Z`]|$)", Checker._once),
)  # fmt: skip
_PRINTED = re.compile(
    r"If (?P<rows>`.+?`) had been printed (?P<side>ahead of|after) line (?P<line>\d+)"
    r"(?P<more> and all that belongs to it)?(?: each time| the \w+ time)?, "
    r"(?P<cases>case \d+ would agree[^.]*)\."
)
_NUMBER_OF = r"(?P<of>the only odd case|both odd cases|all \d+ odd cases|\d+ of \d+ odd cases)"
_HERE_WOULD = rf"(?:another value|a line printed) here would settle {_NUMBER_OF}"
_TOLD = (
    (rf"runs in {_NUMBER_OF}(?P<recorded> that were recorded)?", Checker._in_odd),
    (r"runs in (?P<left>the only case|\d+ of \d+ cases) that the changes above leave odd, and in "
     r"(?P<there>\d+ of \d+) that they settle", Checker._left_odd),
    (r"runs in (?P<count>\d+) cases? that agrees?, too", Checker._in_agreeing),
    (r"does not run in (?P<count>\d+) cases? that agrees?", Checker._not_in),
    (rf"a change here(?: together with one elsewhere)? settles {_NUMBER_OF}", Checker._settles),
    (_HERE_WOULD, Checker._would),
    (r"in case (?P<case>\d+): (?P<name>\w+) has (?P<size>\d+) items; (?P<items>.+) (?:is|are) never "
     r"(?P<how>used|reached)\.", Checker._unused),
)  # fmt: skip


def _of(text: str) -> tuple[int, int]:
    if text in _OF:
        return _OF[text]
    numbers = [int(n) for n in re.findall(r"\d+", text)]
    return (numbers[0], numbers[-1])


def _pairs(text: str) -> dict[str, str]:
    """``a is 1, b is [2, 3] and c is 'x'`` as names with their texts."""
    names = [(m.start(), m.end(), m[1]) for m in re.finditer(r"(?:^|, | and )(\w+) is ", text)]
    ends = [*(start for start, _, _ in names[1:]), *([len(text)] if names else [])]
    return {name: text[end:stop] for (_, end, name), stop in zip(names, ends, strict=True)}


def _apart(said: Sequence[str], came: Sequence[str | None], sentence: str) -> Iterator[str]:
    """Where what is said is not what came; of long values and of objects only what is shown."""
    if len(said) != len(came):
        yield f"never: {sentence}"
        return
    for one, other in zip(said, came, strict=True):
        plain = _CUT not in one and "(" not in one and " at 0x" not in (other or "")
        if plain and one != other and not _same_set(one, other):
            yield f"it is {other}, not {one}: {sentence}"


def _same_set(one: str, other: str | None) -> bool:
    """Whether both tell one set: its items have no order."""
    try:
        return bool(ast.literal_eval(one) == ast.literal_eval(other or ""))
    except (SyntaxError, ValueError):
        return False


def _single_lines(text: str) -> set[int]:
    """Lines with one statement each, of one line, that begins nothing else."""
    seen: dict[int, int] = {}
    out: set[int] = set()
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, (ast.stmt, ast.ExceptHandler, ast.match_case)):
            line = getattr(node, "lineno", None) or node.pattern.lineno  # type: ignore[union-attr]
            seen[line] = seen.get(line, 0) + 1
            header = hasattr(node, "body")
            constant = isinstance(node, ast.While) and isinstance(node.test, ast.Constant)
            if (not header and node.end_lineno != line) or constant or isinstance(node, ast.Try):
                out.add(line)
        elif isinstance(node, (ast.GeneratorExp, ast.ListComp, ast.SetComp, ast.DictComp)):
            if sys.version_info >= (3, 12):
                out.add(node.lineno)  # its rounds are line events of the statement there
    return {line for line, count in seen.items() if count == 1} - out


def _put(text: str, value: RightValue) -> str | None:
    """The program with the value in the expression's place; None where that cannot be written."""
    lines = text.split("\n")
    line = lines[value.line - 1]
    plain = _CUT not in value.would and " then " not in value.would
    if line.count(value.expression) != 1 or not plain or line.lstrip().startswith(("for ", "def ")):
        return None
    hooked = f"_instead(({value.expression}), lambda: {value.when or True})"
    lines[value.line - 1] = line.replace(value.expression, hooked)
    ahead = (
        "_visits = [0]\n"
        "def _instead(gave, when):\n"
        "    _visits[0] += 1\n"
        "    try:\n"
        "        if not when(): return gave\n"
        "    except NameError: return gave\n"
        f"    return gave if {value.visit} not in (0, _visits[0]) else {value.would}\n"
    )
    made = ahead + "\n".join(lines)
    try:
        ast.parse(made)
        ast.literal_eval(value.would)
    except (SyntaxError, ValueError):
        return None
    return made


def _printing(text: str, line: int, after: bool, rows: list[str], visit: int) -> str:
    """The program with lines printed ahead of the statement of a line, or after it."""
    node = _statement(text, line)
    lines = text.split("\n")
    at = (node.end_lineno or line) if after else line - 1
    lines.insert(at, " " * node.col_offset + "_print_now()")
    ahead = (
        "_visits = [0]\n"
        "def _print_now():\n"
        "    _visits[0] += 1\n"
        f"    if {visit} in (0, _visits[0]): print({chr(10).join(rows)!r})\n"
    )
    return ahead + "\n".join(lines)


def _statement(text: str, line: int) -> ast.stmt:
    nodes = (n for n in ast.walk(ast.parse(text)) if isinstance(n, ast.stmt) and n.lineno == line)
    return next(nodes)


def _items_used(text: str, line: int, name: str, case: Case) -> tuple[set[int], set[int]]:
    """The places of a list that a loop asks for, and how many items it had."""
    tree = ast.parse(text)
    loop = next((n for n in ast.walk(tree) if isinstance(n, (ast.For, ast.While))
                 and n.lineno == line), None)  # fmt: skip
    if loop is None:
        return set(), set()
    used: set[int] = set()
    sizes: set[int] = set()

    class Into(ast.NodeTransformer):
        def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
            self.generic_visit(node)
            if isinstance(node.value, ast.Name) and node.value.id == name:
                node.slice = ast.Call(ast.Name("_used", ast.Load()),
                                      [ast.Name(name, ast.Load()), node.slice], [])  # fmt: skip
            return node

        def visit_For(self, node: ast.For) -> ast.AST:
            self.generic_visit(node)
            if isinstance(node.iter, ast.Name) and node.iter.id == name:
                node.iter = ast.Call(ast.Name("_each", ast.Load()), [node.iter], [])
            return node

    Into().visit(loop)
    loop.body.insert(0, ast.parse(f"_size({name})").body[0])

    def _used(items: Any, place: Any) -> Any:
        if isinstance(place, int):
            used.add(place % len(items) if items else place)
        return place

    def _each(items: Any) -> Iterator[Any]:
        for place, item in enumerate(items):
            used.add(place)
            yield item

    program = ast.unparse(ast.fix_missing_locations(tree))
    names = {"_used": _used, "_each": _each, "_size": lambda items: sizes.add(len(items))}
    _with_names(program, case, names)
    return used, sizes


def _with_names(program: str, case: Case, names: dict[str, Any]) -> None:
    import builtins

    for name, value in names.items():
        setattr(builtins, name, value)
    try:
        run(program, case)
    finally:
        for name in names:
            delattr(builtins, name)
