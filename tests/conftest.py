"""What many tests need: a program in a folder of its own, checked as a user's would be."""

from __future__ import annotations

import gc
import io
import os
import shutil
import sys
from collections.abc import Callable, Iterator
from itertools import count
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, settings

from oddsum.check.plan import check_all
from oddsum.cli import main
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan, Settings
from oddsum.model.outcome import CaseResult, Run
from oddsum.run.trials import Allowance, TrialBench

# Looking for what can be thrown away takes a tenth of the suite's time: less often does, too.
gc.set_threshold(20_000, 20, 50)

MANY = int(os.environ.get("ODDSUM_EXAMPLES", "0"))  # examples of a property, where it is a soak


def examples(usual: int) -> int:
    """How many examples a property is tried with: what the suite has time for, or a soak's."""
    return MANY or usual


# No limits of time: how fast a machine is, is no property of the code.
settings.register_profile(
    "oddsum",
    deadline=None,
    max_examples=examples(60),
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("oddsum")

OWN = Interpreter(sys.executable, tuple(sys.version_info[:3]))
DATA = Path(__file__).parent / "data"
FERRY = Path(__file__).parents[1] / "src" / "oddsum" / "demo" / "ferry"


@pytest.fixture(autouse=True)
def _no_environment_of_the_developer(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("VIRTUAL_ENV", raising=False)
    monkeypatch.delenv("NO_COLOR", raising=False)
    monkeypatch.delenv("NODE_EXTRA_CA_CERTS", raising=False)  # 60 ms a start; none reaches out


@pytest.fixture(scope="session")
def _homes(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """A folder a test, of which one in ten makes use: made by pytest, they cost more than most
    tests do.
    """
    folder = tmp_path_factory.mktemp("homes")
    return (folder / str(number) for number in count())


@pytest.fixture(autouse=True)
def _own_settings(monkeypatch: pytest.MonkeyPatch, _homes: Iterator[Path]) -> None:
    home = next(_homes)
    for name, folder in (("XDG_CONFIG_HOME", home / "config"), ("XDG_DATA_HOME", home / "data")):
        folder.mkdir(parents=True)
        monkeypatch.setenv(name, str(folder))


@pytest.fixture
def demo(tmp_path: Path) -> Path:
    """A folder with the demo programs and their plans."""
    for path in FERRY.iterdir():
        if path.is_file():
            shutil.copy(path, tmp_path)
    return tmp_path


@pytest.fixture
def program(tmp_path: Path) -> Callable[..., Path]:
    """Write a program and, where given, its plan; returns the program's path."""

    def write(source: str | bytes, plan: str | None = None, name: str = "ferry.py") -> Path:
        path = tmp_path / name
        path.write_bytes(source if isinstance(source, bytes) else source.encode())
        if plan is not None:
            path.with_suffix(".cases.toml").write_text(plan, encoding="utf-8")
        return path

    return write


def check_one(path: Path, *, top_level: str = "needed", **case: object) -> CaseResult:
    """Check a program on one case made of these keys; settings may be among them."""
    settings = {k: case.pop(k) for k in list(case) if k in Settings.__struct_fields__}
    one = Case(number=1, name="one", settings=Settings(**settings), **case)  # type: ignore[arg-type]
    plan = Plan(program=path, cases=(one,), top_level=top_level)  # type: ignore[arg-type]
    (result,) = check_all(plan, OWN)
    return result


def other_interpreters() -> list[str]:
    """Python interpreters of other versions that this machine has, 3.9 and newer."""
    found = {}
    places = [Path(p) for p in os.environ.get("PATH", "").split(os.pathsep) if p]
    roots = sorted(Path.home().glob(".pyenv/versions/*/bin"))
    for folder in [*roots, *places]:
        for minor in range(9, 16):
            path = folder / f"python3.{minor}"
            if path.exists() and "shims" not in path.parts and (3, minor) != sys.version_info[:2]:
                found.setdefault(minor, str(path))
    return [found[m] for m in sorted(found)]


@pytest.fixture
def oddsum(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> Callable[..., tuple[int, str, str]]:
    """Run the command line in this process; returns (status, standard output, standard error)."""

    def run(*args: object, typed: str = "") -> tuple[int, str, str]:
        monkeypatch.setattr(sys, "argv", ["oddsum", *map(str, args)])
        monkeypatch.setattr(sys, "stdin", io.StringIO(typed))
        with pytest.raises(SystemExit) as ended:
            main()
        out, err = capsys.readouterr()
        assert "Traceback" not in out + err
        return int(ended.value.code or 0), out, err

    return run


def python() -> tuple[str, str]:
    return "--python", sys.executable


_FOUND: dict[Any, Any] = {}  # what a search found, by the texts it was made of


_SHARED: dict[str, Any] = {}


@pytest.fixture(autouse=True)
def _what_screens_show_is_worked_out_once(request: pytest.FixtureRequest) -> None:
    """Screens show leads and patterns; how these are found has tests without a screen."""
    if request.path.parent.name == "tui" and request.path.name != "test_pinpoint.py":
        request.getfixturevalue("searched_once")
        request.getfixturevalue("shared_once")


@pytest.fixture
def shared_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """What the odd cases of a program share is looked for once a process."""
    from oddsum.workspace import shared

    real = shared.find_pattern

    def find_pattern(plan: Any, by: Any, results: Any, stop: Any) -> Any:
        outcomes = [r.outcome for r in results]
        key = repr((plan.program.read_text(), plan.cases, outcomes, by and by.path))
        if key in _SHARED:
            return _SHARED[key]
        found = real(plan, by, results, stop)
        # Where the test was over meanwhile, its folder gone, little could be found.
        if not stop.is_set() and plan.program.exists():
            _SHARED[key] = found
        return found

    monkeypatch.setattr(shared, "find_pattern", find_pattern)


@pytest.fixture
def searched_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """The same program and plan are searched once a process: the search has tests of its own."""
    from oddsum.workspace import pinpointing

    real = pinpointing.pinpoint

    def pinpoint(plan: Any, interpreter: Any, results: Any = None, **options: Any) -> Any:
        told = options.get("on_stories", lambda stories: None)
        stories: dict[Any, Any] = {}

        def tell(found: dict[Any, Any]) -> None:
            stories.update(found)
            told(found)

        key = (plan.program.name, plan.program.read_text(), plan.cases, plan.reveal,
               options.get("claims"))  # fmt: skip
        key = repr(key)
        if key in _FOUND:
            found, known = _FOUND[key]
            told(known)
            return found
        # What is found must not depend on how busy the machine is.
        found = real(plan, interpreter, results, **{**options, "on_stories": tell, "budget": 30.0})
        _FOUND[key] = (found, stories)
        return found

    monkeypatch.setattr(pinpointing, "pinpoint", pinpoint)


def as_it_is(case: Case, run: Run) -> Run:
    """What a bench of trials judges a run by, where a test wants the run itself."""
    return run


def trial(bench: TrialBench[Run], case: Case, edited: dict[str, str], allowed: Allowance) -> Run:
    """One trial with whole files as they are given; none: of the program as it is."""
    texts = {name: bench.scratch.bundle.files[name].decode() for name in edited}
    bench.load(texts, [{name: ((0, len(texts[name]), text),) for name, text in edited.items()}])
    return next(bench.tried(case, [[0] if edited else []], allowed))
