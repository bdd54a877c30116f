"""The gate to the solver: what it finds, and that nothing it prints gets out."""

from __future__ import annotations

import ctypes
import os
import subprocess
import sys
import threading

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.programmes import cheapest, quiet

#: What a compiled library does: it prints into the C library's own buffer.
LOUD = "import ctypes; ctypes.CDLL(None).puts({!r})"


def test_what_a_library_prints_in_the_meantime_goes_nowhere() -> None:
    lines = [
        "from waltzmark.core.base.programmes import quiet",
        LOUD.format(b"before"),
        "with quiet():",
        "    " + LOUD.format(b"a solver talks"),
        "    with quiet(): " + LOUD.format(b"and another"),
        "    " + LOUD.format(b"still"),
        LOUD.format(b"after"),
    ]
    done = subprocess.run([sys.executable, "-c", "\n".join(lines)], capture_output=True, text=True, check=True)
    assert done.stdout.split() == ["before", "after"]
    closed = subprocess.run(  # without any output it works as well
        [sys.executable, "-c", "import os; os.close(1)\n" + "\n".join(lines[:1] + lines[2:4])],
        stdout=subprocess.DEVNULL,
    )
    assert closed.returncode == 0


def test_threads_that_ask_for_quiet_at_once_leave_the_output_as_it_was(capfd: pytest.CaptureFixture[str]) -> None:
    before = os.fstat(1)
    start = threading.Barrier(4)

    def talk() -> None:
        start.wait()
        for _ in range(20):
            with quiet():
                ctypes.CDLL(None).puts(b"a solver talks")

    threads = [threading.Thread(target=talk) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    os.write(1, b"heard")
    assert capfd.readouterr().out == "heard" and os.path.samestat(before, os.fstat(1))


@settings(max_examples=tries(40))
@given(st.integers(0, 10_000))
def test_the_cheapest_whole_numbers_are_those_of_trying_them_all(seed: int) -> None:
    random = np.random.default_rng(seed)
    price, matrix = random.uniform(-1, 2, 3), random.uniform(-1, 1, (2, 3))
    least = random.uniform(-2, 2, 2)
    tried = np.stack(np.meshgrid(*[np.arange(5.0)] * 3), axis=-1).reshape(-1, 3)
    good = tried[(tried @ matrix.T >= least - 1e-9).all(axis=1)]
    found = cheapest(price, np.ones(3), np.zeros(3), np.full(3, 4.0), [(matrix, least, np.inf)], 5.0, 0.0)
    assert (found is None) == (not len(good))
    if found is not None:
        assert float(found @ price) == pytest.approx(float((good @ price).min()), abs=1e-6)
    assert cheapest(np.zeros(0), np.zeros(0), np.zeros(0), np.zeros(0), [], 1.0, 0.0) is None
