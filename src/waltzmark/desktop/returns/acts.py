"""What can be done in the Return stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu, Switch
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.returns.stage import ReturnStage

__all__ = ["HOME_ACTS"]

HOME_ACTS: ByMenu[ReturnStage] = (
    (
        tr("Re&turn"),
        (
            Act(
                "face ledger",
                tr("&Ledger: where each posture takes you"),
                lambda stage: stage.show_face("ledger"),
                ("Alt+1",),
            ),
            Act("face loops", tr("&Rounds and loops"), lambda stage: stage.show_face("loops"), ("Alt+2",)),
            LINE,
            Act("close it", tr("&Apply these changes"), lambda stage: stage.ledger.take(), ("Ctrl+Return",)),
            Act("lock", tr("Loc&k or unlock the posture"), lambda stage: stage.lock(), ("Ctrl+L",)),
            Switch(
                "head to tail",
                tr("Arrows &head to tail"),
                lambda stage, on: stage.chain.show_sorted(on),
                ("Ctrl+H",),
                on=False,
            ),
            LINE,
            Act("home here", tr("Set &home to where it ends now"), lambda stage: stage.home_here()),
            Act("home start", tr("Set home to the &start mark"), lambda stage: stage.home_at_start()),
            LINE,
            Act(
                "make drill",
                tr("&Make a drill from the loop"),
                lambda stage: stage.loops.take(),
                ("Ctrl+Shift+Return",),
            ),
        ),
    ),
    (
        tr("&Look"),
        (
            Act("home larger", tr("Lar&ger"), lambda stage: stage.chain.zoom(1.25), ("Ctrl++", "Ctrl+=")),
            Act("home smaller", tr("S&maller"), lambda stage: stage.chain.zoom(0.8), ("Ctrl+-",)),
            Act("home whole", tr("Show the &whole chain"), lambda stage: stage.chain.fit(), ("Ctrl+0",)),
        ),
    ),
)
