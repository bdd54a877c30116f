"""Schools as files: whatever of one is spoilt is told at its place, and what is kept comes back the same."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import platformdirs
import pytest
import tomlkit
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.rooms import made_room
from waltzmark.core.form.form import Form
from waltzmark.core.school.school import bundled_schools, load_school, school_table, school_text
from waltzmark.files import library
from waltzmark.files.reading import read_document
from waltzmark.files.schools import school_from_text
from waltzmark.files.values import DocumentError
from waltzmark.files.writing import render
from waltzmark.words.sentences import sentence

#: One value of each kind that TOML has, and some that are out of all measure.
WRONG: tuple[Any, ...] = (
    7,
    -1e9,
    1e300,
    float("nan"),
    True,
    "words",
    "-3cm",
    "",
    [],
    [1, "a"],
    {},
    {"reach": "far"},
    {"a": {"b": 1}},
)
FIELDS = ("stances", "rules", "lean", "waist_twist", "spine", "name", "summary")


def parts(table: Any, way: tuple[str, ...] = ()) -> list[tuple[str, ...]]:
    """The ways to every value of a table, tables themselves among them."""
    found = [way] if way else []
    if isinstance(table, dict):
        for key, value in table.items():
            found += parts(value, (*way, key))
    return found


def spoilt(table: Any, way: tuple[str, ...], value: Any) -> Any:
    """The table with another value at the end of a way."""
    if not way:
        return value
    return {**table, way[0]: spoilt(table[way[0]], way[1:], value)}


@given(st.data(), st.booleans())
@settings(max_examples=tries(120), suppress_health_check=[HealthCheck.too_slow])
def test_a_spoilt_value_is_told_where_it_stands_or_taken_for_what_it_is(data: st.DataObject, inside: bool) -> None:
    plain = tomllib.loads(school_text(data.draw(st.sampled_from(bundled_schools()))))
    way = data.draw(st.sampled_from([way for way in parts(plain) if way[0] in FIELDS]))
    value = data.draw(st.sampled_from(WRONG))
    own = spoilt(plain, way, value)
    text = tomlkit.dumps({"waltzmark": 1, "school": own} if inside else own)

    def read() -> object:
        return read_document(text).form.school if inside else school_from_text(text, "mine")

    try:
        school = read()
    except DocumentError as error:
        lines, named = text.splitlines(), {*way, *(part for deeper in parts(value) for part in deeper)}
        for place, problem in error.problems:
            words = sentence(problem)
            assert words and len(words) < 500
            # The place is a line of the school that has something of what was spoilt in it.
            assert place.line is not None and 1 <= place.line <= len(lines), (place, words)
            line = lines[place.line - 1]
            assert any(part in line for part in named) or line.startswith(("[school]", "id = ")), (place, words, line)
        return
    # What was read is a school like any other: written and read again, it is the same.
    assert school_from_text(tomlkit.dumps(school_table(school)), "again") == school  # type: ignore[arg-type]


@pytest.mark.parametrize("school_id", bundled_schools())
def test_a_school_is_the_same_after_a_way_through_its_file(school_id: str) -> None:
    school = load_school(school_id)
    assert school_from_text(tomlkit.dumps(school_table(school)), school_id) == school
    assert school_from_text(school_text(school_id), school_id) == school


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setattr(platformdirs, "user_data_dir", lambda *_: str(tmp_path / "data"))
    return tmp_path / "data"


def test_what_is_kept_by_name_comes_back_and_what_is_spoilt_hides_nothing(home: Path) -> None:
    assert (library.bodies(), library.schools()) == ((), ()) and library.rooms()  # the demo's
    body = Body(name="Long legs", stature=1.9)
    room = made_room("Back yard", 6.0, 5.0)
    school = load_school("ball-turn")
    files = (library.keep_body(body), library.keep_room(room), library.keep_school(school))
    assert library.bodies() == (body,) and library.schools() == (school,) and library.rooms()[0] == room
    for file in files:
        file.with_stem("a-spoilt-one").write_text("waltzmark = 1\n[", encoding="utf-8")
        file.with_stem("b-not-text").write_bytes(b"\xff\xfe\x00\x01")
        file.with_stem("c-no-file").mkdir()
    assert library.bodies() == (body,) and library.schools() == (school,) and library.rooms()[0] == room
    # What another hand writes over a file or takes away is seen at once.
    taller = replace(body, stature=1.95)
    files[0].write_text(render(Form(body=taller)), encoding="utf-8")
    assert library.bodies() == (taller,)
    files[0].unlink()
    assert library.bodies() == ()
    # The same name is the same file; names that only look alike, and files that cannot be read, are left alone.
    others = [made_room(name, 4.0, 4.0) for name in ("back  YARD!", "back-yard", "A spoilt one", "é" * 200)]
    places = {library.keep_room(each) for each in others} | {files[1]}
    assert len(places) == 5 and {room.name for room in library.rooms()} >= {room.name, *(each.name for each in others)}
    smaller = made_room("Back yard", 4.0, 4.0)
    assert library.replaced_by(smaller) and not library.replaced_by(room)
    assert library.keep_room(smaller) == files[1] and smaller in library.rooms() and room not in library.rooms()
    assert files[1].with_stem("a-spoilt-one").read_text(encoding="utf-8") == "waltzmark = 1\n["
    for nameless in ("", " … ", "!?"):
        with pytest.raises(WaltzmarkError, match="library.name"):
            library.keep_room(made_room(nameless, 4.0, 4.0))


def test_a_folder_that_cannot_be_made_is_told(home: Path) -> None:
    home.mkdir()
    (home / "rooms").write_text("in the way", encoding="utf-8")
    with pytest.raises(WaltzmarkError, match="library.folder"):
        library.keep_room(made_room("Yard", 4.0, 4.0))
    assert library.rooms() and (home / "rooms").read_text(encoding="utf-8") == "in the way"
