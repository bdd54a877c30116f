"""Errors that say where, what and what to do, as messages; `waltzmark.words.errors` makes the sentences."""

from __future__ import annotations

from typing import Any

from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.records import Record

__all__ = ["FormError", "Position", "ScoreError", "WaltzmarkError", "quoted"]


class WaltzmarkError(Exception):
    """Anything the user can mend: a message of a kind, such as ``form.two-ids``, and what its sentence speaks of."""

    def __init__(self, kind: str | Message, /, **fields: Value) -> None:
        self.message = kind if isinstance(kind, Message) else message(kind, **fields)
        super().__init__(self.message)

    def __str__(self) -> str:
        return str(self.message)

    def __reduce__(self) -> tuple[Any, ...]:
        """How it comes back from another process: as it is, without beginning once more."""
        return _again, (type(self), self.__dict__)


def _again(kind: type[WaltzmarkError], values: dict[str, Any]) -> WaltzmarkError:
    error = kind.__new__(kind)
    error.__dict__.update(values)
    return error


class Position(Record):
    """Where something stands in what was read: a file's line and column, both from 1, or a key."""

    line: int | None = None
    column: int | None = None
    key: str | None = None

    def __str__(self) -> str:
        """For whoever looks for a fault: ``room.tape:4:2``."""
        return ":".join(str(each) for each in (self.key, self.line, self.column) if each is not None)


class ScoreError(WaltzmarkError):
    """A word of score text that cannot be read.

    Parameters
    ----------
    problem : Message
        What is wrong with it.
    line, column : int
        Where the word begins, from 1.
    length : int
        How many characters it has.
    expected : tuple of str or Message
        What could stand there: words to type, or what is meant by them.
    suggestion : str or None
        The likeliest word.
    """

    def __init__(
        self,
        problem: Message,
        line: int,
        column: int,
        length: int,
        expected: tuple[Value, ...] = (),
        suggestion: str | None = None,
    ) -> None:
        self.problem, self.line, self.column, self.length = problem, line, column, length
        self.expected, self.suggestion = expected, suggestion
        super().__init__("score.at", line=line, column=column, advice=self.advice)

    @property
    def advice(self) -> Message:
        """The problem and its remedy, without the place."""
        if self.suggestion:
            return message("score.meant", problem=self.problem, suggestion=self.suggestion)
        if self.expected:
            return message("score.expected", problem=self.problem, expected=self.expected)
        return self.problem


class FormError(WaltzmarkError):
    """A form whose parts do not fit together: an unknown reference, a circle of references."""


def quoted(value: object, most: int = 40) -> Message:
    """A value as it may be quoted in a message: no longer than *most* characters, whatever it is.

    >>> quoted("toghether")["text"], quoted(10**50)["n"], quoted(1.5)["text"]
    ('toghether', 51, '1.5')
    """
    if isinstance(value, int) and not isinstance(value, bool) and value.bit_length() > 100:
        return message("value.digits", n=int(value.bit_length() * 0.30103) + 1)
    if isinstance(value, str):
        return message("value.text", text=value if len(value) <= most else value[: most - 1] + "…")
    if isinstance(value, (dict, list)):
        return message("value.table" if isinstance(value, dict) else "value.list")
    text = repr(value)
    return message("value.other", text=text if len(text) <= most else text[: most - 1] + "…")
