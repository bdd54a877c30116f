"""The Ready stage: the body with what follows from its measures, the people it is fitted to, and the schools."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.form.form import OPENINGS, Opening
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.guard import safely
from waltzmark.desktop.new_form import OPENING_WORDS, OpeningCard
from waltzmark.desktop.plain import Label, RichLabel, set_tip, wrapped
from waltzmark.desktop.ready.bodies import BodiesFace
from waltzmark.desktop.ready.consequences import ReachCurve, ReachFloor, figures
from waltzmark.desktop.ready.figure import BodyFigure
from waltzmark.desktop.ready.measures import MeasuresPanel
from waltzmark.desktop.ready.schools import SchoolView
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import tr

__all__ = ["ReadyStage"]

#: The pages by their numbers.
_PAGES = ("body", "bodies", "school")


class ReadyStage(Stage):
    """Three pages: who walks, who else does, and by which school."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, editor, theme = desk.document, desk.editor, desk.theme
        self._document, self._editor = document, editor
        self.news = wrapped()
        self.news.setFixedHeight(36)  # two lines, so that nothing moves when there is news
        self.news.setFont(font(10))
        self._group = QButtonGroup(self)
        top = QHBoxLayout()
        top.setContentsMargins(16, 8, 16, 8)
        top.setSpacing(6)
        self.tabs = []
        for number, (name, tip) in enumerate(
            (
                (tr("Body"), tr("The body that walks the form")),
                (tr("Bodies"), tr("The people it is fitted to, each with their own body")),
                (tr("School"), tr("The school it is judged by")),
            )
        ):
            button = QPushButton(name)
            button.setObjectName("tab")
            button.setCheckable(True)
            set_tip(button, tip)
            button.clicked.connect(safely(lambda _checked=False, number=number: self.show_page(number)))
            self._group.addButton(button)
            self.tabs.append(button)
            top.addWidget(button)
        top.addWidget(self.news, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        rule = QFrame()
        rule.setObjectName("rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        # From the outside in: what is put into something is styled anew, with all in it.
        self.pages = QStackedWidget(self)
        column.addWidget(self.pages, 1)
        body = QWidget(self.pages)
        self.pages.addWidget(body)
        row = QHBoxLayout(body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.measures = MeasuresPanel(document, editor, desk.asking, body)
        self.measures.setFixedWidth(max(386, min(self.measures.needs, 500)))
        self.figure = BodyFigure(document, theme)
        self.curve = ReachCurve(document, theme)
        self.reach = ReachFloor(document, theme)
        self.figures = RichLabel()
        self.figures.setWordWrap(True)
        self.figures.setFont(font(10))
        self.openings: dict[str, OpeningCard] = {}
        row.addWidget(self.measures)
        row.addWidget(_upright())
        row.addWidget(self._middle(theme), 1)
        row.addWidget(_upright())
        row.addWidget(self._right())
        self.school = SchoolView(document, editor, theme, desk.asking)
        self.bodies = BodiesFace(desk)
        for page in (self.bodies, self.school):
            self.pages.addWidget(page)
        document.form_changed.connect(safely(self._say))
        document.session.figures_changed.connect(safely(self._say))
        document.judge.news_changed.connect(safely(self._say))
        self.show_page(0)
        self._say()

    def _middle(self, theme: Theme) -> QWidget:
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(12, 6, 12, 8)
        column.addWidget(self.figure, 1)
        heading = Label(tr("The form opens with"))
        heading.setFont(font(10.5, bold=True))
        column.addWidget(heading)
        cards = QGridLayout()  # two by two, so that the stage fits a small screen
        cards.setSpacing(6)
        for number, name in enumerate(OPENINGS):
            card = OpeningCard(name, theme, small=True)
            card.clicked.connect(safely(lambda _checked=False, name=name: self._open(name)))
            self.openings[name] = card
            cards.addWidget(card, number // 2, number % 2)
        column.addLayout(cards)
        return holder

    def _right(self) -> QWidget:
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(14, 10, 16, 10)
        column.setSpacing(6)
        for words, view, stretch in (
            (tr("Longest empty step"), self.curve, 3),
            (tr("Reach around the right foot"), self.reach, 4),
        ):
            heading = Label(words)
            heading.setFont(font(10.5, bold=True))
            column.addWidget(heading)
            column.addWidget(view, stretch)
        column.addWidget(self.figures)
        scroll = QScrollArea()
        scroll.setAccessibleName(tr("What follows from the body"))
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setWidget(holder)
        scroll.setFixedWidth(348)
        return scroll

    @property
    def face_name(self) -> str:
        return _PAGES[self.pages.currentIndex()]

    def show_face(self, name: str) -> None:
        self.show_page(_PAGES.index(name))

    def show_page(self, number: int) -> None:
        """Shows the body (0), the people (1) or the schools (2)."""
        if self.isVisible() and number != self.pages.currentIndex():
            self.desk.leaving()
        self.pages.setCurrentIndex(number)
        self.tabs[number].setChecked(True)

    def add_person(self) -> None:
        """Shows where people are added."""
        self.show_page(1)
        self.bodies.new.name.setFocus()

    def _open(self, name: str) -> None:
        self._editor.set_opening(Opening(name))
        self._say()

    def _say(self) -> None:
        self.figures.setText(figures(self._document))
        self.news.setText(self._document.judge.news)
        for name, card in self.openings.items():
            card.setChecked(self._document.form.opening.name == name)
            set_tip(card, tr("Open with: {stance}", stance=OPENING_WORDS[name].lower()))

    def set_theme(self, theme: Theme) -> None:
        for view in (self.figure, self.curve, self.reach, self.bodies, self.school):
            view.set_theme(theme)
        for card in self.openings.values():
            card.set_theme(theme)


def _upright() -> QFrame:
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedWidth(1)
    return rule
