"""Phrases that were taught: read from a file, and as the text of one."""

from __future__ import annotations

import math
from pathlib import Path

import tomli
import tomlkit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.spoken import LANGUAGES, MOST_CHARACTERS
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError

__all__ = ["read_taught", "taught_text"]


def read_taught(path: Path) -> tuple[Taught, ...]:
    """Phrases that were taught, from a file. Raises WaltzmarkError where it cannot be read.

    A phrase that makes no sense is told with its number.
    """
    name = Path(path).name
    try:
        raw = tomli.loads(read_text(path, "words", MOST_CHARACTERS))
    except (ValueError, RecursionError) as error:  # also numbers of thousands of digits
        raise DocumentError.of("file.toml", reason=str(error)) from None
    found: list[Taught] = []
    listed = raw.get("phrase", [])
    for number, each in enumerate(listed if isinstance(listed, list) else [], 1):
        try:
            counts = tuple(read_count(str(text)) for text in each["counts"])
            side = {"left": Side.LEFT, "right": Side.RIGHT}[each.get("foot", "right")]
            taught = Taught(str(each["words"]), counts, str(each.get("language", "en")), side, float(each["torso"]))
        except (KeyError, OverflowError, TypeError, ValueError, WaltzmarkError):
            raise WaltzmarkError("file.taught", name=name, number=number) from None
        if not taught.words or not counts or not math.isfinite(taught.torso) or taught.language not in LANGUAGES:
            raise WaltzmarkError("file.taught", name=name, number=number)
        found.append(taught)
    if not found:
        raise WaltzmarkError("file.no-taught", name=name)
    return tuple(found)


def taught_text(taught: tuple[Taught, ...]) -> str:
    """The text of a file of phrases that were taught."""
    document = tomlkit.document()
    tables = tomlkit.aot()
    for each in taught:
        table = tomlkit.table()
        table.update(
            {
                "words": each.phrase,
                "language": each.language,
                "foot": "left" if each.side is Side.LEFT else "right",
                "torso": each.torso,
                "counts": [write_count(count) for count in each.counts],
            }
        )
        tables.append(table)
    document["phrase"] = tables
    return tomlkit.dumps(document)
