"""The floor chart and the tape plan: the room to scale with what is walked, over several pages where it is large."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room
from waltzmark.core.room.breaks import parts_of, start_at
from waltzmark.core.room.clearance import RoomCheck, check_room
from waltzmark.core.room.shape import silhouette
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.ground import draw_ground, draw_start
from waltzmark.desktop.painter.scene import draw_path
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.painter.standing import draw_swept, to_floor
from waltzmark.desktop.sheets.paper import INK, MM, Page, Paper, draw_head, fitted_text, plain_font
from waltzmark.words.figures import Figures
from waltzmark.words.language import number, tr
from waltzmark.words.sentences import sentence

__all__ = [
    "chart_pages",
    "draw_end",
    "draw_names",
    "draw_number",
    "draw_passing",
    "draw_ruler",
    "extent",
    "floors_of",
    "frames_of",
    "scale_that_fits",
]

_SCALES = (5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 75.0, 100.0, 150.0, 200.0, 500.0)
_HEAD = 66.0  # units at the top that title and scale take
_FOOT = 40.0
_SMALLEST = 5.0  # points of the names of postures
_JOIN = 10.0 * MM  # pages overlap by so much
_MOST = 200  # pages of one chart
#: How far a number is moved aside where another one is, units, the nearest first.
_ASIDE = sorted(((19.0 * x, 15.0 * y) for x in range(-9, 10) for y in range(-9, 10)), key=lambda by: math.hypot(*by))


#: From the floor frame to units, for each row: after a break the floor lies elsewhere in the room.
Floors = Callable[[int], QTransform]


@lru_cache(maxsize=2)
def _rings(trace: Trace, room: Room | None) -> list[tuple[int, list[Floats]]]:
    """For each part of the walk its first row and the rings around what it sweeps, in the floor frame."""
    if room is None:
        return [(0, silhouette(trace))]
    return [(part.first, silhouette(trace, part.first, part.after)) for part in parts_of(trace, room)]


def extent(form: Form, trace: Trace) -> tuple[float, float, float, float]:
    """Left, right, bottom and top of what a chart shows, metres of the floor frame as it lies in the room."""
    room, points = form.room, list[Floats]()
    if room is not None:
        points.append(np.array(room.outline, dtype=float))
    for row, rings in _rings(trace, room):
        here = room.begun_at(start_at(trace, room, row)).to_room if room is not None else np.asarray
        points += [here(ring) for ring in rings]
    whole = np.concatenate(points)
    low, high = whole.min(axis=0) - 0.1, whole.max(axis=0) + 0.1
    return float(low[0]), float(high[0]), float(low[1]), float(high[1])


def scale_that_fits(form: Form, trace: Trace, paper: Paper) -> float:
    """The largest usual scale at which all of it is on one page: how many to one."""
    left, right, bottom, top = extent(form, trace)
    free = _free(paper)
    needed = max((right - left) * 1000.0 * MM / free.width(), (top - bottom) * 1000.0 * MM / free.height())
    return next((scale for scale in _SCALES if scale >= needed), math.ceil(needed))


def _free(paper: Paper) -> QRectF:
    return paper.inside.adjusted(0.0, _HEAD, 0.0, -_FOOT)


def frames_of(form: Form, trace: Trace, paper: Paper, scale: float) -> list[tuple[QTransform, QRectF, str]]:
    """Of each page the transform from the room frame in metres to units, where it is drawn, and which part it is."""
    left, right, bottom, top = extent(form, trace)
    free, unit = _free(paper), 1000.0 * MM / scale
    wide, high = (right - left) * unit, (top - bottom) * unit
    across = 1 if wide <= free.width() + 0.5 else math.ceil((wide - _JOIN) / (free.width() - _JOIN))
    down = 1 if high <= free.height() + 0.5 else math.ceil((high - _JOIN) / (free.height() - _JOIN))
    if across * down > _MOST:
        raise WaltzmarkError("sheet.pages", scale=scale, pages=across * down, paper=paper.name, most=_MOST)
    frames = []
    for row in range(down):
        for column in range(across):
            x = left + column * (free.width() - _JOIN) / unit
            y = top - row * (free.height() - _JOIN) / unit
            frame = QTransform()
            if across * down == 1:
                frame.translate(free.center().x() - wide / 2.0, free.center().y() - high / 2.0)
            else:
                frame.translate(free.left(), free.top())
            frame.scale(unit, -unit)
            frame.translate(-x, -y)
            part = (
                ""
                if across * down == 1
                else tr("part {row} of {across}", row=row * across + column + 1, across=across * down)
            )
            frames.append((frame, free, part))
    return frames


def floors_of(form: Form, trace: Trace, frame: QTransform) -> Floors:
    """From the floor frame to units, for each row; *frame*: from the room frame."""
    room = form.room
    return lambda row: to_floor(start_at(trace, room, row), frame) if room is not None else frame


def chart_pages(
    form: Form, trace: Trace, paper: Paper, scale: float, chosen: Sequence[str], say: Figures, steps: bool = False
) -> list[Page]:
    """The floor chart. scale: how many to one, 0 for what fits. chosen: postures whose ends are numbered. steps: with
    the feet of each of their counts."""
    scale = scale or scale_that_fits(form, trace, paper)
    rings = _rings(trace, form.room)
    check = check_room(trace, form.room) if form.room is not None and len(trace) > 1 else None
    pages = []
    marks = tuple((p.id, p.title) for p in form.postures if p.id in chosen)
    for nth, (frame, free, part) in enumerate(frames_of(form, trace, paper, scale)):

        def draw(painter: QPainter, frame: QTransform = frame, free: QRectF = free, part: str = part) -> None:
            head = tr("Floor chart 1:{scale}", scale=number(scale)) + (f", {part}" if part else "")
            room = f", {form.room.name}" if form.room is not None and form.room.name else ""
            draw_head(painter, paper, form.title or tr("Floor chart"), f"{head}{room}")
            painter.save()
            painter.setClipRect(free)
            draw_chart(painter, form, trace, frame, free, rings, chosen, check, say, steps)
            painter.restore()
            if part:
                _joins(painter, free)
            draw_names(painter, draw_ruler(painter, paper, scale, say), form, chosen)

        pages.append(Page(tr("Floor chart {part}", part=part).strip(), draw, marks if nth == 0 else ()))
    return pages


def draw_chart(
    painter: QPainter,
    form: Form,
    trace: Trace,
    frame: QTransform,
    free: QRectF,
    rings: Sequence[tuple[int, Sequence[Floats]]],
    chosen: Sequence[str],
    check: RoomCheck | None,
    say: Figures,
    steps: bool = False,
) -> None:
    """The room with all that is walked in it; *frame*: from the room frame in metres to units."""
    floor = floors_of(form, trace, frame)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    draw_ground(painter, free, floor(0), form.room, INK)
    painter.setClipRect(free)
    ends = [*(row for row, _ in rings[1:]), len(trace)]
    for (row, around), after in zip(rings, ends, strict=True):
        draw_swept(painter, floor(row), around, INK, "faint", 0.05, dashed=True)
        draw_path(painter, floor(row), free, trace.centres[max(row - 1, 0) : after], INK)
    for posture in chosen if steps else ():
        draw_passing(painter, trace, floor, posture)
    for posture in chosen:
        draw_end(painter, trace, floor, posture)
    taken: list[QRectF] = []
    for posture in chosen:
        draw_number(painter, form, trace, floor, posture, taken)
    if form.room is not None:
        draw_start(painter, floor(0), INK)
        for part in parts_of(trace, form.room)[1:]:
            draw_start(painter, to_floor(part.mark, frame), INK)
    if check is not None:
        _tightest(painter, check, floor(check.row), say, taken, free)


def _tightest(
    painter: QPainter, check: RoomCheck, floor: QTransform, say: Figures, taken: Sequence[QRectF], free: QRectF
) -> None:
    """Where the walk comes nearest to something, and how near, clear of the numbers."""
    at = floor.map(QPointF(*check.place))
    painter.setPen(QPen(INK.color("ink"), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolygon([at, at + QPointF(-6.0, -11.0), at + QPointF(6.0, -11.0)])
    words = tr("{far} to {thing}", far=say.length(check.clearance), thing=sentence(check.what, say))
    painter.setFont(plain_font(7.5, False))
    wide = min(painter.fontMetrics().horizontalAdvance(words) + 6.0, 170.0)
    box = QRectF(at.x() + 9.0, at.y() - 17.0, wide, 14.0)
    if box.right() > free.right():  # it stands at the other side of its sign where the page ends
        box.moveRight(at.x() - 9.0)
    while any(box.intersects(other) for other in taken):
        box.translate(0.0, -4.0)
    painter.fillRect(box, INK.color("paper", 0.85))
    fitted_text(painter, box, words, 7.5, flags=Qt.AlignmentFlag.AlignCenter, wrap=False)


def _end(trace: Trace, posture: str) -> int:
    """The row that a posture ends with."""
    start, stop = trace.span(posture)
    return max(stop - 1, start - 1, 0)


def draw_end(painter: QPainter, trace: Trace, floors: Floors, posture: str) -> None:
    """Both feet at the end of a posture."""
    row = _end(trace, posture)
    pose = trace.pose(row)
    for side in SIDES:
        draw_sole(painter, floors(row), trace.body.sole, side, pose.foot(side), pose.share(side), INK)


def draw_number(painter: QPainter, form: Form, trace: Trace, floors: Floors, posture: str, taken: list[QRectF]) -> None:
    """The number of a posture where it ends, which keeps off other numbers. taken: where those stand already; this
    one's is added."""
    row = _end(trace, posture)
    at = floors(row).map(QPointF(*trace.pose(row).midpoint))
    # The nearest free place; a line leads back from where it had to move to.
    card = QRectF(0.0, 0.0, 18.0, 14.0)
    for by in _ASIDE:
        card.moveCenter(at + QPointF(*by))
        if not any(card.intersects(other) for other in taken):
            break
    taken.append(card)
    painter.setPen(QPen(INK.color("ink"), 0.8))
    if not card.contains(at):
        painter.drawLine(at, card.center())
        painter.setBrush(INK.color("ink"))
        painter.drawEllipse(at, 1.6, 1.6)
    painter.setBrush(INK.color("paper", 0.9))
    painter.drawRoundedRect(card, 3.0, 3.0)
    fitted_text(painter, card, str(form.index(posture) + 1), 7.5, True, Qt.AlignmentFlag.AlignCenter, wrap=False)


def draw_passing(painter: QPainter, trace: Trace, floors: Floors, posture: str) -> None:
    """The outlines of the feet that stand on the floor at each count of a posture before its last."""
    start, stop = trace.span(posture)
    for row in range(start, stop - 1):
        pose = trace.pose(row)
        for side in SIDES:
            if pose.foot(side).contact is not Contact.AIR:
                draw_sole_outline(painter, floors(row), trace.body.sole, side, pose.foot(side), INK, 1.0, filled=False)


def _joins(painter: QPainter, free: QRectF) -> None:
    """Where pages are laid onto each other: a cross in each corner of the overlap."""
    painter.setPen(QPen(INK.color("ink"), 0.8))
    for x in (free.left() + _JOIN / 2.0, free.right() - _JOIN / 2.0):
        for y in (free.top() + _JOIN / 2.0, free.bottom() - _JOIN / 2.0):
            painter.drawLine(QPointF(x - 8.0, y), QPointF(x + 8.0, y))
            painter.drawLine(QPointF(x, y - 8.0), QPointF(x, y + 8.0))


def draw_names(painter: QPainter, box: QRectF, form: Form, chosen: Sequence[str]) -> None:
    """Which number is which posture, beside the scale bar, as long as that can be read there."""
    words = " · ".join(f"{form.index(each) + 1} {form.posture(each).title}" for each in chosen)
    painter.setPen(INK.color("ink"))
    painter.setFont(plain_font(_SMALLEST, False))
    wrapped = int(Qt.TextFlag.TextWordWrap)
    told = painter.boundingRect(box, wrapped, words)
    if words and told.width() <= box.width() and told.height() <= box.height():
        fitted_text(
            painter, box, words, 7.5, flags=Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, least=_SMALLEST
        )


def draw_ruler(painter: QPainter, paper: Paper, scale: float, say: Figures) -> QRectF:
    """A scale bar of a round length; returns what is free beside it."""
    inside, unit = paper.inside, 1000.0 * MM / scale
    length = max(
        (each for each in (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0) if each * unit < inside.width() / 2.0), default=0.1
    )
    base = inside.bottom() - 8.0
    painter.setPen(QPen(INK.color("ink"), 1.4))
    painter.drawLine(QPointF(inside.left(), base), QPointF(inside.left() + length * unit, base))
    for x in (inside.left(), inside.left() + length * unit):
        painter.drawLine(QPointF(x, base - 5.0), QPointF(x, base + 2.0))
    words = tr("{length} at 1:{scale}", length=say.length(length), scale=number(scale))
    told = fitted_text(painter, QRectF(inside.left(), base - 22.0, 300.0, 16.0), words, 8.0, wrap=False)
    left = max(told.right(), inside.left() + length * unit) + 24.0
    return QRectF(left, inside.bottom() - _FOOT + 4.0, max(inside.right() - left, 0.0), _FOOT - 4.0)
