"""A program whose lots no seed decides is told of, with the place."""

from __future__ import annotations

import pytest

from oddsum.check.unrepeatable import unrepeatable
from oddsum.model.case import Plan


@pytest.mark.parametrize(("source", "told"), [
    ("import random\nx = random.SystemRandom().random()\n", "`random.SystemRandom()` on line 2"),
    ("import numpy as np\nr = np.random.default_rng()\n", "`np.random.default_rng()` on line 2"),
    ("import random\nr = random.Random()\n", "`random.Random()` on line 2"),
    ("import random\nr = random.Random(3)\nrandom.seed()\nx = random.random()\n", ""),
    ("import uuid, os\na = uuid.uuid4()\nb = os.urandom(3)\nc = uuid.uuid1()\n", "and others do not"),
    ("def broken(:\n", ""),
])  # fmt: skip
def test_what_no_seed_decides_is_named(program, source, told):
    said = unrepeatable(Plan(program=program(source)))
    assert told in said and bool(told) == bool(said)


def test_another_file_of_the_program_is_named(program):
    program("import random\nlot = random.SystemRandom()\n", name="lots.py")
    said = unrepeatable(Plan(program=program("import lots\n")))
    assert "on line 2 of lots.py does not follow the plan's seed" in said
