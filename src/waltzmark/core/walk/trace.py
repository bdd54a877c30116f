"""The trace of a walk: one row per count, arrays underneath, small views for single counts.

A trace is made of passages, one for each posture, and shares those that an edit did not touch.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from itertools import chain
from typing import TypeVar, cast

import numpy as np

from waltzmark.core.base.angles import along_across
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import Pose, rest_of, stance_size
from waltzmark.core.score.actions import Action, Count
from waltzmark.core.walk.ground import Ground, Move
from waltzmark.core.walk.passage import (
    COLUMN,
    LEFT_POINT,
    RIGHT_POINT,
    Expectation,
    Located,
    Passage,
    RowValues,
    moved_rows,
    span,
)

__all__ = ["Row", "Trace"]

A = TypeVar("A", bound=Action)


class Row(Record):
    """One count of a trace. posture: its id, None for the opening; count: its number, 0 for the opening."""

    index: int
    posture: str | None
    count: int
    line: int
    written: Count
    pose: Pose


class Trace(Record, eq=False, dict=True):
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
        return moved_rows(table, np.repeat(away, np.diff(self.starts), axis=0)) if away.any() else table

    def _of(self, *names: str) -> Floats:
        """Columns of the table: (n,) for one name, (n, k) for several."""
        if len(names) == 1:
            return self.table[:, COLUMN[names[0]]]
        return self.table[:, [COLUMN[name] for name in names]]

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
        return self.table[:, span("left_x", "right_y")].reshape(-1, 2, 2)

    @property
    def headings(self) -> Floats:
        """(n, 2) foot headings in degrees, by side."""
        return self.table[:, span("left_heading", "right_heading")]

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
        return int(self.table[row, COLUMN["line"]])

    @cached_property
    def move_kinds(self) -> Floats:
        """(n, 2) 0 still, 1 pivot, 2 step, 3 carried round in the air, by side."""
        return self._of("left_kind", "right_kind")

    @cached_property
    def move_points(self) -> Floats:
        """(n, 2, 2) pivot points or swing control points in metres, by side."""
        return np.stack([self.table[:, LEFT_POINT], self.table[:, RIGHT_POINT]], axis=1)

    @property
    def move_turns(self) -> Floats:
        """(n, 2) degrees each foot turned, clockwise positive, by side."""
        return self.table[:, span("left_turn", "right_turn")]

    @property
    def move_contacts(self) -> Floats:
        """(n, 2) the contact a moving foot moved on, by side."""
        return self.table[:, span("left_on", "right_on")]

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
        """(n, 2) how far the right heel is ahead of the left one, and to its right, metres.

        In the frame of the stance's facing.
        """
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

    def of_kind(self, kind: type[A]) -> Iterator[tuple[int, A]]:
        """The actions of a kind as walked, each with its row, in their order."""
        for passage, start in zip(self.passages, self.starts.tolist(), strict=False):
            for row, action in passage.acts.get(kind, ()):
                yield start + row, cast(A, action)

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
        found = self._poses.get(row)
        if found is None:
            found = self._poses[row] = self.values(row).pose
        return found

    @cached_property
    def _poses(self) -> dict[int, Pose]:
        """Poses that were asked for: a view asks for the same two in every frame."""
        return {}

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
