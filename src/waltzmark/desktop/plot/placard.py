"""Where one is now, in words, on a card in the corner of the floor."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen, QPixmap

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form
from waltzmark.core.walk.naming import Recognised, recognised
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.figures import Figures
from waltzmark.words.language import percent, tr
from waltzmark.words.steps import pose_parts, stance_title

__all__ = ["Placard", "Place", "place_of", "place_words"]


_HIGH = 160  # pixels that the card takes at the most


class Place(Record, eq=False):
    """Where one is. settled: at the end of the count."""

    form: Form
    trace: Trace
    row: int
    pose: Pose
    settled: bool
    say: Figures


def place_of(document: Document) -> Place:
    """Where the document's playhead is."""
    session = document.session
    return Place(document.form, document.trace, session.row, session.pose, session.position == session.row, session.say)


def place_words(place: Place) -> str:
    """Posture and count: ``Turn the boat · count 2 of 7``."""
    posture = place.trace.posture(place.row)
    if posture is None:
        return tr("Opening stance")
    first, after = place.trace.span(posture)
    return tr(
        "{title}  ·  count {row} of {after}",
        title=place.form.posture(posture).title,
        row=place.row - first + 1,
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


class Placard:
    """The card; at the end of a count it is drawn once, and can be drawn before it is shown."""

    def __init__(self) -> None:
        self._settled = Layer(ahead=True)

    def draw(self, painter: QPainter, most: int, place: Place, theme: Theme) -> None:
        """Draws it, at most *most* pixels wide."""
        if place.settled:
            painter.drawPixmap(0, 0, self.drawn(most, place, theme, painter.device().devicePixelRatioF()))
        else:
            _draw(painter, most, place, theme)

    def drawn(self, most: int, place: Place, theme: Theme, ratio: float) -> QPixmap:
        """Its picture at the end of a count."""
        shows = place.trace, place.row, most, place.say, theme.name
        size = QSize(most + 24, _HIGH)
        return self._settled.drawn(shows, size, ratio, lambda card: _draw(card, most, place, theme), clear=True)


def _draw(painter: QPainter, most: float, here: Place, theme: Theme) -> None:
    """The card; the pose takes more lines where it must."""
    place, place_font = place_words(here), font(12, bold=True)
    torso = float(here.trace.torso[max(here.row - 1, 0)])
    parts = list(pose_parts(here.pose, here.settled, here.say, torso))
    if here.settled:
        parts.insert(0, stance_words(recognised(here.pose, here.trace.body, here.form.school)))
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
