"""Finds every text that can be translated, and brings the catalogues up to date.

``make words`` writes ``catalogues/waltzmark.pot`` and updates each ``catalogues/LANGUAGE/LC_MESSAGES/waltzmark.po``.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from io import BytesIO
from pathlib import Path
from typing import Any

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from waltzmark.demo import demo_names

ROOT = Path(__file__).resolve().parent.parent
CATALOGUES = ROOT / "src" / "waltzmark" / "words" / "catalogues"
TEMPLATE = CATALOGUES / "waltzmark.pot"
#: The gates of `waltzmark.words.language`, and which of their arguments are texts.
GATES: dict[str, tuple[int | tuple[int, str], ...] | None] = {
    "tr": None,
    "N_": None,
    "ntr": (1, 2),
    "plural": (1, 2),
    "Plural": (1, 2),
    "ptr": ((1, "c"), 2),
}


def found() -> Catalog:
    """Every text of the sources, with the files it stands in."""
    catalogue = Catalog(project="Waltzmark", charset="utf-8", fuzzy=False)
    sources = extract_from_dir(
        ROOT / "src" / "waltzmark", [("**.py", "python")], keywords=GATES, comment_tags=("For translators:",)
    )
    for name, _line, text, comments, context in sorted(sources, key=lambda each: each[0]):
        catalogue.add(text, locations=[(f"src/waltzmark/{name}", 0)], auto_comments=comments, context=context)
    for school in sorted((ROOT / "src" / "waltzmark").glob("core/school/bundled/*.toml")):
        for text in of_school(tomllib.loads(school.read_text(encoding="utf-8"))):
            catalogue.add(text, locations=[(school.relative_to(ROOT).as_posix(), 0)])
    for shown in sorted((ROOT / "src" / "waltzmark").glob("demo/**/*.waltz")):
        for text in demo_names(shown.read_text(encoding="utf-8")):
            catalogue.add(text, locations=[(shown.relative_to(ROOT).as_posix(), 0)])
    return catalogue


def of_school(table: dict[str, Any]) -> Iterator[str]:
    """The texts of a school that ships: what it is, how the trunk is held, why its rules are, and their cautions."""
    yield from (table[key] for key in ("summary", "spine") if key in table)
    for rule in table.get("rules", {}).values():
        yield from (rule[key] for key in ("why", "caution") if key in rule)


def template(catalogue: Catalog) -> bytes:
    """A catalogue as it is kept: without dates and lines, which change when no text does."""
    written = BytesIO()
    write_po(written, catalogue, width=120, omit_header=True, include_lineno=False, sort_by_file=True)
    return written.getvalue()


def main() -> None:
    """Writes the template, and updates every language."""
    catalogue = found()
    CATALOGUES.mkdir(exist_ok=True)
    TEMPLATE.write_bytes(template(catalogue))
    for source in sorted(CATALOGUES.glob("*/LC_MESSAGES/*.po")):
        with source.open("rb") as file:
            language = read_po(file, locale=source.parent.parent.name)
        language.update(catalogue, no_fuzzy_matching=True)  # a guess is worse than English
        written = BytesIO()
        write_po(written, language, width=120, include_lineno=False, sort_by_file=True)
        source.write_bytes(written.getvalue())
        with source.with_suffix(".mo").open("wb") as compiled:  # as the build does, so that it is heard at once
            write_mo(compiled, language)
        print(f"{source.relative_to(ROOT)}: {sum(not each.string for each in language if each.id)} are not translated")
    print(f"{TEMPLATE.relative_to(ROOT)}: {len(catalogue)} texts")


if __name__ == "__main__":
    main()
