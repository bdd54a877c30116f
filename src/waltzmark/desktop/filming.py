"""Films drawn by the painters of the window, without one: the walk, the figure and the words, picture by picture."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QPoint, QRect, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPen
from PySide6.QtWidgets import QWidget
from shiboken6 import delete, isValid

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.form.film import FILM_SIZES, Film
from waltzmark.core.form.form import Form
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.document import Document
from waltzmark.desktop.practise.large import Banner, LargeView
from waltzmark.desktop.theme import DARK, LIGHT
from waltzmark.desktop.widgets.figure_view import FigureView
from waltzmark.files.filmed import Plan, film_plan, sound_of
from waltzmark.files.films import FILMS, MOVING, write_film, write_moving
from waltzmark.files.sounds import TRACKS, write_track
from waltzmark.words.language import tr

__all__ = ["Pictures", "make_film"]

#: Of the width for words, by what is shown beside them.
_WORDS = {"floor": 0.46, "figure": 0.5, "both": 0.4}
_BESIDE = 0.5  # of the rest is floor, where floor and figure are shown
_ACROSS = 1.75  # metres of floor that are shown at least
_TOLD = 0.1  # seconds after which it is asked whether to stop
#: Of pictures that move on a page: their width, pixels, and of how many frames one is taken.
_PAGE = 640, 5
#: Where the figure is seen from, where the floor is watched from somewhere.
_SEEN = {"above": "behind", "behind": "behind", "front": "front", "mirrored": "mirrored"}


class Pictures:
    """Draws a film's pictures: the form at any moment of its plan."""

    def __init__(self, form: Form, plan: Plan) -> None:
        self.plan = plan
        self.size = FILM_SIZES[plan.film.size]
        self._theme = DARK if plan.film.dark else LIGHT
        self._document = Document()
        self._document.new(form)
        self._document.close()  # nobody asks what is found in it
        self._large = LargeView(self._document, self._theme)
        self._large.set_view(plan.film.view)
        self._large.setFixedSize(*self.size)
        self._large.across = _ACROSS
        self._large.words_part = _WORDS[plan.film.show]
        self._large.floor_part = {"floor": 1.0, "both": _BESIDE}.get(plan.film.show, 0.0)
        self._figure = FigureView(self._document, self._theme)
        self._figure.set_seen(_SEEN[plan.film.view])
        self._figure.setFixedSize(self._pane().size())
        self._image = QImage(*self.size, QImage.Format.Format_RGB32)

    def close(self) -> None:
        """Takes its widgets away now, and here: left to be collected, they might be in another thread."""
        for each in (self._large, self._figure, self._document):
            if isValid(each):
                delete(each)

    def _pane(self) -> QRect:
        """Where the figure is drawn."""
        wide, high = self.size
        floor = round((1.0 - _WORDS[self.plan.film.show]) * wide)
        if self.plan.film.show == "figure":
            return QRect(0, 0, floor, high)
        left = round(_BESIDE * floor)
        return QRect(left, 0, floor - left, high)

    def at(self, seconds: float) -> QImage:
        """The picture of a moment; the next one is drawn over it."""
        plan, session = self.plan, self._document.session
        begins = plan.timeline.rows[0][1]
        self._large.banner = None
        if seconds < begins:
            left = max(int(begins - seconds + 0.999), 1)
            self._large.banner = Banner(
                str(left),
                self._document.title,
                tr("Stand in the first stance. Stop when it hurts, and keep a support within reach."),
            )
        session.go(plan.position(seconds))
        self._image.fill(self._theme.color("paper"))  # what lies there shines through the edges of panes
        with QPainter(self._image) as painter:
            _draw(self._large, painter, QPoint(0, 0))
            if plan.film.show != "floor":
                pane = self._pane()
                painter.fillRect(pane, self._theme.color("paper"))
                _draw(self._figure, painter, pane.topLeft())
                painter.setPen(QPen(self._theme.color("rule"), 1.5))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(pane).adjusted(0.5, 0.5, -0.5, -0.5))
        return self._image

    def array(self, seconds: float) -> Any:
        """The picture of a moment as an array of shape (height, width, 4): blue, green, red and nothing."""
        image = self.at(seconds)
        wide, high = self.size
        return np.frombuffer(image.constBits(), np.uint8).reshape(high, wide, 4)

    def frames(self, told: Progress) -> Iterator[Any]:
        """All pictures in order; what stands still is not drawn again."""
        number, last, drawn = self.plan.frames, None, None
        spoken = 0.0
        for at in range(number):
            if (now_ := time.monotonic()) - spoken > _TOLD:
                told.tell(at / number, "filming")
                spoken = now_
            seconds = at / self.plan.film.frames
            waits = int(self.plan.timeline.rows[0][1] - seconds + 0.999) if not last or last[0] else 0
            now = (max(waits, 0), self.plan.position(seconds))
            if drawn is None or now != last:
                drawn, last = self.array(seconds), now
            yield drawn


def _draw(widget: QWidget, painter: QPainter, at: QPoint) -> None:
    widget.render(painter, at, renderFlags=QWidget.RenderFlag.DrawWindowBackground)


def make_film(form: Form, film: Film, path: Path, first: str, last: str, told: Progress) -> tuple[Path, ...]:
    """Makes a film or a track of a form, as the suffix of its file says; there is no half file.

    Needs a QApplication. Raises WaltzmarkError where it cannot be made, StoppedError where it is told to stop.
    """
    trace, suffix = walk(form), path.suffix.lower()
    if suffix == MOVING:
        film = replace(film, voice="none", beats=False)
    plan = film_plan(form, trace, film, first, last, told)
    if suffix in TRACKS:
        sound = sound_of(plan, trace)
        return write_track(path, np.zeros(1) if sound is None else sound, form.title, plan.timeline.cues, told)
    if suffix not in (*FILMS, MOVING):
        raise WaltzmarkError("film.kind", name=path.name)
    with closing(Pictures(form, plan)) as pictures:
        frames = pictures.frames(told)
        if suffix == MOVING:
            return write_moving(path, frames, film.frames, _PAGE[1], _PAGE[0])
        sound = sound_of(plan, trace)
        return write_film(
            path, frames, pictures.size, film.frames, sound, plan.captions, plan.chapters, form.title, told
        )
