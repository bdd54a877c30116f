"""What the rules find about the body over its feet, and about what was expected; as in `finding_texts`."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.words.figures import Figures
from waltzmark.words.language import N_
from waltzmark.words.sentences import Sentence, fill

__all__ = ["OF_THE_BODY"]


def _follow(fields: Mapping[str, Any], figures: Figures) -> str:
    one = N_("Let one foot follow by {missing:degrees}.")
    return fill(N_("Let the {side:foot} follow by {missing:degrees}.") if "side" in fields else one, fields, figures)


def _off(clockwise: str, counter: str) -> Sentence:
    return lambda fields, figures: fill(clockwise if fields["clockwise"] else counter, fields, figures)


_SIT_BACK = N_("Sit back into the hip, or bend less.")
_WAIST = N_("Turn a foot along with it, or turn the chest no further than {to:heading}.")
_UNMET = N_("Change the counts before it, or change what is expected.")

#: Kind: what is found, and what to do about it.
OF_THE_BODY: dict[str, tuple[Sentence, Sentence]] = {
    # Hips, waist, knees
    "hip.range": (
        N_(
            "The chest turns {measured:degrees} past the hips. The waist has about {limit:degrees}; the knee takes the "
            "other {missing:degrees}."
        ),
        _WAIST,
    ),
    "hip.range.loaded": (
        N_(
            "The chest turns {measured:degrees} past the hips. This deep on one leg the waist has about "
            "{limit:degrees}; the knee takes the other {missing:degrees}."
        ),
        _WAIST,
    ),
    "hip.range.near": (
        N_(
            "The chest turns {measured:degrees} past the hips. With a leg this deep or this loaded, the waist has "
            "about {limit:degrees}."
        ),
        _WAIST,
    ),
    "hip.range.passing": (
        N_(
            "While the weight shifts, the chest gets {measured:degrees} past the hips. The waist has about "
            "{limit:degrees}; the knee takes the other {missing:degrees}."
        ),
        N_("Shift first and then turn the chest, or let the feet turn along."),
    ),
    "hip.range.unsaid": (
        N_("Nothing turns the chest, so it stays {measured:degrees} away from hips that face {pelvis:heading}."),
        N_("Write where the chest goes: torso …"),
    ),
    "hip.range.apart": (
        N_(
            "The feet point {measured:degrees} apart and both carry weight. The hips have {limit:degrees}; a knee takes "
            "the other {missing:degrees}."
        ),
        _follow,
    ),
    "hip.range.together": (
        N_(
            "The feet point {measured:degrees} toward each other and both carry weight. The hips have {limit:degrees}; "
            "a knee takes the other {missing:degrees}."
        ),
        _follow,
    ),
    "waist.twist.left": (
        N_("The posture ends with the chest {measured:degrees} to the left of the pelvis."),
        N_("Square the hips: let a foot follow, or turn the chest back."),
    ),
    "waist.twist.right": (
        N_("The posture ends with the chest {measured:degrees} to the right of the pelvis."),
        N_("Square the hips: let a foot follow, or turn the chest back."),
    ),
    "knee.past-toe": (N_("The {side:knee} is {measured:cm} past its toes."), _SIT_BACK),
    "knee.shin": (N_("The {side:shin} leans {measured:degrees} forward."), _SIT_BACK),
    "knee.ankle": (
        N_(
            "The {side:shin} leans {measured:degrees} over a heel that is down, and the ankle bends {limit:degrees}: "
            "the heel will lift."
        ),
        N_("Sink less, or leave a little more weight in front."),
    ),
    "knee.ankle.near": (
        N_(
            "The {side:shin} leans {measured:degrees} over a heel that is down, and the ankle bends {limit:degrees}: "
            "the heel may lift."
        ),
        N_("Sink less, or leave a little more weight in front."),
    ),
    "knee.inward": (
        N_("The {side:foot} is turned {measured:degrees} inward of this wide seat, with its knee bent {bend:degrees}."),
        N_("Open the foot to the line of the seat, or sit higher."),
    ),
    "knee.inward.seat": (
        N_("The {side:knee} bends {bend:degrees} over a foot that is turned out only {measured:degrees}."),
        N_("Turn the foot out at least {limit:degrees}, or sit higher."),
    ),
    "knee.locked": (
        N_("The {side:knee} is bent only {measured:degrees} with all the weight on it."),
        N_("Keep at least {limit:degrees} of bend in the knee."),
    ),
    "knee.locked.turning": (
        N_("The {side:knee} is bent only {measured:degrees} while its loaded foot turns."),
        N_("Keep at least {limit:degrees} of bend in the knee."),
    ),
    "knee.one-leg": (
        N_(
            "The {side:knee} bends {measured:degrees} with nearly all the weight on it. On one leg this body bends "
            "{limit:degrees}."
        ),
        N_("Sink to at most {limit:degrees} before all the weight is on one leg."),
    ),
    "knee.rising": (
        N_("You rise by {measured:degrees} of knee bend on the {side:leg} alone."),
        N_("Rise while both feet carry, or by at most {limit:degrees}."),
    ),
    "knee.rising.sinking": (
        N_("You sink by {measured:degrees} of knee bend on the {side:leg} alone."),
        N_("Sink while both feet carry, or by at most {limit:degrees}."),
    ),
    "knee.deep": (
        N_("The knees bend {measured:degrees} here. This body bends {limit:degrees} at most."),
        N_("Sink to at most {limit:degrees}."),
    ),
    # Balance
    "trunk.lean": (
        N_("The trunk leans {measured:degrees} forward."),
        N_("Come upright to {limit:degrees}, or bend at the hips and sit back."),
    ),
    "trunk.lean.wrung": (
        N_("The trunk leans {measured:degrees} forward with the waist turned."),
        N_("Come upright to {limit:degrees}, or let the feet turn along."),
    ),
    "trunk.lean.back": (
        N_("The trunk leans {measured:degrees} back."),
        N_("Come upright."),
    ),
    "kick.across": (
        N_("The {side:foot} kicks {measured:degrees} across the foot that stands."),
        N_("Turn the {other:foot} toward the kick first, or kick at most {limit:degrees} across."),
    ),
    "balance.left": (
        N_("The {side:foot} leaves the floor while the centre is still {outside:cm} outside the {other:sole}."),
        N_("Shift further onto the {other:foot} first."),
    ),
    "balance.margin": (
        N_("The centre is {measured:cm} from the edge of the support, toward {toward:heading}."),
        N_("Set the whole sole down, or shift less far toward the edge."),
    ),
    "balance.weak-line": (
        N_("Across the line of the feet, the support reaches only {measured:cm} to each side."),
        N_("Widen the stance, or turn the rear foot out."),
    ),
    "balance.part": (
        N_("The {side:foot} carries {share:percent} on its {part:part} alone for {measured:beats}."),
        N_("Roll the foot flat as the weight comes onto it."),
    ),
    "balance.bob": (
        N_("You rise {rise:cm} up to here and drop {fall:cm} after it."),
        N_("Keep your height through the step, or rise once and stay up."),
    ),
    "balance.one-leg": (
        N_("You stand on the {side:leg} alone for {measured:beats}."),
        N_("Touch down with the other foot in between. This school stands so for at most {limit:beats}."),
    ),
    # How the weight is shared
    "split.forward": (
        N_("The front foot carries {measured:percent}. In this school it carries {limit:percent}."),
        N_("Shift {limit:percent} onto it, give or take {within:percent}."),
    ),
    "split.light": (
        N_("The light front foot carries {measured:percent}. In this school it carries {limit:percent} at most."),
        N_("Leave at most {limit:percent} on it."),
    ),
    "split.light-contact.open": (
        N_("The waist is open, and the light foot rests on its {part:part}."),
        N_("With the waist open, this school rests it on the {wanted:part}."),
    ),
    "split.light-contact.square": (
        N_("The waist is square, and the light foot rests on its {part:part}."),
        N_("With the waist square, this school rests it on the {wanted:part}."),
    ),
    "split.even": (
        N_("The weight comes to 50/50, so neither foot is free to move."),
        N_("Favour the foot that stays, so that the other is free to move."),
    ),
    "split.even.ends": (
        N_("The posture ends with the weight at 50/50, so neither foot is free to move."),
        N_("Favour the foot that stays, so that the other is free to move."),
    ),
    # Habits
    "hand.front-leg": (
        N_("The {hand:hand} pushes with the {side:leg} in front."),
        N_("Push with the {free:hand}, or check whether a step is missing."),
    ),
    "gaze.beyond": (
        N_("The eyes look {measured:degrees} away from the chest."),
        N_("Turn the waist along with the gaze, or look less far."),
    ),
    "gaze.beyond.kick": (
        N_("The eyes look {measured:degrees} away from the kick."),
        N_("Look where you kick."),
    ),
    # Expectations
    "expect.unmet.share": (N_("“{expected}” is not met: the {foot:foot} carries {measured:percent}."), _UNMET),
    "expect.unmet.length": (N_("“{expected}” is not met: the stance is {measured:cm} long."), _UNMET),
    "expect.unmet.width": (N_("“{expected}” is not met: the stance is {measured:cm} wide."), _UNMET),
    "expect.unmet.contact": (N_("“{expected}” is not met: the {side:foot} is on its {part:part}."), _UNMET),
    "expect.unmet.air": (N_("“{expected}” is not met: the {side:foot} is in the air."), _UNMET),
    "expect.unmet.toe": (
        _off(
            N_("“{expected}” is not met: the {side:foot} points to {heading:heading}, {off:degrees} clockwise of it."),
            N_(
                "“{expected}” is not met: the {side:foot} points to {heading:heading}, {off:degrees} counter-clockwise "
                "of it."
            ),
        ),
        _UNMET,
    ),
    "expect.unmet.gaze": (
        _off(
            N_("“{expected}” is not met: the eyes look to {heading:heading}, {off:degrees} clockwise of it."),
            N_("“{expected}” is not met: the eyes look to {heading:heading}, {off:degrees} counter-clockwise of it."),
        ),
        _UNMET,
    ),
    "expect.unmet.torso": (
        _off(
            N_("“{expected}” is not met: the chest faces {heading:heading}, {off:degrees} clockwise of it."),
            N_("“{expected}” is not met: the chest faces {heading:heading}, {off:degrees} counter-clockwise of it."),
        ),
        _UNMET,
    ),
    "expect.unmet.hips": (
        _off(
            N_("“{expected}” is not met: the hips face {heading:heading}, {off:degrees} clockwise of it."),
            N_("“{expected}” is not met: the hips face {heading:heading}, {off:degrees} counter-clockwise of it."),
        ),
        _UNMET,
    ),
    "posture.ends": (
        N_(
            "{title:name} should end facing {wanted:heading}, but the chest faces {found:heading}, {measured:degrees} "
            "off."
        ),
        N_("End it with torso {score}, or change the facing it should end in."),
    ),
}
