"""``oddsum ask``: what the screen of Trace can be asked, without the screen."""

from __future__ import annotations

import sys
from pathlib import Path

import click

from oddsum.cli_common import CASE, PLAN, PROGRAM, answer, case_to_trace, common, say, tell
from oddsum.formats.table import choices
from oddsum.model.errors import OddSumError

QUESTIONS = (
    "loops",
    "calls",
    "lineage",
    "apart",
    "ledger",
    "true",
)  # a test holds them to the core


@click.command()
@PROGRAM
@click.argument("question", type=click.Choice(QUESTIONS))
@PLAN
@CASE
@click.option("--step", type=int, help="The step it is asked of; else the last.")
@click.option("--line", type=int, help="Of loops and of a line taken apart: which.")
@click.option("--name", default="", help="A variable; for `true`, an expression.")
@click.option("--format", "how", type=click.Choice(choices("ask")), default="text")
@common
def ask(
    program: Path,
    question: str,
    plan_file: Path | None,
    chosen: str | None,
    step: int | None,
    line: int | None,
    name: str,
    how: str,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Ask one case a question.

    Its loops and their rounds; its calls; where a value comes from (`lineage`); a line taken apart;
    which names hold which list (`ledger`); the steps after which an expression is true.
    """
    from oddsum.check.asked import Asked
    from oddsum.check.asked import ask as asked_of
    from oddsum.check.traced import trace_case
    from oddsum.formats.table import write
    from oddsum.trace.ask import Story

    try:
        plan, interpreter, case = case_to_trace(program, plan_file, chosen, python)
        trace, result = trace_case(plan, case, interpreter)
        asked = Asked(plan, case, interpreter, Story(trace), result.run, step, line, name.strip())
        answer(write("ask", how, question, asked, asked_of(question, asked)), how, out, force)
    except OddSumError as error:
        sys.exit(tell(error, how))
    for remark in (*trace.remarks, trace.left_out):
        say(remark)
