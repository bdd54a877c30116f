"""The trace and the checks of a form as plain JSON values, in metres and degrees of the floor frame."""

from __future__ import annotations

import math
from typing import Any

from waltzmark.core.answers.review import Review
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.edit.resizing import Resize
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.home.closing import Closings
from waltzmark.core.home.ledger import Return
from waltzmark.core.home.loops import Loop
from waltzmark.core.home.rounds import Rounds
from waltzmark.core.home.turning import Turning
from waltzmark.core.room.changes import Advice
from waltzmark.core.room.clearance import Clearance, name_of
from waltzmark.core.room.group import Group
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.trace import Trace

__all__ = ["check_values", "home_values", "loop_values", "room_values", "trace_values"]

_DIGITS = 6  # a micrometre; more would only show how numbers are stored


def _round(value: float) -> float:
    return round(float(value), _DIGITS) + 0.0


def _known(value: float) -> float | None:
    """A figure, null where there is none."""
    return None if math.isnan(value) else _round(value)


def trace_values(trace: Trace) -> dict[str, Any]:
    """``{"counts": [...]}``, the opening stance first with count 0 and no posture."""
    counts = []
    body = Mechanics(trace)
    for row in range(len(trace)):
        one = trace.row(row)
        entry: dict[str, Any] = {
            "posture": one.posture,
            "count": one.count,
            "text": write_count(one.written),
            "beats": one.written.beats if row else 0,
        }
        for side in Side:
            foot = one.pose.foot(side)
            entry[side.word] = {
                "heel": [_round(foot.x), _round(foot.y)],
                "heading": _round(foot.heading),
                "contact": Contact(foot.contact).word,
            }
        entry["weight"] = {side.word: _round(one.pose.share(side)) for side in Side}
        entry["torso"] = _round(one.pose.torso)
        entry["gaze"] = _round(one.pose.gaze)
        entry["centre"] = [_round(v) for v in trace.centres[row]]
        entry["pelvis"] = {
            "place": [_round(v) for v in body.pelvis_places[row]],
            "heading": _round(body.pelvis[row]),
            "height": _known(body.legs.height[row]),
        }
        entry["waist"] = _round(body.waist[row])
        entry["knees"] = {side.word: _known(body.legs.bends[row, side]) for side in Side}
        stance = recognised(one.pose, trace.body, trace.ground.school)
        entry["stance"] = {"name": stance.name or None, "front": None if stance.front is None else stance.front.word,
                           "match": round(stance.match, 2), "length": _round(stance.length),
                           "width": _round(stance.width), "rear": _round(stance.rear)}  # fmt: skip
        counts.append(entry)
    return {"counts": counts}


def room_values(form: Form, trace: Trace, known: Advice, group: Group | None = None) -> dict[str, Any]:
    """What is known of a form in its room: its own start, the best ones, what would make it fit, and a class."""
    room = form.room
    assert room is not None

    def near(found: Clearance) -> dict[str, Any]:
        row = found.row
        return {"posture": trace.posture(row), "count": int(trace.counts[row]), "against": name_of(room, found)}

    return {
        "start": _start(room.start),
        "fits": known.here.fits,
        "clearance": _round(known.here.clearance),
        "wanted": _round(known.here.wanted),
        **near(known.here),
        "starts": [
            {**_start(each.start), "clearance": _round(each.near.clearance), **near(each.near)} for each in known.starts
        ],
        "changes": [
            {
                "kind": each.kind,
                "words": each.words,
                "clearance": _round(each.near.clearance),
                "start": _start(each.room.start),
                "changes": [_resize(resize) for resize in each.resizes],
                "brings": list(each.brings),
            }
            for each in known.changes
        ],
        "class": None if group is None else {
            "gap": _round(group.gap) if math.isfinite(group.gap) else None,
            "wanted": _round(group.wanted),
            "beat": _round(group.beat),
            "lag": _round(group.lag),
            "walkers": [_start(each) for each in group.walkers],
        },
    }  # fmt: skip


def _start(start: Start) -> dict[str, float]:
    return {"x": _round(start.x), "y": _round(start.y), "heading": _round(start.heading)}


def _resize(resize: Resize) -> dict[str, Any]:
    before, after = _round(100 * resize.before), _round(100 * resize.after)
    return {"posture": resize.posture, "count": resize.count, "what": resize.what, "from": before, "to": after,
            "unit": "cm"}  # fmt: skip


def home_values(trace: Trace, home: Return, found: Closings | None, rounds: Rounds) -> dict[str, Any]:
    """Where the walk ends against home, what carries it there, what closes it, and what rounds of it do."""
    x, y = home.home.place
    return {
        "offset": [_round(v) for v in home.offset],
        "distance": _round(home.distance),
        "turn": _round(home.turn),
        "turned": _round(home.turned),
        "target": {"x": _round(x), "y": _round(y), "facing": _round(home.heading), "within": _round(home.home.within),
                   "turn": _round(home.home.turn)},
        "ledger": [
            {"posture": c.posture, "offset": [_round(v) for v in c.offset], "turn": _round(c.turn),
             "along": _round(c.share)}
            for c in home.contributions
        ],
        "closings": [
            {
                "words": each.words,
                "changes": [_turning(turn) for turn in each.turns] + [_resize(resize) for resize in each.changes],
                "total": _round(100 * each.total),
                "distance": _round(each.distance),
                "turn": _round(each.turn),
                "brings": list(each.brings),
            }
            for each in (found.every if found is not None else ())
        ],
        "rounds": {"drift": [_round(v) for v in rounds.drift], "turn": _round(rounds.turn),
                   "home_after": rounds.home_after},
    }  # fmt: skip


def _turning(turn: Turning) -> dict[str, Any]:
    return {"posture": turn.posture, "count": turn.count, "what": turn.what, "from": _round(turn.before),
            "to": _round(turn.after), "unit": "°"}  # fmt: skip


def loop_values(form: Form, loops: tuple[Loop, ...]) -> dict[str, Any]:
    """The loops of a form."""

    def ids(numbers: tuple[int, ...]) -> list[str]:
        return [form.postures[number].id for number in numbers]

    return {
        "loops": [
            {
                "postures": ids(loop.postures),
                "left_out": ids(loop.left_out),
                "drift": _round(loop.away),
                "turn": _round(loop.turn),
                "mismatch": {"cm": _round(loop.worst.cm), "deg": _round(loop.worst.degrees),
                             "percent": _round(loop.worst.percent)},
                "beats": _round(loop.beats),
            }
            for loop in loops
        ]
    }  # fmt: skip


def check_values(form: Form, review: Review) -> dict[str, Any]:
    """Findings, the end against the start, and whether it fits: null without a room."""
    findings = [
        {
            "rule": f.rule,
            "severity": f.severity,
            "posture": f.posture,
            "count": f.count,
            "measured": None if f.measured is None else _round(f.measured),
            "limit": None if f.limit is None else _round(f.limit),
            "unit": f.unit,
            "message": f.message,
            "times": f.times,
            "again": [{"posture": each.posture, "count": each.count} for each in f.again],
            "why": f.why,
            "caution": f.caution,
            "mend": f.mend,
            "mends": [mend.words for mend in f.mends],
        }
        for f in review.findings
    ]
    home = review.home
    values: dict[str, Any] = {
        "school": form.school.id,
        "findings": findings,
        "muted": [
            {"rule": f.rule, "posture": f.posture, "count": f.count, "message": f.message, "reason": mute.reason}
            for f, mute in review.muted
        ],
        "end": {
            "offset": [_round(v) for v in home.offset],
            "distance": _round(home.distance),
            "turn": _round(home.turn),
        },
        "fits": None if review.room is None else review.room.fits,
        "postures": [
            {"posture": c.posture, "offset": [_round(v) for v in c.offset], "turn": _round(c.turn)}
            for c in home.contributions
        ],
        "sides": [
            {
                "posture": pair.posture,
                "other": pair.other,
                "axis": _round(pair.axis),
                "same": pair.same,
                "counts": [
                    {"count": r.count, "cm": _round(r.heels), "degrees": _round(r.heading), "percent": _round(r.weight)}
                    for r in pair.residuals
                ],
            }
            for pair in review.sides
        ],
    }
    if review.room is not None and form.room is not None:
        check = review.room
        values["room"] = {
            "clearance": _round(check.clearance),
            "wanted": _round(check.wanted),
            "what": check.what,
            "row": check.row,
            "place": [_round(v) for v in check.place],
        }
    return values
