"""The stance: the heels on two lines, as long and as wide as the school and the body allow."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.body.body import LEAST_BEND
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.knees import depths
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.judge.sizing import good_width, size_mends
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Toward
from waltzmark.core.walk.step import common_turn

__all__: list[str] = []

#: A rear foot that turns further than this is not corrected but directed elsewhere, degrees.
_REDIRECTED = 60.0
#: Feet that both turn further than this the same way come out of how they stand, degrees.
_UNWINDS = 10.0
#: Feet that point further apart than this have no direction between them, degrees.
_FAR_APART = 90.0


@rule("stance.narrow", "caution", whole=True)
def narrow(case: Case) -> Iterator[Finding]:
    """The heel lines of a stance of some length lie too close together, or on one line."""
    wrong, least = _narrow(case)
    length, width, good = 100 * case.trace.sizes[:, 0], 100 * case.trace.sizes[:, 1], good_width(case)
    for row in case.rows(wrong):
        yield case.found(
            "stance.narrow",
            row,
            measured=float(width[row]),
            limit=float(least[row]),
            unit="cm",
            length=float(length[row]),
            mends=size_mends(case, row, width=good),
        )


def _narrow(case: Case) -> tuple[Bools, Floats]:
    """(n,) where a stance is first seen to be too narrow, and (n,) how wide it should be, cm."""
    trace = case.trace
    length, width = 100 * trace.sizes[:, 0], 100 * trace.sizes[:, 1]
    # A light front foot may stand narrower, until weight comes on it.
    light = ~(100 * case.body.front_share > case.limit("stance.narrow", "light") + 1e-6)
    judged = case.landed | case.taken | case.firsts(case.both_carry & ~light)
    usual = case.limit("stance.narrow", "width")
    # A foot that was stepped with and took the weight, a light one left in front: less will do, but not one line.
    least = np.where(light, case.limit("stance.narrow", "width_light"), usual)
    least = np.where(light & case.took_the_weight, np.maximum(least, usual / 2.0), least)
    crossed_from = case.limit("stance.crossed", "width")
    wrong = (width < least - 1e-6) & (width >= crossed_from) & (length > case.limit("stance.narrow", "length"))
    return case.firsts(judged & wrong & ~trace.crossing & ~unwinds(case)), least


@rule("stance.crossed", "caution", whole=True)
def crossed(case: Case) -> Iterator[Finding]:
    """The feet have changed sides without the score saying cross, or stand on one line.

    The way the stance faces as soon as the foot that stepped carries, and along the feet themselves while both carry,
    where the chest may still face the old way.
    """
    trace, good = case.trace, good_width(case)
    limit, line, half = case.limits("stance.crossed", "width", "line", "half")
    width, along = 100 * trace.sizes[:, 1], 100 * _width_along_feet(case)
    footed = (_both_stand(case) | case.landed) & ~unwinds(case)
    over = (case.landed & (width < limit - 1e-6)) | (footed & (along < limit - 1e-6))
    # A light foot in front may stand on the line, as the school has it: `stance.narrow` looks at its width.
    light = ~(100 * case.body.front_share > case.limit("stance.narrow", "light") + 1e-6)
    long = 100 * _length_along_feet(case) > case.limit("stance.narrow", "length")
    lined = footed & _both_stand(case) & (along < line - 1e-6) & long & ~light
    told, steps = np.zeros(len(trace), dtype=bool), np.asarray(case.body.steps.any(axis=1))
    if case.form.school.applies("stance.narrow"):  # which has a stance on one line told already
        tight = np.cumsum(_narrow(case)[0])
        lined &= tight <= np.maximum.accumulate(np.where(steps, tight - np.diff(tight, prepend=0), 0))
    for row in case.rows((over | lined) & ~trace.crossing):
        since = int(np.flatnonzero(steps[: row + 1]).max(initial=0))
        # The same feet are told of once, and again where weight that has come onto them makes it a danger.
        stepped = Side(int(case.body.steps[since, 1])) if case.body.steps[since].any() else None
        loaded = stepped is None or 100 * trace.shares[row:, stepped][:2].max() >= half - 1e-6
        if told[since]:
            continue
        told[since] = True
        least = min(float(along[row]), float(width[row])) if over[row] else float(along[row])
        yield case.found(
            "stance.crossed",
            row,
            which="" if over[row] else "line",
            measured=least,
            limit=limit if over[row] else line,
            unit="cm",
            over=-least,
            severity=None if loaded else "note",
            mends=size_mends(case, row, width=good),
        )


def _both_stand(case: Case) -> Bools:
    """(n,) whether both feet are down and carry enough that how they stand to each other matters."""
    trace, carries = case.trace, case.limit("stance.crossed", "carries")
    stand = (100 * trace.shares >= carries - 1e-6) & (trace.contacts != Contact.AIR)
    return np.asarray(stand.all(axis=1))


def _between(case: Case) -> Floats:
    """(n,) heading half-way between both feet, or the facing of the stance where they point far apart; degrees."""
    trace = case.trace
    apart = heading_differences(trace.headings[:, 0], trace.headings[:, 1])
    return np.where(np.abs(apart) <= _FAR_APART, trace.headings[:, 0] + apart / 2.0, trace.facing)


def _width_along_feet(case: Case) -> Floats:
    """(n,) metres from the left heel to the right one across the heading between both feet."""
    line, angle = case.trace.heels[:, 1] - case.trace.heels[:, 0], np.radians(_between(case))
    return np.asarray(line[:, 0] * np.cos(angle) - line[:, 1] * np.sin(angle))


def _length_along_feet(case: Case) -> Floats:
    """(n,) metres between the heels along the heading between both feet."""
    line, angle = case.trace.heels[:, 1] - case.trace.heels[:, 0], np.radians(_between(case))
    return np.abs(line[:, 0] * np.sin(angle) + line[:, 1] * np.cos(angle))


def unwinds(case: Case) -> Bools:
    """(n,) whether both feet turn or step out of it the same way, in its own count and the next two."""
    trace = case.trace
    turns = np.where(case.body.steps | case.body.pivots, trace.move_turns, 0.0)
    ahead = turns.copy()
    for later in (1, 2):
        ahead[:-later] += turns[later:]
    same = np.sign(ahead[:, 0]) == np.sign(ahead[:, 1])
    return np.asarray(same & (np.abs(ahead) > _UNWINDS).all(axis=1))


@rule("stance.wide", "note", whole=True)
def wide(case: Case) -> Iterator[Finding]:
    """A stance is wider than the school lets any be."""
    trace = case.trace
    most = case.limit("stance.wide", "shoulders") / 100 * 100 * case.form.body.shoulder_breadth
    width, good = 100 * trace.sizes[:, 1], good_width(case)
    for row in case.rows(case.taken & (width > most + 0.5)):
        yield case.found(
            "stance.wide",
            row,
            measured=float(width[row]),
            limit=most,
            unit="cm",
            mends=size_mends(case, row, width=good),
        )


@rule("stance.long", "caution", whole=True)
def long(case: Case) -> Iterator[Finding]:
    """A stance is longer than the knees could set down empty however deep they went, or than a leg that carries."""
    trace, body = case.trace, case.form.body
    length, width = 100 * trace.sizes[:, 0], trace.sizes[:, 1]
    share = case.limit("stance.long", "share") / 100
    # Only where the feet are far apart can a leg be too short; elsewhere it need not be found out. The hip lies between
    # the ankles, or beyond them by no more than half the spacing, part of a foot, and what a leaning trunk moves it.
    leaning = 0.15 * body.stature if trace.leans.any() else 0.0
    near = body.leg(LEAST_BEND) - body.hip_spacing - max(body.sole.of(side) for side in SIDES) - leaning
    apart = np.hypot(*(trace.heels[:, 0] - trace.heels[:, 1]).T)
    torn = np.zeros(len(trace), dtype=bool)
    if (apart > near).any():
        torn = begins(np.isnan(case.body.seat.height))
    rows = np.flatnonzero(case.landed & (length > 40) & ~torn)
    wide, at = np.unique(np.abs(np.round(width[rows], 2)), return_inverse=True)
    longest = (
        np.array([longest_empty_length(body, body.deepest, float(each)) for each in wide])[at] if len(rows) else ()
    )
    for row in case.rows(torn):
        yield case.found(
            "stance.long",
            row,
            which="torn",
            measured=100 * float(apart[row]),
            unit="cm",
            mends=size_mends(case, row, most=0.8 * float(length[row])),
        )
    for row, reach in zip(rows.tolist(), longest, strict=True):
        most = 100 * share * float(reach)
        if row and length[row] > most + 0.5:
            yield case.found(
                "stance.long",
                row,
                measured=float(length[row]),
                limit=most,
                unit="cm",
                bend=body.deepest,
                mends=size_mends(case, row, most=most),
            )


@rule("stance.rear-angle", "note")
def rear_angle(case: Case) -> Iterator[Finding]:
    """In a forward stance that has settled, the rear foot points elsewhere than the school has it."""
    trace, body = case.trace, case.body
    angle, within = case.limits("stance.rear-angle", "angle", "within")
    forward = (body.front_share >= 0.5) & body.carries.all(axis=1) & (100 * trace.sizes[:, 0] > 20)
    for row in case.rows(forward & body.settled & ~trace.crossing):
        rear = Side(1 - int(body.front[row]))
        out = float(body.toe_angles[row, rear])
        if abs(out - angle) <= within + 1e-6 or trace.contacts[row, rear] != Contact.FLAT:
            continue
        if body.pivots[row, rear] and abs(trace.move_turns[row, rear]) > _REDIRECTED:
            continue  # it is being turned to another facing
        way = case.choice("stance.rear-angle", "correction")
        part = "ball" if way == "heel pushed" or way == "ball" else "heel"
        over = heading_difference(angle, out)  # the shorter way round, for a foot that points far back
        turn = Toward(over > 0, abs(round(2 * over) / 2))
        pose = trace.pose(row)
        turned = (pose.left_turned, pose.right_turned)
        # Turned as the front foot has been since the step, it would take the facing along.
        follows = common_turn(turned[rear] - rear.sign * over, turned[rear.other]) != common_turn(*turned)
        pivot = act.Count((act.Pivot(rear, part, turn),))  # type: ignore[arg-type]
        yield case.found(
            "stance.rear-angle",
            row,
            which=_out_or_in(out),
            measured=out,
            limit=angle,
            unit="°",
            side=rear,
            turned=abs(out),
            within=within,
            mends=() if follows else case.put_after(row, message("mend.rear-foot", angle=angle, part=part), pivot),
        )


def _out_or_in(degrees: float) -> str:
    """Which way a toe points: straight ahead, out (the usual, without a name) or inward."""
    if abs(degrees) < 0.5:
        return "ahead"
    return "" if degrees > 0 else "inward"


@rule("stance.heel-floats", "caution")
def heel_floats(case: Case) -> Iterator[Finding]:
    """In a loaded forward stance that has settled, the rear foot stands on its ball only and carries."""
    trace, body = case.trace, case.body
    share, length = case.limits("stance.heel-floats", "share", "length")
    forward = (body.front_share >= 0.5) & (100 * trace.sizes[:, 0] > length) & body.settled & ~trace.crossing
    rear = np.where(body.front < 0, 0, 1 - body.front)
    rows = np.arange(len(trace))
    carried = 100 * trace.shares[rows, rear]
    for row in case.rows(forward & (trace.contacts[rows, rear] == Contact.BALL) & (carried >= share - 1e-6)):
        side = Side(int(rear[row]))
        flat = act.Count((act.Land(side, Contact.FLAT),))
        yield case.found(
            "stance.heel-floats",
            row,
            measured=float(carried[row]),
            limit=share,
            unit="%",
            side=side,
            mends=case.put_after(row, message("mend.heel-down"), flat),
        )


@rule("stance.overlap", "caution")
def overlap(case: Case) -> Iterator[Finding]:
    """The soles stand on each other."""
    trace = case.trace
    share, breadth = case.limit("stance.overlap", "share") / 100, trace.body.foot_breadth
    apart = axes_apart(case, trace.heels[:, 0], trace.headings[:, 0], trace.heels[:, 1], trace.headings[:, 1])
    moved = (trace.move_kinds != 0).any(axis=1)
    for row in case.rows(moved & (trace.contacts > 0).all(axis=1) & (apart < share * breadth)):
        yield case.found(
            "stance.overlap", row, measured=100 * float(apart[row]), limit=100 * share * breadth, unit="cm"
        )


def axes_apart(case: Case, heels: Floats, headings: Floats, others: Floats, other_headings: Floats) -> Floats:
    """(…,) least distance between the middle lines of two soles, metres; heels (…, 2), headings (…,)."""
    length = min(case.trace.body.sole.of(side) for side in SIDES)
    places = np.linspace(-0.08, 0.82, 7) * length

    def line(at: Floats, heading: Floats) -> Floats:
        angle = np.radians(heading)[..., None]
        ahead = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
        return np.asarray(at[..., None, :] + places[:, None] * ahead)

    one, other = line(heels, headings), line(others, other_headings)
    away = one[..., :, None, :] - other[..., None, :, :]
    return np.asarray(np.sqrt((away**2).sum(axis=-1)).min(axis=(-2, -1)))


@rule("stance.low-held", "caution", whole=True)
def low_held(case: Case) -> Iterator[Finding]:
    """A low stance is held for long."""
    trace = case.trace
    bend, beats = case.limits("stance.low-held", "bend", "beats")
    judged, told = depths(case)
    low = np.fmax.reduce(judged, axis=1) >= bend - 1e-6
    low[0] = False
    edges = np.flatnonzero(np.diff(np.concatenate([[0], low.astype(np.int8), [0]])))
    for first, after in edges.reshape(-1, 2).tolist():
        held = float(trace.beats[first:after].sum())
        if held > beats + 1e-6:
            yield case.found(
                "stance.low-held", first, measured=held, limit=beats, unit="beats", bend=float(np.nanmax(told[first]))
            )
