"""Every stage, face and dialog in a language that nobody speaks: see `tests.pseudo`."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from tests.pseudo import glued, pseudo

ROOT = Path(__file__).resolve().parent.parent.parent


@pytest.mark.parametrize("language", ["", "es"])
def test_everything_shown_is_translated_whole_and_has_room(language: str) -> None:
    ran = subprocess.run(
        [sys.executable, "-m", "tests.pseudo", *language.split()],
        cwd=ROOT,
        capture_output=True,
        text=True,
        timeout=240,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT)},
    )
    assert ran.returncode == 0 and "Traceback" not in ran.stderr, ran.stderr
    found = json.loads(ran.stdout)
    assert found["wrong"] == {}
    assert found["texts"] > 10_000 and found["faces"] > 20


def test_what_is_glued_or_not_translated_would_be_seen() -> None:
    assert glued(pseudo("It ends") + pseudo(", outside the room"))
    assert not glued(pseudo("It ends.") + " " + pseudo("It turns."))
    assert glued(pseudo("But {problem}.").format(problem=pseudo("The knee is past its toes.")))
    assert not glued(pseudo("{a}, {b}.").format(a=pseudo("the knee"), b=pseudo("its toes")))
    assert pseudo("{n} counts <b>here</b>").count("{n}") == 1
