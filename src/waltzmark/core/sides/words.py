"""What two counts do otherwise, in the words of practitioners: “its right step is 3 cm longer”."""

from __future__ import annotations

from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.score.actions import Pivot
from waltzmark.core.score.write import write_count
from waltzmark.core.sides.beside import TOPICS, Beside, Said
from waltzmark.core.sides.differences import Compared, CountPair
from waltzmark.core.sides.offs import Off
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.step import STEP
from waltzmark.core.walk.trace import Trace

__all__ = [
    "CAUSES", "beside_words", "count_words", "entry_words", "off_words", "pair_words", "rest_words", "said_beside",
    "worst_words",
]  # fmt: skip

CAUSES = {"none": "", "entry": "from its entry", "written": "written so", "both": "written so, and from its entry"}


def off_words(
    off: Off, side_of: tuple[Side, Side], within: Tolerance, say: Figures = PLAIN, most: int = 9, entered: bool = False
) -> list[str]:  # fmt: skip
    """What the other count does otherwise, what matters most first; *side_of*: which of its feet is the posture's left
    and right one. entered: it is a stance that is spoken of, not a step."""
    found: list[tuple[float, str]] = []

    def tell(times: float, words: str) -> None:
        if times > 1.0 + 1e-9:
            found.append((times, words))

    mirrored = side_of[0] is Side.RIGHT
    for side in Side:
        word = side_of[side].word
        ahead, aside = off.ahead[side], off.aside[side]
        far = max(abs(ahead), abs(aside)) / within.cm
        length, width = off.length[side], off.width[side]
        if entered:
            if side is Side.LEFT:  # the right foot says the same of the left one
                tell(far, _stance(off, side_of, within, say))
        elif far > 1.0 + 1e-9:
            parts = [
                f"{say.length(abs(value) / 100)} {words[value < 0]}"
                for value, words in ((length, ("longer", "shorter")), (width, ("wider", "narrower")))
                if abs(value) > within.cm
            ]
            if not parts:  # neither the length nor the width by so much: the way of it
                parts = [f"off by {say.length((length * length + width * width) ** 0.5 / 100)}"]
                if abs(length) + abs(width) < 0.05:
                    parts = [f"off by {say.length((ahead * ahead + aside * aside) ** 0.5 / 100)}"]
            tell(far, f"right step {' and '.join(parts)}".replace("right", word, 1))
        turn = off.heading[side] * (-1.0 if mirrored else 1.0)
        if abs(turn) > within.degrees:
            outward = turn * side_of[side].sign > 0
            tell(abs(turn) / within.degrees, f"{word} foot {_degrees(turn)} further {'out' if outward else 'in'}")
        if off.round[side]:
            tell(2.0, f"{word} foot turns the other way round")
        if off.part[side]:
            tell(2.0, f"{word} foot turns on another part")
        if off.contact[side]:
            tell(2.0, f"{word} foot down otherwise")
    torso = off.torso * (-1.0 if mirrored else 1.0)
    way = "to the right" if torso > 0 else "to the left"
    tell(abs(torso) / within.degrees, f"chest {_degrees(torso)} further {way}")
    heavier = side_of[Side.LEFT if off.weight > 0 else Side.RIGHT]
    tell(abs(off.weight) / within.percent, f"{abs(off.weight):.0f} % more on the {heavier.word}")
    tell(abs(off.sink) / within.degrees, f"knees {_degrees(off.sink)} {'deeper' if off.sink > 0 else 'higher'}")
    lean = "forward" if off.lean > 0 else "back"
    tell(abs(off.lean) / within.degrees, f"trunk {_degrees(off.lean)} further {lean}")
    found.sort(key=lambda each: -each[0])
    return [words for _, words in found[:most]]


def _stance(off: Off, side_of: tuple[Side, Side], within: Tolerance, say: Figures) -> str:
    """How the feet stand otherwise than they should."""
    word = side_of[0].word
    parts = [
        f"{say.length(abs(value) / 100)} {words[value < 0]}"
        for value, words in ((off.ahead[0], ("further ahead", "further back")), (off.aside[0], ("wider", "narrower")))
        if abs(value) > within.cm
    ]
    return f"{word} foot {' and '.join(parts)}"


def _degrees(turn: float) -> str:
    return f"{abs(turn):.0f}°"


def sides_of(compared: Compared) -> tuple[Side, Side]:
    """Which of the other's feet is the posture's left one, and which its right one."""
    return compared.fold.side(Side.LEFT), compared.fold.side(Side.RIGHT)


def count_words(
    compared: Compared, pair: CountPair, traces: tuple[Trace, Trace], say: Figures = PLAIN, beside: bool = True
) -> list[str]:  # fmt: skip
    """What the other's count does otherwise; empty where it does the same. traces: of the posture and the other;
    beside: with what it says beside feet, weight and chest."""
    if pair.other is None or pair.count is None:
        own, row = (traces[0], pair.row) if pair.other is None else (traces[1], pair.other_row)
        assert row is not None
        text = write_count(own.written[row])
        return [f"not there: “{text}”" if pair.other is None else f"one more: “{text}”"]
    words = off_words(pair.off, sides_of(compared), compared.within, say)
    assert pair.row is not None and pair.other_row is not None
    told = [_exactly(each, compared, pair, traces) for each in words]
    return told + [beside_words(each, compared, say) for each in pair.beside] if beside else told


def beside_words(each: Beside, compared: Compared, say: Figures = PLAIN, clause: bool = False) -> str:
    """What the other says beside feet, weight and chest: “left hand at the knee, not at the chest”. clause: as a clause
    about it, “its left hand is at the knee, not at the chest”."""
    word = "" if each.side is None else compared.fold.side(each.side).word
    subject, verb = {
        "hand": (f"{word} hand", "is"), "kick": (f"{word} kick", "goes"), "gaze": ("eyes", "look"),
        "beats": ("", ""), "breath": ("", ""), "path": (f"{word} foot", ""),
    }[each.topic]  # fmt: skip
    theirs, mine = said_beside(each, compared, say)
    rest = f"{theirs}, not {mine}" if mine and theirs else theirs or f"not written: {mine}"
    if not mine and each.topic in ("hand", "kick", "breath"):
        rest = f"{theirs}, not written in the other"
    if not clause:
        return f"{subject} {rest}".strip()
    return f"its {subject} {verb} {rest}".replace("  ", " ") if subject else f"it {rest}"


def said_beside(each: Beside, compared: Compared, say: Figures = PLAIN) -> tuple[str, str]:
    """What the other says, and what the posture does as it would lie there; empty for nothing. Facings are told where
    they differ, or where only one of both says anything."""
    mine, theirs = each.mine, each.theirs
    heading = None if mine is None or mine.heading is None else compared.fold.heading(mine.heading)
    facings = [None if theirs is None else theirs.heading, heading]
    if None not in facings and say.toward(facings[0] or 0.0) == say.toward(facings[1] or 0.0):
        facings = [None, None]
    told = tuple(
        "" if said is None else _said(each.topic, said, None if facing is None else say.toward(facing))
        for said, facing in zip((theirs, mine), facings, strict=True)
    )
    if each.topic == "path":  # it goes close unless it says otherwise
        told = tuple(words or "goes close" for words in told)
    return told[0], told[1]


def _said(topic: str, said: Said, toward: str | None) -> str:
    if topic == "beats":
        return f"takes {said.beats:g} beat{'s' if said.beats != 1 else ''}"
    if topic == "breath":
        return f"breathes {said.height}"
    if topic == "path":
        return {"front": "goes round the front", "behind": "goes round behind", "slide": "slides"}.get(
            said.height, f"goes {said.height}"
        )
    parts = [f"toward {toward}"] if toward is not None else []
    if said.height:
        parts.append(f"at the {said.height}" if topic == "hand" else f"{said.height} high")
    if said.part:
        parts.append(said.part)
    return ", ".join(parts) if topic != "gaze" else parts[0] if parts else "the same way"


def rest_words(compared: Compared) -> str:
    """What differs where feet, weight and chest do not: “feet, weight and chest are the same; the hands differ”."""
    names = [TOPICS[topic] for topic in compared.beside]
    if not names or not compared.feet_same:
        return ""
    listed = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
    verb = "differs" if names == ["breath"] else "differ"
    return f"feet, weight and chest are the same; the {listed} {verb}"


def _exactly(words: str, compared: Compared, pair: CountPair, traces: tuple[Trace, Trace]) -> str:
    """The same, with what it is and what it should be."""
    for side in Side:
        other = compared.fold.side(side)
        if not words.startswith(other.word):
            continue
        assert pair.row is not None and pair.other_row is not None
        if words.endswith("on another part"):
            pivots = traces[0].written[pair.row].one(Pivot, side), traces[1].written[pair.other_row].one(Pivot, other)
            here, there = (pivot.part if pivot is not None else "no part" for pivot in pivots)
            return f"{other.word} foot turns on the {there}, not the {here}"
        if words.endswith("down otherwise"):
            here, there = (
                _contact(trace, row, foot)
                for trace, row, foot in ((traces[0], pair.row, side), (traces[1], pair.other_row, other))
            )
            if here != there:
                return f"{other.word} foot {there}, not {here}"
            moved = [
                trace.move_kinds[row, foot] == STEP
                for trace, row, foot in ((traces[0], pair.row, side), (traces[1], pair.other_row, other))
            ]
            if moved[0] != moved[1]:
                return f"{other.word} foot {'steps' if moved[1] else 'does not step'}"
            return f"{other.word} foot {'slides' if _slides(traces[1], pair.other_row, other) else 'is lifted'}"
    return words


def _contact(trace: Trace, row: int, side: Side) -> str:
    contact = Contact(int(trace.contacts[row, side]))
    return {Contact.AIR: "in the air", Contact.FLAT: "flat"}.get(contact, f"on its {contact.word}")


def _slides(trace: Trace, row: int, side: Side) -> bool:
    return bool(trace.move_contacts[row, side] != Contact.AIR)


def entry_words(compared: Compared, say: Figures = PLAIN) -> list[str]:
    """How the stance that the other is entered in differs; empty where it does not."""
    words = off_words(compared.entry, sides_of(compared), compared.within, say, entered=True)
    return [each.replace("down otherwise", "otherwise on the floor") for each in words]


def worst_words(pair: Pair, trace: Trace, say: Figures = PLAIN) -> str:
    """What differs most, as a clause about the other: “its right step is 3 cm longer in count 4”."""
    compared = pair.compared
    worst = compared.worst
    if worst is None:
        return ""
    if worst.other is None:
        assert worst.row is not None
        return f"it lacks count {worst.count}, “{write_count(trace.written[worst.row])}”"
    if worst.count is None:
        assert worst.other_row is not None
        return f"it has one count more, count {worst.other}, “{write_count(trace.written[worst.other_row])}”"
    if worst.feet_same(compared.within):
        return f"{beside_words(worst.beside[0], compared, say, clause=True)} in count {worst.other}"
    words = count_words(compared, worst, (trace, trace), say)[0]
    return f"{_clause(words)} in count {worst.other}{_because(worst, compared.within)}"


def _because(worst: CountPair, within: Tolerance) -> str:
    return ", for it is entered otherwise" if worst.cause(within) == "entry" else ""


def _clause(words: str) -> str:
    """Words about a count as a clause: “right step 3 cm longer” becomes “its right step is 3 cm longer”."""
    head, _, rest = words.partition(" ")
    second, _, more = rest.partition(" ")
    if head in ("left", "right") and second in ("step", "foot"):
        verb = "" if more.startswith(("turns", "slides", "is ", "steps", "does")) else "is "
        return f"its {head} {second} {verb}{more}"
    if head in ("chest", "trunk"):
        return f"its {head} turns {rest}" if head == "chest" else f"its trunk leans {rest}"
    if head == "knees":
        return f"its knees are {rest}"
    return f"it has {words}"


def pair_words(pair: Pair, trace: Trace, say: Figures = PLAIN) -> str:
    """A pair in one sentence."""
    what = "other side" if pair.kind == "mirror" else "repeat"
    if pair.empty:
        return f"Neither has counts yet: there is nothing to compare with its {what}."
    entered = "; it is entered otherwise" if pair.cause == "entry" else ""
    rest = rest_words(pair.compared)
    if rest and (pair.same or pair.compared.feet_same):
        count = next(each for each in pair.compared.counts if each.beside)
        said = beside_words(count.beside[0], pair.compared, say, clause=True)
        return f"{rest[:1].upper()}{rest[1:]}: {said} in count {count.other}{entered}."
    if pair.same:
        return f"The same{entered}."
    said = worst_words(pair, trace, say)
    different = sum(not each.same(pair.compared.within) for each in pair.compared.counts)
    more = f", and {different - 1} more count{'s' if different > 2 else ''}" if different > 1 else ""
    return f"{said[:1].upper()}{said[1:]}{more}."
