"""Whether all that a clause says went into acts: what did not makes a doubt, for an error in silence costs most."""

from __future__ import annotations

from collections.abc import Sequence

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.asked import ONE, comes_from, contact_of, does, is_swung, share_of, whither
from waltzmark.core.draft.clauses import Clause

__all__ = ["covered"]

#: Words of a clause that may be unknown.
_UNKNOWN = 1
#: What a verb may have become.
_BECOMES = {
    "step": {"step", "shift", "land", "torso", "expect"},
    "cross": {"step"},
    "turn": {"pivot", "torso", "expect"},
    "face": {"torso", "pivot", "expect", "gaze", "step"},
    "lift": {"lift", "land", "step", "hand"},
    "touch": {"land", "step", "expect", "shift"},
    "kick": {"kick"},
    "bend": {"shift", "sink"},
    "straighten": {"shift", "sink", "lean", "kick", "step"},
    "empty": {"shift", "expect"},
    "sink": {"sink", "shift"},
    "rise": {"sink", "land", "lift", "hand"},
    "lean": {"lean", "shift"},
    "upright": {"lean"},
    "sit": {"shift", "sink"},
    "shift": {"shift", "expect", "land", "torso"},
    "share": {"shift", "expect"},
    "hold": {"hold"},
    "repeat": {"repeat", "mirror"},
}
#: Ways that must be taken up by a step, a kick or a turn that goes there.
_WAYS = frozenset({"half", "beside", "corner", "rear corner", "closer", "behind"})


def covered(c: Clause, acts: Sequence[Act], *, mended: bool = False) -> bool:
    """Whether what a clause says went into some acts.

    Parameters
    ----------
    c
        The clause.
    acts
        Those that it opened, and the one before, which it may have filled.
    mended
        Whether it takes back what was said: of what it names then one of two is enough.

    Returns
    -------
    bool
        False where a figure, a side, a part, a way, a contact, a stance or a verb is in none, or where too much of it
        is unknown.
    """
    of_body = ("torso", "expect", "shift", "gaze", "lean", "sink", "hand", "around", "stand")
    if c.has("part", "body") and not any(act.kind in of_body for act in acts):
        return False
    if not _figures(c, acts) or sum(each.kind == "unknown" for each in c.said) > _UNKNOWN:
        return False
    kinds = {act.kind for act in acts} | {"pivot" for act in acts if act.toes or act.toe is not None}
    aimed = c.has("clock") or c.has("number")
    if "straighten" in c.verbs and "step" in kinds and not aimed:
        return False  # a leg that is straightened goes nowhere
    # "swing the leg forward", "open the foot to the side"
    if "step" in kinds and (does(c, "open", "abr") or is_swung(c)):
        kinds.add("pivot")
    if "sink" in kinds and does(c, "sub"):
        kinds.add("lift")  # "y sube"
    if "kick" in kinds and does(c, "exten", "extiend", "estir", "stretch"):
        kinds.add("step")  # "extend the leg in a kick"
    told = len(c.verbs) > 1 or any(each.kind in ("percent", "clock", "degrees", "contact") for each in c.said)
    if told and "repeat" in c.verbs and not kinds & {"repeat", "mirror"}:  # "shift forward again" is told of the shift
        c = c._replace(said=tuple(each for each in c.said if each.value != "repeat"))
    if any(verb in _BECOMES and not kinds & _BECOMES[verb] for verb in c.verbs):
        return False
    if kinds & {"mirror", "repeat", "taught"}:
        return True
    return _ways(c, acts) and (mended or _sides(c, acts))


def _figures(c: Clause, acts: Sequence[Act]) -> bool:
    figures = {
        round(value, 1)
        for act in acts
        for value in (act.share, act.clock, act.toe, act.degrees, act.times)
        if value is not None
    }
    figures |= {round(size.value, 1) for act in acts for size in (act.length, act.width) if size is not None}
    figures |= {round(100.0 - act.share, 1) for act in acts if act.share is not None}
    for at, each in enumerate(c.said):
        if comes_from(c, at):
            continue
        if each.kind in ("percent", "degrees", "clock", "times", "beats", "cm", "fl", "sw") and each.number is not None:
            if round(each.number, 1) not in figures:
                return False
        elif each.kind == "number" and each.number is not None and each.low not in ONE:
            hour = each.number % 12 * 60.0
            if round(each.number, 1) not in figures and hour not in figures:
                return False
    return True


def _sides(c: Clause, acts: Sequence[Act]) -> bool:
    if c.has("amount", "none") and acts and acts[-1].kind == "shift":
        return True  # the other foot of the same pour
    sides = {each.value for each in c.said if each.kind == "side" and each.value in ("left", "right")}
    told = {act.foot.side for act in acts if act.foot is not None} | {act.way for act in acts}
    if any(act.kind == "step" and act.foot is not None and act.foot.part == "it" for act in acts):
        told.add(whither(c))  # "set it down to the left"
    if any(act.foot is not None and act.foot.which and not act.foot.side for act in acts):
        return True  # "the front knee, until the left has seventy": the same foot
    between = {ref.side for ref in c.refs if ref.side}  # beside the other foot, past it, where it was
    beside = c.first_of("way", "beside", "close")
    unnamed = bool(acts) and (acts[-1].foot is None or not acts[-1].foot.side)
    if beside is not None and (
        c.link == "until" or unnamed or beside.value == "close"
    ):  # "until it stands next to the left one"
        return not {each.value for each in c.all_of("side") if each.span < beside.span} - told
    return not sides - told - (between if len(between) > 1 else set())


def _ways(c: Clause, acts: Sequence[Act]) -> bool:
    contact = contact_of(c)
    held = {act.contact for act in acts} | {act.part for act in acts}
    if "slide" in held:  # the heel goes out, the ball stays
        held.add("ball")
    lifted = any(act.kind in ("land", "lift", "kick", "expect") for act in acts)
    if contact and contact not in held and not lifted:
        return False
    poured = c.has("stance", "bow") and any(act.kind == "shift" for act in acts)  # "shift into a bow stance"
    if c.has("stance") and not poured and not any(act.stance or act.kind == "expect" for act in acts):
        return False
    if share_of(c) is None and c.has("amount", "all") and not any(act.kind in ("shift", "expect") for act in acts):
        return False
    if c.has("amount", "far") and not any(act.amount == "far" for act in acts):
        return False
    ways = {each.value for each in c.said if each.kind == "way"} & _WAYS
    if "half" in ways:
        ways.discard("closer")
    return ways <= {act.way for act in acts} | ({"behind"} if any(act.way == "back" for act in acts) else set())
