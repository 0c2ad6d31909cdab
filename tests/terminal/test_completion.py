"""The Tab key, in the real shells: commands, options, programs, and cases whose names have blanks."""

from __future__ import annotations

import shutil
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

SHELLS = {  # how each is started without its owner's settings, and how it is made to complete
    "bash": ("PS1='> ' bash --norc --noprofile", 'eval "$(oddsum completion bash)"'),
    "zsh": ("PS1='> ' zsh -f", 'autoload -Uz compinit; compinit -u -D; eval "$(oddsum completion zsh)"'),
    "fish": ("fish --no-config", "oddsum completion fish | source"),
}  # fmt: skip
BLANKS = r"two\ adults\ and\ a\ child"
TYPED = [  # what is typed before Tab, and what the line reads after it
    ("oddsum che", "oddsum check"),
    ("oddsum fa", "oddsum fares.py"),
    ("oddsum check fa", "oddsum check fares.py"),
    ("oddsum trace fares.py --case tw", f"oddsum trace fares.py --case {BLANKS}"),
    ("oddsum trace fares.py --case 'two a", "--case 'two adults and a child'"),
    ("oddsum trace fares.py --form", "oddsum trace fares.py --format"),
]


@pytest.fixture(params=SHELLS)
def shell(request, tmp_path) -> Iterator[str]:
    """A server of its own for tmux, with a shell in a folder that has a program and a plan."""
    begin, complete = SHELLS[request.param]
    if shutil.which(request.param) is None:
        pytest.skip(f"{request.param} is not installed here")
    (tmp_path / "fares.py").write_text("print(6)\n")
    (tmp_path / "fares.txt").write_text("no program\n")
    (tmp_path / "fares.cases.toml").write_text(
        '[[case]]\nname = "two adults and a child"\nstdin = ""\n'
    )
    name = f"oddsum-{request.param}-{time.monotonic_ns()}"
    path = f"{Path(sys.executable).parent}:$PATH"
    tmux(name, "-f", "/dev/null", "new-session", "-d", "-x", "120", "-y", "20",
         f"cd {tmp_path}; PATH={path} {begin}")  # fmt: skip
    tmux(name, "send-keys", "-l", complete + "; echo re''ady")
    tmux(name, "send-keys", "Enter")
    seen(name, "\nready")
    yield name
    tmux(name, "kill-server")


def tmux(server: str, *words: str) -> str:
    done = subprocess.run(
        ["tmux", "-L", server, *words], capture_output=True, text=True, check=False
    )
    return done.stdout


def seen(server: str, words: str, seconds: float = 60) -> str:
    """Wait until something stands on the screen; returns that."""
    end = time.monotonic() + seconds
    while True:
        text = tmux(server, "capture-pane", "-p")
        if words in text:
            return text
        assert time.monotonic() < end, f"never saw {words!r} in:\n{text}"
        time.sleep(0.1)


def test_tab_completes(shell):
    for typed, wanted in TYPED:
        tmux(shell, "send-keys", "C-u")
        tmux(shell, "send-keys", "-l", typed)
        seen(shell, typed)
        tmux(shell, "send-keys", "Tab")
        seen(shell, wanted)
