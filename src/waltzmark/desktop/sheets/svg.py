"""Pages of a sheet as SVG: a user unit is a millimetre on paper. Of a chart the room and each posture are elements of
their own, so that any drawing program takes hold of them.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from xml.etree import ElementTree
from xml.etree.ElementTree import Element, SubElement

from PySide6.QtCore import QBuffer, QPointF, QRect, QRectF, QSize
from PySide6.QtGui import QPainter
from PySide6.QtSvg import QSvgGenerator

from waltzmark.core.form.form import Form
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.sheets.chart import chart_pages, draw_end, draw_number, draw_passing, floors_of, frames_of
from waltzmark.desktop.sheets.paper import MM, Page, Paper
from waltzmark.words.figures import Figures

__all__ = ["chart_svg", "page_svg"]

_NAME = "http://www.w3.org/2000/svg"
#: Signs that no XML may hold, however they are written.
_FORBIDDEN = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
_TO_MM = f"scale({1.0 / MM:.9f})"


def _allowed(text: str) -> str:
    return _FORBIDDEN.sub("�", text)


def _drawn(paper: Paper, draw: Callable[[QPainter], None]) -> Iterator[Element]:
    """What is drawn, a unit a 96th of an inch."""
    buffer = QBuffer()
    generator = QSvgGenerator()
    generator.setOutputDevice(buffer)
    generator.setResolution(96)
    wide, high = round(paper.units.width()), round(paper.units.height())
    generator.setSize(QSize(wide, high))
    generator.setViewBox(QRect(0, 0, wide, high))
    painter = QPainter(generator)
    try:
        draw(painter)
    finally:
        painter.end()
    text = _allowed(bytes(buffer.data().data()).decode("utf-8"))
    for child in ElementTree.fromstring(text):
        kind = child.tag.rpartition("}")[2]
        if kind not in ("title", "desc") and (kind != "defs" or len(child)):
            yield child


def _root(paper: Paper, title: str) -> Element:
    wide, high = paper.size
    root = Element(f"{{{_NAME}}}svg", width=f"{wide:g}mm", height=f"{high:g}mm", viewBox=f"0 0 {wide:g} {high:g}")
    _title(root, title or "Waltzmark")
    return root


def _title(of: Element, words: str) -> None:
    SubElement(of, f"{{{_NAME}}}title").text = _allowed(words)


def _group(of: Element, paper: Paper, draw: Callable[[QPainter], None]) -> None:
    """What is drawn as a group, in millimetres."""
    SubElement(of, f"{{{_NAME}}}g", transform=_TO_MM).extend(_drawn(paper, draw))


def _written(root: Element) -> bytes:
    ElementTree.register_namespace("", _NAME)
    return bytes(ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)) + b"\n"


def page_svg(paper: Paper, title: str, page: Page) -> bytes:
    """A page as it is printed."""
    root = _root(paper, title)
    _group(root, paper, page.draw)
    return _written(root)


def chart_svg(
    form: Form,
    trace: Trace,
    paper: Paper,
    scale: float,
    number: int,
    postures: Sequence[str],
    steps: bool,
    say: Figures,
) -> bytes:
    """A page of a chart at a scale, of some postures. steps: whether the steps on the way are drawn too."""
    root = _root(paper, form.title)
    frame, _, _ = frames_of(form, trace, paper, scale)[number]
    _group(root, paper, chart_pages(form, trace, paper, scale, (), say)[number].draw)
    if form.room is not None:
        corners = [frame.map(QPointF(*corner)) for corner in form.room.outline]
        path = " L ".join(f"{corner.x() / MM:.4f} {corner.y() / MM:.4f}" for corner in corners)
        look = {"id": "room", "d": f"M {path} Z", "fill": "none", "stroke": "black", "stroke-width": "0.8"}
        SubElement(root, f"{{{_NAME}}}path", look)
    floors = floors_of(form, trace, frame)
    taken: list[QRectF] = []
    for posture in postures:

        def draw(painter: QPainter, posture: str = posture) -> None:
            if steps:
                draw_passing(painter, trace, floors, posture)
            draw_end(painter, trace, floors, posture)
            draw_number(painter, form, trace, floors, posture, taken)

        group = SubElement(root, f"{{{_NAME}}}g", id=_allowed(posture))
        _title(group, form.posture(posture).title)
        _group(group, paper, draw)
    return _written(root)
