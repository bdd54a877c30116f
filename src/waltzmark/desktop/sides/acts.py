"""What can be done in the Sides stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu, Switch
from waltzmark.desktop.widgets.camera import VIEWS, view_acts
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.sides.stage import SidesStage

__all__ = ["SIDES_ACTS", "SIDES_GROUPS", "WAYS"]

#: How two passages are drawn, by name.
WAYS = {"folded": tr("&Folded together"), "beside": tr("Side &by side"), "walked": tr("As &walked")}


def _drawn(name: str, words: str) -> Switch[SidesStage]:
    def draw(stage: SidesStage, on: bool) -> None:
        if on:
            stage.picture.show_way(name)

    return Switch(f"sides {name}", words, draw, on=name == "folded")


SIDES_ACTS: ByMenu[SidesStage] = (
    (
        tr("&Sides"),
        (
            Act("face pairs", tr("&Pairs: where they differ"), lambda stage: stage.show_face("pairs"), ("Alt+1",)),
            Act("face compare", tr("&Compare with another form"), lambda stage: stage.show_face("compare"), ("Alt+2",)),
            Act("face balance", tr("Bala&nce of both sides"), lambda stage: stage.show_face("balance"), ("Alt+3",)),
            LINE,
            Act("next difference", tr("N&ext difference"), lambda stage: stage.step_difference(1), ("F4",)),
            Act(
                "previous difference",
                tr("Pre&vious difference"),
                lambda stage: stage.step_difference(-1),
                ("Shift+F4",),
            ),
            LINE,
            Act(
                "make alike",
                tr("&Make the whole posture match"),
                lambda stage: stage.pairs.mends.make("make alike"),
                ("Ctrl+Return",),
            ),
            Act(
                "make count alike",
                tr("Make this c&ount match"),
                lambda stage: stage.pairs.mends.make("make count alike"),
                ("Ctrl+Shift+Return",),
            ),
            Act("tie", tr("&Link it to its other side"), lambda stage: stage.pairs.mends.make("tie"), ("Ctrl+T",)),
            Act(
                "call side",
                tr("Declare it the other &side"),
                lambda stage: stage.pairs.mends.make("call side"),
                ("Ctrl+Shift+T",),
            ),
            LINE,
            Act(
                "whole other side", tr("Open the mirrored form in a new win&dow"), lambda stage: stage.open_other_side()
            ),
            Act("compare document", tr("Compare with a document …"), lambda stage: stage.compare_document()),
            Act("compare demo", tr("Compare with the demo’s earlier version"), lambda stage: stage.compare_demo()),
            Act("save report", tr("Save the comparison as te&xt …"), lambda stage: stage.compare.save_report()),
        ),
    ),
    (
        tr("&Look"),
        (
            *(_drawn(name, words) for name, words in WAYS.items()),
            LINE,
            *view_acts("sides"),
            LINE,
            Act("sides larger", tr("Lar&ger"), lambda stage: stage.picture.zoom(1.25), ("Ctrl++", "Ctrl+=")),
            Act("sides smaller", tr("S&maller"), lambda stage: stage.picture.zoom(0.8), ("Ctrl+-",)),
            Act("sides whole", tr("Show &all"), lambda stage: stage.picture.fit(), ("Ctrl+0",)),
        ),
    ),
)
#: Of these one is on.
SIDES_GROUPS = (tuple(f"sides {name}" for name in WAYS), tuple(f"sides {name}" for name in VIEWS))
