"""``python -m tests.fuzz --seconds 600``: fuzzes for a while, each input within ten seconds and four gigabytes."""

from __future__ import annotations

import argparse
import hashlib
import random
import resource
import signal
import sys
import time
import traceback

from tests.fuzz import SEEDS, TARGETS, mutated, tried

_MOST_SECONDS, _MOST_BYTES = 10, 4 << 30


def _too_long(*_: object) -> None:
    raise TimeoutError(f"more than {_MOST_SECONDS} s")


def main() -> int:
    """Returns 1 when anything was found; each finding is kept as a seed."""
    made = argparse.ArgumentParser(prog="python -m tests.fuzz", description=__doc__)
    made.add_argument("--seconds", type=float, default=60.0)
    made.add_argument("--seed", type=int, default=None, help="to go the same way again")
    made.add_argument("--target", choices=list(TARGETS), action="append")
    options = made.parse_args()
    seed = options.seed if options.seed is not None else random.SystemRandom().randrange(1 << 32)
    chance, targets = random.Random(seed), options.target or list(TARGETS)
    resource.setrlimit(resource.RLIMIT_AS, (_MOST_BYTES, _MOST_BYTES))
    signal.signal(signal.SIGALRM, _too_long)
    print(f"seed {seed}")
    end, number, refused, found = time.monotonic() + options.seconds, 0, 0, 0
    while time.monotonic() < end:
        target = chance.choice(targets)
        text = mutated(target, chance)
        number += 1
        signal.alarm(_MOST_SECONDS)
        try:
            refused += bool(tried(target, text))
        except BaseException as error:
            if isinstance(error, KeyboardInterrupt):
                raise
            found += 1
            SEEDS.mkdir(exist_ok=True)
            name = f"{target}-{hashlib.sha256(text.encode('utf-8', 'surrogatepass')).hexdigest()[:12]}.txt"
            (SEEDS / name).write_bytes(text.encode("utf-8", "surrogatepass"))
            print(f"FOUND {name}: {type(error).__name__}: {str(error)[:200]}")
            traceback.print_exc(limit=-4)
            if found >= 20:
                break
        finally:
            signal.alarm(0)
    print(f"{number} inputs, {refused} refused with words, {found} found")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
