"""One of the people whom a form can be fitted to: added in a line, measured in a dialog."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDialog, QGridLayout, QLineEdit, QVBoxLayout, QWidget

from waltzmark.core.base.records import replace
from waltzmark.core.body.body import RANGES, Body
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.ready.measures import MeasuresPanel
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.words.language import N_, tr

__all__ = ["NewPerson", "PersonDialog", "free_name"]

#: Ranges, where it is said that they are.
_RANGES = {"supple": N_("supple"), "ordinary": N_("ordinary"), "stiff": N_("stiff")}
_SHORTEST, _TALLEST = 0.5, 2.8  # metres


def free_name(wanted: str, taken: list[str]) -> str:
    """A name that nobody has yet."""
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted} {number}", number + 1
    return name


class NewPerson(QWidget):
    """Name, stature, ranges and a side to protect, in one line each; Enter adds, and the next name can be typed."""

    added = Signal(Body)

    def __init__(self, document: Document, asking: Asking) -> None:
        super().__init__()
        self._asking = asking
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Name"))
        self.name.setPlaceholderText(tr("Name"))
        self.stature = LengthField(document, tr("Stature"), 74)
        self.stature.show_length(1.70)
        self.stature.changed.connect(safely(self._bounded))
        self.ranges = choice_box(tr("Ranges"), [tr(_RANGES[name]) for name in RANGES], narrow=True)
        self.ranges.setCurrentIndex(list(RANGES).index("ordinary"))
        self.spare = choice_box(tr("Side to protect"), [tr("neither"), tr("left"), tr("right")], narrow=True)
        self.spare.setMinimumContentsLength(8)
        self.add = push_button(tr("Add"), self._add, tr("Adds this person to the form  (Enter)"))
        self.name.returnPressed.connect(safely(self._add))
        self.stature.returnPressed.connect(safely(self._add))
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(2)
        for number, (words, field, wide) in enumerate(
            (
                (tr("Name"), self.name, 2),
                (tr("Stature"), self.stature, 1),
                (tr("Ranges"), self.ranges, 2),
                (tr("Side to protect"), self.spare, 1),
            )
        ):
            row, column = 2 * (number // 2), 2 * (number % 2)
            grid.addWidget(faint(words, 9.0), row, column, 1, wide)
            grid.addWidget(field, row + 1, column, 1, wide)
        grid.addWidget(self.add, 3, 3)
        grid.setColumnStretch(0, 2)
        grid.setColumnStretch(2, 2)

    def _bounded(self, metres: float) -> None:
        self.stature.show_length(min(max(metres, _SHORTEST), _TALLEST))

    def _add(self) -> None:
        if not (name := self.name.text().strip()):
            self.name.setFocus()
            return
        ranges = RANGES[list(RANGES)[max(self.ranges.currentIndex(), 0)]]
        side = ("", "left", "right")[max(self.spare.currentIndex(), 0)]
        body = replace(Body(self.stature.metres), name=name, spare=side, **ranges)  # type: ignore[arg-type]
        self.name.clear()
        self.spare.setCurrentIndex(0)
        self.ranges.setCurrentIndex(list(RANGES).index("ordinary"))
        self.name.setFocus()
        self.added.emit(body)


@guarded
class PersonMeasures(MeasuresPanel):
    """The fields of the body of one of the people."""

    def __init__(
        self, document: Document, editor: Editor, asking: Asking, get: Callable[[], Body], put: Callable[[Body], None]
    ) -> None:
        self._get, self._put = get, put
        super().__init__(document, editor, asking)

    @property
    def body(self) -> Body:
        return self._get()

    def put(self, body: Body, words: str) -> None:
        self._put(body)
        self.refresh()


class PersonDialog(QDialog):
    """The measures of one of the people; what is changed holds at once."""

    def __init__(
        self,
        document: Document,
        editor: Editor,
        asking: Asking,
        get: Callable[[], Body],
        put: Callable[[Body], None],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("The measures of {name}", name=get().name))
        self.name = QLineEdit(get().name)
        self.name.setAccessibleName(tr("Name"))
        self.name.editingFinished.connect(safely(self._rename))
        self._get, self._put = get, put
        self.measures = PersonMeasures(document, editor, asking, get, put)
        column = QVBoxLayout(self)
        column.addWidget(Label(tr("Name")))
        column.addWidget(self.name)
        column.addWidget(self.measures, 1)
        done = push_button(tr("Done"), self.accept)
        set_tip(done, tr("Goes back to the people"))
        column.addWidget(done)
        self.finished.connect(safely(lambda _result: self.measures.let_go()))
        self.resize(430, min(720, parent.window().height() - 60))

    def _rename(self) -> None:
        name = self.name.text().strip()
        if name and name != self._get().name:
            self._put(replace(self._get(), name=name))
