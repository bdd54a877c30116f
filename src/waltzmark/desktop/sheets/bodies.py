"""The class sheet: a row for each posture, a column for each person, and only what differs from the form."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QLineF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from waltzmark.core.fit.fitting import Fitted
from waltzmark.core.form.form import Form
from waltzmark.desktop.sheets.paper import INK, Page, Paper, draw_head, fitted_text, plain_font
from waltzmark.words.figures import Figures
from waltzmark.words.fitting import difference, ends_words, fits_words
from waltzmark.words.language import tr

__all__ = ["body_pages"]

_FIRST, _NARROWEST = 128.0, 112.0  # units of the column of postures, and of a person's at least
_PAD = 4.0
_POINTS = (7.2, 9.5)  # of the words in the table, by how wide a column is
_TITLE, _PERSON = 62.0, 44.0  # units of the title of a page, and of the head of its table

#: A posture and what each person does in it.
_Row = tuple[str, list[str]]


def body_pages(form: Form, paper: Paper, fits: Sequence[Fitted], say: Figures) -> list[Page]:
    """As many people beside each other as a page is wide, and as many postures as it is high."""
    inside = paper.inside
    across = max(int((inside.width() - _FIRST) // _NARROWEST), 1)
    sheets: list[tuple[Sequence[Fitted], list[tuple[_Row, float]], float]] = []
    for first in range(0, len(fits), across):
        people = fits[first : first + across]
        wide = (inside.width() - _FIRST) / len(people)
        broken = _broken(_rows(form, people, say), wide, inside.height() - _TITLE - _PERSON)
        sheets += [(people, part, wide) for part in broken]
    return [
        _page(form, paper, *each, say, tr("page {number} of {pages}", number=number, pages=len(sheets)))
        for number, each in enumerate(sheets, 1)
    ]


def _rows(form: Form, people: Sequence[Fitted], say: Figures) -> list[_Row]:
    """What differs, by posture, and in the end where each of them ends."""
    cells: dict[str, list[list[str]]] = {}
    for number, fit in enumerate(people):
        for change in fit.changes:
            told = [(line.posture, line.count, *difference(line)) for line in change.lines]
            if not told and change.posture is not None:
                told = [(change.posture, change.count, "", tr("something to hold"))]
            for posture, count, gone, come in told:
                words = f"{count}: {gone} → {come}" if gone else f"{count}: + {come}"
                for name in (posture, *change.also):
                    cells.setdefault(name, [[] for _ in people])[number].append(words)
    rows = [
        (f"{form.index(posture.id) + 1}  {posture.title}", ["\n".join(each) for each in cells[posture.id]])
        for posture in form.postures
        if posture.id in cells
    ]
    return [*rows, (tr("The end"), [ends_words(fit, say) for fit in people])]


def _points(wide: float) -> float:
    """Points of the words in a table whose columns are so wide."""
    return min(max(wide / 16.0, _POINTS[0]), _POINTS[1])


def _high(text: str, wide: float, points: float, bold: bool = False) -> float:
    """How high words are in a column, units."""
    way = int(Qt.TextFlag.TextWordWrap)
    metrics = QFontMetricsF(plain_font(points, bold))
    return metrics.boundingRect(QRectF(0.0, 0.0, wide - 2.0 * _PAD, 10_000.0), way, text).height() if text else 0.0


def _broken(rows: list[_Row], wide: float, high: float) -> list[list[tuple[_Row, float]]]:
    """Rows as they go on pages, each with its height."""
    pages: list[list[tuple[_Row, float]]] = [[]]
    left, points = high, _points(wide)
    for title, cells in rows:
        own = max(_high(title, _FIRST, points, True), *(_high(cell, wide, points) for cell in cells)) + 2.0 * _PAD
        own = min(own, high)
        if own > left and pages[-1]:
            pages.append([])
            left = high
        pages[-1].append(((title, cells), own))
        left -= own
    return pages


def _page(
    form: Form,
    paper: Paper,
    people: Sequence[Fitted],
    rows: list[tuple[_Row, float]],
    wide: float,
    say: Figures,
    which: str,
) -> Page:
    def draw(painter: QPainter) -> None:
        below = tr("Class sheet, {page}. Count: as written → as this person does it", page=which)
        box = draw_head(painter, paper, form.title or tr("Class sheet"), below)
        top = box.top()
        for column, fit in enumerate(people):
            cell = QRectF(box.left() + _FIRST + column * wide + _PAD, top, wide - 2.0 * _PAD, 18.0)
            fitted_text(painter, cell, fit.form.body.name, 10.5, True, wrap=False, least=4.0)
            about = f"{say.length(fit.form.body.stature)} · {fits_words(fit)}"
            painter.setPen(QPen(INK.color("faint" if fit.fits else "stop"), 1.0))
            fitted_text(painter, QRectF(cell.left(), top + 18.0, cell.width(), 24.0), about, 7.4, least=4.0)
            painter.setPen(QPen(INK.color("ink"), 1.0))
        top += _PERSON
        for (title, cells), high in rows:
            _line(painter, box.left(), top, box.right(), top)
            columns = [(box.left(), _FIRST, title, True)]
            columns += [(box.left() + _FIRST + n * wide, wide, words, False) for n, words in enumerate(cells)]
            for left, own, words, bold in columns:
                cell = QRectF(left + _PAD, top + _PAD, own - 2.0 * _PAD, high - 2.0 * _PAD)
                fitted_text(painter, cell, words, _points(wide), bold, least=4.0)
            top += high
        _line(painter, box.left(), top, box.right(), top)
        for column in range(len(people)):
            _line(painter, box.left() + _FIRST + column * wide, box.top(), box.left() + _FIRST + column * wide, top)

    return Page(tr("Class sheet"), draw)


def _line(painter: QPainter, *ends: float) -> None:
    painter.setPen(QPen(INK.color("rule"), 0.6))
    painter.drawLine(QLineF(*ends))
    painter.setPen(QPen(INK.color("ink"), 1.0))
