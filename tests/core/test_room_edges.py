"""What comes near a wall, reckoned from the body alone: soles, trunk, arms, a leg that kicks; and the last per cent."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.changes import advice
from waltzmark.core.room.clearance import check_room
from waltzmark.core.room.group import GAP, arranged, greatest
from waltzmark.core.room.sweep import SHOE_MARGIN, Sweep
from waltzmark.core.score import read_score
from waltzmark.core.score.actions import Hand
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

#: How high a kick is, of the stature (docs/model.md).
HEIGHTS = {"ankle": 0.039, "knee": 0.285, "hip": 0.53, "waist": 0.63, "chest": 0.72, "head": 0.93}
FAR = 50.0  # metres to the walls that do not matter


def form_of(text: str, **more: object) -> Form:
    return Form(postures=(Posture("p", lines=read_score(text)),), **more)  # type: ignore[arg-type]


def wall_at(heading: float, away: float) -> Room:
    """A room of which one wall alone is near: so far from the start, in the way of a heading."""
    angle = math.radians(heading)
    ahead, aside = np.array([math.sin(angle), math.cos(angle)]), np.array([math.cos(angle), -math.sin(angle)])
    corners = [
        ahead * away - aside * FAR,
        ahead * away + aside * FAR,
        aside * FAR - ahead * FAR,
        -aside * FAR - ahead * FAR,
    ]
    return Room("", tuple((float(x), float(y)) for x, y in corners), Start(0.0, 0.0, 0.0), clearance=0.1, behind=0.1)


def furthest(points: np.ndarray, heading: float) -> float:
    """How far points reach in the way of a heading."""
    angle = math.radians(heading)
    return float((points.reshape(-1, 2) @ (math.sin(angle), math.cos(angle))).max())


def soles(trace: Trace, row: int) -> np.ndarray:
    """The outline of both soles at the end of a row."""
    sole = trace.body.sole
    return np.concatenate(
        [
            sole.placed(
                sole.outlines[side],
                float(trace.heels[row, side, 0]),
                float(trace.heels[row, side, 1]),
                float(trace.headings[row, side]),
            )
            for side in Side
        ]
    )


@settings(max_examples=tries(60), deadline=None)
@given(
    st.sampled_from(list(Side)),
    st.integers(0, 719),
    st.sampled_from(sorted(HEIGHTS)),
    st.sampled_from(["heel", "toe"]),
    st.floats(1.4, 2.0),
)
def test_a_leg_that_kicks_comes_as_near_to_a_wall_as_it_is_long(
    side: Side, minutes: int, height: str, part: str, stature: float
) -> None:
    clock = f"{minutes // 60 or 12}:{minutes % 60:02d}"
    text = f"shift {side.other.letter} 100\nlift {side.letter} knee\nkick {side.letter} {clock} {height} {part}"
    form = form_of(text, body=Body(stature))
    trace, heading = walk(form), minutes / 2.0
    body = trace.body
    hips = body.leg(float(trace.sinks[-1])) + body.measure("ankle_height")
    rises = HEIGHTS[height] * stature - hips
    leg = body.leg(0.0)
    reach = math.sqrt(max(leg**2 - rises**2, (0.3 * leg) ** 2)) + (0.6 if part == "toe" else 0.2) * body.sole.of(side)
    kicked = furthest(Mechanics(trace).pelvis_places[-1], heading) + reach
    told = check_room(trace, wall_at(heading, 3.0))
    assert told.clearance == pytest.approx(3.0 - kicked - SHOE_MARGIN - body.foot_breadth / 2.0, abs=1e-6)
    assert told.row == len(trace) - 1


@settings(max_examples=tries(80), deadline=None)
@given(st.integers(0, 100_000), st.floats(0.0, 359.0))
def test_nothing_of_a_standing_body_is_nearer_to_a_wall_than_is_told(seed: int, heading: float) -> None:
    """At the end of every count: the soles with their shoes, the trunk, and the hands where they are said."""
    random = np.random.default_rng(seed)
    side, other = ("L", "R") if random.random() < 0.5 else ("R", "L")
    clock = ["12", "1:30", "3", "10:30", "9"][random.integers(5)]
    lines = [
        f"shift {other} 100",
        f"step {side} {clock} bow {random.integers(30, 60)}x{random.integers(15, 35)}",
        f"shift {side} 70, hand L {random.integers(1, 13)} chest open, hand R {random.integers(1, 13)} waist open",
        f"torso {clock}",
    ]
    form = form_of("\n".join(lines))
    trace = walk(form)
    body = trace.body
    arm = body.shoulder_breadth / 2.0 + 0.85 * body.measure("arm")
    near = math.inf
    for row in range(len(trace)):
        centre = Mechanics(trace).pelvis_places[row]
        near = min(near, 5.0 - furthest(soles(trace, row), heading) - SHOE_MARGIN)
        near = min(near, 5.0 - furthest(centre, heading) - body.shoulder_breadth / 2.0)
    said = [action for count in trace.written for action in count.actions if isinstance(action, Hand)]
    assert len(said) == 2
    room = wall_at(heading, 5.0)
    assert check_room(trace, room).clearance <= near + 1e-3
    hands = []
    for hand in said:
        at = math.radians(hand.facing.heading(float(trace.torso[3]), trace.ground.twelve))
        hands.append(Mechanics(trace).pelvis_places[-1] + arm * np.array([math.sin(at), math.cos(at)]))
    armed = check_room(trace, replace(room, arms=True)).clearance
    assert armed <= min(near, 5.0 - furthest(np.array(hands), heading)) + 1e-3
    # And nothing is told nearer than the whole body with both arms out could be.
    whole = max(furthest(soles(trace, row), heading) for row in range(len(trace)))
    trunk = max(furthest(each, heading) for each in Mechanics(trace).pelvis_places)
    assert armed >= 5.0 - max(whole + 0.05, trunk + arm + 0.1) - 0.25


@settings(max_examples=tries(40), deadline=None)
@given(st.floats(0.0, 359.0), st.floats(0.5, 4.0), st.sampled_from(["12", "3", "7:30"]))
def test_a_wall_moved_by_so_much_leaves_so_much_more(heading: float, further: float, clock: str) -> None:
    trace = walk(form_of(f"shift R 100\nstep L {clock} bow 45x25\nshift L 70"))
    near, far = (check_room(trace, wall_at(heading, away)) for away in (3.0, 3.0 + further))
    assert far.clearance - near.clearance == pytest.approx(further, abs=1e-9)
    assert near.row == far.row


AHEAD = "\n".join(
    f"shift {other} 100\nstep {side} 12 bow 50x20\nshift {side} 100" for side, other in [("L", "R"), ("R", "L")] * 3
)


@pytest.mark.parametrize("percent", [99, 98, 95])
def test_steps_are_made_shorter_by_no_per_cent_too_many(percent: int) -> None:
    """In a room that is as wide as the walk and too short for it by a little less than so many per cent of it."""
    form = form_of(AHEAD)
    every = Sweep(walk(form)).every
    low, high = (every.points - every.radii[:, None]).min(axis=0), (every.points + every.radii[:, None]).max(axis=0)
    wide, deep = (high - low + 2 * 0.1).tolist()
    walked = float(walk(form).midpoints[-1][1])
    deep -= walked * (100 - percent - 0.5) / 100.0
    start = Start(0.1 - float(low[0]) + 0.005, 0.1 - float(low[1]))
    outline = ((0.0, 0.0), (wide + 0.01, 0.0), (wide + 0.01, deep), (0.0, deep))
    room = Room("", outline, start, clearance=0.1, behind=0.1)
    known = advice(replace(form, room=room))
    assert not known.here.fits and not any(each.near.fits for each in known.starts)
    (shorter,) = [each for each in known.changes if each.kind == "shorter"]
    assert shorter.does["percent"] == percent
    assert check_room(walk(shorter.form), shorter.room).fits


@pytest.mark.parametrize("text", ["hold", "shift R 100"])
def test_a_class_of_people_who_stand_is_as_far_apart_as_their_bodies_ask(text: str) -> None:
    """Who does not step has the same room about them all the time."""
    trace = walk(form_of(text))
    room = Room("", ((0.0, 0.0), (6.0, 0.0), (6.0, 5.0), (0.0, 5.0)), Start(3.0, 2.5, 0.0), clearance=0.1, behind=0.1)
    body = shapely.union_all(
        [shapely.Point(each).buffer(trace.body.shoulder_breadth / 2.0) for each in Mechanics(trace).pelvis_places]
    )
    for group in (arranged(trace, room, 4, heading=0.0), greatest(trace, room, heading=0.0)):
        assert group is not None and len(group.walkers) >= 4
        bodies = [shapely.affinity.translate(body, each.x, each.y) for each in group.walkers]
        apart = min(one.distance(other) for n, one in enumerate(bodies) for other in bodies[:n])
        assert group.gap == pytest.approx(apart, abs=0.03) and group.gap >= GAP - 1e-9
    # Nobody more than the floor has room for, each with a disc as wide as a body and half the gap.
    side = trace.body.shoulder_breadth + GAP
    assert group is not None and len(group.walkers) <= (6.0 / side + 1) * (5.0 / side + 1)
