"""What is practised, to be read from three metres: the floor, this count and the next in words, weight, facing."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import QAccessible, QBrush, QKeyEvent, QKeySequence, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QPushButton, QWidget

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.walk.motion import centre_of
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.scene import Scene, draw_scene
from waltzmark.desktop.plain import key_words
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.cues import short
from waltzmark.words.language import percent, tr

__all__ = ["Banner", "LargeView", "seconds_words"]

_WORDS = 0.46  # of the width is for words
_ACROSS = 2.1  # metres of floor that are shown at least


class Banner(Record):
    """What is said instead of a count: a large word, a line above and one below it."""

    large: str
    above: str = ""
    below: str = ""


@guarded
class LargeView(QWidget):
    """The floor at the left, the words at the right. A key or a click is told, so that hands can stay free."""

    role = QAccessible.Role.Graphic

    pressed = Signal(object)  # a key, None for the mouse

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.banner: Banner | None = None
        self.buttons: list[QPushButton] = []
        self.view, self.turned = "above", 0.0
        self.across = _ACROSS
        self.words_part, self.floor_part = _WORDS, 1.0  # of the width for words; of the rest for the floor
        self.leads: Callable[[], bool] = lambda: False  # whether keys are its own; the stage sets it
        self.setAccessibleName(tr("The practice view"))
        self._telling = Telling(self, self._told, document.session.row_changed, document.form_changed)
        self.setMinimumSize(320, 240)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        for signal in (document.session.moved, document.session.figures_changed, document.form_changed):
            signal.connect(safely(self.update))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def set_view(self, view: str) -> None:
        """Watches the floor from elsewhere."""
        self.view = view
        self.update()

    def set_turned(self, degrees: float) -> None:
        """Lets the walk begin turned clockwise in the room by so many degrees."""
        self.turned = degrees
        self.update()

    def say(self, banner: Banner | None) -> None:
        """Says something large instead of the count; None says the count again."""
        self.banner = banner
        self._telling.say()
        self.update()

    def offer(self, acts: Sequence[tuple[str, Qt.Key]]) -> None:
        """Shows buttons for who has a mouse in the hand: what each does, and the key that does the same."""
        for button in self.buttons:
            button.deleteLater()
        self.buttons = []
        for words, key in acts:
            name = {Qt.Key.Key_Escape: "Esc"}.get(key, key_words(QKeySequence(key)))
            button = QPushButton(f"{words} ({name})", self)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the keys stay with the view
            button.clicked.connect(safely(lambda _checked=False, key=key: self.pressed.emit(key)))
            button.show()
            self.buttons.append(button)
        self._place()

    def _place(self) -> None:
        """The buttons stand in a row at the foot of the words."""
        x, y = round(self.width() * (1.0 - _WORDS) + 0.03 * self.width()), self.height() - 44
        for button in self.buttons:
            size = button.sizeHint()
            if x + size.width() > self.width() - 8 and button is not self.buttons[0]:
                x, y = round(self.width() * (1.0 - _WORDS) + 0.03 * self.width()), y - size.height() - 6
            button.setGeometry(x, y, size.width(), size.height())
            x += size.width() + 8

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place()

    def _told(self) -> str:
        """What is shown, for who hears it."""
        if self.banner is not None:
            return ". ".join(filter(None, (self.banner.above, self.banner.large, self.banner.below)))
        return self._document.told()

    def lines(self) -> tuple[tuple[str, ...], tuple[str, ...], str]:
        """What this count does, what the next does, and which posture and count it is."""
        document = self._document
        trace, row = document.trace, document.session.row
        say = document.session.say
        posture = trace.posture(row)
        title = "" if posture is None else document.form.posture(posture).title
        facing = tr("faces {toward}", toward=say.toward(float(trace.torso[row])))
        place = (
            tr("{title}  ·  count {count}  ·  {facing}", title=title, count=int(trace.counts[row]), facing=facing)
            if posture
            else tr("as it begins  ·  {facing}", facing=facing)
        )
        after = short(trace, row + 1, say) if row + 1 < len(trace) else (tr("the end"),)
        return short(trace, row, say), after, place

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme, wide, high = self._theme, float(self.width()), float(self.height())
            split = wide * (1.0 - self.words_part)
            if self.floor_part > 0.0:
                self._floor(painter, QRectF(0.0, 0.0, split * self.floor_part, high))
            painter.setClipping(False)
            box = QRectF(split, 0.0, wide - split, high)
            painter.fillRect(box, theme.color("paper"))
            inside = box.adjusted(0.03 * wide, 0.03 * high, -0.02 * wide, -0.03 * high)
            if self.buttons:  # the words end above them
                inside.setBottom(min(each.y() for each in self.buttons) - 8.0)
            if self.banner is not None:
                self._say(painter, inside, self.banner)
            else:
                self._count(painter, inside)

    def _floor(self, painter: QPainter, pane: QRectF) -> None:
        document, theme = self._document, self._theme
        trace = document.trace
        x, y = centre_of(document.session.pose, trace.body)
        room = document.session.room
        up = (-room.start.heading if room is not None else 0.0) - self.turned
        scale = min(pane.width(), pane.height()) / self.across
        camera = replace(Camera().watched(self.view, up, -self.turned), x=x, y=y, scale=scale)
        floor = camera.transform(QSizeF(pane.size()))
        painter.setClipRect(pane)
        if room is not None and self.turned:
            room = replace(room, start=replace(room.start, heading=(room.start.heading + self.turned) % 360.0))
        draw_ground(painter, pane, floor, room, theme)
        painter.setClipRect(pane)
        row, part = document.session.row, document.session.part
        draw_scene(painter, floor, Scene(trace, row, part, document.session.pose, say=document.session.say), theme)

    def _count(self, painter: QPainter, box: QRectF) -> None:
        theme = self._theme
        now, after, place = self.lines()
        unit = box.height() / 100.0
        self._line(painter, QRectF(box.left(), box.top(), box.width(), 8 * unit), place, 4.6 * unit, "faint")
        top = box.top() + 10 * unit
        size = min(9.0, 42.0 / max(len(now), 4)) * unit
        for words in now:
            self._line(painter, QRectF(box.left(), top, box.width(), 1.3 * size), words, size, "ink", bold=True)
            top += 1.3 * size
        self._weight(painter, QRectF(box.left(), box.top() + 66 * unit, box.width(), 10 * unit))
        self._line(
            painter, QRectF(box.left(), box.top() + 82 * unit, box.width(), 5 * unit), tr("then"), 3.4 * unit, "faint"
        )
        below = box.top() + 87 * unit
        self._line(
            painter, QRectF(box.left(), below, box.width(), 13 * unit), ", ".join(after), 4.2 * unit, "ink", wrap=True
        )
        painter.setPen(theme.color("rule"))

    def _weight(self, painter: QPainter, box: QRectF) -> None:
        """How the weight lies: a bar in the colours of the feet, the left one hatched, with both figures."""
        theme, pose = self._theme, self._document.session.pose
        split = box.left() + box.width() * pose.left_share
        for side, bar in (
            (Side.LEFT, QRectF(box.left(), box.top(), split - box.left(), box.height())),
            (Side.RIGHT, QRectF(split, box.top(), box.right() - split, box.height())),
        ):
            if bar.width() < 0.5:
                continue
            painter.fillRect(bar, theme.foot(side))
            if side is Side.LEFT:
                painter.fillRect(bar, QBrush(theme.foot_pale(side), Qt.BrushStyle.BDiagPattern))
            share = 100.0 * pose.share(side)
            words = f"{side.letter} {percent(share)}"
            painter.setFont(font(0.52 * box.height() * 0.75, bold=True))
            if painter.fontMetrics().horizontalAdvance(words) + 16 >= bar.width():  # too narrow: below it
                painter.setPen(theme.foot(side))
                under = QRectF(box.left(), box.bottom(), box.width(), 0.56 * box.height())
                end = Qt.AlignmentFlag.AlignLeft if side is Side.LEFT else Qt.AlignmentFlag.AlignRight
                painter.drawText(under, end | Qt.AlignmentFlag.AlignVCenter, words)
            else:
                card = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(words) + 12, 0.86 * box.height())
                card.moveCenter(bar.center())
                painter.fillRect(card, theme.foot(side))
                painter.setPen(theme.color("paper"))
                painter.drawText(card, Qt.AlignmentFlag.AlignCenter, words)

    def _say(self, painter: QPainter, box: QRectF, banner: Banner) -> None:
        unit = box.height() / 100.0
        self._line(
            painter,
            QRectF(box.left(), box.top() + 8 * unit, box.width(), 18 * unit),
            banner.above,
            5.5 * unit,
            "ink",
            wrap=True,
        )
        if len(banner.large) < 4:
            size = 30.0
        elif len(banner.large) < 12:
            size = 15.0
        else:
            size = 9.0
        self._line(
            painter,
            QRectF(box.left(), box.top() + 28 * unit, box.width(), 40 * unit),
            banner.large,
            size * unit,
            "ink",
            bold=True,
            wrap=True,
        )
        self._line(
            painter,
            QRectF(box.left(), box.top() + 70 * unit, box.width(), 28 * unit),
            banner.below,
            4.4 * unit,
            "faint",
            wrap=True,
        )

    def _line(
        self,
        painter: QPainter,
        box: QRectF,
        words: str,
        pixels: float,
        role: str,
        bold: bool = False,
        wrap: bool = False,
    ) -> None:
        """A line of so many pixels, smaller where it would be cut off."""
        flags = Qt.AlignmentFlag.AlignLeft | (Qt.AlignmentFlag.AlignTop if wrap else Qt.AlignmentFlag.AlignVCenter)
        painter.setPen(self._theme.color(role))
        fitting = int(flags) | (int(Qt.TextFlag.TextWordWrap) if wrap else 0)
        size = pixels * 0.75  # points, at the usual 96 dots an inch
        while size > 8.0:
            painter.setFont(font(size, bold=bold))
            told = painter.boundingRect(box, fitting, words)
            if told.width() <= box.width() + 1 and (not wrap or told.height() <= box.height() + 1):
                break
            size *= 0.93
        painter.drawText(box, fitting, words)

    # Hands that stay free.

    def event(self, event: QEvent) -> bool:
        # While it leads, keys that do something else in the window, as those of a presenter's clicker, come here.
        if event.type() == QEvent.Type.ShortcutOverride and self.leads():
            assert isinstance(event, QKeyEvent)
            if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if (
            event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
            or event.modifiers() & Qt.KeyboardModifier.ControlModifier
        ):
            super().keyPressEvent(event)
        else:
            self.pressed.emit(event.key())

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.setFocus()
        self.pressed.emit(None)


def seconds_words(seconds: float) -> str:
    """Seconds that are left, as they are counted."""
    return f"{max(math.ceil(seconds - 1e-9), 0)}"
