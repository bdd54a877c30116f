"""The trace of a walk: one row per count, arrays underneath, small views for single counts.

A trace is made of passages, one for each posture, and shares those that an edit did not touch.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain
from typing import NamedTuple, TypeVar, cast

import numpy as np

from waltzmark.core.base.angles import along_across
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import record
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose, rest_of, stance_size
from waltzmark.core.score.actions import Count, Expect
from waltzmark.core.walk.step import Ground, Move, Problem

__all__ = ["Expectation", "Located", "Passage", "Row", "RowValues", "Trace", "row_values", "rows_table"]

T = TypeVar("T")


class Located(NamedTuple):
    """A problem and the row, within its passage, of the count it happened in."""

    row: int
    problem: Problem


class Expectation(NamedTuple):
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
            self.left_share, self.torso, self.gaze, self.sink, self.facing, self.crossing > 0.5,
            self.left_turned, self.right_turned, self.lean,
        )  # fmt: skip

    def move(self, side: Side) -> Move:
        """How a foot moved in the count."""
        if side is Side.LEFT:
            return Move(self.left_kind, self.left_point_x, self.left_point_y, self.left_turn, self.left_on)
        return Move(self.right_kind, self.right_point_x, self.right_point_y, self.right_turn, self.right_on)


def row_values(pose: Pose, moves: tuple[Move, Move], beats: float, number: int, line: int) -> RowValues:
    """The row of a count that ended in a pose."""
    left, right = pose.left, pose.right
    return RowValues(
        left.x, left.y, right.x, right.y, left.heading, right.heading, left.contact, right.contact,
        pose.left_share, pose.torso, pose.gaze, pose.facing, pose.sink, beats, number, line,
        moves[0].kind, moves[0].x, moves[0].y, moves[1].kind, moves[1].x, moves[1].y,
        moves[0].turn, moves[1].turn, moves[0].contact, moves[1].contact,
        pose.crossing, pose.left_turned, pose.right_turned, pose.lean,
    )  # fmt: skip


def rows_table(rows: Sequence[RowValues]) -> Floats:
    """(n, columns) the table of several rows."""
    return np.array(rows, dtype=float) if rows else np.zeros((0, len(RowValues._fields)))


#: Where a column stands in the table.
_COLUMN = {name: at for at, name in enumerate(RowValues._fields)}


def _span(first: str, last: str) -> slice:
    """Columns that stand side by side."""
    return slice(_COLUMN[first], _COLUMN[last] + 1)


_LEFT_HEEL, _RIGHT_HEEL = _span("left_x", "left_y"), _span("right_x", "right_y")
_LEFT_POINT, _RIGHT_POINT = _span("left_point_x", "left_point_y"), _span("right_point_x", "right_point_y")


@dataclass(frozen=True, eq=False)
class Passage:
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
    memo: dict[object, object] = field(default_factory=dict, repr=False)

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
        # Written out, since an edit moves all that follow it and dataclasses.replace takes three times as long.
        return Passage(
            self.posture, self.lines, self.start, self.finish, self.rows, self.problems, self.expectations, self.source,
            self.way, (self.by[0] + dx, self.by[1] + dy), self.memo,
        )  # fmt: skip


@record(slots=True)
class Row:
    """One count of a trace. posture: its id, None for the opening; count: its number, 0 for the opening."""

    index: int
    posture: str | None
    count: int
    line: int
    written: Count
    pose: Pose


@dataclass(frozen=True, eq=False)
class Trace:
    """Every count of a form walked. Arrays have one row per count, row 0 being the opening stance."""

    ground: Ground
    passages: tuple[Passage, ...]

    @property
    def body(self) -> Body:
        return self.ground.body

    @cached_property
    def table(self) -> Floats:
        table = np.concatenate([passage.rows for passage in self.passages])
        away = np.array([passage.by for passage in self.passages])
        if away.any():
            away = np.repeat(away, np.diff(self.starts), axis=0)
            table[:, _LEFT_HEEL] += away
            table[:, _RIGHT_HEEL] += away
            for kind, point in (("left_kind", _LEFT_POINT), ("right_kind", _RIGHT_POINT)):
                # A foot that stands still has no pivot point to move.
                table[:, point] += away * (table[:, _COLUMN[kind], None] != 0.0)
        return table

    def _of(self, *names: str) -> Floats:
        """Columns of the table: (n,) for one name, (n, k) for several."""
        if len(names) == 1:
            return self.table[:, _COLUMN[names[0]]]
        return self.table[:, [_COLUMN[name] for name in names]]

    def __len__(self) -> int:
        return len(self.table)

    @cached_property
    def starts(self) -> Ints:
        """(passages + 1,) index of each passage's first row, and the number of rows."""
        return np.concatenate([[0], np.cumsum([len(p) for p in self.passages])]).astype(np.int64)

    @cached_property
    def passage_of(self) -> Ints:
        """(n,) index of the passage each row belongs to."""
        return np.repeat(np.arange(len(self.passages)), np.diff(self.starts))

    @cached_property
    def heels(self) -> Floats:
        """(n, 2, 2) heel centres in metres, by side."""
        return self.table[:, _span("left_x", "right_y")].reshape(-1, 2, 2)

    @property
    def headings(self) -> Floats:
        """(n, 2) foot headings in degrees, by side."""
        return self.table[:, _span("left_heading", "right_heading")]

    @cached_property
    def contacts(self) -> Ints:
        """(n, 2) `Contact` values, by side."""
        return self._of("left_contact", "right_contact").astype(np.int64)

    @cached_property
    def shares(self) -> Floats:
        """(n, 2) shares of the weight, by side, adding up to 1."""
        left = self._of("left_share")
        return np.column_stack([left, rest_of(left)])

    @property
    def torso(self) -> Floats:
        """(n,) heading of the torso, degrees."""
        return self._of("torso")

    @property
    def gaze(self) -> Floats:
        """(n,) heading of the gaze, degrees."""
        return self._of("gaze")

    @property
    def facing(self) -> Floats:
        """(n,) heading in whose frame the stance has its length and width."""
        return self._of("facing")

    @property
    def sinks(self) -> Floats:
        """(n,) bend of the standing knee, degrees."""
        return self._of("sink")

    @property
    def leans(self) -> Floats:
        """(n,) degrees that the trunk leans forward."""
        return self._of("lean")

    @property
    def beats(self) -> Floats:
        """(n,) how long each count lasts, beats."""
        return self._of("beats")

    @cached_property
    def counts(self) -> Ints:
        """(n,) number of the count within its posture."""
        return self._of("number").astype(np.int64)

    def line(self, row: int) -> int:
        """Which of its posture's lines the count of a row is, from 0."""
        return int(self.table[row, _COLUMN["line"]])

    @cached_property
    def move_kinds(self) -> Floats:
        """(n, 2) 0 still, 1 pivot, 2 step, 3 carried round in the air, by side."""
        return self._of("left_kind", "right_kind")

    @cached_property
    def move_points(self) -> Floats:
        """(n, 2, 2) pivot points or swing control points in metres, by side."""
        return np.stack([self.table[:, _LEFT_POINT], self.table[:, _RIGHT_POINT]], axis=1)

    @property
    def move_turns(self) -> Floats:
        """(n, 2) degrees each foot turned, clockwise positive, by side."""
        return self.table[:, _span("left_turn", "right_turn")]

    @property
    def move_contacts(self) -> Floats:
        """(n, 2) the contact a moving foot moved on, by side."""
        return self.table[:, _span("left_on", "right_on")]

    @property
    def turned(self) -> Floats:
        """(n, 2) degrees each foot has turned since the last step, by side."""
        return self._of("left_turned", "right_turned")

    @cached_property
    def crossing(self) -> Bools:
        """(n,) whether the last step was meant to cross."""
        return self._of("crossing") > 0.5

    @cached_property
    def footings(self) -> Floats:
        """(n, 2, 2) centroid of each foot's contact patch in metres, by side."""
        sides = np.arange(2)[None, :]
        x, y = self.body.sole.patch_centre(sides, self.contacts, self.heels[..., 0], self.heels[..., 1], self.headings)
        return np.stack([x, y], axis=-1)

    @cached_property
    def centres(self) -> Floats:
        """(n, 2) centre of pressure c = wL kL + wR kR in metres, k the centroid of each contact patch."""
        return np.asarray((self.shares[:, :, None] * self.footings).sum(axis=1))

    @cached_property
    def midpoints(self) -> Floats:
        """(n, 2) half-way between the heels, metres."""
        return np.asarray(self.heels.mean(axis=1))

    @cached_property
    def apart(self) -> Floats:
        """(n, 2) how far the right heel is ahead of the left one, and to its right, in the frame of the stance's
        facing; metres."""
        way = self.heels[:, 1] - self.heels[:, 0]
        return np.column_stack(along_across(way[:, 0], way[:, 1], self.facing))

    @cached_property
    def sizes(self) -> Floats:
        """(n, 2) stance length and width in metres, in the frame of the stance's facing."""
        return np.column_stack([np.abs(self.apart[:, 0]), self.apart[:, 1]])

    @cached_property
    def written(self) -> tuple[Count, ...]:
        """The count of each row as walked; the opening has an empty one."""
        return tuple(chain.from_iterable(passage.counts for passage in self.passages))

    @cached_property
    def breaths(self) -> tuple[bool | None, ...]:
        """Of each row True where it breathes in, False where out, None where it says nothing."""
        return tuple(chain.from_iterable(passage.breaths for passage in self.passages))

    @cached_property
    def problems(self) -> tuple[Located, ...]:
        """What could not be walked, by row of the trace."""
        return tuple(
            Located(int(start) + located.row, located.problem)
            for start, passage in zip(self.starts, self.passages, strict=False)
            for located in passage.problems
        )

    @cached_property
    def expectations(self) -> tuple[tuple[int, int, Expectation], ...]:
        """(row, passage, expectation) for everything the analyst said should be true."""
        return tuple(
            (int(start) + said.row, number, said)
            for number, (start, passage) in enumerate(zip(self.starts, self.passages, strict=False))
            for said in passage.expectations
        )

    def posture(self, row: int) -> str | None:
        """Id of the posture a row belongs to; None for the opening."""
        return self.passages[int(self.passage_of[row])].posture

    def span(self, posture: str) -> tuple[int, int]:
        """First row of a posture and the row after its last. Raises KeyError for an unknown id."""
        number = self.numbers[posture]
        return int(self.starts[number]), int(self.starts[number + 1])

    @cached_property
    def numbers(self) -> dict[str | None, int]:
        """The number of each posture's passage, by its id."""
        return {passage.posture: number for number, passage in enumerate(self.passages)}

    def pose(self, row: int) -> Pose:
        """The pose at the end of a row."""
        return self.values(row).pose

    def values(self, row: int) -> RowValues:
        """The numbers of one row."""
        return RowValues._make(self.table[row].tolist())

    def move(self, row: int, side: Side) -> Move:
        """How a foot moved in a row."""
        return self.values(row).move(side)

    def row(self, index: int) -> Row:
        """Everything about one count."""
        passage = self.passages[int(self.passage_of[index])]
        values = self.values(index)
        return Row(index, passage.posture, int(values.number), int(values.line), self.written[index], values.pose)

    def row_of(self, posture: str | None, count: int) -> int:
        """Row of a posture's count, the nearest there is; count 0 is the row before the posture."""
        if posture is None:
            return 0
        first, after = self.span(posture)
        return max(min(first + count - 1, after - 1), 0)

    def size(self, row: int) -> tuple[float, float]:
        """Stance length and width in metres at the end of a row."""
        pose = self.pose(row)
        return stance_size(pose.left, pose.right, pose.facing)
