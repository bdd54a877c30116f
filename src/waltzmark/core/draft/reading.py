"""From clauses to acts: a slot filler. A clause opens an act, or fills what the act before left unsaid."""

from __future__ import annotations

from collections.abc import Sequence

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import (
    ONE,
    clock_of,
    contact_of,
    inout_of,
    way_of,
)
from waltzmark.core.draft.clauses import Clause
from waltzmark.core.draft.moving import Moving
from waltzmark.core.draft.pouring import Pouring
from waltzmark.core.draft.saying import Saying

__all__ = ["Read", "acts_of"]

#: Words after which stands where something was.
_FROM = frozenset({"from", "desde"})
#: Words of a clause that may be unknown.
_UNKNOWN = 1


class Read(Moving, Pouring, Saying):
    """The acts of a text, and the spans of what was said that is no act."""

    def take(self, clause: Clause) -> None:
        """Reads one more clause."""
        if clause.sentence == self._past or clause.has("link", "past"):
            self._past = clause.sentence
            self._leave(clause)
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
            why = "unread" if meant or sum(each.kind == "unknown" for each in clause.said) > 1 else "idle"
            self.idle.append((clause.span, why))
            if why == "unread" and self.acts:
                self.acts[-1].unread = True
        left = bool(self.idle) and self.idle[-1][0] == clause.span
        if self.acts and not left and not _covered(clause, self.acts[max(before - 1, 0) :]):
            self.acts[-1].unread = True
        for act in self.acts[before:]:
            act.spans = act.spans or [clause.span]
            act.clause = clause
            act.mended = any(each.mended for each in clause.said)
            act.until = clause.link == "until"

    def _leave(self, clause: Clause) -> None:
        """What was said is no act; where it has figures, that is told."""
        telling = any(each.kind in ("percent", "degrees", "clock", "size") for each in clause.said)
        self.idle.append((clause.span, "not an act" if telling else "idle"))

    # One method a kind; the first that knows the clause takes it.

    def _read(self, c: Clause) -> bool:
        readers = (
            self._repeats, self._keeps, self._kicks, self._truth, self._hands, self._breath, self._holds,
            self._crosses, self._slides, self._turns, self._lifts, self._empties, self._steps, self._weights,
            self._sinks, self._leans, self._lands,
        )  # fmt: skip
        return any(reader(c) for reader in readers)

    def _fill(self, c: Clause) -> bool:
        named = next((r for r in c.refs if r.side), None)
        if not self.acts:
            if named is not None and not c.verbs:
                self._topic = named
            return named is not None and not c.verbs
        last, contact, clock = self.acts[-1], contact_of(c), clock_of(c)
        toes = any(r.part == "toes" for r in c.refs)
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
            and last.kind in ("shift", "step", "pivot", "lift", "land")
        ):
            last.foot, done = named, True
        if named is not None and not c.verbs and step is last and last.foot is None:
            last.foot, done = named, True
        if last.kind == "expect" and last.way == "torso" and last.clock is None and clock is not None:
            last.clock, done = clock, True
        if last.kind == "lift" and any(r.part == "knee" for r in c.refs):
            last.part, done = "knee", True
        if last.kind == "kick" and (c.has("way", "corner") or clock is not None):
            last.way, last.clock, done = "corner" if clock is None else "", clock, True
        if last.kind == "kick" and c.has("height"):
            last.height, done = next(each.value for each in c.said if each.kind == "height"), True
        if any(r.part == "sole" for r in c.refs) and last.kind == "land" and last.contact == "ball":
            self._add(c, "lift", foot=last.foot)
            done = True
        if clock is not None and toes and step is not None:
            step.toe, done = clock, True
        elif clock is not None and last.kind in ("pivot", "torso") and c.link in ("no", ",", "until"):
            last.clock, last.way, last.degrees, done = clock, "", None, True
        elif clock is not None and last.kind == "step" and last.clock is None:
            last.clock, done = clock, True
        degrees = c.first_of("degrees")
        if degrees is not None and last.kind in ("pivot", "torso"):
            last.degrees, done = degrees.number, True
        if c.has("amount", "far") and last.kind == "pivot":
            last.amount, done = "far", True
        if contact and step is not None and (not step.contact or c.link == "no") and last.kind in ("step", "shift"):
            step.contact, done = contact, True
        way = way_of(c)
        if way and last.kind == "step" and (not last.way or last.way == "out") and not c.verbs:
            last.way, done = way, True
        if last.kind == "shift" and way in ("in", "forward", "back") and not c.refs:
            done = True
        if last.kind == "torso" and last.way == "behind" and c.has("side"):
            done = True
        size = c.first_of("size")
        if size is not None and step is not None:
            step.size, done = (size.number or 0.0, size.other or 0.0), True
        if last.kind == "pivot" and c.refs and inout_of(c) and not c.verbs:  # "and the left in"
            self._add(c, "pivot", foot=c.refs[0], way=inout_of(c))
            done = True
        if c.has("amount", "width") and step is not None:
            step.amount, done = "width", True
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


def _covered(c: Clause, acts: Sequence[Act]) -> bool:
    """Whether every figure and every side of a clause, and nearly every word, went into one of some acts."""
    figures = {
        round(value, 1)
        for act in acts
        for value in (act.share, act.clock, act.toe, act.degrees, act.times, *(act.size or ()))
        if value is not None
    }
    figures |= {round(100.0 - act.share, 1) for act in acts if act.share is not None}
    for at, each in enumerate(c.said):
        if at and c.said[at - 1].low in _FROM:
            continue
        if each.kind in ("percent", "degrees", "clock", "times", "beats", "cm", "fl") and each.number is not None:
            if round(each.number, 1) not in figures:
                return False
        elif each.kind == "number" and each.number is not None and each.low not in ONE:
            hour = each.number % 12 * 60.0
            if round(each.number, 1) not in figures and hour not in figures:
                return False
    if c.has("amount", "none") and acts and acts[-1].kind == "shift":
        return True  # the other foot of the same pour
    sides = {each.value for each in c.said if each.kind == "side" and each.value in ("left", "right")}
    told = {act.foot.side for act in acts if act.foot is not None} | {act.way for act in acts}
    if any(act.kind in ("mirror", "repeat") for act in acts):
        told |= sides
    between = {ref.side for ref in c.refs if ref.side}  # beside the other foot, past it, where it was
    if sides - told - (between if len(between) > 1 else set()):
        return False
    return sum(each.kind == "unknown" for each in c.said) <= _UNKNOWN


def acts_of(clauses: Sequence[Clause]) -> Read:
    """The acts of clauses, in order."""
    read = Read()
    for clause in clauses:
        read.take(clause)
    return read
