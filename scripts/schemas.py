"""Writes the schemas of what the commands print: ``make schemas``."""

from __future__ import annotations

import json
from pathlib import Path

from waltzmark.files.printed import ANSWERS, schema

FOLDER = Path(__file__).parent.parent / "docs" / "schemas"


def text(name: str) -> str:
    """A schema as it is written."""
    return json.dumps(schema(name), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    for each in ANSWERS:
        (FOLDER / f"{each}.json").write_text(text(each), encoding="utf-8")
