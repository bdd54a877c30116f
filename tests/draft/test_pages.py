"""Pages: words drafted from where a form stands, taken, changed, refused and taught."""

from __future__ import annotations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.draft.pages import PageDraft, chosen, draft_page, noted, progress, sentence_drafted, taken
from waltzmark.core.draft.taught import Taught
from waltzmark.core.form.form import Form, Opening
from waltzmark.core.form.spoken import Chosen, Page, Standing
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import ground_of, walk
from waltzmark.files.reading import read_document
from waltzmark.files.taught import read_taught, taught_text
from waltzmark.files.writing import render

PAGE = """# Gather
Shift all your weight to the right and touch the ball of the left foot next to it.
Step out with the left to nine, heel first, and bend the knee.

# Lamp
Sit back onto the right leg. Turn the left toes in as far as they go and pour the weight into the left leg.
Bring the right foot in beside it.
Repeat on the other side.
"""


def form_of(text: str = PAGE, language: str = "en") -> Form:
    return Form(opening=Opening("hip"), words=Page(text, language))


def drafted(form: Form, taught: tuple[Taught, ...] = ()) -> PageDraft:
    return draft_page(form, walk(form), taught)


def counts(form: Form) -> list[str]:
    return [write_count(line) for posture in form.postures for line in posture.lines]


def rows(page: PageDraft) -> list[str]:
    return [write_count(row.made.count) for row in page.rows if row.made is not None and not row.made.refused]


def test_a_page_taken_row_by_row_is_the_page_taken_at_once() -> None:
    whole = form_of()
    page = drafted(whole)
    assert rows(page)[:4] == ["shift R 100", "step L beside ball", "step L 9 bow heel", "shift L 70"]
    at_once, _, _ = taken(whole, page, len(page.rows) - 1)
    form = whole
    for _ in range(len(page.rows)):
        now = drafted(form)
        assert rows(now) == rows(page)  # what waits does not change by what is taken
        form, posture, lines = taken(form, now, now.next_row)
        assert posture is not None and lines == len(form.posture(posture).lines)
    assert counts(form) == counts(at_once) == rows(page)
    assert [posture.name for posture in form.postures][:2] == ["Gather", "Lamp"]
    assert form.postures[2].mirror_of == form.postures[1].id and form.postures[2].name == "Lamp, other side"
    assert drafted(form).next_row == len(page.rows) and form.words is not None and form.words.upto == len(PAGE)


def test_words_within_those_of_another_count_are_taken_each_in_its_turn() -> None:
    form = form_of("As you sit back, the weight on the right, turn the left toes out, on the heel, to ten thirty.")
    for _ in range(20):
        page = drafted(form)
        if page.next_row == len(page.rows):
            break
        form, _, _ = taken(form, page, page.next_row)
    assert counts(form) == rows(drafted(form)) and len(counts(form)) == len(page.rows)


def test_what_was_changed_redrafts_what_follows() -> None:
    form = form_of("Step out with the left foot. Put all the weight on the front foot.")
    page = drafted(form)
    assert page.rows[-1].made is not None and write_count(page.rows[-1].made.count) == "shift L 100"
    step = next(row for row in page.rows if row.made is not None and "step" in write_count(row.made.count))
    words = chosen(page.page, step, read_count("step L 12 back"))
    again = drafted(replace(form, words=words))
    assert "step L 12 back" in rows(again)
    assert rows(again)[-1] == "shift R 100"  # the front foot is the other one now
    refused = drafted(replace(form, words=chosen(page.page, step, None)))
    assert len(rows(refused)) == len(rows(page)) - 1


def test_words_are_kept_as_a_note_and_refused_rows_are_not_taken() -> None:
    form = form_of("Shift to the right. Lift the left knee. Kick to nine.")
    page = drafted(form)
    words = noted(chosen(page.page, page.rows[1], None), page.rows[0])
    form = replace(form, words=words)
    made, _, _ = taken(form, drafted(form), 2)
    assert counts(made) == ["shift R 100 # Shift to the right", "kick L 9 waist"]


def test_what_was_taken_goes_on_from_the_form_as_it_is_now() -> None:
    form = form_of("Shift to the right. Step out with the left to nine. Put all the weight on it.")
    form, _, _ = taken(form, drafted(form), 0)
    posture = form.postures[0]
    shorter = replace(form, postures=(replace(posture, lines=(read_count("shift R 100, torso 10:30"),)),))
    page = drafted(shorter)
    step = page.rows[1].made
    assert step is not None and write_count(step.count) == "step L 9 bow"
    made, _, _ = taken(shorter, page, 2)
    assert counts(made) == ["shift R 100, torso 10:30", "step L 9 bow", "shift L 100"]


def test_progress_counts_what_is_used_and_asked() -> None:
    far = progress(drafted(form_of("Shift to the right. Frobnicate the wimble gently.")))
    assert far.words == 8 and far.used == 4 and far.questions >= 1
    # What is done again waits for a yes, as it is marked, and nothing takes it in passing.
    again = drafted(form_of("Shift all the weight to the right. Repeat on the other side. Sink a little."))
    assert progress(again).questions == 1 and again.rows[again.sure_up_to].made is None
    calm = progress(drafted(form_of("Shift all the weight to the right.")))
    assert calm == (7, 7, 0)


@settings(max_examples=200, deadline=None)
@given(st.text(max_size=40), st.integers(0, 40), st.integers(0, 40), st.text(max_size=9), st.integers(0, 40))
@example("0", 0, 0, "0", 1)
def test_edits_leave_what_they_do_not_touch(text: str, at: int, removed: int, added: str, stop: int) -> None:
    at = min(at, len(text))
    removed, stop = min(removed, len(text) - at), min(stop, len(text))
    start = stop // 2
    page = Page(text, upto=stop, standing=(Standing("a", start, stop),), chosen=(Chosen(start, stop),))
    edited = page.edited(at, removed, added)
    assert edited.text == text[:at] + added + text[at + removed :]
    assert 0 <= edited.upto <= len(edited.text)
    if stop <= at or start >= at + removed:  # the words themselves were not touched
        choice = edited.chosen[0]
        assert edited.text[choice.start : choice.stop] == text[start:stop]
    else:
        assert edited.chosen == ()


@settings(max_examples=60, deadline=None)
@given(st.text(st.characters(exclude_categories=["Cs", "Cc"], include_characters="\n\t"), max_size=120))
def test_words_come_back_from_a_document_as_they_were(text: str) -> None:
    standing, chosen = (Standing("a", 0, len(text)),), (Chosen(0, len(text), 1, None),)
    page = Page(text, "es", len(text) // 2, len(text) // 3, standing, chosen, ((0, 1.5),))
    form = Form(words=page)
    read = read_document(render(form, None))
    assert read.form.words == page
    longer = replace(form, words=page.edited(0, 0, "Sit back.\nTurn."))
    assert read_document(render(longer, read)).form == longer


def test_a_taught_phrase_is_mirrored_for_the_other_foot_and_turned_along() -> None:
    lesson = (read_count("step L 10:30 bow heel"), read_count("shift L 70"))
    taught = (Taught("the corner step", lesson, side=Side.LEFT, torso=0.0),)
    left = drafted(form_of("Shift to the right. Do the corner step with the left."), taught)
    assert rows(left) == ["shift R 100", "step L 10:30 bow heel", "shift L 70"]
    right = drafted(form_of("Shift to the left. Do the corner step with the right."), taught)
    assert rows(right) == ["shift L 100", "step R 1:30 bow heel", "shift R 70"]
    turned = drafted(form_of("Shift to the right. Turn the body to nine. Do the corner step with the left."), taught)
    assert rows(turned)[-2] == "step L 7:30 bow heel"
    assert rows(drafted(form_of("Shift to the right. Do the corner step with the left."))) != rows(left)


def test_taught_phrases_go_through_a_file(tmp_path: object) -> None:
    taught = (
        Taught("settle", (read_count("sink +10"),), "en"),
        Taught("el farol", (read_count("lift L"),), "es", Side.LEFT, 90.0),
    )
    path = tmp_path / "phrases.toml"  # type: ignore[operator]
    path.write_text(taught_text(taught), encoding="utf-8")
    assert read_taught(path) == taught


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        ("step out with the left to nine, heel first, and bend the knee", ["step L 9 bow heel", "shift L 70"]),
        ("step forward with the left, then frobnicate the wimble", []),
        ("walk like a crane in the mist", []),
    ],
)
def test_a_line_is_a_sentence_only_where_all_of_it_is_understood(line: str, wanted: list[str]) -> None:
    form = form_of("")
    pose = walk(drafted_after("Shift to the right.")).passages[-1].exit
    assert [write_count(made.count) for made in sentence_drafted(line, pose, ground_of(form), "en")] == wanted


def drafted_after(text: str) -> Form:
    form = form_of(text)
    return taken(form, drafted(form), 0)[0]
