"""Files: what is wrong with a document, a plan, a table, a practice book or a scale's line, and what to do."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.words.figures import Figures
from waltzmark.words.language import N_, ntr, tr
from waltzmark.words.sentences import Plural, Sentence, fill, sentence

__all__ = ["SENTENCES"]

#: Units of numbers in a document.
_UNITS = {"degrees": N_("degrees"), "%": N_("per cent")}


def _place(fields: Mapping[str, Any], _: Figures) -> str:
    """A key, a line, a column."""
    parts = [fields["key"]] if fields["key"] else []
    if fields["line"] is not None:
        parts.append(tr("line {line}", line=fields["line"]))
    if fields["column"] is not None:
        parts.append(tr("column {column}", column=fields["column"]))
    return ", ".join(parts)


def _problem(fields: Mapping[str, Any], figures: Figures) -> str:
    place, problem = sentence(fields["place"], figures), sentence(fields["problem"], figures)
    return tr("{place}: {problem}", place=place, problem=problem) if place else problem


def _problems(fields: Mapping[str, Any], figures: Figures) -> str:
    """One problem in a line, several below each other."""
    lines = [sentence(each, figures) for each in fields["problems"]]
    head = f"{fields['name']}: " if fields["name"] else ""
    if len(lines) == 1:
        return head + lines[0]
    return head + "\n".join([ntr("{n} problem", "{n} problems", len(lines)), *lines])


def _number(fields: Mapping[str, Any], figures: Figures) -> str:
    unit = _UNITS.get(fields["unit"])
    value = sentence(fields["value"], figures) if "value" in fields else ""
    if unit is None:
        return tr("Should be a number, not {value}.", value=value) if value else tr("Should be a number.")
    if value:
        return tr("Should be a number of {unit}, not {value}.", unit=tr(unit), value=value)
    return tr("Should be a number of {unit}.", unit=tr(unit))


def _range(fields: Mapping[str, Any], figures: Figures) -> str:
    unit = _UNITS.get(fields["unit"])
    if unit is None:
        return fill(N_("{value} is impossible. Use {least} to {most}."), fields, figures)
    return fill(N_("{value} is impossible. Use {least} to {most} {unit}."), {**fields, "unit": tr(unit)}, figures)


SENTENCES: dict[str, Sentence] = {
    "file.place": _place,
    "file.problem": _problem,
    "file.problems": _problems,
    "file.number": _number,
    "file.number.not": _number,
    "file.range": _range,
    "file.large.form": N_(
        "The file has {size:whole} MB. A form has at most {most:whole} MB, so this is probably not one."
    ),
    "file.large.plan": N_(
        "The file has {size:whole} MB. A plan of a room has at most {most:whole} MB, so this is probably not one."
    ),
    "file.large.entries": N_(
        "The file has {size:whole} MB. A practice book has at most {most:whole} MB, so this is probably not one."
    ),
    "book.add": Plural("Add {n} entry", "Add {n} entries", "n"),
    "book.import": Plural("Import {n} entry", "Import {n} entries", "n"),
    "book.delete": Plural("Delete {n} entry", "Delete {n} entries", "n"),
    "book.correct": N_("Correct an entry"),
    "file.unknown-key": N_("Unknown key. It is kept, but not used."),
    "file.unknown-key.meant": N_("Unknown key. It is kept, but not used. Did you mean {hint}?"),
    "file.large.words": N_(
        "The file has {size:whole} MB. Words to be drafted have at most {most:whole} MB; cut it into parts."
    ),
    "file.captions": N_("These captions cannot be read. Save them as SubRip (.srt) or WebVTT (.vtt)."),
    "file.no-captions": N_("{name}: there is nothing said in these captions."),
    "draft.no-words": N_("There are no words to draft."),
    "draft.language": N_(
        "Few of these words are known in {language:name}. Are they in another language? See --language."
    ),
    "draft.other-language": N_(
        "These words seem to be in {other:name}, not in {language:name}. Choose it with --language."
    ),
    "file.body-name": N_("Each of the bodies needs a name of its own."),
    "file.no-body": N_("There is no [body] table in this file."),
    "file.fitted": N_("A change has a posture, a count, and the lines it was made from and to."),
    "file.whole": N_("Should be a whole number."),
    "voice.none": N_("There is no voice on this machine: {reason}."),
    "film.kind": N_(
        "“{name}” does not end as a film (webm, mp4, or webp without sound) or as a track (opus, flac, wav)."
    ),
    "film.nothing": N_("There is nothing to film: the passage has no counts."),
    "film.unwritten": N_("The film could not be written: {reason}."),
    "file.words-long": N_("Words of a form have at most {most} characters."),
    "file.words-place": N_("Should be places in the text, in characters from 0 to {most}."),
    "file.taught": N_("{name}: phrase {number} needs words, a language, counts as in a score, and a torso in degrees."),
    "file.no-taught": N_("{name} has no [[phrase]] in it."),
    "file.text": N_('Should be text in quotes, such as {key} = "…".'),
    "file.sided": N_("Should be a number of {unit}, or {{ left = 40, right = 45 }}."),
    "file.choice": N_("{value} is not a choice here. Use {choices:or}."),
    "file.choice.meant": N_("{value} is not a choice here. Use {choices:or}. Did you mean {hint}?"),
    "file.facing": N_('{value} is not a facing. Write for example "9:00", "~3" or "NE".'),
    "file.folder": N_("It cannot be opened: this is a folder."),
    "file.not-regular": N_("It cannot be opened: this is not a file that can be read as a whole."),
    "file.unopened": N_("It cannot be opened: {reason:reason}."),
    "file.name": N_("It cannot be opened: its name has a character that no file name has."),
    "file.encoding": N_("This is not UTF-8 text. Save the file as UTF-8."),
    "file.deep": N_("The file nests tables more than {most} deep, as no form does."),
    "file.endless-number": N_("It has a number that cannot be read: {reason:reason}."),
    "file.toml": N_("{reason:reason}. This is not valid TOML. Look for a missing quote, bracket or comma just before."),
    "file.no-format": N_("There is no format number. A form begins with the line waltzmark = {format}."),
    "file.format": N_("The format number should be {format}."),
    "file.newer": N_(
        "This file has format {found}, and this Waltzmark reads up to format {format}. Open it with a newer Waltzmark. The file was not changed."
    ),
    "file.home-place": N_("Should be two numbers of metres in the floor frame, such as [0.0, 0.0]."),
    "file.home-facing": N_('Home lies on the floor. Give its facing without ~, such as "12".'),
    "file.ids": N_('Should be ids of postures, such as ["first"].'),
    "file.switch": N_("Should be true or false."),
    "file.foot-length": N_('Should be a length, or {{ left = "25.5cm", right = "26cm" }}.'),
    "file.no-break": N_("No posture has the id {posture}, so there is no break."),
    "file.no-posture": N_("No posture has the id {posture}."),
    "file.table": N_("Should be a table: write [{table}] on a line of its own."),
    "file.tables": N_("Write each one under a line [[{table}]]."),
    "file.count": N_("Should be the number of a count."),
    "file.opening-foot": N_("The {side:foot} should be {{ heel = [-0.1, 0.0], heading = 0 }}."),
    "file.opening-contact": N_("The contact of the {side:foot} should be flat, heel, ball or air."),
    "file.opening-air": N_("The {side:foot} is in the air but carries weight. Write share = {share}."),
    "file.no-id": N_('Posture {n} has no id. Give it one, such as id = "first".'),
    "file.turned": N_('Should be a turn in whole or half degrees, such as "-90", not {value}.'),
    "file.counts": N_('Should be a list of texts: counts = ["shift L 70", …].'),
    "file.unread": N_("Posture {posture}, line {n} of its counts, is kept but cannot be walked. {advice}"),
    "file.outline": N_("The outline should be a list of corners in metres, such as [[0, 0], [6.4, 0], [6.4, 4.8]]."),
    "file.corner": N_("Corner {n} should be two numbers of metres within 1000 m, not {value}."),
    "file.many-corners": N_("The outline has {n} corners. At most {most} can be used."),
    "file.start": N_("Should be {{ x = 3.2, y = 1.2, heading = 0 }}, in metres and degrees."),
    "file.tiles": N_('Should be true, or {{ spacing = ["30cm", "30cm"], direction = 0 }}.'),
    "file.unknown-key-of": N_("Unknown key {key}. It is kept, but not used."),
    "file.unknown-key-of.meant": N_("Unknown key {key}. It is kept, but not used. Did you mean {hint}?"),
    "file.two-lengths": N_('{key} takes one length, or a list of two, such as ["30cm", "40cm"].'),
    "file.tape": N_("Should be pieces by their two ends in metres, such as [[[1.0, 0.0], [1.0, 4.8]]]."),
    "file.much-tape": N_("{n} pieces of tape are too many. Use up to {most}."),
    "file.break": N_('Should be before = "id", x = 1.2, y = 3.4, heading = 0: a posture, metres and degrees.'),
    "file.walls": N_('Should be names by corner, such as {{ 0 = "window", 2 = "mirror" }}.'),
    "file.door": N_('Should be wall = 1, at = "1.2m", leaf = "80cm", swing = "in" or "out".'),
    "file.kind": N_("Should be solid, low or support."),
    "file.circle": N_("Should be centre = [x, y] and radius = r, in metres."),
    "school.toml": N_("This is not valid TOML: {reason:reason}."),
    "school.table": N_("Should be a table, not {value}."),
    "school.stance": N_("Should be a table of length, width, toe, rear_toe and land."),
    "school.stance-length": N_('Length should be such as "60cm", or {{ reach = 0.95 }}.'),
    "school.rule": N_("Should be a table of why, limits, choices and caution."),
    "school.choice-text": N_("{name} should be text in quotes, not {value}."),
    "table.columns": N_("The first line should name the columns posture and text. It has: {found}"),
    "table.long": N_("A form has at most {most} counts."),
    "table.csv": N_("This is not a CSV table: {reason:reason}."),
    "table.apart": N_("The rows of posture “{posture}” should stand together."),
    "save.name": N_("{name:name} was not saved: {reason:reason}. Save it elsewhere."),
    "save.failed": N_("{name:name} was not saved: {reason:reason}. Save it elsewhere."),
    "save.not-a-file": N_("something of that name is not a file"),
    "save.read-only": N_("the file is read-only"),
    "save.in-part": N_("{reason:reason}; the file may have been written in part, and the whole text is in {beside}"),
    "save.would-lose": N_(
        "The file is written in a way that cannot be changed without losing part of it, so nothing was saved. Save the form under another name: it is written afresh there, and this file stays as it is."
    ),
    "save.unchangeable": N_(
        "The file is written in a way that cannot be changed ({reason:reason}), so nothing was saved. Save the form under another name: it is written afresh there, and this file stays as it is."
    ),
    "library.name": N_("Give it a name with letters or figures first."),
    "library.folder": N_("The folder {folder} cannot be made: {reason:reason}."),
    "library.no-room": N_("{name} has no room."),
    "book.none": N_("There is no practice book."),
    "book.not-a-file": N_("{path} is not a file. Move it away, or the practice book cannot be kept there."),
    "book.opened": N_("The practice book {path} cannot be opened: {reason:reason}."),
    "book.read": N_("The practice book {path} cannot be read: {reason:reason}."),
    "book.written": N_("The practice book {path} cannot be written: {reason:reason}."),
    "book.newer": N_(
        "The practice book {path} was written by a newer Waltzmark (version {version}; this one knows {known}). It stays as it is. Open it with that one, or let this one keep another book."
    ),
    "book.damaged": N_(
        "The practice book {path} is damaged, or not a practice book. It stays as it is. Set it aside and begin another: whatever can be read of it is taken over."
    ),
    "book.full": N_(
        "The practice book {path} cannot be written: the disk is full or cannot be written to. Make room and try again. Nothing that was kept is lost."
    ),
    "book.busy": N_("The practice book {path} cannot be used just now: another program has it."),
    "book.gone": N_("The practice book {path} has been taken away. Another is begun with the next entry."),
    "book.no-entry": N_("That entry is no longer in the book."),
    "book.not-aside": N_("{path} cannot be set aside: {reason:reason}."),
    "entries.many": N_("{name} has more than {most} entries. Import them in parts."),
    "entries.time": N_("An entry needs its time, such as 2026-05-04T18:30:00+02:00."),
    "entries.not-time": N_("{text} is not a time. Write it such as 2026-05-04T18:30:00+02:00."),
    "entries.text": N_("{name} should be text."),
    "entries.entry": N_("{name}, {place}: {reason}"),
    "entries.columns": N_(
        "{name}: the first line of a practice table names its columns, “when” and “kind” among them."
    ),
    "entries.json": N_("{name} is not JSON: {reason:reason}."),
    "entries.list": N_('{name}: a practice book as JSON has a list of "entries".'),
    "entries.object": N_("{name}, entry {n}: it is not an object."),
    "scale.long": N_("a line of more than {most} bytes"),
    "scale.json": N_("a line that is not JSON"),
    "scale.object": N_("a line that is not a JSON object"),
    "scale.plates": N_("a scale has one plate or two"),
    "scale.no-time": N_("a line without its time t"),
    "scale.number": N_("{name} is not a number that a scale could send"),
    "scale.port": N_("It is not possible to listen on port {port}: {reason:reason}. Choose another with --port."),
    "plan.dxf": N_("This DXF drawing cannot be read ({reason:reason}). Save it as ASCII DXF."),
    "plan.damaged": N_("The drawing is damaged ({reason:reason}). Save it again as ASCII DXF."),
    "plan.many": N_("The drawing has {n} lines and shapes. Keep the room’s own, at most {most}."),
    "plan.shape": N_("A shape in the drawing cannot be understood: {reason}"),
    "plan.open": N_("Nothing in the drawing is closed. Draw the walls as one closed polyline, on a layer ROOM."),
    "plan.open.others": N_(
        "Nothing in the drawing is closed ({others}). Draw the walls as one closed polyline, on a layer ROOM."
    ),
    "plan.skipped": N_("{n} × {kind} not used"),
    "plan.millimetres": N_("The drawing states no unit; it is taken as millimetres."),
    "plan.metres": N_("The drawing states no unit; it is taken as metres."),
    "plan.point": N_("It has a point that is not on the drawing."),
    "plan.radius": N_("A circle has no radius that can be drawn."),
    "plan.bends": N_("A line on layer {layer} bends so far that it has over {most} corners."),
    "plan.mark": N_("The mark on layer START is not within {most} m of the room."),
    "plan.outside": N_("A shape on layer {layer} lies outside the room, or crosses itself."),
    "plan.too-much": N_("A shape on layer {layer} has too many corners, or is one too many."),
    "plan.large": N_("The room is larger than {most} m. Are the drawing’s units right?"),
    "recovery.not-aside": N_("{path} cannot be moved aside: {reason:reason}. It stays where it is."),
    "recovery.not-kept": N_("The last changes cannot be kept just now: {reason}"),
    "edit.no-counts": N_("Select one or more counts first."),
    "edit.no-posture": N_("Select a posture first."),
    "edit.own-counts": N_("{title:name} has counts of its own, so it has no mirror line and no turn."),
    "edit.taken": N_("{title:name} already takes its counts from another posture."),
    "sheet.no-posture": N_("There is no posture with the id “{posture}”."),
    "sheet.empty": N_("The form has no postures yet, so there is nothing on this sheet."),
    "sheet.no-bodies": N_("The form knows nobody yet. Add the people of the class in Ready, under Bodies."),
    "sheet.class-room": N_("A class needs a room. Give one in the Room stage, or under [room]."),
    "sheet.class-small": N_("Not even two walkers fit this room in rows and columns. See Class in the Room stage."),
    "sheet.format": N_("{name}: a sheet is written as {known:or}. End the name in one of them."),
    "sheet.dxf": N_("Only the chart can be written as DXF, the others as PDF, SVG or PNG."),
    "sheet.csv": N_("Only the tape plan can be written as CSV."),
    "sheet.unsaved": N_("The sheet was not saved: {reason}"),
    "sheet.pages": N_(
        "At 1:{scale} the chart takes {pages} pages of {paper}, and at most {most} are made. Choose a smaller scale, such as 1:20."
    ),
    "sheet.tape-room": N_("A tape plan needs a room. Give one in the Room stage, or under [room]."),
    "cli.lock": N_("--lock {posture}: there is no posture with that id."),
    "cli.close-out": N_("--close writes a document. Say where with -o OUT."),
    "cli.no-closing": N_("There is no closing {n}; there are {there}."),
    "cli.no-closing.nearest": N_("There is no closing {n}; there are {there}. {nearest}"),
    "cli.make-out": N_("--make writes a document. Say where with -o OUT."),
    "cli.no-loop": N_("There is no loop {n}; there are {there}."),
    "cli.same-file": N_("{name} is the same file. Name another one to compare it with."),
    "cli.no-room.ask": N_("{name} has no room. Write one under [room], or ask with --room OTHER.waltz."),
    "cli.no-room": N_("{name} has no room. Write one under [room]."),
    "cli.start-out": N_("--start and --change write a document. Say where with -o OUT."),
    "cli.here": N_("--here looks for no starts and no changes. Leave it out."),
    "cli.no-start": N_("There is no start {n}; there are {there}."),
    "cli.no-change": N_("There is no change {n}; there are {there}."),
    "cli.scale": N_("The rate is 0.5 to 200, the mass 1 to 500, and shares are below 100."),
}
