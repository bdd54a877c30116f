"""Help: the manual's topics at the left, searched as one types, and the one that is chosen at the right."""

from __future__ import annotations

from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QTextCharFormat, QTextCursor
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.theme import Theme, font
from waltzmark.files.manual import Topic, found, manual
from waltzmark.words.language import language, tr

__all__ = ["HelpWindow"]

_TOPIC = int(Qt.ItemDataRole.UserRole)


class HelpWindow(QDialog):
    """Stays beside the window while one works; Escape closes it."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Help"))
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("search, for example: heel, tape, weight"))
        self.field.setAccessibleName(tr("Search the help"))
        self.field.setClearButtonEnabled(True)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Topics"))
        self.list.setFixedWidth(300)
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.page = QTextBrowser()
        self.page.setAccessibleName(tr("Help text"))
        self.page.setOpenLinks(False)  # nothing is fetched
        self.page.anchorClicked.connect(safely(self._follow))
        self.none = wrapped(tr("No help topic has all of these words."), faint=True)
        self.none.hide()
        self.english = wrapped(tr("The help is in English so far; search it with English words."), faint=True)
        self.english.setVisible(not language().startswith("en"))
        left = QVBoxLayout()
        for part in (self.english, self.field, self.none, self.list):
            left.addWidget(part)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 12, 12, 12)
        row.setSpacing(10)
        row.addLayout(left)
        row.addWidget(self.page, 1)
        self.field.textChanged.connect(safely(self._search))
        self.field.returnPressed.connect(safely(self.list.setFocus))
        self.list.currentItemChanged.connect(safely(self._chosen))
        self.set_theme(theme)
        free = self.screen().availableGeometry()
        self.resize(min(960, free.width() - 60), min(680, free.height() - 80))

    def set_theme(self, theme: Theme) -> None:
        """Draws the page in a theme."""
        self._theme = theme
        self.page.setFont(font(10.5))
        self._chosen()

    def show_topic(self, title: str) -> None:
        """Shows the topic of a heading, the first there is where none has it."""
        self.field.clear()
        self._search("")
        rows = range(self.list.count())
        at = next((row for row in rows if self._topic(row).title == title), 0)
        self.list.setCurrentRow(at)
        self.list.scrollToItem(self.list.item(at))
        self.show()
        self.raise_()
        self.activateWindow()
        self.field.setFocus()

    def _topic(self, row: int) -> Topic:
        topic: Topic = self.list.item(row).data(_TOPIC)
        return topic

    def _search(self, words: str) -> None:
        self.list.blockSignals(True)  # the page is shown once
        self.list.clear()
        listed = found(words) if words.strip() else tuple((topic, "") for topic in manual())
        for topic, place in listed:
            item = QListWidgetItem(topic.title + (f"\n{place}" if place else ""))
            item.setData(_TOPIC, topic)
            item.setFont(font(10.0, bold=topic.level == 1))
            self.list.addItem(item)
        self.none.setVisible(not listed)
        if listed:
            self.list.setCurrentRow(0)
        self.list.blockSignals(False)
        self._chosen()

    def _chosen(self, *_: object) -> None:
        row = self.list.currentRow()
        if row >= 0:
            self.page.setMarkdown(self._topic(row).text)
            self.page.document().setDocumentMargin(14)
            self._colour_code()
            if words := self.field.text().split():
                self.page.find(words[0])
                self.page.ensureCursorVisible()

    def _colour_code(self) -> None:
        """What is to be typed stands in the window's own font, in a colour: the font for code is the system's, and of
        any size."""
        cursor = QTextCursor(self.page.document())
        cursor.beginEditBlock()  # else the whole page is laid out anew for each piece
        block = self.page.document().begin()
        while block.isValid():
            parts = block.begin()
            spans: list[tuple[int, int]] = []
            while not parts.atEnd():
                part = parts.fragment()
                if part.charFormat().fontFixedPitch():
                    spans.append((part.position(), part.position() + part.length()))
                parts += 1
            for start, end in spans:
                cursor.setPosition(start)
                cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
                said = QTextCharFormat()
                said.setFont(font(10.5))
                said.setForeground(self._theme.color("centre"))
                cursor.setCharFormat(said)
            block = block.next()
        cursor.endEditBlock()

    def _follow(self, link: QUrl) -> None:
        """Goes to another page of the manual; what lies outside is not opened."""
        page, _, heading = link.toString().partition("#")
        name = page.removesuffix(".md")
        topic = next((t for t in manual() if t.page == name and (not heading or _slug(t.title) == heading)), None)
        if topic is not None:
            self.show_topic(topic.title)


def _slug(title: str) -> str:
    return "".join(sign for sign in title.lower().replace(" ", "-") if sign.isalnum() or sign == "-")
