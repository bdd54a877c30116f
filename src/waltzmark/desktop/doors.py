"""The first thing that is seen when nothing was asked for: four doors, and the forms that were open lately."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.form import Opening
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import tr

__all__ = ["Doors"]

_MOST = 5  # recent forms
_SIZE = QSize(224, 206)  # pixels of a door


@guarded
class _Door(QPushButton):
    def __init__(self, key: int, title: str, words: str, draw: Callable[[QPainter, Theme], None], theme: Theme) -> None:
        super().__init__()
        self._draw, self.theme = draw, theme
        self.setObjectName("answer")
        self.setAccessibleName(f"{title}. {words}")
        self.setFixedSize(_SIZE)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        set_tip(self, f"{title}  ({key})")
        heading, said = Label(title), Label(words)
        heading.setFont(font(14.0, bold=True))
        said.setWordWrap(True)
        said.setObjectName("faint")
        said.setFont(font(10.5))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 14, 14)
        column.setSpacing(8)
        for part in (heading, said):
            part.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            column.addWidget(part)
        column.addStretch(1)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.translate(0.0, self.height() - 66.0)
            self._draw(painter, self.theme)


def _walked(painter: QPainter, theme: Theme) -> None:
    """Six steps across the card, the last one with all the weight."""
    sole = Body().sole
    for number in range(6):
        side = Side(number % 2)
        floor = QTransform().translate(28.0 + 34.0 * number, 40.0 if side else 16.0).rotate(90.0).scale(105.0, -105.0)
        share = 1.0 if number == 5 else 0.15 * number
        draw_sole(painter, floor, sole, side, FootPose(0.0, -0.12, 0.0, Contact.FLAT), share, theme, letter=False)


def _opened(painter: QPainter, theme: Theme) -> None:
    """The opening stance, by which a form begins."""
    body, pose = Body(), Opening("vee").pose(Body())
    floor = QTransform().translate(112.0, 26.0).scale(150.0, -150.0)
    for side in SIDES:
        draw_sole(painter, floor, body.sole, side, pose.foot(side), pose.share(side), theme, letter=False)


def _written(painter: QPainter, theme: Theme) -> None:
    """Written lines, each with its beam of weight."""
    for number in range(3):
        y = 8.0 + 18.0 * number
        painter.setPen(QPen(theme.color("rule"), 3.0))
        painter.drawLine(QPointF(70.0, y), QPointF(192.0 - 26.0 * number, y))
        painter.setPen(QPen(theme.color("torso"), 2.0))
        painter.drawLine(QPointF(34.0, y + 4.0 - 4.0 * number), QPointF(58.0, y - 4.0 + 4.0 * number))


def _spoken(painter: QPainter, theme: Theme) -> None:
    """Words, and the foot that some of them come to."""
    for number, (start, stop) in enumerate(((26.0, 108.0), (26.0, 84.0))):
        painter.setPen(QPen(theme.color("rule"), 3.0))
        painter.drawLine(QPointF(start, 8.0 + 18.0 * number), QPointF(stop, 8.0 + 18.0 * number))
    painter.setPen(QPen(theme.color("centre"), 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    line = QPainterPath(QPointF(26.0, 34.0))
    line.lineTo(84.0, 34.0)
    line.cubicTo(120.0, 34.0, 112.0, 20.0, 146.0, 20.0)
    painter.drawPath(line)
    floor = QTransform().translate(172.0, 20.0).rotate(60.0).scale(120.0, -120.0)
    draw_sole(
        painter, floor, Body().sole, Side.RIGHT, FootPose(0.0, -0.12, 0.0, Contact.FLAT), 0.7, theme, letter=False
    )


_DOORS = (
    (
        "demo",
        tr("Try the demo"),
        tr("A made-up form of nineteen postures in a made-up room, with three mistakes to find."),
        _walked,
    ),
    (
        "begin",
        tr("Start a form"),
        tr("An empty floor. We can write your first form together, step by step, in about three minutes."),
        _opened,
    ),
    (
        "words",
        tr("Start from words"),
        tr("A page or a talk that says how the form goes. Each sentence becomes counts for you to check."),
        _spoken,
    ),
    ("open", tr("Open a form"), tr("One of your .waltz files, or one that somebody gave you."), _written),
)


@guarded
class Doors(QWidget):
    """chosen: the name of the door that was pressed, demo, begin, words or open; opened: a recent form."""

    chosen = Signal(str)
    opened = Signal(object)

    def __init__(self, recent: Sequence[Path], theme: Theme) -> None:
        super().__init__()
        whole = QVBoxLayout(self)
        whole.setSpacing(10)
        whole.addStretch(3)
        title = Label(tr("A form, on your own floor"))
        title.setFont(font(20.0, bold=True))
        words = faint(
            tr("Write down each step. See whether it fits the room, returns to its start, and mirrors on both sides."),
            11.5,
        )
        for part in (title, words):
            whole.addWidget(part, 0, Qt.AlignmentFlag.AlignHCenter)
        whole.addSpacing(16)
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addStretch(1)
        self.doors = {
            name: _Door(key, title, said, draw, theme) for key, (name, title, said, draw) in enumerate(_DOORS, 1)
        }
        for name, door in self.doors.items():
            door.clicked.connect(safely(lambda _checked=False, name=name: self.chosen.emit(name)))
            row.addWidget(door)
        row.addStretch(1)
        whole.addLayout(row)
        whole.addSpacing(12)
        if recent:
            lately = faint(tr("Recent forms"))
            whole.addWidget(lately, 0, Qt.AlignmentFlag.AlignHCenter)
        for path in recent[:_MOST]:
            whole.addWidget(self._recent(path), 0, Qt.AlignmentFlag.AlignHCenter)
        hint = faint(tr("Press 1 to 4 or Enter to choose; Escape opens an empty form. F1 opens the help."), 9.5)
        whole.addSpacing(12)
        whole.addWidget(hint, 0, Qt.AlignmentFlag.AlignHCenter)
        whole.addStretch(4)
        self.setFocusProxy(next(iter(self.doors.values())))

    def _recent(self, path: Path) -> QPushButton:
        button = QPushButton(path.stem.replace("&", "&&"))
        button.setObjectName("onward")
        button.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        set_tip(button, str(path))
        button.clicked.connect(safely(lambda: self.opened.emit(path)))
        return button

    def set_theme(self, theme: Theme) -> None:
        """Draws the doors in a theme."""
        for door in self.doors.values():
            door.theme = theme
            door.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        names, focused = list(self.doors), self.focusWidget()
        key = event.text()
        step: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Right: self.focusNextChild,
            Qt.Key.Key_Down: self.focusNextChild,
            Qt.Key.Key_Left: self.focusPreviousChild,
            Qt.Key.Key_Up: self.focusPreviousChild,
        }
        if key in ("1", "2", "3", "4"):
            self.chosen.emit(names[int(key) - 1])
        elif event.key() == Qt.Key.Key_Escape:
            self.chosen.emit("")
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and isinstance(focused, QPushButton):
            focused.click()
        elif event.key() in step:
            step[event.key()]()
        else:
            super().keyPressEvent(event)
