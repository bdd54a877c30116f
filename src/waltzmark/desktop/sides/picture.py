"""Two passages on the floor: one folded onto the other, beside each other, or where they are walked."""

from __future__ import annotations

import math
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.sides.differences import CountPair
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.scale_bar import draw_legend, draw_scale_bar
from waltzmark.desktop.painter.scene import Scene, draw_former_path, draw_path, draw_scene
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.sides.shown import Shown, draw_arrow, draw_between, feet_of, lifted_last
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

__all__ = ["PairView"]

_STRIP = 40.0  # pixels at the bottom for scale and words
_HEAD = 30.0  # pixels at the top for what is what
_AROUND = 0.28  # metres shown about the feet
_LINE = 40.0  # metres that a mirror line is drawn to either side


_LEGENDS = {
    "folded": tr("Solid soles: {0}. Dashed: {1}, folded onto it. Arrows: differences; thick where they arise."),
    "beside": tr("Each as walked, its own facing up."),
    "walked": tr("Each where it is walked. Line: {0}. Dots: {1}."),
}


@guarded
class PairView(PlanView):
    """Draws two passages at the playhead, which walks both. way: folded, beside or walked."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("Two sides on the floor"))
        Telling(self, partial(document.answered, 2), document.judge.reviewed)
        self.shown: Shown | None = None
        self.empty = tr("No pair selected.")
        self.way, self.view = "folded", "above"
        self.other_camera = Camera()
        for signal in (document.session.moved, document.session.figures_changed):
            signal.connect(safely(self.update))
        document.form_changed.connect(safely(lambda: self.show_pair(None)))

    def show_pair(self, shown: Shown | None) -> None:
        """Shows two passages, or that there are none."""
        self.shown = shown
        self.fit()

    def show_way(self, way: str) -> None:
        """Draws them folded, beside each other, or where they are walked."""
        self.way = way
        self.fit()

    def set_view(self, view: str) -> None:
        """Watches the floor from elsewhere."""
        self.view = view
        self.fit()

    # Painting.

    def paint(self, painter: QPainter) -> None:
        if self.shown is None:
            self.paint_words(painter, self.empty)
            return
        {"folded": self._folded, "beside": self._beside, "walked": self._walked}[self.way](painter, self.shown)
        legend = _LEGENDS[self.way].format(*self.shown.titles)
        draw_scale_bar(painter, self.size(), self.camera.scale, self._document.session.say, self._theme)
        draw_legend(painter, self.size(), legend, self._theme)

    def _pane(self, second: bool = False) -> QRectF:
        """Where a floor is drawn."""
        wide, high = float(self.width()), float(self.height())
        if self.way != "beside":
            return QRectF(0.0, 0.0, wide, high)
        return QRectF(wide / 2.0 if second else 0.0, 0.0, wide / 2.0, high)

    @property
    def area(self) -> QSizeF:
        pane = self._pane().size()
        return QSizeF(pane.width(), pane.height() - _STRIP - _HEAD)

    def _floor(self, second: bool = False) -> QTransform:
        camera = self.other_camera if second and self.way == "beside" else self.camera
        transform = camera.transform(self.area)
        pane = self._pane(second)
        return transform * QTransform.fromTranslate(pane.left(), pane.top() + _HEAD)

    def fitted(self, camera: Camera) -> Camera:
        shown = self.shown
        if shown is None:
            return camera
        first = feet_of(shown.traces[0], shown.compared.span.start, shown.compared.span.stop)
        other = feet_of(shown.traces[1], shown.compared.other.start, shown.compared.other.stop)
        room = self._document.session.room
        up = -room.start.heading if room is not None else 0.0
        fold, back = shown.fold, shown.fold.back()
        if self.way == "folded":
            return self._around([*first, *(back.place(x, y) for x, y in other)], up, 0.0)
        if self.way == "walked":
            return self._around([*first, *other], up, 0.0)
        # Each its own way up, so that a mirror image is seen as one: about an upright line.
        axis = fold.axis if fold.axis is not None else 0.0
        own = axis if fold.mirror else fold.angle
        camera, other_camera = self._around(first, axis, axis), self._around(other, own, own)
        scale = min(camera.scale, other_camera.scale)
        self.other_camera = replace(other_camera, scale=scale)
        return replace(camera, scale=scale)

    def _around(self, places: list[tuple[float, float]], up: float, twelve: float) -> Camera:
        points = [
            QPointF(x + dx, y + dy) for x, y in places for dx in (-_AROUND, _AROUND) for dy in (-_AROUND, _AROUND)
        ]
        return Camera().watched(self.view, up, twelve).fitted(self.area, points, 6.0)

    def _poses(self, shown: Shown) -> tuple[Pose, Pose, CountPair | None, tuple[int, float, int, float]]:
        row, part, other_row, other_part, pair = shown.places(self._document.session.shown)
        return (
            pose_between(shown.traces[0], row, part),
            pose_between(shown.traces[1], other_row, other_part),
            pair,
            (row, part, other_row, other_part),
        )

    def _ground(self, painter: QPainter, floor: QTransform, second: bool = False, room: bool = True) -> None:
        pane = self._pane(second)
        painter.setClipRect(pane)
        draw_ground(painter, pane, floor, self._document.session.room if room else None, self._theme)
        painter.setClipRect(pane)

    def _folded(self, painter: QPainter, shown: Shown) -> None:
        """The other folded onto the one, about the mirror line."""
        floor, theme = self._floor(), self._theme
        self._ground(painter, floor)
        back = shown.fold.back()
        pose, other, here, _ = self._poses(shown)
        line = self._mirror_line(painter, floor, shown)
        sole = shown.traces[0].body.sole
        for pair in shown.compared.counts:
            for side in SIDES:
                if pair.row is not None and shown.traces[0].move_kinds[pair.row, side]:
                    foot = shown.traces[0].pose(pair.row).foot(side)
                    draw_sole_outline(painter, floor, sole, side, foot, theme, 0.35)
                if pair.other_row is not None:
                    theirs = shown.fold.side(side)
                    if shown.traces[1].move_kinds[pair.other_row, theirs]:
                        foot = back.foot(shown.traces[1].pose(pair.other_row).foot(theirs))
                        draw_sole_outline(painter, floor, sole, side, foot, theme, 0.55, True, False)
        for side in lifted_last(pose):
            draw_sole(painter, floor, sole, side, pose.foot(side), pose.share(side), theme)
        for side in SIDES:
            theirs = shown.fold.side(side)
            foot = back.foot(other.foot(theirs))
            draw_sole_outline(painter, floor, sole, side, foot, theme, 1.0, True, False)
        self._tag_line(painter, line)
        self._remaining(painter, floor, shown, here)
        self._heads(painter, shown)

    def _remaining(self, painter: QPainter, floor: QTransform, shown: Shown, here: CountPair | None) -> None:
        """What remains between soles, as arrows with figures: once for each place a foot is set to."""
        back, within, said = shown.fold.back(), shown.compared.within, self._document.session.say
        tags: list[QPointF] = []
        for pair in shown.compared.counts:
            if pair.lone:
                continue
            assert pair.row is not None and pair.other_row is not None
            differs = not pair.same(within)
            for side in SIDES:
                theirs = shown.fold.side(side)
                moved = shown.traces[0].move_kinds[pair.row, side] or shown.traces[1].move_kinds[pair.other_row, theirs]
                if not moved and pair is not here:
                    continue
                a = shown.traces[0].pose(pair.row).foot(side)
                b = back.foot(shown.traces[1].pose(pair.other_row).foot(theirs))
                apart = math.hypot(b.x - a.x, b.y - a.y)
                if 100.0 * apart <= within.cm and not (differs and 1000.0 * apart > 1.0):
                    continue
                start, end = floor.map(QPointF(a.x, a.y)), floor.map(QPointF(b.x, b.y))
                draw_arrow(painter, start, end, self._theme, 4.0 if differs else 1.6)
                at = end + QPointF(34.0, -14.0)
                if (differs or pair is here) and all(abs(at.x() - t.x()) + abs(at.y() - t.y()) > 30.0 for t in tags):
                    tags.append(at)
                    draw_tag(painter, at, said.length(apart), self._theme, "stop")

    def _mirror_line(self, painter: QPainter, floor: QTransform, shown: Shown) -> tuple[QPointF, QPointF] | None:
        """The line that one side is folded about: half-way between each place and its mirror image. Its ends."""
        axis = shown.fold.axis
        if axis is None:
            return None
        x, y = shown.traces[0].midpoints[max(shown.compared.span.start - 1, 0)].tolist()
        other = shown.fold.place(x, y)
        mx, my = (x + other[0]) / 2.0, (y + other[1]) / 2.0
        ux, uy = ahead(axis)
        a, b = (floor.map(QPointF(mx + far * ux, my + far * uy)) for far in (-_LINE, _LINE))
        painter.setPen(QPen(self._theme.color("note"), 2.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(a, b)
        return a, b

    def _tag_line(self, painter: QPainter, line: tuple[QPointF, QPointF] | None) -> None:
        """Says what the mirror line is, above all that lies on it."""
        if line is not None and (seen := self._seen_of(*line)) is not None:
            draw_tag(painter, seen, tr("mirror line"), self._theme, "note")

    def _seen_of(self, a: QPointF, b: QPointF) -> QPointF | None:
        """A place near the end of a line that is in view."""
        inside = self._pane().adjusted(50.0, _HEAD + 16.0, -50.0, -_STRIP - 16.0)
        places = (a + (b - a) * float(share) for share in np.linspace(1.0, 0.0, 4000))
        return next((at for at in places if inside.contains(at)), None)

    def _beside(self, painter: QPainter, shown: Shown) -> None:
        """Two floors, each with what is done on it now."""
        pose, other, _, (row, part, other_row, other_part) = self._poses(shown)
        spans = shown.compared.span, shown.compared.other
        for second, (trace, at, fraction, now, span) in enumerate(
            (
                (shown.traces[0], row, part, pose, spans[0]),
                (shown.traces[1], other_row, other_part, other, spans[1]),
            )
        ):
            floor = self._floor(bool(second))
            self._ground(painter, floor, bool(second), room=False)
            for each in range(span.start, span.stop):
                for side in SIDES:
                    if trace.move_kinds[each, side]:
                        foot = trace.pose(each).foot(side)
                        draw_sole_outline(painter, floor, trace.body.sole, side, foot, self._theme, 0.25)
            draw_scene(painter, floor, Scene(trace, at, fraction, now, say=self._document.session.say), self._theme)
            self._head(painter, self._pane(bool(second)), shown.titles[second], trace, at, span.start)
        painter.setClipping(False)
        painter.setPen(QPen(self._theme.color("rule"), 1.0))
        middle = self.width() / 2.0
        painter.drawLine(QPointF(middle, 0.0), QPointF(middle, float(self.height())))

    def _walked(self, painter: QPainter, shown: Shown) -> None:
        """Both on one floor, each where it is walked."""
        floor, theme = self._floor(), self._theme
        self._ground(painter, floor)
        pose, other, _, _ = self._poses(shown)
        view = self._pane()
        for trace, span, draw in zip(
            shown.traces, (shown.compared.span, shown.compared.other), (draw_path, draw_former_path), strict=True
        ):
            # Of two forms the whole way is drawn, to see where they part.
            part = trace.centres[max(span.start - 1, 0) : span.stop] if shown.mine else trace.centres
            draw(painter, floor, view, part, theme)
        line = self._mirror_line(painter, floor, shown) if shown.mine else None
        for second, (trace, span, now) in enumerate(
            (
                (shown.traces[0], shown.compared.span, pose),
                (shown.traces[1], shown.compared.other, other),
            )
        ):
            for each in range(span.start, span.stop):
                for side in SIDES:
                    if trace.move_kinds[each, side]:
                        foot = trace.pose(each).foot(side)
                        draw_sole_outline(painter, floor, trace.body.sole, side, foot, theme, 0.4, dashed=bool(second))
            for side in lifted_last(now):
                foot = now.foot(side)
                draw_sole(
                    painter,
                    floor,
                    trace.body.sole,
                    side,
                    foot,
                    now.share(side),
                    theme,
                    opacity=0.6 if second and not shown.mine else 1.0,
                )
        # What each is called stands above the higher one and below the lower one, so that neither covers the other.
        places = [floor.map(QPointF(*each.midpoint)) for each in (pose, other)]
        higher = 1 if places[1].y() <= places[0].y() else 0
        for number, place in enumerate(places):
            away = QPointF(0.0, -52.0 if number == higher else 52.0)
            draw_tag(painter, place + away, shown.titles[number], theme, "note" if number else "ink")
        self._tag_line(painter, line)
        if not shown.mine:
            draw_between(painter, floor, pose, other, self._document, theme)

    def _heads(self, painter: QPainter, shown: Shown) -> None:
        here = shown.places(self._document.session.position)[-1]
        numbers = [tr("start"), tr("start")]
        if here is not None:
            numbers = [
                tr("count {each}", each=each) if each is not None else tr("no such count")
                for each in (here.count, here.other)
            ]
        words = f"{shown.titles[0]}: {numbers[0]}     {shown.titles[1]}: {numbers[1]}"
        self._card(painter, QRectF(0.0, 0.0, self.width(), _HEAD), words)

    def _head(self, painter: QPainter, pane: QRectF, title: str, trace: Trace, row: int, start: int) -> None:
        number = tr("count {counts}", counts=int(trace.counts[row])) if row >= start else tr("start")
        self._card(painter, QRectF(pane.left(), 0.0, pane.width(), _HEAD), f"{title}: {number}")

    def _card(self, painter: QPainter, box: QRectF, words: str) -> None:
        painter.fillRect(box, self._theme.color("raised", 0.92))
        painter.setPen(self._theme.color("ink"))
        painter.setFont(font(10.0, bold=True))
        said = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, round(box.width()) - 24)
        painter.drawText(box.adjusted(12.0, 0.0, -12.0, 0.0), Qt.AlignmentFlag.AlignVCenter, said)

    # Hands.

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller about the middle, both floors alike."""
        middle = QPointF(self.area.width() / 2.0, self.area.height() / 2.0)
        self.other_camera = self.other_camera.zoomed(factor, self.area, middle)
        super().zoom(factor, middle)

    def pan(self, start: QPointF, end: QPointF) -> None:
        if self.way == "beside":
            self.other_camera = self.other_camera.panned(self.area, start, end)
        super().pan(start, end)
