"""How far two soles lie apart: from a table of distances about the standing one, made once for each sole."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.foot import Sole

__all__ = ["FAR", "gaps"]

_GRID = 0.01  # metres between the places the distance is known at; between them it is taken to run straight
#: Beyond this it does not matter how far, metres.
FAR = 0.12
_EVERY = 2  # points of the drawn outline left out


@lru_cache(maxsize=32)
def _table(sole: Sole, side: Side) -> tuple[Floats, float, float]:
    """(ny, nx) signed distance in metres to a sole's outline, positive outside, and the x and y of its first corner."""
    outline = sole.outlines[side][::_EVERY]
    # Even about the axis, so that mirror images are as far apart.
    wide = int(np.ceil((np.abs(outline[:, 0]).max() + FAR) / _GRID)) + 1
    first, last = (int(np.rint(end / _GRID)) for end in (outline[:, 1].min() - FAR, outline[:, 1].max() + FAR))
    xs, ys = np.arange(-wide, wide + 1) * _GRID, np.arange(first - 1, last + 2) * _GRID
    x, y = (each.ravel()[:, None] for each in np.meshgrid(xs, ys))
    ax, ay = outline.T
    bx, by = np.roll(ax, -1), np.roll(ay, -1)
    along = np.clip(((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2), 0.0, 1.0)
    away = np.sqrt(((x - ax - along * (bx - ax)) ** 2 + (y - ay - along * (by - ay)) ** 2).min(axis=1))
    with np.errstate(divide="ignore", invalid="ignore"):
        crossed = ((y < ay) != (y < by)) & (x < ax + (y - ay) / (by - ay) * (bx - ax))
    signed = np.where(crossed.sum(axis=1) % 2 == 1, -away, away)
    return np.asarray(signed.reshape(len(ys), len(xs))), float(xs[0]), float(ys[0])


def gaps(sole: Sole, side: Side, standing: Floats, moving: Floats) -> Floats:
    """(…,) metres between the sole of a side's moving foot and the standing other one; below 0 they overlap, and `FAR`
    stands for that and all above it.

    standing: (…, 3) or (3,), moving: (…, 3) heel centre in metres and heading in degrees. The outlines of the moving
    sole are held against the distances about the standing one, good to a millimetre or two.
    """
    table, left, low = _table(sole, side.other)
    outline = sole.outlines[side][::_EVERY]
    turn = np.radians(moving[..., 2] - standing[..., 2])[..., None]
    angle = np.radians(standing[..., 2])[..., None]
    dx, dy = (moving[..., i, None] - standing[..., i, None] for i in (0, 1))
    sin, cos = np.sin(angle), np.cos(angle)
    own_sin, own_cos = np.sin(turn), np.cos(turn)
    across, along = outline[:, 0], outline[:, 1]
    x = (dx * cos - dy * sin) + across * own_cos + along * own_sin
    y = (dx * sin + dy * cos) + along * own_cos - across * own_sin
    at_x, at_y = (x - left) / _GRID, (y - low) / _GRID
    ny, nx = table.shape
    inside = (at_x >= 0) & (at_x < nx - 1) & (at_y >= 0) & (at_y < ny - 1)
    i, j = np.where(inside, at_x, 0.0).astype(np.int64), np.where(inside, at_y, 0.0).astype(np.int64)
    u, v = at_x - i, at_y - j
    bottom = table[j, i] + u * (table[j, i + 1] - table[j, i])
    top = table[j + 1, i] + u * (table[j + 1, i + 1] - table[j + 1, i])
    away = np.where(inside, bottom + v * (top - bottom), FAR)
    return np.asarray(np.minimum(away.min(axis=-1), FAR))
