"""Floor plans: written and read again, and what is no plan of a room."""

from __future__ import annotations

import math
import time
from pathlib import Path
from typing import Any

import pytest
from ezdxf.filemanagement import new

from waltzmark.core.base.records import replace
from waltzmark.core.form.room import Door, Obstacle, Room, Start
from waltzmark.files.plans import plan_text, read_plan
from waltzmark.files.reading import read_file
from waltzmark.files.values import DocumentError

ROOMS = sorted((Path(__file__).parent.parent / "rooms").glob("*.waltz"))


@pytest.mark.parametrize("path", ROOMS, ids=lambda path: path.stem)
def test_a_room_reads_back_as_it_was_drawn(path: Path, tmp_path: Path) -> None:
    room = read_file(path).form.room
    assert room is not None
    room = replace(room, tape=(((1.0, 0.5), (1.0, 2.0)),), doors=(Door(0, 0.5, 0.8),))
    file = tmp_path / f"{room.name}.dxf"
    file.write_text(plan_text(room))
    plan = read_plan(file)
    again = plan.room
    assert again.name == room.name and again.tape == room.tape and not plan.notes
    assert again.outline == room.outline and again.obstacles == room.obstacles
    assert (again.start.x, again.start.y) == pytest.approx((room.start.x, room.start.y))


def drawn(path: Path, units: int, draw: object) -> Path:
    drawing = new("R2010", units=units)
    drawing.header["$INSUNITS"] = units
    draw(drawing.modelspace())  # type: ignore[operator]
    drawing.saveas(path)
    return path


def test_units_layers_and_loose_walls_are_understood(tmp_path: Path) -> None:
    square = [(1000, 1000), (5000, 1000), (5000, 4000), (1000, 4000)]

    def shapes(space: object) -> None:
        space.add_lwpolyline(square, close=True)  # type: ignore[attr-defined]
        space.add_circle((2000, 2000), 300, dxfattribs={"layer": "SUPPORT"})  # type: ignore[attr-defined]
        space.add_text("table", dxfattribs={"insert": (2000, 2000)})  # type: ignore[attr-defined]
        space.add_lwpolyline([(9000, 9000), (9100, 9000), (9100, 9100)], close=True)  # type: ignore[attr-defined]
        space.add_arc((3000, 3000), 200, 0, 90)  # type: ignore[attr-defined]

    plan = read_plan(drawn(tmp_path / "flat.dxf", 4, shapes))
    assert plan.room.outline == ((0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (0.0, 3.0))
    assert plan.room.obstacles == (Obstacle("table", (), "support", (1.0, 1.0), 0.3),)
    assert {note.kind for note in plan.notes} == {"plan.outside", "plan.skipped"}
    unstated = read_plan(drawn(tmp_path / "none.dxf", 0, shapes))
    assert unstated.room.outline == plan.room.outline and unstated.notes[0].kind == "plan.millimetres"

    def lines(space: object) -> None:
        for a, b in zip(square, square[1:] + square[:1], strict=True):
            space.add_line(a, b)  # type: ignore[attr-defined]

    loose = read_plan(drawn(tmp_path / "loose.dxf", 4, lines)).room
    assert set(loose.outline) == set(plan.room.outline)
    assert isinstance(loose, Room) and loose.start != Start()


def test_what_is_no_plan_of_a_room_says_why_and_what_to_do(tmp_path: Path) -> None:
    def refused(path: Path) -> str:
        with pytest.raises(DocumentError) as caught:
            read_plan(path)
        assert caught.value.name == path.name
        return str(caught.value)

    def arcs(space: object) -> None:
        space.add_arc((0, 0), 2, 0, 180)  # type: ignore[attr-defined]
        space.add_line((0, 0), (3, 0))  # type: ignore[attr-defined]

    assert "plan.open.others(others=1 × ARC)" in refused(drawn(tmp_path / "arcs.dxf", 6, arcs))

    def bow(space: object) -> None:
        space.add_lwpolyline([(0, 0), (4, 4), (4, 0), (0, 4)], close=True)  # type: ignore[attr-defined]

    assert "outline.crosses" in refused(drawn(tmp_path / "bow.dxf", 6, bow))

    def town(space: object) -> None:
        space.add_lwpolyline([(0, 0), (4000, 0), (4000, 4000)], close=True)  # type: ignore[attr-defined]

    assert "outline.far" in refused(drawn(tmp_path / "town.dxf", 6, town))

    def many(space: object) -> None:
        for n in range(20_001):
            space.add_point((n, 0))  # type: ignore[attr-defined]

    assert "plan.many(n=20001" in refused(drawn(tmp_path / "many.dxf", 6, many))
    empty, words = tmp_path / "empty.dxf", tmp_path / "words.dxf"
    empty.write_text("")
    words.write_text("this is\nno drawing\nat all\n")
    assert "plan.dxf" in refused(empty) and "plan.dxf" in refused(words)
    text = (drawn(tmp_path / "whole.dxf", 6, bow)).read_text()
    (tmp_path / "cut.dxf").write_text(text[: len(text) // 2])
    refused(tmp_path / "cut.dxf")


def test_what_is_damaged_or_made_to_be_slow_is_refused_in_time(tmp_path: Path) -> None:
    square = [(0, 0), (4, 0), (4, 3), (0, 3)]

    def read(name: str, draw: object, units: int = 6) -> Room | str:
        begun = time.process_time()
        try:
            found: Room | str = read_plan(drawn(tmp_path / f"{name}.dxf", units, draw)).room
        except DocumentError as error:
            found = str(error)
        assert time.process_time() - begun < 10.0
        return found

    def bulges(space: Any) -> None:
        space.add_lwpolyline([(0, 0, 1e6), (4e3, 0, 1e6), (4e3, 3e3, 1e6)], format="xyb", close=True)

    def endless(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        space.add_circle((1, 1), math.inf)

    def nowhere(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        space.add_circle((math.nan, 1), 0.05, dxfattribs={"layer": "START"})

    def far(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        space.add_circle((1e7, 1), 0.05, dxfattribs={"layer": "START"})

    def labels(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        for n in range(6000):
            space.add_text(f"t{n}", dxfattribs={"insert": (n / 1500, 1)})
            space.add_circle((n / 1500, 1.5), 0.001)

    def nested(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        blocks = space.doc.blocks
        for n in range(24):
            block = blocks.new(f"b{n}")
            for _ in range(8):
                block.add_blockref(f"b{n - 1}", (0, 0)) if n else block.add_line((0, 0), (1, 1))
        space.add_blockref("b23", (0, 0))

    def within_itself(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        space.doc.blocks.new("me").add_blockref("me", (0, 0))
        space.add_blockref("me", (0, 0), dxfattribs={"row_count": 30_000, "column_count": 30_000})

    def mesh(space: Any) -> None:
        space.add_lwpolyline(square, close=True)
        space.add_polymesh((4, 4))
        space.add_polyface()

    for name, draw in (("bulges", bulges), ("endless", endless), ("nowhere", nowhere)):
        assert isinstance(read(name, draw), str)
    for name, draw in (("far", far), ("labels", labels), ("mesh", mesh), ("nested", nested), ("self", within_itself)):
        room = read(name, draw, 0 if name in ("nested", "self") else 6)
        assert isinstance(room, Room) and room.outline == ((0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (0.0, 3.0))
        assert 0.0 <= room.start.x <= 4.0
