"""What is drawn, looked at pixel by pixel: soles, beams, dials, marks, ground and the frame of the floor."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator
from contextlib import contextmanager

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QLineF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QTransform

from tests.trying import tries
from waltzmark.core.base.angles import ahead
from waltzmark.core.base.arrays import Bools
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import FloorLines, Obstacle, Room, Start
from waltzmark.core.judge.finding import Finding, Severity
from waltzmark.core.score import read_score
from waltzmark.core.walk.pelvis import pelvis_of
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.painter.figure import hatchings
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.hips import draw_range, draw_room
from waltzmark.desktop.painter.icons import icon
from waltzmark.desktop.painter.marks import (
    _clock_face,
    draw_arc,
    draw_beam,
    draw_clock,
    draw_dial,
    draw_severity,
    draw_tag,
    draw_torso,
)
from waltzmark.desktop.painter.placing import placed
from waltzmark.desktop.painter.scale_bar import draw_scale_bar
from waltzmark.desktop.painter.scene import CLOCK_RADIUS, Scene, draw_path, draw_scene, trail
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.painter.standing import mark_lines
from waltzmark.desktop.painter.tracks import hull, polygons
from waltzmark.desktop.theme import DARK, LIGHT
from waltzmark.words.figures import PLAIN

pytestmark = pytest.mark.usefixtures("qapp")
SOLE = Body().sole
SIZE = 400
#: From the floor frame to pixels: 800 pixels a metre, the origin in the middle.
FLOOR = QTransform().translate(SIZE / 2, SIZE / 2).scale(800, -800)


@contextmanager
def sheet(width: int = SIZE, height: int = SIZE) -> Iterator[tuple[QImage, QPainter]]:
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    yield image, painter
    painter.end()


def drawn(draw: Callable[[QPainter], object], width: int = SIZE, height: int = SIZE) -> QImage:
    with sheet(width, height) as (image, painter):
        draw(painter)
    return image


def pixels(image: QImage) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    """(height, width, 3) red, green and blue."""
    data = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), image.width(), 4)
    return data[:, :, 2::-1]


def is_color(image: QImage, color: QColor, within: int = 12) -> Bools:
    wanted = np.array([color.red(), color.green(), color.blue()], dtype=int)
    return np.asarray((np.abs(pixels(image).astype(int) - wanted) <= within).all(axis=2))


def inked(image: QImage) -> Bools:
    """Whether a pixel is anything but the white of the sheet."""
    return np.asarray((pixels(image) < 250).any(axis=2))


def centre(mask: Bools) -> tuple[float, float]:
    rows, columns = np.nonzero(mask)
    return float(columns.mean()), float(rows.mean())


def sole(side: Side, contact: Contact, share: float, heading: float = 0.0) -> QImage:
    foot = FootPose(0.0, 0.0, heading, contact)
    return drawn(lambda painter: draw_sole(painter, FLOOR, SOLE, side, foot, share, LIGHT, letter=False))


def test_a_sole_lies_where_its_heel_and_heading_say() -> None:
    for heading, (dx, dy) in ((0, (0, -1)), (90, (1, 0)), (180, (0, 1)), (315, (-0.7, -0.7))):
        x, y = centre(inked(sole(Side.RIGHT, Contact.FLAT, 1.0, heading)))
        ahead = 0.38 * SOLE.length * 800
        assert (x - SIZE / 2, y - SIZE / 2) == pytest.approx((dx * ahead, dy * ahead), abs=5)


def test_the_weight_rises_from_the_heel() -> None:
    full = is_color(sole(Side.RIGHT, Contact.FLAT, 0.3), LIGHT.color("right"))
    rows = np.nonzero(full.sum(axis=1) > 30)[0]  # rows that are filled, not only outlined
    heel, toe = SIZE / 2 + 0.13 * SOLE.length * 800, SIZE / 2 - 0.87 * SOLE.length * 800
    assert rows.max() == pytest.approx(heel, abs=5)
    assert rows.min() > (heel + toe) / 2


def test_the_sides_differ_without_colour() -> None:
    left, right = sole(Side.LEFT, Contact.FLAT, 1.0), sole(Side.RIGHT, Contact.FLAT, 1.0)
    hatched = [
        is_color(image, color, 4).sum() for image, color in ((left, LIGHT.color("left")), (right, LIGHT.color("right")))
    ]
    covered = [inked(image).sum() for image in (left, right)]
    assert hatched[0] / covered[0] < 0.92 < hatched[1] / covered[1]


def test_contact_shows_in_the_shape() -> None:
    images = {contact: sole(Side.RIGHT, contact, 0.0) for contact in Contact}
    ink = {contact: is_color(image, LIGHT.color("right"), 40) for contact, image in images.items()}
    assert ink[Contact.AIR].sum() < ink[Contact.FLAT].sum()  # a broken line
    heel, ball = (centre(ink[contact])[1] for contact in (Contact.HEEL, Contact.BALL))
    assert ball < centre(ink[Contact.FLAT])[1] < heel
    pale = {contact: is_color(image, LIGHT.color("right_pale")).sum() for contact, image in images.items()}
    assert pale[Contact.AIR] < 200 < 5000 < pale[Contact.HEEL]


def test_a_trail_fades_and_a_ghost_is_dashed() -> None:
    foot = FootPose(0.0, 0.0, 0.0, Contact.FLAT)

    def outline(opacity: float, dashed: bool) -> QImage:
        return drawn(lambda painter: draw_sole_outline(painter, FLOOR, SOLE, Side.LEFT, foot, LIGHT, opacity, dashed))

    strong, faint, dashed = outline(1.0, False), outline(0.2, False), outline(1.0, True)
    assert pixels(faint).mean() > pixels(strong).mean() + 1
    # A dashed line is broader, yet has less ink than a whole one of its breadth.
    line = [is_color(image, LIGHT.color("left"), 40).sum() for image in (dashed, strong)]
    assert line[0] < 1.4 * line[1]


@pytest.mark.parametrize(("left", "lower"), [(1.0, "left"), (0.5, "level"), (0.2, "right")])
def test_the_beam_tips_to_the_heavier_side(left: float, lower: str) -> None:
    image = drawn(lambda painter: draw_beam(painter, QRectF(20, 20, 80, 60), left, LIGHT), 120, 100)
    knob = centre(is_color(image, LIGHT.color("torso"), 20))
    assert knob[0] == pytest.approx(25 + 70 * (1 - left), abs=3)
    level = 55.0
    assert (knob[1] > level + 2) == (lower != "level")
    assert is_color(image, LIGHT.color("left"), 60).any() and is_color(image, LIGHT.color("right"), 60).any()


def test_the_dial_shows_the_pelvis_where_the_chest_is_turned_against_it() -> None:
    plain, twisted = (
        is_color(
            drawn(lambda p, at=at: draw_dial(p, QPointF(60, 60), 50, 90.0, LIGHT, at), 120, 120),  # type: ignore[misc]
            LIGHT.color("pelvis"),
            20,
        )
        for at in (None, 0.0)
    )
    x, y = centre(twisted)
    assert not plain.any() and x > 60 and y < 60  # from 12, where the pelvis faces, to 3


def test_a_waist_turned_too_far_is_drawn_with_what_is_missing() -> None:
    body, floor = Body(1.70), QTransform().translate(SIZE / 2, SIZE / 2).scale(300, -300)
    pose = Pose(FootPose(-0.15, 0.0, 0.0, Contact.FLAT), FootPose(0.15, 0.0, 0.0, Contact.FLAT), 0.0, torso=120.0)
    pelvis = pelvis_of(body, pose)
    assert pelvis.heading == 35.0  # as far as the right hip, which carries all, turns inward
    finding = Finding("hip.range", "stop", None, 1, 1, "", measured=85.0, limit=45.0, unit="°")
    with_it = drawn(lambda p: draw_range(p, floor, body, pose, pelvis, finding, PLAIN, LIGHT))
    without = drawn(lambda p: draw_room(p, floor, body, pose, pelvis, LIGHT))
    assert is_color(without, LIGHT.color("pelvis"), 25).any() and is_color(without, LIGHT.color("torso"), 25).any()
    # What is missing lies between 80 degrees, where hips and waist end, and 120, where the chest faces.
    place = np.array([pelvis.x * 300 + SIZE / 2, SIZE / 2 - pelvis.y * 300])
    for heading, missing in ((60.0, False), (95.0, True), (110.0, True), (130.0, False)):
        x, y = place + 75 * np.array([np.sin(np.radians(heading)), -np.cos(np.radians(heading))])
        shades = [tuple(pixels(image)[int(y), int(x)]) for image in (with_it, without)]
        assert (shades[0] != shades[1]) == missing, heading


@pytest.mark.parametrize("heading", [0.0, 45.0, 90.0, 200.0, 315.0])
def test_the_nose_of_the_dial_and_of_the_shoulders_points_to_the_heading(heading: float) -> None:
    way = np.array([np.sin(np.radians(heading)), -np.cos(np.radians(heading))])
    dial = is_color(
        drawn(lambda p: draw_dial(p, QPointF(60, 60), 50, heading, LIGHT), 120, 120), LIGHT.color("torso"), 20
    )
    assert (np.array(centre(dial)) + 0.5 - 60) @ way > 0.5
    torso = inked(drawn(lambda p: draw_torso(p, FLOOR, 0.0, 0.0, heading, 0.4, LIGHT)))
    offset = np.argwhere(torso)[:, ::-1] - SIZE / 2
    across = np.array([-way[1], way[0]])
    assert (offset @ way).max() > 1.5 * -(offset @ way).min()  # the nose is ahead
    assert np.abs(offset @ across).max() == pytest.approx(0.2 * 800, abs=4)  # the shoulders are as broad as they are


def test_severities_differ_in_shape() -> None:
    def mark(severity: Severity) -> Bools:
        return is_color(
            drawn(lambda p: draw_severity(p, QPointF(30, 30), 40, severity, LIGHT), 60, 60), LIGHT.color(severity), 30
        )

    stop, caution, note = mark("stop"), mark("caution"), mark("note")
    assert stop.sum() > 700 and not stop[30, 25:36].all()  # an octagon with a bar
    widths = caution.sum(axis=1)
    assert widths[16] > widths[44] > 0  # broad above, a point below
    assert not note[30, 30] and note.sum() < caution.sum()  # a ring


def test_the_clock_has_twelve_where_the_floor_has_it() -> None:
    turned = QTransform().translate(SIZE / 2, SIZE / 2).rotate(90).scale(250, -250)
    for floor, at in ((QTransform().translate(200, 200).scale(250, -250), (200, 40)), (turned, (360, 200))):
        image = drawn(lambda p, f=floor: draw_clock(p, f, (0.0, 0.0), 0.6, PLAIN, 0.0, LIGHT))  # type: ignore[misc]
        x, y = at
        assert inked(image)[y - 12 : y + 12, x - 12 : x + 12].any()
        assert not inked(image)[190:210, 190:210].any()


def test_an_arc_goes_round_its_point_the_way_of_the_turn() -> None:
    for turn, side in ((90.0, 1), (-90.0, -1)):
        image = drawn(lambda p, t=turn: draw_arc(p, FLOOR, (0.0, 0.0), 0.0, t, 0.2, LIGHT, "left"))  # type: ignore[misc]
        rows, columns = np.nonzero(is_color(image, LIGHT.color("left"), 30))
        distance = np.hypot(columns - SIZE / 2, rows - SIZE / 2)
        on_arc = distance > 100
        assert distance[on_arc].mean() == pytest.approx(160, abs=3)
        assert ((columns[on_arc] - SIZE / 2) * side > -8).all()


ROOM = Room(
    "",
    ((0, 0), (4, 0), (4, 3), (0, 3)),
    Start(2, 1, 0),
    (Obstacle("post", ((3, 2), (3.5, 2), (3.5, 2.5), (3, 2.5))),),
    lines=FloorLines(0.5),
)


def test_the_ground_has_boards_walls_obstacles_and_a_start_mark() -> None:
    floor = QTransform().translate(200, 300).scale(80, -80)  # 80 pixels a metre, the start mark at (200, 300)
    image = drawn(lambda p: draw_ground(p, QRectF(0, 0, SIZE, SIZE), floor, ROOM, LIGHT))

    def at(x: float, y: float) -> QColor:
        """The colour at a place of the room, metres from its corner."""
        place = floor.map(QPointF(x - 2, y - 1))
        return image.pixelColor(int(place.x()), int(place.y()))

    assert at(0.25, 1.7) == LIGHT.color("board") and at(0.75, 1.7) == LIGHT.color("board_other")
    assert at(3.2, 2.1) == LIGHT.color("obstacle")
    assert at(2.0, 1.0) == LIGHT.color("wall")  # the start mark
    assert image.pixelColor(10, 10) == LIGHT.color("outside")
    for corner in ((0.0, 1.5), (4.0, 1.5), (1.2, 3.0)):
        assert at(*corner) == LIGHT.color("wall")
    bare = drawn(lambda p: draw_ground(p, QRectF(0, 0, SIZE, SIZE), floor, None, LIGHT))
    assert not is_color(bare, LIGHT.color("outside"), 2).any()


def test_a_frame_shows_feet_trail_and_path() -> None:
    trace = walk(
        Form(
            postures=(
                Posture(
                    "a",
                    lines=read_score(
                        "shift R 100\nstep L 12 bow\nshift L 100\nstep R beside\nstep R 12 bow\nshift R 100\npivot L heel out 40"
                    ),
                ),
            )
        )
    )
    floor = QTransform().translate(200, 300).scale(220, -220)
    steps = [(side, round(foot.y, 2)) for side, foot in trail(trace, 7)]
    # Newest first, each place once; what moves in the count itself is no trail yet.
    assert [side for side, _ in steps] == [Side.LEFT, Side.RIGHT, Side.RIGHT, Side.LEFT]
    assert trail(trace, 0) == [] and len(trail(trace, 7, most=2)) == 2
    empty = drawn(lambda p: None)
    scenes = [drawn(lambda p, f=f: draw_scene(p, floor, Scene(trace, 7, f, trace.pose(7)), LIGHT)) for f in (0.5, 1.0)]  # type: ignore[misc]
    for image in scenes:
        assert is_color(image, LIGHT.color("right"), 45).sum() > 300 and inked(image).sum() > inked(empty).sum()
    dark = drawn(lambda p: draw_scene(p, floor, Scene(trace, 7, 1.0, trace.pose(7)), DARK))
    assert is_color(dark, DARK.color("right"), 45).any()
    path = drawn(lambda p: draw_path(p, floor, QRectF(0, 0, SIZE, SIZE), trace.centres, LIGHT))
    assert inked(path).any()
    away = drawn(lambda p: draw_path(p, floor, QRectF(5000, 5000, 10, 10), trace.centres, LIGHT))
    assert not inked(away).any()


@pytest.mark.parametrize(("facing", "right", "ahead"), [("12", 0, 1), ("3", 1, 0), ("9", -1, 0), ("1:30", 1, 1)])
def test_a_kick_and_a_look_go_where_they_are_said_to(facing: str, right: int, ahead: int) -> None:
    floor = QTransform().translate(SIZE / 2, SIZE / 2).scale(220, -220)

    def frame(words: str) -> QImage:
        trace = walk(Form(postures=(Posture("a", lines=read_score(f"shift L 100\nlift R knee\n{words}")),)))
        return drawn(lambda p: draw_scene(p, floor, Scene(trace, 3, 1.0, trace.pose(3)), LIGHT))

    kept = frame("hold")
    for words, other in ((f"kick R {facing} waist", "kick R 6 waist"), (f"gaze {facing}", "gaze 6")):
        if words == "gaze 12":
            continue  # as the torso: there is nothing to draw
        mine, theirs = (
            np.abs(pixels(frame(each)).astype(int) - pixels(kept)).max(axis=2) > 40 for each in (words, other)
        )
        x, y = centre(mine)
        their_x, their_y = centre(theirs)
        assert (x - their_x) * right >= 0 and (their_y - y) * (ahead + 1) > 5  # one toward 6 goes down
        assert not right or abs(x - SIZE / 2) > 8


@pytest.mark.parametrize("torso", ["12", "3", "6", "9", "1:30", "7:30"])
def test_the_words_of_both_hands_stand_apart_whichever_way_the_body_faces(torso: str) -> None:
    hands = [f"hand {letter} {torso} chest push" for letter in "LR"]
    for scale in (107, 235):
        floor = QTransform().translate(SIZE / 2, SIZE / 2).scale(scale, -scale)

        def scene(*actions: str, floor: QTransform = floor) -> QImage:
            lines = read_score(", ".join([f"torso {torso}", *actions]))
            trace = walk(Form(postures=(Posture("a", lines=lines),)))
            return drawn(lambda p: draw_scene(p, floor, Scene(trace, 1, 1.0, trace.pose(1)), LIGHT))

        bare = inked(scene())
        left, right = (inked(scene(hand)) & ~bare for hand in hands)
        assert left.sum() > 60 and right.sum() > 60 and not (left & right).any()
        assert (inked(scene(*hands)) & ~bare).sum() == left.sum() + right.sum()


def test_the_whole_of_a_tag_stays_in_view_and_one_that_is_out_of_view_stays_out() -> None:
    view = QRectF(0, 0, SIZE, SIZE)

    def tag(x: float, within: QRectF | None) -> Bools:
        words = "the garden door  3.20 m"
        return inked(drawn(lambda p: draw_tag(p, QPointF(x, 200.0), words, LIGHT, "ink", within)))

    middle = tag(200.0, view)
    assert (middle == tag(200.0, None)).all()
    width = np.ptp(np.nonzero(middle.any(axis=0))[0])
    for x in (3.0, 60.0, SIZE - 3.0):
        columns = np.nonzero(tag(x, view).any(axis=0))[0]
        assert abs(np.ptp(columns) - width) <= 1 and columns.min() > 0 and columns.max() < SIZE - 1
        assert tag(3.0, None)[:, 0].any()  # else it is cut off
    assert not tag(-200.0, view).any()


def test_the_scale_bar_is_as_long_as_it_says() -> None:
    for scale, length in ((100.0, 1.0), (300.0, 0.2), (40.0, 2.0)):
        image = drawn(lambda p, s=scale: draw_scale_bar(p, image_size, s, PLAIN, LIGHT))  # type: ignore[misc]
        row = is_color(image, LIGHT.color("ink"), 40)[SIZE - 15]
        assert np.ptp(np.nonzero(row)[0]) == pytest.approx(length * scale, abs=3)


image_size = QImage(SIZE, SIZE, QImage.Format.Format_RGB32).size()


def test_every_sign_is_drawn_and_no_two_are_alike() -> None:
    seen = set()
    for name in ("back", "forward", "play", "pause", "fit", "larger", "smaller", "own", "follow"):
        image = icon(name, LIGHT).pixmap(20, 20).toImage()
        seen.add(bytes(image.constBits()))
    assert len(seen) == 9


@pytest.mark.parametrize("flip", [1.0, -1.0])
@pytest.mark.parametrize("turn", [0.0, 30.0, 90.0])
def test_the_clock_is_whole_however_the_floor_is_looked_at(flip: float, turn: float) -> None:
    """Every numeral lies within the picture of the clock, also where the floor is less deep than wide."""
    for tilt in (1.0, 0.5, 0.3):
        floor = QTransform()
        floor.scale(180.0 * flip, -180.0 * tilt)
        floor.rotate(turn)
        face = _clock_face(floor, CLOCK_RADIUS, PLAIN, 0.0, LIGHT, 1.0)
        whole = QRectF(QPointF(), face.deviceIndependentSize()).translated(-face.width() / 2.0, -face.height() / 2.0)
        for hour in range(12):
            ux, uy = ahead(30.0 * hour)
            at = floor.map(QPointF(1.07 * CLOCK_RADIUS * ux, 1.07 * CLOCK_RADIUS * uy))
            assert whole.contains(QRectF(at.x() - 20.0, at.y() - 10.0, 40.0, 20.0))


def test_a_card_beside_a_mark_lies_on_no_mark() -> None:
    frame = QTransform(120.0, 0.0, 0.0, -120.0, 300.0, 300.0)
    for heading in range(0, 360, 15):
        for away in (0.0, 0.05, 0.3):
            marks = [
                line
                for start in (Start(0.0, 0.0, 0.0), Start(away, 0.0, float(heading)))
                for line in mark_lines(frame, start)
            ]
            card, middle = QRectF(0.0, 0.0, 130.0, 22.0), frame.map(QPointF(away, 0.0))
            card.moveCenter(placed([(QLineF(middle, middle), card.size())], marks, QRectF(0.0, 0.0, 600.0, 600.0))[0])
            along = [line.pointAt(share / 200.0) for line in marks for share in range(201)]
            assert not any(card.contains(point) for point in along)


@given(st.lists(st.tuples(st.floats(150, 350), st.floats(150, 350)), min_size=2, max_size=25))
def test_cards_lie_on_none_of_the_others_and_within_the_view(corners: list[tuple[float, float]]) -> None:
    lines = [QLineF(QPointF(*a), QPointF(*b)) for a, b in itertools.pairwise(corners)]
    view, size = QRectF(0.0, 0.0, 500.0, 500.0), QSizeF(24.0, 18.0)
    cards = [QRectF(at - QPointF(12.0, 9.0), size) for at in placed([(line, size) for line in lines], lines, view)]
    assert all(view.contains(card) for card in cards)
    assert not any(a.intersects(b) for a, b in itertools.combinations(cards, 2))
    for card, line in zip(cards, lines, strict=True):
        away = card.center() - line.center()
        assert math.hypot(away.x(), away.y()) < max(0.5 * line.length(), 130.0)


@settings(max_examples=tries(40))
@given(st.integers(0, 100_000))
def test_round_shapes_are_hatched_to_their_rims_at_one_slant_and_no_further_apart(seed: int) -> None:
    random = np.random.default_rng(seed)
    clouds = [random.uniform(0.0, size, (12, 2)) for size in random.uniform(2.0, 60.0, 3)]
    shapes = [hull(cloud) for cloud in clouds]
    apart = float(random.uniform(1.0, 6.0))
    for points, lines in zip(shapes, hatchings(shapes, apart), strict=True):
        shape = shapely.Polygon(points)
        level = float(points.sum(axis=1).min()) + apart
        for line in lines:
            drawn = shapely.LineString([(line.x1(), line.y1()), (line.x2(), line.y2())])
            whole = shapely.LineString([(level + 200.0, -200.0), (-200.0, level + 200.0)])
            assert shapely.hausdorff_distance(drawn, shape.intersection(whole)) < 1e-6
            level += 1.4142 * apart
        assert level >= float(points.sum(axis=1).max()) - 1e-9  # and no line is missing at the end


def test_many_polygons_are_brought_over_as_one_is() -> None:
    random = np.random.default_rng(4)
    outlines = [random.normal(0.0, 300.0, (int(n), 2)) for n in (3, 1, 0, 40)]
    for made, outline in zip(polygons(outlines), outlines, strict=True):
        assert [(point.x(), point.y()) for point in made.toList()] == [tuple(point) for point in outline.tolist()]
