"""``make bench``: every figure as a ratio measured side by side in one run.

Prints a table and the same as json. ``make bench BENCH=recording`` runs one part only.
"""

from __future__ import annotations

import json
import os
import platform
import sys
from collections.abc import Callable

import checking
import fencing
import javascript
import keys
import mending
import painting
import plans
import recording
import tracing
import trials
from figures import Figure

PARTS: dict[str, Callable[[], list[Figure]]] = {
    "recording": recording.measure,
    "javascript": javascript.measure,
    "tracing": tracing.measure,
    "trials": trials.measure,
    "checking": checking.measure,
    "fencing": fencing.measure,
    "painting": painting.measure,
    "keys": keys.measure,
    "plans": plans.measure,
    "mending": mending.measure,
}


def main() -> None:
    # A user's machine keeps compiled modules; where this is set, every start would compile anew.
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    wanted = sys.argv[1:] or list(PARTS)
    unknown = [name for name in wanted if name not in PARTS]
    if unknown:
        sys.exit(f"There is no part {unknown[0]}. Known are: {', '.join(PARTS)}.")
    figures = [figure for name in wanted for figure in PARTS[name]()]
    print(f"Python {platform.python_version()} on {platform.system()} {platform.machine()}\n")
    print(f"{'what':<44}{'figure':>12}  {'wanted':<14}{'how it was measured'}")
    print("─" * 110)
    for f in figures:
        print(f"{f.what:<44}{f.shown():>12}  {f.wanted:<14}{f.how}")
    print("═" * 110)
    print(json.dumps([f.fields() for f in figures], indent=2))


if __name__ == "__main__":
    main()
