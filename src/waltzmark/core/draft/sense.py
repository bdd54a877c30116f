"""From acts to counts, as the body stands: which foot, which way, how much, and how sure that is."""

from __future__ import annotations

from waltzmark.core.base.angles import normal
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.standing import BOW, EMPTY, FAR, LITTLE, USUAL, How, Slot, first_side
from waltzmark.core.draft.stepping import Stepping
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Aim, Clock, Toward, Turn

__all__ = ["Sense"]

#: The share from which nobody means a foot to turn without naming it.
_LOADED = 0.6
#: How many % off a share is still kept.
_KEPT = 2.0
#: The share from which a foot has all of the weight.
_FULL = 0.98


class Sense(Stepping):
    """Makes counts of acts, walking as it goes."""

    # One method a kind of act; `Standing.take` asks for them by name.

    def _shift(self, each: Act) -> list[act.Action] | None:
        share = each.share
        ref = each.foot
        up = next((side for side in SIDES if self.pose.foot(side).contact is Contact.AIR), None)
        if each.way == "bend" and up is not None and (ref is None or not (ref.side or ref.which)):
            self._last = up
            self._slots.append(Slot("foot", "given", "foot.last"))
            return [act.Lift(up, True)]  # the knee of a leg that is in the air
        if ref is None and (share == 50.0 or (share is None and each.amount == "even")):
            return [act.Shift(None, 50.0)]
        target: Side | None
        onto_it = ref is not None and ref.part == "it" and self._last is not None
        if onto_it and self._last is not None and self.pose.share(self._last) < 0.5:
            target = self._last
            self._slots.append(Slot("foot", "given", "foot.last"))
        elif each.way == "back" and (ref is None or not (ref.side or ref.which)):
            target = self.front.other if self.front is not None else self.empty
            self._slots.append(Slot("foot", "given", "foot.rear"))
            self._last = target
        elif each.way == "forward" and (ref is None or not (ref.side or ref.which)):
            target = self.front if self.front is not None else self.empty
            self._slots.append(Slot("foot", "given", "foot.front"))
            self._last = target
        elif each.way == "straighten":
            bent = self.side(ref, self.front.other if self.front is not None else None)
            target = None if bent is None else bent.other
            self._slots.append(Slot("foot", "given", "foot.straight"))
            each.way = "bend"
        elif each.way == "bend" and (ref is None or not (ref.side or ref.which)):
            target = self.front if self.front is not None else self.empty
            self._slots.append(Slot("foot", "given", "foot.bent"))
        elif ref is None and share is None and each.amount == "" and each.way == "":
            target = self._last if self._last is not None else self._pours_to()  # "as the weight comes"
            unsure = target is None or self._stepped is not target or self.pose.share(target) > 0.5
            self._slots.append(Slot("foot", "doubtful" if unsure else "given", "foot.last"))
        else:
            bare = ref is None and each.way == "" and share is not None and share > 50.0
            there = self._last is not None and self.pose.share(self._last) >= 0.5  # the foot spoken of has it already
            target = self.side(ref, self.front if bare and there and self.front is not None else self._pours_to())
        if target is None:
            return None
        if share is None:
            if each.amount == "all":
                share = 100.0
            elif ref is not None and ref.part == "it" and each.way == "":
                share = 100.0
                self._slots.append(Slot("share", "given", "share.all"))
            elif each.amount == "most":
                share = 80.0
                self._slots.append(Slot("share", "chosen", "share.most"))
            elif target is self.front and self.pose.share(target.other) > EMPTY and each.way in ("forward", "bend", ""):
                share = BOW if not (ref is not None and (ref.side or ref.which == "full") and each.way == "") else 100.0
                if target is self.front and ref is not None and self._stepped is target and each.way != "back":
                    share = BOW if each.until or each.way in ("forward", "bend") else 100.0
                self._slots.append(Slot("share", "given", "share.bow"))
            else:
                share = 100.0
                self._slots.append(Slot("share", "given", "share.all"))
        else:
            self._slots.append(Slot("share", "said"))
        if each.part == "kept" and abs(100.0 * self.pose.share(target) - share) <= _KEPT:
            return []
        if each.stated:
            expected = act.ExpectShare(target, share)
            if self._is_so(expected):
                return [expected]
            self._slots.append(Slot("share", "doubtful", "share.stated"))
        if abs(100.0 * self.pose.share(target) - share) < 0.5:
            self._slots.append(Slot("share", "doubtful", "share.there"))
        return [act.Shift(target, share)]

    def _pours_to(self) -> Side | None:
        return self._last if self._last is not None and self.pose.share(self._last) < 0.5 else self.empty

    def _pivot(self, each: Act) -> list[act.Action] | None:
        usual = self._last if self._last is not None and self.pose.share(self._last) < _LOADED else self.empty
        side = self.side(each.foot, first_side(usual, self._last))
        if side is None:
            return None
        if self._slots and self._slots[-1].how == "chosen":
            self._slots[-1].how = "doubtful"
        part: act.Part = "ball" if each.part == "ball" else "heel"
        self._slots.append(Slot("part", "said" if each.part else "given", "" if each.part else "part.heel"))
        facing = self.facing(each)
        if each.part == "slide" and facing is not None:
            part = "ball"
        elif each.part == "slide":
            self._slots.append(Slot("angle", "chosen", "angle.unsaid"))
            return [act.Pivot(side, "ball", Toward(each.way == "out", each.degrees or 20.0))]
        aim: Aim
        if each.stated and facing is not None:
            far = facing.heading(self.pose.torso, self.ground.twelve) - self.pose.foot(side).heading
            if abs((far + 180.0) % 360.0 - 180.0) <= 3.0:  # it is so already
                self._last = side
                return [act.ExpectHeading("toe", facing, side)]
        if facing is not None:
            aim = facing
        elif each.way in ("in", "out"):
            degrees = each.degrees
            if degrees is None:
                degrees = {"far": FAR, "little": LITTLE}.get(each.amount, USUAL)
                how: How = "given" if each.amount == "far" else "chosen"
                self._slots.append(Slot("angle", how, "angle.far" if each.amount == "far" else "angle.unsaid"))
            aim = Toward(each.way == "in", degrees)
        elif each.way in ("left", "right") or each.degrees is not None:
            degrees = each.degrees if each.degrees is not None else USUAL
            aim = Turn(degrees if each.way == "right" else -degrees)
            if each.way not in ("left", "right"):
                self._slots.append(Slot("way", "doubtful", "way.which"))
        else:
            if each.way != "ahead":
                self._slots.append(Slot("angle", "doubtful", "angle.where"))
            aim = Clock.at(self.pose.torso)
        if self.pose.foot(side).contact is Contact.AIR:
            self._slots.append(Slot("part", "doubtful", "contact.where"))  # in the air it turns on nothing
        self._last = side
        return [act.Pivot(side, part, aim)]

    def _torso(self, each: Act) -> list[act.Action] | None:
        facing = self.facing(each)
        if each.way == "return":
            self._slots.append(Slot("facing", "given", "facing.before"))
            return [act.Torso(Clock.at(self._faced))]
        self._faced = self.pose.torso
        if each.way == "square":
            self._slots.append(Slot("facing", "given", "facing.square"))
            return [act.Torso(Clock.at(self.pose.facing))]
        if each.way == "behind":
            self._slots.append(Slot("turn", "doubtful", "turn.feet"))
            return [act.Torso(Clock.at(normal(self.pose.torso + 180.0)))]
        if facing is not None:
            self._slots.append(Slot("facing", "said"))
            expected = act.ExpectHeading("torso", facing)
            return [expected if each.stated and self._is_so(expected) else act.Torso(facing)]
        stepped = next((a for made in reversed(self.made) for a in made.count.actions if isinstance(a, act.Step)), None)
        if each.way == "corner":
            if stepped is not None and isinstance(stepped.place, act.Faced):
                return [act.Torso(stepped.place.facing)]
            self._slots.append(Slot("facing", "doubtful", "facing.which"))
            return [act.Torso(self._ahead(45.0 if self._last is Side.RIGHT else -45.0))]
        degrees = each.degrees
        if degrees is None and each.clause is not None and each.clause.has("way", "corner"):
            degrees = USUAL  # "to the corner on your left"
            self._slots.append(Slot("facing", "given", "facing.corner"))
        if degrees is None:
            degrees = LITTLE if each.amount == "little" else USUAL
            self._slots.append(Slot("turn", "doubtful", "angle.unsaid"))
        if not each.way:
            self._slots.append(Slot("way", "doubtful", "way.which"))
            if each.degrees is None and stepped is not None and isinstance(stepped.place, act.Faced):
                return [act.Torso(stepped.place.facing)]  # where the step goes
        return [act.Torso(Turn(degrees if each.way == "right" else -degrees))]

    def _taught(self, each: Act) -> list[act.Action] | None:
        """What the writer taught, of the foot that is said or the empty one, from where the body faces."""
        own = self._own[int(each.way)]
        side = self.side(each.foot, first_side(self.empty, own.side))
        if side is None:
            return None
        first = True
        for count in own.counts_for(side, self.pose, self.ground.twelve):
            slots = [*(self._slots if first else ()), Slot("taught", "given", "taught")]
            self._append(count, each, slots)
            first = False
        self._last = side
        return None

    def _around(self, each: Act) -> list[act.Action] | None:
        """Turn to the back: one foot is emptied and turned in, then the other out.

        By the side that is said, else away from the front foot.
        """
        by = Side.LEFT if each.way == "left" else Side.RIGHT
        if each.way not in ("left", "right") and self.front is Side.RIGHT:
            by = Side.LEFT
        sign, start = by.sign, self.pose.torso
        quarter, half = (Clock.at(normal(start + sign * degrees)) for degrees in (90.0, 180.0))
        rows: list[tuple[act.Action, ...]] = [
            (act.Shift(by, 100.0),),
            (act.Pivot(by.other, "heel", Toward(True, 135.0)), act.Torso(quarter)),
            (act.Shift(by.other, 100.0),),
            (act.Pivot(by, "heel", half), act.Torso(half)),
        ]
        if self.pose.share(by) > _FULL:
            del rows[0]
        for row in rows:
            self._insert(row[0], each, *row[1:], slot=Slot("turn", "doubtful", "turn.feet"))
        self._last = by
        return None

    def _land(self, each: Act) -> list[act.Action] | None:
        light = next((s for s in SIDES if self.pose.foot(s).contact is Contact.AIR), None)
        touching = next((s for s in SIDES if self.pose.foot(s).contact in (Contact.HEEL, Contact.BALL)), None)
        spoken = self._last if self._last is not None and self.pose.share(self._last) < EMPTY else None
        usual = first_side(light, touching, spoken, self.front, self.empty)
        side = self.side(each.foot, usual)
        if side is None:
            return None
        contact = Contact.of(each.contact or "flat")
        if (
            each.part == "set"
            and self.pose.foot(side).contact in (Contact.BALL, Contact.HEEL)
            and self.pose.foot(side).contact is not contact
        ):
            contact = Contact.FLAT  # the heel of a foot on its ball comes down: it is flat then
        touches = each.clause is not None and set(each.clause.verbs) == {"touch"}
        if touches and self.pose.foot(side).contact is contact:
            return [act.ExpectContact(side, contact)]  # "only the heel touches": so it is
        return [act.Land(side, contact)]

    def _lift(self, each: Act) -> list[act.Action] | None:
        side = self.side(each.foot, self.empty)
        if side is None:
            return None
        if 0.45 < self.pose.share(side) < 0.55:  # nobody lifts what half of the weight is on
            self._insert(act.Shift(side.other, 100.0), each)
        return [act.Lift(side, each.part == "knee")]

    def _kick(self, each: Act) -> list[act.Action] | None:
        light = next((s for s in SIDES if self.pose.foot(s).contact is Contact.AIR), None)
        side = self.side(each.foot, first_side(light, self._last, self.empty))
        if side is None:
            return None
        facing = self.facing(each)
        if facing is None:
            facing = self._ahead(45.0 if side is Side.RIGHT else -45.0) if each.way == "corner" else self._ahead()
            self._slots.append(Slot("facing", "given", "facing.ahead"))
        height = each.height or "waist"
        self._slots.append(Slot("height", "said" if each.height else "given", "" if each.height else "height.waist"))
        part = each.part if each.part in ("heel", "toe", "sole") else None
        return [act.Kick(side, facing, height, part)]  # type: ignore[arg-type]

    def _sink(self, each: Act) -> list[act.Action]:
        self._slots.append(Slot("bend", "given", "bend.little"))
        degrees = each.degrees or 10.0
        return [act.Sink(abs(degrees), "more" if degrees > 0 else "less")]

    def _lean(self, each: Act) -> list[act.Action]:
        return [act.Lean(each.degrees or 0.0)]

    def _gaze(self, each: Act) -> list[act.Action] | None:
        facing = self.facing(each)
        if facing is None and each.way == "forward":
            facing = self._ahead()
        return None if facing is None else [act.Gaze(facing)]

    def _hand(self, each: Act) -> list[act.Action] | None:
        said = "" if each.foot is None else each.foot.side
        facing = self.facing(each) or self._ahead()
        if not each.height:
            self._slots.append(Slot("height", "given", "height.chest"))
        height: act.Height = each.height or "chest"  # type: ignore[assignment]
        shape: act.Shape | None = "push" if each.part == "push" else None
        sides = SIDES if said == "both" else (Side.LEFT if said == "left" else Side.RIGHT,)
        return [act.Hand(side, facing, height, shape) for side in sides]

    def _breathe(self, each: Act) -> list[act.Action]:
        return [act.Breathe(each.way == "in")]

    def _hold(self, each: Act) -> list[act.Action]:
        return [act.Hold()]

    def _repeat(self, each: Act) -> list[act.Action] | None:
        self.repeats.append(("repeat", each.times, list(each.spans), True))
        return None

    def _mirror(self, each: Act) -> list[act.Action] | None:
        self.repeats.append(("mirror", None, list(each.spans), False))
        return None
