"""The room itself: walls, what stands there, doors and lines, dragged on the plan or typed beside it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QTransform
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QMenu,
    QSizePolicy,
    QToolButton,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.edit import rooms
from waltzmark.core.form.room import Room
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.standing import draw_cross
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.room.detail import Detail
from waltzmark.desktop.room.face import RoomFace
from waltzmark.desktop.room.measured import draw_measured
from waltzmark.desktop.room.parts import (
    Part,
    added,
    described,
    dragged,
    held_at,
    part_at,
    part_name,
    parts_of_room,
    removed,
    with_obstacle,
)
from waltzmark.desktop.room.search import RoomSearch
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.lengths import LengthField, named
from waltzmark.desktop.widgets.parts import choice_box, push_button, refill
from waltzmark.files import library
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["MakingFace"]

_NEW = (
    ("box", tr("A rectangle")),
    ("circle", tr("A circle")),
    ("door", tr("A door")),
    ("tape", tr("A piece of tape")),
    ("corner", tr("A corner in the wall")),
)


class MakingFace(RoomFace):
    """Everything of the room that can be changed."""

    name = tr("Room")
    purpose = tr("Walls, furniture, doors and floor lines")
    legend = tr("Drag corners, walls and furniture. Click a figure to type it; double-click a wall to add a corner.")

    def __init__(self, desk: Desk, search: RoomSearch) -> None:
        super().__init__(desk, search)
        self.part: Part | None = None
        self._taken: tuple[Part, QPointF] | None = None
        self._problem = ""
        self._own = False
        self._kept: tuple[Room, ...] = ()
        self._head()
        self._lines()
        self.heading(tr("Parts of the room"))
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Parts of the room"))
        self.list.setMinimumHeight(84)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Expanding)
        self.list.currentRowChanged.connect(safely(self._chosen))
        self.column.addWidget(self.list, 1)
        row = QHBoxLayout()
        self.add = QToolButton()
        self.add.setText(tr("Add"))
        set_tip(self.add, tr("Adds something to the room"))
        self.add.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.add.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        menu = QMenu(self.add)
        for kind, words in _NEW:
            menu.addAction(words).triggered.connect(safely(lambda _checked=False, kind=kind: self.put(kind)))
        self.add.setMenu(menu)
        self.delete = push_button(tr("Remove"), self.take_out)
        row.addWidget(self.add)
        row.addWidget(self.delete)
        row.addStretch(1)
        self.column.addLayout(row)
        self.detail = Detail(self.document, self.change, self.delete)
        self.column.addWidget(self.detail)

    def _head(self) -> None:
        row = QHBoxLayout()
        self.kept = choice_box(tr("Saved rooms"), narrow=True)
        self.kept.setMinimumContentsLength(12)
        set_tip(self.kept, tr("Use a saved room"))
        self.kept.activated.connect(safely(self._take))
        keep = push_button(tr("Save as …"), self._keep, tr("Saves this room under its name, to use in other forms"))
        row.addWidget(self.kept, 1)
        row.addWidget(keep)
        self.column.addLayout(row)
        grid = QGridLayout()
        self.named = QLineEdit()
        self.named.setAccessibleName(tr("Name of the room"))
        self.named.setMaxLength(60)
        self.named.editingFinished.connect(safely(self._rename))
        self.clearance = named(LengthField(self.document, tr("Clearance")), self._around)
        self.behind = named(LengthField(self.document, tr("Clearance behind backward steps")), self._behind)
        self.arms = QCheckBox(tr("Arms need clearance"))
        set_tip(self.arms, tr("Whether the arms need clearance too, not only the feet and body"))
        self.arms.clicked.connect(safely(self._let_arms))
        grid.addWidget(Label(tr("Name")), 0, 0)
        grid.addWidget(self.named, 0, 1, 1, 2)
        for number, (words, field) in enumerate(((tr("Clearance"), self.clearance), (tr("behind"), self.behind)), 1):
            grid.addWidget(Label(words), number, 0)
            grid.addWidget(field, number, 1)
        grid.addWidget(self.arms, 1, 2)
        self.column.addLayout(grid)

    def _lines(self) -> None:
        grid = QGridLayout()
        self.tiles = QComboBox()
        self.tiles.setAccessibleName(tr("Floor lines"))
        self.tiles.setFixedWidth(112)
        self.tiles.addItems([tr("Boards"), tr("Tiles")])
        self.tiles.activated.connect(safely(lambda at: self._set_lines(tr("choose boards or tiles"), tiles=at == 1)))
        self.spacing = LengthField(self.document, tr("Across a board or tile"))
        self.other = LengthField(self.document, tr("Along a tile"))
        self.offset = LengthField(self.document, tr("First line from the corner"))
        self.spacing.changed.connect(safely(lambda v: self._set_lines(tr("set the board width"), spacing=v)))
        self.other.changed.connect(safely(lambda v: self._set_lines(tr("set the tile length"), other=v)))
        self.offset.changed.connect(safely(self._shift_lines))
        self.direction = number_field(tr("Direction of the floor lines"), -360.0, 360.0, 0, 84)
        self.direction.setSuffix("°")
        self.direction.valueChanged.connect(
            safely(lambda v: None if self._own else self._set_lines(tr("turn the floor lines"), direction=v))
        )
        for column, (words, field) in enumerate(
            ((tr("Floor"), self.tiles), (tr("across"), self.spacing), (tr("along"), self.other))
        ):
            grid.addWidget(_faint(words), 0, column)
            grid.addWidget(field, 1, column)
        for column, (words, more) in enumerate(((tr("first line"), self.offset), (tr("turned"), self.direction)), 1):
            grid.addWidget(_faint(words), 2, column)
            grid.addWidget(more, 3, column)
        self.column.addLayout(grid)

    # What is shown.

    def shown_now(self) -> None:
        self._show_kept()

    def refresh(self) -> None:
        if self.document.form.room is None:
            self.detail.show_part(None, None)
            return
        room, say = self.room, self.document.session.say
        self._own = True
        self.named.setText(room.name)
        for field, metres in (
            (self.clearance, room.clearance),
            (self.behind, room.behind),
            (self.spacing, room.lines.spacing),
            (self.other, room.lines.spacings[-1]),
            (self.offset, room.lines.offset[0]),
        ):
            field.show_length(metres)
        self.other.setEnabled(room.lines.tiles)
        self.tiles.setCurrentIndex(int(room.lines.tiles))
        self.direction.setValue(room.lines.direction)
        self.arms.setChecked(room.arms)
        parts = parts_of_room(room)
        words = [described(room, part, say) for part in parts]
        if words != [self.list.item(n).text() for n in range(self.list.count())]:
            self.list.clear()
            self.list.addItems(words)
        if self.part is not None and not self._is_there(self.part):
            self.part = None
        whole = self.part and (Part("obstacle", self.part.number) if self.part.kind == "size" else self.part)
        self.list.setCurrentRow(parts.index(whole) if whole in parts else -1)
        if (item := self.list.currentItem()) is not None:
            self.list.scrollToItem(item)
        self._own = False
        self.delete.setEnabled(self.part is not None)
        self.detail.show_part(room, self.part)
        self._show_kept()
        self.drawn.emit()

    def _is_there(self, part: Part) -> bool:
        room = self.room
        counts = {
            "wall": room.outline,
            "corner": room.outline,
            "obstacle": room.obstacles,
            "size": room.obstacles,
            "door": room.doors,
            "tape": room.tape,
        }
        return part.number < len(counts[part.kind])

    def _show_kept(self) -> None:
        if not self.isVisible():
            return
        self._kept = library.rooms()
        now = self.document.form.room
        first = tr("Use a saved room …") if now is None else tr("Now: {name}", name=now.name or tr("unnamed room"))
        refill(self.kept, [first, *(room.name for room in self._kept)], 0)

    # What is changed.

    def change(self, make: Callable[[Room], Room], words: str) -> None:
        """Makes the room another, or tells why it cannot be."""
        try:
            self.editor.set_room(make(self.room), words)
        except WaltzmarkError as error:
            self.desk.asking.tell(tr("The room cannot be changed that way"), explained(error))
            self.detail.show_part(None, None)
        self.refresh()

    def _let_arms(self, on: bool) -> None:
        self.change(lambda room: replace(room, arms=on), tr("count the arms") if on else tr("ignore the arms"))

    def _around(self, metres: float) -> None:
        self.change(lambda room: replace(room, clearance=_between(metres, 0.0, 10.0)), tr("change the clearance"))

    def _behind(self, metres: float) -> None:
        self.change(lambda room: replace(room, behind=_between(metres, 0.0, 10.0)), tr("change the clearance behind"))

    def _rename(self) -> None:
        name = self.named.text().strip()
        if self.document.form.room is not None and name != self.room.name:
            self.change(
                lambda room: replace(room, name=name),
                tr("name the room {name}", name=name) if name else tr("remove the name of the room"),
            )

    def _shift_lines(self, metres: float) -> None:
        if self.document.form.room is not None:
            self._set_lines(tr("move the floor lines"), offset=(metres, self.room.lines.offset[1]))

    def _set_lines(self, words: str, **changes: object) -> None:
        if self.document.form.room is None:  # a field that is left after its room has gone
            return
        lines = replace(self.room.lines, **changes)  # type: ignore[arg-type]
        if not lines.tiles:
            lines = replace(lines, other=0.0, offset=(lines.offset[0], 0.0))
        if lines.other == lines.spacing:
            lines = replace(lines, other=0.0)
        if min(lines.spacings) < 0.02 or max(lines.spacings) > 5.0:
            self.desk.asking.tell(tr("Not valid floor lines"), tr("Floor lines must be 2 cm to 5 m apart."))
            self.refresh()
            return
        self.change(lambda room: replace(room, lines=lines), words)

    def put(self, kind: str) -> None:
        """Puts something new into the room, and chooses it."""
        wall = self.part.number if self.part is not None and self.part.kind in ("wall", "corner") else 0
        try:
            room, part = added(self.room, kind, wall)
        except WaltzmarkError as error:
            self.desk.asking.tell(tr("The room cannot be changed that way"), explained(error))
            return
        self.part = part
        words = dict(_NEW)[kind].lower()
        self.editor.set_room(room, tr("add {words}", words=words))
        self.refresh()
        if self.detail.first is not None:
            self.detail.first.setFocus()

    def take_out(self) -> None:
        """Takes the chosen part out of the room."""
        if (part := self.part) is not None:
            self.part = None
            self.change(
                lambda room: removed(room, part),
                tr("remove {described}", described=described(self.room, part, self.document.session.say)),
            )

    def _take(self, at: int) -> None:
        if at > 0:
            room = self._kept[at - 1]
            self.part = None
            self.editor.set_room(room, tr("use the room {name}", name=room.name))
            self.refresh()

    def _keep(self) -> None:
        name = self.desk.asking.text(tr("Save this room"), tr("Save it under which name?"), self.room.name)
        if not name:
            return
        room = replace(self.room, name=name)
        if library.replaced_by(room) and not self.desk.asking.replaces("room", name):
            return
        try:
            library.keep_room(room)
        except WaltzmarkError as error:
            self.desk.asking.tell(tr("The room was not saved"), explained(error))
            return
        self.change(lambda room: replace(room, name=name), tr("name the room {name}", name=name))

    def _chosen(self, row: int) -> None:
        if not self._own and row >= 0:
            self.choose(parts_of_room(self.room)[row])

    def choose(self, part: Part | None) -> None:
        """Chooses a part: its figures are shown and can be typed."""
        self.part = part
        self.refresh()

    # Hands.

    def over(self, at: QPointF, near: float) -> bool:
        return part_at(self.room, at, near, self.part) is not None

    def press(self, at: QPointF, near: float) -> bool:
        part = part_at(self.room, at, near, self.part)
        self._problem = ""
        self._taken = (part, at) if part is not None else None
        if part is not None:
            self.choose(part)
        return part is not None

    def drag(self, at: QPointF, free: bool) -> None:
        if self._taken is None:
            return
        part, start = self._taken
        try:
            self.draft, self._problem = dragged(self.room, part, start, at, free), ""
        except WaltzmarkError as error:
            self._problem = explained(error)

    def drop(self, kept: bool) -> None:
        draft, taken = self.draft, self._taken
        self.draft = self._taken = None
        self._problem = ""
        if kept and draft is not None and taken is not None:
            self.editor.set_room(draft, tr("move {part}", part=part_name(draft, taken[0], self.document.session.say)))
        elif taken is not None and taken[0].kind == "wall" and self.detail.first is not None:
            self.detail.first.setFocus()  # its figure was clicked: type it
            if isinstance(self.detail.first, QLineEdit):
                self.detail.first.selectAll()
        self.refresh()

    def double(self, at: QPointF, near: float) -> None:
        """A double click on a wall puts a corner there, for the hand to draw the outline with."""
        part = part_at(self.room, at, near, self.part)
        if part is not None and part.kind == "wall":
            self.part = Part("corner", part.number + 1)
            self.change(lambda room: rooms.split_wall(room, part.number, at.x(), at.y()), tr("add a corner to a wall"))

    def nudge(self, dx: float, dy: float, turn: float) -> None:
        """Moves the chosen part by centimetres, by keys; what stands there is turned by degrees too."""
        part = self.part
        if part is not None and turn:
            if part.kind in ("obstacle", "size"):
                turned = rooms.move_obstacle(self.room.obstacles[part.number], 0.0, 0.0, turn)
                self.change(lambda room: with_obstacle(room, part.number, turned), tr("turn a part of the room"))
        elif part is not None:
            place = QPointF(*held_at(self.room, part))
            way = QPointF(dx, dy)
            self.change(lambda room: dragged(room, part, place, place + way, True), tr("move a part of the room"))

    # Drawing.

    def paint(self, painter: QPainter, frame: QTransform) -> None:
        theme, room = self.desk.theme, self.draft or self.room
        draw_cross(painter, frame, room.start, theme, ghost=True)
        draw_measured(painter, frame, room, self.part, self.document.session.say, theme)
        if self._problem:
            draw_tag(painter, QPointF(frame.map(QPointF(*room.outline[0])).x() + 160, 24), self._problem, theme, "stop")


def _faint(words: str) -> Label:
    return faint(words, 9.5)


def _between(value: float, least: float, most: float) -> float:
    return round(min(max(value, least), most), 4)
