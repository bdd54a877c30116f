"""Films and tracks, read back with the library that players use: pictures, sound, captions and chapters in step."""

from __future__ import annotations

import re
import threading
import time
from collections.abc import Iterator
from contextlib import closing
from itertools import pairwise
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from PIL import Image

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import SILENT, StoppedError
from waltzmark.core.base.records import replace
from waltzmark.core.form.film import FILM_SIZES, Film
from waltzmark.core.form.form import Form
from waltzmark.core.practice.timeline import Cue, lay
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.filming import Pictures, make_film
from waltzmark.files import films
from waltzmark.files.filmed import film_plan, sound_of
from waltzmark.files.reading import read_document
from waltzmark.files.sounds import captions_text, mixed, write_track
from waltzmark.files.speech import RATE, length_of, speech
from waltzmark.words.language import language

FORM = """
waltzmark = 1
[form]
title = "Nets <&> floats"
opening = "together"
[[posture]]
id = "open"
name = "Open the shutters"
counts = ["shift R 100, breathe in", "step L 12 side parallel", "shift L 50, breathe out @2"]
[[posture]]
id = "row"
name = "Row & rest"
counts = ["shift R 100", "lift L", "kick L 12 waist heel"]
"""
#: A quick one: what is looked at is when things are, not how they look.
QUICK = Film(show="floor", tempo=0.4, count_in=0.5, voice="postures", waits=True)


@pytest.fixture
def form(qapp: object) -> Form:
    assert qapp is not None
    return read_document(FORM).form


@pytest.fixture
def small(monkeypatch: pytest.MonkeyPatch) -> None:
    """Lets films that are read back have a quarter as many points."""
    monkeypatch.setitem(FILM_SIZES, "720p", (640, 360))


def heard(path: Path) -> Floats:
    """The sound of a film or track, `RATE` samples a second."""
    parts = []
    with av.open(str(path)) as container:
        resampler = av.AudioResampler(format="flt", layout="mono", rate=RATE)
        for frame in container.decode(audio=0):
            parts += [each.to_ndarray()[0] for each in resampler.resample(frame)]
    return np.concatenate(parts).astype(float)


def pictures(path: Path) -> Iterator[tuple[float, Any]]:
    with av.open(str(path)) as container:
        for frame in container.decode(video=0):
            assert frame.pts is not None and frame.time_base is not None
            yield float(frame.pts * frame.time_base), frame.to_ndarray(format="gray")


@pytest.mark.usefixtures("small")
@pytest.mark.parametrize(("name", "frames"), [("a.webm", 25), ("a.mp4", 30)])
def test_a_film_has_its_frames_its_sound_its_words_and_its_chapters(
    name: str, frames: int, form: Form, tmp_path: Path
) -> None:
    film = replace(QUICK, frames=frames)
    made = make_film(form, film, tmp_path / name, "", "", SILENT)
    plan = film_plan(form, walk(form), film)
    shown = list(pictures(made[0]))
    assert abs(len(shown) - plan.length * frames) <= 1.0
    sound = heard(made[0])
    assert abs(len(sound) / RATE - plan.length) < 0.1
    # It moves where a count is walked, and stands still before the first one and after the last.
    moving = [
        t
        for (_, before), (t, after) in pairwise(shown)
        if np.abs(after[:, : after.shape[1] // 2].astype(int) - before[:, : before.shape[1] // 2]).max() > 60
    ]
    first, last = plan.timeline.rows[0][1], plan.timeline.rows[-1][2]
    assert min(moving) >= first - 1e-6 and max(moving) <= last + 1.5 / frames
    assert min(moving) <= first + 3.0 / frames
    with av.open(str(made[0])) as container:
        assert container.metadata["title"] == form.title
        chapters = [(float(c["start"] * (c["time_base"] or 0)), c["metadata"]["title"]) for c in container.chapters()]
        assert [title for _, title in chapters] == ["Open the shutters", "Row & rest"]
        assert chapters[1][0] == pytest.approx(plan.timeline.rows[3][1], abs=0.002)
        words = [
            (float(packet.pts * packet.time_base), bytes(packet).decode())
            for packet in (container.demux(container.streams.subtitles[0]) if container.streams.subtitles else ())
            if packet.size and packet.pts is not None and packet.time_base is not None
        ]
    if name.endswith("mp4"):  # beside it
        text = made[1].read_text(encoding="utf-8")
        assert made[1].name == "a.vtt" and "Row &amp; rest" in text
        begins = [float(m) for m in re.findall(r"00:00:(\d\d\.\d{3}) -->", text)]
    else:
        assert made == (tmp_path / name,)
        begins = [begin for begin, _ in words]
    expected = [0.0, *(begin for _, begin, _ in plan.timeline.rows)]
    assert begins == pytest.approx(expected, abs=0.002)


@pytest.mark.usefixtures("small")
def test_a_tick_sounds_within_a_frame_of_its_counts_first_moving_one(form: Form, tmp_path: Path) -> None:
    film = replace(QUICK, voice="none")
    path = tmp_path / "a.webm"
    make_film(form, film, path, "", "", SILENT)
    sound = np.abs(heard(path))
    plan = film_plan(form, walk(form), film)
    for _, begin, _ in plan.timeline.rows:
        around = sound[round((begin - 0.06) * RATE) : round((begin + 0.06) * RATE)]
        onset = begin - 0.06 + float(np.flatnonzero(around > 0.1)[0]) / RATE
        assert abs(onset - begin) <= 1.0 / film.frames


@pytest.mark.usefixtures("small")
def test_each_moment_has_its_picture_and_what_stands_still_has_one(form: Form) -> None:
    plan = film_plan(form, walk(form), QUICK)
    with closing(Pictures(form, plan)) as pictures:
        drawn = [hash(frame.tobytes()) for frame in pictures.frames(SILENT)]
    assert len(drawn) == plan.frames and len(set(drawn)) > 20 and len(set(drawn[-25:])) == 1


@pytest.mark.parametrize(
    "changes", [{"show": "figure"}, {"show": "both"}, {"view": "mirrored"}, {"dark": True}, {"size": "1080p"}]
)
def test_what_is_chosen_is_seen(changes: dict[str, Any], form: Form) -> None:
    trace = walk(form)
    usual, other = (film_plan(form, trace, replace(QUICK, **made)) for made in ({}, changes))
    images = []
    for plan in (usual, other):
        with closing(Pictures(form, plan)) as pictures:
            images.append(pictures.at(2.0).copy())
    assert images[0] != images[1]
    assert (images[1].width(), images[1].height()) == ((1920, 1080) if "size" in changes else (1280, 720))


class Stops:
    """Lets so much of it be done."""

    def __init__(self, share: float) -> None:
        self.share, self.told = share, [time.monotonic()]

    def tell(self, share: float, _doing: str = "") -> None:
        self.told.append(time.monotonic())
        if share >= self.share:
            raise StoppedError

    def hand_out(self, _so_far: object) -> None: ...


@pytest.mark.usefixtures("small")
@pytest.mark.parametrize("name", ["a.webm", "a.mp4", "a.webp", "a.opus"])
def test_stopping_leaves_nothing_behind_and_an_older_film_as_it_was(name: str, form: Form, tmp_path: Path) -> None:
    (tmp_path / name).write_text("an older one", encoding="utf-8")
    with pytest.raises(StoppedError):
        make_film(form, replace(QUICK, passes=3), tmp_path / name, "", "", Stops(0.0 if "opus" in name else 0.3))
    assert [(each.name, each.read_text(encoding="utf-8")) for each in tmp_path.iterdir()] == [(name, "an older one")]


def test_what_cannot_be_written_is_told(form: Form, tmp_path: Path) -> None:
    (tmp_path / "file").write_text("", encoding="utf-8")
    for place, kind in (
        (tmp_path / "no" / "a.webm", "save.failed"),
        (tmp_path / "file" / "a.opus", "save.failed"),
        (tmp_path / "a.avi", "film.kind"),
    ):
        with pytest.raises(WaltzmarkError) as told:
            make_film(form, QUICK, place, "", "", SILENT)
        assert told.value.message.kind == kind
    for first, last, kind in (("nowhere", "", "sheet.no-posture"), ("row", "open", "film.nothing")):
        with pytest.raises(WaltzmarkError) as told:
            make_film(form, QUICK, tmp_path / "a.webm", first, last, SILENT)
        assert told.value.message.kind == kind
    assert [each.name for each in tmp_path.iterdir()] == ["file"]


@pytest.mark.parametrize("suffix", [".opus", ".flac", ".wav"])
def test_a_track_is_what_was_mixed_with_its_words_beside(suffix: str, form: Form, tmp_path: Path) -> None:
    track, words = make_film(form, QUICK, tmp_path / f"a{suffix}", "", "", SILENT)
    trace = walk(form)
    plan = film_plan(form, trace, QUICK)
    wanted, got = sound_of(plan, trace), heard(track)
    assert wanted is not None and abs(len(got) - len(wanted)) <= 0.05 * RATE
    n = min(len(got), len(wanted))
    assert np.corrcoef(got[:n], wanted[:n])[0, 1] > 0.97
    assert words.name == "a.words.vtt"
    text = words.read_text(encoding="utf-8")
    assert text.startswith("WEBVTT") and "Row &amp; rest" in text and text.count("-->") == len(plan.timeline.cues)


@pytest.mark.usefixtures("small")
def test_a_page_has_pictures_that_move(form: Form, tmp_path: Path) -> None:
    (made,) = make_film(form, QUICK, tmp_path / "a.webp", "", "", SILENT)
    plan = film_plan(form, walk(form), replace(QUICK, voice="none"))
    with Image.open(made) as moving:
        assert moving.format == "WEBP" and moving.width == 640
        shown = moving.n_frames  # type: ignore[attr-defined]
        assert 6 < shown <= plan.frames / 5 + 1  # what stands still is shown longer


# Sound.


def test_what_is_mixed_is_each_sound_at_its_time_and_never_louder_than_full_scale() -> None:
    timeline = lay([(0, 1.0), (1, 1.0)], {0: ("left foot to nine",)}, length_of, 2.0)
    plain = mixed(timeline, [True, False], [None, None], ticking=False)
    (cue,) = timeline.cues
    spoken = speech(cue.text, "en", cue.speed)
    stop = int(timeline.rows[0][1] * RATE)  # its last sample lies before the movement begins
    assert np.allclose(plain[stop - len(spoken) : stop], spoken, atol=1e-6)
    assert np.abs(plain[stop:]).max() == 0.0 and np.abs(plain[: stop - len(spoken)]).max() == 0.0
    # Many at once are softened alike.
    loud = timeline._replace(cues=tuple(Cue(0, cue.text, 1.0, cue.begin, cue.end) for _ in range(30)))
    for made in (plain, mixed(loud, [True, False], [True, False], breathing=True)):
        assert np.abs(made).max() <= 1.0
    both = mixed(timeline, [True, False], [True, False], breathing=True)
    assert np.abs(both - plain)[: round(1.99 * RATE)].max() == 0.0  # ticks and breath come with the movement


def test_speech_takes_its_time_and_less_of_it_when_it_is_quicker() -> None:
    text = "turn the left foot out, to half past ten"
    lengths = [length_of(text, speed) for speed in (0.8, 1.0, 1.2, 1.3)]
    assert lengths == sorted(lengths, reverse=True) and 1.0 < lengths[1] < 6.0
    samples = speech(text)
    assert len(samples) / RATE == pytest.approx(lengths[1], abs=0.005) and 0.05 < np.abs(samples).max() <= 1.0
    assert not samples.flags.writeable
    assert len(speech("")) == 0 and length_of("…", 1.0) < 1.0
    # Each language in its own voice, to within a buffer of the engine; what nobody speaks is spoken in English.
    told = {name: len(speech("nueve y cuarto", name)) for name in ("en", "es", "es_CO", "es_ES", "xx_YY")}
    assert abs(told["es"] - told["es_ES"]) < 0.02 * RATE and abs(told["en"] - told["xx_YY"]) < 0.02 * RATE
    assert len({round(told[name] / (0.02 * RATE)) for name in ("en", "es", "es_CO")}) == 3 and language() == "en"


def test_captions_are_plain_text_whatever_is_in_them(tmp_path: Path) -> None:
    text = captions_text([Cue(0, "a --> b <i>&\nc", 1.0, 3661.5, 3662.0)])
    assert "01:01:01.500 --> 01:01:02.000" in text and text.count("-->") == 1 and "<i>" not in text
    with pytest.raises(WaltzmarkError):
        write_track(tmp_path / "a.mp3", np.zeros(10), "", ())


class _Breaks:
    """A container and an encoder that breaks at a picture, or at what comes after the last one."""

    def __init__(self, at: int) -> None:
        self.at, self.seen = at, 0

    def encode(self, picture: object) -> None:
        self.seen += 1
        if self.seen > self.at:
            raise OSError("full")

    def mux(self, packets: object) -> None: ...


@pytest.mark.parametrize("at", [0, 3, 30])
def test_what_breaks_in_the_encoder_is_told_and_nothing_waits_for_it(at: int) -> None:
    broken = _Breaks(at)
    with pytest.raises(OSError, match="full"):
        films._encode(av, broken, broken, (np.zeros((16, 16, 4), np.uint8) for _ in range(30)), 25)
    assert broken.seen == at + 1 and not [each for each in threading.enumerate() if each.name == "waltzmark film"]


@pytest.mark.parametrize("ends", [KeyboardInterrupt, StoppedError])
def test_whoever_ends_it_waits_for_nothing_that_is_still_to_be_encoded(ends: type[BaseException]) -> None:
    slow = _Breaks(1000)
    begun = threading.Event()

    def encode(_: object) -> None:
        slow.seen += 1
        begun.set()
        time.sleep(0.05)

    def frames() -> Iterator[np.ndarray]:
        for at in range(20):
            if at == 5:
                assert begun.wait(10.0)
                raise ends
            yield np.zeros((16, 16, 4), np.uint8)

    slow.encode = encode  # type: ignore[method-assign, assignment]
    with pytest.raises(ends):
        films._encode(av, slow, slow, frames(), 25)
    assert slow.seen < 5 and not [each for each in threading.enumerate() if each.name == "waltzmark film"]
