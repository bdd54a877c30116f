"""What a dragged foot keeps to, and what a search is doing just now."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.base.messages import Message
from waltzmark.words.figures import Figures
from waltzmark.words.language import N_, tr
from waltzmark.words.sentences import Sentence, sentence, sentence_of
from waltzmark.words.steps import stance_title

__all__ = ["SENTENCES", "doing"]


def _length(fields: Mapping[str, Any], _: Figures) -> str:
    return tr("length of {stance}", stance=stance_title(fields["stance"]))


def _width(fields: Mapping[str, Any], _: Figures) -> str:
    return tr("width of {stance}", stance=stance_title(fields["stance"]))


SENTENCES: dict[str, Sentence] = {
    "snap.mark": N_("an earlier mark"),
    "snap.level": N_("level with the other heel"),
    "snap.length": _length,
    "snap.width": _width,
    "snap.boards": N_("a board line"),
    "snap.tiles": N_("a tile line"),
    "doing.headings": N_("trying headings"),
    "doing.smallest-changes": N_("looking for the smallest changes"),
    "doing.least-change": N_("looking for the least change"),
    "doing.shorter-steps": N_("trying shorter steps"),
    "doing.breaks": N_("looking for a place to break off"),
    "doing.marks": N_("measuring the marks"),
    "doing.rows-columns": N_("trying rows and columns"),
    "doing.postures": N_("comparing postures"),
    "doing.passages": N_("looking for passages"),
    "doing.counts": N_("comparing counts"),
    "doing.rounds": N_("walking round after round"),
    "doing.wrong-turn": N_("looking for the wrong turn"),
    "doing.loops": N_("looking for loops"),
    "doing.fitting": N_("fitting the form to a body"),
    "doing.filming": N_("drawing the pictures"),
    "doing.sound": N_("making the sound"),
    "doing.closings": N_("looking for ways home"),
}


def doing(kind: str) -> str:
    """What a search is doing just now."""
    return sentence(Message(f"doing.{kind}")) if kind and sentence_of(f"doing.{kind}") else tr("searching …")
