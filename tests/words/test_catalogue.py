"""The catalogue that translators work from is what the sources say."""

from __future__ import annotations

import re
import runpy
from pathlib import Path

SCRIPT = runpy.run_path(str(Path(__file__).resolve().parent.parent.parent / "scripts" / "words.py"))


def test_the_template_has_every_text_of_the_sources() -> None:
    assert SCRIPT["TEMPLATE"].read_bytes() == SCRIPT["template"](SCRIPT["found"]()), "make words brings it up to date"


def test_both_numbers_of_a_text_have_the_same_fields() -> None:
    differing = [
        each.id
        for each in SCRIPT["found"]()
        if isinstance(each.id, tuple) and len({frozenset(re.findall(r"{(\w+)", text)) - {"n"} for text in each.id}) > 1
    ]
    assert differing == []
