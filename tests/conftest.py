"""How the property tests draw: the suite draws the same each time, a search draws anew."""

from __future__ import annotations

from hypothesis import settings

# A deadline would be a measure of the machine, not of what is tested.
settings.register_profile("suite", deadline=None, derandomize=True)
settings.register_profile("search", deadline=None, derandomize=False, print_blob=True)
settings.load_profile("suite")
