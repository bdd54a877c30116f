"""What can be done in the Return stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import LINE, Act

__all__ = ["HOME_ACTS"]

HOME_ACTS = (
    ("Re&turn", (
        Act("face ledger", "&Ledger: what carries it away", lambda stage: stage.show_face("ledger"), ("Alt+1",)),
        Act("face loops", "&Rounds and loops", lambda stage: stage.show_face("loops"), ("Alt+2",)),
        LINE,
        Act("close it", "&Close it so", lambda stage: stage.ledger.take(), ("Ctrl+Return",)),
        Act("lock", "Loc&k the posture, or free it", lambda stage: stage.lock(), ("Ctrl+L",)),
        Act("head to tail", "Arrows &head to tail", lambda stage, on: stage.chain.show_sorted(on), ("Ctrl+H",),
            on=False),
        LINE,
        Act("home here", "&Home is where it ends now", lambda stage: stage.home_here()),
        Act("home start", "Home is the &start mark", lambda stage: stage.home_at_start()),
        LINE,
        Act("make drill", "&Make a form of the loop", lambda stage: stage.loops.take(), ("Ctrl+Shift+Return",)),
    )),
    ("&Look", (
        Act("home larger", "Lar&ger", lambda stage: stage.chain.zoom(1.25), ("Ctrl++", "Ctrl+=")),
        Act("home smaller", "S&maller", lambda stage: stage.chain.zoom(0.8), ("Ctrl+-",)),
        Act("home whole", "Show the &whole chain", lambda stage: stage.chain.fit(), ("Ctrl+0",)),
    )),
)  # fmt: skip
