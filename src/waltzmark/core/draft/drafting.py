"""The draft of a text: postures with their counts, each with where it is from, and what was not used."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Callable, Container, Mapping, Sequence
from itertools import accumulate, pairwise
from typing import NamedTuple

from waltzmark.core.base.angles import COMPASS, compass_heading
from waltzmark.core.base.messages import Message, message
from waltzmark.core.body.pose import Pose
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import clauses_of
from waltzmark.core.draft.lexicon import Said, lexicon, said_of
from waltzmark.core.draft.parts import parts_of, title_of
from waltzmark.core.draft.pieces import Span
from waltzmark.core.draft.reading import acts_of
from waltzmark.core.draft.sense import Sense
from waltzmark.core.draft.standing import Made
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.spoken import LANGUAGES, Page
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.step import step

__all__ = ["Draft", "PostureDrafted", "Unused", "doubt_of", "draft", "free_name", "name_of", "unnamed"]

#: The number of an entry in a list.
_LISTED = re.compile(r"^[ \t]*(?P<number>\d{1,3})[.)](?=[ \t])", re.M)
#: Where a sentence ends.
_STOP = re.compile(r"[.;!?…\n]")
#: What is said that no act took up, by kind; each makes a doubt.
_TELLING = frozenset(
    {"percent", "degrees", "clock", "number", "size", "cm", "fl", "sw", "side", "way", "contact", "which", "amount"}
)


#: Characters that are looked at to know the language, and the share of known words from which it is familiar.
_LOOKED_AT, _FAMILIAR = 4000, 0.45


class Unused(NamedTuple):
    """Words that were not used. why: idle, unread, or not an act."""

    span: Span
    text: str
    why: str


class PostureDrafted(NamedTuple):
    """A posture with its counts; or the repeat, or the mirror image, of one before. span: of its words."""

    id: str
    name: str
    counts: tuple[Made, ...]
    repeat_of: str | None = None
    mirror_of: str | None = None
    times: float | None = None
    span: Span = (0, 0)

    @property
    def copies(self) -> int:
        """How many postures it comes to: "three times" is twice more."""
        if self.repeat_of is None:
            return 1
        return max(round(self.times or 2.0) - 1, 1)


class Draft(NamedTuple):
    """What a text was drafted as.

    title: the line at its top that names it; empty where there is none. twelve: the point of the compass that stands at
    12 by it, as whoever begins faces there; empty where it does not say so, or not of a beginning.
    """

    language: str
    postures: tuple[PostureDrafted, ...]
    unused: tuple[Unused, ...]
    title: str = ""
    twelve: str = ""


def draft(
    text: str,
    pose: Pose,
    ground: Ground,
    language: str = "en",
    page: Page | None = None,
    begun: Mapping[int, tuple[str, Pose, Pose]] | None = None,
    taught: Sequence[Taught] = (),
    *,
    fresh: bool = False,
) -> Draft:
    """What a text says, as counts that begin in a pose.

    Parameters
    ----------
    text
        Plain text or Markdown; places in what is returned count its characters.
    pose, ground
        Where the body stands, and by whose measures and which school it walks.
    language
        Of the lexicon: one of `LANGUAGES`.
    page
        What the writer made of the text so far.
    begun
        By where their words begin, the postures that are in the form already: id, and the poses they begin and end in.
    taught
        Phrases of the writer's own.
    fresh
        Whether the form has no counts yet: "facing south", said first, then tells what stands at 12.

    Returns
    -------
    Draft
        Each count with the words it came from, and what was said, given, chosen or is doubtful of it.
    """
    postures: list[PostureDrafted] = []
    unused: list[Unused] = []
    ids: set[str] = set()
    twelve = ""
    own_phrases = {each.words: at for at, each in enumerate(taught) if each.language == language and each.words}

    def does_nothing(words: str) -> bool:
        acts = acts_of(clauses_of(said_of(words, language, own_phrases), words)).acts
        return all(act.mended for act in acts)  # "The mill wheel" fills nothing and turns nothing

    def done_again(words: str) -> bool:
        acts = acts_of(clauses_of(said_of(words, language, own_phrases), words)).acts
        return [act.kind for act in acts] in (["mirror"], ["repeat"])

    numbers = {each.start("number") for each in _LISTED.finditer(text)}
    heads = lexicon(language).heads
    title = title_of(text, heads, does_nothing)
    parts = parts_of(text, heads, 0 if title is None else title.end(), does_nothing, done_again)
    number = 0
    for name, start, begin, stop in parts:
        told = said_of(text[begin:stop], language, own_phrases)
        if number == 0 and fresh and (twelve := _faced(told, text[begin:stop])):
            ground = ground._replace(twelve=twelve)
        said = [_aimed(_moved(each, begin), ground) for each in told]
        said = [each for each in said if each.span[0] not in numbers]
        read = acts_of(clauses_of(said, text))
        so = read.acts.pop(_begun_facing(read.acts)).spans if number == 0 and twelve else []  # it is so now
        unused += [Unused(span, text[span[0] : span[1]], why) for span, why in read.idle]
        gone = [*so, *(span for span, _ in read.idle)]
        for acts, since, until in _runs(read.acts, start, stop):
            number += 1
            known, now = None, None
            if begun is not None and since in begun:
                known, pose, now = begun[since]
            chosen = () if page is None else [each for each in page.chosen if since <= each.start < until]
            sense = Sense(pose, ground, chosen, 0 if page is None else page.upto, now, taught)
            sense.so.extend(so)
            so = []
            sense.take(acts)
            pose = sense.pose
            unused += [Unused(span, text[span[0] : span[1]], "idle") for span in sense.so]
            used = [span for made in sense.made for span in made.spans]
            repeated = [span for each in sense.repeats for span in each[2]]
            taken = _taken(used + repeated)
            lost = [span for span in sense.unmade if not taken(span)]
            unused += [Unused(span, text[span[0] : span[1]], "unread") for span in lost]
            gone += [*used, *lost, *sense.so, *repeated]
            own = f"part-{number}" if not name else re.sub(r"\W+", "-", name.lower()).strip("-") or f"part-{number}"
            own = known or free_name(own, ids)
            ids.add(own)
            named = name
            # Words before the first heading do nothing.
            if sense.made or (not sense.repeats and (name or (len(parts) == 1 and since == start))):
                named = ""
                postures.append(PostureDrafted(own, name, tuple(sense.made), span=(since, until)))
            for kind, times, spans, _ in sense.repeats:
                source = _source(postures, f"{named}\n{_sentence(text, spans)}")
                other = source if kind == "mirror" else None
                again = source if kind == "repeat" else None
                copy = own if named else free_name(f"{source}-{kind}", ids)
                ids.add(copy)
                span = (min(spans)[0], max(end for _, end in spans))
                postures.append(PostureDrafted(copy, named, (), again, other, times, span))
                pose = _done_again(postures[-1], postures, pose, ground)
                named = ""
            name = ""
        unused += _left(text, said, gone)
    named = "" if title is None else title["title"]
    return Draft(language, tuple(postures), tuple(sorted(unused)), named, twelve)


def _runs(acts: list[Act], start: int, stop: int) -> list[tuple[list[Act], int, int]]:
    """Acts up to where something is done again, and those after it, with where their words begin and end.

    "Repeat on the other side. Then …": what is done then is no more of what is repeated.
    """
    cuts, done = [(0, start)], -1
    for at, act in enumerate(acts):
        if act.kind in ("repeat", "mirror"):
            done = max(end for _, end in act.spans)
        elif act.spans and 0 <= done <= (begin := min(first for first, _ in act.spans)):
            cuts.append((at, begin))
            done = -1
    return [(acts[a:b], since, until) for (a, since), (b, until) in pairwise([*cuts, (len(acts), stop)])]


def _done_again(copy: PostureDrafted, postures: Sequence[PostureDrafted], pose: Pose, ground: Ground) -> Pose:
    """The pose in which a repeat or a mirror image ends that begins in a pose."""
    source = next((each.counts for each in postures if each.id == (copy.mirror_of or copy.repeat_of)), ())
    for made in source * copy.copies:
        count = made.count if copy.mirror_of is None else made.count.mirrored(0.0, ground.twelve)
        if count.moves:
            pose = step(pose, count, ground)[0]
    return pose


def _source(postures: Sequence[PostureDrafted], words: str) -> str:
    """The posture that is done again: the last one whose name is in the words that ask for it, else the last."""
    whole = [each for each in reversed(postures) if each.counts]
    named = [each for each in whole if each.name and re.search(rf"\b{re.escape(each.name)}\b", words, re.IGNORECASE)]
    return next((each.id for each in (*named, *whole)), "before")


def name_of(told: PostureDrafted, source: str, taken: Container[str], language: str) -> str:
    """What a posture that repeats or mirrors one is called: as it was said, else after that one."""
    words = lexicon(language)
    other = words.other_side if told.mirror_of is not None else words.again
    return told.name or (free_name(f"{source}, {other}", taken, " ") if source else "")


def unnamed(number: int, language: str) -> str:
    """What a posture is called that has no name."""
    return f"{lexicon(language).heads[0].capitalize()} {number}"


def free_name(name: str, taken: Container[str], between: str = "-") -> str:
    """A name as it is, or with a number after it where it is taken."""
    number = 2
    free = name
    while free in taken:
        free = f"{name}{between}{number}"
        number += 1
    return free


def doubt_of(text: str, language: str) -> Message | None:
    """What is wrong with a text before it is drafted: it has no words, or they are of another language."""
    if not any(each.isalpha() for each in text):
        return message("draft.no-words")
    known = {name: _known(text[:_LOOKED_AT], name) for name in LANGUAGES}
    if known[language] >= _FAMILIAR:
        return None
    other = max(LANGUAGES, key=known.__getitem__)
    if other != language and known[other] > known[language] + 0.1:
        return message("draft.other-language", language=language, other=other)
    return message("draft.language", language=language)


def _known(text: str, language: str) -> float:
    """The share of words that are known in a language."""
    words = [each for each in said_of(text, language) if each.kind not in ("comma", "stop", "line", "number")]
    return 1.0 if not words else sum(each.kind != "unknown" and not each.mended for each in words) / len(words)


def _moved(said: Said, by: int) -> Said:
    return said._replace(span=(said.span[0] + by, said.span[1] + by))


def _aimed(said: Said, ground: Ground) -> Said:
    """A compass point as the clock facing that it is on this floor."""
    if said.kind != "compass":
        return said
    return said._replace(kind="clock", number=2.0 * compass_heading(said.value, ground.twelve))


def _begun_facing(acts: Sequence[Act]) -> int:
    """The act that says where one faces before anything is done; -1 where none does."""
    at = next((n for n, each in enumerate(acts) if each.kind != "stand"), -1)
    return at if at >= 0 and acts[at].kind == "expect" and acts[at].way == "torso" else -1


def _faced(told: Sequence[Said], text: str) -> str:
    """The point of the compass that is faced before anything is done; empty where none is said."""
    stops = [at for at, each in enumerate(told) if each.kind in ("stop", "line")]
    first = told[: stops[1] if len(stops) > 1 else len(told)]  # of two sentences; what comes later begins nothing
    if all(each.kind != "compass" for each in first):
        return ""
    north = [
        each._replace(kind="clock", number=2.0 * COMPASS[each.value]) if each.kind == "compass" else each
        for each in first
    ]
    acts = acts_of(clauses_of(north, text)).acts
    at = _begun_facing(acts)
    clause = acts[at].clause if at >= 0 else None
    return "" if clause is None else next((each.value for each in clause.said if each.value in COMPASS), "")


def _around(text: str, span: Span) -> Span:
    """The sentence around some words."""
    begin = max((each.end() for each in _STOP.finditer(text, 0, span[0])), default=0)
    after = _STOP.search(text, span[1])
    return begin, after.start() if after is not None else len(text)


def _sentence(text: str, spans: Sequence[Span]) -> str:
    begin, end = _around(text, (min(spans)[0], max(stop for _, stop in spans)))
    return text[begin:end]


def _taken(spans: Sequence[Span]) -> Callable[[Span], bool]:
    """Whether a span has characters that are in any of some others."""
    ordered = sorted(spans)
    starts = [start for start, _ in ordered]
    reach = list(accumulate((stop for _, stop in ordered), max))  # how far those that begin up to there go

    def taken(span: Span) -> bool:
        at = bisect_left(starts, span[1]) - 1
        return at >= 0 and reach[at] > span[0]

    return taken


def _left(text: str, said: list[Said], used: list[Span]) -> list[Unused]:
    """What says something and that nothing took up."""
    taken = _taken(used)
    left = [each.span for each in said if each.kind in _TELLING and not taken((each.span[0], each.span[0] + 1))]
    return [Unused(span, text[span[0] : span[1]], "unread") for span in left]
