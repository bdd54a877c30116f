"""The words of the score language: what may be typed, and what is likely meant by a slip."""

from __future__ import annotations

__all__ = ["STANCES", "TERMINAL_WORDS", "nearest"]

#: Stances a school gives a geometry to.
STANCES = (
    "bow", "empty-heel", "empty-ball", "parallel", "horse", "cross", "low", "one-leg", "together", "vee",
)  # fmt: skip

#: What each terminal of the grammar looks like to the reader of an error: words to type, or an example.
TERMINAL_WORDS: dict[str, tuple[str, ...]] = {
    name.upper(): (name,)
    for name in (
        "shift", "pivot", "step", "heel", "ball", "toe", "flat", "air", "touch", "lift", "knee", "torso",
        "gaze", "hand", "sink", "rise", "lean", "kick", "breathe", "hold", "expect", "width", "length", "in", "out",
        "cw", "ccw", "back", "cross", "half", "beside", "at", "to", "via",
    )
} | {
    "SIDE_LETTER": ("L", "R"),
    "SIDEWAYS": ("side",),
    "MARK": ("L.heel", "R.toe"),
    "CLOCK": ("a clock facing such as 10:30",),
    "COMPASS": ("a compass point such as NE",),
    "TURN": ("a turn such as +45",),
    "PERCENT": ("a percentage such as 70",),
    "PAIR": ("left/right such as 70/30",),
    "DEGREES": ("degrees such as 45",),
    "METRES": ("metres such as 0.40",),
    "SIZE": ("length x width such as 62x38",),
    "LENGTH_VALUE": ("a length such as 40 or 15in",),
    "STANCE": ("a stance such as bow",),
    "PATH": ("close", "straight", "front", "behind", "slide"),
    "HEIGHT": ("waist", "chest", "head"),
    "HIP": ("hip",),
    "SHOULDER": ("shoulder",),
    "ABOVE": ("above",),
    "ANKLE": ("ankle",),
    "EDGE": ("edge",),
    "SOLE": ("sole",),
    "SHAPE": ("push", "guard", "fist", "hook", "open", "palm-up", "palm-down", "palm-in", "palm-out"),
    "FORWARD": ("degrees forward such as 10, or -5 for back",),
    "MORE": ("so much more, such as +10",),
    "BEATS": ("@ and beats such as @2",),
    "COMMA": ("a comma",),
    "NOTE": ("# and a note",),
    "$END": ("the end of the line",),
}  # fmt: skip


def nearest(word: str, choices: list[str] | tuple[str, ...]) -> str | None:
    """The choice a mistyped word most likely means, or None."""
    from difflib import get_close_matches  # not needed until there is a slip

    lowered = {choice.lower(): choice for choice in choices}
    found = get_close_matches(word.lower(), lowered, n=1, cutoff=0.6)
    return lowered[found[0]] if found else None
