"""The way a foot travels from where it is lifted to where it is set down."""

from __future__ import annotations

from waltzmark.core.base.angles import ahead, rightward
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.pose import FootPose

__all__ = ["control_point"]

#: How far from the supporting heel, in foot breadths, a swing passes by default.
CLOSE = 1.15
#: Clearance in foot lengths of a swing that goes round the toes or the heel of the supporting foot.
ROUND = 0.35
_INNER = (0.1, 0.9)


def control_point(
    start: FootPose, end: FootPose, support: FootPose, side: Side, via: str | None, sole: Sole
) -> tuple[float, float]:
    """Control point in metres of the quadratic curve that a swinging heel travels.

    ``close`` (and None) passes near the supporting heel on the foot's own side, unless the straight way is
    nearer or does not pass the support at all; ``front`` and ``behind`` go round its toes or its heel.
    """
    middle_x, middle_y = (start.x + end.x) / 2.0, (start.y + end.y) / 2.0
    if via == "straight":
        return middle_x, middle_y
    ux, uy = ahead(support.heading)
    vx, vy = rightward(support.heading)
    if via in ("front", "behind"):
        mark = LANDMARKS["toe"] + ROUND if via == "front" else LANDMARKS["back"] - ROUND - LANDMARKS["toe"]
        along = mark * sole.of(side.other)
        return 2 * (support.x + along * ux) - middle_x, 2 * (support.y + along * uy) - middle_y
    near = side.sign * CLOSE * sole.breadth
    near_x, near_y = support.x + near * vx, support.y + near * vy
    dx, dy = end.x - start.x, end.y - start.y
    distance = dx * dx + dy * dy
    if distance < 1e-12:
        return middle_x, middle_y
    passing = ((near_x - start.x) * dx + (near_y - start.y) * dy) / distance
    apart = ((middle_x - support.x) ** 2 + (middle_y - support.y) ** 2) ** 0.5
    if not _INNER[0] < passing < _INNER[1] or apart < abs(near):
        return middle_x, middle_y
    # A quadratic curve passes half-way between its control point and the middle of its ends.
    return 2 * near_x - middle_x, 2 * near_y - middle_y
