"""Writing score text in its one canonical form."""

from __future__ import annotations

from functools import lru_cache, singledispatch

from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import number_text
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Aim, Clock, Compass, Toward, Turn

__all__ = ["write_action", "write_aim", "write_count", "write_score"]


@singledispatch
def write_aim(aim: Aim) -> str:
    """A facing or turn as score text."""
    raise TypeError(aim)


@write_aim.register(Clock)
def _(aim: Clock) -> str:
    hour, minute = divmod(aim.minutes, 60)
    text = f"{hour or 12}:{minute:02d}" if minute else str(hour or 12)
    return "~" + text if aim.own else text


@write_aim.register(Compass)
def _(aim: Compass) -> str:
    return aim.point


@write_aim.register(Turn)
def _(aim: Turn) -> str:
    return ("-" if aim.degrees < 0 else "+") + number_text(abs(aim.degrees))


@write_aim.register(Toward)
def _(aim: Toward) -> str:
    return f"{'in' if aim.inward else 'out'} {number_text(aim.degrees)}"


@singledispatch
def write_action(action: act.Action) -> str:
    """One action as score text."""
    raise TypeError(action)


def _pair(left: float) -> str:
    return f"{number_text(left)}/{number_text(round(100.0 - left, 9))}"


@write_action.register(act.Shift)
def _(action: act.Shift) -> str:
    if action.side is None:
        return f"shift {_pair(action.percent)}"
    return f"shift {action.side.letter} {number_text(action.percent)}"


@write_action.register(act.Pivot)
def _(action: act.Pivot) -> str:
    text = f"pivot {action.side.letter} {action.part} {write_aim(action.aim)}"
    return " ".join(word for word in (text, action.sense, action.when) if word)


@singledispatch
def _place(place: act.Place) -> str:
    raise TypeError(place)


@_place.register(act.Faced)
def _(place: act.Faced) -> str:
    words = [write_aim(place.facing), place.manner, place.stance]
    if place.length is not None and place.width is not None:
        bare = place.length.unit == place.width.unit == "cm"
        words.append(f"{place.length.text(not bare)}x{place.width.text(not bare)}")
    elif place.width is not None:
        words.append(place.width.text())
    return " ".join(word for word in words if word)


@_place.register(act.Half)
def _(place: act.Half) -> str:
    return f"{write_aim(place.facing)} half"


@_place.register(act.Beside)
def _(place: act.Beside) -> str:
    return "beside" if place.gap is None else f"beside {place.gap.text()}"


@_place.register(act.Mark)
def _(place: act.Mark) -> str:
    text = f"at {place.side.letter}.{place.part}"
    if place.facing is not None and place.distance is not None:
        text += f" {write_aim(place.facing)} {place.distance.text()}"
    return text


@_place.register(act.Spot)
def _(place: act.Spot) -> str:
    return f"to {number_text(place.x, 2)} {number_text(place.y, 2)}"


@write_action.register(act.Step)
def _(action: act.Step) -> str:
    text = f"step {action.side.letter} {_place(action.place)}"
    if action.toe is not None:
        text += f" toe {write_aim(action.toe)}"
    if action.via is not None:
        text += f" via {action.via}"
    if action.land is not None:
        text += f" {action.land.word}"
    return text


@write_action.register(act.Land)
def _(action: act.Land) -> str:
    return f"{action.contact.word} {action.side.letter}"


@write_action.register(act.Lift)
def _(action: act.Lift) -> str:
    return f"lift {action.side.letter}{' knee' if action.knee else ''}"


@write_action.register(act.Torso)
def _(action: act.Torso) -> str:
    return f"torso {write_aim(action.aim)}" + (f" {action.when}" if action.when else "")


@write_action.register(act.Gaze)
def _(action: act.Gaze) -> str:
    return f"gaze {write_aim(action.aim)}"


@write_action.register(act.Hand)
def _(action: act.Hand) -> str:
    text = f"hand {action.side.letter} {write_aim(action.facing)} {action.height}"
    return f"{text} {action.shape}" if action.shape else text


@write_action.register(act.Sink)
def _(action: act.Sink) -> str:
    word = {None: "sink ", "more": "sink +", "less": "rise "}[action.by]
    return word + number_text(action.degrees)


@write_action.register(act.Lean)
def _(action: act.Lean) -> str:
    return f"lean {number_text(action.degrees)}"


@write_action.register(act.Kick)
def _(action: act.Kick) -> str:
    text = f"kick {action.side.letter} {write_aim(action.facing)} {action.height}"
    return f"{text} {action.part}" if action.part else text


@write_action.register(act.Breathe)
def _(action: act.Breathe) -> str:
    return f"breathe {'in' if action.inward else 'out'}"


@write_action.register(act.Hold)
def _(action: act.Hold) -> str:
    return "hold"


@write_action.register(act.ExpectShare)
def _(action: act.ExpectShare) -> str:
    if action.side is None:
        return f"expect {_pair(action.percent)}"
    return f"expect {action.side.letter} {number_text(action.percent)}"


@write_action.register(act.ExpectHeading)
def _(action: act.ExpectHeading) -> str:
    of = action.of if action.side is None else f"{action.side.letter} toe"
    return f"expect {of} {write_aim(action.facing)}"


@write_action.register(act.ExpectContact)
def _(action: act.ExpectContact) -> str:
    return f"expect {action.side.letter} {Contact(action.contact).word}"


@write_action.register(act.ExpectMeasure)
def _(action: act.ExpectMeasure) -> str:
    return f"expect {action.of} {action.length.text()}"


@write_action.register(act.Unread)
def _(action: act.Unread) -> str:
    return action.text


@lru_cache(maxsize=8192)
def write_count(count: act.Count) -> str:
    """One count as score text: actions, beats when not 1, note. A beat in which nothing is done is ``@1``."""
    actions = count.actions
    if count.one(act.Shift) is None:  # early and late are of a shift that has been taken out
        actions = tuple(replace(a, when=None) if isinstance(a, act.Pivot | act.Torso) else a for a in actions)
    parts = [", ".join(write_action(action) for action in actions)]
    if count.beats != 1.0 or not (count.actions or count.note):
        parts.append(f"@{number_text(count.beats)}")
    if count.note:
        parts.append(f"# {count.note}")
    return " ".join(part for part in parts if part)


def write_score(counts: tuple[act.Count, ...]) -> str:
    """Several counts, one a line."""
    return "\n".join(write_count(count) for count in counts)
