"""``make accuracy``: how often Pinpoint names the right line, on programs with known faults.

Prints, per language, per kind of fault and for the part the rules were tuned on and the part kept
aside: fault line ranked first, in the first three, a mend that settles everything, a mend equal to
the known one, and seconds. ``--only PATTERN``, ``--part tuned|aside``, ``--later N``,
``--pairs DRAW``, ``--most N``, ``--seconds N`` for a quick look.
"""

from __future__ import annotations

import argparse
import ast
import json
import math
import statistics
import sys
import tempfile
import time
from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path

from corpus import (
    ENDINGS,
    HARD,
    TWO,
    Sample,
    Subject,
    digest,
    interpreter_for,
    other_pairs,
    samples,
    subjects,
)

from oddsum.check.plan import check_all
from oddsum.languages.javascript.parsing import Tree
from oddsum.languages.language import Interpreter
from oddsum.model.case import Plan
from oddsum.model.errors import OddSumError
from oddsum.model.lead import Lead, Mend
from oddsum.pinpoint.search import DEFAULT_BUDGET, pinpoint
from oddsum.source.edits import applied
from oddsum.source.program import Source

OUT = Path(__file__).parents[1] / "out"
FIRST_FOUR = 4  # where both places of a program with two faults should be


@dataclass(frozen=True)
class Told:
    """How a search on one sample came out."""

    name: str
    kind: str
    aside: bool
    first: bool
    three: bool
    settled: bool
    same: bool
    both: bool
    seconds: float
    right: float | None  # seconds until a lead stood there that names a place at fault
    trials: int
    leads: list[str]


def examine(sample: Sample, interpreter: Interpreter, budget: float) -> Told:
    with tempfile.TemporaryDirectory() as folder:
        plan = sample.plan(Path(folder))
        results = check_all(plan, interpreter)
        if not any(r.outcome.odd for r in results):
            raise ValueError(f"{sample.name}: no case is odd")
        begun, right = time.monotonic(), list[float]()

        def heard(leads: tuple[Lead, ...]) -> None:
            if any(_names(leads, p) for p in sample.places):
                right.append(time.monotonic() - begun)

        found = pinpoint(plan, interpreter, results, budget=budget, on_leads=heard)
        if not right:
            heard(found.leads)
    odd = len(found.odd)
    whole = [x.mend for x in found.leads if x.mend is not None and _is_whole(x.mend, odd)]
    return Told(
        sample.name,
        sample.kind,
        sample.aside,
        first=any(_names(found.leads[:1], p) for p in sample.places),
        three=any(_names(found.leads[:3], p) for p in sample.places),
        settled=bool(whole),
        same=any(_is_known(sample, m) for m in whole),
        both=all(_names(found.leads[:FIRST_FOUR], p) for p in sample.places),
        seconds=found.seconds,
        right=right[0] if right else None,
        trials=found.trials,
        leads=[f"{x.lines} {x.kind} {x.score}" for x in found.leads],
    )


def _names(leads: Iterable[Lead], place: frozenset[int]) -> bool:
    return any(place.intersection(lead.lines) for lead in leads)


def _is_whole(mend: Mend, odd: int) -> bool:
    return len(mend.settles) == odd and not mend.breaks


def _is_known(sample: Sample, mend: Mend) -> bool:
    """Whether a mend makes the correct program again, as far as the syntax goes."""
    text = applied(Source(sample.file, sample.text), mend.edits)
    return _syntax(sample.file, text) == _syntax(sample.file, sample.correct)


def _syntax(file: str, text: str) -> object:
    """A text without its blanks and comments."""
    if file.endswith(".py"):
        return ast.dump(ast.parse(text))
    tree, found = Tree(text), []
    todo = [tree.root]
    while todo:
        node = todo.pop()
        todo += node.children
        if not node.children and node.type != "comment":
            found.append(tree.of(node))
    return found


def false_leads(subject: Subject, interpreter: Interpreter) -> int:
    """How many leads a correct program gets: there should be none."""
    with tempfile.TemporaryDirectory() as folder:
        program = Path(folder, subject.file)
        program.write_text(subject.text, encoding="utf-8")
        return len(pinpoint(Plan(program=program, cases=subject.cases), interpreter).leads)


def share(part: int, whole: int) -> str:
    """``27/30  90% (74 to 97)``: with the Wilson interval of 95 %."""
    if not whole:
        return "–"
    z, p = 1.96, part / whole
    middle = (p + z * z / (2 * whole)) / (1 + z * z / whole)
    half = z * math.sqrt(p * (1 - p) / whole + z * z / (4 * whole * whole)) / (1 + z * z / whole)
    low, high = (100 * max(0, middle - half), 100 * min(1, middle + half))
    return f"{part}/{whole} {100 * p:.0f}% ({low:.0f} to {high:.0f})"


def table(told: list[Told]) -> None:
    kinds = sorted({t.kind for t in told})
    print(
        f"{'kind':<14}{'n':>4}{'first':>7}{'three':>7}{'settled':>9}{'same':>6}{'s':>7}{'worst':>7}"
    )
    for kind in kinds:
        rows = [t for t in told if t.kind == kind]
        counts = [sum(getattr(t, f) for t in rows) for f in ("first", "three", "settled", "same")]
        seconds = [t.seconds for t in rows]
        print(
            f"{kind:<14}{len(rows):>4}{counts[0]:>7}{counts[1]:>7}{counts[2]:>9}{counts[3]:>6}"
            f"{statistics.median(seconds):>7.1f}{max(seconds):>7.1f}"
        )
    for title, rows in (
        ("one fault", [t for t in told if t.kind != TWO and t.kind not in HARD]),
        ("a hard one", [t for t in told if t.kind in HARD]),
        (TWO, [t for t in told if t.kind == TWO]),
    ):
        if not rows:
            continue
        print("─" * 70)
        for field in ("first", "three", "settled", "same", "both"):
            if field == "both" and title != TWO:
                continue
            print(f"{title:<12}{field:<9}{share(sum(getattr(t, field) for t in rows), len(rows))}")
        seconds = sorted(t.seconds for t in rows)
        print(
            f"{title:<12}seconds  median {statistics.median(seconds):.2f}, worst "
            f"{seconds[-1]:.2f}; "
            f"trials median {statistics.median(t.trials for t in rows):.0f}"
        )
        until = sorted(t.right for t in rows if t.right is not None)
        if until:
            print(f"{title:<12}a right lead stood after {statistics.median(until):.2f} s, median")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--language", choices=tuple(ENDINGS))
    parser.add_argument("--only", default="")
    parser.add_argument("--part", choices=("tuned", "aside"))
    parser.add_argument(
        "--later", type=int, help="only one addition, by its number; 0 for the first"
    )
    parser.add_argument(
        "--pairs", type=int, metavar="DRAW", help="other pairs of tuned faults, drawn by a number"
    )
    parser.add_argument("--most", type=int, default=0)
    parser.add_argument("--seconds", type=float, default=float("inf"))
    parser.add_argument("--budget", type=float, default=DEFAULT_BUDGET)
    parser.add_argument(
        "--wrong",
        action="store_true",
        help="name the samples not ranked first, not settled, or half told",
    )
    asked = parser.parse_args()
    for language in [asked.language] if asked.language else ENDINGS:
        measured(language, asked)


def measured(language: str, asked: argparse.Namespace) -> None:
    """Everything that is asked for of one language, told and kept."""
    interpreter = interpreter_for(language)
    print(f"\n{interpreter.title}")
    every = subjects(interpreter)
    made = samples(every) if asked.pairs is None else other_pairs(every, asked.pairs)
    told = list(examined(chosen(made, asked), interpreter, asked))
    for part in (False, True):
        rows = [t for t in told if t.aside is part]
        if rows:
            print(f"\n{'KEPT ASIDE' if part else 'TUNED ON'}: {len(rows)} programs")
            table(rows)
            if asked.wrong and not part:
                for t in rows:
                    if not t.first or not t.settled or (t.kind == TWO and not t.both):
                        print(f"  {t.name} {t.kind}: {t.leads[:4]} {t.seconds:.1f}s {t.trials}")
    every_addition = asked.later is None and asked.pairs is None
    if every_addition and not (asked.only or asked.part or asked.most):
        wrong = sum(false_leads(s, interpreter) > 0 for s in every)
        print(f"\ncorrect programs with a lead: {wrong} of {len(every)}")
    OUT.mkdir(parents=True, exist_ok=True)
    kept = OUT / f"accuracy-{language}.json"
    kept.write_text(json.dumps([asdict(t) for t in told], indent=1), encoding="utf-8")


def chosen(every: list[Sample], asked: argparse.Namespace) -> list[Sample]:
    """The samples asked for, in an order in which a part of them is like the whole."""
    found = [s for s in every if asked.only in f"{s.name} {s.kind}"]
    if asked.part:
        found = [s for s in found if s.aside == (asked.part == "aside")]
    if asked.later is not None:
        found = [s for s in found if s.later == asked.later]
    if asked.most:
        found = found[:: max(1, len(found) // asked.most)]
    return sorted(found, key=lambda s: digest(s.name))


def examined(
    every: list[Sample], interpreter: Interpreter, asked: argparse.Namespace
) -> Iterator[Told]:
    """Each sample searched, until the time is over."""
    end = time.monotonic() + asked.seconds
    for number, sample in enumerate(every, 1):
        if time.monotonic() > end:
            print(f"\nTime was over after {number - 1} of {len(every)} programs.")
            break
        try:
            yield examine(sample, interpreter, asked.budget)
        except OddSumError as error:
            print(f"{sample.name}: {error}", file=sys.stderr)
        print(f"\r{number} of {len(every)}", end="", file=sys.stderr)
    print(file=sys.stderr)


if __name__ == "__main__":
    main()
