"""On what terms a program runs: whether it is fenced in, and how much its processes may take."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.model.case import DEFAULT_MEMORY, Plan

MB = 1024 * 1024


@dataclass(frozen=True)
class Terms:
    """``allow``: what it may do inside the fence. ``resident``: bytes that all its processes may
    really use together."""

    fenced: bool = False
    allow: tuple[str, ...] = ()
    resident: int = int(2 * DEFAULT_MEMORY * MB)

    @property
    def reaches_out(self) -> bool:
        """Whether it may use the network."""
        return not self.fenced or "network" in self.allow


def terms_of(plan: Plan, fenced: bool = False) -> Terms:
    """The terms of a plan's runs; ``fenced``: behind the fence whatever the plan says, as
    everything is that runs a text which is not the learner's own."""
    most = max((plan.settings_of(c).memory or 0.0 for c in plan.cases), default=DEFAULT_MEMORY)
    return Terms(fenced or plan.fence, plan.allow, int(2 * most * MB))


UNFENCED = Terms()  # for a text that is the learner's own, where the plan says nothing
