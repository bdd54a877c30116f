"""What the build adds to pyproject.toml: catalogues of words are compiled, and the grammar becomes a parser."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

PACKAGE = Path(__file__).parent / "src" / "waltzmark"


def compile_catalogues() -> None:
    """Makes a ``.mo`` of every ``.po``."""
    from babel.messages.mofile import write_mo
    from babel.messages.pofile import read_po

    for source in (PACKAGE / "words" / "catalogues").glob("*/LC_MESSAGES/*.po"):
        with source.open("rb") as file:
            catalogue = read_po(file, locale=source.parent.parent.name)
        with source.with_suffix(".mo").open("wb") as file:
            write_mo(file, catalogue)


def generate_parser() -> None:
    """Writes the parser of the score language as a module by itself, so that a start need not work its tables out."""
    import hashlib
    import re

    from lark import Lark
    from lark.tools.standalone import gen_standalone

    grammar = (PACKAGE / "core" / "score" / "grammar.lark").read_text(encoding="utf-8")
    how = {"parser": "lalr", "lexer": "contextual", "maybe_placeholders": True, "g_regex_flags": re.ASCII}
    made = Lark(grammar, start="count", **how)
    with (PACKAGE / "core" / "score" / "generated.py").open("w", encoding="utf-8") as file:
        gen_standalone(made, out=file)
        file.write(f"\nGRAMMAR = {hashlib.sha256(grammar.encode()).hexdigest()!r}\n")


class Build(build_py):
    """Makes these before the package is put together."""

    def run(self) -> None:
        compile_catalogues()
        generate_parser()
        super().run()


setup(cmdclass={"build_py": Build})
