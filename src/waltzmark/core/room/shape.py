"""What a walk sweeps as one shape, for drawing; and how far what one may hold is in counts on one leg."""

from __future__ import annotations

import numpy as np
import shapely

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.form.room import Room
from waltzmark.core.room.sweep import SHOE_MARGIN
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["silhouette", "to_supports"]

_TIMES = np.linspace(0.0, 1.0, 9)
_SMOOTH = 0.004  # metres that the drawn edge may be off


def silhouette(trace: Trace, first: int = 0, after: int | None = None) -> list[Floats]:
    """Rings, each (n, 2) metres in the floor frame, around all that soles and body sweep; holes are rings too.

    first, after: only of the rows from *first* up to *after*.
    """
    parts: list[object] = []
    begins, after = max(first - 1, 0), len(trace) if after is None else after
    for side in SIDES:
        rows, ways = feet_between(trace, side, _TIMES)
        stands = np.broadcast_to([*trace.heels[begins, side], trace.headings[begins, side]], (1, len(_TIMES), 3))
        ways = np.concatenate([stands, ways[(rows >= first) & (rows < after)]])
        sole = trace.body.sole
        local = sole.outlines[side][::4]
        corners = sole.placed(local, ways[..., 0].ravel(), ways[..., 1].ravel(), ways[..., 2].ravel())
        corners = corners.reshape(len(ways), len(_TIMES), len(local), 2)
        both = np.concatenate([corners[:, :-1], corners[:, 1:]], axis=2).reshape(-1, 2 * len(local), 2)
        parts.append(shapely.buffer(shapely.union_all(shapely.convex_hull(shapely.multipoints(both))), SHOE_MARGIN))
    centres = Mechanics(trace).pelvis_places[begins:after]
    # Piece by piece: a long way that crosses itself takes twenty times as long in one.
    pieces = np.stack([centres[:-1], centres[1:]], axis=1)
    way = shapely.linestrings(pieces) if len(pieces) else shapely.points(centres)
    parts.append(shapely.union_all(shapely.buffer(way, trace.body.shoulder_breadth / 2.0)))
    whole = shapely.simplify(shapely.union_all(parts), _SMOOTH)
    rings: list[Floats] = []
    for part in shapely.get_parts(whole):
        rings.append(shapely.get_coordinates(shapely.get_exterior_ring(part)))
        rings += [shapely.get_coordinates(ring) for ring in part.interiors]
    return rings


def to_supports(trace: Trace, room: Room) -> list[tuple[int, str, float]]:
    """Of every count that ends on one leg its row, the nearest support and how far that is from the body, metres."""
    supports = [each for each in room.obstacles if each.kind == "support"]
    rows = np.flatnonzero((trace.contacts == Contact.AIR).any(axis=1))
    if not supports or not len(rows):
        return []
    places = shapely.points(room.to_room(Mechanics(trace).pelvis_places[rows]))
    away = np.stack([shapely.distance(shapely.polygons(np.array(each.ring)), places) for each in supports])
    nearest = away.argmin(axis=0)
    body = trace.body.shoulder_breadth / 2.0
    return [
        (int(row), supports[which].name, max(float(away[which, n]) - body, 0.0))
        for n, (row, which) in enumerate(zip(rows.tolist(), nearest.tolist(), strict=True))
    ]
