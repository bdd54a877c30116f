"""An early change moves what follows; the analyst may keep that where it was."""

from __future__ import annotations

import numpy as np
import pytest

from waltzmark.core.edit import forms
from waltzmark.core.edit.keeping import kept_places, moved_after
from waltzmark.core.form.form import Form
from waltzmark.core.score import read_count, write_count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

DEMO = read_document(demo_text()).form
WALKED = walk(DEMO)


def changed(posture: str, line: int, text: str) -> tuple[Form, Trace]:
    form = forms.replace_lines(DEMO, posture, line, line + 1, [read_count(text)])
    return form, walk(form, WALKED)


def test_what_an_edit_moved_begins_right_after_it() -> None:
    form, trace = changed("coil", 4, "step L 12 bow 70x35")
    moved = moved_after(WALKED, trace)
    assert moved is not None
    assert moved.new == moved.old == WALKED.row_of("coil", 6)  # the counts after the step, in the same posture
    longer = 0.70 - float(WALKED.sizes[WALKED.row_of("coil", 5), 0])
    assert moved.distance == pytest.approx(longer, abs=0.01)
    assert form.postures[2:] == DEMO.postures[2:]


@pytest.mark.parametrize(
    ("posture", "line", "text"),
    [("coil", 5, "shift L 75, torso 12"), ("quay", 1, "step L 12 side 60"), ("moor", 4, "shift 60/40")],
)
def test_an_edit_that_moves_nothing_offers_nothing(posture: str, line: int, text: str) -> None:
    assert moved_after(WALKED, changed(posture, line, text)[1]) is None
    assert moved_after(WALKED, WALKED) is None


@pytest.mark.parametrize(
    ("posture", "line", "text"),
    [("coil", 4, "step L 12 bow 70x35"), ("boat", 4, "step R 6 bow 60x35"), ("gunwale", 1, "step L 12 side 70")],
)
def test_what_follows_is_kept_where_it_was(posture: str, line: int, text: str) -> None:
    form, trace = changed(posture, line, text)
    moved = moved_after(WALKED, trace)
    assert moved is not None
    kept = kept_places(form, WALKED, moved)
    again = walk(kept)
    assert len(again) == len(trace)
    # Once each foot has stepped, everything stands where it stood before the edit.
    stepped = np.flatnonzero(np.cumsum(again.move_kinds[moved.new :] == 2, axis=0).min(axis=1) > 0)
    beyond = slice(moved.new + int(stepped[0]), None)
    assert np.abs(again.heels[beyond] - WALKED.heels[beyond]).max() < 0.002
    assert np.abs(again.headings[beyond] - WALKED.headings[beyond]).max() < 1e-6
    assert (again.contacts[beyond] == WALKED.contacts[beyond]).all()
    # Few steps had to become floor positions; everything else is written as it was.
    lines = [write_count(line) for p in kept.postures for line in kept.lines(p)]
    assert 1 <= sum(" to " in line for line in lines) <= 4
    assert kept.posture(posture).lines[line] == form.posture(posture).lines[line]


def test_others_do_not_take_over_a_step_that_is_kept() -> None:
    form, trace = changed("coil", 4, "step L 12 bow 70x35")
    moved = moved_after(WALKED, trace)
    assert moved is not None
    kept = kept_places(form, WALKED, moved)
    assert [write_count(line) for line in kept.lines(kept.posture("cast-left"))] == [
        write_count(line) for line in DEMO.lines(DEMO.posture("cast-left"))
    ]
    assert kept.posture("cast-left").source is None and kept.posture("cast-left").side_of == "cast-right"
