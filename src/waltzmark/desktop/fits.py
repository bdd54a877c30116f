"""Forms that have been fitted to bodies, kept so that what is shown here and printed there is worked out once."""

from __future__ import annotations

from collections.abc import Sequence

from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.fit.fitting import Fitted, fitted
from waltzmark.core.form.form import Form, Sheet

__all__ = ["fit_all", "keep_fit", "known_fit"]

_MOST = 64
_kept: list[tuple[Form, Body, Fitted]] = []


def _of(form: Form) -> Form:
    """What of a form a fitted one depends on."""
    return replace(form, bodies=(), sheet=Sheet())


def known_fit(form: Form, body: Body) -> Fitted | None:
    """A form fitted to a body, where that has been done."""
    own = _of(form)
    return next((fit for other, theirs, fit in _kept if theirs == body and other == own), None)


def keep_fit(form: Form, body: Body, found: Fitted) -> None:
    """Remembers it; what was asked for longest ago goes."""
    if known_fit(form, body) is None:
        _kept.append((_of(form), body, found))
        del _kept[:-_MOST]


def fit_all(form: Form, bodies: Sequence[Body], told: Progress = SILENT) -> tuple[Fitted, ...]:
    """A form fitted to each of several bodies; those that are done are handed out on the way."""
    found: list[Fitted] = []
    for number, body in enumerate(bodies):
        told.tell(number / max(len(bodies), 1), "fitting")
        fit = known_fit(form, body) or fitted(form, body, _Inner(told))
        keep_fit(form, body, fit)
        found.append(fit)
        told.hand_out(tuple(found))
    return tuple(found)


class _Inner:
    """Lets one of several be stopped; how far it is is no matter of all of them."""

    def __init__(self, told: Progress) -> None:
        self._told, self._share = told, 0.0

    def tell(self, share: float, doing: str = "") -> None:
        self._told.tell(self._share, doing)

    def hand_out(self, so_far: object) -> None:
        pass
