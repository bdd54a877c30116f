"""Forms fitted to bodies: as plain JSON values, and as documents that know what they were fitted from."""

from __future__ import annotations

from collections.abc import Sequence

from waltzmark.core.base.records import replace
from waltzmark.core.fit.fitting import Change, ChangedLine, Fitted
from waltzmark.core.form.form import FittedFrom, FittedLine, Form
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_count
from waltzmark.files.printed_forms import AlsoFitted, BodyFitted, FitAnswer, FitChange
from waltzmark.files.report import end_values, finding_values
from waltzmark.words.fitting import change_from, change_to, does, lines_text, why

__all__ = ["fit_values", "fitted_form"]


def fit_values(all_of_them: Sequence[Fitted]) -> FitAnswer:
    """Of each body what was changed for it, what is left in the way, and where it ends."""
    return {"bodies": [_body(each) for each in all_of_them]}


def _body(fitted: Fitted) -> BodyFitted:
    return {
        "name": fitted.form.body.name,
        "fits": fitted.fits,
        "changes": [_change(each) for each in fitted.changes],
        "left": [finding_values(each) for each in fitted.left],
        "end": end_values(fitted.back),
    }


def _change(change: Change) -> FitChange:
    line = change.lines[0] if change.lines else None
    return {
        "posture": change.posture,
        "count": change.count,
        "from": change_from(change),
        "to": change_to(change) if line is None else lines_text(line.after),
        "why": why(change),
        "does": does(change),
        "kind": change.kind,
        "also": [_also(each) for each in change.lines[1:]],
        "shared": list(change.also),
    }


def _also(line: ChangedLine) -> AlsoFitted:
    return {
        "posture": line.posture,
        "count": line.count,
        "from": lines_text(line.before),
        "to": lines_text(line.after),
    }


def fitted_form(fitted: Fitted, source: str) -> Form:
    """The fitted form as a document of its own, which knows the file that it was fitted from and what was changed."""

    def texts(lines: tuple[Count, ...]) -> tuple[str, ...]:
        return tuple(write_count(line) for line in lines)

    lines = tuple(
        FittedLine(each.posture, each.count, texts(each.before), texts(each.after))
        for change in fitted.changes
        for each in change.lines
    )
    return replace(fitted.form, bodies=(), fitted=FittedFrom(source, lines))
