"""Finding and replacing words in the score and in names."""

from __future__ import annotations

import re
from collections.abc import Iterable

from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.read import read_line
from waltzmark.core.score.write import write_count

__all__ = ["Hit", "find", "replaced"]


class Hit(Record):
    """One place where words stand. line: of the posture, from 0, or -1 for its name; start, end: in its text."""

    posture: str
    line: int
    start: int
    end: int


def find(form: Form, words: str, names: bool = True, score: bool = True) -> tuple[Hit, ...]:
    """Every place where *words* stand, capitals or not, in the order of the form.

    names: look in the names of postures; score: in the counts that postures have as their own.
    """
    if not words:
        return ()
    pattern = re.compile(re.escape(words), re.IGNORECASE)
    return tuple(
        Hit(posture.id, line, match.start(), match.end())
        for posture in form.postures
        for line, text in _texts(posture)
        if (score if line >= 0 else names)
        for match in pattern.finditer(text)
    )


def _texts(posture: Posture) -> Iterable[tuple[int, str]]:
    yield -1, posture.name
    for number, line in enumerate(posture.lines):
        yield number, write_count(line)


def replaced(form: Form, hits: Iterable[Hit], words: str) -> tuple[Form, int]:
    """The form with other words at some places, and how many counts can no longer be read; those are kept as text."""
    by_line: dict[tuple[str, int], list[Hit]] = {}
    for hit in hits:
        by_line.setdefault((hit.posture, hit.line), []).append(hit)
    unread = 0
    for posture in form.postures:
        texts = dict(_texts(posture))
        lines, name = list(posture.lines), posture.name
        for (of, at), found in by_line.items():
            if of != posture.id:
                continue
            text = texts[at]
            for hit in sorted(found, key=lambda h: -h.start):
                text = text[: hit.start] + words + text[hit.end :]
            if at < 0:
                name = text.strip()
            else:
                was = lines[at].unread
                lines[at] = read_line(text, form.school.stance_names)
                unread += lines[at].unread is not None and was is None
        if any(of == posture.id for of, _ in by_line):
            form = form.with_posture(replace(posture, name=name, lines=tuple(lines)))
    return form, unread
