"""Files: opening, saving, what a crash left behind, and what other windows and programs do to them.

No answer to any question destroys the last copy of anything: what is given up without saving is moved aside.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.demo import demo_text, told_here
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.recovery import Kept, Recovery, left_behind, thrown_away
from waltzmark.files.saving import save_atomically, sweep
from waltzmark.files.texts import read_text
from waltzmark.words.errors import explained
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = ["Filing", "OtherWindows"]

_FILTER = tr("Waltzmark forms (*.waltz);;All files (*)")


class OtherWindows(Protocol):
    """The windows beside this one."""

    def open(self) -> Filing:
        """Opens another window on an empty form."""
        ...

    def on(self, path: Path, but: Filing) -> Filing | None:
        """Another window that has a file open."""
        ...


class Filing:
    """The files of one window. begun: is called when a new form has been begun, with whether it is to be shown how."""

    def __init__(self, desk: Desk, recovery: Recovery, window: QWidget, others: OtherWindows) -> None:
        self.desk, self.recovery, self._window, self._others = desk, recovery, window, others
        self.document, self._asking = desk.document, desk.asking
        self.begun: Callable[[bool], object] = lambda _guided: None

    # Opening.

    def open_path(self, path: Path) -> bool:
        """Opens a file; what cannot be read is told, and the open document stays. A file that another window has open
        is shown there."""
        other = self._others.on(path, self)
        if other is not None:
            other.come_forward()
            return True
        try:
            notices = self.document.open_file(path)
        except WaltzmarkError as error:
            self._asking.tell(tr("This form cannot be opened"), explained(error))
            return False
        self.desk.settings.remember(path)
        if notices:
            words = f"{path.name}: " + "\n".join(sentence(notice.told) for notice in notices)
            QTimer.singleShot(
                0, self._window, safely(lambda: self._asking.tell(tr("Parts of this file could not be read"), words))
            )
        return True

    def come_forward(self) -> None:
        """Brings the window to the front."""
        self._window.raise_()
        self._window.activateWindow()

    def open_demo(self) -> None:
        """Opens the demo form as a new document, so that saving asks for a place."""
        if self.may_leave():
            self.document.open_text(told_here(demo_text()))

    def choose_file(self) -> None:
        """Asks for a file and opens it."""
        if not self.may_leave():
            return
        if path := self.desk.files.to_open(tr("Open a form"), _FILTER):
            self.open_path(path)

    def open_instead(self, path: Path) -> None:
        """Opens a file in place of the document, which may be left first."""
        if self.may_leave():
            self.open_path(path)

    def new_form(self) -> None:
        """Begins another form, as chosen."""
        if not self.may_leave():
            return
        from waltzmark.desktop.new_form import NewForm  # dialogs are imported when they are first wanted

        asked = NewForm(self.desk.theme, not self.desk.settings.recent, self._window)
        if asked.exec() == NewForm.DialogCode.Accepted:
            self.document.new(asked.form())
            self.begun(asked.guided.isChecked())
        asked.deleteLater()

    # What was kept.

    def offer_recovery(self) -> bool:
        """Asks about what a crash left behind, a window for each; returns whether any was opened. What of it cannot be
        read is told, and stays."""
        left = left_behind()
        for path in (*self.desk.settings.recent, *(kept.path for kept in left.kept if kept.path is not None)):
            sweep(path)  # what a save that was killed has left
        filing, opened = self, False
        for kept in left.kept:
            where = tr("It was last saved as {path}.", path=kept.path) if kept.path else tr("It was never saved.")
            answer = self._asking.choose(
                tr("Continue where you left off?"),
                tr(
                    "Waltzmark closed unexpectedly. Your changes to “{title}” were kept. {where}",
                    title=kept.title,
                    where=where,
                ),
                (tr("Open it"), tr("Ask me later"), tr("Discard it")),
                escape=1,
            )
            if answer == 1:
                break
            if answer == 2:
                self._asking.attempt(kept.throw_away)
                continue
            if opened:  # one window each
                filing = self._others.open()
            filing.take_over(kept)
            opened = True
        if left.damaged:
            words = tr("The file stays where it is; a text editor can open it:\n") + "\n".join(left.damaged)
            self._asking.tell(tr("Some unsaved changes cannot be read"), words)
        return opened

    def take_over(self, kept: Kept) -> None:
        """Goes on with a document that was kept."""
        self.document.recover(kept.form, kept.read, kept.path)
        if self.recovery.keep_now():  # under this window's name before the old file goes
            kept.forget()

    def thrown_away(self) -> tuple[Kept, ...]:
        """What was given up without saving lately."""
        return thrown_away().kept

    def open_thrown_away(self, kept: Kept) -> None:
        """Opens something that was given up, in place of the document."""
        if self.may_leave():
            self.take_over(kept)

    # Saving.

    def save(self) -> bool:
        """Saves to the document's own file, or asks for one."""
        path = self.document.path
        if path is None:
            return self.save_as()
        if self.document.disk.changed(self.document.path):
            answer = self._asking.choose(
                tr("The file has changed on disk"),
                tr(
                    "Another program or window has changed {name} since you opened it. Saving would "
                    "overwrite those changes.",
                    name=path.name,
                ),
                (tr("Save as …"), tr("Overwrite"), tr("Do not save")),
            )
            if answer != 1:
                return answer == 0 and self.save_as()
        return self.save_to(path)

    def save_as(self) -> bool:
        """Asks where to save."""
        start = self.document.path or self.document.beside(".waltz")
        path = self.desk.files.to_save(tr("Save the form"), start, _FILTER)
        if path is None:
            return False
        path = path if path.suffix else path.with_suffix(".waltz")
        other = self._others.on(path, self)
        if other is not None:
            self._asking.tell(
                tr("The form was not saved"),
                tr("{name} is open in another window. Save this form under another name.", name=path.name),
            )
            return False
        return self.save_to(path)

    def save_to(self, path: Path) -> bool:
        """Saves; a failure is told with its reason, the document stays as it is."""
        try:
            self.document.save(path)
        except WaltzmarkError as error:
            words = tr("{explained}\n\nYour form is still here, unchanged.", explained=explained(error))
            answer = self._asking.choose(
                tr("The form was not saved"), words, (tr("Save as …"), tr("Continue without saving"))
            )
            return answer == 0 and self.save_as()
        self.desk.settings.remember(path)
        return True

    def look_at_file(self) -> None:
        """Notices when another program has changed the file, and offers to read it anew."""
        document = self.document
        if document.path is None or not document.disk.news(document.path):
            return
        own = " " + tr("Reloading replaces your changes; Undo brings them back.") if document.changed else ""
        answer = self._asking.choose(
            tr("The file has changed on disk"),
            tr("Another program has changed {name}.{own}", name=document.path.name, own=own),
            (tr("Reload"), tr("Keep my version")),
            default=1,
        )
        if answer == 0:
            try:
                document.read_anew()
            except WaltzmarkError as error:
                self._asking.tell(tr("This form cannot be opened"), explained(error))

    def may_leave(self) -> bool:
        """Whether the document may be left: asks when it has changes that are not saved. Those that are given up can
        still be found for a while."""
        if not self.document.changed:
            return True
        answer = self._asking.choose(
            tr("Save the changes?"),
            tr(
                "{title} has unsaved changes. Discarded changes stay in the File menu for a while, "
                "under Recently discarded.",
                title=self.document.title,
            ),
            (tr("Save"), tr("Discard them"), tr("Cancel")),
        )
        if answer == 0:
            return self.save()
        return answer == 1 and self._given_up()

    def _given_up(self) -> bool:
        """Gives the changes up, so that they can be found for a while; asks first where they cannot be kept so long."""
        try:
            self.recovery.throw_away()
        except WaltzmarkError as error:
            words = explained(error)
            answer = self._asking.choose(
                tr("These changes would be lost for good"),
                f"{words[:1].upper()}{words[1:]}.",
                (tr("Cancel"), tr("Discard them for good")),
            )
            return answer == 1
        return True

    # Other formats.

    def export(self, kind: str) -> None:
        """Writes the score as plain text (``txt``), or the trace as CSV (``csv``), to a file that is asked for."""
        from waltzmark.files.tables import score_on_paper, trace_csv

        form, trace = self.document.form, self.document.trace
        filters = {"txt": tr("Plain text (*.txt)"), "csv": tr("CSV tables (*.csv)")}
        start = self.document.beside(f".{kind}")
        if path := self.desk.files.to_save(tr("Export"), start, filters[kind]):
            self._asking.attempt(
                lambda: save_atomically(path, score_on_paper(form) if kind == "txt" else trace_csv(form, trace))
            )

    def import_csv(self) -> None:
        """Opens the postures of a CSV table as a new form."""
        from waltzmark.files.tables import form_from_csv

        if not self.may_leave():
            return
        path = self.desk.files.to_open(tr("Import a table"), tr("CSV tables (*.csv);;All files (*)"))
        if path is None:
            return
        try:
            form = form_from_csv(read_text(path), Form(title=path.stem))
        except WaltzmarkError as error:
            self._asking.tell(tr("This table cannot be imported"), explained(error))
            return
        self.document.new()
        first = Selection(form.postures[0].id if form.postures else None)
        self.document.edit(tr("import {name}", name=path.name), form, first)
