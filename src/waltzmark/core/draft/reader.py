"""Who reads clauses: what all readers have in common."""

from __future__ import annotations

from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.pieces import Span

__all__ = ["PARTICIPLES", "STEPS", "TURNS", "WEIGHTS", "Reader"]

#: Verbs that move a foot to a place, those that turn, and those that pour the weight.
STEPS = frozenset({"step", "bring", "put", "cross"})
TURNS = frozenset({"turn", "face"})
WEIGHTS = frozenset({"shift", "share", "sit", "empty"})
#: Ends of words that say that something is done along with something.
PARTICIPLES = ("ing", "ando", "iendo")
_NOT_DOING = frozenset({"bring", "swing"})


def _is_how(c: Clause, at: int) -> bool:
    """Whether a word says by what something is done."""
    return c.said[at].low == "by" and c.said[at + 1].kind == "verb"


class Reader:
    """The acts that were read so far, and the spans of what was said that is no act."""

    def __init__(self) -> None:
        self.acts: list[Act] = []
        self.idle: list[tuple[Span, str]] = []
        self._past = -1  # the sentence that speaks of another time
        self._turning = -1  # the sentence that begins with turning somewhere
        self._participle = -1  # the sentence in which something was done along with something
        self._stated = -1  # the sentence that says what is so
        self._undone = False  # whether the clause says what is not done with the foot that it moves
        self._held: Clause | None = None  # what was told before its time
        self._arms: Clause | None = None  # the clause before, where hands or arms do something in it
        self._body = -1  # the sentence in which the body was named, and nothing said of it yet
        self._along = -1  # the sentence that began with what something else is done along with
        self._passing = -1  # the sentence in which a foot passes close by the other one
        self._topic: Ref | None = None  # a foot that was named and nothing said of it yet

    @property
    def last(self) -> Act | None:
        """The last act."""
        return self.acts[-1] if self.acts else None

    def _add(self, c: Clause, kind: str, **slots: object) -> Act:
        doing = [each.low.split()[0] for each in c.said if each.kind == "verb"]
        participle = any(word.endswith(PARTICIPLES) and word not in _NOT_DOING for word in doing)
        if any(each.low == "by" for each in c.said[:-1]) and any(_is_how(c, at) for at in range(len(c.said) - 1)):
            participle = False  # "straighten it by turning it in" is one thing
        if participle and self._participle == c.sentence:
            participle = False  # one after the other, as captions have it
        elif participle:
            self._participle = c.sentence
        act = Act(kind, together=c.together or (participle and not c.first), **slots)  # type: ignore[arg-type]
        if kind == "step" and self._passing == c.sentence:
            act.passing, self._passing = True, -1
        topic, foot = self._topic, act.foot
        if topic is not None and foot is not None and foot.part == "it" and not foot.side:
            act.foot = foot = topic  # "right foot, I'm going to lift it"
        if topic is not None and foot is not None and (foot is topic or foot.side == topic.side != ""):
            act.spans = [c.span, topic.span]
            self._topic = None
        self.acts.append(act)
        return act

    def _is_here(self, c: Clause, act: Act) -> bool:
        """Whether an act was told in the sentence of a clause."""
        return act.clause is not None and act.clause.sentence == c.sentence
