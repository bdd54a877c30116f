"""What to tape to the floor: which ends are marked, and how each mark is found."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform
from PySide6.QtWidgets import QApplication, QHBoxLayout

from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.room.breaks import parts_of, start_at
from waltzmark.core.room.tape import WITHIN, Mark, fewest_ends, tape_plan, turning_ends
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.soles import draw_sole_outline
from waltzmark.desktop.painter.standing import draw_cross, to_floor
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.room.face import RoomFace
from waltzmark.desktop.room.search import RoomSearch
from waltzmark.desktop.widgets.lengths import LengthField, named
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.desktop.widgets.search import Search
from waltzmark.words.figures import Figures
from waltzmark.words.language import tr
from waltzmark.words.room import by_corners, by_lines, square_to_walls
from waltzmark.words.sentences import sentence

__all__ = ["TapeFace"]

_WHICH = (tr("As few as possible, within …"), tr("Where the direction changes"), tr("The end of every posture"))


class TapeFace(RoomFace):
    """The marks, numbered on the plan and in the list, with two ways to measure each and the floor's own lines."""

    name = tr("Tape")
    purpose = tr("What to tape to the floor, and how to find each mark with a tape measure")

    def __init__(self, desk: Desk, search: RoomSearch) -> None:
        super().__init__(desk, search)
        self.marks: tuple[Mark, ...] = ()  # of the form when it was asked last
        self.heading(tr("What to mark"))
        self.which = choice_box(tr("What to mark"), _WHICH, lambda _at: self.refresh())
        self.column.addWidget(self.which)
        row = QHBoxLayout()
        self.within = named(LengthField(self.document, tr("Furthest from the path")), lambda _: self.refresh())
        self.within.show_length(WITHIN)
        self.said = wrapped(tr("from the path at most; a step is assumed to land about 3 cm off"), faint=True)
        row.addWidget(self.within)
        row.addWidget(self.said, 1)
        self.column.addLayout(row)
        self.count = self.heading("")
        self.list = OfferList(tr("Marks"))
        self.list.currentRowChanged.connect(safely(lambda _row: self.drawn.emit()))
        self.column.addWidget(self.list, 1)
        self.marking = Search(desk.jobs, "room tape", pause=0, process=False)
        self.column.addWidget(self.marking)
        copy = push_button(
            tr("Copy the list"),
            lambda: QApplication.clipboard().setText(self.text()),
            tr("All marks as text, to paste or print"),
        )
        self.column.addWidget(copy)

    def refresh(self) -> None:
        document = self.document
        if document.form.room is None:
            return
        form, trace = document.form, document.trace
        asked = (form, self.which.currentIndex(), self.within.metres)
        work = partial(_planned, form, trace, asked[1], asked[2])
        if not self.marking.ask(asked, work, lambda marks: self._take(form, marks)):
            self._list()

    def _take(self, form: Form, marks: tuple[Mark, ...]) -> None:
        if form is not self.document.form:
            return  # the next ones are on their way
        self.marks = marks
        self._list()
        self.drawn.emit()

    def _list(self) -> None:
        self.count.setText(tr("{marks} marks", marks=len(self.marks)))
        self.list.show_lines(
            [_words(number, mark, self.document.session.say) for number, mark in enumerate(self.marks)]
        )

    def leave(self) -> None:
        self.marking.rest()

    def text(self) -> str:
        """All marks as text."""
        return (
            "\n\n".join(_words(number, mark, self.document.session.say) for number, mark in enumerate(self.marks))
            + "\n"
        )

    def paint(self, painter: QPainter, frame: QTransform) -> None:
        theme, document = self.desk.theme, self.document
        room, trace = self.room, document.trace
        chosen = self.list.currentRow()
        for part in parts_of(trace, room):
            draw_cross(painter, frame, part.mark, theme)
        for number, mark in enumerate(self.marks):
            if mark.posture in trace.numbers and mark.side is not None:
                row = int(trace.starts[trace.numbers[mark.posture] + 1]) - 1
                floor = to_floor(start_at(trace, room, row), frame)
                foot = trace.pose(row).foot(mark.side)
                draw_sole_outline(painter, floor, trace.body.sole, mark.side, foot, theme, 0.9)
            a, b = (frame.map(QPointF(*end)) for end in mark.tape)
            if number == chosen:
                painter.setPen(QPen(theme.color("centre"), 12.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.SquareCap))
                painter.drawLine(a, b)
            painter.setPen(QPen(theme.color("tape"), 6.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawLine(a, b)
        for number, mark in enumerate(self.marks):
            out = QPointF(-24.0, 24.0) if mark.side is None else QPointF(10.0 * mark.side.sign, 22.0)
            at = frame.map(QPointF(*mark.place)) + out
            draw_tag(painter, at, str(number), theme, "centre" if number == chosen else "ink")

    def press(self, at: QPointF, near: float) -> bool:
        at_mark = self._mark_at(at, near)
        if at_mark is not None:
            self.list.setCurrentRow(at_mark)
        return at_mark is not None

    def over(self, at: QPointF, near: float) -> bool:
        return self._mark_at(at, near) is not None

    def _mark_at(self, at: QPointF, near: float) -> int | None:
        for number, mark in enumerate(self.marks):
            x, y = ((a + b) / 2.0 for a, b in zip(*mark.tape, strict=True))
            if abs(at.x() - x) <= near and abs(at.y() - y) <= near:
                return number
        return None


def _planned(form: Form, trace: Trace, which: int, within: float, told: Progress) -> tuple[Mark, ...]:
    """The marks at the fewest ends, at those where the direction changes, or at all."""
    told.tell(0.0, "marks")
    ends = (
        lambda: fewest_ends(form, trace, within),
        lambda: turning_ends(form, trace),
        lambda: tuple(posture.id for posture in form.postures),
    )[which]()
    return tape_plan(form, trace, ends, told)


def _words(number: int, mark: Mark, say: Figures) -> str:
    lines = [
        f"{number}  {sentence(mark.what, say)}",
        square_to_walls(mark, say),
        tr("or {how}", how=by_corners(mark, say)),
        tr("or {how}", how=by_lines(mark, say)),
    ]
    if not mark.clear:
        lines.append(tr("A foot pivots here: lay it flat, or leave it out."))
    return "\n".join(lines)
