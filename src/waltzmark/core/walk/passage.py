"""The passages of a trace: one for each posture, rows underneath, kept while an edit does not touch them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import cached_property
from typing import Any, NamedTuple, TypeVar, cast

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record, field, field_names, replace
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.score.actions import Action, Count, Expect
from waltzmark.core.walk.ground import Move, Problem

__all__ = [
    "COLUMN",
    "LEFT_HEEL",
    "LEFT_POINT",
    "RIGHT_HEEL",
    "RIGHT_POINT",
    "Expectation",
    "Located",
    "Passage",
    "RowValues",
    "moved_rows",
    "row_values",
    "rows_table",
    "span",
]

T = TypeVar("T")


class Located(Record):
    """A problem and the row, within its passage, of the count it happened in."""

    row: int
    problem: Problem


class Expectation(Record):
    """What the analyst said about the end of a row; -1 is the end of what came before the passage."""

    row: int
    line: int
    expect: Expect


class RowValues(NamedTuple):
    """One row of the table underneath a trace; the names are those of `Pose` and `Move`, by side where feet have them.

    number: of the count in its posture; line: of it among the posture's lines.
    """

    left_x: float
    left_y: float
    right_x: float
    right_y: float
    left_heading: float
    right_heading: float
    left_contact: float
    right_contact: float
    left_share: float
    torso: float
    gaze: float
    facing: float
    sink: float
    beats: float
    number: float
    line: float
    left_kind: float
    left_point_x: float
    left_point_y: float
    right_kind: float
    right_point_x: float
    right_point_y: float
    left_turn: float
    right_turn: float
    left_on: float
    right_on: float
    crossing: float
    left_turned: float
    right_turned: float
    lean: float

    @property
    def pose(self) -> Pose:
        """The pose at the end of the count."""
        return Pose(
            FootPose(self.left_x, self.left_y, self.left_heading, Contact(int(self.left_contact))),
            FootPose(self.right_x, self.right_y, self.right_heading, Contact(int(self.right_contact))),
            self.left_share,
            self.torso,
            self.gaze,
            self.sink,
            self.facing,
            self.crossing > 0.5,
            self.left_turned,
            self.right_turned,
            self.lean,
        )

    def move(self, side: Side) -> Move:
        """How a foot moved in the count."""
        if side is Side.LEFT:
            return Move(self.left_kind, self.left_point_x, self.left_point_y, self.left_turn, self.left_on)
        return Move(self.right_kind, self.right_point_x, self.right_point_y, self.right_turn, self.right_on)


def row_values(pose: Pose, moves: tuple[Move, Move], beats: float, number: int, line: int) -> RowValues:
    """The row of a count that ended in a pose."""
    left, right = pose.left, pose.right
    return RowValues(
        left.x,
        left.y,
        right.x,
        right.y,
        left.heading,
        right.heading,
        left.contact,
        right.contact,
        pose.left_share,
        pose.torso,
        pose.gaze,
        pose.facing,
        pose.sink,
        beats,
        number,
        line,
        moves[0].kind,
        moves[0].x,
        moves[0].y,
        moves[1].kind,
        moves[1].x,
        moves[1].y,
        moves[0].turn,
        moves[1].turn,
        moves[0].contact,
        moves[1].contact,
        pose.crossing,
        pose.left_turned,
        pose.right_turned,
        pose.lean,
    )


def rows_table(rows: Sequence[RowValues]) -> Floats:
    """(n, columns) the table of several rows."""
    return np.array(rows, dtype=float) if rows else np.zeros((0, len(RowValues._fields)))


def moved_rows(rows: Floats, away: Floats) -> Floats:
    """Rows (n, columns) elsewhere on the floor: (2,) or, of each its own, (n, 2) metres away."""
    moved = rows.copy()
    moved[:, LEFT_HEEL] += away
    moved[:, RIGHT_HEEL] += away
    for kind, point in (("left_kind", LEFT_POINT), ("right_kind", RIGHT_POINT)):
        # A foot that stands still has no pivot point to move.
        moved[:, point] += away * (rows[:, COLUMN[kind], None] != 0.0)
    return moved


#: Where a column stands in the table.
COLUMN = {name: at for at, name in enumerate(RowValues._fields)}


def span(first: str, last: str) -> slice:
    """Columns that stand side by side."""
    return slice(COLUMN[first], COLUMN[last] + 1)


LEFT_HEEL, RIGHT_HEEL = span("left_x", "left_y"), span("right_x", "right_y")
LEFT_POINT, RIGHT_POINT = span("left_point_x", "left_point_y"), span("right_point_x", "right_point_y")


class Passage(Record, eq=False, dict=True):
    """The walk of one posture, from the pose it was entered in.

    lines: as walked, mirrored or turned where the posture says so; start, finish, rows (counts, columns): the poses
    it begins and ends in and its table of `RowValues` where it was walked; by: metres (x, y) it has been moved by
    since; source, way: the source's lines they were made from, and how. The opening stance has no posture.
    """

    posture: str | None
    lines: tuple[Count, ...]
    start: Pose
    finish: Pose
    rows: Floats
    problems: tuple[Located, ...] = ()
    expectations: tuple[Expectation, ...] = ()
    source: tuple[Count, ...] | None = None
    way: tuple[object, ...] = ()
    by: tuple[float, float] = (0.0, 0.0)
    #: What has been found out about it that is the same wherever it stands; its moved copies share it.
    memo: dict[object, object] = field(default_factory=dict)

    def __reduce__(self) -> tuple[type[Passage], tuple[Any, ...]]:
        """What is handed to another process: not what others are finding out about it just then."""
        return type(self), tuple(getattr(self, name) for name in field_names(self) if name != "memo")

    def __len__(self) -> int:
        return len(self.rows)

    @cached_property
    def entry(self) -> Pose:
        """The pose it begins in, where it stands now."""
        return self.start.moved(*self.by)

    @cached_property
    def exit(self) -> Pose:
        """The pose it ends in, where it stands now."""
        return self.finish.moved(*self.by)

    @cached_property
    def placed(self) -> Floats:
        """Its rows where it stands now."""
        return self.rows if self.by == (0.0, 0.0) else moved_rows(self.rows, np.array(self.by))

    def known(self, what: str, find: Callable[[], T]) -> T:
        """What has been found out about it under a name, found out now if it has not.

        Threads: several may find out the same thing at once. They find the same value, and a dictionary's get and set
        are each whole, so whichever comes last does no harm; nothing that is kept here may be changed afterwards.
        """
        if what not in self.memo:
            self.memo[what] = find()
        return cast(T, self.memo[what])

    @property
    def stays_put(self) -> bool:
        """Whether it steps to absolute places on the floor, so that it cannot be moved as a whole."""
        return self.known("spots", lambda: any(line.spots for line in self.lines))

    @property
    def counts(self) -> tuple[Count, ...]:
        """The line of each row; the opening has an empty one."""
        opening = (Count(),) if self.posture is None else ()
        return self.known("counts", lambda: opening or tuple(line for line in self.lines if line.moves))

    @property
    def acts(self) -> Mapping[type, Sequence[tuple[int, Action]]]:
        """Of each kind of action those that it has, each with the row, in their order."""
        return self.known("acts", lambda: _by_kind(self.counts))

    @property
    def breaths(self) -> tuple[bool | None, ...]:
        """Of each row whether it breathes in, out (False) or says nothing (None)."""
        return self.known("breaths", lambda: tuple(count.inward for count in self.counts))

    @property
    def unread(self) -> bool:
        """Whether any of its lines could not be read."""
        return self.known("unread", lambda: any(line.unread is not None for line in self.lines))

    def moved(self, dx: float, dy: float) -> Passage:
        """The same passage elsewhere on the floor."""
        if dx == 0.0 and dy == 0.0:
            return self
        return replace(self, by=(self.by[0] + dx, self.by[1] + dy))


def _by_kind(counts: Sequence[Count]) -> dict[type, list[tuple[int, Action]]]:
    found: dict[type, list[tuple[int, Action]]] = {}
    for row, count in enumerate(counts):
        for action in count.actions:
            found.setdefault(type(action), []).append((row, action))
    return found
