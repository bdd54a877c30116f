"""A new form: its title, the opening stance, and what stands at 12 o'clock."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.angles import COMPASS
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import OPENINGS, Form, Opening
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.plain import Label, set_tip
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import choice_box
from waltzmark.words.language import tr

__all__ = ["OPENING_WORDS", "NewForm"]

OPENING_WORDS = {
    "together": tr("Feet together"),
    "vee": tr("Heels together, toes open"),
    "shoulder": tr("Shoulder width"),
    "hip": tr("Hip width"),
}


@guarded
class OpeningCard(QAbstractButton):
    """An opening stance, drawn as the feet would stand."""

    def __init__(self, name: str, theme: Theme, small: bool = False) -> None:
        super().__init__()
        self.name, self._theme, self._small = name, theme, small
        self.setCheckable(True)
        self.setText(OPENING_WORDS[name])
        self.setAccessibleName(OPENING_WORDS[name])
        set_tip(self, tr("Open with: {stance}", stance=OPENING_WORDS[name].lower()))
        self.setFixedSize(QSize(128, 76) if small else QSize(142, 132))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        theme, body = self._theme, Body()
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            chosen = self.isChecked()
            painter.setBrush(theme.color("chosen" if chosen else "board"))
            ring = "centre" if chosen or self.hasFocus() or self.underMouse() else "rule"
            painter.setPen(QPen(theme.color(ring), 2.0 if chosen or self.hasFocus() else 1.0))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 5, 5)
            pose = Opening(self.name).pose(body)
            scale, low = (128.0, 40.0) if self._small else (230.0, 76.0)
            floor = QTransform().translate(self.width() / 2.0, low).scale(scale, -scale)
            for side in SIDES:
                draw_sole(painter, floor, body.sole, side, pose.foot(side), pose.share(side), theme, letter=False)
            painter.setFont(font(8.5 if self._small else 9.5, bold=chosen))
            painter.setPen(theme.color("chosen_ink" if chosen else "ink"))
            words = QRectF(4, self.height() - (26 if self._small else 34), self.width() - 8, 24 if self._small else 30)
            painter.drawText(words, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self.text())


class NewForm(QDialog):
    """Asks for what a form begins with."""

    def __init__(self, theme: Theme, guided: bool = False, parent: QWidget | None = None) -> None:
        """guided: whether it is proposed to be shown how."""
        super().__init__(parent)
        self.setWindowTitle(tr("New form"))
        self.title = QLineEdit()
        self.title.setPlaceholderText(tr("name of the form (optional)"))
        self.title.setAccessibleName(tr("Title"))
        self.twelve = choice_box(tr("Compass point at 12 o’clock"), list(COMPASS))
        set_tip(self.twelve, tr("The compass point you face at the start, for scores that give facings by compass"))
        self._group = QButtonGroup(self)
        cards = QHBoxLayout()
        cards.setSpacing(8)
        self.cards = {name: OpeningCard(name, theme) for name in OPENINGS}
        for card in self.cards.values():
            self._group.addButton(card)
            cards.addWidget(card)
        self.cards["together"].setChecked(True)
        fields = QFormLayout()
        fields.setHorizontalSpacing(14)
        fields.addRow(tr("Title"), self.title)
        fields.addRow(tr("At 12 o’clock"), self.twelve)
        heading = Label(tr("Opening stance"))
        heading.setFont(font(11.5, bold=True))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText(tr("Create"))
        buttons.accepted.connect(safely(self.accept))
        buttons.rejected.connect(safely(self.reject))
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(12)
        column.addLayout(fields)
        column.addWidget(heading)
        self.guided = QCheckBox(tr("Guide me through my first form, in nine steps"))
        self.guided.setChecked(guided)
        column.addLayout(cards)
        column.addWidget(self.guided)
        column.addWidget(buttons)

    def form(self) -> Form:
        """The form as chosen."""
        chosen = next(name for name, card in self.cards.items() if card.isChecked())
        return Form(title=self.title.text().strip(), twelve=self.twelve.currentText(), opening=Opening(chosen))
