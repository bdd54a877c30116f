"""``python -m tests.monkey --soak``: one window, a long evening's acts, and whether it takes more and more.

After every thousand acts the demo is opened anew, and what the process holds is counted. What is held grows at first,
since every stage and search is made when it is first wanted; from then on it has to stay.
"""

from __future__ import annotations

import functools
import gc
import os
import statistics
import tempfile
import threading
import time
from collections import Counter
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QCoreApplication, QEvent
from PySide6.QtWidgets import QApplication

from tests.monkey import Monkey
from tests.waiting import rest
from waltzmark.demo import demo_text
from waltzmark.desktop import fits
from waltzmark.desktop.collecting import collect_all
from waltzmark.desktop.windows import all_windows

__all__ = ["Held", "grown", "soak"]

#: By how much of itself a count may grow from the second fifth to the last, and what it may grow by anyway.
_MORE = {
    "memory": (0.15, 40.0),
    "files": (0.0, 6.0),
    "threads": (0.0, 6.0),
    "objects": (0.10, 2_000.0),
    "widgets": (0.10, 200.0),
}


class Held(NamedTuple):
    """What a process holds: megabytes, open files, threads, objects of our own, and widgets.

    Objects of libraries are not counted: there are thousands more whenever one is first imported, and whoever looks
    through all widgets makes an object of Python of each part of them. kinds: how many objects of each type there are.
    """

    memory: float
    files: float
    threads: float
    objects: float
    widgets: float
    kinds: Counter[str]


def forget() -> None:
    """Empties the caches of Waltzmark: what they hold has a limit each, which a long evening only comes nearer to."""
    for cache in [each for each in gc.get_objects() if isinstance(each, functools._lru_cache_wrapper)]:
        # A small one is what there is once, such as the voice.
        large = (cache.cache_parameters()["maxsize"] or 0) >= 256
        if large and str(getattr(cache, "__module__", "")).startswith("waltzmark."):
            cache.cache_clear()
    fits._kept.clear()


def held() -> Held:
    """What this process holds now."""
    forget()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    collect_all()  # as the window does at rest
    kinds = Counter(
        f"{type(each).__module__}.{type(each).__qualname__}"
        for each in gc.get_objects()
        if str(type(each).__module__).startswith("waltzmark.")
    )
    with open("/proc/self/statm", encoding="ascii") as told:
        pages = int(told.read().split()[1])
    return Held(
        pages * os.sysconf("SC_PAGE_SIZE") / 1e6,
        len(os.listdir("/proc/self/fd")),
        threading.active_count(),
        kinds.total(),
        len(QApplication.allWidgets()),
        kinds,
    )


def grown(counts: list[Held]) -> list[str]:
    """What is held more and more of, in words; at least ten counts."""
    fifth = max(len(counts) // 5, 1)
    found = []
    for what, (share, anyway) in _MORE.items():
        before, after = (
            statistics.median(getattr(each, what) for each in some)
            for some in (counts[fifth : 2 * fifth], counts[-fifth:])
        )
        if after > before * (1.0 + share) + anyway:
            found.append(f"{what}: {before:.0f} and then {after:.0f}")
    if found:  # which they are
        more = counts[-1].kinds - counts[2 * fifth - 1].kinds
        found.append("more of: " + ", ".join(f"{kind} {n}" for kind, n in more.most_common(12)))
    return found


def soak(seed: int, acts: int, each: int) -> int:
    """Returns 1 when something was wrong, or is held more and more of."""
    from waltzmark.desktop.app import make_application

    made, counts, begun = make_application(), list[Held](), time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        monkey = Monkey(seed, Path(folder))
        for number in range(max(acts // each, 1)):
            monkey.run(each)
            for window in all_windows():
                if window is not monkey.window:
                    window.document.jobs.close()
                    window.close()
            monkey.window.document.open_text(demo_text())  # which nobody is asked about
            # What was practised is the user's own, and may be more and more.
            practice = monkey.window.desk.practice
            practice.show_demo(None)
            gone = [entry.id for entry in practice.entries if entry.id]
            practice.do(lambda book, gone=gone: book.delete(gone))  # type: ignore[misc]
            monkey.first = monkey.window.document.form
            while monkey.window.document.judge.review is None:
                rest(10)
            last = monkey.did[-40:]
            monkey.did.clear()
            counts.append(held())
            told = ", ".join(f"{what} {value:.0f}" for what, value in counts[-1]._asdict().items() if what in _MORE)
            print(f"{(number + 1) * each} acts, {(time.monotonic() - begun) / 60:.1f} min: {told}", flush=True)
            if monkey.wrong:
                print("after: " + "; ".join(last), flush=True)
                break
        wrong = [*monkey.wrong, *(grown(counts) if len(counts) >= 10 else [])]
        monkey.close()
    del made
    print("\n".join(f"WRONG: {words}" for words in wrong) or "nothing is held more and more of", flush=True)
    os._exit(1 if wrong else 0)  # what still runs in threads is not waited for
