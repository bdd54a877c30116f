"""What can be done in the Ready stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import Act, ByMenu
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.ready.stage import ReadyStage

__all__ = ["READY_ACTS"]


READY_ACTS: ByMenu[ReadyStage] = (
    (
        tr("&Look"),
        (
            Act("body page", tr("&Body"), lambda ready: ready.show_page(0), ("Alt+1",)),
            Act("bodies page", tr("Bo&dies"), lambda ready: ready.show_page(1), ("Alt+2",)),
            Act("school page", tr("S&chool"), lambda ready: ready.show_page(2), ("Alt+3",)),
        ),
    ),
    (
        tr("&Edit"),
        (Act("add person", tr("Add a &person"), lambda ready: ready.add_person(), ("Ctrl+Shift+A",)),),
    ),
    (
        tr("&File"),
        (
            Act("make theirs", tr("&Make it theirs"), lambda ready: ready.bodies.make_theirs(), ("Ctrl+Shift+M",)),
            Act("class sheet", tr("Class sh&eet …"), lambda ready: ready.bodies.class_sheet(), ("Ctrl+Shift+P",)),
        ),
    ),
)
