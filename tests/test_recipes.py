"""The first four recipes of CONTRIBUTING, followed to the letter in a copy of the house."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
EDIT = '''
"""A price that is added where it should be doubled."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit


class Doubled(EditRule):
    """A name that is read once, doubled."""

    name = "one way"
    title = "a price that is not doubled"
    explanation = "There and back is twice."

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Every name that is called price."""
        for node in scene.expressions(ast.Name):
            if node.id == "price" and isinstance(node.ctx, ast.Load):
                yield make_edit(scene, self.name, span(scene, node), "(price * 2)",
                                what="It is not doubled.", likely=0.1)
'''
NOTE = """

def _ferry(scene):
    for node in ast.walk(scene.tree):
        if isinstance(node, ast.Name) and node.id == "fery":
            yield node.lineno, "`fery`: is the ferry meant?"


RULES = (*RULES, Rule("a ferry with one r", "It has two.", "fery = 1\\nprint(fery)\\n", (), _ferry))
"""
QUESTION = '''
"""How many steps there are."""

from __future__ import annotations

from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def how_many(asker: Asker, traced: Traced) -> None:
    """Says it."""
    asker.say(f"There are {len(traced.story)} steps.")
'''
ROW = """    Action("ctrl+w", "Ctrl+W", "how many steps", "How many steps there are.", "ask('how_many')",
           False, question="How many steps are there?"),
"""
FORMAT = '''
"""One line a case."""


def write(plan, results, seconds, *more):
    """The outcomes alone."""
    return "".join(f"{r.number} {r.outcome.value}\\n" for r in results)
'''
# By the recipe's heading: what is done to which file, and a script that must then run.
RECIPES = {
    "An edit that Pinpoint tries": (
        {
            "languages/python/edits/NAME.py": ("doubled", EDIT),
            "languages/python/edits/__init__.py": (
                ("_ALL: tuple", "from oddsum.languages.python.edits.doubled import Doubled\n\n_ALL: tuple"),
                ("    Comparison,\n", "    Doubled,\n    Comparison,\n"),
            ),
        },
        "from oddsum.languages.python import PYTHON\n"
        "from oddsum.source.program import Source\n"
        "scene = PYTHON.edits.scene(Source('x.py', 'price = 3\\nprint(price)\\n'), {}, frozenset())\n"
        "texts = [t for e, t in PYTHON.edits.edits(scene) if e.kind == 'one way']\n"
        "assert texts == ['price = 3\\nprint((price * 2))\\n'], texts\n"
        "assert PYTHON.edits.kind_words('one way')[0] == 'a price that is not doubled'\n",
    ),
    "A note that a reader would make": (
        {"languages/python/notes/TOPIC.py": ("names", NOTE)},
        "from oddsum.languages.python import PYTHON\n"
        "from oddsum.source.program import Source\n"
        "scene = PYTHON.edits.scene(Source('x.py', 'fery = 1\\nprint(fery)\\n'), {}, frozenset())\n"
        "assert 'is the ferry meant' in ' '.join(n.text for n in PYTHON.edits.notes([scene]))\n",
    ),
    "A question that a trace can be asked": (
        {
            "tui/questions/NAME.py": ("how_many", QUESTION),
            "tui/questions/__init__.py": (
                ("Question = Callable", "from oddsum.tui.questions.how_many import how_many\n\nQuestion = Callable"),
                ('    "apart": line.apart,\n', '    "apart": line.apart,\n    "how_many": how_many,\n'),
            ),
            "tui/actions.py": (("TRACE = (\n", "TRACE = (\n" + ROW),),
        },
        "from oddsum.tui.actions import actions_of, bindings_of\n"
        "from oddsum.tui.questions import QUESTIONS\n"
        "said = []\n"
        "asker = type('Asker', (), {'say': lambda self, text: said.append(text)})()\n"
        "QUESTIONS['how_many'](asker, type('Traced', (), {'story': 'abc'})())\n"
        "assert said == ['There are 3 steps.']\n"
        "assert any(a.question == 'How many steps are there?' for a in actions_of('trace'))\n"
        "assert any(b.key == 'ctrl+w' for b in bindings_of('trace'))\n",
    ),
    "A format": (
        {
            "formats/ANSWER_FORMAT.py": ("check_short", FORMAT),
            "formats/table.py": (('"check": ("text",', '"check": ("text", "short",'),),
        },
        "import sys\n"
        "from pathlib import Path\n"
        "from oddsum.cli import main\n"
        "Path('x.py').write_text('print(1)\\n')\n"
        "Path('x.cases.toml').write_text('[[case]]\\nname = \"a\"\\nstdout = \"1\"\\n')\n"
        "sys.argv = ['oddsum', 'check', 'x.py', '--format', 'short', '-o', 'out.txt']\n"
        "try:\n    main()\nexcept SystemExit as end:\n    assert end.code == 0\n"
        "assert Path('out.txt').read_text() == '1 agrees\\n'\n",
    ),
}  # fmt: skip


def listed(recipe: str) -> list[str]:
    """The files that a recipe of CONTRIBUTING says it touches, those of the tests left out."""
    text = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")
    part = text.split(f"### {recipe}\n")[1].split("\n#")[0]
    files = re.findall(r"^- `([^`]+)`:", part, re.M)
    assert any(f.startswith("tests/") for f in files)
    return [f for f in files if not f.startswith("tests/")]


def test_the_first_four_recipes_are_these():
    text = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")
    assert re.findall(r"^### (.*)$", text, re.M)[:4] == list(RECIPES)
    for name in re.findall(r"`(tests/[\w/]+\.py)`", text):
        assert (ROOT / name).exists() or "NAME" in name, name


@pytest.mark.parametrize("recipe", RECIPES)
def test_a_recipe_works_and_touches_what_it_says(recipe, tmp_path):
    changes, script = RECIPES[recipe]
    assert sorted(changes) == sorted(listed(recipe))
    house = tmp_path / "oddsum"
    shutil.copytree(ROOT / "src" / "oddsum", house, ignore=shutil.ignore_patterns("__pycache__"))
    for name, change in changes.items():
        if isinstance(change[0], str):  # a new file, or a rule at the end of its topic's
            made, text = change
            path = house / re.sub(r"NAME|TOPIC|ANSWER_FORMAT", made, name)
            path.write_text((path.read_text() if path.exists() else "") + text.lstrip("\n")
                            if not path.exists() else path.read_text() + text)  # fmt: skip
            continue
        path = house / name
        text = path.read_text(encoding="utf-8")
        for old, new in change:
            assert text.count(old) == 1, old
            text = text.replace(old, new)
        path.write_text(text, encoding="utf-8")
    ran = subprocess.run(
        [sys.executable, "-c", script], cwd=tmp_path, capture_output=True, text=True, check=False,
        env={**os.environ, "PYTHONPATH": str(tmp_path)},
    )  # fmt: skip
    assert ran.returncode == 0, ran.stderr
