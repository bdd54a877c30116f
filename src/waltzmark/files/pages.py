"""The words of a document: the text it is drafted from, what is settled of it, and what the writer chose."""

from __future__ import annotations

from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.units import as_float
from waltzmark.core.form.spoken import LANGUAGES, MOST_CHARACTERS, Chosen, Page, Standing
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_count
from waltzmark.files.rooms import RoomValues

__all__ = ["PAGE_KEYS", "PageValues"]

#: Seconds within which a caption is shown: a day.
_LATEST = 86_400.0
PAGE_KEYS: dict[str, tuple[str, ...]] = {
    "words": ("text", "language", "upto", "within", "posture", "choice", "times"),
    "words.posture": ("id", "from"),
    "words.choice": ("from", "nth", "count"),
}


class PageValues(RoomValues):
    """Reads the words of a document."""

    def page(self, stances: frozenset[str]) -> Page | None:
        """The words that the form is drafted from, with what is settled of them; None where there are none."""
        if "words" not in self.raw:
            return None
        raw = self.table("words")
        text = self.string("words", raw, "text") or ""
        if len(text) > MOST_CHARACTERS:
            self.fail(self.place("words", "text"), "file.words-long", most=MOST_CHARACTERS)
            return None
        language = self.choice("words", raw, "language", LANGUAGES, LANGUAGES[0])
        upto = raw.get("upto", 0)
        if not isinstance(upto, int) or isinstance(upto, bool) or not 0 <= upto <= len(text):
            self.fail(self.place("words", "upto"), "file.words-place", most=len(text))
            upto = 0
        within = raw.get("within", 0)
        if type(within) is not int or not 0 <= within <= len(text):
            self.fail(self.place("words", "within"), "file.words-place", most=len(text))
            within = 0
        standing, chosen = [], []
        for index, each in enumerate(self._tables_of("words.posture", raw.get("posture", []))):
            if (span := self._span("words.posture", each, index, len(text))) is not None:
                standing.append(Standing(self.string("words.posture", each, "id", index) or "", *span))
        for index, each in enumerate(self._tables_of("words.choice", raw.get("choice", []))):
            if (span := self._span("words.choice", each, index, len(text))) is not None:
                nth = each.get("nth", 0)
                count = self._counted(self.string("words.choice", each, "count", index) or "", stances, index)
                chosen.append(Chosen(*span, nth if isinstance(nth, int) else 0, count))
        times = tuple(self._times(raw.get("times", []), len(text)))
        return Page(text, language, upto, within, tuple(standing), tuple(chosen), times)

    def _times(self, raw: Any, most: int) -> list[tuple[int, float]]:
        """When captions were shown: pairs of a character and seconds."""
        pairs: list[Any] = raw if isinstance(raw, list) else [raw]
        found: list[tuple[int, float]] = []
        for pair in pairs:
            fine = isinstance(pair, list) and len(pair) == 2 and type(pair[0]) is int and type(pair[1]) in (int, float)
            if not fine or not 0 <= pair[0] <= most or not 0.0 <= as_float(pair[1]) < _LATEST:
                self.fail(self.place("words", "times"), "file.words-place", most=most)
                return []
            found.append((pair[0], as_float(pair[1])))
        return found

    def _tables_of(self, name: str, raw: object) -> list[dict[str, Any]]:
        if isinstance(raw, list) and all(isinstance(each, dict) for each in raw):
            for index, each in enumerate(raw):
                self.unknown_in(name, each, index)
            return raw
        self.fail(self.place("", name), "file.tables", table=name)
        return []

    def _span(self, table: str, raw: dict[str, Any], index: int, most: int) -> tuple[int, int] | None:
        span = raw.get("from")
        fine = isinstance(span, list) and len(span) == 2 and all(type(each) is int for each in span)
        if not fine or span is None or not 0 <= span[0] <= span[1] <= most:
            self.fail(self.place(table, "from", index), "file.words-place", most=most)
            return None
        return span[0], span[1]

    def _counted(self, text: str, stances: frozenset[str], index: int) -> Count | None:
        """A count that the writer chose; an empty one refuses the words."""
        try:
            return read_count(text, stances) if text.strip() else None
        except WaltzmarkError as error:
            self.fail(self.place("words.choice", "count", index), error.message)
            return None
