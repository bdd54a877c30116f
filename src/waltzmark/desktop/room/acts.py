"""What can be done in the Room stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.room.stage import RoomStage

__all__ = ["ROOM_ACTS"]


def _nudge(name: str, words: str, key: str, dx: float, dy: float, turn: float = 0.0) -> Act[RoomStage]:
    return Act(name, words, lambda stage: stage.nudge(dx, dy, turn), (key,))


ROOM_ACTS: ByMenu[RoomStage] = (
    (
        tr("&Room"),
        (
            Act("face place", tr("&Place: where to stand"), lambda stage: stage.show_face("place"), ("Alt+1",)),
            Act("face room", tr("&Room: walls and furniture"), lambda stage: stage.show_face("room"), ("Alt+2",)),
            Act("face tape", tr("&Tape: marks on the floor"), lambda stage: stage.show_face("tape"), ("Alt+3",)),
            Act("face class", tr("&Class: how many people fit"), lambda stage: stage.show_face("class"), ("Alt+4",)),
            LINE,
            Act("tightest", tr("Tigh&test count"), lambda stage: stage.go_to_tightest(), ("F4",)),
            Act("best here", tr("&Best place for this facing"), lambda stage: stage.place.best_here(), ("Ctrl+B",)),
            Act("take", tr("Apply the pre&view"), lambda stage: stage.place.take(), ("Ctrl+Return",)),
            LINE,
            _nudge("start left", tr("Move &left"), "Ctrl+Left", -0.01, 0.0),
            _nudge("start right", tr("Move ri&ght"), "Ctrl+Right", 0.01, 0.0),
            _nudge("start up", tr("Move &up"), "Ctrl+Up", 0.0, 0.01),
            _nudge("start down", tr("Move &down"), "Ctrl+Down", 0.0, -0.01),
            _nudge("start cw", tr("Turn cloc&kwise"), "Ctrl+]", 0.0, 0.0, 1.0),
            _nudge("start ccw", tr("Turn co&unter-clockwise"), "Ctrl+[", 0.0, 0.0, -1.0),
            LINE,
            Act("add box", tr("Add a rectan&gle"), lambda stage: stage.put("box")),
            Act("add circle", tr("Add a c&ircle"), lambda stage: stage.put("circle")),
            Act("add door", tr("Add a d&oor"), lambda stage: stage.put("door")),
            Act("add tape", tr("Add a piece of t&ape"), lambda stage: stage.put("tape")),
            Act("add corner", tr("Add a cor&ner to the wall"), lambda stage: stage.put("corner")),
            Act("take out", tr("Remo&ve the part"), lambda stage: stage.take_out(), ("Ctrl+Del",)),
            LINE,
            Act("new room", tr("New roo&m of 5 × 4 m"), lambda stage: stage.new_room()),
            Act("import plan", tr("Import a plan (&DXF) …"), lambda stage: stage.import_plan()),
            Act("export plan", tr("Export the plan as D&XF …"), lambda stage: stage.export_plan()),
        ),
    ),
    (
        tr("&Look"),
        (
            Act("room larger", tr("Lar&ger"), lambda stage: stage.plan.zoom(1.25), ("Ctrl++", "Ctrl+=")),
            Act("room smaller", tr("S&maller"), lambda stage: stage.plan.zoom(0.8), ("Ctrl+-",)),
            Act("room whole", tr("Show the &whole room"), lambda stage: stage.plan.fit(), ("Ctrl+0",)),
        ),
    ),
)
