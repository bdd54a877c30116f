"""A form on its way to another body: of each line as it was written what stands for it now."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import SequenceMatcher
from functools import cached_property

from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count

__all__ = ["Place", "Rewritten"]

#: A posture that has its own counts, and one of its lines as it was written, from 0.
Place = tuple[str, int]


class Rewritten(Record, eq=False, dict=True):
    """A form rewritten for another body.

    source: the form as written, for the other body; changed: what stands in place of a line, by its place; support:
    whether something to hold stands within reach, where the body has none.
    """

    source: Form
    changed: Mapping[Place, tuple[Count, ...]] = {}
    support: bool = False

    @cached_property
    def form(self) -> Form:
        """The form as it now is."""
        form, touched = self.source, {place[0] for place in self.changed}
        if touched:
            postures = tuple(
                replace(each, lines=tuple(line for _, line in self._lines(each.id))) if each.id in touched else each
                for each in form.postures
            )
            form = replace(form, postures=postures)
        if self.support and not form.body.support:
            form = replace(form, body=replace(form.body, support=True))
        return form

    def _lines(self, posture: str) -> list[tuple[int, Count]]:
        """The lines of a posture now, each with the number of that it stands for."""
        own = self.source.posture(posture).lines
        return [(at, line) for at, was in enumerate(own) for line in self.changed.get((posture, at), (was,))]

    def origin(self, posture: str | None, line: int) -> int:
        """The line as written that one stands for; a posture that takes its counts from another has that one's."""
        if posture is None:
            return -1
        root = self.root(posture)
        origins = self._origins.get(root)
        if origins is None:
            origins = self._origins[root] = [at for at, _ in self._lines(root)]
        return origins[line] if line < len(origins) else line

    @cached_property
    def _origins(self) -> dict[str, list[int]]:
        return {}

    def root(self, posture: str) -> str:
        """The posture that has the counts of one."""
        at = self.source.posture(posture)
        while at.source is not None:
            at = self.source.posture(at.source)
        return at.id

    def mended(self, posture: str, start: int, stop: int, lines: tuple[Count, ...], about: int) -> Rewritten:
        """The same with the lines of a posture from *start* up to *stop*, as they now stand, exchanged.

        about: the line that is mended; what is put in beside it goes with it.
        """
        now = self._lines(posture)
        old = [line for _, line in now[start:stop]]
        new: dict[int, list[Count]] = {}  # what stands for each place that changes, in the order of the lines
        kept: list[tuple[int, tuple[Count, ...]]] = [(at, (line,)) for at, line in now[:start]]
        for tag, i1, i2, j1, j2 in SequenceMatcher(None, old, list(lines), autojunk=False).get_opcodes():
            own = [at for at, _ in now[start + i1 : start + i2]]
            if tag == "equal" or (own and len(own) == j2 - j1):
                kept += [(at, (line,)) for at, line in zip(own, lines[j1:j2], strict=True)]
            elif own:
                kept += [(own[0], lines[j1:j2]), *((at, ()) for at in own[1:])]
            else:
                kept.append((self._beside(now, start + i1, about), lines[j1:j2]))
        kept += [(at, (line,)) for at, line in now[stop:]]
        for at, put in kept:
            new.setdefault(at, []).extend(put)
        changed = dict(self.changed)
        for at, was in enumerate(self.source.posture(posture).lines):
            stands = tuple(new.get(at, ()))
            if stands == (was,):
                changed.pop((posture, at), None)
            else:
                changed[posture, at] = stands
        return replace(self, changed=changed)

    @staticmethod
    def _beside(now: list[tuple[int, Count]], at: int, about: int) -> int:
        """The place as written that lines put in at a position go with."""
        if at < len(now) and at == about:
            return now[at][0]
        return now[at - 1][0] if at else now[0][0] if now else 0

    def undone(self, places: Mapping[Place, tuple[Count, ...] | None]) -> Rewritten:
        """The same with some places as they were: None stands for as written."""
        changed = {place: lines for place, lines in self.changed.items() if place not in places}
        return replace(self, changed=changed | {p: lines for p, lines in places.items() if lines is not None})
