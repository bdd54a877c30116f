"""The sheets: which one, on which paper, at which scale; a live preview, and out to a file or a printer."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QAccessible, QImage, QKeyEvent, QPainter, QPaintEvent, QPen, QWheelEvent
from PySide6.QtPrintSupport import QPrintDialog, QPrinter, QPrinterInfo
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QHBoxLayout,
    QProgressDialog,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import StoppedError
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import FIGURE_SIDES, PAPERS, SHEETS, Form, Sheet
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.disk import file_name
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import heading, wrapped
from waltzmark.desktop.sheets.chart import scale_that_fits
from waltzmark.desktop.sheets.output import SCALED, Made, as_picture, files_of, make, paint, write
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import row_of_fields
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.words.errors import explained
from waltzmark.words.language import ntr, number, tr

__all__ = ["SheetsDialog"]

_WORDS = {
    "chart": tr("Floor chart"),
    "tape": tr("Tape plan"),
    "postures": tr("Postures, count by count"),
    "cues": tr("Cue card"),
    "soles": tr("Soles, life size"),
    "class": tr("Class"),
    "bodies": tr("Class sheet: what differs"),
    "log": tr("Practice record, to sign"),
}
_SCALES = (0.0, 5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 100.0)
_ABOUT = {
    "chart": tr(
        "The room to scale, with the path, the space it sweeps, its tightest place, and the "
        "feet at the end of each posture."
    ),
    "tape": tr("What to tape to the floor: a plan, and a table of distances from walls, corners and boards."),
    "postures": tr("Every count as a small drawing with its words, and what each posture expects."),
    "cues": tr("One line per posture, with its first facing; fold once along the line."),
    "soles": tr("The walker’s soles, life size, with angles around the heel: to cut out and trace."),
    "class": tr("Where up to eight walkers start, in rows that stay clear of each other."),
    "bodies": tr("One table: a row for each posture, a column for each person, and only what differs from the form."),
    "log": tr("What the practice book records for this form, with a line to sign."),
}
_ASKER = "sheets"
_FILES = tr("PDF (*.pdf);;SVG (*.svg);;PNG (*.png);;DXF, the chart (*.dxf);;CSV, the tape plan (*.csv)")


@guarded
class Preview(QWidget):
    """The pages as they will be printed; the arrow keys, the wheel and PgUp, PgDn turn them."""

    role = QAccessible.Role.Graphic

    def __init__(self) -> None:
        super().__init__()
        self.made: Made | None = None
        self.words = ""
        self.page = 0
        self._drawn: tuple[object, QImage] | None = None
        self.setAccessibleName(tr("Preview of the sheet"))
        self.setMinimumSize(420, 420)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_made(self, made: Made | None, words: str = "") -> None:
        """Shows the pages of a sheet, or why there are none."""
        self.made, self.words, self._drawn = made, words, None
        self.page = min(self.page, len(made.pages) - 1) if made is not None and made.pages else 0
        self.update()

    def turn(self, by: int) -> None:
        """Turns pages."""
        if self.made is not None:
            self.page = min(max(self.page + by, 0), len(self.made.pages) - 1)
            self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.fillRect(self.rect(), self.palette().color(self.backgroundRole()).darker(115))
            painter.setFont(font(10.0))
            if self.made is None:
                box = self.rect().adjusted(30, 30, -30, -30)
                painter.setPen(self.palette().color(self.foregroundRole()))
                painter.drawText(box, int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap), self.words)
                return
            size = self.made.paper.units
            scale = min((self.width() - 40.0) / size.width(), (self.height() - 64.0) / size.height())
            page = QRectF(0.0, 0.0, size.width() * scale, size.height() * scale)
            page.moveCenter(QRectF(0.0, 0.0, self.width(), self.height() - 28.0).center())
            ratio = self.devicePixelRatioF()
            key = (id(self.made), self.page, max(scale * ratio, 0.4))
            if self._drawn is None or self._drawn[0] != key:  # a page of many counts takes a moment
                self._drawn = key, as_picture(self.made, self.page, key[2])
            picture = self._drawn[1]
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(page, picture)
            painter.setPen(QPen(self.palette().color(self.foregroundRole()), 1.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(page)
            words = tr("page {page} of {pages}", page=self.page + 1, pages=len(self.made.pages))
            below = QRectF(0.0, self.height() - 28.0, self.width(), 24.0)
            painter.drawText(below, Qt.AlignmentFlag.AlignCenter, words)

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.turn(-1 if event.angleDelta().y() > 0 else 1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {
            Qt.Key.Key_PageDown: 1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: 1,
            Qt.Key.Key_PageUp: -1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Up: -1,
        }
        if event.key() in ways:
            self.turn(ways[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)


class Told(QProgressDialog):
    """How far the pages are, where they take longer than a moment; they can be stopped."""

    def __init__(self, parent: QWidget, pages: int) -> None:
        super().__init__("", tr("Stop"), 0, pages, parent)
        self.setWindowTitle(tr("Sheets"))
        self.setWindowModality(Qt.WindowModality.WindowModal)
        self.setMinimumDuration(400)
        self.pages = pages

    def tell(self, share: float, words: str = "") -> None:
        self.setLabelText(words)
        self.setValue(round(share * self.pages))  # a window-modal one lets the window live meanwhile
        if self.wasCanceled():
            raise StoppedError

    def hand_out(self, so_far: object) -> None:
        """Pages are not shown before all are there."""


class SheetsDialog(QDialog):
    """What is chosen is kept with the document, as one step that can be undone, when it is closed. Of another form
    nothing is kept."""

    def __init__(self, desk: Desk, parent: QWidget | None = None, form: Form | None = None, kind: str = "") -> None:
        """form: another one than the document's; kind: of the sheet that is shown first."""
        super().__init__(parent)
        self.desk, self.document, self._other = desk, desk.document, form
        self._walked = walk(form) if form is not None else None
        self.setWindowTitle(tr("Sheets"))
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        room = parent.size() if parent is not None else QSize(1280, 800)
        self.resize(min(1080, room.width() - 40), min(760, room.height() - 40))
        sheet = self.document.form.sheet
        self.preview = Preview()
        self.kind, self.paper, self.scale = QComboBox(), QComboBox(), QComboBox()
        for box, name, lines in (
            (self.kind, tr("Sheet"), [_WORDS[kind] for kind in SHEETS]),
            (self.paper, tr("Paper"), list(PAPERS)),
            (self.scale, tr("Scale"), [tr("as large as fits"), *(f"1:{scale:g}" for scale in self._scales(sheet)[1:])]),
        ):
            box.setAccessibleName(name)
            box.addItems(lines)
            box.activated.connect(safely(lambda _at: self._changed()))
        self.kind.setCurrentIndex(SHEETS.index(kind or sheet.kind))
        self.paper.setCurrentIndex(PAPERS.index(sheet.paper))
        self.scale.setCurrentIndex(self._scales(sheet).index(sheet.scale))
        self.landscape = QCheckBox(tr("landscape"))
        self.landscape.setChecked(sheet.landscape)
        self.landscape.toggled.connect(safely(lambda _on: self._changed()))
        self.steps, self.findings = QCheckBox(tr("the feet of every count")), QCheckBox(tr("findings"))
        for switch, on in ((self.steps, sheet.steps), (self.findings, sheet.findings)):
            switch.setChecked(on)
            switch.toggled.connect(safely(lambda _on: self._changed()))
        self.figures = choice_box(
            tr("Figures"),
            [tr("seen from behind"), tr("seen from the front"), tr("no figures")],
            lambda _at: self._changed(),
        )
        self.figures.setCurrentIndex(FIGURE_SIDES.index(sheet.figures))
        self.which = choice_box(
            tr("Postures"), [tr("all postures"), tr("the selected one")], lambda _at: self._changed()
        )
        panel = QVBoxLayout()
        panel.addWidget(heading(tr("A page to take to the floor")))
        panel.addLayout(
            row_of_fields(
                (
                    (tr("Sheet"), self.kind),
                    (tr("Paper"), self.paper),
                    ("", self.landscape),
                    (tr("Scale"), self.scale),
                    (tr("With"), self.which),
                    ("", self.steps),
                    ("", self.findings),
                    (tr("Figures"), self.figures),
                )
            )
        )
        self.about = wrapped()
        panel.insertWidget(1, self.about)
        self.said = wrapped()
        panel.addWidget(self.said)
        self.save, self.print = QPushButton(tr("Save as …")), QPushButton(tr("Print …"))
        self.save.clicked.connect(safely(lambda: self.choose_file()))
        self.print.clicked.connect(safely(lambda: self.print_it()))
        for button in (self.save, self.print):
            panel.addWidget(button)
        panel.addStretch(1)
        done = push_button(tr("Done"), self.accept)
        panel.addWidget(done)
        side = QWidget()
        side.setFixedWidth(300)
        side.setLayout(panel)
        row = QHBoxLayout(self)
        row.addWidget(self.preview, 1)
        row.addWidget(side)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(30)
        self._soon.timeout.connect(safely(self.refresh))
        self.finished.connect(safely(lambda _result: self._keep()))
        self.refresh()
        self.preview.setFocus()

    @staticmethod
    def _scales(sheet: Sheet) -> tuple[float, ...]:
        return _SCALES if sheet.scale in _SCALES else (*_SCALES, sheet.scale)

    @property
    def sheet(self) -> Sheet:
        """What is chosen."""
        own = self.document.form.sheet
        scale = self._scales(own)[max(self.scale.currentIndex(), 0)]
        return Sheet(
            SHEETS[max(self.kind.currentIndex(), 0)],
            PAPERS[max(self.paper.currentIndex(), 0)],
            self.landscape.isChecked(),
            scale,
            self.steps.isChecked(),
            self.findings.isChecked(),
            FIGURE_SIDES[max(self.figures.currentIndex(), 0)],
        )

    def _changed(self) -> None:
        self._soon.start()

    def refresh(self) -> None:
        """Asks for the pages anew; a large form's take seconds, so they are made beside what the window does."""
        document, sheet = self.document, self.sheet
        self.scale.setEnabled(sheet.kind in SCALED)
        self.steps.setEnabled(sheet.kind == "chart")
        for field in (self.findings, self.figures):
            field.setEnabled(sheet.kind == "postures")
        form = self._other or document.form
        chosen = document.session.selection.posture
        postures = (chosen,) if self.which.currentIndex() == 1 and chosen is not None else ()
        work = partial(
            make,
            form,
            self._walked or document.trace,
            sheet,
            postures,
            document.session.say,
            self.desk.practice.entries,
        )
        self.about.setText(_ABOUT[sheet.kind])
        self.said.setText(tr("Making the pages …"))
        for button in (self.save, self.print):
            button.setEnabled(False)
        self.desk.jobs.ask(_ASKER, lambda _told: work(), self._take, failed=self._none)

    def _take(self, made: Made) -> None:
        """Shows the pages that were asked for."""
        self.preview.show_made(made)
        pages = ntr("{n} page of {paper}", "{n} pages of {paper}", len(made.pages), paper=made.paper.name)
        scaled, turned = "", ""
        if made.sheet.kind in SCALED:
            scaled = f", 1:{made.scale:g}"
            other = replace(made.paper, landscape=not made.paper.landscape)
            larger = scale_that_fits(made.form, made.trace, other)
            if not made.sheet.scale and larger < made.scale:
                turned = " " + (
                    tr("In portrait it would be 1:{scale}.", scale=number(larger))
                    if made.paper.landscape
                    else tr("In landscape it would be 1:{scale}.", scale=number(larger))
                )
        self.said.setText(f"{pages}{scaled}.{turned}")
        for button in (self.save, self.print):
            button.setEnabled(True)

    def _none(self, error: BaseException) -> None:
        """Says why there are no pages."""
        if not isinstance(error, WaltzmarkError):
            raise error
        words = explained(error)
        self.preview.show_made(None, words)
        self.said.setText("")

    def _keep(self) -> None:
        """The choice stays with the document."""
        self._soon.stop()
        self.desk.jobs.stop(_ASKER)
        form = self.document.form
        if self._other is None and self.sheet != form.sheet:
            self.desk.editor.take_form(replace(form, sheet=self.sheet), tr("choose a sheet"))

    def _called(self) -> Path:
        """The file to propose, without its suffix: called after its form and its kind, in the language that is set."""
        kind = re.split("[,:]", _WORDS[self.sheet.kind])[0].lower()
        if self._other is None:
            return self.document.beside("", kind)
        return Path(file_name(", ".join(part for part in (self._other.title, kind) if part)))

    def choose_file(self) -> None:
        """Asks for a file and writes the sheet into it."""
        path, chosen = self.desk.files.to_save_as(tr("Save the sheet"), f"{self._called()}.pdf", _FILES, self)
        if path is not None:
            kind = chosen.partition("*")[2].rstrip(")") or ".pdf"
            self.write(path if path.suffix else path.with_suffix(kind), asked=path)

    def _replaces(self, names: Sequence[Path], asked: Path | None) -> bool:
        """Whether files that are there already may be replaced; the one that was *asked* about may."""
        there = [each.name for each in names if each != asked and each.exists()]
        if not there:
            return True
        words = tr("This folder already contains {files}.", files=", ".join(there))
        return Asking(self).choose(tr("Replace what is there?"), words, [tr("Replace"), tr("Keep")], default=1) == 0

    def write(self, path: Path, asked: Path | None = None) -> None:
        """Writes the sheet; tells where, or why it cannot. asked: what the user has already agreed to replace."""
        made = self.preview.made
        if made is None:
            return
        path = path if path.suffix else path.with_suffix(".pdf")
        if not self._replaces(files_of(made, path), asked):
            return
        told = Told(self, len(made.pages))
        try:
            written = write(made, path, told)
        except StoppedError:
            self.said.setText(tr("Stopped. Nothing was saved."))
        except WaltzmarkError as error:
            self.said.setText(explained(error))
        else:
            names = ", ".join(each.name for each in written[:3]) + (" …" if len(written) > 3 else "")
            self.said.setText(tr("Saved: {names}.", names=names))
        told.close()

    def print_it(self) -> None:
        """Asks for a printer and prints the sheet."""
        made = self.preview.made
        if made is None:
            return
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(made.paper.layout)
        printer.setFullPage(True)
        printer.setDocName(self._called().name)  # in the queue
        if not QPrinterInfo.availablePrinterNames():  # it can only go into a file: one that has a name
            printer.setOutputFileName(str(Path.home() / f"{self._called().name}.pdf"))
        if QPrintDialog(printer, self).exec() == QDialog.DialogCode.Accepted:
            self.print_on(printer)

    def print_on(self, printer: QPrinter) -> None:
        """Prints all pages."""
        made = self.preview.made
        assert made is not None
        printer.setResolution(96)
        told = Told(self, len(made.pages))
        try:
            with QPainter(printer) as painter:
                for number, page in enumerate(made.pages):
                    told.tell(number / len(made.pages))
                    if number:
                        printer.newPage()
                    paint(page, painter)
        except StoppedError:
            printer.abort()
            self.said.setText(tr("Stopped."))
        told.close()
