"""Steps out of acts, as the body stands: which foot goes where, and what of that nobody said."""

from __future__ import annotations

import math

from waltzmark.core.base.angles import ahead, normal
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import Length
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import WIDTHS, whither
from waltzmark.core.draft.expecting import Expecting
from waltzmark.core.draft.standing import EMPTY, USUAL, Slot, first_side
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Facing
from waltzmark.core.walk.step import step

__all__ = ["Stepping"]

#: How a phrase of a verb ends that has its foot in it: the side after it is that foot's.
_FEET = frozenset({"pie", "pierna", "foot", "leg"})
#: Metres by which feet may be nearer or farther than somebody says they are.
_STANDS = 0.03
#: Words for where something comes from.
_FROM = frozenset({"from", "desde"})


class Stepping(Expecting):
    """Makes counts of steps."""

    _stepped: Side | None = None  # the foot that stepped last

    def _step(self, each: Act) -> list[act.Action] | None:
        side = self.side(each.foot, first_side(self.empty, self.front.other if self.front is not None else None))
        if side is None:
            return None
        bare_foot = each.clause is not None and not each.clause.verbs
        bare = each.way == "" and each.clock is None and bare_foot
        down = side is self.front and self.pose.foot(side).contact is not Contact.AIR
        if bare and down and each.contact in ("heel", "ball") and each.length is None:
            self._slots.append(Slot("contact", "doubtful", "contact.where"))
            return [act.Land(side, Contact.of(each.contact))]
        up = bare_foot and each.way in ("", "in", "out") and self.pose.foot(side).contact is Contact.HEEL
        up = up and (each.contact in ("ball", "flat") or (each.contact == "" and self._stepped is not side))
        if up and each.clock is not None:
            facing = self.facing(each)  # toes that are up come down somewhere: their foot turns there
            if facing is not None:
                self._slots.append(Slot("part", "chosen", "part.heel"))
                return [act.Pivot(side, "heel", facing)]
        sides = [r.side for r in each.clause.refs if r.side] if each.clause is not None else []
        if self.pose.share(side) > EMPTY and each.way in ("half", "beside") and self.pose.share(side) < 0.55:
            self._insert(act.Shift(side.other, 100.0), each)
        contact = Contact.of(each.contact) if each.contact else None
        facing = self.facing(each)
        place: act.Place
        toe = Clock(int(each.toe) % 720) if each.toe is not None else None
        length, width = each.length, each.width
        clause = each.clause
        own_mark = (
            clause is not None
            and not clause.has("way", "beside")
            and len([r for r in clause.refs if r.part in ("heel", "toes")]) > 1
        )
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
        aside = facing is not None and way == "beside" and clause is not None
        if aside and clause is not None and all(r.part != "toes" for r in clause.refs):  # which may point there
            if any(said.low in _FROM for said in clause.said):
                way, each.passing = "", True  # "from beside the right ankle out to ten thirty"
            else:
                self._slots.append(Slot("place", "doubtful", "place.near"))
        if way == "cross":
            place = act.Faced(facing or self._facing_now(), "cross")
            if clause is not None and clause.has("way", "back"):
                self._slots.append(Slot("way", "doubtful", "way.behind"))
        elif way == "half":
            place = act.Half(self._facing_now())
        elif way == "beside" or (way == "in" and facing is None):
            if len({r.side for r in clause.refs if r.part in ("heel", "toes")} if clause is not None else ()) > 1:
                self._slots.append(Slot("place", "doubtful", "place.near"))  # "your heel level with the other toes"
            if each.amount in WIDTHS:
                place = act.Faced(self._facing_now(), "side", None, None, Length(1.0, WIDTHS[each.amount]))
            else:
                place = act.Beside()
            if contact is None and way == "in":
                contact = Contact.BALL
        elif way == "closer":
            if each.amount in WIDTHS:
                place = act.Faced(self._facing_now(), "side", None, None, Length(1.0, WIDTHS[each.amount]))
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
        elif way == "side" or each.amount in WIDTHS or self._aside(each, side, sides):
            named = each.amount == "hips" or (each.amount == "width" and contact is not None)
            wide = Length(1.0, WIDTHS[each.amount]) if named else width
            if wide is None and length is not None:
                wide = length
            horse = each.stance if each.stance in ("horse", "low") else None
            place = act.Faced(self._facing_now(), "side", horse, None, wide)
            if way != "side" and each.amount not in WIDTHS:
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
        if each.toes in ("in", "out"):
            toe = self._toes_turned(each, side, place)
        return self._stepping(act.Step(side, place, toe, self._via(each), contact))

    def _stand(self, each: Act) -> list[act.Action] | None:
        """How somebody is said to stand in the beginning: no count where it is so."""
        name = WIDTHS.get(each.amount, "together")
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
        close = each.passing or (each.clause is not None and each.clause.has("way", "close"))
        return "close" if close else None

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
        if any(said.kind == "part" and said.value != "it" for said in clause.said):
            return False
        return (straight and each.way == "") or (each.way in ("", "out", "down") and whither(clause) != "")
