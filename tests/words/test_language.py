"""Numbers, lists and the choice of a language: what is done without Babel is what Babel does."""

from __future__ import annotations

from datetime import date

import pytest
from babel.dates import format_date
from babel.lists import format_list
from babel.numbers import format_decimal, format_percent
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.words import language


@given(st.lists(st.text("abc", min_size=1), max_size=6), st.sampled_from(["standard", "or"]))
def test_lists_are_babel_s(items: list[str], style: str) -> None:
    assert language.listed(items, style) == format_list(items, style=style, locale="en")  # type: ignore[arg-type]


@given(st.integers(-9999, 9999), st.sampled_from([0, 1, 2]))
def test_numbers_and_shares_are_babel_s(whole: int, decimals: int) -> None:
    value = whole / 10**decimals  # which needs no rounding, of which there are two kinds
    pattern = "0" if decimals == 0 else "0." + "0" * decimals
    assert language.number(value, decimals) == format_decimal(value + 0.0, pattern, locale="en")
    assert language.percent(float(whole)) == format_percent(whole / 100.0, "0%", locale="en")


def test_numbers_follow_the_desktop_and_words_the_catalogues(monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LC_NUMERIC", "LANG"):
        monkeypatch.delenv(name, raising=False)
    try:
        for asked, point in (("de_DE.UTF-8", ","), ("en_US.UTF-8", "."), ("C", "."), ("nobody_NO", ".")):
            monkeypatch.setenv("LANG", asked)
            assert language.pick() == "en"  # there is no catalogue of these
            assert language.number(2.5) == f"2{point}5" and language.percent(12.5, 1).startswith(f"12{point}5")
        assert language.pick("en") == "en" and language.number(2.5) == "2.5"
    finally:
        language.set_language("en")


def test_there_is_english_and_every_language_has_a_name() -> None:
    assert language.languages()[0] == "en"
    assert all(language.own_name(name) for name in language.languages())


@pytest.mark.parametrize(
    ("wanted", "chosen", "locale"),
    [
        ("C", None, "en_GB"),
        ("en_US.UTF-8", None, "en_US"),
        ("en_GB.UTF-8", None, "en_GB"),
        ("es_CO.UTF-8", None, "es_CO"),
        ("fr_FR.UTF-8", None, "en_GB"),
        ("en_US.UTF-8", "es", "es"),
        ("de_DE.UTF-8", "es", "es"),
    ],
)
def test_dates_are_those_of_the_region_in_the_language_that_is_read(
    wanted: str, chosen: str | None, locale: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LC_TIME", "LC_NUMERIC"):
        monkeypatch.delenv(name, raising=False)
    monkeypatch.setenv("LANG", wanted)
    try:
        language.pick(chosen)
        when = date(2026, 11, 28)
        assert language.day(when) == format_date(when, "medium", locale=locale)
        assert language.weekday(when) == format_date(when, "full", locale=locale)
    finally:
        language.set_language("en")
