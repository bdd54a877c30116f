"""What can be done in the Plot stage, by menu."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from waltzmark.desktop.actions import LINE, Act
from waltzmark.desktop.plot.camera import VIEWS, view_acts

__all__ = ["COUNTS", "PLOT_ACTS", "PLOT_GROUPS", "POSTURES", "Acts"]

Acts = tuple[Act | None, ...]


def _tried(run: Callable[[Any], object]) -> Callable[[Any], object]:
    """An edit that tells why, where it cannot be done."""
    return lambda plot: plot.desk.asking.attempt(lambda: run(plot))


def _edit(name: str, words: str, run: Callable[[Any], object], *keys: str) -> Act:
    return Act(name, words, _tried(run), keys)


def _overlay(name: str, words: str, key: str) -> Act:
    return Act(name, words, lambda plot, on: plot.floor.set_overlays(**{name: on}), (key,), on=False)


COUNTS: Acts = (
    _edit("change", "&Change the count", lambda plot: plot.entry.change_selected(), "F2"),
    _edit("new count", "Ne&w count", lambda plot: plot.editing.new_count(), "Ins"),
    LINE,
    _edit("cut", "Cu&t counts", lambda plot: plot.editing.cut(), "Ctrl+X"),
    _edit("copy", "&Copy counts", lambda plot: plot.editing.copy(), "Ctrl+C"),
    _edit("paste", "&Paste counts", lambda plot: plot.editing.paste(), "Ctrl+V"),
    _edit("delete", "&Delete counts", lambda plot: plot.editing.editor.remove(), "Del"),
    _edit("duplicate", "Du&plicate counts", lambda plot: plot.editing.editor.duplicate(), "Ctrl+Shift+D"),
    LINE,
    _edit("up", "Move counts &up", lambda plot: plot.editing.editor.move(-1), "Alt+Up"),
    _edit("down", "Move counts do&wn", lambda plot: plot.editing.editor.move(1), "Alt+Down"),
    _edit("beats", "&Beats …", lambda plot: plot.editing.beats(), "Ctrl+B"),
)
POSTURES: Acts = (
    _edit("add", "&New posture …", lambda plot: plot.editing.add(), "Ctrl+Shift+N"),
    _edit("rename", "&Rename …", lambda plot: plot.editing.rename(), "Shift+F2"),
    _edit("ends", "&Facing it ends in …", lambda plot: plot.editing.ends()),
    _edit("note", "No&te …", lambda plot: plot.editing.note()),
    LINE,
    _edit("other side", "Make the &other side …", lambda plot: plot.editing.other_side(), "Ctrl+M"),
    _edit("repeat", "Re&peat it …", lambda plot: plot.editing.repeat(), "Ctrl+R"),
    _edit("axis", "Mirror &line or turn …", lambda plot: plot.editing.way()),
    _edit("side", "It is the other side o&f …", lambda plot: plot.editing.side()),
    _edit("detach", "Give it counts of its o&wn", lambda plot: plot.editing.editor.detach()),
    LINE,
    _edit("split", "&Split before this count", lambda plot: plot.editing.editor.split_posture()),
    _edit("join", "&Join with the next", lambda plot: plot.editing.editor.join_posture()),
    _edit("duplicate posture", "D&uplicate posture", lambda plot: plot.editing.editor.duplicate_posture()),
    _edit("posture up", "Move posture &up", lambda plot: plot.editing.editor.move_posture(-1), "Ctrl+Shift+Up"),
    _edit("posture down", "Move posture do&wn", lambda plot: plot.editing.editor.move_posture(1), "Ctrl+Shift+Down"),
    LINE,
    _edit("delete posture", "&Delete posture", lambda plot: plot.editing.editor.delete_posture(), "Ctrl+Shift+Del"),
)
PLOT_ACTS: tuple[tuple[str, Acts], ...] = (
    ("&Edit", (
        Act("keep", "&Keep what follows where it was", lambda plot: plot.offer.take(), ("Ctrl+K",)),
        LINE,
        Act("find", "&Find and replace …", lambda plot: plot.begin_search(), ("Ctrl+F",)),
        Act("type", "T&ype a count", lambda plot: plot.entry.field.setFocus(), ("Ctrl+E",)),
        LINE,
        *COUNTS,
    )),
    ("&Posture", POSTURES),
    ("&Look", (
        Act("larger", "&Larger", lambda plot: plot.floor.zoom(1.25), ("Ctrl++", "Ctrl+="), sign="larger"),
        Act("smaller", "S&maller", lambda plot: plot.floor.zoom(0.8), ("Ctrl+-",), sign="smaller"),
        Act("whole room", "Show the &whole room", lambda plot: plot.show_whole_room(), ("Ctrl+0",), sign="fit"),
        Act("follow", "Follow the &feet", lambda plot, on: plot.floor.set_following(on), ("F6",), on=True,
            sign="follow"),
        Act("own facing", "Own facing &up", lambda plot, on: plot.floor.set_own_facing(on), ("Ctrl+U",), on=False,
            sign="own"),
        LINE,
        *view_acts("plot"),
        LINE,
        Act("text", "Score as te&xt", lambda plot, on: plot.show_text(on), ("Ctrl+T",), on=False),
        Act("findings", "F&indings", lambda plot, on: plot.show_findings(on), ("F8",), on=False),
        Act("next finding", "Next finding", lambda plot: plot.step_finding(1), ("F4",)),
        Act("previous finding", "Previous finding", lambda plot: plot.step_finding(-1), ("Shift+F4",)),
        Act("mend", "Me&nd the finding", lambda plot: plot.findings.mending.mend(), ("F7",)),
        Act("leave", "L&eave the finding so …", lambda plot: plot.findings.mending.ask_where(), ("Shift+F7",)),
        LINE,
        _overlay("support", "Support and &balance", "Shift+F8"),
        _overlay("reach", "&Reach of the empty foot", "Ctrl+F8"),
        _overlay("hips", "Room of &hips and waist", "Ctrl+Shift+F8"),
    )),
)  # fmt: skip
#: Of these one is on.
PLOT_GROUPS = (tuple(f"plot {name}" for name in VIEWS),)
