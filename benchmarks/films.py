"""Measures what films, tracks and speech cost, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import tempfile
from functools import partial
from pathlib import Path

from run import report, seconds
from waltzmark.core.base.progress import SILENT
from waltzmark.core.form.film import Film
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.app import make_application
from waltzmark.desktop.filming import make_film
from waltzmark.files import speech
from waltzmark.files.filmed import film_plan
from waltzmark.files.reading import read_document

if __name__ == "__main__":
    application = make_application()
    form = read_document(demo_text()).form
    film = Film(voice="all")
    plan = film_plan(form, walk(form), film, "coil", "cast-left")
    whole = film_plan(form, walk(form), film)

    def forget() -> None:
        """Nothing that was spoken is known any more."""
        speech.speech.cache_clear()
        speech.length_of.cache_clear()

    with tempfile.TemporaryDirectory() as folder:

        def make(name: str, first: str = "", last: str = "") -> None:
            """Makes one, speech and all."""
            forget()
            make_film(form, film, Path(folder) / name, first, last, SILENT)

        for name in ("a.webm", "a.mp4"):
            took = seconds(partial(make, name, "coil", "cast-left"), 1)
            size = (Path(folder) / name).stat().st_size / 1e6
            words = f"{took:.1f} s / {plan.length:.1f} s, {size:.1f} MB, aim 0.5"
            report(f"a film of the demo at 720p, {name[2:]} / its playing time", took / plan.length, words)
        took = seconds(lambda: make("a.opus"), 1)
        report(
            "a track of the demo / its playing time",
            took / whole.length,
            f"{took:.1f} s / {whole.length:.0f} s, aim 0.1",
        )
    forget()
    spoken = seconds(lambda: film_plan(form, walk(form), film), 1)
    report("all of the demo spoken / the time it takes to hear", spoken / whole.length, f"{spoken:.2f} s")
