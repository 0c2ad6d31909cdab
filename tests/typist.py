"""Somebody who types: a program is run live, and each answer is given once it is asked for."""

from __future__ import annotations

import threading

from oddsum.model.case import Plan
from oddsum.run.live import LiveRun


def typed_live(path, source, interpreter, *typed):
    """Run a program, type each text once the words ahead of it were shown; gives what was recorded, and
    what was on the terminal. In place of a text: a function of the run.
    """
    path.write_text(source)
    run = LiveRun(Plan(program=path), interpreter, 60, 12)
    shown, come = bytearray(), threading.Condition()

    def show(data: bytes) -> None:
        with come:
            shown.extend(data)
            come.notify()

    def until(words: str) -> None:
        with come:
            come.wait_for(lambda: words.encode() in shown, timeout=10)

    def type_all() -> None:
        for words, text in typed:
            until(words)
            if callable(text):
                text(run)
            else:
                run.type(text.encode())

    typist = threading.Thread(target=type_all)
    typist.start()
    recorded = run.play(show)
    typist.join()
    return recorded, shown.decode("utf-8", "replace")
