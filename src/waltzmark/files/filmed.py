"""What a film or a track of a form has in it: when each count is walked, what is spoken, shown and chosen."""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.form.film import Film
from waltzmark.core.form.form import Form
from waltzmark.core.practice.timeline import Timeline, lay
from waltzmark.core.walk.trace import Trace
from waltzmark.files.films import Chapter
from waltzmark.files.sounds import Captioned, mixed
from waltzmark.files.speech import length_of
from waltzmark.words.cues import spoken
from waltzmark.words.ear import beat_words, places_of, seconds_words, wordings
from waltzmark.words.figures import PLAIN
from waltzmark.words.language import language, tr

__all__ = ["Plan", "film_plan", "sound_of"]

#: Seconds that the last stance stays.
_STAYS = 2.0
#: Bytes a second of film and track, about, by size: to tell beforehand how large one becomes.
_BYTES = {"720p": 90_000, "1080p": 170_000, "track": 8_000}


class Plan(NamedTuple):
    """timeline: its rows are numbered through all passes; rows: the row of the walk that each of them is."""

    film: Film
    timeline: Timeline
    rows: tuple[int, ...]
    captions: tuple[Captioned, ...]
    chapters: tuple[Chapter, ...]
    length: float

    @property
    def frames(self) -> int:
        """How many pictures it has."""
        return round(self.length * self.film.frames)

    @property
    def megabytes(self) -> float:
        """About how large a film becomes."""
        return self.length * _BYTES[self.film.size] / 1e6

    def position(self, seconds: float) -> float:
        """Where the playhead is at a time, in rows of the walk."""
        number, part = self.timeline.at(seconds)
        if number < 0:
            return float(self.rows[0] - 1)
        row = self.rows[number]
        return row - 1.0 + part


def film_plan(form: Form, trace: Trace, film: Film, first: str = "", last: str = "", told: Progress = SILENT) -> Plan:
    """What is to be filmed.

    Parameters
    ----------
    form, trace
        The form and its walk.
    film
        What was chosen.
    first, last
        Ids of the postures from and to which it is walked; the whole form where they are empty.
    told
        Is told that it goes on; may stop it.

    Returns
    -------
    Plan

    Raises
    ------
    WaltzmarkError
        Where a posture is not there, or nothing is walked; where something is to be spoken and there is no voice.
    """
    for posture in (first, last):
        if posture and posture not in trace.numbers:
            raise WaltzmarkError("sheet.no-posture", posture=posture)
    begin = trace.span(first)[0] if first else 1
    end = trace.span(last)[1] if last else len(trace)
    passage = list(range(begin, end))
    if not passage:
        raise WaltzmarkError("film.nothing")
    rows = tuple(passage * max(film.passes, 1))
    titles, places = {posture.id: posture.title for posture in form.postures}, places_of(form)
    said = {row: wordings(trace, row, film.voice, titles, places) for row in passage}
    tongue = language()
    takes = [(at, float(trace.beats[row]) * film.tempo) for at, row in enumerate(rows)]

    @cache
    def length(text: str, speed: float) -> float:
        told.tell(0.0, "sound")
        return length_of(text, speed, tongue)

    timeline = lay(
        takes,
        {at: said[row] for at, row in enumerate(rows)},
        length,
        film.count_in,
        waits=film.waits,
        seconds=seconds_words() if film.voice != "none" else None,
        beats={at: beat_words(float(trace.beats[row])) for at, row in enumerate(rows)} if film.beats else None,
    )
    shown = _captions(form, trace, timeline, rows)
    return Plan(film, timeline, rows, shown, _chapters(form, trace, timeline, rows), timeline.length + _STAYS)


def _captions(form: Form, trace: Trace, timeline: Timeline, rows: tuple[int, ...]) -> tuple[Captioned, ...]:
    figures = PLAIN.of(form)
    found: list[Captioned] = []
    if timeline.rows and timeline.rows[0][1] > 0.2:
        found.append(Captioned(0.0, timeline.rows[0][1], tr("Stand ready to begin.")))
    for at, begin, end in timeline.rows:
        row = rows[at]
        posture = trace.posture(row)
        text = spoken(trace, row, figures)
        if int(trace.counts[row]) == 1 and posture is not None:
            text = tr("{title}: {words}", title=form.posture(posture).title, words=text)
        found.append(Captioned(begin, end, text))
    return tuple(found)


def _chapters(form: Form, trace: Trace, timeline: Timeline, rows: tuple[int, ...]) -> tuple[Chapter, ...]:
    found: list[Chapter] = []
    for at, begin, end in timeline.rows:
        posture = trace.posture(rows[at])
        title = "" if posture is None else form.posture(posture).title
        if int(trace.counts[rows[at]]) == 1 or not found:
            found.append(Chapter(begin if found else 0.0, end, title))
        else:
            found[-1] = found[-1]._replace(end=end)
    return tuple(found)


def sound_of(plan: Plan, trace: Trace) -> Floats | None:
    """All that is heard; None where nothing is."""
    film = plan.film
    if film.voice == "none" and not film.tick and not film.breath and not film.beats:
        return None
    begins = [int(trace.counts[row]) == 1 for row in plan.rows]
    breaths = [trace.breaths[row] for row in plan.rows]
    timeline = plan.timeline._replace(length=plan.length)
    return mixed(timeline, begins, breaths, language=language(), ticking=film.tick, breathing=film.breath)
