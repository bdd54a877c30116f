"""The cautions on one page: shown once before the form is played for the first time, and always in the Help menu."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QScrollArea, QVBoxLayout, QWidget

from waltzmark.core.judge.compare import rule_words
from waltzmark.core.school.school import School
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, RichLabel, rich
from waltzmark.desktop.theme import font

__all__ = ["GENERAL", "CautionsPage"]

#: What holds for everybody.
GENERAL = (
    "Stop when it hurts.",
    "Keep a support within reach, and room around you: more of it where you turn near walls or step backward.",
    "Wear shoes that can turn. A sole that sticks passes every pivot on to the knee.",
    "Low stances, long steps, turning a loaded foot and standing on one leg can hurt. Begin high, short and light.",
    "Learn from a qualified teacher. A plan on a screen does not see you.",
    "With a joint, balance or heart condition ask a physician or physiotherapist first.",
    "Every limit here is a coaching default, never a medical limit. Local rules of a hall or for teaching come first.",
)


def _listed(names: list[str]) -> str:
    """Things in one sentence: “A narrow stance, feet crossed by accident”."""
    words = ", ".join(names)
    return words[:1].upper() + words[1:]


class CautionsPage(QDialog):
    """The general cautions, and below them those of the school's rules."""

    def __init__(self, school: School, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Take care")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(640, 600)
        heading = Label("Take care")
        heading.setFont(font(15, bold=True))
        said: dict[str, list[str]] = {}
        for rule, setting in school.rules.items():
            if setting.caution and not setting.off:
                said.setdefault(setting.caution, []).append(rule_words(rule))
        general = "".join(f"<li style='margin-bottom: 5px'>{words}</li>" for words in GENERAL)
        rules = "".join(f"<p><b>{rich(_listed(names))}.</b> {rich(words)}</p>" for words, names in said.items())
        page = RichLabel(
            f"<ul style='margin-left: -22px'>{general}</ul><h4>What the rules of {rich(school.name)} say</h4>{rules}"
        )
        page.setWordWrap(True)
        page.setFont(font(10.5))
        page.setAlignment(Qt.AlignmentFlag.AlignTop)
        page.setContentsMargins(2, 0, 12, 0)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(page)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("I will take care")
        buttons.accepted.connect(safely(self.accept))
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 16, 18, 14)
        column.addWidget(heading)
        column.addWidget(area, 1)
        column.addWidget(buttons)
