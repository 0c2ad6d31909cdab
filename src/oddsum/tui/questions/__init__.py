"""What a recording can be asked, a function a question; the table of actions has the words.

A new one is a function here (in a file of its own, where it is another idea), its name in
``QUESTIONS``, and a row in ``actions.py``.
"""

from __future__ import annotations

from collections.abc import Callable

from oddsum.tui.questions import calls, line, loops, moments, names, origins, plots, runs, sayings
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced

Question = Callable[[Asker, Traced], None]
QUESTIONS: dict[str, Question] = {
    "apart": line.apart,
    "calls": calls.every_call,
    "claim": sayings.claim,
    "find": moments.becomes_true,
    "forecast": moments.comes_next,
    "hold_where": sayings.breakpoint_under,
    "influence": origins.influence,
    "ledger": names.ledger,
    "lineage": origins.lineage,
    "loops": loops.every_loop,
    "number": moments.by_number,
    "plot": plots.plot,
    "two_runs": runs.two_runs,
    "watch": sayings.watch,
    "whole": names.values_whole,
}
