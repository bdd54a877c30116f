"""Where the postures of a page begin: headings, numbered lines, names at the beginning of paragraphs, and its title."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

__all__ = ["parts_of", "title_of"]

#: Lines that name a posture: a heading of Markdown, a number and a few words, or as "Posture: Open the gate". Whatever
#: else it may be called needs its number, "Movement 3: Open the gate", since "Movement: step left" says what is done.
_HEADING = (
    r"^[ \t]*(?:#{{1,6}}[ \t]+(?P<marked>.+?)|\d{{1,3}}[.)][ \t]+(?P<listed>[^.!?\n]{{2,60}}?)"
    r"|(?i:{posture}|(?:{heads})(?=[ \t]+\d))(?:[ \t]+\d{{1,3}})?[ \t]*[:.–—-][ \t]*(?P<called>[^.!?\n]{{2,60}}?)"
    r"|(?:\*\*|__)(?P<bold>[^*_\n]{{2,60}}?)[.:]?(?:\*\*|__)"
    r"|(?P<bare>(?i:{heads})[ \t]+\d{{1,3}})[:.]?)[ \t]*$"
)
#: The number before a posture's name, which its place says.
_COUNTED = re.compile(r"^\d{1,3}[.)][ \t]+")
#: A line that stands alone before the rest, as the title of a page does, or with one more line below it.
_TITLE = re.compile(
    r"\s*(?:#[ \t]+)?(?P<title>[^\s#][^\n]{2,60}[^\s.!?:;,…])[ \t]*\n"
    r"(?P<below>[^\n]*[^\s][^\n]*\n)?[ \t]*\n(?=\s*[^\s])"
)
_TOP, _BELOW = re.compile(r"\s*#[ \t]"), re.compile(r"^#{2,6}[ \t]", re.M)
#: A paragraph, and a short name at its beginning that more words follow: "Push the door. Shift all your weight …".
_PARAGRAPH = re.compile(r"[^\s](?:[^\n]|\n(?![ \t]*\n))*")
_RUN_IN = re.compile(r"(?P<name>[^\W\d_][^.!?:;,\n]{1,38})[.:][ \t]+(?=[^\s])")
_FEW = 5  # words of such a name


def parts_of(
    text: str,
    words: Sequence[str],
    top: int,
    does_nothing: Callable[[str], bool],
    done_again: Callable[[str], bool],
) -> list[tuple[str, int, int, int]]:
    """Of each posture its name, where its text starts, where what is drafted of it begins, and where it ends.

    words: what the line of a name may begin with, the first of them without a number; top: where the text begins, below
    its title; does_nothing: whether words come to no act; done_again: whether they ask for what was done before.
    """
    heads = [each for each in _headings(text, words) if each.start() >= top]
    if len(heads) < 2 and not any(each["called"] or each["bare"] for each in heads):  # at most a title
        begin = heads[0].end() if heads and not text[: heads[0].start()].strip() else top
        named = _named_paragraphs(text, begin, does_nothing) if begin or not heads else []
        if named:
            return named
    if not heads:
        return [("", 0, top, len(text))]
    found = [_opening(text, top, heads[0].start(), does_nothing)] if text[top : heads[0].start()].strip() else []
    for at, head in enumerate(heads):
        stop = heads[at + 1].start() if at + 1 < len(heads) else len(text)
        name = head["marked"] or head["listed"] or head["called"] or head["bold"] or head["bare"]
        called = _COUNTED.sub("", name.strip()) or name.strip()
        begin = head.end()
        if not text[begin:stop].strip() and done_again(called):  # "3. The same on the other side"
            begin = head.start() + head[0].rindex(called)
        found.append((called, begin, begin, stop))
    return found


def _opening(text: str, begin: int, stop: int, does_nothing: Callable[[str], bool]) -> tuple[str, int, int, int]:
    """What stands before the first of numbered postures, with its name where it begins with one: "Opening. Stand …"."""
    paragraph = _PARAGRAPH.search(text, begin, stop)
    named = _RUN_IN.match(text, paragraph.start(), stop) if paragraph is not None else None
    if named is None or len(named["name"].split()) > _FEW or not does_nothing(named["name"]):
        return "", 0, begin, stop
    return named["name"].strip(), 0, named.end(), stop


def _headings(text: str, words: Sequence[str]) -> list[re.Match[str]]:
    return list(re.finditer(_HEADING.format(posture=words[0], heads="|".join(words)), text, re.M))


def title_of(text: str, words: Sequence[str], does_nothing: Callable[[str], bool]) -> re.Match[str] | None:
    """The line at the top of a page that names the form, and no posture of it."""
    title = _TITLE.match(text)
    if title is None or not (does_nothing(title["title"]) and does_nothing(title["below"] or "")):
        return None
    heads = _headings(text, words)
    if not heads or heads[0].start() >= title.end():
        return title
    if len(heads) > 1 and not text[heads[0].end() : heads[1].start()].strip():
        return title  # a heading with nothing under it
    # A heading of Markdown above lower ones: "# Quiet harbour" before "## Open the gate".
    return title if _TOP.match(text) and _BELOW.search(text, title.end()) else None


def _named_paragraphs(text: str, begin: int, does_nothing: Callable[[str], bool]) -> list[tuple[str, int, int, int]]:
    """The same where the first paragraph and others begin with names; nothing where they do not.

    A name is short, and is not what one does: of most of them nothing can be drafted. A paragraph without one goes on
    with the posture before. The first posture starts where the text would without names, so that one that was begun
    stays the same when a second paragraph is written.
    """
    paragraphs = list(_PARAGRAPH.finditer(text, begin))
    named = [_RUN_IN.match(text, each.start(), each.end()) for each in paragraphs]
    heads = [each for each in named if each is not None and len(each["name"].split()) <= _FEW]
    if len(heads) < 2 or heads[0].start() != paragraphs[0].start():
        return []
    if 2 * sum(does_nothing(each["name"]) for each in heads) < max(len(heads), 3):
        return []
    starts = [begin, *(each.start() for each in heads[1:])]
    ends = [*starts[1:], len(text)]
    return [
        (each["name"].strip(), start, each.end(), end) for each, start, end in zip(heads, starts, ends, strict=True)
    ]
