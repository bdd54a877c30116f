"""Plain words drafted as counts: what they are known to come to, and what holds of every draft."""

from __future__ import annotations

import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.draft.figures import FOLDER, counted, form_of
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.draft.drafting import Draft, doubt_of, draft
from waltzmark.core.draft.lexicon import lexicon, said_of
from waltzmark.core.form.form import Form
from waltzmark.core.form.spoken import LANGUAGES
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import ground_of, walk
from waltzmark.files.wordings import read_words

BOW = ("shift R 100", "step L 12 bow", "shift L 70, torso 12")


def words(text: str, *before: str, language: str = "en") -> Draft:
    form = form_of(before)
    return draft(text, walk(form).passages[-1].exit, ground_of(form), language)


def counts(found: Draft) -> list[str]:
    return [write_count(made.count) for posture in found.postures for made in posture.counts]


def hows(found: Draft) -> list[str]:
    return [made.how for posture in found.postures for made in posture.counts]


@pytest.mark.parametrize(
    ("text", "before", "wanted"),
    [
        (
            "Shift all your weight to the right and touch the ball of the left foot next to it",
            (),
            ["shift R 100", "step L beside ball"],
        ),
        (
            "Step out with the left to nine, heel first, and bend the knee",
            ("shift R 100",),
            ["step L 9 bow heel", "shift L 70"],
        ),
        ("Leave the right foot where it is, but take all the weight off it", (), ["shift R 0"]),
        (
            "Raise the left heel, then the whole foot, and place it a shoulder's width to the left",
            ("shift R 100",),
            ["ball L", "lift L", "step L 12 side"],
        ),
        ("The weight is on the left; your left heel should only be touching", ("shift L 100",), None),
        ("half a step up with the back foot", BOW, ["shift L 100", "step R 12 half"]),
        ("step out with the left to nine, 35 cm wide", ("shift R 100",), ["step L 9 bow 44x35"]),
        ("Step left to nine in a low stance.", ("shift R 100",), ["step L 9 low"]),
        ("Step back with the left, low stance.", ("shift R 100",), ["step L 12 back low"]),
        ("Step left to nine, heel first, bow stance.", ("shift R 100",), ["step L 9 bow heel"]),
        ("let the back heel slide out", BOW, ["pivot R ball in 20"]),
        ("Setp forward with the left foot, heal first.", ("shift R 100",), ["step L 12 bow heel"]),
        ("last week we stepped to nine with the left foot", ("shift R 100",), []),
        ("don't step to nine", ("shift R 100",), []),
    ],
)
def test_words_come_to_what_they_are_known_to(text: str, before: tuple[str, ...], wanted: list[str] | None) -> None:
    found = words(text, *before)
    if wanted is None:  # what is so is expected, and moves nothing
        assert counts(found) == ["expect L 100, expect L heel"]
    else:
        assert counts(found) == wanted


def test_a_sentence_that_cannot_be_walked_is_drafted_as_it_was_said() -> None:
    found = words("Shift your weight to the left and bring the left foot closer", *BOW)
    assert counts(found) == ["shift L 100", "step L beside"]
    assert hows(found) == ["given", "doubtful"]


def test_what_was_said_given_chosen_and_put_in_is_told_apart() -> None:
    assert hows(words("Shift eighty percent onto the right leg", *BOW)) == ["said"]
    assert hows(words("Pour into the front foot", *BOW, "shift R 100")) == ["given"]
    assert hows(words("Turn the left foot out", *BOW, "shift R 100")) == ["chosen"]
    assert hows(words("half a step up with the back foot", *BOW)) == ["inserted", "said"]
    assert hows(words("adjust the back foot", *BOW)) == ["doubtful"]


def test_a_figure_that_no_count_took_up_makes_its_count_doubtful() -> None:
    found = words("Put 70% on the left leg and 40% on the right.", *BOW)
    assert counts(found) == ["shift L 70"]
    assert hows(found) == ["doubtful"]


def test_headings_become_postures_and_the_other_side_a_mirror() -> None:
    text = "## Mend the fence\nShift to the right.\n## Look out\nStep left to 9.\nNow the same on the other side."
    found = words(text)
    assert [(each.id, each.name, each.mirror_of) for each in found.postures] == [
        ("mend-the-fence", "Mend the fence", None),
        ("look-out", "Look out", None),
        ("look-out-mirror", "", "look-out"),
    ]


@pytest.mark.parametrize("title", ["", "# The heron in the yard\n\n"])
def test_paragraphs_that_begin_with_a_name_each_become_postures(title: str) -> None:
    paragraphs = (
        "Push the door. Shift all your weight to the right. Step forward with the left foot, heel first.",
        "Look for the key. Sit back on the right leg.\nThen shift all your weight to the left.",
        "Gather the rain: bring the right foot beside the left.",
    )
    found = words(title + "\n\n".join(paragraphs))
    assert [(each.id, each.name, len(each.counts) > 0) for each in found.postures] == [
        ("push-the-door", "Push the door", True),
        ("look-for-the-key", "Look for the key", True),
        ("gather-the-rain", "Gather the rain", True),
    ]
    assert not [each for each in found.unused if each.why == "unread"]
    whole = counts(words(title + " ".join(each.partition(". " if ". " in each else ": ")[2] for each in paragraphs)))
    assert counts(found) == whole


def test_a_posture_that_was_begun_stays_what_it_is_while_the_next_paragraphs_are_written() -> None:
    first = "Push the door. Shift all your weight to the right. Step to 12 with the left foot."
    whole = first + "\n\nLook for the key. Shift all your weight to the left.\n\nAnd now breathe in.\n\nGath"
    begins = [[posture.span[0] for posture in words(whole[:upto]).postures] for upto in range(len(first), len(whole))]
    assert all(each[0] == 0 for each in begins) and len(begins[-1]) == 2
    at = next(n for n, each in enumerate(begins) if len(each) == 2)
    assert all(each == begins[-1] for each in begins[at:])  # half a name, and a paragraph without one, change nothing


@pytest.mark.parametrize(
    "text",
    [
        "Push the door. Shift all your weight to the right.",  # one paragraph is no list of them
        "Shift right. Step left to 9.\n\nSit back. Step right to 12.",  # it is what one does
        "Push the door. Shift right.\n\nStep left to 9.",  # one name is no list of them
        "Shift right to the door.\n\nThe key. Step left to 9.\n\nThe rain. Shift left.",  # it does not begin with one
        "Push the door, and then the gate, and the shed. Shift right.\n\nThe key. Step left to 9.",  # too long for one
    ],
)
def test_what_is_no_name_stays_with_what_is_done(text: str) -> None:
    assert [each.name for each in words(text).postures] == [""]


@pytest.mark.parametrize("corpus", ["open"])
def test_most_of_what_people_say_is_drafted_right_and_nothing_is_silently_wrong(corpus: str) -> None:
    for language, kinds in counted(FOLDER / f"{corpus}.toml").items():
        whole = sum(kinds.values())
        assert kinds["right"] >= 0.75 * whole, language
        assert kinds["right"] + kinds["right but asked"] >= 0.9 * whole, language
        assert kinds["silent"] <= 0.02 * whole, language


phrases = {
    language: sorted({" ".join(each) for each in lexicon(language).phrases}) + ["70", "10:30", "45 degrees", ".", ","]
    for language in LANGUAGES
}


@given(st.data(), st.sampled_from(LANGUAGES))
@settings(max_examples=60)
def test_whatever_is_said_is_drafted_walked_and_in_its_place(data: st.DataObject, language: str) -> None:
    """Words of the lexicon in any order: counts that can be walked, each with where it came from in the text."""
    text = " ".join(data.draw(st.lists(st.sampled_from(phrases[language]), max_size=12)))
    found = words(text, language=language)
    trace = walk(form_of(tuple(counts(found))))
    assert len(trace) >= 1
    for posture in found.postures:
        for made in posture.counts:
            assert made.spans
            for start, stop in (*made.spans, *(span for slot in made.slots for span in slot.spans)):
                assert 0 <= start < stop <= len(text)
    for each in found.unused:
        assert text[each.span[0] : each.span[1]] == each.text
    assert found == words(text, language=language)


@given(st.text(max_size=200), st.sampled_from(LANGUAGES))
@settings(max_examples=60)
def test_no_text_upsets_it(text: str, language: str) -> None:
    words(text, language=language)
    doubt_of(text, language)
    for each in said_of(text, language):
        assert 0 <= each.span[0] < each.span[1] <= len(text)


def test_words_of_another_language_are_told_of() -> None:
    english, spanish = "Shift the weight to the left leg and step forward.", "Pasa el peso a la pierna izquierda."
    assert doubt_of(english, "en") is None and doubt_of(spanish, "es") is None
    for text, language, other in ((english, "es", "en"), (spanish, "en", "es")):
        told = doubt_of(text, language)
        assert told is not None and told.kind == "draft.other-language" and told["other"] == other
    told = doubt_of("…! 12 %", "en")
    assert told is not None and told.kind == "draft.no-words"


def test_captions_are_one_text_with_times_and_nothing_twice(tmp_path: Path) -> None:
    file = tmp_path / "lesson.vtt"
    file.write_text(
        "WEBVTT\n\n00:01.000 --> 00:03.000\nshift your weight back to\n\n00:03.000 --> 00:05.000\n"
        "shift your weight back to\n<c>your right leg</c>\n\n00:06.500 --> 00:08.000\nturn your left foot in\n",
        encoding="utf-8",
    )
    read = read_words(file)
    lines = ["shift your weight back to", "your right leg", "", "turn your left foot in"]  # a pause ends a sentence
    assert read.text.split("\n") == lines
    assert [(read.text[at:].split("\n")[0], when) for at, when in read.times] == [
        ("shift your weight back to", 1.0),
        ("your right leg", 3.0),
        ("turn your left foot in", 6.5),
    ]
    assert counts(words(read.text, *BOW)) == ["shift R 100", "pivot L heel in 45"]


@pytest.mark.parametrize("content", [b"\xff\xfe\x00binary", b"text\x00more", b"x" * 1_000_001])
def test_what_is_no_text_is_refused(tmp_path: Path, content: bytes) -> None:
    file = tmp_path / "words.txt"
    file.write_bytes(content)
    with pytest.raises(WaltzmarkError):
        read_words(file)


def test_captions_without_times_are_refused(tmp_path: Path) -> None:
    file = tmp_path / "words.srt"
    file.write_text("just some words\n", encoding="utf-8")
    with pytest.raises(WaltzmarkError):
        read_words(file)


def test_a_draft_begins_where_a_form_ends() -> None:
    form = Form()
    ground = ground_of(form)
    begun = walk(form).passages[-1].exit
    first = draft("All the weight on the left.", begun, ground)
    assert counts(first) == ["shift L 100"]
    assert counts(words("Step out to nine.", "shift L 100")) == ["step R 9 bow"]


def test_a_page_is_drafted_while_somebody_types() -> None:
    """Several threads read with one lexicon: each word keeps its own stem."""
    every = [f"{first}{last}" for first in ("shift", "relat", "hop", "turn", "step") * 40 for last in _ENDS]
    shared, alone = lexicon.__wrapped__("en"), lexicon.__wrapped__("en")
    wanted = {word: alone._stem(word) for word in every}
    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    try:
        shared._stem.cache_clear()
        parts = [[f"{word}{'s' * (at % 2)}" for word in every] for at in range(4)]
        uncached = shared._stem.__wrapped__
        with ThreadPoolExecutor(4) as threads:
            for part, stems in zip(
                parts, threads.map(lambda part: [uncached(word) for word in part], parts), strict=True
            ):
                for word, stem in zip(part, stems, strict=True):
                    assert stem == wanted.get(word, stem), word
    finally:
        sys.setswitchinterval(before)


_ENDS = ("ing", "ational", "edly", "fulness", "ization", "ement")


@pytest.mark.parametrize(
    ("text", "language", "wanted"),
    [
        ("Levanta el pie izquierdo y llévalo hacia las doce", "es", ["lift L", "step L 12 bow"]),
        ("Levanta la punta izquierda y ábrela 45 grados", "es", ["heel L", "pivot L heel out 45"]),
        ("Saca el pie izquierdo a las nueve y cárgalo con el setenta por ciento", "es", ["step L 9 bow", "shift L 70"]),
        ("Adelanta el pie izquierdo y apoya primero el talón", "es", ["step L 12 bow heel"]),
        ("Gira la punta izquierda hacia fuera unos cuarenta y cinco grados", "es", ["pivot L heel out 45"]),
        ("Cierra llevando el pie izquierdo junto al derecho y reparte el peso", "es", ["step L beside", "shift 50/50"]),
        ("Mantén dos tiempos", "es", ["hold @2"]),
        ("Step to twelve with the left foot, toes turned out 30 degrees", "en", ["step L 12 bow toe 11"]),
        ("Bring the left foot beside the right and even out the weight", "en", ["step L beside", "shift 50/50"]),
        ("Reparte el peso entre los dos pies", "es", ["shift 50/50"]),
        ("Gira el torso hacia las dos", "es", ["torso 2"]),
        ("Share the weight between both feet", "en", ["shift 50/50"]),
        ("Push with the right palm to nine", "en", ["hand R 9 chest push"]),
        ("Despega el pie izquierdo, primero el talón", "es", ["lift L"]),
        ("Raise both hands to chest height", "en", ["hand L 12 chest, hand R 12 chest"]),
        ("Empuja con ambas manos", "es", ["hand L 12 chest push, hand R 12 chest push"]),
        ("Divide the weight evenly between the two feet", "en", ["shift 50/50"]),
        ("Draw in the left foot and place it beside the other", "en", ["step L beside"]),
    ],
)
def test_it_is_what_was_named_and_both_is_nobody_s(text: str, language: str, wanted: list[str]) -> None:
    found = words(text, "shift R 100", language=language)
    assert counts(found) == wanted and not found.unused
    assert "doubtful" not in hows(found)


@pytest.mark.parametrize(
    ("head", "language"),
    [("Posture 3: {}", "en"), ("movement 12 - {}", "en"), ("Postura: {}", "es"), ("FIGURA 2. {}", "es")],
)
def test_a_line_that_says_posture_and_a_name_begins_one(head: str, language: str) -> None:
    say = {"en": "Shift all the weight to the right.", "es": "Pasa todo el peso a la derecha."}[language]
    found = words(f"{head.format('Open the gate')}\n{say}\n\n{head.format('Shut it')}\n{say}\n", language=language)
    assert [posture.name for posture in found.postures] == ["Open the gate", "Shut it"]
    assert counts(found) == ["shift R 100"] * 2 and not found.unused
    done = words("Movement: shift all the weight to the right\nFigura: step left", language="en")
    assert counts(done)[0] == "shift R 100" and [posture.name for posture in done.postures] == [""]
    said = f"{head.format('Shift the weight to the left. Sink')}\n{say}"
    assert [posture.name for posture in words(said, language=language).postures] == [""]


@pytest.mark.parametrize(
    ("text", "before", "language", "wanted"),
    [
        ("Reparta el peso.", ("shift R 100",), "es", ["shift 50/50"]),
        ("Reparte el peso, setenta en la derecha y treinta en la izquierda.", ("shift L 100",), "es", ["shift R 70"]),
        ("Divide the weight.", ("shift L 100",), "en", ["shift 50/50"]),
        ("Baja un poco.", (), "es", ["sink +10"]),
        ("Sube un poco.", ("sink 60",), "es", ["rise 10"]),
        ("Mire al frente.", (), "es", ["gaze 12"]),
        ("Turn to three, looking straight ahead.", (), "en", ["torso 3, gaze 3"]),
        ("De pie, con los pies juntos, mirando al frente.", (), "es", ["gaze 12"]),
        ("Da un paso al frente con el pie izquierdo, un poco abierto.", ("shift R 100",), "es", ["step L 12 bow"]),
        ("Cierra con el pie izquierdo junto al derecho.", ("shift R 100",), "es", ["step L beside"]),
        ("Paso con el izquierdo hacia las nueve, postura de arco.", ("shift R 100",), "es", ["step L 9 bow"]),
        ("Patada con el pie derecho al frente, a la cintura.", ("shift L 100",), "es", ["kick R 12 waist"]),
        ("Cien por cien a la izquierda.", (), "es", ["shift L 100"]),
        ("Kick with the left, no wait, the right foot, toes, chest.", ("shift L 100",), "en", ["kick R 12 chest toe"]),
        ("Keep ninety percent of the weight on the right.", ("shift R 100",), "en", ["shift R 90"]),
        ("Keep ninety percent of the weight on the right.", ("shift R 90",), "en", []),
        ("Turn the chest 45 degrees to the left, pause, and return.", (), "en", ["torso -45", "hold", "torso 12"]),
        ("Gira el pecho 45 grados a la izquierda y vuelve.", ("torso 3",), "es", ["torso -45", "torso 3"]),
        ("Pasa el peso a la derecha y sube.", ("sink 60",), "es", ["shift R 100", "rise 10"]),
        ("Step out to 1.30 with the right foot.", ("shift L 100",), "en", ["step R 1:30 bow"]),
    ],
)
def test_what_is_shared_or_lowered_a_little_and_where_one_looks_is_drafted(
    text: str, before: tuple[str, ...], language: str, wanted: list[str]
) -> None:
    assert counts(words(text, *before, language=language)) == wanted


@pytest.mark.parametrize(
    ("degrees", "how", "count"), [(60, "said", "lean 60"), (61, "doubtful", "lean 60"), (-31, "doubtful", "lean -30")]
)
def test_what_a_score_cannot_say_is_not_made_of_it_in_silence(degrees: int, how: str, count: str) -> None:
    way = "back" if degrees < 0 else "forward"
    found = words(f"Lean the trunk {abs(degrees)} degrees {way}.")
    assert counts(found) == [count]
    assert hows(found) == [how]


@pytest.mark.parametrize(
    ("text", "language"), [("Baja el talón.", "es"), ("Lower the heel.", "en"), ("Vacía el pie que soltaste.", "es")]
)
def test_words_of_which_nothing_comes_are_told_and_not_lost(text: str, language: str) -> None:
    found = words(text, language=language)
    if not counts(found):
        assert [each.text for each in found.unused if each.why == "unread"]
    # Where another sentence says something, this one is still told.
    other = {"es": "Lleva todo el peso a la derecha. ", "en": "Shift all the weight to the right. "}[language]
    both = words(other + "… " + text, language=language)
    assert counts(both)[0] == "shift R 100"
    assert len(counts(both)) > 1 or any(each.why == "unread" for each in both.unused)
