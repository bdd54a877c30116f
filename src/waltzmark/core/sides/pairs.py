"""Are two sides mirror images? The best reflection of one passage onto the other, and what remains.

With left and right exchanged, the reflection Q (det Q = -1) and translation t that minimise the sum of
|Q a + t - b|^2 over all heels come from the singular value decomposition of the covariance of the centred
points (the orthogonal Procrustes problem: Schönemann 1966; Kabsch 1976, here for the improper rotation).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from waltzmark.core.base.angles import heading_differences, normal
from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.form import Form
from waltzmark.core.walk.trace import Trace

__all__ = ["Residual", "Sides", "best_reflection", "check_sides", "compare"]

#: What the floor can show: two sides count as mirror images within these.
SAME_CM, SAME_DEGREES, SAME_PERCENT = 1.0, 1.0, 1.0


@dataclass(frozen=True)
class Residual:
    """What differs in one count after the best reflection.

    heels: the larger distance of the two heels, cm; heading: the largest difference of feet and torso, degrees;
    weight: difference of the shares, %.
    """

    count: int
    heels: float
    heading: float
    weight: float

    @property
    def off(self) -> float:
        """The largest of the three, each in its own tolerance: above 1 the sides differ here."""
        return max(self.heels / SAME_CM, self.heading / SAME_DEGREES, self.weight / SAME_PERCENT)

    @property
    def same(self) -> bool:
        return self.off <= 1.0


@dataclass(frozen=True)
class Sides:
    """A posture and its other side. axis: heading of the best mirror line, degrees in [0, 180)."""

    posture: str
    other: str
    axis: float
    residuals: tuple[Residual, ...]
    counts: tuple[int, int]

    @property
    def same(self) -> bool:
        """Whether they mirror each other in every count, and have equally many."""
        return self.counts[0] == self.counts[1] and all(r.same for r in self.residuals)

    @property
    def worst(self) -> Residual | None:
        """The count that is most `off`; None when there is no count."""
        return max(self.residuals, key=lambda residual: residual.off, default=None)


def best_reflection(a: Floats, b: Floats) -> tuple[Floats, Floats]:
    """Reflection Q (2, 2) and translation t (2,) that bring points a (n, 2) onto b (n, 2) best: Q a + t ~ b."""
    mean_a, mean_b = a.mean(axis=0), b.mean(axis=0)
    u, _, vt = np.linalg.svd((a - mean_a).T @ (b - mean_b))
    sign = -np.sign(np.linalg.det(vt.T @ u.T)) or -1.0
    q = vt.T @ np.diag([1.0, sign]) @ u.T
    return q, mean_b - q @ mean_a


def compare(trace: Trace, posture: str, other: str) -> Sides:
    """How far *other* is from being the mirror image of *posture*, count by count, over the counts both have."""
    (first, after), (second, beyond) = trace.span(posture), trace.span(other)
    n = min(after - first, beyond - second)
    if n == 0:
        return Sides(posture, other, 0.0, (), (after - first, beyond - second))
    mine, theirs = slice(first, first + n), slice(second, second + n)
    a = trace.heels[mine]
    b = trace.heels[theirs][:, ::-1]
    q, t = best_reflection(a.reshape(-1, 2), b.reshape(-1, 2))
    # A reflection in a line of heading alpha is [[-cos 2a, sin 2a], [sin 2a, cos 2a]].
    double = float(np.degrees(np.arctan2(q[0, 1], q[1, 1])))
    apart = 100.0 * np.linalg.norm(a @ q.T + t - b, axis=2).max(axis=1)
    feet = heading_differences(double - trace.headings[mine], trace.headings[theirs][:, ::-1])
    torso = heading_differences(double - trace.torso[mine], trace.torso[theirs])
    turned = np.abs(np.column_stack([feet, torso])).max(axis=1)
    weight = 100.0 * np.abs(trace.shares[mine, 0] - trace.shares[theirs, 1])
    residuals = tuple(
        Residual(count, float(cm), float(degrees), float(percent))
        for count, (cm, degrees, percent) in enumerate(zip(apart, turned, weight, strict=True), 1)
    )
    return Sides(posture, other, normal(double) / 2.0, residuals, (after - first, beyond - second))


def check_sides(form: Form, trace: Trace) -> tuple[Sides, ...]:
    """Every posture that says whose other side it is (mirror_of or side_of), compared with it."""
    pairs = [(p.mirror_of or p.side_of, p.id) for p in form.postures]
    return tuple(compare(trace, source, other) for source, other in pairs if source is not None)
