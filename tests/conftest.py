"""How the property tests draw: the suite draws the same each time, a search draws anew. And what is collected when."""

from __future__ import annotations

import gc
from itertools import count

from hypothesis import settings

# A deadline would be a measure of the machine, not of what is tested.
settings.register_profile("suite", deadline=None, derandomize=True)
settings.register_profile("search", deadline=None, derandomize=False, print_blob=True)
settings.load_profile("suite")

_done = count(1)


def pytest_collection_finish() -> None:
    """What was imported stays, and is not looked through for garbage again and again: that took the core's tests a
    fifteenth of their time."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(10_000, 20, 50)  # what tests keep among themselves is looked through less often too


def pytest_runtest_teardown() -> None:
    """Once there is a window garbage is collected between events, which most tests have too few of."""
    if not gc.isenabled() and (done := next(_done)) % 10 == 0:
        gc.collect(1 if done % 200 else 2)  # what came with the last tests; all of it takes a second
