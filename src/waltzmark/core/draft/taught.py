"""Phrases that a writer taught: each with the counts it stands for, of the foot and the facing it was taught with."""

from __future__ import annotations

from waltzmark.core.base.angles import normal
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose
from waltzmark.core.score.actions import Count

__all__ = ["Taught"]


class Taught(Record):
    """A phrase and what it means.

    language: of its words; side: the foot that it was taught of; torso: heading of the torso before the counts,
    degrees.
    """

    phrase: str
    counts: tuple[Count, ...]
    language: str = "en"
    side: Side = Side.RIGHT
    torso: float = 0.0

    @property
    def words(self) -> tuple[str, ...]:
        """Its words in small letters."""
        return tuple(self.phrase.lower().replace("’", "'").split())

    def counts_for(self, side: Side, pose: Pose, twelve: str) -> tuple[Count, ...]:
        """Its counts for a foot, from where a body faces: mirrored for the other foot, and turned along.

        Parameters
        ----------
        side
            The foot that does it.
        pose
            Where the body stands.
        twelve
            The compass point at 12.

        Returns
        -------
        tuple of Count
        """
        counts, by = self.counts, normal(pose.torso - self.torso)
        if side is not self.side:
            counts = tuple(count.mirrored(self.torso, twelve) for count in counts)
        return tuple(count.turned(by, twelve) for count in counts) if by else counts
