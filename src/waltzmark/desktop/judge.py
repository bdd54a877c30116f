"""What is found in a form and what it comes to: worked out off the interface thread, told when it is known."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.form.mutes import Mute
from waltzmark.core.judge.finding import Finding, Judged
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.guard import safely
from waltzmark.desktop.jobs import Jobs

if TYPE_CHECKING:  # what the first picture of the window need not wait for is imported where it is used
    from waltzmark.core.answers.review import Review

__all__ = ["Judge"]

_REVIEW_MS = 120  # until a review begins: what asked is painted first, and quick edits become one
_REST_MS = 15
_REST_OF_A_HAND_MS = 150  # a hand that drags moves on every few milliseconds
#: Families of rules that are not held against a count while it is typed.
_LATER = ("expect", "posture", "score")
_NOTHING = Judged(())


def _judged(form: Form, trace: Trace, _told: Progress) -> Judged:
    from waltzmark.core.judge.judging import judge_all

    return judge_all(form, trace)


class Judge(QObject):
    """The findings in the form that is shown, its review, and what would be found in the one that may come next.

    Until the findings of a form are known, those of the last one stand about postures that it has left as they were.
    """

    judged = Signal()  # the findings are known
    reviewed = Signal()
    foreseen = Signal()  # what would be found in the form that may come next is known
    news_changed = Signal()

    def __init__(self, jobs: Jobs, form: Form, trace: Trace, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs = jobs
        self._form, self._trace = form, trace
        self._judged = _NOTHING
        self.known = False  # whether the findings are those of the form that is shown
        self.review: Review | None = None
        self._reviewed: Review | None = (
            None  # the last one, which is let go of when there is another: that takes a while
        )
        self.within = SAME
        self.waits = False  # nothing is judged yet: the window is to be seen first
        self.news = ""  # what the last change of body or school did to the findings
        self._compared: tuple[str, tuple[Finding, ...]] | None = None
        self._next: tuple[Form, Callable[[], Trace]] | None = None
        self._foreseen: Judged | None = None
        self._rest = _REST_MS
        self._painted = QTimer(self)  # the rest begins when what was asked for has been painted
        self._painted.setSingleShot(True)
        self._painted.timeout.connect(safely(self._ask_ahead))

    # The form that is shown.

    @property
    def findings(self) -> tuple[Finding, ...]:
        """All findings that are not muted, in the order of the walk."""
        return self._judged.findings

    @property
    def everywhere(self) -> tuple[Finding, ...]:
        """The findings, each at every count that it is about."""
        return self._judged.everywhere

    @property
    def muted(self) -> tuple[tuple[Finding, Mute], ...]:
        """The findings that are muted, with what mutes them."""
        return self._judged.muted

    @property
    def judgement(self) -> Judged | None:
        """All that was found; None while it is not known."""
        return self._judged if self.known else None

    def take(self, form: Form, trace: Trace, judged: Judged | None = None, anew: bool = False) -> None:
        """Takes another form. judged: what is found in it, where that is known already; anew: another document's."""
        self.forget_next()
        before, self._form, self._trace = self._trace, form, trace
        if anew:
            self._judged = _NOTHING
        self.review, self.news, self._compared = None, "", None
        self._jobs.stop("judgement before")
        self.known = judged is not None
        self._judged = judged if judged is not None else _still(self._judged, before, trace)

    def ask(self) -> None:
        """Judges and reviews what is shown, unless that waits."""
        if self.waits:
            return
        form, trace, within = self._form, self._trace, self.within
        if self.known:
            self._jobs.stop("judgement")
        else:
            self._jobs.ask("judgement", lambda told: _judged(form, trace, told), self._take, pause=_REST_MS)

        def reviewed(_told: Progress) -> Review:
            from waltzmark.core.answers.review import review

            return review(form, trace, within)

        self._jobs.ask("review", reviewed, self._take_review, pause=_REVIEW_MS)

    def _take(self, judged: Judged) -> None:
        self._judged, self.known = judged, True
        self._say_news()
        self.judged.emit()

    def _say_news(self) -> None:
        if self._compared is not None and self.known:
            from waltzmark.words.rules import changed

            (name, before), self._compared = self._compared, None
            self.news = changed(name, before, self._judged.findings)
            self.news_changed.emit()

    def _take_review(self, review: Review) -> None:
        self.review = self._reviewed = review
        self.reviewed.emit()

    def begin(self) -> None:
        """Judges and reviews, also what waited until the window was seen."""
        self.waits = False
        if self.review is None:
            self.ask()

    def set_within(self, within: Tolerance) -> None:
        """What two sides may differ by and count as the same; the form stays as it is written."""
        self.within = within
        self.review = None
        self.ask()

    def compare(self, name: str, form: Form, trace: Trace, before: Judged | None) -> None:
        """Tells what a body or school of that name changes, against the form before it, as soon as it is known. before:
        what was found in that, None where it is not known either."""

        def remember(judged: Judged) -> None:
            self._compared = name, judged.findings
            self._say_news()

        if before is not None:
            remember(before)
        else:
            self._jobs.ask("judgement before", lambda told: _judged(form, trace, told), remember)

    # The form that may come next: judged while the hands rest, so that entering it finds it done.

    def expect(self, form: Form, walked: Callable[[], Trace], dragged: bool = False) -> None:
        """Expects a form, typed or *dragged*. walked: gives its walk, to any thread, always the same one."""
        self.forget_next()
        self._rest = _REST_OF_A_HAND_MS if dragged else _REST_MS
        self._next = form, walked
        self._painted.start(0)

    def forget_next(self) -> None:
        """Nothing is expected any more."""
        self._painted.stop()
        self._jobs.stop("foresight")
        self._next = self._foreseen = None

    def _ask_ahead(self) -> None:
        if self._next is not None:
            form, walked = self._next
            work = lambda told: _judged(form, walked(), told)  # noqa: E731 - two values of its own
            self._jobs.ask("foresight", work, self._take_ahead, pause=self._rest)

    def _take_ahead(self, judged: Judged) -> None:
        self._foreseen = judged
        self.foreseen.emit()

    @property
    def expected(self) -> Judged | None:
        """What would be found in the form that may come next; None while it is not known."""
        return self._foreseen

    def come(self, form: Form) -> tuple[Trace, Judged | None] | None:
        """The walk of a form, and its judgement where there was time for it; None when another one was expected."""
        if self._next is None or self._next[0] != form:
            return None
        return self._next[1](), self._foreseen

    def problem(self, row: int) -> Finding | None:
        """What would be found wrong with a row of the form that may come next, gravest first; None when nothing would,
        or while that is not known yet. What the analyst expects, and where a posture ends, is left out: more may
        follow."""
        if self._foreseen is None:
            return None
        here = (finding for finding in self._foreseen.everywhere if finding.row == row)
        return next((finding for finding in here if finding.rule.partition(".")[0] not in _LATER), None)


def _still(judged: Judged, before: Trace, after: Trace) -> Judged:
    """The findings about postures that are as they were, at the rows they are at now."""
    moved: dict[str | None, int] = {None: 0}
    for passage in after.passages[1:]:
        name = passage.posture or ""
        number = before.numbers.get(name)
        if number is not None and before.passages[number].lines == passage.lines:
            moved[name] = after.span(name)[0] - before.span(name)[0]

    def still(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
        return tuple(
            replace(each, row=each.row + moved[each.posture], again=still(each.again))
            for each in findings
            if each.posture in moved
        )

    return Judged(still(judged.findings))
