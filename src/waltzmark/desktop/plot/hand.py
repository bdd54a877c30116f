"""A hand on the floor: taking a foot to move it, or its toe to turn it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from PySide6.QtCore import QPointF
from PySide6.QtGui import QTransform

from waltzmark.core import editing
from waltzmark.core.angles import clock_text, heading_difference, normal
from waltzmark.core.dragging import Dragged, dragged_foot, dragged_toe, snapped_heading
from waltzmark.core.pose import Pose, stance_size
from waltzmark.core.score.actions import Part
from waltzmark.core.side import Side
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.painter.soles import foot_transform, outline_path

__all__ = ["Grip", "Hand", "grip_at", "pivot_part"]

#: Ahead of this share of the foot length, measured from the heel centre, a hand takes the toe.
_TOE = 0.66


@dataclass(frozen=True)
class Grip:
    """What a hand has taken: a foot, or its toe, and where it took it on the floor."""

    side: Side
    toe: bool
    start: QPointF


def grip_at(document: Document, floor: QTransform, at: QPointF) -> Grip | None:
    """The foot under a pixel at the end of the selected count; None where there is none, or while one is walking."""
    if document.row == 0 or document.position != document.row:
        return None
    sole, pose = document.trace.body.sole, document.pose
    back, _ = floor.inverted()
    for side in Side:
        own, _ = (foot_transform(pose.foot(side)) * floor).inverted()
        local = own.map(at)
        if outline_path(sole, side).contains(local):
            return Grip(side, local.y() > _TOE * sole.length, back.map(at))
    return None


class Hand:
    """One drag, from taking a foot to letting it go; it is one undo step."""

    def __init__(self, document: Document, editor: Editor, grip: Grip) -> None:
        self._document, self._editor, self.grip = document, editor, grip
        row = document.trace.row(document.row)
        self._count, self._before = row.written, document.trace.pose(document.row - 1)
        self._foot = row.pose.foot(grip.side)
        self._turned = 0.0
        self._dragged: Dragged | None = None
        self.label = ""
        posture = document.form.posture(row.posture) if row.posture else None
        steps = any(getattr(a, "side", None) is grip.side and hasattr(a, "place") for a in self._count.actions)
        share = row.pose.share(grip.side)
        self.refused = ""
        if posture is None or posture.source is not None:
            self.refused = "its counts come from another posture"
        elif not grip.toe and not steps and share > 0.005:
            other = grip.side.other.word
            self.refused = f"carries {100 * share:.0f} %: pour onto the {other} foot first"
        self._selected = (row.posture or "", row.line)

    def move(self, place: QPointF, part: Part, free: bool) -> None:
        """Shows where the foot would be with the hand at a place of the floor; *free*: without snapping."""
        if self.refused:
            self.label = self.refused
            return
        moved = place - self.grip.start
        if self.grip.toe:
            self._turn(place, part, free)
        else:
            x, y = self._foot.x + moved.x(), self._foot.y + moved.y()
            self._dragged = dragged_foot(self._count, self._before, self.grip.side, x, y, self._document.form.twelve)
        self._show()

    def _turn(self, place: QPointF, part: Part, free: bool) -> None:
        sole, foot = self._document.trace.body.sole, self._foot
        px, py = sole.landmark(foot.x, foot.y, foot.heading, part)
        # The hand may go past half a turn: its way is followed, not only where it is.
        start = math.degrees(math.atan2(self.grip.start.x() - px, self.grip.start.y() - py))
        now = math.degrees(math.atan2(place.x() - px, place.y() - py))
        self._turned += heading_difference(normal(start + self._turned), normal(now))
        began = self._before.foot(self.grip.side).heading
        heading = snapped_heading(foot.heading + self._turned, 0.5 if free else 15.0)
        whole = heading_difference(began, foot.heading) + self._turned
        self._dragged = dragged_toe(self._count, self._before, self.grip.side, part, heading, whole)

    def _show(self) -> None:
        """Shows the count as a ghost, with its figures."""
        assert self._dragged is not None
        posture, line = self._selected
        count, replaces = self._dragged.count, self._dragged.replaces
        at = line if replaces else line + 1
        form = editing.replace_lines(self._document.form, posture, at, at + replaces, [count])
        self._document.show_ghost(count, form, posture, at)
        ghost = self._document.ghost
        if ghost is not None:
            self.label = self._figures(ghost.trace.pose(ghost.row), ghost.trace.move(ghost.row, self.grip.side).turn)

    def _figures(self, pose: Pose, turn: float) -> str:
        foot = pose.foot(self.grip.side)
        if self.grip.toe:
            way = "in" if (turn > 0) == (self.grip.side is Side.LEFT) else "out"
            return f"{abs(turn):.0f}° {way}, to {clock_text(foot.heading)}"
        length, width = stance_size(pose.left, pose.right, pose.facing)
        return f"{100 * length:.0f} cm long, {100 * width:.0f} cm wide"

    def release(self) -> None:
        """Writes what was dragged."""
        dragged, self._dragged = self._dragged, None
        self._document.show_ghost(None)
        if dragged is None:
            return
        if dragged.replaces:
            if dragged.count != self._count:
                self._editor.change(dragged.count)
        else:
            self._editor.insert([dragged.count])

    def cancel(self) -> None:
        """Lets go without writing anything."""
        self._dragged = None
        self._document.show_ghost(None)


def pivot_part(control: bool, shift: bool) -> Part:
    """The part of the foot a dragged toe turns on: the heel, with Ctrl the ball, with Shift the toe itself."""
    return "ball" if control else ("toe" if shift else "heel")
