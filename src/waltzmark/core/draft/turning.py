"""Clauses that turn a foot or the body."""

from __future__ import annotations

from itertools import pairwise

from waltzmark.core.draft.asked import (
    clock_of,
    does,
    goes_round,
    inout_of,
    is_same,
    is_swung,
    leftright_of,
    sided_of,
    sizes_of,
    whither,
    width_of,
)
from waltzmark.core.draft.bothfeet import BothFeet
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.lexicon import Said
from waltzmark.core.draft.reader import STEPS, TURNS

__all__ = ["Turning"]

#: How words begin for what a foot lands on.
_LANDS = ("apoyando", "landing", "touching")
#: Beginnings of verbs that say which way a foot turns.
_OPENS = {"open": "out", "abr": "out", "clos": "in", "cierr": "in", "cerr": "in"}
#: Beginnings of verbs that slide a heel where its toes stay.
_SLIDES = ("slide", "push", "swing", "desliz", "empuj")
#: Verbs that also say what is so.
_STATED = frozenset({"points", "faces", "apunta", "mira"})


def feet_of(refs: list[Ref]) -> list[Ref]:
    """Those that name a foot, and not only a part of one."""
    return [r for r in refs if r.side or r.which or r.part == "foot"]


#: Words for a part of both feet.
_BOTH = frozenset({"heels", "feet", "both feet", "both heels", "talones", "pies", "ambos pies", "los dos pies"})


def _bare_degrees(c: Clause) -> Said | None:
    """Degrees that are a number alone: "the left out forty five"."""
    return next((each for each in c.all_of("number") if 12 < (each.number or 0.0) <= 270), None)


def _on_side(c: Clause) -> Ref | None:
    """The heel or the ball that something turns on, where its side comes after it: "gira sobre el talón izquierdo"."""
    for one, other in pairwise(c.said):
        if one.kind == "contact" and one.value in ("heel", "ball") and other.value in ("left", "right"):
            return Ref(other.value, "", one.value, c.said.index(other), (one.span[0], other.span[1]))
    return None


def _do_toes(c: Clause) -> bool:
    """Whether it is toes that do something: "la punta se cierra"."""
    verb = c.first_of("verb")
    return verb is not None and any(r.part == "toes" and r.span[0] < verb.span[0] for r in c.refs)


def _part_of_a_turn(c: Clause) -> Said | None:
    """How far "a quarter turn" or "a half turn" is, in degrees."""
    half = c.first_of("part_of", "half")
    if half is not None:
        return half._replace(kind="degrees", number=180.0)
    share = c.first_of("percent", "quarter")
    if share is None or share.number is None or c.has("part", "weight"):
        return None
    return share._replace(kind="degrees", number=3.6 * share.number)


def _is_little(c: Clause) -> bool:
    """Whether something turns by a little: "in a little" says both."""
    return c.has("amount", "little") or any(each.low.endswith(" little") for each in c.all_of("way"))


def _do_toes_look(c: Clause) -> bool:
    """Whether toes or feet look somewhere, as eyes do: where they point."""
    looks = any(r.part in ("toes", "foot", "heel") for r in c.refs) or c.has("part", "body")
    return "look" in c.verbs and looks and not c.has("part", "eyes")


def _do_toes_come(c: Clause) -> bool:
    """Whether toes come in or go out, where their foot stands: "the right toes swing in"."""
    first = next((each for each in c.said if each.kind == "part"), None)
    moves = [each for each in c.all_of("verb") if each.value == "bring"]
    comes = bool(moves) and (moves[0].low.split()[-1] in ("in", "out") or bool(inout_of(c)))
    return comes and first is not None and first.value == "toes" and first.span < moves[0].span and not c.has("contact")


def _begins_with_side(c: Clause) -> bool:
    """Whether a side is what turns, and not where to: "R pivots on the heel"."""
    said = [each for each in c.said if each.kind != "ordinary"]
    return len(said) > 1 and said[0].kind == "side" and said[1].kind == "verb" and said[1].low.endswith("s")


class Turning(BothFeet):
    """Reads turns of feet and body."""

    def _slides(self, c: Clause) -> bool:
        """The heel of a foot that stands goes out: its toes turn in, on the ball."""
        heel = next((r for r in c.refs if r.part == "heel"), None)
        way, moves = inout_of(c), [v for v in c.verbs if v in ("bring", "put", "turn", "step")]
        last = self.last
        said = [each for each in c.all_of("verb") if each.low.split()[-1] in ("in", "out")]
        if heel is not None and not way and said and said[0].span > heel.span:
            way = said[0].low.split()[-1]  # "the heel moves out"
        turning = last is not None and last.kind == "pivot" and self._is_here(c, last)
        aimless = turning and last is not None and not last.way and last.clock is None and not last.degrees
        if aimless and last is not None and heel is not None and way and moves and not heel.side and not heel.which:
            last.way, last.part = way, "slide"
            last.spans.append(c.span)
            return True
        pushed = any(each.low.startswith(_SLIDES) for each in c.said if each.kind == "verb") and heel is not None
        if pushed and heel is not None and not way and c.has("way", "back", "around") and not c.has("contact"):
            self._add(c, "pivot", foot=heel, part="ball")
            return True
        moving = bool(moves) or pushed or (not c.verbs and heel is not None and bool(heel.side or heel.which))
        if heel is None or not way or not moving or c.has("contact") or clock_of(c) is not None:
            return False
        degrees = c.first_of("degrees") or _bare_degrees(c)
        self._add(c, "pivot", foot=heel, way=way, part="slide", degrees=degrees.number if degrees else None)
        return True

    def _opens(self, c: Clause) -> bool:
        """Whether a foot "opens" as a step: to the side, by a shoulder's width, "with a step to nine"."""
        opened = does(c, "open", "abre", "abri")
        foot = next((r.side for r in c.refs if r.side and r.part), None)
        aside = c.has("way", "side") or (foot is not None and foot == whither(c))
        lands = any(each.low.startswith(_LANDS) for each in c.all_of("contact"))  # "abre el pie apoyando el talón"
        return opened and (aside or lands or bool(width_of(c)) or any(sizes_of(c)) or "step" in c.verbs)

    def _turns(self, c: Clause) -> bool:
        if self._returns(c) or self._pair(c) or self._both(c) or self._follows(c):
            return True
        if "lean" in c.verbs:
            return False
        closed = does(c, "cierr", "cerr") and (c.has("degrees") or _do_toes(c))
        turns = closed or any(verb in TURNS for verb in c.verbs) or _do_toes_look(c) or _do_toes_come(c)
        short = not c.verbs and bool(inout_of(c)) and not c.has("part", "body", "weight")
        of_feet = short or any(each.value in ("turnin", "turnout") for each in c.all_of("verb"))  # "hook the left"
        of_feet = of_feet or closed or _begins_with_side(c)
        if turns and (self._opens(c) or is_swung(c) or ("put" in c.verbs and goes_round(self.last))):
            return False
        if "face" in c.verbs and c.has("stance", "bow", "low") and any(verb in STEPS for verb in c.verbs):
            return False  # "step into a bow stance facing three": where the stance faces
        body, refs = (
            c.has("part", "body"),
            [r for r in c.refs if r.part in ("foot", "toes", "heel", "ball", "it", "knee") or (not r.part and of_feet)],
        )
        bare_out = [each.kind for each in c.said] in (["way", "number"], ["way", "degrees"]) and _bare_degrees(c)
        if self.last is not None and self.last.kind in ("land", "lift", "shift", "pivot") and bare_out and inout_of(c):
            foot = self.last.foot if self.last.kind != "shift" else None  # "toe up; out forty five"
            foot = foot or Ref("", "empty", "foot", 0, c.span)
            self._add(c, "pivot", foot=foot, way=inout_of(c), degrees=bare_out.number)
            return True
        if not refs and turns and not body and (on := _on_side(c)) is not None:
            refs = [on]
        if self._body == c.sentence and refs and all(r.part == "it" for r in refs):
            body, refs, self._body = True, [], -1  # "the waist leads: it turns to three"
        clock, degrees = clock_of(c), c.first_of("degrees")
        if degrees is None and clock is None:
            degrees = _bare_degrees(c)
        parted = degrees is None and clock is None and turns and _part_of_a_turn(c)
        if parted:
            degrees = parted
        way = inout_of(c)
        if not way and _do_toes_come(c):
            way = c.all_of("verb")[0].low.rpartition(" ")[2]
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
            and not (body and not c.verbs and (c.has("side") or c.has("way", "corner", "with", "forward")))
        ):
            return False
        if body and clock is None and not degrees and c.has("way", "forward") and set(c.verbs) <= {"face"} and not refs:
            self._add(c, "torso", way="square")  # "the hips face forward"
            return True
        last = self.acts[-1] if self.acts else None
        how = c.first_of("contact", "heel", "ball")
        bare = turns and not feet_of(refs) and not body and clock is None and not degrees and not way
        if bare and how is not None and last is not None and last.kind == "pivot" and self._is_here(c, last):
            last.part = "ball" if how.value == "ball" else last.part  # "…, pivoting on the heel"
            last.spans.append(c.span)
            return True
        same = turns and not feet_of(refs) and not body and clock is not None and last is not None
        same = same and last is not None and last.kind == "pivot" and last.clock is None and not last.degrees
        if same and last is not None and how is not None and self._is_here(c, last):
            last.clock, last.way, last.amount, last.part = clock, "", "", how.value
            last.spans.append(c.span)  # "adjust it a bit, pivot on the heel to …"
            return True
        slid = last is not None and last.kind == "pivot" and last.part == "slide" and last.clock is None
        slid = slid and clock is not None and c.link == "," and not body
        if slid and last is not None and refs and is_same(refs[0], last.foot) and self._is_here(c, last):
            last.clock = clock  # "heel out, toes to twelve"
            last.spans.append(c.span)
            return True
        toes = [r for r in refs if r.part == "toes" and not r.side]
        if toes and clock is None and not way and last is not None and last.kind == "kick" and self._is_here(c, last):
            last.part = "toe"  # "the toes pointed"
            last.spans.append(c.span)
            return True
        forward = turns and c.link == "until" and c.has("way", "forward") and clock is None and not degrees and not body
        aimless = last is not None and last.kind == "pivot" and last.clock is None and not last.degrees
        if forward and aimless and refs and last is not None and (not refs[0].side or is_same(refs[0], last.foot)):
            last.way, last.part = "ahead", {"slide": "ball"}.get(last.part, last.part)
            last.spans.append(c.span)  # "so the toes point forward"
            return True
        straight = turns and bool(toes) and clock is None and not degrees and c.has("way", "forward")
        if straight and last is not None and last.kind == "step" and c.link == ",":
            last.toes = "straight"
            last.spans.append(c.span)
            return True
        if toes and not body and last is not None and (clock is not None or way):
            step = last if last.kind == "step" else None
            if step is not None and (clock is not None or c.link == ","):
                if clock is not None:
                    step.toe = clock
                elif way in ("in", "out"):
                    step.toes, step.degrees = way, degrees.number if degrees else None
                step.spans.append(c.span)
                return True
            if last.kind == "pivot" and c.link == "until":
                last.clock, last.way = clock, ""
                last.spans.append(c.span)
                return True
        itself = all(not r.side or is_same(r, last.foot if last is not None else None) for r in refs)
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
        if turns and not refs and c.has("way", "behind"):
            self._turning = c.sentence
            self._add(c, "torso", way="behind", foot=sided_of(c))
            return True
        feet = [r for r in refs if r.part != "knee"]
        ahead = way or c.has("way", "forward") or (self._topic is not None and (clock is not None or degrees))
        if turns and not feet and not body and ahead and (self._topic is not None or (last is not None and last.foot)):
            feet = [self._topic or Ref("", "", "it", 0, c.span)]
        if feet and not (body and "face" in c.verbs):
            part = next((r.part for r in refs if r.part in ("ball",)), "")
            contact = c.first_of("contact")
            if contact is not None and contact.value in ("ball", "heel"):
                part = contact.value
            foot = next((r for r in feet if r.side or r.which), feet[0])
            if not way and clock is None:
                way = next(
                    (w for v in c.said if v.kind == "verb" for begun, w in _OPENS.items() if v.low.startswith(begun)),
                    "",
                )
            if c.has("amount", "far") or (closed and clock is None):
                way = way or "in"
            if not way and clock is None and not degrees and c.has("way", "forward"):
                way = "ahead"
            if self._topic is not None and foot.part == "it" and not foot.side:
                foot = self._topic
            aimless = last is not None and not last.way and last.clock is None and not last.degrees
            itself = foot.part == "it" or (not foot.side and not foot.which)
            again = last is not None and last.kind == "pivot" and itself
            again = again and last is not None and ((aimless and c.link == ",") or way in ("", last.way))
            if again and last is not None and last.clause is not None and last.clause.sentence == c.sentence:
                last.amount = "far" if c.has("amount", "far") else last.amount
                last.clock = clock if clock is not None else last.clock
                last.way, last.part = last.way or way, last.part or part
                last.degrees = degrees.number if degrees else last.degrees
                last.spans.append(c.span)
                return True
            pivot = self._add(
                c, "pivot", foot=foot, clock=clock,
                degrees=degrees.number if degrees else None, way=way or leftright_of(c, foot),
                amount="far" if c.has("amount", "far") else "little" if _is_little(c) else "",
                part=part, stated=stated,
            )  # fmt: skip
            # On both heels, or by half a turn, a body goes round as well: how is not said.
            pivot.unread = bool(parted) or (not foot.side and any(each.low in _BOTH for each in c.said))
            if not body:
                return True
            clock = None if clock is not None and degrees is None and not c.has("link", "to") else clock
        if body or (turns and not feet):
            aimless = clock is None and degrees is None and not c.has("side")
            if aimless and not c.has("way", "corner"):
                if body and turns and not feet and not c.has("link", "is"):
                    little = "little" if _is_little(c) else ""
                    self._add(
                        c, "torso", amount=little, unread=True
                    )  # which way may be told next: "…, a little, to the right"
                    return True
                return bool(feet)
            self._turning = c.sentence
            side = next((each.value for each in reversed(c.all_of("side")) if each.value in ("left", "right")), "")
            if c.has("way", "corner") and not side:
                side = "corner"
            self._add(
                c, "torso", clock=clock, degrees=degrees.number if degrees else None, way=side,
                amount="little" if c.has("amount", "little") else "",
                stated=stated or (body and not feet and c.said[verb].low in _STATED),
            )  # fmt: skip
            if any(each.value == "with" and each.low.endswith("foot") for each in c.all_of("way")):
                self._add(c, "pivot", foot=Ref("", "", "it", 0, c.span), amount="with")  # "together with the foot"
        return True
