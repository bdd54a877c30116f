"""The line to a scale: readings as they come, a stand-in that is started and ended, and what happens when it goes."""

from __future__ import annotations

import contextlib
import json
import sys

from PySide6.QtCore import QObject, QProcess, QTimer, Signal
from PySide6.QtNetwork import QAbstractSocket, QTcpSocket

from waltzmark.core.practice.balancing import Reading
from waltzmark.desktop.guard import safely
from waltzmark.files.scales import HERE, PORT, Hello, Lines, ScaleError, read_line
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["Plates"]

_AGAIN_MS = 1500
#: What runs a command of this program again; packaged, it is the program itself.
_ITSELF = () if getattr(sys, "frozen", False) else ("-P", "-m", "waltzmark")
_AT_ONCE = 200  # lines that are read before others get their turn
_MOST = 1 << 20  # bytes that may wait; a scale that sends more is let go


class Plates(QObject):
    """A scale on this machine. state: off, waiting (for it to come, or to come back), on."""

    read = Signal(object)  # Reading
    greeted = Signal(object)  # Hello
    changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.state = "off"
        self.port = PORT
        self.trouble = ""  # what is wrong with it, in words
        self.nonsense = 0  # lines that were no readings
        self.hello: Hello | None = None
        self._lines = Lines()
        self._socket = QTcpSocket(self)
        self._socket.setReadBufferSize(_MOST)
        self._socket.connected.connect(safely(self._came))
        self._socket.disconnected.connect(safely(self._went))
        self._socket.errorOccurred.connect(safely(lambda _error: self._went()))
        self._socket.readyRead.connect(safely(self._read))
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(_AGAIN_MS)
        self._again.timeout.connect(safely(self._try))
        self._stand_in: QProcess | None = None

    def connect_to(self, port: int) -> None:
        """Looks for a scale on a port of this machine, and goes on looking."""
        self.leave()
        self.port, self.state, self.trouble, self.nonsense = port, "waiting", "", 0
        self._try()
        self.changed.emit()

    def leave(self) -> None:
        """Lets the scale go."""
        self.state = "off"
        self._again.stop()
        self._socket.abort()
        self._lines = Lines()
        self.changed.emit()

    def _ended(self, *_: object) -> None:
        self.changed.emit()

    def start_stand_in(self, arguments: list[str]) -> None:
        """Starts the simulated scale that ships with Waltzmark on a free port, and listens to it."""
        self.end_stand_in()
        process = self._stand_in = QProcess(self)
        process.readyReadStandardOutput.connect(safely(self._told))
        process.finished.connect(safely(self._ended))
        # Nothing is run out of the folder somebody happens to be in; and it ends with this program, also by a crash.
        process.setWorkingDirectory("/")
        process.start(sys.executable, [*_ITSELF, "scale", "--port", "0", "--until-input-ends", *arguments])
        self.state = "waiting"
        self.changed.emit()

    @property
    def simulated(self) -> bool:
        """Whether the stand-in that was started here runs."""
        return self._stand_in is not None and self._stand_in.state() != QProcess.ProcessState.NotRunning

    def end_stand_in(self) -> None:
        """Ends the simulated scale, if it was started here."""
        process, self._stand_in = self._stand_in, None
        if process is not None:
            process.finished.disconnect()
            process.kill()
            process.waitForFinished(1000)
            process.deleteLater()

    def ask(self, target: float) -> None:
        """Tells a scale that simulates a person which share of the left foot to follow; a real one need not listen."""
        if self.state == "on":
            self._socket.write(json.dumps({"target": round(target, 4)}).encode() + b"\n")

    def close(self) -> None:
        """Ends all of it."""
        self.leave()
        self.end_stand_in()

    def _told(self) -> None:
        """The stand-in has told where it listens."""
        if self._stand_in is None:
            return
        line = bytes(self._stand_in.readLine().data())
        with contextlib.suppress(ValueError, KeyError, TypeError):
            self.connect_to(int(json.loads(line)["port"]))

    def _try(self) -> None:
        if self.state == "waiting" and self._socket.state() == QAbstractSocket.SocketState.UnconnectedState:
            self._lines = Lines()
            self._socket.connectToHost(HERE, self.port)

    def _came(self) -> None:
        self.state, self.trouble = "on", ""
        self.changed.emit()

    def _went(self) -> None:
        """It is not there, or went: told once, and looked for again."""
        if self.state == "off":
            return
        was, self.state = self.state, "waiting"
        self.trouble = (
            tr("The scale has disconnected. Your measures are safe, and Waltzmark is looking for it again.")
            if was == "on" or self.trouble
            else tr("No scale answers on port {port} of this computer yet. Still looking.", port=self.port)
        )
        self._again.start()
        self.changed.emit()

    def _read(self) -> None:
        data = bytes(self._socket.read(_MOST).data())
        lines = self._lines.take(data)
        # A scale that sends a million lines is read as far as it can be: the newest count.
        for line in lines[-_AT_ONCE:]:
            try:
                said = read_line(line)
            except ScaleError as error:
                self.nonsense += 1
                if self.nonsense in (1, 10, 100, 1000):
                    self.trouble = tr(
                        "The scale has sent {nonsense} lines that are not readings: {explained}.",
                        nonsense=self.nonsense,
                        explained=explained(error),
                    )
                    self.changed.emit()
                continue
            if isinstance(said, Hello):
                self.hello = said
                self.greeted.emit(said)
            else:
                assert isinstance(said, Reading)
                self.read.emit(said)
