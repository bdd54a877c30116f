"""What can be done in the Log stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.log.stage import LogStage

__all__ = ["LOG_ACTS"]

LOG_ACTS: ByMenu[LogStage] = (
    (
        tr("Lo&g"),
        (
            Act("face next", tr("What to do &next"), lambda stage: stage.show_face("next"), ("Alt+1",)),
            Act("face measures", tr("&Measures over time"), lambda stage: stage.show_face("measures"), ("Alt+2",)),
            Act("face book", tr("The &book"), lambda stage: stage.show_face("book"), ("Alt+3",)),
            LINE,
            Act("undo log", tr("&Undo in the practice book"), lambda stage: stage.undo(), ("Ctrl+Alt+Z",)),
            Act("add practice", tr("&Add practice …"), lambda stage: stage.book.add(), ("Ins",)),
            Act("delete entry", tr("&Delete the selected entries"), lambda stage: stage.book.delete(), ("Del",)),
            Act("correct entry", tr("&Correct the entry …"), lambda stage: stage.book.correct(), ("F2",)),
            Act("write note", tr("&Write a note …"), lambda stage: stage.book.write_note()),
            LINE,
            Act("export book csv", tr("Export as CS&V …"), lambda stage: stage.export("csv")),
            Act("export book json", tr("Export as &JSON …"), lambda stage: stage.export("json")),
            Act("import book", tr("&Import …"), lambda stage: stage.take_in()),
            LINE,
            Act("demo book", tr("Show the &demo’s practice book"), lambda stage: stage.show_demo()),
            Act("own book", tr("Show your &own practice book"), lambda stage: stage.show_own()),
        ),
    ),
)
