"""What can be done in the Practise stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu, Switch
from waltzmark.desktop.widgets.camera import VIEWS, view_acts
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.practise.stage import PractiseStage

__all__ = ["PRACTISE_ACTS", "PRACTISE_GROUPS"]

PRACTISE_ACTS: ByMenu[PractiseStage] = (
    (
        tr("Pra&ctise"),
        (
            Act("face walk", tr("&Walk it"), lambda stage: stage.show_face("walk"), ("Alt+1",)),
            Act("face drill", tr("&Drill it"), lambda stage: stage.show_face("drill"), ("Alt+2",)),
            Act("face recall", tr("&Recall it"), lambda stage: stage.show_face("recall"), ("Alt+3",)),
            Act("face scales", tr("Feel the weight: &scales"), lambda stage: stage.show_face("scales"), ("Alt+4",)),
            Act("face turns", tr("Check the &turns"), lambda stage: stage.show_face("turns"), ("Alt+5",)),
            LINE,
            Act("practise", tr("&Start or pause"), lambda stage: stage.press(), ("Ctrl+Return",)),
            Act("end practice", tr("&End the exercise"), lambda stage: stage.end_it()),
            Act("ask me", tr("&Ask me, or show the answer"), lambda stage: stage.ask(), ("F4",)),
            Act("take range", tr("&Update the body with this range"), lambda stage: stage.turns.take_offer()),
            LINE,
            Act("save cues", tr("Sa&ve the cues as a subtitle track …"), lambda stage: stage.walk.save_cues()),
            Act("person", tr("&Who is practising …"), lambda stage: stage.name_person()),
        ),
    ),
    (
        tr("&Look"),
        (
            *view_acts("practise"),
            LINE,
            Switch(
                "practise figure",
                tr("Fi&gure from the side"),
                lambda stage, on: stage.show_figure(on),
                ("F9",),
                on=False,
                sign="figure",
            ),
        ),
    ),
)
#: Of these one is on.
PRACTISE_GROUPS = (tuple(f"practise {name}" for name in VIEWS),)
