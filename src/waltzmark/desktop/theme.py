"""Every colour once, by role: a light theme like paper and wood, a dark one for the practice hall, both also strong."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, field_names, replace

__all__ = ["DARK", "DARK_STRONG", "LIGHT", "LIGHT_STRONG", "Theme", "dress", "font", "load_fonts", "theme_of"]


class Theme(Record):
    """Colours by role, as #rrggbb."""

    name: str
    paper: str  # windows and lists
    raised: str  # cards, entry line, menus
    rule: str  # hairlines and frames
    ink: str  # text
    faint: str  # secondary text, still readable
    board: str  # floor boards
    board_other: str  # every other board
    seam: str  # between boards
    outside: str  # beyond the walls
    wall: str
    obstacle: str
    tape: str  # on the floor
    left: str  # the left foot
    left_pale: str
    right: str  # the right foot
    right_pale: str
    centre: str  # path of the centre
    torso: str
    pelvis: str
    chosen: str  # selected row
    chosen_ink: str
    stop: str
    caution: str
    note: str
    good: str
    ghost: str
    breath_in: str
    breath_out: str

    @property
    def dark(self) -> bool:
        """Whether it is light on dark."""
        return self.name.startswith("dark")

    def color(self, role: str, alpha: float = 1.0) -> QColor:
        """The colour of a role."""
        return QColor(_color(getattr(self, role), alpha))

    def laid(self, role: str, under: str, alpha: float) -> QColor:
        """The colour of a role laid thinly on another: lines of it are drawn many times as quickly as lines that are
        seen through."""
        top, low = self.color(role), self.color(under)
        parts = ((top.red(), low.red()), (top.green(), low.green()), (top.blue(), low.blue()))
        return QColor(*(round(alpha * a + (1.0 - alpha) * b) for a, b in parts))

    def foot(self, side: Side) -> QColor:
        return QColor(self.right if side else self.left)

    def foot_pale(self, side: Side) -> QColor:
        return QColor(self.right_pale if side else self.left_pale)

    def palette(self) -> QPalette:
        """The Qt palette, for what the style sheet does not name."""
        palette = QPalette()
        roles = QPalette.ColorRole
        for role, name in (
            (roles.Window, "paper"),
            (roles.Base, "raised"),
            (roles.AlternateBase, "paper"),
            (roles.WindowText, "ink"),
            (roles.Text, "ink"),
            (roles.Button, "raised"),
            (roles.ButtonText, "ink"),
            (roles.Highlight, "chosen"),
            (roles.HighlightedText, "chosen_ink"),
            (roles.PlaceholderText, "faint"),
            (roles.ToolTipBase, "raised"),
            (roles.ToolTipText, "ink"),
            (roles.Link, "left"),
        ):
            palette.setColor(role, QColor(getattr(self, name)))
        for role in (roles.WindowText, roles.Text, roles.ButtonText):
            palette.setColor(QPalette.ColorGroup.Disabled, role, self.color("faint", 0.6))
        return palette

    def style_sheet(self) -> str:
        """The application's style sheet: the template with each role's colour put in."""
        resources = Path(__file__).parent / "resources"
        text = (resources / "style.qss").read_text(encoding="utf-8")
        for icon in ("down", "check"):
            text = text.replace(f"@{icon}", (resources / f"{icon}-{'dark' if self.dark else 'light'}.svg").as_posix())
        # Longer names first, so that @board does not eat @board_other.
        for role in sorted(field_names(self), key=len, reverse=True):
            text = text.replace(f"@{role}", getattr(self, role))
        return text


@lru_cache(maxsize=1024)
def _color(name: str, alpha: float) -> QColor:
    made = QColor(name)
    made.setAlphaF(alpha)
    return made


LIGHT = Theme(
    name="light",
    paper="#f4eddf",
    raised="#fbf7ee",
    rule="#cdbfa3",
    ink="#2a241d",
    faint="#6a5d4b",
    board="#ead9b9",
    board_other="#e6d3b0",
    seam="#cdb68d",
    outside="#d9d2c4",
    wall="#6b5a45",
    obstacle="#a39480",
    tape="#3f6f8f",
    left="#14616b",
    left_pale="#d3e4e2",
    right="#a8431c",
    right_pale="#f3ddcd",
    centre="#5d4a8a",
    torso="#3c342b",
    pelvis="#7d5a1e",
    chosen="#dcd3ea",
    chosen_ink="#221a33",
    stop="#a3122b",
    caution="#8a5a00",
    note="#4f5d6b",
    good="#2f6a2f",
    ghost="#5d4a8a",
    breath_in="#3d6b1f",
    breath_out="#7a4a6e",
)

DARK = Theme(
    name="dark",
    paper="#1d1a17",
    raised="#27231f",
    rule="#4a4239",
    ink="#f1e8d9",
    faint="#b8ab97",
    board="#33291f",
    board_other="#30271d",
    seam="#4c3e2f",
    outside="#141210",
    wall="#b59f80",
    obstacle="#6d6050",
    tape="#7fb2d6",
    left="#58c3cc",
    left_pale="#1f4448",
    right="#f09a68",
    right_pale="#54301d",
    centre="#b9a3ee",
    torso="#e8dcc8",
    pelvis="#d9b56a",
    chosen="#463a63",
    chosen_ink="#f7f2ff",
    stop="#ff8095",
    caution="#f0bd5a",
    note="#a8b7c7",
    good="#8fd08f",
    ghost="#c9b6f7",
    breath_in="#a9cf7a",
    breath_out="#dba6cc",
)


#: The same for eyes that need more: nothing pale is written on anything pale.
LIGHT_STRONG = replace(
    LIGHT,
    name="light-strong",
    paper="#ffffff",
    raised="#ffffff",
    rule="#5a4c39",
    ink="#000000",
    faint="#2f2820",
    board="#fbf3e3",
    board_other="#f7eedb",
    seam="#a08c69",
    outside="#dcdcdc",
    wall="#1f170d",
    obstacle="#b9ad9b",
    tape="#083f63",
    left="#003c44",
    left_pale="#cdeae7",
    right="#6e1f00",
    right_pale="#fbe0cf",
    centre="#33206a",
    torso="#000000",
    pelvis="#4f3500",
    chosen="#dccbff",
    chosen_ink="#000000",
    stop="#85001a",
    caution="#553500",
    note="#24303c",
    good="#0b4a0b",
    ghost="#33206a",
    breath_in="#1d4804",
    breath_out="#4f1c43",
)
DARK_STRONG = replace(
    DARK,
    name="dark-strong",
    paper="#000000",
    raised="#0d0b09",
    rule="#b3a58f",
    ink="#ffffff",
    faint="#e6dccb",
    board="#1a130b",
    board_other="#160f08",
    seam="#6f5d44",
    outside="#000000",
    wall="#f0dcb8",
    obstacle="#4a4034",
    tape="#a9d8f7",
    left="#8cf0f7",
    left_pale="#0d2f33",
    right="#ffbe94",
    right_pale="#3a1c0c",
    centre="#d6c6ff",
    torso="#ffffff",
    pelvis="#ffdf9b",
    chosen="#3b2a66",
    chosen_ink="#ffffff",
    stop="#ffb3bf",
    caution="#ffdb94",
    note="#d4e0ec",
    good="#b9f2b9",
    ghost="#dfd2ff",
    breath_in="#cdf09e",
    breath_out="#f7cdea",
)


def theme_of(dark: bool, strong: bool = False) -> Theme:
    """The theme that is light or dark, and strong or not."""
    if strong:
        return DARK_STRONG if dark else LIGHT_STRONG
    return DARK if dark else LIGHT


@lru_cache(maxsize=1)
def load_fonts() -> str:
    """Loads the fonts that ship with Waltzmark and returns the family's name. Needs a QGuiApplication."""
    folder = Path(__file__).parent / "resources" / "fonts"
    for name in ("Lato-Regular.ttf", "Lato-Bold.ttf"):
        # By path, Qt reads only what it needs of the file.
        QFontDatabase.addApplicationFont(str(folder / name))
    return "Lato"


@lru_cache(maxsize=1)
def _load_italic() -> None:
    """The slanted one is loaded when it is first wanted."""
    QFontDatabase.addApplicationFont(str(Path(__file__).parent / "resources" / "fonts" / "Lato-Italic.ttf"))


@lru_cache(maxsize=64)
def font(points: float, bold: bool = False, italic: bool = False) -> QFont:
    """The application's font; its figures are tabular."""
    made = QFont(load_fonts())
    if italic:
        _load_italic()
    made.setPointSizeF(points)
    made.setBold(bold)
    made.setItalic(italic)
    return made


def dress(theme: Theme) -> None:
    """Gives everything that the application shows a theme's font and colours."""
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    if application.font() != font(10.5):  # every widget is laid out again for a font, also for the same one
        application.setFont(font(10.5))
    sheet = theme.style_sheet()
    if application.styleSheet() == sheet:
        return  # as the window before
    # A sheet changed for another is told to each widget once for each widget above it; taken off first, once.
    application.setStyleSheet("")
    application.setPalette(theme.palette())
    application.setStyleSheet(sheet)
