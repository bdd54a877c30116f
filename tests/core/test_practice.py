"""Practice: drills, recall, scales, turn checks, cues, and what the book says is to be done next."""

from __future__ import annotations

import io
import math
import statistics
import wave
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.practice.advice import OfSide, advice, calendar, left_right, series_of, worked
from waltzmark.core.practice.balancing import Band, Holding, Person, Reading, bias_of, share_of
from waltzmark.core.practice.cues import beats_at, tick
from waltzmark.core.practice.drill import Done, drill_for, needs_rest, other_side_of
from waltzmark.core.practice.entries import Entry, EntryError, passage_words, side_of, sides_of_form
from waltzmark.core.practice.recall import (
    Answer,
    Card,
    answered,
    cards_of,
    due,
    missed,
    quality,
    questions,
    reviewed,
)
from waltzmark.core.practice.turns import offered, turn_name
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document
from waltzmark.words.cues import cue_track, spoken

NOON = datetime(2026, 5, 4, 12, 0, tzinfo=UTC)
DEMO = read_document(demo_text()).form
TRACE = walk(DEMO)


def test_the_side_of_a_posture_is_that_of_the_foot_in_front_or_of_the_one_that_acts() -> None:
    sides = sides_of_form(DEMO, TRACE)
    assert (sides["cast-right"], sides["cast-left"], sides["cast-right-again"]) == ("right", "left", "right")
    assert {sides["lean-left"], sides["lean-right"]} == {"left", "right"}
    assert {sides["lantern-right"], sides["lantern-left"]} == {"left", "right"}
    assert side_of(walk(Form(postures=(Posture("a"),))), "a") == ""


def test_a_drill_of_five_a_side_makes_ten_entries_five_each() -> None:
    pairs = declared_pairs(DEMO, TRACE)
    other = other_side_of(pairs, "cast-right")
    assert other == "cast-left" and other_side_of(pairs, "cast-left") == "cast-right"
    assert other_side_of(pairs, "moor") is None
    drill = drill_for(DEMO, TRACE, ["cast-right"], 5, [other], headings=4)
    done = Done(drill)
    for n in range(10):
        rep = done.next
        assert rep is not None and rep.side == ("right", "left")[n % 2] and rep.heading == 90.0 * ((n + n // 4) % 4)
        done = done.with_rep(DEMO, NOON + timedelta(minutes=n), 0.5, "off" if n == 3 else "done")
    assert done.next is None and len(done.entries) == 10
    assert [done.done(side) for side in ("left", "right")] == [5, 5]
    assert {e.title for e in done.entries} == {"Cast the line, right", "Cast the line, left"}
    with pytest.raises(WaltzmarkError, match="drill.over"):
        done.with_rep(DEMO, NOON, 0.5)
    blocks = drill_for(DEMO, TRACE, ["cast-right"], 3, [other], "blocks")
    assert [rep.side for rep in blocks.reps] == ["right"] * 3 + ["left"] * 3
    assert [rep.number for rep in blocks.reps] == [1, 2, 3, 1, 2, 3]
    chain = drill_for(DEMO, TRACE, ["coil", "cast-right", "cast-left"], 2)
    assert len(chain.reps) == 2 and chain.title == "Coil the rope to Cast the line, left" and chain.reps[0].side == ""
    with pytest.raises(WaltzmarkError, match="drill.reps.*most=50"):
        drill_for(DEMO, TRACE, ["coil"], 51)
    with pytest.raises(WaltzmarkError, match="drill.nothing"):
        drill_for(DEMO, TRACE, [], 5)


def test_what_hurts_ends_a_drill_and_stays_in_it() -> None:
    done = Done(drill_for(DEMO, TRACE, ["lantern-right"], 5, ["lantern-left"]))
    assert (done.drill.hard and needs_rest(TRACE, "lantern-right") and not needs_rest(TRACE, "moor")) or done.drill.hard
    done = done.with_rep(DEMO, NOON, 0.5).with_rep(DEMO, NOON, 0.5, "hurts", "the knee")
    assert done.next is None and [e.outcome for e in done.entries] == ["done", "hurts"]
    assert done.entries[1].note == "the knee" and done.done(done.entries[1].side) == 0


# Recall.


def test_what_the_hand_placed_is_measured_against_the_count() -> None:
    row = TRACE.row_of("cast-right", 5)
    pose = TRACE.pose(row)
    exact = missed(TRACE, row, Answer.of(pose))
    assert (exact.cm, exact.degrees, exact.torso, exact.percent) == (0.0, 0.0, 0.0, 0.0) and quality(exact) == 5
    placed = Answer(
        (
            pose.left,
            pose.right._replace(x=pose.right.x + 0.03, y=pose.right.y - 0.04, heading=pose.right.heading + 350),
        ),
        pose.left_share - 0.2,
        pose.torso + 12.0,
    )
    off = missed(TRACE, row, placed)
    assert off.cm == pytest.approx(5.0) and off.side is Side.RIGHT and off.degrees == pytest.approx(10.0)
    assert off.torso == pytest.approx(12.0) and off.percent == pytest.approx(20.0) and quality(off) == 2


@given(st.lists(st.integers(0, 5), max_size=30))
def test_intervals_follow_the_published_rule(qualities: list[int]) -> None:
    """SM-2, computed by hand beside it."""
    card, day = Card("a", 1), date(2026, 5, 4)
    easiness, row, interval = 2.5, 0, 0
    for q in qualities:
        card = reviewed(card, q, day)
        if q < 3:  # "without changing the E-Factor"
            row, interval = 0, 1
        else:
            easiness = max(1.3, easiness + 0.1 - (5 - q) * (0.08 + (5 - q) * 0.02))
            row += 1
            interval = {1: 1, 2: 6}.get(row) or math.ceil(interval * easiness)
        assert (card.row, card.interval) == (row, interval) and card.easiness == pytest.approx(easiness)
        assert card.due == day + timedelta(days=interval)
        day = card.due
    assert card.easiness >= 1.3


def test_what_was_missed_comes_again_sooner_than_what_was_known() -> None:
    asked = questions(TRACE)
    assert ("coil", 1) in asked and ("lantern-right", 3) not in asked  # nothing moves there
    known, bad, never = asked[0], asked[1], asked[2]
    entries = [
        Entry(NOON, "recall", form=DEMO.title, posture=key[0], what=f"count {key[1]}", measured=q)
        for key, qs in ((known, (5, 5)), (bad, (1,)))
        for q in qs
    ]
    cards = cards_of(entries)
    assert cards[known].interval == 6 and cards[bad].interval == 1
    tomorrow = due(TRACE, cards, NOON.date() + timedelta(days=1))
    assert tomorrow[0] == bad and never in tomorrow and known not in tomorrow
    later = due(TRACE, cards, NOON.date() + timedelta(days=6))
    assert later[:2] == (bad, known)
    assert answered(replace(entries[0], what="count x")) is None and answered(Entry(NOON, "walk")) is None


# Scales.


def test_two_plates_tell_a_share_without_the_body_s_mass_and_one_plate_with_it() -> None:
    assert share_of(Reading(0.0, 30.0, 70.0), 55.0) == pytest.approx(0.3)
    assert share_of(Reading(0.0, left=19.5), 65.0) == pytest.approx(0.3)
    assert share_of(Reading(0.0, right=19.5), 65.0) == pytest.approx(0.7)
    assert share_of(Reading(0.0), 65.0) is None and share_of(Reading(0.0, 2.0, 1.0), 65.0) is None
    for wrong in ((0.0, -5.0), (0.0, float("nan")), (float("inf"), 5.0), (0.0, 5000.0)):
        with pytest.raises(WaltzmarkError, match=r"scale\.(reading|time)"):
            Reading(*wrong)


def test_a_band_is_held_for_seconds_without_a_break() -> None:
    holding = Holding(Band(0.3), needed=2.0)
    assert not any(holding.take(0.1 * n, 0.32) for n in range(20))
    assert holding.take(2.0, 0.35) and holding.best == pytest.approx(2.0)
    assert not holding.take(2.1, 0.36) and holding.held == 0.0 and holding.best == pytest.approx(2.0)
    # A gap, a clock that goes back, and a plate nobody stands on begin anew.
    for t, share in ((2.2, 0.3), (2.3, 0.3), (9.0, 0.3), (9.1, 0.3), (4.0, 0.3)):
        holding.take(t, share)
        assert holding.held <= 0.2
    assert not holding.take(4.1, None) and holding.held == 0.0
    holding.begin_anew()
    assert not holding.take(4.2, 0.3)


@settings(max_examples=tries(25))
@given(st.integers(0, 10_000), st.floats(0.2, 0.8))
def test_a_person_with_a_bias_of_four_percent_is_told_so_within_ten_readings(seed: int, target: float) -> None:
    person = Person(bias=0.04, sway=0.01, seed=seed)
    found = []
    for n in range(10):
        person.target = target if n % 2 else 1.0 - target
        for _ in range(40):
            left, right = person.stand(0.1)
        assert left + right == pytest.approx(person.mass)
        found.append((person.target, left / person.mass))
        assert bias_of(found[:9]) is None
    bias = bias_of(found)
    assert bias is not None and bias.percent == pytest.approx(4.0, abs=2.0) and bias.message["side"] is Side.LEFT


def test_a_person_without_a_bias_is_seldom_told_of_one_and_sways_as_they_are_told_to() -> None:
    told = 0
    for seed in range(60):
        person = Person(sway=0.02, seed=seed)
        shares = [person.stand(2.0)[0] / person.mass for _ in range(20)]
        told += bias_of([(0.5, share) for share in shares]) is not None
    assert told <= 6
    swaying = Person(sway=0.03, seed=3)
    assert 0.02 < statistics.stdev(swaying.stand(0.5)[0] / swaying.mass for _ in range(2000)) < 0.04
    assert [Person(seed=5).stand(0.1) for _ in range(1)] == [Person(seed=5).stand(0.1)]
    drifting = Person(sway=0.0, drift=0.10)
    assert [drifting.stand(30.0)[0] / 65.0 for _ in range(2)] == pytest.approx([0.55, 0.60])


# Turn check.


def turns(*measures: tuple[float, int], hurts: int = -1) -> list[Entry]:
    """Measures of the left hip inward, each with the day it was taken on."""
    return [
        Entry(
            NOON + timedelta(days=day, minutes=n),
            "turn",
            what=turn_name(Side.LEFT, "in"),
            measured=value,
            unit="°",
            outcome="hurts" if n == hurts else "done",
        )
        for n, (value, day) in enumerate(measures)
    ]


def test_a_smaller_range_is_offered_at_once_and_a_larger_one_only_after_five_days() -> None:
    def offer(entries: list[Entry], known: float = 35.0) -> float | None:
        found = offered(entries, Side.LEFT, "in", known)
        return None if found is None else found.degrees

    assert offer(turns((31, 0), (31, 0), (31, 0))) == 31.0 and offer(turns((31, 0))) == 31.0
    assert offer(turns((35, 0))) is None and offer([]) is None
    assert offer(turns((0, 0))) == offer(turns((-12, 0))) == 1.0  # no hip can be set to less
    assert offer(turns(*((120, day) for day in range(5)))) == 90.0
    assert offer(turns(*((120, day) for day in range(5))), known=89.5) is None
    assert offer(turns(*((38, day) for day in range(4)))) is None
    assert offer(turns(*((38, 0) for _ in range(9)))) is None  # all on one day
    assert offer(turns(*((38, day) for day in range(5)))) == 38.0
    assert offer(turns((38, 0), (41, 1), (39, 2), (38, 3), (45, 4))) == 38.0  # the least of them
    assert offer(turns(*((38, day) for day in range(5)), hurts=4)) is None  # it hurt
    assert offer(turns(*((38, day) for day in range(5)), hurts=0)) is None  # and only four days since
    assert offer(turns(*((38, day) for day in range(6)), hurts=0)) == 38.0
    assert offer(turns((38, 0), (38, 1), (35, 2), (38, 3), (38, 4), (38, 5))) is None
    assert (
        offered(turns((31, 0)), Side.RIGHT, "in", 35.0) is None
        and offered(turns((31, 0)), Side.LEFT, "out", 45.0) is None
    )
    silent = Entry(NOON + timedelta(days=2, hours=1), "turn", what=turn_name(Side.LEFT, "in"), outcome="hurts")
    days = turns(*((38, day) for day in range(5)))
    assert offer([*days, silent]) is None  # it hurt, and nobody measured
    assert offer([*days, replace(silent, what=turn_name(Side.RIGHT, "in"))]) == 38.0
    told = offered(turns((31, 0), (30, 0)), Side.LEFT, "in", 35.0)
    assert told is not None and told.why == message("turn.less", n=2, measured=30.5, known=35.0)


@given(st.integers(20, 45), st.integers(15, 60), st.sampled_from(["", "left", "right"]))
def test_a_larger_range_that_is_taken_counts_more_also_on_a_side_that_is_spared(
    known: int, measured: int, spare: str
) -> None:
    body = Body(hip_in=float(known), spare=spare)  # type: ignore[arg-type]
    found = offered(turns(*((measured, day) for day in range(5))), Side.LEFT, "in", body.hip_set(Side.LEFT)[1])
    if found is not None:
        after = Body(hip_in=(found.degrees, float(known)), spare=spare)  # type: ignore[arg-type]
        larger = after.hip_range(Side.LEFT)[1] > body.hip_range(Side.LEFT)[1]
        assert larger == (measured > known) and found.degrees == measured


# Cues.


def test_the_cue_track_has_each_count_at_its_time() -> None:
    titles = {p.id: p.title for p in DEMO.postures}
    track = cue_track(TRACE, titles, 1.5, count_in=10.0)
    blocks = track.split("\n\n")
    assert blocks[0] == "WEBVTT" and blocks[1].startswith("00:00:00.000 --> 00:00:10.000\nCount-in")
    assert len([b for b in blocks if "-->" in b]) == len(TRACE)
    number, times, words = blocks[2].split("\n")
    assert (number, times) == ("1", "00:00:10.000 --> 00:00:11.500")
    assert words == f"Stand on the quay: {spoken(TRACE, 1)}" and spoken(TRACE, 1)
    last = [b for b in blocks if "-->" in b][-1].split("\n")[1]
    whole = 10.0 + 1.5 * float(TRACE.beats[1:].sum())
    assert last.endswith(f"{int(whole // 60) // 60:02d}:{int(whole // 60) % 60:02d}:{whole % 60:06.3f}")
    part = cue_track(TRACE, {"coil": "a --> b & <i>"}, 1.0, 0.0, rows=range(*TRACE.span("coil")))
    assert part.count("-->") == 6 and "a --&gt; b &amp; &lt;i&gt;" in part
    assert beats_at(TRACE, 4, 5, 2.0)[0][1:] == (0.0, 4.0)


def test_the_tick_is_a_sound_that_dies_away() -> None:
    for high in (False, True):
        with wave.open(io.BytesIO(tick(high))) as sound:
            assert (sound.getnchannels(), sound.getframerate(), sound.getnframes()) == (1, 22_050, 2205)
            data = sound.readframes(2205)
        loud = [
            max(abs(int.from_bytes(data[2 * n : 2 * n + 2], "little", signed=True)) for n in part)
            for part in (range(200), range(2000, 2200))
        ]
        assert loud[0] > 4000 and loud[1] < 200
    assert tick() != tick(True)


# What the book says.


def drilled(posture: str, days: int, side: str = "", outcome: str = "done", **more: object) -> Entry:
    return Entry(
        NOON - timedelta(days=days),
        "drill",
        form=DEMO.title,
        posture=posture,
        title=posture.title(),
        side=side,  # type: ignore[arg-type]
        outcome=outcome,  # type: ignore[arg-type]
        minutes=2.0,
        **more,  # type: ignore[arg-type]
    )


def test_the_calendar_sums_days_and_what_was_done_is_told_by_posture_and_side() -> None:
    entries = [
        drilled("coil", 2, "left"),
        drilled("coil", 2, "left", "off"),
        drilled("haul", 0),
        drilled("coil", 1, "right"),
    ]
    assert list(calendar(entries).items()) == [
        ("2026-05-02", (4.0, 2)),
        ("2026-05-03", (2.0, 1)),
        ("2026-05-04", (2.0, 1)),
    ]
    found = {(w.posture, w.side): w for w in worked(entries)}
    assert found["coil", "left"].reps == 2 and found["coil", "left"].missing == 0.5
    assert found["coil", "left"].title == "Coil" and [w.posture for w in worked(entries)] == ["haul", "coil", "coil"]
    assert left_right(entries) == {"left": OfSide(2, 4.0, 2, 1), "right": OfSide(1, 2.0, 1, 0)}


def test_a_measure_over_time_has_its_plan_and_its_spread() -> None:
    entries = [drilled("boat", n, what="pivot L", measured=90.0 + n, planned=135.0, unit="°") for n in range(5)]
    (series,) = series_of([*entries, drilled("boat", 1)])
    assert series.what == "Boat: pivot L" and series.measured == (94.0, 93.0, 92.0, 91.0, 90.0)
    assert series.mean == 92.0 and series.spread == pytest.approx(statistics.stdev(range(5)))
    assert entries[0].off == -45.0 and entries[0].day == "2026-05-04"


def test_what_to_do_next_is_told_with_its_reason() -> None:
    today = NOON.date()
    (first,) = advice(DEMO, [], today)
    assert first.posture == "quay" and first.why == message("advice.never.others", n=18)
    entries = [
        *(drilled("coil", 20 + n) for n in range(3)),
        *(drilled("cast-right", n, "right", "missed" if n < 2 else "done") for n in range(4)),
        *(drilled("cast-left", n, "left") for n in range(4)),
        drilled("lean-left", 1, "left", "hurts"),
        drilled("gone", 1),
        replace(drilled("coil", 0), form="another form"),
    ]
    told = advice(DEMO, entries, today)
    assert [each.posture for each in told] == ["lean-left", "cast-right", "", "coil", "quay"]
    assert told[0].what == message("advice.rest", title="Lean on the pole, left")
    assert told[1].why == message("advice.missed", missed=2, entries=4) and told[2].what.kind == "advice.side.right"
    assert told[3].why == message("advice.long-ago", n=20)
    uneven = advice(DEMO, [drilled("cast-left", 0, "left") for _ in range(7)], today)
    assert any(
        (each.what.kind, each.why) == ("advice.side.right", message("advice.less", n=0, other=7)) for each in uneven
    )


def test_what_was_done_of_a_whole_form_or_a_passage_counts_for_every_posture_of_it() -> None:
    today = NOON.date()
    whole = [Entry(NOON - timedelta(days=n), "walk", form=DEMO.title, minutes=19.0) for n in range(30)]
    assert advice(DEMO, whole, today) == ()  # all of it was done today
    told = {each.posture: each for each in worked(whole, DEMO)}
    assert set(told) == {posture.id for posture in DEMO.postures}
    assert all(each.reps == 30 and each.minutes == pytest.approx(30.0) and each.entries == 0 for each in told.values())
    assert worked([replace(each, form="another form") for each in whole], DEMO) == ()
    chain = Done(drill_for(DEMO, TRACE, ["coil", "cast-right", "cast-left"], 3))
    for n in range(3):
        chain = chain.with_rep(DEMO, NOON, 1.5, "missed" if n else "done")
    done = {each.posture: each for each in worked(chain.entries, DEMO)}
    assert set(done) == {"coil", "cast-right", "cast-left"} and {each.reps for each in done.values()} == {3}
    # What was missed in a passage is not known of any one of its postures.
    assert {(each.entries, each.missed) for each in done.values()} == {(0, 0)}
    assert sum(each.minutes for each in done.values()) == pytest.approx(4.5)
    never = next(each for each in advice(DEMO, chain.entries, today) if each.posture == "quay")
    assert not {"coil", "cast-right", "cast-left"} & {each.posture for each in advice(DEMO, chain.entries, today)}
    assert never is not None and passage_words(["coil"]) == "" and passage_words(["x" * 1999, "y"]) == ""


def test_the_weaker_side_is_that_which_misses_more_of_its_entries() -> None:
    today = NOON.date()

    def side(name: str, missed: int, of: int, reps: int) -> list[Entry]:
        posture = "cast-left" if name == "left" else "cast-right"
        return [drilled(posture, 0, name, "missed" if n < missed else "done", reps=reps) for n in range(of)]

    both = [*side("left", 5, 5, 1), *side("right", 5, 5, 10)]  # both always miss
    assert not [each for each in advice(DEMO, both, today) if not each.posture]
    left = [*side("left", 4, 5, 10), *side("right", 1, 5, 1)]
    assert any(not each.posture and each.what.kind == "advice.side.left" for each in advice(DEMO, left, today))
    assert left_right(left)["left"].missing == 0.8 and left_right([])["left"].missing == 0.0


@given(st.integers(1, 6), st.integers(1, 12))
def test_each_side_goes_through_all_headings_and_none_more_often_than_another(headings: int, each: int) -> None:
    drill = drill_for(DEMO, TRACE, ["cast-right"], each, ["cast-left"], headings=headings)
    for side in ("left", "right"):
        met = [rep.heading for rep in drill.reps if rep.side == side]
        assert len(met) == each
        for part in range(0, each - headings + 1, headings):  # as often as they fit in
            assert len(set(met[part : part + headings])) == min(headings, 4)
    if headings == 4:
        assert all(one.heading != other.heading for one, other in pairwise(drill.reps))


def test_an_entry_is_refused_with_what_is_wrong_with_it() -> None:
    for wrong, kind in (
        ({"when": datetime(2026, 5, 4)}, "entry.zone"),
        ({"kind": "swim"}, "entry.kind"),
        ({"outcome": "fine"}, "entry.outcome"),
        ({"side": "up"}, "entry.side"),
        ({"note": "x" * 3000}, "entry.long"),
        ({"measured": float("nan")}, "entry.figure"),
        ({"minutes": -1.0}, "entry.below"),
        ({"heading": 1e9}, "entry.figure"),
    ):
        with pytest.raises(EntryError, match=kind):
            Entry(**{"when": NOON, "kind": "walk", **wrong})  # type: ignore[arg-type]
    assert Entry(NOON, "walk").at(NOON + timedelta(1)).day == "2026-05-05" and Entry(NOON, "walk").off is None
