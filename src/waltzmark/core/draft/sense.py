"""From acts to counts, as the body stands: which foot, which way, how much, and how sure that is."""

from __future__ import annotations

import math

from waltzmark.core.base.angles import ahead, normal
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import Length
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import whither
from waltzmark.core.draft.expecting import Expecting
from waltzmark.core.draft.standing import BOW, EMPTY, FAR, USUAL, How, Slot, first_side
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Aim, Clock, Facing, Toward, Turn
from waltzmark.core.walk.step import step

__all__ = ["Sense"]

#: The share from which nobody means a foot to turn without naming it.
_LOADED = 0.6
#: The share from which a foot has all of the weight.
_FULL = 0.98
#: How a phrase of a verb ends that has its foot in it: the side after it is that foot's.
_FEET = frozenset({"pie", "pierna", "foot", "leg"})


#: Metres by which feet may be nearer or farther than somebody says they are.
_STANDS = 0.03


class Sense(Expecting):
    """Makes counts of acts, walking as it goes."""

    # One method a kind of act; `Standing.take` asks for them by name.

    def _shift(self, each: Act) -> list[act.Action] | None:
        share = each.share
        ref = each.foot
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
            target = self.side(ref, self._pours_to())
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
        if each.stated:
            expected = act.ExpectShare(target, share)
            if self._is_so(expected):
                return [expected]
            self._slots.append(Slot("share", "doubtful", "share.stated"))
        if abs(100.0 * self.pose.share(target) - share) < 0.5:
            self._slots.append(Slot("share", "doubtful", "share.there"))
        return [act.Shift(target, share)]

    _stepped: Side | None = None

    def _pours_to(self) -> Side | None:
        return self._last if self._last is not None and self.pose.share(self._last) < 0.5 else self.empty

    def _step(self, each: Act) -> list[act.Action] | None:
        side = self.side(each.foot, first_side(self.empty, self.front.other if self.front is not None else None))
        if side is None:
            return None
        bare = each.way == "" and each.clock is None and each.clause is not None and not each.clause.verbs
        down = side is self.front and self.pose.foot(side).contact is not Contact.AIR
        if bare and down and each.contact in ("heel", "ball") and each.length is None:
            self._slots.append(Slot("contact", "doubtful", "contact.where"))
            return [act.Land(side, Contact.of(each.contact))]
        sides = [r.side for r in each.clause.refs if r.side] if each.clause is not None else []
        if self.pose.share(side) > EMPTY and each.way in ("half", "beside") and self.pose.share(side) < 0.55:
            self._insert(act.Shift(side.other, 100.0), each)
        contact = Contact.of(each.contact) if each.contact else None
        facing = self.facing(each)
        place: act.Place
        toe = Clock(int(each.toe) % 720) if each.toe is not None else None
        length, width = each.length, each.width
        clause = each.clause
        own_mark = clause is not None and len([r for r in clause.refs if r.part in ("heel", "toes")]) > 1
        if own_mark and facing is None and clause is not None:
            marks = [r for r in clause.refs if r.part in ("heel", "toes") and r.side]
            mark = marks[-1] if marks else None
            if mark is not None:
                part: act.Part = "toe" if mark.part == "toes" else "heel"
                self._slots.append(Slot("place", "said"))
                return self._stepping(act.Step(side, act.Mark(Side.of(mark.side[0].upper()), part), toe, None, contact))
        manner: act.Manner | None = None
        stance: str | None = None
        way = each.way
        if way == "cross":
            place = act.Faced(facing or self._facing_now(), "cross")
            if clause is not None and clause.has("way", "back"):
                self._slots.append(Slot("way", "doubtful", "way.behind"))
        elif way == "half":
            place = act.Half(self._facing_now())
        elif way == "beside" or (way == "in" and facing is None):
            if each.amount == "width":
                place = act.Faced(self._facing_now(), "side", None, None, Length(1.0, "shoulder"))
            else:
                place = act.Beside()
            if contact is None and way == "in":
                contact = Contact.BALL
        elif way == "closer":
            if each.amount == "width":
                place = act.Faced(self._facing_now(), "side", None, None, Length(1.0, "shoulder"))
            else:
                place = act.Beside()
                self._slots.append(Slot("place", "doubtful", "place.near"))
        elif facing is not None and way in ("back", "behind"):
            away = Clock.at(normal(facing.heading(self.pose.torso, self.ground.twelve) + 180.0))
            place = act.Faced(away, "back", "low" if each.stance == "low" else None)
        elif facing is not None:
            stance = each.stance if each.stance in ("low", "horse") else "bow"
            manner = "side" if way == "side" else None
            place = act.Faced(facing, manner, None if manner else stance, length, width)
            if not each.stance:
                self._slots.append(Slot("stance", "given", "stance.bow"))
        elif way in ("corner", "rear corner"):
            turn = (45.0 if way == "corner" else 135.0) * side.sign
            if clause is not None and each.foot is not None:
                own = [said.value for said in clause.all_of("side") if said.value in ("left", "right")]
                if len(own) > 1:
                    turn = abs(turn) * (1.0 if own[-1] == "right" else -1.0)
            place = act.Faced(self._ahead(turn), None, "bow")
            self._slots.append(Slot("facing", "given", "facing.corner"))
        elif way == "back":
            place = act.Faced(self._facing_now(), "back", each.stance if each.stance in ("bow", "low") else None)
        elif way == "side" or each.amount == "width" or self._aside(each, side, sides):
            wide = Length(1.0, "shoulder") if each.amount == "width" and contact is not None else width
            if wide is None and length is not None:
                wide = length
            horse = each.stance if each.stance in ("horse", "low") else None
            place = act.Faced(self._facing_now(), "side", horse, None, wide)
            if way != "side" and each.amount != "width":
                self._slots.append(Slot("way", "given", "way.side"))
        else:
            stance = each.stance or "bow"
            if stance == "back":
                stance = "bow"
            place = act.Faced(self._facing_now(), None, stance, length, width)
            if way not in ("forward", "out", "around") and not each.stance:
                self._slots.append(Slot("way", "doubtful", "way.unsaid"))
            elif not each.stance:
                self._slots.append(Slot("stance", "given", "stance.bow"))
        if self.pose.share(side) > 0.45 and self.pose.share(side) < 0.55:
            self._insert(act.Shift(side.other, 100.0), each)
        both = clause is not None and any("feet" in said.low or "pies" in said.low for said in clause.all_of("way"))
        if way == "beside" and contact is None and both:
            contact = Contact.FLAT
        if each.toes:
            toe = self._toes_turned(each, side, place)
        return self._stepping(act.Step(side, place, toe, self._via(each), contact))

    def _stand(self, each: Act) -> list[act.Action] | None:
        """How somebody is said to stand in the beginning: no count where it is so."""
        name = "shoulder" if each.amount == "width" else "together"
        apart = math.dist((self.pose.left.x, self.pose.left.y), (self.pose.right.x, self.pose.right.y))
        if abs(apart - self.ground.body.named_width(name)) <= _STANDS:
            return []
        each.kind = "step"
        return self._step(each)

    def _toes_turned(self, each: Act, side: Side, place: act.Place) -> Clock:
        """Where the toes of a foot point that lands with them turned in or out."""
        if each.degrees is None:
            self._slots.append(Slot("angle", "chosen", "angle.unsaid"))
        goes = place.facing if isinstance(place, act.Faced) else self._facing_now()
        turn = (USUAL if each.degrees is None else each.degrees) * side.sign * (1.0 if each.toes == "out" else -1.0)
        return Clock.at(normal(goes.heading(self.pose.torso, self.ground.twelve) + turn))

    def _via(self, each: Act) -> act.Path | None:
        return "close" if each.clause is not None and each.clause.has("way", "close") else None

    def _stepping(self, action: act.Step) -> list[act.Action]:
        if any(
            isinstance(a, act.Step) and a.side is action.side and not isinstance(a.place, act.Beside)
            for a in (self.made[-1].count.actions if self.made else ())
        ):
            self._slots.append(Slot("foot", "doubtful", "foot.twice"))
        self._stepped = self._last = action.side
        place = action.place
        if isinstance(place, act.Faced) and place.manner != "side" and place.width is not None and place.length is None:
            # A width is written beside a length: that which the stance has.
            length = self._length_of(replace(action, place=replace(place, width=None)), place.facing)
            action = replace(action, place=replace(place, length=length))
        return [action]

    def _length_of(self, action: act.Step, facing: Facing) -> Length:
        """How long a step becomes along a facing, in whole centimetres."""
        after = step(self.pose, act.Count((action,)), self.ground)[0]
        ux, uy = ahead(facing.heading(self.pose.torso, self.ground.twelve))
        moved, stands = after.foot(action.side), after.foot(action.side.other)
        return Length(round(abs(100.0 * ((moved.x - stands.x) * ux + (moved.y - stands.y) * uy))))

    def _facing_now(self) -> Facing:
        return Clock.at(self.pose.torso)

    def _aside(self, each: Act, side: Side, sides: list[str]) -> bool:
        """Whether a foot steps to its own side: "step left", "with the left foot to your left"."""
        clause = each.clause
        if clause is None:
            return False
        named = [said.value for said in clause.all_of("side") if said.value in ("left", "right")]
        if len(named) > 1 and named[-1] == ("left" if side is Side.LEFT else "right"):
            return True
        verb = next((at for at, said in enumerate(clause.said) if said.kind == "verb"), -1)
        straight = verb >= 0 and verb + 1 < len(clause.said) and clause.said[verb + 1].kind == "side"
        straight = straight and clause.said[verb].low.rpartition(" ")[2] not in _FEET  # "adelanta el pie izquierdo"
        if any(said.kind == "part" for said in clause.said):
            return False
        return (straight and each.way == "") or (each.way in ("", "out") and whither(clause) != "")

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
                degrees = FAR if each.amount == "far" else USUAL
                how: How = "given" if each.amount == "far" else "chosen"
                self._slots.append(Slot("angle", how, "angle.far" if each.amount == "far" else "angle.unsaid"))
            aim = Toward(each.way == "in", degrees)
        elif each.way in ("left", "right") or each.degrees is not None:
            degrees = each.degrees if each.degrees is not None else USUAL
            aim = Turn(degrees if each.way == "right" else -degrees)
            if each.way not in ("left", "right"):
                self._slots.append(Slot("way", "doubtful", "way.which"))
        else:
            self._slots.append(Slot("angle", "doubtful", "angle.where"))
            aim = Clock.at(self.pose.torso)
        self._last = side
        return [act.Pivot(side, part, aim)]

    def _torso(self, each: Act) -> list[act.Action] | None:
        facing = self.facing(each)
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
        if degrees is None:
            degrees = 20.0 if each.amount == "little" else 45.0
            self._slots.append(Slot("turn", "doubtful", "angle.unsaid"))
        if not each.way:
            self._slots.append(Slot("way", "doubtful", "way.which"))
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
        light = next((s for s in Side if self.pose.foot(s).contact is Contact.AIR), None)
        touching = next((s for s in Side if self.pose.foot(s).contact in (Contact.HEEL, Contact.BALL)), None)
        usual = first_side(light, touching, self.front, self.empty)
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
        return [act.Land(side, contact)]

    def _lift(self, each: Act) -> list[act.Action] | None:
        side = self.side(each.foot, self.empty)
        return None if side is None else [act.Lift(side, each.part == "knee")]

    def _kick(self, each: Act) -> list[act.Action] | None:
        light = next((s for s in Side if self.pose.foot(s).contact is Contact.AIR), None)
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
        sides = tuple(Side) if said == "both" else (Side.LEFT if said == "left" else Side.RIGHT,)
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
