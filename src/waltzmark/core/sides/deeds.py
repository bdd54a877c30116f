"""What each count of a walk does, as arrays: the same wherever it stands and however it is turned.

Two counts that do the same have the same deeds; of a mirrored walk they are those with left and right exchanged.
"""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.angles import along_across, heading_differences
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.records import Record, field_names
from waltzmark.core.score.actions import Pivot
from waltzmark.core.walk.ground import CARRIED, PIVOT, STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["CONTACT", "GAP", "MOST", "PART", "PLACE", "TURN", "Deeds", "costs", "deeds_of"]

#: What a count that only one side has costs in an alignment; two that are paired cost less than two such.
GAP = 1.0
MOST = 1.9
#: Differences that cost as much as half a count: metres, degrees.
PLACE, TURN = 0.4, 60.0
CONTACT, PART, _KIND = 0.2, 0.2, 0.7
_IDLE, _STILL = 0.1, 0.15  # where one foot, or the weight, does what on the other side was done before
_SIGNS = np.array([-1.0, 1.0])  # a foot's own side is to the left for the left one
_PARTS = {"heel": 1.0, "ball": 2.0, "toe": 3.0}
_POURED = 0.0005  # of the weight


class Deeds(Record, eq=False):
    """kinds (n, 2): 0 rests, 1 pivots, 2 steps, by side.

    places (n, 2, 2): where a foot that steps lands from the other heel, metres ahead and to its own side, in the frame
    of the chest as the count begins; sizes: the same in the frame of the step's own facing. headings (n, 2): degrees
    that a foot turns, or lands from the chest; torso (n,): degrees the chest turns. shares (n, 2), poured (n,): weight
    at the end, and whether any was. contacts (n, 2), acted (n, 2): what is on the floor at the end, and whether that
    foot did anything; on (n, 2): the contact a foot moves on; parts (n, 2): 1 heel, 2 ball, 3 toe of a pivot. sinks,
    leans (n,): degrees at the end; bent (n,): whether either changes.
    """

    kinds: Floats
    places: Floats
    sizes: Floats
    headings: Floats
    torso: Floats
    shares: Floats
    poured: Bools
    contacts: Floats
    acted: Bools
    on: Floats
    parts: Floats
    sinks: Floats
    leans: Floats
    bent: Bools

    def __len__(self) -> int:
        return len(self.torso)

    def part(self, rows: slice | Ints | list[int]) -> Deeds:
        """Some of the counts."""
        return Deeds(*(getattr(self, name)[rows] for name in field_names(self)))

    def mirrored(self) -> Deeds:
        """What the other side of each count does."""
        exchanged = {
            name: getattr(self, name)[:, ::-1]
            for name in ("kinds", "places", "sizes", "shares", "contacts", "acted", "on", "parts")
        }
        return Deeds(
            **exchanged,
            headings=-self.headings[:, ::-1],
            torso=-self.torso,
            poured=self.poured,
            sinks=self.sinks,
            leans=self.leans,
            bent=self.bent,
        )


def deeds_of(trace: Trace) -> Deeds:
    """What each row of a trace does; the opening does nothing."""
    before = np.maximum(np.arange(len(trace)) - 1, 0)
    kinds = np.where(trace.move_kinds == CARRIED, 0.0, trace.move_kinds)
    stepping = kinds == STEP
    chest = trace.torso[before]
    # Where a foot lands is written from the other heel as it was when the count began.
    way = trace.heels - trace.heels[before][:, ::-1]
    contacts = trace.contacts.astype(float)
    parts = np.zeros_like(kinds)
    for row, pivot in trace.of_kind(Pivot):
        parts[row, pivot.side] = _PARTS[pivot.part]
    bent = (np.abs(trace.sinks - trace.sinks[before]) > 1e-6) | (np.abs(trace.leans - trace.leans[before]) > 1e-6)
    landing = heading_differences(chest[:, None], trace.headings)
    return Deeds(
        kinds=kinds,
        places=_own(way, chest, stepping),
        sizes=_own(way, trace.facing, stepping),
        headings=np.where(stepping, landing, np.where(kinds > 0, trace.move_turns, 0.0)),
        torso=heading_differences(chest, trace.torso),
        shares=trace.shares,
        poured=np.abs(trace.shares[:, 0] - trace.shares[before, 0]) > _POURED,
        contacts=contacts,
        acted=(kinds > 0) | (contacts != contacts[before]),
        on=np.where(kinds > 0, trace.move_contacts, 0.0),
        parts=parts,
        sinks=trace.sinks,
        leans=trace.leans,
        bent=bent,
    )


def _own(way: Floats, heading: Floats, stepping: Bools) -> Floats:
    """(n, 2, 2) ways in the frame of a heading: ahead, and to each foot's own side; nothing where it does not step."""
    ahead, right = along_across(way[..., 0], way[..., 1], heading[:, None])
    return np.where(stepping[..., None], np.stack([ahead, right * _SIGNS], axis=-1), 0.0)


def costs(a: Deeds, b: Deeds) -> Floats:
    """(n, m) how unlike each count of *a* is to each of *b*: 0 where they do the same, at most just under two gaps."""

    def apart(name: str) -> Floats:
        return np.asarray(getattr(a, name)[:, None] - getattr(b, name)[None, :])

    def differ(name: str) -> Bools:
        return np.asarray(getattr(a, name)[:, None] != getattr(b, name)[None, :])

    def either(name: str) -> Bools:
        return np.asarray(getattr(a, name)[:, None] | getattr(b, name)[None, :])

    kinds = differ("kinds")
    cost = _KIND * kinds.sum(axis=-1)
    cost += 0.5 / PLACE * np.linalg.norm(apart("places"), axis=-1).sum(axis=-1)
    turns = np.abs((apart("headings") + 180.0) % 360.0 - 180.0)
    cost += 0.5 / TURN * turns.sum(axis=-1)
    cost += 0.5 / TURN * np.abs((apart("torso") + 180.0) % 360.0 - 180.0)
    cost += np.where(either("poured"), np.abs(apart("shares")[..., 0]), 0.0)
    cost += CONTACT * (either("acted") & differ("contacts")).sum(axis=-1)
    pivots = (a.kinds[:, None] == PIVOT) & (b.kinds[None, :] == PIVOT)
    round_ = (a.headings[:, None] * b.headings[None, :] < 0.0) & (np.abs(apart("headings")) > 180.0 - 1e-6)
    cost += PART * (pivots & round_).sum(axis=-1)
    cost += PART * ((differ("parts") | differ("on")) & ~kinds).sum(axis=-1)
    cost += np.where(either("bent"), 0.5 / TURN * (np.abs(apart("sinks")) + np.abs(apart("leans"))), 0.0)
    cost += _IDLE * (differ("acted") & ~kinds).sum(axis=-1) + _STILL * (differ("poured") | differ("bent"))
    return np.asarray(np.minimum(cost, MOST))
