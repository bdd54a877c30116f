"""The floor: a plan from above on which the form is walked."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QSize, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPixmap,
    QResizeEvent,
)
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.edit.snapping import NO_SNAPS
from waltzmark.core.judge.finding import Finding
from waltzmark.core.walk.motion import centre_of
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.scale_bar import draw_scale_bar
from waltzmark.desktop.painter.scene import (
    CLOCK_RADIUS,
    Overlays,
    Scene,
    draw_former_feet,
    draw_ghost,
    draw_scene,
)
from waltzmark.desktop.plot.inset import Inset, whole_of
from waltzmark.desktop.plot.placard import Placard, Place, place_of
from waltzmark.desktop.plot.still import Still, Stretch, View
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.plot.foot_drag import FootDrag

__all__ = ["FloorView"]

_CLOSE = 235.0  # pixels a metre at which soles are easily read
_CARDS = 60.0  # pixels at the top that cards cover
_NEAR = 9.0  # pixels within which a dragged foot keeps to something
_NARROW = 500  # pixels from which there is room for the plan in the corner
_AROUND = 70.0  # pixels that a ghost is kept from the edge

_BAR, _BAR_HIGH = 170, 44  # pixels of the scale's picture


@guarded
class FloorView(PlanView):
    """Shows the document at its playhead.

    The wheel zooms, dragging the floor moves it, a click goes to a count that stands there. Dragging a foot moves it,
    dragging its toe turns it: on the heel, with Ctrl on the ball, with Shift on the toe, with both on the heel again.
    Alt turns snapping off.
    """

    row_clicked = Signal(int)
    whole_wanted = Signal()

    def __init__(self, document: Document, editor: Editor, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(document, theme, tr("Floor"), parent)
        self._editor = editor
        self.setMinimumSize(200, 200)  # the figure may stand beside it
        self.hand: FootDrag | None = None
        self._pointer = QPointF()
        self.own_facing = False
        self.view = "above"
        self.following = True
        self.chosen: Finding | None = None
        self.overlays = Overlays()
        self._still, self._standing = Still(), Layer(ahead=True)
        self._inset, self._placard, self._scale_bar = Inset(), Placard(), Layer()
        self._seen_whole: tuple[object, bool] = (None, False)  # of what frame, room and walk, and whether
        self.setAccessibleDescription(tr("A plan of the floor from above, with both feet at the playhead"))
        Telling(self, document.told, document.session.row_changed, document.form_changed)
        self.setToolTip("")
        document.session.moved.connect(safely(self._moved))
        document.form_changed.connect(safely(self._form_changed))
        document.judge.judged.connect(safely(self.update))
        document.opened.connect(safely(super().fit))
        document.session.figures_changed.connect(safely(self.update))
        document.session.ghost_changed.connect(safely(self._ghost_changed))
        document.rested.connect(safely(self._draw_ahead))

    # What is looked at.

    def set_own_facing(self, own: bool) -> None:
        """Whether the walker's own facing is up, instead of the room's."""
        self.own_facing = own
        self.camera = replace(self.camera, scale=max(self.camera.scale, _CLOSE))
        self._turn()
        self._keep_feet_in_view(middle=True)
        self.update()

    def set_view(self, view: str) -> None:
        """Whether it is watched from above, from behind, from the front, or as a class sees its teacher."""
        self.view = view
        if self._fit_wanted:
            return  # it is not shown yet
        self._turn()
        if self.following or self.own_facing:
            self._keep_feet_in_view(middle=True)
        else:
            self.fit()
        self.update()

    def set_overlays(self, **shown: bool) -> None:
        """Shows or hides support, reach or hips at every count."""
        self.overlays = replace(self.overlays, **shown)
        self.update()

    def set_following(self, following: bool) -> None:
        """Whether the floor moves along so that the feet stay in view, close enough to read the soles."""
        self.following = following
        if following:
            self.camera = replace(self.camera, scale=max(self.camera.scale, _CLOSE))
            self._turn()
            self._keep_feet_in_view(middle=True)
            self.update()

    def _keep_feet_in_view(self, middle: bool = False) -> None:
        """Moves the floor just so far that the clock about the body is in view, or brings it to the *middle*."""
        x, y = centre_of(self._document.session.pose, self._document.trace.body)
        margin = 1e9 if middle else CLOCK_RADIUS * 1.15 * self.camera.scale
        self._keep_in_view(x, y, margin)

    def _keep_in_view(self, x: float, y: float, margin: float) -> None:
        """Moves the floor so that a place is at least *margin* pixels inside the view, below the cards."""
        at = self.frame.map(QPointF(x, y))
        half_wide, half_high = self.width() / 2.0, (self.height() - _CARDS) / 2.0
        wide, high = max(half_wide - margin, 0.0), max(half_high - margin, 0.0)
        dx, dy = at.x() - half_wide, at.y() - (half_high + _CARDS)
        over = QPointF(dx - min(max(dx, -wide), wide), dy - min(max(dy, -high), high))
        if not over.isNull():
            self.camera = self.camera.panned(QSizeF(self.size()), over, QPointF(0.0, 0.0))

    def _turn(self) -> None:
        if self.own_facing:
            pose = self._document.session.pose
            x, y = pose.midpoint
            self.camera = replace(self.camera, x=x, y=y).watched(self.view, pose.torso, pose.torso)
        else:
            room = self._document.session.room
            # Room frame up: the room's own y axis points up, so 12 o'clock points where the start does.
            self.camera = self.camera.watched(self.view, -room.start.heading if room else 0.0)

    def _moved(self) -> None:
        if self.own_facing:
            self._turn()
        elif self.following:
            self._keep_feet_in_view()
        self.update()

    def _ghost_changed(self) -> None:
        """Brings where the feet would be into view."""
        ghost = self._document.session.ghost
        if ghost is not None and self.following and self.hand is None:
            pose = ghost.trace.pose(ghost.row)
            for foot in (pose.left, pose.right):
                self._keep_in_view(foot.x, foot.y, _AROUND)
        self.update()

    def _form_changed(self) -> None:
        self.chosen = None
        self.update()

    def fit(self) -> None:
        """Shows the whole room, or the whole walk where there is none."""
        self._turn()
        self.camera = self._whole(self.camera)
        self.update()

    def fitted(self, camera: Camera) -> Camera:
        self.fit()
        self.set_following(self.following)
        return self.camera

    def _whole(self, camera: Camera) -> Camera:
        free = QSizeF(self.width(), self.height() - _CARDS)
        fitted = camera.fitted(free, whole_of(self._document.trace, self._document.session.room))
        # The free part lies below the cards: what was fitted moves down by half their height.
        return fitted.panned(free, QPointF(0.0, 0.0), QPointF(0.0, _CARDS / 2.0))

    # Painting.

    def paint(self, painter: QPainter) -> None:
        """One frame: the ground from its pixmap, everything that moves over it."""
        document, size, floor = self._document, self.size(), self.frame
        walk, scene = self._now()
        ghost = document.session.ghost
        # It stands there while a count is typed or dragged, and may have been drawn before the count was entered.
        if ghost is not None or self._standing.holds(self._stands(walk, scene), size, self._view.ratio):
            painter.drawPixmap(0, 0, self._stood(walk, scene))
        else:
            self._draw_standing(painter, walk, scene)
        if ghost is not None:
            draw_ghost(painter, floor, ghost.trace, ghost.row, document.session.say, self._theme, self.hand is None)
        if self.chosen is not None and self.chosen.row == scene.row:
            from waltzmark.desktop.painter.judgement import draw_finding  # not needed until a finding is chosen

            draw_finding(painter, floor, document.trace, self.chosen, document.session.say, self._theme)
        self._draw_scale_bar(painter)
        whole = self._shows_whole()
        if not whole:
            stays = ghost is not None or scene.fraction >= 1.0
            self._inset.draw(painter, self._view, scene.trace, scene.pose, stays)
        if self.hand is not None and self.hand.label:
            draw_tag(painter, self._pointer + QPointF(0, -26), self.hand.label, self._theme)
        self._placard.draw(painter, self._card(whole), place_of(document), self._theme)

    def _now(self) -> tuple[Stretch, Scene]:
        """What is shown at the playhead."""
        trace, session = self._document.trace, self._document.session
        found = self._document.judge.everywhere
        scene = Scene(trace, session.row, session.part, session.pose, found, self.chosen, session.say)
        return Stretch(trace, session.before_edit, session.moved_by_edit), scene

    def _stands(self, walk: Stretch, scene: Scene) -> object:
        """What the floor and the body look like by."""
        place = scene.row, scene.fraction
        return self._view.ground, walk.shows, place, scene.findings, scene.chosen, scene.say, self._shown(scene)

    def _stood(self, walk: Stretch, scene: Scene) -> QPixmap:
        """The picture of them."""
        view = self._view
        return self._standing.drawn(
            self._stands(walk, scene), view.size, view.ratio, lambda painter: self._draw_standing(painter, walk, scene)
        )

    def _draw_standing(self, painter: QPainter, walk: Stretch, scene: Scene) -> None:
        """Draws the floor and the body as they are at the playhead."""
        floor = self.frame
        painter.drawPixmap(0, 0, self._still.drawn(self._view, walk, scene))
        if walk.before is not None and walk.moved is not None and walk.moved.new <= scene.row < len(walk.trace):
            draw_former_feet(painter, floor, walk.before, scene.row - walk.moved.new + walk.moved.old, self._theme)
        if (shown := self._shown(scene)) != Overlays():
            from waltzmark.desktop.painter.judgement import draw_overlays  # not needed until something of it is shown

            draw_overlays(painter, floor, walk.trace, scene.pose, shown, scene.say, self._theme)
        draw_scene(painter, floor, scene, self._theme)

    def _shown(self, scene: Scene) -> Overlays:
        return replace(self.overlays, reach=self.overlays.reach or self._stepping(scene))

    def _stepping(self, scene: Scene) -> bool:
        """Whether a foot is held in the air, or dragged: then how far it reaches is shown."""
        held = scene.fraction >= 1.0 and Contact.AIR in (scene.pose.left.contact, scene.pose.right.contact)
        return held or (self.hand is not None and not self.hand.grip.toe)

    def _draw_scale_bar(self, painter: QPainter) -> None:
        size, say, theme = QSize(_BAR, _BAR_HIGH), self._document.session.say, self._theme
        scale, ratio = self.camera.scale, self.devicePixelRatioF()
        bar = self._scale_bar.drawn(
            (scale, say, theme.name), size, ratio, lambda p: draw_scale_bar(p, size, scale, say, theme), clear=True
        )
        painter.drawPixmap(0, self.height() - _BAR_HIGH, bar)

    def _card(self, whole: bool) -> int:
        """How wide the card with the place may be, in pixels."""
        return self.width() - (24 if whole else 204)

    def _shows_whole(self) -> bool:
        """Whether no inset is needed: the whole room, or the whole walk, is in view anyway, or there is no space."""
        if self.width() < _NARROW:
            return True
        floor = self.frame
        room, trace = self._document.session.room, self._document.trace
        shown = floor, self.size(), room, trace
        if self._seen_whole[0] != shown:
            points = whole_of(trace, room)
            if room is None:
                points = [QPointF(x, y) for x, y in trace.heels.reshape(-1, 2).tolist()]
            self._seen_whole = shown, all(self.rect().contains(floor.map(point).toPoint()) for point in points)
        return self._seen_whole[1]

    @property
    def _view(self) -> View:
        return View(self.camera, self.size(), self.devicePixelRatioF(), self._document.session.room, self._theme)

    def _draw_ahead(self) -> None:
        """Draws the floor as it may be next, while the hands rest."""
        document, coming = self._document, self._document.coming()
        if coming is None or self._fit_wanted or not self.isVisible():
            return
        walk, say = Stretch(coming.trace, coming.before, coming.moved), document.session.say
        if self.hand is None:
            self._stood(*self._now())  # it stays while something is typed
            pose = coming.trace.pose(coming.row)
            self._stood(walk, Scene(coming.trace, coming.row, 1.0, pose, coming.found, None, say))
            place = Place(coming.form, coming.trace, coming.row, pose, True, say)
            self._placard.drawn(self._card(self._shows_whole()), place, self._theme, self.devicePixelRatioF())
        else:
            self._still.path(self._view, walk)
        if not self._shows_whole():
            self._inset.drawn(self._view, coming.trace, coming.trace.pose(coming.row))

    def resizeEvent(self, event: QResizeEvent) -> None:
        if event.oldSize().isValid() and not self._fit_wanted:
            # Keep showing about as much of the floor as before.
            old, new = event.oldSize(), event.size()
            factor = min(new.width() / max(old.width(), 1), new.height() / max(old.height(), 1))
            self.camera = replace(self.camera, scale=self.camera.scale * factor)

    # Hands on the floor.

    def take(self, event: QMouseEvent) -> bool:
        from waltzmark.desktop.plot.foot_drag import FootDrag, grip_at  # not needed until something is taken

        self._pointer = event.position()
        grip = grip_at(self._document, self.frame, event.position())
        self.hand = FootDrag(self._document, self._editor, grip) if grip is not None else None
        return self.hand is not None

    def carry(self, event: QMouseEvent) -> None:
        from waltzmark.desktop.plot.foot_drag import pivot_part

        self._pointer = event.position()
        keys, held = Qt.KeyboardModifier, event.modifiers()
        part = pivot_part(bool(held & keys.ControlModifier), bool(held & keys.ShiftModifier))
        snaps = NO_SNAPS if held & keys.AltModifier else self._editor.snaps
        if self.hand is not None:
            self.hand.move(self.place(event.position()), part, snaps, _NEAR / self.camera.scale)

    def drop(self, kept: bool) -> None:
        hand, self.hand = self.hand, None
        if hand is not None:
            if kept:
                hand.release()
            else:
                hand.cancel()

    def mouseDoubleClickEvent(self, _event: QMouseEvent) -> None:
        self.whole_wanted.emit()

    def click(self, at: QPointF) -> None:
        """Goes to the count whose feet stood nearest to the click, if any did."""
        place = self.place(at)
        trace = self._document.trace
        distance = np.hypot(*(trace.midpoints - (place.x(), place.y())).T)
        if distance.min() < 0.4:
            near = np.flatnonzero(distance < distance.min() + 0.02)
            # Several counts may be walked in one place: go round among them.
            later = near[near > self._document.session.row]
            self.row_clicked.emit(int(later[0] if len(later) else near[0]))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = 40.0
        ways = {
            Qt.Key.Key_Left: (step, 0.0),
            Qt.Key.Key_Right: (-step, 0.0),
            Qt.Key.Key_Up: (0.0, step),
            Qt.Key.Key_Down: (0.0, -step),
        }
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and event.key() in ways:
            dx, dy = ways[Qt.Key(event.key())]
            middle = QPointF(self.width() / 2.0, self.height() / 2.0)
            self.pan(middle, middle + QPointF(dx, dy))
        else:
            super().keyPressEvent(event)
