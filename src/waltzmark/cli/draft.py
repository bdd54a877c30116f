"""The command ``draft``: plain instructions drafted as counts."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, complain, say
from waltzmark.core.draft.drafting import doubt_of, draft
from waltzmark.core.form.form import Form
from waltzmark.core.form.spoken import LANGUAGES
from waltzmark.core.walk.walk import ground_of, walk
from waltzmark.files.drafts import draft_text, draft_values, drafted_form
from waltzmark.files.reading import read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.wordings import read_words
from waltzmark.files.writing import render
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = ["draft_arguments", "run_draft"]


def draft_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = tr("plain instructions drafted as counts, with what was said, given, chosen and doubtful")
    made = commands.add_parser("draft", help=words, description=words)
    made.add_argument("words", metavar="WORDS", type=Path, help=tr("a text, a Markdown file, or captions (.srt, .vtt)"))
    made.add_argument("--language", choices=LANGUAGES, default="en", help=tr("the language of the words (default: en)"))
    made.add_argument("--after", metavar="FORM.waltz", help=tr("begin where this form ends, with its school and body"))
    made.add_argument("-o", dest="out", type=Path, metavar="OUT.waltz", help=tr("file to write the draft to"))
    made.add_argument("--json", action="store_true", help=tr("print one JSON object"))


def run_draft(options: argparse.Namespace) -> int:
    """Runs ``draft``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read_file(options.after).form if options.after else Form()
    text = read_words(options.words).text
    if (doubt := doubt_of(text, options.language)) is not None:
        complain(sentence(doubt))
    found = draft(text, walk(form).passages[-1].exit, ground_of(form), options.language, fresh=not form.postures)
    if options.out is not None:
        save_atomically(options.out, render(drafted_form(found, form)))
    return say(as_json(draft_values(found)) if options.json else draft_text(found, text), 0)
