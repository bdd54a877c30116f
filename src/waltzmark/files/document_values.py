"""A form as plain values, just as a document has them: what is written, kept and compared."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from waltzmark.core.base.units import number_text
from waltzmark.core.body.body import MEASURES, Body
from waltzmark.core.form.film import FILM_KEYS, Film
from waltzmark.core.form.form import FittedFrom, Form, Home, Opening, Posture, Sheet
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import BEHIND, FloorLines, Obstacle, Room
from waltzmark.core.form.spoken import Page
from waltzmark.core.school.school import bundled_schools, load_school, school_table
from waltzmark.core.score.write import write_aim, write_count

__all__ = ["document_values", "whole_signs"]

_BODY = (
    "knee_bend",
    "knee_most",
    "knee_one",
    "hip_out",
    "hip_in",
    "waist",
    "ankle",
    "spare",
    "friction",
    "support",
    "name",
)


def document_values(form: Form) -> dict[str, Any]:
    """The tables of a document that says the form, in the order they are written; what is as it always is, is left out.

    `waltzmark.files.reading.read_values` makes the form of them again. Half a sign, which no file can hold, becomes �.
    """
    values: dict[str, Any] = {"waltzmark": 1, "form": _head(form), "body": _body(form.body)}
    if not (form.school.id in bundled_schools() and load_school(form.school.id) == form.school):
        values["school"] = school_table(form.school)
    if form.bodies:
        values["bodies"] = [_body(body) for body in form.bodies]
    if form.fitted is not None:
        values["fitted"] = _fitted(form.fitted)
    if form.mutes:
        values["mute"] = [_mute(mute) for mute in form.mutes]
    if form.room is not None:
        values["room"] = _room(form.room)
    if form.home != Home():
        values["home"] = _home(form.home)
    if form.sheet != Sheet():
        values["sheet"] = _sheet(form.sheet)
    if form.film != Film():
        values["film"] = {
            name: getattr(form.film, name) for name in FILM_KEYS if getattr(form.film, name) != getattr(Film(), name)
        }
    if form.words is not None:
        values["words"] = _page(form.words)
    if form.postures:
        values["posture"] = [_posture(posture) for posture in form.postures]
    found: dict[str, Any] = whole_signs(values)
    return found


def whole_signs(value: Any) -> Any:
    """Values whose texts have no half signs (lone surrogates), which cannot be written in UTF-8."""
    if isinstance(value, str):
        return value if value.isascii() else value.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    if isinstance(value, dict):
        return {whole_signs(key): whole_signs(each) for key, each in value.items()}
    return [whole_signs(each) for each in value] if isinstance(value, list) else value


def _head(form: Form) -> dict[str, Any]:
    return {
        "title": form.title,
        "twelve": form.twelve,
        "torso": form.torso,
        "school": form.school.id,
        "opening": _opening(form.opening),
    }


def _opening(opening: Opening) -> Any:
    if opening.feet is None:
        return opening.name
    feet = {
        side: {"heel": [foot.x, foot.y], "heading": foot.heading, "contact": foot.contact.word}
        for side, foot in zip(("left", "right"), opening.feet, strict=True)
    }
    return {**feet, "share": 100.0 * opening.left_share}


def _body(body: Body) -> dict[str, Any]:
    usual = Body()
    values: dict[str, Any] = {"stature": _cm(body.stature), "mass": f"{number_text(body.mass)}kg"}
    values |= {key: _sided(getattr(body, key)) for key in _BODY if getattr(body, key) != getattr(usual, key)}
    if body.implement:
        values["implement"] = _cm(body.implement)
    measured = dict(body.measured)
    values |= {key: _cm(measured[key]) for key in MEASURES if key in measured}
    if body.left_foot:
        values["foot_length"] = {"left": _cm(body.left_foot), "right": _cm(body.foot_length)}
    return values


def _sided(value: Any) -> Any:
    return {"left": value[0], "right": value[1]} if isinstance(value, tuple) else value


def _cm(metres: float) -> str:
    return f"{(Decimal(repr(metres)) * 100).normalize():f}cm"


def _fitted(fitted: FittedFrom) -> dict[str, Any]:
    changes = [
        {"posture": each.posture, "count": each.count, "from": list(each.before), "to": list(each.after)}
        for each in fitted.lines
    ]
    return {"source": fitted.source} | ({"change": changes} if changes else {})


def _page(page: Page) -> dict[str, Any]:
    """The table of the words of a document."""
    values: dict[str, Any] = {"language": page.language, "upto": page.upto, "within": page.within, "text": page.text}
    if page.standing:
        values["posture"] = [{"id": each.posture, "from": [each.start, each.stop]} for each in page.standing]
    if page.times:
        values["times"] = [[place, seconds] for place, seconds in page.times]
    if page.chosen:
        values["choice"] = [
            {"from": [each.start, each.stop]}
            | ({"nth": each.nth} if each.nth else {})
            | {"count": "" if each.count is None else write_count(each.count)}
            for each in page.chosen
        ]
    return values


def _sheet(sheet: Sheet) -> dict[str, Any]:
    usual = Sheet()
    names = ("kind", "paper", "landscape", "scale", "steps", "findings", "figures")
    return {name: getattr(sheet, name) for name in names if getattr(sheet, name) != getattr(usual, name)}


def _home(home: Home) -> dict[str, Any]:
    usual = Home()
    values: dict[str, Any] = {}
    if home.place != usual.place:
        values["place"] = list(home.place)
    if home.facing is not None:
        values["facing"] = write_aim(home.facing)
    if home.within != usual.within:
        values["within"] = _cm(home.within)
    if home.turn != usual.turn:
        values["turn"] = home.turn
    if home.locked:
        values["locked"] = list(home.locked)
    return values


def _mute(mute: Mute) -> dict[str, Any]:
    values = {key: getattr(mute, key) for key in ("rule", "posture", "count", "reason")}
    return {key: value for key, value in values.items() if value is not None}


def _room(room: Room) -> dict[str, Any]:
    values: dict[str, Any] = {
        "name": room.name,
        "outline": [list(corner) for corner in room.outline],
        "start": {"x": room.start.x, "y": room.start.y, "heading": room.start.heading},
    }
    if room.clearance:
        values["clearance"] = _cm(room.clearance)
    if room.behind != BEHIND:
        values["behind"] = _cm(room.behind)
    values |= _lines(room.lines)
    if room.tape:
        values["tape"] = [[list(end) for end in piece] for piece in room.tape]
    if room.arms:
        values["arms"] = True
    if room.walls:
        values["walls"] = {str(corner): name for corner, name in room.walls}
    if room.doors:
        values["door"] = [
            {"wall": each.wall, "at": _cm(each.at), "leaf": _cm(each.leaf), "swing": "in" if each.inward else "out"}
            for each in room.doors
        ]
    if room.obstacles:
        values["obstacle"] = [_obstacle(each) for each in room.obstacles]
    if room.breaks:
        values["break"] = [
            {"before": each.posture, "x": each.mark.x, "y": each.mark.y, "heading": each.mark.heading}
            for each in room.breaks
        ]
    return values


def _obstacle(obstacle: Obstacle) -> dict[str, Any]:
    values: dict[str, Any] = {"name": obstacle.name}
    if obstacle.centre is None:
        values["outline"] = [list(corner) for corner in obstacle.outline]
    else:
        values |= {"centre": list(obstacle.centre), "radius": obstacle.radius}
    return values | ({"kind": obstacle.kind} if obstacle.kind != "solid" else {})


def _lines(lines: FloorLines) -> dict[str, Any]:
    """Boards and tiles: as plain as they can be told."""
    usual = FloorLines()
    values: dict[str, Any] = {}
    turned = lines.direction or lines.offset != (0.0, 0.0)
    away = {"direction": lines.direction} if lines.direction else {}
    if turned and not lines.tiles:
        values["boards"] = {"spacing": _cm(lines.spacing)} | away | {"offset": _cm(lines.offset[0])}
    elif lines.spacing != usual.spacing:
        values["boards"] = _cm(lines.spacing)
    if lines.tiles and (turned or lines.other):
        values["tiles"] = {"spacing": [_cm(each) for each in lines.spacings]} | away
        values["tiles"] |= {"offset": [_cm(each) for each in lines.offset]}
    elif lines.tiles:
        values["tiles"] = True
    return values


def _posture(posture: Posture) -> dict[str, Any]:
    values: dict[str, Any] = {
        "id": posture.id,
        "name": posture.name or None,
        "ends": write_aim(posture.ends) if posture.ends else None,
        "mirror_of": posture.mirror_of,
        "axis": write_aim(posture.axis) if posture.axis else None,
        "repeat_of": posture.repeat_of,
        "turned": number_text(posture.turned) if posture.turned else None,
        "side_of": posture.side_of,
        "note": posture.note,
        "counts": None if posture.source else [write_count(line) for line in posture.lines],
    }
    return {key: value for key, value in values.items() if value is not None}
