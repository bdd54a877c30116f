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
    way_of,
)
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.reader import STEPS, TURNS, WEIGHTS, Reader

__all__ = ["Moving"]


class Moving(Reader):
    """Reads what feet do."""

    def _crosses(self, c: Clause) -> bool:
        if "cross" not in c.verbs:
            return False
        self._add(c, "step", foot=foot_of(c), way="cross", contact=contact_of(c))
        return True

    def _slides(self, c: Clause) -> bool:
        """The heel of a foot that stands goes out: its toes turn in, on the ball."""
        heel = next((r for r in c.refs if r.part == "heel"), None)
        way, moves = inout_of(c), [v for v in c.verbs if v in ("bring", "put", "turn", "step")]
        if heel is None or not way or not moves or c.has("contact") or clock_of(c) is not None:
            return False
        degrees = c.first_of("degrees")
        self._add(c, "pivot", foot=heel, way=way, part="slide", degrees=degrees.number if degrees else None)
        return True

    def _turns(self, c: Clause) -> bool:
        turns = any(verb in TURNS for verb in c.verbs)
        body, refs = (
            c.has("part", "body"),
            [r for r in c.refs if r.part in ("foot", "toes", "heel", "ball", "it", "knee")],
        )
        clock, degrees = clock_of(c), c.first_of("degrees")
        compass = c.first_of("compass")
        way = inout_of(c)
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
                amount="far" if c.has("amount", "far") else "", part=part,
            )  # fmt: skip
            if not body:
                return True
            clock = None if clock is not None and degrees is None and not c.has("link", "to") else clock
        if body or (turns and not feet):
            if (
                clock is None
                and degrees is None
                and compass is None
                and not c.has("side")
                and not c.has("way", "corner")
            ):
                return bool(feet)
            self._turning = c.sentence
            side = next((each.value for each in reversed(c.all_of("side")) if each.value in ("left", "right")), "")
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
        verbs = [v for v in c.verbs if v in STEPS]
        refs = [r for r in c.refs if r.part in ("foot", "heel", "toes", "ball", "") and (r.side or r.part or r.which)]
        if c.has("part", "weight") and "step" not in c.verbs:
            return False
        clock, share = clock_of(c), share_of(c)
        if "put" in verbs and share is not None and clock is None:
            return False
        way = way_of(c)
        size, stance = c.first_of("size"), c.first_of("stance")
        sided = sided_of(c)
        last = self.acts[-1] if self.acts else None
        if way == "beside":  # what it comes next to is not what moves
            at = next(n for n, each in enumerate(c.said) if each.kind == "way" and each.value == "beside")
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
        if self._turning == c.sentence and not verbs and clock is not None and refs:
            self._add(c, "pivot", foot=refs[0], clock=clock)
            return True
        foot = next((r for r in refs if r.side or r.which), None) or (refs[0] if refs else sided)
        if foot is not None and len(refs) > 1 and way in ("beside",):
            foot = next((r for r in refs if r.side), foot)
        if c.has("way", "there") and "put" in verbs:
            self._add(c, "land", foot=foot, contact="flat")
            return True
        if way == "down" or ("put" in verbs and c.has("way", "down") and clock is None and way == ""):
            way = "forward" if c.has("way", "forward") else way
        same = (
            last is not None and last.kind == "step" and last.clause is not None and last.clause.sentence == c.sentence
        )
        if same and last is not None and (foot is None or foot.part == "it" or is_same(foot, last.foot)):
            bare_put = "put" in verbs and clock is None and way in ("", "down") and size is None
            onward = (
                last.way in ("around", "in", "close") and last.clock is None and not last.contact and "step" in verbs
            )
            if bare_put or (onward and (clock is not None or way)):
                last.contact = last.contact or contact_of(c)
                if onward:
                    last.clock, last.way = clock, way if way != "out" else ""
                last.spans.append(c.span)
                return True
        toe = None
        if clock is not None and any(r.part == "toes" for r in refs) and len(c.all_of("clock")) > 1:
            toe = c.all_of("clock")[-1].number
        act = self._add(
            c, "step", foot=foot, clock=clock, way=way, contact=contact_of(c), toe=toe,
            size=(size.number or 0.0, size.other or 0.0) if size else None, stance=stance.value if stance else "",
            amount="width" if c.has("amount", "width") else "wide" if c.has("amount", "wide") else "",
        )  # fmt: skip
        fl = c.first_of("fl")
        if fl is not None:
            act.size = (fl.number or 1.0, -1.0)
        if share is not None:
            self._add(c, "shift", share=share)
        return True

    def _lands(self, c: Clause) -> bool:
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
