"""Measures how pairs are found and forms compared, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

from made_form import made_form, made_text
from run import plain_loop, report, seconds
from waltzmark.core.sides.forms import compare_forms
from waltzmark.core.sides.pairs import declared_pairs, proposed_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import read_document


def pairs() -> None:
    """A form of 100 postures of eight counts in which every one resembles many others: the worst there is."""
    form = read_document(made_text(800, 8)).form
    trace = walk(form)
    declared_pairs(form, trace)
    taken = seconds(lambda: proposed_pairs(form, trace), 3)
    loop = seconds(lambda: plain_loop(trace), 5)
    report("pairs among 100 postures / 1 s", taken, f"{taken:.2f} s, aim at most 1")
    report("pairs among 100 postures / a plain loop", taken / loop, f"{taken:.2f} s / {loop:.3f} s")
    longer = made_form(1400)
    walked = walk(longer)
    twice = seconds(lambda: proposed_pairs(longer, walked), 1)
    report("pairs among 100 postures of 14 counts / of 8", twice / taken, f"{twice:.2f} s / {taken:.2f} s")
    other = seconds(lambda: compare_forms(form, form), 3)
    report("two forms of 100 postures compared / 1 s", other, f"{other:.2f} s, aim at most 1")


if __name__ == "__main__":
    pairs()
