"""The draft of a document's words while somebody works on it: worked out beside, with the hand on one of its rows."""

from __future__ import annotations

from time import perf_counter
from typing import NamedTuple

from PySide6.QtCore import QObject, QTimer, Signal

from waltzmark.core.base.messages import Message
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.draft.drafting import doubt_of
from waltzmark.core.draft.lexicon import lexicon_of
from waltzmark.core.draft.pages import PageDraft, Row, chosen, draft_page, noted, taken, with_rows
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.form import Form
from waltzmark.core.form.spoken import Page
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.jobs import Jobs
from waltzmark.files import library
from waltzmark.words.language import language as language_set
from waltzmark.words.language import ntr, tr

__all__ = ["Drafted", "Workbench"]

_LONGEST = 64.0  # beats of a count
_QUICK = 0.15  # seconds that a draft may take while somebody waits
_PAUSE = 250  # milliseconds after the last key until what was typed is in the document


class Drafted(NamedTuple):
    """A page's draft, with the form as it would be with all of it, its walk, what is found, and where each row is.

    walked: by row of the draft, the row of the walk; 0 for those that are not walked, such as refused ones; took: the
    seconds it took; doubt: what is wrong with the text as a whole.
    """

    of: PageDraft
    form: Form
    trace: Trace
    findings: tuple[Finding, ...]
    walked: tuple[int, ...]
    took: float
    doubt: Message | None


def drafted(form: Form, trace: Trace, taught: tuple[Taught, ...], _told: Progress | None = None) -> Drafted:
    """The words of a form drafted, walked and judged."""
    begun = perf_counter()
    page = draft_page(form, trace, taught)
    whole, _, _ = with_rows(form, page, len(page.rows) - 1)
    walked = walk(whole, trace)
    words = page.page
    doubt = doubt_of(words.text, words.language) if words.text.strip() else None
    rows = _walked(page, form, whole, walked)
    return Drafted(page, whole, walked, judge(whole, walked), rows, perf_counter() - begun, doubt)


def _walked(page: PageDraft, form: Form, whole: Form, trace: Trace) -> tuple[int, ...]:
    """The row of the walk of each row of a draft."""
    words = whole.words or Page("")
    ids = {each.start: each.posture for each in words.standing}
    waiting: dict[str, int] = {}
    found: list[int] = []
    for row in page.rows:
        told = page.draft.postures[row.posture]
        own = ids.get(told.span[0], "")
        if own not in trace.numbers:
            found.append(0)
            continue
        first, after = trace.span(own)
        if row.made is None:
            found.append(after - 1)
            continue
        if row.done:  # as it stands in the form, which may have been changed since
            before = [each for each in page.rows if each.posture == row.posture and each.done and each.made is not None]
            lines = form.posture(own).lines if any(p.id == own for p in form.postures) else ()
            at = sum(line.moves for line in lines[: before.index(row) + 1])
            found.append(0 if row.made.refused else min(max(first + at - 1, 0), after - 1))
            continue
        begun = sum(line.moves for p in form.postures if p.id == own for line in p.lines)
        waiting[own] = waiting.get(own, 0) + row.made.count.moves
        found.append(min(first + begun + waiting[own] - 1, after - 1))
    return tuple(found)


class Workbench(QObject):
    """What the views of the Words stage look at, and what a hand does to the draft.

    The hand stays on the words it is on when the text is drafted anew.
    """

    drafted = Signal()  # the draft is another one
    moved = Signal()  # the hand is on another row

    def __init__(self, document: Document, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, jobs
        self.page: Page | None = None  # as it is typed, which may be ahead of the document
        self.found: Drafted | None = None
        self.hand = 0
        self.taught: tuple[Taught, ...] = ()
        self._language = lexicon_of(language_set())
        self._shown = False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_PAUSE)
        self._timer.timeout.connect(safely(self.commit))
        document.form_changed.connect(safely(self._form_changed))

    # Being shown, and the document.

    def show(self) -> None:
        """The stage is seen: drafts what there is."""
        self._shown = True
        self.taught = library.taught()
        self._form_changed()

    def hide(self) -> None:
        """It is not seen any more: what was typed goes into the document."""
        self.commit()
        self._shown = False
        self._jobs.stop("words")

    def _form_changed(self) -> None:
        words = self._document.form.words
        if not self._timer.isActive() or words is None or self.page is None or words.text == self.page.text:
            self._timer.stop()
            self.page = words
        if not self._shown:
            return
        if words is None:
            self.found, self.hand = None, 0
            self._jobs.stop("words")
            self.drafted.emit()
            return
        self.ask()

    def begin(self) -> None:
        """Another document has come: the hand goes to the first row that waits."""
        self.found, self.hand = None, 0
        self._form_changed()

    def ask(self) -> None:
        """Drafts the words of the document: at once where that is quick, else beside, and tells when it is done."""
        form, trace, taught = self._document.form, self._document.trace, self.taught
        if self.found is not None and self.found.took < _QUICK:
            self._jobs.stop("words")
            self._take(drafted(form, trace, taught))
            return
        self._jobs.ask("words", lambda told: drafted(form, trace, taught, told), self._take, pause=0)

    def _take(self, found: Drafted) -> None:
        words = self._document.form.words
        if words is None or found.of.page != words:
            return  # of words that have changed since
        before = self.row
        first = self.found is None
        self.found = found
        self.hand = found.of.next_row if first or before is None else self._same(before)
        self.drafted.emit()
        self.moved.emit()

    def _same(self, before: Row) -> int:
        """The row that is about the words of one of the draft before, or the first that waits after them."""
        assert self.found is not None
        rows = self.found.of.rows
        nth = 0 if before.made is None else before.made.nth
        for at, row in enumerate(rows):
            if (row.start, row.stop, 0 if row.made is None else row.made.nth) == (before.start, before.stop, nth):
                return at
        return next((at for at, row in enumerate(rows) if row.start >= before.start), self.found.of.next_row)

    @property
    def row(self) -> Row | None:
        """The row under the hand."""
        rows = self.found.of.rows if self.found is not None else ()
        return rows[self.hand] if 0 <= self.hand < len(rows) else None

    def go(self, at: int) -> None:
        """Puts the hand on a row."""
        rows = self.found.of.rows if self.found is not None else ()
        at = min(max(at, 0), max(len(rows) - 1, 0))
        if at != self.hand:
            self.hand = at
            self.moved.emit()

    def go_to_place(self, place: int) -> None:
        """Puts the hand on the row whose words are at a place of the text, or next after it."""
        rows = self.found.of.rows if self.found is not None else ()
        inside = (at for at, row in enumerate(rows) if row.start <= place < row.stop)
        after = (at for at, row in enumerate(rows) if row.start > place)
        self.go(next(inside, next(after, len(rows) - 1)))

    # The text.

    def type(self, at: int, removed: int, added: str) -> None:
        """The text was edited; it goes into the document when the keys rest."""
        self.page = (self.page or Page("", self.language)).edited(at, removed, added)
        self._timer.start()

    @property
    def language(self) -> str:
        """That of the page."""
        return self.page.language if self.page is not None else self._language

    def set_language(self, language: str) -> None:
        """Reads the text with another lexicon."""
        self._language = language
        if self.page is not None and self.page.language != language:
            self.commit()
            self._change(tr("read the words in another language"), replace(self.page, language=language))

    def write(self, text: str, words: str, times: tuple[tuple[int, float], ...] = ()) -> None:
        """Takes another text; what was drafted before stays in the form. words: what undo takes back; times: of its
        captions."""
        self._timer.stop()
        self.found = None
        self._change(words, Page(text, self.language, times=times) if text else None)

    def commit(self) -> None:
        """Puts what was typed into the document."""
        self._timer.stop()
        page = self.page
        if page is None or page == self._document.form.words:
            return
        if not page.text and not page.standing:
            page = None
        self._change(tr("type the words"), page, joins="words")

    def _change(self, words: str, page: Page | None, joins: str = "") -> None:
        self.page = page
        form, session = self._document.form, self._document.session
        self._document.edit(words, replace(form, words=page), session.selection, joins, shows=False)

    # The rows.

    def _fresh(self) -> Drafted | None:
        """The draft of the words as they are now; worked out here where it is not known yet."""
        self.commit()
        form = self._document.form
        if form.words is None:
            return None
        if self.found is None or self.found.of.page != form.words or self._jobs.busy("words"):
            self._jobs.stop("words")
            self._take(drafted(form, self._document.trace, self.taught))
        return self.found

    def take(self, whole: bool = False) -> bool:
        """Takes what waits up to the row under the hand, or to the end of its posture; whether there was something."""
        found = self._fresh()
        row = self.row
        if found is None or row is None or row.done:
            return False
        upto = self.hand
        if whole:
            upto = max(at for at, each in enumerate(found.of.rows) if each.posture == row.posture)
        return self._take_to(found, upto)

    def take_sure(self) -> bool:
        """Takes what waits up to the next question; whether there was something."""
        found = self._fresh()
        if found is None or found.of.next_row == len(found.of.rows):
            return False
        if found.of.sure_up_to == found.of.next_row:  # it is one
            self.go(found.of.next_row)
            return False
        return self._take_to(found, found.of.sure_up_to - 1)

    def _take_to(self, found: Drafted, upto: int) -> bool:
        rows, row = found.of.rows, found.of.rows[upto]
        n = sum(not each.done for each in rows[found.of.next_row : upto + 1])
        form, posture, lines = taken(self._document.form, found.of, upto)
        if row.made is not None and n == 1:
            words = tr("take “{count}” from the words", count=write_count(row.made.count))
        else:
            words = ntr("take {n} row from the words", "take {n} rows from the words", n)
        selection = Selection(posture, max(lines - 1, 0), lines) if posture is not None else Selection()
        after = next((at for at in range(upto + 1, len(rows)) if not rows[at].done), None)
        self.hand = upto if after is None else after
        self._document.edit(words, form, selection, shows=False)
        return True

    def choose(self, count: Count | None, words: str) -> None:
        """Makes another count of the row under the hand, or none; what follows is drafted anew at once."""
        found, row = self._fresh(), self.row
        if found is None or row is None or row.made is None or (row.done and not row.made.refused):
            return
        self._change(words, chosen(found.of.page, row, count))

    def refuse(self) -> None:
        """Leaves the row under the hand out; once more takes it in again."""
        row = self.row
        if row is None or row.made is None:
            return
        if row.made.refused:
            self.choose(row.made.read or row.made.count, tr("take refused words in again"))
        else:
            self.choose(None, tr("refuse “{count}”", count=write_count(row.made.count)))

    def other_reading(self, by: int = 1) -> bool:
        """Takes the next other reading of the row under the hand; whether there is one."""
        self._fresh()
        made = None if self.row is None else self.row.made
        if made is None:
            return False
        read = made.read or made.count
        every = [read, *(other for other in made.others if other != read)]
        if made.count not in every:
            every.append(made.count)
        if len(every) < 2:
            return False
        then = every[(every.index(made.count) + by) % len(every)]
        self.choose(then, tr("read it as “{count}”", count=write_count(then)))
        return True

    def note(self) -> None:
        """Keeps the words of the row under the hand as the note of its count, or not."""
        found, row = self._fresh(), self.row
        if found is not None and row is not None and row.made is not None and not row.done:
            self._change(tr("keep the words as a note"), noted(found.of.page, row))

    def teach(self, taught: Taught) -> None:
        """Keeps what a phrase means, and drafts anew. Raises WaltzmarkError."""
        library.keep_taught((taught,))
        self.know()

    def know(self) -> None:
        """Phrases were taught or imported: drafts with them."""
        self.taught = library.taught()
        self.found = None if self.found is None else self.found
        if self._document.form.words is not None:
            self.ask()

    def beats(self, seconds: float) -> bool:
        """Lets the count under the hand last as long as its captions were shown; whether they have times. seconds: that
        a beat takes."""
        found, row = self._fresh(), self.row
        if found is None or row is None or row.made is None or row.done:
            return False
        rows, page = found.of.rows, found.of.page
        after = next((each.start for each in rows[self.hand + 1 :] if each.start > row.start), None)
        begun, ended = page.time_at(row.start), None if after is None else page.time_at(after)
        if begun is None or ended is None or ended <= begun:
            return False
        lasts = max(round(2.0 * (ended - begun) / seconds) / 2.0, 0.5)
        self.choose(replace(row.made.count, beats=min(lasts, _LONGEST)), tr("let it last as long as its captions"))
        return True
