"""The manual that ships with the program, the very pages of docs/, by its headings; and searching in it."""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from waltzmark.core.base.records import Record

__all__ = ["Topic", "found", "manual"]

#: The pages that are for whoever uses the program, in the order they are read.
_PAGES = ("guide", "words", "plotting", "score", "scales", "file-format", "model")
_FOLDER = Path(__file__).parent.parent / "manual"
_PICTURE = re.compile(r"!\[[^\]]*\]\([^)]*\)\n*")
_SIGNS = re.compile(r"[*`|_#]+")


class Topic(Record):
    """What stands under a heading, with the headings below it. page: the name of its file; level: 1 for a page, 2 for a
    heading in it; text: as Markdown, without pictures."""

    page: str
    level: int
    title: str
    text: str

    @property
    def plain(self) -> str:
        """Its words without mark-up, in one line."""
        return " ".join(_SIGNS.sub("", self.text).split())


@lru_cache(maxsize=1)
def manual() -> tuple[Topic, ...]:
    """All topics, each page followed by its headings. A page that is missing is left out."""
    topics: list[Topic] = []
    for page in _PAGES:
        try:
            text = _PICTURE.sub("", (_FOLDER / f"{page}.md").read_text(encoding="utf-8"))
        except OSError:
            continue
        first, *parts = re.split(r"(?m)^(?=## )", text)
        title = first.partition("\n")[0].removeprefix("# ")
        topics.append(Topic(page, 1, title, first))
        topics += [Topic(page, 2, part.partition("\n")[0].removeprefix("## "), part) for part in parts]
    return tuple(topics)


def found(words: str) -> tuple[tuple[Topic, str], ...]:
    """The topics that have every one of some words, those with them in the title first, each with the place of the
    first word in a line of its own."""
    wanted = words.lower().split()
    hits: list[tuple[bool, Topic, str]] = []
    for topic in manual():
        plain = topic.plain
        low = plain.lower()
        if wanted and all(word in low for word in wanted):
            at = low.index(wanted[0])
            begin = plain.rfind(" ", 0, max(at - 30, 0)) + 1
            place = ("… " if begin else "") + plain[begin : at + 50].strip() + " …"
            hits.append((not all(word in topic.title.lower() for word in wanted), topic, place))
    return tuple((topic, place) for _, topic, place in sorted(hits, key=lambda hit: hit[0]))
