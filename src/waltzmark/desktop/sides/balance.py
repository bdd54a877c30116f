"""The balance: what each side of the body does over the whole form, as two columns, and what would even it out."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QAccessible, QBrush, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.edit.forms import other_side
from waltzmark.core.score.facings import Clock
from waltzmark.core.sides.balance import Balance, balance_of
from waltzmark.core.sides.pairs import Pair
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import heading, wrapped
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.words.language import ntr, number, percent, tr
from waltzmark.words.named import named_other_side

__all__ = ["BalanceFace", "BalanceView"]

_TOP = 44.0
_MIDDLE = 176.0  # pixels that the names of the rows take


def rows_of(balance: Balance) -> list[tuple[str, float, float, str]]:
    """What is drawn: a name, the figure of either side, and their unit."""
    left, right = balance.left, balance.right
    rows: list[tuple[str, float, float, str]] = [
        (tr("load carried"), left.load, right.load, "beats"),
        (tr("carries more than half"), left.beats, right.beats, "beats"),
        (tr("alone on this leg"), left.alone, right.alone, "beats"),
        (tr("steps"), left.steps, right.steps, ""),
        (tr("pivots outward"), left.pivots_out, right.pivots_out, ""),
        (tr("pivots inward"), left.pivots_in, right.pivots_in, ""),
        (tr("pivots under load"), left.loaded, right.loaded, ""),
        (tr("chest turned this way"), left.turned, right.turned, "°"),
        (tr("pushes of the hand"), left.pushes, right.pushes, ""),
        (tr("kicks"), left.kicks, right.kicks, ""),
    ]
    names = sorted({*left.stances, *right.stances})
    rows += [
        (
            tr("{stance}, in front", stance=name.replace("-", " ")) if name != "one-leg" else tr("stands on one leg"),
            left.stances.get(name, 0),
            right.stances.get(name, 0),
            "",
        )
        for name in names
    ]
    return [row for row in rows if row[1] or row[2]]


@guarded
class BalanceView(QWidget):
    """Two columns of bars from the middle outward, in the colours of the feet; the left one is hatched."""

    role = QAccessible.Role.Chart

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self._desk, self._theme = desk, theme
        self.balance: Balance | None = None
        self.setAccessibleName(tr("Balance of both sides"))
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def show_balance(self, balance: Balance | None) -> None:
        """Shows what each side does."""
        self.balance = balance
        said = (
            ""
            if balance is None
            else "\n".join(
                tr(
                    "{name}: left {left}, right {right}",
                    name=name,
                    left=_figure(a, unit),
                    right=_figure(b, unit),
                )
                for name, a, b, unit in rows_of(balance)
            )
        )
        self.setAccessibleDescription(said)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme = self._theme
            painter.fillRect(self.rect(), theme.color("paper"))
            rows = rows_of(self.balance) if self.balance is not None else []
            if not rows:
                painter.setPen(theme.color("faint"))
                painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("Nothing is walked yet."))
                return
            middle = self.width() / 2.0
            wide = middle - _MIDDLE / 2.0 - 96.0
            high = min((self.height() - _TOP - 12.0) / len(rows), 44.0)
            painter.setFont(font(12.0, bold=True))
            for side, words in ((Side.LEFT, tr("left side")), (Side.RIGHT, tr("right side"))):
                painter.setPen(theme.color(side.word))
                at = middle + side.sign * (_MIDDLE / 2.0 + 60.0)
                painter.drawText(QRectF(at - 60.0, 10.0, 120.0, 24.0), Qt.AlignmentFlag.AlignCenter, words)
            for nth, (name, left, right, unit) in enumerate(rows):
                top = _TOP + nth * high
                self._row(painter, QRectF(0.0, top, self.width(), high), middle, wide, name, (left, right), unit)

    def _row(
        self,
        painter: QPainter,
        box: QRectF,
        middle: float,
        wide: float,
        name: str,
        values: tuple[float, float],
        unit: str,
    ) -> None:
        theme, most = self._theme, max(values)
        painter.setFont(font(9.5))
        painter.setPen(theme.color("ink"))
        painter.drawText(
            QRectF(middle - _MIDDLE / 2.0, box.top(), _MIDDLE, box.height()), Qt.AlignmentFlag.AlignCenter, name
        )
        uneven = most > 0 and abs(values[0] - values[1]) > 0.15 * most
        thick = min(box.height() - 8.0, 20.0)
        for side in SIDES:
            long = wide * values[side] / most if most else 0.0
            edge = middle + side.sign * _MIDDLE / 2.0
            bar = QRectF(edge - (long if side is Side.LEFT else 0.0), box.center().y() - thick / 2.0, long, thick)
            painter.setPen(QPen(theme.foot(side), 1.4))
            painter.setBrush(theme.foot(side))
            painter.drawRect(bar)
            if side is Side.LEFT:  # hatched, as the left foot is: the sides differ without colour
                painter.setBrush(QBrush(theme.foot_pale(side), Qt.BrushStyle.BDiagPattern))
                painter.drawRect(bar)
            words = _figure(values[side], unit)
            painter.setFont(font(9.5, bold=uneven and values[side] == most))
            painter.setPen(theme.color("ink"))
            out = QRectF(bar.left() - 98.0, box.top(), 90.0, box.height())
            align = Qt.AlignmentFlag.AlignRight
            if side is Side.RIGHT:
                out, align = QRectF(bar.right() + 8.0, box.top(), 90.0, box.height()), Qt.AlignmentFlag.AlignLeft
            painter.drawText(out, align | Qt.AlignmentFlag.AlignVCenter, words)
        painter.setPen(QPen(theme.color("rule"), 1.0))
        painter.drawLine(QPointF(24.0, box.bottom()), QPointF(self.width() - 24.0, box.bottom()))


def _figure(value: float, unit: str) -> str:
    rounded = round(value, 0 if unit == "°" else 1)
    return ntr("{n} beat", "{n} beats", rounded) if unit == "beats" else f"{number(rounded)}{unit}"


class BalanceFace(Face):
    """Which postures have no other side, and the whole form's other side."""

    name = tr("Balance")
    purpose = tr("How evenly both sides of the body are used, and what would balance them")

    def __init__(self, desk: Desk, view: BalanceView) -> None:
        super().__init__(desk)
        self._view = view
        self._names: tuple[str, ...] = ()
        column = self.column
        self.said = wrapped()
        column.addWidget(self.said)
        column.addWidget(heading(tr("On one side only")))
        self.list = OfferList(tr("Postures on one side only"))
        self.list.currentRowChanged.connect(safely(self._touch))
        self.list.itemActivated.connect(safely(lambda _item: self.take()))
        column.addWidget(self.list, 1)
        self.make = push_button(
            tr("Make its other side"),
            self.take,
            tr("Adds the posture’s mirror image after it, as one step you can undo  (Enter)"),
        )
        column.addWidget(self.make)
        self.whole = push_button(
            tr("Open the mirrored form"),
            self.desk.book["whole other side"].trigger,
            tr("Opens the form with left and right exchanged, in a new window"),
        )
        column.addWidget(self.whole)

    def show_pairs(self, pairs: tuple[Pair, ...] | None) -> None:
        """Shows the balance of the document, by the pairs that are known; None while they are looked for."""
        form, trace = self.document.form, self.document.trace
        balance = balance_of(form, trace, pairs or ())
        self._view.show_balance(balance)
        shares = [balance.side(side).load / balance.beats if balance.beats else 0.5 for side in SIDES]
        left, right = (percent(100 * share) for share in shares)
        words = [
            tr(
                "Over {beats} the left leg carries {left} and the right {right}.",
                beats=ntr("{n} beat", "{n} beats", balance.beats),
                left=left,
                right=right,
            )
        ]
        turned = balance.right.turned - balance.left.turned
        if abs(turned) > 1.0:
            by = number(abs(turned), 0)
            words.append(
                tr("It turns {turned}° more to the right.", turned=by)
                if turned > 0
                else tr("It turns {turned}° more to the left.", turned=by)
            )
        if pairs is not None and balance.one_sided:
            words.append(tr("Doing these on the other side too would balance them."))
        self.said.setText(" ".join(words))
        self._names = balance.one_sided if pairs is not None else ()
        self.list.show_lines([form.posture(name).title for name in self._names])
        self.make.setEnabled(self.list.currentRow() >= 0)

    def _touch(self, row: int) -> None:
        self.make.setEnabled(0 <= row < len(self._names))
        if 0 <= row < len(self._names):
            self.document.session.select(Selection(self._names[row], 0, 0))

    def take(self) -> None:
        """Puts the other side of the chosen posture after it."""
        row = self.list.currentRow()
        if 0 <= row < len(self._names):
            name = self._names[row]
            title = self.document.form.posture(name).title
            form = other_side(self.document.form, name, Clock(0), named_other_side(title))
            self.desk.editor.take_form(form, tr("make the other side of {title}", title=title))
