"""Every time a loop was gone through, and its rounds."""

from __future__ import annotations

from oddsum.languages.outline import Loop
from oddsum.trace.loops import passes, rounds_table, told
from oddsum.trace.rounds import Pass
from oddsum.tui import lists
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced

_MOST = 5_000  # times through a loop that are listed: a key waits for it


def every_loop(asker: Asker, traced: Traced) -> None:
    """The passes through the loops, in order; Enter shows the rounds of one."""
    files = asker.workspace.files
    found = [(loop, p) for file in asker.files_of(traced) for loop in files.loops_of(file)
             for p in passes(traced.story, loop)]  # fmt: skip
    found.sort(key=lambda f: f[1].enters)
    del found[_MOST:]
    here = [n for n, (_, p) in enumerate(found) if p.enters <= traced.step <= p.ends]

    def words(row: int) -> str:
        return " ".join(told(traced.story, *found[row]).sentences) + " Enter shows its rounds."

    asker.walk_through(
        "ROUNDS OF THE LOOPS", lists.with_files(traced.story, lists.LOOPS),
        lists.loop_rows(traced.story, found), [p.enters for _, p in found],
        hint_of=words, then=lambda n: _rounds(asker, traced, *found[n]),
        start=here[-1] if here else 0,
    )  # fmt: skip


def _rounds(asker: Asker, traced: Traced, loop: Loop, one: Pass) -> None:
    columns, rows = lists.rounds(*rounds_table(traced.story, loop, one))
    title = f"ROUNDS OF LINE {loop.line}"
    asker.walk_through(
        title, columns, rows, list(one.starts), " ".join(told(traced.story, loop, one).sentences)
    )
