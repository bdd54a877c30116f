"""Frozen dataclasses that are quick to make.

A dataclass compiles six methods the moment it is made, and nearly a hundred are made before the window is first seen: a
twelfth of the start. Three of the six need no compiling: a getter of the fields compares and hashes as quickly.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, fields
from operator import attrgetter
from typing import Any, TypeVar, dataclass_transform, overload

__all__ = ["record"]

T = TypeVar("T")


@overload
def record(cls: type[T], /) -> type[T]: ...


@overload
def record(*, slots: bool = False) -> Callable[[type[T]], type[T]]: ...


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def record(cls: type[T] | None = None, /, *, slots: bool = False) -> type[T] | Callable[[type[T]], type[T]]:
    """``dataclass(frozen=True)``, quicker to make; it compares, hashes and shows itself as that does."""

    def made(plain: type[T]) -> type[T]:
        own = {name for name in ("__eq__", "__hash__", "__repr__") if name not in plain.__dict__}
        whole = dataclass(frozen=True, eq=False, repr=False, slots=slots)(plain)
        for name, method in _methods(whole).items():
            if name in own:
                setattr(whole, name, method)
        return whole

    return made if cls is None else made(cls)


def _methods(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    """What a dataclass would compile, over the same fields."""
    listed = fields(whole)
    compared = _getter([f.name for f in listed if f.compare])
    hashed = _getter([f.name for f in listed if (f.compare if f.hash is None else f.hash)])
    shown = [f.name for f in listed if f.repr]

    def equal(self: Any, other: object) -> bool:
        return compared(self) == compared(other) if other.__class__ is self.__class__ else NotImplemented

    def hashing(self: Any) -> int:
        return hash(hashed(self))

    def showing(self: Any) -> str:
        return f"{self.__class__.__qualname__}({', '.join(f'{name}={getattr(self, name)!r}' for name in shown)})"

    return {"__eq__": equal, "__hash__": hashing, "__repr__": showing}


def _getter(names: list[str]) -> Callable[[Any], Any]:
    """The values of fields: a tuple of several, one by itself."""
    return attrgetter(*names) if names else lambda _: ()
