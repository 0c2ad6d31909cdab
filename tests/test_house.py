"""The rooms of the code: who may import whom, and what no room may use."""

from __future__ import annotations

import ast
import re
from functools import cache
from pathlib import Path

import pytest

SOURCE = Path(__file__).parents[1] / "src" / "oddsum"
CORE = (
    "model", "source", "languages", "plan", "run", "compare", "trace", "check", "advise", "pinpoint", "formats",
    "draw", "mend", "record", "settings",
)  # fmt: skip
# Each room with the rooms of ours that it may import; docs/house.md has the same table.
ROOMS = {
    "model": set(),
    "source": {"model"},
    "languages": {"model", "source"},
    "plan": {"model", "source", "languages"},
    "run": {"model", "source", "languages", "plan"},
    "compare": {"model", "languages"},
    "trace": {"model", "source", "languages", "run"},
    "draw": {"model", "source", "languages", "trace"},
    "check": {"model", "source", "languages", "plan", "run", "compare", "trace"},
    "advise": {"model", "source", "languages", "plan", "run", "compare", "trace", "check"},
    "pinpoint": {
        "model",
        "source",
        "languages",
        "plan",
        "run",
        "compare",
        "trace",
        "check",
        "advise",
    },
    "mend": {"model", "source", "languages", "plan", "run", "compare", "trace", "check", "advise"},
    "record": {
        "model",
        "source",
        "languages",
        "plan",
        "run",
        "compare",
        "trace",
        "check",
        "advise",
        "pinpoint",
        "mend",
        "draw",
    },
    "settings": {"model", "source"},
    "formats": set(CORE) - {"formats"},
    "demo": {"model"},
    "workspace": set(CORE),
    "tui": {*CORE, "workspace", "demo"},
    "cli.py": {
        *CORE,
        "demo",
        "tui",
        "cli_common.py",
        "cli_ask.py",
        "cli_plan.py",
        "cli_chart.py",
        "cli_report.py",
        "cli_completion.py",
        "cli_doctor.py",
    },
    "cli_ask.py": {*CORE, "cli_common.py"},
    "cli_plan.py": {*CORE, "cli_common.py"},
    "cli_chart.py": {*CORE, "cli_common.py"},
    "cli_report.py": {*CORE, "cli_common.py"},
    "cli_completion.py": {"languages", "plan"},
    "cli_doctor.py": {"formats", "record", "run", "settings", "cli_common.py"},
    "cli_common.py": {*CORE, "cli_completion.py"},
    "__main__.py": {"cli.py"},
    "__init__.py": set(),
}
# Packages and modules that do this job already, or would let a program's values run as code.
# `marshal` is none of these: what it reads is data (a code object among it would never be run), and
# a recording packed by it takes a sixth of the time; only the wire and what is sent on it may.
NEVER = {
    "bdb", "pdb", "trace", "tracemalloc", "doctest", "unittest", "pytest", "coverage", "pickle",
    "shelve", "cProfile", "profile", "timeit", "code", "codeop",
}  # fmt: skip


@cache
def nodes(path: Path) -> tuple[ast.AST, ...]:
    """All that a file is made of, read once."""
    return tuple(ast.walk(ast.parse(path.read_text(encoding="utf-8"))))


def files() -> list[Path]:
    return [p for p in sorted(SOURCE.rglob("*.py")) if "ferry" not in p.parts]


def room_of(path: Path) -> str:
    return path.relative_to(SOURCE).parts[0]


@cache
def imports(path: Path) -> frozenset[str]:
    """Dotted names a file imports; a relative import is told from the package it stands in."""
    found = set()
    for node in nodes(path):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            base = node.module or ""
            if node.level:
                parts = path.relative_to(SOURCE.parent).with_suffix("").parts[: -node.level]
                base = ".".join([*parts, base] if base else parts)
            found |= {f"{base}.{alias.name}" for alias in node.names} | {base}
    return frozenset(found)


def own_room(name: str) -> str | None:
    parts = name.split(".")
    if parts[0] != "oddsum" or len(parts) < 2:
        return None
    is_file = (SOURCE / f"{parts[1]}.py").exists()
    return f"{parts[1]}.py" if is_file else parts[1] if (SOURCE / parts[1]).is_dir() else None


@pytest.mark.parametrize("path", files(), ids=lambda p: str(p.relative_to(SOURCE)))
def test_a_file_imports_only_what_its_room_may(path):
    room = room_of(path)
    used = {own_room(name) for name in imports(path)} - {None, room}
    assert used <= ROOMS[room], f"{path} may not import from {used - ROOMS[room]}"


@pytest.mark.parametrize("path", files(), ids=lambda p: str(p.relative_to(SOURCE)))
def test_nothing_that_does_this_job_already_is_used(path):
    assert not {name.split(".")[0] for name in imports(path)} & NEVER


PYTHON = SOURCE / "languages" / "python"
PROBE = PYTHON / "probe"


def test_nothing_outside_its_folder_knows_a_language():
    """No syntax tree, no parser of Python, no ending of its files; only the language's own folder
    is imported by the registry, and by what plans are written in.
    """
    doors = {"languages/registry.py", "languages/notation.py", "languages/commands.py"}
    for path in files():
        if PYTHON in path.parents:
            continue
        text, name = path.read_text(encoding="utf-8"), str(path.relative_to(SOURCE))
        used = imports(path)
        assert not {"ast", "tokenize", "token", "symtable", "dis", "inspect"} & used, name
        assert not re.search(
            r"\beval\(|\bexec\(|\bcompile\(", re.sub(r"re(?:gex)?\.compile\(", "", text)
        ), name
        if room_of(path) not in ("demo",):
            assert '".py"' not in text and "'.py'" not in text, name
        if name not in doors:
            assert not any(n.startswith("oddsum.languages.python") for n in used), name


def test_only_one_door_leads_to_the_parser():
    """Elsewhere than in parsing.py two threads could parse at once; see there."""
    door = PYTHON / "parsing.py"
    asking = re.compile(r"\bast\.(parse|literal_eval)\b|ONLY_AST")
    for path in files():
        if PROBE not in path.parents and path != door:
            assert not asking.search(path.read_text(encoding="utf-8")), path
    assert asking.search(door.read_text(encoding="utf-8"))


def test_the_probe_speaks_the_wire():
    from oddsum.languages.python.probe import host, wire
    from oddsum.run import wire as ours

    for word in ("VERSION", "OPERANDS", "OPEN", "CLOSE", "FRESH"):
        assert getattr(wire, word) == getattr(ours, word), word
    assert host.WORD == ours.WORD


def test_only_the_tui_knows_a_screen():
    for path in files():
        if room_of(path) not in ("tui", "cli.py"):
            assert not any(name.startswith("textual") for name in imports(path)), path


def test_the_probe_uses_the_standard_library_alone():
    import sys

    for path in PROBE.glob("*.py"):
        outside = {n.split(".")[0] for n in imports(path)} - set(sys.stdlib_module_names)
        assert outside <= {"", "oddsum", "_odd_sum_probe"}, path


def test_every_room_is_in_the_table():
    assert {room_of(p) for p in files()} <= set(ROOMS)


# A method a function of the drawing module that it stands for; a method a tag of the log.
TABLES = {"Turtle", "Decoder"}
MOST_ANCESTORS = 2
MOST_METHODS, MOST_LINES = 30, 350  # of a class that is not a table


def test_a_class_is_one_thing():
    for path in files():
        for node in nodes(path):
            if isinstance(node, ast.ClassDef) and node.name not in TABLES:
                methods = [n for n in node.body if isinstance(n, (ast.FunctionDef,
                                                                  ast.AsyncFunctionDef))]  # fmt: skip
                assert len(methods) <= MOST_METHODS, f"{path}: {node.name} has {len(methods)}"
                assert (node.end_lineno or 0) - node.lineno <= MOST_LINES, f"{path}: {node.name}"


def test_nothing_of_ours_is_cut_into_a_chain_of_parent_classes():
    """A class of ours has one parent of ours at most, and that one none."""
    parents: dict[str, list[str]] = {}
    for path in files():
        for node in nodes(path):
            if isinstance(node, ast.ClassDef):
                named = [b.value if isinstance(b, ast.Subscript) else b for b in node.bases]
                parents[node.name] = [b.id for b in named if isinstance(b, ast.Name)]
    for name in parents:
        chain, at = [], name
        while parents.get(at) and parents[at][0] in parents and at not in chain:
            chain.append(at)
            at = parents[at][0]
        assert len(chain) <= MOST_ANCESTORS, f"{' <- '.join([*chain, at])}"


def documented() -> dict[str, set[str]]:
    """The table of docs/house.md: each room with the rooms it may import."""
    text = (SOURCE.parents[1] / "docs" / "house.md").read_text(encoding="utf-8")
    table = [
        line.strip("| \n").split(" | ") for line in text.splitlines() if line.startswith("| `")
    ]
    above: list[str] = []
    found = {}
    for cells in table:
        rooms = [name.rstrip("/") for name in re.findall(r"`([\w.]+/?)`", cells[0])]
        told = re.sub(r"\([^)]*\)", "", cells[-1])
        if told.startswith("nothing"):
            may = set()
        elif told.startswith("all above but "):
            may = (
                set(above) - set(re.findall(r"\w+", told.removeprefix("all above but "))) - {"and"}
            )
        elif told.startswith("all above"):
            may = set(above)
        elif told.startswith("all"):
            may = {*above, *rooms, "tui"}
        else:
            may = {w.strip() for w in told.split(",")}
        for room in rooms:
            found[room] = may - {room}
        above += [r for r in rooms if r not in ("demo", "settings", "formats")]
        above += [r for r in rooms if r in ("settings", "formats")]
    return found


def test_the_table_in_the_docs_is_this_table_column_by_column():
    told = documented()
    for room, may in ROOMS.items():
        if room.endswith(".py"):
            assert room in told, room
            continue
        imported = {own_room(n) for p in files() if room_of(p) == room for n in imports(p)}
        imported -= {None, room}
        assert may <= told[room] | {"demo"}, f"{room}: the test allows {may - told[room]}"
        assert imported <= told[room] | {"demo"}, f"{room} imports {imported - told[room]}"
