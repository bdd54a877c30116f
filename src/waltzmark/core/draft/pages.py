"""The page of a form: its words drafted from where the form stands, what is next, and taking it."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import NamedTuple

from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.draft.drafting import Draft, PostureDrafted, draft, free_name, name_of, unnamed
from waltzmark.core.draft.standing import Made
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.spoken import Chosen, Page, Standing
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import ground_of

__all__ = [
    "PageDraft",
    "Progress",
    "Row",
    "chosen",
    "draft_page",
    "noted",
    "progress",
    "rows_of",
    "sentence_drafted",
    "taken",
    "with_rows",
]


class Row(NamedTuple):
    """A row of a draft: a posture that begins, a count, or a posture that comes from another one.

    posture: number of it in the draft; made: the count, None of a posture as a whole; start, stop: of its words; reach:
    the character before which all words of it and of the rows before it end; within: of the rows that reach there,
    which it is; done: whether it is settled.
    """

    posture: int
    made: Made | None
    start: int
    stop: int
    reach: int
    within: int
    done: bool

    @property
    def asks(self) -> bool:
        """Whether it waits, and something of it is doubtful: also which posture is done again, and how often."""
        return not self.done and (self.made is None or (not self.made.refused and self.made.how == "doubtful"))


class PageDraft(NamedTuple):
    """The page that was drafted, what came of it, and its rows in order."""

    page: Page
    draft: Draft
    rows: tuple[Row, ...]

    @property
    def next_row(self) -> int:
        """The first row that waits; the number of rows where none does."""
        return next((at for at, row in enumerate(self.rows) if not row.done), len(self.rows))

    @property
    def sure_up_to(self) -> int:
        """The row after the last one that waits and asks nothing, before the first that does."""
        waits = range(self.next_row, len(self.rows))
        return next((at for at in waits if self.rows[at].asks), len(self.rows))


class Progress(NamedTuple):
    """Words that went into counts or are known to be idle, words in all, and questions that are open."""

    used: int
    words: int
    questions: int


def draft_page(form: Form, trace: Trace, taught: tuple[Taught, ...] = ()) -> PageDraft:
    """The words of a form drafted: its postures that were made from them stand as they are walked now.

    Parameters
    ----------
    form, trace
        A form that has a page, and its walk.
    taught
        Phrases of the writer's own.

    Returns
    -------
    PageDraft
        Begins where the form stands before the words; what is not settled goes on from where it ends now.
    """
    page = form.words or Page("")
    begun = {}
    made = {each.posture for each in page.standing}
    for each in page.standing:
        number = trace.numbers.get(each.posture)
        if number is not None:
            passage = trace.passages[number]
            begun[each.start] = (each.posture, passage.entry, passage.exit)
    before = [trace.passages[trace.numbers[each.id]] for each in form.postures if each.id not in made]
    start = before[-1].exit if before else form.opening.pose(form.body)
    found = draft(page.text, start, ground_of(form), page.language, page, begun, taught, fresh=not form.postures)
    return PageDraft(page, found, tuple(rows_of(found, page)))


def sentence_drafted(
    text: str, pose: Pose, ground: Ground, language: str, taught: tuple[Taught, ...] = ()
) -> tuple[Made, ...]:
    """The counts of one sentence, from where a body stands.

    None where part of it was not understood, or where it is not plainly told.

    Parameters
    ----------
    text
        A line that somebody typed.
    pose, ground
        Where the body stands, and by whose measures it walks.
    language
        Of the lexicon.
    taught
        Phrases of the writer's own.
    """
    found = draft(text, pose, ground, language, taught=taught)
    if len(found.postures) != 1 or any(each.why == "unread" for each in found.unused):
        return ()
    return found.postures[0].counts


def rows_of(found: Draft, page: Page) -> Iterable[Row]:
    """The rows of a draft.

    Words of one may stand within those of another, so that a row is known as settled by how far the words reach up to
    it, and which it is of those that reach there.
    """
    reach, within = 0, 0
    for number, posture in enumerate(found.postures):
        copied = bool(posture.repeat_of or posture.mirror_of)
        for made in (None,) if copied else posture.counts:
            start, stop = posture.span if made is None else (made.start, made.stop)
            within = within + 1 if stop <= reach else 0
            reach = max(reach, stop)
            done = reach < page.upto or (reach == page.upto and within < page.within)
            yield Row(number, made, start, stop, reach, within, done or (made is not None and made.refused))


def progress(drafted: PageDraft) -> Progress:
    """How far a page is: its words, those that are used or idle, and what is asked."""
    text = drafted.page.text
    unread = [each for each in drafted.draft.unused if each.why != "idle" and each.span[1] > drafted.page.upto]
    words = [match.span() for match in re.finditer(r"[^\W_]+(?:['’.:-][^\W_]+)*", text)]
    lost = sum(any(start < each.span[1] and each.span[0] < stop for each in unread) for start, stop in words)
    asked = sum(row.asks for row in drafted.rows)
    return Progress(len(words) - lost, len(words), asked + len(unread))


def with_rows(form: Form, drafted: PageDraft, upto: int) -> tuple[Form, str | None, int]:
    """The form with what waits taken up to a row, the posture that row is in, and how many lines that has then.

    Parameters
    ----------
    form
        The form that was drafted from.
    drafted
        Its page.
    upto
        The row that is the last to be taken.

    Returns
    -------
    tuple
        The form; None and 0 where no posture has lines from these rows.
    """
    postures = list(form.postures)
    places = {posture.id: at for at, posture in enumerate(postures)}
    page = drafted.page
    last, lines = None, 0
    for row in drafted.rows[drafted.next_row : upto + 1]:
        if row.done:
            continue
        told = drafted.draft.postures[row.posture]
        standing = Standing(_id_of(told, page, places), told.span[0], row.reach)
        if row.made is None:
            for number in range(told.copies):
                own = standing.posture if number == 0 else free_name(f"{standing.posture}-{number + 1}", places)
                copied = _copied(told, own, page, drafted, postures)
                if copied is not None:
                    postures.append(copied)
                    places[own] = len(postures) - 1
            if standing.posture not in places:  # there is nothing to do again
                page = page.settled(row.reach, row.within + 1)
                continue
        elif standing.posture in places:
            at = places[standing.posture]
            postures[at] = replace(postures[at], lines=(*postures[at].lines, row.made.count))
        else:
            places[standing.posture] = len(postures)
            name = told.name or unnamed(row.posture + 1, page.language)
            postures.append(Posture(standing.posture, name, (row.made.count,)))
        page = page.settled(row.reach, row.within + 1, standing)
        last, lines = standing.posture, len(postures[places[standing.posture]].lines)
    title = form.title or drafted.draft.title  # what the page is called, the form is called that is made of it
    twelve = drafted.draft.twelve or form.twelve
    return replace(form, title=title, twelve=twelve, postures=tuple(postures), words=page), last, lines


def taken(form: Form, drafted: PageDraft, upto: int) -> tuple[Form, str | None, int]:
    """As `with_rows`; what stands between the words of the last row and those of the next is settled with it."""
    made, last, lines = with_rows(form, drafted, upto)
    following = next((row.start for row in drafted.rows[upto + 1 :] if not row.done), len(drafted.page.text))
    left = [each.span[0] for each in drafted.draft.unused if each.why != "idle" and each.span[0] >= drafted.page.upto]
    page = made.words or drafted.page
    if following == len(drafted.page.text) and not any(at >= page.upto for at in left):
        page = replace(page, upto=following)
    return replace(made, words=page), last, lines


def _id_of(told: PostureDrafted, page: Page, places: dict[str, int]) -> str:
    """The id of a posture in the form: that of its words, where it was begun, else one that is free."""
    known = next((each.posture for each in page.standing if each.start == told.span[0]), None)
    if known is not None and known in places:
        return known
    return free_name(told.id, places)


def _copied(told: PostureDrafted, own: str, page: Page, drafted: PageDraft, postures: list[Posture]) -> Posture | None:
    """A posture that repeats or mirrors the one its words mean, else the last of the form; None where there is none."""
    source = told.repeat_of or told.mirror_of
    other = next((each for each in drafted.draft.postures if each.id == source), None)
    starts = {each.start: each.posture for each in page.standing}
    known = None if other is None else starts.get(other.span[0])
    if known is None or all(each.id != known for each in postures):
        known = next((each.id for each in reversed(postures) if each.source is None), None)
    if known is None:
        return None
    source, names = next(each.title for each in postures if each.id == known), {each.name for each in postures}
    name = name_of(told, source, names, page.language)
    if told.repeat_of:
        return Posture(own, name, repeat_of=known)
    return Posture(own, name, mirror_of=known, axis=Clock(0))


def chosen(page: Page, row: Row, count: Count | None) -> Page:
    """The page with what the writer makes of a row: another count, or None where it is refused."""
    nth = 0 if row.made is None else row.made.nth
    return page.choosing(Chosen(row.start, row.stop, nth, count))


def noted(page: Page, row: Row) -> Page:
    """The page with the words of a row as the note of its count."""
    if row.made is None:
        return page
    words = " ".join(page.text[row.start : row.stop].split())
    return chosen(page, row, replace(row.made.count, note=None if row.made.count.note == words else words))
