"""Score text and tables, out to other programs and in from them."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.desktop.history import Selection
from waltzmark.files.saving import save_atomically
from waltzmark.files.texts import read_text

if TYPE_CHECKING:
    from waltzmark.desktop.window import MainWindow

__all__ = ["export", "import_csv"]


def export(window: MainWindow, kind: str) -> None:
    """Writes the score as plain text (``txt``), or the trace as CSV (``csv``), to a file that is asked for."""
    from waltzmark.files.tables import score_text, trace_csv

    form, trace = window.document.form, window.document.trace
    filters = {"txt": "Plain text (*.txt)", "csv": "CSV tables (*.csv)"}
    start = (window.document.path or Path(window.document.title)).with_suffix(f".{kind}")
    name, _ = QFileDialog.getSaveFileName(window, "Export", str(start), filters[kind])
    if name:
        window.attempt(
            lambda: save_atomically(Path(name), score_text(form) if kind == "txt" else trace_csv(form, trace))
        )


def import_csv(window: MainWindow) -> None:
    """Opens the postures of a CSV table as a new form."""
    from waltzmark.files.tables import form_from_csv

    if not window.may_leave():
        return
    name, _ = QFileDialog.getOpenFileName(window, "Import a table", "", "CSV tables (*.csv);;All files (*)")
    if not name:
        return
    path = Path(name)
    try:
        form = form_from_csv(read_text(path), Form(title=path.stem))
    except WaltzmarkError as error:
        window.tell("This table cannot be imported", str(error))
        return
    window.document.new()
    first = Selection(form.postures[0].id if form.postures else None)
    window.document.edit(f"import {path.name}", form, first)
