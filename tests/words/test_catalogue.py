"""The catalogue that translators work from is what the sources say."""

from __future__ import annotations

import ast
import re
import runpy
from functools import cache
from pathlib import Path

import pytest
from babel.messages.pofile import read_po

from tests.sources import sources

ROOT = Path(__file__).resolve().parent.parent.parent
SCRIPT = runpy.run_path(str(ROOT / "scripts" / "words.py"))
found = cache(SCRIPT["found"])


def test_the_template_has_every_text_of_the_sources() -> None:
    assert SCRIPT["TEMPLATE"].read_bytes() == SCRIPT["template"](found()), "make words brings it up to date"


def test_every_text_that_is_asked_for_is_found() -> None:
    """What gathers texts does not look into the texts of another call, nor behind a plural's first words."""
    gathered = {each for text in found() for each in (text.id if isinstance(text.id, tuple) else (text.id,))}
    texts = {"tr": (0,), "N_": (0,), "ntr": (0, 1), "Plural": (0, 1), "ptr": (1,)}
    missing, seen = [], 0
    for path, call in sources().calls:
        for at in texts.get(getattr(call.func, "id", ""), ()):
            text = call.args[at] if at < len(call.args) else None
            if isinstance(text, ast.Constant):
                seen += 1
                missing += [f"{path.name}:{call.lineno}"] if text.value not in gathered else []
    assert missing == [] and seen > 2500


def test_no_text_hides_where_it_is_not_found() -> None:
    """What stands within another text, as in f"{tr('…')}", is not seen by all Pythons that gather texts."""
    hidden = []
    for path, text in sources().made_texts:
        hidden += [
            f"{path.name}:{call.lineno}"
            for call in ast.walk(text)
            if isinstance(call, ast.Call)
            and getattr(call.func, "id", "") in SCRIPT["GATES"]
            and any(isinstance(each, ast.Constant) for each in call.args)
        ]
    assert hidden == []


@pytest.mark.parametrize(
    "path", sorted(SCRIPT["CATALOGUES"].glob("*/LC_MESSAGES/*.po")), ids=lambda path: path.parts[-3]
)
def test_a_language_says_everything_with_the_same_fields(path: Path) -> None:
    with path.open("rb") as file:
        catalogue = read_po(file, locale=path.parts[-3])
    assert {(each.id, each.context) for each in catalogue} == {(each.id, each.context) for each in found()}
    for each in catalogue:
        if not each.id:
            continue
        texts = (each.id,) if isinstance(each.id, str) else tuple(each.id)
        said = (each.string or "",) if isinstance(each.string, str) else tuple(each.string or ())
        assert len(said) == len(texts) and all(said) and not each.fuzzy, each.id
        for text, other in zip(texts, said, strict=True):
            kept = [
                (
                    set(re.findall(r"{[^{}]*}", written.replace("{{", "").replace("}}", ""))),
                    (written.count("\n"), "&" in written, written[:1] == " ", written[-1:] == " ", written.count("%%")),
                )
                for written in (text, other)
            ]
            assert kept[0] == kept[1], other


def test_both_numbers_of_a_text_have_the_same_fields() -> None:
    differing = [
        each.id
        for each in found()
        if isinstance(each.id, tuple) and len({frozenset(re.findall(r"{(\w+)", text)) - {"n"} for text in each.id}) > 1
    ]
    assert differing == []
