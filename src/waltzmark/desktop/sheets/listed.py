"""Postures as rows, cue cards, and what was done, to sign."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.core.practice.entries import Entry
from waltzmark.core.score.actions import Count, Expect
from waltzmark.core.score.write import write_action, write_count
from waltzmark.core.walk.figures import Figures as Walked
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.figure import Looking, draw_figure
from waltzmark.desktop.painter.marks import draw_beam, draw_dial
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.sheets.paper import INK, Page, Paper, draw_head, fitted_text, plain_font
from waltzmark.words.cues import short
from waltzmark.words.figures import Figures
from waltzmark.words.findings import severity_name, what
from waltzmark.words.language import number as figure
from waltzmark.words.language import tr

__all__ = ["cue_pages", "log_pages", "posture_pages"]

_CELL = (115.0, 112.0)  # units of a count: at least so wide, so high
_FEET = (58.0, 54.0)  # and of the feet in it
_FIGURE = 50.0  # and of the figure beside them
_HEAD, _LINE = 26.0, 14.0  # of a posture's head, and of a line below its counts
_TOGETHER = 12  # lines that are not torn apart
_STEPS = 9.0  # points of what is done, on a cue card
_TITLE = 62.0  # units of the title of a cue card


class Bodies:
    """The figures of a walk, drawn small for paper. seen: from behind or from the front."""

    def __init__(self, trace: Trace, seen: str) -> None:
        self._trace, self._figures, self._turn = trace, Walked(trace), 180.0 if seen == "front" else 0.0

    def draw(self, painter: QPainter, row: int, box: QRectF) -> None:
        """The figure at the end of a count, in a box of units."""
        body, figure = self._trace.body, self._figures.at(row, 1.0)
        heading = float(self._trace.facing[row]) + self._turn
        looking = Looking(
            heading,
            box.center().x(),
            box.bottom(),
            box.height() / (1.02 * body.stature),
            self._trace.pose(row).midpoint,
        ).holding(figure.joints[0], box.left() + 3.0, box.right() - 3.0)
        painter.setPen(QPen(INK.color("rule"), 0.6))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        draw_figure(painter, looking, figure, body, INK, line=0.5)


class _Block(Record):
    """What is not torn apart between pages: a posture's head, or "", the rows of counts beside each other, and what
    stands below them, a line each."""

    posture: str
    rows: tuple[int, ...]
    below: tuple[str, ...] = ()

    @property
    def high(self) -> float:
        """Units."""
        return (_HEAD if self.posture else 0.0) + (_CELL[1] if self.rows else 4.0) + _LINE * len(self.below)


def posture_pages(
    form: Form,
    trace: Trace,
    paper: Paper,
    chosen: Sequence[str],
    say: Figures,
    findings: Sequence[Finding] = (),
    seen: str = "none",
) -> list[Page]:
    """One row a posture: its counts as small drawings with their words, where it ends, what is expected of it, and what
    was found in it. seen: from where the figures of its counts are, or that there are none."""
    bodies = None if seen == "none" else Bodies(trace, seen)
    inside = paper.inside
    across = max(int(inside.width() // _wide(bodies)), 1)
    below = {posture: _expected(trace, posture) for posture in chosen}
    for finding in findings:
        if finding.posture in below:
            below[finding.posture].append(
                tr(
                    "{severity_name}, count {count}: {what}",
                    severity_name=severity_name(finding.severity),
                    count=finding.count,
                    what=what(finding, say),
                )
            )
    blocks: list[_Block] = []
    for posture in chosen:
        rows = range(*trace.span(posture))
        cut = [tuple(rows[first : first + across]) for first in range(0, max(len(rows), 1), across)]
        blocks += [_Block(posture if n == 0 else "", each) for n, each in enumerate(cut)]
        for first in range(0, len(below[posture]), _TOGETHER):
            blocks.append(_Block("", (), tuple(below[posture][first : first + _TOGETHER])))
    pages: list[list[_Block]] = [[]]
    left = inside.height() - 70.0
    for block in blocks:
        if block.high > left and pages[-1]:
            pages.append([])
            left = inside.height() - 70.0
        pages[-1].append(block)
        left -= block.high
    made = []
    for number, page in enumerate(pages, 1):

        def draw(painter: QPainter, page: list[_Block] = page, number: int = number) -> None:
            box = draw_head(
                painter,
                paper,
                form.title or tr("Postures"),
                tr("Postures, page {number} of {pages}", number=number, pages=len(pages)),
            )
            top = box.top()
            for block in page:
                _block(painter, form, trace, QRectF(box.left(), top, box.width(), block.high), block, say, bodies)
                top += block.high

        marks = tuple((block.posture, form.posture(block.posture).title) for block in page if block.posture)
        made.append(Page(tr("Postures {number}", number=number), draw, marks))
    return made


def _expected(trace: Trace, posture: str) -> list[str]:
    """What the analyst expects of a posture, a line for each count it is expected after."""
    number, told = trace.numbers[posture], dict[int, list[str]]()
    for said in trace.passages[number].expectations:
        told.setdefault(said.row + 1, []).append(write_action(said.expect).removeprefix("expect "))
    return [
        tr("expected after count {n}: {expected}", n=n, expected=", ".join(told[n]))
        if n
        else tr("expected at the start: {expected}", expected=", ".join(told[n]))
        for n in sorted(told)
    ]


def _wide(bodies: Bodies | None) -> float:
    """How wide the cell of a count is at least, units."""
    return _CELL[0] + (_FIGURE if bodies is not None else 0.0)


def _block(
    painter: QPainter, form: Form, trace: Trace, box: QRectF, block: _Block, say: Figures, bodies: Bodies | None
) -> None:
    top, cell_wide = box.top(), box.width() / max(int(box.width() // _wide(bodies)), 1)
    if block.posture:
        _posture_head(painter, form, trace, QRectF(box.left(), top, box.width(), 22.0), block.posture, say)
        top += _HEAD
    for place, row in enumerate(block.rows):
        cell = QRectF(box.left() + place * cell_wide, top, cell_wide - 6.0, _CELL[1] - 6.0)
        _count(painter, trace, row, cell, _common_scale(trace, row), bodies)
    top += _CELL[1] if block.rows else 0.0
    for words in block.below:
        line = QRectF(box.left() + 4.0, top, box.width() - 4.0, _LINE)
        fitted_text(painter, line, words, 8.0, wrap=False, least=2.5)
        top += _LINE


def _posture_head(painter: QPainter, form: Form, trace: Trace, box: QRectF, posture: str, say: Figures) -> None:
    stop = trace.span(posture)[1]
    ends = tr("ends facing {toward}", toward=say.toward(float(trace.torso[max(stop - 1, 0)])))
    painter.setPen(QPen(INK.color("ink"), 1.0))
    painter.drawLine(box.topLeft(), box.topRight())
    title = f"{form.index(posture) + 1}  {form.posture(posture).title}"
    fitted_text(painter, box.adjusted(0.0, 3.0, -110.0, 0.0), title, 11.0, True, wrap=False, least=3.0)
    right = QRectF(box.right() - 108.0, box.top() + 4.0, 108.0, 18.0)
    fitted_text(painter, right, ends, 8.5, flags=Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop, wrap=False)


@lru_cache(maxsize=4)
def _soles_around(trace: Trace) -> Floats:
    """(n, 2, 2) what the soles of each row cover: the least and the greatest of x and y, metres of the floor frame."""
    sole = trace.body.sole
    points = np.concatenate(
        [
            sole.placed(sole.outlines[side], trace.heels[:, side, 0], trace.heels[:, side, 1], trace.headings[:, side])
            for side in SIDES
        ],
        axis=1,
    )
    return np.stack([points.min(axis=1), points.max(axis=1)], axis=1)


@lru_cache(maxsize=256)
def _scale_of(trace: Trace, start: int, stop: int) -> float:
    low, high = _soles_around(trace)[start:stop].transpose(1, 0, 2)
    return float((np.array(_FEET) / np.maximum(high - low, 0.3)).min())


def _common_scale(trace: Trace, row: int) -> float:
    """Units a metre at which the feet of each count of the row's posture find room."""
    posture = trace.posture(row)
    return _scale_of(trace, *trace.span(posture)) if posture is not None else _scale_of(trace, row, row + 1)


def _count(painter: QPainter, trace: Trace, row: int, cell: QRectF, scale: float, bodies: Bodies | None) -> None:
    """One count: the figure where there is one, feet at so many units a metre, beam, dial, words."""
    pose = trace.pose(row)
    painter.setPen(QPen(INK.color("rule"), 0.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(cell)
    fitted_text(
        painter, QRectF(cell.left() + 3.0, cell.top() + 1.0, 20.0, 12.0), str(int(trace.counts[row])), 8.0, True
    )
    if bodies is not None:
        bodies.draw(painter, row, QRectF(cell.left() + 4.0, cell.top() + 10.0, _FIGURE, 58.0))
    feet = QRectF(cell.left() + 3.0 + (_FIGURE if bodies is not None else 0.0), cell.top() + 10.0, *_FEET)
    middle = QPointF(*_soles_around(trace)[row].mean(axis=0).tolist())
    floor = QTransform.fromTranslate(feet.center().x(), feet.center().y()).scale(scale, -scale)
    floor.translate(-middle.x(), -middle.y())
    for side in sorted(Side, key=lambda each: pose.foot(each).contact is Contact.AIR):
        draw_sole(painter, floor, trace.body.sole, side, pose.foot(side), pose.share(side), INK, letter=False)
    draw_beam(painter, QRectF(cell.right() - 46.0, cell.top() + 6.0, 43.0, 30.0), pose.left_share, INK, 7.0)
    draw_dial(painter, QPointF(cell.right() - 24.0, cell.top() + 52.0), 13.0, pose.torso, INK)
    painter.setPen(QPen(INK.color("ink"), 1.0))
    words = QRectF(cell.left() + 3.0, cell.top() + 70.0, cell.width() - 6.0, cell.height() - 72.0)
    written = trace.written[row]
    actions = tuple(action for action in written.actions if not isinstance(action, Expect))
    fitted_text(painter, words, write_count(Count(actions, written.beats)), 6.8, least=2.5)


def cue_pages(form: Form, trace: Trace, paper: Paper, chosen: Sequence[str], say: Figures) -> list[Page]:
    """One line a posture in large type, the facing it begins in first; folded twice it goes into a pocket."""
    lines = []
    for posture in chosen:
        start, stop = trace.span(posture)
        facing = say.toward(float(trace.torso[max(start - 1, 0)]))
        steps = "; ".join(", ".join(short(trace, row, say)[:2]) for row in range(start, min(stop, start + 12)))
        lines.append((facing, f"{form.index(posture) + 1}  {form.posture(posture).title}", steps))
    inside, middle = paper.inside, paper.units.height() / 2.0
    metrics = QFontMetricsF(plain_font(_STEPS, False))
    way = int(Qt.TextFlag.TextWordWrap)
    pages: list[Page] = []
    placed: list[list[tuple[float, float, int]]] = []  # of each page: from where, how high, which line
    top = math.inf
    for number, (_, _, steps) in enumerate(lines):
        high = min(metrics.boundingRect(QRectF(0.0, 0.0, inside.width() - 64.0, 1000.0), way, steps).height(), 150.0)
        high += 26.0
        if top < middle < top + high:  # nothing is written across the fold
            top = middle + 8.0
        if top + high > inside.bottom():
            placed.append([])
            top = inside.top() + _TITLE
        placed[-1].append((top, high, number))
        top += high + 4.0
    for those in placed:

        def draw(painter: QPainter, those: list[tuple[float, float, int]] = those) -> None:
            draw_head(painter, paper, form.title or tr("Cue card"), tr("Cue card: facing, posture, movement"))
            box = inside
            for top, high, number in those:
                facing, title, steps = lines[number]
                fitted_text(painter, QRectF(box.left(), top, 58.0, 26.0), facing, 14.0, True, wrap=False)
                title_box = QRectF(box.left() + 62.0, top, box.width() - 62.0, 22.0)
                fitted_text(painter, title_box, title, 13.0, True, wrap=False, least=3.0)
                steps_box = QRectF(box.left() + 62.0, top + 21.0, box.width() - 62.0, high - 20.0)
                fitted_text(painter, steps_box, steps, _STEPS, least=2.5)
            painter.setPen(QPen(INK.color("rule"), 0.6, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(0.0, middle), QPointF(paper.units.width(), middle))
            painter.setPen(QPen(INK.color("ink"), 1.0))

        marks = tuple((chosen[number], form.posture(chosen[number]).title) for _, _, number in those)
        pages.append(Page(tr("Cue card"), draw, marks))
    return pages


def log_pages(form: Form, paper: Paper, entries: Sequence[Entry]) -> list[Page]:
    """What was done, the newest first, with a line to sign."""
    inside = paper.inside
    a_page = max(int((inside.height() - 110.0) / 17.0), 1)
    shown = list(reversed(entries))
    pages = []
    for first in range(0, max(len(shown), 1), a_page):
        part = shown[first : first + a_page]

        def draw(painter: QPainter, part: list[Entry] = part, first: int = first) -> None:
            whole = max(math.ceil(len(shown) / a_page), 1)
            below = tr(
                "What was done, page {first} of {whole}, {shown} entries",
                first=first // a_page + 1,
                whole=whole,
                shown=len(shown),
            )
            box = draw_head(painter, paper, form.title or tr("Practice"), below)
            wide = [0.17, 0.16, 0.33, 0.08, 0.07, 0.19]
            top = box.top()
            for entry in part:
                measured = ""
                if entry.measured is not None:
                    measured = tr(
                        "{measured} of {planned} {unit}",
                        measured=figure(entry.measured),
                        planned=figure(entry.planned or 0.0),
                        unit=entry.unit,
                    )
                cells = (
                    f"{entry.when:%Y-%m-%d %H:%M}",
                    entry.what or entry.kind,
                    entry.title,
                    entry.side,
                    f"{entry.reps} ×",
                    f"{entry.outcome} {measured}",
                )
                x = box.left()
                for words, share in zip(cells, wide, strict=True):
                    cell = QRectF(x, top, share * box.width() - 4.0, 15.0)
                    fitted_text(painter, cell, words, 8.0, wrap=False, least=2.5)
                    x += share * box.width()
                top += 17.0
            if not part:
                fitted_text(painter, QRectF(box.left(), top, box.width(), 20.0), tr("Nothing yet."), 10.0)
            line = inside.bottom() - 20.0
            painter.setPen(QPen(INK.color("ink"), 0.8))
            for x, words in (
                (inside.left(), tr("practised by")),
                (inside.left() + inside.width() * 0.55, tr("seen by")),
            ):
                painter.drawLine(QPointF(x, line), QPointF(x + inside.width() * 0.4, line))
                fitted_text(painter, QRectF(x, line + 2.0, 200.0, 14.0), words, 7.5, wrap=False)

        pages.append(Page(tr("Practice record"), draw))
    return pages
