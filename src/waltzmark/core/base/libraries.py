"""Large libraries, imported when they are first wanted, and by one thread at a time.

They take a moment, so that nothing waits for them at the start; and two threads that import parts of one at the same
moment can find it half made.
"""

from __future__ import annotations

import importlib
import threading
from typing import Any

__all__ = ["library"]

_ONE_AT_A_TIME = threading.RLock()


def library(name: str) -> Any:
    """A module by its name, such as ``scipy.ndimage``."""
    with _ONE_AT_A_TIME:
        return importlib.import_module(name)
