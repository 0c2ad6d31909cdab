"""Which plan belongs to a program."""

from __future__ import annotations

from pathlib import Path
from shlex import quote

from oddsum.model.errors import PlanError
from oddsum.plan.commands import head_for

SUFFIX = ".cases.toml"


def plans_of(program: Path) -> tuple[Path, ...]:
    """All plans beside a program: ``NAME.cases.toml`` first, then ``NAME.*.cases.toml``."""
    folder, name = program.parent, program.stem
    first = folder / f"{name}{SUFFIX}"
    more = sorted(p for p in folder.glob(f"*{SUFFIX}") if p.name.startswith(f"{name}."))
    return tuple(p for p in [first] if p.exists()) + tuple(p for p in more if p != first)


def default_plan(program: Path) -> Path:
    """Where the program's plan is, or would be made."""
    return program.with_name(f"{program.stem}{SUFFIX}")


def choose_plan(program: Path, named: Path | None) -> Path | None:
    """Return the plan to use, None where the program has none; raises PlanError."""
    if named is not None:
        if named.exists():
            return named
        raise PlanError(f"There is no plan {named}.", hint="Check the name after --plan.")
    found = plans_of(program)
    if not found:
        return None
    if found[0] == default_plan(program) or len(found) == 1:
        return found[0]
    names = ", ".join(p.name for p in found)
    raise PlanError(
        f"{program.name} has {len(found)} plans: {names}.", hint="Say which one with --plan."
    )


def missing_plan(program: Path) -> PlanError:
    """The sentence for a program without a plan: how to begin one."""
    plan = default_plan(program).name
    head = head_for(program).strip().replace("\n", ", ")
    first = f"{head}, then [[case]]" if head else "[[case]]"
    return PlanError(
        f"{program.name} has no plan yet: there is no {plan} beside it.",
        hint=f"Open it with `oddsum {quote(str(program))}`: it asks for the first case. Or write "
        f'{plan} by hand, beginning with {first}, name = "...", stdin = "..." and stdout = "...".',
        file=plan,
    )
