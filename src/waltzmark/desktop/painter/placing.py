"""Where cards with words lie on a plan: near what they tell of, on none of the others and clear of its lines."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSizeF
from PySide6.QtGui import QFontMetricsF

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.desktop.theme import font

__all__ = ["placed", "tag_size"]

_APART = 2.0  # pixels between two cards
_CLEAR = 4.0  # pixels between a card and a line
_EVERY = 6.0  # pixels between the places at which a line is looked at
_PARTS = (0.5, 0.35, 0.65, 0.2, 0.8)  # of a line beside which its card may lie
_RINGS = (26.0, 40.0, 58.0, 80.0, 106.0)  # pixels about its middle
_ROUND = np.radians(np.arange(0.0, 360.0, 30.0))
#: (k, 2) the ways to the places about it and (k, 1) how far each is off; (k, 1) shares of the line beside which a card
#: may lie, on which side of it, and (k,) what each of those costs.
_AROUND = np.tile(np.column_stack([np.cos(_ROUND), np.sin(_ROUND)]), (len(_RINGS), 1))
_FAR = np.repeat(_RINGS, len(_ROUND))[:, None]
_ALONG, _SIDES = np.repeat(_PARTS, 2)[:, None], np.tile([1.0, -1.0], len(_PARTS))[:, None]
_BESIDE = 3.0 * np.arange(2.0 * len(_PARTS))
#: What costs as much as lying a pixel further off: a place of a line under a card; and more than any of that.
_CROSSED, _NEVER = 14.0, 1e6


def tag_size(text: str) -> QSizeF:
    """The size of the card that `draw_tag` draws, pixels."""
    box = QFontMetricsF(font(9.0, bold=True)).boundingRect(text)
    return QSizeF(box.width() + 12.0, box.height() + 4.0)


def placed(
    cards: Sequence[tuple[QLineF, QSizeF]], lines: Sequence[QLineF], view: QRectF, taken: Sequence[QRectF] = ()
) -> list[QPointF]:
    """The middle of each card: beside the line it tells of, or about it where the line is a point or others are in the
    way.

    Parameters
    ----------
    cards
        The line that each tells of, and its size; the first are placed first.
    lines
        What should be seen; a card lies on it only where all else is worse.
    view
        Where cards may lie.
    taken
        Where none may lie.
    """
    seen = [np.empty((0, 2))]
    for line in lines:
        shares = np.linspace(0.0, 1.0, max(int(line.length() / _EVERY), 1) + 1)[:, None]
        seen.append((1.0 - shares) * _pair(line.p1()) + shares * _pair(line.p2()))
    points = np.concatenate(seen)
    middles = [_pair(rect.center()) for rect in taken]
    halves = [np.array([rect.width(), rect.height()]) / 2.0 for rect in taken]
    low, high = _pair(view.topLeft()), _pair(view.bottomRight())
    found = []
    for line, size in cards:
        half = np.array([size.width(), size.height()]) / 2.0
        at, far = _places(line, half)
        cost = far + _CROSSED * _over(points, half + _CLEAR, at)
        cost += _NEVER * ((at - half < low) | (at + half > high)).any(axis=1)
        if middles:
            cost += _NEVER * _over(np.array(middles), np.array(halves) + half + _APART, at)
        best = at[int(cost.argmin())]
        middles.append(best)
        halves.append(half)
        found.append(QPointF(*best))
    return found


def _over(points: Floats, halves: Floats, at: Floats) -> Ints:
    """(k,) how many of boxes, with middles (m, 2) and half sizes (m, 2) or one (2,) of all, lie over places (k, 2)."""
    x, y = np.abs(points.T[:, None, :] - at.T[:, :, None])
    wide, high = halves.T
    return np.asarray(((x < wide) & (y < high)).sum(axis=1))


def _places(line: QLineF, half: Floats) -> tuple[Floats, Floats]:
    """(k, 2) places where a card may lie, and (k,) what each costs, pixels from the best."""
    start, end = _pair(line.p1()), _pair(line.p2())
    way, middle = end - start, (start + end) / 2.0
    length = float(np.hypot(*way))
    places, costs = [middle + _AROUND * (_FAR + half * 0.5)], [_FAR[:, 0]]
    if length > 5.0:
        left = np.array([-way[1], way[0]]) / length
        gap = float(np.abs(left) @ half) + _CLEAR + 1.0
        places.insert(0, start + _ALONG * way + gap * _SIDES * left)
        costs.insert(0, _BESIDE)
    return np.concatenate(places), np.concatenate(costs)


def _pair(point: QPointF) -> Floats:
    return np.array([point.x(), point.y()])
