"""What can be done in the Plot stage, by menu."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, Acts, ByMenu, Switch
from waltzmark.desktop.widgets.camera import VIEWS, view_acts
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.plot.stage import PlotStage

__all__ = ["COUNTS", "PLOT_ACTS", "PLOT_GROUPS", "POSTURES"]


def _tried(run: Callable[[PlotStage], object]) -> Callable[[PlotStage], object]:
    """An edit that tells why, where it cannot be done."""
    return lambda plot: plot.desk.asking.attempt(lambda: run(plot))


def _edit(name: str, words: str, run: Callable[[PlotStage], object], *keys: str) -> Act[PlotStage]:
    return Act(name, words, _tried(run), keys)


def _overlay(name: str, words: str, key: str) -> Switch[PlotStage]:
    return Switch(name, words, lambda plot, on: plot.floor.set_overlays(**{name: on}), (key,), on=False)


COUNTS: Acts[PlotStage] = (
    _edit("change", tr("&Change the count"), lambda plot: plot.entry.change_selected(), "F2"),
    _edit("new count", tr("Ne&w count"), lambda plot: plot.editing.new_count(), "Ins"),
    LINE,
    _edit("cut", tr("Cu&t counts"), lambda plot: plot.editing.cut(), "Ctrl+X"),
    _edit("copy", tr("&Copy counts"), lambda plot: plot.editing.copy(), "Ctrl+C"),
    _edit("paste", tr("&Paste counts"), lambda plot: plot.editing.paste(), "Ctrl+V"),
    _edit("delete", tr("&Delete counts"), lambda plot: plot.editing.editor.remove(), "Del"),
    _edit("duplicate", tr("Du&plicate counts"), lambda plot: plot.editing.editor.duplicate(), "Ctrl+Shift+D"),
    LINE,
    _edit("up", tr("Move counts &up"), lambda plot: plot.editing.editor.move(-1), "Alt+Up"),
    _edit("down", tr("Move counts do&wn"), lambda plot: plot.editing.editor.move(1), "Alt+Down"),
    _edit("beats", tr("&Beats …"), lambda plot: plot.editing.beats(), "Ctrl+B"),
)
POSTURES: Acts[PlotStage] = (
    _edit("add", tr("&New posture …"), lambda plot: plot.editing.add(), "Ctrl+Shift+N"),
    _edit("rename", tr("&Rename …"), lambda plot: plot.editing.rename(), "Shift+F2"),
    _edit("ends", tr("&Facing it ends in …"), lambda plot: plot.editing.ends()),
    _edit("note", tr("No&te …"), lambda plot: plot.editing.note()),
    LINE,
    _edit("other side", tr("Make the &other side …"), lambda plot: plot.editing.other_side(), "Ctrl+M"),
    _edit("repeat", tr("Re&peat it …"), lambda plot: plot.editing.repeat(), "Ctrl+R"),
    _edit("axis", tr("Mirror &line or turn …"), lambda plot: plot.editing.way()),
    _edit("side", tr("Set it as the other side o&f …"), lambda plot: plot.editing.side()),
    _edit("detach", tr("Make its counts in&dependent"), lambda plot: plot.editing.editor.detach()),
    LINE,
    _edit("split", tr("&Split before this count"), lambda plot: plot.editing.editor.split_posture()),
    _edit("join", tr("&Join with the next posture"), lambda plot: plot.editing.editor.join_posture()),
    _edit("duplicate posture", tr("D&uplicate posture"), lambda plot: plot.editing.editor.duplicate_posture()),
    _edit("posture up", tr("Move posture &up"), lambda plot: plot.editing.editor.move_posture(-1), "Ctrl+Shift+Up"),
    _edit(
        "posture down", tr("Move posture do&wn"), lambda plot: plot.editing.editor.move_posture(1), "Ctrl+Shift+Down"
    ),
    LINE,
    _edit("delete posture", tr("&Delete posture"), lambda plot: plot.editing.editor.delete_posture(), "Ctrl+Shift+Del"),
)
PLOT_ACTS: ByMenu[PlotStage] = (
    (
        tr("&Edit"),
        (
            Act("keep", tr("&Keep later steps where they were"), lambda plot: plot.offer.take(), ("Ctrl+K",)),
            LINE,
            Act("find", tr("&Find and replace …"), lambda plot: plot.begin_search(), ("Ctrl+F",)),
            Act("type", tr("Write a co&unt"), lambda plot: plot.entry.field.setFocus(), ("Ctrl+E",)),
            LINE,
            *COUNTS,
        ),
    ),
    (tr("&Posture"), POSTURES),
    (
        tr("&Look"),
        (
            Act("larger", tr("&Larger"), lambda plot: plot.floor.zoom(1.25), ("Ctrl++", "Ctrl+="), sign="larger"),
            Act("smaller", tr("S&maller"), lambda plot: plot.floor.zoom(0.8), ("Ctrl+-",), sign="smaller"),
            Act("whole room", tr("Show the &whole room"), lambda plot: plot.show_whole_room(), ("Ctrl+0",), sign="fit"),
            Switch(
                "follow",
                tr("Follow the &feet"),
                lambda plot, on: plot.floor.set_following(on),
                ("F6",),
                on=True,
                sign="follow",
            ),
            Switch(
                "own facing",
                tr("Turn the floor so that &up is your facing"),
                lambda plot, on: plot.floor.set_own_facing(on),
                ("Ctrl+U",),
                on=False,
                sign="own",
            ),
            LINE,
            *view_acts("plot"),
            LINE,
            Act(
                "figure",
                tr("Fi&gure beside the floor, alone, or hidden"),
                lambda plot: plot.next_figure(),
                ("F9",),
                sign="figure",
            ),
            Switch(
                "head height", tr("Height of the hea&d"), lambda plot, on: plot.show_head(on), ("Shift+F9",), on=True
            ),
            LINE,
            Switch("text", tr("Score as te&xt"), lambda plot, on: plot.show_text(on), ("Ctrl+T",), on=False),
            Switch("findings", tr("F&indings"), lambda plot, on: plot.show_findings(on), ("F8",), on=False),
            Act("next finding", tr("Next finding"), lambda plot: plot.step_finding(1), ("F4",)),
            Act("previous finding", tr("Previous finding"), lambda plot: plot.step_finding(-1), ("Shift+F4",)),
            Act("mend", tr("Fi&x the finding"), lambda plot: plot.findings.mending.mend(), ("F7",)),
            Act("leave", tr("I&gnore the finding …"), lambda plot: plot.findings.mending.ask_where(), ("Shift+F7",)),
            LINE,
            _overlay("support", tr("Support and &balance"), "Shift+F8"),
            _overlay("reach", tr("&Reach of the empty foot"), "Ctrl+F8"),
            _overlay("hips", tr("Range of &hips and waist"), "Ctrl+Shift+F8"),
        ),
    ),
)
#: Of these one is on.
PLOT_GROUPS = (tuple(f"plot {name}" for name in VIEWS),)
