"""Measures what drafting words costs, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import re
from pathlib import Path

from run import report, seconds
from waltzmark.core.base.records import replace
from waltzmark.core.draft.lexicon import lexicon
from waltzmark.core.draft.pages import chosen, draft_page
from waltzmark.core.form.form import Form, Opening
from waltzmark.core.form.spoken import Page
from waltzmark.core.walk.walk import walk

SENTENCES = re.compile(r'^say = "(.*)"$', re.M)
CORPUS = Path(__file__).parent.parent / "tests" / "draft" / "open.toml"


def page(sentences: int) -> Form:
    """A form of so many sentences of the open corpus."""
    said = [each.replace("\\n", " ") for each in SENTENCES.findall(CORPUS.read_text(encoding="utf-8"))]
    return Form(opening=Opening("hip"), words=Page("\n".join((said * 10)[:sentences])))


if __name__ == "__main__":
    first = page(100)
    trace = walk(first)
    known = seconds(lambda: lexicon.__wrapped__("en"), 3)
    fresh = iter(range(1_000_000))

    def anew() -> None:
        """Drafts a page that was never read."""
        words = first.words or Page("")
        draft_page(replace(first, words=replace(words, text=f"{words.text} {next(fresh)}")), trace)

    drafted = seconds(anew, 5)
    report("a page of 100 sentences drafted / 1 s", drafted, f"{1000 * drafted:.0f} ms / 1 s, aim 1")
    found = draft_page(first, trace)
    row = next(each for each in found.rows if each.made is not None)
    changed = replace(first, words=chosen(found.page, row, None))
    again = seconds(lambda: draft_page(changed, trace), 5)
    report("drafted again after a change / 0.1 s", again / 0.1, f"{1000 * again:.0f} ms / 100 ms, aim 1")
    long = page(1000)
    more = seconds(lambda: draft_page(long, trace), 3)
    report("1,000 sentences drafted again / 100", more / again, f"{more:.2f} s / {again:.3f} s, aim about 10")
    report("a page of 100 sentences drafted / the lexicon read", drafted / known, f"{drafted:.3f} s / {known:.3f} s")
