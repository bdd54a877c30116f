"""Prints how well words are drafted: ``python -m tests.draft [CORPUS.toml …]``."""

from __future__ import annotations

import sys
from pathlib import Path

from tests.draft.figures import CORPORA, FOLDER, KINDS, counted

if __name__ == "__main__":
    for path in [Path(each) for each in sys.argv[1:]] or [FOLDER / f"{name}.toml" for name in CORPORA]:
        for language, kinds in sorted(counted(path).items()):
            whole = sum(kinds.values())
            told = ", ".join(f"{kinds[kind]} {kind} ({kinds[kind] / whole:.0%})" for kind in KINDS)
            print(f"{path.stem}, {language}: {whole} cases: {told}")
