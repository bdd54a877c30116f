"""What can be done about a pair: which side is changed, four ways, and how far feet move by it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from waltzmark.core.base.errors import FormError
from waltzmark.core.sides.differences import CountPair
from waltzmark.core.sides.mends import Mended, alike, count_alike, named_side, tied
from waltzmark.core.sides.pairs import Pair
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import key_words, set_tip, wrapped
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.words.errors import explained
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = ["MendsPart"]

_ACTS = (
    ("make alike", tr("Match the whole posture")),
    ("make count alike", tr("Match this count")),
    ("tie", tr("Link them")),
    ("call side", tr("Declare it the other side")),
)


class MendsPart(QWidget):
    """Works out what can be done about a pair and its chosen count; nothing is done unasked."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk, self._document = desk, desk.document
        self._pair: Pair | None = None
        self._count: CountPair | None = None
        self._mends: dict[str, Mended] = {}
        self._reasons: list[str] = []  # why something cannot be done
        self.which = choice_box(tr("Which side to change"), run=lambda _at: self.find_all(self._pair, self._count))
        grid = QGridLayout()
        grid.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for number, (name, words) in enumerate(_ACTS):
            button = push_button(words, partial(self.make, name), name="small")
            self.buttons[name] = button
            grid.addWidget(button, number // 2, number % 2)
        self.effect = wrapped(points=9.0, faint=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.which)
        column.addLayout(grid)
        column.addWidget(self.effect)

    @property
    def back(self) -> bool:
        """Whether it is the first of both that is changed."""
        return self.which.currentIndex() == 1

    def show_titles(self, titles: tuple[str, str]) -> None:
        """Offers either of both to be changed."""
        self.which.clear()
        self.which.addItem(tr("Change “{titles}”", titles=titles[1]))
        self.which.addItem(tr("Change “{titles}”", titles=titles[0]))

    def find_all(self, pair: Pair | None, count: CountPair | None) -> None:
        """Works out what can be done, so that it can be told how far it moves the floor."""
        self._pair, self._mends = pair, {}
        form, trace = self._document.form, self._document.trace
        reasons: list[str] = []
        if pair is not None and not pair.empty:
            tries: list[tuple[str, Callable[[], Mended]]] = [("tie", lambda: tied(form, trace, pair))]
            written = any(not each.written_same(pair.compared.within) for each in pair.compared.counts)
            if written:
                tries.append(("make alike", lambda: alike(form, trace, pair, self.back)))
            if pair.kind == "mirror" and not pair.declared:
                tries.append(("call side", lambda: named_side(form, trace, pair)))
            for name, find in tries:
                try:
                    self._mends[name] = find()
                except FormError as error:
                    reasons.append(explained(error))
        self._reasons = reasons
        self.which.setEnabled("make alike" in self._mends)
        self.find_of_count(count)

    def find_of_count(self, count: CountPair | None) -> None:
        """Works out what can be done about one count of the pair."""
        self._count = count
        self._mends.pop("make count alike", None)
        pair = self._pair
        if pair is not None and count is not None and not count.written_same(pair.compared.within):
            try:
                self._mends["make count alike"] = count_alike(
                    self._document.form, self._document.trace, pair, count, self.back
                )
            except FormError as error:
                self._reasons.append(explained(error))
        for name, button in self.buttons.items():
            mend = self._mends.get(name)
            button.setEnabled(mend is not None)
            act = self._desk.book.act(name)
            keys = key_words(self._desk.book[name].shortcut())
            words = f"{sentence(mend.does)}: {self._moves(mend)}" if mend is not None else act.plain
            set_tip(button, f"{words}  ({keys})")
        reason = self._reasons[0] if self._reasons and not self._mends else ""
        self.effect.setText(self._effects() or reason)

    def _effects(self) -> str:
        """How far what can be done moves the floor."""
        moves = {name: self._moves(mend) for name, mend in self._mends.items() if name != "call side"}
        if len(set(moves.values())) == 1 and len(moves) > 1:
            return tr("Either way, {next}.", next=next(iter(moves.values())))
        words = "; ".join(f"{self.buttons[name].text().lower()}: {how}" for name, how in moves.items())
        return f"{words[:1].upper()}{words[1:]}." if words else ""

    def _moves(self, mend: Mended) -> str:
        if mend.moves < 0.0005:
            return tr("nothing moves")
        return (
            tr("the feet move too little to see")
            if mend.moves < 0.005
            else (tr("the feet move by up to {length}", length=self._document.session.say.length(mend.moves)))
        )

    def make(self, name: str) -> None:
        """Does one of what can be done, by the name it has in the menus; nothing where it cannot be."""
        mend = self._mends.get(name)
        if mend is not None:
            row, posture = self._document.session.row, self._document.session.selection.posture
            self._desk.editor.take_form(mend.form, sentence(mend.does))
            trace = self._document.trace
            if posture is not None and posture in trace.numbers:
                self._document.session.select(Selection(posture, 0, 0))
            self._document.session.go(float(min(row, len(trace) - 1)))
