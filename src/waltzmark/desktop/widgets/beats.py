"""Where the beats of a form lie along a strip that shows the whole of it."""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.walk.trace import Trace

__all__ = ["LEFT", "RIGHT", "beat_at", "beat_ends", "beat_pixel", "beat_pixels"]

#: Margins of every such strip, pixels, so that what lies below each other is at the same beat.
LEFT, RIGHT = 42.0, 12.0


def beat_ends(trace: Trace) -> Floats:
    """(n,) the beat at which each row ends; the opening ends at 0."""
    beats = trace.beats.copy()
    beats[0] = 0.0
    return np.cumsum(beats)


def beat_pixels(ends: Floats, width: float) -> Floats:
    """(n,) pixel at which each row ends, in a strip so wide."""
    return np.asarray(LEFT + (width - LEFT - RIGHT) * ends / max(float(ends[-1]), 1e-9))


def beat_pixel(position: float, ends: Floats, width: float) -> float:
    """Pixel of a playhead position."""
    row = min(int(position), len(ends) - 1)
    after = min(row + 1, len(ends) - 1)
    beat = ends[row] + (ends[after] - ends[row]) * (position - row)
    return float(LEFT + (width - LEFT - RIGHT) * beat / max(float(ends[-1]), 1e-9))


def beat_at(x: float, ends: Floats, width: float) -> float:
    """Playhead position under a pixel."""
    share = (x - LEFT) / max(width - LEFT - RIGHT, 1.0)
    return float(np.interp(share * ends[-1], ends, np.arange(len(ends))))
