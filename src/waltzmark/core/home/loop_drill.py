"""A loop made a form of its own, to be walked again and again: postures copied, bridges where a join needs one."""

from __future__ import annotations

from waltzmark.core.base.angles import heading_difference, normal, rotated
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import Length
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form, Home, Opening, Posture
from waltzmark.core.home.loops import Loop, loops_of
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.joins import Join, join_of
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import ground_of, walk_passage

__all__ = ["as_walked", "drill_of", "walked_loops"]

#: What a join may differ by without a bridge: cm, degrees, % of the weight.
_ALIKE = (2.0, 4.0, 4.0)
_SMALL = 1e-6  # degrees


def drill_of(form: Form, trace: Trace, loop: Loop) -> Form:
    """The form of a loop.

    It opens in the stance its first posture is entered in, facing 12; each posture is walked as it was in its own
    frame, turned to where the one before it has led, with knees and trunk as they were.
    """
    return _made(form, trace, loop).form


def as_walked(form: Form, trace: Trace, loop: Loop) -> Loop:
    """The loop as somebody sees it who walks it.

    With the drift, the turn and the beats of its drill, walked with its bridges.
    """
    made = _made(form, trace, loop)
    (x, y), (x0, y0) = made.pose.midpoint, made.opening.midpoint
    return replace(
        loop, drift=(x - x0, y - y0), turn=heading_difference(made.opening.torso, made.pose.torso), beats=made.beats
    )


def walked_loops(form: Form, trace: Trace, most_left_out: int = 3, progress: Progress = SILENT) -> tuple[Loop, ...]:
    """The best loops of a walk, each as its drill is walked, the best first. Raises what `loops_of` raises."""
    found = loops_of(trace, most_left_out, progress=progress)
    return tuple(sorted((as_walked(form, trace, loop) for loop in found), key=lambda loop: loop.cost))


class _Drill:
    """A drill as it is put together: its form so far, and the pose that it has led to."""

    def __init__(self, form: Form, opening: Pose) -> None:
        self.form, self.ground = form, ground_of(form)
        self.opening = self.pose = opening
        self.beats = 0.0

    def add(self, posture: Posture) -> None:
        passage = walk_passage(posture.id, posture.lines, self.pose, self.ground, swings=False)
        self.form = replace(self.form, postures=(*self.form.postures, posture))
        self.pose = passage.exit
        self.beats += sum(line.beats for line in posture.lines if line.moves)

    def bridge(self, entry: Pose, before: str) -> None:
        """Adds a bridge from the present stance to one that is entered, where they differ."""
        join = join_of(self.pose, entry)
        if all(own <= most for own, most in zip((join.cm, join.degrees, join.percent), _ALIKE, strict=True)):
            return
        ids = {posture.id for posture in self.form.postures}
        name = next(f"bridge-{n}" for n in range(1, len(ids) + 2) if f"bridge-{n}" not in ids)
        self.add(Posture(name, f"Bridge to {before}", tuple(_bridge(self.pose, entry, join))))


def _made(form: Form, trace: Trace, loop: Loop) -> _Drill:
    first = trace.passages[loop.postures[0] + 1].entry
    bare = replace(
        form,
        title=f"{form.title}, loop" if form.title else "Loop",
        opening=_opening(first),
        postures=(),
        mutes=(),
        home=Home(within=form.home.within, turn=form.home.turn),
        room=None if form.room is None else replace(form.room, breaks=()),
    )
    # A round may end with other knees than it began with; then the first posture says how it begins.
    last = trace.passages[loop.postures[-1] + 1].exit
    other = last.sink != first.sink or last.lean != first.lean
    made = _Drill(bare, bare.opening.pose(bare.body)._replace(lean=bare.school.lean))
    for number, index in enumerate(loop.postures):
        passage = trace.passages[index + 1]
        if number and loop.postures[number - 1] != index - 1:
            made.bridge(passage.entry, form.postures[index].title)
        said = other and not number
        made.add(_copied(form, form.postures[index], passage.lines, passage.entry, made.pose, said))
    made.bridge(made.opening, "the beginning")
    return made


def _opening(entry: Pose) -> Opening:
    """The stance a posture is entered in as an opening: its middle the start mark, the torso at 12."""
    turned = []
    for foot in (entry.left, entry.right):
        x, y = rotated(foot.x, foot.y, -entry.torso)
        turned.append(foot._replace(x=round(x, 4), y=round(y, 4), heading=normal(foot.heading - entry.torso)))
    return Opening("", (turned[0], turned[1]), entry.left_share)


def _copied(form: Form, posture: Posture, lines: tuple[act.Count, ...], entry: Pose, here: Pose, said: bool) -> Posture:
    """A posture with counts of its own, turned from where it was entered to where it is entered now.

    said: the bend of the knees and the lean of the trunk are written also where they are so already.
    """
    turn = round(2.0 * heading_difference(entry.torso, here.torso)) / 2.0
    x, y = rotated(*entry.midpoint, turn)
    dx, dy = here.midpoint[0] - x, here.midpoint[1] - y
    counts = tuple(line.turned(turn, form.twelve).moved(dx, dy) for line in _held(lines, entry, here, said))
    ends = form.ends(posture)
    return Posture(
        posture.id, posture.name, counts, None if ends is None else ends.turned(turn, form.twelve), note=posture.note
    )


def _held(lines: tuple[act.Count, ...], entry: Pose, here: Pose, said: bool) -> tuple[act.Count, ...]:
    """The lines of a posture with bend and lean written into the first count.

    The bend of the knees and the lean of the trunk, where it is not entered with them.
    """
    at = next((number for number, line in enumerate(lines) if line.moves), None)
    if at is None:
        return lines
    line, actions = lines[at], list(lines[at].actions)
    sink, lean = line.one(act.Sink), line.one(act.Lean)
    if said or abs(entry.sink - here.sink) > _SMALL:
        bend = act.Sink(entry.sink if sink is None else sink.bend(entry.sink))
        actions = [bend if action is sink else action for action in actions] + ([bend] if sink is None else [])
    if (said or abs(entry.lean - here.lean) > _SMALL) and lean is None:
        actions.append(act.Lean(entry.lean))
    return (*lines[:at], replace(line, actions=tuple(actions)), *lines[at + 1 :])


def _bridge(here: Pose, entry: Pose, join: Join) -> list[act.Count]:
    """Counts from one stance to another: pour off the lighter foot, set it where it is wanted, pour back."""
    counts: list[act.Count] = []
    share = round(100.0 * entry.left_share, 1)
    if join.cm > _ALIKE[0] or join.degrees > _ALIKE[1]:
        side = Side.LEFT if here.left_share <= 0.5 else Side.RIGHT
        if here.share(side) > 1e-9:
            counts.append(act.Count((act.Shift(side.other, 100.0),)))
        counts.append(act.Count(tuple(_placed(here, entry, side))))
        here_share = 0.0 if side is Side.LEFT else 100.0
    else:
        here_share = round(100.0 * here.left_share, 1)
    if abs(here_share - share) > _ALIKE[2]:
        full = Side.LEFT if share > 50.0 else Side.RIGHT
        shift = act.Shift(None, 50.0) if share == 50.0 else act.Shift(full, share if share > 50.0 else 100.0 - share)
        facing = act.Torso(Clock.at(_facing(here, entry, Side.LEFT if here.left_share <= 0.5 else Side.RIGHT)))
        moved = join.cm > _ALIKE[0] or join.degrees > _ALIKE[1]
        counts.append(act.Count((shift, facing) if moved else (shift, act.Torso(Clock.at(here.torso)))))
    return counts


def _facing(here: Pose, entry: Pose, side: Side) -> float:
    """Where the torso should face when a foot has been set: as it does to the other foot in the stance entered."""
    standing = side.other
    return normal(here.foot(standing).heading - heading_difference(entry.torso, entry.foot(standing).heading))


def _placed(here: Pose, entry: Pose, side: Side) -> list[act.Action]:
    """The step that makes of one stance the other."""
    facing = _facing(here, entry, side)
    moved, stands = entry.foot(side), entry.foot(side.other)
    dx, dy = rotated(moved.x - stands.x, moved.y - stands.y, -entry.torso)
    length, width = round(100.0 * dy, 1), round(100.0 * dx * side.sign, 1)
    toe = Clock.at(facing + heading_difference(entry.torso, moved.heading))
    manner: act.Manner | None = "side" if abs(length) <= 1.0 else None
    if length < -1.0:
        manner = "back"
    place = act.Faced(Clock.at(facing), manner, None, None if manner == "side" else Length(abs(length)), Length(width))
    land = moved.contact if moved.contact is not Contact.AIR else Contact.BALL
    step: list[act.Action] = [act.Step(side, place, toe, None, land), act.Torso(Clock.at(facing))]
    if moved.contact is Contact.AIR:
        step.append(act.Lift(side))
    return step
