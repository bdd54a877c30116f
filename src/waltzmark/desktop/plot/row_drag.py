"""A hand on a row of the score: the beam is dragged to pour the weight, the dial to turn the waist."""

from __future__ import annotations

import math
from typing import Literal

from PySide6.QtCore import QPointF, QRectF

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.edit.snapping import NO_SNAPS
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.plot.score_delegate import beam_box, dial_centre
from waltzmark.desktop.widgets.drag import ShareDrag, TorsoDrag

__all__ = ["Handle", "RowDrag", "handle_at"]

Handle = Literal["beam", "dial"]
_AROUND = 15.0  # pixels about the middle of the dial that take it


def handle_at(row: QRectF, at: QPointF) -> Handle | None:
    """What of a row's drawings is under a pixel."""
    if beam_box(row).adjusted(-4, -2, 4, 2).contains(at):
        return "beam"
    away = at - dial_centre(row)
    return "dial" if math.hypot(away.x(), away.y()) <= _AROUND else None


class RowDrag:
    """One drag of the beam or of the dial of the selected count. A pixel sideways pours 1 %."""

    def __init__(self, document: Document, editor: Editor, handle: Handle, row: QRectF, start: QPointF) -> None:
        self.handle, self._start, self._editor = handle, start, editor
        self._middle = dial_centre(row)
        self._share = document.session.pose.left_share
        self._heading = document.session.pose.torso
        self.drag: ShareDrag | TorsoDrag
        self.drag = ShareDrag(document, editor) if handle == "beam" else TorsoDrag(document, editor)

    def move(self, at: QPointF, free: bool) -> None:
        """Follows the pointer; *free*: without snapping."""
        if isinstance(self.drag, ShareDrag):
            self.drag.move(self._share - (at.x() - self._start.x()) / 100.0, free)
            return
        turned = heading_difference(self._toward(self._start), self._toward(at))
        self.drag.move(normal(self._heading + turned), NO_SNAPS if free else self._editor.snaps)

    def _toward(self, at: QPointF) -> float:
        away = at - self._middle
        return math.degrees(math.atan2(away.x(), -away.y()))
