"""``make soak MINUTES=10``: what runs longer than a test may, from seeds of its own.

Every property of the suite is tried with many more examples, over and over with another seed, until
the time is over: ``make soak SOAK="--minutes 20 --seed 7"``. Among them are random programs, plans,
keys, messages on the wire, and kills at random moments; every odd program is searched as well. What
fails is told with the seed that repeats it, and hypothesis keeps the example for the next run.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).parents[1]
# The tests that try random programs, plans, texts or traces.
WHERE = (
    "tests/languages", "tests/trace", "tests/pinpoint", "tests/plan", "tests/compare",
    "tests/model", "tests/source", "tests/truth", "tests/run",
)  # fmt: skip
# Whole: programs, keys, plans, messages, kills; every sentence on every program of the corpus;
# screens and terminals of both sizes.
HOSTILE = (
    "tests/hostile", "tests/truth/test_sentences.py", "tests/truth/test_leads_truth.py",
    "tests/tui", "tests/terminal", "tests/languages/javascript",
)  # fmt: skip
FEWER = 40  # examples of these for each of the others': they start processes


def rounds(minutes: float, seed: int, examples: int) -> int:
    """Try all properties until the time is over; returns the status of the last round."""
    end, number = time.monotonic() + 60 * minutes, 0
    while time.monotonic() < end:
        number += 1
        print(f"round {number}, seed {seed}, {examples} examples a property", flush=True)
        status = _try(["-m", "hypothesis", *WHERE], seed, examples) or _try(
            [*HOSTILE], seed, max(2, examples // FEWER)
        )
        if status:
            print(f"It failed with seed {seed}. Repeat it: make soak SOAK='--seed {seed}'")
            return status
        seed += 1
    return 0


def _try(where: list[str], seed: int, examples: int) -> int:
    command = [
        sys.executable, "-m", "pytest", "-q", "-n", "2", "--dist", "worksteal", "-x",
        f"--hypothesis-seed={seed}", *where,
    ]  # fmt: skip
    environment = {**os.environ, "ODDSUM_EXAMPLES": str(examples)}
    return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=30.0)
    parser.add_argument("--seed", type=int, default=int(time.time()) % 100_000)
    parser.add_argument("--examples", type=int, default=2_000, help="of each property, a round")
    given = parser.parse_args()
    sys.exit(rounds(given.minutes, given.seed, given.examples))


if __name__ == "__main__":
    main()
