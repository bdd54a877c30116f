"""One side as it is written, and a pose to enter it from, for the tests of sides."""

from __future__ import annotations

from waltzmark.core.base.leftright import Contact
from waltzmark.core.body.pose import FootPose, Pose

ENTRY = Pose(
    FootPose(-0.13, 0.31, 330.0, Contact.FLAT), FootPose(0.14, -0.02, 20.0, Contact.FLAT), 0.5, 10.0, 10.0, 40.0, 350.0
)
#: One side as it is written: sits back, turns the empty foot, steps, pours, and stands on one leg at the end.
SIDE = (
    "shift R 80, torso 12",
    "pivot L heel 10:30, torso 12",
    "shift L 100, torso 10:30",
    "step R beside",
    "step R 12 bow 55x30",
    "shift R 70, torso 12",
    "pivot L ball out 15",
    "shift R 100, torso 1",
    "lift L knee",
    "step L 12 side parallel 30, torso 12",
    "shift 50/50",
)
