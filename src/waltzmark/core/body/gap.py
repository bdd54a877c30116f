"""How far two soles lie apart: from a table of distances about the standing one, made once for each sole."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Complexes, Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.foot import Sole

__all__ = ["FAR", "gaps"]

_GRID = 0.01  # metres between the places the distance is known at; between them it is taken to run straight
#: Beyond this it does not matter how far, metres.
FAR = 0.12
_EVERY = 2  # points of the drawn outline left out


@lru_cache(maxsize=32)
def _table(sole: Sole, side: Side) -> tuple[Floats, int, int, float, float]:
    """Signed distances in metres to a sole's outline, positive outside, as a table.

    Row by row; how many there are in a row, and how many rows; the x and y of the first.
    """
    if side is Side.LEFT and sole.of(side) == sole.length:
        right, wide, high, left, low = _table(sole, Side.RIGHT)  # its mirror image, found in half the time
        return np.ascontiguousarray(right.reshape(high, wide)[:, ::-1]).ravel(), wide, high, left, low
    outline = sole.outlines[side][::_EVERY]
    # Even about the axis, so that mirror images are as far apart.
    wide = int(np.ceil((np.abs(outline[:, 0]).max() + FAR) / _GRID)) + 1
    first, last = (int(np.rint(end / _GRID)) for end in (outline[:, 1].min() - FAR, outline[:, 1].max() + FAR))
    xs, ys = np.arange(-wide, wide + 1) * _GRID, np.arange(first - 1, last + 2) * _GRID
    ax, ay = outline.T
    ex, ey = np.roll(ax, -1) - ax, np.roll(ay, -1) - ay
    # (rows, columns, edges); what depends on a row or a column alone is reckoned for that alone.
    dx, dy = (xs[:, None] - ax)[None], (ys[:, None] - ay)[:, None]
    size = ex**2 + ey**2
    along = dx * (ex / size) + dy * (ey / size)
    np.maximum(along, 0.0, out=along)
    np.minimum(along, 1.0, out=along)
    away = (along * ex - dx) ** 2
    along *= ey
    along -= dy
    along *= along
    away += along
    away = np.sqrt(away.min(axis=2)).ravel()
    below, after = ys[:, None] < ay, ys[:, None] < np.roll(ay, -1)
    with np.errstate(divide="ignore", invalid="ignore"):
        at = dy * (ex / ey)  # where an edge that crosses the row lies to the right of the place, it is crossed
    crossed = ((below != after)[:, None] & (dx < at)).sum(axis=2)
    signed = np.where(crossed.ravel() % 2 == 1, -away, away)
    return signed, len(xs), len(ys), float(xs[0]), float(ys[0])


@lru_cache(maxsize=32)
def _rim(sole: Sole, side: Side) -> Complexes:
    """The outline of the moving sole in steps of the grid, right and ahead."""
    outline = sole.outlines[side][::_EVERY] / _GRID
    return np.asarray(outline[:, 0] + 1j * outline[:, 1])


def gaps(sole: Sole, side: Side, standing: Floats, moving: Floats) -> Floats:
    """(…,) metres between the sole of a side's moving foot and the standing one.

    Below 0 they overlap; `FAR` stands for itself and all above it.

    standing: (…, 3) or (3,), moving: (…, 3) heel centre in metres and heading in degrees. The outlines of the moving
    sole are held against the distances about the standing one, good to a millimetre or two.
    """
    flat, wide, high, left, low = _table(sole, side.other)
    # As complex numbers, right and ahead; turned clockwise by an angle is times exp(-i angle).
    off = (moving[..., 0] - standing[..., 0]) + 1j * (moving[..., 1] - standing[..., 1])
    first = (off * np.exp(1j * np.radians(standing[..., 2])) - complex(left, low)) / _GRID
    turned = np.exp(-1j * np.radians(moving[..., 2] - standing[..., 2]))
    places = first[..., None] + turned[..., None] * _rim(sole, side)
    # Beyond the table it is further than `FAR`, as it is at its border.
    x, y = places.real.clip(0.0, wide - 1.001), places.imag.clip(0.0, high - 1.001)
    i, j = x.astype(np.int64), y.astype(np.int64)
    at, u = j * wide + i, x - i
    bottom, top = flat.take(at), flat.take(at + wide)
    bottom += u * (flat.take(at + 1) - bottom)
    top += u * (flat.take(at + wide + 1) - top)
    bottom += (y - j) * (top - bottom)
    return np.asarray(np.minimum(bottom.min(axis=-1), FAR))
