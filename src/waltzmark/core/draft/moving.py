"""Clauses that move a foot: it steps, turns, is lifted and set down."""

from __future__ import annotations

from waltzmark.core.draft.asked import (
    clock_of,
    contact_of,
    foot_of,
    inout_of,
    is_same,
    leftright_of,
    share_of,
    sided_of,
    sizes_of,
    way_of,
)
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.pieces import Span
from waltzmark.core.draft.reader import STEPS, TURNS, WEIGHTS, Reader

__all__ = ["Moving"]

#: Words after which stands where something was.
_FROM = frozenset({"from", "desde"})
#: Beginnings of verbs that say which way a foot turns.
_OPENS = {"open": "out", "abr": "out", "clos": "in", "cierr": "in", "cerr": "in"}
#: Beginnings of verbs that slide a heel where its toes stay.
_SLIDES = ("slide", "push", "swing", "desliz", "empuj")
#: Verbs that also say what is so.
_STATED = frozenset({"points", "faces", "apunta", "mira"})


class Moving(Reader):
    """Reads what feet do."""

    def _crosses(self, c: Clause) -> bool:
        if "cross" not in c.verbs:
            return False
        self._add(c, "step", foot=foot_of(c), way="cross", contact=contact_of(c))
        return True

    def _contacts(self, c: Clause) -> bool:
        """A part of a foot that comes down, and no foot named: it is of the step before."""
        last = self.last
        if last is None or last.kind not in ("step", "lift") or last.contact:
            return False
        if any(verb not in ("put", "touch", "lower") for verb in c.verbs) or c.has("part", "weight", "body"):
            return False
        bare = [r for r in c.refs if r.part in ("heel", "ball", "toes") and not r.side and not r.which]
        other = len(c.refs) > len(bare) or clock_of(c) is not None or any(sizes_of(c)) or share_of(c) is not None
        part = contact_of(c) or (bare[0].part if bare else "")
        if not part and c.verbs == ["touch"] and not c.refs:
            part = "ball"
        away: bool | str = c.has("way", "forward", "back", "side", "beside", "corner", "half", "up") or inout_of(c)
        if last.way == "beside" and c.has("way", "beside"):
            away, other, part = False, False, part or ("ball" if c.verbs == ["touch"] else "")
        if not part or other or away or c.has("link", "is") or (not c.verbs and not c.has("contact")):
            return False
        if last.kind == "lift":
            self._add(c, "land", foot=last.foot, contact={"toes": "ball"}.get(part, part))
            return True
        last.contact = {"toes": "ball"}.get(part, part)
        last.spans.append(c.span)
        return True

    def _weight_goes(self, c: Clause) -> bool:
        """Whether it is the weight that goes: "let your weight travel back"."""
        kinds = [(each.kind, each.value) for each in c.said if each.kind in ("part", "verb")]
        return ("part", "weight") in kinds and kinds.index(("part", "weight")) < next(
            (at for at, (kind, _) in enumerate(kinds) if kind == "verb"), 0
        )

    def _opens(self, c: Clause) -> bool:
        """Whether a foot "opens" as a step: to the side, by a shoulder's width."""
        opened = any(each.low.startswith(("open", "abre", "abri")) for each in c.said if each.kind == "verb")
        return opened and (c.has("way", "side") or c.has("amount", "width") or any(sizes_of(c)))

    def _slides(self, c: Clause) -> bool:
        """The heel of a foot that stands goes out: its toes turn in, on the ball."""
        heel = next((r for r in c.refs if r.part == "heel"), None)
        way, moves = inout_of(c), [v for v in c.verbs if v in ("bring", "put", "turn", "step")]
        pushed = any(each.low.startswith(_SLIDES) for each in c.said if each.kind == "verb") and heel is not None
        if pushed and heel is not None and not way and c.has("way", "back", "around") and not c.has("contact"):
            self._add(c, "pivot", foot=heel, part="ball")
            return True
        if heel is None or not way or not moves or c.has("contact") or clock_of(c) is not None:
            return False
        degrees = c.first_of("degrees")
        self._add(c, "pivot", foot=heel, way=way, part="slide", degrees=degrees.number if degrees else None)
        return True

    def _turns(self, c: Clause) -> bool:
        turns = any(verb in TURNS for verb in c.verbs)
        short = not c.verbs and bool(inout_of(c)) and not c.has("part", "body", "weight")
        if turns and self._opens(c):
            return False
        body, refs = (
            c.has("part", "body"),
            [r for r in c.refs if r.part in ("foot", "toes", "heel", "ball", "it", "knee") or (not r.part and short)],
        )
        clock, degrees = clock_of(c), c.first_of("degrees")
        compass = c.first_of("compass")
        if degrees is None and clock is None:  # "the left out forty five"
            degrees = next((e for e in c.all_of("number") if 12 < (e.number or 0.0) <= 270), None)
        way = inout_of(c)
        verb = next(
            (at for at, each in enumerate(c.said) if each.kind == "verb" and each.value[:4] in ("turn", "face")), 0
        )
        stated = bool(refs) and refs[0].at < verb and c.said[verb].low in _STATED
        if (
            not turns
            and not (
                (refs and (way or clock is not None) and refs[0].part == "toes")
                or (
                    body
                    and (clock is not None or degrees or (not c.verbs and c.has("side") and c.has("amount", "little")))
                )
            )
            and not (refs and way and (degrees or c.has("amount", "far")))
            and not (body and not c.verbs and (c.has("side") or c.has("way", "corner", "with")))
        ):
            return False
        last = self.acts[-1] if self.acts else None
        toes = [r for r in refs if r.part == "toes" and not r.side]
        if toes and not body and last is not None and (clock is not None or way):
            step = last if last.kind == "step" else None
            if step is not None and (clock is not None or c.link == ","):
                if clock is not None:
                    step.toe = clock
                step.spans.append(c.span)
                return True
            if last.kind == "pivot" and c.link == "until":
                last.clock, last.way = clock, ""
                last.spans.append(c.span)
                return True
        itself = all(r.part in ("it", "toes") or is_same(r, last.foot if last is not None else None) for r in refs)
        if (
            c.link == "until"
            and last is not None
            and last.kind == "pivot"
            and clock is not None
            and itself
            and not body
        ):
            last.clock, last.way = clock, ""
            last.spans.append(c.span)
            return True
        if c.link == "until" and last is not None and last.kind == "torso" and clock is not None and not refs:
            last.clock, last.way = clock, ""
            last.spans.append(c.span)
            return True
        if (
            "face" in c.verbs
            and body
            and clock is None
            and not degrees
            and any(e.low.startswith("square") for e in c.said)
        ):
            self._add(c, "torso", way="square")
            return True
        step = next((act for act in reversed(self.acts) if act.kind == "step"), None)
        itself = all(r.part == "it" for r in refs)
        if (
            "face" in c.verbs
            and itself
            and step is not None
            and step.clock is not None
            and clock is None
            and not degrees
        ):
            self._add(c, "torso", clock=step.clock)
            return True
        along = last is not None and last.kind == "pivot" and last.clock is not None and c.has("way", "with")
        if body and along and last is not None and not refs:
            self._add(c, "torso", clock=last.clock).together = True
            return True
        if turns and not body and not refs and c.has("way", "behind"):
            self._turning = c.sentence
            self._add(c, "torso", way="behind", foot=sided_of(c))
            return True
        feet = [r for r in refs if r.part != "knee"]
        if turns and not feet and not body and way and (self._topic is not None or (last is not None and last.foot)):
            feet = [self._topic or Ref("", "", "it", 0, c.span)]
        if feet and not (body and "face" in c.verbs):
            part = next((r.part for r in refs if r.part in ("ball",)), "")
            contact = c.first_of("contact")
            if contact is not None and contact.value in ("ball", "heel"):
                part = contact.value
            foot = next((r for r in feet if r.side or r.which), feet[0])
            if not way and clock is None and compass is None:
                way = next(
                    (w for v in c.said if v.kind == "verb" for begun, w in _OPENS.items() if v.low.startswith(begun)),
                    "",
                )
            if c.has("amount", "far"):
                way = way or "in"
            if self._topic is not None and foot.part == "it" and not foot.side:
                foot, self._topic = self._topic, None
            again = last is not None and last.kind == "pivot" and foot.part == "it" and way in ("", last.way)
            if again and last is not None and last.clause is not None and last.clause.sentence == c.sentence:
                last.amount = "far" if c.has("amount", "far") else last.amount
                last.clock = clock if clock is not None else last.clock
                last.degrees = degrees.number if degrees else last.degrees
                last.spans.append(c.span)
                return True
            self._add(
                c, "pivot", foot=foot, clock=clock, compass=compass.value if compass else "",
                degrees=degrees.number if degrees else None, way=way or leftright_of(c, foot),
                amount="far" if c.has("amount", "far") else "", part=part, stated=stated,
            )  # fmt: skip
            if not body:
                return True
            clock = None if clock is not None and degrees is None and not c.has("link", "to") else clock
        if body or (turns and not feet):
            aimless = clock is None and degrees is None and compass is None and not c.has("side")
            if aimless and not c.has("way", "corner"):
                return bool(feet)
            self._turning = c.sentence
            side = next((each.value for each in reversed(c.all_of("side")) if each.value in ("left", "right")), "")
            if c.has("way", "corner") and not side:
                side = "corner"
            self._add(
                c, "torso", clock=clock, degrees=degrees.number if degrees else None, way=side,
                compass=compass.value if compass else "", amount="little" if c.has("amount", "little") else "",
            )  # fmt: skip
        return True

    def _lifts(self, c: Clause) -> bool:
        up = c.has("way", "up")
        if "rise" in c.verbs and any(r.part in ("toes", "heel", "knee") for r in c.refs):
            up = True
        if not ("lift" in c.verbs or up) or "step" in c.verbs or "shift" in c.verbs or c.has("way", "beside"):
            return False
        if c.has("way", "half"):
            return False
        refs = c.refs
        knee = next((r for r in refs if r.part == "knee"), None)
        if self._topic is not None and self._topic.part and refs and refs[0].part == "it":
            refs = [self._topic]  # "the toes are free, they lift"
            self._topic = None
        foot = next((r for r in refs if r.side or r.which), knee or (refs[0] if refs else None))
        if knee is not None:
            self._add(c, "lift", foot=knee, part="knee")
            return True
        part = next((r.part for r in refs if r.part in ("toes", "ball", "heel")), "")
        if c.has("contact", "ball"):
            part = "heel"
        if c.has("contact", "heel"):
            part = "toes"
        if part == "" and any(r.part == "sole" for r in refs):
            foot = next((r for r in refs if r.side), None)
        if part in ("toes", "ball"):
            self._add(c, "land", foot=foot, contact="heel")
        elif part == "heel":
            self._add(c, "land", foot=foot, contact="ball")
        elif foot is not None or refs:
            self._add(c, "lift", foot=foot)
        else:
            return False
        return True

    def _steps(self, c: Clause) -> bool:
        verbs = [v for v in c.verbs if v in STEPS] or (["step"] if self._opens(c) else [])
        if not verbs and ("lower" in c.verbs or "touch" in c.verbs) and c.has("way", "beside"):
            verbs = ["put"]
        if not verbs and "lift" in c.verbs and (c.has("way", "beside") or c.has("way", "half")):
            verbs = ["bring"]  # "comes up next to the other"
        refs = [r for r in c.refs if r.part in ("foot", "heel", "toes", "ball", "") and (r.side or r.part or r.which)]
        if c.has("part", "weight") and ("step" not in c.verbs or self._weight_goes(c)):
            return False
        clock, share = clock_of(c), share_of(c)
        if "put" in verbs and share is not None and clock is None:
            return False
        way = way_of(c)
        (length, width), stance = sizes_of(c), c.first_of("stance")
        sided = sided_of(c)
        last = self.acts[-1] if self.acts else None
        named = [each.value for each in c.said if each.kind == "side"]
        if "bring" in verbs and clock is None and len(named) == 2 and named[0] != named[1] and c.has("link", "to"):
            way = "beside" if way in ("", "back", "in") else way
        unsaid = verbs == ["bring"] and not way and clock is None and not (length or width) and not c.has("way")
        if unsaid and not c.has("amount", "width"):
            way = "beside"
        if way == "beside" and not unsaid:  # what it comes next to is not what moves
            at = next(
                (n for n, each in enumerate(c.said) if each.kind == "way" and each.value == "beside"),
                max(n for n, each in enumerate(c.said) if each.kind == "link") if c.has("link") else 0,
            )
            moved = [r for r in refs if r.at < at]
            refs, sided = moved, (sided if any(e.kind == "side" for e in c.said[:at]) else None)
        if not verbs:
            bare = (
                refs
                and not c.has("amount", "all")
                and not any(v in WEIGHTS or v in ("lower", "touch", "bend") for v in c.verbs)
            )
            goes = clock is not None or way in ("forward", "back", "half", "beside", "closer", "out")
            if not (bare and goes) and (way != "beside" or refs or c.verbs):
                return False
        gapped = (  # "the right foot points to twelve and the left foot to ten thirty"
            last is not None
            and last.kind == "pivot"
            and c.link == "and"
            and not contact_of(c)
            and self._is_here(c, last)
        )
        whence = not verbs and any(each.low in _FROM for each in c.said) and bool(c.all_of("clock"))
        if (self._turning == c.sentence or gapped or whence) and not verbs and clock is not None and refs:
            pivot = self._add(c, "pivot", foot=refs[0], clock=c.all_of("clock")[-1].number if whence else clock)
            pivot.stated = gapped and last is not None and last.stated
            return True
        foot = foot_of(c, refs) or (refs[0] if refs else sided) or self._topic
        if foot is not None and len(refs) > 1 and way in ("beside",):
            foot = next((r for r in refs if r.side), foot)
        if (
            not verbs
            and not any(r.side for r in refs)
            and (length or width)
            and last is not None
            and last.kind == "step"
        ):
            return False
        words = [each.low for each in c.said if each.kind == "verb" and each.value == "bring"]
        if way in ("forward", "back") and words and words[0].startswith(("move", "muev", "mov")) and foot is None:
            self._add(c, "shift", way=way)  # "move forward until": no foot is said to
            return True
        bare_put = "put" in verbs and clock is None and way in ("", "down") and not (length or width)
        if bare_put and contact_of(c) == "flat":
            self._add(c, "land", foot=foot, contact="flat")
            return True
        if bare_put and self._put_on(c) and not contact_of(c) and c.has("way", "down") and foot is not None:
            self._add(c, "land", foot=foot, contact=self._put_on(c), part="set")
            return True
        comes = last is not None and last.kind == "step" and last.way in ("in", "out", "") and last.clock is None
        if not verbs and way == "beside" and foot is None and comes and last is not None and self._is_here(c, last):
            last.way = "beside"
            last.contact = last.contact or contact_of(c)
            last.spans.append(c.span)
            return True
        lower: list[Span] = []
        lowered = last is not None and last.kind == "land" and last.clause is not None and "lower" in last.clause.verbs
        same = foot is None or not foot.side or (last is not None and is_same(foot, last.foot))
        if lowered and last is not None and same and self._is_here(c, last) and "put" in verbs:
            foot, lower = last.foot, self.acts.pop().spans
        if c.has("way", "there") and "put" in verbs:
            self._add(c, "land", foot=foot, contact="flat")
            return True
        if way == "down" or ("put" in verbs and c.has("way", "down") and clock is None and way == ""):
            way = "forward" if c.has("way", "forward") else way
        same = (
            last is not None and last.kind == "step" and last.clause is not None and last.clause.sentence == c.sentence
        )
        if same and last is not None and (foot is None or foot.part == "it" or is_same(foot, last.foot)):
            bare_put = "put" in verbs and clock is None and way in ("", "down") and not (length or width)
            onward = last.clock is None and not last.contact and bool(verbs)
            onward = onward and (
                (last.way in ("around", "in", "close") and "step" in verbs) or last.way in ("", "with")
            )
            if bare_put or (onward and (clock is not None or way)):
                last.contact = last.contact or contact_of(c)
                if onward:
                    last.clock, last.way = clock, way if way != "out" else ""
                    last.length, last.width = last.length or length, last.width or width
                last.spans.append(c.span)
                return True
        if last is not None and last.awaited and last.kind == "step" and (foot is None or is_same(foot, last.foot)):
            last.clock, last.way, last.awaited = clock, way or last.way, False
            last.contact = last.contact or contact_of(c)
            last.spans.append(c.span)
            return True
        toe = None
        if clock is not None and any(r.part == "toes" for r in refs) and len(c.all_of("clock")) > 1:
            toe = c.all_of("clock")[-1].number
        act = self._add(
            c, "step", foot=foot, clock=clock, way=way, contact=contact_of(c) or self._put_on(c), toe=toe,
            length=length, width=width, stance=stance.value if stance else "",
            amount="width" if c.has("amount", "width") else "wide" if c.has("amount", "wide") else "",
        )  # fmt: skip
        act.unread = unsaid
        act.spans = [*lower, c.span] if lower else []
        if share is not None:
            self._add(c, "shift", share=share)
        return True

    def _put_on(self, c: Clause) -> str:
        """The part that is put down, where it is the only one that is named."""
        parts = [r.part for r in c.refs if r.part in ("heel", "ball", "toes")]
        if not ("put" in c.verbs or "touch" in c.verbs or not c.verbs) or len(parts) != 1:
            return ""
        return {"toes": "ball"}.get(parts[0], parts[0])

    def _lands(self, c: Clause) -> bool:
        if self.last is not None and self.last.kind == "kick" and not c.verbs and self._is_here(c, self.last):
            return False
        contact = contact_of(c)
        refs = [r for r in c.refs if r.part in ("foot", "heel", "ball", "toes", "it", "sole", "")]
        last = self.acts[-1] if self.acts else None
        if "lower" in c.verbs or c.has("way", "down") or (contact == "flat" and not self._open_step()):
            if last is not None and last.kind == "step" and contact and not last.contact and "lower" not in c.verbs:
                return False
            if c.has("way", "forward") or c.has("way", "half"):
                self._add(c, "step", foot=refs[0] if refs else None, way="forward", contact=contact)
            else:
                self._add(c, "land", foot=next((r for r in refs if r.side or r.which), None), contact=contact or "flat")
            return True
        ref = next((r for r in refs if r.side or r.which), None)
        if ("touch" in c.verbs or contact) and ref is not None and not self._open_step():
            self._add(c, "land", foot=ref, contact=contact or {"toes": "ball"}.get(ref.part, ref.part) or "ball")
            return True
        if "put" in c.verbs and refs and last is not None:
            self._add(c, "step", foot=refs[0], contact=contact)
            return True
        if ref is not None and ref.part == "heel" and not c.verbs:  # "and the right heel"
            self._add(c, "step", foot=ref, contact="heel")
            return True
        return False

    def _open_step(self) -> bool:
        last = self.acts[-1] if self.acts else None
        return last is not None and last.kind == "step" and not last.contact

    # What fills an act that is there.
