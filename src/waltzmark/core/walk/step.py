"""What the body does in one count: ``step(pose, count, ground)`` gives the pose at its end.

All actions of a count start together from the pose before it. What cannot be walked is reported as a
`Problem`, and the walk goes on from the most sensible pose.
"""

from __future__ import annotations

from waltzmark.core.base.angles import ahead, circular_mean, heading_difference, normal, rightward
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.foot import pivoted
from waltzmark.core.body.pose import FootPose, Pose, rest_of
from waltzmark.core.school.school import StanceGeometry
from waltzmark.core.school.sizes import StepSize
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Aim, Toward, Turn
from waltzmark.core.walk.ground import CARRIED, PIVOT, SLID, STEP, STILL, Ground, Move, Problem
from waltzmark.core.walk.swing import control_point

__all__ = ["common_turn", "size_given", "step"]

#: A foot is in front when it is ahead by this share of a foot length.
LEAD = 0.5


class _Walker:
    """One count being walked; gathers what its actions ask for."""

    def __init__(self, pose: Pose, count: act.Count, ground: Ground, swings: bool) -> None:
        self.pose, self.count, self.ground, self.swings = pose, count, ground, swings
        self.feet = [pose.left, pose.right]
        self.moves = [STILL, STILL]
        self.problems: list[Problem] = []
        self.asked_contact: list[Contact | None] = [None, None]
        self.stepped = [False, False]
        self.lifted = [False, False]
        self.slid = [False, False]
        self.less: StepSize | None = None  # than the school wants a stance to be
        self.moved: list[Side] = []  # feet stepped, lifted or set otherwise, in that order
        self.shift: act.Shift | None = None
        self.torso: float | None = None
        self.gaze: float | None = None
        self.sink, self.lean = pose.sink, pose.lean
        # What both feet have turned since the last step is turned facing.
        self.faced = pose.facing - common_turn(pose.left_turned, pose.right_turned)
        self.turned = [pose.left_turned, pose.right_turned]
        self.crossing = pose.crossing

    def heading(self, aim: Aim, base: float, side: Side | None) -> float:
        """The heading an aim means: a facing as it is, a turn from *base*."""
        if isinstance(aim, Turn):
            return normal(base + aim.degrees)
        if isinstance(aim, Toward):
            return normal(base + aim.turn(side if side is not None else Side.RIGHT))
        return aim.heading(self.pose.torso, self.ground.twelve)

    # One method an action; the walk of a count is their sum.

    def do_pivot(self, action: act.Pivot) -> None:
        foot = self.pose.foot(action.side)
        turn: float
        if isinstance(action.aim, Turn):
            turn = action.aim.degrees
        elif isinstance(action.aim, Toward):
            turn = action.aim.turn(action.side)
        else:
            target = self.heading(action.aim, foot.heading, action.side)
            turn = heading_difference(foot.heading, target)
            if action.sense == "cw":
                turn %= 360.0
            elif action.sense == "ccw":
                turn = -(-turn % 360.0)
            elif abs(turn - 180.0) < 1e-6:
                self.problems.append(Problem("pivot.half-turn", action.side, 180.0))
        point = self.ground.body.sole.landmark(foot.x, foot.y, foot.heading, action.part, action.side)
        x, y = pivoted(foot.x, foot.y, point, turn)
        self.feet[action.side] = foot._replace(x=x, y=y, heading=normal(foot.heading + turn))
        on = Contact.HEEL if action.part == "heel" else Contact.BALL
        self.moves[action.side] = Move(PIVOT, *point, turn, float(on))
        self.turned[action.side] += turn

    def do_step(self, action: act.Step) -> None:
        side, place, pose, ground = action.side, action.place, self.pose, self.ground
        foot, support = pose.foot(side), pose.foot(side.other)
        land = Contact.BALL
        facing: float | None = None
        crossing = False
        if isinstance(place, act.Faced):
            facing = self.heading(place.facing, 0.0, None)
            toe = None if action.toe is None else self.heading(action.toe, facing, side)
            away = heading_difference(support.heading, facing)
            turned = None if toe is None else heading_difference(facing, toe)
            if turned is None and not place.stance:
                turned = side.sign * self._stance_toe(place, None)
            size, stance = ground.size(place, self.sink, side.other, away, turned)
            length, width, self.less = size.length, size.width, None if size.full else size
            ux, uy = ahead(facing)
            vx, vy = rightward(facing)
            across = side.sign * width
            x, y = support.x + length * ux + across * vx, support.y + length * uy + across * vy
            heading = normal(facing + side.sign * self._stance_toe(place, stance)) if toe is None else toe
            if stance.land and place.stance:
                land = Contact.of(stance.land)
            elif length > 1e-9 and place.manner != "side":
                land = Contact.HEEL
            crossing = place.manner == "cross"
        elif isinstance(place, act.Half):
            facing = self.heading(place.facing, 0.0, None)
            ux, uy = ahead(facing)
            half = ((foot.x - support.x) * ux + (foot.y - support.y) * uy) / 2.0
            x, y = foot.x - half * ux, foot.y - half * uy
            heading = foot.heading if action.toe is None else self.heading(action.toe, facing, side)
            crossing = pose.crossing
        elif isinstance(place, act.Beside):
            facing = support.heading
            gap = place.gap.metres(ground.body) if place.gap else ground.body.foot_breadth
            vx, vy = rightward(facing)
            x, y = support.x + side.sign * gap * vx, support.y + side.sign * gap * vy
            heading = facing if action.toe is None else self.heading(action.toe, facing, side)
        else:
            way: float | None = None
            if isinstance(place, act.Spot):
                x, y = place.x, place.y
            else:
                mark = pose.foot(place.side)
                x, y = ground.body.sole.landmark(mark.x, mark.y, mark.heading, place.part, place.side)
                if place.facing is not None and place.distance is not None:
                    way = self.heading(place.facing, 0.0, None)
                    distance = place.distance.metres(ground.body)
                    ux, uy = ahead(way)
                    x, y = x + distance * ux, y + distance * uy
            base = foot.heading if way is None else way
            heading = foot.heading if action.toe is None else self.heading(action.toe, base, side)
            ux, uy = ahead(heading)
            if (x - support.x) * ux + (y - support.y) * uy > 0.01:
                land = Contact.HEEL
        if action.land is not None:
            land = action.land
        end = FootPose(x, y, heading, land)
        self.feet[side] = end
        self.stepped[side] = True
        self.moved.append(side)
        self.faced = heading if facing is None else facing
        self.turned = [0.0, 0.0]
        self.crossing = crossing
        turn = heading_difference(foot.heading, heading)
        if abs(turn) == 180.0:
            turn *= side.sign  # half a turn in the air goes outward, on either side
        control = (x, y)
        if self.swings:
            control = control_point(foot, end, support, side, action.via, ground.body.sole, turn)
        self.slid[side] = action.via == "slide" and foot.contact is not Contact.AIR
        self.moves[side] = Move(STEP, *control, turn, float(foot.contact if self.slid[side] else Contact.AIR))
        if action.land is not None:
            self.asked_contact[side] = action.land

    def _stance_toe(self, place: act.Faced, stance: StanceGeometry | None) -> float:
        """Outward turn of the landing foot in degrees when the score does not say: the stance's, else none."""
        if place.manner == "cross":
            return self.ground.school.stances["cross"].toe
        if not place.stance or stance is None:
            return 0.0
        return stance.rear_toe if place.manner == "back" else stance.toe

    def do_contact(self, action: act.Land | act.Lift | act.Kick) -> None:
        self.lifted[action.side] = not isinstance(action, act.Land)
        self.moved.append(action.side)
        contact = action.contact if isinstance(action, act.Land) else Contact.AIR
        self.asked_contact[action.side] = contact
        self.feet[action.side] = self.feet[action.side]._replace(contact=contact)

    def carry(self) -> None:
        """A foot in the air goes with the body: it turns about the point that the standing one turns about."""
        for side in SIDES:
            move = self.moves[side.other]
            foot = self.pose.foot(side)
            if move.kind == PIVOT and foot.contact is Contact.AIR and not self.moves[side].kind:
                x, y = pivoted(foot.x, foot.y, (move.x, move.y), move.turn)
                self.feet[side] = foot._replace(x=x, y=y, heading=normal(foot.heading + move.turn))
                self.moves[side] = Move(CARRIED, move.x, move.y, move.turn)
                self.turned[side] += move.turn

    def act(self) -> None:
        """Let every action have its say, in the order written; contacts come last, after the feet moved."""
        late: list[act.Land | act.Lift | act.Kick] = []
        seen: set[tuple[str, Side | None]] = set()
        for action in self.count.actions:
            key = _part_moved(action)
            if key in seen:
                self.problems.append(Problem("score.contradiction", key[1], None, key[0]))
            if key is not None:
                seen.add(key)
            if isinstance(action, act.Shift):
                self.shift = action
            elif isinstance(action, act.Sink):
                self.sink = action.bend(self.pose.sink)
            elif isinstance(action, act.Lean):
                self.lean = action.degrees
            elif isinstance(action, act.Torso):
                self.torso = self.heading(action.aim, self.pose.torso, None)
            elif isinstance(action, act.Gaze):
                self.gaze = self.heading(action.aim, self.pose.gaze, None)
            elif isinstance(action, (act.Land, act.Lift, act.Kick)):
                late.append(action)
        for action in self.count.actions:  # after sink, which lengthens the step of the same count
            if isinstance(action, act.Pivot):
                self.do_pivot(action)
            elif isinstance(action, act.Step):
                self.do_step(action)
        self.carry()
        for change in late:
            self.do_contact(change)
        if ("hold", None) in seen and any(key[0] in ("move", "contact", "weight", "torso", "kick") for key in seen):
            self.problems.append(Problem("score.contradiction", None, None, "hold"))

    @property
    def facing(self) -> float:
        """The stance's facing: that of its last step, and what both feet have turned since."""
        return normal(self.faced + common_turn(*self.turned))

    def settle_weight(self) -> float:
        """The left share at the end of the count, after what cannot be has been reported and set right."""
        left = self.pose.left_share if self.shift is None else self.shift.left
        lifting = [s for s in SIDES if self.stepped[s] or (self.lifted[s] and self.pose.foot(s).contact)]
        for side in lifting:
            before = self.pose.share(side)
            if before > (SLID + 1e-9 if self.slid[side] else 1e-9):
                self.problems.append(Problem("weight.loaded-lift", side, before))
                if self.shift is None and len(lifting) == 1:
                    left = 1.0 if side is Side.RIGHT else 0.0
        if len(lifting) == 2:
            self.problems.append(Problem("weight.both-in-air", None, None))
        asked = (left, float(rest_of(left)))  # both feet are looked at before either is set right
        for side in SIDES:
            share = asked[side]
            if share <= 1e-9:
                continue
            if self.feet[side].contact is Contact.AIR and not self._both_in_air():
                self.problems.append(Problem("weight.in-air", side, share))
                if self.asked_contact[side] is Contact.AIR and self.feet[side.other].contact:
                    left = 1.0 if side is Side.RIGHT else 0.0
                else:
                    self.feet[side] = self.feet[side]._replace(contact=Contact.FLAT)
            elif self.stepped[side] and self.shift is not None and not (self.slid[side] and share <= SLID + 1e-9):
                self.problems.append(Problem("weight.falling-step", side, share))
        if self._both_in_air():
            if len(lifting) < 2:
                self.problems.append(Problem("weight.both-in-air", None, None))
            # Of two feet that carry alike the one that was to move last stays, so that mirror images walk alike.
            even = abs(left - 0.5) < 1e-9 and self.moved
            if even:
                stays = self.moved[-1]
            elif left >= 0.5:
                stays = Side.LEFT
            else:
                stays = Side.RIGHT
            self.feet[stays] = self.feet[stays]._replace(contact=Contact.FLAT)
            left = 1.0 if stays is Side.LEFT else 0.0
        return left

    def _both_in_air(self) -> bool:
        return not self.feet[0].contact and not self.feet[1].contact

    def roll_flat(self, left: float) -> None:
        """Half the weight or more, shifted onto a heel or a ball, rolls the foot flat unless the count says not."""
        if self.shift is None:
            return
        for side in SIDES:
            share = left if side is Side.LEFT else float(rest_of(left))
            raised = self.feet[side].contact in (Contact.HEEL, Contact.BALL)
            if share >= 0.5 and raised and self.asked_contact[side] is None:
                self.feet[side] = self.feet[side]._replace(contact=Contact.FLAT)

    def turn_torso(self, left: float) -> float:
        """The torso heading after a count.

        Stated; else square to a foot in front that becomes the fuller one, the mean of both feet where the weight
        becomes even, and round with the fuller foot where that one turns; else it stays.
        """
        pose = self.pose
        if self.torso is not None:
            return self.torso
        if self.ground.torso == "stated":
            return pose.torso
        even, was_even = abs(left - 0.5) < 1e-9, abs(pose.left_share - 0.5) < 1e-9
        if even:
            mean = None if was_even else circular_mean(self.feet[0].heading, self.feet[1].heading)
            return pose.torso if mean is None else mean
        fuller = Side.LEFT if left > 0.5 else Side.RIGHT
        foot, other = self.feet[fuller], self.feet[fuller.other]
        if was_even or (pose.left_share > 0.5) != (left > 0.5):
            ux, uy = ahead(self.facing)
            lead = LEAD * self.ground.body.foot_length
            if (foot.x - other.x) * ux + (foot.y - other.y) * uy >= lead - 1e-9:
                return foot.heading
        move = self.moves[fuller]
        return normal(pose.torso + move.turn) if move.kind == PIVOT else pose.torso


def common_turn(one: float, other: float) -> float:
    """What two turns have in common: the smaller of them where they go the same way, else nothing."""
    if one * other <= 0.0:
        return 0.0
    return min(one, other, key=abs)


#: What of the body an action moves, and whether it is that of a side.
_PARTS: dict[type[act.Action], tuple[str, bool]] = {
    act.Step: ("move", True),
    act.Pivot: ("move", True),
    act.Land: ("contact", True),
    act.Lift: ("contact", True),
    act.Shift: ("weight", False),
    act.Hand: ("hand", True),
    act.Kick: ("kick", True),
    act.Torso: ("torso", False),
    act.Gaze: ("gaze", False),
    act.Sink: ("sink", False),
    act.Lean: ("lean", False),
    act.Breathe: ("breathe", False),
    act.Hold: ("hold", False),
}


def _part_moved(action: act.Action) -> tuple[str, Side | None] | None:
    """What of the body an action moves: two of the same in one count contradict each other."""
    part, sided = _PARTS.get(type(action), ("", False))
    return (part, getattr(action, "side", None) if sided else None) if part else None


def step(
    pose: Pose, count: act.Count, ground: Ground, swings: bool = True
) -> tuple[Pose, tuple[Move, Move], list[Problem]]:
    """The pose at the end of a count that begins in *pose*, how each foot moved, and what cannot be walked.

    swings: whether the way of a foot through the air is asked for; without it a third of the time is spared.
    """
    if len(count.parts) > 1:
        return _in_parts(pose, count, ground, swings)
    walker = _Walker(pose, count, ground, swings)
    walker.act()
    left = walker.settle_weight()
    walker.roll_flat(left)
    torso = walker.turn_torso(left)
    after = Pose(
        walker.feet[0],
        walker.feet[1],
        left,
        torso,
        torso if walker.gaze is None else walker.gaze,
        walker.sink,
        walker.facing,
        walker.crossing,
        walker.turned[0],
        walker.turned[1],
        walker.lean,
    )
    return after, (walker.moves[0], walker.moves[1]), walker.problems


def size_given(pose: Pose, count: act.Count, ground: Ground) -> tuple[StepSize, float] | None:
    """The size that the body gives the stance of a step that begins in *pose*.

    And the bend of the standing knee in degrees; None where it is what the school wants, or is written.
    """
    walker = _Walker(pose, count, ground, swings=False)
    walker.act()
    return None if walker.less is None else (walker.less, walker.sink)


def _in_parts(
    pose: Pose, count: act.Count, ground: Ground, swings: bool
) -> tuple[Pose, tuple[Move, Move], list[Problem]]:
    """A count whose parts come one after the other: the last pose, what moved each foot, and all problems."""
    moves, problems = [STILL, STILL], list[Problem]()
    seen: set[tuple[str, Side | None]] = set()
    for key in (_part_moved(action) for action in count.actions):
        if key is not None and key in seen:
            problems.append(Problem("score.contradiction", key[1], None, key[0]))
        if key is not None:
            seen.add(key)
    for part in count.parts:
        pose, moved, found = step(pose, part, ground, swings)
        problems += [problem for problem in found if problem not in problems]
        moves = [new if new.kind else old for old, new in zip(moves, moved, strict=True)]
    return pose, (moves[0], moves[1]), problems
