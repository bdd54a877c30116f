"""Where one is now, in words, on a card in the corner of the floor."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from waltzmark.core.base.leftright import Side
from waltzmark.core.walk.naming import Recognised, recognised
from waltzmark.desktop.document import Document
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import percent, tr
from waltzmark.words.steps import pose_parts, stance_title

__all__ = ["draw_placard", "place_words"]


def place_words(document: Document) -> str:
    """Posture and count: ``Turn the boat · count 2 of 7``."""
    row, trace = document.session.row, document.trace
    posture = trace.posture(row)
    if posture is None:
        return tr("Opening stance")
    first, after = trace.span(posture)
    return tr(
        "{title}  ·  count {row} of {after}",
        title=document.form.posture(posture).title,
        row=row - first + 1,
        after=after - first,
    )


def stance_words(stance: Recognised) -> str:
    """The stance a pose is, with how well it matches where it does not match whole."""
    name = stance_title(stance.name)
    if not stance.name:
        return name
    if stance.front is not None and stance.name != "one-leg":
        left, right = tr("{stance}, left foot in front", stance=name), tr("{stance}, right foot in front", stance=name)
        name = left if stance.front is Side.LEFT else right
    if stance.match > 0.95:
        return name
    return tr("{stance} ({match} alike)", stance=name, match=percent(100 * stance.match))


def draw_placard(painter: QPainter, most: float, document: Document, theme: Theme) -> None:
    """Draws the card, at most *most* pixels wide; the pose takes more lines where it must."""
    place, place_font = place_words(document), font(12, bold=True)
    settled = document.session.position == document.session.row
    torso = float(document.trace.torso[max(document.session.row - 1, 0)])
    parts = list(pose_parts(document.session.pose, settled, document.session.say, torso))
    if settled:
        stance = recognised(document.session.pose, document.trace.body, document.form.school)
        parts.insert(0, stance_words(stance))
    pose_font = font(10.5)
    metrics = QFontMetricsF(pose_font)
    lines, inner = [""], most - 24
    for part in parts:
        longer = f"{lines[-1]}  ·  {part}" if lines[-1] else part
        if lines[-1] and metrics.horizontalAdvance(longer) > inner:
            lines.append(part)
        else:
            lines[-1] = longer
    lines = [metrics.elidedText(line, Qt.TextElideMode.ElideRight, inner) for line in lines]
    place_metrics = QFontMetricsF(place_font)
    place = place_metrics.elidedText(place, Qt.TextElideMode.ElideRight, inner)
    wide = max([place_metrics.horizontalAdvance(place), *(metrics.horizontalAdvance(line) for line in lines)]) + 24
    # Figures change while walking; a card that keeps its width does not flicker.
    wide = min(-(-wide // 24) * 24, most)
    high = 12 + place_metrics.height() + metrics.lineSpacing() * len(lines)
    painter.save()
    painter.setPen(QPen(theme.color("rule"), 1.0))
    painter.setBrush(theme.color("raised"))
    painter.drawRoundedRect(QRectF(12, 12, wide, high), 5, 5)
    painter.setPen(theme.color("ink"))
    painter.setFont(place_font)
    y = 16 + place_metrics.ascent()
    painter.drawText(QPointF(24, y), place)
    painter.setFont(pose_font)
    for line in lines:
        y += metrics.lineSpacing()
        painter.drawText(QPointF(24, y + 1), line)
    painter.restore()
