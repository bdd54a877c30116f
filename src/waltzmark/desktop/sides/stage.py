"""The Sides stage: two passages on the floor beside what differs in them, and the balance of both sides."""

from __future__ import annotations

from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.demo import demo_earlier, told_here
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face, FacedStage
from waltzmark.desktop.guard import safely
from waltzmark.desktop.sides.balance import BalanceFace, BalanceView
from waltzmark.desktop.sides.comparing import CompareFace
from waltzmark.desktop.sides.pairs import PairsFace
from waltzmark.desktop.sides.picture import PairView
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import tr

__all__ = ["SidesStage"]

_PANEL = 440  # pixels
_FORMS = tr("Forms (*.waltz);;All files (*)")


class SidesStage(FacedStage):
    """Three faces: pairs, comparing, and balance."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, theme = desk.document, desk.theme
        self._document = document
        self.picture = PairView(document, theme)
        self.columns = BalanceView(desk, theme)
        self.pairs = PairsFace(desk, self.picture)
        self.compare = CompareFace(desk, self.picture)
        self.balance = BalanceFace(desk, self.columns)
        faces: dict[str, Face] = {"pairs": self.pairs, "compare": self.compare, "balance": self.balance}
        looking = ["sides folded", "sides beside", "sides walked", "sides whole"]
        drawn = {"pairs": self.picture, "compare": self.picture, "balance": self.columns}
        self.setLayout(self.lay_out(faces, drawn, looking, _PANEL))
        document.form_changed.connect(safely(self._changed))
        document.session.figures_changed.connect(safely(self._refresh))
        document.judge.reviewed.connect(safely(self._refresh))
        document.session.row_changed.connect(safely(lambda _row: self._moved()))
        self.pairs.found.connect(safely(self._refresh))
        self.show_face("pairs")
        self.setFocusProxy(self.pairs.list)

    def _changed(self) -> None:
        if not self.isVisible() or self.face is self.compare:
            self.pairs.leave()  # Balance needs the pairs too
        if not self.isVisible() or self.face is not self.compare:
            self.compare.leave()
        self._refresh()

    def _refresh(self) -> None:
        if not self.isVisible():
            return
        if self.face is self.compare:
            self.compare.refresh()
            return
        self.pairs.refresh()
        if self.face is self.balance:
            self._show_balance()

    def _show_balance(self) -> None:
        known = (*self.pairs.declared, *self.pairs.proposed)
        # Until all pairs are known it cannot be told what has no other side.
        done = self._document.judge.review is not None and not self.pairs.search.busy
        self.balance.show_pairs(known if done else None)

    def _moved(self) -> None:
        if self.isVisible() and self.face is self.pairs:
            self.pairs.show_position()

    def set_theme(self, theme: Theme) -> None:
        for view in (self.picture, self.columns, self.ribbon):
            view.set_theme(theme)

    # What can be done.

    def set_view(self, view: str) -> None:
        """Watches the floor from elsewhere."""
        self.picture.set_view(view)

    def step_difference(self, by: int) -> None:
        """Goes to the next difference of the face that is shown."""
        if self.face is self.balance:
            self.show_face("pairs")
        (self.compare if self.face is self.compare else self.pairs).step_difference(by)

    def open_other_side(self) -> None:
        """Opens the whole form's other side in a window beside."""
        made = mirrored_form(self._document.form)
        self.desk.begin_beside(made, tr("make the other side of {title}", title=self._document.title))

    def compare_document(self) -> None:
        """Asks for another document, and compares with it."""
        if path := self.desk.files.to_open(tr("Compare with a form"), _FORMS):
            self.show_face("compare")
            self.compare.compare_with(path)

    def compare_demo(self) -> None:
        """Compares with the demo form as it was written before."""
        self.show_face("compare")
        self.compare.compare_with(demo_earlier(), told=told_here)
