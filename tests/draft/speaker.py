"""A speaker who says counts in plain words, English or Spanish: what is said is drafted, and must be the counts again.

It knows nothing of lexicons: sentences are made from counts, and readers make counts from sentences.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import NamedTuple

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form, Opening
from waltzmark.core.score.read import read_count
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.step import step
from waltzmark.core.walk.walk import ground_of, walk

__all__ = ["LANGUAGES", "Talk", "talk"]

LANGUAGES = ("en", "es")
_HOURS = {
    "en": ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"),
    "es": ("la una", "las dos", "las tres", "las cuatro", "las cinco", "las seis", "las siete", "las ocho", "las nueve",
           "las diez", "las once", "las doce"),
}  # fmt: skip
_SIDES = {"en": ("left", "right"), "es": ("izquierd", "derech")}


class Talk(NamedTuple):
    """What was said, sentence by sentence, and the counts that were meant."""

    sentences: tuple[str, ...]
    counts: tuple[str, ...]

    @property
    def text(self) -> str:
        return " ".join(self.sentences)


class _Speaker:
    """Says one count after the other, as the body stands."""

    def __init__(self, chance: random.Random, language: str) -> None:
        self.chance, self.language = chance, language
        form = Form(opening=Opening("hip"))
        self.pose: Pose = walk(form).passages[-1].exit
        self.ground: Ground = ground_of(form)
        self.said: list[str] = []
        self.counts: list[str] = []

    # Words.

    def side(self, side: Side, ending: str = "") -> str:
        """A side; Spanish bends it."""
        return _SIDES[self.language][side] + (ending if self.language == "es" else "")

    def hour(self, hour: int) -> str:
        """An hour, as a word or a figure."""
        if self.language == "en":
            words = _HOURS["en"][hour - 1]
            return self.chance.choice((words, str(hour), f"{hour} o'clock"))
        return self.chance.choice((_HOURS["es"][hour - 1], "la 1" if hour == 1 else f"las {hour}"))

    def pick(self, english: tuple[str, ...], spanish: tuple[str, ...]) -> str:
        return self.chance.choice(english if self.language == "en" else spanish)

    def say(self, sentence: str, count: str) -> None:
        self.said.append(sentence[:1].upper() + sentence[1:] + ".")
        self.counts.append(count)
        self.pose = step(self.pose, read_count(count), self.ground)[0]

    # What can be done as the body stands.

    @property
    def empty(self) -> Side | None:
        return next((side for side in Side if self.pose.share(side) < 0.01), None)

    def pour(self) -> None:
        # To another share than now: nobody says what is so already.
        side, share = self.chance.choice(list(Side)), self.chance.choice((100, 80, 70, 60))
        if abs(100.0 * self.pose.share(side) - share) < 1.0:
            side = side.other
        if self.pose.foot(side).contact is Contact.AIR:
            side = side.other
        if abs(100.0 * self.pose.share(side) - share) < 1.0:
            return
        if share == 100:
            words = self.pick(
                (f"shift all your weight to the {self.side(side)} leg",
                 f"pour all the weight into the {self.side(side)} foot",
                 f"put all of your weight on the {self.side(side)} leg"),
                (f"pasa todo el peso a la pierna {self.side(side, 'a')}",
                 f"traslada todo el peso al pie {self.side(side, 'o')}",
                 f"pon todo el peso en la pierna {self.side(side, 'a')}"),
            )  # fmt: skip
        else:
            words = self.pick(
                (f"shift {share} percent of the weight onto the {self.side(side)} leg",
                 f"put {share}% of the weight on the {self.side(side)} foot"),
                (f"pasa el {share} por ciento del peso a la pierna {self.side(side, 'a')}",
                 f"pon el {share}% del peso en el pie {self.side(side, 'o')}"),
            )  # fmt: skip
        self.say(words, f"shift {side.letter} {share}")

    def stride(self) -> None:
        side = self.empty
        if side is None:
            self.pour()
            return
        hour = self.chance.randint(1, 12)
        words = self.pick(
            (f"step to {self.hour(hour)} with the {self.side(side)} foot, heel first",
             f"the {self.side(side)} foot steps to {self.hour(hour)}, landing on the heel"),
            (f"da un paso a {self.hour(hour)} con el pie {self.side(side, 'o')}, primero el talón",
             f"el pie {self.side(side, 'o')} da un paso a {self.hour(hour)}, el talón toca primero"),
        )  # fmt: skip
        self.say(words, f"step {side.letter} {hour} bow heel")

    def retreat(self) -> None:
        side = self.empty
        if side is None:
            self.pour()
            return
        words = self.pick(
            (f"step back with the {self.side(side)} foot, ball first",),
            (f"da un paso atrás con el pie {self.side(side, 'o')}, primero la punta",),
        )
        self.say(words, f"step {side.letter} {clock_text(self.pose.torso)} back ball")

    def gather(self) -> None:
        side = self.empty
        if side is None:
            self.pour()
            return
        words = self.pick(
            (f"bring the {self.side(side)} foot in beside the {self.side(side.other)}, touching with the ball",
             f"draw the {self.side(side)} foot in next to the {self.side(side.other)} foot, on its ball"),
            (f"trae el pie {self.side(side, 'o')} al lado del {self.side(side.other, 'o')}, tocando con la punta",),
        )  # fmt: skip
        self.say(words, f"step {side.letter} beside ball")

    def pivot(self) -> None:
        side = self.empty
        if side is None or self.pose.foot(side).contact is Contact.AIR:
            self.pour()
            return
        if self.chance.random() < 0.5:
            way, degrees = self.chance.choice(("in", "out")), self.chance.choice((20, 30, 45))
            spanish = {"in": "hacia dentro", "out": "hacia fuera"}[way]
            words = self.pick(
                (f"turn the {self.side(side)} foot {way} {degrees} degrees on the heel",
                 f"turn the toes of the {self.side(side)} foot {way} {degrees} degrees"),
                (f"gira el pie {self.side(side, 'o')} {spanish} {degrees} grados",),
            )  # fmt: skip
            self.say(words, f"pivot {side.letter} heel {way} {degrees}")
        else:
            hour = self.chance.randint(1, 12)
            words = self.pick(
                (f"turn the {self.side(side)} foot to {self.hour(hour)}",
                 f"swing the {self.side(side)} toes to {self.hour(hour)}"),
                (f"gira el pie {self.side(side, 'o')} hasta {self.hour(hour)}",),
            )  # fmt: skip
            self.say(words, f"pivot {side.letter} heel {hour}")

    def turn(self) -> None:
        hour = self.chance.randint(1, 12)
        words = self.pick(
            (f"turn the body to {self.hour(hour)}", f"turn your torso to face {self.hour(hour)}"),
            (f"gira el cuerpo a {self.hour(hour)}", f"gira la cintura a {self.hour(hour)}"),
        )
        self.say(words, f"torso {hour}")

    def lift(self) -> None:
        side = self.empty
        if side is None or self.pose.foot(side).contact is Contact.AIR:
            self.pour()
            return
        words = self.pick((f"lift the {self.side(side)} knee",), (f"levanta la rodilla {self.side(side, 'a')}",))
        self.say(words, f"lift {side.letter} knee")

    def speak(self, sentences: int) -> Talk:
        ways: tuple[Callable[[], None], ...] = (
            self.pour, self.pour, self.stride, self.retreat, self.gather, self.pivot, self.turn, self.lift,
        )  # fmt: skip
        while len(self.said) < sentences:
            self.chance.choice(ways)()
        return Talk(tuple(self.said), tuple(self.counts))


def talk(seed: int, language: str, sentences: int) -> Talk:
    """So many sentences said at random, and the counts that they mean."""
    return _Speaker(random.Random(seed), language).speak(sentences)
