"""The figure at the playhead, seen from any side; drag it round like a potter's wheel."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QAccessible, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from waltzmark.core.base.angles import normal
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.seen import seen_of
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.bearings import draw_told
from waltzmark.desktop.painter.figure import Looking
from waltzmark.desktop.painter.seen import SEEN_FROM, draw_seen, looking_at
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.parts import choice_box, quiet
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr
from waltzmark.words.seen import seen_sentence

__all__ = ["FigurePane", "FigureView"]


_HAND = tr("Turned by hand")
_DEGREES = 0.6  # that the figure turns for a pixel


@guarded
class FigureView(QWidget):
    """Draws the body at the playhead over its feet on the floor, which turn along."""

    role = QAccessible.Role.Graphic

    turned = Signal()  # by a hand

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._theme = document, theme
        self.seen, self.by_hand, self.lines = "behind", 0.0, True
        self.moment: Callable[[], tuple[int, float]] | None = None  # row and part of its count, else the playhead's
        self.walk: Callable[[], Trace] | None = None  # what is walked, else the document's form
        self._known: tuple[Trace, Figures] | None = None
        self._pressed: QPointF | None = None
        self.setMinimumSize(190, 220)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName(tr("Figure"))
        self.setAccessibleDescription(tr("The body at the playhead; drag or use the arrow keys to turn it"))
        self._telling = Telling(self, self.sentence, document.session.row_changed, document.form_changed, self.turned)
        for signal in (document.session.moved, document.session.figures_changed, document.form_changed):
            signal.connect(safely(self.update))
        document.judge.judged.connect(safely(self.update))

    def sizeHint(self) -> QSize:
        return QSize(300, 420)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def set_seen(self, name: str) -> None:
        """Looks at it from another side."""
        self.seen, self.by_hand = name, 0.0
        self._telling.say()
        self.update()

    def set_lines(self, shown: bool) -> None:
        """Whether plumb line, support, knees over toes and the upright are drawn with it."""
        self.lines = shown
        self.update()

    def turn(self, degrees: float) -> None:
        """Turns the figure, as a hand turns a wheel."""
        self.by_hand = normal(self.by_hand + degrees)
        self.turned.emit()
        self.update()

    # What is shown.

    @property
    def trace(self) -> Trace:
        """The walk that is shown."""
        return self._document.trace if self.walk is None else self.walk()

    @property
    def figures(self) -> Figures:
        """The figures of the walk."""
        trace = self.trace
        if self._known is None or self._known[0] is not trace:
            self._known = trace, Figures(trace)
        return self._known[1]

    def looking(self) -> Looking:
        """Where it is looked at from."""
        trace = self.trace
        row, t = self._when()
        pose = pose_between(trace, row, t)
        return looking_at(trace, row, t, pose, self.seen, QRectF(self.rect()), self.by_hand)

    def sentence(self) -> str:
        """What is seen of the figure from the side that was chosen; nothing on the way through a count."""
        row, t = self._when()
        if t < 1.0 or self.by_hand:
            return ""
        walked, trace = self.figures, self.trace
        before = walked.at(row - 1, 1.0) if row else None
        seen = seen_of(walked.at(row, 1.0), trace.pose(row), before)
        return seen_sentence(seen, self.seen, self._document.session.say)

    def _when(self) -> tuple[int, float]:
        """The row that is shown, and the part of its count."""
        if self.moment is not None:
            return self.moment()
        session = self._document.session
        return session.row, session.part

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.paint(painter)

    def paint(self, painter: QPainter) -> None:
        """Draws one frame."""
        document, theme, box, trace = self._document, self._theme, QRectF(self.rect()), self.trace
        row, t = self._when()
        figure, pose = self.figures.at(row, t), pose_between(trace, row, t)
        looking = draw_seen(painter, self.looking(), trace, figure, pose, box, self.lines, theme)
        if t >= 1.0 and self.moment is None:
            here = [each for each in document.judge.everywhere if each.row == row]
            draw_told(painter, looking, figure, here, document.session.say, theme, box)

    # Hands.

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None:
            moved = event.position().x() - self._pressed.x()
            self._pressed = event.position()
            if moved:
                self.turn(_DEGREES * moved * (-1.0 if SEEN_FROM[self.seen].flip else 1.0))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._pressed = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Left: -15.0, Qt.Key.Key_Right: 15.0}
        if event.key() in ways:
            self.turn(ways[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)


@guarded
class FigurePane(QWidget):
    """The figure with the choice of where it is seen from, and of what is drawn with it."""

    chosen = Signal(str)  # where it is seen from

    def __init__(self, document: Document, theme: Theme, seen: str = "behind", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.view = FigureView(document, theme)
        self._names = list(SEEN_FROM)
        self.sides = choice_box(tr("Seen from"), [each.words for each in SEEN_FROM.values()], self._choose, narrow=True)
        self.lines = QCheckBox(tr("Lines"))
        self.lines.setToolTip(tr("Plumb line and support, knees over toes, the trunk against upright"))
        self.lines.setChecked(True)
        self.lines.toggled.connect(safely(self.view.set_lines))
        self.view.turned.connect(safely(self._say_turned))
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        bar.setSpacing(10)
        self.sides.setMaximumWidth(320)
        bar.addWidget(self.sides, 1)
        bar.addStretch(0)
        bar.addWidget(self.lines)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(self.view, 1)
        self.said = wrapped(points=9.5)
        self.said.setObjectName("faint")
        self.said.setContentsMargins(10, 4, 10, 6)
        self.said.setMinimumHeight(52)
        self.said.setAccessibleName(tr("What is seen"))
        column.addWidget(self.said)
        for signal in (document.session.moved, document.session.figures_changed, document.form_changed):
            signal.connect(safely(self.say))
        self.set_seen(seen if seen in SEEN_FROM else "behind")

    def set_theme(self, theme: Theme) -> None:
        self.view.set_theme(theme)

    def set_seen(self, name: str) -> None:
        """Looks at it from a side by name."""
        self.sides.setCurrentIndex(self._names.index(name))
        self._choose(self._names.index(name))

    def say(self) -> None:
        """Says what is seen from here, at the end of a count."""
        if self.isVisible() and (words := self.view.sentence()):
            self.said.setText(words)

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.say()

    def _choose(self, number: int) -> None:
        if number >= len(self._names):
            return
        with quiet(self.sides):
            if self.sides.count() > len(self._names):
                self.sides.removeItem(len(self._names))
        self.view.set_seen(self._names[number])
        self.say()
        self.chosen.emit(self._names[number])

    def _say_turned(self) -> None:
        """A hand has turned it away from the side that was chosen."""
        with quiet(self.sides):
            if self.sides.count() == len(self._names):
                self.sides.addItem(_HAND)
            self.sides.setCurrentIndex(len(self._names))
