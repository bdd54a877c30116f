"""The trace of a walk: one row per count, arrays underneath, small views for single counts.

A trace is made of passages, one for each posture, and shares those that an edit did not touch.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain
from typing import NamedTuple, TypeVar, cast

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose, stance_size
from waltzmark.core.score.actions import Count, Expect
from waltzmark.core.walk.step import Ground, Move, Problem

__all__ = ["Expectation", "Located", "Passage", "Row", "Trace", "row_values"]

T = TypeVar("T")

#: Columns of the table underneath, see `row_values`.
COLUMNS = 28


class Located(NamedTuple):
    """A problem and the row, within its passage, of the count it happened in."""

    row: int
    problem: Problem


class Expectation(NamedTuple):
    """What the analyst said about the end of a row; -1 is the end of what came before the passage."""

    row: int
    line: int
    expect: Expect


def row_values(pose: Pose, moves: tuple[Move, Move], beats: float, number: int, line: int) -> tuple[float, ...]:
    """One row of the table: the pose, then beats, count number and line, then both moves."""
    left, right = pose.left, pose.right
    return (
        left.x, left.y, right.x, right.y, left.heading, right.heading, left.contact, right.contact,
        pose.left_share, pose.torso, pose.gaze, pose.facing, pose.sink, beats, number, line,
        moves[0].kind, moves[0].x, moves[0].y, moves[1].kind, moves[1].x, moves[1].y,
        moves[0].turn, moves[1].turn, moves[0].contact, moves[1].contact,
        pose.torso_held, pose.crossing,
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Passage:
    """The walk of one posture, from the pose it was entered in.

    lines: as walked, mirrored or turned where the posture says so; start, finish, rows (counts, `COLUMNS`): the poses
    it begins and ends in and its table where it was walked; by: metres (x, y) it has been moved by since; source, way:
    the source's lines they were made from, and how. The opening stance is a passage without a posture.
    """

    posture: str | None
    lines: tuple[Count, ...]
    start: Pose
    finish: Pose
    rows: Floats
    problems: tuple[Located, ...] = ()
    expectations: tuple[Expectation, ...] = ()
    source: tuple[Count, ...] | None = None
    way: tuple[object, ...] | None = None
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
        """What has been found out about it under a name, found out now if it has not."""
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


@dataclass(frozen=True, slots=True)
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
            table[:, 0:2] += away
            table[:, 2:4] += away
            for kind in (16, 19):  # a foot that stands still has no pivot point to move
                table[:, kind + 1 : kind + 3] += away * (table[:, kind : kind + 1] != 0.0)
        return table

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
        return self.table[:, 0:4].reshape(-1, 2, 2)

    @property
    def headings(self) -> Floats:
        """(n, 2) foot headings in degrees, by side."""
        return self.table[:, 4:6]

    @cached_property
    def contacts(self) -> Ints:
        """(n, 2) `Contact` values, by side."""
        return self.table[:, 6:8].astype(np.int64)

    @cached_property
    def shares(self) -> Floats:
        """(n, 2) shares of the weight, by side, adding up to 1."""
        left = self.table[:, 8]
        return np.column_stack([left, 1.0 - left])

    @property
    def torso(self) -> Floats:
        return self.table[:, 9]

    @property
    def gaze(self) -> Floats:
        return self.table[:, 10]

    @property
    def facing(self) -> Floats:
        """(n,) heading in whose frame the stance has its length and width."""
        return self.table[:, 11]

    @property
    def beats(self) -> Floats:
        return self.table[:, 13]

    @cached_property
    def counts(self) -> Ints:
        """(n,) number of the count within its posture."""
        return self.table[:, 14].astype(np.int64)

    @cached_property
    def move_kinds(self) -> Floats:
        """(n, 2) 0 still, 1 pivot, 2 step, by side."""
        return self.table[:, (16, 19)]

    @cached_property
    def move_points(self) -> Floats:
        """(n, 2, 2) pivot points or swing control points in metres, by side."""
        return self.table[:, (17, 18, 20, 21)].reshape(-1, 2, 2)

    @property
    def move_turns(self) -> Floats:
        """(n, 2) degrees each foot turned, clockwise positive, by side."""
        return self.table[:, 22:24]

    @property
    def move_contacts(self) -> Floats:
        """(n, 2) the contact a moving foot moved on, by side."""
        return self.table[:, 24:26]

    @cached_property
    def crossing(self) -> Bools:
        return self.table[:, 27] > 0.5

    @cached_property
    def centres(self) -> Floats:
        """(n, 2) centre of pressure c = wL kL + wR kR in metres, k the centroid of each contact patch."""
        local = self.body.sole.centroids[np.arange(2)[None, :], self.contacts]
        angle = np.radians(self.headings)
        cos, sin = np.cos(angle), np.sin(angle)
        x = self.heels[..., 0] + local[..., 0] * cos + local[..., 1] * sin
        y = self.heels[..., 1] - local[..., 0] * sin + local[..., 1] * cos
        return np.column_stack([(self.shares * x).sum(axis=1), (self.shares * y).sum(axis=1)])

    @cached_property
    def midpoints(self) -> Floats:
        """(n, 2) half-way between the heels, metres."""
        return np.asarray(self.heels.mean(axis=1))

    @cached_property
    def sizes(self) -> Floats:
        """(n, 2) stance length and width in metres, in the frame of the stance's facing."""
        apart = self.heels[:, 1] - self.heels[:, 0]
        angle = np.radians(self.facing)
        cos, sin = np.cos(angle), np.sin(angle)
        length = apart[:, 0] * sin + apart[:, 1] * cos
        width = apart[:, 0] * cos - apart[:, 1] * sin
        return np.column_stack([np.abs(length), width])

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
        t = self.table[row].tolist()
        return Pose(
            FootPose(t[0], t[1], t[4], Contact(int(t[6]))), FootPose(t[2], t[3], t[5], Contact(int(t[7]))),
            t[8], t[9], t[26] > 0.5, t[10], t[12], t[11], t[27] > 0.5,
        )  # fmt: skip

    def move(self, row: int, side: Side) -> Move:
        """How a foot moved in a row."""
        t = self.table[row].tolist()
        at = 16 + 3 * side
        return Move(t[at], t[at + 1], t[at + 2], t[22 + side], t[24 + side])

    def row(self, index: int) -> Row:
        """Everything about one count."""
        passage = self.passages[int(self.passage_of[index])]
        line = int(self.table[index, 15])
        return Row(index, passage.posture, int(self.counts[index]), line, self.written[index], self.pose(index))

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
