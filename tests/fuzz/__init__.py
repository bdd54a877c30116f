"""Throws damaged and odd input at everything that reads: whatever it is, it is read or refused with words, in time.

``make fuzz`` runs it for a while; what it finds is written to ``tests/fuzz/seeds`` and is a test from then on.
"""

from __future__ import annotations

import io
import json
import math
import random
import tempfile
from collections.abc import Callable
from datetime import UTC, date, datetime
from functools import lru_cache
from pathlib import Path

from ezdxf.filemanagement import read

from tests.draft.figures import FOLDER, cases
from waltzmark.cli.main import check_text, trace_text
from waltzmark.core.answers.review import review
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.base.showing import obeyed, shown
from waltzmark.core.draft.drafting import doubt_of
from waltzmark.core.draft.pages import draft_page, taken
from waltzmark.core.edit.rooms import made_room
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Obstacle
from waltzmark.core.form.score_text import read_score_text, write_score_text
from waltzmark.core.form.spoken import LANGUAGES, MOST_CHARACTERS, Page
from waltzmark.core.practice.advice import advice
from waltzmark.core.practice.entries import Entry
from waltzmark.core.room.tape import tape_plan
from waltzmark.core.score import read_count, write_count
from waltzmark.core.score.read import read_line
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.recovery import _read, kept_values
from waltzmark.files.book import Book, DamagedBookError, put_aside, rescued
from waltzmark.files.charts import chart_drawing, tape_table
from waltzmark.files.document_values import document_values
from waltzmark.files.exchange import entries_csv, entries_json, read_entries
from waltzmark.files.plans import plan_text, read_plan
from waltzmark.files.reading import read_document, read_file
from waltzmark.files.report import check_values, trace_values
from waltzmark.files.saving import save_atomically
from waltzmark.files.scales import Hello, Lines
from waltzmark.files.scales import read_line as read_line_of_scale
from waltzmark.files.schools import school_from_text
from waltzmark.files.tables import form_from_csv, score_on_paper, trace_csv
from waltzmark.files.taught import read_taught, taught_text
from waltzmark.files.wordings import read_words
from waltzmark.files.writing import render
from waltzmark.words.ear import places_of, wordings

__all__ = ["SEEDS", "TARGETS", "mutated", "tried"]

SAMPLES = Path(__file__).parents[2] / "src/waltzmark/demo"
SEEDS = Path(__file__).parent / "seeds"

#: What breaks readers: endless and empty things, signs of other scripts, words of the formats in wrong places.
ODD = (
    "nan",
    "-inf",
    "1e999",
    "0x" + "f" * 5000,
    "1" * 5000,
    "-1",
    "0",
    "true",
    '""',
    "''",
    '"""',
    "[",
    "]",
    "{",
    "}",
    "[[",
    "]]",
    "[[posture]]\n",
    "[room]\n",
    "[school]\n",
    "[[mute]]\n",
    "[body]\n",
    "a.b.c = 1\n",
    "=",
    ",",
    "#",
    "\\",
    "\x00",
    "\x1b",
    "\r",
    "\n\n",
    "\u2028",
    "\ufeff",
    "ſ",
    "ı",
    "İ",
    "﷽",
    "é",
    "😀",
    "٣",
    "\u202e",
    "<b>",
    "&amp;",
    "%s",
    "{0}",
    "../../",
    "~9",
    "~",
    "12:99",
    "25",
    "+",
    "180",
    "1e3cm",
    "9fl",
    "cw",
    "ccw",
    "toe",
    "via",
    "mirror_of",
    "repeat_of",
    "axis",
    "ends",
    "counts = []\n",
    "L 70, " * 50,
    "in 45",
    "step L to 1e9 1e9",
    "step R beside",
    "lift L",
    "lift R knee",
    "shift 50/50",
    "shift L 0.0000001",
    "sink 120",
    "@1000",
    "@0",
    "hold",
    "(" * 200,
    "[" * 200,
    "{a=" * 200,
    "a." * 300,
    "9" * 60,
)


def document(text: str) -> None:
    """A document: read, walked, judged, reported, changed, written and read again."""
    read = read_document(text)
    trace = walk(read.form)
    result = review(read.form, trace)
    json.dumps(trace_values(trace)), json.dumps(check_values(read.form, result))
    score_on_paper(read.form), trace_csv(read.form, trace)
    titles, places = {posture.id: posture.title for posture in read.form.postures}, places_of(read.form)
    for row in range(len(trace)):
        assert all(wordings(trace, row, read.form.film.voice, titles, places))
    assert render(read.form, read) == text
    for changed in (replace(read.form, title="else"), replace(read.form, postures=read.form.postures[1:][::-1])):
        try:
            written = render(changed, read)
        except WaltzmarkError:
            written = render(changed)  # saved under another name it can always be written
        assert document_values(read_document(written).form) == document_values(changed)
    shown = read_score_text(write_score_text(read.form), read.form)
    assert shown.form is None or len(shown.form.postures) == len(read.form.postures)


def score(text: str) -> None:
    """A line of the score: what is read is written and read again; what is not is kept as it was typed."""
    line = read_line(text)
    assert read_line(write_count(line)) == line
    count = read_count(text)
    assert read_count(write_count(count)) == count


def kept(text: str) -> None:
    """A kept document."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "kept.json"
        file.write_text(text, encoding="utf-8", errors="surrogatepass")
        try:
            found = _read(file)
        except (ValueError, RecursionError) as error:  # what `left_behind` tells as damaged
            raise WaltzmarkError(str(error)) from error
        render(found.form, found.read)


def path(text: str) -> None:
    """The name of a file that is not there; nothing is written outside a folder of its own."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        place = Path(folder) / ("x" + text.replace("/", "-"))
        try:
            save_atomically(place, "waltzmark = 1\n")
        except WaltzmarkError:  # a name that no file can have is told twice alike
            assert not list(Path(folder).iterdir())
        read_file(place)


def table(text: str) -> None:
    """A CSV table."""
    walk(form_from_csv(text, Form()))


def school(text: str) -> None:
    """The file of a school, by which the demo is judged."""
    judged = replace(read_document(demo_text()).form, school=school_from_text(text, "fuzz"))
    review(judged, walk(judged))


def plan(text: str) -> None:
    """A drawing of a room: what is read of it can be kept as a document, and gives the same room again."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "plan.dxf"
        file.write_text(text, encoding="utf-8", errors="surrogatepass")
        form = Form(room=read_plan(file).room)
    assert document_values(read_document(render(form)).form) == document_values(form)


def entries(text: str) -> None:
    """Entries of practice that another program has written: what is taken in goes out as it came."""
    found = read_entries(text, "fuzz")
    assert read_entries(entries_json(found), "again") == found and read_entries(entries_csv(found), "again") == found
    book = Book()
    book.take(found)
    advice(read_document(demo_text()).form, book.entries(), date(2026, 5, 10))


def book(text: str) -> None:
    """The file of the practice book: opened, or told as damaged, and then whatever can be read of it."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "practice.sqlite"
        file.write_bytes(text.encode("latin-1", "replace"))
        try:
            opened = Book(file)
            try:
                entries_csv(opened.entries())
                opened.add(Entry(datetime(2026, 5, 4, 12, tzinfo=UTC), "walk"))
            finally:
                opened.close()
        except DamagedBookError:
            rescued(file)
            Book(put_aside(file, datetime(2026, 5, 4, tzinfo=UTC)).with_name("practice.sqlite")).close()
            raise


def body(text: str) -> None:
    """A kept body, with which the demo is walked and judged."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "body.waltz"
        file.write_text(text, encoding="utf-8", errors="surrogatepass")
        worn = replace(read_document(demo_text()).form, body=read_file(file).form.body)
    review(worn, walk(worn))
    assert read_document(render(Form(body=worn.body))).form.body == worn.body


def names(text: str) -> None:
    """What somebody calls a form, a posture, an obstacle: written, read again, printed and drawn as nothing but text."""
    room = made_room(text, 9.0, 9.0)
    table = Obstacle(text, ((1.0, 1.0), (2.0, 1.0), (2.0, 2.0)))
    room = replace(room, obstacles=(table,))
    demo = read_document(demo_text()).form
    form = read_document(render(Form(title=text, room=room, postures=(replace(demo.postures[0], name=text),)))).form
    trace = walk(form)
    assert form_from_csv(trace_csv(form, trace), Form()).postures[0].name.strip() == form.postures[0].name.strip()
    printed = shown(check_text(form, review(form, trace)) + trace_text(form, trace), lines=True)
    assert not obeyed().search(printed.replace("\n", "").replace("\t", ""))
    tape_table(tape_plan(form, trace, [form.postures[0].id]))
    drawing = chart_drawing(form, trace, [form.postures[0].id])
    assert read(io.StringIO(drawing)).modelspace().query("TEXT")


def scale(text: str) -> None:
    """What a scale sends, in pieces of any length."""
    cut, refused = Lines(), 0
    data = text.encode("utf-8", "surrogatepass")
    for line in (*cut.take(data[: len(data) // 3]), *cut.take(data[len(data) // 3 :]), *cut.take(b"\n")):
        try:
            said = read_line_of_scale(line)
        except WaltzmarkError:
            refused += 1
            continue
        assert isinstance(said, Hello) or math.isfinite(said.t)
    if refused:
        raise WaltzmarkError("some lines are no readings")


def words(text: str) -> None:
    """Words that are drafted, taken and kept: nothing of them is lost, and each count stands in its place."""
    for language in LANGUAGES:
        form = Form(words=Page(text[:MOST_CHARACTERS], language))
        page = draft_page(form, walk(form))
        assert all(0 <= row.start <= row.stop <= len(text) for row in page.rows)
        if page.rows:
            form, _, _ = taken(form, page, len(page.rows) // 2)
            again = draft_page(form, walk(form))
            assert len(again.rows) >= len(page.rows) - 1
        assert read_document(render(form)).form == read_document(render(read_document(render(form)).form)).form
    if (doubt := doubt_of(text, "en")) is not None:  # drafted all the same, and told
        raise WaltzmarkError(doubt.kind)


def captions(text: str) -> None:
    """A file of captions."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        for name in ("lesson.srt", "lesson.vtt"):
            file = Path(folder) / name
            file.write_text(text, encoding="utf-8", errors="surrogatepass")
            wording = read_words(file)
            assert all(0 <= place <= len(wording.text) for place, _ in wording.times)


def taught(text: str) -> None:
    """A file of phrases that were taught."""
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "phrases.toml"
        file.write_text(text, encoding="utf-8", errors="surrogatepass")
        phrases = read_taught(file)
        file.write_text(taught_text(phrases), encoding="utf-8")
        assert read_taught(file) == phrases


@lru_cache(maxsize=1)
def _grounds() -> dict[str, list[str]]:
    demo = demo_text() + '\n[film]\nvoice = "all"\ntempo = 2\npasses = 2\nframes = 30\ntick = false\n'
    rooms = [read_file(file).form.room for file in sorted((Path(__file__).parents[1] / "rooms").glob("*.waltz"))]
    practised = [
        Entry(
            datetime(2026, 5, day, 12, tzinfo=UTC),
            kind,
            "me",
            "form",
            "coil",
            measured=31.5,
            planned=35.0,
            note="=1, 'a'",
        )
        for day in (1, 2, 9)
        for kind in ("walk", "drill", "recall")
    ]
    with tempfile.TemporaryDirectory(prefix="waltzmark-fuzz-") as folder:
        file = Path(folder) / "practice.sqlite"
        store = Book(file)
        store.add_all(practised)
        store.close()
        stored = file.read_bytes().decode("latin-1")
    read = read_document(demo)
    lines = [write_count(line) for posture in read.form.postures for line in posture.lines]
    schools = Path(__file__).parents[2] / "src/waltzmark/core/school/bundled"
    return {
        "document": [
            demo,
            demo[: demo.index("[[posture]]")],
            "waltzmark = 1\n[[posture]]\nid = 'a'\ncounts = ['hold']\n",
            render(replace(read.form, school=replace(read.form.school, id="own", base=""))),
        ],
        "score": lines,
        "kept": [
            json.dumps(kept_values(read.form, read, Path("/a"), "x")),
            json.dumps(kept_values(Form(), None, None, "")),
        ],
        "path": ["form.waltz", "a/b.waltz", "." * 300, "é" * 130],
        "table": [trace_csv(read.form, walk(read.form))],
        "plan": [plan_text(room) for room in rooms if room is not None],
        "entries": [entries_csv(practised), entries_json(practised)],
        "book": [stored],
        "body": [
            render(Form(body=replace(read.form.body, name="Kim"))),
            "waltzmark = 1\n[body]\nstature = '170cm'\nknee_most = [120, 90]\n",
        ],
        "names": ["The ferry round", "Grandmother's hall", "e\u0301 \U0001f600\u200d\u2640", "Пристань", "میدان"],
        "words": [
            (SAMPLES / "lesson.md").read_text(encoding="utf-8"),
            "Pasa todo el peso a la derecha. Da un paso a las nueve con el pie izquierdo, primero el talón.",
            *(case.say for case in cases(FOLDER / "open.toml")),
        ],
        "captions": [(SAMPLES / "lesson.srt").read_text(encoding="utf-8")],
        "taught": [
            '[[phrase]]\nwords = "the lantern"\ntorso = 90.0\nfoot = "left"\ncounts = ["lift L", "shift R 100"]\n'
        ],
        "scale": [
            '{"scale": "mine", "plates": 2, "rate": 20, "height": 0.01}\n'
            + "".join(f'{{"t": {n / 10}, "left": {30 + n % 3}.25, "right": 40}}\n' for n in range(9))
        ],
        "school": [file.read_text(encoding="utf-8") for file in schools.glob("*.toml")],
    }


TARGETS: dict[str, Callable[[str], None]] = {
    "document": document,
    "score": score,
    "kept": kept,
    "path": path,
    "table": table,
    "school": school,
    "plan": plan,
    "entries": entries,
    "book": book,
    "body": body,
    "names": names,
    "scale": scale,
    "words": words,
    "captions": captions,
    "taught": taught,
}


def mutated(target: str, chance: random.Random) -> str:
    """Something like what the target reads, damaged in a few places."""
    grounds = _grounds()[target]
    text = chance.choice(grounds)
    for _ in range(chance.choice((1, 1, 2, 3, 6, 20))):
        at = chance.randint(0, len(text))
        long = chance.choice((1, 3, 20, 200))
        how = chance.randrange(7)
        if how == 0:
            text = text[:at] + text[at + long :]
        elif how == 1:
            text = text[:at] + chance.choice(ODD) + text[at:]
        elif how == 2:
            text = text[:at] + chance.choice(ODD) + text[at + long :]
        elif how == 3:
            text = text[:at] + text[at : at + long] * chance.choice((2, 3, 50)) + text[at + long :]
        elif how == 4:
            other = chance.choice(grounds)
            begin = chance.randint(0, len(other))
            text = text[:at] + other[begin : begin + long * 5] + text[at:]
        elif how == 5:
            text = text[:at] + chr(chance.choice((chance.randrange(128), chance.randrange(0x3000)))) + text[at + 1 :]
        else:
            lines = text.split("\n")
            chance.shuffle(lines[: chance.randint(0, len(lines))])
            del lines[chance.randrange(len(lines))]
            text = "\n".join(lines)
    return text[:200_000]


def tried(target: str, text: str) -> str:
    """Tries one input; returns the words it was refused with, or nothing where it was read. Raises whatever else comes."""
    try:
        TARGETS[target](text)
    except WaltzmarkError as error:
        return str(error) or "no words"
    return ""
