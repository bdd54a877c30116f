"""Tables of what is found: rows are chosen as a whole, nothing is edited in place, Tab leads on."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager

from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget

from waltzmark.desktop.theme import font

__all__ = ["filling", "make_row_table"]


def make_row_table(
    table: QTableWidget, name: str, columns: Sequence[str], stretched: int, points: float = 10.0
) -> None:
    """Makes a table such a one. name: for those who hear it; stretched: the column that takes the room there is."""
    table.setColumnCount(len(columns))
    table.setAccessibleName(name)
    table.setHorizontalHeaderLabels(list(columns))
    table.verticalHeader().hide()
    table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setShowGrid(False)
    table.setTabKeyNavigation(False)  # Tab leads on to what is beside it
    table.setFont(font(points))
    header = table.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(stretched, QHeaderView.ResizeMode.Stretch)


@contextmanager
def filling(table: QTableWidget) -> Iterator[None]:
    """While a table is filled it tells nothing and measures nothing: else every cell would measure all the others."""
    header = table.horizontalHeader()
    modes = [header.sectionResizeMode(column) for column in range(table.columnCount())]
    blocked = table.blockSignals(True)
    header.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
    try:
        yield
    finally:
        for column, mode in enumerate(modes):
            header.setSectionResizeMode(column, mode)
        table.blockSignals(blocked)
