"""The first form, step by step: a few counts typed by a newcomer, their other side and a room, until each of the three
questions has its answer."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.score.read import read_count
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, RichLabel, rich, set_tip
from waltzmark.desktop.theme import font
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = ["LESSONS", "FirstForm", "Lesson"]


class Lesson(Record):
    """A step. text: the count to type; where it is none, act is what is to be done, and stage where. before: why;
    after: what to look at once it is done."""

    before: str
    after: str
    text: str = ""
    act: str = ""
    stage: str = "plot"


LESSONS = (
    Lesson(
        tr("Shift all your weight onto the right foot."),
        tr("The right sole is full now: each sole fills with the weight it carries."),
        "shift R 100",
    ),
    Lesson(
        tr("The left foot is empty, so it can step: ahead, to 12 o’clock, into a bow stance."),
        tr("Only the heel is filled: the foot landed empty, heel first."),
        "step L 12 bow",
    ),
    Lesson(
        tr("Shift 70% of your weight onto it."),
        tr("The foot rolled flat. The ribbon below shows the weight through the whole form."),
        "shift L 70",
    ),
    Lesson(
        tr("Write what should be true now. It moves nothing; it is only checked."),
        tr("A tick: your form does what you expected."),
        "expect L 70, expect torso 12",
    ),
    Lesson(tr("Sit back onto the right foot."), tr("The left foot is empty again."), "shift R 100"),
    Lesson(tr("Bring the left foot back beside the right one."), tr("The feet stand side by side."), "step L beside"),
    Lesson(
        tr("Stand on both feet."),
        tr("The form ends here for now. The Return answer above says how far it ends from its start mark."),
        "shift L 50",
    ),
    Lesson(
        tr("Now the other side: Posture › Make the other side (Ctrl+M), about the line to 12."),
        tr("The Sides answer above says that both sides mirror. Change a count on one side, and the other follows."),
        act="other side",
    ),
    Lesson(
        tr("Last, give it a floor: Room (Ctrl+4), a room of 5 × 4 m."),
        tr("The Room answer above says where the walk comes closest to a wall."),
        act="new room",
        stage="room",
    ),
)


@guarded
class FirstForm(QFrame):
    """A card below the answers, in every stage. It goes on by itself when a step has been done, and back when it was
    taken back."""

    closed = Signal()
    shown = Signal(bool)  # while it is there, it says what is next
    wanted = Signal(object)  # the lesson that is to be done for the user

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.at = 0
        self.setObjectName("answer")
        self.heading = Label()
        self.heading.setFont(font(10.5, bold=True))
        self.words = RichLabel()
        self.words.setWordWrap(True)
        self.words.setFont(font(10))
        self.words.setMinimumHeight(2 * self.words.fontMetrics().lineSpacing() + 4)  # nothing below it moves
        self.type = QPushButton()
        self.type.clicked.connect(safely(lambda: self.wanted.emit(LESSONS[self.at])))
        self.done = QPushButton(tr("Skip the rest"))
        self.done.setToolTip(tr("Leave the lesson; what you wrote stays"))
        self.done.clicked.connect(self.closed.emit)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 10, 4)
        row.setSpacing(14)
        row.addWidget(self.heading)
        row.addWidget(self.words, 1)
        row.addWidget(self.type)
        row.addWidget(self.done)
        document.form_changed.connect(safely(self._look))
        document.judge.reviewed.connect(safely(self._say))
        self.hide()

    def begin(self) -> None:
        """Begins at the first step."""
        self.at = 0
        self.setVisible(True)
        self._look()

    def setVisible(self, visible: bool) -> None:
        super().setVisible(visible)
        self.shown.emit(visible)

    def _look(self) -> None:
        """Goes to the first step that is not done."""
        if not self.isHidden():
            self.at = _done(self._document.form)
            self._say()

    def _say(self) -> None:
        if self.isHidden():
            return
        if self.at == len(LESSONS):
            self._finish()
            return
        lesson = LESSONS[self.at]
        told = f"{rich(LESSONS[self.at - 1].after)} " if self.at else ""
        self.done.setText(tr("Skip the rest"))
        self.type.show()
        self.type.setText(tr("Type it for me") if lesson.text else tr("Do it for me"))
        tip = tr("Writes the count in the entry line; you press Enter") if lesson.text else tr("Do this step")
        set_tip(self.type, tip)
        self.heading.setText(tr("First form: step {n} of {lessons}", n=self.at + 1, lessons=len(LESSONS)))
        typed = f"<b>{rich(lesson.text)}</b>"
        ask = " " + tr("Type it at the lower left of Plot, then Enter: {text}", text=typed) if lesson.text else ""
        following = tr("Next:")
        then = f"<br><b>{following}</b> " if told else ""
        self.words.setText(f"{told}{then}{rich(lesson.before)}{ask}")
        self._speak()

    def _finish(self) -> None:
        review = self._document.judge.review
        said = [sentence(answer.message, self._document.session.say) for answer in review.answers] if review else []
        answers = " ".join(said) or tr("Checking now.")
        self.heading.setText(tr("Your first form is done"))
        self.words.setText(
            tr("Its three answers: {answers}", answers=rich(answers))
            + "<br>"
            + tr("Press one of them to see why. F5 walks the form, and F1 opens the help.")
        )
        self.type.hide()
        self.done.setText(tr("Done"))
        self._speak()

    def _speak(self) -> None:
        self.setAccessibleName(self.heading.text())
        self.setAccessibleDescription(self.words.text())


def _done(form: Form) -> int:
    """How many steps are done, from the first on."""
    lines = form.postures[0].lines if form.postures else ()
    counts = [lesson for lesson in LESSONS if lesson.text]
    for number, lesson in enumerate(counts):
        if number >= len(lines) or lines[number].actions != read_count(lesson.text).actions:
            return number
    if not any(posture.mirror_of for posture in form.postures):
        return len(counts)
    return len(counts) + 1 + (form.room is not None)
