"""The Practise stage: the trainer, with what it needs at the right and what is practised large at the left."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter

from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import FacedStage
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.practise.checking import TurnDial, TurnFace
from waltzmark.desktop.practise.drilling import DrillFace
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import LargeView
from waltzmark.desktop.practise.recalling import RecallFace, RecallFloor
from waltzmark.desktop.practise.walk import WalkFace
from waltzmark.desktop.practise.weighing import PlatesView, ScaleFace
from waltzmark.desktop.speaker import Speaker
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.widgets.figure_view import FigurePane

__all__ = ["PractiseStage"]

_PANEL = 404  # pixels


@guarded
class PractiseStage(FacedStage):
    """Five faces: walk, drill, recall, scales, turns."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, theme = desk.document, desk.theme
        self._document = document
        self.large = LargeView(document, theme)
        self.floor = RecallFloor(document, theme)
        self.scales_view = PlatesView(theme)
        self.dial = TurnDial(theme)
        self.speaker = Speaker(desk.jobs, desk.settings, self)
        self.speaker.failed.connect(safely(self._no_voice))
        self.walk = WalkFace(desk, self.large, self.speaker)
        self.drill = DrillFace(desk, self.large, self.speaker)
        self.recall = RecallFace(desk, self.large, self.floor, self.speaker)
        self.scales = ScaleFace(desk, self.large, self.scales_view)
        self.turns = TurnFace(desk, self.large, self.dial)
        faces: dict[str, PractiseFace] = {
            "walk": self.walk,
            "drill": self.drill,
            "recall": self.recall,
            "scales": self.scales,
            "turns": self.turns,
        }
        self._beside = {view: QSplitter() for view in (self.large, self.floor)}
        for view, split in self._beside.items():
            split.setChildrenCollapsible(False)
            split.setHandleWidth(1)
            split.addWidget(view)
        self._figures: list[FigurePane] = []
        drawn = {
            "walk": self._beside[self.large],
            "drill": self._beside[self.large],
            "recall": self._beside[self.floor],
            "scales": self.scales_view,
            "turns": self.dial,
        }
        looking = [f"practise {name}" for name in ("above", "behind", "mirrored", "figure")]
        self.setLayout(self.lay_out(faces, drawn, looking, _PANEL))
        for face in self.faces.values():
            face.alone = self.show_alone
        self.large.pressed.connect(safely(self._pressed))
        self.large.leads = lambda: self.face.running
        document.form_changed.connect(safely(self._changed))
        document.session.figures_changed.connect(safely(self._refresh))
        document.judge.reviewed.connect(safely(self._refresh))
        desk.practice.changed.connect(safely(self._refresh))
        self.show_face("walk")
        self.setFocusProxy(self.large)

    def show_figure(self, shown: bool) -> None:
        """Shows the body from the side beside what is walked, drilled or recalled."""
        from waltzmark.desktop.widgets.figure_view import FigurePane

        if shown and not self._figures:
            for view, split in self._beside.items():
                pane = FigurePane(self._document, self.desk.theme)
                split.addWidget(pane)
                split.setSizes([560, 320])
                self._figures.append(pane)
                if view is self.floor:
                    pane.view.moment = self._recalled
                    self.floor.asked.connect(safely(pane.view.update))
                    self.floor.asked.connect(safely(pane.say))
        for pane in self._figures:
            pane.setVisible(shown)

    def _recalled(self) -> tuple[int, float]:
        """The pose before a count that is asked for, and the one it ends in once the answer is shown."""
        row = self.floor.row
        return (row if self.floor.shown else max(row - 1, 0)), 1.0

    def show_alone(self, alone: bool) -> None:
        super().show_alone(alone)
        self.large.offer(self.face.acts if alone else ())

    def show_face(self, name: str) -> None:
        """Shows a face; what runs in the one before is ended."""
        if self.isVisible() and self.face is not self.faces[name]:
            self.face.leave()
        super().show_face(name)

    def _changed(self) -> None:
        self._refresh()  # what a face leads through goes on

    def _refresh(self) -> None:
        if self.isVisible() and not self.face.running:
            self.face.refresh()

    def set_theme(self, theme: Theme) -> None:
        for view in (self.large, self.floor, self.scales_view, self.dial, self.ribbon):
            view.set_theme(theme)
        for pane in self._figures:
            pane.set_theme(theme)

    def set_view(self, view: str) -> None:
        """Watches the floor from elsewhere."""
        self.large.set_view(view)

    def _no_voice(self, words: str) -> None:
        """There is nothing to hear: it is told where one looks, and practice goes on."""
        for face in (self.walk, self.drill, self.recall):
            if face is self.face:
                face.said.setText(tr("{words} Practice goes on without.", words=words))

    # What can be done.

    def _pressed(self, key: int | None) -> None:
        """A key or the mouse on the large view. Before the first practice ever the cautions are shown."""
        if not self.face.running and key is None:
            return
        if self.face.running:
            self.face.key(key)
        else:
            self.desk.careful(lambda: self.face.key(key))

    def press(self) -> None:
        """Begins what the face leads through, pauses it, or goes on."""
        self.desk.careful(lambda: self.face.key(Qt.Key.Key_Space))

    def end_it(self) -> None:
        """Ends what the face leads through."""
        self.face.leave()

    def ask(self) -> None:
        """Asks what is due, or shows the answer to what is asked."""
        self.show_face("recall")
        if self.recall.question is None or self.floor.shown:
            self.recall.begin()
        else:
            self.recall.show_answer()

    def name_person(self) -> None:
        """Asks who practises; the book tells persons apart."""
        name = self.desk.asking.text(
            tr("Who is practising?"),
            tr("A name for the practice book. Leave empty for no name."),
            self.desk.practice.person,
        )
        if name is not None:
            self.desk.practice.name(name[:80])

    def end(self) -> None:
        """The window closes: what was started is ended."""
        for face in self.faces.values():
            face.leave()
        self.scales.plates.close()
        self.speaker.close()
