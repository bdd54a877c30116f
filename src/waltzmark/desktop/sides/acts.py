"""What can be done in the Sides stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import LINE, Act
from waltzmark.desktop.plot.camera import VIEWS, view_acts

__all__ = ["SIDES_ACTS", "SIDES_GROUPS", "WAYS"]

#: How two passages are drawn, by name.
WAYS = {"folded": "&Folded together", "beside": "&Beside each other", "walked": "As &walked"}

SIDES_ACTS = (
    ("&Sides", (
        Act("face pairs", "&Pairs: where they differ", lambda stage: stage.show_face("pairs"), ("Alt+1",)),
        Act("face compare", "&Compare with another form", lambda stage: stage.show_face("compare"), ("Alt+2",)),
        Act("face balance", "Bala&nce of both sides", lambda stage: stage.show_face("balance"), ("Alt+3",)),
        LINE,
        Act("next difference", "N&ext difference", lambda stage: stage.step_difference(1), ("F4",)),
        Act("previous difference", "Pre&vious difference", lambda stage: stage.step_difference(-1), ("Shift+F4",)),
        LINE,
        Act("make alike", "&Make the whole alike", lambda stage: stage.pairs.mends.make("make alike"),
            ("Ctrl+Return",)),
        Act("make count alike", "Make this c&ount alike", lambda stage: stage.pairs.mends.make("make count alike"),
            ("Ctrl+Shift+Return",)),
        Act("tie", "&Tie it to its other side", lambda stage: stage.pairs.mends.make("tie"), ("Ctrl+T",)),
        Act("call side", "Call it the other &side", lambda stage: stage.pairs.mends.make("call side"),
            ("Ctrl+Shift+T",)),
        LINE,
        Act("whole other side", "Open the whole form's other si&de", lambda stage: stage.open_other_side()),
        Act("compare document", "Compare with a document …", lambda stage: stage.compare_document()),
        Act("compare demo", "Compare with the demo's earlier writing", lambda stage: stage.compare_demo()),
        Act("save report", "Save the comparison as te&xt …", lambda stage: stage.compare.save_report()),
    )),
    ("&Look", (
        *(Act(f"sides {name}", words, lambda stage, on, name=name: on and stage.picture.show_way(name),
              on=name == "folded") for name, words in WAYS.items()),
        LINE,
        *view_acts("sides"),
        LINE,
        Act("sides larger", "Lar&ger", lambda stage: stage.picture.zoom(1.25), ("Ctrl++", "Ctrl+=")),
        Act("sides smaller", "S&maller", lambda stage: stage.picture.zoom(0.8), ("Ctrl+-",)),
        Act("sides whole", "Show &all", lambda stage: stage.picture.fit(), ("Ctrl+0",)),
    )),
)  # fmt: skip
#: Of these one is on.
SIDES_GROUPS = (tuple(f"sides {name}" for name in WAYS), tuple(f"sides {name}" for name in VIEWS))
