"""The pictures in the documents show the window as it is: making them anew leaves them as they are."""

from __future__ import annotations

import importlib.util
from pathlib import Path
from types import ModuleType

import numpy as np
import pytest
from PySide6.QtGui import QImage

from waltzmark.desktop.settings import Settings


def script() -> ModuleType:
    place = Path(__file__).parents[2] / "scripts" / "screenshots.py"
    spec = importlib.util.spec_from_file_location("screenshots", place)
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


SHOTS = script()


def pixels(image: QImage) -> np.ndarray[tuple[int, ...], np.dtype[np.int16]]:
    image = image.convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4).astype(np.int16)


@pytest.mark.parametrize("name", SHOTS.SHOTS)
def test_a_picture_made_anew_is_the_one_in_the_documents(name: str, qapp: object, settings: Settings) -> None:
    kept, new = QImage(str(SHOTS.FOLDER / f"{name}.png")), SHOTS.made(name).toImage()
    assert (kept.width(), kept.height()) == (new.width(), new.height()) == (1280, 800)
    # Another machine may draw the edge of a letter a shade lighter, and a cursor blinks.
    other = np.abs(pixels(kept) - pixels(new)).max(axis=2) > 40
    assert other.mean() < 0.003, f"make shots SHOTS={name}: {100 * other.mean():.1f} % of the picture has changed"
