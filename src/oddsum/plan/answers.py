"""What the learner said of values is kept beside the program, in ``NAME.answers.toml``."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from pathlib import Path

import tomlkit

from oddsum.model.answer import Said
from oddsum.model.errors import PlanError
from oddsum.plan.write import write_text
from oddsum.source.toml import parse_toml

_SAID: tuple[Said, ...] = ("right", "wrong", "unsure")


def answers_file(program: Path) -> Path:
    """Where the answers for a program are kept."""
    return program.with_suffix(".answers.toml")


def read_answers(program: Path) -> dict[str, Said]:
    """The answers given so far, by the sentence that was judged; none where there is no file.

    Raises PlanError where the file cannot be read or says something that cannot be meant.
    """
    path = answers_file(program)
    try:
        told = parse_toml(path.read_text(encoding="utf-8"))
    except FileNotFoundError:
        return {}
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise PlanError(
            f"The answers cannot be read: {error}.",
            file=path.name,
            hint="Mend the file, or take it away: the questions are asked again then.",
        ) from None
    found: dict[str, Said] = {}
    for said in _SAID:
        sentences = told.get(said, [])
        if not isinstance(sentences, list) or not all(isinstance(s, str) for s in sentences):
            raise PlanError(
                f"{said} is no list of sentences.", file=path.name, hint=f'Write {said} = ["..."].'
            )
        found |= dict.fromkeys(sentences, said)
    return found


def write_answers(program: Path, answers: Mapping[str, Said]) -> None:
    """Keep the answers; without any the file is taken away. Raises PlanError."""
    path = answers_file(program)
    if not answers:
        path.unlink(missing_ok=True)
        return
    document = tomlkit.document()
    document.add(tomlkit.comment("What you said of values while looking for a fault."))
    for said in _SAID:
        sentences = [text for text, what in answers.items() if what == said]
        if sentences:
            array = tomlkit.array().multiline(True)
            array.extend(sentences)
            document[said] = array
    write_text(path, tomlkit.dumps(document))
