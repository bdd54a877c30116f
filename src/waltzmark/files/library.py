"""The user's own bodies and schools, kept by name in the data folder as files one can read and copy."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import platformdirs
import tomlkit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room
from waltzmark.core.school.school import School, school_table
from waltzmark.demo import demo_rooms
from waltzmark.files.plain import whole_signs
from waltzmark.files.reading import read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.schools import school_from_text
from waltzmark.files.texts import read_text
from waltzmark.files.writing import render

__all__ = ["bodies", "keep_body", "keep_room", "keep_school", "rooms", "schools"]


def _folder(kind: str) -> Path:
    return Path(platformdirs.user_data_dir("waltzmark")) / kind


def _file(kind: str, name: str, suffix: str) -> Path:
    stem = "-".join(re.findall(r"\w+", name.lower()))
    if not stem:
        raise WaltzmarkError("give it a name of letters or figures first")
    folder = _folder(kind)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WaltzmarkError(f"{folder} cannot be made: {error.strerror}") from None
    return folder / f"{stem}{suffix}"


def keep_body(body: Body) -> Path:
    """Keeps a body under its name: a document with nothing but a body. Raises WaltzmarkError."""
    path = _file("bodies", body.name, ".waltz")
    save_atomically(path, render(Form(body=body)))
    return path


def bodies() -> tuple[Body, ...]:
    """The bodies that are kept, by name. Files that cannot be read are passed over."""
    found = []
    for path in sorted(_folder("bodies").glob("*.waltz")):
        try:
            found.append(read_file(path).form.body)
        except WaltzmarkError:
            continue
    return tuple(found)


def keep_room(room: Room) -> Path:
    """Keeps a room under its name: a document with nothing but a room. Raises WaltzmarkError."""
    path = _file("rooms", room.name, ".waltz")
    save_atomically(path, render(Form(title=room.name, room=replace(room, breaks=()))))
    return path


def rooms() -> tuple[Room, ...]:
    """The rooms that are kept, by name, and those of the demo. Files that cannot be read are passed over."""
    found: list[Room] = []
    for path in (*sorted(_folder("rooms").glob("*.waltz")), *demo_rooms()):
        try:
            room = read_file(path).form.room
        except WaltzmarkError:
            continue
        if room is not None and all(room.name != each.name for each in found):
            found.append(room)
    return tuple(found)


def keep_school(school: School) -> Path:
    """Keeps a school under its name. Raises WaltzmarkError."""
    path = _file("schools", school.name, ".toml")
    save_atomically(path, tomlkit.dumps(whole_signs(school_table(school))))
    return path


def schools() -> tuple[School, ...]:
    """The schools that are kept, by name. Files that cannot be read are passed over."""
    found = []
    for path in sorted(_folder("schools").glob("*.toml")):
        try:
            found.append(school_from_text(read_text(path), path.stem))
        except WaltzmarkError:
            continue
    return tuple(found)
