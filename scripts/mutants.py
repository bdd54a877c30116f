"""Changes the core a little, at random places, and sees whether its tests notice: ``make mutants``.

cosmic-ray makes the changes (a comparison, an operator, a constant, a missing ``not``) in a copy of the tree; a sample
of them is tried, area by area, since each costs a run of that area's tests. What survives is printed with its place: it
is a statement that no test makes, or a change that alters nothing.
"""

from __future__ import annotations

import argparse
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
CONFIG = """\
[cosmic-ray]
module-path = "src/waltzmark/core/{area}"
timeout = 180.0
excluded-modules = []
test-command = "{python} -m pytest -x -q -p no:cacheprovider {tests}"
[cosmic-ray.distributor]
name = "local"
"""
#: The areas of the core that can be changed, and what tests each: the quickest first, since the first that notices ends
#: the run.
AREAS = {
    "room": (
        "test_class_truth",
        "test_floor_plans",
        "test_passes",
        "test_room_editing",
        "test_room_edges",
        "test_room_truth",
        "test_room",
    ),
    "home": ("test_loops", "test_home_truth", "test_passes", "test_home"),
    "sides": ("test_pairs", "test_passages_found", "test_sides_points", "test_sides", "test_sides_truth"),
    "walk": ("test_step", "test_swing", "test_stand", "test_motion", "test_walk", "test_pelvis", "test_findings"),
    "judge": ("test_dangers", "test_judging", "test_checks", "test_rules", "test_findings"),
    "fit": ("test_fit",),
}
#: Changes that alter nothing here: annotations are never evaluated, and decorators register rules.
NO_CHANGE = ("RemoveDecorator", "BitOr")


def main() -> int:
    """Returns 1 when fewer than nine of ten are noticed."""
    made = argparse.ArgumentParser(description=__doc__)
    made.add_argument("--number", type=int, default=12, help="how many changes to try in each area")
    made.add_argument("--seed", type=int, default=None, help="to try the same ones again")
    made.add_argument("areas", nargs="*", default=["room", "home", "sides"], help=f"of {', '.join(AREAS)}")
    options = made.parse_args()
    seed = options.seed if options.seed is not None else random.SystemRandom().randrange(1 << 32)
    ray = str(Path(sys.executable).parent / "cosmic-ray")
    noticed = tried = 0
    with tempfile.TemporaryDirectory(prefix="waltzmark-mutants-") as folder:
        tree = Path(folder) / "tree"
        left_out = shutil.ignore_patterns(".git", ".venv", "__pycache__", ".hypothesis", ".mypy_cache", "docs")
        shutil.copytree(ROOT, tree, ignore=left_out)
        # The tests must see the copy, and not the tree that is installed.
        python = f"env PYTHONPATH=src QT_QPA_PLATFORM=offscreen {sys.executable}"
        for area in options.areas:
            config, session = tree / f"{area}.toml", tree / f"{area}.sqlite"
            tests = " ".join(f"tests/core/{name}.py" for name in AREAS[area])
            config.write_text(CONFIG.format(area=area, tests=tests, python=python), encoding="utf-8")
            subprocess.run([ray, "init", str(config), str(session)], cwd=tree, check=True)
            sample(session, options.number, seed)
            subprocess.run([ray, "exec", str(config), str(session)], cwd=tree, check=True)
            seen, of = tell(session, area)
            noticed, tried = noticed + seen, tried + of
    print(f"\n{noticed} of {tried} changes were noticed (seed {seed})")
    return 0 if noticed >= 0.9 * tried else 1


def sample(session: Path, number: int, seed: int) -> None:
    """Leaves so many of all the changes there could be."""
    with sqlite3.connect(session) as store:
        rows = store.execute("select job_id, operator_name from mutation_specs order by job_id").fetchall()
        fine = [job for job, operator in rows if not any(word in operator for word in NO_CHANGE)]
        kept = set(random.Random(seed).sample(sorted(fine), min(number, len(fine))))
        for table in ("mutation_specs", "work_items"):
            gone = [(job,) for (job,) in store.execute(f"select job_id from {table}") if job not in kept]
            store.executemany(f"delete from {table} where job_id = ?", gone)
    print(f"{len(kept)} of {len(rows)} changes, seed {seed}", flush=True)


def tell(session: Path, area: str) -> tuple[int, int]:
    """Prints what survived; how many were noticed, and how many there were."""
    with sqlite3.connect(session) as store:
        rows = store.execute(
            "select s.module_path, s.start_pos_row, s.operator_name, r.test_outcome, r.diff from mutation_specs s "
            "join work_results r on r.job_id = s.job_id"
        ).fetchall()
    lived = [row for row in rows if "SURVIVED" in str(row[3]).upper()]
    for module, line, operator, _, diff in lived:
        print(f"\nSURVIVED {module}:{line} ({operator})")
        print("\n".join(each for each in str(diff).splitlines() if each[:1] in "+-" and each[:3] not in ("+++", "---")))
    print(f"{area}: {len(rows) - len(lived)} of {len(rows)}", flush=True)
    return len(rows) - len(lived), len(rows)


if __name__ == "__main__":
    sys.exit(main())
