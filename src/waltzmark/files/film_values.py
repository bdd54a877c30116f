"""How a form is filmed, read from its table."""

from __future__ import annotations

from waltzmark.core.form.film import FILM_RATES, FILM_SHOWS, FILM_SIZES, FILM_SWITCHES, FILM_VIEWS, VOICES, Film
from waltzmark.files.rooms import RoomValues

__all__ = ["FilmValues"]


class FilmValues(RoomValues):
    """Reads the film of a document."""

    def film(self) -> Film:
        """What was chosen for a film; what is not said is as it usually is."""
        raw, usual = self.table("film"), Film()
        switches = {name: raw.get(name, getattr(usual, name)) for name in FILM_SWITCHES}
        for name, value in switches.items():
            if not isinstance(value, bool):
                self.fail(self.place("film", name), "file.switch")
                switches[name] = False
        passes = self.number("film", raw, "passes", usual.passes, 1, 99, "")
        if passes != round(passes):
            self.fail(self.place("film", "passes"), "file.whole")
        frames = raw.get("frames", usual.frames)
        if isinstance(frames, bool) or frames not in FILM_RATES:
            rates = tuple(str(each) for each in FILM_RATES)
            self.fail(self.place("film", "frames"), "file.choice", value=str(frames)[:20], choices=rates, hint=None)
            frames = usual.frames
        return Film(
            self.choice("film", raw, "view", FILM_VIEWS, usual.view),
            self.choice("film", raw, "show", FILM_SHOWS, usual.show),
            self.choice("film", raw, "voice", VOICES, usual.voice),
            self.number("film", raw, "tempo", usual.tempo, 0.2, 20.0, "s"),
            round(passes),
            self.choice("film", raw, "size", tuple(FILM_SIZES), usual.size),
            frames,
            self.number("film", raw, "count_in", usual.count_in, 0.0, 60.0, "s"),
            **switches,
        )
