"""The .waltz document: read with every problem told at its place, written without losing a word."""

from __future__ import annotations

import os
import stat
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core import strategies as write
from tests.trying import tries
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.film import FILM_RATES, FILM_SHOWS, FILM_SIZES, FILM_SWITCHES, FILM_VIEWS, VOICES, Film
from waltzmark.core.form.form import OPENINGS, FittedFrom, FittedLine, Form, Opening, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Break, Door, FloorLines, Obstacle, Room, Start
from waltzmark.core.school.school import load_school
from waltzmark.core.score import read_count
from waltzmark.core.score.facings import Clock
from waltzmark.demo import demo_text
from waltzmark.files.document_values import document_values
from waltzmark.files.reading import DocumentError, read_document, read_file, read_values
from waltzmark.files.saving import SaveError, save_atomically
from waltzmark.files.texts import LARGEST_FILE
from waltzmark.files.writing import render

SMALL = """\
# kept: a comment at the top
waltzmark = 1

[form]
title = "Small"          # kept: beside a value
colour = "blue"

[future]
key = [1, 2]

[[posture]]
id = "a"
counts = [
  "shift R 100,  torso 10:30",   # kept: beside a count
  # kept: between counts
  "step L 9:00 bow",
]

[[posture]]
id = "b"
mirror_of = "a"
axis = "9:00"
"""


def test_the_whole_document_is_read() -> None:
    form = read_document(demo_text()).form
    assert form.title == "The ferry round" and form.twelve == "N" and form.opening == Opening("together")
    assert form.body == Body(1.72, 68.0, 60.0, measured=(("foot_length", 0.26),), ankle=48.0)
    assert form.room is not None and form.room.start == Start(2.9, 1.2, 0.0)
    assert (form.room.clearance, form.room.lines.spacing) == pytest.approx((0.10, 0.14))
    assert [o.name for o in form.room.obstacles] == ["pillar", "stove"]
    assert form.room.obstacles[1].centre == (0.75, 3.45) and form.room.obstacles[1].radius == 0.42
    assert form.posture("cast-home").turned == 180 and form.posture("lean-right").side_of == "lean-left"


def test_an_unchanged_form_gives_the_same_bytes() -> None:
    for text in (SMALL, demo_text()):
        read = read_document(text)
        assert render(read.form, read) == text


def test_an_edit_changes_its_line_and_nothing_else() -> None:
    read = read_document(SMALL)
    posture = read.form.posture("a")
    longer = read.form.with_posture(replace(posture, lines=(*posture.lines, read_count("shift L 70"))))
    before, after = SMALL.splitlines(), render(longer, read).splitlines()
    assert [line.strip() for line in after if line.strip() not in {b.strip() for b in before}] == ['"shift L 70",']
    assert [line.strip() for line in before] == [line.strip() for line in after if "shift L 70" not in line]


def test_postures_can_be_reordered_renamed_and_taken_out() -> None:
    read = read_document(SMALL)
    a, b = read.form.postures
    new = replace(
        read.form, title="Other", postures=(b, replace(a, name="First"), Posture("c", lines=(read_count("hold"),)))
    )
    text = render(new, read)
    assert read_document(text).form == new
    assert "# kept: between counts" in text and "[future]" in text and 'colour = "blue"' in text


feet = st.builds(
    FootPose,
    write.decimals(-2, 2),
    write.decimals(-2, 2),
    write.decimals(0, 359),
    st.sampled_from([Contact.FLAT, Contact.BALL]),
)
openings = st.builds(Opening, st.sampled_from(OPENINGS)) | st.builds(
    Opening, st.just(""), st.tuples(feet, feet), st.sampled_from([0.0, 0.25, 1.0])
)
texts = st.text(st.characters(), max_size=12)  # signs that cannot be seen too
rooms = st.none() | st.builds(
    Room,
    texts,
    st.just(((0.0, 0.0), (4.0, 0.0), (4.0, 3.5))),
    st.builds(Start, write.decimals(0, 4), write.decimals(0, 4), write.decimals(0, 359)),
    st.lists(
        st.builds(Obstacle, texts.filter(bool), st.just(((0.0, 0.0), (1.0, 0.0), (1.0, 1.0))))
        | st.builds(
            Obstacle,
            texts.filter(bool),
            st.just(()),
            st.sampled_from(["solid", "low", "support"]),
            st.just((1.0, 2.0)),
            write.decimals(0.1, 4),
        ),
        max_size=2,
    ).map(tuple),
    write.decimals(0, 1),
    write.decimals(0, 1),
    st.builds(
        FloorLines,
        st.sampled_from([0.12, 0.3]),
        st.just(False),
        st.just(0.0),
        write.decimals(0, 90),
        st.tuples(write.decimals(0, 1), st.just(0.0)),
    )
    | st.builds(
        FloorLines,
        st.sampled_from([0.12, 0.3]),
        st.just(True),
        st.sampled_from([0.0, 0.45]),
        write.decimals(0, 90),
        st.tuples(write.decimals(0, 1), write.decimals(0, 1)),
    ),
)
bodies = st.builds(
    Body,
    write.decimals(1, 2),
    write.decimals(40, 120),
    write.decimals(20, 80),
    st.just(45.0),
    write.decimals(20, 50),
    st.sampled_from([(), (("foot_length", 0.25),)]),
)
lines = st.lists(write.counts, max_size=4).map(tuple)


people = st.lists(bodies, max_size=2).map(
    lambda every: tuple(replace(each, name=f"Somebody {number}") for number, each in enumerate(every))
)
sources = st.none() | st.builds(
    FittedFrom,
    texts,
    st.lists(st.builds(FittedLine, texts, st.integers(0, 9), st.just(("hold",)), st.just(("hold", "hold @2")))).map(
        tuple
    ),
)


films = st.builds(
    Film,
    st.sampled_from(FILM_VIEWS),
    st.sampled_from(FILM_SHOWS),
    st.sampled_from(VOICES),
    write.decimals(0.2, 20),
    st.integers(1, 99),
    st.sampled_from(list(FILM_SIZES)),
    st.sampled_from(FILM_RATES),
    write.decimals(0, 60),
    *[st.booleans()] * len(FILM_SWITCHES),
)


@given(
    texts, openings, bodies, rooms, st.lists(lines, max_size=3), st.none() | write.floor_clocks, people, sources, films
)
@settings(max_examples=tries(80))
def test_every_form_reads_back_as_it_was_saved(  # type: ignore[no-untyped-def]
    title, opening, body, room, scores, ends, others, fitted, film
) -> None:
    postures = tuple(Posture(f"p{i}", title, each, ends, note=title or None) for i, each in enumerate(scores))
    if postures:
        postures += (
            Posture("m", mirror_of="p0", axis=Clock(540)),
            Posture("r", repeat_of="p0", turned=-22.5, side_of="m"),
        )
    form = Form(title, "E", opening, "stated", body=body, room=room, postures=postures, bodies=others, fitted=fitted)
    form = replace(form, film=film)
    text = render(form)
    assert read_document(text).form.film == film
    assert (
        document_values(read_document(text).form)
        == document_values(form)
        == document_values(read_values(document_values(form)))
    )
    old = read_document(SMALL)
    assert document_values(read_document(render(form, old)).form) == document_values(
        form
    ) and "# kept: a comment at the top" in render(form, old)


HEAD = "waltzmark = 1\n"


@pytest.mark.parametrize(
    ("text", "place", "kind"),
    [
        ("", "1", "file.no-format"),
        ("waltzmark = 2\n", "waltzmark:1:1", "file.newer"),
        ('waltzmark = "1"\n', "waltzmark:1:1", "file.format"),
        (HEAD + "[form\n", "2:6", "file.toml"),
        (HEAD + '[[bodies]]\nname = "A"\n[[bodies]]\nname = "A"\n', "bodies.name:5:1", "file.body-name"),
        (HEAD + '[[bodies]]\nname = "A"\n[[bodies]]\nname = "B"\nwaist = 0\n', "bodies.waist:6:1", "file.range"),
        (HEAD + "[bodies]\nwaist = 40\n", "bodies:2:1", "file.tables"),
        (HEAD + "[fitted]\nsource = 3\n", "fitted.source:3:1", "file.text"),
        (HEAD + '[[fitted.change]]\ncount = 1\nfrom = "hold"\n', "fitted.change.from:4:1", "file.fitted"),
        (HEAD + "[film]\ntempo = 0\n", "film.tempo:3:1", "file.range"),
        (HEAD + '[film]\nview = "below"\n', "film.view:3:1", "file.choice"),
        (HEAD + "[film]\ntick = 1\n", "film.tick:3:1", "file.switch"),
        (HEAD + "[film]\nframes = 24\n", "film.frames:3:1", "file.choice"),
        (HEAD + "[film]\npasses = 1.5\n", "film.passes:3:1", "file.whole"),
        (HEAD + "film = 3\n", "film:2:1", "file.table"),
        (HEAD + '[form]\ntitle = "x\n', "3:11", "file.toml"),
        (HEAD + "form = 3\n", "form:2:1", "file.table"),
        (HEAD + "[form]\ntitle = 3\n", "form.title:3:1", "file.text"),
        (HEAD + '[form]\nopening = "toghether"\n', "form.opening:3:1", "file.choice.meant"),
        (HEAD + "[form]\nopening = { left = { heel = [0, 0] } }\n", "form.opening:3:1", "file.opening-foot"),
        (HEAD + '[form]\ntwelve = "up"\n', "form.twelve:3:1", "file.choice"),
        (HEAD + '[form]\nschool = "broadframe"\n', "form.school:3:1", "file.choice.meant"),
        (HEAD + "[body]\nstature = nan\n", "body.stature:3:1", "unit.impossible"),
        (HEAD + '[body]\n\nmass = "-3kg"\n', "body.mass:4:1", "unit.impossible"),
        (HEAD + '[body]\nstature = "1000000000m"\n', "body.stature:3:1", "unit.impossible"),
        (HEAD + '[body]\nshank = "40 cubits"\n', "body.shank:3:1", "unit.unknown"),
        (HEAD + "[body]\nknee_bend = inf\n", ":3:1", "file.range"),
        (HEAD + "[body]\nwaist = 0\n", "body.waist:3:1", "file.range"),
        (HEAD + "[body]\nhip_in = { left = -5, right = 30 }\n", ":3:1", "file.range"),
        (HEAD + '[body]\nthigh = "5cm"\n', "body.thigh:3:1", "body.thigh"),
        (HEAD + '[body]\nspare = "both"\n', "body.spare:3:1", "file.choice"),
        (HEAD + '[school]\nbase = "broad-frame"\nlean = 200\n', "school.lean:4:1", "file.range"),
        (HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\narms = 1\n", "room.arms:4:1", "file.switch"),
        (
            HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\n[[room.door]]\nwall = 'w'\n",
            "room.door.wall:5:1",
            "file.door",
        ),
        (
            HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\n[[room.door]]\nwall = 0\nat = '3.5m'\n",
            "room.outline:3:1",
            "room.door",
        ),
        (HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\nwalls = [3]\n", "room.walls:4:1", "file.walls"),
        (HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\nwalls = { 7 = 'w' }\n", "room.outline:3:1", "room.wall"),
        (
            HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\n[[room.obstacle]]\nkind = 'soft'\n",
            "room.obstacle.kind:5:1",
            "file.kind",
        ),
        (HEAD + "[room]\noutline = [[0, 0], [4, 4], [4, 0], [0, 4]]\n", "room.outline:3:1", "outline.crosses"),
        (HEAD + "[room]\noutline = [[0, 0], [4, 0], [4, nan]]\n", "room.outline:3:1", "file.corner"),
        (HEAD + "[room]\noutline = [[0, 0], [4, 0], [1e9, 4]]\n", "room.outline:3:1", "file.corner"),
        (HEAD + '[room]\noutline = "big"\n', "room.outline:3:1", "file.outline"),
        (HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\nstart = 3\n", "room.start:4:1", "file.start"),
        (
            HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\n[[room.obstacle]]\ncentre = [1, 1]\nradius = -1\n",
            "room.obstacle.centre:5:1",
            "file.circle",
        ),
        *(
            (HEAD + "[room]\noutline = [[0,0],[4,0],[4,4]]\n" + line, f"{key}:{at}:1", kind)
            for line, key, at, kind in (
                ("tape = [[1, 2]]", "room.tape", 4, "file.tape"),
                (f"tape = {[[[0, 0], [1, 1]]] * 501}", "room.tape", 4, "file.much-tape"),
                ("boards = [1, 2, 3]", "room.boards", 4, "file.two-lengths"),
                ("tiles = 3", "room.tiles", 4, "file.tiles"),
                ("tiles = { spacing = ['30cm', 'x'] }", "room.tiles", 4, "unit.length.not"),
                ("tiles = { direction = 'n' }", "room.tiles", 4, "file.number.not"),
                ("clearance = -1", "room.clearance", 4, "unit.impossible"),
                ("start = { x = 1, y = 1, heading = 'N' }", "room.start", 4, "file.number.not"),
                ("break = 3", "room.break", 4, "file.tables"),
                ("[[room.break]]\nbefore = 3\nx = 1\ny = 1", "room.break.before", 5, "file.break"),
                ("[[room.obstacle]]\ncentre = [1, 1]", "room.obstacle.centre", 5, "file.circle"),
                ("[[room.door]]\nwall = 9", "room.outline", 3, "room.door-wall"),
                ("[[room.door]]\nwall = 0\nleaf = '9m'", "room.door.leaf", 6, "unit.impossible"),
            )
        ),
        (HEAD + "[home]\nplace = 3\n", "home.place:3:1", "file.home-place"),
        (HEAD + "[home]\nfacing = '~3'\n", "home.facing:3:1", "file.home-facing"),
        (HEAD + "[home]\nwithin = -1\nturn = 10\n", "home.within:3:1", "unit.impossible"),
        (HEAD + "[home]\nturn = 200\n", "home.turn:3:1", "file.range"),
        (HEAD + "[home]\nlocked = 'x'\n", "home.locked:3:1", "file.ids"),
        (HEAD + '[[posture]]\nname = "x"\n', "posture.id:2", "file.no-id"),
        (HEAD + '[[posture]]\nid = "x"\ncounts = "hold"\n', "posture.counts:4:1", "file.counts"),
        (HEAD + '[[posture]]\nid = "x"\nends = "25:00"\n', "posture.ends:4:1", "file.facing"),
        (
            HEAD + '[[posture]]\nid = "x"\n[[posture]]\nid = "y"\nrepeat_of = "x"\nturned = "0.3"\n',
            "posture.turned:7:1",
            "file.turned",
        ),
        (HEAD + '[[posture]]\nid = "x"\n[[posture]]\nid = "x"\n', "", "form.two-ids"),
        (HEAD + '[posture]\nid = "x"\n', "posture:2:1", "file.tables"),
        (HEAD + "a = " + "[" * 3000 + "]" * 3000, "", "file.deep"),
    ],
)
def test_what_cannot_be_read_is_told_with_its_place(text: str, place: str, kind: str) -> None:
    with pytest.raises(DocumentError) as caught:
        read_document(text)
    ((where, problem),) = caught.value.problems
    assert place in str(where) and problem.kind == kind


def test_all_problems_of_a_document_are_told_at_once() -> None:
    with pytest.raises(DocumentError) as caught:
        read_document(HEAD + '[body]\nmass = "0kg"\nstature = "x"\n[[posture]]\nid = "x"\nends = "13:00"\n')
    assert [place.line for place, _ in caught.value.problems] == [4, 3, 7]


def test_counts_that_cannot_be_read_are_kept_and_told_with_their_place() -> None:
    text = (
        HEAD + '[[posture]]\nid = "x"\ncounts = [\n  "hold",\n  "shift L 70, pivott R heel 9",\n  "hodl", "hodl",\n]\n'
    )
    read = read_document(text)
    assert [(n.place.line, n.place.column) for n in read.notices] == [(6, 16), (7, 4), (7, 12)]
    kept = read.notices[0].message
    assert kept["n"] == 2 and kept["advice"] == read.form.postures[0].lines[1].unread.advice  # type: ignore[union-attr]
    assert [line.moves for line in read.form.postures[0].lines] == [True, False, False, False]
    assert render(read.form, read) == text
    form = read.form.with_posture(replace(read.form.postures[0], lines=read.form.postures[0].lines[1:]))
    assert '"shift L 70, pivott R heel 9",' in render(form, read) and read_document(render(form)).form == form


def test_unknown_keys_are_kept_and_told() -> None:
    notices = read_document(SMALL + 'nmae = "x"\n').notices
    assert len(notices) == 3 and (notices[-1].place.key, notices[-1].place.line) == ("posture.nmae", 23)
    assert notices[-1].message["hint"] == "name"


def test_what_a_room_says_of_strangers_is_kept_and_told() -> None:
    text = (
        HEAD + "[room]\noutline = [[0, 0], [4, 0], [4, 4]]\nboards = { spacing = '20cm', ofset = 1 }\ntiles = {}\n"
        "[[room.break]]\nbefore = 'gone'\nx = 1\ny = 1\n[home]\nlocked = ['gone']\n"
    )
    read = read_document(text)
    told = [(notice.place.key, notice.place.line, notice.message.kind) for notice in read.notices]
    assert told == [
        ("room.boards", 4, "file.unknown-key-of.meant"),
        ("room.break.before", 7, "file.no-break"),
        ("home.locked", 11, "file.no-posture"),
    ]
    assert read.notices[0].message["hint"] == "offset"
    room = read.form.room
    assert room is not None and room.lines.tiles and room.lines.spacing == 0.2 and render(read.form, read) == text


def test_files_that_are_no_forms_are_refused(tmp_path: Path) -> None:
    big, binary = tmp_path / "big.waltz", tmp_path / "binary.waltz"
    with big.open("wb") as file:
        file.truncate(50_000_000)
    binary.write_bytes(b"waltzmark = 1\n\n\xff\xfe")
    assert big.stat().st_size > LARGEST_FILE
    for path, says in (
        (big, "file.large.form"),
        (binary, "^3 file.encoding"),
        (tmp_path / "none.waltz", "file.unopened"),
        (tmp_path, "file.folder"),
    ):
        with pytest.raises(DocumentError, match=says) as caught:
            read_file(path)
        assert caught.value.name == path.name
    windows = tmp_path / "windows.waltz"
    windows.write_bytes(b"\xef\xbb\xbf" + SMALL.replace("\n", "\r\n").encode())
    assert read_file(windows).form == read_document(SMALL).form


def test_a_save_is_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "form.waltz"
    save_atomically(path, "one")
    os.chmod(path, 0o640)
    save_atomically(path, "two")
    assert path.read_text() == "two" and stat.S_IMODE(path.stat().st_mode) == 0o640
    link = tmp_path / "link.waltz"
    link.symlink_to(path)
    save_atomically(link, "three")
    assert link.is_symlink() and path.read_text() == "three"

    def full(_descriptor: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(SaveError, match="No space left on device"):
        save_atomically(path, "four")
    assert path.read_text() == "three" and sorted(p.name for p in tmp_path.iterdir()) == ["form.waltz", "link.waltz"]
    with pytest.raises(SaveError, match="save.failed"):
        save_atomically(tmp_path / "no such folder" / "form.waltz", "five")


def test_bodies_schools_and_mutes_are_kept_in_the_document() -> None:
    read = read_document(demo_text())
    base = load_school("ball-turn")
    rules = dict(base.rules) | {
        "pivot.loaded": replace(
            base.rules["pivot.loaded"], limits=dict(base.rules["pivot.loaded"].limits) | {"load": 33.0}
        ),
        "gaze.beyond": replace(base.rules["gaze.beyond"], off=True),
    }
    own = replace(base, id="mine", name="Mine", base="ball-turn", rules=rules)
    body = replace(
        read.form.body,
        hip_out=(40.0, 45.0),
        knee_most=80.0,
        waist=(45.0, 40.0),
        ankle=33.0,
        knee_one=50.0,
        spare="left",
        support=True,
        implement=0.9,
        name="Mo",
        left_foot=0.255,
    )
    mutes = (Mute("pivot.part", "our teacher turns so"), Mute("hip.range", "warm by then", "boat", 2))
    assert read.form.room is not None
    bench = Obstacle("bench", ((4.0, 3.0), (4.4, 3.0), (4.4, 3.3)), "low")
    bed = Obstacle("bed", (), "support", (2.0, 1.5), 0.35)
    tiles = FloorLines(0.3, True, 0.4, 30.0, (0.05, 0.02))
    hall = replace(
        read.form.room,
        arms=True,
        behind=0.5,
        lines=tiles,
        tape=(((1.0, 0.0), (1.0, 4.8)),),
        breaks=(Break("boat", Start(1.0, 2.0, 90.0)),),
        walls=((0, "window"), (2, "mirror")),
        obstacles=(bench, bed),
        doors=(Door(1, 1.2, 0.8), Door(2, 0.5, 0.9, False)),
    )
    form = replace(read.form, school=own, body=body, mutes=mutes, room=hall)
    text = render(form, read)
    again = read_document(text)
    assert again.form == form and not again.notices
    assert text.count("load = 33.0") == 1 and "angle = 20.0" not in text  # only what differs from its base
    assert "[school]" not in render(read.form, again) and "[[mute]]" not in render(read.form, again)


def test_what_mutes_a_rule_of_old_mutes_the_one_that_took_it_over_and_stays_as_written() -> None:
    text = HEAD + '[[mute]]\nrule = "hip.front"\nreason = "warm by then"\n'
    read = read_document(text)
    assert [mute.rule for mute in read.form.mutes] == ["hip.range"] and render(read.form, read) == text


@pytest.mark.parametrize(
    ("extra", "says"),
    [
        ('[[mute]]\nrule = "pivot.part"', "reason"),
        ('[[mute]]\nrule = "pivot.part"\nreason = "so"\ncount = 3', "posture"),
        ('[school]\nbase = "nowhere"', "school.unknown"),
        ('[school]\nbase = "ball-turn"\n[school.rules."pivot.loaded"]\nlimits = { load = "much" }', "load"),
        ("[body]\nhip_out = { left = 40 }", "file.sided"),
        ('[body]\nfoot_length = { left = "25cm" }', "file.foot-length"),
        ('[body]\nsupport = "chair"', "file.switch"),
    ],
)
def test_wrong_bodies_schools_and_mutes_say_where_and_what(extra: str, says: str) -> None:
    with pytest.raises(DocumentError, match=says):
        read_document(f"waltzmark = 1\n{extra}\n")
