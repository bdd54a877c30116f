"""The words that a form is drafted from.

The text, how far it is settled, where each posture stands in it, and the choices that the writer made.
"""

from __future__ import annotations

from waltzmark.core.base.records import Record, replace
from waltzmark.core.score.actions import Count

__all__ = ["LANGUAGES", "MOST_CHARACTERS", "Chosen", "Page", "Standing"]

#: That words can be drafted from.
LANGUAGES = ("en", "es")
#: Characters of a text that can be drafted: some hundred pages.
MOST_CHARACTERS = 200_000


class Standing(Record):
    """Where the words of a posture stand in the text."""

    posture: str
    start: int
    stop: int


class Chosen(Record):
    """What the writer made of words that are not taken yet.

    start, stop: the characters they stand in; nth: of several counts of the same words, which; count: what they are to
    be, None where they are refused.
    """

    start: int
    stop: int
    nth: int = 0
    count: Count | None = None


class Page(Record):
    """A text with what is settled of it.

    upto: the characters that are taken, refused or left aside; within: of the counts whose words end there, how many
    are; language: of the lexicon that reads it; times: of captions, the characters at which they begin, and when,
    seconds.
    """

    text: str
    language: str = "en"
    upto: int = 0
    within: int = 0
    standing: tuple[Standing, ...] = ()
    chosen: tuple[Chosen, ...] = ()
    times: tuple[tuple[int, float], ...] = ()

    def edited(self, at: int, removed: int, added: str) -> Page:
        """The page with some characters of its text exchanged for others; what stands after them moves along.

        Parameters
        ----------
        at
            Where the first of them stood.
        removed
            How many went.
        added
            What came in their place.

        Returns
        -------
        Page
            Choices whose words were touched are gone; what was settled before stays settled.
        """
        by, end = len(added) - removed, at + removed

        def moved(place: int) -> int:
            return place if place <= at else place + by if place >= end else at

        text = self.text[:at] + added + self.text[end:]
        standing = tuple(replace(each, start=moved(each.start), stop=moved(each.stop)) for each in self.standing)
        chosen = tuple(
            each if each.stop <= at else replace(each, start=each.start + by, stop=each.stop + by)
            for each in self.chosen
            if each.stop <= at or each.start >= end  # also what comes right before the words leaves them alone
        )
        times = tuple((moved(place), seconds) for place, seconds in self.times)
        upto = min(moved(self.upto), len(text))
        return replace(self, text=text, upto=upto, standing=standing, chosen=chosen, times=times)

    def time_at(self, place: int) -> float | None:
        """When the caption was shown in which a character stands, seconds; None where the text has no times."""
        return next((seconds for at, seconds in reversed(self.times) if at <= place), None)

    def choosing(self, choice: Chosen) -> Page:
        """The page with one more choice, in place of an older one for the same words."""
        others = tuple(c for c in self.chosen if (c.start, c.stop, c.nth) != (choice.start, choice.stop, choice.nth))
        return replace(self, chosen=(*others, choice))

    def settled(self, upto: int, within: int = 0, standing: Standing | None = None) -> Page:
        """The page settled up to a character.

        With so many of the counts whose words end there, and where a posture stands in it.
        """
        others = tuple(each for each in self.standing if standing is None or each.posture != standing.posture)
        standings = others if standing is None else (*others, standing)
        return replace(self, upto=upto, within=within, standing=standings)
