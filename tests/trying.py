"""How many examples a property is tried with: the suite repeats the same ones, a search (`make search`) tries new ones."""

from __future__ import annotations

from hypothesis import settings

__all__ = ["tries"]


def tries(number: int) -> int:
    """All of a number of examples in a search; half of them, and at least four, in the suite."""
    searching = settings.get_current_profile_name() == "search"
    return number if searching else max(number // 2, min(number, 4))
