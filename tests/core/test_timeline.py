"""Cues in time: held against what can be read off the cues themselves, without how they were laid."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.practice.timeline import FASTEST, Cue, lay


def length(text: str, speed: float) -> float:
    """A tenth of a second a letter."""
    return 0.1 * len(text) / speed


WORDINGS = st.lists(st.text("ab", min_size=1, max_size=40), max_size=3).map(
    lambda texts: tuple(sorted(texts, key=len, reverse=True))
)
WALKS = st.lists(st.tuples(st.floats(0.1, 4.0), WORDINGS, st.sampled_from((0.0, 0.0, 1.5))), min_size=1, max_size=12)


def speech(cues: tuple[Cue, ...]) -> list[Cue]:
    return [cue for cue in cues if cue.row is not None]


@given(WALKS, st.floats(0.0, 6.0), st.booleans(), st.booleans())
def test_cues_end_as_their_movement_begins_and_none_speaks_over_another(
    walk: list[tuple[float, tuple[str, ...], float]], count_in: float, waits: bool, counts: bool
) -> None:
    rows = [(row, takes) for row, (takes, _, _) in enumerate(walk)]
    words = {row: texts for row, (_, texts, _) in enumerate(walk)}
    rests = {row: rest for row, (_, _, rest) in enumerate(walk)}
    made = lay(
        rows,
        words,
        length,
        count_in,
        waits=waits,
        rests=rests,
        seconds=dict.fromkeys((5, 4, 3, 2, 1), "five") if counts else None,
        beats=dict.fromkeys(range(len(walk)), ("two", "three")) if counts else None,
    )
    begins = {row: begin for row, begin, _ in made.rows}
    for before, after in pairwise(made.cues):
        assert before.end < after.begin
    for cue in made.cues:
        assert cue.begin >= 0.0 and cue.end <= made.length
        assert cue.end - cue.begin == pytest.approx(length(cue.text, cue.speed))
        if cue.row is not None:
            assert cue.end == begins[cue.row] and cue.text in words[cue.row]
    # Movements follow each other, after their rests; they wait longer only for words.
    assert made.rows[0][1] >= count_in + rests[0]
    for (_, _, end), (row, begin, _) in pairwise(made.rows):
        extra = begin - end - rests[row]
        assert extra >= -1e-9 and (waits or extra == pytest.approx(0.0, abs=1e-9))
    assert [end - begin for _, begin, end in made.rows] == pytest.approx([takes for _, takes in rows])
    # Everything that has words is spoken or said to be left out; nothing is left out where a count waits.
    told = {cue.row for cue in speech(made.cues)}
    assert told | set(made.left) == {row for row, texts in words.items() if texts} and not told & set(made.left)
    assert not (waits and made.left)


@given(WALKS, st.floats(0.0, 6.0))
def test_the_fullest_wording_that_has_room_is_spoken_and_only_what_has_none_is_left_out(
    walk: list[tuple[float, tuple[str, ...], float]], count_in: float
) -> None:
    words = {row: texts for row, (_, texts, _) in enumerate(walk)}
    made = lay([(row, takes) for row, (takes, _, _) in enumerate(walk)], words, length, count_in)
    said = {cue.row: cue for cue in made.cues}
    free = 0.0
    for row, begin, _ in made.rows:
        texts = words[row]
        if not texts:
            continue
        room = begin - free
        fitting = [text for text in texts if length(text, 1.0) <= room]
        if row in said:
            cue = said[row]
            if fitting:
                assert cue.text == max(fitting, key=len) and cue.speed == 1.0
            else:
                assert len(cue.text) == min(map(len, texts)) and 1.0 < cue.speed <= FASTEST
            free = cue.end + 0.08
        else:
            assert length(min(texts, key=len), FASTEST) > room


def test_seconds_and_beats_are_counted_where_they_are_in_nobodys_way() -> None:
    made = lay(
        [(0, 4.0), (1, 1.0)],
        {0: ("x" * 12,), 1: ("y" * 12,)},
        length,
        5.0,
        seconds={5: "five", 4: "four", 3: "three", 2: "two", 1: "one"},
        beats={0: ("two", "three", "four")},
    )
    # 5 s of count-in: the cue takes 3.8 to 5.0, so that “two” at 3.0 is said and “one” is not; beats are a second each.
    assert [(cue.text, round(cue.begin, 6)) for cue in made.cues] == [
        ("five", 0.0), ("four", 1.0), ("three", 2.0), ("two", 3.0), ("x" * 12, 3.8),
        ("two", 6.0), ("three", 7.0), ("y" * 12, 7.8),
    ]  # fmt: skip


def test_a_time_tells_the_row_and_its_part_and_a_part_tells_the_time() -> None:
    made = lay([(7, 2.0), (8, 1.0)], {}, length, 3.0, rests={8: 0.5})
    assert made.rows == ((7, 3.0, 5.0), (8, 5.5, 6.5)) and made.length == 6.5
    assert [made.at(s) for s in (0.0, 3.0, 4.0, 5.2, 6.0, 9.0)] == [
        (6, 1.0), (7, 0.0), (7, 0.5), (7, 1.0), (8, 0.5), (8, 1.0),
    ]  # fmt: skip
    assert made.when(0, 0.5) == 4.0 and made.when(1, 0.0) == 5.5 and made.pause(1) == 0.5 and made.pause(0) == 0.0
