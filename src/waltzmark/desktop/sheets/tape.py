"""The tape plan as pages: where each mark lies, measured from walls and corners."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.core.room.tape import Mark, fewest_ends, tape_plan
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.sheets.chart import draw_names, draw_ruler, floors_of, frames_of, scale_that_fits
from waltzmark.desktop.sheets.paper import INK, Page, Paper, draw_head, fitted_text
from waltzmark.words.figures import Figures
from waltzmark.words.language import number, tr
from waltzmark.words.room import by_corners, by_lines, square_to_walls
from waltzmark.words.sentences import sentence

__all__ = ["mark_tables", "tape_marks", "tape_pages"]


def tape_marks(form: Form, trace: Trace, chosen: Sequence[str]) -> tuple[Mark, ...]:
    """The fewest marks that keep a walker on the way at the ends of some postures, or one for each of few of them."""
    fewest = fewest_ends(form, trace)
    return tape_plan(form, trace, [each for each in chosen if each in fewest] or chosen)


def tape_pages(form: Form, trace: Trace, paper: Paper, scale: float, chosen: Sequence[str], say: Figures) -> list[Page]:
    """The marks to lay: a plan, then each with its ways of measuring. Raises WaltzmarkError without a room."""
    if form.room is None:
        raise WaltzmarkError("sheet.tape-room")
    plan = tape_marks(form, trace, chosen)
    scale = scale or scale_that_fits(form, trace, paper)
    pages = []
    for frame, free, part in frames_of(form, trace, paper, scale):

        def draw(painter: QPainter, frame: QTransform = frame, free: QRectF = free, part: str = part) -> None:
            draw_head(
                painter,
                paper,
                form.title or tr("Tape plan"),
                tr("Tape plan 1:{scale}{n}", scale=number(scale), n=", " + part if part else ""),
            )
            painter.save()
            painter.setClipRect(free)
            draw_ground(painter, free, floors_of(form, trace, frame)(0), form.room, INK)
            painter.setClipRect(free)
            for nth, mark in enumerate(plan, 1):
                _tape_mark(painter, frame, nth, mark)
            painter.restore()
            draw_names(painter, draw_ruler(painter, paper, scale, say), form, chosen)

        pages.append(Page(tr("Tape plan"), draw))
    return pages + mark_tables(paper, form.title or tr("Tape plan"), plan, say)


def _tape_mark(painter: QPainter, frame: QTransform, nth: int, mark: Mark) -> None:
    a, b = (frame.map(QPointF(*end)) for end in mark.tape)
    painter.setPen(QPen(INK.color("ink"), 3.0))
    painter.drawLine(a, b)
    painter.setPen(QPen(INK.color("ink"), 1.0))
    at = frame.map(QPointF(*mark.place))
    painter.drawEllipse(at, 2.0, 2.0)
    away = (a + b) / 2.0 - at  # the number stands beyond the tape, off the foot
    far = math.hypot(away.x(), away.y())
    by = away * ((far + 11.0) / far) if far > 1.0 else QPointF(14.0, 12.0)
    box = QRectF(0.0, 0.0, 22.0, 12.0)
    box.moveCenter(at + by)
    fitted_text(painter, box, str(nth), 7.5, True, Qt.AlignmentFlag.AlignCenter, wrap=False)


def mark_tables(paper: Paper, title: str, plan: Sequence[Mark], say: Figures) -> list[Page]:
    """The marks as a table, so many a page as have room."""
    rows_a_page = max(int((paper.inside.height() - 60.0) / 62.0), 1)
    pages = []
    for first in range(0, len(plan), rows_a_page):
        part = plan[first : first + rows_a_page]

        def draw(painter: QPainter, first: int = first, part: Sequence[Mark] = part) -> None:
            box = draw_head(painter, paper, title, tr("The marks, each found three ways"))
            top = box.top()
            for nth, mark in enumerate(part, first + 1):
                row = QRectF(box.left(), top, box.width(), 60.0)
                fitted_text(painter, QRectF(row.left(), top, 26.0, 16.0), str(nth), 10.0, True, wrap=False)
                words = [
                    sentence(mark.what, say),
                    tr("Square: {how}", how=square_to_walls(mark, say)),
                    tr("Corners: {how}", how=by_corners(mark, say)),
                    tr("Lines: {how}", how=by_lines(mark, say)),
                ]
                for line, said in enumerate(words):
                    line_box = QRectF(row.left() + 30.0, top + 14.0 * line, row.width() - 30.0, 14.0)
                    fitted_text(painter, line_box, said, 9.0 if line == 0 else 8.0, line == 0, wrap=False, least=3.0)
                painter.setPen(QPen(INK.color("rule"), 0.6))
                painter.drawLine(QPointF(row.left(), top + 58.0), QPointF(row.right(), top + 58.0))
                painter.setPen(QPen(INK.color("ink"), 1.0))
                top += 62.0

        pages.append(Page(tr("Marks to lay"), draw))
    return pages
