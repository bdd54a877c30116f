"""The words of the score language: what may be typed, and what is likely meant by a slip."""

from __future__ import annotations

__all__ = ["EXAMPLES", "MEANT", "STANCES", "TERMINAL_WORDS", "nearest"]

#: Stances a school gives a geometry to.
STANCES = (
    "bow",
    "empty-heel",
    "empty-ball",
    "parallel",
    "horse",
    "cross",
    "low",
    "one-leg",
    "together",
    "vee",
)

#: The words that can be typed for a terminal of the grammar.
TERMINAL_WORDS: dict[str, tuple[str, ...]] = {
    name.upper(): (name,)
    for name in (
        "shift",
        "pivot",
        "step",
        "heel",
        "ball",
        "toe",
        "flat",
        "air",
        "touch",
        "lift",
        "knee",
        "torso",
        "gaze",
        "hand",
        "sink",
        "rise",
        "lean",
        "kick",
        "breathe",
        "hold",
        "expect",
        "width",
        "length",
        "in",
        "out",
        "early",
        "late",
        "hips",
        "cw",
        "ccw",
        "back",
        "cross",
        "half",
        "beside",
        "at",
        "to",
        "via",
    )
} | {
    "SIDE_LETTER": ("L", "R"),
    "SIDEWAYS": ("side",),
    "MARK": ("L.heel", "R.toe"),
    "PATH": ("close", "straight", "front", "behind", "slide"),
    "HEIGHT": ("waist", "chest", "head"),
    "HIP": ("hip",),
    "SHOULDER": ("shoulder",),
    "ABOVE": ("above",),
    "ANKLE": ("ankle",),
    "EDGE": ("edge",),
    "SOLE": ("sole",),
    "SHAPE": ("push", "guard", "fist", "hook", "open", "palm-up", "palm-down", "palm-in", "palm-out"),
}

#: Terminals that are told by an example, which `waltzmark.words` has.
EXAMPLES = (
    "CLOCK",
    "COMPASS",
    "TURN",
    "PERCENT",
    "PAIR",
    "DEGREES",
    "METRES",
    "SIZE",
    "LENGTH_VALUE",
    "STANCE",
    "FORWARD",
    "MORE",
    "BEATS",
    "COMMA",
    "NOTE",
    "$END",
)


#: Words as people say them, and those the score has for them.
MEANT: dict[str, tuple[str, ...]] = {
    "turn": ("pivot", "torso"),
    "rotate": ("pivot", "torso"),
    "waist": ("torso",),
    "follow": ("step",),
    "walk": ("step",),
    "bend": ("sink",),
    "sit": ("sink",),
    "look": ("gaze",),
    "eyes": ("gaze",),
    "pour": ("shift",),
    "weight": ("shift",),
    "left": ("L",),
    "right": ("R",),
}


def nearest(word: str, choices: list[str] | tuple[str, ...]) -> str | None:
    """The choice a mistyped word most likely means, or None."""
    from difflib import get_close_matches  # not needed until there is a slip

    lowered = {choice.lower(): choice for choice in choices}
    found = get_close_matches(word.lower(), lowered, n=1, cutoff=0.6)
    return lowered[found[0]] if found else None
