"""What is known of the form in its room, worked out off the interface thread: sweep, map, best starts, changes."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.changes import Advice, advice
from waltzmark.core.room.shape import silhouette
from waltzmark.core.room.starts import StartMap, Starts
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.desk import Desk

__all__ = ["Ground", "RoomSearch"]

_PAUSE_MS = 250  # before a search begins
_ASKERS = ("room ground", "room map", "room advice")


class Ground(Record, eq=False):
    """A form's sweep in its room, ready to be moved about: its starts, and the rings around what it sweeps."""

    starts: Starts
    rings: tuple[Floats, ...]


def _ground(trace: Trace, room: Room, _progress: Progress) -> Ground:
    sweep = Sweep(trace, room.arms)
    sweep.prepare()
    return Ground(Starts(sweep, room), tuple(silhouette(trace)))


def _map(starts: Starts, heading: float, _progress: Progress) -> tuple[StartMap, Floats]:
    """A map, and its values four times as fine, for drawing."""
    zoom = library("scipy.ndimage").zoom

    found = starts.map_at(heading)
    fine = max(min(4, 1200 // max(found.spare.shape)), 1)
    return found, np.asarray(zoom(found.spare, fine, order=1, grid_mode=True, mode="nearest"))


class RoomSearch(QObject):
    """Keeps what has been worked out for the present form and room, and asks for what has not."""

    grounded = Signal()  # the sweep is ready to be moved about
    mapped = Signal()
    advised = Signal()  # something more is known
    told = Signal(float, str)  # how far the search is

    def __init__(self, desk: Desk, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs, self._document = desk.jobs, desk.document
        self._key: tuple[Any, ...] | None = None
        self._asked: object = None
        self.ground: Ground | None = None
        self.map: StartMap | None = None
        self.fine: Floats | None = None
        self.advice: Advice | None = None

    @property
    def searching(self) -> bool:
        return self._jobs.busy("room advice")

    def look(self) -> None:
        """Works out what is not known of the document's form; where its start lies makes no difference to the sweep."""
        form = self._document.form
        if form.room is None:
            self.forget()
            return
        key = (form.postures, form.body, form.school, form.opening, form.torso, form.twelve, _elsewhere(form.room))
        if key != self._key:
            self.forget()  # what was known of another form
            self._key = key
            work = partial(_ground, self._document.trace, form.room)
            self._jobs.ask("room ground", work, self._take_ground)
        self._ask_advice(form)

    def rest(self) -> None:
        """The form changes where this is not seen: what is still looked for is not wanted any more."""
        if any(map(self._jobs.busy, _ASKERS)):
            self.forget()

    def forget(self) -> None:
        """Nothing is known any more."""
        for asker in _ASKERS:
            self._jobs.stop(asker)
        self._key = self._asked = self.ground = self.map = self.fine = self.advice = None

    def stop(self) -> None:
        """Stops the search; what has been found stays."""
        self._jobs.stop("room advice")
        self.told.emit(1.0, "stopped")

    def search_again(self) -> None:
        """Searches anew."""
        self._asked = None
        self._ask_advice(self._document.form)

    def _take_ground(self, ground: Ground) -> None:
        self.ground = ground
        self.grounded.emit()

    def ask_map(self, heading: float) -> None:
        """Asks for the map of a heading, unless it is known."""
        if self.ground is not None and (self.map is None or abs(self.map.heading - heading) > 1e-6):
            self._jobs.ask("room map", partial(_map, self.ground.starts, heading), self._take_map)

    def _take_map(self, found: tuple[StartMap, Floats]) -> None:
        self.map, self.fine = found
        self.mapped.emit()

    def _ask_advice(self, form: Form) -> None:
        asked = form
        if self._asked == asked:
            return
        known = self.advice
        if known is not None and known.done and form.room is not None and self._key is not None:
            # Another start in the same room: all that is known of the others holds.
            from waltzmark.core.room.changes import here

            now = here(form, self._document.trace)
            if now.fits:
                self._asked, self.advice = asked, replace(known, here=now, changes=())
                self.advised.emit()
                return
        self._asked = asked
        self._jobs.ask(
            "room advice",
            partial(advice, form),
            self._take_advice,
            partial=self._take_advice,
            progress=self.told.emit,
            pause=_PAUSE_MS,
            process=True,
        )

    def _take_advice(self, known: Advice) -> None:
        old = self.advice
        if old is not None and not known.done:  # what is known of this room already is shown until there is more
            known = replace(
                known, rose=old.rose if known.rose is None else known.rose, starts=known.starts or old.starts
            )
        self.advice = known
        if known.done:
            self.told.emit(1.0, "")
        self.advised.emit()


def _elsewhere(room: Room) -> Room:
    return replace(room, start=Start(), breaks=(), name="")
