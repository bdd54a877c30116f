"""What can be done in the Room stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import LINE, Act

__all__ = ["ROOM_ACTS"]


def _nudge(name: str, words: str, key: str, dx: float, dy: float, turn: float = 0.0) -> Act:
    return Act(name, words, lambda stage: stage.nudge(dx, dy, turn), (key,))


ROOM_ACTS = (
    ("&Room", (
        Act("face place", "&Place: where to stand", lambda stage: stage.show_face("place"), ("Alt+1",)),
        Act("face room", "&Room: walls and what stands there", lambda stage: stage.show_face("room"), ("Alt+2",)),
        Act("face tape", "&Tape: what to lay on the floor", lambda stage: stage.show_face("tape"), ("Alt+3",)),
        Act("face class", "&Class: how many at once", lambda stage: stage.show_face("class"), ("Alt+4",)),
        LINE,
        Act("tightest", "Tigh&test count", lambda stage: stage.go_to_tightest(), ("F4",)),
        Act("best here", "&Best place facing so", lambda stage: stage.place.best_here(), ("Ctrl+B",)),
        Act("take", "Take what is pre&viewed", lambda stage: stage.place.take(), ("Ctrl+Return",)),
        LINE,
        _nudge("start left", "Move &left", "Ctrl+Left", -0.01, 0.0),
        _nudge("start right", "Move ri&ght", "Ctrl+Right", 0.01, 0.0),
        _nudge("start up", "Move &up", "Ctrl+Up", 0.0, 0.01),
        _nudge("start down", "Move &down", "Ctrl+Down", 0.0, -0.01),
        _nudge("start cw", "Turn cloc&kwise", "Ctrl+]", 0.0, 0.0, 1.0),
        _nudge("start ccw", "Turn co&unter-clockwise", "Ctrl+[", 0.0, 0.0, -1.0),
        LINE,
        Act("add box", "Add a rectan&gle", lambda stage: stage.put("box")),
        Act("add circle", "Add a c&ircle", lambda stage: stage.put("circle")),
        Act("add door", "Add a d&oor", lambda stage: stage.put("door")),
        Act("add tape", "Add a piece of t&ape", lambda stage: stage.put("tape")),
        Act("add corner", "Add a cor&ner to the wall", lambda stage: stage.put("corner")),
        Act("take out", "Ta&ke the part out", lambda stage: stage.take_out(), ("Ctrl+Del",)),
        LINE,
        Act("new room", "New roo&m …", lambda stage: stage.new_room()),
        Act("import plan", "Read a plan (&DXF) …", lambda stage: stage.import_plan()),
        Act("export plan", "Write the plan as D&XF …", lambda stage: stage.export_plan()),
    )),
    ("&Look", (
        Act("room larger", "Lar&ger", lambda stage: stage.plan.zoom(1.25), ("Ctrl++", "Ctrl+=")),
        Act("room smaller", "S&maller", lambda stage: stage.plan.zoom(0.8), ("Ctrl+-",)),
        Act("room whole", "Show the &whole room", lambda stage: stage.plan.fit(), ("Ctrl+0",)),
    )),
)  # fmt: skip
