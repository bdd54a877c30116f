"""Measures the search for where to stand, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import os
import time

from waltzmark.core.base.records import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
import scipy.fft
from scipy.ndimage import distance_transform_edt

from made_form import made_form
from run import report, seconds
from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Obstacle, Room, Start, rotated_points
from waltzmark.core.room.changes import here
from waltzmark.core.room.clearance import Demand, clearance_at
from waltzmark.core.room.starts import HEADINGS, Starts
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.room.things import things_of
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

STEP = 0.02
FRAME = 1.0 / 60.0


def hall() -> Room:
    """8 × 10 m with two obstacles."""
    pillar = Obstacle("pillar", ((3.0, 6.0), (3.3, 6.0), (3.3, 6.3), (3.0, 6.3)))
    stove = Obstacle("stove", (), "solid", (1.0, 9.0), 0.4)
    return Room("hall", ((0.0, 0.0), (8.0, 0.0), (8.0, 10.0), (0.0, 10.0)), Start(4.0, 3.0), (pillar, stove), 0.1)


def plain_pass(sweep: Sweep, room: Room, heading: float, taken: Floats) -> Floats:
    """Whether each start on a raster of 2 cm fits, yes or no: the swept space against what is not free, by transforms
    of the room padded by the sweep."""
    demand = Demand.of(sweep.every, room)
    points = rotated_points(demand.points, heading)
    low = (points - demand.needs[:, None]).min(axis=0)
    size = np.ceil(((points + demand.needs[:, None]).max(axis=0) - low) / STEP).astype(np.int64) + 1
    kernel = np.zeros(size[::-1])
    for needs in np.unique(demand.needs.round(4)):
        empty = np.ones(size[::-1], dtype=bool)
        at = ((points[demand.needs.round(4) == needs] - low) / STEP).astype(np.int64)
        empty[at[:, 1], at[:, 0]] = False
        kernel[distance_transform_edt(empty) * STEP <= needs] = 1.0
    shape = [scipy.fft.next_fast_len(a + b, True) for a, b in zip(taken.shape, kernel.shape, strict=True)]
    product = scipy.fft.rfft2(taken, shape) * np.conj(scipy.fft.rfft2(kernel, shape))
    return np.asarray(scipy.fft.irfft2(product, shape) < 0.5)


def searches(form: Form) -> None:
    room = replace(hall())
    sweep = Sweep(walk(form))
    x, y = np.meshgrid(np.arange(0.0, 8.0, STEP), np.arange(0.0, 10.0, STEP))
    taken = (things_of(room).free(np.column_stack([x.ravel(), y.ravel()])) < 0.0).reshape(x.shape).astype(float)
    passes = seconds(lambda: [plain_pass(sweep, room, heading, taken) for heading in HEADINGS], 1)
    starts = Starts(sweep, room)
    starts.best_of(HEADINGS[:1])  # SciPy is imported once
    best = seconds(lambda: Starts(sweep, room).best_of(), 3)
    report(
        "best clearance of 72 headings / plain yes-no pass over them",
        best / passes,
        f"{best:.2f} s / {passes:.2f} s, aim at most 1.0",
    )
    one = seconds(lambda: starts.map_at(37.0), 5)
    report(
        "map of one heading / plain pass of one heading",
        one / (passes / len(HEADINGS)),
        f"{1000 * one:.0f} ms / {1000 * passes / len(HEADINGS):.0f} ms, aim at most 6",
    )
    first = seconds(lambda: here(replace(form, room=room), walk(form)), 3)
    report("the first answer / 0.3 s", first / 0.3, f"{1000 * first:.0f} ms, aim at most 1")


def drags(name: str, form: Form) -> None:
    room = hall()
    sweep = Sweep(walk(form))
    sweep.prepare()
    random = np.random.default_rng(1)
    taken = []
    for x, y, heading in random.uniform([3.0, 2.0, 0.0], [5.0, 5.0, 360.0], (60, 3)).tolist():
        begun = time.perf_counter()
        clearance_at(sweep, room, Start(x, y, heading))
        taken.append(time.perf_counter() - begun)
    late = float(np.quantile(taken, 0.95))
    report(
        f"start dragged, {name}: 95 % of exact clearances / a frame",
        late / FRAME,
        f"{1000 * late:.1f} ms / {1000 * FRAME:.1f} ms, aim at most 1",
    )


if __name__ == "__main__":
    demo = read_document(demo_text()).form
    searches(demo)
    drags("demo", demo)
    drags("1,500 counts", made_form(1500))
