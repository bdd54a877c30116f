"""Frozen dataclasses that are quick to make.

A dataclass compiles six methods the moment it is made, and nearly a hundred are made before the window is first seen: a
tenth of the start. Here none is compiled: a getter of the fields compares and hashes as quickly, what cannot be changed
is refused in the same words by two functions that all share, and how an object begins is compiled only when so many
are made that it pays.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import MISSING, FrozenInstanceError, dataclass, field, fields
from operator import attrgetter
from typing import Any, TypeVar, dataclass_transform, overload

__all__ = ["record"]

T = TypeVar("T")
#: So many objects begin field by field; compiling takes as long as some twenty of them.
_PLAINLY = 8


@overload
def record(cls: type[T], /) -> type[T]: ...


@overload
def record(*, slots: bool = False, eq: bool = True) -> Callable[[type[T]], type[T]]: ...


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def record(
    cls: type[T] | None = None, /, *, slots: bool = False, eq: bool = True
) -> type[T] | Callable[[type[T]], type[T]]:
    """``dataclass(frozen=True)``, quicker to make; it compares, hashes and shows itself as that does. Fields are given
    by place or by name; none are by name alone."""

    def made(plain: type[T]) -> type[T]:
        own = set(plain.__dict__)
        plain.__doc__ = plain.__doc__ or plain.__name__  # else a dataclass looks for one, and brings a tokenizer for it
        whole = dataclass(init=False, eq=False, repr=False, slots=slots)(plain)
        methods = {**_beginning(whole), **_frozen(whole), **_showing(whole)}
        if eq:
            methods |= _comparing(whole)
        methods |= _keeping(whole) if slots else _handing(whole)
        for name, method in methods.items():
            if name not in own:
                setattr(whole, name, method)
        return whole

    return made if cls is None else made(cls)


def _beginning(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    """The first objects begin field by field; then how they do is compiled."""
    left = _PLAINLY

    def begin(self: Any, *values: Any, **named: Any) -> None:
        nonlocal left
        left -= 1
        if left >= 0 and _begun(self, whole, values, named):
            return
        compiled = _compiled(whole)  # it also knows what to say where values are missing or too many
        whole.__init__ = compiled  # in its own place, for all that come after
        compiled(self, *values, **named)

    return {"__init__": begin}


def _begun(self: Any, whole: type[Any], values: tuple[Any, ...], named: dict[str, Any]) -> bool:
    """Sets every field; False where the values are not those of the fields."""
    listed = fields(whole)
    names = [f.name for f in listed if f.init]
    given = {**dict(zip(names, values, strict=False)), **named}
    if len(given) != len(values) + len(named):
        return False
    for f in listed:
        if f.name in given and f.init:
            value = given.pop(f.name)
        elif f.default_factory is not MISSING:
            value = f.default_factory()
        elif f.default is not MISSING:
            value = f.default
        elif f.init:
            return False
        else:
            continue  # it is set in __post_init__
        object.__setattr__(self, f.name, value)
    if given:
        return False
    if hasattr(whole, "__post_init__"):
        self.__post_init__()
    return True


def _compiled(whole: type[Any]) -> Callable[..., None]:
    """The beginning that a dataclass would have compiled: every field set past what is frozen."""
    known: dict[str, Any] = {"_set": object.__setattr__, "_none": MISSING}
    given, lines = ["self"], []
    for f in fields(whole):
        made, plain = f.default_factory is not MISSING, f.default is not MISSING
        known[f"_{f.name}"] = f.default_factory if made else f.default
        default = f"_{f.name}()" if made else f"_{f.name}"
        if f.init:
            given.append(f"{f.name}=_none" if made else f"{f.name}=_{f.name}" if plain else f.name)
            value = f"{default} if {f.name} is _none else {f.name}" if made else f.name
        elif made or plain:
            value = default
        else:
            continue  # it is set in __post_init__
        lines.append(f" _set(self, {f.name!r}, {value})\n")
    if hasattr(whole, "__post_init__"):
        lines.append(" self.__post_init__()\n")
    exec(f"def __init__({', '.join(given)}):\n{''.join(lines) or ' pass'}", known)
    compiled: Callable[..., None] = known["__init__"]
    compiled.__qualname__ = f"{whole.__qualname__}.__init__"
    return compiled


def _frozen(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    """Nothing is set or taken away once an object has begun; a class made of this one may have more of its own."""
    names = frozenset(f.name for f in fields(whole))

    def refuse_set(self: Any, name: str, value: object) -> None:
        if type(self) is whole or name in names:
            raise FrozenInstanceError(f"cannot assign to field {name!r}")
        super(whole, self).__setattr__(name, value)

    def refuse_delete(self: Any, name: str) -> None:
        if type(self) is whole or name in names:
            raise FrozenInstanceError(f"cannot delete field {name!r}")
        super(whole, self).__delattr__(name)

    return {"__setattr__": refuse_set, "__delattr__": refuse_delete}


def _showing(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    shown = [f.name for f in fields(whole) if f.repr]

    def showing(self: Any) -> str:
        return f"{self.__class__.__qualname__}({', '.join(f'{name}={getattr(self, name)!r}' for name in shown)})"

    return {"__repr__": showing}


def _comparing(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    listed = fields(whole)
    compared = _getter([f.name for f in listed if f.compare])
    hashed = _getter([f.name for f in listed if (f.compare if f.hash is None else f.hash)])

    def equal(self: Any, other: object) -> bool:
        return compared(self) == compared(other) if other.__class__ is self.__class__ else NotImplemented

    def hashing(self: Any) -> int:
        return hash(hashed(self))

    return {"__eq__": equal, "__hash__": hashing}


def _keeping(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    """How an object without a dictionary is copied and handed to another process, past what is frozen."""
    names = [f.name for f in fields(whole)]

    def keep(self: Any) -> list[Any]:
        return [getattr(self, name) for name in names]

    def kept(self: Any, state: list[Any]) -> None:
        for name, value in zip(names, state, strict=True):
            object.__setattr__(self, name, value)

    return {"__getstate__": keep, "__setstate__": kept}


def _handing(whole: type[Any]) -> dict[str, Callable[..., Any]]:
    """What an object with a dictionary hands to another process: its fields, and not what has been found out about it,
    to which another thread may be adding just then."""
    names = [f.name for f in fields(whole)]

    def hand(self: Any) -> dict[str, Any]:
        own = self.__dict__
        return {name: own[name] for name in names if name in own}

    return {"__getstate__": hand}


def _getter(names: list[str]) -> Callable[[Any], Any]:
    """The values of fields: a tuple of several, one by itself."""
    return attrgetter(*names) if names else lambda _: ()
