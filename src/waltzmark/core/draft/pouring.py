"""Clauses that pour the weight, and that sink, rise and lean."""

from __future__ import annotations

from waltzmark.core.draft.asked import (
    contact_of,
    is_same,
    share_of,
    sided_of,
)
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.reader import STEPS, WEIGHTS, Reader

__all__ = ["Pouring"]

#: How far a score lets a trunk lean, degrees.
_FARTHEST_BACK, _FARTHEST_FORWARD = -30.0, 60.0
#: Words that say alone that a body sinks or rises, and by how many degrees.
_ALONE = {"baja": 10.0, "bajamos": 10.0, "sube": -10.0, "subimos": -10.0}


class Pouring(Reader):
    """Reads what the weight does."""

    def _empties(self, c: Clause) -> bool:
        empties = "empty" in c.verbs or (c.has("amount", "none") and not any(v in STEPS for v in c.verbs))
        ref = next((r for r in c.refs if r.side or r.which), None)
        if ref is None and any(r.part == "it" for r in c.refs) and self._topic is not None:
            ref, self._topic = self._topic, None
        if not empties:
            return False
        if ref is None and not self.acts and all(e.kind in ("amount", "ordinary", "link") for e in c.said):
            self.idle.append((c.span, "idle"))  # of a foot that is told of next
            return True
        if ref is None and "empty" not in c.verbs:
            if self.acts and self.acts[-1].kind in ("shift", "step"):
                self.acts[-1].spans.append(c.span)
                return True
            return False
        if c.link == "until" and self.acts and self.acts[-1].kind == "shift":
            self.acts[-1].share = self.acts[-1].share or 100.0
            self._topic = ref
            self.acts[-1].spans.append(c.span)
            return True
        if self.acts and c.has("amount", "none") and self.acts[-1].kind in ("shift", "step"):
            self.acts[-1].spans.append(c.span)
            return True  # said of the same pour: "weight left, right foot empty"
        ref = ref or next((r for r in c.refs if r.part == "it"), None)
        self._add(c, "shift", foot=ref, share=0.0)
        return True

    def _lands_while(self, c: Clause) -> bool:
        """Whether a foot came down by a pour of the same sentence, of which it was not said how far it goes."""
        if len(self.acts) < 2 or c.link not in ("and", "until", ","):
            return False
        pour, land = self.acts[-2:]
        unsaid = pour.kind == "shift" and pour.share is None and pour.amount == ""
        bare = not c.verbs and not c.refs
        return unsaid and land.kind == "land" and (land.until or bare) and self._is_here(c, pour)

    def _weights(self, c: Clause) -> bool:
        alone = [each for each in c.said if each.kind != "ordinary" and each.value != "repeat"]
        if c.first and len(alone) == 1 and alone[0].kind == "way" and alone[0].value in ("back", "forward"):
            self._add(c, "shift", way=alone[0].value, unread=True)  # "Back, toes up.": of what is not said
            return True
        share = share_of(c)
        verbs = [v for v in c.verbs if v in WEIGHTS]
        weight = c.has("part", "weight")
        even = c.has("amount", "even")
        refs = [r for r in c.refs if r.side or r.which or r.part == "it"]
        if "share" in verbs:  # "between both feet" says no more
            refs = [r for r in refs if r.side != "both"]
        if "put" in c.verbs and share is not None:
            weight = True
        poured = self.acts[-1] if self.acts and self.acts[-1].kind == "shift" else None
        if self._lands_while(c) and share is not None and not verbs:
            pour, land = self.acts[-2:]
            pour.share, pour.together = (
                share,
                True,
            )  # "so that the foot flattens and two thirds of the weight rest on it"
            pour.spans.append(c.span)
            self.acts[-2:] = [land, pour]
            return True
        more = poured is not None and poured.clause is not None and poured.clause.sentence == c.sentence
        if not (verbs or weight or share is not None or even):
            onto = any(r.side or r.which for r in refs) or (c.has("link", "to") and not c.has("clock"))
            if not c.verbs and c.has("amount", "all") and (onto or sided_of(c) or more):
                verbs = ["shift"] if not more else []
            elif not (more and refs and not c.verbs and c.has("link", "to") and not c.has("contact")):
                return False
        stays = refs[-1] if refs else None
        if stays is None and c.has("way", "back"):
            stays = Ref("", "rear", "", 0, c.span)
        if "keep" in c.verbs and share is not None and stays is not None and poured is not None:
            poured.foot, poured.share, poured.way = stays, share, ""  # "leaving thirty percent on the right"
            poured.spans.append(c.span)
            return True
        if "keep" in c.verbs and share is not None and share < 100.0 and stays is not None:
            self._add(c, "shift", foot=stays, share=share, part="kept")  # "keep ninety percent on the right"
            return True
        if "keep" in c.verbs and not even:
            self.idle.append((c.span, "idle"))
            return True
        if share is not None and not verbs and not weight and not refs and self.acts and self.acts[-1].kind == "shift":
            said = self.acts[-1]
            counting = c.link == "," and said.share is not None and abs(said.share + share - 100.0) > 1.0
            bare = all(each.kind in ("number", "ordinary") for each in c.said)
            if bare and c.link == "," and said.share is not None and abs(said.share + share - 100.0) < 1.0:
                said.spans.append(c.span)  # "seventy, thirty"
                return True
            if c.link == "no" or said.share is None or said.share == share or (counting and bare):
                said.share = share
                said.spans.append(c.span)
                return True
        stepped = self.last
        if share == 0.0 and stepped is not None and stepped.kind == "step" and not refs and self._is_here(c, stepped):
            stepped.spans.append(c.span)
            return True
        evened = even and not (refs or c.verbs) and poured is not None and self._is_here(c, poured)
        if (
            evened
            and poured is not None
            and (poured.share == 50.0 or (poured.share is None and c.link in (",", "but", "until")))
        ):
            poured.share, poured.amount, poured.way = 50.0, "even", ""  # "come back, fifty-fifty, the middle"
            poured.spans.append(c.span)
            return True
        ref = refs[-1] if refs else sided_of(c)
        if ref is not None and ref.part == "" and c.has("way", "back", "forward") and not ref.side:
            ref = None
        way = "back" if c.has("way", "back") or "sit" in verbs or any("back" in v.low for v in c.all_of("verb")) else ""
        on = any("forward" in v.low or v.low.startswith(("adelant", "avanz", "advanc")) for v in c.all_of("verb"))
        if not way and (c.has("way", "forward") or on):
            way = "forward"
        turned = self.acts[-1] if self.acts and self.acts[-1].kind in ("pivot", "torso") else None
        counted = sum(each.kind == "number" for each in c.said) == 1 and turned is not None and turned.clock is None
        if counted and turned is not None and share is not None and not (verbs or weight or refs or c.has("percent")):
            turned.degrees = share  # "forty-five or so", of a turn
            turned.spans.append(c.span)
            return True
        if c.link == "no" and self.acts and self.acts[-1].kind == "shift" and refs:
            self.acts[-1].foot, self.acts[-1].way = ref, way
            if share is not None:
                self.acts[-1].share = share
            self.acts[-1].spans.append(c.span)
            return True
        shares = [each.number for each in c.said if each.kind in ("percent", "number") and each.number]
        if len(shares) > 1 and len(refs) > 1:
            ref = refs[0]
        pair = len(shares) > 1 and shares[0] + shares[1] == 100.0 and not refs
        if pair and share is not None:
            way = "forward"
        last = self.last
        if (
            last is not None
            and last.kind == "shift"
            and last.clause is not None
            and last.clause.sentence == c.sentence
            and (ref is None or is_same(ref, last.foot))
            and (share is None or last.share is None)
            and not (c.has("amount", "all") and last.share not in (None, 100.0))
            and not (last.amount == "all" and c.verbs and share not in (None, 100.0))
            and not even
            and (verbs == [] or (c.link in (",", "until") and (way != "back" or last.way == "back")))
        ):
            last.share = last.share if share is None else share
            last.foot = last.foot or ref
            last.spans.append(c.span)
            return True
        if (
            (
                last is not None
                and last.kind == "shift"
                and share is not None
                and last.share is not None
                and ref is not None
            )
            and c.link in ("and", ",")
            and not c.verbs
            and last.foot is not None
            and ref.side != last.foot.side
        ):
            last.unread = last.unread or abs(share + last.share - 100.0) > 1.0
            last.spans.append(c.span)
            return True
        shared = last is not None and last.kind == "shift" and last.share is not None and share is not None
        if shared and last is not None and last.way and way and way != last.way and c.link in (",", "and"):
            last.unread = last.unread or abs((share or 0.0) + (last.share or 0.0) - 100.0) > 1.0
            last.spans.append(c.span)
            return True
        stated = not c.verbs and c.first and any(each.low in ("with", "con") for each in c.said[:2])
        shared_out = "share" in verbs and ref is None and share is None and not way  # where nothing else is said
        whole = c.has("amount", "all") or any({"all", "todo"} & set(v.low.split()) for v in c.all_of("verb"))
        amount = "all" if whole else "even" if even or shared_out else "most" if c.has("amount", "most") else ""
        act = self._add(c, "shift", foot=ref, share=50.0 if even else share, way=way, amount=amount)
        act.stated = stated  # "with the weight on the right": it may be so already
        act.unread = bool(pair and not c.has("way"))  # which foot has which is not said
        turned_back = even and "turn" in c.verbs and not weight and last is not None and last.kind == "torso"
        if turned_back and last is not None and self._is_here(c, last):
            act.unread = True  # "turn the waist, and turn back to the centre": it may be the waist that comes back
        if c.has("contact", "ball", "heel") and len(refs) > 1:
            self._add(c, "land", foot=refs[-1], contact=contact_of(c))
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
            rolled = last is not None and last.kind == "land" and c.link in (",", "and")
            if rolled and last is not None and last.clause is not None and last.clause.sentence == c.sentence:
                self._add(c, "shift", foot=last.foot, way="bend").together = True
                return True
            way = "bend" if "bend" in c.verbs else "straighten"
            self._add(c, "shift", foot=ref if ref is not None and (ref.side or ref.which) else None, way=way)
            return True
        if "lower" in c.verbs and c.has("amount", "little") and not c.refs:
            self._add(c, "sink", degrees=10.0)
            return True
        alone = [each.low for each in c.said if each.kind not in ("ordinary", "link")]
        held = self.last is not None and self.last.kind in ("lift", "kick")  # a foot comes down, or the knee
        if len(alone) == 1 and alone[0] in _ALONE and not held:
            self._add(c, "sink", degrees=_ALONE[alone[0]])
            return True
        return False

    def _leans(self, c: Clause) -> bool:
        if "lean" in c.verbs:
            said, back = c.first_of("degrees"), c.has("way", "back")
            degrees = 10.0 if said is None or said.number is None else said.number
            to = max(-degrees, _FARTHEST_BACK) if back else min(degrees, _FARTHEST_FORWARD)
            self._add(c, "lean", degrees=to, unread=abs(to) != degrees)  # further than a score can say
            return True
        if "upright" in c.verbs:
            foot = next((r for r in c.refs if r.part in ("foot", "toes")), None)
            if foot is not None:  # "el pie derecho se endereza"
                self._add(c, "pivot", foot=foot, way="ahead")
            else:
                self._add(c, "lean", degrees=0.0)
            return True
        return False
