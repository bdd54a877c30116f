"""The line in which a phrase is taught: its words, and the counts it means of one foot."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.draft.taught import Taught
from waltzmark.core.score import actions as act
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.desktop.document import Document
from waltzmark.desktop.drafting.workbench import Workbench
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import set_tip, wrapped
from waltzmark.desktop.widgets.parts import push_button, row_of
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["TeachLine", "foot_of"]


def foot_of(counts: tuple[Count, ...]) -> Side:
    """The foot that counts are about: the one that steps, turns, comes down or is lifted first; else the other one of
    that which takes the weight."""
    for count in counts:
        for action in count.actions:
            if isinstance(action, (act.Step, act.Pivot, act.Land, act.Lift, act.Kick)):
                return action.side
    shifts = (a.side for count in counts for a in count.actions if isinstance(a, act.Shift) and a.side is not None)
    return next(shifts, Side.RIGHT)


@guarded
class TeachLine(QWidget):
    """Asks what marked words mean, as counts with semicolons between them."""

    def __init__(self, bench: Workbench, document: Document) -> None:
        super().__init__()
        self._bench, self._document = bench, document
        self._words = ""
        self.said = wrapped(points=10.0)
        self.counts = QLineEdit()
        self.counts.setAccessibleName(tr("What the words mean"))
        self.counts.setPlaceholderText(tr("counts, for example: step L 10:30 bow heel; shift L 70"))
        set_tip(self.counts, tr("Enter keeps it; it is mirrored for the other foot, and turned to where you face"))
        self.counts.returnPressed.connect(safely(self.keep))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(5)
        column.addWidget(self.said)
        button = push_button(tr("Teach it"), self.keep, tr("Keeps what these words mean, for every form"))
        column.addLayout(row_of(self.counts, button, wide=self.counts))

    def begin(self, words: str) -> None:
        """Asks for some words; what they are drafted as is offered."""
        self._words = words
        row = self._bench.row
        made = None if row is None else row.made
        self.counts.setText("" if made is None else write_count(made.count))
        self.said.setText(tr("“{words}” means, of the foot it is said of:", words=words))
        self.show()
        self.counts.selectAll()
        self.counts.setFocus()

    def keep(self) -> None:
        """Keeps what was said; tells why where it cannot."""
        texts = [text for text in self.counts.text().split(";") if text.strip()]
        try:
            counts = tuple(read_count(text, self._document.form.school.stance_names) for text in texts)
            if not counts:
                return
            self._bench.teach(Taught(self._words, counts, self._bench.language, foot_of(counts), self._facing()))
        except WaltzmarkError as error:
            self.said.setText(explained(error))
            return
        self.hide()

    def _facing(self) -> float:
        """Where the body faces before the row under the hand."""
        found = self._bench.found
        if found is None or not found.walked:
            return 0.0
        return float(found.trace.torso[max(found.walked[min(self._bench.hand, len(found.walked) - 1)] - 1, 0)])
