"""A start or a change that is previewed: what it would sweep, its mark, and what clearance it leaves."""

from __future__ import annotations

from PySide6.QtCore import QLineF, QPointF, QRectF
from PySide6.QtGui import QPainter, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.room.breaks import parts_of
from waltzmark.core.room.changes import Change
from waltzmark.core.room.shape import silhouette
from waltzmark.core.room.starts import Standing
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.placing import placed, tag_size
from waltzmark.desktop.painter.standing import draw_cross, draw_swept, mark_lines, to_floor
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures
from waltzmark.words.language import tr

__all__ = ["SweptParts", "paint_preview", "tag_preview"]


class SweptParts:
    """What the parts of walks sweep, remembered for the last form of each name."""

    def __init__(self) -> None:
        self._known: dict[str, tuple[Form, list[tuple[Start, list[Floats]]]]] = {}

    def of(self, name: str, form: Form, trace: Trace | None = None) -> list[tuple[Start, list[Floats]]]:
        """For each part of a form's walk in its room the start of the whole, and the rings around what it sweeps."""
        assert form.room is not None
        known = self._known.get(name)
        if known is None or known[0] != form:
            trace = trace or walk(form)
            parts = parts_of(trace, form.room)
            known = form, [(part.start, silhouette(trace, part.first, part.after)) for part in parts]
            self._known[name] = known
        return known[1]


def _start(previewed: Standing | Change) -> Start:
    return previewed.room.start if isinstance(previewed, Change) else previewed.start


def paint_preview(
    painter: QPainter, frame: QTransform, previewed: Standing | Change, form: Form, parts: SweptParts, theme: Theme
) -> None:
    """Draws what would be swept, and the marks; form: the one that is there."""
    if isinstance(previewed, Change):
        form = previewed.form
    else:
        assert form.room is not None
        form = replace(form, room=replace(form.room, start=previewed.start, breaks=()))
    for begun, rings in parts.of("preview", form):
        draw_swept(painter, to_floor(begun, frame), rings, theme, "ghost", 0.10, dashed=True)
    draw_cross(painter, frame, _start(previewed), theme, ghost=True)
    if isinstance(previewed, Change):
        for mark in previewed.room.breaks:
            draw_cross(painter, frame, mark.mark, theme, ghost=True)


def tag_preview(
    painter: QPainter, frame: QTransform, previewed: Standing | Change, shown: Start, say: Figures, theme: Theme
) -> None:
    """What clearance the previewed start leaves, next to its mark and clear of all marks; shown: the start now."""
    start = _start(previewed)
    far = say.length(previewed.near.clearance)
    words = tr("here: {far}", far=far) if isinstance(previewed, Standing) else tr("changed: {far}", far=far)
    marks = [line for each in (start, shown) for line in mark_lines(frame, each)]
    middle = to_floor(start, frame).map(QPointF(0.0, 0.0))
    [at] = placed([(QLineF(middle, middle), tag_size(words))], marks, QRectF(painter.window()))
    draw_tag(painter, at, words, theme, "ghost")
