"""Everything a hand can do to the form, each as one undo step with words: lines, clipboard, whole postures.

What cannot be done raises FormError, with words for the user; the form is then as it was.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from waltzmark.core.base.errors import FormError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit import forms
from waltzmark.core.edit.snapping import Snaps
from waltzmark.core.form.form import Form, Home, Opening, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Room
from waltzmark.core.judge.finding import Mend
from waltzmark.core.school.school import School
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import plain_line, read_line
from waltzmark.core.score.write import write_aim, write_count, write_score
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document, Where
from waltzmark.desktop.history import Selection
from waltzmark.words.language import ntr, tr
from waltzmark.words.named import named_again, named_other_side
from waltzmark.words.sentences import sentence

if TYPE_CHECKING:
    from waltzmark.core.edit.keeping import Moved

__all__ = ["Editor"]


def _named(lines: Sequence[Count]) -> str:
    """Lines in words: the text of one, the number of several."""
    return f"“{write_count(lines[0])}”" if len(lines) == 1 else ntr("{n} count", "{n} counts", len(lines))


class Editor:
    """Edits a document where it is selected. snaps: what a dragging hand keeps to."""

    def __init__(self, document: Document) -> None:
        self._document = document
        self.snaps = Snaps()

    # Lines.

    def place(self, where: Where) -> tuple[Form, Posture, int]:
        """The form, the posture and the position at which typed lines go; a form without postures gets a first one."""
        document = self._document
        form, selection = document.form, document.session.selection
        if not form.postures:
            posture = Posture("first", tr("First posture"))
            return replace(form, postures=(posture,)), posture, 0
        posture = form.postures[0] if selection.posture is None else form.posture(selection.posture)
        whole = selection.posture is None or selection.start == selection.stop
        if where == "end" or (whole and where == "after"):
            return form, posture, len(form.lines(posture))
        if where == "before":
            return form, posture, selection.start
        at = selection.stop
        # Expectations and notes below a count speak of it: a new count goes after them.
        while at < len(posture.lines) and not posture.lines[at].moves:
            at += 1
        return form, posture, at

    def insert(self, lines: Sequence[Count], where: Where = "after") -> None:
        """Puts lines after or before the selected ones, or at the end of their posture, and selects them."""
        if lines:
            form, posture, at = self.place(where)
            self._lines(
                tr("add {named} to {title}", named=_named(lines), title=posture.title),
                forms.insert_lines(form, posture.id, at, lines),
                Selection(posture.id, at, at + len(lines)),
            )

    def change(self, line: Count) -> None:
        """Exchanges the selected line for another."""
        posture, start, stop = self._selected()
        old = self._document.form.posture(posture).lines[start:stop]
        form = forms.replace_lines(self._document.form, posture, start, stop, [line])
        self._lines(
            tr("change {named} to “{write_count}”", named=_named(old), write_count=write_count(line)),
            form,
            Selection(posture, start, start + 1),
        )

    def remove(self, verb: str = "delete") -> None:
        """Takes the selected lines out."""
        posture, start, stop = self._selected()
        old = self._document.form.posture(posture).lines[start:stop]
        form = forms.remove_lines(self._document.form, posture, start, stop)
        left = len(form.posture(posture).lines)
        at = min(start, max(left - 1, 0))
        self._lines(f"{verb} {_named(old)}", form, Selection(posture, at, min(at + 1, left)))

    def duplicate(self) -> None:
        """Puts the selected lines in again after themselves."""
        self.insert(self.selected_lines())

    def move(self, by: int) -> None:
        """Moves the selected lines up or down within their posture."""
        posture, start, stop = self._selected()
        lines = self._document.form.posture(posture).lines
        form = forms.move_lines(self._document.form, posture, start, stop, by)
        at = min(max(start + by, 0), len(lines) - (stop - start))
        if at != start:
            moved = _named(lines[start:stop])
            self._lines(
                tr("move {counts} down", counts=moved) if by > 0 else tr("move {counts} up", counts=moved),
                form,
                Selection(posture, at, at + stop - start),
            )

    def set_beats(self, beats: float) -> None:
        """Makes the selected counts last so many beats."""
        posture, start, stop = self._selected()
        lines = [replace(line, beats=beats) if line.moves else line for line in self.selected_lines()]
        form = forms.replace_lines(self._document.form, posture, start, stop, lines)
        self._lines(
            tr("let {named} last {beats}", named=_named(lines), beats=ntr("{n} beat", "{n} beats", beats)),
            form,
            Selection(posture, start, stop),
        )

    def selected_lines(self) -> tuple[Count, ...]:
        """The selected lines as they are walked; of a selected posture all."""
        selection = self._document.session.selection
        if selection.posture is None:
            return ()
        lines = self._document.form.lines(self._document.form.posture(selection.posture))
        return lines if selection.start == selection.stop else lines[selection.start : selection.stop]

    def copied(self) -> str:
        """The selected lines as score text, for any editor."""
        return write_score(self.selected_lines())

    def paste(self, text: str, where: Where = "after") -> int:
        """Puts the lines of a text in; what cannot be read is kept as text. Returns how many could not be read."""
        stances = self._document.form.school.stance_names
        read = (read_line(line, stances) for line in text.splitlines() if plain_line(line))
        lines = [line for line in read if line != Count()]  # a lone # says nothing
        self.insert(lines, where)
        return sum(line.unread is not None for line in lines)

    def _selected(self) -> tuple[str, int, int]:
        selection = self._document.session.selection
        if selection.posture is None or selection.start == selection.stop:
            raise FormError("edit.no-counts")
        return selection.posture, selection.start, selection.stop

    def _lines(self, words: str, form: Form, selection: Selection) -> None:
        self._document.edit(words, form, selection)

    def keep_places(self, before: Trace, moved: Moved) -> None:
        """Keeps what follows the last edit where it was walked before."""
        from waltzmark.core.edit.keeping import kept_places

        form = kept_places(self._document.form, before, moved)
        self._document.edit(
            tr("keep the steps that follow where they were"), form, self._document.session.selection, shows=False
        )

    # What the form is judged by.

    def mend(self, mend: Mend) -> None:
        """Makes a mend of a finding."""
        document = self._document
        start = mend.start
        selection = Selection(mend.posture, start, start + max(len(mend.lines), 1))
        document.edit(sentence(mend.does, document.session.say), mend.applied(document.form), selection)

    def set_body(self, body: Body, words: str) -> None:
        """Lets another body walk the form; what it changes is told."""
        self._judged_by(words, replace(self._document.form, body=body), body.name or tr("this body"))

    def set_bodies(self, bodies: Sequence[Body], words: str) -> None:
        """Lets the form know other people."""
        if tuple(bodies) != self._document.form.bodies:
            form = replace(self._document.form, bodies=tuple(bodies))
            self._document.edit(words, form, self._document.session.selection, shows=False)

    def set_school(self, school: School) -> None:
        """Judges the form by another school, or by another version of it; what that changes is told."""
        self._judged_by(
            tr("judge by {name}", name=school.name), forms.judged_by(self._document.form, school), school.name
        )

    def set_opening(self, opening: Opening) -> None:
        """Opens the form otherwise."""
        form = replace(self._document.form, opening=opening)
        self._document.edit(tr("change the opening"), form, self._document.session.selection)

    def set_room(self, room: Room | None, words: str, joins: str = "") -> None:
        """Walks the form in another room, or from another start in it."""
        if room != self._document.form.room:
            form = replace(self._document.form, room=room)
            self._document.edit(words, form, self._document.session.selection, joins, shows=False)

    def set_home(self, home: Home, words: str) -> None:
        """Lets the form end elsewhere, or locks postures for it."""
        if home != self._document.form.home:
            form = replace(self._document.form, home=home)
            self._document.edit(words, form, self._document.session.selection, shows=False)

    def take_form(self, form: Form, words: str) -> None:
        """Takes over a form that was worked out, as one step."""
        self._document.edit(words, form, self._document.session.selection)

    def _judged_by(self, words: str, form: Form, name: str) -> None:
        document = self._document
        if form == document.form:
            return
        before = document.form, document.trace, document.judge.judgement
        document.edit(words, form, document.session.selection, shows=False)
        document.judge.compare(name, *before)

    def mute(self, mute: Mute) -> None:
        """Leaves what a rule finds as it is, with a reason."""
        from waltzmark.words.rules import rule_title

        form = self._document.form
        title = rule_title(mute.rule)
        words = tr("ignore: {title}", title=title)
        if mute.posture is not None:
            words = tr("ignore: {title}, in {here}", title=title, here=form.posture(mute.posture).title)
        self._document.edit(
            words,
            replace(form, mutes=(*form.mutes, mute)),
            self._document.session.selection,
            shows=False,
        )

    def unmute(self, mute: Mute) -> None:
        """Lets a muted rule be heard again."""
        from waltzmark.words.rules import rule_title

        form = self._document.form
        left = tuple(each for each in form.mutes if each != mute)
        self._document.edit(
            tr("show again: {rule_title}", rule_title=rule_title(mute.rule)),
            replace(form, mutes=left),
            self._document.session.selection,
        )

    # Whole postures.

    @property
    def posture(self) -> Posture:
        """The selected posture."""
        selection = self._document.session.selection
        if selection.posture is None:
            raise FormError("edit.no-posture")
        return self._document.form.posture(selection.posture)

    def add_posture(self, name: str) -> None:
        """Puts a new posture after the selected one, at the end when the opening is selected."""
        form, chosen = self._document.form, self._document.session.selection.posture
        at = len(form.postures) if chosen is None else form.index(chosen) + 1
        new = Posture(forms.fresh_id(form, name), name)
        self._whole(tr("add the posture {name}", name=name), forms.add_posture(form, at, new), new.id)

    def rename_posture(self, name: str) -> None:
        posture = self.posture
        form = forms.changed_posture(self._document.form, posture.id, name=name)
        self._whole(tr("rename {title} to {name}", title=posture.title, name=name), form, posture.id)

    def set_end(self, facing: Facing | None) -> None:
        """States the facing the posture should end in, or that it states none."""
        posture = self.posture
        words = tr("leave the final facing of {title} open", title=posture.title)
        if facing is not None:
            words = tr("end {title} facing {write_aim}", title=posture.title, write_aim=write_aim(facing))
        self._whole(words, forms.changed_posture(self._document.form, posture.id, ends=facing), posture.id)

    def set_note(self, note: str) -> None:
        posture = self.posture
        form = forms.changed_posture(self._document.form, posture.id, note=note.strip() or None)
        self._whole(tr("note on {title}", title=posture.title), form, posture.id)

    def set_axis(self, axis: Facing) -> None:
        """Mirrors the posture about another line."""
        words = tr("mirror {title} about {write_aim}", title=self.posture.title, write_aim=write_aim(axis))
        self._whole(words, forms.changed_posture(self._document.form, self.posture.id, axis=axis), self.posture.id)

    def set_turn(self, turned: float) -> None:
        """Turns the repeated posture by other degrees."""
        words = tr("turn {title} by {turned:+g}°", title=self.posture.title, turned=turned)
        form = forms.changed_posture(self._document.form, self.posture.id, turned=turned)
        self._whole(words, form, self.posture.id)

    def set_side(self, of: str | None) -> None:
        """Says of which posture it is the other side."""
        other = self._document.form.posture(of).title if of else tr("no posture")
        form = forms.changed_posture(self._document.form, self.posture.id, side_of=of)
        self._whole(
            tr("{title} is the other side of {other}", title=self.posture.title, other=other), form, self.posture.id
        )

    def move_posture(self, by: int) -> None:
        posture = self.posture
        form = forms.move_posture(self._document.form, posture.id, by)
        if form != self._document.form:
            words = (
                tr("move {title} down", title=posture.title) if by > 0 else tr("move {title} up", title=posture.title)
            )
            self._whole(words, form, posture.id)

    def duplicate_posture(self) -> None:
        posture = self.posture
        self._new(
            tr("duplicate {title}", title=posture.title),
            forms.duplicate_posture(self._document.form, posture.id, named_again(posture.title)),
        )

    def split_posture(self) -> None:
        """Splits the posture before the selected count."""
        posture, start, _ = self._selected()
        title = self._document.form.posture(posture).title
        second = tr("{title}, second part", title=title)
        self._new(tr("split {title}", title=title), forms.split_posture(self._document.form, posture, start, second))

    def join_posture(self) -> None:
        posture = self.posture
        form = forms.join_postures(self._document.form, posture.id)
        self._whole(tr("join {title} with the posture after it", title=posture.title), form, posture.id)

    def delete_posture(self) -> None:
        posture, at = self.posture, self._document.form.index(self.posture.id)
        form = forms.delete_posture(self._document.form, posture.id)
        near = form.postures[min(at, len(form.postures) - 1)].id if form.postures else None
        self._whole(tr("delete {title}", title=posture.title), form, near)

    def other_side(self, axis: Facing) -> None:
        posture = self.posture
        self._new(
            tr("make the other side of {title}", title=posture.title),
            forms.other_side(self._document.form, posture.id, axis, named_other_side(posture.title)),
        )

    def repeat(self, turned: float) -> None:
        posture = self.posture
        form = forms.repeated(self._document.form, posture.id, turned, named_again(posture.title))
        self._new(tr("repeat {title}", title=posture.title), form)

    def detach(self) -> None:
        """Turns the counts of a mirrored or repeated posture into its own."""
        posture, document = self.posture, self._document
        walked = document.trace.passages[document.trace.numbers[posture.id]].lines
        form = forms.detached(document.form, posture.id, walked)
        if form != document.form:
            self._whole(tr("make the counts of {title} independent", title=posture.title), form, posture.id)

    def _new(self, words: str, form: Form) -> None:
        """Takes a form with one more posture, and selects that."""
        known = {posture.id for posture in self._document.form.postures}
        self._whole(words, form, next(p.id for p in form.postures if p.id not in known))

    def _whole(self, words: str, form: Form, posture: str | None) -> None:
        self._document.edit(words, form, Selection(posture, 0, 0))
