"""Large plans and long texts: 200 cases, 2,000 cases, 10,000 lines."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from figures import Figure, in_turn, middle, ratio

from oddsum.check.plan import check_all
from oddsum.compare.judge import judge
from oddsum.languages.language import Interpreter
from oddsum.model.case import DEFAULTS, Case, Plan
from oddsum.model.outcome import Run
from oddsum.tui.widgets.case_detail import case_detail
from oddsum.tui.widgets.side_by_side import paired
from terminal import Terminal

ROUNDS = 5
TINY = "n = int(input('n? '))\nprint('Total:', n * 3)\n"
OWN = Interpreter(sys.executable, tuple(sys.version_info[:3]))


def measure() -> list[Figure]:
    return [_two_hundred(), *_ten_thousand_lines(), *_two_thousand()]


def _two_hundred() -> Figure:
    """A plan of 200 tiny cases against as many bare runs, on as many cores."""
    program = Path(tempfile.mkdtemp()) / "tiny.py"
    program.write_text(TINY)
    cases = tuple(
        Case(number=n, name=str(n), stdin=f"{n}\n", stdout=f"Total: {3 * n}\n")
        for n in range(1, 201)
    )
    plan = Plan(program=program, cases=cases)

    def ours() -> None:
        assert {r.outcome.value for r in check_all(plan, OWN)} == {"agrees"}

    def bare() -> None:
        with ThreadPoolExecutor(os.cpu_count()) as pool:
            list(pool.map(_bare, [(program, c.stdin) for c in cases]))

    bare_times, our_times = in_turn(ROUNDS, bare, ours)
    how = f"{middle(our_times):.2f} s for the plan, {middle(bare_times):.2f} s for 200 bare runs"
    return Figure("200 bare runs / a plan of 200", ratio(bare_times, our_times), "x", "5", how)


def _bare(one: tuple[Path, str | None]) -> None:
    program, typed = one
    subprocess.run(
        [sys.executable, program], input=typed, text=True, capture_output=True, check=False
    )


def _ten_thousand_lines() -> list[Figure]:
    lines = [f"ferry {n} carries {n % 7} cars to pier {n % 3}" for n in range(10_000)]
    texts = {
        "one line differs": [*lines[:5000], "sunk", *lines[5001:]],
        "each line differs": [line + "!" for line in lines],
        "three lines are missing": lines[:2000] + lines[2003:],
    }
    return [
        figure
        for what, found in texts.items()
        for figure in _compared(what, "\n".join(lines), "\n".join(found))
    ]


def _compared(what: str, expected: str, actual: str) -> list[Figure]:
    case = Case(number=1, name="long", stdin="", stdout=expected)
    result = judge(case, DEFAULTS, Run(ending="ended", output=actual))

    def compare() -> None:
        judge(case, DEFAULTS, result.run)

    def show() -> None:
        paired.cache_clear()
        case_detail(case, result, 60, True)

    compared, shown = in_turn(ROUNDS, compare, show)
    how = "aligned and laid out, for which a key waits; the median of 5"
    return [
        Figure(f"10,000 lines, {what}: shown", middle(shown) * 1000, "ms", "under 100", how),
        Figure("  compared and told", middle(compared) * 1000, "ms", "", "behind the scenes"),
    ]


def _two_thousand() -> list[Figure]:
    folder = Path(tempfile.mkdtemp())
    figures = []
    for count in (10, 2000):
        program = folder / f"plan{count}.py"
        program.write_text(TINY)
        program.with_suffix(".cases.toml").write_text(
            "\n".join(
                f'[[case]]\nname = "case {n}"\nstdin = "{n}\\n"\nstdout = "Total: {3 * n}\\n"\n'
                for n in range(count)
            )
        )
        figures += _scrolled(program, count)
    return figures


def _scrolled(program: Path, count: int) -> list[Figure]:
    with Terminal(str(program)) as terminal:
        opened = terminal.until(f"{count:,} in the plan".encode())
        terminal.key(b"\x1b")  # the plan need not run to its end
        terminal.quiet(10)
        keys = [b"\x1b[B", b"\x1b[B", b"\x1b[A"] * 7 + [b"\x1b[6~", b"\x1b[5~"] * 5
        taken = sorted(terminal.key(k) for k in keys)
    how = "from the key to the end of the picture, in a terminal of our own; the median of 30"
    return [
        Figure(f"a plan of {count:,} cases opens", opened, "s", "", "until its cases are shown"),
        Figure(
            f"a key in a plan of {count:,}", taken[len(taken) // 2] * 1000, "ms", "under 50", how
        ),
    ]
