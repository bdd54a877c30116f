"""A line at the top of the window for what the user should know but need not answer, told once each."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.words.language import tr

__all__ = ["NoticeBar"]


class NoticeBar(QFrame):
    """Shows one notice after the other, each until it is put away."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("notice")
        self._waiting: list[tuple[str, str, Callable[[], object] | None]] = []
        self.words = wrapped(points=10)
        self.act = QPushButton()
        self.act.clicked.connect(safely(self._do))
        self.done = push_button(tr("Dismiss"), self._next, tr("Dismiss this notice"))
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 10, 6)
        row.addWidget(self.words, 1)
        row.addWidget(self.act)
        row.addWidget(self.done)
        self.hide()

    @property
    def told(self) -> list[str]:
        """The words of what is shown and of what waits."""
        return [words for words, _, _ in self._waiting]

    def tell(self, words: str, label: str = "", act: Callable[[], object] | None = None) -> None:
        """Tells something, with a button that does something about it; what is told already is not told again."""
        if words not in self.told:
            self._waiting.append((words, label, act))
            self._show()

    def _show(self) -> None:
        self.setVisible(bool(self._waiting))
        if self._waiting:
            words, label, act = self._waiting[0]
            self.words.setText(words)
            self.setAccessibleName(words)
            self.act.setVisible(act is not None)
            self.act.setText(label)

    def _next(self) -> None:
        del self._waiting[:1]
        self._show()

    def _do(self) -> None:
        act = self._waiting[0][2] if self._waiting else None
        self._next()
        if act is not None:
            act()
