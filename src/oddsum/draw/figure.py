"""A drawing made into a file, or into text for a page: SVG and PDF, with text as text.

Drawn with matplotlib, which is loaded only here: it takes half a second. Fonts are named with what
may stand in for them; what is drawn differs in shape as well as in ink, so that it reads in black
and white.
"""

from __future__ import annotations

import io
import os
import re
import tempfile
import warnings
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any, BinaryIO

from oddsum.model.errors import OddSumError
from oddsum.source.save import SaveError, replace_file
from oddsum.source.visible import visible

if TYPE_CHECKING:
    from matplotlib.figure import Figure

SUFFIXES = (".svg", ".pdf")
INK, BLUE, QUIET, AMBER = "#1a1a1a", "#1f5fa8", "#5c5c5c", "#8a4a00"
_LOOK: Any = {
    "svg.fonttype": "none", "pdf.fonttype": 42,
    "font.family": ["DejaVu Sans", "sans-serif"],
    "font.monospace": ["DejaVu Sans Mono", "monospace"],
    "svg.hashsalt": "odd-sum",
    "text.usetex": False, "text.parse_math": False,  # a $ in a program is a $
}  # fmt: skip


class ChartError(OddSumError):
    """A chart that cannot be drawn or written."""


@dataclass(frozen=True)
class Drawing:
    """What is to be drawn: its size in inches, and a function that draws it on a figure."""

    width: float
    height: float
    draw: Callable[[Figure], None]
    constrained: bool = True  # whether the axes give way to their labels


def save(path: Path, drawing: Drawing) -> None:
    """Write a drawing as SVG or PDF, by the file's ending. Raises ChartError."""
    kind = path.suffix.lower()[1:]
    if path.suffix.lower() not in SUFFIXES:
        ending = path.suffix or "a file without an ending"
        raise ChartError(
            f"A chart cannot be written as {ending}.", hint="Name the file .svg or .pdf."
        )
    data = _drawn(drawing, kind)
    try:
        replace_file(path, data)
    except SaveError as error:
        raise ChartError(error.text, hint=error.hint, file=path.name) from error


def svg(drawing: Drawing) -> str:
    """A drawing as an SVG element that stands in a page: without the file's own head."""
    text = _drawn(drawing, "svg").decode("utf-8")
    return re.sub(r"<metadata>.*?</metadata>", "", text[text.index("<svg") :], flags=re.DOTALL)


def _drawn(drawing: Drawing, kind: str) -> bytes:
    with tempfile.TemporaryDirectory(prefix="oddsum-chart-") as folder:
        os.environ.setdefault("MPLCONFIGDIR", folder)  # its own settings are not for us to write
        from matplotlib import rc_context
        from matplotlib.figure import Figure

        written: BinaryIO = io.BytesIO()
        dated: Any = {"Date": None, "Creator": None} if kind == "svg" else {"CreationDate": None}
        with rc_context(_LOOK):
            layout: Any = "constrained" if drawing.constrained else "none"
            figure = Figure(figsize=(drawing.width, drawing.height), layout=layout)
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")  # of glyphs that a fallback font has to have
                drawing.draw(figure)
                figure.savefig(written, format=kind, metadata=dated)
        written.seek(0)
        data = written.read()
        return visible(data.decode(), kept="\n\t\xa0").encode() if kind == "svg" else data
