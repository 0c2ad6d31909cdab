"""The edits that undo what beginners get wrong: a class a rule, a line each in EDIT_RULES.

Formatting and comments of the program stay as they are: an edit replaces the characters it is
about, or whole lines.
"""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.languages.python.edits.arithmetic import Arithmetic
from oddsum.languages.python.edits.attribute import Attribute
from oddsum.languages.python.edits.augmented import Augmented
from oddsum.languages.python.edits.belonging import Belonging
from oddsum.languages.python.edits.bounds import Bounds
from oddsum.languages.python.edits.branch import Branch
from oddsum.languages.python.edits.comparison import Comparison
from oddsum.languages.python.edits.constant import Constant
from oddsum.languages.python.edits.conversion import Conversion
from oddsum.languages.python.edits.deeper import Deeper
from oddsum.languages.python.edits.discarded import Discarded
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.exchanged import Exchanged
from oddsum.languages.python.edits.expression import Expression
from oddsum.languages.python.edits.extra import Commented, Extra
from oddsum.languages.python.edits.folding import Folding
from oddsum.languages.python.edits.given_back import GivenBack
from oddsum.languages.python.edits.guard import Guard
from oddsum.languages.python.edits.index import Index, RowColumn
from oddsum.languages.python.edits.inherited import Inherited
from oddsum.languages.python.edits.initial import Initial
from oddsum.languages.python.edits.late import Late
from oddsum.languages.python.edits.leaving import InnerLoop, Leaving
from oddsum.languages.python.edits.logic import Logic
from oddsum.languages.python.edits.missing import Missing
from oddsum.languages.python.edits.missing_part import MissingPart
from oddsum.languages.python.edits.order import Order
from oddsum.languages.python.edits.parentheses import Parentheses
from oddsum.languages.python.edits.placement import Placement
from oddsum.languages.python.edits.remembered import Remembered
from oddsum.languages.python.edits.rounding import Rounding
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.edits.shared import Global, LostUpdate, Mutated, Shared
from oddsum.languages.python.edits.sorting import Sorting
from oddsum.languages.python.edits.turning import Turning
from oddsum.languages.python.edits.unit import Unit
from oddsum.languages.python.edits.unprinted import Unprinted
from oddsum.languages.python.edits.unused import Unused
from oddsum.languages.python.edits.used_up import UsedUp
from oddsum.languages.python.edits.variable import Variable
from oddsum.model.lead import TrialEdit
from oddsum.source.program import Source

# In this order, the more telling name first: `range(n - 1)` is a bound before it is a constant.
_ALL: tuple[type[EditRule], ...] = (
    Comparison,
    Bounds,
    Parentheses,
    Arithmetic,
    Unit,
    Augmented,
    Logic,
    Branch,
    Index,
    RowColumn,
    Shared,
    Belonging,
    Inherited,
    Late,
    Remembered,
    Sorting,
    Mutated,
    LostUpdate,
    Global,
    GivenBack,
    UsedUp,
    Discarded,
    Commented,
    Leaving,
    Placement,
    Order,
    InnerLoop,
    Rounding,
    Folding,
    Conversion,
    Exchanged,
    Attribute,
    Turning,
    Unused,
    Deeper,
    Variable,
    Initial,
    Constant,
    MissingPart,
    Extra,
    Missing,
    Expression,
    Guard,
    Unprinted,
)
EDIT_RULES: dict[str, EditRule] = {kind.name: kind() for kind in _ALL}


def trial_edits(scene: Scene) -> Iterator[tuple[TrialEdit, str]]:
    """Every edit of every kind that could have been made in a program, with the text each leads to;
    each text once."""
    source = scene.source
    seen = {source.text}
    for kind in EDIT_RULES.values():
        for edit in kind.edits(scene):
            text = with_edit(source, edit)
            if text not in seen and not _breaks_text(scene, edit):
                seen.add(text)
                yield edit, text


def _breaks_text(scene: Scene, edit: TrialEdit) -> bool:
    """Whether it puts a quote inside an f-string: before Python 3.12 that ends it."""
    if not any(sign in edit.new for sign in "\"'\\\n"):
        return False
    return any(start <= edit.start < stop for start, stop in scene.texts)


def with_edit(source: Source, edit: TrialEdit) -> str:
    """The program's text with the edit made."""
    return source.text[: edit.start] + edit.new + source.text[edit.stop :]
