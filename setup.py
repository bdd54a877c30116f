"""What the build adds to pyproject.toml: the catalogues of words are compiled."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

CATALOGUES = Path(__file__).parent / "src" / "waltzmark" / "words" / "catalogues"


class BuildWithWords(build_py):
    """Makes a ``.mo`` of every ``.po`` before the package is put together."""

    def run(self) -> None:
        from babel.messages.mofile import write_mo
        from babel.messages.pofile import read_po

        for source in CATALOGUES.glob("*/LC_MESSAGES/*.po"):
            with source.open("rb") as file:
                catalogue = read_po(file, locale=source.parent.parent.name)
            with source.with_suffix(".mo").open("wb") as file:
                write_mo(file, catalogue)
        super().run()


setup(cmdclass={"build_py": BuildWithWords})
