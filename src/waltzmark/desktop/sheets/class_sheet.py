"""The class sheet: where each walker of a class stands, and how far that is from the walls."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.room.tape import tape_plan
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.standing import draw_cross, draw_walker, to_floor
from waltzmark.desktop.sheets.chart import draw_ruler, floors_of, frames_of, scale_that_fits
from waltzmark.desktop.sheets.paper import INK, Page, Paper, draw_head, fitted_text
from waltzmark.desktop.sheets.tape import mark_tables
from waltzmark.words.figures import Figures
from waltzmark.words.language import ntr, tr

__all__ = ["class_pages"]


def class_pages(
    form: Form,
    trace: Trace,
    paper: Paper,
    scale: float,
    starts: Sequence[Start],
    teacher: Start | None,
    say: Figures,
) -> list[Page]:
    """Where each of a class and their teacher begin, to scale, and how to find it. The form has a room."""
    assert form.room is not None
    scale = scale or scale_that_fits(form, trace, paper)
    named = [(str(nth), tr("walker {number}", number=nth), start) for nth, start in enumerate(starts, 1)]
    if teacher is not None:
        named.append(("T", tr("the teacher"), teacher))
    pages = []
    for frame, free, part in frames_of(form, trace, paper, scale):

        def draw(painter: QPainter, frame: QTransform = frame, free: QRectF = free, part: str = part) -> None:
            who = (
                ntr("{n} walker", "{n} walkers", len(starts))
                if teacher is None
                else ntr("{n} walker and a teacher", "{n} walkers and a teacher", len(starts))
            )
            words = f"{who}, 1:{scale:g}{', ' + part if part else ''}"
            draw_head(painter, paper, form.title or tr("Class"), words)
            painter.save()
            painter.setClipRect(free)
            draw_ground(painter, free, floors_of(form, trace, frame)(0), form.room, INK, start=False)
            painter.setClipRect(free)
            for letter, _, start in named:
                floor = to_floor(start, frame)
                draw_cross(painter, frame, start, INK)
                draw_walker(painter, floor, trace.body, trace.pose(0), INK)
                behind = floor.map(QPointF(0.0, -0.35)) - QPointF(11.0, 7.0)
                box = QRectF(behind.x(), behind.y(), 22.0, 14.0)
                painter.setPen(QPen(INK.color("ink"), 1.0))
                fitted_text(painter, box, letter, 9.0, True, Qt.AlignmentFlag.AlignCenter, wrap=False)
            painter.restore()
            draw_ruler(painter, paper, scale, say)

        pages.append(Page(tr("Class"), draw))
    told = [
        replace(
            tape_plan(replace(form, room=form.room.begun_at(start)), trace, ())[0],
            what=message("tape.start-of", who=who),
        )
        for _, who, start in named
    ]
    return pages + mark_tables(paper, form.title or tr("Class"), told, say)
