"""What a mend does, as one reads it on its button and in the list of what can be undone."""

from __future__ import annotations

from waltzmark.words.language import N_
from waltzmark.words.sentences import Sentence

__all__ = ["SENTENCES"]

SENTENCES: dict[str, Sentence] = {
    "mend.shift-first": N_("Shift onto the {foot:foot} first"),
    "mend.shift": N_("Shift {share:percent} onto the {foot:foot}"),
    "mend.step-first": N_("Step first, then shift in a count of its own"),
    "mend.begin-on": N_("Begin with all the weight on the {foot:foot}"),
    "mend.clockwise": N_("Turn it clockwise"),
    "mend.counter": N_("Turn it counter-clockwise"),
    "mend.sit-back": N_("Sit back to {share:percent} on the {foot:foot} first"),
    "mend.turn-first": N_("Turn first, shift afterwards"),
    "mend.turn-on": N_("Turn it on the {part:part}"),
    "mend.flat-first": N_("Roll the {foot:foot} flat first"),
    "mend.flat": N_("Roll the {foot:foot} flat"),
    "mend.turn-in": N_("Turn it in only {turn:halves}"),
    "mend.turn-less": N_("Turn it out only {turn:halves}"),
    "mend.turn-and-push": N_(
        "Turn it in {turn:halves}, then push the heel out {rest:halves} once it carries everything"
    ),
    "mend.half-step": N_("Take a half step in the old facing before turning"),
    "mend.widen": N_("Widen the step to {width:cm}"),
    "mend.narrow": N_("Narrow the step to {width:cm}"),
    "mend.shorten": N_("Shorten the step to {length:cm}"),
    "mend.size": N_("Make the step {length:cm} long and {width:cm} wide"),
    "mend.rear-foot": N_("Turn the rear foot to {angle:degrees} on its {part:part}"),
    "mend.heel-down": N_("Set the rear heel down"),
    "mend.open": N_("Open the {foot:foot} by {turn:degrees} first"),
    "mend.one-by-one": N_("Empty and turn one foot after the other"),
    "mend.upright": N_("Come upright to {lean:degrees}"),
    "mend.turn-toward-kick": N_("Turn the {foot:foot} toward the kick first"),
    "mend.close-front": N_("Turn the {foot:foot} to the facing"),
    "mend.sink": N_("Sink to {bend:degrees} here"),
    "mend.sink-for-step": N_("Sink to {bend:degrees} for this step"),
    "mend.rise": N_("Rise to {bend:degrees}"),
    "mend.land-on": N_("Land on the {part:part}"),
    "mend.rest-on": N_("Set it on the {part:part}"),
    "mend.own-way": N_("Let the foot find its own way around"),
    "mend.chest-to": N_("Turn the chest only to {to:heading}"),
    "mend.chest-in-two": N_("Turn the chest in two counts"),
    "mend.chest-late": N_("Turn the chest once the weight has shifted"),
    "mend.follow": N_("Let the {foot:foot} follow by {turn:degrees}"),
    "mend.push-with": N_("Push with the {hand:hand}"),
    "mend.gaze-follows": N_("Let the gaze follow the chest"),
    # One side like the other
    "mend.alike": N_("Make {one:name} like {other:name}"),
    "mend.take-out": N_("Take count {count} out of {title:name}"),
    "mend.count-alike": N_("Make count {count} of {title:name} like the other side"),
    "mend.put-in": N_("Put a count of the other side into {title:name}"),
    "mend.tie-mirror": N_("Tie {title:name} to {of:name} as its mirror image"),
    "mend.tie-repeat": N_("Tie {title:name} to {of:name} as its repeat"),
    "mend.name-side": N_("Declare {title:name} the other side of {of:name}"),
}
