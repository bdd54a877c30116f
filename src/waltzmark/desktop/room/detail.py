"""The fields of one part of a room: each of its figures, typed."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtWidgets import QGridLayout, QLineEdit, QWidget

from waltzmark.core.base.records import replace
from waltzmark.core.edit import rooms
from waltzmark.core.form.room import KINDS, Room
from waltzmark.core.room.things import called, named_wall
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label
from waltzmark.desktop.room.parts import Part, with_door, with_obstacle, with_tape
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.widgets.parts import choice_box
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = ["Detail"]

_KINDS = {
    "solid": tr("solid"),
    "low": tr("low: arms pass above it"),
    "support": tr("support: must not tip over"),
}
#: What is done with another room: its words come second.
Change = Callable[[Callable[[Room], Room], str], None]


class Detail(QWidget):
    """Shows the chosen part; made anew for another one. change: makes the room another; after: what has the keys
    before its fields."""

    def __init__(self, document: Document, change: Change, after: QWidget) -> None:
        super().__init__()
        self._document, self._change, self._after = document, change, after
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setColumnStretch(1, 1)
        self._shown: tuple[Room, Part] | None = None
        self._last: QWidget | None = None
        self.first: QWidget | None = None  # the field that a hand types into first

    def show_part(self, room: Room | None, part: Part | None) -> None:
        """Shows another part, or the same one as it is now."""
        if room is None or part is None:
            self._shown = None
            self._clear()
            return
        if (room, part) == self._shown:
            return
        focused = self._focused()
        self._shown = room, part
        self._clear()
        {
            "wall": self._wall,
            "corner": self._corner,
            "obstacle": self._obstacle,
            "size": self._obstacle,
            "door": self._door,
            "tape": self._tape,
        }[part.kind](room, part)
        if focused is not None:
            self._focus(focused)

    def _focused(self) -> str | None:
        at = self.focusWidget()
        return at.accessibleName() if at is not None and at.hasFocus() else None

    def _focus(self, name: str) -> None:
        for child in self.findChildren(QWidget):
            if child.accessibleName() == name:
                child.setFocus()

    def _clear(self) -> None:
        while (item := self._grid.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self.first = self._last = None

    # Rows.

    def _row(self, words: str, widget: QWidget) -> None:
        row = self._grid.rowCount()
        self._grid.addWidget(Label(words), row, 0)
        self._grid.addWidget(widget, row, 1)
        self.setTabOrder(self._last or self._after, widget)  # else what is made last comes last in the window
        self._last = widget
        widget.show()  # so that it can take the focus at once
        self.first = self.first or widget

    def _name(self, words: str, name: str, taken: Callable[[str], None]) -> None:
        field = QLineEdit(name)
        field.setAccessibleName(words)
        field.setMaxLength(60)
        field.editingFinished.connect(
            safely(lambda: taken(field.text().strip()) if field.text().strip() != name else None)
        )
        self._row(words, field)

    def _length(self, words: str, metres: float, taken: Callable[[float], None]) -> None:
        field = LengthField(self._document, words, 110)
        field.show_length(metres)
        field.changed.connect(safely(taken))
        self._row(words, field)

    def _choice(self, words: str, choices: list[str], now: int, taken: Callable[[int], None]) -> None:
        box = choice_box(words, narrow=True)
        box.setMinimumContentsLength(12)
        box.addItems(choices)
        box.setCurrentIndex(now)
        box.activated.connect(safely(taken))
        self._row(words, box)

    # Parts.

    def _wall(self, room: Room, part: Part) -> None:
        number = part.number
        name = dict(room.walls).get(number, "")

        def call(text: str) -> None:
            named = {wall: each for wall, each in room.walls if wall != number} | ({number: text} if text else {})
            self._change(
                lambda now: replace(now, walls=tuple(sorted(named.items()))),
                tr("name a wall {name}", name=text) if text else tr("remove the name of a wall"),
            )

        def measure(metres: float) -> None:
            self._change(lambda now: rooms.set_wall_length(now, number, metres), tr("measure a wall"))

        self._length(tr("Length"), math.dist(*room.wall(number)), measure)
        self._name(tr("Name"), name, call)

    def _corner(self, room: Room, part: Part) -> None:
        number = part.number
        x, y = room.outline[number]

        def move(to_x: float, to_y: float) -> None:
            self._change(lambda now: rooms.move_corner(now, number, to_x, to_y), tr("move a corner"))

        self._length(tr("From the left"), x, lambda v: move(v, y))
        self._length(tr("From the bottom"), y, lambda v: move(x, v))

    def _obstacle(self, room: Room, part: Part) -> None:
        number, each = part.number, room.obstacles[part.number]
        x, y, wide, deep = rooms.box_of(each)

        def other(words: str, make: Callable[[], object]) -> None:
            def changed(now: Room) -> Room:
                made = make()
                assert isinstance(made, type(each))
                return with_obstacle(now, number, made)

            self._change(changed, f"{words} {sentence(called(each.name))}")

        self._name(tr("Name"), each.name, lambda text: other("rename", lambda: replace(each, name=text or each.name)))
        self._choice(
            tr("Kind"),
            [_KINDS[kind] for kind in KINDS],
            KINDS.index(each.kind),
            lambda at: other(tr("say what is"), lambda: replace(each, kind=KINDS[at])),
        )
        self._length(tr("From the left"), x, lambda v: other("move", lambda: rooms.move_obstacle(each, v - x, 0.0)))
        self._length(tr("From the bottom"), y, lambda v: other("move", lambda: rooms.move_obstacle(each, 0.0, v - y)))
        across = tr("Across") if each.centre is not None else tr("Width")
        self._length(across, wide, lambda v: other("measure", lambda: rooms.resize_obstacle(each, v, deep)))
        if each.centre is None:
            self._length(tr("Depth"), deep, lambda v: other("measure", lambda: rooms.resize_obstacle(each, wide, v)))

    def _door(self, room: Room, part: Part) -> None:
        number, door = part.number, room.doors[part.number]
        walls = [sentence(named_wall(room, n), self._document.session.say) for n in range(len(room.outline))]

        def other(**changes: object) -> None:
            self._change(lambda now: with_door(now, number, replace(door, **changes)), tr("move a door"))  # type: ignore[arg-type]

        self._choice(tr("In"), walls, door.wall, lambda at: other(wall=at, at=0.0))
        self._length(tr("From its corner"), door.at, lambda v: other(at=v))
        self._length(tr("Leaf"), door.leaf, lambda v: other(leaf=v))
        self._choice(
            tr("Opens"),
            [tr("into the room (kept clear)"), tr("outward")],
            int(not door.inward),
            lambda at: other(inward=at == 0),
        )

    def _tape(self, room: Room, part: Part) -> None:
        number, piece = part.number, room.tape[part.number]

        def moved(end: int, axis: int, metres: float) -> None:
            ends = [list(each) for each in piece]
            ends[end][axis] = metres
            (a, b), (c, d) = ends
            self._change(lambda now: with_tape(now, number, ((a, b), (c, d))), tr("move a piece of tape"))

        def length(words: str, end: int, axis: int) -> None:
            self._length(words, piece[end][axis], lambda v: moved(end, axis, v))

        for end, which in enumerate((tr("One end"), tr("Other end"))):
            for axis, way in enumerate((tr("from the left"), tr("from the bottom"))):
                length(f"{which} {way}", end, axis)
