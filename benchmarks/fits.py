"""Measures what a form fitted to other bodies costs, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import time

from made_form import made_form
from run import report, seconds
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import RANGES, Body
from waltzmark.core.fit.fitting import fitted
from waltzmark.core.form.form import Form
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

STIFF = replace(Body(1.74, spare="left"), **RANGES["stiff"])  # type: ignore[arg-type]


def judged(form: Form) -> None:
    judge_all(form, walk(form))


def one(form: Form, body: Body, name: str) -> None:
    whole = seconds(lambda: judged(form), 3)
    begun = time.perf_counter()
    fit = fitted(form, body)
    taken = time.perf_counter() - begun
    figures = f"{taken:.2f} s / {whole:.3f} s, {len(fit.changes)} changes, {len(fit.left)} left"
    report(f"{name}: fitted / walked and judged once", taken / whole, figures)


if __name__ == "__main__":
    demo = read_document(demo_text()).form
    for body in demo.bodies:
        one(demo, body, f"demo for {body.name}")
    one(demo, replace(STIFF, name="stiff and spared"), "demo, stiff and spared")
    form = made_form(1500)
    one(form, form.body, "1,500 counts, the body they were written for")
    one(form, STIFF, "1,500 counts, stiff and spared")
