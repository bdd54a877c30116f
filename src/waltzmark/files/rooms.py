"""Reading the room of a document: outline, doors, obstacles, each with its problems told at their place."""

from __future__ import annotations

from typing import Any

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.form.room import BEHIND, KINDS, Break, Door, FloorLines, Obstacle, Point, Room, Start
from waltzmark.core.score.words import nearest
from waltzmark.files.values import Values

__all__ = ["ROOM_KEYS", "RoomValues"]

#: The keys of the tables that a room is written in.
ROOM_KEYS: dict[str, tuple[str, ...]] = {
    "room": (
        "name",
        "outline",
        "start",
        "clearance",
        "behind",
        "boards",
        "tiles",
        "tape",
        "arms",
        "walls",
        "obstacle",
        "door",
        "break",
    ),
    "room.door": ("wall", "at", "leaf", "swing"),
    "room.obstacle": ("name", "kind", "outline", "centre", "radius"),
    "room.break": ("before", "x", "y", "heading"),
}
_MOST_TAPE = 500
_LINES_KEYS = ("spacing", "direction", "offset")


class RoomValues(Values):
    """Reads the room of one document; *raw* is the whole of it, *keys* the known ones of each of its tables."""

    raw: dict[str, Any]
    keys: dict[str, tuple[str, ...]]

    def table(self, name: str) -> dict[str, Any]:
        """A table of the document by its name; empty where there is none, or something else."""
        value = self.raw.get(name, {})
        if not isinstance(value, dict):
            self.fail(self.place("", name), "file.table", table=name)
            return {}
        self.unknown_in(name, value)
        return value

    def unknown_in(self, table: str, value: dict[str, Any], index: int | None = None) -> None:
        """Notes the keys of a table that are not known."""
        for key in value:
            if key not in self.keys[table]:
                self.unknown(table, key, self.keys[table], index)

    def _outline(self, raw: dict[str, Any], table: str, index: int | None = None) -> tuple[tuple[float, float], ...]:
        place = self.place(table, "outline", index)
        corners = raw.get("outline")
        if not isinstance(corners, list):
            self.fail(place, "file.outline")
            return ()
        points: list[tuple[float, float]] = []
        for number, corner in enumerate(corners, 1):
            point = self.point(corner)
            if point is None:
                self.fail(place, "file.corner", n=number, value=quoted(corner))
                return ()
            points.append(point)
        if len(points) > 500:
            self.fail(place, "file.many-corners", n=len(points), most=500)
            return ()
        return tuple(points)

    def room(self) -> Room | None:
        """The room, or None with problems told."""
        raw = self.table("room")
        name = self.string("room", raw, "name") or ""
        outline = self._outline(raw, "room")
        start = raw.get("start", {})
        point = self.point([start.get("x", 0.0), start.get("y", 0.0)]) if isinstance(start, dict) else None
        if not isinstance(start, dict) or point is None:
            self.fail(self.place("room", "start"), "file.start")
            return None
        heading = self.number("room", {"start": start.get("heading", 0.0)}, "start", 0.0, -360.0, 720.0, "degrees")
        obstacles = tuple(self._obstacles(raw.get("obstacle", [])))
        clearance = self.length("room", raw, "clearance", 0.0, 0.0, 10.0)
        behind = self.length("room", raw, "behind", BEHIND, 0.0, 10.0)
        lines, tape = self._lines(raw), self._tape(raw.get("tape", []))
        arms, walls = raw.get("arms", False), self._walls(raw.get("walls", {}))
        doors, breaks = tuple(self._doors(raw.get("door", []))), tuple(self._breaks(raw.get("break", [])))
        if not isinstance(arms, bool):
            self.fail(self.place("room", "arms"), "file.switch")
        if self.problems:
            return None
        try:
            start_at = Start(*point, heading)
            return Room(name, outline, start_at, obstacles, clearance, behind, lines, tape, arms, walls, doors, breaks)
        except WaltzmarkError as error:
            self.fail(self.place("room", "outline"), error.message)
            return None

    def _lines(self, raw: dict[str, Any]) -> FloorLines:
        """Boards or tiles: a spacing, or a table with spacing, direction and offset."""
        boards, tiles = raw.get("boards"), raw.get("tiles", False)
        table = {"spacing": boards} if "boards" in raw else {}
        table = boards if isinstance(boards, dict) else table
        key = "boards"
        if isinstance(tiles, dict):
            table, key = {**table, **tiles}, "tiles"
        elif not isinstance(tiles, bool):
            self.fail(self.place("room", "tiles"), "file.tiles")
        for own, given in (("boards", boards), ("tiles", tiles)):
            for name in given if isinstance(given, dict) else ():
                if name not in _LINES_KEYS:
                    hint = nearest(name, _LINES_KEYS) if len(name) <= 40 else None
                    kind = "file.unknown-key-of.meant" if hint else "file.unknown-key-of"
                    self.note(self.place("room", own), kind, key=quoted(name), hint=hint)
        usual = FloorLines()
        spacing = self._two(key, table.get("spacing", f"{100 * usual.spacing:g}cm"), 0.02, 5.0)
        offset = self._two(key, table.get("offset", 0.0), -1000.0, 1000.0)
        direction = self.number("room", {key: table.get("direction", 0.0)}, key, 0.0, -360.0, 720.0, "degrees")
        other = spacing[1] if spacing[1] != spacing[0] else 0.0
        return FloorLines(
            spacing[0], tiles is not False, other, direction, (offset[0], offset[1] if tiles is not False else 0.0)
        )

    def _two(self, key: str, value: object, least: float, most: float) -> tuple[float, float]:
        """A length for both ways, or a list of one for each."""
        if not isinstance(value, list):
            one = self.length("room", {key: value}, key, least, least, most)
            return one, one
        if len(value) != 2:
            self.fail(self.place("room", key), "file.two-lengths", key=key)
            return least, least
        first, second = (self.length("room", {key: each}, key, least, least, most) for each in value)
        return first, second

    def _tape(self, raw: object) -> tuple[tuple[Point, Point], ...]:
        """Pieces of tape, by their ends."""
        listed = raw if isinstance(raw, list) else [None]
        found: list[tuple[Point, Point]] = []
        for piece in listed[:_MOST_TAPE]:
            ends = [self.point(end) for end in piece] if isinstance(piece, list) else []
            if len(ends) != 2 or ends[0] is None or ends[1] is None:
                self.fail(self.place("room", "tape"), "file.tape")
                return ()
            found.append((ends[0], ends[1]))
        if len(listed) > _MOST_TAPE:
            self.fail(self.place("room", "tape"), "file.much-tape", n=len(listed), most=_MOST_TAPE)
        return tuple(found)

    def _tables(self, listed: object, key: str) -> list[dict[str, Any]]:
        """What stands under lines ``[[room.key]]``; nothing, with the problem told, if it is written otherwise."""
        if isinstance(listed, list) and all(isinstance(each, dict) for each in listed):
            return listed
        self.fail(self.place("room", key), "file.tables", table=f"room.{key}")
        return []

    def _breaks(self, listed: object) -> list[Break]:
        found: list[Break] = []
        for index, raw in enumerate(self._tables(listed, "break")):
            table = "room.break"
            self.unknown_in(table, raw, index)
            before, at = raw.get("before"), self.point([raw.get("x"), raw.get("y")])
            if not isinstance(before, str) or at is None:
                self.fail(self.place(table, "before", index), "file.break")
                continue
            found.append(Break(before, Start(*at, self.number(table, raw, "heading", 0.0, -360.0, 720.0, "degrees"))))
        return found

    def _walls(self, raw: object) -> tuple[tuple[int, str], ...]:
        """Names of walls by the number of the corner each begins at."""
        fine = isinstance(raw, dict) and all(str(k).isdecimal() and isinstance(v, str) for k, v in raw.items())
        if not fine or not isinstance(raw, dict):
            self.fail(self.place("room", "walls"), "file.walls")
            return ()
        return tuple(sorted((int(corner), name) for corner, name in raw.items()))

    def _doors(self, listed: object) -> list[Door]:
        found: list[Door] = []
        for index, raw in enumerate(self._tables(listed, "door")):
            self.unknown_in("room.door", raw, index)
            wall, swing = raw.get("wall"), raw.get("swing", "in")
            if not isinstance(wall, int) or isinstance(wall, bool) or swing not in ("in", "out"):
                self.fail(self.place("room.door", "wall", index), "file.door")
                continue
            at = self.length("room.door", raw, "at", 0.0, 0.0, 1000.0)
            leaf = self.length("room.door", raw, "leaf", 0.8, 0.1, 5.0)
            found.append(Door(wall, at, leaf, swing == "in"))
        return found

    def _obstacles(self, listed: object) -> list[Obstacle]:
        found: list[Obstacle] = []
        for index, raw in enumerate(self._tables(listed, "obstacle")):
            table = "room.obstacle"
            self.unknown_in(table, raw, index)
            name = self.string(table, raw, "name", index) or f"obstacle {index + 1}"
            kind: Any = raw.get("kind", "solid")
            if kind not in KINDS:
                self.fail(self.place(table, "kind", index), "file.kind")
                continue
            if "radius" in raw or "centre" in raw:
                centre, radius = self.point(raw.get("centre")), raw.get("radius")
                fine = isinstance(radius, (int, float)) and not isinstance(radius, bool) and 0 < radius <= 100
                if centre is None or not fine:
                    self.fail(self.place(table, "centre", index), "file.circle")
                    continue
                found.append(Obstacle(name, (), kind, centre, float(raw["radius"])))
            else:
                outline = self._outline(raw, table, index)
                if outline:
                    found.append(Obstacle(name, outline, kind))
        return found
