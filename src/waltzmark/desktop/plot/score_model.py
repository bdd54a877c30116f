"""The score as rows of a list: a heading for each posture, and its lines below it."""

from __future__ import annotations

from enum import Enum, auto

from PySide6.QtCore import QModelIndex, QObject, QPersistentModelIndex, Qt

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Posture
from waltzmark.core.judge.finding import Finding
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_count
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import plain
from waltzmark.desktop.widgets.rows import RowsModel
from waltzmark.words.findings import severity_name, what
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence
from waltzmark.words.steps import count_sentence

__all__ = ["ENTRY", "EntryKind", "ScoreEntry", "ScoreModel"]

#: The role under which the model hands out its `ScoreEntry`.
ENTRY = Qt.ItemDataRole.UserRole + 1


class EntryKind(Enum):
    """What a row of the score is."""

    OPENING = auto()
    POSTURE = auto()
    COUNT = auto()
    REMARK = auto()  # expectations or a note alone: not a count
    UNREAD = auto()  # a line that cannot be read, kept as it was typed


class ScoreEntry(Record):
    """One row of the score. row: of the trace; line: its position in the posture, -1 for no line of one; text: its
    words; note: the analyst's own, or what is wrong with a line that cannot be read.

    Entries that take the same room are equal, wherever the walk has brought them.
    """

    kind: EntryKind
    row: int
    text: str
    note: str = ""
    number: int = 0
    posture: Posture | None = None
    line: int = -1

    @property
    def _told(self) -> tuple[object, ...]:
        return self.kind, self.text, self.note, self.number, self.line

    def __eq__(self, other: object) -> bool:
        return self._told == other._told if isinstance(other, ScoreEntry) else NotImplemented

    def __hash__(self) -> int:
        return hash(self._told)


class _Block(Record):
    """The entries of one posture, and what they were made from."""

    posture: Posture
    lines: tuple[Count, ...]
    start: int
    entries: list[ScoreEntry]


@guarded
class ScoreModel(RowsModel):
    """The rows of the document's score, kept in step with it: an edit changes only the rows it is about."""

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.entries: list[ScoreEntry] = []
        self._blocks: dict[str, _Block] = {}
        self._first: dict[str | None, int] = {}  # the place of each posture's heading
        self._findings: dict[int, list[Finding]] = {}
        document.form_changed.connect(safely(self._rebuild))
        document.judge.judged.connect(safely(self._judged))
        document.session.figures_changed.connect(safely(self._said_anew))
        self._rebuild()

    def _rebuild(self) -> None:
        trace, form = self._document.trace, self._document.form
        entries, blocks = [ScoreEntry(EntryKind.OPENING, 0, _opening_words(self._document))], {}
        self._first = {None: 0}
        known, starts, last = self._blocks, trace.starts[1:-1].tolist(), len(trace) - 1
        for posture, passage, start in zip(form.postures, trace.passages[1:], starts, strict=True):
            name, lines = posture.id, passage.lines
            block = known.get(name)
            if block is None or block.posture is not posture or block.lines is not lines or block.start != start:
                block = _block(block, posture, lines, start, last)
            blocks[name] = block
            self._first[name] = len(entries)
            entries += block.entries
        self._blocks = blocks
        self._sort_findings()
        self.exchange(entries)

    def _sort_findings(self) -> None:
        self._findings = {}
        for finding in self._document.judge.everywhere:
            self._findings.setdefault(finding.row, []).append(finding)

    def _judged(self) -> None:
        self._sort_findings()
        self._show_anew()

    def _said_anew(self) -> None:
        self._rebuild()
        self._show_anew()

    def _show_anew(self) -> None:
        self.dataChanged.emit(self.index(0), self.index(len(self.entries) - 1))

    def findings(self, entry: ScoreEntry) -> list[Finding]:
        """The findings to mark on an entry: all of its count's, or on expectations those that are not met."""
        found = self._findings.get(entry.row, [])
        if entry.kind is EntryKind.COUNT:
            return [f for f in found if f.rule != "score.unread"]
        if entry.kind is EntryKind.REMARK:
            stated = {part.strip() for part in entry.text.split(",")}
            return [f for f in found if f.rule == "expect.unmet" and f.message["expected"] in stated]
        return []

    def span_of(self, selection: Selection) -> tuple[int, int]:
        """First and last entry of a selection."""
        first = self._first.get(selection.posture, 0)
        if selection.start == selection.stop:
            return first, first
        return first + 1 + selection.start, first + selection.stop

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid():
            return None
        entry = self.entries[index.row()]
        if role == ENTRY:
            return entry
        if role == Qt.ItemDataRole.DisplayRole:
            return entry.text
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain(self._tip(entry))
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return self._spoken(entry)
        return None

    def _spoken(self, entry: ScoreEntry) -> str:
        if entry.kind is EntryKind.POSTURE:
            return tr("Posture {text}", text=entry.text)
        if entry.kind is EntryKind.COUNT:
            trace = self._document.trace
            moves = (trace.move(entry.row, Side.LEFT), trace.move(entry.row, Side.RIGHT))
            before, after = trace.pose(entry.row - 1), trace.pose(entry.row)
            words = count_sentence(before, after, moves, trace.written[entry.row], self._document.session.say)
            return tr("Count {number}: {words}", number=entry.number, words=words)
        return entry.text or entry.note

    def _tip(self, entry: ScoreEntry) -> str:
        words = [self._spoken(entry)]
        posture = entry.posture
        if entry.kind is EntryKind.POSTURE and posture is not None:
            words += [posture.note or ""]
        words += [f"{severity_name(f.severity)}: {what(f, self._document.session.say)}" for f in self.findings(entry)]
        return "\n".join(word for word in words if word)


def _block(old: _Block | None, posture: Posture, lines: tuple[Count, ...], start: int, last: int) -> _Block:
    """The entries of a posture that begins in a row of the trace: the old ones, moved, while its counts stay."""
    if old is None or old.lines is not lines or (old.posture is not posture and old.posture.title != posture.title):
        return _Block(posture, lines, start, _entries(posture, lines, start, last))
    by = start - old.start
    moved = [replace(entry, row=entry.row + by, posture=posture) for entry in old.entries]
    return _Block(posture, lines, start, moved)


def _entries(posture: Posture, lines: tuple[Count, ...], start: int, last: int) -> list[ScoreEntry]:
    made = [ScoreEntry(EntryKind.POSTURE, min(start, last), posture.title, posture=posture)]
    row, number = start, 0
    for at, line in enumerate(lines):
        text = write_count(line).partition(" # ")[0] if line.note else write_count(line)
        if line.moves:
            number += 1
            made.append(ScoreEntry(EntryKind.COUNT, row, text, line.note or "", number, posture, at))
            row += 1
        elif (unread := line.unread) is not None:
            made.append(
                ScoreEntry(EntryKind.UNREAD, max(row - 1, 0), unread.text, sentence(unread.advice), 0, posture, at)
            )
        else:
            text = "" if text.startswith("#") else text
            made.append(ScoreEntry(EntryKind.REMARK, max(row - 1, 0), text, line.note or "", 0, posture, at))
    return made


def _opening_words(document: Document) -> str:
    opening = document.form.opening
    words = {
        "together": tr("Opening: feet together"),
        "vee": tr("Opening: heels together, toes open"),
        "shoulder": tr("Opening: shoulder width"),
        "hip": tr("Opening: hip width"),
    }
    opens = words.get(opening.name, tr("Opening: as placed"))
    return tr("{opens}, facing {toward}", opens=opens, toward=document.session.say.toward(0.0, 0.0))
