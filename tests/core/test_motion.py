"""How feet travel between counts, and how counts and poses are said aloud."""

from __future__ import annotations

import numpy as np
import pytest

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.score import read_score
from waltzmark.core.walk.annotations import hands_at, hands_of, kicks_at, kicks_out
from waltzmark.core.walk.motion import centre_of, pose_between
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.words.steps import count_sentence, pose_sentence

FLAT = Contact.FLAT
Place = tuple[float, float, float]


def walked(text: str) -> Trace:
    return walk(Form(postures=(Posture("a", lines=read_score(text)),)))


def nearest(trace: Trace, row: int, side: Side) -> float:
    """How near, in metres, a swinging heel comes to the supporting heel."""
    support = trace.pose(row).foot(side.other)
    feet = [pose_between(trace, row, t).foot(side) for t in np.linspace(0, 1, 60)]
    return min(float(np.hypot(f.x - support.x, f.y - support.y)) for f in feet)


WIDE = "shift L 100\nstep R 12 back 50x40\nshift L 100\n"


def test_a_swing_passes_close_by_the_standing_foot_unless_told_otherwise() -> None:
    breadth = Form().body.foot_breadth
    close = nearest(walked(WIDE + "step R 12 50x40"), 4, Side.RIGHT)
    straight = nearest(walked(WIDE + "step R 12 50x40 via straight"), 4, Side.RIGHT)
    assert close == pytest.approx(1.15 * breadth, abs=0.02)
    assert straight == pytest.approx(0.40, abs=1e-3)


def test_a_swing_to_the_side_from_beside_the_foot_is_straight() -> None:
    trace = walked("shift L 100\nstep R 12 side 40")
    places = [pose_between(trace, 2, t).right for t in np.linspace(0, 1, 20)]
    assert all(abs(p.y) < 1e-9 for p in places)
    assert [p.x for p in places] == sorted(p.x for p in places)


def test_a_swing_in_front_or_behind_goes_round_the_standing_foot() -> None:
    for via, ahead in (("front", True), ("behind", False)):
        trace = walked(f"shift L 100\nstep R 9 cross 20x-10 via {via}")
        middle = pose_between(trace, 2, 0.5).right
        standing = trace.pose(2).left
        sole = trace.body.sole
        toe, back = (sole.landmark(standing.x, standing.y, 0.0, name)[1] for name in ("toe", "back"))
        assert middle.y > toe if ahead else middle.y < back
        assert middle.contact is Contact.AIR


def test_a_pivoting_foot_stands_on_its_pivot_and_goes_the_way_it_is_told() -> None:
    trace = walked("shift L 100\npivot R heel 9 cw\npivot R ball 12 ccw")
    quarter = pose_between(trace, 2, 0.5).right
    assert quarter.heading == pytest.approx(135) and quarter.contact is Contact.HEEL
    assert (quarter.x, quarter.y) == pytest.approx(trace.pose(1).right[:2])
    back = pose_between(trace, 3, 0.5).right
    assert back.heading == pytest.approx(135) and back.contact is Contact.BALL


def test_hands_point_as_written_and_stay_until_written_again() -> None:
    trace = walked("torso 3, hand R ~12 chest\ntorso 6, hand L ~3 head push\nhand R ~9 hip\nhold")
    # Their own clock has its 12 where the chest pointed when the count began.
    assert [[(m.side.word, m.heading, m.height) for m in hands_of(trace, row)] for row in range(5)] == [
        [],
        [("right", 0.0, "chest")],
        [("left", 180.0, "head")],
        [("right", 90.0, "hip")],
        [],
    ]
    assert {(m.side.word, m.heading) for m in hands_at(trace, 4)} == {("right", 90.0), ("left", 180.0)}
    assert {(m.side.word, m.heading) for m in hands_at(trace, 2)} == {("right", 0.0), ("left", 180.0)}


def test_the_weight_pours_smoothly_and_the_centre_with_it() -> None:
    trace = walked("shift L 100\nshift R 100")
    shares = [pose_between(trace, 2, t).left_share for t in np.linspace(0, 1, 30)]
    assert shares == sorted(shares, reverse=True) and shares[0] == 1.0 and shares[-1] == 0.0
    assert shares[14] + shares[15] == pytest.approx(1.0)
    for row in range(len(trace)):
        assert centre_of(trace.pose(row), trace.body) == pytest.approx(trace.centres[row])
    assert pose_between(trace, 0, 0.3) == trace.pose(0)


def sentences(text: str) -> list[str]:
    trace = walked(text)
    return [
        count_sentence(
            trace.pose(row - 1),
            trace.pose(row),
            (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT)),
            trace.written[row],
        )
        for row in range(1, len(trace))
    ]


def test_counts_are_said_as_one_would_say_them() -> None:
    assert sentences(
        "shift R 100, torso 1:30, breathe in\nstep L 12 bow 62x38\nshift L 70, torso 12\npivot R heel out 45\n"
        "sink 30\nhold\nshift L 100\nlift R knee\nflat R\nheel R\nball R"
    ) == [
        "100% shifts onto the right foot; the chest turns to 1:30; breathe in",
        "the left foot lands on the heel toward 12, stance 62 cm long and 38 cm wide, empty",
        "the left foot rolls flat; 70% shifts onto the left foot; the chest turns to 12",
        "the right foot turns 45° out, to 1:30",
        "the knees bend to 30°",
        "nothing moves",
        "100% shifts onto the left foot",
        "the right foot lifts",
        "the right foot rolls flat",
        "the right foot stands on the heel",
        "the right foot rises onto the ball",
    ]
    assert sentences("shift R 100\nstep L 12 bow 62x38, shift L 60")[1].startswith("the left foot lands flat toward 12")
    assert "taking 60%" in sentences("shift R 100\nstep L 12 bow 62x38, shift L 60")[1]


def test_kicks_leans_slides_and_palms_are_said() -> None:
    assert sentences(
        "shift L 100, lean 5\nlift R\nkick R 1:30 waist heel, lean 0\nstep R 12 30x30 via slide, rise 10\n"
        "hand L 12 chest palm-up, lean -5"
    ) == [
        "100% shifts onto the left foot; the trunk leans 5° forward",
        "the right foot lifts",
        "the trunk comes upright; the right foot kicks at waist height, to 1:30, with the heel",
        "the right foot lands on the heel toward 12, stance 30 cm long and 30 cm wide, empty; the knees bend to 40°",
        "the trunk leans 5° back; the left hand turns its palm up at the chest, to 12",
    ]
    assert sentences("shift L 100\nstep R 12 30x30 via slide")[1].startswith("the right foot slides toward 12")


def test_a_kick_is_out_until_the_foot_comes_back_and_sweeps_the_floor() -> None:
    trace = walked("shift L 100\nlift R\nkick R 3 waist toe\nhold\nlift R\nhold")
    out = [kicks_at(trace, row) for row in range(len(trace))]
    assert [len(marks) for marks in out] == [0, 0, 0, 1, 1, 0, 0] and [row for row, _ in kicks_out(trace)] == [3, 4]
    (mark,) = out[3]
    assert (mark.side, mark.heading, mark.height, mark.part) == (Side.RIGHT, 90.0, "waist", "toe")
    low, high = (kicks_at(walked(f"shift L 100\nlift R\nkick R 3 {at} heel"), 3)[0].reach for at in ("hip", "head"))
    assert high < low < mark.reach < trace.body.stature / 2 + trace.body.foot_length
    still = Sweep(walked("shift L 100\nlift R\nhold\nhold\nlift R\nhold")).every
    reached = Sweep(trace).every
    ends = [(places.points[:, 0] + places.radii).max() for places in (still, reached)]
    assert ends[1] > ends[0] + 0.3 and reached.points[:, 0].min() == pytest.approx(still.points[:, 0].min())


def test_poses_are_said_with_their_figures() -> None:
    bow = walked("shift R 100\nstep L 12 bow 62x38\nshift L 70").pose(3)
    assert pose_sentence(bow) == "left 70%, right 30%  ·  chest faces 12  ·  stance 62 cm long, 38 cm wide"
    assert pose_sentence(bow, settled=False).endswith("heels 73 cm apart")
    lifted = bow._replace(right=bow.right._replace(contact=Contact.AIR))
    assert pose_sentence(lifted).endswith("on one leg")
    crossed: Pose = walked("shift R 100\nstep L 12 cross 30x-6").pose(2)
    assert pose_sentence(crossed).endswith("stance 30 cm long, crossed by 6 cm")
    assert pose_sentence(crossed._replace(crossing=False)).endswith("heels 31 cm apart")
