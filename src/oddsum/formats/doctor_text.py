"""``oddsum doctor``: what this machine offers, in lines to read."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator

from oddsum.formats.ruled import WIDTH, heading, row
from oddsum.run.machine import Folder, LayerHere, Machine, Offered

_ROOT = (
    "You are the user who may do everything. The fence holds your programs all the same, but a "
    "program outside of it can do anything here."
)
_BARE = (
    "This system has neither namespaces nor Landlock, so what a trial writes is held only by "
    "checks inside the interpreter, which an expert can get round."
)


def write(machine: Machine) -> str:
    """What runs programs, what holds them, where is written, and what there is to know of it."""
    lines = [heading("WHAT RUNS PROGRAMS", machine.system), ""]
    lines += [_offered(one) for one in machine.interpreters]
    lines += ["", heading("WHAT HOLDS THEM"), ""]
    for layer in machine.layers:
        lines += _layer(layer)
    lines += ["", heading("WHERE IS WRITTEN"), ""]
    lines += [_folder(one) for one in machine.folders]
    told = list(_to_know(machine))
    if told:
        lines += ["", heading("TO KNOW"), ""]
        for sentence in told:
            lines += textwrap.wrap(sentence, WIDTH - 2, initial_indent="  ", subsequent_indent="  ")
    return "\n".join(lines) + "\n"


def _offered(one: Offered) -> str:
    if not one.path:
        return row([(f"  {one.what}", 12), ("not found", 12)])
    return row([(f"  {one.what}", 12), (one.version or "does not start", 12)]) + f"  {one.path}"


def _layer(one: LayerHere) -> Iterator[str]:
    said = f"{one.holds} ({one.detail})" if one.detail else one.holds
    first, *more = textwrap.wrap(said, 50)
    yield row([(f"  {one.name}", 16), ("here" if one.here else "missing", 8), (first, 50)])
    for line in more:
        yield row([("", 16), ("", 8), (line, 50)])


def _folder(one: Folder) -> str:
    free = one.fault or f"{one.free:,} MB free"
    return row([(f"  {one.what}", 22), (free, 20)]) + f"  {one.path}"


def _to_know(machine: Machine) -> Iterator[str]:
    if not machine.fenced:
        yield _BARE
    if machine.user == 0:
        yield _ROOT
    for folder in machine.folders:
        if folder.fault:
            yield f"Nothing can be written to {folder.path}: {folder.fault}."
