"""The language that is set: translations through gettext, and numbers, lists and dates through Babel.

Source strings are whole English sentences with named fields. `N_` marks one that is translated later, where it is said.
"""

from __future__ import annotations

import gettext
import os
from collections.abc import Iterable
from datetime import date, datetime
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from babel import Locale

__all__ = [
    "N_",
    "as_written",
    "day",
    "language",
    "languages",
    "listed",
    "moment",
    "month",
    "ntr",
    "number",
    "own_name",
    "percent",
    "pick",
    "plural",
    "ptr",
    "quoted",
    "set_language",
    "shipped",
    "tr",
    "weekday",
]

#: Where the catalogues are: ``catalogues/es/LC_MESSAGES/waltzmark.mo``.
CATALOGUES = Path(__file__).parent / "catalogues"
_DOMAIN = "waltzmark"
_ENGLISH = "en"
_BRITISH = "en_GB"
_NO_LANGUAGE = {"C", "POSIX", ""}
#: Where numbers are written as in English; that is known without Babel, which a start need not wait for.
_LIKE_ENGLISH = {"en_US", "en_GB", "en_CA", "en_AU", "en_NZ", "en_IE"}

_catalogue: gettext.NullTranslations = gettext.NullTranslations()
_language = _ENGLISH
_numbers = _ENGLISH
_dates = _ENGLISH


def as_written() -> bool:
    """Whether texts are shown as they stand in the sources."""
    return type(_catalogue) is gettext.NullTranslations


def N_(text: str) -> str:  # as gettext calls it everywhere
    """Marks a text for translation, and leaves it as it is."""
    return text


def _wanted(variables: Iterable[str]) -> list[str]:
    """The languages the environment asks for, the dearest first; none where it asks for none."""
    for name in variables:
        value = os.environ.get(name, "")
        if value:
            return [each.partition(".")[0].partition("@")[0] for each in value.split(":")]
    return []


def pick(chosen: str | None = None) -> str:
    """Sets the language that was chosen, else the first of the desktop's that there is a catalogue of, else English.

    Returns it. Numbers are written as the desktop's locale has it, unless a language was chosen.
    """
    asked = [chosen] if chosen else _wanted(("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG"))
    found = next((each for each in asked if _catalogue_of(each) or each.startswith(_ENGLISH)), _ENGLISH)
    found = _ENGLISH if found.startswith(_ENGLISH) else found  # there is one English here
    numbers, dates = (
        chosen or next(iter(_wanted(("LC_ALL", kind, "LANG"))), found) for kind in ("LC_NUMERIC", "LC_TIME")
    )
    set_language(found, numbers=numbers, dates=dates)
    return found


def set_language(
    name: str, catalogue: gettext.NullTranslations | None = None, numbers: str | None = None, dates: str | None = None
) -> None:
    """Sets the language by its name, such as ``es`` or ``es_CO``, with a catalogue of its own where one is given.

    numbers, dates: the locales they are written by; dates only by one of that language.
    """
    global _catalogue, _language, _numbers, _dates
    _dates = dates if dates is not None and dates.startswith(f"{name}_") else name
    _catalogue = catalogue or _catalogue_of(name) or gettext.NullTranslations()
    _language = name
    _numbers = _known(numbers or name) or _known(name) or _ENGLISH
    for cached in (number, percent, _locale):
        cached.cache_clear()


def languages() -> list[str]:
    """The languages that can be chosen: English, and each that there is a catalogue of."""
    folder = Path(str(CATALOGUES))
    return [_ENGLISH, *sorted(found.parent.parent.name for found in folder.glob(f"*/LC_MESSAGES/{_DOMAIN}.mo"))]


def own_name(name: str) -> str:
    """What a language is called by those who speak it.

    >>> own_name("es")
    'Español'
    """
    if name == _ENGLISH:
        return "English"
    from babel import Locale

    said = Locale.parse(name).get_display_name(name) or name
    return said[:1].upper() + said[1:]


def language() -> str:
    """The language that is set."""
    return _language


def _catalogue_of(name: str) -> gettext.NullTranslations | None:
    if name.startswith(_ENGLISH) or name in _NO_LANGUAGE:
        return None
    try:
        return gettext.translation(_DOMAIN, str(CATALOGUES), [name])
    except OSError:
        return None


def _known(name: str) -> str | None:
    """A locale's name where Babel knows it."""
    if name in _NO_LANGUAGE:
        return None
    if name == _ENGLISH or name in _LIKE_ENGLISH:
        return _ENGLISH
    from babel import Locale, UnknownLocaleError

    try:
        return str(Locale.parse(name))
    except (UnknownLocaleError, ValueError):
        return None


@lru_cache(maxsize=4)
def _locale(name: str) -> Locale:
    from babel import Locale

    return Locale.parse(name)


def tr(text: str, /, **fields: Any) -> str:
    """A text in the language that is set, its fields filled in."""
    said = _catalogue.gettext(text)
    return said.format(**fields) if fields else said


def shipped(text: str) -> str:
    """A text of a file that ships, such as a school's reason for a rule; what somebody wrote is in no catalogue, and
    stays as it is."""
    return _catalogue.gettext(text) if text else ""


def ptr(context: str, text: str, /, **fields: Any) -> str:
    """A text that means different things in different places, with what tells them apart."""
    said = _catalogue.pgettext(context, text)
    return said.format(**fields) if fields else said


def ntr(one: str, many: str, n: float, /, **fields: Any) -> str:
    """A text about a number of things; ``{n}`` is the number."""
    return plural(one, many, n).format(n=number(n), **fields)


def plural(one: str, many: str, n: float) -> str:
    """The text for a number of things, its fields not yet filled in."""
    whole = int(n) if n == int(n) else 2  # what is not whole is many
    return _catalogue.ngettext(one, many, whole)


@lru_cache(maxsize=4096)
def number(value: float, decimals: int | None = None) -> str:
    """A number: with so many decimals, or as many as it needs, up to two.

    >>> number(3), number(2.5), number(1.0, 2), number(-0.001, 1)
    ('3', '2.5', '1.00', '0.0')
    """
    places = "0.##" if decimals is None else ("0." + "0" * decimals).rstrip(".")
    rounded = round(value, 2 if decimals is None else decimals) + 0.0
    if _numbers == _ENGLISH:  # as Babel does, without asking it
        text = f"{rounded:.{2 if decimals is None else decimals}f}"
        return text.rstrip("0").rstrip(".") if decimals is None else text
    from babel.numbers import format_decimal

    return format_decimal(rounded, format=places, locale=_locale(_numbers))


@lru_cache(maxsize=1024)
def percent(value: float, decimals: int = 0) -> str:
    """So many per cent.

    >>> percent(64.2), percent(12.5, 1)
    ('64%', '12.5%')
    """
    if _numbers == _ENGLISH:
        return f"{round(value, decimals) + 0.0:.{decimals}f}%"
    from babel.numbers import format_percent

    pattern = _locale(_numbers).percent_formats[None].pattern
    ending = pattern[pattern.rindex("0") + 1 :]
    return format_percent(value / 100.0, "0" + ("." + "0" * decimals if decimals else "") + ending, _locale(_numbers))


def listed(items: Iterable[str], style: str = "standard") -> str:
    """Several things, with “and”, or with “or” where the style is ``or``.

    >>> listed(["a", "b", "c"]), listed(["a", "b"], "or")
    ('a, b, and c', 'a or b')
    """
    given = list(items)
    if len(given) < 2:
        return "".join(given)
    if _language == _ENGLISH and style in ("standard", "or"):  # as Babel does, which a start need not wait for
        last = "or" if style == "or" else "and"
        return f"{', '.join(given[:-1])}{',' if len(given) > 2 else ''} {last} {given[-1]}"
    from babel.lists import format_list

    locale = _locale(_language if _known(_language) else _ENGLISH)
    try:
        return format_list(given, style=style, locale=locale)  # type: ignore[arg-type]
    except KeyError:  # some languages have a style in part only: parts of a measure stand one after the other then
        return ", ".join(given)


def _dated() -> Locale:
    """The locale by which dates are written; in an English that is of no country, as the British do."""
    from babel import Locale, UnknownLocaleError

    try:
        return Locale.parse(_BRITISH if _dates == _ENGLISH else _dates)
    except (UnknownLocaleError, ValueError):
        return _locale(_known(_language) or _ENGLISH)


def day(when: date) -> str:
    """A date, such as “28 Nov 2026”."""
    from babel.dates import format_date

    return format_date(when, "medium", locale=_dated())


def weekday(when: date) -> str:
    """A date with the day of its week, such as “Saturday, 28 November 2026”."""
    from babel.dates import format_date

    return format_date(when, "full", locale=_dated())


def month(when: date) -> str:
    """The month of a date, short, such as “Nov”."""
    from babel.dates import format_date

    return format_date(when, "LLL", locale=_dated())


def moment(when: datetime) -> str:
    """A date and a time of day."""
    from babel.dates import format_datetime

    return format_datetime(when, "medium", locale=_dated())


def quoted(text: str) -> str:
    """A name as it stands within a sentence.

    >>> quoted("First crossing")
    '“First crossing”'
    """
    return ptr("a name that is quoted", "“{text}”", text=text)
