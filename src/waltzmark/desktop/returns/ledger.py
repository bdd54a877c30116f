"""The ledger: where home is, what each posture carries, and what would close it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.answers.answers import return_answer
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import LengthUnit
from waltzmark.core.edit.passes import repeatable
from waltzmark.core.form.form import Form, Home
from waltzmark.core.home.closing import Closing, Closings, closings
from waltzmark.core.home.ledger import cancelling, check_return, home_outside
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_facing
from waltzmark.core.score.write import write_aim
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import faint, heading, set_tip, wrapped
from waltzmark.desktop.returns.chain import ChainView
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.lengths import LengthField, named
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import choice_box, row_of
from waltzmark.desktop.widgets.search import Search
from waltzmark.desktop.widgets.tables import filling, make_row_table
from waltzmark.words.language import listed, ntr, number, tr
from waltzmark.words.named import changed, named_steps
from waltzmark.words.rules import graver_title
from waltzmark.words.sentences import sentence

__all__ = ["LedgerFace"]

_COLUMNS = ("", tr("Posture"), tr("right"), tr("ahead"), tr("turn"), tr("away"))
_ORDERS = (tr("In the order of the walk"), tr("By how far they go"))


def _closed(form: Form, unit: LengthUnit, freely: bool, told: Progress) -> Closings:
    return closings(form, (), unit, told, freely)


def _turned(degrees: float) -> str:
    """How far the whole form turns, in whole and quarter turns where it is that."""
    rounds, clockwise = abs(degrees) / 360.0, degrees > 0
    if rounds % 0.25:
        by = number(abs(degrees), 0)
        if clockwise:
            return tr("In all, it turns {turned}° clockwise.", turned=by)
        return tr("In all, it turns {turned}° counter-clockwise.", turned=by)
    if clockwise:
        return ntr("In all, {n} turn clockwise.", "In all, {n} turns clockwise.", rounds)
    return ntr("In all, {n} turn counter-clockwise.", "In all, {n} turns counter-clockwise.", rounds)


class LedgerFace(Face):
    """Home, ledger and closings; what is touched is drawn in the chain."""

    name = tr("Ledger")
    purpose = tr("Where each posture takes you, and ways to bring the form home")

    def __init__(self, desk: Desk, chain: ChainView) -> None:
        super().__init__(desk)
        self._chain = chain
        self.found: Closings | None = None
        self._own = False
        column = self.column
        self._home(column)
        self.said = wrapped(points=10.5)
        column.addWidget(self.said)
        self.order = choice_box(tr("Order of the ledger"), _ORDERS, lambda _at: self.refresh())
        column.addWidget(self.order)
        self.table = QTableWidget()
        make_row_table(self.table, tr("Ledger"), _COLUMNS, 1)
        set_tip(
            self.table,
            tr(
                "Tick a posture to lock it: a closing leaves it unchanged. Click a row to select its posture everywhere"
            ),
        )
        self.table.itemChanged.connect(safely(self._locked))
        self.table.currentCellChanged.connect(safely(lambda row, *_: self._chosen(row)))
        column.addWidget(self.table, 4)
        self.freely = QCheckBox(tr("any length"))
        set_tip(
            self.freely,
            tr("Lets a length change as far as body and school let it, even where the stance becomes another one"),
        )
        self.freely.toggled.connect(safely(lambda _on: self._ask()))
        column.addLayout(row_of(heading(tr("Ways to close it")), self.freely))
        self.list = OfferList(tr("Ways to close it"))
        self.list.currentRowChanged.connect(safely(self._touch))
        self.list.itemActivated.connect(safely(lambda _item: self.take()))
        column.addWidget(self.list, 5)
        self.apply = QPushButton(tr("Apply these changes"))
        self.apply.setEnabled(False)
        set_tip(self.apply, tr("Makes the changes shown on the floor, as one step you can undo  (Enter)"))
        self.apply.clicked.connect(safely(lambda: self.take()))
        column.addWidget(self.apply)
        self.search = Search(desk.jobs, "home closings")
        column.addWidget(self.search)

    def _home(self, column: QVBoxLayout) -> None:
        grid = QGridLayout()
        self.across = named(
            LengthField(self.document, tr("Home to the right"), 66), lambda v: self._set(place=(v, self.home.place[1]))
        )
        self.along = named(
            LengthField(self.document, tr("Home ahead"), 66), lambda v: self._set(place=(self.home.place[0], v))
        )
        self.within = named(
            LengthField(self.document, tr("Within"), 66), lambda v: self._set(within=min(max(v, 0.0), 100.0))
        )
        self.facing = QLineEdit()
        self.facing.setAccessibleName(tr("Facing at the end"))
        self.facing.setFixedWidth(64)
        self.facing.setPlaceholderText(tr("start"))
        set_tip(
            self.facing,
            tr("The facing the form should end in, such as 12, 9 or NE. Leave empty for the facing it began in"),
        )
        self.facing.editingFinished.connect(safely(self._face))
        self.turn = number_field(tr("Turn within"), 0.0, 180.0, 0, 64)
        self.turn.setSuffix("°")
        self.turn.valueChanged.connect(safely(lambda v: None if self._own else self._set(turn=v)))
        fields: tuple[tuple[str, QWidget], ...] = (
            (tr("home: right"), self.across),
            (tr("ahead"), self.along),
            (tr("facing"), self.facing),
            (tr("within"), self.within),
            (tr("and"), self.turn),
        )
        for nth, (words, field) in enumerate(fields):
            label = faint(words, 9.0)
            grid.addWidget(label, 0, nth, Qt.AlignmentFlag.AlignLeft)
            grid.addWidget(field, 1, nth, Qt.AlignmentFlag.AlignLeft)
        column.addLayout(grid)

    @property
    def home(self) -> Home:
        return self.document.form.home

    # What is shown.

    def refresh(self) -> None:
        """Shows the document as it is now, and asks what would close it."""
        form, trace, say = self.document.form, self.document.trace, self.document.session.say
        result = check_return(trace, form)
        self._own = True
        self.across.show_length(self.home.place[0])
        self.along.show_length(self.home.place[1])
        self.within.show_length(self.home.within)
        self.facing.setText(write_aim(self.home.facing) if self.home.facing else "")
        self.turn.setValue(self.home.turn)
        words = [sentence(return_answer(result, len(trace) - 1).message, say)]
        if 0.005 <= result.distance < result.scatter:
            words.append(
                tr(
                    "That counts as home: over this many steps, feet scatter by {length} anyway.",
                    length=say.length(result.scatter),
                )
            )
        if abs(result.turned) >= 180.0:
            words.append(_turned(result.turned))
        if home_outside(form):
            words.append(tr("Home lies outside the room, or in something that stands in it: nobody can end there."))
        self.said.setText(" ".join(words))
        parts = list(result.contributions)
        if self.order.currentIndex() == 1:
            parts.sort(key=lambda part: -abs(part.share))
        again = repeatable(form, trace)
        pairs = {name: other for pair in cancelling(parts) for name, other in (pair, pair[::-1])}
        with filling(self.table):
            self.table.setRowCount(len(parts))
            for row, part in enumerate(parts):
                posture = form.posture(part.posture)
                lock = QTableWidgetItem()
                lock.setFlags(
                    Qt.ItemFlag.ItemIsUserCheckable | Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
                )
                lock.setCheckState(Qt.CheckState.Checked if posture.id in self.home.locked else Qt.CheckState.Unchecked)
                lock.setData(Qt.ItemDataRole.UserRole, posture.id)
                figures = (
                    say.length(part.offset[0]),
                    say.length(part.offset[1]),
                    f"{part.turn:+z.0f}°",
                    say.length(part.share),
                )
                self.table.setItem(row, 0, lock)
                title = QTableWidgetItem(f"{form.index(posture.id) + 1}  {posture.title}")
                tips = []
                if (other := pairs.get(posture.id)) is not None:
                    tips.append(tr("Cancels out with {index}", index=form.index(other) + 1))
                if posture.id in again:
                    tips.append(tr("Can be done again at once: it ends in the stance it begins in"))
                    title.setText(f"{title.text()}  ↺")
                if tips:
                    set_tip(title, "\n".join(tips))
                self.table.setItem(row, 1, title)
                for nth, text in enumerate(figures, 2):
                    item = QTableWidgetItem(text)
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                    self.table.setItem(row, nth, item)
            self.show_selected()
        self._own = False
        self._ask()

    def show_selected(self) -> None:
        """Marks the row of the selected posture."""
        own, self._own = self._own, True
        rows = range(self.table.rowCount())
        chosen = next((r for r in rows if self._posture(r) == self.document.session.selection.posture), None)
        if chosen is not None and chosen != self.table.currentRow():
            self.table.setCurrentCell(chosen, 1)
        self._own = own

    def _posture(self, row: int) -> str:
        item = self.table.item(row, 0)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _chosen(self, row: int) -> None:
        if not self._own and row >= 0 and (name := self._posture(row)) != self.document.session.selection.posture:
            self.document.session.select(Selection(name, 0, 0))

    # What is changed.

    def _set(self, **changes: object) -> None:
        self.desk.editor.set_home(replace(self.home, **changes), tr("move home"))  # type: ignore[arg-type]

    def _face(self) -> None:
        text = self.facing.text().strip()
        facing = read_facing(text) if text else None
        if text and (facing is None or (isinstance(facing, Clock) and facing.own)):
            self.facing.setText(write_aim(self.home.facing) if self.home.facing else "")
            self.desk.asking.tell(
                tr("Not a valid facing"),
                tr("“{text}” is not a valid facing on the floor. Write one such as 12, 9 or NE.", text=text),
            )
        elif facing != self.home.facing:
            self._set(facing=facing)

    def _locked(self, item: QTableWidgetItem) -> None:
        if item.column() == 0:
            self.lock(str(item.data(Qt.ItemDataRole.UserRole)), item.checkState() == Qt.CheckState.Checked)

    def lock(self, name: str, on: bool) -> None:
        """Locks a posture, so that closing leaves it alone, or frees it."""
        others = tuple(each for each in self.home.locked if each != name)
        title = self.document.form.posture(name).title
        locked = (*others, name) if on else others
        self.desk.editor.set_home(replace(self.home, locked=locked), f"{'lock' if on else 'free'} {title}")

    # Closing.

    def _ask(self) -> None:
        form, unit, freely = self.document.form, self.document.session.say.unit, self.freely.isChecked()
        work = partial(_closed, form, unit, freely)
        if self.search.ask((form, unit, freely), work, self._show, partial=self._show):
            self._show(Closings(()))
        elif self.found is not None:
            self._show(self.found)

    def leave(self) -> None:
        self.search.rest()

    def _show(self, found: Closings) -> None:
        self.found = found
        lines = [self._words(each) for each in found.every]
        if not lines and found.nearest is not None:
            lines = [sentence(found.nearest, self.document.session.say)]
            away = found.nearest.kind != "closing.home"
            if away and not self.freely.isChecked() and self.document.form.postures:
                lines[0] += "\n" + tr("Tick “any length” to let lengths change by more than a quarter.")
        self.list.show_lines(lines)
        self._touch(-1)

    def _words(self, closing: Closing) -> str:
        form, say = self.document.form, self.document.session.say
        lines, few = [sentence(closing.does, say)], closing.changes[:4]
        lines += [
            tr("{title}: {before} → {after} times", title=title, before=each.before, after=each.after)
            for each in closing.passes
            for title in (listed([form.posture(name).title for name in each.postures]),)
        ]
        lines += [
            f"{form.posture(turn.posture).title} {turn.count}: {changed(turn.what)} {turn.before:g}° → {turn.after:g}°"
            for turn in closing.turns
        ]
        for each in few:
            figures = say.change(each.before, each.after)
            lines.append(f"{form.posture(each.posture).title} {each.count}: {changed(each.what)} {figures}")
        if len(closing.changes) > len(few):
            lines.append(tr("… and {changes} more", changes=len(closing.changes) - len(few)))
        if closing.brings:
            lines.append(tr("It would add: {listed}.", listed=listed(map(graver_title, closing.brings))))
        return "\n".join(lines)

    def _touch(self, row: int) -> None:
        closing = self.closing(row)
        self.apply.setEnabled(closing is not None)
        if closing is None:
            self._chain.show_ghost(None)
        else:
            changed = {change.posture for change in closing.changes} | {turn.posture for turn in closing.turns}
            changed |= set() if closing.added is None else {closing.added.posture}
            changed |= {name for passing in closing.passes for name in passing.postures}
            self._chain.show_ghost(walk(closing.form, self.document.trace), frozenset(changed))

    def closing(self, row: int) -> Closing | None:
        """The closing of a row of the list."""
        return self.found.every[row] if self.found is not None and 0 <= row < len(self.found.every) else None

    def take(self) -> None:
        """Makes the closing that is previewed."""
        closing = self.closing(self.list.currentRow())
        if closing is not None:
            self.desk.editor.take_form(closing.called(named_steps()), sentence(closing.does, self.document.session.say))
