"""The floor chart as a DXF drawing, and the tape plan as a table, in metres of the room frame."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.form.form import Form
from waltzmark.core.room.breaks import in_room, start_at
from waltzmark.core.room.tape import Mark
from waltzmark.core.walk.trace import Trace
from waltzmark.files.cells import to_cell
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.room import by_lines
from waltzmark.words.sentences import sentence

__all__ = ["chart_drawing", "tape_table"]


def _in_room(form: Form, trace: Trace, row: int, points: Floats) -> list[tuple[float, float]]:
    """Floor positions of a row where they lie in the room."""
    room = form.room
    return _tidy(room.begun_at(start_at(trace, room, row)).to_room(points) if room is not None else points)


def _tidy(points: Floats) -> list[tuple[float, float]]:
    return [(round(float(x), 6), round(float(y), 6)) for x, y in np.atleast_2d(points)]


def chart_drawing(form: Form, trace: Trace, chosen: Sequence[str]) -> str:
    """The chart as an ASCII DXF drawing: the room, its lines, the path with a vertex a count (a path for each part
    between breaks), both soles at the end of each chosen posture, and a point with its title there. Without a room the
    floor frame is the drawing's."""
    from ezdxf.filemanagement import new

    drawing = new("R2010", setup=False, units=6)
    drawing.header["$INSUNITS"] = 6
    space = drawing.modelspace()
    for layer in ("room", "obstacles", "lines", "path", "soles-left", "soles-right", "marks"):
        drawing.layers.add(layer)
    room = form.room
    if room is not None:
        space.add_lwpolyline(room.outline, close=True, dxfattribs={"layer": "room"})
        for obstacle in room.obstacles:
            if obstacle.centre is not None:
                space.add_circle(obstacle.centre, obstacle.radius, dxfattribs={"layer": "obstacles"})
            else:
                space.add_lwpolyline(obstacle.outline, close=True, dxfattribs={"layer": "obstacles"})
        for a, b in room.tape:
            space.add_line(a, b, dxfattribs={"layer": "lines"})
    for path in in_room(trace, room, trace.centres) if room is not None else [trace.centres]:
        space.add_lwpolyline(_tidy(path), dxfattribs={"layer": "path"})
    for posture in chosen:
        start, stop = trace.span(posture)
        row = max(stop - 1, start - 1, 0)
        for side in SIDES:
            sole = trace.body.sole
            x, y = trace.heels[row, side]
            outline = sole.placed(
                sole.outlines[side], np.array([x]), np.array([y]), trace.headings[row, side : side + 1]
            )
            layer = f"soles-{side.word}"
            space.add_lwpolyline(
                _in_room(form, trace, row, outline.reshape(-1, 2)), close=True, dxfattribs={"layer": layer}
            )
        (place,) = _in_room(form, trace, row, trace.midpoints[row])
        title = f"{form.index(posture) + 1} {form.posture(posture).title}"
        space.add_point(place, dxfattribs={"layer": "marks"})
        space.add_text(title, height=0.08, dxfattribs={"layer": "marks", "insert": place})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def tape_table(plan: Sequence[Mark], figures: Figures = PLAIN) -> str:
    """The marks to lay as CSV: mark, posture, foot, x, y in metres of the room frame, two distances square from walls
    and two from corners, in metres, each followed by what it is from, and the place by the floor's lines, in words."""
    out = io.StringIO()
    table = csv.writer(out)
    ways = [f"{way}_{n}{part}" for way in ("square", "corner") for n in (1, 2) for part in ("", "_from")]
    table.writerow(("mark", "posture", "foot", "x", "y", *ways, "lines"))
    for number, mark in enumerate(plan, 1):
        foot = "" if mark.side is None else mark.side.word
        row = [str(number), mark.posture or "", foot, *(f"{each:.4f}" for each in mark.place)]
        for pairs in (mark.square, mark.corner):
            told = [(f"{far:.4f}", to_cell(sentence(what, figures))) for far, what in pairs]
            row += [cell for pair in (told + [("", ""), ("", "")])[:2] for cell in pair]
        table.writerow((*row, to_cell(by_lines(mark, figures))))
    return out.getvalue()
