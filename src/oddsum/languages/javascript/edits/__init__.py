"""The edits that undo what beginners get wrong in JavaScript: a class a rule, a line each here."""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.languages.javascript.edits.arithmetic import (
    Arithmetic,
    Grouping,
    LostUpdate,
    Overwritten,
    Rounding,
)
from oddsum.languages.javascript.edits.comparison import (
    AsNumbers,
    Assigned,
    Comparison,
    NotANumber,
)
from oddsum.languages.javascript.edits.copies import Folding, LostThis, Shared
from oddsum.languages.javascript.edits.deeper import Deeper
from oddsum.languages.javascript.edits.exchanged import Exchanged
from oddsum.languages.javascript.edits.instead import Instead
from oddsum.languages.javascript.edits.logic import EmptyBody, Falling, Logic
from oddsum.languages.javascript.edits.missing import Missing
from oddsum.languages.javascript.edits.scene import EditRule, Scene
from oddsum.languages.javascript.edits.statements import (
    Awaited,
    Branches,
    Discarded,
    Extra,
    GivenBack,
    GoingOver,
    Leaving,
    Order,
    Placement,
    Scoping,
    Sorting,
)
from oddsum.languages.javascript.edits.unit import Unit
from oddsum.languages.javascript.edits.unprinted import Unprinted
from oddsum.languages.javascript.edits.unused import Unused
from oddsum.languages.javascript.edits.values import Attribute, Constant, Index, Initial, Variable
from oddsum.languages.javascript.edits.worked_out import Expression, Guard
from oddsum.model.lead import TrialEdit

_ALL: tuple[type[EditRule], ...] = (
    Comparison,
    Assigned,
    NotANumber,
    AsNumbers,
    Grouping,
    Arithmetic,
    Unit,
    Logic,
    EmptyBody,
    Falling,
    Index,
    Exchanged,
    Sorting,
    Scoping,
    GoingOver,
    Awaited,
    LostThis,
    Shared,
    LostUpdate,
    Overwritten,
    GivenBack,
    Leaving,
    Placement,
    Order,
    Branches,
    Discarded,
    Rounding,
    Folding,
    Attribute,
    Unused,
    Deeper,
    Variable,
    Initial,
    Constant,
    Missing,
    Instead,
    Extra,
    Expression,
    Guard,
    Unprinted,
)
EDIT_RULES: dict[str, EditRule] = {kind.name: kind() for kind in _ALL}


def trial_edits(scene: Scene) -> Iterator[tuple[TrialEdit, str]]:
    """Every edit of every rule with the text after it; the same text once."""
    text = scene.source.text
    seen = {text}
    for rule in EDIT_RULES.values():
        for edit in rule.edits(scene):
            after = text[: edit.start] + edit.new + text[edit.stop :]
            if after not in seen:
                seen.add(after)
                yield edit, after
