"""``oddsum completion``: what a shell needs to complete commands, programs and cases."""

from __future__ import annotations

import click

SHELLS = ("bash", "zsh", "fish")
_WHERE = {
    "bash": 'Put this into ~/.bashrc:  eval "$(oddsum completion bash)"',
    "zsh": 'Put this into ~/.zshrc:  eval "$(oddsum completion zsh)"',
    "fish": "Run once:  oddsum completion fish > ~/.config/fish/completions/oddsum.fish",
}


@click.command()
@click.argument("shell", type=click.Choice(SHELLS))
@click.pass_context
def completion(ctx: click.Context, shell: str) -> None:
    """Print what makes a shell complete oddsum's commands, programs and cases."""
    from click.shell_completion import get_completion_class

    made = get_completion_class(shell)
    assert made is not None
    root = ctx.find_root().command
    click.echo(made(root, {}, "oddsum", "_ODDSUM_COMPLETE").source())
    click.echo(_WHERE[shell], err=True)
