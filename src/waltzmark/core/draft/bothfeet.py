"""Clauses of both feet that turn, alike or each in its own way, and of feet that turn along with the body."""

from __future__ import annotations

from waltzmark.core.draft.asked import clock_of, inout_of
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.reader import TURNS, Reader

__all__ = ["BothFeet"]

#: Words with which a body comes back from where it turned.
_RETURNS = frozenset({"return", "returns", "vuelve", "volvemos", "regresa", "regresamos"})
#: How words begin with which a body takes a foot along.
_TAKES = ("takes the", "taking the", "brings the", "bringing the", "se lleva el", "llevándose el", "se lleva la")
#: Words for what comes first.
_FIRST = frozenset({"first", "primero"})


class BothFeet(Reader):
    """Reads how both feet turn."""

    def _returns(self, c: Clause) -> bool:
        """A body that turns back to where it was: "turn the waist to the left, and return"."""
        words = [each for each in c.said if each.kind not in ("ordinary", "link")]
        before = next((act for act in reversed(self.acts) if act.kind != "hold"), None)
        turned = before is not None and before.kind == "torso" and self._is_here(c, before)
        if not turned or len(words) != 1 or words[0].kind != "verb" or words[0].low not in _RETURNS:
            return False
        self._add(c, "torso", way="return")
        return True

    def _pair(self, c: Clause) -> bool:
        """Both feet, each on its own part: "on the left heel and the ball of the right foot until both face three"."""
        last, before = self.last, self.acts[-2] if len(self.acts) > 1 else None
        if last is None or last.kind != "pivot" or not self._is_here(c, last) or last.foot is None:
            return False
        ref = next((r for r in c.refs if r.side and r.part in ("heel", "ball")), None)
        aimless = last.clock is None and not last.way and not last.degrees
        bare = not c.verbs and clock_of(c) is None and not inout_of(c)
        if aimless and bare and ref is not None and c.link == "and" and ref.side != last.foot.side:
            self._add(c, "pivot", foot=ref, part=ref.part, unread=True).together = True
            return True
        both = before is not None and before.kind == "pivot" and before.clock is None and last.together
        clock = clock_of(c)
        if not (aimless and both and before is not None):
            return False
        if c.link == "until" and clock is None and c.has("side", "both") and not c.verbs:
            last.spans.append(c.span)
            return True
        if clock is None or not (c.has("side", "both") or c.has("part", "body")):
            return False
        for act in (before, last):
            act.clock, act.unread = clock, False
        last.spans.append(c.span)
        if c.has("part", "body"):
            self._add(c, "torso", clock=clock).together = True
        return True

    def _both(self, c: Clause) -> bool:
        """Both feet turned alike, one after the other; and what is told of either one then."""
        last, before = self.last, self.acts[-2] if len(self.acts) > 1 else None
        told = [r for r in c.refs if r.side in ("left", "right")]
        if last is not None and before is not None and before.kind == last.kind == "pivot" and told and not c.verbs:
            both = [act.foot.side for act in (before, last) if act.foot is not None and act.foot.part == "both"]
            if len(both) == 2 and self._is_here(c, last) and clock_of(c) is None and not c.has("degrees"):
                if c.said[0].low in _FIRST and both[0] != told[0].side:
                    self.acts[-2:] = [last, before]
                how = c.first_of("contact", "heel", "ball")
                for act in (before, last):
                    act.part = how.value if how is not None else act.part
                last.spans.append(c.span)
                return True
        both_feet = next((r for r in c.refs if r.side == "both" and r.part in ("foot", "toes")), None)
        degrees, clock = c.first_of("degrees"), clock_of(c)
        to = next((each.value for each in c.all_of("side") if each.value in ("left", "right")), "")
        to = to or inout_of(c)
        aimed = clock is not None or (degrees is not None and to)
        turns = any(v in TURNS for v in c.verbs) or (not c.verbs and not c.has("way", "beside", "side"))
        if both_feet is None or not aimed or not turns or c.has("part", "body"):
            return False
        first = "left" if to == "left" else "right"
        for side in (first, "left" if first == "right" else "right"):
            foot = both_feet._replace(side=side, part="both")
            turned = None if degrees is None else degrees.number
            self._add(c, "pivot", foot=foot, clock=clock, degrees=turned, way=to, unread=True)
        return True

    def _follows(self, c: Clause) -> bool:
        """Toes or a foot that follow the body turn as far as that does."""
        last = next((act for act in reversed(self.acts[-2:]) if act.kind == "torso"), None)
        feet = [r for r in c.refs if r.part in ("toes", "foot")]
        if any(each.low.startswith(_TAKES) for each in c.all_of("way")):
            feet = [Ref("", "empty", "foot", 0, c.span)]  # "it takes the foot with it"
        if last is None or not feet or not c.has("way", "with") or clock_of(c) is not None:
            return False
        if c.verbs or c.has("part", "body", "weight") or not (self._is_here(c, last) or c.first):
            return False
        if last is not self.last:  # the weight went over meanwhile: the foot turns after it
            foot = next((r for r in feet if r.side or r.which), feet[0]._replace(which="empty"))
            self._add(c, "pivot", foot=foot, clock=last.clock, degrees=last.degrees, way=last.way)
            return True
        foot = next((r for r in feet if r.side or r.which), feet[0]._replace(which="empty"))
        self._add(c, "pivot", foot=foot, amount="with", clock=last.clock)
        return True
