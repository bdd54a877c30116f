"""``python -m tests.monkey --acts 50000``: monkeys at the window, each in a process of its own, several at once."""

from __future__ import annotations

import argparse
import os
import random
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

_EACH = 1000  # acts of one monkey


def one(seed: int, acts: int) -> int:
    """One monkey; returns 1 when something was wrong, which is printed with what it did last."""
    import faulthandler

    from tests.monkey import Monkey
    from waltzmark.desktop.app import make_application

    faulthandler.enable()
    made = make_application()
    with tempfile.TemporaryDirectory() as folder:
        monkey = Monkey(seed, Path(folder))
        monkey.run(acts)
        wrong, did = monkey.wrong, monkey.did
        monkey.close()
    del made
    print(f"seed {seed}: {len(did)} acts, slowest {monkey.slowest[0]:.2f} s ({monkey.slowest[1]})", flush=True)
    for words in wrong:
        print(f"seed {seed} WRONG: {words}\n  after: {'; '.join(did[-12:])}", flush=True)
    sys.stdout.flush()
    os._exit(1 if wrong else 0)  # what still runs in threads is not waited for


def main() -> int:
    """Returns 1 when any monkey found anything, or was ended."""
    made = argparse.ArgumentParser(prog="python -m tests.monkey", description=__doc__)
    made.add_argument("--acts", type=int, default=50_000)
    made.add_argument("--seed", type=int, default=None, help="of the first monkey, to go the same way again")
    made.add_argument("--each", type=int, default=_EACH, help="acts of one monkey")
    made.add_argument("--python", default=sys.executable, help="another Python to run them with")
    made.add_argument("--soak", action="store_true", help="all in one window, and whether it takes more and more")
    made.add_argument("--one", action="store_true", help=argparse.SUPPRESS)
    options = made.parse_args()
    seed = options.seed if options.seed is not None else random.SystemRandom().randrange(1 << 20)
    if options.one:
        return one(seed, options.acts)
    if options.soak:
        from tests.monkey.soak import soak

        return soak(seed, options.acts, options.each)
    waiting = list(range(seed, seed + max(options.acts // options.each, 1)))
    lock, failed, begun = threading.Lock(), list[int](), time.monotonic()

    def work() -> None:
        while True:
            with lock:
                if not waiting:
                    return
                mine = waiting.pop(0)
            with tempfile.TemporaryDirectory() as home:
                own = {f"XDG_{name}_HOME": f"{home}/{name}" for name in ("CONFIG", "DATA", "STATE", "CACHE")}
                environment = {**os.environ, **own, "HOME": home, "QT_QPA_PLATFORM": "offscreen"}
                command = [
                    options.python,
                    "-m",
                    "tests.monkey",
                    "--one",
                    "--seed",
                    str(mine),
                    "--acts",
                    str(options.each),
                ]
                done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
            with lock:
                print(done.stdout, end="", flush=True)
                if done.returncode:
                    failed.append(mine)
                    print(f"seed {mine} ended with {done.returncode}\n{done.stderr[-3000:]}", flush=True)

    threads = [threading.Thread(target=work) for _ in range(os.cpu_count() or 1)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    minutes = (time.monotonic() - begun) / 60.0
    print(
        f"{options.acts} acts from seed {seed} on in {minutes:.1f} minutes: {len(failed)} monkeys found something {failed}"
    )
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
