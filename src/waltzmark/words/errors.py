"""Errors: what is wrong, where, and what to do."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import Message
from waltzmark.core.base.showing import shown
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, tr
from waltzmark.words.sentences import Plural, Sentence, sentence

__all__ = ["SENTENCES", "explained"]


def _text(fields: Mapping[str, Any], _: Figures) -> str:
    """A text that may be anybody's, between quotation marks."""
    return tr("“{text}”", text=shown(str(fields["text"])))


SENTENCES: dict[str, Sentence] = {
    "value.text": _text,
    "value.other": lambda fields, _: shown(str(fields["text"])),
    "value.digits": Plural("a whole number of {n} digit", "a whole number of {n} digits", "n"),
    "value.table": N_("a table"),
    "value.list": N_("a list"),
    # Measures
    "unit.length": N_('{what} should be a length such as "25.5cm".'),
    "unit.length.not": N_('{what} should be a length such as "25.5cm", not {value}.'),
    "unit.mass": N_('{what} should be a mass such as "64kg".'),
    "unit.mass.not": N_('{what} should be a mass such as "64kg", not {value}.'),
    "unit.unknown": N_("{what}: unknown unit “{unit}”. Use {known:or}."),
    "unit.impossible": N_("{what} cannot be {value}. Use {least} to {most} {unit}."),
    "unit.too-long": N_("{value} is too long. Use at most 5 m."),
    "unit.stance-length": N_("{value} is not a length. Write for example 62cm, 2fl or 1.2sw."),
    "measure.length": N_("{value} is not a length. Write for example 3.2m, 120cm, 12 boards or 5 paces."),
    "measure.unit": N_("{value} is not a unit. Use cm, m, in, boards, tiles or paces."),
    "body.measure": N_("{name} must be a number above 0, not {value}."),
    "body.shank": N_(
        "A shank of {length:length} does not belong to a body {stature:length} tall. It is between {low:length} and "
        "{high:length}, usually about {usual:length}."
    ),
    "body.thigh": N_(
        "A thigh of {length:length} does not belong to a body {stature:length} tall. It is between {low:length} and "
        "{high:length}, usually about {usual:length}."
    ),
    "body.left-foot": N_("The left foot has a length of its own. Measure the right foot too."),
    # Score text
    "score.at": N_("Line {line}, column {column}: {advice}"),
    "score.meant": N_("{problem} Did you mean {suggestion}?"),
    "score.expected": N_("{problem} Expected {expected:or}."),
    "score.unread": N_("This line cannot be read."),
    "score.misplaced": N_("{word} does not belong here."),
    "score.no-action": N_("{word} is not an action."),
    "score.facing-first": N_("{word} comes after where the step faces, as in: {example}"),
    "score.order": N_("{word} is out of order. Write: {example}"),
    "score.too-short": N_("The count stops too early."),
    "score.one-line": N_("A count is one line."),
    "score.characters": N_("A count has at most {most} characters, and this one has {n}. Split it."),
    "score.actions": N_("A count has at most {most} actions, and this one has {n}. Split it."),
    "score.note": N_("A note has at most {most} characters, and this one has {n}."),
    "score.beats": N_("A count lasts more than 0 and at most 1000 beats, not {value}."),
    "score.hour": N_("A clock has the hours 1 to 12, not {hour}."),
    "score.minute": N_("A clock has the minutes 0 to 59, not {minute}."),
    "score.share": N_("A share is {least} to {most} per cent, not {value}."),
    "score.fraction": N_("{value} per cent of the weight is next to nothing."),
    "score.length": N_("A length is {least} to {most} {unit}, not {value}."),
    "score.turn": N_("A turn is {least} to {most} degrees, not {value}."),
    "score.place": N_("A floor position is {least} to {most} metres, not {value}."),
    "score.bend": N_("A knee bends {least} to {most} degrees, not {value}."),
    "score.rise": N_("A knee straightens by {least} to {most} degrees, not {value}."),
    "figure.no-count": N_("There is no count {count}. The last one is {last}."),
    "figure.not-svg": N_("A figure is drawn as SVG. Give the file the ending svg: {name} has another."),
    "score.lean": N_("A trunk leans {least} to {most} degrees, not {value}."),
    "score.pair": N_("{pair} adds up to {sum}, not to 100."),
    "score.sense": N_("{sense} goes with a facing. A turn has a direction of its own."),
    "score.when": N_("“{when}” needs a shift in the same count: it says whether the turn comes before it or after."),
    "score.two-toe": N_("This step has two toe facings. Keep one."),
    "score.two-via": N_("This step has two paths. Keep one."),
    "score.two-land": N_("This step has two landing contacts. Keep one."),
    "score.stance": N_("Unknown stance {stance}."),
    "score.heading": N_("A posture begins with its id, a colon and its name, such as: posture first: First posture"),
    "score.no-turn": N_("{value} is not a turn. Write for example -90."),
    "score.no-facing": N_("{value} is not a facing. Write for example 9, ~3 or NE."),
    "expected.clock": N_("a clock facing such as 10:30"),
    "expected.compass": N_("a compass point such as NE"),
    "expected.turn": N_("a turn such as +45"),
    "expected.percent": N_("a percentage such as 70"),
    "expected.pair": N_("left/right such as 70/30"),
    "expected.degrees": N_("degrees such as 45"),
    "expected.metres": N_("metres such as 0.40"),
    "expected.size": N_("length x width such as 62x38"),
    "expected.length_value": N_("a length such as 40 or 15in"),
    "expected.stance": N_("a stance such as bow"),
    "expected.forward": N_("degrees forward such as 10, or -5 for back"),
    "expected.more": N_("how much more, such as +10"),
    "expected.beats": N_("@ and beats such as @2"),
    "expected.comma": N_("a comma"),
    "expected.note": N_("# and a note"),
    "expected.$end": N_("the end of the line"),
    # Forms
    "form.two-ids": N_("Two postures have the id “{posture}”. Each needs an id of its own."),
    "form.lines": N_(
        "With everything that is repeated and mirrored the form has {lines} lines. At most {most} can be walked."
    ),
    "form.source-unknown": N_("Posture “{posture}”: {key} names “{other}”, and there is no posture with that id."),
    "form.two-sources": N_("Posture “{posture}” has both mirror_of and repeat_of. Keep one."),
    "form.own-source": N_("Posture “{posture}” takes its counts from itself."),
    "form.axis-own": N_("Posture “{posture}”: a mirror line lies on the floor. Give its axis without ~."),
    "form.source-and-counts": N_("Posture “{posture}” has counts of its own and takes those of “{source}”. Keep one."),
    "form.no-axis": N_('Posture “{posture}”: mirror_of needs an axis, such as axis = "9:00".'),
    "form.later-places": N_(
        "Posture “{posture}” takes its counts from “{source}”, which steps to floor positions and comes later in the "
        "form. Put it earlier."
    ),
    "form.circle": N_("Postures take their counts from each other in a circle: {circle}."),
    "form.too-long": N_(
        "The form has {counts} counts and {lengths} lengths of its own, too many to weigh against each other."
    ),
    "loops.too-many": N_("Loops are found in forms of up to {most} postures, and this one has {n}."),
    "edit.counts-elsewhere": N_(
        "{title:name} takes its counts from {source:name}. Edit that posture, or turn these into counts of their own."
    ),
    "edit.split": N_("{title:name} can only be split between two of its lines."),
    "edit.join": N_("There is no posture after {title:name} to join it with."),
    "mend.same-counts": N_(
        "{title:name} takes its counts from {source:name}, so both are written alike. What differs comes from the stance "
        "it begins from."
    ),
    "mend.tied": N_("{title:name} already takes its counts from {source:name}."),
    "mend.no-repeat": N_("A repeat with counts of its own cannot be declared. Tie it instead."),
    "mute.reason": N_("Say why {rule} is right here: a finding is ignored with a reason."),
    "mute.posture": N_("To ignore {rule} in one count, name its posture too."),
    # Schools
    "school.reach": N_("A share of reach is above 0 and at most 1.5, not {reach}."),
    "school.length": N_("A length is 0 or more, not {length}. The score says back."),
    "school.toe": N_("A toe turns out by at most 180 degrees, not {turn}."),
    "school.limit": N_("{name} is a limit that is never reached: {value}."),
    "school.lean": N_("lean: a trunk leans -30 to 60 degrees forward, not {lean}."),
    "school.waist-twist": N_("waist_twist: a waist stays twisted by 0 to 180 degrees, not {twist}."),
    "cli.no-bodies": N_("The form knows no bodies to fit it to. Name one with --body."),
    "cli.one-body": N_("A fitted form can be written for one body, not for {n}. Name it with --body."),
    "school.fit": N_("{name} is not a kind of change that a form is fitted by. There are {known:list}."),
    "school.fit-price": N_("fit: {name} costs more than 0 and at most 100, not {price}."),
    "school.stances": N_("A school needs the stances bow and cross. Missing: {missing:list}."),
    "school.choice": N_("Rule {rule}: {name} is {known:or}, not {value}."),
    "school.base": N_('School {name}: base should be the id of a school in quotes, such as "broad-frame".'),
    "school.base-itself": N_("School {name} is based on itself."),
    "school.unknown": N_("There is no school “{name}”. There are {known:list}."),
    # Rooms
    "outline.room": N_("The room’s outline"),
    "outline.layer": N_("The outline on layer {layer}"),
    "outline.obstacle": N_("The outline of {name:name}"),
    "outline.corners": N_("{what} needs at least three corners, and has {n}."),
    "outline.far": N_("{what}: corner {corner}, at ({x}, {y}) m, is not within {most} m."),
    "outline.crosses": N_(
        "{what} crosses itself: the side after corner {first} meets the side after corner {second}. List the corners in "
        "order around the floor."
    ),
    "outline.flat": N_("{what} encloses no floor: its corners lie on one line."),
    "room.corners": N_("A room needs at least three corners."),
    "room.wall-length": N_("A wall is {least} to 1000 m long, not {metres} m."),
    "room.obstacle-size": N_("An obstacle is at least 2 cm wide and deep."),
    "room.wall": N_("The wall {name:name} begins at corner {corner}. The corners of this room are 0 to {last}."),
    "room.circle": N_("{name:name} is a circle of {radius} m. Use up to 100 m."),
    "room.mark": N_("A mark at ({x}, {y}) m, turned {heading:halves}, is not within {most} m."),
    "room.tape": N_("A piece of tape does not lie within {most} m."),
    "room.measure": N_("{name} is not within {most} m."),
    "room.door-wall": N_("A door is in wall {wall}. The walls of this room are 0 to {last}."),
    "room.door": N_(
        "A door of {leaf} m, {at} m from corner {corner}, is longer than what is left of its wall, {length} m long."
    ),
    # Practice
    "entry.zone": N_("The time of an entry needs its time zone."),
    "entry.kind": N_("There is no practice of the kind {kind}. There are {known:list}."),
    "entry.outcome": N_("An entry ends {known:or}, not {outcome}."),
    "entry.side": N_("A side is left or right, not {side}."),
    "entry.long": N_("{name} has more than {most} characters."),
    "entry.figure": N_("{name} is not a figure that can be measured: {value}."),
    "entry.below": N_("Repetitions and minutes are 0 or more."),
    "scale.reading": N_("A plate reads 0 to {most} kg, not {value}."),
    "scale.time": N_("A reading needs its time."),
    "drill.over": N_("This drill is over."),
    "drill.reps": N_("A drill has 1 to {most} repetitions a side, not {n}."),
    "drill.nothing": N_("Choose what to drill."),
}


def explained(error: BaseException | Message, figures: Figures = PLAIN) -> str:
    """What an error says, as it is shown; the text of one that is not ours."""
    if isinstance(error, WaltzmarkError):
        error = error.message
    if isinstance(error, Message):
        return sentence(error, figures)
    return str(error)
