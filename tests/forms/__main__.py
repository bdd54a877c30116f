"""How far the rules agree with a careful teacher: ``python -m tests.forms``."""

from __future__ import annotations

import sys

from tests.forms import agreement


def main() -> int:
    found = agreement()
    print(f"{'rule':<22}agreed  false")
    for rule in sorted(found.agreed | found.false):
        print(f"{rule:<22}{found.agreed[rule]:6} {found.false[rule]:6}")
    for words in found.told:
        print(f"false alarm  {words}")
    for words in found.missed:
        print(f"missed       {words}")
    right, wrong = sum(found.agreed.values()), sum(found.false.values())
    print(f"{right} agreed ({found.share:.0f} %), {wrong} false alarms, {len(found.missed)} missed")
    return 1 if found.missed or found.share < 95.0 else 0


sys.exit(main())
