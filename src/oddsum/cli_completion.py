"""``oddsum completion``: what a shell needs to complete commands, options, programs and cases."""

from __future__ import annotations

import os
from typing import TYPE_CHECKING

import click

if TYPE_CHECKING:
    from click.shell_completion import CompletionItem

SHELLS = ("bash", "zsh", "fish")
_WHERE = {
    "bash": 'Put this into ~/.bashrc:  eval "$(oddsum completion bash)"',
    "zsh": 'Put this into ~/.zshrc:  eval "$(oddsum completion zsh)"',
    "fish": "Run once:  oddsum completion fish > ~/.config/fish/completions/oddsum.fish",
}
# The one that comes with click puts a case's name of several words in as several words, and forgets
# the commands where files are offered as well. A word that is quoted already is left to bash.
_BASH = """\
%(complete_func)s() {
    local IFS=$'\\n' line kind value
    COMPREPLY=()
    for line in $(env COMP_WORDS="${COMP_WORDS[*]}" COMP_CWORD=$COMP_CWORD \\
                  %(complete_var)s=bash_complete "$1"); do
        kind=${line%%%%,*} value=${line#*,}
        if [[ $kind == dir ]]; then compopt -o nospace; fi
        case ${COMP_WORDS[COMP_CWORD]} in
            \\'*|\\"*) COMPREPLY+=("$value") ;;
            *) COMPREPLY+=("$(printf %%q "$value")") ;;
        esac
    done
}
complete -F %(complete_func)s %(prog_name)s
"""


@click.command()
@click.argument("shell", type=click.Choice(SHELLS))
@click.pass_context
def completion(ctx: click.Context, shell: str) -> None:
    """Print what makes a shell complete oddsum's commands, programs and cases."""
    from click.shell_completion import BashComplete, get_completion_class

    class Bash(BashComplete):
        source_template = _BASH

    made = Bash if shell == "bash" else get_completion_class(shell)
    assert made is not None
    root = ctx.find_root().command
    click.echo(made(root, {}, "oddsum", "_ODDSUM_COMPLETE").source())
    click.echo(_WHERE[shell], err=True)


def programs(typed: str) -> list[CompletionItem]:
    """The files that begin like this and can be a program: in a language we know, or with a plan
    of its own; and the folders on the way to others.
    """
    from pathlib import Path

    from click.shell_completion import CompletionItem

    from oddsum.languages import is_source
    from oddsum.plan.find import plans_of

    before, _, start = typed.rpartition("/")
    base = before + "/" if "/" in typed else ""
    try:
        found = sorted(Path(base or ".").iterdir(), key=lambda p: p.name)
    except OSError:
        return []
    mine = [p for p in found if p.name.startswith(start) and (start or p.name[:1] != ".")]
    known = {p.stem for p in found if is_source(p)}  # their plans are theirs, and no other file's
    items = [
        CompletionItem(base + p.name)
        for p in mine
        if p.is_file()
        and (is_source(p) or (p.suffix != ".toml" and p.stem not in known and plans_of(p)))
    ]
    if "bash" in os.environ.get("_ODDSUM_COMPLETE", ""):
        return items + [CompletionItem(f"{base}{p.name}/", type="dir") for p in mine if p.is_dir()]
    return [*items, CompletionItem(typed, type="dir")]  # the shell lists them itself
