"""What a line of the score may have at most, and what it may not have at all."""

from __future__ import annotations

__all__ = ["LONGEST_COUNT", "LONGEST_NOTE", "MOST_ACTIONS", "UNSEEN"]

#: What a count may have at most: so many characters, so many actions, and so many characters in its note. The first is
#: more than the others can come to when they are written out, so that what was read can always be read again.
LONGEST_COUNT, MOST_ACTIONS, LONGEST_NOTE = 16_000, 60, 2_000
#: What would break a line in two in one program or another, and other signs that cannot be seen.
UNSEEN = dict.fromkeys((*range(9), *range(10, 32), 127, *range(128, 160), 8232, 8233), " ")
