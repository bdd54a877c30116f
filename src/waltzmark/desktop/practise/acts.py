"""What can be done in the Practise stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import LINE, Act
from waltzmark.desktop.plot.camera import VIEWS, view_acts

__all__ = ["PRACTISE_ACTS", "PRACTISE_GROUPS"]

PRACTISE_ACTS = (
    ("Pra&ctise", (
        Act("face walk", "&Walk it", lambda stage: stage.show_face("walk"), ("Alt+1",)),
        Act("face drill", "&Drill it", lambda stage: stage.show_face("drill"), ("Alt+2",)),
        Act("face recall", "&Recall it", lambda stage: stage.show_face("recall"), ("Alt+3",)),
        Act("face scales", "Feel the weight: &scales", lambda stage: stage.show_face("scales"), ("Alt+4",)),
        Act("face turns", "Check the &turns", lambda stage: stage.show_face("turns"), ("Alt+5",)),
        LINE,
        Act("practise", "&Begin, or pause", lambda stage: stage.press(), ("Ctrl+Return",)),
        Act("end practice", "&End it", lambda stage: stage.end_it()),
        Act("ask me", "&Ask me, or show the answer", lambda stage: stage.ask(), ("F4",)),
        Act("take range", "&Let the body have the range", lambda stage: stage.turns.take_offer()),
        LINE,
        Act("save cues", "Sa&ve the cues as a track …", lambda stage: stage.walk.save_cues()),
        Act("person", "&Who practises …", lambda stage: stage.name_person()),
    )),
    ("&Look", view_acts("practise")),
)  # fmt: skip
#: Of these one is on.
PRACTISE_GROUPS = (tuple(f"practise {name}" for name in VIEWS),)
