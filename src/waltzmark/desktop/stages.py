"""The stages, in the order of the work: a row each. To add one, write its folder and its row."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from waltzmark.core.base.records import Record
from waltzmark.desktop.actions import ByMenu
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.words.language import tr

__all__ = ["FIRST_SHOWN", "STAGES", "StageActs", "StageRow"]


class StageActs(Record):
    """What can be done in a stage, by menu; groups: names of acts of which one is on."""

    by_menu: ByMenu[Any]
    groups: tuple[tuple[str, ...], ...] = ()


class StageRow(Record):
    """A stage. title: in the menu and on its button, with ``&`` before its letter; key: its shortcut; purpose: what it
    is for, in one line; help: the heading of the guide that tells of it; make: makes it when it is first shown; acts:
    gives what can be done in it; answer: the number of the answer that opens it, -1 for none."""

    name: str
    title: str
    key: str
    purpose: str
    help: str
    make: Callable[[Desk], Stage]
    acts: Callable[[], StageActs]
    answer: int = -1


# A stage's widgets are imported when it is first shown, its acts when the menus are filled: the window need not wait
# for the others.


def _ready_acts() -> StageActs:
    from waltzmark.desktop.ready.acts import READY_ACTS

    return StageActs(READY_ACTS)


def _ready(desk: Desk) -> Stage:
    from waltzmark.desktop.ready.stage import ReadyStage

    return ReadyStage(desk)


def _words_acts() -> StageActs:
    from waltzmark.desktop.drafting.acts import WORDS_ACTS

    return StageActs(WORDS_ACTS)


def _words(desk: Desk) -> Stage:
    from waltzmark.desktop.drafting.stage import WordsStage

    return WordsStage(desk)


def _plot_acts() -> StageActs:
    from waltzmark.desktop.plot.acts import PLOT_ACTS, PLOT_GROUPS

    return StageActs(PLOT_ACTS, PLOT_GROUPS)


def _plot(desk: Desk) -> Stage:
    from waltzmark.desktop.plot.acts import COUNTS, POSTURES
    from waltzmark.desktop.plot.stage import PlotStage

    return PlotStage(desk, (*COUNTS, None, *POSTURES))


def _room_acts() -> StageActs:
    from waltzmark.desktop.room.acts import ROOM_ACTS

    return StageActs(ROOM_ACTS)


def _room(desk: Desk) -> Stage:
    from waltzmark.desktop.room.stage import RoomStage

    return RoomStage(desk)


def _sides_acts() -> StageActs:
    from waltzmark.desktop.sides.acts import SIDES_ACTS, SIDES_GROUPS

    return StageActs(SIDES_ACTS, SIDES_GROUPS)


def _sides(desk: Desk) -> Stage:
    from waltzmark.desktop.sides.stage import SidesStage

    return SidesStage(desk)


def _practise_acts() -> StageActs:
    from waltzmark.desktop.practise.acts import PRACTISE_ACTS, PRACTISE_GROUPS

    return StageActs(PRACTISE_ACTS, PRACTISE_GROUPS)


def _practise(desk: Desk) -> Stage:
    from waltzmark.desktop.practise.stage import PractiseStage

    return PractiseStage(desk)


def _log_acts() -> StageActs:
    from waltzmark.desktop.log.acts import LOG_ACTS

    return StageActs(LOG_ACTS)


def _log(desk: Desk) -> Stage:
    from waltzmark.desktop.log.stage import LogStage

    return LogStage(desk)


def _home_acts() -> StageActs:
    from waltzmark.desktop.returns.acts import HOME_ACTS

    return StageActs(HOME_ACTS)


def _home(desk: Desk) -> Stage:
    from waltzmark.desktop.returns.stage import ReturnStage

    return ReturnStage(desk)


STAGES = (
    StageRow(
        "ready",
        tr("&Ready"),
        "Ctrl+1",
        tr("the body that walks, others it is fitted to, and the school it is judged by"),
        "Ready: body, bodies and school",
        _ready,
        _ready_acts,
    ),
    StageRow(
        "words",
        tr("Wor&ds"),
        "Ctrl+2",
        tr("draft the form from what is said of it, count by count"),
        "Words: from what was said to a score",
        _words,
        _words_acts,
    ),
    StageRow(
        "plot",
        tr("&Plot"),
        "Ctrl+3",
        tr("write the form and watch it walked on the floor"),
        "Plot: write it and watch it walked",
        _plot,
        _plot_acts,
    ),
    StageRow(
        "room",
        tr("R&oom"),
        "Ctrl+4",
        tr("where to stand, what to change, what to tape, how many people fit"),
        "Room: where to stand",
        _room,
        _room_acts,
        answer=0,
    ),
    StageRow(
        "return",
        tr("R&eturn"),
        "Ctrl+5",
        tr("where each posture takes you, how to come home, and loops"),
        "Return: the way home",
        _home,
        _home_acts,
        answer=1,
    ),
    StageRow(
        "sides",
        tr("&Sides"),
        "Ctrl+6",
        tr("whether both sides mirror, and what differs between two forms"),
        "Sides: whether it mirrors, and how it compares",
        _sides,
        _sides_acts,
        answer=2,
    ),
    StageRow(
        "practise",
        tr("Pr&actise"),
        "Ctrl+7",
        tr("walk it, drill it, recall it, feel the weight, check the turns"),
        "Practise: walk, drill and recall",
        _practise,
        _practise_acts,
    ),
    StageRow(
        "log",
        tr("Lo&g"),
        "Ctrl+8",
        tr("what you practised, how your measures change, and what to do next"),
        "Log: what you did, and what is next",
        _log,
        _log_acts,
    ),
)
FIRST_SHOWN = "plot"
