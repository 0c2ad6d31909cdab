"""JavaScript run live, before somebody who types: what is typed and what is printed, apart."""

from __future__ import annotations

import pytest
from running import node

from oddsum.model.errors import StartError
from typist import typed_live


def played(tmp_path, source, *typed, name="ferry.js"):
    return typed_live(tmp_path / name, source, node(), *typed)


ASKS = "const n = Number(prompt('Cars? '));\nconst boat = prompt('Boat? ');\nconsole.log(boat, n, [n]);\n"
READLINE = """\
const readline = require("readline");
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });
let ticks = 0;
const timer = setInterval(() => { ticks += 1; if (ticks === 3) console.log("(the bell)"); }, 20);
rl.question("Cars? ", (n) => {
  rl.question("Boat? ", (boat) => {
    console.log(boat + " takes " + n + (ticks > 2 ? " and time went on" : ""));
    clearInterval(timer);
    rl.close();
  });
});
"""
LINES = """\
import readline from "node:readline";
const rl = readline.createInterface({ input: process.stdin });
console.log("ready", process.stdin.isTTY, process.stdout.isTTY);
for await (const line of rl) {
  console.log("got " + line + ".");
}
console.log("over");
"""
WAYS = {
    "asked": (ASKS, "ferry.js", [("Cars?", "12\n"), ("Boat?", "Ivy\n")], "12\nIvy\n",
              "Cars? Boat? Ivy 12 [ 12 ]\n", "Cars? 12\nBoat? Ivy\nIvy 12 [ 12 ]\n"),
    "rubbed out": (ASKS, "ferry.js", [("Cars?", "17\x7f\x7f4\n"), ("Boat?", "Møwk\x7fe\n")],
                   "4\nMøwe\n", "Cars? Boat? Møwe 4 [ 4 ]\n", "Cars? 4\nBoat? Møwe\nMøwe 4 [ 4 ]\n"),
    "questions": (READLINE, "ferry.js", [("(the bell)", "12\n"), ("Boat?", "Ivy\n")], "12\nIvy\n",
                  "Cars? (the bell)\nBoat? Ivy takes 12 and time went on\n",
                  "Cars? (the bell)\n12\nBoat? Ivy\nIvy takes 12 and time went on\n"),
    "lines": (LINES, "ferry.mjs", [("ready", "a\n"), ("got a", "\n"), ("got .", "\x04")], "a\n\n",
              "ready true true\ngot a.\ngot .\nover\n", None),
    "whole": ("const all = require('fs').readFileSync(0, 'utf8');\nconsole.log(all.split('\\n').length);\n",
              "ferry.js", [("", "a\nb\n\x04")], "a\nb\n", "3\n", None),
}  # fmt: skip


@pytest.mark.parametrize("way", WAYS)
def test_typed_and_printed_are_kept_apart_and_seen_together(tmp_path, way):
    source, name, typed, given, printed, seen = WAYS[way]
    recorded, shown = played(tmp_path, source, *typed, name=name)
    assert (recorded.typed, recorded.printed) == (given, printed)
    assert recorded.seen == (printed if seen is None else seen)
    assert recorded.by_itself and recorded.ended == "It ended by itself."
    assert "\x1b" not in shown


def test_where_it_stopped_is_told(tmp_path):
    recorded, _ = played(
        tmp_path, ASKS.replace("[n]", "n.boats.length"), ("Cars?", "4\n"), ("Boat?", "x\n")
    )
    assert (recorded.error.type, recorded.error.line) == ("TypeError", 3)
    assert recorded.ended.startswith(
        "It stopped with TypeError: Cannot read properties of undefined"
    )
    recorded, _ = played(tmp_path, ASKS, ("Cars?", "4\n"), ("Boat?", "\x04"))
    assert (recorded.error.type, recorded.error.line) == ("InputEnded", 2)


@pytest.mark.parametrize("waits", ["prompt('Cars? ');", "console.log('Cars? '); while (true) ;",
                                   "console.log('Cars? '); setInterval(() => 0, 1000);"])  # fmt: skip
def test_ctrl_c_ends_it_whatever_it_does(tmp_path, waits):
    recorded, _ = played(tmp_path, waits, ("Cars?", lambda run: run.interrupt()))
    assert recorded.ended == "You stopped it."
    assert not recorded.by_itself


def test_what_prints_without_end_and_what_cannot_start_are_told_as_ever(tmp_path):
    recorded, _ = played(tmp_path, "while (true) {\n  console.log('on and on, over the sea');\n}\n")
    assert recorded.ended.startswith("It was ended: it printed without end.")
    with pytest.raises(StartError, match=r"ferry\.js, line 1"):
        played(tmp_path, "if (true {\n}\n")


def test_the_loop_of_what_computes_without_end_is_named(tmp_path, monkeypatch):
    monkeypatch.setattr("oddsum.run.live.LIVE_SECONDS", 0.6)
    recorded, _ = played(tmp_path, "let level = 0;\nwhile (level < 9) {\n  level = -1;\n}\n")
    assert recorded.ended == "It was ended: 0.6 s of computing had no end, in the loop on line 2."
    recorded, _ = played(tmp_path, "/^(a+)+$/.test('a'.repeat(40) + 'b');\n")
    assert recorded.ended == "It was ended: 0.6 s of computing had no end."
