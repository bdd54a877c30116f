"""Hypothesis strategies for everything that can be written in a score."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from waltzmark.core.base.angles import COMPASS
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import NAMED, Length
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Compass, Toward, Turn
from waltzmark.core.score.words import STANCES

sides = st.sampled_from(Side)
parts = st.sampled_from(["heel", "ball", "toe"])


def decimals(least: float, most: float, places: int = 2) -> st.SearchStrategy[float]:
    """Numbers as people write them, with a few decimals."""
    scale = 10**places
    return st.integers(int(least * scale), int(most * scale)).map(lambda n: n / scale)


clocks = st.builds(Clock, st.integers(0, 719), st.booleans())
floor_clocks = st.builds(Clock, st.integers(0, 719))
facings = st.one_of(clocks, st.builds(Compass, st.sampled_from(sorted(COMPASS))))
turns = st.builds(Turn, decimals(-360, 360))
towards = st.builds(Toward, st.booleans(), decimals(0, 180))
aims = st.one_of(facings, turns, towards)
ways = st.one_of(facings, turns)
named = st.builds(Length, st.just(1.0), st.sampled_from(NAMED))
lengths = named | st.builds(Length, decimals(0, 9), st.sampled_from(["cm", "mm", "m", "in", "ft", "fl", "sw", "hw"]))
widths = st.builds(Length, decimals(-9, 9), st.sampled_from(["cm", "m", "in", "fl", "sw", "hw"]))
percents = decimals(0, 100, 1).filter(lambda share: share == 0 or share >= 1)
#: A crossing step is a manner of stepping; its stance is never named beside it.
stances = st.none() | st.sampled_from([name for name in STANCES if name != "cross"])

pivots = st.one_of(
    st.builds(act.Pivot, sides, parts, aims),
    st.builds(act.Pivot, sides, parts, facings, st.sampled_from(["cw", "ccw"])),
)


@st.composite
def faced(draw: st.DrawFn) -> act.Faced:
    manner: Any = draw(st.sampled_from([None, "back", "cross", "side"]))
    sized = draw(st.booleans())
    length = draw(lengths) if sized else None
    width = draw(widths) if sized else None
    if manner == "side" and not sized and draw(st.booleans()):
        width = draw(lengths)
    return act.Faced(draw(facings), manner, draw(stances), length, width)


@st.composite
def marks(draw: st.DrawFn) -> act.Mark:
    moved = draw(st.booleans())
    part: Any = draw(parts)
    return act.Mark(draw(sides), part, draw(facings) if moved else None, draw(lengths) if moved else None)


spots = st.builds(act.Spot, decimals(-20, 20, 3), decimals(-20, 20, 3))
places = st.one_of(faced(), st.builds(act.Half, facings), st.builds(act.Beside, st.none() | lengths), marks(), spots)
steps = st.builds(
    act.Step,
    sides,
    places,
    st.none() | aims,
    st.none() | st.sampled_from(["close", "straight", "front", "behind", "slide"]),
    st.none() | st.sampled_from(Contact),
)
shifts = st.builds(act.Shift, st.none() | sides, percents)
expectations = st.one_of(
    st.builds(act.ExpectShare, st.none() | sides, percents),
    st.builds(act.ExpectHeading, st.sampled_from(["torso", "gaze", "hips"]), facings),
    st.builds(act.ExpectHeading, st.just("toe"), facings, sides),
    st.builds(act.ExpectContact, sides, st.sampled_from(Contact)),
    st.builds(act.ExpectMeasure, st.sampled_from(["width", "length"]), lengths),
)
actions = st.one_of(
    shifts,
    pivots,
    steps,
    st.builds(act.Land, sides, st.sampled_from([Contact.FLAT, Contact.HEEL, Contact.BALL])),
    st.builds(act.Lift, sides, st.booleans()),
    st.builds(act.Torso, ways),
    st.builds(act.Gaze, ways),
    st.builds(
        act.Hand,
        sides,
        facings,
        st.sampled_from(["knee", "hip", "waist", "chest", "shoulder", "head", "above"]),
        st.none() | st.sampled_from(["push", "guard", "fist", "hook", "open", "palm-up", "palm-in"]),
    ),
    st.builds(
        act.Kick,
        sides,
        facings,
        st.sampled_from(["ankle", "knee", "hip", "waist", "chest", "head"]),
        st.none() | st.sampled_from(["heel", "toe", "edge", "sole"]),
    ),
    st.builds(act.Sink, decimals(0, 120), st.sampled_from([None, "more", "less"])),
    st.builds(act.Lean, decimals(-30, 60)),
    st.builds(act.Breathe, st.booleans()),
    st.just(act.Hold()),
    expectations,
)
notes = st.none() | st.text(st.characters(exclude_categories=["Cs", "Cc", "Zl", "Zp"]), min_size=1, max_size=20).map(
    str.strip
).filter(bool)


@st.composite
def several(draw: st.DrawFn) -> tuple[act.Action, ...]:
    """What one count does; beside a shift, turns may be early or late."""
    drawn = tuple(draw(st.lists(actions, max_size=4)))
    if not any(isinstance(action, act.Shift) for action in drawn):
        return drawn
    when: Any = st.sampled_from([None, "early", "late"])
    turning = (act.Pivot, act.Torso)
    return tuple(replace(each, when=draw(when)) if isinstance(each, turning) else each for each in drawn)


counts = st.builds(act.Count, several(), decimals(0.01, 100), notes)
