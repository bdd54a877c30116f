"""Floor plans as DXF: a room read from one, and written as one.

Layers, written and understood: ROOM (walls), SOLID, LOW and SUPPORT (what stands there), DOORS (the floor a leaf
sweeps, written only), TAPE, START. A plan with other layers is read by what is closed in it: the largest is the room.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterable
from itertools import islice, pairwise
from pathlib import Path
from typing import Any

from waltzmark.core.base.errors import Position, WaltzmarkError
from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.outlines import LARGEST, check_outline
from waltzmark.core.form.room import KINDS, Kind, Obstacle, Point, Room, Start
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError

__all__ = ["Plan", "plan_text", "read_plan"]

#: A plan of a room has far fewer; a plan of a town is to be cut down first.
MOST = 20_000
_MOST_CORNERS, _MOST_THINGS = 500, 500
_MOST_POINTS = 5000  # of one line, when its bends are drawn with straight ones
_FLAT = 0.01  # metres that a bend may be off when it is drawn with straight lines
_JOINED = 0.01  # metres within which ends of lines meet
#: Metres of a unit, by its number in the header of a drawing; 0 says none.
_UNITS = {1: 0.0254, 2: 0.3048, 3: 1609.344, 4: 0.001, 5: 0.01, 6: 1.0, 7: 1000.0, 10: 0.9144, 14: 0.1}
_ROOM = ("room", "walls", "wall", "outline")
_CENTRES = ("start",)


class Plan(Record):
    """A room read from a plan, and what of the plan was not used."""

    room: Room
    notes: tuple[Message, ...]


class _Shape(Record):
    """Something closed: a polygon or a circle, metres."""

    layer: str
    corners: tuple[Point, ...] = ()
    centre: Point = (0.0, 0.0)
    radius: float = 0.0

    @property
    def area(self) -> float:
        if self.radius:
            return math.pi * self.radius**2
        pairs = zip(self.corners, self.corners[1:] + self.corners[:1], strict=True)
        return abs(sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in pairs)) / 2.0


def read_plan(path: Path) -> Plan:
    """The room of a DXF drawing. Raises DocumentError with what is wrong, where, and what to do."""
    name = path.name

    def refuse(kind: str | Message, **fields: Value) -> DocumentError:
        problem = kind if isinstance(kind, Message) else message(kind, **fields)
        return DocumentError(((Position(), problem),), name)

    from ezdxf.filemanagement import read  # brings a slow import
    from ezdxf.lldxf.const import DXFError

    try:
        drawing = read(io.StringIO(read_text(path, "plan")))
        space = drawing.modelspace()
    except DXFError as error:
        raise refuse("plan.dxf", reason=str(error)) from None
    except (WaltzmarkError, OSError):
        raise
    except Exception as error:  # whatever the library that reads it stumbles over, the drawing is damaged
        raise refuse("plan.damaged", reason=type(error).__name__) from None
    if len(space) > MOST:
        raise refuse("plan.many", n=len(space), most=MOST)
    try:
        metres, notes = _unit(drawing, space)
        shapes, lines, names, skipped = _found(space, metres)
    except (
        DXFError,
        ArithmeticError,
        LookupError,
        ValueError,
        WaltzmarkError,
        TypeError,
        AttributeError,
        RecursionError,
    ) as error:
        raise refuse("plan.shape", reason=error.message if isinstance(error, WaltzmarkError) else str(error)) from None
    if not any(shape.corners for shape in shapes):
        shapes += _closed([ends for layer, ends in lines if layer != "tape"])
    if not any(shape.corners for shape in shapes):
        other = ", ".join(f"{number} × {kind}" for kind, number in skipped.items())
        raise refuse("plan.open.others" if other else "plan.open", others=other)
    notes += [message("plan.skipped", n=number, kind=kind) for kind, number in skipped.items()]
    try:
        room, more = _room(name, shapes, lines, names)
    except WaltzmarkError as error:
        raise refuse(error.message) from None
    return Plan(room, tuple(notes + more))


def _unit(drawing: Any, space: Iterable[Any]) -> tuple[float, list[Message]]:
    """Metres of the drawing's unit; told where it has to be guessed."""
    stated = int(drawing.header.get("$INSUNITS", 0))
    if stated in _UNITS:
        return _UNITS[stated], []
    # What blocks would draw is not looked at: they may be nested without end.
    shapes, lines, _, _ = _found(space, 1.0)
    points = [point for _, ends in lines for point in ends] + [point for each in shapes for point in each.corners]
    sizes = (
        [max(each[axis] for each in points) - min(each[axis] for each in points) for axis in (0, 1)] if points else []
    )
    widest = max(sizes, default=0.0)
    if widest > 60.0:
        return 0.001, [message("plan.millimetres")]
    return 1.0, [message("plan.metres")]


_Lines = list[tuple[str, tuple[Point, Point]]]


def _found(space: Iterable[Any], metres: float) -> tuple[list[_Shape], _Lines, list[tuple[str, Point]], dict[str, int]]:
    """Closed shapes, single lines, texts with their places, and how many of what else there are."""
    from ezdxf import path as paths

    shapes: list[_Shape] = []
    lines: _Lines = []
    names: list[tuple[str, Point]] = []
    skipped: dict[str, int] = {}

    def at(point: Any) -> Point:
        x, y = round(point[0] * metres, 5), round(point[1] * metres, 5)
        if not (math.isfinite(x) and math.isfinite(y)):
            raise WaltzmarkError("plan.point")
        return x, y

    for entity in space:
        kind, layer = entity.dxftype(), str(entity.dxf.layer).lower()
        if kind == "CIRCLE":
            radius = round(float(entity.dxf.radius) * metres, 5)
            if not math.isfinite(radius):
                raise WaltzmarkError("plan.radius")
            shapes.append(_Shape(layer, (), at(entity.dxf.center), radius))
        elif kind == "LWPOLYLINE" or (kind == "POLYLINE" and (entity.is_2d_polyline or entity.is_3d_polyline)):
            flat = islice(paths.make_path(entity).flattening(_FLAT / metres), _MOST_POINTS + 1)
            corners = [at(point) for point in flat]
            if len(corners) > _MOST_POINTS:
                raise WaltzmarkError("plan.bends", layer=layer.upper(), most=_MOST_POINTS)
            closed = bool(entity.is_closed) or (len(corners) > 3 and math.dist(corners[0], corners[-1]) < _JOINED)
            corners = [c for n, c in enumerate(corners) if n == 0 or math.dist(c, corners[n - 1]) > 1e-4]
            if closed and len(corners) > 1 and math.dist(corners[0], corners[-1]) < 1e-4:
                corners.pop()
            if closed and len(corners) >= 3:
                shapes.append(_Shape(layer, tuple(corners)))
            else:
                lines += [(layer, (a, b)) for a, b in pairwise(corners)]
        elif kind == "LINE":
            lines.append((layer, (at(entity.dxf.start), at(entity.dxf.end))))
        elif kind in ("TEXT", "MTEXT"):
            text = entity.plain_text() if kind == "TEXT" else entity.plain_text(split=False)
            names.append((" ".join(str(text).split())[:60], at(entity.dxf.insert)))
        else:
            skipped[kind] = skipped.get(kind, 0) + 1
    return shapes, lines, names, skipped


def _closed(lines: list[tuple[Point, Point]]) -> list[_Shape]:
    """What single lines enclose together."""
    import shapely

    if not lines:
        return []
    joined = shapely.node(shapely.set_precision(shapely.multilinestrings(lines), _JOINED))
    found = shapely.get_parts(shapely.polygonize(shapely.get_parts(joined)))
    if not len(found):
        return []
    whole = shapely.union_all(found)  # rooms of a flat that touch are one floor
    return [
        _Shape("", tuple(map(tuple, shapely.get_coordinates(part.exterior)[:-1].round(4).tolist())))
        for part in shapely.get_parts(whole)
    ]


def _room(file: str, shapes: list[_Shape], lines: _Lines, names: list[tuple[str, Point]]) -> tuple[Room, list[Message]]:
    """The room of the shapes: on its own layer, else the largest; what lies in it stands in it."""
    import shapely

    polygons = [shape for shape in shapes if shape.corners]
    named = [shape for shape in polygons if shape.layer in _ROOM]
    walls = max(named or polygons, key=lambda shape: shape.area)
    if len(walls.corners) > _MOST_CORNERS:
        raise WaltzmarkError("file.many-corners", n=len(walls.corners), most=_MOST_CORNERS)
    check_outline(walls.corners, message("outline.layer", layer=walls.layer.upper() or "0"))
    x0, y0 = (min(corner[axis] for corner in walls.corners) for axis in (0, 1))

    def moved(point: Point) -> Point:
        return round(point[0] - x0, 4), round(point[1] - y0, 4)

    floor, notes, obstacles = shapely.Polygon(walls.corners), list[Message](), list[Obstacle]()
    shapely.prepare(floor)
    labels = shapely.STRtree(shapely.points([place for _, place in names]) if names else [])
    start: Start | None = None
    for shape in shapes:
        if shape is walls or shape.layer == "doors":
            continue
        if shape.layer in _CENTRES and shape.radius:
            if max(map(abs, moved(shape.centre))) <= LARGEST:
                start = Start(*moved(shape.centre))
            else:
                notes.append(message("plan.mark", most=LARGEST))
            continue
        area = shapely.Point(shape.centre).buffer(shape.radius) if shape.radius else shapely.Polygon(shape.corners)
        if not area.is_valid or not area.intersects(floor):
            notes.append(message("plan.outside", layer=shape.layer.upper()))
            continue
        if len(shape.corners) > _MOST_CORNERS or len(obstacles) >= _MOST_THINGS:
            notes.append(message("plan.too-much", layer=shape.layer.upper()))
            continue
        inside = [names[number][0] for number in sorted(labels.query(area.buffer(0.02), "contains").tolist())]
        if inside:
            name = inside[0]
        elif shape.layer not in ("0", *KINDS):
            name = shape.layer
        else:
            name = "obstacle"
        kind: Kind = next((each for each in KINDS if each == shape.layer), "solid")
        if shape.radius:
            obstacles.append(Obstacle(name, (), kind, moved(shape.centre), shape.radius))
        else:
            obstacles.append(Obstacle(name, tuple(moved(corner) for corner in shape.corners), kind))
    tape = tuple((moved(a), moved(b)) for layer, (a, b) in lines if layer == "tape")
    if max(abs(each) for corner in walls.corners for each in moved(corner)) > LARGEST:
        raise WaltzmarkError("plan.large", most=LARGEST)
    middle = floor.representative_point()
    begun = start or Start(*moved((middle.x, middle.y)))
    outline = tuple(moved(corner) for corner in walls.corners)
    return Room(Path(file).stem, outline, begun, tuple(obstacles), tape=tape), notes


def plan_text(room: Room) -> str:
    """The room as an ASCII DXF drawing in metres, what it is made of by layers."""
    from ezdxf.filemanagement import new

    drawing = new("R2010", setup=False, units=6)
    drawing.header["$INSUNITS"] = 6
    space = drawing.modelspace()
    for layer in ("ROOM", *(kind.upper() for kind in KINDS), "DOORS", "TAPE", "START"):
        drawing.layers.add(layer)

    def text(words: str, place: Point, layer: str) -> None:
        if words:
            space.add_text(words, height=0.12, dxfattribs={"layer": layer, "insert": place})

    space.add_lwpolyline(room.outline, close=True, dxfattribs={"layer": "ROOM"})
    for number, name in room.walls:
        (ax, ay), (bx, by) = room.wall(number)
        text(name, ((ax + bx) / 2.0, (ay + by) / 2.0), "ROOM")
    for obstacle in room.obstacles:
        layer = obstacle.kind.upper()
        if obstacle.centre is not None:
            space.add_circle(obstacle.centre, obstacle.radius, dxfattribs={"layer": layer})
        else:
            space.add_lwpolyline(obstacle.outline, close=True, dxfattribs={"layer": layer})
        text(obstacle.name, _within(obstacle), layer)
    for leaf in room.kept_free:
        space.add_lwpolyline(leaf.outline, close=True, dxfattribs={"layer": "DOORS"})
    for a, b in room.tape:
        space.add_line(a, b, dxfattribs={"layer": "TAPE"})
    angle = math.radians(room.start.heading)
    here = (room.start.x, room.start.y)
    space.add_circle(here, 0.05, dxfattribs={"layer": "START"})
    ahead = (here[0] + 0.4 * math.sin(angle), here[1] + 0.4 * math.cos(angle))
    space.add_line(here, ahead, dxfattribs={"layer": "START"})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def _within(obstacle: Obstacle) -> Point:
    import shapely

    if obstacle.centre is not None:
        return obstacle.centre
    point = shapely.Polygon(obstacle.outline).representative_point()
    return round(point.x, 4), round(point.y, 4)
