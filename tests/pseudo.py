"""Drives every stage, face and dialog in a language that nobody speaks, and prints what is wrong as JSON.

``python -m tests.pseudo es`` drives them in a language that ships, and finds what is still English or cut off.

In it every letter that can bears an accent, and every text is a third longer and stands in brackets. So what has none
was not translated, two in a row where the second goes on in the middle of a sentence were glued, and what is longer
than its place would be cut off in some language. It runs in a process of its own, since tables of texts are made as
their modules are imported.
"""

from __future__ import annotations

import calendar
import gettext
import json
import os
import re
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

ACCENTS = str.maketrans("aeiouycnAEIOUYCN", "àéîöüÿçñÀÉÎÖÜŸÇÑ")
_KEPT = re.compile(r"(\{[^}]*\}|<[^>]*>|\(\*[^)]*\)(?:;;)?)")
SIZES = ((1280, 800), (1024, 700))


def pseudo(text: str) -> str:
    """A text as it is in no language: accented, a third longer, in brackets; fields, tags and patterns are kept."""
    parts = _KEPT.split(text)
    said = "".join(part if number % 2 else part.translate(ACCENTS) for number, part in enumerate(parts))
    longer = " ëxträ löñg ëxträ löñg"
    body = said.rstrip()
    more = (longer * (1 + len(body) // 60))[: max(len(body) // 3, 1)]
    return f"⟦{body}{more.rstrip()}⟧{said[len(body) :]}"


class Pseudo(gettext.NullTranslations):
    """The catalogue of that language."""

    def gettext(self, message: str) -> str:
        return pseudo(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return pseudo(msgid1 if n == 1 else msgid2)

    def pgettext(self, context: str, message: str) -> str:
        return pseudo(message)


def _plain(text: str) -> str:
    text = re.sub(r"</?(br|p|li|td|tr|table|h\d)\b[^>]*>", "\n", text)
    return re.sub(r"<[^>]*>|&nbsp;", " ", text).replace("&&", "&")


#: The end of a sentence, with what makes it longer, and after it a stop or comma of the one it was put into.
_ENDED_TWICE = re.compile(r"[.!?][ ëxträlöñg]*⟧[.,;]")


def glued(text: str) -> bool:
    """Whether a text goes on, outside all brackets, in the middle of a sentence that another one began.

    Or one that has come to its end stands in the middle of another.
    """
    if _ENDED_TWICE.search(text):
        return True
    depth, ended = 0, False
    for at, letter in enumerate(text):
        if letter == "⟦":
            after = text[at + 1 : at + 2]
            if depth == 0 and ended and (after.islower() or after in ",;"):
                return True
            depth += 1
        elif letter == "⟧":
            depth -= 1
            ended = depth == 0
        elif ended and letter in "\n·|/:→=(.;":
            ended = False
    return False


class Reader:
    """Reads what widgets show, and keeps what is wrong with it."""

    def __init__(self, known: set[str]) -> None:
        self.known = known
        self.wrong: dict[str, str] = {}
        self.texts = 0
        self._read: set[str] = set()

    def words(self, where: str, text: str) -> None:
        """A text that is shown somewhere."""
        self.texts += 1
        if text not in self._read:
            self._read.add(text)
            self.read(where, _plain(text))

    def read(self, where: str, said: str) -> None:
        """A text that was not shown before: nothing in it is English but names and the score, and nothing is glued."""
        english = [
            word
            for word in re.findall(r"(?<![\wÀ-ÿ])[A-Za-z]{3,}(?![\wÀ-ÿ])", said)
            if re.search("[aeiouAEIOU]", word) and word.lower() not in self.known
        ]
        if english:
            self.wrong.setdefault(f"English: {' '.join(english)[:80]}", f"{where}: {said[:160]}")
        if glued(said):
            self.wrong.setdefault(f"glued: {said[:120]}", where)

    def place(self, where: str, text: str, needs: int, has: int) -> None:
        """A text in its place."""
        if needs > has + 1:
            self.wrong.setdefault(f"cut off: {text[:60]}", f"{where}: needs {needs}, has {has} pixels")


class Leftovers(Reader):
    """Reads what is shown in a language that ships, and keeps what is still English."""

    def __init__(self, name: str) -> None:
        super().__init__(set())
        from babel.messages.pofile import read_po

        from waltzmark.words.language import CATALOGUES

        with (CATALOGUES / name / "LC_MESSAGES" / "waltzmark.po").open("rb") as file:
            every = [each for each in read_po(file, locale=name) if isinstance(each.id, str) and each.id]
        self.english = {str(each.id).replace("&", "") for each in every if each.id != each.string}
        self.english -= {str(each.string).replace("&", "") for each in every}
        # The score’s words and units, and what a language calls itself, are the same in each.
        self.allowed = "heel, tape, weight"  # what is looked for in the help, which is in English
        self.english -= {"bow", "cross", "horse", "in", "low", "parallel", "together", "vee", "English"}

    def read(self, where: str, said: str) -> None:
        if re.search(r"(?<!\.)\.[.;](?!\.)", said):
            self.wrong.setdefault(f"ended twice: {said[:120]}", where)
        named = re.compile(r"\([a-z]+\.[a-z-]+\)")  # a rule
        for line in named.sub("", said).replace(self.allowed, "").splitlines():
            if line.strip() in self.english or re.search(
                r"\b(the|and|with|this|not|from|your?|left|right|beats|weight|feet)\b", line
            ):
                self.wrong.setdefault(f"English: {line[:80]}", where)


def _known() -> set[str]:
    """What is the same in every language: the demo's names, the score's words, schools and keys."""
    import waltzmark
    from waltzmark.core.judge.judging import RULES
    from waltzmark.core.school.school import bundled_schools, load_school
    from waltzmark.files.reading import read_file

    here = Path(waltzmark.__file__).parent
    texts: list[str] = []
    for file in here.glob("demo/**/*.waltz"):
        form = read_file(file).form
        texts += [form.title, form.opening.name, *(t or "" for p in form.postures for t in (p.id, p.title, p.note))]
        texts += [line.note or "" for each in form.postures for line in each.lines]
        if form.room is not None:
            texts += [form.room.name, *(each.name for each in form.room.obstacles)]
    for file in here.glob("demo/lesson*.md"):  # its headings are names of postures
        texts += [line for line in file.read_text(encoding="utf-8").splitlines() if line.startswith("#")]
    for school in map(load_school, bundled_schools()):
        texts += [school.id, school.name, *school.stances]
    texts += [name.replace("_", " ") for name in RULES]
    texts.append((here / "core/score/grammar.lark").read_text(encoding="utf-8"))
    words = {word.lower() for text in texts for word in re.findall("[A-Za-z]{3,}", text)}
    words |= {
        "alt",
        "lesson",
        "esc",
        "home",
        "space",
        "backspace",
        "escape",
        "return",
        "enter",
        "waltzmark",
        "dxf",
        "csv",
        "json",
    }
    words |= {"pgup", "pgdown", "ins", "del", "tab", "shift", "ctrl", "cancel"}  # keys, and what Qt itself says
    return words | {
        "nne",
        "ene",
        "ese",
        "sse",
        "ssw",
        "wsw",
        "webvtt",
        "nov",
        "dec",
        "jan",
        "feb",
        "mar",
        "apr",
        "jun",
        "jul",
        "aug",
        "sep",
        "oct",
        "sept",
        "english",
        "monday",
        "tuesday",
        "wednesday",
        "thursday",
        "friday",
        "saturday",
        "sunday",
        *map(str.lower, calendar.month_name[1:]),
        "svg",
        "png",
        "pdf",
    }


def _look(window: object, reader: Reader, where: str) -> None:
    """Reads every widget that is seen under a window."""
    from PySide6.QtCore import QAbstractTableModel, QModelIndex, Qt
    from PySide6.QtWidgets import (
        QAbstractButton,
        QAbstractItemView,
        QAbstractSpinBox,
        QCheckBox,
        QComboBox,
        QLabel,
        QLineEdit,
        QMenuBar,
        QPushButton,
        QScrollArea,
        QWidget,
    )

    assert isinstance(window, QWidget)
    for widget in [window, *window.findChildren(QWidget)]:
        if not widget.isVisible():
            continue
        kind = type(widget).__name__
        at = f"{where}, {kind}"
        for text in (widget.toolTip(), widget.accessibleName(), widget.accessibleDescription(), widget.windowTitle()):
            reader.words(at, text)
        if (
            isinstance(widget, QScrollArea)
            and (inside := widget.widget()) is not None
            and widget.objectName() != "wide"
        ):
            reader.place(at, f"all of {widget.accessibleName()}", inside.width(), widget.viewport().width())
        if isinstance(widget, QLabel):
            reader.words(at, widget.text())
            if widget.text() and widget.pixmap().isNull():
                if widget.wordWrap():
                    reader.place(at, widget.text(), widget.heightForWidth(widget.width()), widget.height())
                else:
                    reader.place(at, widget.text(), widget.sizeHint().width(), widget.width())
        elif isinstance(widget, QAbstractButton):
            reader.words(at, widget.text())
            if widget.text() and isinstance(widget, QPushButton | QCheckBox):
                wide = widget.fontMetrics().size(Qt.TextFlag.TextShowMnemonic, widget.text()).width()
                reader.place(at, widget.text(), wide, widget.width())
        elif isinstance(widget, QComboBox):
            for number in range(widget.count()):
                reader.words(at, widget.itemText(number))
        elif isinstance(widget, QAbstractSpinBox):
            reader.words(at, f"{getattr(widget, 'prefix', str)()} {getattr(widget, 'suffix', str)()}")
            inner = widget.findChild(QLineEdit)
            assert isinstance(inner, QLineEdit)
            wide = inner.fontMetrics().horizontalAdvance(widget.text()) + 2
            reader.place(at, widget.text(), wide, inner.width())
        elif isinstance(widget, QMenuBar):
            for action in widget.actions():
                reader.place(at, action.text(), widget.actionGeometry(action).right(), widget.width())
        elif isinstance(widget, QLineEdit):
            reader.words(at, widget.placeholderText())
        elif isinstance(widget, QAbstractItemView):
            model = widget.model()
            root = QModelIndex()
            columns = model.columnCount(root) if isinstance(model, QAbstractTableModel) else 1
            for column in range(columns if isinstance(model, QAbstractTableModel) else 0):
                reader.words(at, str(model.headerData(column, Qt.Orientation.Horizontal) or ""))
            for row in range(min(model.rowCount(root), 60)):
                for column in range(columns):
                    reader.words(at, str(model.index(row, column).data() or ""))


def _painted() -> list[str]:
    """What is painted as text from now on, one after the other."""
    from PySide6.QtGui import QPainter

    found: list[str] = []
    real = QPainter.drawText

    def draw(painter: QPainter, *arguments: object) -> object:
        found.extend(each for each in arguments if isinstance(each, str))
        return real(painter, *arguments)  # type: ignore[call-overload]

    QPainter.drawText = draw  # type: ignore[assignment, method-assign]
    return found


def _settled(window: object) -> None:
    from waltzmark.desktop.app import settle

    settle(window)  # type: ignore[arg-type]


def _dialogs(window: object) -> Iterator[tuple[str, object]]:
    """The dialogs that the window can open, each shown."""
    from waltzmark.desktop.cautions import CautionsPage
    from waltzmark.desktop.film_dialog import FilmDialog
    from waltzmark.desktop.helping import HelpWindow
    from waltzmark.desktop.new_form import NewForm
    from waltzmark.desktop.sheets.dialog import SheetsDialog
    from waltzmark.desktop.shortcuts import ShortcutSheet
    from waltzmark.desktop.window import MainWindow

    assert isinstance(window, MainWindow)
    yield "new form", NewForm(window.desk.theme, False, window)
    yield "cautions", CautionsPage(window.document.form.school, window)
    yield "shortcuts", ShortcutSheet(window.desk.book, window)
    yield "film", FilmDialog(window.desk, window)
    yield "sheets", SheetsDialog(window.desk, window)
    yield "help", HelpWindow(window.desk.theme)


def main() -> None:
    """Prints what is wrong, by what it is, with where it was seen first."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")
    with tempfile.TemporaryDirectory() as folder:
        for name in ("XDG_CONFIG_HOME", "XDG_CACHE_HOME", "XDG_DATA_HOME", "XDG_STATE_HOME"):
            os.environ[name] = folder
        from waltzmark.words import language

        name = sys.argv[1] if len(sys.argv) > 1 else ""
        if name:
            language.set_language(name)
        else:
            language.set_language("en", Pseudo())
        from PySide6.QtWidgets import QDialog, QMenu

        from tests.waiting import until
        from waltzmark.core.base.records import replace
        from waltzmark.desktop.app import make_application
        from waltzmark.desktop.history import Selection
        from waltzmark.desktop.stages import STAGES
        from waltzmark.desktop.windows import open_window

        application = make_application()
        painted = _painted()
        reader = Leftovers(name) if name else Reader(_known())
        window = open_window(first=lambda filing: filing.open_demo())
        window.show_demo_book()
        faces = 0
        for size in SIZES:
            window.resize(*size)
            window.show()
            for row in STAGES:
                stage = window.show_stage(row.name)
                names = ["body", "bodies", "school"] if row.name == "ready" else list(getattr(stage, "faces", [""]))
                faces += len(names)
                for face in names:
                    if face:
                        stage.show_face(face)
                    _settled(window)
                    _look(window, reader, f"{row.name} {face} {size[0]}")
                    painted.clear()
                    window.grab()
                    for text in dict.fromkeys(painted):
                        reader.words(f"{row.name} {face} {size[0]}, painted", text)
        window.editor.set_school(replace(window.document.form.school, id="own", base=window.document.form.school.id))
        for size in SIZES:  # every field of a school that can be changed
            window.resize(*size)
            window.show_stage("ready").show_face("school")
            _settled(window)
            _look(window, reader, f"ready, own school {size[0]}")
        window.document.undo()
        for size in SIZES:  # the words themselves are the user's; what is said of them is not
            window.resize(*size)
            stage = window.show_stage("words")
            stage.try_sample()  # type: ignore[attr-defined]
            _settled(window)
            _look(window, reader, f"words, drafted {size[0]}")
        window.document.undo()
        window.show_stage("plot")
        window.desk.book["findings"].setChecked(True)
        _settled(window)
        _look(window, reader, "plot, findings")
        window.document.session.select(Selection("coil", 4, 5))
        window.plot.entry.field.setText(
            "shift L 80, pivot R heel 1:30, torso 3"
        )  # what is wrong with it is told as well
        until(lambda: window.document.judge.expected is not None)
        _look(window, reader, "plot, a count typed")
        for menu in window.findChildren(QMenu):
            for action in menu.actions():
                reader.words(f"menu {menu.title()}", action.text().replace("&", ""))
                reader.words(f"menu {menu.title()}", action.toolTip())
        for name, dialog in _dialogs(window):
            assert isinstance(dialog, QDialog) or hasattr(dialog, "show")
            dialog.show()
            application.processEvents()
            _look(dialog, reader, name)
            dialog.close()  # type: ignore[attr-defined]
        print(json.dumps({"texts": reader.texts, "faces": faces, "wrong": reader.wrong}, ensure_ascii=False))
        sys.stdout.flush()
        os._exit(0)


if __name__ == "__main__":
    main()
