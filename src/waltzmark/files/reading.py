"""Reading a .waltz document: a UTF-8 TOML text becomes a form, or an error that says where and what to do."""

from __future__ import annotations

import re
from collections import Counter
from pathlib import Path
from typing import Any

import tomli

from waltzmark.core.base.angles import COMPASS
from waltzmark.core.base.errors import Position, WaltzmarkError, quoted
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record, field
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.film import FILM_KEYS
from waltzmark.core.form.form import (
    FIGURE_SIDES,
    MOST_LINES,
    OPENINGS,
    PAPERS,
    SHEETS,
    FittedFrom,
    FittedLine,
    Form,
    Home,
    Opening,
    Posture,
    Sheet,
)
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Room
from waltzmark.core.school.school import FIRST, School, bundled_schools, load_school
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_line
from waltzmark.files.bodies import BODY_KEYS, BodyValues
from waltzmark.files.film_values import FilmValues
from waltzmark.files.pages import PAGE_KEYS, PageValues
from waltzmark.files.rooms import ROOM_KEYS
from waltzmark.files.schools import read_school
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError, Notice

__all__ = ["BOM", "FORMAT", "DocumentError", "Notice", "ReadForm", "read_document", "read_file", "read_values"]

#: The format this version writes. A newer one is refused, an older one migrated.
FORMAT = 1
#: Some editors put this sign before a text; it stays where it was.
BOM = "\ufeff"
#: A key of a thousand dotted parts, found before it costs the time and memory of all its tables.
_DOTTED = re.compile(r"(?<![\w-])(?:(?:[\w-]++|\"[^\"\n]*+\"|'[^'\n]*+')[ \t]*+\.[ \t]*+){1000}")
#: Rules that another one has taken over.
_NOW = {"hip.front": "hip.range"}
_DEEPEST = 60  # tables and lists in each other: what writes the file goes no deeper

_TABLES = ("waltzmark", "form", "body", "bodies", "fitted", "room", "posture", "mute", "school", "home", "sheet")
_KEYS: dict[str, tuple[str, ...]] = {
    "": (*_TABLES, "words", "film"),
    "film": FILM_KEYS,
    "sheet": ("kind", "paper", "landscape", "scale", "steps", "findings", "figures"),
    "home": ("place", "facing", "within", "turn", "locked"),
    "form": ("title", "twelve", "opening", "torso", "school"),
    "body": BODY_KEYS,
    "bodies": BODY_KEYS,
    "fitted": ("source", "change"),
    "fitted.change": ("posture", "count", "from", "to"),
    "mute": ("rule", "reason", "posture", "count"),
    **ROOM_KEYS,
    **PAGE_KEYS,
    "posture": (
        "id",
        "name",
        "ends",
        "counts",
        "mirror_of",
        "axis",
        "repeat_of",
        "turned",
        "side_of",
        "note",
    ),
}


class ReadForm(Record):
    """A form, the text it was read from, and what in it was not understood."""

    form: Form
    text: str
    notices: tuple[Notice, ...] = field(default=())


def read_file(path: Path | str) -> ReadForm:
    """Reads a document from disk. Raises DocumentError, also for a file that cannot be opened."""
    try:
        return read_document(read_text(path))
    except DocumentError as error:
        error.name = Path(path).name
        raise


def read_document(text: str) -> ReadForm:
    """A form from the text of a document. Raises DocumentError with every problem found."""
    plain = text.removeprefix(BOM)
    if _DOTTED.search(plain):
        raise DocumentError.of("file.deep", most=_DEEPEST)
    try:
        raw = tomli.loads(plain)
    except tomli.TOMLDecodeError as error:
        raise DocumentError((_toml_problem(str(error), plain),)) from None
    except ValueError as error:
        # A number of thousands of digits, which Python does not turn into one.
        raise DocumentError.of("file.endless-number", reason=quoted(str(error), 80)) from None
    except RecursionError:
        raw = None
    if raw is None or _depth(raw) > _DEEPEST:
        raise DocumentError.of("file.deep", most=_DEEPEST)
    reader = _Reader(plain, raw)
    return ReadForm(reader.form(), text, tuple(reader.notices))


def read_values(raw: dict[str, Any]) -> Form:
    """A form from the values of a document, as `document_values` gives them. Raises DocumentError."""
    return _Reader("", raw).form()


def _depth(value: object) -> int:
    """How deeply tables and lists stand in each other."""
    depth, level = 0, [value]
    while level:
        inner: list[object] = []
        for each in level:
            if isinstance(each, dict):
                inner.extend(each.values())
            elif isinstance(each, list):
                inner.extend(each)
        depth, level = depth + 1, inner
    return depth


def _toml_problem(words: str, text: str) -> tuple[Position, Message]:
    match = re.search(r"\(at line (\d+), column (\d+)\)", words)
    place = Position(int(match[1]), int(match[2])) if match else Position(len(text.splitlines()))  # at its end
    words = re.sub(r"\s*\(at .*\)$", "", words)
    return place, message("file.toml", reason=words)


class _Reader(PageValues, FilmValues, BodyValues):
    """One reading of a whole document."""

    def __init__(self, text: str, raw: dict[str, Any]) -> None:
        super().__init__(text)
        self.raw, self.keys = raw, _KEYS

    def form(self) -> Form:
        """The form that it says. Raises DocumentError."""
        self._check_format()
        body = self.body(self.table("body"))
        form = self._form(self.table("form"), body)
        if self.problems or form is None:
            raise DocumentError(tuple(self.problems))
        return form

    def _check_format(self) -> None:
        self.unknown_in("", self.raw)
        number = self.raw.get("waltzmark")
        if number is None:
            raise DocumentError.of("file.no-format", Position(1), format=FORMAT)
        if isinstance(number, bool) or not isinstance(number, int) or number < 1:
            raise DocumentError.of("file.format", self.place("", "waltzmark"), format=FORMAT)
        if number > FORMAT:
            place = self.place("", "waltzmark")
            raise DocumentError.of("file.newer", place, found=quoted(number), format=FORMAT)

    # The parts of a form.

    def _home(self, raw: dict[str, Any]) -> Home:
        usual = Home()
        place = self.point(raw.get("place", list(usual.place)))
        if place is None:
            self.fail(self.place("home", "place"), "file.home-place")
            place = usual.place
        facing = self.facing("home", raw, "facing")
        if isinstance(facing, Clock) and facing.own:
            self.fail(self.place("home", "facing"), "file.home-facing")
        within = self.length("home", raw, "within", usual.within, 0.0, 100.0)
        turn = self.number("home", raw, "turn", usual.turn, 0.0, 180.0, "degrees")
        locked = raw.get("locked", [])
        if not isinstance(locked, list) or not all(isinstance(each, str) for each in locked):
            self.fail(self.place("home", "locked"), "file.ids")
            locked = []
        return Home(place, facing, within, turn, tuple(locked))

    def _sheet(self, raw: dict[str, Any]) -> Sheet:
        usual = Sheet()
        kind = self.choice("sheet", raw, "kind", SHEETS, usual.kind)
        paper = self.choice("sheet", raw, "paper", PAPERS, usual.paper)
        scale = self.number("sheet", raw, "scale", usual.scale, 0.0, 1000.0, "to one")
        switches = {name: raw.get(name, getattr(usual, name)) for name in ("landscape", "steps", "findings")}
        for name, value in switches.items():
            if not isinstance(value, bool):
                self.fail(self.place("sheet", name), "file.switch")
                switches[name] = False
        figures = self.choice("sheet", raw, "figures", FIGURE_SIDES, usual.figures)
        return Sheet(kind, paper, scale=scale, figures=figures, **switches)

    def _form(self, raw: dict[str, Any], body: Body) -> Form | None:
        title = self.string("form", raw, "title") or ""
        twelve = self.choice("form", raw, "twelve", tuple(COMPASS), "N")
        torso = self.choice("form", raw, "torso", ("follow", "stated"), "follow")
        school = self._school(raw)
        opening = self._opening(raw)
        room = self.room() if "room" in self.raw else None
        postures, mutes, home = self._postures(school.stance_names), self._mutes(), self._home(self.table("home"))
        sheet, film = self._sheet(self.table("sheet")), self.film()
        bodies, fitted, words = self._bodies(), self._fitted(), self.page(school.stance_names)
        if self.problems:
            return None
        self._told_strangers({posture.id for posture in postures}, room, home)
        try:
            return Form(
                *(title, twelve, opening, torso, school, body, room, postures, mutes, home, sheet),
                *(bodies, fitted, words, film),
            )
        except WaltzmarkError as error:
            self.fail(Position(), error.message)
            return None

    def _listed(self, name: str, raw: object) -> list[dict[str, Any]]:
        """The tables of a list of them; none where it is something else."""
        if isinstance(raw, list) and all(isinstance(each, dict) for each in raw):
            return raw
        self.fail(self.place("", name), "file.tables", table=name)
        return []

    def _bodies(self) -> tuple[Body, ...]:
        """The people whom the form can be fitted to, each with a name."""
        found: list[Body] = []
        for index, raw in enumerate(self._listed("bodies", self.raw.get("bodies", []))):
            self.unknown_in("bodies", raw, index)
            before = len(self.problems)
            body = self.body(raw, "bodies", index)
            if len(self.problems) > before:
                continue
            if not body.name or body.name in {each.name for each in found}:
                self.fail(self.place("bodies", "name", index), "file.body-name")
            found.append(body)
        return tuple(found)

    def _fitted(self) -> FittedFrom | None:
        """What the form was fitted from."""
        if "fitted" not in self.raw:
            return None
        raw = self.table("fitted")
        lines: list[FittedLine] = []
        for index, each in enumerate(self._listed("fitted.change", raw.get("change", []))):
            self.unknown_in("fitted.change", each, index)
            texts = [each.get(key) for key in ("from", "to")]
            count, posture = each.get("count"), self.string("fitted.change", each, "posture", index)
            fine = all(isinstance(text, list) and all(isinstance(t, str) for t in text) for text in texts)
            if not fine or not isinstance(count, int) or isinstance(count, bool) or not 0 <= count <= MOST_LINES:
                self.fail(self.place("fitted.change", "from", index), "file.fitted")
                continue
            lines.append(FittedLine(posture or "", count, *(tuple(text) for text in texts if text is not None)))
        return FittedFrom(self.string("fitted", raw, "source") or "", tuple(lines))

    def _told_strangers(self, ids: set[str], room: Room | None, home: Home) -> None:
        """Notes what is said of postures that are not there; it is kept."""
        for index, each in enumerate(room.breaks if room is not None else ()):
            if each.posture not in ids:
                place = self.place("room.break", "before", index)
                self.note(place, "file.no-break", posture=quoted(each.posture))
        for locked in home.locked:
            if locked not in ids:
                self.note(self.place("home", "locked"), "file.no-posture", posture=quoted(locked))

    def _school(self, raw: dict[str, Any]) -> School:
        """The school of the form: one that comes with Waltzmark, or the one that stands in the document."""
        own = self.raw.get("school")
        if own is None:
            return load_school(self.choice("form", raw, "school", bundled_schools(), FIRST))
        if not isinstance(own, dict):
            self.fail(self.place("", "school"), "file.table", table="school")
            return load_school(FIRST)
        return read_school(own, self) or load_school(FIRST)

    def _mutes(self) -> tuple[Mute, ...]:
        listed = self.raw.get("mute", [])
        if not isinstance(listed, list) or not all(isinstance(m, dict) for m in listed):
            self.fail(self.place("", "mute"), "file.tables", table="mute")
            return ()
        found: list[Mute] = []
        for index, raw in enumerate(listed):
            self.unknown_in("mute", raw, index)
            rule, reason, posture = (self.string("mute", raw, key, index) for key in ("rule", "reason", "posture"))
            count = raw.get("count")
            whole = isinstance(count, int) and not isinstance(count, bool) and 0 <= count <= MOST_LINES
            if count is not None and not whole:
                self.fail(self.place("mute", "count", index), "file.count")
                continue
            try:
                found.append(Mute(_NOW.get(rule or "", rule or ""), reason or "", posture, count))
            except WaltzmarkError as error:
                self.fail(self.place("mute", "reason", index), error.message)
        return tuple(found)

    def _opening(self, raw: dict[str, Any]) -> Opening:
        value = raw.get("opening", "together")
        if not isinstance(value, dict):
            return Opening(self.choice("form", raw, "opening", OPENINGS, "together"))
        feet: list[FootPose] = []
        place = self.place("form", "opening")
        for side in ("left", "right"):
            foot = value.get(side)
            heel = foot.get("heel") if isinstance(foot, dict) else None
            point = self.point(heel)
            if not isinstance(foot, dict) or point is None:
                self.fail(place, "file.opening-foot", side=Side.of(side[0]))
                return Opening()
            heading = self.number("form.opening", foot, "heading", 0.0, -360.0, 720.0, "degrees")
            contact = foot.get("contact", "flat")
            if contact not in ("flat", "heel", "ball", "air"):
                self.fail(place, "file.opening-contact", side=Side.of(side[0]))
                contact = "flat"
            feet.append(FootPose(*point, heading % 360.0, Contact.of(contact)))
        share = self.number("form.opening", value, "share", 50.0, 0.0, 100.0, "%") / 100.0
        for foot_pose, carried, side in zip(feet, (share, 1.0 - share), ("left", "right"), strict=True):
            if foot_pose.contact is Contact.AIR and carried > 0:
                self.fail(place, "file.opening-air", side=Side.of(side[0]), share=100 * (side == "right"))
        return Opening("", (feet[0], feet[1]), share)

    def _postures(self, stances: frozenset[str]) -> tuple[Posture, ...]:
        listed = self.raw.get("posture", [])
        if not isinstance(listed, list) or not all(isinstance(p, dict) for p in listed):
            self.fail(self.place("", "posture"), "file.tables", table="posture")
            return ()
        return tuple(self._posture(index, raw, stances) for index, raw in enumerate(listed))

    def _posture(self, index: int, raw: dict[str, Any], stances: frozenset[str]) -> Posture:
        self.unknown_in("posture", raw, index)
        posture_id = self.string("posture", raw, "id", index)
        if not posture_id:
            self.fail(self.place("posture", "id", index), "file.no-id", n=index + 1)
            posture_id = f"posture-{index + 1}"
        turned = 0.0
        if "turned" in raw:
            try:
                turned = float(str(raw["turned"])[:40].removesuffix("°"))
                if not -360.0 <= turned <= 360.0 or turned * 2 != round(turned * 2):
                    raise ValueError
            except ValueError:
                self.fail(self.place("posture", "turned", index), "file.turned", value=quoted(raw["turned"]))
        texts = [
            self.string("posture", raw, key, index) for key in ("name", "mirror_of", "repeat_of", "side_of", "note")
        ]
        return Posture(
            posture_id,
            texts[0] or "",
            self._counts(index, raw, stances),
            self.facing("posture", raw, "ends", index),
            texts[1],
            self.facing("posture", raw, "axis", index),
            texts[2],
            turned,
            texts[3],
            texts[4],
        )

    def _counts(self, index: int, raw: dict[str, Any], stances: frozenset[str]) -> tuple[Count, ...]:
        listed = raw.get("counts", [])
        if not isinstance(listed, list) or not all(isinstance(line, str) for line in listed):
            self.fail(self.place("posture", "counts", index), "file.counts")
            return ()
        counts: list[Count] = []
        seen: Counter[str] = Counter()  # how often a line stood before: it is told where it stands itself
        for number, line in enumerate(listed):
            count = read_line(line, stances)
            counts.append(count)
            if (unread := count.unread) is not None:
                place = self.places.string("posture", index, line, seen[line])
                column = place.column + unread.column - 1 if place.column else unread.column
                posture = quoted(raw.get("id", index + 1))
                where = Position(place.line, column)
                self.note(where, "file.unread", posture=posture, n=number + 1, advice=unread.advice)
            seen[line] += 1
        return tuple(counts)
