"""Writing a .waltz document: what the form says goes in, everything else of the old text stays as it was."""

from __future__ import annotations

from typing import Any

import tomlkit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.files.document_values import document_values
from waltzmark.files.patching import patch
from waltzmark.files.reading import BOM, FORMAT, ReadForm, read_document
from waltzmark.files.saving import SaveError

__all__ = ["render"]


def render(form: Form, base: ReadForm | None = None) -> str:
    """The text of a document for a form.

    base: what it was read from. Its comments, unknown keys, order, spelling and line ends stay; only what the form says
    differently is changed, so an unchanged form gives the same text. Raises SaveError when that cannot be done.
    """
    if base is not None and base.form == form:
        return base.text
    new = document_values(form)
    if base is None:
        text = _patched(f"waltzmark = {FORMAT}\n", {}, new)
    else:
        marked, windows = base.text.startswith(BOM), _ends_as_windows(base.text)
        plain = base.text.removeprefix(BOM)
        old = document_values(base.form)
        text = _patched(plain.replace("\r\n", "\n") if windows else plain, old, new)
        text = (BOM if marked else "") + (text.replace("\n", "\r\n") if windows else text)
    if not _says(text, new):
        # What is written must read back as what was meant; better no save than a wrong one.
        raise SaveError("save.would-lose")
    return text


def _ends_as_windows(text: str) -> bool:
    """Whether every line ends with a carriage return too."""
    return "\r\n" in text and text.count("\r\n") == text.count("\n")


def _patched(text: str, old: dict[str, Any], new: dict[str, Any]) -> str:
    try:
        document = tomlkit.parse(text)
        patch(document, {"waltzmark": FORMAT} | old, new)
        return tomlkit.dumps(document)
    except Exception as error:  # whatever the library trips over, the form is not lost for it and the user is told
        raise SaveError("save.unchangeable", reason=type(error).__name__) from error


def _says(text: str, values: dict[str, Any]) -> bool:
    try:
        return document_values(read_document(text).form) == values
    except WaltzmarkError:
        return False
