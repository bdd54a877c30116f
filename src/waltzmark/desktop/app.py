"""Starting the window: ``waltzmark [FILE] [--demo]``."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from waltzmark import __version__
from waltzmark.core.base.records import Record
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.guard import safely
from waltzmark.desktop.widgets.telling import name_roles
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows, heed_desktop, open_window
from waltzmark.words.errors import explained
from waltzmark.words.language import language, tr

if TYPE_CHECKING:
    import argparse

__all__ = ["make_application", "run", "settle"]


#: Pixels of the picture that --shot makes.
SHOT = (1280, 800)


def _commands() -> str:
    """Each command with an example, a line each."""
    from waltzmark.cli.commands import COMMANDS, DRAWN

    every = {**COMMANDS, **DRAWN}.values()
    wide = max(len(example) for example, _ in every)
    lines = [f"  waltzmark {example:<{wide}}  {tr(words)}" for example, words in every]
    return "\n".join(
        [tr("commands without a window:"), *lines, "", tr("For more on a command: waltzmark sheet --help.")]
    )


class Options(Record):
    """What is asked for on the command line."""

    file: Path | None = None
    demo: bool = False
    shot: Path | None = None


def _options(arguments: Sequence[str]) -> Options:
    """What is asked for; the plain ways of starting need no parser, which takes a while to import."""
    if list(arguments) in ([], ["--demo"]):
        return Options(demo=bool(arguments))
    found = parser().parse_args(arguments)
    return Options(found.file, found.demo, found.shot)


def parser() -> argparse.ArgumentParser:
    """The command line of the window."""
    import argparse

    made = argparse.ArgumentParser(
        prog="waltzmark",
        description=tr("Plot, walk and check a tai chi form."),
        epilog=_commands(),
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
    made.add_argument("file", nargs="?", type=Path, metavar="FILE", help=tr("a .waltz form to open"))
    made.add_argument("--demo", action="store_true", help=tr("open the demo form"))
    made.add_argument("--shot", type=Path, metavar="PNG", help=tr("save a picture of the window and quit"))
    made.add_argument("--version", action="version", version=f"waltzmark {__version__}")
    return made


def make_application() -> QApplication:
    """The Qt application, with Waltzmark's name and style."""
    application = QApplication.instance()
    if not isinstance(application, QApplication):
        application = QApplication([*sys.argv[:1], "-style", "Fusion"])  # else it makes another one before
    application.setApplicationName("waltzmark")
    application.setApplicationDisplayName("")
    application.setDesktopFileName("org.waltzmark.Waltzmark")
    _speak_qt(application)
    name_roles()
    # A review in the background hands over to the hand that types ten times as quickly as it would by itself.
    sys.setswitchinterval(0.0005)
    return application


#: What a translator that has nothing to say of a text returns: an empty one would be shown.
_NOT_MINE: str = None  # type: ignore[assignment]


def _speak_qt(application: QApplication) -> None:
    """Qt's own texts, such as Cancel, in the language that is set: from the catalogues that PySide6 ships."""
    if language().startswith("en"):
        return
    from PySide6.QtCore import QLibraryInfo, QLocale, QTranslator

    translator = QTranslator(application)
    folder = QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)
    if translator.load(QLocale(language()), "qtbase", "_", folder):
        application.installTranslator(translator)

    # What those lack, or call otherwise than we do: some words of the dialog that chooses a file, with a key or not.
    own = {
        ("QFileDialog", "Look in:"): tr("Look in:"),
        ("QFileDialog", "File name:"): tr("File name:"),
        ("QFileDialog", "Files of type:"): tr("Files of type:"),
        ("QAbstractFileIconProvider", "Folder"): tr("Folder"),
        ("QAbstractFileIconProvider", "Drive"): tr("Drive"),
    }

    class Own(QTranslator):
        def translate(self, context: str, text: str, disambiguation: str | None = None, n: int = -1) -> str:
            said = own.get((context, text.replace("&", "")))
            return _NOT_MINE if said is None else f"&{said}" if "&" in text else said

    application.installTranslator(Own(application))


def run(arguments: Sequence[str]) -> int:
    """Opens a window and stays until it is closed; returns the exit status."""
    options = _options(arguments)
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        if not options.shot:
            print(tr("waltzmark: no display found; --shot PNG draws the window without one."), file=sys.stderr)
            return 1
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    application = make_application()
    unread: list[Path] = []

    def first(filing: Filing) -> None:
        if options.demo:
            filing.open_demo()
        elif options.file is not None and not filing.open_path(options.file):
            unread.append(options.file)

    window = open_window(first=first, late=True)
    if options.demo:
        window.show_demo_book()
    elif options.file is None:
        window.beginning.show_doors()
    if unread and options.shot:
        return 2
    if options.shot:
        window.resize(*SHOT)
        settle(window)
        saved = window.grab().save(str(options.shot))
        window.document.close()
        if not saved:
            print(tr("waltzmark: {file} could not be written", file=options.shot), file=sys.stderr)
        return 0 if saved else 1
    icon = str(Path(__file__).parent / "resources" / "waltzmark.svg")
    window.completed.connect(safely(lambda: application.setWindowIcon(QIcon(icon))))  # it takes a library of its own
    window.completed.connect(safely(heed_desktop))
    sys.excepthook = _tell
    QTimer.singleShot(0, window, safely(window.filing.offer_recovery))
    return application.exec()


def _tell(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """What goes wrong in an event or a paint is told once in the window, with a way to save, and not only in a terminal
    that nobody sees."""
    sys.__excepthook__(kind, error, trace)
    for window in all_windows():
        window.tell_trouble(f"{kind.__name__}: {error}" if explained(error) else kind.__name__)


def settle(window: MainWindow, seconds: float = 20.0) -> None:
    """Lets the window paint and its review arrive."""
    loop = QEventLoop()
    window.document.judge.reviewed.connect(safely(loop.quit))
    window.document.jobs.trouble.connect(safely(loop.quit))
    QTimer.singleShot(int(seconds * 1000), safely(loop.quit))
    if window.document.judge.review is None:
        loop.exec()
    for _ in range(5):
        QApplication.processEvents()
