"""A program run live on a terminal of its own: what is typed and what is printed are kept apart."""

from __future__ import annotations

import os
import time

import pytest

from conftest import OWN
from oddsum.model.case import Plan
from oddsum.model.errors import StartError
from oddsum.run.live import LiveRun
from typist import typed_live


def played(tmp_path, source, *typed):
    return typed_live(tmp_path / "ferry.py", source, OWN, *typed)


ASKS = "n = int(input('Cars? '))\nname = input('Boat? ')\nprint(name, 'takes', n)\n"


def test_typed_and_printed_are_kept_apart_and_seen_together(tmp_path):
    recorded, shown = played(tmp_path, ASKS, ("Cars?", "12\n"), ("Boat?", "Ivy\n"))
    assert recorded.typed == "12\nIvy\n"
    assert recorded.printed == "Cars? Boat? Ivy takes 12\n"
    assert recorded.seen == "Cars? 12\nBoat? Ivy\nIvy takes 12\n"
    assert shown.replace("\r", "") == recorded.seen
    assert recorded.by_itself and recorded.ended == "It ended by itself."


def test_what_was_rubbed_out_was_never_typed(tmp_path):
    recorded, _ = played(tmp_path, ASKS, ("Cars?", "17\x7f\x7f4\n"), ("Boat?", "Elk\x7fm\n"))
    assert recorded.typed == "4\nElm\n"


def test_letters_beyond_ascii_come_through(tmp_path):
    recorded, shown = played(tmp_path, ASKS, ("Cars?", "1\n"), ("Boat?", "Møwe\n"))
    assert recorded.typed == "1\nMøwe\n" and "Møwe takes 1" in shown


def test_a_program_that_reads_lines_itself_is_recorded_too(tmp_path):
    source = "import sys\nprint('ready', flush=True)\nfor line in sys.stdin:\n    print('got', line.strip())\n"
    recorded, _ = played(tmp_path, source, ("ready", "a\n"), ("got a", "b\n"), ("got b", "\x04"))
    assert recorded.typed == "a\nb\n"
    assert recorded.seen == recorded.printed == "ready\ngot a\ngot b\n"


def test_it_is_a_real_terminal_of_the_size_it_was_given(tmp_path):
    source = (
        "import os, sys\nprint(sys.stdin.isatty(), sys.stdout.isatty(), os.get_terminal_size())\n"
    )
    # Its streams are ours, to hear what goes through them; its descriptors are the terminal's.
    source = source.replace("sys.stdin.isatty()", "os.isatty(0)").replace(
        "sys.stdout.isatty()", "os.isatty(1)"
    )
    recorded, _ = played(tmp_path, source)
    assert recorded.printed == "True True os.terminal_size(columns=60, lines=12)\n"


def test_streams_say_that_they_are_a_terminal(tmp_path):
    recorded, _ = played(tmp_path, "import sys\nprint(sys.stdin.isatty(), sys.stdout.isatty())\n")
    assert recorded.printed == "True True\n"


def test_where_it_stopped_is_told(tmp_path):
    recorded, _ = played(tmp_path, ASKS, ("Cars?", "four\n"))
    assert (recorded.error.type, recorded.error.line) == ("ValueError", 1)
    assert recorded.ended.startswith("It stopped with ValueError: invalid literal")
    assert recorded.typed == "four\n"


def test_input_that_is_ended_is_an_error_at_its_line(tmp_path):
    recorded, _ = played(tmp_path, ASKS, ("Cars?", "4\n"), ("Boat?", "\x04"))
    assert (recorded.error.type, recorded.error.line) == ("EOFError", 2)


def test_ctrl_c_says_where_the_program_was(tmp_path):
    # It prints from inside the loop: wherever the interruption falls, the program is in it.
    source = (
        "level = 0\nwhile level < 9:\n    if level == 0:\n"
        "        print('rising', flush=True)\n    level = -1\n"
    )
    recorded, _ = played(tmp_path, source, ("rising", lambda run: run.interrupt()))
    assert recorded.ended in {f"You stopped it. It was at line {n}." for n in (2, 3, 4, 5)}


def test_a_program_that_will_not_stop_is_ended_at_the_third_ctrl_c(tmp_path):
    # What it does on an interruption is settled before it prints: none can come too early. It
    # prints outside of the handler, for a handler may come in the middle of a print.
    source = (
        "import signal, time\nseen = []\nsignal.signal(signal.SIGINT, lambda *_: seen.append(1))\n"
        "print('no', flush=True)\nwhile True:\n    time.sleep(0.02)\n"
        "    if seen:\n        seen.clear()\n        print('never', flush=True)\n"
    )

    def thrice(run: LiveRun) -> None:
        for _ in range(3):
            run.interrupt()
            time.sleep(0.3)

    recorded, shown = played(tmp_path, source, ("no", thrice))
    assert recorded.ended == "You ended it." and "never" in shown


def test_a_program_that_cannot_start_is_told_as_ever(tmp_path):
    with pytest.raises(StartError, match="a colon is missing"):
        played(tmp_path, "while True\n    pass\n")


def test_it_runs_in_a_copy_of_its_folder(tmp_path):
    (tmp_path / "tide.txt").write_text("low")
    source = "print(open('tide.txt').read())\nopen('tide.txt', 'w').write('high')\nopen('new.txt', 'w')\n"
    recorded, _ = played(tmp_path, source)
    assert recorded.printed == "low\n"
    assert (tmp_path / "tide.txt").read_text() == "low"
    assert not (tmp_path / "new.txt").exists()


def test_what_is_typed_after_the_end_goes_nowhere(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text("print('gone')\n")
    run = LiveRun(Plan(program=path), OWN, 60, 12)
    run.play(lambda data: None)
    with open(tmp_path / "log.txt", "w+") as other:  # takes the lowest number that is free
        run.type(b"stray")
        run.resize(80, 24)
        run.interrupt()
        other.seek(0)
        assert other.read() == ""


def test_no_descriptor_is_closed_twice(tmp_path, monkeypatch):
    path = tmp_path / "ferry.py"
    path.write_text("print('gone')\n")
    failed: list[int] = []
    real = os.close

    def close(descriptor: int) -> None:
        try:
            real(descriptor)
        except OSError:
            failed.append(descriptor)
            raise

    monkeypatch.setattr(os, "close", close)
    run = LiveRun(Plan(program=path), OWN, 60, 12)
    run.play(lambda data: None)
    assert not failed
    assert run.master == run._slave == -1
