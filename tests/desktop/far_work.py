"""Work for a process of its own, which imports this module and nothing else of the tests."""

from __future__ import annotations

import os
import signal
import time

from waltzmark.core.base.progress import Progress


def counted(progress: Progress) -> int:
    """Work that tells how far it is, for a process of its own."""
    for number in range(5):
        progress.tell(number / 5, f"{number} of 5")
    progress.hand_out(4)
    return 5


def endless(progress: Progress) -> None:
    while True:
        progress.tell(0.5)
        time.sleep(0.005)


def deaf(_: Progress) -> None:
    time.sleep(60)


def given(value: int, _: Progress) -> int:
    return value


def broken(_: Progress) -> None:
    raise ZeroDivisionError("by nothing")


def killed(_: Progress) -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def number(progress: Progress) -> int:
    """The number of the process that did it."""
    progress.tell(0.5)
    return os.getpid()


def unsayable(_: Progress) -> object:
    return lambda: None  # which no process can hand to another


class OddError(Exception):
    """One that cannot be handed over either."""

    def __reduce__(self) -> str:
        raise TypeError("not me")


def odd(_: Progress) -> None:
    raise OddError


def leaving(_: Progress) -> None:
    raise SystemExit(3)
