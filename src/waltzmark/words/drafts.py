"""What is said of a draft: why something of a count is given, chosen or doubtful, and how sure a count is."""

from __future__ import annotations

from waltzmark.core.draft.drafting import Unused
from waltzmark.core.draft.slots import Slot
from waltzmark.core.draft.standing import Made
from waltzmark.words.language import N_, tr

__all__ = ["how_named", "left_words", "reason", "reasons"]

_WHY = {
    "angle.far": N_("as far as the foot goes: 45°"),
    "angle.unsaid": N_("how far is not said"),
    "angle.where": N_("where it turns to is not said"),
    "bend.little": N_("a little is 10°"),
    "contact.where": N_("it may step there, or come up where it stands"),
    "expect.false": N_("it is not so at this point"),
    "facing.ahead": N_("straight ahead, where nothing else is said"),
    "facing.corner": N_("the corner on the foot’s own side"),
    "facing.square": N_("square to the front of the stance"),
    "facing.before": N_("back to where it faced before"),
    "facing.which": N_("which corner is not said"),
    "foot.bent": N_("the knee that bends takes the weight"),
    "foot.empty": N_("the foot is not named: it is the empty one, or the last named"),
    "foot.front": N_("forward is onto the front foot"),
    "foot.last": N_("the foot named last"),
    "foot.rear": N_("back is onto the rear foot"),
    "foot.straight": N_("the leg that straightens gives its weight away"),
    "foot.twice": N_("the same foot steps twice, with no change of weight between"),
    "foot.unsaid": N_("which foot is not said"),
    "height.chest": N_("chest height, where nothing else is said"),
    "height.waist": N_("waist height, where nothing else is said"),
    "part.heel": N_("on the heel, where nothing else is said"),
    "place.near": N_("how near is not said"),
    "share.all": N_("all of it, where nothing else is said"),
    "share.bow": N_("the share of a bow stance"),
    "share.most": N_("“most” is taken as 80 %"),
    "share.stated": N_("told as what is so, but it is not so yet"),
    "share.there": N_("the weight is there already"),
    "stance.bow": N_("a bow stance, where nothing else is said"),
    "taught": N_("as you taught it"),
    "turn.feet": N_("how the feet turn with it is not said"),
    "way.behind": N_("a step that crosses behind is written as one in front"),
    "way.side": N_("to the foot’s own side"),
    "way.unsaid": N_("where it goes is not said"),
    "way.which": N_("which way is not said"),
    "weight.empty": N_("put in, so that the foot is empty before it steps"),
    "word.mended": N_("a slip of the pen was mended"),
    "words.unread": N_("some of the words beside it were not understood"),
}
_HOW = {
    "said": N_("said"),
    "given": N_("by convention"),
    "chosen": N_("chosen"),
    "doubtful": N_("doubtful"),
    "inserted": N_("put in"),
    "yours": N_("yours"),
    "taken": N_("taken"),
    "refused": N_("refused"),
}
_LEFT = {
    "idle": N_("not about the form"),
    "unread": N_("not understood"),
    "not an act": N_("told, but not done"),
}


def reason(slot: Slot) -> str:
    """Why something of a count is as it is; empty where it was said."""
    return tr(_WHY[slot.why]) if slot.why else ""


def reasons(made: Made, given: bool = False) -> str:
    """What was chosen and what is doubtful of a count, and where asked for what is given by convention."""
    hows = ("doubtful", "chosen", "inserted", *(("given",) if given else ()))
    told = [reason(slot) for how in hows for slot in made.slots if slot.how == how]
    return "; ".join(dict.fromkeys(filter(None, told)))


def how_named(how: str) -> str:
    """How sure a row is, by its name; also of those that are settled."""
    return tr(_HOW[how])


def left_words(unused: Unused) -> str:
    """Why words are not used."""
    return tr(_LEFT[unused.why])
