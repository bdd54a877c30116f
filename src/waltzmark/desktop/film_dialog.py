"""The dialog that makes films and tracks: what is shown and heard, a picture of it, its length and size."""

from __future__ import annotations

import os
from contextlib import closing
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QAccessible, QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QCheckBox, QComboBox, QDialog, QHBoxLayout, QVBoxLayout, QWidget
from shiboken6 import isValid

from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.form.film import FILM_RATES, FILM_SHOWS, FILM_SIZES, FILM_SWITCHES, FILM_VIEWS, VOICES, Film
from waltzmark.core.form.form import Form
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import set_tip, wrapped
from waltzmark.desktop.widgets.fields import number_field, row_of_fields, whole_field
from waltzmark.desktop.widgets.parts import choice_box, push_button, quiet, refill, row_of
from waltzmark.desktop.widgets.search import Search
from waltzmark.files.filmed import Plan, film_plan
from waltzmark.words.ear import HEARD_WORDS, LEVEL_WORDS
from waltzmark.words.errors import explained
from waltzmark.words.language import N_, language, ntr, number, tr

__all__ = ["FilmDialog"]

_VIEWS = {
    "above": N_("from above"),
    "behind": N_("from behind"),
    "front": N_("from the front"),
    "mirrored": N_("mirrored, as a class sees its teacher"),
}
_SHOWS = {"floor": N_("floor and words"), "figure": N_("figure and words"), "both": N_("floor, figure and words")}
_SIZES = {"720p": "1280 × 720", "1080p": "1920 × 1080"}
_DARK = N_("Dark")
_FILM_FILES, _TRACK_FILES = tr("Films (*.webm *.mp4 *.webp)"), tr("Tracks (*.opus *.flac *.wav)")


def _filmed(
    form: Form, film: Film, path: Path, passage: tuple[str, str], tongue: str, told: Progress
) -> tuple[Path, ...]:
    """Makes a film in a process that has no window."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from waltzmark.words.language import pick

    pick(tongue)
    from PySide6.QtWidgets import QApplication

    from waltzmark.desktop.filming import make_film

    application = QApplication([])
    made = make_film(form, film, path, *passage, told)
    del application
    return made


def _planned(form: Form, trace: Trace, film: Film, first: str, last: str, told: Progress) -> Plan:
    return film_plan(form, trace, film, first, last, told)


@guarded
class _Picture(QWidget):
    """A picture of the film, as large as there is room."""

    role = QAccessible.Role.Graphic

    def __init__(self) -> None:
        super().__init__()
        self.image: QImage | None = None
        self.setMinimumSize(480, 270)
        self.setAccessibleName(tr("A picture of the film"))

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self.image is None:
            return
        size = self.image.size().scaled(self.size(), Qt.AspectRatioMode.KeepAspectRatio)
        box = QRectF(
            (self.width() - size.width()) / 2, (self.height() - size.height()) / 2, size.width(), size.height()
        )
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(box, self.image)


@guarded
class FilmDialog(QDialog):
    """Chooses what is filmed; the choices are kept with the document, as one undo step."""

    def __init__(self, desk: Desk, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Film"))
        self.resize(980, 600)
        self.desk = desk
        self.plan: Plan | None = None
        film, form = desk.document.form.film, desk.document.form
        titles = [posture.title for posture in form.postures]
        self.first, self.last = QComboBox(), QComboBox()
        for box, words, at in ((self.first, tr("From"), 0), (self.last, tr("to"), len(titles) - 1)):
            box.setAccessibleName(words)
            box.addItems(titles)
            box.setCurrentIndex(at)
        self.show_ = choice_box(tr("Shown"), [tr(_SHOWS[each]) for each in FILM_SHOWS])
        self.view = choice_box(tr("Seen"), [tr(_VIEWS[each]) for each in FILM_VIEWS])
        self.voice = choice_box(tr("Spoken"), [tr(LEVEL_WORDS[each]) for each in VOICES])
        self.size_ = choice_box(tr("Size"), [_SIZES[each] for each in FILM_SIZES])
        self.tempo = number_field(tr("Tempo"), 0.2, 20.0, 1)
        self.tempo.setSuffix(" " + tr("s a beat"))
        self.passes = whole_field(tr("Times"), 1, 99, film.passes, " ×")
        self.count_in = whole_field(tr("Count-in"), 0, 60, round(film.count_in), " " + tr("s"))
        self.frames = choice_box(tr("Frames"), [tr("{n} a second", n=each) for each in FILM_RATES])
        self.switches = {name: QCheckBox(tr(HEARD_WORDS.get(name, _DARK))) for name in FILM_SWITCHES}
        set_tip(
            self.switches["waits"],
            tr("A count waits until its words are spoken; else words that have no time are left out"),
        )
        self.picture, self.said = _Picture(), wrapped(points=10.0)
        self.search = Search(desk.jobs, "film", pause=0, alone=True, even=True)
        self._fill(film)
        left = QVBoxLayout()
        left.addLayout(
            row_of_fields(
                (
                    (tr("From"), self.first), (tr("to"), self.last), (tr("Shown"), self.show_), (tr("Seen"), self.view),
                    (tr("Spoken"), self.voice), (tr("Tempo"), self.tempo), (tr("Times"), self.passes),
                    (tr("Count-in"), self.count_in), (tr("Size"), self.size_), (tr("Frames"), self.frames),
                )
            )
        )  # fmt: skip
        for check in self.switches.values():
            left.addWidget(check)
        left.addStretch(1)
        self.make = push_button(tr("Save the film …"), self.save_film, tr("A film with captions and chapters"))
        self.track = push_button(tr("Save the sound …"), self.save_track, tr("The sound alone, with its words beside"))
        left.addLayout(row_of(self.make, self.track))
        right = QVBoxLayout()
        right.addWidget(self.picture, 1)
        right.addWidget(self.said)
        right.addWidget(self.search)
        whole = QHBoxLayout(self)
        whole.addLayout(left)
        whole.addLayout(right, 1)
        for choice in (self.first, self.last, self.show_, self.view, self.voice, self.size_, self.frames):
            choice.activated.connect(safely(lambda _at: self.refresh()))
        for field in (self.tempo, self.passes, self.count_in):
            field.valueChanged.connect(safely(lambda _value: self.refresh()))
        for check in self.switches.values():
            check.toggled.connect(safely(lambda _on: self.refresh()))
        self._ids = tuple(posture.id for posture in form.postures)
        desk.document.form_changed.connect(safely(self._follow))
        self.refresh()

    def _follow(self) -> None:
        """The form is another: the passage stays from and to the same postures, where they are still there."""
        if not isValid(self) or not self.isVisible():
            return
        form = self.desk.document.form
        ids = tuple(posture.id for posture in form.postures)
        titles = [posture.title for posture in form.postures]
        for box, at in ((self.first, 0), (self.last, len(ids) - 1)):
            chosen = self._ids[box.currentIndex()] if 0 <= box.currentIndex() < len(self._ids) else ""
            ends = box.currentIndex() == (0 if box is self.first else len(self._ids) - 1)
            refill(box, titles, at if ends or chosen not in ids else ids.index(chosen))
        self._ids = ids
        self.refresh()

    def _fill(self, film: Film) -> None:
        boxes = (self.show_, self.view, self.voice, self.size_, self.frames)
        with quiet(*boxes, self.tempo, *self.switches.values()):
            self.show_.setCurrentIndex(FILM_SHOWS.index(film.show))
            self.view.setCurrentIndex(FILM_VIEWS.index(film.view))
            self.voice.setCurrentIndex(VOICES.index(film.voice))
            self.size_.setCurrentIndex(list(FILM_SIZES).index(film.size))
            self.frames.setCurrentIndex(FILM_RATES.index(film.frames))
            self.tempo.setValue(film.tempo)
            for name, check in self.switches.items():
                check.setChecked(getattr(film, name))

    @property
    def film(self) -> Film:
        """What is chosen."""
        return Film(
            view=FILM_VIEWS[self.view.currentIndex()],
            show=FILM_SHOWS[self.show_.currentIndex()],
            voice=VOICES[self.voice.currentIndex()],
            tempo=self.tempo.value(),
            passes=self.passes.value(),
            size=list(FILM_SIZES)[self.size_.currentIndex()],
            frames=FILM_RATES[self.frames.currentIndex()],
            count_in=float(self.count_in.value()),
            **{name: check.isChecked() for name, check in self.switches.items()},
        )

    @property
    def passage(self) -> tuple[str, str]:
        """Ids of the first and the last posture."""
        postures = self.desk.document.form.postures
        if not postures:
            return "", ""
        ends = sorted((max(self.first.currentIndex(), 0), max(self.last.currentIndex(), 0)))
        return postures[ends[0]].id, postures[ends[1]].id

    def refresh(self) -> None:
        """Shows a picture of it, and works out beside how long and how large it becomes."""
        document = self.desk.document
        walked = len(document.trace) > 1
        self.make.setEnabled(walked)
        self.track.setEnabled(walked)
        if not walked:
            self.said.setText(tr("There is nothing to film yet. Write a count in Plot."))
            return
        from waltzmark.desktop.filming import Pictures

        silent = replace(self.film, voice="none")
        plan = film_plan(document.form, document.trace, silent, *self.passage)
        middle = plan.timeline.rows[len(plan.timeline.rows) // 2]
        with closing(Pictures(document.form, plan)) as pictures:
            self.picture.image = pictures.at(0.5 * (middle[1] + middle[2])).copy()
        self.picture.update()
        work = partial(_planned, document.form, document.trace, self.film, *self.passage)
        self.desk.jobs.ask("film plan", work, self._tell, failed=self._cannot, pause=150)

    def _tell(self, plan: Plan) -> None:
        self.plan = plan
        minutes, seconds = divmod(round(plan.length), 60)
        words = tr(
            "{minutes} min {seconds} s, about {megabytes} MB as a film.",
            minutes=minutes,
            seconds=seconds,
            megabytes=number(plan.megabytes, 0),
        )
        if plan.timeline.left:
            words += " " + ntr(
                "{n} count goes by too quickly for its words: choose a slower tempo, or wait for the voice.",
                "{n} counts go by too quickly for their words: choose a slower tempo, or wait for the voice.",
                len(plan.timeline.left),
            )
        self.said.setText(words)

    def _cannot(self, error: BaseException) -> None:
        self.said.setText(explained(error))

    # Making it.

    def save_film(self) -> None:
        """Asks for a file and films."""
        self._save(tr("Save the film"), ".webm", _FILM_FILES)

    def save_track(self) -> None:
        """Asks for a file and writes the sound."""
        self._save(tr("Save the sound"), ".opus", _TRACK_FILES)

    def _save(self, words: str, suffix: str, files: str) -> None:
        beside = self.desk.document.beside(suffix)
        if path := self.desk.files.to_save(words, beside, files, self):
            self.write(path if path.suffix else path.with_name(path.name + suffix))

    def write(self, path: Path) -> None:
        """Makes the film or the track in a process of its own; the choices are kept with the document."""
        document, film = self.desk.document, self.film
        if film != document.form.film:
            document.edit(
                tr("choose how it is filmed"),
                replace(document.form, film=film),
                document.session.selection,
                shows=False,
            )
        work = partial(_filmed, document.form, film, path, self.passage, language())
        self.search.forget()
        self.search.ask((path, film, self.passage), work, self._written, failed=self._cannot)

    def _written(self, files: tuple[Path, ...]) -> None:
        self.said.setText(tr("Written: {files}.", files=", ".join(each.name for each in files)))

    def done(self, result: int) -> None:
        """Closing it stops what is being made; nothing is left of it."""
        self.search.stop()
        self.desk.jobs.stop("film plan")
        super().done(result)
