"""What goes wrong where Qt calls Python is told, and never ends the program.

On Python 3.11 an exception that C code raises (an index out of range, a division by zero) ends the program when it
leaves a function that Qt has called: the binding takes it before Python has made an object of it. Python makes one
wherever an exception is caught. So every class of ours that overrides something of Qt's is `guarded`, and every
function that a signal or a timer calls goes through `safely`; a test looks that none is forgotten.
"""

from __future__ import annotations

import functools
import inspect
import sys
from collections.abc import Callable
from types import FunctionType, MethodType
from typing import Any, TypeVar

__all__ = ["guarded", "overrides", "safely"]

C = TypeVar("C", bound=type)
F = TypeVar("F")
_NOTHING: Any = object()
#: Under this name a function keeps its guarded form, so that what has been connected can be disconnected.
_KEPT = "guarded"


def _of_qt(cls: type) -> bool:
    return cls.__module__.split(".")[0] in ("PySide6", "shiboken6", "Shiboken")


def overrides(cls: type) -> dict[str, FunctionType]:
    """The functions of a class itself that Qt may call: those that stand in for some of its own."""
    bases = [base for base in cls.__mro__[1:] if _of_qt(base)]
    return {
        name: value
        for name, value in vars(cls).items()
        if isinstance(value, FunctionType) and not name.startswith("__") and any(hasattr(base, name) for base in bases)
    }


def guarded(cls: C) -> C:
    """The class with what Qt calls of it guarded: what goes wrong in it is told, and Qt goes on as if it had not been
    called."""
    for name, function in overrides(cls).items():
        setattr(cls, name, _override(function))
    return cls


def _override(function: FunctionType) -> Callable[..., Any]:
    @functools.wraps(function)
    def run(*args: Any, **more: Any) -> Any:
        try:
            return function(*args, **more)
        except Exception:
            sys.excepthook(*sys.exc_info())
            return None

    run.__dict__["guards"] = function
    return run


def safely(function: F) -> F:
    """The same function for a signal or a timer to call: what goes wrong in it is told. Functions of Qt's own, and
    signals, are given back as they are.

    Qt gives a function as many values as it takes, and keeps nobody alive whose method it calls; both stays so.
    """
    if isinstance(function, MethodType) and isinstance(function.__func__, FunctionType):
        return MethodType(_shim(function.__func__), function.__self__)  # type: ignore[return-value]
    if isinstance(function, FunctionType):
        return _shim(function)  # type: ignore[return-value]
    if isinstance(function, functools.partial):
        return _counted(function, -1)  # type: ignore[return-value]
    return function


def _shim(function: FunctionType) -> FunctionType:
    known: FunctionType | None = function.__dict__.get(_KEPT)
    if known is None:
        code = function.__code__
        many = bool(code.co_flags & inspect.CO_VARARGS)
        known = function.__dict__[_KEPT] = _counted(function, -1 if many else code.co_argcount)
    return known


def _counted(function: Callable[..., Any], number: int) -> FunctionType:
    """A guarded function that takes so many values, or any number where that is below 0; values that are not given are
    not passed on."""

    def call(*values: Any) -> Any:
        try:
            return function(*(value for value in values if value is not _NOTHING))
        except Exception:
            sys.excepthook(*sys.exc_info())
            return None

    def none() -> Any:
        return call()

    def one(a: Any = _NOTHING) -> Any:
        return call(a)

    def two(a: Any = _NOTHING, b: Any = _NOTHING) -> Any:
        return call(a, b)

    def three(a: Any = _NOTHING, b: Any = _NOTHING, c: Any = _NOTHING) -> Any:
        return call(a, b, c)

    def four(a: Any = _NOTHING, b: Any = _NOTHING, c: Any = _NOTHING, d: Any = _NOTHING) -> Any:
        return call(a, b, c, d)

    made = (none, one, two, three, four)
    chosen = made[number] if 0 <= number < len(made) else call
    # Qt's binding looks at what a receiver has under the name of the function.
    chosen.__name__ = chosen.__qualname__ = getattr(function, "__name__", "called")
    return chosen  # type: ignore[return-value]
