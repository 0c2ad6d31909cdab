"""What recording JavaScript costs: against calls there that do nothing, and against plain runs.

The do-nothing calls are the recording's own text, with functions that give back what they are
given. These and the plain run are timed by node itself; the recording as a whole, less what that of
an empty program takes.
"""

from __future__ import annotations

import subprocess
import tempfile
from collections.abc import Callable
from pathlib import Path

from figures import Figure, in_turn, middle

from oddsum.check.traced import trace_case
from oddsum.languages.javascript.interpreter import find_interpreter
from oddsum.languages.javascript.weave import woven
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan, Settings
from oddsum.source.program import Source

ROUNDS = 5
EMPTY = "let nothing = 0;\n"
NOTHING = """
globalThis.ǂ = (() => {
  const second = (first, value) => value, same = (value) => value, none = () => {}, frame = {};
  return {
    v: none, w: none, l: none, h: none, again: none, see: none, done: none,
    c: same, p: same, r: same, b: second, of: second, slow: second,
    keys: second, x: second, leave: second, gives: second, back: second,
    top: second, through: second, call: () => frame,
  };
})();
"""
WORKLOADS = {
    "scalars": """
function fare(age) {
  if (age < 2) { return 0; }
  if (age <= 15) { return 3; }
  return 6;
}
let total = 0;
for (let day = 0; day < 1500; day++) {
  let n = 7;
  while (n < 90) {
    n = n + 3;
    if (n % 2 === 0) { total = total + fare(n); } else { total = total - 1; }
  }
}
""",
    "lists": """
const queue = [];
for (let i = 0; i < 50; i++) { queue.push((i * 37) % 101); }
for (let again = 0; again < 30; again++) {
  for (let i = 0; i < queue.length; i++) {
    for (let j = 0; j < queue.length - 1 - i; j++) {
      if (queue[j] > queue[j + 1] + again) { [queue[j], queue[j + 1]] = [queue[j + 1], queue[j]]; }
    }
  }
}
""",
    "objects": """
class Boat {
  constructor(name, seats) { this.name = name; this.seats = seats; this.aboard = 0; }
  board(people) {
    const taken = Math.min(people, this.seats - this.aboard);
    this.aboard += taken;
    return taken;
  }
}
const fleet = [];
for (let i = 0; i < 20; i++) { fleet.push(new Boat(`boat ${i}`, 200 + i)); }
let carried = 0;
for (let round = 0; round < 300; round++) {
  for (const boat of fleet) { carried += boat.board(round % 7); }
}
""",
}


def measure() -> list[Figure]:
    node = find_interpreter(Path("workload.js"))
    with tempfile.TemporaryDirectory() as folder:
        return [f for name, text in WORKLOADS.items() for f in _of(name, text, node, Path(folder))]


def _of(name: str, text: str, node: Interpreter, folder: Path) -> list[Figure]:
    whole, empty = _recorded(text, node, folder / name), _recorded(EMPTY, node, folder / "empty")
    times = [middle(taken) for taken in in_turn(ROUNDS, whole, empty)]
    recorded = times[0] - times[1]
    plain = _timed(text, node, folder / "plain")
    idle = _timed(
        NOTHING + woven([Source("0.js", text)], "record")["sources"]["0.js"], node, folder
    )
    how = f"{plain * 1e3:.1f} ms plain, {idle * 1e3:.1f} calls, {recorded * 1e3:.0f} rec."
    return [
        Figure(f"recording JavaScript / calls: {name}", recorded / idle, "x", "", how),
        Figure(f"recording JavaScript / plain: {name}", recorded / plain, "x", "", how),
    ]


def _timed(text: str, node: Interpreter, folder: Path) -> float:
    """Seconds that a program takes once node has started, the middle of some runs."""
    begin, end = "const began = performance.now();", "\nconsole.error(performance.now() - began);"
    program = _in(folder, begin + text + end)
    taken = []
    for _ in range(ROUNDS):
        run = subprocess.run([node.path, program], check=True, capture_output=True, text=True)
        taken.append(float(run.stderr) / 1e3)
    return middle(taken)


def _in(folder: Path, text: str) -> Path:
    folder.mkdir(exist_ok=True)
    program = folder / f"{len(list(folder.iterdir()))}.js"
    program.write_text(text, encoding="utf-8")
    return program


def _recorded(text: str, node: Interpreter, folder: Path) -> Callable[[], object]:
    """With all that belongs to it: the weaving, and the tool reading what is told."""
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=_in(folder, text), cases=(case,), settings=Settings(timeout=60.0))
    return lambda: trace_case(plan, case, node)
