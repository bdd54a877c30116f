"""What is remembered between sessions: recent files, theme, the window's place."""

from __future__ import annotations

from pathlib import Path

import platformdirs
from PySide6.QtCore import QByteArray, QSettings

from waltzmark.core.sides.tolerance import SAME, Tolerance

__all__ = ["Settings"]

_RECENT = 8


class Settings:
    """Settings in the user's configuration folder, as an INI file one can read."""

    def __init__(self) -> None:
        folder = Path(platformdirs.user_config_dir("waltzmark"))
        self._store = QSettings(str(folder / "waltzmark.ini"), QSettings.Format.IniFormat)

    def text(self, key: str, default: str) -> str:
        value = self._store.value(key, default)
        return value if isinstance(value, str) else default

    def set_text(self, key: str, value: str) -> None:
        self._store.setValue(key, value)

    @property
    def recent(self) -> list[Path]:
        """Files opened or saved lately that are still there, the newest first."""
        value = self._store.value("recent", [])
        if isinstance(value, str):
            names = [value]
        elif isinstance(value, list):
            names = value
        else:
            names = []
        return [Path(name) for name in names if _is_there(Path(name))]

    def remember(self, path: Path) -> None:
        """Puts a file first among the recent ones."""
        path = path.resolve()
        others = [known for known in self.recent if known != path]
        self._store.setValue("recent", [str(p) for p in [path, *others][:_RECENT]])

    @property
    def within(self) -> Tolerance:
        """What two sides may differ by; the usual figures where they are not kept, or cannot be read."""
        kept = self.text("sides_within", "").split()
        try:
            cm, degrees, percent = (float(word) for word in kept[:3])
        except ValueError:
            return SAME
        beside = kept[3:] != ["feet"]
        good = all(0.1 <= each <= 30.0 for each in (cm, degrees, percent))
        return Tolerance(cm, degrees, percent, beside) if good else SAME

    @within.setter
    def within(self, within: Tolerance) -> None:
        self.set_text(
            "sides_within", f"{within.cm:g} {within.degrees:g} {within.percent:g}{'' if within.beside else ' feet'}"
        )

    @property
    def geometry(self) -> QByteArray | None:
        value = self._store.value("geometry")
        return value if isinstance(value, QByteArray) else None

    @geometry.setter
    def geometry(self, value: QByteArray) -> None:
        self._store.setValue("geometry", value)


def _is_there(path: Path) -> bool:
    """Whether there is a file; one in a folder that may not be read, or that is gone with its network, is not."""
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False
