"""How the body stands while a draft is made: which foot is meant, which counts belong together, and how sure it is."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from waltzmark.core.base.angles import COMPASS, ahead, normal
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import Ref
from waltzmark.core.draft.pieces import Span
from waltzmark.core.draft.readings import readings
from waltzmark.core.draft.slots import How, Slot
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.spoken import Chosen
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Compass, Facing
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.step import step

__all__ = ["BOW", "EMPTY", "FAR", "LITTLE", "USUAL", "How", "Made", "Slot", "Standing", "first_side"]

_WORST: dict[How, int] = {"said": 0, "given": 1, "chosen": 2, "inserted": 3, "doubtful": 4}
#: Shares below which a foot is empty, and above which it has all.
EMPTY, _ALL = 0.02, 0.98
#: Degrees that a foot turns where nobody says how far, and as far as it goes.
USUAL, FAR, LITTLE = 45.0, 45.0, 20.0
#: % that a front foot takes where nobody says.
BOW = 70.0


@dataclass
class Made:
    """A count that was drafted.

    others: other readings of it; nth: of several counts of the same words, which; refused, yours: what the writer made
    of it, who read it otherwise.
    """

    count: act.Count
    spans: list[Span]
    slots: list[Slot] = field(default_factory=list)
    others: tuple[act.Count, ...] = ()
    inserted: bool = False
    nth: int = 0
    refused: bool = False
    yours: bool = False
    read: act.Count | None = None

    @property
    def start(self) -> int:
        """The first character of its words."""
        return min(start for start, _ in self.spans)

    @property
    def stop(self) -> int:
        """The character after the last of its words."""
        return max(stop for _, stop in self.spans)

    @property
    def how(self) -> How:
        """Its worst slot."""
        hows: list[How] = [slot.how for slot in self.slots]
        if self.yours:
            return "said"
        worst: How = max(hows, key=_WORST.__getitem__, default="said")
        if self.inserted and worst != "doubtful":
            return "inserted"
        return worst


def first_side(*sides: Side | None) -> Side | None:
    """The first side that there is: the left one counts as nothing where it is asked whether it is something."""
    return next((side for side in sides if side is not None), None)


class Standing:
    """Where the body stands while counts are made of acts, one after the other."""

    def __init__(
        self,
        pose: Pose,
        ground: Ground,
        chosen: Iterable[Chosen] = (),
        upto: int = 0,
        now: Pose | None = None,
        taught: Sequence[Taught] = (),
    ) -> None:
        """Begin with what the writer settled.

        chosen: what the writer made of some words; upto: the characters that are settled, after which the body stands
        in *now*; taught: the writer's own phrases.
        """
        self._own = taught
        self.pose, self.ground = pose, ground
        self._chosen = {(each.start, each.stop, each.nth): each for each in chosen}
        self._upto, self._now = upto, now
        self._nths: Counter[Span] = Counter()  # counts that are settled, by where their words begin and end
        self._settled = 0  # counts to which what the writer made of them was applied
        self.made: list[Made] = []
        self.so: list[Span] = []  # of what is said to be as it is already
        self.unmade: list[Span] = []  # of acts that came to nothing, since nobody could say whose they are
        self.repeats: list[tuple[str, float | None, list[Span], bool]] = []
        self._last: Side | None = None  # the foot that was spoken of last
        self._faced = pose.torso  # where the torso faced before it turned last
        self._slots: list[Slot] = []
        self._spans: list[Span] = []

    # Which foot.

    @property
    def front(self) -> Side | None:
        """The foot that is ahead in the facing of the stance."""
        ux, uy = ahead(self.pose.facing)
        right, left = self.pose.right, self.pose.left
        lead = (right.x - left.x) * ux + (right.y - left.y) * uy
        return None if abs(lead) < 0.10 else Side.RIGHT if lead > 0 else Side.LEFT

    @property
    def empty(self) -> Side | None:
        """The foot that carries nothing, or less."""
        left = self.pose.left_share
        return Side.LEFT if left < 0.5 - 1e-6 else Side.RIGHT if left > 0.5 + 1e-6 else None

    def side(self, ref: Ref | None, usual: Side | None, what: str = "foot") -> Side | None:
        """The side that is meant; what was not said is the usual one, and chosen."""
        found: Side | None = None
        if ref is not None:
            if ref.side in ("left", "right"):
                found = Side.LEFT if ref.side == "left" else Side.RIGHT
                self._slots.append(Slot(what, "said", spans=(ref.span,)))
                self._last = found
                return found
            if ref.side == "other" and self._last is not None:
                found = self._last.other
            elif ref.which == "front":
                found = self.front
            elif ref.which == "rear" and self.front is not None:
                found = self.front.other
            elif ref.which == "full" and self.empty is not None:
                found = self.empty.other
            elif ref.which == "empty":
                found = self.empty
            if found is not None:
                self._slots.append(Slot(what, "said", spans=(ref.span,)))
                self._last = found
                return found
            if ref.part == "it" and self._last is not None:
                self._slots.append(Slot(what, "given", "foot.last"))
                return self._last
        if usual is not None:
            self._slots.append(
                Slot(what, "given" if usual is self.empty or usual is self._last else "chosen", "foot.empty")
            )
            self._last = usual
            return usual
        self._slots.append(Slot(what, "doubtful", "foot.unsaid"))
        return None

    # Making counts.

    def take(self, acts: list[Act]) -> None:
        """Makes counts of acts that belong together or follow each other."""
        self._take(acts)
        self._settle()
        if self._now is not None and (not self.made or self.made[-1].stop <= self._upto):
            self.pose = self._now

    def _settle(self) -> None:
        """Applies what the writer made of the counts that are whole now, and begins what follows where they end."""
        for made in self.made[self._settled :]:
            made.others = readings(made.count, made.slots)
            key = (made.start, made.stop)
            made.nth = self._nths[key]
            self._nths[key] += 1
            self._settled += 1
            choice = self._chosen.get((*key, made.nth))
            if choice is None:
                continue
            self.pose = self._before_last
            made.yours, made.refused = True, choice.count is None
            if choice.count is not None:
                made.read, made.count = made.count, choice.count
                if made.count.moves:
                    self.pose = step(self.pose, made.count, self.ground)[0]

    def _is_chosen(self) -> bool:
        """Whether the writer made something of the last count as it stands."""
        if not self._chosen or self._settled == len(self.made):
            return False
        key = (self.made[-1].start, self.made[-1].stop)
        nth = sum((each.start, each.stop) == key for each in self.made[:-1])
        return (*key, nth) in self._chosen

    def _resume(self, start: int) -> None:
        """Goes on from where the body stands now, with the first words that are not settled."""
        if self._now is not None and start >= self._upto:
            self.pose, self._now = self._now, None

    def _take(self, acts: list[Act]) -> None:
        for each in _turns_around(acts):
            if each.clause is not None and each.clause.sentence != self._at_sentence:
                self._at_sentence, self._new_sentence = each.clause.sentence, True
            self._slots, self._spans = [], list(each.spans)
            if self._is_chosen():  # what follows begins where the writer's count ends
                self._settle()
            if self._now is not None and each.spans and min(each.spans)[0] >= self._upto:
                self._settle()
                self._resume(min(each.spans)[0])
            maker = getattr(self, f"_{each.kind}", None)
            actions: list[act.Action] | None = None if maker is None else maker(each)
            if not actions:
                (self.unmade if actions is None else self.so).extend(each.spans)
                continue
            if each.mended:
                self._slots.append(Slot("word", "chosen", "word.mended"))
            if each.unread:
                self._slots.append(Slot("words", "doubtful", "words.unread"))
            self._put(each, actions)
            self._new_sentence = False
            bare = each.clause is not None and set(each.clause.verbs) <= {"bring", "put"} and each.foot is None
            both = each.clause is not None and any(
                "feet" in s.low or "pies" in s.low for s in each.clause.all_of("way")
            )
            if each.kind == "step" and each.way == "beside" and bare and both:  # "feet together": both carry in the end
                self._insert(act.Shift(None, 50.0), each)

    def _put(self, each: Act, actions: list[act.Action]) -> None:
        last = self.made[-1] if self.made and self._settled < len(self.made) else None
        if last is not None and last.inserted and last.count.actions == tuple(actions):
            last.inserted, last.slots = False, list(self._slots)  # "feet together, weight even": it was said after all
            last.spans += each.spans
            return
        beats = each.times if each.kind == "hold" and each.times else 1.0
        if last is not None and self._joins(each, last, actions):
            before = self._before_last
            joined = act.Count((*last.count.actions, *actions), max(last.count.beats, beats))
            last.count = joined
            last.spans += each.spans
            last.slots += self._slots
            self.pose = step(before, joined, self.ground)[0]
            return
        self._settle()
        self._before_last = self.pose
        count = act.Count(tuple(actions), beats)
        self.made.append(Made(count, list(each.spans), list(self._slots)))
        if count.moves:
            self.pose = step(self.pose, count, self.ground)[0]

    def _append(self, count: act.Count, each: Act, slots: list[Slot]) -> None:
        """A count as it is."""
        self._settle()
        self._before_last = self.pose
        self.made.append(Made(count, list(each.spans), slots))
        if count.moves:
            self.pose = step(self.pose, count, self.ground)[0]

    def _insert(self, action: act.Action, each: Act, *others: act.Action, slot: Slot | None = None) -> None:
        """A count that nobody said, and without which what was said cannot be walked."""
        if not others and slot is None and self._pours_all(action):
            return
        self._settle()
        self._before_last = self.pose
        slots = [slot or Slot("weight", "inserted", "weight.empty")]
        made = Made(act.Count((action, *others)), list(each.spans), slots, inserted=True)
        self.made.append(made)
        self.pose = step(self.pose, made.count, self.ground)[0]

    def _pours_all(self, action: act.Action) -> bool:
        """Pours all where the count before poured as much as is usual: "it moves forward, the other foot comes up"."""
        last = self.made[-1] if self.made and self._settled < len(self.made) else None
        told = None if last is None else last.count.one(act.Shift)
        usual = Slot("share", "given", "share.bow")
        if last is None or told is None or usual not in last.slots or not isinstance(action, act.Shift):
            return False
        if told.side is not action.side or last.inserted:
            return False
        last.count = replace(last.count, actions=tuple(action if a is told else a for a in last.count.actions))
        last.slots[last.slots.index(usual)] = Slot("share", "given", "share.all")
        self.pose = step(self._before_last, last.count, self.ground)[0]
        return True

    def _joins(self, each: Act, last: Made, actions: list[act.Action]) -> bool:
        """Whether an act goes into the count before: what does not move a foot goes with what does."""
        if last.inserted:
            return False
        kinds = {type(action).__name__ for action in last.count.actions}
        new = {type(action).__name__ for action in actions}
        if all(isinstance(a, act.Expect) for a in actions) and all(
            isinstance(a, act.Expect) for a in last.count.actions
        ):
            return True
        if any(isinstance(a, act.Expect) for a in (*actions, *last.count.actions)):
            return False
        if kinds & new:
            return False
        stepped = {a.side for a in (*last.count.actions, *actions) if isinstance(a, act.Step)}
        if any(isinstance(a, act.Land) and a.side in stepped for a in (*last.count.actions, *actions)):
            return False  # a foot steps, and rolls flat after
        quiet = {"Torso", "Gaze", "Hand", "Breathe", "Lean", "Sink"}
        if each.together:
            return not ("Step" in kinds | new and "Shift" in kinds | new)
        same = not self._new_sentence
        if "Shift" in kinds and new <= {"Torso"} | quiet - {"Sink", "Lean"} and same:
            return True
        if kinds <= {"Breathe"} and same:
            return True
        if new == {"Land"} and "Shift" in kinds and same:
            return any(a.contact is Contact.HEEL for a in actions if isinstance(a, act.Land))
        if kinds <= {"Torso"} and new == {"Pivot"} and each.clause is not None and each.clause.has("way", "with"):
            return True
        if kinds == {"Torso"} and new == {"Shift"} and same:
            return True
        if kinds == {"Pivot"} and new == {"Torso"} and same:
            return True
        return bool(kinds & {"Hand"}) and new <= quiet

    _at_sentence = -1
    _new_sentence = True
    _before_last: Pose

    # Facings.

    def facing(self, each: Act) -> Facing | None:
        """The facing that was said of an act."""
        if each.clock is None:
            return None
        told = () if each.clause is None else each.clause.all_of("clock")
        point = next((said.value for said in told if said.value in COMPASS and said.number == each.clock), None)
        return Clock(round(each.clock) % 720) if point is None else Compass(point)

    def _ahead(self, degrees: float = 0.0) -> Facing:
        return Clock.at(normal(self.pose.torso + degrees))


#: Degrees from which a turn of the body needs the feet to be turned one after the other.
_AROUND = 150.0


def _turns_around(acts: list[Act]) -> list[Act]:
    """The same with turns to the back, and the pivots told with them, as one manoeuvre."""
    found: list[Act] = []
    for each in acts:
        if each.kind != "torso" or not (each.way == "behind" or abs(each.degrees or 0.0) >= _AROUND):
            found.append(each)
            continue
        pivots: list[Act] = []
        while found and found[-1].kind == "pivot" and found[-1].clock is None and _is_one_sentence(found[-1], each):
            pivots.insert(0, found.pop())
        sides = [pivot.foot.side for pivot in pivots if pivot.foot is not None and pivot.way == "out"]
        way = sides[0] if sides else each.foot.side if each.foot is not None else each.way
        spans = [span for part in (*pivots, each) for span in part.spans]
        found.append(Act("around", spans, foot=each.foot, way=way, clause=each.clause, unread=each.unread))
    return found


def _is_one_sentence(one: Act, other: Act) -> bool:
    return one.clause is not None and other.clause is not None and one.clause.sentence == other.clause.sentence
