"""Parts of one large library that several threads want at the same moment."""

from __future__ import annotations

import subprocess
import sys

CODE = """
import threading
from waltzmark.core.base.libraries import library
names, made, wrong = ["ndimage", "spatial", "optimize", "sparse"] * 3, [], []
together = threading.Barrier(len(names))
def want(name):
    together.wait()
    try:
        made.append((name, library(f"scipy.{name}")))
    except BaseException as error:
        wrong.append(repr(error))
threads = [threading.Thread(target=want, args=(name,)) for name in names]
for each in threads: each.start()
for each in threads: each.join()
print(len(made), len({id(module) for _, module in made}), len({name for name, _ in made}), wrong)
"""


def test_threads_that_want_parts_of_a_library_at_once_each_get_theirs_whole() -> None:
    told = subprocess.run([sys.executable, "-c", CODE], capture_output=True, text=True, check=True, timeout=120)
    assert told.stdout.split(" ", 3) == ["12", "4", "4", "[]\n"], told.stdout
