"""The user's own bodies and schools, kept by name in the data folder as files one can read and copy."""

from __future__ import annotations

import re
from pathlib import Path

import platformdirs
import tomlkit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form
from waltzmark.core.school.school import School, school_table
from waltzmark.files.plain import whole_signs
from waltzmark.files.reading import read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.schools import school_from_text
from waltzmark.files.texts import read_text
from waltzmark.files.writing import render

__all__ = ["bodies", "keep_body", "keep_school", "schools"]


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
