"""What can be done in the Ready stage, by menu."""

from __future__ import annotations

from waltzmark.desktop.actions import Act

__all__ = ["READY_ACTS"]


READY_ACTS: tuple[tuple[str, tuple[Act | None, ...]], ...] = (
    ("&Look", (
        Act("body page", "&Body", lambda ready: ready.show_page(0), ("Alt+1",)),
        Act("school page", "S&chool", lambda ready: ready.show_page(1), ("Alt+2",)),
    )),
)  # fmt: skip
