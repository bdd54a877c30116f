"""Clauses of hands, eyes, breath and kicks, of what is so, and of what is done again."""

from __future__ import annotations

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import WHICH, clock_of, contact_of, does, foot_of, hours_of, on_toes, share_of, width_of
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.reader import Reader

__all__ = ["Saying"]

#: Words that ask for a repeat only where they stand alone, and what may stand beside them then.
_AGAIN = frozenset({"again", "and again", "otra vez", "de nuevo"})
_ALONE = 3


#: A side of the body, or of a room.
_SIDE = frozenset({"side", "lado"})
#: Words with which somebody says how far something has gone.
_WHEN = frozenset({"when", "once", "cuando"})
#: Words with which somebody says which foot begins.
_BEGUN = frozenset({"starting", "start", "begin", "beginning", "leading", "empezando", "comenzando", "empieza"})
#: Words with which somebody says how the body stands already.
_FACING = frozenset({"facing", "mirando", "de cara"})
_FEET = frozenset({"feet", "pies"})
_TOGETHER = frozenset({"feet together", "feet side by side", "pies juntos", "los pies juntos"})


#: Words for both hands together.
_BOTH_HANDS = frozenset(
    {"both hands", "hands", "palms", "fists", "ambas manos", "las dos manos", "manos", "palmas", "puños"}
)


#: How verbs begin that say how something is, and links that speak of the weight.
_STATES = ("point", "face", "look", "apunt", "mira")
_WEIGHTS = ("weight", "whole weight", "full weight", "entire weight", "peso", "el peso")


#: What arms may do, and what is said of feet and body alone.
_OF_ARMS = frozenset({"sink", "rise", "lower", "lift", "bring", "put", "push", "touch", "keep", "hold"})
_OF_FEET = frozenset({"clock", "percent", "degrees", "contact", "stance", "side", "which", "cm", "fl", "sw", "size"})


class Saying(Reader):
    """Reads what is not of feet and weight."""

    def _repeats(self, c: Clause) -> bool:
        last = self.last
        begun = any(each.low in _BEGUN for each in c.said) and c.has("side", "left", "right")
        but = c.link == "but" and c.has("side", "left", "right") and not c.verbs
        if last is not None and last.kind == "repeat" and (begun or but) and self._is_here(c, last):
            last.kind, last.unread = "mirror", True
            last.spans.append(c.span)
            self.idle = [each for each in self.idle if each[0] not in last.spans]
            return True
        times = c.first_of("times")
        often = c.first_of("often")
        if often is not None:
            times = often._replace(number=float(often.value))
        alone = not c.verbs and c.has("side", "other") and all(r.side == "other" and not r.part for r in c.refs)
        if alone and any(each.low in _SIDE for each in c.said):
            if last is not None and last.kind == "repeat" and c.link == "," and self._is_here(c, last):
                last.kind, last.unread = "mirror", False  # "once more, this time on the other side"
                last.spans.append(c.span)
                self.idle = [each for each in self.idle if each[0] not in last.spans]
                return True
            self._add(c, "mirror")  # "now the other side"
            return True
        if "repeat" not in c.verbs and times is None:
            return False
        if last is not None and last.kind in ("repeat", "mirror") and c.link != "" and self._is_here(c, last):
            last.times = times.number if times is not None else last.times  # "again, two more times" is said of one
            last.spans.append(c.span)
            self.idle = [each for each in self.idle if each[0] not in last.spans]
            return True
        swapped = any(word in each.low for each in c.all_of("verb") for word in ("swap", "exchang", "mirror"))
        if swapped or c.has("side", "other") or (c.verbs == ["repeat"] and c.has("side", "left", "right")):
            self._add(c, "mirror")
        elif times is None and _is_told_again(c):
            return False  # "seventy per cent again" is told of the weight
        elif times is None and len(c.said) > _ALONE and all(e.low in _AGAIN for e in c.said if e.value == "repeat"):
            return False  # "nice to see you again"
        elif times is not None or len(c.verbs) == 1:
            self._add(c, "repeat", times=times.number if times is not None else None)
            if times is None:  # how often, and with what changed, is not said
                self.idle.append((c.span, "unread"))
        else:
            return False
        return True

    def _own(self, c: Clause) -> bool:
        """A phrase of the writer's own."""
        own = c.first_of("taught")
        if own is None:
            return False
        self._add(c, "taught", foot=foot_of(c), way=own.value)
        return True

    def _begins(self, c: Clause) -> bool:
        """How somebody stands before anything is done: "facing north, feet together"."""
        if (
            any(act.kind not in ("expect", "stand") for act in self.acts)
            or c.has("link", "is")
            or c.has("part", "weight")
        ):
            return False
        stands = all(each.low in _FACING for each in c.said if each.kind == "verb")
        facing = bool(c.verbs) and clock_of(c) is not None and not c.has("part", "body", "eyes")
        feet = any(each.low in _FEET for each in c.said if each.kind == "part")
        together = c.has("way", "beside") and (feet or any(each.low in _TOGETHER for each in c.all_of("way")))
        wide = width_of(c) if feet else ""
        if not stands or c.has("side") or c.has("stance") or not (facing or (not c.verbs and (together or wide))):
            return False
        if facing:
            self._add(c, "expect", clock=clock_of(c), way="torso")
        if together or wide:
            self._add(c, "stand", way="beside" if together else "", amount=wide)
        return True

    def _keeps(self, c: Clause) -> bool:
        """What stays as it is needs no count."""
        if (
            "keep" in c.verbs
            and len(c.verbs) == 1
            and not c.has("beats")
            and not c.has("amount", "even")
            and share_of(c) is None
        ):
            last, held = self.last, next((r.part for r in c.refs if r.part in ("heel", "toes")), "")
            if c.has("way", "up") and held and last is not None and last.kind == "step" and not last.contact:
                last.contact = "ball" if held == "heel" else "heel"  # "keeping the heel up"
                last.spans.append(c.span)
                return True
            self.idle.append((c.span, "idle"))
            self._topic = None if c.has("part", "weight") else foot_of(c)
            return True
        return False

    def _kicks(self, c: Clause) -> bool:
        if self.last is not None and self.last.kind == "kick" and self._is_here(c, self.last):
            back = (
                "bring" in c.verbs and (c.has("way", "back", "in") or c.verbs[0] == "bring") and not c.has("link", "to")
            )
            if back and clock_of(c) is None and not c.has("way", "beside", "down", "forward", "side"):
                self._add(c, "lift", foot=self.last.foot, part="knee")  # "and bring the leg back"
                return True
        foot = foot_of(c)
        last = self.last
        extends = last is not None and last.kind == "lift" and last.part == "knee" and _extends(c)
        if "kick" not in c.verbs and not extends:
            return False
        if extends and last is not None:
            foot = foot if foot is not None and foot.side else last.foot
        if last is not None and last.kind == "step" and self._is_here(c, last) and _is_stretched(last):
            foot = foot or last.foot  # "extend the leg and kick" is one
            self.acts.pop()
        height, clock = c.first_of("height"), clock_of(c)
        part = next((ref.part for ref in c.refs if ref.part in ("heel", "toes", "sole")), "")
        part = part or {"heel": "heel", "ball": "toe"}.get(contact_of(c), "")
        self._add(
            c,
            "kick",
            foot=foot,
            clock=clock,
            part={"toes": "toe"}.get(part, part),
            height=height.value if height else "",
            way="corner" if c.has("way", "corner") else "",
            unread="kick" not in c.verbs,
        )
        return True

    def _hands(self, c: Clause) -> bool:
        if c.has("part", "hand"):
            hand, height, pushes = c.first_of("part", "hand"), c.first_of("height"), "push" in c.verbs
            said = c.first_of("side") or (hand if hand is not None and hand.low in _BOTH_HANDS else None)
            if said is None or (height is None and not pushes):
                self.idle.append((c.span, "idle"))  # stays in the note
                return True
            side = said.value if said.value in ("left", "right") else "both"
            act = self._add(c, "hand", foot=Ref(side, "", "hand", 0, said.span), clock=clock_of(c))
            act.height, act.part = "" if height is None else height.value, "push" if pushes else ""
            return True
        of_feet = any(r.part in ("toes", "foot", "heel") for r in c.refs) or c.has("part", "body") or on_toes(c)
        looks = ("look" in c.verbs and not of_feet) or c.has("part", "eyes")
        on = c.has("way", "forward") and set(c.verbs) <= {"look"}  # "look straight ahead", and nothing else
        if not c.has("link", "is") and looks and (clock_of(c) is not None or on):
            self._add(c, "gaze", clock=clock_of(c), way="forward" if on else "")
            return True
        return False

    def _theirs(self, c: Clause) -> bool:
        """What hands or arms that were just told of do then: "let them sink", "the arms rise and sink"."""
        arms, self._arms = self._arms, None
        if c.has("part", "hand"):
            self._arms = c
        verbs = set(c.verbs) - {"repeat"}  # "again"
        ways = not verbs and not c.refs and c.link == "and" and c.has("way", "up", "down")
        if arms is not None and ways and arms.sentence == c.sentence:
            self.idle.append((c.span, "idle"))  # "let the arms float up and down again"
            return True
        if arms is None or not verbs or not verbs <= _OF_ARMS or (c.has("amount", "little") and not c.refs):
            return False  # "and sink a little": a body does
        if any(each.kind in _OF_FEET for each in c.said) or any(r.part != "it" for r in c.refs):
            return False
        on = arms.sentence == c.sentence and c.link in ("and", "then", ",")
        theirs = bool(c.refs) or (on and (_do(arms) or not verbs & {"sink", "rise"}))  # a body sinks, too
        if theirs:
            self._arms = arms._replace(sentence=c.sentence)
            self.idle.append((c.span, "idle"))  # stays in the note
        return theirs

    def _breath(self, c: Clause) -> bool:
        verb = c.first_of("verb", "breathe")
        if verb is None:
            return False
        self._add(c, "breathe", way="out" if any(w in verb.low for w in ("out", "exhal")) else "in")
        return True

    def _holds(self, c: Clause) -> bool:
        beats = c.first_of("beats")
        if beats is None and c.verbs == ["hold"] and all(r.part == "it" for r in c.refs) and not c.has("way"):
            told = [each for each in c.said if each.kind not in ("verb", "ordinary", "part")]
            if not told and not c.has("part", "hand", "body", "weight"):
                self._add(c, "hold")  # "hold it"
                return True
        if beats is None or any(verb not in ("hold", "keep") for verb in c.verbs):
            return False
        self._add(c, "hold", times=beats.number)
        return True

    def _truth(self, c: Clause) -> bool:
        """What is said to be so is expected, and moves nothing; after "until" it is how far something goes."""
        points = any(each.low.startswith("point") for each in c.said if each.kind == "verb")
        doing = [
            v for v in c.verbs if v in ("shift", "step", "lift", "bring", "put", "sit") or (v == "turn" and not points)
        ]
        if share_of(c) is not None and does(c, "llev"):
            doing = [v for v in doing if v != "bring"]  # "y lleva el setenta por ciento"
        marked = c.has("link", "is")
        if c.on and self._stated == c.sentence - 1 and _states(c):
            self._stated = c.sentence  # "check: seventy in front; the toes of the rear foot point at 1:30"
        if not (marked or self._stated == c.sentence) or doing:
            return False
        refs, share = c.refs, share_of(c)
        if marked and self._topic is not None and c.said[0].low in WHICH and c.has("amount", "none") and not c.verbs:
            self.idle.append((c.span, "idle"))  # "the right, which is empty, goes back"
            return True
        if c.has("amount", "most"):
            share = 70.0
        if c.has("amount", "none"):
            share = 0.0 if c.link != "until" or not self.acts else 100.0  # until the other is empty
        if c.link == "until" and c.has("amount", "all"):
            share = 100.0
        poured = self.acts[-1] if self.acts and self.acts[-1].kind == "shift" else None
        if c.link == "until" and poured is not None and poured.share is None and c.has("amount", "even") and not refs:
            poured.share, poured.amount, poured.way = 50.0, "even", ""  # "shift back until the weight is equal"
            poured.spans.append(c.span)
            return True
        if c.has("amount", "even") and c.has("part", "weight") and not refs:
            self._add(c, "expect", share=50.0)
            self._stated = c.sentence
            return True
        ref = next((each for each in refs if each.side or each.which), None)
        last = self.acts[-1] if self.acts else None
        until = c.link == "until" or any(each.low in _WHEN for each in c.said[:1])
        if until and share is not None and last is not None and last.kind in ("shift", "land"):
            shift = next((each for each in reversed(self.acts) if each.kind == "shift"), None)
            if shift is not None:
                empties = c.has("amount", "none")  # the other foot then
                if (
                    ref is not None
                    and ref.side
                    and not empties
                    and shift.foot is not None
                    and ref.side != shift.foot.side
                ):
                    shift.foot, shift.way = ref, ""
                shift.share = share
                shift.spans.append(c.span)
                return True
        turned = last is not None and last.kind == "torso" and last.clock is None and self._is_here(c, last)
        if c.link == "until" and turned and last is not None and clock_of(c) is not None and not refs:
            last.clock, last.way = clock_of(c), ""
            last.spans.append(c.span)
            return True
        made = False
        again = last is not None and last.kind == "expect" and last.share == 100.0 and self._stated == c.sentence
        if share is not None and ref is None and again and last is not None:
            last.share = share
            last.spans.append(c.span)
            made = True
        elif (_is_of_weight(c) and (ref or share is not None)) or share is not None:
            if ref is None and c.has("way", "forward", "back"):  # "seventy per cent is in front"
                said = next(each for each in c.all_of("way") if each.value in ("forward", "back"))
                ref = Ref("", "front" if said.value == "forward" else "rear", "", 0, said.span)
            self._add(c, "expect", foot=ref, share=100.0 if share is None else share)
            made = True
        looks = "look" in c.verbs and not any(r.part in ("toes", "foot") for r in refs)
        faces = "face" in c.verbs or any("face" in each.low for each in c.all_of("link"))
        body = c.has("part", "body") or faces or looks or c.has("stance")
        clocks = hours_of(c)
        unaimed = last is not None and last.kind == "expect" and last.way == "torso" and last.clock is None
        for number, clock in enumerate(clocks):
            pointed = [r for r in refs if r.part in ("toes", "foot") and r.span[0] < clock.span[0]]
            toe = next((r for r in pointed if r.side), pointed[0]._replace(part="it") if pointed and not body else None)
            hour = clock.number
            if unaimed and last is not None and toe is None:
                last.clock, unaimed = hour, False  # "you're facing the window, twelve o'clock"
                last.spans.append(c.span)
            elif body and (number == 0 or toe is None):
                self._add(c, "expect", clock=hour, way="torso")
            elif toe is not None or self._stated == c.sentence:
                self._add(c, "expect", foot=toe, clock=hour, way="toe" if toe is not None else "torso")
            else:
                continue
            made = True
        if "face" in c.verbs and not clocks:
            self._add(c, "expect", way="torso")
            made = True
        step = (
            last if last is not None and last.kind == "step" and not last.contact and self._is_here(c, last) else None
        )
        contact = contact_of(c) or next((r.part for r in refs if r.part in ("heel", "ball")), "")
        if contact and step is not None and not made and ref is None and ("touch" in c.verbs or c.has("contact")):
            step.contact = contact
            step.spans.append(c.span)
            made = True
        elif contact and ("touch" in c.verbs or c.has("contact")):
            self._add(c, "expect", foot=ref, contact=contact)
            made = True
        elif "touch" in c.verbs and ref is not None and not made:
            self._add(c, "expect", foot=ref, share=0.0)
            made = True
        if not made and marked and c.has("stance") and not c.verbs and not refs and share is None and not clocks:
            self.idle.append((c.span, "idle"))  # which stance one is in is seen
            made = True
        asks = marked and not c.verbs and not c.refs and not c.has("amount")
        if not made and marked and not c.verbs and c.has("way") and c.link != "until":
            self.idle.append((c.span, "not an act"))
            made = True
        if made or asks:
            self._stated = c.sentence
        return made


def _states(c: Clause) -> bool:
    """Whether a clause says how something is: its subject comes first, and does nothing but point or face."""
    verb = c.first_of("verb")
    if verb is None:
        return True
    begins = min((each.span[0] for each in c.said if each.kind in ("side", "which", "part")), default=verb.span[0])
    return begins < verb.span[0] and verb.low.startswith(_STATES)


def _is_of_weight(c: Clause) -> bool:
    """Whether a clause speaks of the weight."""
    return c.has("part", "weight") or any(each.low.startswith(_WEIGHTS) for each in c.all_of("link"))


def _is_told_again(c: Clause) -> bool:
    """Whether "again" is said of something that is told besides."""
    only = all(each.low in _AGAIN for each in c.all_of("verb"))
    return only and any(each.kind in ("percent", "clock", "degrees", "contact", "way", "part") for each in c.said)


def _extends(c: Clause) -> bool:
    """Whether a leg is stretched out."""
    return does(c, "exten", "extiend", "estir", "stretch")


def _do(arms: Clause) -> bool:
    """Whether it is the arms that do something, and not somebody with them."""
    kinds = [each.kind if each.value != "hand" else "hand" for each in arms.said]
    return "verb" in kinds and kinds.index("hand") < kinds.index("verb")


def _is_stretched(step: Act) -> bool:
    """Whether a leg was said to stretch, and nowhere to go."""
    said = step.clause.said if step.clause is not None else ()
    nowhere = step.clock is None and step.way in ("", "forward")
    return nowhere and any(each.low.startswith(("exten", "stretch", "esti")) for each in said)
