"""The cautions on one page: shown once before the form is played for the first time, and always in the Help menu."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QScrollArea, QVBoxLayout, QWidget

from waltzmark.core.school.school import School
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, RichLabel, rich
from waltzmark.desktop.theme import font
from waltzmark.words.language import shipped, tr
from waltzmark.words.rules import rule_title

__all__ = ["GENERAL", "CautionsPage"]

#: What holds for everybody.
GENERAL = (
    tr("Stop when it hurts."),
    tr("Keep a support within reach and room around you, and more room where you turn near walls or step backward."),
    tr("Wear shoes that can turn. A sole that sticks passes every pivot on to the knee."),
    tr("Low stances, long steps, turning a loaded foot and standing on one leg can hurt. Begin high, short and light."),
    tr("Learn from a qualified teacher. A plan on a screen cannot see you."),
    tr("If you have a joint, balance or heart condition, ask a doctor or physiotherapist first."),
    tr(
        "Every limit here is a coaching default, never a medical limit. The local rules of a "
        "hall, or for teaching, come first."
    ),
)


class CautionsPage(QDialog):
    """The general cautions, and below them those of the school's rules."""

    def __init__(self, school: School, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Before you begin"))
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(640, 600)
        heading = Label(tr("Before you begin"))
        heading.setFont(font(15, bold=True))
        said: dict[str, list[str]] = {}
        for rule, setting in school.rules.items():
            if setting.caution and not setting.off:
                said.setdefault(shipped(setting.caution), []).append(rule_title(rule))
        general = "".join(f"<li style='margin-bottom: 5px'>{words}</li>" for words in GENERAL)
        rules = "".join(f"<p><b>{rich('; '.join(names))}.</b> {rich(words)}</p>" for words, names in said.items())
        rules_of = tr("What the rules of {school} say", school=school.name)
        page = RichLabel(f"<ul style='margin-left: -22px'>{general}</ul><h4>{rich(rules_of)}</h4>{rules}")
        page.setWordWrap(True)
        page.setFont(font(10.5))
        page.setAlignment(Qt.AlignmentFlag.AlignTop)
        page.setContentsMargins(2, 0, 12, 0)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(page)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText(tr("I will take care"))
        buttons.accepted.connect(safely(self.accept))
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 16, 18, 14)
        column.addWidget(heading)
        column.addWidget(area, 1)
        column.addWidget(buttons)
