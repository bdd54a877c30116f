"""The pairs: those the form declares and those it could, what differs in each count and why, and what mends it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QHeaderView,
    QSizePolicy,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
)

from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.sides.differences import CountPair
from waltzmark.core.sides.pairs import Pair, proposed_pairs
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import faint, heading, set_tip, wrapped
from waltzmark.desktop.sides.mending import MendsPart
from waltzmark.desktop.sides.picture import PairView
from waltzmark.desktop.sides.shown import Shown
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.search import Search
from waltzmark.desktop.widgets.tables import filling, make_row_table
from waltzmark.words.language import percent, tr
from waltzmark.words.sides import cause_name, count_differences, entry_differences, pair_difference

__all__ = ["PairsFace"]

_COLUMNS = (tr("this"), tr("other"), tr("what differs"), tr("why"))
_FROM = 104  # pixels of the last column: its words break rather than crowd what differs


def _searched(form: Form, within: Tolerance, told: Progress) -> tuple[Pair, ...]:
    return proposed_pairs(form, walk(form), within, told)


class PairsFace(Face):
    """Two lists of pairs, the counts of the chosen one side by side, and what can be done about it."""

    found = Signal()  # which pairs there are that the form does not declare
    name = tr("Pairs")
    purpose = tr("Which sides mirror, where they differ and why, and how to fix it")

    def __init__(self, desk: Desk, picture: PairView) -> None:
        super().__init__(desk)
        self._picture = picture
        self.declared: tuple[Pair, ...] = ()
        self.proposed: tuple[Pair, ...] = ()
        self.pair: Pair | None = None
        self._own = False
        self._wanted: tuple[str, str] | None = None  # the names of the pair that was chosen
        column = self.column
        self._tolerance(column)
        self.list = OfferList(tr("Declared pairs"))
        self.others = OfferList(tr("Similar pairs that are not declared"))
        for chosen, words in ((self.list, tr("Declared in the form")), (self.others, tr("Similar, but not declared"))):
            label = heading(words)
            column.addWidget(label)
            chosen.setMinimumHeight(60)
            chosen.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
            chosen.currentRowChanged.connect(safely(partial(self._touch, chosen)))
            column.addWidget(chosen, 2)
        self.search = Search(desk.jobs, "sides pairs")
        column.addWidget(self.search)
        self.words = wrapped(points=10.5, bold=True)
        column.addWidget(self.words)
        self._table(column)
        self.mends = MendsPart(self.desk)
        column.addWidget(self.mends)

    def _tolerance(self, column: QVBoxLayout) -> None:
        row = QHBoxLayout()
        label = faint(tr("Same within"))
        row.addWidget(label)
        self.fields = {}
        known = self.document.judge.within
        named = (("cm", " cm", known.cm), ("degrees", "°", known.degrees), ("percent", " %", known.percent))
        for name, unit, value in named:
            field = number_field(tr("Same within, {name}", name=name), 0.1, 30.0, 1, 82)
            field.setSuffix(unit)
            field.setValue(value)
            field.valueChanged.connect(safely(lambda _value: self._set_within()))
            self.fields[name] = field
            row.addWidget(field)
        row.addStretch(1)
        column.addLayout(row)
        self.beside = QCheckBox(tr("Also compare hands, kicks, eyes, breath and beats"))
        set_tip(
            self.beside,
            tr(
                "When off, only feet, weight and chest decide whether two sides are the same; other "
                "differences are still listed"
            ),
        )
        self.beside.setChecked(known.beside)
        self.beside.toggled.connect(safely(lambda _on: self._set_within()))
        column.addWidget(self.beside)

    def _table(self, column: QVBoxLayout) -> None:
        self.table = QTableWidget()
        make_row_table(self.table, tr("Counts of both sides"), _COLUMNS, 2)
        self.table.horizontalHeader().setSectionResizeMode(3, QHeaderView.ResizeMode.Fixed)
        self.table.setColumnWidth(3, _FROM)
        self.table.setWordWrap(True)
        self.table.currentCellChanged.connect(safely(lambda row, *_: self._count_chosen(row)))
        self.table.setMinimumHeight(110)
        self.table.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        column.addWidget(self.table, 4)

    # What is shown.

    @property
    def within(self) -> Tolerance:
        cm, degrees, percent = (self.fields[name].value() for name in ("cm", "degrees", "percent"))
        return Tolerance(cm, degrees, percent, self.beside.isChecked())

    def _set_within(self) -> None:
        self.desk.settings.within = self.within
        self.document.judge.set_within(self.within)
        self.search.forget()
        self.refresh()

    def refresh(self) -> None:
        """Shows the document as it is now, and looks for pairs it does not declare."""
        form, within = self.document.form, self.within
        review = self.document.judge.review
        self.declared = review.sides if review is not None else ()
        asked = (form.postures, form.body, form.opening, form.school, form.torso, form.twelve, within)
        if self.search.ask(asked, partial(_searched, form, within), self._take):
            self.proposed = ()
        self._show()

    def leave(self) -> None:
        self.search.rest()

    def _take(self, found: tuple[Pair, ...]) -> None:
        self.proposed = found
        self._show()
        self.found.emit()

    def _show(self) -> None:
        """Lists the pairs; the one that was chosen stays so, else the one that the playhead is in, else the worst."""
        self._own = True
        none = tr("Searching …") if self.search.busy else tr("None.")
        known = (
            tr("None: no posture mirrors or repeats another.")
            if self.document.judge.review is not None
            else tr("Comparing …")
        )
        self.list.show_lines([self._line(pair) for pair in self.declared] or [known])
        self.others.show_lines([self._line(pair) for pair in self.proposed] or [none])
        self._own = False
        every = (*self.declared, *self.proposed)
        found = next((pair for pair in every if pair.names == self._wanted), None)
        if found is None and every:
            row = self.document.session.row
            found = next((pair for pair in every if _in(pair, row) and not pair.same), None)
            found = found or next((pair for pair in every if _in(pair, row)), None)
            found = found or max(every, key=lambda pair: (pair.declared, not pair.same))
        self.choose(found)

    def _line(self, pair: Pair) -> str:
        form = self.document.form
        titles = [form.posture(span.posture).title for span in (pair.compared.span, pair.compared.other)]
        for n, (first, last) in enumerate(pair.numbers):
            if not pair.whole[n]:
                titles[n] = tr("{title}, {first} to {last}", title=titles[n], first=first, last=last)
        head = (
            tr("{title}: other side of {other}", title=titles[1], other=titles[0])
            if pair.kind == "mirror"
            else tr("{title}: repeat of {other}", title=titles[1], other=titles[0])
        )
        if not pair.declared:
            head = tr("{title}, {likeness} alike", title=head, likeness=percent(100 * pair.compared.likeness))
        return f"{head}\n{pair_difference(pair, self.document.trace, self.document.session.say)}"

    def choose(self, pair: Pair | None) -> None:
        """Chooses a pair: its counts are listed, and it is drawn."""
        self.pair = pair
        self._own = True
        for chosen, pairs in ((self.list, self.declared), (self.others, self.proposed)):
            chosen.setCurrentRow(pairs.index(pair) if pair is not None and pair in pairs else -1)
        self._own = False
        if pair is None:
            self._picture.empty = tr(
                "No posture has another side yet, and none look alike. In Plot, Ctrl+M makes one, and “Set it as the "
                "other side of …” in the Posture menu is for one that you have written yourself."
            )
            self._picture.show_pair(None)
            self.words.setText("")
            self.table.setRowCount(0)
            self.mends.find_all(self.pair, self.count)
            return
        self._wanted = pair.names
        self.mends.find_all(None, None)  # those of the last pair may be about postures that are gone
        form, trace = self.document.form, self.document.trace
        titles = form.posture(pair.posture).title, form.posture(pair.other).title
        self._picture.show_pair(Shown(pair.compared, (trace, trace), titles))
        self._list_counts(pair)
        self.mends.show_titles(titles)
        self.mends.find_all(self.pair, self.count)

    def _touch(self, chosen: OfferList, row: int) -> None:
        if self._own or row < 0:
            return
        pairs = self.declared if chosen is self.list else self.proposed
        if row < len(pairs):
            self.choose(pairs[row])
            self._go()

    def _go(self) -> None:
        """Goes to where the chosen pair differs most, else to its beginning."""
        assert self.pair is not None
        worst = self.pair.worst
        row = self.pair.compared.other.start if worst is None else _row_of(worst)
        self.document.session.go(float(min(row, len(self.document.trace) - 1)))

    def _list_counts(self, pair: Pair) -> None:
        trace, say, within = self.document.trace, self.document.session.say, pair.compared.within
        self._own = True
        entered = entry_differences(pair.compared, say)
        rows: list[tuple[str, str, str, str]] = []
        rows.append((tr("start"), tr("start"), "; ".join(entered) or tr("the same"), ""))
        for each in pair.compared.counts:
            words = "" if each.same(within) else "; ".join(count_differences(pair.compared, each, (trace, trace), say))
            cause = cause_name(each.cause(within))
            rows.append((str(each.count or tr("none")), str(each.other or tr("none")), words or tr("the same"), cause))
        with filling(self.table):
            self.table.setRowCount(len(rows))
            for at, row in enumerate(rows):
                for column, text in enumerate(row):
                    item = QTableWidgetItem(text)
                    side = Qt.AlignmentFlag.AlignHCenter if column < 2 else Qt.AlignmentFlag.AlignLeft
                    item.setTextAlignment(side | Qt.AlignmentFlag.AlignVCenter)
                    if column >= 2 and row[2] != tr("the same"):
                        item.setFont(font(10.0, bold=column == 2))
                    self.table.setItem(at, column, item)
        self.table.resizeRowsToContents()
        self._own = False
        title = self.document.form.posture(pair.other).title
        self.words.setText(tr("{title}. {difference}", title=title, difference=pair_difference(pair, trace, say)))
        self.show_position()

    def show_position(self) -> None:
        """Marks the row of the count that the playhead is in."""
        if self.pair is None:
            return
        own, self._own = self._own, True
        row = self.document.session.row
        for at, each in enumerate(self.pair.compared.counts, 1):
            if row in (each.row, each.other_row):
                self.table.setCurrentCell(at, 2)
                break
        self._own = own
        self.mends.find_of_count(self.count)

    @property
    def count(self) -> CountPair | None:
        """The counts that are chosen in the table."""
        at = self.table.currentRow() - 1
        return (
            self.pair.compared.counts[at]
            if self.pair is not None and 0 <= at < len(self.pair.compared.counts)
            else None
        )

    def _count_chosen(self, row: int) -> None:
        if self._own or self.pair is None or row < 0:
            return
        if row == 0:
            self.document.session.go(float(max(self.pair.compared.other.start - 1, 0)))
        elif self.count is not None:
            self.document.session.go(float(_row_of(self.count)))
        self.mends.find_of_count(self.count)

    def step_difference(self, by: int) -> None:
        """Goes to the next count that differs, through all pairs."""
        every = [
            (pair, each)
            for pair in (*self.declared, *self.proposed)
            for each in pair.compared.counts
            if not each.same(pair.compared.within)
        ]
        if not every:
            return
        at = next((n for n, (pair, each) in enumerate(every) if pair == self.pair and each == self.count), None)
        at = at if at is not None else (-1 if by > 0 else 0)
        number = (at + by) % len(every)
        pair, each = every[number]
        if pair != self.pair:
            self.choose(pair)
        self.document.session.go(float(_row_of(each)))


def _in(pair: Pair, row: int) -> bool:
    return any(span.start <= row < span.stop for span in (pair.compared.span, pair.compared.other))


def _row_of(count: CountPair) -> int:
    """The row to look at: the other's, else the posture's own."""
    if count.other_row is not None:
        return count.other_row
    assert count.row is not None
    return count.row
