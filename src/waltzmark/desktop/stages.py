"""The stages, in the order of the work: a row each. To add one, write its folder and its row."""

from __future__ import annotations

from collections.abc import Callable

from waltzmark.core.base.records import record
from waltzmark.desktop.actions import Act
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.home.acts import HOME_ACTS
from waltzmark.desktop.log.acts import LOG_ACTS
from waltzmark.desktop.plot.acts import PLOT_ACTS, PLOT_GROUPS
from waltzmark.desktop.practise.acts import PRACTISE_ACTS, PRACTISE_GROUPS
from waltzmark.desktop.ready.acts import READY_ACTS
from waltzmark.desktop.room.acts import ROOM_ACTS
from waltzmark.desktop.sides.acts import SIDES_ACTS, SIDES_GROUPS

__all__ = ["FIRST_SHOWN", "STAGES", "StageRow"]


@record
class StageRow:
    """A stage. title: in the menu and on its button, with ``&`` before its letter; key: its shortcut; purpose: what it
    is for, in one line; help: the heading of the guide that tells of it; make: makes it when it is first shown; acts:
    what can be done in it, by menu; answer: the number of the answer that opens it, -1 for none; groups: names of acts
    of which one is on."""

    name: str
    title: str
    key: str
    purpose: str
    help: str
    make: Callable[[Desk], Stage]
    acts: tuple[tuple[str, tuple[Act | None, ...]], ...] = ()
    answer: int = -1
    groups: tuple[tuple[str, ...], ...] = ()


# A stage's widgets are imported when it is first shown: the window need not wait for the others.


def _ready(desk: Desk) -> Stage:
    from waltzmark.desktop.ready.stage import ReadyStage

    return ReadyStage(desk)


def _plot(desk: Desk) -> Stage:
    from waltzmark.desktop.plot.stage import PlotStage

    return PlotStage(desk)


def _room(desk: Desk) -> Stage:
    from waltzmark.desktop.room.stage import RoomStage

    return RoomStage(desk)


def _sides(desk: Desk) -> Stage:
    from waltzmark.desktop.sides.stage import SidesStage

    return SidesStage(desk)


def _practise(desk: Desk) -> Stage:
    from waltzmark.desktop.practise.stage import PractiseStage

    return PractiseStage(desk)


def _log(desk: Desk) -> Stage:
    from waltzmark.desktop.log.stage import LogStage

    return LogStage(desk)


def _home(desk: Desk) -> Stage:
    from waltzmark.desktop.home.stage import HomeStage

    return HomeStage(desk)


STAGES = (
    StageRow("ready", "&Ready", "Ctrl+1", "whose body walks, and by which school it is judged",
             "Ready: body and school", _ready, READY_ACTS),
    StageRow("plot", "&Plot", "Ctrl+2", "write the form and see it walked on the floor",
             "Plot: write it, and see it walked", _plot, PLOT_ACTS, groups=PLOT_GROUPS),
    StageRow("room", "R&oom", "Ctrl+3", "where to stand, what to change, what to tape, how many at once",
             "Room: where to stand", _room, ROOM_ACTS, answer=0),
    StageRow("return", "R&eturn", "Ctrl+4", "what carries it away, what brings it home, and its loops",
             "Return: the way home", _home, HOME_ACTS, answer=1),
    StageRow("sides", "&Sides", "Ctrl+5", "whether both sides mirror, and what differs between two forms",
             "Sides: does it mirror, and how does it compare", _sides, SIDES_ACTS, answer=2, groups=SIDES_GROUPS),
    StageRow("practise", "Pr&actise", "Ctrl+6", "walk it, drill it, recall it, feel the weight, check the turns",
             "Practise: into the legs", _practise, PRACTISE_ACTS, groups=PRACTISE_GROUPS),
    StageRow("log", "Lo&g", "Ctrl+7", "what was practised, how measures go, and what to do next",
             "Log: what was done, and what is next", _log, LOG_ACTS),
)  # fmt: skip
FIRST_SHOWN = "plot"
