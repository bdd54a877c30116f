"""A hand on the floor: taking a foot to move it, or its toe to turn it."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF
from PySide6.QtGui import QTransform

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose, stance_size
from waltzmark.core.edit.dragging import dragged_foot, dragged_toe
from waltzmark.core.edit.snapping import Snaps, StanceSize, snapped_heading, snapped_place
from waltzmark.core.score.actions import Faced, Part, Pivot, Step
from waltzmark.core.score.facings import Clock
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.painter.soles import foot_transform, outline_path
from waltzmark.desktop.widgets.drag import CountDrag
from waltzmark.words import named
from waltzmark.words.language import N_, number, percent, tr
from waltzmark.words.sentences import sentence

__all__ = ["FootDrag", "Grip", "grip_at", "pivot_part"]

#: Ahead of this share of the foot length, measured from the heel centre, a hand takes the toe.
_TOE = 0.66


class Grip(Record):
    """What a hand has taken: a foot, or its toe, and where it took it on the floor."""

    side: Side
    toe: bool
    start: QPointF


def grip_at(document: Document, floor: QTransform, at: QPointF) -> Grip | None:
    """The foot under a pixel at the end of the selected count; None where there is none, or while one is walking."""
    if document.session.position != document.session.row:
        return None
    sole, pose = document.trace.body.sole, document.session.pose
    back, _ = floor.inverted()
    # The foot drawn on top is taken first.
    for side in sorted(Side, key=lambda s: pose.foot(s).contact is not Contact.AIR):
        own, _ = (foot_transform(pose.foot(side)) * floor).inverted()
        local = own.map(at)
        if outline_path(sole, side).contains(local):
            return Grip(side, local.y() > _TOE * sole.of(side), back.map(at))
    return None


class FootDrag(CountDrag):
    """A foot, or its toe, being dragged."""

    def __init__(self, document: Document, editor: Editor, grip: Grip) -> None:
        super().__init__(document, editor)
        self.grip = grip
        self._foot = self._pose.foot(grip.side)
        self._turned = 0.0
        self._step = self._count.one(Step, grip.side)
        share = self._pose.share(grip.side)
        if not self.refused and not grip.toe and self._step is None and share > 0.005:
            first = (
                N_("carries {share}: shift onto the right foot first"),
                N_("carries {share}: shift onto the left foot first"),
            )
            self.refused = tr(first[grip.side], share=percent(100 * share))

    def move(self, place: QPointF, part: Part | None, snaps: Snaps, near: float) -> None:
        """Shows where the foot would be with the hand at a place of the floor, keeping to what is at most *near*
        metres away."""
        if self.refused:
            self.label = self.refused
        elif self.grip.toe:
            self._turn(place, part, snaps)
        else:
            self._put(place - self.grip.start, snaps, near)

    def _put(self, moved: QPointF, snaps: Snaps, near: float) -> None:
        document, side, before = self._document, self.grip.side, self._before
        if self._step is None:  # it will be a new count, which begins where this one ends
            before = self._pose
        faced = self._step.place if self._step is not None and isinstance(self._step.place, Faced) else None
        facing = before.torso if faced is None else faced.facing.heading(before.torso, document.form.twelve)
        to = snapped_place(
            self._foot.x + moved.x(),
            self._foot.y + moved.y(),
            near,
            snaps,
            before.foot(side.other),
            side,
            facing,
            self._sizes(before, facing),
            document.session.room,
            self._marks(),
        )
        own_size = None
        if faced is not None:
            away = heading_difference(before.foot(side.other).heading, facing)
            size, _ = document.trace.ground.size(_bare(faced), self._pose.sink, side.other, away)
            own_size = (abs(size.length), size.width)
        dragged = dragged_foot(
            self._count, before, side, to.x, to.y, document.form.twelve, own_size, decimals=int(to.exact)
        )
        if self._propose(dragged) and document.session.ghost is not None:
            ghost = document.session.ghost.trace.pose(document.session.ghost.row)
            length, width = stance_size(ghost.left, ghost.right, ghost.facing if faced is None else facing)
            figures = tr(
                "{length} long, {width} wide",
                length=document.session.say.length(length),
                width=document.session.say.length(width),
            )
            self.label = "  ·  ".join((figures, *map(sentence, to.to)))

    def _sizes(self, before: Pose, facing: float) -> list[StanceSize]:
        """The stances of the school as this foot would step into them."""
        ground, support = self._document.trace.ground, self.grip.side.other
        away = heading_difference(before.foot(support).heading, facing)
        faced = [(name, Faced(Clock(0), None, name)) for name in ground.school.stances]
        return [StanceSize(name, *ground.size(each, self._pose.sink, support, away)[0][:2]) for name, each in faced]

    def _marks(self) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
        """Where heels stood before this count."""
        row = self._document.session.row
        return self._document.trace.heels[:row].reshape(-1, 2)

    def _turn(self, place: QPointF, chosen: Part | None, snaps: Snaps) -> None:
        pivot = self._count.one(Pivot, self.grip.side)
        part: Part = chosen or (pivot.part if pivot else "heel")
        sole, foot = self._document.trace.body.sole, self._foot
        px, py = sole.landmark(foot.x, foot.y, foot.heading, part, self.grip.side)
        # The hand may go past half a turn: its way is followed, not only where it is.
        start = math.degrees(math.atan2(self.grip.start.x() - px, self.grip.start.y() - py))
        now = math.degrees(math.atan2(place.x() - px, place.y() - py))
        self._turned += heading_difference(normal(start + self._turned), normal(now))
        began = self._before.foot(self.grip.side).heading
        heading = snapped_heading(foot.heading + self._turned, snaps)
        whole = heading_difference(began, foot.heading) + self._turned
        if self._propose(dragged_toe(self._count, self._before, self.grip.side, chosen, heading, whole)):
            assert self._document.session.ghost is not None
            ghost, side = self._document.session.ghost, self.grip.side
            turn = ghost.trace.move(ghost.row, side).turn
            inward = (turn > 0) == (side is Side.LEFT)
            facing = self._document.session.say.toward(
                ghost.trace.pose(ghost.row).foot(side).heading, self._before.torso
            )
            by = number(abs(turn), 0)
            self.label = (
                tr("{turn}° in, to {facing}", turn=by, facing=facing)
                if inward
                else tr("{turn}° out, to {facing}", turn=by, facing=facing)
            )
            if not self._step:
                self.label = tr("{turn}, on the {part}", turn=self.label, part=named.choice(part))


def _bare(place: Faced) -> Faced:
    """The step without a size of its own."""
    return Faced(place.facing, place.manner, place.stance)


def pivot_part(control: bool, shift: bool) -> Part | None:
    """The part of the foot a dragged toe turns on: with Ctrl the ball, with Shift the toe itself, with both the heel.

    None leaves it to the pivot there is, or to the heel.
    """
    if control and shift:
        return "heel"
    if control:
        return "ball"
    if shift:
        return "toe"
    return None
