"""Errors that say where, what and what to do."""

from __future__ import annotations

from dataclasses import dataclass, field

from waltzmark.core.base.records import record

__all__ = ["FormError", "Position", "ScoreError", "WaltzmarkError", "shown"]


class WaltzmarkError(Exception):
    """Anything the user can mend; its text is shown to them as it stands."""


@record
class Position:
    """Where something stands in what was read: a file's line and column, both from 1, or a key."""

    line: int | None = None
    column: int | None = None
    key: str | None = None

    def __str__(self) -> str:
        words = [self.key] if self.key else []
        if self.line is not None:
            words.append(f"line {self.line}")
        if self.column is not None:
            words.append(f"column {self.column}")
        return ", ".join(words)


@dataclass(eq=False)
class ScoreError(WaltzmarkError):
    """A word of score text that cannot be read.

    line, column: where the word begins, from 1; length: how many characters it has.
    expected: what could stand there, in words; suggestion: the likeliest of them, or None.
    """

    problem: str
    line: int
    column: int
    length: int
    expected: tuple[str, ...] = field(default=())
    suggestion: str | None = None

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.advice}"

    @property
    def advice(self) -> str:
        """The problem and its remedy, without the place."""
        text = self.problem
        if self.suggestion:
            text += f"; did you mean {self.suggestion}?"
        elif self.expected:
            text += f"; expected {_listed(self.expected)}"
        return text


class FormError(WaltzmarkError):
    """A form whose parts do not fit together: an unknown reference, a circle of references."""


def shown(value: object, most: int = 40) -> str:
    """A value as it may be quoted in a message: no longer than *most* characters, whatever it is.

    >>> shown("toghether"), shown(10**50), shown(1.5)
    ("'toghether'", 'a whole number of 51 digits', '1.5')
    """
    if isinstance(value, int) and not isinstance(value, bool) and value.bit_length() > 100:
        return f"a whole number of {int(value.bit_length() * 0.30103) + 1} digits"
    if isinstance(value, str):
        return repr(value) if len(value) <= most else repr(value[: most - 1] + "…")
    if isinstance(value, (dict, list)):
        return "a table" if isinstance(value, dict) else "a list"
    text = repr(value)
    return text if len(text) <= most else text[: most - 1] + "…"


def _listed(words: tuple[str, ...]) -> str:
    return words[0] if len(words) == 1 else ", ".join(words[:-1]) + " or " + words[-1]
