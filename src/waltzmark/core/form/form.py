"""A form: what the analyst writes down. Frozen values; an edit makes a new form that shares the rest."""

from __future__ import annotations

from collections.abc import Container
from functools import cached_property

from waltzmark.core.base.errors import FormError
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import Record, field, replace
from waltzmark.core.base.showing import shown
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.form.film import Film
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Room
from waltzmark.core.form.spoken import Page
from waltzmark.core.school.school import FIRST, School, load_school
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Clock, Facing

__all__ = [
    "FIGURE_SIDES",
    "MOST_LINES",
    "OPENINGS",
    "PAPERS",
    "SHEETS",
    "FittedFrom",
    "FittedLine",
    "Form",
    "Home",
    "Opening",
    "Posture",
    "Sheet",
]

#: What a form may come to, with all that is repeated and mirrored: twenty times a long form.
MOST_LINES = 20_000
#: Sheets that can be printed, and the papers they are printed on.
SHEETS = ("chart", "tape", "postures", "cues", "soles", "class", "bodies", "log")
PAPERS = ("A4", "A5", "Letter")
#: From where the figures of a printed posture are seen, or that there are none.
FIGURE_SIDES = ("behind", "front", "none")
OPENINGS = ("together", "vee", "shoulder", "hip")


class Opening(Record):
    """The opening stance: a named one, or two feet in metres about any origin (``feet``)."""

    name: str = "together"
    feet: tuple[FootPose, FootPose] | None = None
    left_share: float = 0.5

    def pose(self, body: Body) -> Pose:
        """The pose at count 0: the torso at 12, the midpoint between the heels at the origin."""
        if self.feet is not None:
            left, right = self.feet
        else:
            half = body.named_width(self.name) / 2.0
            toe = 45.0 if self.name == "vee" else 0.0
            left = FootPose(-half, 0.0, (360.0 - toe) % 360.0, Contact.FLAT)
            right = FootPose(half, 0.0, toe, Contact.FLAT)
        pose = Pose(left, right, self.left_share, sink=body.seat)
        x, y = pose.midpoint
        return pose.moved(-x, -y)


class Home(Record):
    """Where the form should end: a place in metres of the floor frame, and a facing.

    The facing is None for that it began in; within so many metres and degrees it counts as home. locked: postures that
    closing leaves alone.
    """

    place: tuple[float, float] = (0.0, 0.0)
    facing: Facing | None = None
    within: float = 0.30
    turn: float = 15.0
    locked: tuple[str, ...] = ()


class Sheet(Record):
    """How the form is printed.

    Which sheet, on which paper, lying on its side or not, at how many to one (0: as large as fits on a page). steps:
    the chart shows the feet of every count, not of the ends alone. findings: the postures are printed with what was
    found. figures: from where the body is seen in each of their counts, or none.
    """

    kind: str = "chart"
    paper: str = "A4"
    landscape: bool = False
    scale: float = 0.0
    steps: bool = False
    findings: bool = False
    figures: str = "behind"


class FittedLine(Record):
    """A count that was changed so that a body can walk it: the lines as they were and as they are, as written."""

    posture: str
    count: int
    before: tuple[str, ...]
    after: tuple[str, ...]


class FittedFrom(Record):
    """What a form was fitted from: the name of the file, and what was changed in it."""

    source: str
    lines: tuple[FittedLine, ...] = ()


class Posture(Record):
    """One posture. Its counts are its own, or those of another one, mirrored or repeated.

    ends: the facing the torso should have at its end; the walker's own clock has its 12 where the posture begins. axis:
    heading of the mirror line, for mirror_of.
    turned: degrees clockwise, for repeat_of. side_of: an own-written other side of that posture, to compare.
    """

    id: str
    name: str = ""
    lines: tuple[Count, ...] = ()
    ends: Facing | None = None
    mirror_of: str | None = None
    axis: Facing | None = None
    repeat_of: str | None = None
    turned: float = 0.0
    side_of: str | None = None
    note: str | None = None

    @property
    def title(self) -> str:
        """What it is called where it is shown; its name as it was written may hold what should not be."""
        return shown(self.name or self.id)

    @property
    def refers(self) -> bool:
        """Whether it says anything about another posture."""
        return bool(self.mirror_of or self.repeat_of or self.side_of or self.axis)

    @property
    def source(self) -> str | None:
        """Id of the posture whose counts these are, None for its own."""
        return self.mirror_of or self.repeat_of

    def taken_from(self, lines: tuple[Count, ...], twelve: str) -> tuple[Count, ...]:
        """The source's lines as this posture walks them."""
        if self.mirror_of:
            axis = self.axis.heading(0.0, twelve) if self.axis else 0.0
            return tuple(line.mirrored(axis, twelve) for line in lines)
        return tuple(line.turned(self.turned, twelve) for line in lines)


class Form(Record, dict=True):
    """A whole form, with all that its document keeps.

    The body that walks it, the school it follows, the room it is walked in, the findings that are muted, where it
    should end, and how it is printed. bodies: the people whom it can be fitted to; fitted: what it was fitted from, if
    it was; words: what it was drafted from, if it was; film: how it is filmed.
    """

    title: str = ""
    twelve: str = "N"
    opening: Opening = field(default_factory=Opening)
    torso: str = "follow"
    school: School = field(default_factory=lambda: load_school(FIRST))
    body: Body = field(default_factory=Body)
    room: Room | None = None
    postures: tuple[Posture, ...] = ()
    mutes: tuple[Mute, ...] = ()
    home: Home = Home()
    sheet: Sheet = Sheet()
    bodies: tuple[Body, ...] = ()
    fitted: FittedFrom | None = None
    words: Page | None = None
    film: Film = Film()

    def __post_init__(self) -> None:
        ids = {posture.id: index for index, posture in enumerate(self.postures)}
        if len(ids) < len(self.postures):
            twice = next(posture for index, posture in enumerate(self.postures) if ids[posture.id] != index)
            raise FormError("form.two-ids", posture=twice.id)
        roots: dict[str, Posture] = {}  # the posture that has the lines of each that has been looked at
        for posture in self.postures:
            if posture.refers:
                self._check_source(posture, ids)
                self._check_chain(posture, roots)
            else:
                roots[posture.id] = posture
        whole = sum(len(root.lines) for root in roots.values())
        if whole > MOST_LINES:
            raise FormError("form.lines", lines=whole, most=MOST_LINES)

    def _check_source(self, posture: Posture, ids: dict[str, int]) -> None:
        for kind in ("mirror_of", "repeat_of", "side_of"):
            other = getattr(posture, kind)
            if other is not None and other not in ids:
                raise FormError("form.source-unknown", posture=posture.id, key=kind, other=other)
        if posture.mirror_of and posture.repeat_of:
            raise FormError("form.two-sources", posture=posture.id)
        if posture.source == posture.id:
            raise FormError("form.own-source", posture=posture.id)
        if isinstance(posture.axis, Clock) and posture.axis.own:
            raise FormError("form.axis-own", posture=posture.id)
        if posture.source and posture.lines:
            raise FormError("form.source-and-counts", posture=posture.id, source=posture.source)
        if posture.mirror_of and posture.axis is None:
            raise FormError("form.no-axis", posture=posture.id)

    def _check_chain(self, posture: Posture, roots: dict[str, Posture]) -> None:
        """Check that no posture takes its counts in a circle, or to places it cannot know.

        Counts may come from a later posture, but not with floor positions: those are taken over relative to where their
        posture begins, which is only known once that is walked.
        """
        chain = self._chain(posture, roots)
        source = chain[-1].source
        root = chain[-1] if source is None else roots[source]
        roots.update((each.id, root) for each in chain)
        later = posture.source is not None and self._places[posture.source] > self._places[posture.id]
        if later and any(line.spots for line in root.lines):
            raise FormError("form.later-places", posture=posture.id, source=root.id)

    def _chain(self, posture: Posture, known: Container[str | None] = ()) -> list[Posture]:
        """A posture, the one its counts come from, and so on to the one that has them, or takes them from a known."""
        chain, seen = [posture], {posture.id}
        while (source := chain[-1].source) is not None and source not in known:
            if source in seen:
                circle = " → ".join([each.id for each in chain[-8:]] + [source])
                raise FormError("form.circle", posture=posture.id, circle=circle)
            seen.add(source)
            chain.append(self.posture(source))
        return chain

    def lines(self, posture: Posture) -> tuple[Count, ...]:
        """The lines of a posture as written: its own, or its source's, mirrored or turned."""
        if posture.source is None:
            return posture.lines
        chain = self._chain(posture, self._taken)
        source = chain[-1].source
        lines = chain[-1].lines if source is None else self._taken[source]
        for each in reversed(chain):
            lines = lines if each.source is None else each.taken_from(lines, self.twelve)
            self._taken[each.id] = lines
        return lines

    @cached_property
    def _taken(self) -> dict[str, tuple[Count, ...]]:
        """Lines as taken over, found out already, by id."""
        return {}

    def posture(self, posture_id: str) -> Posture:
        """A posture by id. Raises KeyError."""
        return self.postures[self._places[posture_id]]

    def index(self, posture_id: str) -> int:
        """Where a posture stands, from 0. Raises KeyError."""
        return self._places[posture_id]

    @cached_property
    def _places(self) -> dict[str, int]:
        return {posture.id: at for at, posture in enumerate(self.postures)}

    def with_posture(self, posture: Posture) -> Form:
        """The form with the posture of the same id exchanged."""
        return replace(self, postures=tuple(posture if p.id == posture.id else p for p in self.postures))

    def ends(self, posture: Posture) -> Facing | None:
        """The facing a posture should end in: its own word, else its source's, mirrored or turned."""
        if posture.ends is not None or posture.source is None:
            return posture.ends
        chain = self._chain(posture, self._ends)
        source = chain[-1].source
        known = None if source is None else self._ends[source]
        for each in reversed(chain):
            if each.ends is not None or each.source is None or known is None:
                known = each.ends
            else:
                axis = each.axis.heading(0.0, self.twelve) if each.axis else 0.0
                known = known.mirrored(axis, self.twelve) if each.mirror_of else known.turned(each.turned, self.twelve)
            self._ends[each.id] = known
        return known

    @cached_property
    def _ends(self) -> dict[str, Facing | None]:
        """Facings taken over, found out already, by id."""
        return {}
