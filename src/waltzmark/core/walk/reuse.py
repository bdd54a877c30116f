"""Passages of an earlier walk, used again where an edit did not touch them."""

from __future__ import annotations

from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose, same_but_moved
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.passage import Passage
from waltzmark.core.walk.trace import Trace

__all__ = ["Reuse", "taken_over"]


def taken_over(form: Form, posture: Posture) -> tuple[object, ...]:
    """How a posture takes over the counts of its source: two that are equal make the same lines of the same source."""
    return posture.mirror_of, posture.axis, posture.repeat_of, posture.turned, form.twelve


class Reuse:
    """What of an earlier walk holds for a later one, asked posture by posture in the order of the form.

    A passage holds again when all three are so:

    - body, school, frame and the way the torso goes are the same (`Ground`); else nothing of the earlier walk holds;
    - the posture of the same id has the same lines;
    - it is entered in the same pose, wherever on the floor. It is then moved as a whole, which a passage that steps to
      floor positions cannot be: that one holds only where it stood.

    Threads: nothing here is written to. A passage that holds shares its ``memo`` with the earlier one, and is judged by
    the interface thread and by background jobs alike: see `Passage.known`.
    """

    def __init__(self, before: Trace | None, ground: Ground) -> None:
        self._known: dict[str | None, Passage] = {}
        self._follows: dict[Passage, Passage] = {}
        if before is not None and before.ground == ground:
            self._known = {passage.posture: passage for passage in before.passages}
            self._follows = dict(zip(before.passages[1:], before.passages, strict=False))
        # The last one that held, and how far it was moved: what came after it is entered in the same pose, as far away.
        self._last: tuple[Passage | None, tuple[float, float]] = (None, (0.0, 0.0))

    def lines(self, form: Form, posture: Posture, source: Passage) -> tuple[Count, ...] | None:
        """The lines of a posture that takes them from *source*, where they were made from these very lines before."""
        old = self._known.get(posture.id)
        if old is None or old.source is not source.lines or old.way != taken_over(form, posture) or old.stays_put:
            return None
        return old.lines

    def passage(
        self,
        posture: Posture,
        lines: tuple[Count, ...],
        before: Passage,
        source: tuple[Count, ...] | None,
        way: tuple[object, ...],
    ) -> Passage | None:
        """The posture's passage after *before*, standing where it does now; None when it has to be walked.

        source, way: what its lines were made from this time, and how.
        """
        old = self._known.get(posture.id)
        move = None if old is None else self._move(old, lines, before)
        if old is None or move is None:
            self._last = None, (0.0, 0.0)
            return None
        self._last = old, move
        moved = old.moved(*move)
        if moved.source is source and moved.way == way:
            return moved
        return replace(moved, source=source, way=way)  # the same walk, though its lines come from elsewhere now

    def begun(self, posture: Posture, entry: Pose) -> Passage | None:
        """The posture's passage as it would begin here with the lines that it had, for those that it still has."""
        old = self._known.get(posture.id)
        move = None if old is None else same_but_moved(old.entry, entry)
        if old is None or move is None or (old.stays_put and move != (0.0, 0.0)):
            return None
        return old.moved(*move)

    def _move(self, old: Passage, lines: tuple[Count, ...], before: Passage) -> tuple[float, float] | None:
        """How far the old passage has to be moved; None when it would be walked otherwise."""
        if old.lines is not lines and old.lines != lines:
            return None
        follows = self._follows.get(old)
        if follows is not None and follows is self._last[0]:
            move: tuple[float, float] | None = self._last[1]
        else:
            move = same_but_moved(old.entry, before.exit)
        return None if move is not None and move != (0.0, 0.0) and old.stays_put else move
