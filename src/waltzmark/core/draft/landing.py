"""Clauses that lift a foot and set it down: what of it is on the floor."""

from __future__ import annotations

from waltzmark.core.draft.asked import (
    clock_of,
    contact_of,
    does,
    foot_of,
    inout_of,
    on_toes,
    opened,
    share_of,
    sizes_of,
    toes_of,
    way_of,
)
from waltzmark.core.draft.clauses import Clause
from waltzmark.core.draft.turning import Turning

__all__ = ["TOGETHER_WITH", "Landing", "is_floated"]

#: Words before the foot that another one is joined with.
TOGETHER_WITH = frozenset({"con", "with"})


def is_floated(c: Clause) -> bool:
    """Whether a foot is lifted forward or out, and so steps there: "float the left foot out"."""
    away = way_of(c) in ("forward", "out", "side") and not c.has("way", "up")
    return away and any(r.part in ("foot", "") and (r.side or r.which) for r in c.refs)


class Landing(Turning):
    """Reads how feet leave the floor and come down."""

    def _contacts(self, c: Clause) -> bool:
        """A part of a foot that comes down, and no foot named: it is of the step before."""
        last = self.last
        if last is not None and last.kind == "step" and toes_of(c) and not c.verbs and not c.has("side", "which"):
            turned = c.first_of("degrees")
            last.toes, last.degrees = toes_of(c), None if turned is None else turned.number
            last.spans.append(c.span)
            return True
        whose = [r for r in c.refs if r.side in ("left", "right") and r.part in ("heel", "ball", "toes")]
        with_it = len(whose) == len(c.refs) == 1 and any(each.low in TOGETHER_WITH for each in c.said)
        if last is not None and last.kind == "step" and last.foot is None and with_it and not c.verbs:
            last.foot, last.contact = whose[0], {"toes": "ball"}.get(whose[0].part, whose[0].part)
            last.spans.append(c.span)  # "step to three, with the right heel"
            return True
        puts = last is not None and last.kind == "pivot" and opened(last) and c.verbs == ["put"]
        if puts and last is not None and self._put_on(c) and all(not r.side for r in c.refs):
            last.kind, last.contact, last.part = "step", self._put_on(c), ""  # "open the right to three, put the heel"
            last.spans.append(c.span)
            return True
        if last is None or last.kind not in ("step", "lift") or last.contact:
            return False
        if any(verb not in ("put", "touch", "lower") for verb in c.verbs) or c.has("part", "weight", "body"):
            return False
        bare = [r for r in c.refs if r.part in ("heel", "ball", "toes", "foot") and not r.side and not r.which]
        other = len(c.refs) > len(bare) or clock_of(c) is not None or any(sizes_of(c)) or share_of(c) is not None
        part = contact_of(c) or next((r.part for r in bare if r.part != "foot"), "")
        if not part and c.verbs == ["touch"] and not c.refs:
            part = "ball"
        away: bool | str = c.has("way", "forward", "back", "side", "beside", "corner", "half", "up") or inout_of(c)
        if last.way == "beside" and c.has("way", "beside"):
            away, other, part = False, False, part or ("ball" if c.verbs == ["touch"] else "")
        if not part or other or away or c.has("link", "is") or (not c.verbs and not c.has("contact")):
            return False
        said = c.first_of("contact")
        if last.kind == "lift" and not c.verbs and said is not None and {"first", "primero"} & set(said.low.split()):
            last.spans.append(c.span)  # it leaves the floor so: "peel it off, heel first"
            return True
        if last.kind == "lift":
            self._add(c, "land", foot=last.foot, contact={"toes": "ball"}.get(part, part))
            return True
        last.contact = {"toes": "ball"}.get(part, part)
        last.spans.append(c.span)
        return True

    def _lifts(self, c: Clause) -> bool:
        up = c.has("way", "up")
        if "rise" in c.verbs and any(r.part in ("toes", "heel", "knee") for r in c.refs):
            up = True
        slid = does(c, "slid", "draw", "drag", "desliz")
        if c.has("part", "weight") or (slid and "lift" not in c.verbs and not any(r.part == "knee" for r in c.refs)):
            return False
        alone = c.first and len(c.refs) == 1 and all(each.kind in ("side", "part", "ordinary") for each in c.said)
        if alone and c.refs[0].part == "knee" and c.refs[0].side:
            self._add(c, "lift", foot=c.refs[0], part="knee", unread=True)  # "Right knee."
            return True
        if not ("lift" in c.verbs or up) or "step" in c.verbs or "shift" in c.verbs or c.has("way", "beside"):
            return False
        if c.has("way", "half") or (is_floated(c) and not up):
            return False
        refs = c.refs
        knee = next((r for r in refs if r.part == "knee"), None)
        if self._topic is not None and self._topic.part and refs and refs[0].part == "it":
            refs = [self._topic]  # "the toes are free, they lift"
            self._topic = None
        foot = next((r for r in refs if r.side or r.which), knee or (refs[0] if refs else None))
        if knee is not None:
            to_knee = refs[0].side and refs[0].part == "foot"  # "raise the foot to the height of the other knee"
            self._add(c, "lift", foot=refs[0] if to_knee else knee, part="knee")
            return True
        part = next((r.part for r in refs if r.part in ("toes", "ball", "heel")), "")
        if on_toes(c):
            part = "toes"  # "con la punta levantada"
        elif c.has("contact", "ball"):
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

    def _put_on(self, c: Clause) -> str:
        """The part that is put down, where it is the only one that is named."""
        parts = [r.part for r in c.refs if r.part in ("heel", "ball", "toes")]
        ends = c.said[-1].kind == "part" and c.said[-1].value in ("heel", "ball", "toes")  # "step back ball"
        if toes_of(c) or not (ends or "put" in c.verbs or "touch" in c.verbs or not c.verbs) or len(parts) != 1:
            return ""
        return {"toes": "ball"}.get(parts[0], parts[0])

    def _lands(self, c: Clause) -> bool:
        if self.last is not None and self.last.kind == "kick" and not c.verbs and self._is_here(c, self.last):
            return False
        contact = contact_of(c)
        refs = [r for r in c.refs if r.part in ("foot", "heel", "ball", "toes", "it", "sole", "")]
        last = self.acts[-1] if self.acts else None
        down = c.has("way", "down") and (bool(refs) or bool(contact) or self._open_step())
        if "lower" in c.verbs or down or (contact == "flat" and not self._open_step()):
            if last is not None and last.kind == "step" and contact and not last.contact and "lower" not in c.verbs:
                return False
            if c.has("way", "forward", "half", "back"):
                way = "back" if c.has("way", "back") else "forward"
                self._add(c, "step", foot=refs[0] if refs else None, way=way, contact=contact)
            else:
                self._add(c, "land", foot=next((r for r in refs if r.side or r.which), None), contact=contact or "flat")
            return True
        ref = next((r for r in refs if r.side or r.which), None)
        away = "back" if c.has("way", "back") else "forward" if c.has("way", "forward") else ""
        if "touch" in c.verbs and ref is not None and ref == foot_of(c) and away and not self._open_step():
            part = contact or {"heel": "heel", "ball": "ball", "toes": "ball"}.get(ref.part, "")
            self._add(c, "step", foot=ref, way=away, contact=part)  # "the right heel rests in front"
            return True
        if ("touch" in c.verbs or contact) and ref is not None and not self._open_step():
            self._add(c, "land", foot=ref, contact=contact or {"heel": "heel"}.get(ref.part, "ball"))
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
