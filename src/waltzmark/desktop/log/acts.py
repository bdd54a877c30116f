"""What can be done in the Log stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import LINE, Act

__all__ = ["LOG_ACTS"]

LOG_ACTS = (
    ("Lo&g", (
        Act("face next", "What to do &next", lambda stage: stage.show_face("next"), ("Alt+1",)),
        Act("face measures", "&Measures over time", lambda stage: stage.show_face("measures"), ("Alt+2",)),
        Act("face book", "The &book", lambda stage: stage.show_face("book"), ("Alt+3",)),
        LINE,
        Act("undo log", "&Undo in the book", lambda stage: stage.undo(), ("Ctrl+Alt+Z",)),
        Act("delete entry", "&Delete the entries that are chosen", lambda stage: stage.book.delete(), ("Del",)),
        Act("correct entry", "&Correct the entry …", lambda stage: stage.book.correct(), ("F2",)),
        Act("write note", "&Write a note …", lambda stage: stage.book.write_note()),
        LINE,
        Act("export book csv", "Export as CS&V …", lambda stage: stage.export("csv")),
        Act("export book json", "Export as &JSON …", lambda stage: stage.export("json")),
        Act("import book", "&Import …", lambda stage: stage.take_in()),
        LINE,
        Act("demo book", "Show the demo's book", lambda stage: stage.show_demo()),
        Act("own book", "Show your &own book", lambda stage: stage.show_own()),
    )),
)  # fmt: skip
