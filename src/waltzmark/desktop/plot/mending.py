"""Below the list of findings: what can be done about the chosen one, and what has been muted."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QMenu, QPushButton, QToolButton, QVBoxLayout

from waltzmark.core.form.mutes import Mute
from waltzmark.core.judge.finding import Finding
from waltzmark.desktop.actions import menu_text
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import faint, set_tip
from waltzmark.words.findings import what
from waltzmark.words.language import tr
from waltzmark.words.rules import rule_title
from waltzmark.words.sentences import sentence

__all__ = ["MendingPanel"]

_MOST = 3  # mends offered at once


class MendingPanel(QFrame):
    """Buttons for the mends of a finding, and one to leave it as it is, with a reason."""

    def __init__(self, document: Document, editor: Editor, asking: Asking) -> None:
        super().__init__()
        self._document, self._editor, self._asking = document, editor, asking
        self.finding: Finding | None = None
        self.setObjectName("answer")
        self.heading = faint(tr("Ways to fix it"), 9.5, bold=True)
        self.mends = [QPushButton() for _ in range(_MOST)]
        for number, button in enumerate(self.mends):
            button.clicked.connect(safely(partial(self._clicked, number)))
        self.leave = QToolButton()
        self.leave.setText(tr("Ignore this finding …"))
        self.leave.setToolTip(tr("Ignores it, with a reason that is saved in the document (Shift+F7)"))
        self.leave.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._menu = QMenu(self.leave)
        for words, where in ((tr("&Once, here"), 0), (tr("In this &posture"), 1), (tr("&Everywhere in this form"), 2)):
            self._menu.addAction(words).triggered.connect(safely(partial(self._ask, where)))
        self.leave.setMenu(self._menu)
        self.muted = QToolButton()
        self.muted.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._heard = QMenu(self.muted)
        self._heard.setToolTipsVisible(True)
        self.muted.setMenu(self._heard)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 7, 10, 8)
        column.setSpacing(5)
        for part in (self.heading, *self.mends):
            column.addWidget(part)
        for tool in (self.leave, self.muted):
            tool.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
            column.addWidget(tool, 0, Qt.AlignmentFlag.AlignLeft)
        document.form_changed.connect(safely(lambda: self.show_finding(None)))
        document.judge.judged.connect(safely(self._show_muted))
        document.session.figures_changed.connect(safely(lambda: self.show_finding(self.finding)))
        self.show_finding(None)

    def show_finding(self, finding: Finding | None) -> None:
        """Offers what can be done about a finding."""
        self.finding = finding
        mends = finding.mends if finding else ()
        self.heading.setVisible(bool(mends))
        for number, button in enumerate(self.mends):
            button.setVisible(number < len(mends))
            if number < len(mends):
                words = sentence(mends[number].does, self._document.session.say)
                button.setText(words)
                set_tip(button, tr("{words}. Ctrl+Z undoes it.", words=words + ("  (F7)" if number == 0 else "")))
        self.leave.setVisible(finding is not None)
        self._show_muted()
        self.setVisible(finding is not None or bool(self._document.form.mutes))

    def _show_muted(self) -> None:
        mutes = self._document.form.mutes
        self.muted.setVisible(bool(mutes))
        self.muted.setText(tr("{mutes} ignored", mutes=len(mutes)))
        self._heard.clear()
        silent = [f for f, _ in self._document.judge.muted]
        for mute in mutes:
            number = sum(mute.covers(f.rule, f.posture, f.count) for f in silent)
            where = tr("everywhere")
            if mute.posture is not None:
                known = any(p.id == mute.posture for p in self._document.form.postures)
                where = self._document.form.posture(mute.posture).title if known else mute.posture
                if mute.count is not None:
                    where = tr("{posture}, count {count}", posture=where, count=mute.count)
            action = self._heard.addAction(menu_text(f"{rule_title(mute.rule)}: {where} ({number}): {mute.reason}"))
            action.setToolTip(tr("Click to show it again"))
            action.triggered.connect(safely(lambda _checked=False, mute=mute: self._editor.unmute(mute)))

    def _ask(self, where: int, _checked: bool = False) -> None:
        self.mute(where)

    def _clicked(self, number: int, _checked: bool = False) -> None:
        self.mend(number)

    def mend(self, number: int = 0) -> None:
        """Makes one of the mends of the chosen finding."""
        if self.finding is not None and number < len(self.finding.mends):
            self._editor.mend(self.finding.mends[number])

    def mute(self, where: int) -> None:
        """Asks for the reason and mutes the chosen finding: once (0), in its posture (1) or everywhere (2)."""
        finding = self.finding
        if finding is None:
            return
        label = tr("{what}\n\nWhy is it right here?", what=what(finding, self._document.session.say))
        reason = self._asking.text(tr("Ignore this finding"), label)
        if not reason:
            return
        posture = None if where == 2 else finding.posture
        count = finding.count if where == 0 and posture is not None else None
        self._editor.mute(Mute(finding.rule, reason, posture, count))

    def ask_where(self) -> None:
        """Opens the menu that asks how far to mute."""
        if self.finding is not None:
            self.leave.showMenu()
