"""What fuzzing has found, and a little of it anew: see ``make fuzz``."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from tests.fuzz import SEEDS, TARGETS, mutated, tried


@pytest.mark.parametrize("seed", sorted(SEEDS.glob("*.txt")), ids=lambda seed: seed.stem)
def test_what_was_found_once_is_read_or_refused_with_words(seed: Path) -> None:
    text = seed.read_bytes().decode("utf-8", "surrogatepass")
    assert len(tried(seed.name.split("-")[0], text)) < 100_000


@pytest.mark.parametrize("target", TARGETS)
def test_damaged_input_is_read_or_refused_with_words(target: str) -> None:
    chance = random.Random(target)
    words = [tried(target, mutated(target, chance)) for _ in range(40)]
    assert any(words), "nothing was damaged enough to be refused"
