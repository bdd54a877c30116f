"""How a form is filmed: what is shown, from where, and what is heard."""

from __future__ import annotations

from waltzmark.core.base.records import Record

__all__ = ["FILM_KEYS", "FILM_RATES", "FILM_SHOWS", "FILM_SIZES", "FILM_SWITCHES", "FILM_VIEWS", "VOICES", "Film"]

FILM_VIEWS = ("above", "behind", "front", "mirrored")
FILM_SHOWS = ("floor", "figure", "both")
#: How much is spoken: nothing, names of postures, also feet and turns, also weights, waist and breath.
VOICES = ("none", "postures", "steps", "all")
FILM_SIZES = {"720p": (1280, 720), "1080p": (1920, 1080)}
#: Frames a second.
FILM_RATES = (25, 30)
#: What is on or off.
FILM_SWITCHES = ("tick", "breath", "beats", "waits", "dark")
#: What is chosen, in the order it is written.
FILM_KEYS = ("view", "show", "voice", "tempo", "passes", "size", "frames", "count_in", *FILM_SWITCHES)


class Film(Record):
    """What was chosen for a film or a track.

    view: where the floor is watched from; show: the floor, the figure or both; voice: one of `VOICES`; tempo: seconds a
    beat; passes: how often it is walked; size: one of `FILM_SIZES`; frames: a second; count_in: seconds before it
    begins; tick, breath: whether they are heard; beats: whether those of long counts are counted aloud; waits:
    whether a count waits for its words; dark: the theme of the practice hall.
    """

    view: str = "above"
    show: str = "both"
    voice: str = "steps"
    tempo: float = 1.5
    passes: int = 1
    size: str = "720p"
    frames: int = 25
    count_in: float = 5.0
    tick: bool = True
    breath: bool = False
    beats: bool = False
    waits: bool = False
    dark: bool = False
