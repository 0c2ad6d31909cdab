"""Which ink an outcome is written in."""

from __future__ import annotations

from oddsum.model.outcome import Outcome

INK_OF = {
    Outcome.AGREES: "agree",
    Outcome.DIFFERS: "odd",
    Outcome.STOPPED: "stopped",
    Outcome.ENDLESS: "endless",
    Outcome.OPEN: "open",
}
