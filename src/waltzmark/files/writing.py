"""Writing a .waltz document: what the form says goes in, everything else of the old text stays as it was."""

from __future__ import annotations

from decimal import Decimal
from difflib import SequenceMatcher
from typing import Any

import tomlkit
from tomlkit.items import AoT, Array, Table

from waltzmark.core.base.units import number_text
from waltzmark.core.body.body import MEASURES, Body
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.form.room import Room
from waltzmark.core.school.school import School, bundled_schools, load_school, school_table
from waltzmark.core.score.read import read_count, read_line
from waltzmark.core.score.write import write_aim, write_count
from waltzmark.files.reading import FORMAT, ReadForm, read_document
from waltzmark.files.saving import SaveError

__all__ = ["render"]


def render(form: Form, base: ReadForm | None = None) -> str:
    """The text of a document for a form.

    base: what it was read from. Its comments, unknown keys, order and spelling stay; only what the form says
    differently is changed, so an unchanged form gives the same text.
    """
    if base is not None and base.form == form:
        return base.text
    document = tomlkit.parse(base.text if base else f"waltzmark = {FORMAT}\n")
    old = base.form if base else None
    if old is None or _head(old) != _head(form):
        _write_head(_table(document, "form"), form, old)
    if old is None or old.body != form.body:
        _write_body(_table(document, "body"), form.body, old.body if old else None)
    if (old.school if old else None) != form.school:
        _write_school(document, form.school)
    if (old.mutes if old else ()) != form.mutes:
        _write_mutes(document, form)
    if form.room is not None and (old is None or old.room != form.room):
        _write_room(_table(document, "room"), form.room)
    elif form.room is None and "room" in document:
        del document["room"]
    if old is None or old.postures != form.postures:
        _write_postures(document, form)
    text = tomlkit.dumps(document)
    # What is written must read back as what was meant; better no save than a wrong one.
    if read_document(text).form != form:
        raise SaveError("the document could not be written faithfully; nothing was saved. Please report this form.")
    return text


def _table(document: tomlkit.TOMLDocument, name: str) -> Table:
    if name not in document:
        document.add(tomlkit.nl())
        document.add(name, tomlkit.table())
    table = document[name]
    assert isinstance(table, Table)
    return table


def _head(form: Form) -> tuple[object, ...]:
    return form.title, form.twelve, form.opening, form.torso, form.school.id


def _write_head(table: Table, form: Form, old: Form | None) -> None:
    values = {"title": form.title, "twelve": form.twelve, "torso": form.torso, "school": form.school.id}
    for key, value in values.items():
        before = None if old is None else (old.school.id if key == "school" else getattr(old, key))
        if before != value:
            table[key] = value
    if old is None or old.opening != form.opening:
        table["opening"] = _opening(form.opening)


def _opening(opening: Opening) -> Any:
    if opening.feet is None:
        return opening.name
    value = tomlkit.inline_table()
    for side, foot in zip(("left", "right"), opening.feet, strict=True):
        placed = tomlkit.inline_table()
        placed.update({"heel": [foot.x, foot.y], "heading": foot.heading, "contact": foot.contact.word})
        value[side] = placed
    value["share"] = 100.0 * opening.left_share
    return value


def _write_body(table: Table, body: Body, old: Body | None) -> None:
    def put(key: str, value: str | float, changed: bool) -> None:
        if changed:
            table[key] = value

    put("stature", _cm(body.stature), old is None or old.stature != body.stature)
    put("mass", f"{number_text(body.mass)}kg", old is None or old.mass != body.mass)
    for key in ("knee_bend", "knee_most", "hip_out", "hip_in", "friction", "support", "name"):
        value = getattr(body, key)
        if value != getattr(old or Body(), key):
            table[key] = _sided(value)
    put("implement", _cm(body.implement), body.implement != (old or Body()).implement)
    measured = dict(body.measured)
    for key in MEASURES:
        if key == "foot_length" and body.left_foot:
            if old is None or (old.left_foot, old.foot_length) != (body.left_foot, body.foot_length):
                both = tomlkit.inline_table()
                both.update({"left": _cm(body.left_foot), "right": _cm(body.foot_length)})
                table[key] = both
        elif key in measured:
            before = None if old is None or old.left_foot else dict(old.measured).get(key)
            put(key, _cm(measured[key]), before != measured[key])
        elif key in table:
            del table[key]


def _sided(value: Any) -> Any:
    if not isinstance(value, tuple):
        return value
    both = tomlkit.inline_table()
    both.update({"left": value[0], "right": value[1]})
    return both


def _write_school(document: tomlkit.TOMLDocument, school: School) -> None:
    """A school of one's own stands in the document; one that comes with Waltzmark is named only."""
    if school.id in bundled_schools() and load_school(school.id) == school:
        document.pop("school", None)
        return
    document["school"] = tomlkit.item(school_table(school))


def _write_mutes(document: tomlkit.TOMLDocument, form: Form) -> None:
    document.pop("mute", None)
    if not form.mutes:
        return
    listed = tomlkit.aot()
    for mute in form.mutes:
        table = tomlkit.table()
        for key in ("rule", "posture", "count", "reason"):
            if (value := getattr(mute, key)) is not None:
                table[key] = value
        listed.append(table)
    document["mute"] = listed


def _cm(metres: float) -> str:
    return f"{(Decimal(repr(metres)) * 100).normalize():f}cm"


def _write_room(table: Table, room: Room) -> None:
    table["name"] = room.name
    table["outline"] = [list(corner) for corner in room.outline]
    start = tomlkit.inline_table()
    start.update({"x": room.start.x, "y": room.start.y, "heading": room.start.heading})
    table["start"] = start
    for key, value, default in (("clearance", room.clearance, 0.0), ("boards", room.boards, 0.12)):
        if value != default or key in table:
            table[key] = _cm(value)
    if room.tiles or "tiles" in table:
        table["tiles"] = room.tiles
    obstacles = tomlkit.aot()
    for obstacle in room.obstacles:
        each = tomlkit.table()
        each.update({"name": obstacle.name, "outline": [list(corner) for corner in obstacle.outline]})
        obstacles.append(each)
    if room.obstacles:
        table["obstacle"] = obstacles
    elif "obstacle" in table:
        del table["obstacle"]


def _write_postures(document: tomlkit.TOMLDocument, form: Form) -> None:
    present = document.get("posture")
    tables = {str(table["id"]): table for table in present} if isinstance(present, AoT) else {}
    order = [posture.id for posture in form.postures]
    if list(tables) == order:
        for posture in form.postures:
            _write_posture(tables[posture.id], posture)
        return
    listed = tomlkit.aot()
    for posture in form.postures:
        table = tables.get(posture.id, tomlkit.table())
        _write_posture(table, posture)
        listed.append(table)
    if present is not None:
        del document["posture"]
    if form.postures:
        document["posture"] = listed


def _write_posture(table: Table, posture: Posture) -> None:
    texts = {
        "id": posture.id,
        "name": posture.name or None,
        "ends": write_aim(posture.ends) if posture.ends else None,
        "mirror_of": posture.mirror_of,
        "axis": write_aim(posture.axis) if posture.axis else None,
        "repeat_of": posture.repeat_of,
        "turned": number_text(posture.turned) if posture.turned else None,
        "side_of": posture.side_of,
        "note": posture.note,
    }
    for key, value in texts.items():
        if value is None:
            table.pop(key, None)
        elif key not in table or not _same(key, table[key], value):
            table[key] = value
    if posture.source is None:
        _write_counts(table, posture)
    else:
        table.pop("counts", None)


def _same(key: str, written: object, value: str) -> bool:
    """Whether what stands in the text means the value already, however it is spelled."""
    if key in ("ends", "axis"):
        return read_count(f"torso {written}") == read_count(f"torso {value}")
    if key == "turned":
        return float(str(written).removesuffix("°")) == float(value)
    return bool(written == value)


def _write_counts(table: Table, posture: Posture) -> None:
    """Changes only the lines that differ, so that spelling and comments of the others stay."""
    array = table.get("counts")
    if not isinstance(array, Array):
        array = tomlkit.array()
        table["counts"] = array
    present = tuple(read_line(str(line)) for line in array)
    if present == posture.lines:
        return
    edits = SequenceMatcher(a=present, b=posture.lines, autojunk=False).get_opcodes()
    for kind, first, after, new_first, new_after in reversed(edits):
        if kind == "equal":
            continue
        texts = [write_count(count) for count in posture.lines[new_first:new_after]]
        common = min(after - first, len(texts))
        for offset in range(common):
            array[first + offset] = texts[offset]
        for index in range(after - 1, first + common - 1, -1):
            del array[index]
        for offset, text in enumerate(texts[common:]):
            array.insert(first + common + offset, text)
    if len(array) > 1 and "\n" not in array.as_string():
        array.multiline(True)
