"""The desktop's settings portal, over the session bus. Loaded once the first picture is there."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PySide6.QtCore import SLOT, QObject, Slot
from PySide6.QtDBus import QDBusConnection, QDBusMessage, QDBusPendingCallWatcher, QDBusVariant

from waltzmark.desktop.guard import safely

__all__ = ["Portal"]

_PORTAL = ("org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop", "org.freedesktop.portal.Settings")


class Portal(QObject):
    """Asks for settings, by namespace and key, and hears when one is changed."""

    def __init__(self, learn: Callable[[tuple[str, str], object], None], parent: QObject) -> None:
        super().__init__(parent)
        self._learn = learn
        self._bus = QDBusConnection.sessionBus()
        self._watched: list[QDBusPendingCallWatcher] = []

    def ask(self, settings: Iterable[tuple[str, str]]) -> None:
        """Asks; the answers come when they come, and none where there is no portal."""
        if not self._bus.isConnected():
            return
        slot: bytes = SLOT("told(QDBusMessage)")  # type: ignore[assignment]  # it takes what SLOT gives
        self._bus.connect(*_PORTAL, "SettingChanged", self, slot)
        for setting in settings:
            call = QDBusMessage.createMethodCall(*_PORTAL, "ReadOne")
            call.setArguments(list(setting))
            watcher = QDBusPendingCallWatcher(self._bus.asyncCall(call), self)
            watcher.finished.connect(safely(lambda each, setting=setting: self._take(setting, each.reply())))
            self._watched.append(watcher)

    @Slot(QDBusMessage)
    def told(self, message: QDBusMessage) -> None:
        """Somebody has changed a setting."""
        safely(self._hear)(message)

    def _hear(self, message: QDBusMessage) -> None:
        space, key, value = message.arguments()
        self._learn((space, key), _plain(value))

    def _take(self, setting: tuple[str, str], reply: QDBusMessage) -> None:
        if reply.type() == QDBusMessage.MessageType.ReplyMessage and reply.arguments():
            self._learn(setting, _plain(reply.arguments()[0]))


def _plain(value: object) -> object:
    """What a variant holds."""
    return value.variant() if isinstance(value, QDBusVariant) else value
