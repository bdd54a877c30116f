"""Asking for files: beside the form, else where one was chosen last, else among one's documents."""

from __future__ import annotations

from pathlib import Path

from PySide6 import QtWidgets  # its dialogs are made when they are first named: that takes a while

from waltzmark.desktop.document import Document
from waltzmark.desktop.settings import Settings

__all__ = ["Files"]

_LAST = "folder"  # what the settings call the one that was chosen last


class Files:
    """Asks for the files of a window. What is asked for is None, or empty, where the dialog is closed without one."""

    def __init__(self, window: QtWidgets.QWidget, document: Document, settings: Settings) -> None:
        self._window, self._document, self._settings = window, document, settings

    @property
    def folder(self) -> Path:
        """Where a dialog begins."""
        if self._document.path is not None:
            return self._document.path.parent
        last = self._settings.text(_LAST, "")
        if last and Path(last).is_dir():
            return Path(last)
        from PySide6.QtCore import QStandardPaths  # not needed until a file is asked for

        documents = Path(QStandardPaths.writableLocation(QStandardPaths.StandardLocation.DocumentsLocation))
        return documents if documents.is_dir() else Path.home()

    def to_open(self, words: str, kinds: str, parent: QtWidgets.QWidget | None = None) -> Path | None:
        """Asks for a file that is there; kinds: as Qt says them."""
        name, _ = QtWidgets.QFileDialog.getOpenFileName(parent or self._window, words, str(self.folder), kinds)
        return self._chosen(name)

    def several_to_open(self, words: str, kinds: str, parent: QtWidgets.QWidget | None = None) -> list[Path]:
        """Asks for some of them."""
        names, _ = QtWidgets.QFileDialog.getOpenFileNames(parent or self._window, words, str(self.folder), kinds)
        return [path for name in names if (path := self._chosen(name)) is not None]

    def to_save(
        self, words: str, proposed: Path | str, kinds: str, parent: QtWidgets.QWidget | None = None
    ) -> Path | None:
        """Asks where something is to be written. proposed: its name at least."""
        return self.to_save_as(words, proposed, kinds, parent)[0]

    def to_save_as(
        self, words: str, proposed: Path | str, kinds: str, parent: QtWidgets.QWidget | None = None
    ) -> tuple[Path | None, str]:
        """The same, and as which of the kinds."""
        start = self.folder / proposed
        name, kind = QtWidgets.QFileDialog.getSaveFileName(parent or self._window, words, str(start), kinds)
        return self._chosen(name), kind

    def _chosen(self, name: str) -> Path | None:
        if not name:
            return None
        path = Path(name)
        self._settings.set_text(_LAST, str(path.parent))
        return path
