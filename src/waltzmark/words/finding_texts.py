"""What the rules find about feet and steps, in sentences: what and how much, and what to do about it.

A finding's kind is its rule, or its rule and what tells it from the rule's other findings. Every sentence may speak of
``measured`` and ``limit`` in the finding's unit, of ``side`` and the ``other`` one, and of the finding's own fields.
"""

from __future__ import annotations

from waltzmark.words.language import N_
from waltzmark.words.sentences import Sentence

__all__ = ["OF_FEET"]

_TURN_LIGHT = N_("Sit back first. In this school a foot turns with at most {limit:percent} on it.")
_IN_TWO = N_(
    "Turn it in two parts, with a shift in between. In this school a foot turns at most {limit:degrees} at once."
)
_SHORTEN = N_("Shorten the step.")
_TWICE = N_("Keep one of them, or write two counts.")
_REAR = N_("Turn it to {limit:degrees}, as this school has it, give or take {within:degrees}.")

#: Kind: what is found, and what to do about it.
OF_FEET: dict[str, tuple[Sentence, Sentence]] = {
    # Weight
    "weight.loaded-lift": (
        N_("The {side:foot} leaves the floor with {measured:percent} of the weight still on it."),
        N_("Shift all the weight to the {other:foot} first: shift {other:letter} 100."),
    ),
    "weight.in-air": (
        N_("{measured:percent} of the weight goes onto the {side:foot}, which is in the air."),
        N_("Set the foot down first: flat {side:letter}, or step {side:letter} …"),
    ),
    "weight.both-in-air": (
        N_("Both feet are off the floor at once."),
        N_("Make two counts of it: set one foot down before the other moves."),
    ),
    "weight.falling-step": (
        N_("The {side:foot} takes {measured:percent} in the very count it lands in: the body falls into the step."),
        N_("Step in one count and shift in the next."),
    ),
    "score.unread": (
        N_("“{text}” cannot be walked. At character {column}: {advice}"),
        N_("Correct the line."),
    ),
    "score.contradiction.hold": (N_("“hold” stands in a count in which something moves."), _TWICE),
    "score.contradiction.move": (N_("The {side:foot} moves twice in one count."), _TWICE),
    "score.contradiction.contact": (N_("The {side:foot} is set down or lifted twice in one count."), _TWICE),
    "score.contradiction.weight": (N_("The weight is shifted twice in one count."), _TWICE),
    "score.contradiction.hand": (N_("The {side:hand} is given twice in one count."), _TWICE),
    "score.contradiction.kick": (N_("The {side:foot} kicks twice in one count."), _TWICE),
    "score.contradiction.torso": (N_("The chest is turned twice in one count."), _TWICE),
    "score.contradiction.gaze": (N_("The gaze is given twice in one count."), _TWICE),
    "score.contradiction.sink": (N_("The bend of the knees is given twice in one count."), _TWICE),
    "score.contradiction.lean": (N_("The lean of the trunk is given twice in one count."), _TWICE),
    "score.contradiction.breathe": (N_("The breath is given twice in one count."), _TWICE),
    # Pivots
    "pivot.half-turn": (
        N_("The {side:foot} turns exactly 180°, and could go either way around."),
        N_("Write cw or ccw after the facing."),
    ),
    "pivot.loaded": (
        N_("The {side:foot} turns {turn:degrees} with {measured:percent} of the weight on it."),
        _TURN_LIGHT,
    ),
    "pivot.loaded.together": (
        N_(
            "The {side:foot} turns {turn:degrees} on its ball with {measured:percent} of the weight on it, and the "
            "pelvis turns with it."
        ),
        _TURN_LIGHT,
    ),
    "pivot.both": (
        N_("Both feet turn in one count, {measured:degrees} and more, with weight on both."),
        N_("Empty one foot and turn it, then the other."),
    ),
    "pivot.both.together": (
        N_("Both feet turn on their balls in one count, {measured:degrees} and more, and the body turns with them."),
        N_("Keep the knees soft, or empty one foot and turn it, then the other."),
    ),
    "pivot.sit-back": (
        N_("Only {measured:percent} of the weight is on the {other:foot} before this turn of {turn:degrees}."),
        N_("Before a big turn this school sits back to {limit:percent}."),
    ),
    "pivot.far": (
        N_("The {side:foot} turns {turn:degrees} at once."),
        _IN_TWO,
    ),
    "pivot.far.against": (
        N_("The {side:foot} turns {turn:degrees} at once, {measured:degrees} of it against the pelvis."),
        _IN_TWO,
    ),
    "pivot.part": (
        N_("The {side:foot} turns on its {part:part}. In this school it turns on its {wanted:part}."),
        N_("Turn it on the {wanted:part}."),
    ),
    "pivot.contact": (
        N_("The {side:foot} is to turn on its {part:part}, but only its {stands:part} is on the floor."),
        N_("Set the {part:part} down first, or turn on the part that is down."),
    ),
    "pivot.contact.air": (
        N_("The {side:foot} is to turn on its {part:part}, but it is in the air."),
        N_("Set the {part:part} down first."),
    ),
    "pivot.hip-range": (
        N_("The {side:foot} turns in {measured:degrees} across the hip. The hip has about {limit:degrees}."),
        N_("Let the hips turn along, or turn in as far as the hip goes and push the heel out afterwards."),
    ),
    # Stances
    "stance.narrow": (
        N_("The heels are only {measured:cm} apart across a stance {length:cm} long."),
        N_("Turn the waist before you step, and step wider."),
    ),
    "stance.crossed": (
        N_("The heels have crossed by {over:cm}."),
        N_("Write cross if you mean it. If not, curve the foot in and out, and widen the step."),
    ),
    "stance.crossed.line": (
        N_("The feet stand on one line: {measured:cm} apart across the way they point."),
        N_("Widen the step, or write cross if you mean it."),
    ),
    "stance.unemptied": (
        N_("Even with its heel or toes up, the light {side:foot} is {measured:cm} out of its leg’s reach."),
        N_("Shorten the stance, turn the hips toward the foot, or leave more weight on it."),
    ),
    "stance.wide": (
        N_("The heels are {measured:cm} apart; up to {limit:cm} is usual."),
        N_("Bring the foot in closer."),
    ),
    "stance.long": (
        N_("The stance is {measured:cm} long. With the knees bent {bend:degrees}, {limit:cm} would be in reach."),
        _SHORTEN,
    ),
    "stance.long.torn": (
        N_("The heels are {measured:cm} apart, too far for the leg that carries to reach its foot."),
        N_("Shorten the step, or shift before the pelvis turns."),
    ),
    "stance.rear-angle": (N_("The rear foot points {turned:degrees} out from the front."), _REAR),
    "stance.rear-angle.inward": (N_("The rear foot points {turned:degrees} inward, across the front."), _REAR),
    "stance.rear-angle.ahead": (N_("The rear foot points straight ahead."), _REAR),
    "stance.heel-floats": (
        N_("The {side:heel} is off the floor while that foot carries {measured:percent}."),
        N_("Set the rear heel down, or take all the weight off that foot."),
    ),
    "stance.overlap": (
        N_("The soles overlap: their middle lines come within {measured:cm} of each other."),
        N_("Set the foot down farther away, or turn it less."),
    ),
    "stance.low-held": (
        N_("From here the knees stay bent {bend:degrees} for {measured:beats}."),
        N_("Rise in between: this school stays so low for at most {limit:beats}."),
    ),
    # Steps
    "step.reach": (
        N_(
            "The {side:foot} lands {far:cm} away. That takes {measured:degrees} of bend in the standing knee, and it "
            "bends {limit:degrees}."
        ),
        N_("Sink deeper before the step, or shorten it."),
    ),
    "step.reach.most": (
        N_(
            "The {side:foot} lands {far:cm} away. That takes {measured:degrees} of bend in the standing knee, and on one "
            "leg this body bends {most:degrees} at most."
        ),
        _SHORTEN,
    ),
    "step.reach.never": (
        N_("The {side:foot} lands {far:cm} away, out of reach however deep the standing knee bends."),
        _SHORTEN,
    ),
    "step.landing.ahead": (
        N_("Stepping forward, the {side:foot} lands on its {part:part}. In this school it lands on its {wanted:part}."),
        N_("Land on the {wanted:part}."),
    ),
    "step.landing.back": (
        N_("Stepping back, the {side:foot} lands on its {part:part}. In this school it lands on its {wanted:part}."),
        N_("Land on the {wanted:part}."),
    ),
    "step.order.turn-first": (
        N_("The waist still has {measured:degrees} to turn when the foot leaves the floor."),
        N_("This school turns the waist part of the way first, then steps, then turns the rest."),
    ),
    "step.order.step-first": (
        N_("The waist has turned {measured:degrees} before the weight shifts."),
        N_("This school steps, shifts, and turns last."),
    ),
    "step.order.together": (
        N_("The waist still has {measured:degrees} to turn when the foot lands."),
        N_("This school turns waist and foot in the same count."),
    ),
    "step.cross-again": (
        N_("This is the second crossing step in a row."),
        N_("Open the stance with a step in between. A count may be missing."),
    ),
    "step.swing": (
        N_("On its way the {side:foot} runs {measured:cm} into the standing foot."),
        N_("Lead it around: via close, via front or via behind, or step in two counts."),
    ),
    "step.back-open": (
        N_("The {side:foot} in front is still turned out {measured:degrees} after the step back."),
        N_("Let it follow to the facing."),
    ),
    "step.drag": (
        N_("The {side:foot} is emptied {measured:cm} out of its leg’s reach, so it is dragged."),
        N_("Shorten the stance, or turn the hips toward the foot before emptying it."),
    ),
    "step.flow": (
        N_("{before:name} ends with {measured:percent} on the {side:foot}, and this posture begins by moving it."),
        N_("Shift to the other foot at the end of the posture before, or first thing here."),
    ),
}
