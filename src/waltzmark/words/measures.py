"""The names of what is measured in practice, as one says them within a sentence and at the beginning of one."""

from __future__ import annotations

from waltzmark.words.language import N_, tr

__all__ = ["measure_name"]

#: By the word it is kept by: within a sentence, and at its beginning.
_NAMES = {
    "share L": (N_("weight on the left foot"), N_("Weight on the left foot")),
    "hip left in": (N_("left hip, inward"), N_("Left hip, inward")),
    "hip left out": (N_("left hip, outward"), N_("Left hip, outward")),
    "hip right in": (N_("right hip, inward"), N_("Right hip, inward")),
    "hip right out": (N_("right hip, outward"), N_("Right hip, outward")),
}


def measure_name(what: str, begins: bool = False) -> str:
    """The name of a measure by the word it is kept by. What somebody called it stays as it is; *begins*: it begins a
    line."""
    if what in _NAMES:
        return tr(_NAMES[what][begins])
    title, _, count = what.rpartition(": count ")
    if not title:
        return what
    if begins:
        return tr("Recall of {title}, count {count}", title=title, count=count)
    return tr("recall of {title}, count {count}", title=title, count=count)
