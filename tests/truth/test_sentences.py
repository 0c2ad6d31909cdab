"""Every sentence of a search, held against runs that are made apart: see ``sentences.py``.

A few programs of the corpus here; all of them where more examples are asked for, as ``make soak``
does.
"""

from __future__ import annotations

import os
import sys
from functools import lru_cache
from pathlib import Path

import msgspec
import pytest
from sentences import Checker

sys.path.insert(0, str(Path(__file__).parents[2] / "benchmarks" / "pinpoint"))
from corpus import Sample, interpreter_for, samples, subjects

from oddsum.model.lead import Pinpointing
from oddsum.pinpoint.search import pinpoint

# Where a sentence was false once: results put together of several, an ``else``, a commented line,
# long values that differ at their ends, values at a second visit.
ONCE = ("counters#1", "cargo_weight#two", "words#8", "dry_dock#2", "crossing_costs#two")
LEFT = "signal_flags#two"  # a mend settles some cases; the lines of the others come next


@lru_cache(maxsize=4)
def of_program(pattern: str) -> dict[str, Sample]:
    return {s.name: s for s in samples(subjects(interpreter_for(), pattern))}


def searched(sample: Sample, folder: Path) -> Pinpointing:
    return pinpoint(sample.plan(folder), interpreter_for())


NAMES = sorted(of_program("*")) if "ODDSUM_EXAMPLES" in os.environ else [*ONCE[::2], LEFT]


@pytest.mark.parametrize("name", NAMES)
def test_what_is_said_of_a_program_is_so(name, tmp_path):
    sample = of_program(name.partition("#")[0])[name]
    checker = Checker(sample.text, sample.cases, searched(sample, tmp_path))
    assert list(checker.falsehoods()) == []
    assert checker.checked > 10


def test_what_is_not_so_is_seen(tmp_path):
    """Each kind of sentence that is checked, changed a little: none of them passes."""
    sample = of_program("crossing_costs")["crossing_costs#two"]
    found = searched(sample, tmp_path)
    best = found.leads[0]

    def told(**changed: object) -> int:
        lead = msgspec.structs.replace(best, **changed)
        leads = (lead, *found.leads[1:])
        other = msgspec.structs.replace(found, leads=leads, ask=None)
        return len(list(Checker(sample.text, sample.cases, other).falsehoods()))

    assert told() == 0
    runs = [f"In case 1, line {n} runs 99 times." for n in best.lines]
    assert told(what=" ".join(runs)) == len(runs)
    assert told(what=f"In case 1, line {best.lines[0]} has `1 + 1`: that gives 3.")
    assert told(how="This is so 1 times.")
    evidence = best.evidence[0]
    for text in ("runs in 1 of 2 odd cases", "runs in 77 cases that agree, too",
                 "does not run in 77 cases that agree", "a change here settles 1 of 77 odd cases",
                 "runs in 1 of 77 cases that the changes above leave odd, and in 0 of 1 that they settle"):  # fmt: skip
        assert told(evidence=(msgspec.structs.replace(evidence, text=text),))
    assert best.mend is not None
    assert told(mend=msgspec.structs.replace(best.mend, breaks=(1,)))
    for value in best.values or found.leads[-1].values:
        assert told(values=(msgspec.structs.replace(value, would="-77"),))
