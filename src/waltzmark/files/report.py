"""The trace and the checks of a form as plain JSON values, in metres and degrees of the floor frame."""

from __future__ import annotations

import math
from typing import Literal

from waltzmark.core.answers.review import Review
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import fields
from waltzmark.core.body.pose import FootPose
from waltzmark.core.edit.passes import Passing
from waltzmark.core.edit.resizing import Resize
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.home.adding import Added
from waltzmark.core.home.closing import Closings
from waltzmark.core.home.ledger import Return
from waltzmark.core.home.loops import Loop
from waltzmark.core.home.rounds import Rounds
from waltzmark.core.home.turning import Turning
from waltzmark.core.judge.finding import Finding
from waltzmark.core.room.changes import Advice
from waltzmark.core.room.clearance import Clearance, name_of
from waltzmark.core.room.group import Group
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.trace import Trace
from waltzmark.files.printed import CheckAnswer, CountChange, HomeAnswer, LoopAnswer, Near, RoomAnswer, StartMark
from waltzmark.files.printed_forms import CountWalked, FootStands, TraceAnswer
from waltzmark.files.printed_parts import EndOfWalk, FindingTold
from waltzmark.words.figures import PLAIN
from waltzmark.words.findings import remedy, what
from waltzmark.words.language import shipped
from waltzmark.words.room import change_text
from waltzmark.words.rules import graver_title
from waltzmark.words.sentences import sentence

__all__ = [
    "check_values",
    "end_values",
    "finding_values",
    "home_values",
    "loop_values",
    "room_values",
    "tidy",
    "trace_values",
]

_DIGITS = 6  # a micrometre; more would only show how numbers are stored


def tidy(value: float) -> float:
    """A number as it is written: to a millionth."""
    return round(float(value), _DIGITS) + 0.0


def _known(value: float) -> float | None:
    """A figure, null where there is none."""
    return None if math.isnan(value) else tidy(value)


def trace_values(trace: Trace) -> TraceAnswer:
    """``{"counts": [...]}``, the opening stance first with count 0 and no posture."""
    body = Mechanics(trace)
    return {"counts": [_walked(trace, body, row) for row in range(len(trace))]}


def _walked(trace: Trace, body: Mechanics, row: int) -> CountWalked:
    one = trace.row(row)
    pose = one.pose
    stance = recognised(pose, trace.body, trace.ground.school)
    return {
        "posture": one.posture,
        "count": one.count,
        "text": write_count(one.written),
        "beats": one.written.beats if row else 0,
        "left": _foot(pose.left),
        "right": _foot(pose.right),
        "weight": {"left": tidy(pose.share(Side.LEFT)), "right": tidy(pose.share(Side.RIGHT))},
        "torso": tidy(pose.torso),
        "gaze": tidy(pose.gaze),
        "centre": [tidy(v) for v in trace.centres[row]],
        "pelvis": {
            "place": [tidy(v) for v in body.stand.places[row]],
            "heading": tidy(body.pelvis[row]),
            "height": _known(body.stand.height[row]),
        },
        "waist": tidy(body.waist[row]),
        "knees": {"left": _known(body.stand.bends[row, Side.LEFT]), "right": _known(body.stand.bends[row, Side.RIGHT])},
        "raised": {"left": _raised(body, row, Side.LEFT), "right": _raised(body, row, Side.RIGHT)},
        "stance": {
            "name": stance.name or None,
            "front": None if stance.front is None else stance.front.word,
            "match": round(stance.match, 2),
            "length": tidy(stance.length),
            "width": tidy(stance.width),
            "rear": tidy(stance.rear),
        },
    }


def _raised(body: Mechanics, row: int, side: Side) -> Literal["heel", "toes"] | None:
    """What of a foot comes up by itself in a row: its heel, its toes or nothing."""
    degrees = float(body.raised[row, side])
    if abs(degrees) < 0.05:
        return None
    return "heel" if degrees > 0 else "toes"


def _foot(foot: FootPose) -> FootStands:
    return {
        "heel": [tidy(foot.x), tidy(foot.y)],
        "heading": tidy(foot.heading),
        "contact": Contact(foot.contact).word,
    }


def room_values(form: Form, trace: Trace, known: Advice, group: Group | None = None) -> RoomAnswer:
    """What is known of a form in its room: its own start, the best ones, what would make it fit, and a class."""
    room, figures = form.room, PLAIN.of(form)
    assert room is not None

    def near(found: Clearance) -> Near:
        row = found.row
        return {
            "posture": trace.posture(row),
            "count": int(trace.counts[row]),
            "against": sentence(name_of(room, found), figures),
        }

    return {
        "start": _start(room.start),
        "fits": known.here.fits,
        "clearance": tidy(known.here.clearance),
        "wanted": tidy(known.here.wanted),
        **near(known.here),
        "starts": [
            {**_start(each.start), "clearance": tidy(each.near.clearance), **near(each.near)} for each in known.starts
        ],
        "changes": [
            {
                "kind": each.kind,
                "words": change_text(each, figures),
                "clearance": tidy(each.near.clearance),
                "start": _start(each.room.start),
                "changes": [_resize(resize) for resize in each.resizes],
                "brings": [graver_title(new) for new in each.brings],
                "breaks": [{"before": at.posture, **_start(at.mark)} for at in each.room.breaks],
            }
            for each in known.changes
        ],
        "class": None
        if group is None
        else {
            "gap": tidy(group.gap) if math.isfinite(group.gap) else None,
            "wanted": tidy(group.wanted),
            "beat": tidy(group.beat),
            "lag": tidy(group.lag),
            "walkers": [_start(each) for each in group.walkers],
        },
    }


def _start(start: Start) -> StartMark:
    return {"x": tidy(start.x), "y": tidy(start.y), "heading": tidy(start.heading)}


def _resize(resize: Resize) -> CountChange:
    before, after = tidy(100 * resize.before), tidy(100 * resize.after)
    return {
        "posture": resize.posture,
        "count": resize.count,
        "what": resize.what,
        "from": before,
        "to": after,
        "unit": "cm",
    }


def home_values(trace: Trace, home: Return, found: Closings | None, rounds: Rounds) -> HomeAnswer:
    """Where the walk ends against home, what carries it there, what closes it, and what rounds of it do."""
    x, y = home.home.place
    return {
        "offset": [tidy(v) for v in home.offset],
        "distance": tidy(home.distance),
        "turn": tidy(home.turn),
        "turned": tidy(home.turned),
        "target": {
            "x": tidy(x),
            "y": tidy(y),
            "facing": tidy(home.heading),
            "within": tidy(home.home.within),
            "turn": tidy(home.home.turn),
        },
        "ledger": [
            {"posture": c.posture, "offset": [tidy(v) for v in c.offset], "turn": tidy(c.turn), "along": tidy(c.share)}
            for c in home.contributions
        ],
        "closings": [
            {
                "words": sentence(each.does),
                "changes": [
                    *(_passing(passing) for passing in each.passes),
                    *(_turning(turn) for turn in each.turns),
                    *(_resize(resize) for resize in each.changes),
                    *(() if each.added is None else (_added(each.added),)),
                ],
                "total": tidy(100 * each.total),
                "distance": tidy(each.distance),
                "turn": tidy(each.turn),
                "brings": [graver_title(new) for new in each.brings],
            }
            for each in (found.every if found is not None else ())
        ],
        "rounds": {
            "drift": [tidy(v) for v in rounds.drift],
            "turn": tidy(rounds.turn),
            "home_after": rounds.home_after,
        },
    }


def _passing(passing: Passing) -> CountChange:
    return {
        "posture": passing.postures[0],
        "count": 0,
        "what": "passes",
        "from": float(passing.before),
        "to": float(passing.after),
        "unit": "times",
    }


def _added(added: Added) -> CountChange:
    return {
        "posture": added.after,
        "count": 0,
        "what": "added",
        "from": 0.0,
        "to": float(added.steps),
        "unit": "steps",
    }


def _turning(turn: Turning) -> CountChange:
    return {
        "posture": turn.posture,
        "count": turn.count,
        "what": turn.what,
        "from": tidy(turn.before),
        "to": tidy(turn.after),
        "unit": "°",
    }


def loop_values(form: Form, loops: tuple[Loop, ...]) -> LoopAnswer:
    """The loops of a form."""

    def ids(numbers: tuple[int, ...]) -> list[str]:
        return [form.postures[number].id for number in numbers]

    return {
        "loops": [
            {
                "postures": ids(loop.postures),
                "left_out": ids(loop.left_out),
                "drift": tidy(loop.away),
                "turn": tidy(loop.turn),
                "mismatch": {
                    "cm": tidy(loop.worst.cm),
                    "deg": tidy(loop.worst.degrees),
                    "percent": tidy(loop.worst.percent),
                },
                "beats": tidy(loop.beats),
            }
            for loop in loops
        ]
    }


def finding_values(f: Finding) -> FindingTold:
    """A finding with all that is known of it."""
    return {
        "rule": f.rule,
        "severity": f.severity,
        "posture": f.posture,
        "count": f.count,
        "measured": None if f.measured is None else tidy(f.measured),
        "limit": None if f.limit is None else tidy(f.limit),
        "unit": f.unit,
        "kind": f.kind,
        "fields": dict(fields(f.fields)),
        "side": None if f.side is None else f.side.word,
        "message": what(f),
        "times": f.times,
        "again": [{"posture": each.posture, "count": each.count} for each in f.again],
        "why": shipped(f.why),
        "caution": shipped(f.caution),
        "mend": remedy(f),
        "mends": [sentence(mend.does) for mend in f.mends],
    }


def end_values(home: Return) -> EndOfWalk:
    """Where a walk ends."""
    return {"offset": [tidy(v) for v in home.offset], "distance": tidy(home.distance), "turn": tidy(home.turn)}


def check_values(form: Form, review: Review) -> CheckAnswer:
    """Findings, the end against the start, and whether it fits: null without a room."""
    findings = [finding_values(each) for each in review.findings]
    home = review.home
    values: CheckAnswer = {
        "school": form.school.id,
        "findings": findings,
        "muted": [
            {"rule": f.rule, "posture": f.posture, "count": f.count, "message": what(f), "reason": mute.reason}
            for f, mute in review.muted
        ],
        "end": end_values(home),
        "fits": None if review.room is None else review.room.fits,
        "postures": [
            {"posture": c.posture, "offset": [tidy(v) for v in c.offset], "turn": tidy(c.turn)}
            for c in home.contributions
        ],
        "sides": [
            {
                "posture": pair.posture,
                "other": pair.other,
                "axis": tidy(pair.compared.fold.axis or 0.0),
                "same": pair.same,
                "counts": [
                    {
                        "count": each.count,
                        "cm": tidy(max(map(abs, (*each.off.ahead, *each.off.aside)))),
                        "degrees": tidy(max(map(abs, (*each.off.heading, each.off.torso)))),
                        "percent": tidy(abs(each.off.weight)),
                    }
                    for each in pair.compared.counts
                ],
            }
            for pair in review.sides
            if pair.kind == "mirror"
        ],
    }
    if review.room is not None and form.room is not None:
        check = review.room
        values["room"] = {
            "clearance": tidy(check.clearance),
            "wanted": tidy(check.wanted),
            "what": sentence(check.what, PLAIN.of(form)),
            "row": check.row,
            "place": [tidy(v) for v in check.place],
        }
    return values
