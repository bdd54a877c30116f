"""The program's own sources, read once for all tests that look into them."""

from __future__ import annotations

import ast
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import NamedTuple

SOURCES = Path(__file__).resolve().parent.parent / "src" / "waltzmark"


class Sources(NamedTuple):
    """What stands in the modules that somebody wrote, each with its file."""

    calls: Sequence[tuple[Path, ast.Call]]
    made_texts: Sequence[tuple[Path, ast.JoinedStr]]  # f"…"


@cache
def sources() -> Sources:
    calls, made_texts = [], []
    for path in sorted(set(SOURCES.rglob("*.py")) - {SOURCES / "core" / "score" / "generated.py"}):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call):
                calls.append((path, node))
            elif isinstance(node, ast.JoinedStr):
                made_texts.append((path, node))
    return Sources(calls, made_texts)
