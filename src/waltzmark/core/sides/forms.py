"""Two forms beside each other: two documents, one form by two schools, or one walked by two bodies."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library
from waltzmark.core.base.messages import message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.forms import judged_by
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import School
from waltzmark.core.sides.alignment import likeness, totals
from waltzmark.core.sides.deeds import Deeds, costs, deeds_of
from waltzmark.core.sides.differences import Compared, compare, span_of
from waltzmark.core.sides.telling import Teller, Told
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["FormsCompared", "Told", "Two", "by_school", "compare_forms", "walked_by"]

#: So alike are postures at least that are laid beside each other though they have other names.
_LIKE = 0.6
_NAMED = 1.0  # what the same name is worth beside that
_DONE, _ALL = 1.5, 0.995  # what it is worth to do the same, which is so from such a likeness on


class Two(Record):
    """A posture of either form, beside its counterpart in the other; None where it has none. likeness: 0 to 1."""

    a: str | None
    b: str | None
    likeness: float
    compared: Compared | None = None
    differences: tuple[Told, ...] = ()


class FormsCompared(Record):
    """Two forms and their walks, what differs as a whole, and their postures beside each other."""

    forms: tuple[Form, Form]
    traces: tuple[Trace, Trace]
    whole: tuple[Told, ...]
    postures: tuple[Two, ...]

    @property
    def same(self) -> bool:
        """Whether nothing differs."""
        return not self.whole and not any(each.differences for each in self.postures)


def by_school(form: Form, school: School) -> Form:
    """The same form under another school."""
    return judged_by(form, school)


def walked_by(form: Form, body: Body) -> Form:
    """The same form walked by another body."""
    return replace(form, body=body)


def compare_forms(
    a: Form, b: Form, within: Tolerance = SAME, progress: Progress = SILENT, judged: bool = False
) -> FormsCompared:
    """Compares two forms.

    judged: what is found wrong with them is compared too, as by two schools. Raises StoppedError of *progress*.
    """
    traces = walk(a), walk(b)
    deeds = deeds_of(traces[0]), deeds_of(traces[1])
    progress.tell(0.1, "postures")
    pairs, alike = _beside(a, b, traces, deeds)
    found: list[tuple[int | None, int | None, float, Compared | None]] = []
    for number, (i, j) in enumerate(pairs):
        progress.tell(0.2 + 0.6 * number / max(len(pairs), 1), "counts")
        if i is None or j is None:
            found.append((i, j, 0.0, None))
            continue
        spans = span_of(traces[0], a.postures[i].id), span_of(traces[1], b.postures[j].id)
        compared = compare(traces[0], spans[0], traces[1], spans[1], False, None, deeds, within=within)
        found.append((i, j, alike[i, j], compared))
    turns = [each[3].fold.angle for each in found if each[3] is not None and each[3].counts]
    turned = _usual(turns)
    judgements = _judgements((a, b), traces) if judged else {}
    teller = Teller((a, b), traces, deeds, within, turned)
    order = _moved([(i, j) for i, j, _, _ in found])
    postures = []
    for i, j, like, both in found:
        one, other = None if i is None else a.postures[i].id, None if j is None else b.postures[j].id
        told = teller.posture(i, j, both, order)
        told += judgements.get((one or other), [])
        postures.append(Two(one, other, round(like, 4), both, tuple(told)))
    whole = teller.whole(found)
    progress.tell(1.0)
    return FormsCompared((a, b), traces, tuple(whole), tuple(postures))


def _beside(
    a: Form, b: Form, traces: tuple[Trace, Trace], deeds: tuple[Deeds, Deeds]
) -> tuple[list[tuple[int | None, int | None]], Floats]:
    """Which postures are laid beside each other, by name and by likeness.

    In the order of the first form; what only the second has stands after what comes before it there. And (n, m) how
    alike they are.
    """
    n, m = len(a.postures), len(b.postures)
    alike = np.zeros((n, m))
    spans = [
        [span_of(trace, posture.id) for posture in form.postures] for trace, form in zip(traces, (a, b), strict=True)
    ]
    if n and m:
        columns = [row for span in spans[1] for row in range(span.start, span.stop)]
        theirs, lengths = deeds[1].part(columns), [len(span) for span in spans[1]]
        starts = np.cumsum([0, *lengths[:-1]]).astype(np.int64)
        for i, span in enumerate(spans[0]):
            mine = deeds[0].part(slice(span.start, span.stop))
            cost = totals(costs(mine, theirs), starts) if len(columns) else np.zeros(m) + len(mine)
            alike[i] = [likeness(float(each), len(mine), length) for each, length in zip(cost, lengths, strict=True)]
    named = np.array([[_same_name(one.title, one.id, two.title, two.id) for two in b.postures] for one in a.postures])
    near = np.abs(np.arange(n)[:, None] / max(n, 1) - np.arange(m)[None, :] / max(m, 1))
    partner: dict[int, int] = {}
    if n and m:
        linear_sum_assignment = library("scipy.optimize").linear_sum_assignment

        # What postures do comes before what they are called, as in a form beside its own mirror.
        worth = alike + _NAMED * named + _DONE * (alike >= _ALL)
        rows, cols = linear_sum_assignment(worth - 0.01 * near, maximize=True)
        partner = {
            int(i): int(j) for i, j in zip(rows, cols, strict=True) if named[i, j] >= 0.8 or alike[i, j] >= _LIKE
        }
    back = {j: i for i, j in partner.items()}
    pairs: list[tuple[int | None, int | None]] = [(i, partner.get(i)) for i in range(n)]
    for j in range(m):
        if j in back:
            continue
        at = next((k + 1 for k, pair in enumerate(pairs) if j and pair[1] == j - 1), 0)
        pairs.insert(at, (None, j))
    return pairs, alike


def _same_name(title: str, name: str, other_title: str, other_name: str) -> float:
    """How far two names are the same: 1 with the same title, 0.8 with the same id."""
    if " ".join(title.casefold().split()) == " ".join(other_title.casefold().split()):
        return 1.0
    return 0.8 if name == other_name else 0.0


def _usual(turns: Sequence[float]) -> float:
    """The turn that most have, degrees."""
    if not turns:
        return 0.0
    return max(turns, key=lambda turn: sum(abs(heading_difference(turn, each)) < 1.0 for each in turns))


def _moved(pairs: list[tuple[int | None, int | None]]) -> set[int]:
    """The postures of the first form whose counterparts come in another order.

    The fewest that explain it, those outside the longest run that both have in the same order.
    """
    both = [(i, j) for i, j in pairs if i is not None and j is not None]
    best: list[list[int]] = []
    for at, (_, j) in enumerate(both):
        earlier: list[list[int]] = [best[k] for k in range(at) if both[k][1] < j]
        longer = max(earlier, key=len) if earlier else []
        best.append([*longer, at])
    longest: list[int] = max(best, key=len) if best else []
    kept = set(longest)
    return {i for at, (i, _) in enumerate(both) if at not in kept}


def _judgements(forms: tuple[Form, Form], traces: tuple[Trace, Trace]) -> dict[str | None, list[Told]]:
    """What is found in only one of two judgements of the same postures, by posture."""
    found = [judge(form, trace) for form, trace in zip(forms, traces, strict=True)]
    keys = [{_key(finding) for finding in each} for each in found]
    told: dict[str | None, list[Told]] = {}
    for which, kind in ((0, "form.found.first"), (1, "form.found.second")):
        for finding in found[which]:
            if _key(finding) not in keys[1 - which]:
                said = message(kind, rule=finding.rule, count=finding.count)
                rows = (finding.row, None) if which == 0 else (None, finding.row)
                told.setdefault(finding.posture, []).append(Told(said, *rows))
    return told


def _key(finding: Finding) -> tuple[object, ...]:
    return finding.rule, finding.posture, finding.count, finding.side
