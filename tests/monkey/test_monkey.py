"""A short walk of the monkey at every test; ``make monkey`` lets it go on."""

from __future__ import annotations

import subprocess
import sys

import pytest


@pytest.mark.parametrize("seed", [100, 111])
def test_a_monkey_finds_nothing_wrong(seed: int) -> None:
    command = [sys.executable, "-m", "tests.monkey", "--acts", "150", "--each", "150", "--seed", str(seed)]
    done = subprocess.run(command, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stdout[-3000:]
