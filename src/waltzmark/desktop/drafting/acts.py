"""What can be done in the Words stage, by menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.desktop.actions import LINE, Act, ByMenu, Switch
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.drafting.stage import WordsStage

__all__ = ["WORDS_ACTS"]

WORDS_ACTS: ByMenu[WordsStage] = (
    (
        tr("&File"),
        (
            Act("open words", tr("Open &words …"), lambda stage: stage.open_words(), ("Ctrl+Shift+O",), goes=True),
            Act("sample lesson", tr("Try the sample &lesson"), lambda stage: stage.try_sample(), goes=True),
            Act("sample talk", tr("Try the sample capt&ions"), lambda stage: stage.try_sample("srt"), goes=True),
            Act("import taught", tr("Import ta&ught phrases …"), lambda stage: stage.import_taught()),
            Act("export taught", tr("Save taught &phrases …"), lambda stage: stage.export_taught()),
        ),
    ),
    (
        tr("&Edit"),
        (
            Act("to draft", tr("&Go to the draft"), lambda stage: stage.go_to_draft(), ("Ctrl+J",)),
            Act("take row", tr("&Take this count"), lambda stage: stage.take(), ("Ctrl+Return",)),
            Act("take posture", tr("Take the &posture"), lambda stage: stage.take(whole=True), ("Ctrl+Shift+Return",)),
            Act(
                "take sure", tr("Ta&ke up to the next question"), lambda stage: stage.take_sure(), ("Ctrl+Alt+Return",)
            ),
            Act("refuse row", tr("&Refuse this count"), lambda stage: stage.bench.refuse()),
            Act("other reading", tr("&Other reading"), lambda stage: stage.bench.other_reading()),
            Act("change row", tr("&Change this count"), lambda stage: stage.change_count(), ("F2",)),
            Act("note row", tr("Keep the words as a &note"), lambda stage: stage.bench.note()),
            Act("caption beats", tr("&Beats from the captions"), lambda stage: stage.beats(), ("Alt+B",)),
            LINE,
            Act("teach", tr("Teac&h the marked words …"), lambda stage: stage.teach(), ("Ctrl+Shift+T",)),
        ),
    ),
    (
        tr("&Look"),
        (
            Switch(
                "show given",
                tr("What is by con&vention"),
                lambda stage, on: stage.rows.set_given(on),
                ("Alt+G",),
                on=False,
            ),
            Switch(
                "words figure",
                tr("Fi&gure beside the floor"),
                lambda stage, on: stage.show_figure(on),
                ("F9",),
                on=False,
                sign="figure",
            ),
        ),
    ),
)
