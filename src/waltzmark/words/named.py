"""What the core's and the documents' short words are called where somebody reads them: kinds, sides, limits, choices."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from waltzmark.words.language import N_, tr

__all__ = [
    "changed",
    "choice",
    "family",
    "kind_of_entry",
    "kind_of_thing",
    "limit",
    "named_again",
    "named_other_side",
    "named_steps",
    "outcome",
    "ranges",
    "side",
    "soles",
    "width",
]

_SIDES = {"left": N_("left"), "right": N_("right")}
_THINGS = {"solid": N_("solid"), "low": N_("low"), "support": N_("support")}
_ENTRIES = {
    "walk": N_("walk"),
    "drill": N_("drill"),
    "recall": N_("recall"),
    "scale": N_("scale"),
    "turn": N_("turn"),
    "step": N_("step"),
    "end": N_("end of the walk"),
    "note": N_("note"),
}
_OUTCOMES = {
    "done": N_("done"),
    "off": N_("off"),
    "missed": N_("missed"),
    "hurts": N_("hurts"),
    "stopped": N_("stopped"),
}
_RANGES = {
    "supple": N_("supple ranges"),
    "ordinary": N_("ordinary ranges"),
    "stiff": N_("stiff ranges"),
}
_SOLES = {
    "sock on polished wood": N_("socks on polished wood"),
    "smooth leather or cotton on wood": N_("smooth leather or cotton on wood"),
    "rubber on wood": N_("rubber on wood"),
}
_WIDTHS = {"together": N_("together"), "hip": N_("hip"), "shoulder": N_("shoulder")}
_LIMITS = {
    "carries": N_("share on each foot"),
    "hand": N_("along a hand"),
    "far": N_("far"),
    "kick": N_("from a kick"),
    "least": N_("least share"),
    "most": N_("greatest share"),
    "wide": N_("wide seat"),
    "inward": N_("turned in"),
    "line": N_("on one line"),
    "seat": N_("share on the rear foot"),
    "low": N_("low seat"),
    "open": N_("opened"),
    "short": N_("short of the bend"),
    "far_short": N_("far short of the bend"),
    "over": N_("beyond the lean"),
    "twisted": N_("beyond the lean, waist turned"),
    "twist": N_("waist turned"),
    "note": N_("worth a note"),
    "far_back": N_("leaning far back"),
    "share": N_("share of weight"),
    "little": N_("little weight"),
    "load": N_("load"),
    "angle": N_("angle"),
    "together": N_("feet turned together"),
    "friction": N_("grip at which soles stick"),
    "slack": N_("slack"),
    "width": N_("width"),
    "width_light": N_("width with a light foot"),
    "light": N_("light foot"),
    "length": N_("length"),
    "shoulders": N_("width as a share of the shoulders"),
    "within": N_("within"),
    "bend": N_("knee bend"),
    "beats": N_("beats"),
    "front": N_("weight in front"),
    "square": N_("square to the front"),
    "into": N_("into the other foot"),
    "near": N_("near the limit"),
    "change": N_("change"),
    "height": N_("height"),
    "past": N_("past the toes"),
    "lean": N_("lean"),
    "margin": N_("margin"),
    "half": N_("half width"),
    "supported": N_("beats with a support"),
    "part": N_("part of the foot"),
    "correction": N_("correction"),
    "contact": N_("contact"),
    "even": N_("even weight"),
    "ahead": N_("stepping ahead"),
    "back": N_("stepping back"),
    "order": N_("order"),
    "push": N_("pushing hand"),
}
_CHOICES = {
    "heel": N_("heel"),
    "ball": N_("ball"),
    "flat": N_("flat"),
    "any": N_("any part"),
    "heel-front-ball-rear": N_("heel in front, ball behind"),
    "hips": N_("hips"),
    "heel pushed": N_("push the heel out"),
    "together": N_("together"),
    "vee": N_("heels together, toes open"),
    "shoulder": N_("shoulder width"),
    "hip": N_("hip width"),
    "free": N_("free"),
    "waist": N_("with the waist"),
    "on purpose": N_("on purpose"),
    "passed through": N_("passed through"),
    "opening and closing": N_("opening and closing"),
    "turn first": N_("turn first"),
    "step first": N_("step first"),
    "opposite": N_("opposite to the front leg"),
    "same": N_("same as the front leg"),
    "either": N_("either"),
}


def _said(words: Mapping[str, str]) -> Callable[[str], str]:
    """From a short word to what it is called; one that has no name, which a document may bring, stays as it is."""
    return lambda word: tr(words[word]) if word in words else word.replace("_", " ")


#: What a change of a form changes.
_CHANGED = {
    "length": N_("length"),
    "width": N_("width"),
    "gap": N_("gap"),
    "distance": N_("distance"),
    "facing": N_("facing"),
    "turn": N_("turn"),
}
#: What findings are about: the first words of their rules.
_FAMILIES = {
    "balance": N_("balance"),
    "expect": N_("expectations"),
    "gaze": N_("gaze"),
    "hand": N_("hands"),
    "hip": N_("hips"),
    "kick": N_("kicks"),
    "knee": N_("knees"),
    "pivot": N_("pivots"),
    "posture": N_("posture ends"),
    "score": N_("the score"),
    "split": N_("shares of weight"),
    "stance": N_("stances"),
    "step": N_("steps"),
    "trunk": N_("trunk"),
    "waist": N_("waist"),
    "weight": N_("weight"),
}

side = _said(_SIDES)
changed = _said(_CHANGED)
family = _said(_FAMILIES)
kind_of_thing = _said(_THINGS)
kind_of_entry = _said(_ENTRIES)
outcome = _said(_OUTCOMES)
ranges = _said(_RANGES)
soles = _said(_SOLES)
width = _said(_WIDTHS)
#: What a limit is called in a rule that means something of its own by it.
_LIMITS_OF = {
    "pivot.loaded together": N_("off the pelvis, turning with it"),
    "pivot.both together": N_("off the pelvis, turning with it"),
    "stance.narrow length": N_("from a length of"),
    "stance.crossed width": N_("across the feet"),
    "stance.crossed line": N_("on one line up to"),
    "stance.crossed half": N_("share on the foot that stepped"),
    "stance.unemptied far": N_("out of the leg’s reach"),
    "stance.rear-angle within": N_("off the front"),
    "stance.heel-floats length": N_("from a length of"),
    "step.drag far": N_("out of the leg’s reach"),
    "hip.range bend": N_("with a knee bend of"),
    "knee.inward far": N_("turned in far"),
    "knee.inward wide": N_("width of a wide seat"),
    "knee.inward low": N_("knee bend of a low seat"),
    "trunk.lean back": N_("leaning back"),
    "balance.weak-line half": N_("to each side of the line"),
    "balance.weak-line length": N_("from a length of"),
    "gaze.beyond angle": N_("off the chest"),
    "gaze.beyond far": N_("a danger from"),
}
_limit = _said(_LIMITS)


def limit(key: str, rule: str = "") -> str:
    """What a limit, or a choice, of a rule is called."""
    return tr(_LIMITS_OF[f"{rule} {key}"]) if f"{rule} {key}" in _LIMITS_OF else _limit(key)


choice = _said(_CHOICES)


def named_again(title: str) -> str:
    """What a posture is called that comes once more."""
    return tr("{title}, again", title=title)


def named_steps() -> str:
    """What plain steps are called that bring a form home."""
    return tr("Steps home")


def named_other_side(title: str) -> str:
    """What the other side of a posture is called."""
    return tr("{title}, other side", title=title)
