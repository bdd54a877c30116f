"""The Return stage: the chain on the floor beside its ledger, and the loops beside what a round does."""

from __future__ import annotations

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Home
from waltzmark.core.score.facings import Clock
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face, FacedStage
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.returns.chain import ChainView
from waltzmark.desktop.returns.ledger import LedgerFace
from waltzmark.desktop.returns.loops import LoopsFace, LoopsView
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import tr

__all__ = ["ReturnStage"]

_PANEL = 432  # pixels


class ReturnStage(FacedStage):
    """Two faces: ledger, and rounds and loops."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, theme = desk.document, desk.theme
        self._document = document
        self.chain = ChainView(document, theme)
        self.drawings = LoopsView(document, theme)
        self.ledger = LedgerFace(desk, self.chain)
        self.loops = LoopsFace(desk, self.drawings)
        faces: dict[str, Face] = {"ledger": self.ledger, "loops": self.loops}
        drawn = {"ledger": self.chain, "loops": self.drawings}
        self.setLayout(self.lay_out(faces, drawn, ["head to tail", "home whole"], _PANEL))
        self.chain.chosen.connect(safely(lambda name: document.session.select(Selection(name, 0, 0))))
        document.form_changed.connect(safely(self._changed))
        document.session.figures_changed.connect(safely(self._refresh))
        document.session.selected.connect(safely(self.ledger.show_selected))
        self.show_face("ledger")
        self.setFocusProxy(self.ledger.table)

    def set_theme(self, theme: Theme) -> None:
        for view in (self.chain, self.drawings, self.ribbon):
            view.set_theme(theme)

    # What can be done.

    def lock(self) -> None:
        """Locks the selected posture, or frees it."""
        name = self._document.session.selection.posture
        if name is not None:
            self.ledger.lock(name, name not in self._document.form.home.locked)

    def home_here(self) -> None:
        """Home is where the form ends now, and faces as it does."""
        trace, home = self._document.trace, self._document.form.home
        x, y = (round(float(each), 3) for each in trace.midpoints[-1])
        made = replace(home, place=(x, y), facing=Clock.at(float(trace.torso[-1])))
        self.desk.editor.set_home(made, tr("set home to where the form ends"))

    def home_at_start(self) -> None:
        """Home is the start mark, facing as it began."""
        usual, home = Home(), self._document.form.home
        made = replace(home, place=usual.place, facing=usual.facing)
        self.desk.editor.set_home(made, tr("set home to the start mark"))
