"""From clauses to acts: a slot filler. A clause opens an act, or fills what the act before left unsaid."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from waltzmark.core.draft.asked import (
    WIDTHS,
    clock_of,
    contact_of,
    inout_of,
    on_toes,
    opened,
    sizes_of,
    way_of,
    whither,
    width_of,
)
from waltzmark.core.draft.clauses import RESUMES, Clause
from waltzmark.core.draft.coverage import covered
from waltzmark.core.draft.moving import Moving
from waltzmark.core.draft.pouring import Pouring
from waltzmark.core.draft.saying import Saying

__all__ = ["Read", "acts_of"]


#: Words for what is done first, at the end of what is told after: "taking the weight off it first".
_FIRST = frozenset({"first", "primero", "antes"})
#: Words with which somebody shows what can be seen.
_SHOWN = frozenset({"see how", "see that", "notice how", "notice that", "watch how", "fijaos que", "fíjate que"})
#: So many acts back a new one may stand: before those that it is told with, or in the place of one.
_NEAR = 4
#: Parts that a kick may be as high as, by their words.
_HIGH = {each: each for each in ("waist", "hip", "knee", "chest", "head")} | {
    "cintura": "waist", "cadera": "hip", "rodilla": "knee", "pecho": "chest", "cabeza": "head",
}  # fmt: skip


class Read(Moving, Pouring, Saying):
    """The acts of a text, and the spans of what was said that is no act."""

    def take(self, clause: Clause) -> None:
        """Reads one more clause."""
        if self._held is not None and clause.sentence != self._held.sentence:
            self.close()
        told = clause.colon and clause.first and "turn" in clause.verbs and not clause.refs and self._held is None
        if told or (clause.first and clause.link == "before"):  # "before you step, turn the foot out" turns the order
            self._held = clause
            if told:
                self._turning = clause.sentence
            return
        self._take(clause)

    def close(self) -> None:
        """Reads what was told before its time."""
        held, self._held = self._held, None
        if held is not None:
            before = len(self.acts)
            self._take(held._replace(link="then", first=False))
            for act in self.acts[before:]:
                act.awaited, act.together = True, held.colon
                act.unread = act.unread or held.colon  # how it turns with what is told one by one is not said

    def end(self) -> None:
        """Reads what was held back, and lets feet that follow the body turn before it, as far."""
        self.close()
        for at, (torso, foot) in enumerate(pairwise(self.acts)):
            if foot.amount != "with" or torso.kind != "torso":
                continue
            if torso.clock is None and torso.degrees is None:
                torso.clock = foot.clock
            if foot.clock is None:
                foot.clock, foot.degrees = torso.clock, torso.degrees
            foot.way = torso.way if foot.clock is None else ""
            torso.way = torso.way if torso.clock is None else ""
            foot.together, torso.together = torso.together and torso.clause is None, True
            self.acts[at : at + 2] = [foot, torso]

    def _take(self, clause: Clause) -> None:
        if clause.sentence == self._past and (clause.link == "then" or _resumes(clause)):
            self._past = -1  # people who talk make no full stops
        past = clause.first_of("link", "past")
        if clause.asks or clause.sentence == self._past or past is not None:
            if past is None or past.low not in _SHOWN:  # what is shown is that clause alone
                self._past = clause.sentence
            self._leave(clause)
            return
        clause = self._before_not(clause)
        if self._held_up(clause):
            return
        if clause.has("link", "not") and not (clause.has("way") and clause.verbs and "keep" in clause.verbs):
            rest = [each for each in clause.said if not (each.kind == "link" and each.value == "not")]
            if "turn" in clause.verbs and clause.has("part", "body"):
                clause = clause._replace(said=tuple(rest))
            else:
                self._leave(clause)
                return
        before = len(self.acts)
        breath = clause.first_of("verb", "breathe")
        if breath is not None and len(clause.verbs) > 1:  # done along with the rest of it
            self._breath(clause)
            clause = clause._replace(said=tuple(each for each in clause.said if each is not breath), together=True)
        if not self._read(clause) and not self._fill(clause):
            meant = [each for each in clause.said if each.kind not in ("ordinary", "link", "unknown")]
            why = "unread" if meant or any(each.kind == "unknown" for each in clause.said) else "idle"
            self.idle.append((clause.span, why))
            if why == "unread" and self.acts:
                self.acts[-1].unread = True
        if clause.has("part", "body") and len(self.acts) == before:
            self._body = clause.sentence
        if clause.link == "as" and clause.first and len(self.acts) > before:
            self.acts[before].together, self._along = False, clause.sentence  # "as the foot flattens, …"
        elif self._along == clause.sentence and len(self.acts) > before:
            self.acts[before].together, self._along = True, -1
        if self._undone and len(self.acts) > before:
            act = self.acts[-1]
            if act.kind == "step" and act.way in ("beside", "in", "close", "closer") and act.clock is None:
                act.kind, act.way = "lift", ""  # "next to the left, without touching the floor": it is held there
            else:
                act.unread = True
        self._undone = False
        left = bool(self.idle) and self.idle[-1][0] == clause.span
        if self.acts and not left and not covered(clause, self.acts[max(before - 1, 0) :], mended=clause.link == "no"):
            self.acts[-1].unread = True
        for act in self.acts[max(before - _NEAR, 0) :]:
            if act.clause is not None:
                continue
            act.spans = act.spans or [clause.span]
            act.clause = clause
            act.mended = any(each.mended for each in clause.said)
            act.until = clause.link == "until"
        awaited = clause.link == "after" or (clause.verbs and clause.said[-1].low in _FIRST)
        if awaited and not clause.first and before:
            self._put_before(before)
        if clause.link == "no" and not clause.first and before and len(self.acts) == before + 1:
            self._correct()

    def _put_before(self, before: int) -> None:
        """What was done first, told after: "turn the foot, after shifting the weight"."""
        at = before
        while at and self.acts[at - 1].clause is not None and self.acts[at - 1].clause is self.acts[before - 1].clause:
            at -= 1
        first, then = self.acts[before:], self.acts[at:before]
        for act in first:
            if act.foot is not None and act.foot.part == "it" and not act.foot.side:
                act.foot = then[-1].foot
        self.acts[at:] = [*first, *then]

    def _correct(self) -> None:
        """What takes back what was said: an act of the same kind stands for the one before."""
        old, new = self.acts[-2:]
        if old.kind != new.kind:
            return
        for slot in (
            "foot",
            "share",
            "clock",
            "degrees",
            "part",
            "contact",
            "toe",
            "length",
            "width",
            "stance",
            "height",
        ):
            if not getattr(new, slot):
                setattr(new, slot, getattr(old, slot))
        new.spans, new.together = old.spans + new.spans, old.together
        del self.acts[-2]

    def _before_not(self, clause: Clause) -> Clause:
        """What is told before a "without" or a "not": only what comes after it is not done."""
        at = next((n for n, each in enumerate(clause.said) if each.kind == "link" and each.value == "not"), 0)
        if not any(each.kind == "verb" and each.value != "keep" for each in clause.said[:at]):
            return clause
        self._leave(clause._replace(said=clause.said[at:]))
        down = ("touch", "put", "lower")
        self._undone = any(each.kind == "verb" and each.value in down for each in clause.said[at:])
        self._undone = self._undone and not clause._replace(said=clause.said[at:]).has("part", "weight")
        return clause._replace(said=clause.said[:at])

    def _held_up(self, c: Clause) -> bool:
        """A foot that was brought somewhere and is not put down there: "but don't put it down"."""
        last = self.last
        off = bool(c.verbs) and set(c.verbs) <= {"hold", "keep"} and c.has("way", "up")
        if last is not None and last.kind == "step" and last.way in ("beside", "in") and off and self._is_here(c, last):
            last.contact = "air"  # "and hold it there off the floor"
            last.spans.append(c.span)
            return True
        down = bool(c.verbs) and set(c.verbs) <= {"put", "lower", "touch"} and not c.has("part", "weight")
        down = down and c.has("link", "not")
        held = last is not None and last.kind == "step" and last.way in ("beside", "in", "close", "closer")
        if last is None or not held or not down or not self._is_here(c, last):
            return False
        last.kind, last.way = "lift", ""
        last.spans.append(c.span)
        return True

    def _leave(self, clause: Clause) -> None:
        """What was said is no act; where it has figures, that is told."""
        telling = any(each.kind in ("percent", "degrees", "clock", "size", "cm", "fl", "sw") for each in clause.said)
        telling = telling or (bool(clause.verbs) and bool(clause.refs) and "keep" not in clause.verbs)
        self.idle.append((clause.span, "not an act" if telling else "idle"))

    # One method a kind; the first that knows the clause takes it.

    def _read(self, c: Clause) -> bool:
        readers = (
            self._own, self._begins, self._theirs, self._repeats, self._keeps,
            self._kicks, self._truth, self._hands, self._breath, self._holds,
            self._contacts, self._crosses, self._slides, self._turns, self._lifts,
            self._empties, self._passes, self._steps,
            self._weights, self._sinks, self._leans, self._lands,
        )  # fmt: skip
        return any(reader(c) for reader in readers)

    def _fill(self, c: Clause) -> bool:
        named = next((r for r in c.refs if r.side or (r.which and r.part)), None)
        kicked = self.last is not None and self.last.kind == "kick" and self._is_here(c, self.last)
        if kicked and self.last is not None and not c.verbs and not c.refs and (high := _height_of(c)):
            self.last.height = high
            self.last.spans.append(c.span)
            return True
        if all(each.kind == "ordinary" or (each.kind, each.value) == ("part", "body") for each in c.said):
            return True  # "torso and hips to ten thirty"
        if c.first and c.link == "" and [each.low for each in c.said] == ["right"]:
            self.idle.append((c.span, "idle"))
            return True  # "right, so now …"
        if not self.acts:
            if named is not None and not c.verbs:
                self._topic = named
            return named is not None and not c.verbs
        last, contact, clock = self.acts[-1], contact_of(c), clock_of(c)
        if last.kind == "pivot" and opened(last) and _is_first(c) and not c.verbs and not c.refs:
            last.kind, last.contact, last.part = "step", contact, ""  # "open the right foot to three, heel first"
            last.spans.append(c.span)
            return True
        toes = any(r.part == "toes" for r in c.refs) or on_toes(c)
        bare = [
            {"toes": "ball"}.get(r.part, r.part) for r in c.refs if not r.side and r.part in ("heel", "ball", "toes")
        ]
        contact = contact or (bare[0] if bare else "")
        step = next((act for act in reversed(self.acts) if act.kind == "step"), None)
        done = False
        if (
            c.link == "no"
            and named is not None
            and not c.verbs
            and last.kind in ("shift", "step", "pivot", "lift", "land", "kick")
        ):
            last.foot, done = named, True
        if named is not None and not c.verbs and step is last and last.foot is None:
            last.foot, done = named, True
        if last.kind == "expect" and last.way == "torso" and last.clock is None and clock is not None:
            last.clock, done = clock, True
        if last.kind == "lift" and any(r.part == "knee" for r in c.refs):
            last.part, done = "knee", True
        if last.kind == "pivot" and named is not None and not c.verbs and last.foot is not None and not last.foot.side:
            last.foot, done = named, True
        if last.kind == "kick" and named is not None and not c.verbs and last.foot is None:
            last.foot, done = named, True
            last.part = {"toes": "toe", "foot": ""}.get(named.part, named.part)
        if last.kind == "kick" and c.has("way", "forward") and not c.verbs and not c.refs:
            done = True
        if last.kind == "kick" and (c.has("way", "corner") or clock is not None):
            last.way, last.clock, done = "corner" if clock is None else "", clock, True
        aimless = last.kind == "torso" and last.way == "" and last.clock is None and self._is_here(c, last)
        if aimless and not c.verbs and all(not r.part for r in c.refs):
            to = next((each.value for each in c.all_of("side") if each.value in ("left", "right")), "")
            if to or c.has("amount", "little"):
                last.way, last.amount = to or last.way, "little" if c.has("amount", "little") else last.amount
                last.unread = last.unread and not last.way
                last.spans.append(c.span)
                return True
        if kicked and contact in ("heel", "ball") and not c.verbs and not last.part:
            last.part, done = {"ball": "toe"}.get(contact, contact), True
        if kicked and bare and not c.verbs:
            last.part, done = {"ball": "toe"}.get(bare[0], bare[0]), True
        if last.kind == "kick" and c.has("height"):
            last.height, done = next(each.value for each in c.said if each.kind == "height"), True
        rest = {"ball": ("sole", "toes"), "heel": ("sole", "heel")}.get(last.contact, ())
        lifted = last.kind == "land" and last.clause is not None and "lift" in last.clause.verbs
        if lifted and not c.verbs and any(r.part in rest and not r.side for r in c.refs):
            self._add(c, "lift", foot=last.foot)
            done = True
        if clock is not None and toes and step is not None:
            step.toe, done = clock, True
        elif clock is not None and last.kind in ("pivot", "torso") and c.link in ("no", ",", "until"):
            last.clock, last.way, last.degrees, done = clock, "", None, True
        elif clock is not None and last.kind == "step" and (last.clock is None or c.link == "no"):
            last.clock, done = clock, True
        stance = c.first_of("stance")
        bare_step = step is not None and not step.stance and last.kind in ("step", "shift")
        if step is not None and stance is not None and bare_step and not c.verbs:
            step.stance, done = stance.value, True
        degrees = c.first_of("degrees")
        if degrees is not None and last.kind in ("pivot", "torso"):
            last.degrees, done = degrees.number, True
        if c.link == "no" and inout_of(c) and last.kind == "pivot" and not c.verbs and not c.refs:
            last.way, done = inout_of(c), True
        if last.kind == "pivot" and contact in ("heel", "ball") and not c.verbs and last.part in ("", "slide"):
            last.part, done = ("ball" if contact == "ball" and not last.part else last.part), True
        if c.has("amount", "far") and last.kind == "pivot":
            last.amount, done = "far", True
        if contact and step is not None and (not step.contact or c.link == "no") and last.kind in ("step", "shift"):
            step.contact, done = contact, True
        aside = last.foot is not None and last.foot.side != "" and whither(c) == last.foot.side
        if (
            aside
            and c.link == ","
            and last.kind == "step"
            and last.clock is None
            and not c.verbs
            and last.way in ("out", "forward", "")
        ):
            last.way, done = "side", True  # "out with the left foot, to the left"
        way = way_of(c)
        if way == "half" and last.kind == "lift" and not c.verbs and self._is_here(c, last):
            last.kind, last.way, last.part, done = "step", "half", "", True  # "bring the left up, half a step"
        if way == "half" and last.kind == "step" and last.unread and last.way == "beside" and not c.verbs:
            last.way, last.unread, done = "half", False, True  # "step up with the back foot, half a step"
        if bare == ["heel"] and last.kind == "step" and last.contact == "ball" and c.link == "then":
            done = True  # "toe, then heel"
        if way and last.kind == "step" and last.way in ("", "out", "close", way) and not c.verbs:
            if last.way == "close" and last.clause is not None:  # "past the left ankle and out to the right corner"
                last.passing, last.clause = True, last.clause._replace(said=(*last.clause.said, *c.said))
            last.way, done = way, True
        if last.kind == "shift" and way in ("in", "forward", "back") and not c.refs:
            done = True
        if last.kind == "torso" and last.way == "behind" and c.has("side"):
            done = True
        length, width = sizes_of(c, going=step is not None and step.length is not None)
        if step is not None and (length is not None or width is not None):
            step.length, step.width, done = step.length or length, step.width or width, True
        if last.kind == "pivot" and c.refs and inout_of(c) and not c.verbs:  # "and the left in"
            self._add(c, "pivot", foot=c.refs[0], way=inout_of(c))
            done = True
        aimless = last.kind == "pivot" and last.clock is None and not (last.way or last.degrees)
        if aimless and inout_of(c) and not c.verbs and not c.refs:
            last.way, done = inout_of(c), True  # "they turn, in"
        if last.kind == "pivot" and inout_of(c) == last.way != "" and not c.verbs and not c.refs:
            done = True  # "in, in, in"
        if c.link == "until" and last.kind == "shift" and not c.verbs and c.refs and last.share is None:
            last.share, done = 100.0, True  # "until the right is empty"
        if c.has("amount", *WIDTHS, "wide") and step is not None:
            step.amount, done = width_of(c) or step.amount or "wide", True
        if c.has("amount", "all", "far", "little", "even") and last.kind in ("shift", "pivot", "torso") and not done:
            if c.has("amount", "all") and last.kind == "shift":
                last.amount = "all"
            done = True
        if done:
            last.spans.append(c.span)
        elif named is not None and not c.verbs and not c.has("way") and clock is None:
            self._topic, done = named, True
            last.spans.append(c.span)
        return done


def _is_first(c: Clause) -> bool:
    """Whether a clause says what touches the floor first."""
    return any({"first", "primero"} & set(each.low.split()) for each in c.all_of("contact"))


def _height_of(c: Clause) -> str:
    """How high a kick is, by a part of the body alone: "chest"."""
    words = [word for each in c.said for word in (each.value, *each.low.split()[-1:])]
    return next((_HIGH[word] for word in words if word in _HIGH), "")


def _resumes(clause: Clause) -> bool:
    """Whether a clause begins with a word that comes back to what is done."""
    begins = []
    for each in clause.said:
        if each.kind != "ordinary":
            break
        begins.append(each.low)
    return any(low in RESUMES or low == "just" for low in begins)


def acts_of(clauses: Sequence[Clause]) -> Read:
    """The acts of clauses, in order."""
    read = Read()
    for clause in clauses:
        read.take(clause)
    read.end()
    return read
