"""Who reads clauses: what all readers have in common."""

from __future__ import annotations

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.pieces import Span

__all__ = ["PARTICIPLES", "STEPS", "TURNS", "WEIGHTS", "Reader"]

#: Verbs that move a foot to a place, those that turn, and those that pour the weight.
STEPS = frozenset({"step", "bring", "put", "cross"})
TURNS = frozenset({"turn", "face"})
WEIGHTS = frozenset({"shift", "sit", "empty"})
#: Ends of words that say that something is done along with something.
PARTICIPLES = ("ing", "ando", "iendo")


class Reader:
    """The acts that were read so far, and the spans of what was said that is no act."""

    def __init__(self) -> None:
        self.acts: list[Act] = []
        self.idle: list[tuple[Span, str]] = []
        self._past = -1  # the sentence that speaks of another time
        self._turning = -1  # the sentence that begins with turning somewhere
        self._participle = -1  # the sentence in which something was done along with something
        self._stated = -1  # the sentence that says what is so
        self._topic: Ref | None = None  # a foot that was named and nothing said of it yet

    @property
    def last(self) -> Act | None:
        """The last act."""
        return self.acts[-1] if self.acts else None

    def _add(self, c: Clause, kind: str, **slots: object) -> Act:
        participle = any(each.kind == "verb" and each.low.split()[0].endswith(PARTICIPLES) for each in c.said)
        if participle and self._participle == c.sentence:
            participle = False  # one after the other, as captions have it
        elif participle:
            self._participle = c.sentence
        act = Act(kind, together=c.together or (participle and not c.first), **slots)  # type: ignore[arg-type]
        self.acts.append(act)
        return act
