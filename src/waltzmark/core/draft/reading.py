"""From clauses to acts: a slot filler. A clause opens an act, or fills what the act before left unsaid."""

from __future__ import annotations

from collections.abc import Sequence

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import Clause, Ref

__all__ = ["Read", "acts_of"]

#: Verbs that move a foot to a place, and those that turn.
_STEPS = frozenset({"step", "bring", "put", "cross"})
_TURNS = frozenset({"turn", "face"})
_WEIGHTS = frozenset({"shift", "sit", "empty"})


class Read:
    """The acts of a text, and the spans of what was said that is no act."""

    def __init__(self) -> None:
        self.acts: list[Act] = []
        self.idle: list[tuple[tuple[int, int], str]] = []
        self._past = -1  # the sentence that speaks of another time
        self._turning = -1  # the sentence that begins with turning somewhere

    def take(self, clause: Clause) -> None:
        """Reads one more clause."""
        if clause.sentence == self._past or clause.has("link", "past"):
            self._past = clause.sentence
            self.idle.append((clause.span, "not an act"))
            return
        if clause.has("link", "not") and not (clause.has("way") and clause.verbs and "keep" in clause.verbs):
            rest = [each for each in clause.said if not (each.kind == "link" and each.value == "not")]
            if "turn" in clause.verbs and clause.has("part", "body"):
                clause = clause._replace(said=tuple(rest))
            else:
                self.idle.append((clause.span, "not an act"))
                return
        before = len(self.acts)
        if not self._read(clause) and not self._fill(clause):
            meant = [each for each in clause.said if each.kind not in ("ordinary", "link", "unknown")]
            why = "unread" if meant or sum(each.kind == "unknown" for each in clause.said) > 1 else "idle"
            self.idle.append((clause.span, why))
            if why == "unread" and self.acts:
                self.acts[-1].unread = True
        for act in self.acts[before:]:
            act.spans = act.spans or [clause.span]
            act.clause = clause
            act.mended = any(each.mended for each in clause.said)
            act.until = clause.link == "until"

    # One method a kind; the first that knows the clause takes it.

    def _read(self, c: Clause) -> bool:
        readers = (
            self._repeats, self._kicks, self._hands, self._breath, self._holds, self._truth, self._crosses, self._turns,
            self._lifts, self._empties, self._steps, self._weights, self._sinks, self._leans, self._lands,
        )  # fmt: skip
        return any(reader(c) for reader in readers)

    def _add(self, c: Clause, kind: str, **slots: object) -> Act:
        act = Act(kind, together=c.together, **slots)  # type: ignore[arg-type]
        self.acts.append(act)
        return act

    def _repeats(self, c: Clause) -> bool:
        times = c.first_of("times")
        if "repeat" not in c.verbs and times is None:
            return False
        if c.has("side", "other") or (c.verbs == ["repeat"] and c.has("side", "left", "right")):
            self._add(c, "mirror")
        elif times is not None or len(c.verbs) == 1:
            self._add(c, "repeat", times=times.number if times is not None else None)
        else:
            return False
        return True

    def _kicks(self, c: Clause) -> bool:
        if "kick" not in c.verbs:
            return False
        foot = _foot(c)
        height, clock = c.first_of("height"), _clock(c)
        part = next((ref.part for ref in c.refs if ref.part in ("heel", "toes", "sole")), "")
        self._add(
            c, "kick", foot=foot, clock=clock, part={"toes": "toe"}.get(part, part), height=height.value if height else "",
            way="corner" if c.has("way", "corner") else "",
        )  # fmt: skip
        return True

    def _hands(self, c: Clause) -> bool:
        if c.has("part", "hand"):
            side, height = c.first_of("side"), c.first_of("height")
            if side is None or height is None:
                return False
            self._add(
                c, "hand", foot=Ref(side.value, "", "hand", 0, side.span), height=height.value,
                clock=_clock(c), part="push" if "push" in c.verbs else "",
            )  # fmt: skip
            return True
        if ("look" in c.verbs or c.has("part", "eyes")) and (_clock(c) is not None):
            self._add(c, "gaze", clock=_clock(c))
            return True
        return False

    def _breath(self, c: Clause) -> bool:
        verb = c.first_of("verb", "breathe")
        if verb is None:
            return False
        self._add(c, "breathe", way="out" if any(w in verb.low for w in ("out", "exhal")) else "in")
        return True

    def _holds(self, c: Clause) -> bool:
        beats = c.first_of("beats")
        if beats is None or ("hold" not in c.verbs and len(c.verbs) > 0):
            return False
        self._add(c, "hold", times=beats.number)
        return True

    def _truth(self, c: Clause) -> bool:
        """What is said to be so is expected, and moves nothing."""
        if not c.has("link", "is") or any(
            v in c.verbs for v in ("shift", "step", "turn", "lift", "bring", "put", "sit")
        ):
            return False
        made = False
        clock = _clock(c)
        refs = c.refs
        share = _share(c)
        if c.has("part", "weight") or share is not None or c.has("amount", "none"):
            ref = next((each for each in refs if each.side or each.which), None)
            if c.has("amount", "most"):
                share = 70.0
            if c.has("amount", "none"):
                share = 0.0
            self._add(c, "expect", foot=ref, share=100.0 if share is None else share)
            made = True
        if clock is not None:
            ref = next((each for each in refs if each.part in ("toes", "foot") and each.side), None)
            self._add(c, "expect", foot=ref, clock=clock, way="toe" if ref is not None else "torso")
            made = True
        contact = _contact(c) or next((r.part for r in refs if r.part in ("heel", "ball")), "")
        if contact and ("touch" in c.verbs or c.has("contact")):
            ref = next((each for each in refs if each.side), None)
            self._add(c, "expect", foot=ref, contact=contact)
            made = True
        return made

    def _crosses(self, c: Clause) -> bool:
        if "cross" not in c.verbs:
            return False
        self._add(c, "step", foot=_foot(c), way="cross", contact=_contact(c))
        return True

    def _turns(self, c: Clause) -> bool:
        turns = any(verb in _TURNS for verb in c.verbs)
        body, refs = (
            c.has("part", "body"),
            [r for r in c.refs if r.part in ("foot", "toes", "heel", "ball", "it", "knee")],
        )
        clock, degrees = _clock(c), c.first_of("degrees")
        compass = c.first_of("compass")
        way = _inout(c)
        if not turns and not (
            (refs and (way or clock is not None) and refs[0].part == "toes")
            or (body and (clock is not None or degrees))
        ):
            if not (refs and way and (degrees or c.has("amount", "far"))):
                return False
        if turns and not body and not refs and c.has("way", "behind"):
            self._turning = c.sentence
            self._add(c, "torso", way="behind", foot=_sided(c))
            return True
        feet = [r for r in refs if r.part != "knee"]
        if feet and not (body and "face" in c.verbs):
            part = next((r.part for r in refs if r.part in ("ball",)), "")
            contact = c.first_of("contact")
            if contact is not None and contact.value in ("ball", "heel"):
                part = contact.value
            foot = next((r for r in feet if r.side or r.which), feet[0])
            if c.has("amount", "far"):
                way = way or "in"
            self._add(
                c, "pivot", foot=foot, clock=clock, compass=compass.value if compass else "",
                degrees=degrees.number if degrees else None, way=way or _leftright(c, foot),
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
        if not ("lift" in c.verbs or up) or "step" in c.verbs:
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
        if part in ("toes", "ball"):
            self._add(c, "land", foot=foot, contact="heel")
        elif part == "heel":
            self._add(c, "land", foot=foot, contact="ball")
        elif foot is not None or refs:
            self._add(c, "lift", foot=foot)
        else:
            return False
        return True

    def _empties(self, c: Clause) -> bool:
        empties = "empty" in c.verbs or (c.has("amount", "none") and not any(v in _STEPS for v in c.verbs))
        ref = next((r for r in c.refs if r.side or r.which), None)
        if not empties or (ref is None and "empty" not in c.verbs):
            return False
        if self.acts and c.has("amount", "none") and self.acts[-1].kind == "shift" and self.acts[-1].share is None:
            return True  # said of the same pour: "weight left, right foot empty"
        self._add(c, "shift", foot=ref, share=0.0)
        return True

    def _steps(self, c: Clause) -> bool:
        verbs = [v for v in c.verbs if v in _STEPS]
        refs = [r for r in c.refs if r.part in ("foot", "heel", "toes", "ball", "") and (r.side or r.part)]
        if c.has("part", "weight") and "step" not in c.verbs:
            return False
        clock, share = _clock(c), _share(c)
        if "put" in verbs and share is not None and clock is None:
            return False
        way = _way(c)
        size, stance = c.first_of("size"), c.first_of("stance")
        sided = _sided(c)
        if not verbs:
            bare = refs and not any(v in _WEIGHTS or v in ("lower", "touch", "bend") for v in c.verbs)
            if not (bare and (clock is not None or way in ("forward", "back", "half", "beside", "closer", "out"))):
                if not (way == "beside" and not refs and not c.verbs):
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
        toe = None
        if clock is not None and any(r.part == "toes" for r in refs) and len(c.all_of("clock")) > 1:
            toe = c.all_of("clock")[-1].number
        act = self._add(
            c, "step", foot=foot, clock=clock, way=way, contact=_contact(c), toe=toe,
            size=(size.number or 0.0, size.other or 0.0) if size else None, stance=stance.value if stance else "",
            amount="width" if c.has("amount", "width") else "wide" if c.has("amount", "wide") else "",
        )  # fmt: skip
        fl = c.first_of("fl")
        if fl is not None:
            act.size = (fl.number or 1.0, -1.0)
        if share is not None:
            self._add(c, "shift", share=share)
        return True

    def _weights(self, c: Clause) -> bool:
        share = _share(c)
        verbs = [v for v in c.verbs if v in _WEIGHTS]
        weight = c.has("part", "weight")
        even = c.has("amount", "even")
        refs = [r for r in c.refs if r.side or r.which or r.part == "it"]
        if "put" in c.verbs and share is not None:
            weight = True
        if not (verbs or weight or share is not None or even):
            return False
        if "keep" in c.verbs and not even:
            self.idle.append((c.span, "idle"))
            return True
        if share is not None and not verbs and not weight and not refs and self.acts and self.acts[-1].kind == "shift":
            last = self.acts[-1]
            if c.link == "no" or last.share is None or last.share == share:
                last.share = share
                return True
        ref = refs[-1] if refs else _sided(c)
        if ref is not None and ref.part == "" and c.has("way", "back", "forward") and not ref.side:
            ref = None
        way = "back" if c.has("way", "back") or "sit" in verbs or any("back" in v.low for v in c.all_of("verb")) else ""
        if not way and (c.has("way", "forward") or any("forward" in v.low for v in c.all_of("verb"))):
            way = "forward"
        if c.link == "no" and self.acts and self.acts[-1].kind == "shift" and refs:
            self.acts[-1].foot, self.acts[-1].way = ref, way
            if share is not None:
                self.acts[-1].share = share
            return True
        if len(c.all_of("percent")) + len(c.all_of("number")) > 1 and len(refs) > 1:
            ref = refs[0]
        last = self.acts[-1] if self.acts else None
        if (
            last is not None
            and last.kind == "shift"
            and last.clause is not None
            and last.clause.sentence == c.sentence
            and (ref is None or _same(ref, last.foot))
            and (share is None or last.share is None)
            and not even
            and (verbs == [] or c.link in (",", "until"))
        ):
            last.share = last.share if share is None else share
            last.foot = last.foot or ref
            return True
        amount = "all" if c.has("amount", "all") else "even" if even else "most" if c.has("amount", "most") else ""
        self._add(c, "shift", foot=ref, share=50.0 if even else share, way=way, amount=amount)
        if c.has("contact", "ball", "heel") and len(refs) > 1:
            self._add(c, "land", foot=refs[-1], contact=_contact(c))
        return True

    def _sinks(self, c: Clause) -> bool:
        if "sink" in c.verbs or ("bend" in c.verbs and c.has("side", "both")):
            ref = next((r for r in c.refs if r.side), None)
            if ref is not None and c.has("link", "to"):
                self._add(c, "shift", foot=ref, amount="all")
            else:
                self._add(c, "sink", degrees=10.0)
            return True
        if "rise" in c.verbs:
            self._add(c, "sink", degrees=-10.0)
            return True
        if "bend" in c.verbs or (c.verbs == ["straighten"]):
            ref = next((r for r in c.refs if r.part in ("knee", "foot")), None)
            last = self.acts[-1] if self.acts else None
            if last is not None and last.kind in ("land", "shift") and last.clause is not None:
                if last.clause.sentence == c.sentence and last.kind == "land" and c.link in (",", "and"):
                    self._add(c, "shift", foot=last.foot, way="bend")
                    self.acts[-1].together = True
                    return True
            self._add(c, "shift", foot=ref if ref is not None and (ref.side or ref.which) else None, way="bend")
            return True
        return False

    def _leans(self, c: Clause) -> bool:
        if "lean" in c.verbs:
            self._add(c, "lean", degrees=10.0)
            return True
        if "upright" in c.verbs:
            self._add(c, "lean", degrees=0.0)
            return True
        return False

    def _lands(self, c: Clause) -> bool:
        contact = _contact(c)
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

    def _fill(self, c: Clause) -> bool:
        if not self.acts:
            return False
        last, contact, clock = self.acts[-1], _contact(c), _clock(c)
        toes = any(r.part == "toes" for r in c.refs)
        bare = [r.part for r in c.refs if not r.side and r.part in ("heel", "ball")]
        contact = contact or (bare[0] if bare else "")
        step = next((act for act in reversed(self.acts) if act.kind == "step"), None)
        done = False
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
        way = _way(c)
        if way and last.kind == "step" and not last.way and not c.verbs:
            last.way, done = way, True
        size = c.first_of("size")
        if size is not None and step is not None:
            step.size, done = (size.number or 0.0, size.other or 0.0), True
        if last.kind == "pivot" and c.refs and _inout(c) and not c.verbs:  # "and the left in"
            self._add(c, "pivot", foot=c.refs[0], way=_inout(c))
            done = True
        if c.has("amount", "width") and step is not None:
            step.amount, done = "width", True
        if c.has("amount", "all", "far", "little", "even") and last.kind in ("shift", "pivot", "torso") and not done:
            if c.has("amount", "all") and last.kind == "shift":
                last.amount = "all"
            done = True
        if done:
            last.spans.append(c.span)
        return done


def acts_of(clauses: Sequence[Clause]) -> Read:
    """The acts of clauses, in order."""
    read = Read()
    for clause in clauses:
        read.take(clause)
    return read


def _foot(c: Clause) -> Ref | None:
    return next((r for r in c.refs if r.side or r.which), None)


def _sided(c: Clause) -> Ref | None:
    side = c.first_of("side", "left", "right")
    return None if side is None else Ref(side.value, "", "", 0, side.span)


def _clock(c: Clause) -> float | None:
    """The facing that is said: a clock, or a bare number of an hour after "to" or a foot."""
    clock = c.first_of("clock")
    if clock is not None:
        return clock.number
    for at, each in enumerate(c.said):
        if (
            each.kind == "number"
            and each.number in range(1, 13)
            and (at == 0 or c.said[at - 1].kind in ("link", "part", "way", "verb", "side", "ordinary", "stance"))
        ):
            if at + 1 < len(c.said) and c.said[at + 1].kind in ("part", "unit"):
                continue
            return (each.number or 0.0) % 12 * 60.0
    return None


def _share(c: Clause) -> float | None:
    percent = c.first_of("percent")
    if percent is not None:
        return percent.number
    if c.has("part_of", "half") and c.has("part", "weight"):
        return 50.0
    numbers = [each.number for each in c.all_of("number") if each.number is not None and each.number > 12]
    if numbers and not c.has("degrees") and numbers[0] <= 100:
        return numbers[0]
    return None


def _contact(c: Clause) -> str:
    found = c.first_of("contact")
    return found.value if found is not None else ""


def _inout(c: Clause) -> str:
    way = c.first_of("way", "in", "out")
    return way.value if way is not None else ""


def _leftright(c: Clause, foot: Ref) -> str:
    """A turn to the left or right of a foot that is another side's word."""
    sides = [each.value for each in c.all_of("side") if each.value in ("left", "right")]
    return sides[-1] if len(sides) > 1 else ""


def _way(c: Clause) -> str:
    for name in ("half", "beside", "corner", "behind", "side", "closer", "back", "forward", "around", "out", "in"):
        if c.has("way", name):
            return name
    return ""


def _same(one: Ref, other: Ref | None) -> bool:
    return other is None or (one.side == other.side and one.which == other.which) or one.part == "it"
