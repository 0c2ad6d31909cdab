"""``oddsum doctor``: what this machine offers to run programs, and to hold them."""

from __future__ import annotations

from pathlib import Path

import click

from oddsum.cli_common import answer
from oddsum.formats.table import choices


@click.command()
@click.option("--format", "how", type=click.Choice(choices("doctor")), default="text")
@click.option("-o", "--out", type=click.Path(path_type=Path), help="Write to this file.")
@click.option("--force", is_flag=True, help="Overwrite the file given with --out.")
def doctor(how: str, out: Path | None, force: bool) -> None:
    """Tell what this machine offers: interpreters, the layers of the fence, folders."""
    from oddsum.formats.table import write
    from oddsum.record.history import data_file
    from oddsum.run.machine import look_around
    from oddsum.settings.user import settings_file

    kept = {"the record": data_file().parent, "settings": settings_file().parent}
    answer(write("doctor", how, look_around(kept)), how, out, force)
