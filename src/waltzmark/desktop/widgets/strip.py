"""The strip of the weight ribbon: weights, postures, breath and findings, all that does not move with the playhead."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPen, QPixmap, QPolygonF

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import SEVERITIES, Finding, Severity
from waltzmark.core.walk.motion import ease
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.box import fill_box
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.marks import severity_mark
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.beats import LEFT, RIGHT, beat_ends, beat_pixels
from waltzmark.words.language import ptr, tr

__all__ = ["Strip", "Walked", "band_of", "heat", "left_shares", "weights"]

_NAMES = 18.0  # height of the line of posture names
_APART = 7.0  # pixels at which the marks of findings can be told apart

#: What stands for the left foot, its hatching and the right foot, and how thick each lies on the paper.
_SIDES = (("left", 0.70), ("left_pale", 0.46), ("right", 0.62))


def _mixed(one: int, other: int, share: Floats) -> Ints:
    """(n,) colours between two, *share* of the first."""
    mixed = np.full(len(share), 0xFF000000, dtype=np.int64)
    for shift in (16, 8, 0):
        a, b = one >> shift & 0xFF, other >> shift & 0xFF
        mixed |= np.rint(share * a + (1.0 - share) * b).astype(np.int64) << shift
    return mixed


class Walked(Record, eq=False):
    """What a strip shows. found: each finding at every count that it is about."""

    form: Form
    trace: Trace
    found: tuple[Finding, ...]


def band_of(size: QSize) -> QRectF:
    """Where the weights stand in a strip of a size."""
    return QRectF(LEFT, _NAMES + 2, size.width() - LEFT - RIGHT, size.height() - _NAMES - 22)


_Look = tuple[object, bytes, list[tuple[int, Severity]]]


class Strip:
    """Drawn once for the same beats, shares, postures and findings: an edit that only places a foot elsewhere leaves
    them. What will be shown next can be drawn before it is."""

    def __init__(self) -> None:
        self._whole, self._marks = Layer(ahead=True), Layer()
        self._looks: list[tuple[Walked, _Look]] = []  # of the walks that were drawn last

    def drawn(self, walked: Walked, size: QSize, ratio: float, theme: Theme) -> QPixmap:
        """The picture of a walk and what was found in it."""
        trace, times = walked.trace, beat_ends(walked.trace)
        look = self._look(walked, times)

        def draw(painter: QPainter) -> None:
            fill_box(painter, QRectF(0, 0, size.width(), size.height()), theme.color("paper"))
            _draw_sides(painter, band, theme)
            if len(trace) < 2:
                painter.setPen(theme.color("faint"))
                painter.setFont(font(9.5))
                painter.drawText(band, Qt.AlignmentFlag.AlignCenter, tr("The weight of each count will appear here."))
                return
            painter.drawImage(band, weights(trace, times, band.size().toSize(), ratio, theme))
            painter.setPen(QPen(theme.color("paper"), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(band.left(), band.center().y()), QPointF(band.right(), band.center().y()))
            painter.drawPixmap(0, 0, self._marks.drawn((look[0], theme.name), size, ratio, draw_marks, clear=True))
            for start, end, severity in heat(walked, ends[trace.starts[1:] - 1]):
                fill_box(
                    painter, QRectF(start, band.top() - 3.0, max(end - start - 1.0, 1.0), 3.0), theme.color(severity)
                )
            _draw_findings(painter, walked.found, ends, band, theme, ratio)

        def draw_marks(painter: QPainter) -> None:
            """Postures and breath: most edits leave them."""
            _draw_postures(painter, walked, ends, band, theme)
            _draw_breath(painter, trace, ends, band, theme)

        band, ends = band_of(size), beat_pixels(times, size.width())
        return self._whole.drawn((look, theme.name), size, ratio, draw)

    def _look(self, walked: Walked, times: Floats) -> _Look:
        """What the strip of a walk looks like by: its marks, its shares and its findings."""
        for known, look in self._looks:
            if known.form is walked.form and known.trace is walked.trace and known.found is walked.found:
                return look
        trace = walked.trace
        titles = tuple(posture.title for posture in walked.form.postures)
        marks = times.tobytes(), trace.starts.tobytes(), titles, trace.breaths
        look = marks, trace.shares.tobytes(), [(f.row, f.severity) for f in walked.found]
        self._looks = [*self._looks[-1:], (walked, look)]
        return look


def _draw_sides(painter: QPainter, band: QRectF, theme: Theme) -> None:
    """Which side is above, which below."""
    right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
    label = QRectF(4, band.top(), LEFT - 8, band.height() / 2)
    painter.setFont(font(9.0, bold=True))
    painter.setPen(theme.color("left"))
    painter.drawText(label, right, ptr("on the ribbon", "left"))
    painter.setPen(theme.color("right"))
    painter.drawText(label.translated(0, band.height() / 2), right, ptr("on the ribbon", "right"))


def _draw_findings(
    painter: QPainter, found: tuple[Finding, ...], ends: Floats, band: QRectF, theme: Theme, ratio: float
) -> None:
    """A mark below each finding's count; where they would cover each other, the gravest one alone."""
    marks: dict[int, tuple[int, float, Severity]] = {}
    pixels = ends.tolist()
    for finding in found:
        x = pixels[finding.row]
        mark = (SEVERITIES[finding.severity], x, finding.severity)
        near = int(x / _APART)
        if near not in marks or mark[:2] < marks[near][:2]:
            marks[near] = mark
    for _, x, severity in marks.values():
        pixmap = severity_mark(13, severity, theme, ratio)
        half = pixmap.deviceIndependentSize() / 2.0
        painter.drawPixmap(round(x - half.width()), round(band.bottom() + 12 - half.height()), pixmap)


def _draw_breath(painter: QPainter, trace: Trace, ends: Floats, band: QRectF, theme: Theme) -> None:
    """Breath along the foot of the band: a wedge that swells while breathing in and shrinks while breathing out."""
    painter.setPen(Qt.PenStyle.NoPen)
    pixels, low = ends.tolist(), band.bottom() + 1.0
    for inward, role in ((True, "breath_in"), (False, "breath_out")):
        spans = [(pixels[row - 1], pixels[row]) for row, way in enumerate(trace.breaths) if way is inward]
        painter.setBrush(theme.color(role, 0.25))
        painter.drawRects([QRectF(start, low, end - start, 6.0) for start, end in spans])
        painter.setBrush(theme.color(role))
        for start, end in spans:
            if end - start >= 3.0:  # else no shape would be seen
                corner = QPointF(end if inward else start, low + 6.0)
                painter.drawPolygon(QPolygonF([QPointF(start, low), QPointF(end, low), corner]))


def weights(trace: Trace, times: Floats, size: QSize, ratio: float, theme: Theme) -> QImage:
    """The two sides of the band: left above, hatched, down to its share; right below."""
    wide, high = round(size.width() * ratio), round(size.height() * ratio)
    level = high * left_shares(trace, times, wide)[None, :]
    down, across = np.arange(high)[:, None], np.arange(wide)[None, :]
    hatched = (across + down) % round(7 * ratio) < ratio
    left, line, right = (theme.laid(role, "paper", alpha).rgb() for role, alpha in _SIDES)
    pixels = np.where(down < np.floor(level), np.where(hatched, line, left), right).astype(np.uint32)
    # The pixel on the edge is a mixture of both.
    x, y = across[0], np.minimum(np.floor(level[0]), high - 1).astype(np.int64)
    pixels[y, x] = _mixed(left, right, np.clip(level[0] - y, 0.0, 1.0))
    image = QImage(pixels.data, wide, high, 4 * wide, QImage.Format.Format_RGB32).copy()
    image.setDevicePixelRatio(ratio)
    return image


def left_shares(trace: Trace, times: Floats, wide: int) -> Floats:
    """(wide,) the left foot's share along the form."""
    beat = times[-1] * (np.arange(wide) + 0.5) / wide
    left, row = trace.shares[:, 0], np.searchsorted(times, beat).clip(1, len(times) - 1)
    before, length = times[row - 1], np.maximum(times[row] - times[row - 1], 1e-9)
    return np.asarray(left[row - 1] + (left[row] - left[row - 1]) * ease(((beat - before) / length).clip(0, 1)))


def _draw_postures(painter: QPainter, walked: Walked, ends: Floats, band: QRectF, theme: Theme) -> None:
    painter.setFont(font(8.5))
    metrics = painter.fontMetrics()
    borders = ends[walked.trace.starts[1:] - 1]  # where each posture begins, and the end
    painter.setPen(QPen(theme.color("paper", 0.9), 1.2))
    painter.drawLines([QLineF(x, band.top(), x, band.bottom()) for x in borders[:-1].tolist()])
    painter.setPen(QPen(theme.color("faint"), 1.0))
    painter.drawLines([QLineF(x, band.top() - 4, x, band.top()) for x in borders[:-1].tolist()])
    free = 0.0  # up to where words have been written
    for number, posture in enumerate(walked.form.postures, 1):
        start, room = float(borders[number - 1]), float(borders[number] - borders[number - 1]) - 5
        title = f"{number} {posture.title}"
        words = title if room > 40 and metrics.horizontalAdvance(title) <= room else str(number)
        if room > 0 and start + 4 >= free:
            painter.drawText(QPointF(start + 4, band.top() - 5), words)
            free = start + 8 + metrics.horizontalAdvance(words)


def heat(walked: Walked, borders: Floats) -> list[tuple[float, float, Severity]]:
    """From where to where each posture with findings goes, and the gravest of them."""
    gravest: dict[int, Severity] = {}
    for finding in walked.found:
        number = int(walked.trace.passage_of[finding.row])
        if number and (number not in gravest or SEVERITIES[finding.severity] < SEVERITIES[gravest[number]]):
            gravest[number] = finding.severity
    return [(float(borders[n - 1]), float(borders[n]), severity) for n, severity in gravest.items()]
