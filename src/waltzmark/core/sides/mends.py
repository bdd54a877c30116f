"""Making one side like the other: a whole passage, one count, or tied to it for good.

Nothing written is lost by a tie but the counts that are taken from the other from then on.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.errors import FormError
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record, replace
from waltzmark.core.edit import forms
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Clock
from waltzmark.core.sides.differences import CountPair, Span
from waltzmark.core.sides.folding import Fold
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Mended", "alike", "count_alike", "named_side", "shift_of", "tied"]


class Mended(Record):
    """A form with one side like the other.

    does: what was done; moves: metres that a heel comes to stand elsewhere by at the most, see `shift_of`.
    """

    form: Form
    does: Message
    moves: float


def shift_of(before: Trace, after: Trace) -> float:
    """Metres that any heel stands elsewhere by at most.

    Where both walks have equally many counts, in each of them; else in those before and after what is written
    otherwise.
    """
    n, m = len(before), len(after)
    if n == m:
        pairs = [(slice(0, n), slice(0, n))]
    else:
        head = _alike(before.written, after.written)
        tail = min(_alike(before.written[::-1], after.written[::-1]), min(n, m) - head)
        pairs = [(slice(0, head), slice(0, head)), (slice(n - tail, n), slice(m - tail, m))]
    return max(float(np.linalg.norm(before.heels[a] - after.heels[b], axis=2).max(initial=0.0)) for a, b in pairs)


def _alike(first: Sequence[Count], second: Sequence[Count]) -> int:
    """How many counts are written the same, from the beginning."""
    return next(
        (k for k, (a, b) in enumerate(zip(first, second, strict=False)) if a != b), min(len(first), len(second))
    )


def _mended(form: Form, trace: Trace, made: Form, does: Message) -> Mended:
    return Mended(made, does, shift_of(trace, walk(made, trace)))


def _own(form: Form, name: str) -> Posture:
    posture = form.posture(name)
    if posture.source is not None:
        raise FormError("mend.same-counts", title=posture.title, source=form.posture(posture.source).title)
    return posture


def _over(count: Count, fold: Fold, twelve: str, moved: tuple[float, float]) -> Count:
    """A count as the other side has it; its floor positions go where the fold lays them."""
    # The angle is reckoned from headings: what it is off by is no other facing.
    turn = round(fold.angle, 6) % 360.0
    made = count.turned(turn, twelve) if fold.axis is None else count.mirrored(fold.axis, twelve)
    return made.moved(*moved)


def _ways(pair: Pair, back: bool) -> tuple[Span, Span, Fold]:
    """From which passage to which, and how it is laid over. back: from the other to the posture."""
    compared = pair.compared
    if back:
        return compared.other, compared.span, compared.fold.back()
    return compared.span, compared.other, compared.fold


def _lines_of(form: Form, trace: Trace, span: Span) -> tuple[int, int]:
    """Which of its posture's lines a passage has.

    From its first count up to the count after it; lines that are no counts belong to the one they follow.
    """
    start, stop = trace.span(span.posture)
    whole = len(form.lines(form.posture(span.posture)))
    return (
        trace.line(span.start) if start < span.start < stop else 0,
        trace.line(span.stop) if start <= span.stop < stop else whole,
    )


def _title(form: Form, pair: Pair, back: bool) -> tuple[str, str]:
    """The titles of the one that is made alike, and of the one it is made like."""
    titles = form.posture(pair.posture).title, form.posture(pair.other).title
    return titles if back else titles[::-1]


def alike(form: Form, trace: Trace, pair: Pair, back: bool = False) -> Mended:
    """The other side with the counts of the posture, mirrored or turned, written out; its name, place and notes stay.

    back: the posture is made like the other instead. Raises FormError where it takes its counts from elsewhere.
    """
    source, target, fold = _ways(pair, back)
    posture = _own(form, target.posture)
    start, stop = _lines_of(form, trace, target)
    notes = {
        (each.row if back else each.other_row): (each.other_row if back else each.row) for each in pair.compared.counts
    }
    kept = {notes.get(row): trace.written[row].note for row in range(target.start, target.stop)}
    made: list[Count] = []
    numbers = {trace.line(row): row for row in range(source.start, source.stop)}
    walked = trace.passages[trace.numbers[source.posture]].lines
    for number in range(*_lines_of(form, trace, source)):
        count = _over(walked[number], fold, form.twelve, (fold.x, fold.y))
        note = kept.get(numbers.get(number))
        made.append(replace(count, note=note) if note else count)
    lines = (*posture.lines[:start], *made, *posture.lines[stop:])
    one, other = _title(form, pair, back)
    changed = form.with_posture(replace(posture, lines=lines))
    return _mended(form, trace, changed, message("mend.alike", one=one, other=other))


def count_alike(form: Form, trace: Trace, pair: Pair, count: CountPair, back: bool = False) -> Mended:
    """One count of the other side made like the posture's: changed, put in, or taken out. Raises FormError."""
    _, target, fold = _ways(pair, back)
    row, other = (count.other_row, count.row) if back else (count.row, count.other_row)
    posture = _own(form, target.posture)
    one, _ = _title(form, pair, back)
    if row is None:  # it has one too many
        assert other is not None
        line = trace.line(other)
        changed = forms.remove_lines(form, posture.id, line, line + 1)
        return _mended(form, trace, changed, message("mend.take-out", count=int(trace.counts[other]), title=one))
    made = _over(trace.written[row], fold, form.twelve, (fold.x, fold.y))
    if other is not None:
        line = trace.line(other)
        old = posture.lines[line]
        changed = forms.replace_lines(
            form, posture.id, line, line + 1, [replace(made, note=old.note) if old.note else made]
        )
        does = message("mend.count-alike", count=int(trace.counts[other]), title=one)
        return _mended(form, trace, changed, does)
    line = _line_for(trace, pair.compared.counts, count, target, back)
    changed = forms.insert_lines(form, posture.id, line, [made])
    return _mended(form, trace, changed, message("mend.put-in", title=one))


def _line_for(trace: Trace, counts: Sequence[CountPair], count: CountPair, target: Span, back: bool) -> int:
    """Before which line of the target a count goes that it lacks: after the count that comes before it."""
    line = trace.line(target.start) if len(target) else 0
    for each in counts:
        if each is count:
            return line
        row = each.row if back else each.other_row
        if row is not None:
            line = trace.line(row) + 1
    return line


def tied(form: Form, trace: Trace, pair: Pair) -> Mended:
    """The other side takes its counts from the posture from now on. Raises FormError.

    As its mirror image or its repeat; its id, name, note and place stay. Passages become postures of their own first.
    """
    made, source, other = _apart(form, trace, pair)
    fold = pair.compared.fold
    posture = made.posture(other)
    if posture.source is not None:
        raise FormError("mend.tied", title=posture.title, source=made.posture(posture.source).title)
    axis = None if fold.axis is None else Clock.at(fold.axis)
    changed = replace(
        posture,
        lines=(),
        side_of=None,
        mirror_of=source if fold.mirror else None,
        axis=axis,
        repeat_of=None if fold.mirror else source,
        turned=0.0 if fold.mirror else _turned(fold.angle),
    )
    kind = "mend.tie-mirror" if fold.mirror else "mend.tie-repeat"
    does = message(kind, title=posture.title, of=made.posture(source).title)
    return _mended(form, trace, made.with_posture(changed), does)


def _turned(angle: float) -> float:
    """A turn as it is written: whole or half degrees, the short way round."""
    turn = round(2.0 * angle) / 2.0 % 360.0
    return turn - 360.0 if turn > 180.0 else turn


def named_side(form: Form, trace: Trace, pair: Pair) -> Mended:
    """The other is said to be the other side of the posture, and keeps counts of its own. Raises FormError."""
    if pair.kind != "mirror":
        raise FormError("mend.no-repeat")
    made, source, other = _apart(form, trace, pair)
    changed = forms.changed_posture(made, other, side_of=source)
    title, of = made.posture(other).title, made.posture(source).title
    return _mended(form, trace, changed, message("mend.name-side", title=title, of=of))


def _apart(form: Form, trace: Trace, pair: Pair) -> tuple[Form, str, str]:
    """The form with both passages postures of their own, and their ids."""
    made, names = form, []
    # The later passage first: splitting leaves what comes before as it is.
    spans = sorted(enumerate((pair.compared.span, pair.compared.other)), key=lambda each: each[1].start, reverse=True)
    for which, span in spans:
        made, name = _as_posture(made, trace, span, form)
        names.append((which, name))
    found = dict(names)
    return made, found[0], found[1]


def _as_posture(form: Form, trace: Trace, span: Span, whole: Form) -> tuple[Form, str]:
    """The form with a passage a posture of its own, and its id. whole: the form as it was walked."""
    start, stop = _lines_of(whole, trace, span)
    name = span.posture
    if stop < len(form.posture(name).lines):
        form = forms.split_posture(form, name, stop)
    if start > 0:
        form = forms.split_posture(form, name, start)
        name = form.postures[form.index(name) + 1].id
        first, last = (int(trace.counts[row]) for row in (span.start, span.stop - 1))
        title = f"{whole.posture(span.posture).title}, counts {first} to {last}"
        form = form.with_posture(replace(form.posture(name), name=title))
    return form, name
