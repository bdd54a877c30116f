"""Pages as teachers write them: a title, how one stands, numbered postures, compass points, and what is done again."""

from __future__ import annotations

import pytest

from tests.draft.test_draft import BOW, counts, hows, words
from waltzmark.core.base.records import replace
from waltzmark.core.draft.drafting import Draft, draft
from waltzmark.core.draft.pages import draft_page, taken
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.form.spoken import Page
from waltzmark.core.judge.judging import judge
from waltzmark.core.score import read_score
from waltzmark.core.score.actions import Faced, Step
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import ground_of, walk
from waltzmark.files.drafts import drafted_form

PAGE = """Quiet harbour

Begin facing {north}, feet together.

1. Open the gate
Step out to the left. Raise both arms and let them sink again.

2. Greet the ferry
Shift onto the left leg. Step to the {east} with the right foot, into a bow stance.

3. Set the foot down
Step back with the left foot to the southwest.

4. Repeat Greet the ferry on the other side.
"""


def together(text: str, twelve: str = "N", language: str = "en") -> Draft:
    form = replace(Form(), opening=Opening("together"), twelve=twelve)
    return draft(text, walk(form).passages[-1].exit, ground_of(form), language)


def test_a_page_is_drafted_whole_and_nothing_is_asked() -> None:
    found = together(PAGE.format(north="north", east="east"))
    assert found.title == "Quiet harbour"
    assert [(each.name, each.mirror_of) for each in found.postures] == [
        ("", None),
        ("Open the gate", None),
        ("Greet the ferry", None),
        ("Set the foot down", None),
        ("", "greet-the-ferry"),  # which is named, and is not the last
    ]
    assert counts(found) == [
        "expect torso N", "shift R 100", "step L 12 side", "shift L 100", "step R E bow", "step L 1:30 back"
    ]  # fmt: skip
    assert "doubtful" not in hows(found) and all(each.why == "idle" for each in found.unused)


@pytest.mark.parametrize(
    ("text", "title", "names"),
    [
        ("# Quiet harbour\n\n## Open the gate\n\nStep left.\n\n## Push\n\nSit back.", "Quiet harbour", 2),
        ("# Open the gate\n\nStep left.", "", 1),
        ("# Open the gate\n\nStep left.\n\n# Push\n\nSit back.", "", 2),
        ("Step left.\n\nSit back.", "", 0),
    ],
)
def test_a_form_is_called_as_its_page_is(text: str, title: str, names: int) -> None:
    found = words(text)
    assert found.title == title and sum(bool(each.name) for each in found.postures) == names
    page = draft_page(replace(Form(), words=Page(text)), walk(Form()))
    made, _, _ = taken(replace(Form(), words=Page(text)), page, len(page.rows) - 1)
    assert made.title == title
    kept, _, _ = taken(replace(Form(), title="Mine", words=Page(text)), page, 0)
    assert kept.title == "Mine"
    assert drafted_form(found, Form()).title == title  # as the command writes it


@pytest.mark.parametrize(("twelve", "step"), [("N", 90.0), ("E", 0.0), ("S", 270.0), ("W", 180.0)])
def test_a_compass_point_is_where_it_is_on_the_floor(twelve: str, step: float) -> None:
    found = together("Shift all your weight to the left. Step to the east with the right foot.", twelve)
    form = replace(Form(), twelve=twelve)
    action = found.postures[0].counts[-1].count.actions[0]
    assert isinstance(action, Step) and isinstance(action.place, Faced)
    assert action.place.facing.heading(0.0, twelve) == step
    assert ground_of(form).twelve == twelve and counts(found)[-1] == "step R E bow"


def test_how_one_stands_is_asked_only_where_it_is_not_so() -> None:
    for text, language in (("Feet together.", "en"), ("Con los pies juntos.", "es")):
        assert counts(together(text, language=language)) == [] and not [
            each for each in together(text, language=language).unused if each.why == "unread"
        ]
    assert counts(words("Feet together.", *BOW)) == ["shift L 100", "step R beside flat", "shift 50/50"]
    assert [each.why for each in words("Feet together.").unused] == ["unread"]  # at hip width: which foot goes?
    assert hows(together("Begin facing south.")) == ["doubtful"] and hows(together("Begin facing north.")) == ["said"]
    assert counts(words("Face 3 o'clock.")) == ["torso 3"]  # that is something to do


@pytest.mark.parametrize(
    ("text", "language", "wanted"),
    [
        ("Step to the left.", "en", ["shift R 100", "step L 12 side"]),
        ("Take a step to the right.", "en", ["shift L 100", "step R 12 side"]),
        ("Step out wide to the left into a horse stance.", "en", ["shift R 100", "step L 12 side horse"]),
        ("Step back to the left.", "en", ["shift R 100", "step L 12 back"]),
        ("Da un paso a la derecha.", "es", ["shift L 100", "step R 12 side"]),
        ("Abre el pie izquierdo a la izquierda.", "es", ["shift R 100", "step L 12 side"]),
        ("Da un paso con el pie izquierdo hacia el noroeste.", "es", ["shift R 100", "step L NW bow"]),
        ("Step forward with the left foot into a bow stance facing 11.", "en", ["shift R 100", "step L 11 bow"]),
        ("Kick with the right foot to the northeast, hip high.", "en", ["kick R NE hip"]),
    ],
)
def test_where_a_foot_goes_is_heard(text: str, language: str, wanted: list[str]) -> None:
    assert counts(words(text, language=language)) == wanted


@pytest.mark.parametrize(
    ("text", "language", "wanted"),
    [
        ("Lift the arms and lower them.", "en", []),
        ("The arms rise and then sink.", "en", []),
        ("Float your arms up, then let them drop.", "en", []),
        ("Sube los brazos y bájalos.", "es", []),
        ("Raise the arms and sink.", "en", ["sink +10"]),  # it is the body that does
        ("Raise the right hand and lift the left foot.", "en", ["shift R 100", "lift L"]),
        ("The arms rise. Rise a little.", "en", ["rise 10"]),
    ],
)
def test_what_arms_do_is_no_count_of_the_feet(text: str, language: str, wanted: list[str]) -> None:
    found = words(text, language=language)
    assert counts(found) == wanted and not [each for each in found.unused if each.why == "unread"]


@pytest.mark.parametrize(
    ("text", "language", "wanted", "asked"),
    [
        ("Pivot 90 degrees to the right on your left heel.", "en", ["pivot L heel +90"], False),
        ("Turn right 90 degrees on the left heel.", "en", ["pivot L heel +90"], False),
        ("Turn the right foot to the left.", "en", ["pivot R heel -45"], False),
        ("Make a quarter turn to the left.", "en", ["torso -90"], True),
        ("Make a half turn to the right on the left foot.", "en", ["pivot L heel +180"], True),
        ("Turn on the heels to face 3.", "en", ["pivot R heel 3"], True),  # both, and the body with them
        ("Turn left until you are facing west.", "en", ["torso 9"], False),
        ("Step diagonally forward to the left with the left foot.", "en", ["step L 10:30 bow"], False),
        ("Bring the left foot beside the right without touching the floor.", "en", ["lift L"], True),
        ("Abre la punta derecha 45 grados.", "es", ["pivot R heel out 45"], False),
    ],
)
def test_which_way_and_how_far_something_turns_is_heard(
    text: str, language: str, wanted: list[str], asked: bool
) -> None:
    found = words(text, *BOW, language=language)
    assert [count for count in counts(found) if not count.startswith("shift")] == wanted
    assert ("doubtful" in hows(found)) == asked


@pytest.mark.parametrize("first", ["Shift all your weight to the right", "Quiet harbour."])
def test_only_a_line_that_can_be_nothing_else_is_a_title(first: str) -> None:
    found = words(f"{first}\n\nStep to 9 with the left foot.")
    taken = [made.spans[0][0] for posture in found.postures for made in posture.counts]
    assert 0 in taken or any(each.span[0] == 0 for each in found.unused)
    assert counts(words("Quiet harbour\n\nStep to 9 with the left foot.")) == ["shift R 100", "step L 9 bow"]


SOUTH = "Stand facing {point}, feet together.\n\n# Open\n\nStep out to the east with the left foot, heel first.\n"


@pytest.mark.parametrize(("point", "clock"), [("south", 540), ("north", 180), ("the east", 0)])
def test_where_a_page_begins_to_face_is_twelve_in_a_form_without_counts(point: str, clock: int) -> None:
    form = Form(words=Page(SOUTH.format(point=point)))
    page = draft_page(form, walk(form))
    made, _, _ = taken(form, page, len(page.rows) - 1)
    assert [posture.name for posture in made.postures] == ["Open"]
    assert not [each for each in judge(made, walk(made)) if each.severity == "stop"]
    step = next(a for line in made.postures[0].lines for a in line.actions if isinstance(a, Step))
    assert isinstance(step.place, Faced) and step.place.facing.heading(0.0, made.twelve) * 2 == clock
    # In a form that has counts it is what is said to be so.
    known = replace(form, postures=(Posture("a", lines=read_score("shift R 100")),))
    again = draft_page(known, walk(known))
    assert taken(known, again, len(again.rows) - 1)[0].twelve == "N"


TALK = """and we put all the weight
into the right leg

nice and slow, good, and then the left foot
just floats out to the side

about shoulder width, and the toes touch first
and then we settle in the middle

now turn your waist to the right
as the weight goes into the left leg

and open the right foot out on the heel
to about one thirty

weight goes back onto the right foot
and the left one comes in, toes down, next to it
don't put any weight on it

and from there you step to nine
with the left, heel first, and you pour seventy percent into it
and your body comes round to nine
then seventy percent again

and let the back heel push out a little bit
"""


def test_lines_of_a_lesson_that_break_anywhere_are_one_talk() -> None:
    found = words(TALK.replace("\n\n", "\n"))
    assert counts(found) == [
        "shift R 100",
        "step L 12 side shoulder ball",
        "shift 50/50",
        "torso +45, shift L 100",
        "pivot R heel 1:30",
        "shift R 100",
        "step L beside ball",
        "step L 9 bow heel",
        "shift L 70, torso 9",
        "shift L 70",
        "pivot R ball in 20",
    ]
    assert hows(found)[-2] == "doubtful"  # it is there already
    assert not [each for each in found.postures if each.repeat_of is not None]


BULLETS = """# Weaving at the loom

**1. Thread the shuttle**

- Weight: 100% right
- Left foot: step to 12, heel first

**2. Throw it back**

- Sit back 100% right, left toes in to 1
- Left foot up to the right foot, ball only
- Arms: up and down again
"""
NAMED = """BREAD OVEN

Opening. Feet together, facing {point}. Shift to the right and draw the left foot up to it.

Slide it in. Shift to the left. Step forward with the right, heel first.

Close. Bring the right foot in.
"""


def test_bold_lines_and_bullets_are_names_and_sentences_of_their_own() -> None:
    found = words(BULLETS)
    assert (found.title, [each.name for each in found.postures]) == (
        "Weaving at the loom",
        ["Thread the shuttle", "Throw it back"],
    )
    first, second = ([write_count(made.count) for made in each.counts] for each in found.postures)
    assert first == ["shift R 100", "step L 12 bow heel"]
    assert second == ["shift R 100", "pivot L heel 1", "step L beside ball"]


def test_paragraphs_that_begin_with_names_below_a_title_with_a_word_like_an_act() -> None:
    form = Form(words=Page(NAMED.format(point="west")))
    page = draft_page(form, walk(form))
    made, _, _ = taken(form, page, len(page.rows) - 1)
    assert (made.title, made.twelve) == ("BREAD OVEN", "W")
    assert [posture.name for posture in made.postures] == ["Opening", "Slide it in", "Close"]
    assert [write_count(line) for line in made.postures[0].lines] == ["shift R 100", "step L beside"]


AGAIN = """The Ferryman's Round
A short form in four parts, notes from the Tuesday class

Opening. Shift the weight to the right leg and step out to the left. Bring the weight to the middle.

1. Cast off
Shift all of the weight to the right leg. Step forward with the left foot, heel first. Shift seventy percent forward.

2. The same on the other side

3. Turn the boat
Shift all of the weight back to the rear leg, and turn the front toes in. {again} Then lift the free knee.
"""


@pytest.mark.parametrize(
    ("again", "copies", "free"),
    [
        ("", [], "R"),
        ("Repeat on the other side.", [("", "mirror")], "L"),
        ("Repeat it.", [("", "repeat")], "R"),
    ],
)
def test_what_comes_after_the_other_side_begins_as_that_ends(
    again: str, copies: list[tuple[str, str]], free: str
) -> None:
    found = together(AGAIN.format(again=again))
    assert found.title == "The Ferryman's Round"
    told = [(each.name, "mirror" if each.mirror_of else "repeat" if each.repeat_of else "") for each in found.postures]
    begun = [("Opening", ""), ("Cast off", ""), ("The same on the other side", "mirror"), ("Turn the boat", "")]
    assert told == [*begun, *copies, *([("", "")] if copies else [])]
    boat = [write_count(made.count) for made in found.postures[3].counts]
    # The other side has been walked: the left foot is the rear one now, and the right one in front.
    assert boat[:2] == ["shift L 100", "pivot R heel in 45"]
    last = found.postures[-1].counts[-1].count
    assert write_count(last) == f"lift {free} knee"


TWICE = "Repeat on the other side. Step back with the left foot. Do that twice. Sit back, and turn the front toes out."


@pytest.mark.parametrize("again", ["", "Repeat on the other side.", "Repeat it.", "Do it three times.", TWICE])
def test_what_is_drafted_of_a_page_goes_on_from_where_the_form_made_of_it_stands(again: str) -> None:
    text = AGAIN.format(again=again)
    form = replace(Form(), opening=Opening("together"), words=Page(text))
    page = draft_page(form, walk(form))
    made, _, _ = taken(form, page, len(page.rows) - 1)
    trace = walk(made)
    for posture in (each for each in page.draft.postures[1:] if each.counts):
        words_of_it = text[min(m.start for m in posture.counts) : max(m.stop for m in posture.counts)]
        begins = trace.pose(trace.span(posture.id)[0] - 1)
        alone = draft(words_of_it, begins, ground_of(made))
        assert counts(alone) == [write_count(each.count) for each in posture.counts]
