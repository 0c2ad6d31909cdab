"""The user's settings: a TOML file in their own folder, read at the start, changed key by key."""

from __future__ import annotations

import difflib
import tomllib
from collections.abc import Iterable
from pathlib import Path
from typing import Literal

import msgspec
from platformdirs import user_config_path

from oddsum.model.case import Allow, Plan, Reveal, Settings
from oddsum.model.errors import OddSumError
from oddsum.model.typed import convert
from oddsum.source.save import replace_file
from oddsum.source.toml import parse_toml


class SettingsError(OddSumError):
    """The settings cannot be read or written; the file is left as it is."""


class UserSettings(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The settings, with what holds where the file says nothing.

    ``plain_marks``: characters of sure width in place of the glyphs. ``interpreter``, ``node``
    and ``editor`` are commands, blank for finding one. ``reveal``: how far a lead is uncovered
    when it is first seen, ``guess_first``: whether a guess comes before any lead.
    ``trace_opens``: where Trace opens a case, past the definitions, at the odd moment, or at
    the first step. ``timeout`` is in seconds of processor time, ``memory`` and ``output`` in
    MB; they hold for plans that say nothing of their own. ``fence``: plain runs are fenced in,
    whatever the plan says. ``allowed`` are answers to what plans ask for in ``allow``, by the
    plan's path.
    """

    theme: Literal["lamp", "paper"] = "lamp"
    plain_marks: bool = False
    interpreter: str = ""
    node: str = ""
    editor: str = ""
    reveal: Reveal = "where"
    guess_first: bool = False
    trace_opens: Literal["work", "odd", "first"] = "work"
    timeout: float | None = None
    memory: float | None = None
    output: float | None = None
    fence: bool = False
    allowed: dict[str, tuple[Allow, ...]] = {}
    walk_seen: bool = False  # whether the first-run walk was put away


def settings_file() -> Path:
    """Where the settings are kept."""
    return user_config_path("oddsum") / "settings.toml"


def read_settings() -> tuple[UserSettings, SettingsError | None]:
    """The settings; where they cannot be read, what holds without them, and what is wrong."""
    path = settings_file()
    try:
        return _parsed(path.read_text(encoding="utf-8"), path), None
    except FileNotFoundError:
        return UserSettings(), None
    except SettingsError as error:
        return UserSettings(), error
    except (OSError, UnicodeDecodeError) as error:
        why = getattr(error, "strerror", None) or "it is not UTF-8"
        return UserSettings(), SettingsError(f"The settings in {path} cannot be read: {why}.")


def change_setting(key: str, value: object) -> UserSettings:
    """Set one key, comments and order staying as they are; returns the settings then.

    ``None`` takes the key out. Raises SettingsError; the file is then as it was.
    """
    import tomlkit

    path = settings_file()
    text = ""
    try:
        if path.exists():
            text = path.read_text(encoding="utf-8")
        _parsed(text, path)  # a file that is wrong is for its owner to put right, not to write over
        document = tomlkit.parse(text)
        if value is None:
            document.pop(key, None)
        else:
            document[key] = value
        made = tomlkit.dumps(document)
        settings = _parsed(made, path)
        path.parent.mkdir(parents=True, exist_ok=True)
        replace_file(path, made.encode("utf-8"))
    except SettingsError:
        raise
    except (OSError, UnicodeDecodeError, OddSumError) as error:
        raise SettingsError(f"The setting was not kept: {error}") from error
    return settings


def _parsed(text: str, path: Path) -> UserSettings:
    try:
        values = parse_toml(text)
    except tomllib.TOMLDecodeError as error:
        raise SettingsError(
            f"The settings in {path} cannot be read: {error}.",
            hint="Put that line right, or delete the file; until then no setting holds.",
        ) from None
    known = UserSettings.__struct_fields__
    for key in values:
        if key not in known:
            near = difflib.get_close_matches(key, known, n=1)
            hint = f"Did you mean {near[0]}?" if near else f"There are: {', '.join(known)}."
            raise SettingsError(f"The settings in {path} have a key {key}, which means nothing.",
                                hint=hint)  # fmt: skip
    try:
        settings = convert(values, UserSettings)
    except msgspec.ValidationError as error:
        raise SettingsError(
            f"The settings in {path} cannot be used: {_plainly(str(error))}.",
            hint="Put it right, or delete that line; until then no setting holds.",
        ) from None
    for key in ("timeout", "memory", "output"):
        limit = getattr(settings, key)
        if limit is not None and limit <= 0:
            raise SettingsError(f"The settings in {path} have {key} = {limit:g}; it must be above "
                                "0.")  # fmt: skip
    return settings


def _plainly(text: str) -> str:
    """A message of the decoder as a beginner reads it: ``theme: Invalid enum value 'red'``."""
    said, _, place = text.partition(" - at `$.")
    return f"{place.rstrip('`')}: {said}" if place else said


def with_settings(plan: Plan, settings: UserSettings) -> Plan:
    """A plan on the user's terms: their limits where it has none of its own, the fence where they
    want it, and of what it asks to be allowed only what they have said yes to.
    """
    own = Settings(timeout=settings.timeout, memory=settings.memory, output=settings.output)
    given = settings.allowed.get(_path_of(plan), ())
    return msgspec.structs.replace(
        plan,
        settings=plan.settings.over(own),
        fence=plan.fence or settings.fence,
        allow=tuple(one for one in plan.allow if one in given),
    )


def unanswered(plan: Plan, settings: UserSettings) -> tuple[Allow, ...]:
    """What a plan as it was written asks to be allowed, where nobody has said yes or no to it."""
    return () if _path_of(plan) in settings.allowed else plan.allow


def answered(plan: Plan, given: Iterable[Allow], settings: UserSettings) -> dict[str, list[Allow]]:
    """The answers kept, with one to a plan: what it may, of what it asks for."""
    kept = {path: list(one) for path, one in settings.allowed.items()}
    return {**kept, _path_of(plan): [one for one in plan.allow if one in set(given)]}


def _path_of(plan: Plan) -> str:
    return str((plan.file or plan.program).absolute())
