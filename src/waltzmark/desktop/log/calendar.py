"""The calendar of practice: a field a day, fuller with its minutes; and left against right."""

from __future__ import annotations

from datetime import date, timedelta

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QBrush, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.practice.advice import OfSide, left_right
from waltzmark.core.practice.entries import Entry
from waltzmark.desktop.guard import guarded
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words import named
from waltzmark.words.language import month as month_name
from waltzmark.words.language import ntr, number, tr, weekday

__all__ = ["CalendarView"]

_WEEKS = 14
_FULL = 45.0  # minutes that make a field as dark as it gets
_WAYS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -7, Qt.Key.Key_Down: 7}


@guarded
class CalendarView(QWidget):
    """The last weeks, a row each from Monday on, as on a wall. A click or the arrow keys choose a day."""

    role = QAccessible.Role.Chart

    chosen = Signal(str)  # the day, YYYY-MM-DD

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.days: dict[str, tuple[float, int]] = {}
        self.day, self.today = date.today(), date.today()
        self._sides: dict[str, OfSide] = {}
        self.setAccessibleName(tr("Practice calendar"))
        self._telling = Telling(self, self.told)
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def show_days(self, days: dict[str, tuple[float, int]], entries: tuple[Entry, ...], today: date) -> None:
        """Shows minutes and repetitions by day, and what each side did."""
        self.days, self.today = days, today
        self._sides = {str(side): told for side, told in left_right(entries).items()}
        self._telling.say()
        self.update()

    def _first(self) -> date:
        monday = self.today - timedelta(days=self.today.weekday())
        return monday - timedelta(weeks=_WEEKS - 1)

    def _field(self, day: date) -> QRectF:
        nth = (day - self._first()).days
        wide, high = min((self.width() - 120.0) / 7.0, 108.0), min((self.height() - 190.0) / _WEEKS, 46.0)
        return QRectF(86.0 + nth % 7 * wide, 58.0 + nth // 7 * high, wide - 4.0, high - 4.0)

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme = self._theme
            painter.fillRect(self.rect(), theme.color("paper"))
            painter.setFont(font(9.5))
            first = self._first()
            for n, name in enumerate((tr("Mon"), tr("Tue"), tr("Wed"), tr("Thu"), tr("Fri"), tr("Sat"), tr("Sun"))):
                box = self._field(first + timedelta(days=n))
                painter.setPen(theme.color("faint"))
                painter.drawText(QRectF(box.left(), 36.0, box.width(), 18.0), Qt.AlignmentFlag.AlignCenter, name)
            for nth in range(7 * _WEEKS):
                day = first + timedelta(days=nth)
                box = self._field(day)
                if day.weekday() == 0 and (nth == 0 or day.day <= 7):
                    painter.setPen(theme.color("faint"))
                    month = QRectF(20.0, box.top(), 60.0, box.height())
                    painter.drawText(month, Qt.AlignmentFlag.AlignVCenter, month_name(day))
                if day > self.today:
                    continue
                minutes, _ = self.days.get(day.isoformat(), (0.0, 0))
                painter.setPen(QPen(theme.color("rule"), 1.0))
                painter.setBrush(theme.color("raised"))
                painter.drawRoundedRect(box, 4, 4)
                if minutes > 0:
                    # How full a field is tells it too, not its darkness alone.
                    part = min(minutes / _FULL, 1.0)
                    painter.setPen(Qt.PenStyle.NoPen)
                    painter.setBrush(theme.color("centre", 0.35 + 0.55 * part))
                    high = max(part, 0.15) * box.height()
                    painter.drawRoundedRect(QRectF(box.left(), box.bottom() - high, box.width(), high), 3, 3)
                painter.setPen(theme.color("faint"))
                painter.setFont(font(8.5))
                corner = box.adjusted(5.0, 1.0, -5.0, 0.0)
                painter.drawText(corner, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, str(day.day))
                if minutes > 0:
                    painter.setPen(theme.color("ink"))
                    painter.drawText(
                        corner,
                        Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop,
                        tr("{minutes} min", minutes=number(minutes, 0)),
                    )
                if day == self.day:
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    painter.setPen(QPen(theme.color("ink"), 2.4))
                    painter.drawRoundedRect(box, 4, 4)
            self._day_words(painter)
            self._left_right(painter)

    def told(self) -> str:
        """What was done on the chosen day."""
        minutes, reps = self.days.get(self.day.isoformat(), (0.0, 0))
        said = tr("nothing")
        if reps:
            done = ntr("{n} repetition", "{n} repetitions", reps)
            said = tr("{minutes} min, {repetitions}", minutes=number(minutes, 0), repetitions=done)
        return tr("{day}: {said}", day=weekday(self.day), said=said)

    def _day_words(self, painter: QPainter) -> None:
        painter.setPen(self._theme.color("ink"))
        painter.setFont(font(12.0, bold=True))
        painter.drawText(QRectF(20.0, 8.0, self.width() - 40.0, 24.0), Qt.AlignmentFlag.AlignVCenter, self.told())

    def _left_right(self, painter: QPainter) -> None:
        """Repetitions of either side, with what was missed in them."""
        theme, base = self._theme, self.height() - 112.0
        most = max((each.reps for each in self._sides.values()), default=0)
        painter.setFont(font(10.5, bold=True))
        painter.setPen(theme.color("ink"))
        painter.drawText(QPointF(20.0, base), tr("Left against right"))
        wide = self.width() - 430.0
        for side in SIDES:
            done = self._sides.get(side.word, OfSide())
            top = base + 14.0 + 36.0 * side
            bar = QRectF(86.0, top, wide * done.reps / most if most else 0.0, 22.0)
            painter.setPen(QPen(theme.foot(side), 1.2))
            painter.setBrush(theme.foot(side))
            painter.drawRect(bar)
            if side is Side.LEFT:
                painter.setBrush(QBrush(theme.foot_pale(side), Qt.BrushStyle.BDiagPattern))
                painter.drawRect(bar)
            painter.setFont(font(10.0))
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(20.0, top, 60.0, 22.0), Qt.AlignmentFlag.AlignVCenter, named.side(side.word))
            words = tr(
                "{repetitions}, {minutes} min, {missed} off or missed",
                repetitions=ntr("{n} repetition", "{n} repetitions", done.reps),
                minutes=number(done.minutes, 0),
                missed=done.missed,
            )
            painter.drawText(QRectF(bar.right() + 8.0, top, 320.0, 22.0), Qt.AlignmentFlag.AlignVCenter, words)

    def choose(self, day: date) -> None:
        """Chooses a day."""
        self.day = min(max(day, self._first()), self.today)
        self.chosen.emit(self.day.isoformat())
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for nth in range(7 * _WEEKS):
            day = self._first() + timedelta(days=nth)
            if self._field(day).contains(event.position()) and day <= self.today:
                self.choose(day)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in _WAYS:
            self.choose(self.day + timedelta(days=_WAYS[Qt.Key(event.key())]))
        else:
            super().keyPressEvent(event)
