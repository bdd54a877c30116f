"""Changes the core a little, at random places, and sees whether its tests notice: ``make mutants``.

cosmic-ray makes the changes (a comparison, an operator, a constant, a missing ``not``) in a copy of the tree; a sample
of them is tried, since each costs a run of the core's tests. What survives is printed with its place: it is a statement
that no test makes, or a change that alters nothing.
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
module-path = {modules}
timeout = 240.0
excluded-modules = []
test-command = "{python} -m pytest -x -q -p no:cacheprovider tests/core tests/files tests/test_cli.py"
[cosmic-ray.distributor]
name = "local"
"""
#: Changes that alter nothing here: annotations are never evaluated, and decorators register rules.
NO_CHANGE = ("RemoveDecorator", "BitOr")


def main() -> int:
    """Returns 1 when fewer than nine of ten are noticed."""
    made = argparse.ArgumentParser(description=__doc__)
    made.add_argument("--number", type=int, default=36, help="how many changes to try")
    made.add_argument("--seed", type=int, default=None, help="to try the same ones again")
    made.add_argument("modules", nargs="*", default=["src/waltzmark/core"], help="files or folders to change")
    options = made.parse_args()
    seed = options.seed if options.seed is not None else random.SystemRandom().randrange(1 << 32)
    ray = str(Path(sys.executable).parent / "cosmic-ray")
    with tempfile.TemporaryDirectory(prefix="waltzmark-mutants-") as folder:
        tree = Path(folder) / "tree"
        left_out = shutil.ignore_patterns(".git", ".venv", "__pycache__", ".hypothesis", ".mypy_cache", "docs")
        shutil.copytree(ROOT, tree, ignore=left_out)
        config, session = tree / "mutants.toml", tree / "mutants.sqlite"
        # The tests must see the copy, and not the tree that is installed.
        python = f"env PYTHONPATH=src QT_QPA_PLATFORM=offscreen {sys.executable}"
        config.write_text(CONFIG.format(modules=options.modules, python=python), encoding="utf-8")
        subprocess.run([ray, "init", str(config), str(session)], cwd=tree, check=True)
        sample(session, options.number, seed)
        subprocess.run([ray, "exec", str(config), str(session)], cwd=tree, check=True)
        return tell(session, seed)


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


def tell(session: Path, seed: int) -> int:
    """Prints what survived, and the share that was noticed."""
    with sqlite3.connect(session) as store:
        rows = store.execute(
            "select s.module_path, s.start_pos_row, s.operator_name, r.test_outcome, r.diff from mutation_specs s "
            "join work_results r on r.job_id = s.job_id"
        ).fetchall()
    lived = [row for row in rows if "SURVIVED" in str(row[3]).upper()]
    for module, line, operator, _, diff in lived:
        print(f"\nSURVIVED {module}:{line} ({operator})")
        print("\n".join(each for each in str(diff).splitlines() if each[:1] in "+-" and each[:3] not in ("+++", "---")))
    noticed = len(rows) - len(lived)
    print(f"\n{noticed} of {len(rows)} changes were noticed (seed {seed})")
    return 0 if noticed >= 0.9 * len(rows) else 1


if __name__ == "__main__":
    sys.exit(main())
