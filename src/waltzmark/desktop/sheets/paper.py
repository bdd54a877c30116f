"""Paper and pages. On a sheet a unit is a 96th of an inch, as on a screen, so that the same painter draws both."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from PySide6.QtCore import QMarginsF, QRectF, QSizeF, Qt
from PySide6.QtGui import QFont, QPageLayout, QPageSize, QPainter, QPen

from waltzmark.core.base.records import Record, field
from waltzmark.core.form.form import Sheet
from waltzmark.desktop.theme import Theme, font

__all__ = ["INK", "MM", "Page", "Paper", "draw_head", "fitted_text", "plain_font"]

#: Units in a millimetre.
MM = 96.0 / 25.4
_SIZES = {"A4": (210.0, 297.0), "A5": (148.0, 210.0), "Letter": (215.9, 279.4)}
_MARGIN = 12.0  # millimetres

#: Ink on paper: left and right are told by hatching and letters, never by colour.
INK = Theme(
    name="light",
    paper="#ffffff",
    raised="#ffffff",
    rule="#9a9a9a",
    ink="#000000",
    faint="#4a4a4a",
    board="#ffffff",
    board_other="#f6f6f6",
    seam="#d8d8d8",
    outside="#ffffff",
    wall="#000000",
    obstacle="#dcdcdc",
    tape="#000000",
    left="#1c1c1c",
    left_pale="#ffffff",
    right="#4a4a4a",
    right_pale="#ffffff",
    centre="#303030",
    torso="#000000",
    pelvis="#555555",
    chosen="#e8e8e8",
    chosen_ink="#000000",
    stop="#000000",
    caution="#000000",
    note="#444444",
    good="#000000",
    ghost="#555555",
    breath_in="#000000",
    breath_out="#000000",
)


class Paper(Record):
    """A paper by name, lying on its side or not; sizes in millimetres."""

    name: str = "A4"
    landscape: bool = False

    @classmethod
    def of(cls, sheet: Sheet) -> Paper:
        return cls(sheet.paper, sheet.landscape)

    @property
    def size(self) -> tuple[float, float]:
        wide, high = _SIZES[self.name]
        return (high, wide) if self.landscape else (wide, high)

    @property
    def units(self) -> QSizeF:
        """The whole page in units."""
        return QSizeF(self.size[0] * MM, self.size[1] * MM)

    @property
    def inside(self) -> QRectF:
        """Within the margins, units."""
        edge = _MARGIN * MM
        return QRectF(0.0, 0.0, self.units.width(), self.units.height()).adjusted(edge, edge, -edge, -edge)

    @property
    def layout(self) -> QPageLayout:
        """The same for a printer, without margins of its own: those are in the pages."""
        way = QPageLayout.Orientation.Landscape if self.landscape else QPageLayout.Orientation.Portrait
        size = QPageSize(QSizeF(*_SIZES[self.name]), QPageSize.Unit.Millimeter, self.name)
        return QPageLayout(size, way, QMarginsF(), QPageLayout.Unit.Millimeter)


class Page(Record):
    """One page: its title, how it is drawn, and the postures that begin on it, by id and title, for bookmarks."""

    title: str
    draw: Callable[[QPainter], None]
    bookmarks: tuple[tuple[str, str], ...] = field(default=())


def fitted_text(
    painter: QPainter,
    box: QRectF,
    words: str,
    points: float,
    bold: bool = False,
    flags: Qt.AlignmentFlag | None = None,
    wrap: bool = True,
    least: float = 4.0,
) -> QRectF:
    """Writes words into a box, smaller where they would be cut off; where they are then. They break between words, and
    within one where it is longer than the box."""
    way = int(flags if flags is not None else Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
    if wrap:
        way |= int(Qt.TextFlag.TextWrapAnywhere if _longest(words) > 40 else Qt.TextFlag.TextWordWrap)
    size = points
    while True:
        painter.setFont(plain_font(size, bold))
        told = painter.boundingRect(box, way, words)
        if (told.width() <= box.width() + 0.5 and told.height() <= box.height() + 0.5) or size <= least:
            break
        size *= 0.92
    painter.drawText(box, way, words)
    return told


@lru_cache(maxsize=256)
def plain_font(points: float, bold: bool) -> QFont:
    """The application's font without ligatures: a PDF's readers do not find words with them."""
    made = QFont(font(points, bold=bold))
    for feature in ("liga", "dlig", "clig"):
        made.setFeature(QFont.Tag(feature), 0)
    return made


def _longest(words: str) -> int:
    return max((len(word) for word in words.split()), default=0)


def draw_head(painter: QPainter, paper: Paper, title: str, below: str) -> QRectF:
    """The head of a page; what is left of it below."""
    inside = paper.inside
    painter.setPen(QPen(INK.color("ink"), 1.0))
    told = fitted_text(painter, QRectF(inside.left(), inside.top(), inside.width(), 34.0), title, 15.0, bold=True)
    under = QRectF(inside.left(), told.bottom() + 2.0, inside.width(), 26.0)
    painter.setPen(QPen(INK.color("faint"), 1.0))
    said = fitted_text(painter, under, below, 9.0)
    painter.setPen(QPen(INK.color("ink"), 1.0))
    return inside.adjusted(0.0, said.bottom() - inside.top() + 8.0, 0.0, 0.0)
