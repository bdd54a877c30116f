"""The score as rows of a list: a heading for each posture, and its lines below it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from PySide6.QtCore import QAbstractListModel, QModelIndex, QObject, QPersistentModelIndex, Qt

from waltzmark.core.findings import Finding
from waltzmark.core.form import Posture
from waltzmark.core.score.write import write_count
from waltzmark.core.side import Side
from waltzmark.core.spoken import count_sentence
from waltzmark.desktop.document import Document, Selection

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


@dataclass(frozen=True)
class ScoreEntry:
    """One row of the score. row: of the trace; line: its position in the posture, -1 for no line of one; text: its
    words; note: the analyst's own, or what is wrong with a line that cannot be read."""

    kind: EntryKind
    row: int
    text: str
    note: str = ""
    number: int = 0
    posture: Posture | None = None
    line: int = -1


class ScoreModel(QAbstractListModel):
    """The rows of the document's score, kept in step with it."""

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.entries: list[ScoreEntry] = []
        self._of_row: dict[int, int] = {}
        self._of_line: dict[tuple[str | None, int], int] = {}
        self._findings: dict[int, list[Finding]] = {}
        document.form_changed.connect(self._rebuild)
        document.speech_changed.connect(self._marks_changed)
        self._rebuild()

    def _rebuild(self) -> None:
        self.beginResetModel()
        form, trace = self._document.form, self._document.trace
        entries = [ScoreEntry(EntryKind.OPENING, 0, _opening_words(self._document))]
        for passage, start in zip(trace.passages[1:], trace.starts[1:], strict=False):
            assert passage.posture is not None
            posture, row = form.posture(passage.posture), int(start)
            entries.append(ScoreEntry(EntryKind.POSTURE, min(row, len(trace) - 1), posture.title, posture=posture))
            number = 0
            for at, line in enumerate(passage.lines):
                text = write_count(line).partition(" # ")[0] if line.note else write_count(line)
                if line.moves:
                    number += 1
                    entries.append(ScoreEntry(EntryKind.COUNT, row, text, line.note or "", number, posture, at))
                    row += 1
                elif (unread := line.unread) is not None:
                    entries.append(
                        ScoreEntry(EntryKind.UNREAD, max(row - 1, 0), unread.text, unread.advice, 0, posture, at)
                    )
                else:
                    text = "" if text.startswith("#") else text
                    entries.append(ScoreEntry(EntryKind.REMARK, max(row - 1, 0), text, line.note or "", 0, posture, at))
        self.entries = entries
        self._of_row = {e.row: i for i, e in enumerate(entries) if e.kind in (EntryKind.COUNT, EntryKind.OPENING)}
        self._of_line = {(e.posture.id if e.posture else None, e.line): i for i, e in enumerate(entries)}
        self._sort_findings()
        self.endResetModel()

    def _sort_findings(self) -> None:
        self._findings = {}
        for finding in self._document.findings:
            self._findings.setdefault(finding.row, []).append(finding)

    def _marks_changed(self) -> None:
        self._sort_findings()
        self.dataChanged.emit(self.index(0), self.index(len(self.entries) - 1))

    def findings(self, entry: ScoreEntry) -> list[Finding]:
        """The findings to mark on an entry: all of its count's, or on expectations those that are not met."""
        found = self._findings.get(entry.row, [])
        if entry.kind is EntryKind.COUNT:
            return [f for f in found if f.rule != "score.unread"]
        if entry.kind is EntryKind.REMARK:
            return [f for f in found if f.rule == "expect.unmet" and any(
                part.strip() in f.message for part in entry.text.split(","))]  # fmt: skip
        return []

    def index_of_row(self, row: int) -> QModelIndex:
        """The entry of a row of the trace."""
        return self.index(self._of_row.get(row, 0))

    def span_of(self, selection: Selection) -> tuple[int, int]:
        """First and last entry of a selection."""
        if selection.start == selection.stop:
            at = self._of_line.get((selection.posture, -1), 0)
            return at, at
        first = self._of_line.get((selection.posture, selection.start), 0)
        return first, self._of_line.get((selection.posture, selection.stop - 1), first)

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.entries)

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid():
            return None
        entry = self.entries[index.row()]
        if role == ENTRY:
            return entry
        if role == Qt.ItemDataRole.DisplayRole:
            return entry.text
        if role == Qt.ItemDataRole.ToolTipRole:
            return self._tip(entry)
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return self._spoken(entry)
        return None

    def _spoken(self, entry: ScoreEntry) -> str:
        if entry.kind is EntryKind.POSTURE:
            return f"Posture {entry.text}"
        if entry.kind is EntryKind.COUNT:
            trace = self._document.trace
            moves = (trace.move(entry.row, Side.LEFT), trace.move(entry.row, Side.RIGHT))
            before, after = trace.pose(entry.row - 1), trace.pose(entry.row)
            words = count_sentence(before, after, moves, trace.written[entry.row], self._document.say)
            return f"Count {entry.number}: {words}"
        return entry.text or entry.note

    def _tip(self, entry: ScoreEntry) -> str:
        words = [self._spoken(entry)]
        posture = entry.posture
        if entry.kind is EntryKind.POSTURE and posture is not None:
            words += [posture.note or ""]
        words += [f"{f.severity}: {f.message}" for f in self.findings(entry)]
        return "\n".join(word for word in words if word)


def _opening_words(document: Document) -> str:
    opening = document.form.opening
    words = {
        "together": "Opening: feet together",
        "vee": "Opening: heels together, toes open",
        "shoulder": "Opening: shoulder width",
        "hip": "Opening: hip width",
    }
    return words.get(opening.name, "Opening: as placed") + f", facing {document.say.toward(0.0, 0.0)}"
