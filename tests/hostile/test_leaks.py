"""What is opened and closed again and again leaves nothing behind in memory."""

from __future__ import annotations

import gc
import sys
from pathlib import Path

import psutil

from conftest import MANY

sys.path.insert(0, str(Path(__file__).parents[1] / "workspace"))
from desk import workspace


def test_traces_opened_and_closed_leave_memory_flat(demo):
    work, desk = workspace(demo / "fares.py", sys.executable)
    work.begin()
    desk.run()
    most, own, memory = 200 if MANY else 24, psutil.Process(), {}
    for number in range(1, most + 1):
        work.checking.selected = 1 + number % len(work.checking.cases)
        work.trace_case_in_hand()
        desk.run()
        assert work.tracing.traced is not None
        if number in (most // 4, most):
            gc.collect()
            memory[number] = own.memory_info().rss
    assert memory[most] <= 1.1 * memory[most // 4]
