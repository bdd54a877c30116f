"""The user's own bodies and schools, kept by name in the data folder as files one can read and copy."""

from __future__ import annotations

import contextlib
import os
import re
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from typing import TypeVar

import platformdirs
import tomlkit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room
from waltzmark.core.school.school import School, school_table
from waltzmark.demo import demo_rooms, told_here
from waltzmark.files.document_values import whole_signs
from waltzmark.files.reading import read_document, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.schools import school_from_text
from waltzmark.files.taught import read_taught, taught_text
from waltzmark.files.texts import read_text
from waltzmark.files.writing import render
from waltzmark.words.language import language

__all__ = [
    "bodies",
    "keep_body",
    "keep_room",
    "keep_school",
    "keep_taught",
    "replaced_by",
    "rooms",
    "schools",
    "taught",
]

T = TypeVar("T")


def _folder(kind: str) -> Path:
    return Path(platformdirs.user_data_dir("waltzmark")) / kind


def _kept(kind: str, suffix: str, read: Callable[[Path], T]) -> dict[Path, T]:
    """What is kept of a kind, by file. Files that cannot be read are passed over."""
    found: dict[Path, T] = {}
    for path in sorted(_folder(kind).glob(f"*{suffix}")):
        with contextlib.suppress(WaltzmarkError, OSError):
            state = path.stat()
            found[path] = _read(read, path, (state.st_ino, state.st_size, state.st_mtime_ns))
    return found


@lru_cache(maxsize=256)  # a page that lists what is kept asks at every edit
def _read(read: Callable[[Path], T], path: Path, _state: tuple[int, ...]) -> T:
    """What stands in a file, read once while its state is the same."""
    return read(path)


def _file(kind: str, name: str, suffix: str, names: dict[Path, str]) -> Path:
    """The file for a name: that which has it already, else one that is not there yet. Names that differ are never in
    one file, however alike; nor is a file that cannot be read ever taken."""
    stem = "-".join(re.findall(r"\w+", name.lower()))
    if not stem:
        raise WaltzmarkError("library.name")
    folder = _folder(kind)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WaltzmarkError("library.folder", folder=str(folder), reason=error.strerror or "") from None
    for path, other in names.items():
        if other == name:
            return path
    stem = stem.encode()[:200].decode(errors="ignore")  # bytes; a file name has 255
    ends = (suffix, *(f"-{number}{suffix}" for number in range(2, 10_000)))
    return next(path for path in (folder / f"{stem}{end}" for end in ends) if not os.path.lexists(path))


def _body(path: Path) -> Body:
    return read_file(path).form.body


def _room(path: Path) -> Room:
    room = read_file(path).form.room
    if room is None:
        raise WaltzmarkError("library.no-room", name=path.name)
    return room


@lru_cache
def _shipped(path: Path, _language: str) -> Room:
    """A room of the demo, in the language that is set."""
    room = read_document(told_here(read_text(path))).form.room
    assert room is not None
    return room


def _school(path: Path) -> School:
    return school_from_text(read_text(path), path.stem)


def keep_body(body: Body) -> Path:
    """Keeps a body under its name: a document with nothing but a body. Raises WaltzmarkError."""
    names = {path: each.name for path, each in _kept("bodies", ".waltz", _body).items()}
    path = _file("bodies", body.name, ".waltz", names)
    save_atomically(path, render(Form(body=body)))
    return path


def bodies() -> tuple[Body, ...]:
    """The bodies that are kept, by name. Files that cannot be read are passed over."""
    return tuple(_kept("bodies", ".waltz", _body).values())


def keep_room(room: Room) -> Path:
    """Keeps a room under its name: a document with nothing but a room. Raises WaltzmarkError."""
    names = {path: each.name for path, each in _kept("rooms", ".waltz", _room).items()}
    path = _file("rooms", room.name, ".waltz", names)
    save_atomically(path, render(Form(title=room.name, room=_to_keep(room))))
    return path


def rooms() -> tuple[Room, ...]:
    """The rooms that are kept, by name, and those of the demo. Files that cannot be read are passed over."""
    own = _kept("rooms", ".waltz", _room).values()
    found: list[Room] = []
    for room in (*own, *(_shipped(path, language()) for path in demo_rooms())):
        if all(room.name != each.name for each in found):
            found.append(room)
    return tuple(found)


def keep_school(school: School) -> Path:
    """Keeps a school under its name. Raises WaltzmarkError."""
    names = {path: each.name for path, each in _kept("schools", ".toml", _school).items()}
    path = _file("schools", school.name, ".toml", names)
    save_atomically(path, tomlkit.dumps(whole_signs(school_table(school))))
    return path


def schools() -> tuple[School, ...]:
    """The schools that are kept, by name. Files that cannot be read are passed over."""
    return tuple(_kept("schools", ".toml", _school).values())


def taught() -> tuple[Taught, ...]:
    """The phrases that were taught. None where their file is not there, or cannot be read."""
    path = _folder("words") / "taught.toml"
    if not path.exists():
        return ()
    with contextlib.suppress(WaltzmarkError):
        return read_taught(path)
    return ()


def keep_taught(phrases: tuple[Taught, ...]) -> Path:
    """Keeps phrases; one that is kept already is exchanged. Raises WaltzmarkError."""
    kept = {(each.language, each.words): each for each in (*taught(), *phrases)}
    path = _folder("words") / "taught.toml"
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WaltzmarkError("library.folder", folder=str(path.parent), reason=error.strerror or "") from None
    save_atomically(path, taught_text(tuple(kept.values())))
    return path


def replaced_by(thing: Body | Room | School) -> bool:
    """Whether another of the same name is kept, whose place this would take."""
    if isinstance(thing, Body):
        return any(each.name == thing.name and each != thing for each in bodies())
    if isinstance(thing, School):
        return any(each.name == thing.name and each != thing for each in schools())
    kept = _kept("rooms", ".waltz", _room).values()
    return any(each.name == thing.name and each != _to_keep(thing) for each in kept)


def _to_keep(room: Room) -> Room:
    return replace(room, breaks=())  # they belong to a form
