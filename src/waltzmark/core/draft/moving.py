"""Clauses that move a foot: it steps, turns, is lifted and set down."""

from __future__ import annotations

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import (
    clock_of,
    comes_from,
    contact_of,
    does,
    foot_of,
    goes_round,
    hours_of,
    is_same,
    is_swung,
    share_of,
    sided_of,
    sizes_of,
    toes_of,
    way_of,
    width_of,
)
from waltzmark.core.draft.clauses import Clause
from waltzmark.core.draft.landing import TOGETHER_WITH, Landing, is_floated
from waltzmark.core.draft.lexicon import Said
from waltzmark.core.draft.pieces import Span
from waltzmark.core.draft.reader import STEPS, WEIGHTS

__all__ = ["Moving"]

#: Words that pour the weight onto a leg.
_ONTO = frozenset({"onto", "into", "on to", "sobre"})
#: How a part begins that a foot stands on, and does not come down on.
_STANDS_ON = ("on ", "sobre ")
#: Words that speak of what was said.
_THAT = frozenset({"that's", "it's"})


def _is_of_weight(c: Clause) -> bool:
    """Whether what is moved is the weight: "advance your weight"."""
    said = [each for each in c.said if each.kind != "ordinary"]
    verb = next((at for at, each in enumerate(said) if each.kind == "verb"), len(said))
    return verb + 1 < len(said) and (said[verb + 1].kind, said[verb + 1].value) == ("part", "weight")


def _is_brought(act: Act) -> bool:
    """Whether a foot was said to be brought, and may be put somewhere yet: "bring it forward and place it beside"."""
    return act.clause is not None and "bring" in act.clause.verbs


def _goes_back(c: Clause) -> bool:
    """Whether a leg is said to go back, and not the weight: "the right leg goes back"."""
    said = [each for each in c.said if each.kind != "ordinary"]
    at = next((at for at, each in enumerate(said) if each.kind == "verb"), 0)
    foot = at >= 2 and said[at - 1].kind == "part" and said[at - 1].value == "foot" and said[at - 2].kind == "side"
    foot = foot or (at >= 1 and said[at - 1].value == "it" and said[at - 1].low.endswith(("foot", "leg")))
    return foot and said[at].value == "sit" and "back" in said[at].low.split()


def _is_landing(c: Clause) -> bool:
    """Whether what was stepped comes down somewhere: "lands out in front"."""
    lands = "touch" in c.verbs and does(c, "land", "cae", "cay")
    return lands and way_of(c) in ("forward", "out", "side", "corner") and not c.refs


class Moving(Landing):
    """Reads what feet do."""

    def _crosses(self, c: Clause) -> bool:
        if "cross" not in c.verbs:
            return False
        self._add(c, "step", foot=foot_of(c), way="cross", contact=contact_of(c))
        return True

    def _passes(self, c: Clause) -> bool:
        """A foot on its way passes the other one: the step that comes then goes close by it."""
        last = self.last
        moves = last is not None and last.kind in ("lift", "step") and self._is_here(c, last)
        passes = [v.low.startswith(("pass", "pasa")) for v in c.all_of("verb")] == [True] and len(c.refs) > 1
        close = passes or (not c.verbs and c.has("way", "close"))
        if last is None or not moves or not close or clock_of(c) is not None:
            return False
        if last.kind == "step":
            last.passing = True
        else:
            self._passing = c.sentence
        last.spans.append(c.span)
        return True

    def _goes_on(self, c: Clause) -> bool:
        """Whether the foot of a step is still on its way."""
        last = self.last
        return last is not None and last.kind == "step" and last.clock is None and self._is_here(c, last)

    def _weight_goes(self, c: Clause) -> bool:
        """Whether it is the weight that goes: "let your weight travel back"."""
        kinds = [(each.kind, each.value) for each in c.said if each.kind in ("part", "verb")]
        return ("part", "weight") in kinds and kinds.index(("part", "weight")) < next(
            (at for at, (kind, _) in enumerate(kinds) if kind == "verb"), 0
        )

    def _ends_beside(self, c: Clause) -> bool:
        """What a foot comes to beside the other one: "bring it in, so that the toes rest beside the right foot"."""
        last, part = self.last, next((r.part for r in c.refs if not r.side and r.part in ("heel", "ball", "toes")), "")
        comes = last is not None and last.kind == "step" and last.way in ("in", "", "back", "beside", "close")
        rests = set(c.verbs) <= {"touch", "put", "bring"} and c.has("way", "beside") and clock_of(c) is None
        on = c.link == "until" or (c.link == "," and not c.verbs)  # "steps up, toe beside the left heel"
        if last is None or not (comes and rests and part and on and self._is_here(c, last)):
            return False
        last.way, last.contact = "beside", {"toes": "ball"}.get(part, part)
        last.spans.append(c.span)
        return True

    def _steps(self, c: Clause) -> bool:
        if self._ends_beside(c):
            return True
        if "bring" in c.verbs and c.has("percent") and not c.refs:
            return False  # "bring seventy percent back"
        follows = next((r for r in c.refs if r.part == "foot" and (r.side or r.which)), None)
        if does(c, "follow") and follows is not None and not c.has("part", "weight") and share_of(c) is None:
            self._add(c, "step", foot=follows, way=way_of(c) or "half", contact=contact_of(c))
            return True  # "follow with the right foot"
        verbs = [v for v in c.verbs if v in STEPS] or (["step"] if self._opens(c) else [])
        down = "lower" in c.verbs or "touch" in c.verbs
        bare_part = [r.part for r in c.refs] in (["heel"], ["ball"], ["toes"]) and c.has("way", "down")
        if not verbs and down and (c.has("way", "beside") or (bare_part and c.has("way", "forward", "back", "side"))):
            verbs = ["put"]
        it_goes = not c.verbs and self._topic is not None and bool(c.refs) and all(r.part == "it" for r in c.refs)
        if it_goes and way_of(c) in ("out", "forward", "back", "side") and not c.has("part", "weight"):
            verbs = ["step"]  # "the left foot, out it goes"
        last_step = self.last if self.last is not None and self.last.kind == "step" else None
        if last_step is not None and c.has("stance") and c.verbs == ["bring"] and not c.refs and clock_of(c) is None:
            last_step.stance = last_step.stance or next(each.value for each in c.all_of("stance"))
            last_step.spans.append(c.span)  # "and move into a bow stance"
            return True
        if not verbs and "lift" in c.verbs and (c.has("way", "beside") or c.has("way", "half")):
            verbs = ["bring"]  # "comes up next to the other"
        if not verbs and _is_landing(c) and self._goes_on(c):
            verbs = ["put"]  # "and lands out in front"
        if not verbs and "lift" in c.verbs and is_floated(c):
            verbs = ["step"]
        before = self.last
        lifted = before is not None and before.kind == "lift" and self._is_here(c, before) and clock_of(c) is not None
        if lifted and not c.verbs and c.refs and all(r.part == "it" for r in c.refs):
            verbs = ["step"]  # "it comes off the floor and it goes to half past one"
        if not verbs and (is_swung(c) or _goes_back(c)):
            verbs = ["step"]
        refs = [r for r in c.refs if r.part in ("foot", "heel", "toes", "ball", "") and (r.side or r.part or r.which)]
        if c.has("part", "weight") and ("step" not in c.verbs or self._weight_goes(c) or _is_of_weight(c)):
            return False
        if c.said[0].low in _THAT and not refs:
            return False  # "that's a big step"
        clock, share = clock_of(c), share_of(c)
        poured = (
            share is not None
            and clock is None
            and c.has("link", "to")
            and not any(r.part for r in refs)
            and not c.has("way", "beside")
        )
        if ("put" in verbs and share is not None and clock is None) or (poured and verbs == ["bring"]):
            return False  # "lleva el setenta por ciento a la derecha"
        way = way_of(c)
        (length, width), stance = sizes_of(c), c.first_of("stance")
        toes = toes_of(c)
        if toes and toes == way:
            way = "down" if c.has("way", "down") else ""
        sided = sided_of(c)
        last = self.acts[-1] if self.acts else None
        named = [r.side or r.which for r in c.refs if r.side or r.which]
        to = c.has("link", "to") or any(each.low in TOGETHER_WITH for each in c.said)
        two = len(named) == 2 and named[0] != named[1] and clock is None
        if two and not c.verbs and refs and refs[0].part == "foot" and refs[0].side and c.has("link", "to"):
            verbs = ["bring"]  # "R foot to L"
        if "bring" in verbs and clock is None and len(named) == 2 and named[0] != named[1] and to:
            way = "beside" if way in ("", "back", "in") else way
        unsaid = verbs == ["bring"] and not way and clock is None and not (length or width) and not c.has("way")
        if unsaid and not width_of(c):
            way = "beside"
        if way in ("beside", "close") and not unsaid:  # what it comes next to, or past, is not what moves
            at = next(
                (n for n, each in enumerate(c.said) if each.kind == "way" and each.value == way),
                max(n for n, each in enumerate(c.said) if each.kind == "link") if c.has("link") else 0,
            )
            moved = [r for r in refs if r.at < at]
            refs, sided = moved, (sided if any(e.kind == "side" for e in c.said[:at]) else None)
        if not verbs:
            poured = last is not None and last.kind == "shift" and self._is_here(c, last)
            bare = (
                (refs or (self._topic is not None and way in ("back", "forward") and c.link == "," and not poured))
                and not c.has("amount", "all")
                and not any(v in WEIGHTS or v in ("lower", "touch", "bend", "push") for v in c.verbs)
            )
            onto = way in ("back", "forward") and clock is None and any(e.low in _ONTO for e in c.said)
            if onto or (way == "back" and clock is None and all(not r.part for r in refs) and c.has("link", "to")):
                return False  # "back onto the left leg" is told of the weight
            on_its_way = last is not None and last.kind == "step" and last.clock is None and self._is_here(c, last)
            if clock is not None and not c.verbs and not c.refs and on_its_way and last is not None:
                last.clock, last.contact, last.unread = clock, last.contact or contact_of(c), False
                last.way = "" if last.way in ("out", "forward") else last.way
                last.spans.append(c.span)  # "… and goes to half past six"
                return True
            if clock is not None and not c.verbs and not c.refs and contact_of(c):
                self._add(c, "step", clock=clock, contact=contact_of(c))  # "heel down at one thirty"
                return True
            goes = clock is not None or way in ("forward", "back", "half", "beside", "closer", "out", "side")
            goes = goes or (
                way == "in" and not c.verbs and bool(refs) and refs[0].part == "foot" and bool(refs[0].side)
            )
            if not (bare and goes) and (way != "beside" or refs or c.verbs):
                return False
        gapped = (  # "the right foot points to twelve and the left foot to ten thirty"
            last is not None
            and last.kind == "pivot"
            and c.link == "and"
            and not contact_of(c)
            and self._is_here(c, last)
        )
        both = last is not None and last.kind == "torso" and c.link == "and" and self._is_here(c, last)
        if both and last is not None and clock is not None and refs and not verbs and last.unread and not last.way:
            last.clock, last.unread = clock, False  # "turn the waist and the right foot to three"
            self._add(c, "pivot", foot=refs[0], clock=clock)
            self.acts[-2:] = [self.acts[-1], last]
            return True
        whence = not verbs and clock is not None and any(comes_from(c, at) for at in range(1, len(c.said)))
        on_part = c.said[-1].value in ("heel", "ball")  # "torso 3, right foot 3 heel": it steps
        turning = self._turning == c.sentence and not on_part
        if (turning or gapped or whence or self._on_its_part(c)) and not verbs and clock is not None and refs:
            pivot = self._add(c, "pivot", foot=refs[0], clock=hours_of(c)[-1].number if whence else clock)
            pivot.stated = gapped and last is not None and last.stated
            on = self._on_its_part(c)
            pivot.part = on.value if on is not None else ""
            return True
        foot = foot_of(c, refs) or (refs[0] if refs else sided) or self._topic
        if foot is not None and foot.part == "it" and not foot.side and self._topic is not None:
            foot = self._topic  # "the right foot: bring it in"
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
        itself = last is not None and (foot is None or foot.part == "it" or is_same(foot, last.foot))
        stepped = last is not None and last.kind == "step" and not last.contact and self._is_here(c, last)
        if bare_put and contact_of(c) == "flat" and last is not None and itself and stepped:
            last.contact = "flat"  # "cross it in front and set it down flat"
            last.spans.append(c.span)
            return True
        if bare_put and contact_of(c) == "flat":
            self._add(c, "land", foot=foot, contact="flat")
            return True
        if bare_put and self._put_on(c) and not contact_of(c) and c.has("way", "down") and foot is not None:
            self._add(c, "land", foot=foot, contact=self._put_on(c), part="set")
            return True
        ways = ("in", "out", "") if c.link != "until" else ("in", "out", "", "beside", "closer")
        swung = last is not None and last.kind == "pivot" and goes_round(last) and self._is_here(c, last)
        itself = foot is None or foot.part == "it" or (last is not None and is_same(foot, last.foot))
        if swung and last is not None and "put" in verbs and itself and last.clock is None:
            last.kind, last.clock, last.contact, last.part = "step", clock, contact_of(c), ""
            last.spans.append(c.span)  # "swing it round and put it down at three"
            return True
        stands = last is not None and last.kind == "pivot" and self._is_here(c, last)
        if bare_put and stands and last is not None and (foot is None or foot.part == "it" or is_same(foot, last.foot)):
            self._add(c, "land", foot=last.foot, contact=contact_of(c) or "flat")
            return True
        comes = last is not None and last.kind == "step" and last.way in ways and last.clock is None
        unnamed = foot is None or (foot.part == "it" and not foot.side)
        if not verbs and way == "beside" and unnamed and comes and last is not None and self._is_here(c, last):
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
                (last.way in ("around", "in", "close") and ("step" in verbs or clock is not None))
                or (way == "beside" and "put" in verbs and _is_brought(last))
                or last.way in ("", "with")
                or last.unread  # where it was brought was not said
            )
            if bare_put or (onward and (clock is not None or way)):
                last.contact = last.contact or contact_of(c)
                if onward:
                    last.unread = False
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
            amount=width_of(c) or ("wide" if c.has("amount", "wide") else ""),
        )  # fmt: skip
        act.unread = unsaid
        if toes and (turned := c.first_of("degrees")) is not None:
            act.degrees = turned.number
        act.toes = toes
        act.spans = [*lower, c.span] if lower else []
        if share is not None:
            self._add(c, "shift", share=share)
        return True

    def _on_its_part(self, c: Clause) -> Said | None:
        """The part that a foot stands on while it turns: "left foot to 10:30 on the heel"."""
        said = c.first_of("contact", "heel", "ball")
        return said if said is not None and not c.verbs and said.low.startswith(_STANDS_ON) else None
